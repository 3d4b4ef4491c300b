"""Areas cut, grown and drawn in, by their outlines flattened to polygons."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from half_fold.core.drawing.outline import CLOSE, LINE, MOVE, Outline, turning

if TYPE_CHECKING:
    from shapely import Geometry

Floats = npt.NDArray[np.float64]
Place = tuple[float, float]
FINE = 0.01  # points that a polygon stays within of the curve it stands for
SHARPEST = 4.0  # how far a corner that is grown may reach, in the distance it is grown by


def region_of(outlines: Sequence[Outline], tolerance: float = FINE) -> "Geometry":
    """What outlines fill: parts that run as the largest does, without those that run the other way."""
    from shapely import Polygon, make_valid, union_all

    parts = [part for each in outlines for part in each.flattened(tolerance) if len(part) > 2]
    if not parts:
        return Polygon()
    turns = [turning(part) for part in parts]
    way = max(turns, key=abs) > 0
    solid = union_all([make_valid(Polygon(part)) for part, turn in zip(parts, turns, strict=True) if (turn > 0) == way])
    holes = [make_valid(Polygon(part)) for part, turn in zip(parts, turns, strict=True) if (turn > 0) != way]
    return solid.difference(union_all(holes)) if holes else solid


def region_outline(region: "Geometry") -> Outline | None:
    """A region's outline, what is solid clockwise and holes against that; None where there is nothing."""
    from shapely import get_parts
    from shapely.geometry import Polygon

    ops, points = bytearray(), []
    for part in get_parts(region):
        if not isinstance(part, Polygon) or part.is_empty:
            continue
        for ring, is_solid in ((part.exterior, True), *((hole, False) for hole in part.interiors)):
            places = np.asarray(ring.coords, np.float64)[:-1, :2]
            points.append(places if (turning(places) > 0) == is_solid else places[::-1])
            ops += bytes([MOVE, *[LINE] * (len(places) - 1), CLOSE])
    return Outline(bytes(ops), np.vstack(points)) if points else None


def grow_region(outline: Outline, by: float) -> Outline | None:
    """An outline so many points further out, or in below nothing; corners stay sharp. None where none is left."""
    return region_outline(region_of([outline]).buffer(by, join_style="mitre", mitre_limit=SHARPEST))


def slice_region(outline: Outline, start: Place, end: Place) -> Outline | None:
    """What of an outline lies to the left of the line from ``start`` to ``end``, as one looks along it."""
    from shapely import Polygon

    (x, y), along = start, np.subtract(end, start)
    length = float(np.hypot(*along))
    if length < 1e-9:
        return outline
    box = outline.bounds
    reach = 4 * (box.width + box.height + abs(x - box.left) + abs(y - box.top) + length)
    ahead = along / length * reach
    left = np.array([ahead[1], -ahead[0]])  # y runs downwards
    middle = np.array([x, y])
    half = Polygon([middle - ahead, middle + ahead, middle + ahead + left, middle - ahead + left])
    return region_outline(region_of([outline]).intersection(half))
