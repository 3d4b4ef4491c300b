"""A photo book drafted: what comes on which spread is planned and said first, then every spread is arranged in turn.

What lies on pages already stays, and its spreads are passed over. All that is made are ordinary blocks.
"""

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from PIL import Image

from half_fold.core.arrange.arrangement import Arrangement
from half_fold.core.arrange.chapters import Chapter, sequence
from half_fold.core.arrange.finding import arranged
from half_fold.core.arrange.fitness import RATINGS
from half_fold.core.arrange.items import items_of
from half_fold.core.arrange.laying import lay_arrangement
from half_fold.core.arrange.rhythm import pictures_by_spread
from half_fold.core.arrange.words import caption_spread, lay_title
from half_fold.core.brief.allowances import picture_ppi
from half_fold.core.brief.bindings import binding_named
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.measure.length import Length, counted
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.pyramid import STEPS, reduced
from half_fold.core.pictures.library.told import Told
from half_fold.core.plan.order import set_extent
from half_fold.core.plan.spreads import Spread, lies_flat, spreads_of
from half_fold.core.publication.ranges import MOST_PAGES
from half_fold.core.publication.records import HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import every_block, is_free, picture_of
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.framing.matching import develop_pictures, solved
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.over_pictures import set_over
from half_fold.core.spread.where.frames import block_box, blocks_on, hull_of, page_frame_of

Progress = Callable[[int, int], object]
LEAST_PAGES = 4
ALIKE = 0.85  # of the fields: as much of the pattern of the spread before is too much
CHOSEN_FROM = 6
VARIETY = 150.0  # per cent: what counts more in a row of spreads than on one
OPENED = 5  # pictures of a chapter, from which on it has an opening spread


class Wishes(Struct, frozen=True):
    """What is asked of a draft: so many ``pages`` (0 for as many as it takes), and how crowded it is to be, per cent.

    ``bleed`` leans from the margins (-100) out to the bleed (100). Chapters have ``openers``, pictures their captions.
    The pictures of a chapter are brought to one another in tone and colour by ``match``, per cent of the way. Where
    there is a ``frame``, what would bleed keeps so far inside the trim.
    """

    pages: int = 0
    pace: float = 50.0
    bleed: float = 0.0
    openers: bool = True
    captions: bool = True
    match: float = 0.0
    frame: Length | None = None


class Planned(Struct, frozen=True):
    """What is to come on a spread: the opening of a chapter, pictures, or nothing."""

    pictures: tuple[Picture, ...] = ()
    title: str = ""

    @property
    def words(self) -> str:
        if self.title:
            return f"“{self.title}” opens"
        return counted(len(self.pictures), "picture") if self.pictures else "blank"


class Plan(Struct, frozen=True):
    """A book as it would be drafted: ``spreads`` in order, how many ``pages``, and what is left out and why.

    ``astray`` is how far the colour of the pictures wanders within a chapter, in L*a*b*: the mean, as they came.
    """

    spreads: tuple[Planned, ...]
    pages: int
    left_out: tuple[tuple[Picture, str], ...]
    chapters: tuple[tuple[str, ...], ...] = ()  # the pictures of each, by id
    astray: float = 0.0
    asked: int = 0  # pages

    @property
    def words(self) -> str:
        """What it comes to, in a sentence or two."""
        openers = sum(bool(each.title) for each in self.spreads)
        blank = sum(not each.pictures and not each.title for each in self.spreads)
        shown = sum(len(each.pictures) for each in self.spreads)
        said = [f"{counted(shown, 'picture')} on {counted(len(self.spreads) - openers - blank, 'spread')}"]
        said += [f"{counted(openers, 'opening spread')}"] if openers else []
        said += [f"{counted(blank, 'blank spread')} to breathe"] if blank else []
        count = f"{self.pages} pages" + (f" ({self.asked} were asked for)" if self.asked not in (0, self.pages) else "")
        return f"{count}: {', '.join(said)}. {self.left_out_words}".strip()

    @property
    def left_out_words(self) -> str:
        """Why how many are left out."""
        if not self.left_out:
            return ""
        why = Counter("nearly the same as another" if "same" in reason else reason for _, reason in self.left_out)
        reasons = ", ".join(f"{count} {reason}" for reason, count in why.most_common())
        return f"{counted(len(self.left_out), 'picture')} left out: {reasons}."


def planned(publication: Publication, told: Mapping[str, Told], wishes: Wishes) -> Plan:
    """What a draft would be. Problem where there is no picture for it, or no such count of pages can be."""
    if wishes.pages and not LEAST_PAGES <= wishes.pages <= MOST_PAGES:
        raise Problem(f"A draft has from {LEAST_PAGES} to {MOST_PAGES} pages; {wishes.pages} is neither.")
    found = sequence(publication.pictures, told, used_pictures(publication), _least_side(publication))
    if not found.chapters:
        raise Problem("There is no picture to draft a book from; bring some in, or see which are said to be left out.")
    opened, chapters = _openings(found.chapters, wishes.openers)
    held, singles = len(_held(publication)), 0 if lies_flat(publication) else 2
    openers = sum(bool(title) for title, _ in opened)
    pairs = max(0, (wishes.pages - singles) // 2 - openers - held) if wishes.pages else 0
    groups = pictures_by_spread(chapters, wishes.pace, pairs)
    spreads: list[Planned] = []
    for (title, hero), chapter, sizes in zip(opened, chapters, groups, strict=True):
        spreads += [Planned((hero,), title)] if title and hero is not None else []
        at = 0
        for size in sizes:
            spreads.append(Planned(chapter.pictures[at : at + size]))
            at += size
    pages = _bindable(publication, 2 * (len(spreads) + held) + singles, wishes.pages)
    blank = max(0, (pages - singles) // 2 - held - len(spreads))
    ids = tuple(tuple(picture.id for picture in chapter.pictures) for chapter in found.chapters)
    return Plan(
        tuple(_with_blanks(spreads, blank)), pages, found.left_out, ids, _astray(found.chapters, told), wishes.pages
    )


def _astray(chapters: Sequence[Chapter], told: Mapping[str, Told]) -> float:
    """How far pictures are from the middle of their chapter, by the mean of what their parts show."""
    off: list[float] = []
    for chapter in chapters:
        parts = [told[p.digest].parts for p in chapter.pictures if p.digest in told and told[p.digest].parts]
        if len(parts) > 1:
            means = np.array([np.reshape(each, (-1, 3)).mean(axis=0) for each in parts])
            off += list(np.linalg.norm(means - np.median(means, axis=0), axis=1))
    return float(np.mean(off)) if off else 0.0


def _least_side(publication: Publication) -> float:
    """Pixels of the longer side that a place of two fields across asks for, at two thirds of what is good."""
    frame = page_frame_of(publication, 1)
    across = frame.columns[min(1, len(frame.columns) - 1)][1] - frame.columns[0][0]
    return across / 72 * picture_ppi(publication)[0] * 2 / 3


def _openings(chapters: Sequence[Chapter], wanted: bool) -> tuple[list[tuple[str, Picture | None]], list[Chapter]]:
    """The title and the picture that each chapter opens with, and what is left of it; a book of one has none."""
    opened: list[tuple[str, Picture | None]] = []
    rest = []
    for chapter in chapters:
        if not wanted or len(chapters) < 2 or len(chapter.pictures) < OPENED:
            opened.append(("", None))
            rest.append(chapter)
            continue
        first_half = range((len(chapter.pictures) + 1) // 2)
        at = max(first_half, key=lambda n: (RATINGS[chapter.pictures[n].worth], -n))
        opened.append((chapter.title, chapter.pictures[at]))
        left = [n for n in range(len(chapter.pictures)) if n != at]
        rest.append(
            replace_chapter(chapter, tuple(chapter.pictures[n] for n in left), tuple(chapter.breaks[n] for n in left))
        )
    return opened, rest


def replace_chapter(chapter: Chapter, pictures: tuple[Picture, ...], breaks: tuple[float, ...]) -> Chapter:
    """A chapter with others of its pictures; its end stays a break."""
    return Chapter(chapter.title, pictures, (*breaks[:-1], 1.0) if breaks else ())


def _held(publication: Publication) -> list[Spread]:
    """The spreads of two pages on which something lies already."""
    return [
        spread
        for spread in spreads_of(publication)
        if len(spread.numbers) == 2 and any(publication.pages[number - 1].things for number in spread.numbers)
    ]


def _bindable(publication: Publication, least: int, asked: int) -> int:
    """The next count of pages, from what it takes on, that can be bound, and that the printer takes."""
    binding = binding_named(publication.brief.binding)
    last = max((n for n, page in enumerate(publication.pages, 1) if page.things), default=0)
    pages = max(least, asked, last)
    step = publication.printer.multiple if publication.printer is not None else 0
    while not binding.takes(pages) or (step and pages % step):
        pages += 1
        if pages > MOST_PAGES:
            raise Problem(f"So many pictures make more pages than {binding.label.lower()} takes; raise the pace.")
    return pages


def _with_blanks(spreads: Sequence[Planned], count: int) -> list[Planned]:
    """Blank spreads before the later openings, then at the end."""
    made: list[Planned] = []
    for at, spread in enumerate(spreads):
        if count and at and spread.title:
            made.append(Planned())
            count -= 1
        made.append(spread)
    return made + [Planned()] * count


def draft_book(
    publication: Publication,
    told: Mapping[str, Told],
    plan: Plan,
    wishes: Wishes,
    still_wanted: Callable[[], bool] = lambda: True,
    progress: Progress = lambda done, of: None,
) -> Publication:
    """The job with the plan laid. What could not be arranged is left for the hand, on its own spread."""
    manner = publication.manner
    made = set_extent(publication, plan.pages)
    frame = wishes.frame or manner.frame
    asked = replace(manner, bleed=wishes.bleed, variety=max(manner.variety, VARIETY), frame=frame)
    made = replace(made, manner=asked)
    if wishes.openers and not made.pages[0].things:
        made = lay_title(made, 1, publication.title)
    free = [
        spread
        for spread in spreads_of(made)
        if len(spread.numbers) == 2 and not any(made.pages[number - 1].things for number in spread.numbers)
    ]
    for done, (spread, each) in enumerate(zip(free, plan.spreads, strict=False)):
        if not still_wanted():
            return publication
        progress(done, len(plan.spreads))
        made = _with_spread(made, spread, each, told, wishes)
    return replace(made, manner=manner)


def _with_spread(
    publication: Publication, spread: Spread, each: Planned, told: Mapping[str, Told], wishes: Wishes
) -> Publication:
    if not each.pictures:
        return publication
    pages: tuple[int, ...] = spread.numbers
    if each.title:
        first, second = spread.numbers
        publication, pages = lay_title(publication, first, each.title), (second,)
    try:
        items = items_of(publication, (), [picture.id for picture in each.pictures], told)
        found = arranged(publication, pages, items, most=CHOSEN_FROM)
    except Problem:
        return publication
    publication, _ = lay_arrangement(publication, _another(publication, spread, found))
    publication = _without_hidden_furniture(publication, spread)
    return caption_spread(publication, spread) if wishes.captions else publication


def _without_hidden_furniture(publication: Publication, spread: Spread) -> Publication:
    """Folios and running feet left off pages on which a picture lies under them."""
    own = {block.id for _, _, block in blocks_on(publication, spread)}
    held = [hull_of(publication, number, block) for number, _, block in blocks_on(publication, spread)
            if isinstance(block.holds, HoldsPicture)]  # fmt: skip
    for mark in leaves(Setter().spread(publication, spread).marks):
        if isinstance(mark, Glyphs) and mark.origin.block not in own and any(bounds(mark).meets(box) for box in held):
            middle = bounds(mark).centre[0]
            number = next(n for n in spread.numbers if page_frame_of(publication, n).trim.along("across")[1] > middle)
            publication = set_over(publication, number, "off")
    return publication


def match_draft(
    publication: Publication, plan: Plan, folder: Path, strength: float, still_wanted: Callable[[], bool] = lambda: True
) -> Publication:
    """The pictures of each chapter brought so far (per cent) to their middle, wherever they lie free."""
    images: dict[str, Image.Image] = {}
    blocks = {
        block.holds.picture: block.id
        for _, _, block in every_block(publication)
        if isinstance(block.holds, HoldsPicture) and is_free(publication, block.id)
    }
    for chapter in plan.chapters:
        names = [blocks[picture] for picture in chapter if picture in blocks]
        for picture in chapter:
            if picture in blocks and still_wanted():
                record = picture_of(publication, picture)
                images[blocks[picture]] = reduced(picture_file(folder, record), record.digest, STEPS[0])
        if len(names) > 1 and still_wanted():
            treatments = solved(publication, images, names, "their middle", strength / 100, still_wanted)
            publication = develop_pictures(publication, treatments)
    return publication


def _another(publication: Publication, spread: Spread, found: Sequence[Arrangement]) -> Arrangement:
    """The best whose pattern is not that of the spread before."""
    before = next((other for other in spreads_of(publication) if other.numbers[-1] == spread.numbers[0] - 1), None)
    theirs = spread_pattern(publication, before) if before is not None else frozenset()
    fresh = (
        each for each in found if not theirs or spread_pattern(lay_arrangement(publication, each)[0], spread) != theirs
    )
    return next(fresh, found[0])


def spread_pattern(publication: Publication, spread: Spread) -> frozenset[tuple[int, ...]]:
    """Where things lie on a spread, to the point, measured from its own left edge."""
    return frozenset(
        tuple(round(side) for side in block_box(publication, number, block))
        for number, _, block in blocks_on(publication, spread)
    )
