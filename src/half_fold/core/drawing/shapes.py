"""The outlines of panels and pictures, in a rectangle each: clockwise, so that they are filled by non-zero winding."""

import math
from collections.abc import Collection, Sequence
from typing import Literal

import numpy as np

from half_fold.core.drawing.outline import CLOSE, CURVE, LINE, MOVE, QUARTER, Outline, ellipse, polygon, rectangle
from half_fold.core.measure.rect import Rect

Place = tuple[float, float]
CornerWay = Literal["round", "slanted", "cut", "hollow"]
CORNERS = ("head left", "head right", "foot right", "foot left")


def cornered(rect: Rect, size: float, way: CornerWay = "round", only: Collection[str] = ()) -> Outline:
    """A rectangle with corners of ``size`` points, no larger than half of its shorter side: those in ``only``, or all.

    They are round, slanted by a straight line, cut out square, or hollow: round from the corner itself.
    """
    size = min(size, rect.width / 2, rect.height / 2)
    if size <= 0:
        return rectangle(rect)
    places = ((rect.left, rect.top), (rect.right, rect.top), (rect.right, rect.bottom), (rect.left, rect.bottom))
    ways = ((1, 0), (0, 1), (-1, 0), (0, -1))  # along the side that leaves each corner
    ops: list[int] = []
    points: list[Place] = []
    for name, place, leaving, coming in zip(CORNERS, places, ways, (ways[-1], *ways[:-1]), strict=True):
        start = place[0] - coming[0] * size, place[1] - coming[1] * size
        end = place[0] + leaving[0] * size, place[1] + leaving[1] * size
        is_plain = bool(only) and name not in only
        drawn = [(LINE, (place,))] if is_plain else [(LINE, (start,)), *_corner(way, place, start, end)]
        for op, some in drawn:
            ops.append(op)
            points += some
    return Outline(bytes([MOVE, *ops[1:], CLOSE]), np.array(points, np.float64))


def _corner(way: CornerWay, place: Place, start: Place, end: Place) -> list[tuple[int, tuple[Place, ...]]]:
    """From where a side ends to where the next begins."""
    across = start[0] + end[0] - place[0], start[1] + end[1] - place[1]  # the corner's opposite
    if way == "slanted":
        return [(LINE, (end,))]
    if way == "cut":
        return [(LINE, (across,)), (LINE, (end,))]
    towards = place if way == "round" else across
    handles = tuple(
        (a + QUARTER * (b - a), c + QUARTER * (d - c)) for (a, c), (b, d) in ((start, towards), (end, towards))
    )
    return [(CURVE, (*handles, end))]


def circle(rect: Rect) -> Outline:
    """The largest circle in the middle of a rectangle."""
    return ellipse(_square(rect))


def _square(rect: Rect) -> Rect:
    half, (x, y) = min(rect.width, rect.height) / 2, rect.centre
    return Rect(x - half, y - half, x + half, y + half)


def reversed_way(outline: Outline) -> Outline:
    """An outline of one part run through the other way, so that it is a hole in what lies round it."""
    ops = [op for op in outline.ops if op not in (MOVE, CLOSE)]
    return Outline(bytes([MOVE, *reversed(ops), CLOSE]), outline.points[::-1].copy())


def joined(outlines: Sequence[Outline]) -> Outline:
    """Outlines as the parts of one."""
    return Outline(b"".join(each.ops for each in outlines), np.vstack([each.points for each in outlines]))


def ring(rect: Rect, hole: float) -> Outline:
    """An ellipse with another left open in it, ``hole`` of its width and height (0 to 1)."""
    (x, y), across, down = rect.centre, rect.width / 2 * hole, rect.height / 2 * hole
    inner = Rect(x - across, y - down, x + across, y + down)
    return joined([ellipse(rect), reversed_way(ellipse(inner))])


def burst(rect: Rect, points: int, depth: float) -> Outline:
    """A star of so many points round an ellipse, the notches between them ``depth`` of its radius (0 to 1) deep."""
    (x, y), across, down = rect.centre, rect.width / 2, rect.height / 2
    places = []
    for step in range(2 * points):
        reach = 1 - depth if step % 2 else 1.0
        turn = math.pi * step / points
        places.append((x + across * reach * math.sin(turn), y - down * reach * math.cos(turn)))
    return polygon(places)


def banner(rect: Rect, depth: float) -> Outline:
    """A band whose two ends are notched, ``depth`` of its height (0 to 1) deep."""
    notch, middle = min(depth * rect.height, rect.width / 2), rect.centre[1]
    left, top, right, bottom = rect
    return polygon(
        [(left, top), (right, top), (right - notch, middle), (right, bottom), (left, bottom), (left + notch, middle)]
    )


def flash(rect: Rect, corner: str, depth: float) -> Outline:
    """A band across a corner, from one side to the next, ``depth`` of the shorter side (0 to 1) wide along each."""
    reach = min(rect.width, rect.height)
    inner = reach * (1 - min(max(depth, 0.0), 1.0))
    left = corner.endswith("left")
    top = corner.startswith("head")
    x, y = rect.left if left else rect.right, rect.top if top else rect.bottom
    dx, dy = (1 if left else -1), (1 if top else -1)
    places = [(x + dx * inner, y), (x + dx * reach, y), (x, y + dy * reach), (x, y + dy * inner)]
    return polygon(places if dx * dy > 0 else places[::-1])


def placed_polygon(rect: Rect, places: Sequence[Place]) -> Outline:
    """A polygon through places given as shares of a rectangle's width and height."""
    return polygon([(rect.left + x * rect.width, rect.top + y * rect.height) for x, y in places])
