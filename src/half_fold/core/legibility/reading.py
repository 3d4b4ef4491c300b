"""Surfaces read as a reader will: every word with its verdict, and the ground it stands on."""

from pathlib import Path

from msgspec import Struct, field

from half_fold.core.drawing.changes import within
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.legibility.grounds import SeenGround, drawn_marks, ground_kept, ground_of
from half_fold.core.legibility.verdicts import GOOD, Letters, Verdict, Word, judge_words, verdict_of, words_seen
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import profile_for
from half_fold.core.plan.sections import paper_of_page
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter


class Surface(Struct, frozen=True):
    """What is read: a spread of a job, on its own paper; pictures lie in ``folder``.

    The sides of a cover are surfaces of their own (``cover.surfaces``).
    """

    job: Publication
    folder: Path
    spread: Spread
    setter: Setter = field(default_factory=Setter)

    @property
    def publication(self) -> Publication:
        """The one whose blocks are worked on: the job, where it is not a side's own."""
        return self.job

    @property
    def profile(self) -> bytes:
        """Of the paper it is printed on."""
        return profile_for(self.job, paper_of_page(self.job, self.spread.numbers[0]))

    def changed(self, publication: Publication) -> "Surface":
        """The same surface of a job in which the publication worked on is another."""
        return Surface(publication, self.folder, self.spread, self.setter)

    def marks(self) -> DisplayList:
        """What is drawn of it."""
        return self.setter.spread(self.job, self.spread)


class Read(Struct, frozen=True, eq=False):
    """The words of a sheet, with what they stand on."""

    sheet: Surface
    letters: tuple[Letters, ...]
    ground: SeenGround
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


def read_surface(sheet: Surface, area: Rect | None = None) -> Read:
    """Every word of a sheet, judged on what lies behind it; only what lies in an ``area``, where that is given."""
    marks, profile = sheet.marks(), sheet.profile
    if area is not None:
        marks = DisplayList(area, within(marks, area).marks)
        ground = ground_of(marks, sheet.folder, sheet.job.pictures, profile)
    else:
        ground = ground_kept(marks, sheet.folder, sheet.job.pictures, profile)
    letters = tuple(words_seen(marks))
    return Read(sheet, letters, ground, tuple(judge_words(letters, ground, profile)))


def worst_of(sheet: Surface) -> tuple[Word, ...]:
    """The words of a sheet that are not good, the worst first: kept, since most edits leave most sheets as they are."""
    follows = drawn_marks(sheet.marks()), sheet.job.pictures, sheet.profile, str(sheet.folder)
    return _worst.of(follows, lambda: read_surface(sheet).worst)
