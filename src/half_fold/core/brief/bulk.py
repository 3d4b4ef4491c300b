"""Leaves and what they come to in thickness: papers, block and closed copy, as worked numbers."""

import math
from collections.abc import Sequence

from half_fold.core.brief.dummies import speaks
from half_fold.core.brief.papers import find_paper
from half_fold.core.brief.stock import caliper
from half_fold.core.measure.worked import Worked, given, given_length, total
from half_fold.core.publication.records import Insert, Publication

ENDPAPER_LEAVES = 4


def pages(publication: Publication) -> Worked:
    count = len(publication.pages)
    return given(count, "pages", "Pages", key="extent.pages", edits="pages", typed=str(count), how="without the cover")


def leaf_count(publication: Publication) -> Worked:
    """Two pages to a leaf; an odd last page still takes a whole leaf."""
    halves = pages(publication) / given(2, "", "")
    count = Worked(math.ceil(halves.value), "leaves", "", halves.how, halves.parts)
    return count.named("Leaves", "extent.leaves")


def caliper_of(publication: Publication, paper: str) -> Worked:
    """Micrometres of one leaf of that paper: measured where dummies speak, else by the mill's figures."""
    found = speaks(publication, paper)
    return found.worked(paper) if found is not None else caliper(find_paper(publication, paper))


def text_caliper(publication: Publication) -> Worked:
    name = publication.brief.text_paper
    worked = caliper_of(publication, name)
    return Worked(worked.value, "µm", "Text paper", worked.how, (), "paper.text.caliper", "paper.text", name)


def cover_caliper(publication: Publication) -> Worked | None:
    """None for a self-cover job."""
    name = publication.brief.cover_paper
    if name == "none":
        return None
    worked = caliper_of(publication, name)
    return Worked(worked.value, "µm", "Cover paper", worked.how, (), "paper.cover.caliper", "paper.cover", name)


def papers_of_pages(publication: Publication) -> list[str]:
    """The paper of each page: its section's own, else the text paper."""
    text = publication.brief.text_paper
    own = {section.first: section.paper for section in publication.sections}
    papers, now = [], text
    for page in publication.pages:
        if page.id in own:
            now = own[page.id] or text
        papers.append(now)
    return papers


def leaves_by_paper(publication: Publication) -> dict[str, int]:
    """How many text leaves there are of each paper; a leaf is of its recto's paper."""
    if not any(section.paper for section in publication.sections):
        return {publication.brief.text_paper: -(-len(publication.pages) // 2)}
    counts: dict[str, int] = {}
    for paper in papers_of_pages(publication)[::2]:
        counts[paper] = counts.get(paper, 0) + 1
    return counts


def insert_leaves(publication: Publication) -> dict[str, int]:
    """Leaves that inserts add, by paper; a gatefold lies folded and so counts two."""
    counts: dict[str, int] = {}
    for insert in publication.inserts:
        counts[insert.paper] = counts.get(insert.paper, 0) + (2 if insert.kind == "gatefold" else 1)
    return counts


def leaf_width(publication: Publication, insert: Insert) -> float:
    """How wide a leaf is as it prints, in millimetres: of a gatefold the page that is bound and what folds in."""
    return insert.width.mm + (publication.brief.width.mm if insert.kind == "gatefold" else 0.0)


def text_thickness(publication: Publication) -> Worked:
    """The thickness of all text leaves and inserts in millimetres, without a name of its own."""
    counts, inserted = leaves_by_paper(publication), insert_leaves(publication)
    if set(counts) == {publication.brief.text_paper}:
        parts = [text_caliper(publication).to("mm") * leaf_count(publication)]
    else:
        parts = [_of_paper(publication, name, count) for name, count in counts.items()]
    return total([*parts, *(_of_paper(publication, name, count) for name, count in inserted.items())])


def _of_paper(publication: Publication, name: str, count: int) -> Worked:
    thick = caliper_of(publication, name).to("mm").named(name)
    return given(count, "", "") * thick


def endpapers(publication: Publication) -> Worked | None:
    """The thickness of a case's endpapers in millimetres; None where there are none."""
    name = publication.brief.endpapers
    if name == "none":
        return None
    thick = given(ENDPAPER_LEAVES, "", "") * caliper_of(publication, name).to("mm").named("Endpaper")
    return thick.named("Endpapers", "bulk.endpapers")


def swollen(publication: Publication, block: Worked) -> Worked:
    """A sewn block is thicker by what the thread adds."""
    if publication.brief.swell == 1.0:
        return block
    return block * given(publication.brief.swell, "", "Swell", edits="swell", typed=f"{publication.brief.swell:g}")


def board_thickness(publication: Publication) -> Worked:
    """Millimetres of one cover board."""
    return given_length(publication.brief.boards, "Board", key="case.board.thickness", edits="boards")


def those_there(numbers: Sequence[Worked | None]) -> list[Worked]:
    """Those that there are."""
    return [number for number in numbers if number is not None]
