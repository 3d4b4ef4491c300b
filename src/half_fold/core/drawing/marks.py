"""The marks of a display list.

Coordinates are points in spread space: the fold at the trimmed head is the origin, x runs to the right
(the left page lies at negative x), y downwards. Every mark names the block it came from. Colours stay
inks until a renderer converts them.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

import msgspec
import numpy as np
import numpy.typing as npt

from half_fold.core.measure.rect import Rect

Floats = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Colour:
    """A process colour: shares of cyan, magenta, yellow and black, 0 to 1."""

    c: float = 0.0
    m: float = 0.0
    y: float = 0.0
    k: float = 0.0

    def tinted(self, tint: float) -> "Colour":
        """The same ink screened to ``tint`` (0 to 1)."""
        return Colour(self.c * tint, self.m * tint, self.y * tint, self.k * tint)


BLACK = Colour(k=1.0)
WHITE = Colour()


class Turn(NamedTuple):
    """A turn of ``degrees`` clockwise about a place."""

    about: tuple[float, float]
    degrees: float

    def of(self, x: float, y: float) -> tuple[float, float]:
        """Where a place comes to lie."""
        sine, cosine = math.sin(math.radians(self.degrees)), math.cos(math.radians(self.degrees))
        dx, dy = x - self.about[0], y - self.about[1]
        return self.about[0] + dx * cosine - dy * sine, self.about[1] + dx * sine + dy * cosine

    def around(self, rect: Rect) -> Rect:
        """The upright rectangle round a turned one."""
        corners = [self.of(x, y) for x in (rect.left, rect.right) for y in (rect.top, rect.bottom)]
        xs, ys = zip(*corners, strict=True)
        return Rect(min(xs), min(ys), max(xs), max(ys))


class Glyphs(msgspec.Struct, frozen=True, dict=True, eq=False):
    """A run of glyphs of one face on one baseline, all of it turned where ``turn`` is set.

    ``gids`` are glyph ids of the whole face, ``xs`` the pen position of each (points, same shape),
    ``texts`` what each glyph stands for ('' where an earlier glyph already said it).
    """

    face: str
    size: float
    gids: npt.NDArray[np.uint16]
    xs: Floats
    baseline: float
    colour: Colour
    texts: Sequence[str]
    block: str = ""
    turn: Turn | None = None

    @cached_property
    def reach(self) -> tuple[float, float]:
        """The leftmost and the rightmost pen."""
        return float(self.xs.min()), float(self.xs.max())


@dataclass(frozen=True, slots=True)
class Shape:
    """A rectangle filled and, where ``stroke`` is set, outlined inside its edge by ``weight`` points."""

    rect: Rect
    fill: Colour | None
    stroke: Colour | None = None
    weight: float = 0.0
    block: str = ""


@dataclass(frozen=True, slots=True)
class Line:
    """A straight rule of ``weight`` points; ``registration`` prints it in every ink."""

    start: tuple[float, float]
    end: tuple[float, float]
    colour: Colour
    weight: float
    block: str = ""
    registration: bool = False


@dataclass(frozen=True, slots=True)
class Picture:
    """A whole picture laid on ``placed`` and seen only inside ``clip``."""

    picture: str
    placed: Rect
    clip: Rect
    block: str = ""


Mark = Glyphs | Shape | Line | Picture


@dataclass(frozen=True, slots=True)
class DisplayList:
    """Marks from back to front, and the sheet area they were drawn for."""

    area: Rect
    marks: tuple[Mark, ...] = field(default=())
