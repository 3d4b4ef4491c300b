"""What is printed at a place: shares of the process inks and of a spot ink, and gradients between such tones."""

from collections.abc import Iterator
from itertools import pairwise
from typing import Literal, NamedTuple

from msgspec import Struct

from half_fold.core.drawing.affine import Affine


class Spot(NamedTuple):
    """An ink on a plate of its own, and the process shares that stand in for it where it cannot be printed."""

    name: str
    c: float
    m: float
    y: float
    k: float


class Tone(Struct, frozen=True):
    """Shares of cyan, magenta, yellow and black, 0 to 1, and the share ``s`` of a spot ink."""

    c: float = 0.0
    m: float = 0.0
    y: float = 0.0
    k: float = 0.0
    s: float = 0.0
    spot: Spot | None = None

    def tinted(self, tint: float) -> "Tone":
        """The same ink screened to ``tint`` (0 to 1)."""
        return Tone(self.c * tint, self.m * tint, self.y * tint, self.k * tint, self.s * tint, self.spot)

    @property
    def process(self) -> tuple[float, float, float, float]:
        """Shares of the four process inks alone: the spot's stand-in printed over the others."""
        own, spot = (self.c, self.m, self.y, self.k), self.spot
        if spot is None:
            return own
        c, m, y, k = (1 - (1 - each) * (1 - self.s * other) for each, other in zip(own, spot[1:], strict=True))
        return c, m, y, k


BLACK = Tone(k=1.0)
WHITE = Tone()
# Printed on every plate there is.
EVERY_PLATE = Spot("All", 1.0, 1.0, 1.0, 1.0)
REGISTRATION = Tone(s=1.0, spot=EVERY_PLATE)

Way = Literal["linear", "radial"]


class GradientStop(NamedTuple):
    """A tone at a place from 0 to 1 along a gradient."""

    at: float
    tone: Tone


class Gradient(Struct, frozen=True):
    """Tones from one to the next: along the x axis from 0 to 1, or outwards from the origin to a radius of 1.

    ``affine`` brings that axis, or that circle, to where it lies, in points; before the first stop and beyond the last
    their tones go on. ``stops`` are two or more, in the order of their places.
    """

    way: Way
    affine: Affine
    stops: tuple[GradientStop, ...]

    def through(self, affine: Affine) -> "Gradient":
        """The gradient turned, flipped or scaled."""
        return Gradient(self.way, affine.after(self.affine), self.stops)


Paint = Tone | Gradient


def through(paint: Paint, affine: Affine) -> Paint:
    """A paint where it comes to lie."""
    return paint.through(affine) if isinstance(paint, Gradient) else paint


def between(one: Tone, other: Tone, share: float) -> Tone:
    """The tone so far (0 to 1) from one to another, in process inks alone where they have spots that differ."""
    if share <= 0:
        return one
    if one.spot != other.spot and one.spot is not None and other.spot is not None:
        one, other = Tone(*one.process), Tone(*other.process)
    c, m, y, k, s = ((1 - share) * a + share * b for a, b in zip(_shares(one), _shares(other), strict=True))
    return Tone(c, m, y, k, s, one.spot or other.spot)


def _shares(tone: Tone) -> tuple[float, ...]:
    return tone.c, tone.m, tone.y, tone.k, tone.s


def finer(stops: tuple[GradientStop, ...], steps: int) -> Iterator[GradientStop]:
    """The same gradient in so many steps from each stop to the next, for what does not run from tone to tone itself."""
    for one, other in pairwise(stops):
        for step in range(steps):
            share = step / steps
            yield GradientStop(one.at + share * (other.at - one.at), between(one.tone, other.tone, share))
    yield stops[-1]


def tones(paint: Paint | None) -> tuple[Tone, ...]:
    """Every tone of a paint."""
    if paint is None:
        return ()
    return (paint,) if isinstance(paint, Tone) else tuple(stop.tone for stop in paint.stops)
