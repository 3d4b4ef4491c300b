"""What every rule may look at, worked out once a run."""

from collections.abc import Callable, Iterator
from functools import cached_property
from pathlib import Path

from msgspec import Struct

from half_fold.core.drawing.marks import Glyphs, Mark, leaves
from half_fold.core.drawing.tone import WHITE, Tone
from half_fold.core.measure.length import format_length
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import Spread, spreads_of
from half_fold.core.publication.records import Block, Holds, Publication, Story
from half_fold.core.publication.surgery import every_block
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.threads import thread
from half_fold.core.spread.where.frames import hull_of
from half_fold.core.typesetting.flow.flow import Flow


class GivenUp(Exception):
    """A check that nobody waits for any more; of no concern to a user."""


class Context(Struct, frozen=True, dict=True):
    """The document, its setter, and the folder its pictures lie in (None where that is not to be looked at).

    ``ground`` is the ink that lies all over the sheets; None where that is more than one. It ``is_side`` of a cover
    where stories have no further pages to go on over; ``sheet`` is then what is printed of it, bleed included. It goes
    on while it is ``still_wanted``.
    """

    publication: Publication
    setter: Setter
    pictures: Path | None
    ground: Tone | None = WHITE
    is_side: bool = False
    sheet: Rect | None = None
    still_wanted: Callable[[], bool] = lambda: True

    def said(self, points: float) -> str:
        """A length in the job's own unit."""
        return format_length(points, self.publication.brief.unit)

    def go_on(self) -> None:
        """GivenUp where nobody waits for the findings any more; what takes its time asks again and again."""
        if not self.still_wanted():
            raise GivenUp

    @cached_property
    def blocks(self) -> tuple[tuple[int, Block, Rect], ...]:
        """(page number, block, its rectangle) of every block in reading order."""
        return tuple(
            (index + 1, block, hull_of(self.publication, index + 1, block))
            for index, _page, block in every_block(self.publication)
        )

    @cached_property
    def flows(self) -> tuple[tuple[Story, Flow], ...]:
        """The stories that lie on its pages, set through their blocks."""
        stories = (story for story in self.publication.stories if thread(self.publication, story.id))
        return tuple((story, self.setter.threads.flow(self.publication, story.id)) for story in stories)

    @cached_property
    def page_of(self) -> dict[str, int]:
        """The number of the page on which each block lies, by its id."""
        return {block.id: number for number, block, _ in self.blocks}

    @cached_property
    def box_of(self) -> dict[str, Rect]:
        """The rectangle of each block, by its id."""
        return {block.id: box for _, block, box in self.blocks}

    @cached_property
    def holds_of(self) -> dict[str, Holds]:
        """What each block holds, by its id."""
        return {block.id: block.holds for _, block, _ in self.blocks}

    @cached_property
    def lists(self) -> tuple[tuple[Spread, tuple[Mark, ...]], ...]:
        """The marks of every spread, from back to front."""
        return tuple(self._composed())

    def _composed(self) -> Iterator[tuple[Spread, tuple[Mark, ...]]]:
        for spread in spreads_of(self.publication):
            self.go_on()
            yield spread, self.setter.spread(self.publication, spread).marks

    @cached_property
    def runs(self) -> tuple[tuple[Spread, Glyphs], ...]:
        """Every glyph run with its spread."""
        return tuple(
            (spread, mark) for spread, marks in self.lists for mark in leaves(marks) if isinstance(mark, Glyphs)
        )


def place_of_run(context: Context, spread: Spread, run: Glyphs) -> tuple[int, str]:
    """The page a run stands on, and its block where it is of one."""
    if run.origin.block in context.page_of:
        return context.page_of[run.origin.block], run.origin.block
    here = spread.left if float(run.xs[0]) < 0 else spread.right
    return here or spread.numbers[0], ""
