"""Spreads and sides of the cover read as a reader will: every word with its verdict, and the ground it stands on."""

from collections.abc import Iterator
from pathlib import Path

from msgspec import Struct, field

from half_fold.core.cover.flat import CoverSetter, cover_paper
from half_fold.core.cover.grounds import Ground, drawn, ground_kept, ground_of
from half_fold.core.cover.legibility import GOOD, Letters, Verdict, Word, judged, verdict_of, words_of
from half_fold.core.cover.sides import Side, card_of, is_blank, side_of, sides_of, spread_of_side, with_all_of
from half_fold.core.drawing.changes import within
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour import profile_for
from half_fold.core.plan.sections import paper_of_page
from half_fold.core.plan.spreads import Spread, spread_of, spreads_of
from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter


class Sheet(Struct, frozen=True):
    """What is read: a spread of a job, or a ``side`` of its cover, on its own paper; pictures lie in ``folder``.

    ``publication`` is that whose blocks are worked on: the job, or the side's own.
    """

    job: Publication
    folder: Path
    spread: Spread
    side: Side | None = None
    setter: Setter = field(default_factory=Setter)

    @property
    def publication(self) -> Publication:
        return self.job if self.side is None else side_of(self.job, self.side)

    @property
    def profile(self) -> bytes:
        """Of the paper it is printed on."""
        if self.side is not None:
            card = card_of(self.job, self.side)
            return profile_for(self.job, cover_paper(self.job) if card is None else card.paper)
        return profile_for(self.job, paper_of_page(self.job, self.spread.numbers[0]))

    def changed(self, publication: Publication) -> "Sheet":
        """The same sheet of a job in which the publication worked on is another."""
        job = publication if self.side is None else with_all_of(self.job, self.side, publication)
        return Sheet(job, self.folder, self.spread, self.side, self.setter)

    def marks(self) -> DisplayList:
        """What is drawn of it."""
        if self.side is None:
            return self.setter.spread(self.job, self.spread)
        return CoverSetter(self.setter).marks(self.job, self.side)


class Read(Struct, frozen=True, eq=False):
    """The words of a sheet, with what they stand on."""

    sheet: Sheet
    letters: tuple[Letters, ...]
    ground: Ground
    words: tuple[Word, ...]

    def of(self, block: str) -> tuple[Word, ...]:
        """The words of a block."""
        return tuple(word for word in self.words if word.block == block)

    def score(self, block: str) -> float:
        """That of the word of a block that reads worst; infinite where it has none."""
        return min((word.score for word in self.of(block)), default=float("inf"))

    def verdict(self, block: str) -> Verdict:
        """On all words of a block."""
        return verdict_of(self.score(block))

    @property
    def worst(self) -> tuple[Word, ...]:
        """The words that are not good, the worst first."""
        return tuple(sorted((word for word in self.words if word.score < GOOD), key=lambda word: word.score))


_worst: Keeper[tuple[Word, ...]] = Keeper(4000)


def sheet_of_side(job: Publication, folder: Path, side: Side, setter: Setter) -> Sheet:
    """A side of the cover to be read."""
    return Sheet(job, folder, spread_of_side(job, side), side, setter)


def read(sheet: Sheet, area: Rect | None = None) -> Read:
    """Every word of a sheet, judged on what lies behind it; only what lies in an ``area``, where that is given."""
    marks, profile = sheet.marks(), sheet.profile
    if area is not None:
        marks = DisplayList(area, within(marks, area).marks)
        ground = ground_of(marks, sheet.folder, sheet.job.pictures, profile)
    else:
        ground = ground_kept(marks, sheet.folder, sheet.job.pictures, profile)
    letters = tuple(words_of(marks))
    return Read(sheet, letters, ground, tuple(judged(letters, ground, profile)))


def worst_of(sheet: Sheet) -> tuple[Word, ...]:
    """The words of a sheet that are not good, the worst first: kept, since most edits leave most sheets as they are."""
    follows = drawn(sheet.marks()), sheet.job.pictures, sheet.profile, str(sheet.folder)
    return _worst.of(follows, lambda: read(sheet).worst)


def sheets_of(job: Publication, folder: Path, page: int, setter: Setter) -> Iterator[tuple[str, Read]]:
    """Every spread and side of the cover that is not blank, read; only the spread of a ``page``, where one is named.

    Problem where there is no such page.
    """
    if page and not 1 <= page <= len(job.pages):
        raise Problem(f"There is no page {page}; this job has {len(job.pages)}.")
    for spread in (spread_of(job, page),) if page else spreads_of(job):
        yield f"page {spread.label}", read(Sheet(job, folder, spread, None, setter))
    for side in sides_of(job) if not page else ():
        if not is_blank(job, side):
            card = card_of(job, side)
            where = f"cover, {side}" if card is None else card.name
            yield where, read(sheet_of_side(job, folder, side, setter))


def sheet_with(job: Publication, folder: Path, block: str, setter: Setter) -> Sheet:
    """The spread or the side of the cover that a block lies on. Problem where it lies on none."""
    for number, page in enumerate(job.pages, 1):
        if any(each.id == block for each in page.blocks):
            return Sheet(job, folder, spread_of(job, number), None, setter)
    for side in sides_of(job):
        if any(each.id == block for page in side_of(job, side).pages for each in page.blocks):
            return sheet_of_side(job, folder, side, setter)
    raise Problem(f"There is no block “{block}” on a page or on the cover; half-fold get JOB lists those there are.")
