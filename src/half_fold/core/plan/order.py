"""Pages in order: page 1 is a recto; adding, removing and moving keep every page whole."""

from collections.abc import Sequence
from itertools import islice

from msgspec.structs import replace

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.ranges import MOST_PAGES
from half_fold.core.publication.records import Page, Publication
from half_fold.core.publication.surgery import fresh_ids


def _fresh(publication: Publication, count: int, master: str) -> tuple[Page, ...]:
    taken = {page.id for page in (*publication.pages, *publication.unplaced)}
    return tuple(Page(id=name, master=master) for name in islice(fresh_ids("p", taken), count))


def pages_told(numbers: Sequence[int]) -> str:
    """Page numbers in order as they are said: ``page 5``, ``pages 4, 6 to 9``."""
    runs: list[list[int]] = []
    for number in numbers:
        if runs and number == runs[-1][-1] + 1:
            runs[-1].append(number)
        else:
            runs.append([number])
    said = [f"{run[0]} to {run[-1]}" if len(run) > 1 else str(run[0]) for run in runs]
    return f"{'page' if len(numbers) == 1 else 'pages'} {', '.join(said)}"


def add_pages(publication: Publication, at: int, count: int) -> Publication:
    """``count`` empty pages before index ``at`` (0 is page 1), on the master of the page before."""
    if not 0 <= at <= len(publication.pages):
        raise Problem(
            f"There is no place {at + 1} in {counted(len(publication.pages), 'page')}; choose one that is there."
        )
    if count < 1 or len(publication.pages) + count > MOST_PAGES:
        raise Problem(f"{count} pages cannot be added; a job has from 1 to {MOST_PAGES} pages.")
    master = publication.pages[max(0, at - 1)].master
    new = _fresh(publication, count, master)
    return replace(publication, pages=publication.pages[:at] + new + publication.pages[at:])


def remove_pages(publication: Publication, indices: Sequence[int]) -> Publication:
    """Without those pages; what lay on them waits as unplaced, nothing is dropped."""
    going = set(indices)
    kept = tuple(page for i, page in enumerate(publication.pages) if i not in going)
    if not kept:
        raise Problem("A job keeps at least one page; leave one.")
    waiting = tuple(page for i, page in enumerate(publication.pages) if i in going and page.blocks)
    return replace(publication, pages=kept, unplaced=publication.unplaced + waiting)


def move_pages(publication: Publication, indices: Sequence[int], to: int) -> Publication:
    """Those pages, in their order, before the page that is now at index ``to``."""
    moving = sorted(set(indices))
    count = len(publication.pages)
    if any(not 0 <= i < count for i in moving) or not 0 <= to <= count:
        raise Problem("Those pages cannot be moved there; choose a place inside the running order.")
    rest = [page for i, page in enumerate(publication.pages) if i not in moving]
    at = to - sum(i < to for i in moving)
    picked = [publication.pages[i] for i in moving]
    pages = tuple(rest[:at] + picked + rest[at:])
    return publication if pages == publication.pages else replace(publication, pages=pages)


def place_again(publication: Publication, page: str, at: int) -> Publication:
    """An unplaced page back into the running order at index ``at``."""
    found = [p for p in publication.unplaced if p.id == page]
    if not found:
        raise Problem("That page no longer waits to be placed.")
    waiting = tuple(p for p in publication.unplaced if p.id != page)
    pages = (*publication.pages[:at], found[0], *publication.pages[at:])
    return replace(publication, pages=pages, unplaced=waiting)


def set_extent(publication: Publication, count: int) -> Publication:
    """That many pages: empty ones added at the end, or the last ones taken off (what lay on them waits)."""
    if not 1 <= count <= MOST_PAGES:
        raise Problem(f"{count} pages cannot be; give a count from 1 to {MOST_PAGES}.")
    have = len(publication.pages)
    if count > have:
        return add_pages(publication, have, count - have)
    return remove_pages(publication, range(count, have)) if count < have else publication


def set_page_master(publication: Publication, indices: Sequence[int], master: str) -> Publication:
    """Those pages on another master."""
    if master and master not in {m.name for m in publication.masters}:
        raise Problem(f"There is no master “{master}” in this job.")
    chosen = set(indices)
    pages = tuple(replace(p, master=master) if i in chosen else p for i, p in enumerate(publication.pages))
    return replace(publication, pages=pages)


def set_runs(publication: Publication, index: int, words: str) -> Publication:
    """What runs on a page, in the user's words."""
    page = replace(publication.pages[index], runs=" ".join(words.split()))
    return replace(publication, pages=(*publication.pages[:index], page, *publication.pages[index + 1 :]))
