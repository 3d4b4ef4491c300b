"""Turns, flips and scales: six figures that say where a place comes to lie."""

import math
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from half_fold.core.measure.rect import Rect, hull

Floats = npt.NDArray[np.float64]


class Affine(NamedTuple):
    """A place (x, y) comes to lie at (a x + c y + e, b x + d y + f); y runs downwards."""

    a: float = 1.0
    b: float = 0.0
    c: float = 0.0
    d: float = 1.0
    e: float = 0.0
    f: float = 0.0

    def of(self, x: float, y: float) -> tuple[float, float]:
        """Where a place comes to lie."""
        return self.a * x + self.c * y + self.e, self.b * x + self.d * y + self.f

    def after(self, first: "Affine") -> "Affine":
        """What comes of ``first``, and then of this."""
        e, f = self.of(first.e, first.f)
        return Affine(
            self.a * first.a + self.c * first.b,
            self.b * first.a + self.d * first.b,
            self.a * first.c + self.c * first.d,
            self.b * first.c + self.d * first.d,
            e,
            f,
        )

    def of_all(self, places: Floats) -> Floats:
        """Where places come to lie: an array of shape (places, 2), as they are."""
        matrix = np.array([[self.a, self.b], [self.c, self.d]])
        return np.asarray(places @ matrix + (self.e, self.f))

    def around(self, rect: Rect) -> Rect:
        """The upright rectangle round what becomes of one."""
        places = [self.of(x, y) for x in (rect.left, rect.right) for y in (rect.top, rect.bottom)]
        return hull(Rect(x, y, x, y) for x, y in places)

    def inverse(self) -> "Affine":
        """What brings every place back."""
        a, b, c, d, e, f = self
        area = a * d - b * c
        return Affine(d / area, -b / area, -c / area, a / area, (c * f - d * e) / area, (b * e - a * f) / area)


def turned(about: tuple[float, float], degrees: float) -> Affine:
    """A turn clockwise about a place."""
    sine, cosine = math.sin(math.radians(degrees)), math.cos(math.radians(degrees))
    x, y = about
    return Affine(cosine, sine, -sine, cosine, x - cosine * x + sine * y, y - sine * x - cosine * y)


def flipped(rect: Rect) -> Affine:
    """A rectangle seen in a mirror: its left becomes its right."""
    return Affine(-1.0, 0.0, 0.0, 1.0, rect.left + rect.right, 0.0)


def in_half_turns(degrees: float) -> float:
    """The same turn from -180 to 180 degrees."""
    return (degrees + 180) % 360 - 180


def mirror(rect: Rect, way: str) -> Affine:
    """A rectangle seen in a mirror beside it (``across``), or under it (``down``), where its head becomes its foot."""
    return flipped(rect) if way == "across" else Affine(1.0, 0.0, 0.0, -1.0, 0.0, rect.top + rect.bottom)


def onto(rect: Rect) -> Affine:
    """The unit square, y downwards, laid onto a rectangle."""
    return Affine(rect.width, 0.0, 0.0, rect.height, rect.left, rect.top)
