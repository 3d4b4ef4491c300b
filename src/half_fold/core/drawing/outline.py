"""Outlines: what is filled and stroked, as operators and points."""

import math
from collections.abc import Sequence
from functools import cached_property

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.drawing.affine import Affine
from half_fold.core.measure.rect import Rect

Floats = npt.NDArray[np.float64]
MOVE, LINE, CURVE, CLOSE = 0, 1, 2, 3
TAKES = (1, 1, 3, 0)  # how many points each operator takes
# How far the handles of a quarter of a circle reach, in radii: off by 3 in 10,000 of it at the most.
QUARTER = 4 / 3 * math.tan(math.pi / 8)


class Outline(Struct, frozen=True, eq=False, dict=True):
    """``ops`` are operators (octets); ``points`` theirs one after another, an array of shape (points, 2), in points."""

    ops: bytes
    points: Floats

    @cached_property
    def bounds(self) -> Rect:
        """A rectangle that all of it lies in: that of its points, handles included."""
        (left, top), (right, bottom) = self.points.min(0).tolist(), self.points.max(0).tolist()
        return Rect(left, top, right, bottom)

    def through(self, affine: Affine) -> "Outline":
        """The outline turned, flipped or scaled."""
        return Outline(self.ops, affine.of_all(self.points))

    def is_same(self, other: "Outline") -> bool:
        """Whether another runs just as this."""
        return self is other or (self.ops == other.ops and np.array_equal(self.points, other.points))

    @property
    def parts(self) -> "list[Outline]":
        """Each of its parts by itself."""
        ops = np.frombuffer(self.ops, np.uint8)
        starts = np.flatnonzero(ops == MOVE)
        if len(starts) < 2:
            return [self]
        at = np.concatenate([[0], np.cumsum(np.array(TAKES)[ops])])
        ends = [*starts[1:].tolist(), len(ops)]
        return [
            Outline(self.ops[start:end], self.points[at[start] : at[end]])
            for start, end in zip(starts.tolist(), ends, strict=True)
        ]

    def _straight_parts(self) -> list[Floats]:
        """The parts of an outline without curves."""
        ops = np.frombuffer(self.ops, np.uint8)
        at = np.cumsum(np.array(TAKES)[ops]) - 1
        return [part for part in np.split(self.points, at[ops == MOVE][1:]) if len(part)]

    def straightened(self, tolerance: float) -> "Outline":
        """The same without curves, nowhere further off than ``tolerance``."""
        parts = self.flattened(tolerance)
        if not parts:
            return self
        closes = [CLOSE] if CLOSE in self.ops else []
        ops = b"".join(bytes([MOVE, *[LINE] * (len(part) - 1), *closes]) for part in parts)
        return Outline(ops, np.vstack(parts))

    def flattened(self, tolerance: float) -> list[Floats]:
        """Its parts as polygons, each an array of shape (points, 2), nowhere further off than ``tolerance``."""
        if CURVE not in self.ops:
            return self._straight_parts()
        out: list[Floats] = []
        part: list[Floats] = []
        at = 0
        for op in self.ops:
            taken = self.points[at : at + TAKES[op]]
            at += TAKES[op]
            if op == MOVE and part:
                out.append(np.concatenate(part))
                part = []
            if op == CURVE:
                part.append(_along(part[-1][-1], taken, tolerance))
            elif op != CLOSE:
                part.append(taken)
        return [*out, np.concatenate(part)] if part else out


class OutlinePen:
    """Gathers an outline from what draws with a pen; quadratic curves become cubic ones, which they are exactly."""

    def __init__(self) -> None:
        self._ops: list[int] = []
        self._points: list[tuple[float, float]] = []

    def moveTo(self, place: tuple[float, float]) -> None:
        self._add(MOVE, place)

    def lineTo(self, place: tuple[float, float]) -> None:
        self._add(LINE, place)

    def curveTo(self, *places: tuple[float, float]) -> None:
        self._add(CURVE, *places)

    def qCurveTo(self, *places: tuple[float, float]) -> None:
        (x0, y0), (x1, y1), (x2, y2) = self._points[-1], *places
        one = x0 + 2 / 3 * (x1 - x0), y0 + 2 / 3 * (y1 - y0)
        two = x2 + 2 / 3 * (x1 - x2), y2 + 2 / 3 * (y1 - y2)
        self._add(CURVE, one, two, (x2, y2))

    def closePath(self) -> None:
        self._add(CLOSE)

    def _add(self, op: int, *places: tuple[float, float]) -> None:
        self._ops.append(op)
        self._points += places

    def made(self, affine: Affine) -> Outline:
        """What was drawn, through an affine."""
        points = np.array(self._points, np.float64).reshape(-1, 2)
        return Outline(bytes(self._ops), points).through(affine)


def _along(start: Floats, handles: Floats, tolerance: float) -> Floats:
    """Places along a curve after its start: as many as keep the chords within ``tolerance`` of it."""
    one, two, end = handles
    bend = float(max(np.abs(start - 2 * one + two).max(), np.abs(one - 2 * two + end).max()))
    steps = max(1, math.ceil(math.sqrt(0.75 * bend / tolerance)))
    t = (np.arange(1, steps + 1) / steps)[:, None]
    u = 1 - t
    return np.asarray(u**3 * start + 3 * u**2 * t * one + 3 * u * t**2 * two + t**3 * end)


def turning(part: Floats) -> float:
    """Twice the area of a polygon, seen with y downwards: below 0 where it runs against the clock."""
    x, y = part[:, 0], part[:, 1]
    return float(x[:-1] @ y[1:] - x[1:] @ y[:-1] + x[-1] * y[0] - x[0] * y[-1])


def polygon(places: Sequence[tuple[float, float]]) -> Outline:
    """A closed outline through those places."""
    return Outline(bytes([MOVE, *[LINE] * (len(places) - 1), CLOSE]), np.array(places, np.float64))


def rectangle(rect: Rect) -> Outline:
    return polygon([(rect.left, rect.top), (rect.right, rect.top), (rect.right, rect.bottom), (rect.left, rect.bottom)])


def rounded(rect: Rect, radius: float) -> Outline:
    """A rectangle with round corners, of a radius no larger than half of its shorter side."""
    r = min(radius, rect.width / 2, rect.height / 2)
    if r <= 0:
        return rectangle(rect)
    return _round(rect, r, r)


def ellipse(rect: Rect) -> Outline:
    """The ellipse that a rectangle holds."""
    return _round(rect, rect.width / 2, rect.height / 2)


def _round(rect: Rect, across: float, down: float) -> Outline:
    """Clockwise from the upper left corner's right end, each corner a quarter of an ellipse."""
    left, top, right, bottom = rect
    x, y = across * (1 - QUARTER), down * (1 - QUARTER)  # how far a handle stays from its corner
    points = [
        (left + across, top),
        *((right - across, top), (right - x, top), (right, top + y), (right, top + down)),
        *((right, bottom - down), (right, bottom - y), (right - x, bottom), (right - across, bottom)),
        *((left + across, bottom), (left + x, bottom), (left, bottom - y), (left, bottom - down)),
        *((left, top + down), (left, top + y), (left + x, top), (left + across, top)),
    ]
    return Outline(bytes([MOVE, *[LINE, CURVE] * 4, CLOSE]), np.array(points))
