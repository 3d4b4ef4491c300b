"""What every rule may look at, worked out once a run."""

from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

from half_fold.core.drawing.marks import Glyphs
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import Spread, spreads_of
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import every_block
from half_fold.core.spread.compose import Setter
from half_fold.core.spread.frames import block_box


@dataclass(frozen=True)
class Context:
    """The document, its setter, and the folder its pictures lie in (None where that is not to be looked at)."""

    publication: Publication
    setter: Setter
    pictures: Path | None

    @cached_property
    def blocks(self) -> tuple[tuple[int, Block, Rect], ...]:
        """(page number, block, its rectangle) of every block in reading order."""
        return tuple(
            (index + 1, block, block_box(self.publication, index + 1, block))
            for index, _page, block in every_block(self.publication)
        )

    @cached_property
    def runs(self) -> tuple[tuple[Spread, Glyphs], ...]:
        """Every glyph run with its spread."""
        return tuple(
            (spread, mark)
            for spread in spreads_of(self.publication)
            for mark in self.setter.spread(self.publication, spread).marks
            if isinstance(mark, Glyphs)
        )
