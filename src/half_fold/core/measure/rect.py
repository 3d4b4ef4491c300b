"""Rectangles in points: x to the right, y downwards."""

from collections.abc import Iterable
from typing import Literal, NamedTuple

Axis = Literal["across", "down"]


class Rect(NamedTuple):
    """Left, top, right and bottom edge, in points."""

    left: float
    top: float
    right: float
    bottom: float

    @property
    def width(self) -> float:
        return self.right - self.left

    @property
    def height(self) -> float:
        return self.bottom - self.top

    @property
    def centre(self) -> tuple[float, float]:
        return (self.left + self.right) / 2, (self.top + self.bottom) / 2

    def along(self, axis: str) -> tuple[float, float]:
        """From where to where it reaches ``across`` or ``down``."""
        return (self.left, self.right) if axis == "across" else (self.top, self.bottom)

    def grown(self, by: float) -> "Rect":
        """Each edge moved outwards by ``by`` (inwards where negative)."""
        return Rect(self.left - by, self.top - by, self.right + by, self.bottom + by)

    def moved(self, dx: float, dy: float) -> "Rect":
        return Rect(self.left + dx, self.top + dy, self.right + dx, self.bottom + dy)

    def clipped(self, to: "Rect") -> "Rect":
        """What of it lies inside ``to``; empty (right <= left) where nothing does."""
        return Rect(
            max(self.left, to.left), max(self.top, to.top), min(self.right, to.right), min(self.bottom, to.bottom)
        )

    def meets(self, other: "Rect") -> bool:
        """Whether the two have some area in common."""
        return not self.clipped(other).is_empty()

    def is_empty(self) -> bool:
        return self.right <= self.left or self.bottom <= self.top

    def takes_in(self, other: "Rect") -> bool:
        """Whether nothing of another lies outside it."""
        return (
            self.left <= other.left
            and self.top <= other.top
            and other.right <= self.right
            and other.bottom <= self.bottom
        )

    def holds(self, x: float, y: float) -> bool:
        return self.left <= x <= self.right and self.top <= y <= self.bottom


def hull(rects: Iterable[Rect]) -> Rect:
    """The rectangle round one rectangle or more."""
    lefts, tops, rights, bottoms = zip(*rects, strict=True)
    return Rect(min(lefts), min(tops), max(rights), max(bottoms))
