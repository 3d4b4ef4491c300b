"""Columns: the room a story is set in, line by line of the baseline grid."""

from typing import NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.rect import Rect


class Slot(NamedTuple):
    """Room for one line: on which line of the column's grid, from where, and how wide (points)."""

    line: int
    left: float
    width: float


class Column(Struct, frozen=True):
    """Room for ``lines`` lines, the first line of its grid on ``first_baseline``; ``block`` holds it.

    Where something stands in the way there are ``slots``, one for each line that text may have; else every line of the
    grid has the column's whole width.
    """

    block: str
    rect: Rect
    first_baseline: float
    lines: int
    page: int = 0
    slots: tuple[Slot, ...] = ()
    shaped: bool = False

    @property
    def depth(self) -> int:
        """Lines of the column's grid down to its last line."""
        return self.slots[-1].line + 1 if self.slots else self.lines

    def cut(self, depth: int) -> "Column":
        """The column no deeper than ``depth`` lines of its grid."""
        if not self.shaped:
            return replace(self, lines=min(self.lines, depth))
        slots = tuple(slot for slot in self.slots if slot.line < depth)
        return replace(self, lines=len(slots), slots=slots)

    def line(self, at: int) -> int:
        """Which line of the column's grid its line ``at`` (from 0) stands on."""
        return self.slot(at).line if self.shaped else at

    def slot(self, at: int) -> Slot:
        """The place of line ``at`` (from 0)."""
        if not self.shaped:
            return Slot(at, self.rect.left, self.rect.width)
        return self.slots[min(at, len(self.slots) - 1)] if self.slots else Slot(at, self.rect.left, 1.0)
