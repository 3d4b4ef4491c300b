"""Where a shadow that reaches all the way from a thing lies: swept along its fall, or laid down on a floor."""

import numpy as np

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.outline import Outline
from half_fold.core.drawing.regions import region_of, region_outline
from half_fold.core.measure.kept import Keeper
from half_fold.core.spread.setting.softness import key_of_outline

_FLAT = 0.05  # points that a curve may be cut short by
_LEAST = 0.01  # points: a shadow that falls less far lies under the thing
_swept: Keeper[Outline] = Keeper(200)


def swept(shape: Outline, across: float, down: float) -> Outline:
    """All that a shape passes over on its way by so many points across and down."""
    if abs(across) + abs(down) < _LEAST:
        return shape
    return _swept.of((*key_of_outline(shape), across, down), lambda: _sweep(shape, across, down))


def _sweep(shape: Outline, across: float, down: float) -> Outline:
    from shapely import get_parts, polygons, union_all
    from shapely.geometry.polygon import orient

    region = region_of([shape], _FLAT)
    solid = [orient(part) for part in get_parts(region) if part.geom_type == "Polygon"]
    rings = [np.asarray(ring.coords) for part in solid for ring in (part.exterior, *part.interiors)]
    far = np.array([across, down])
    sides = [
        np.stack([ring[:-1], ring[1:], ring[1:] + far, ring[:-1] + far], axis=1) for ring in rings if len(ring) > 2
    ]
    ends = [shape, shape.through(Affine(e=across, f=down))]
    every = [*get_parts(polygons(np.vstack(sides))), *(region_of([each], _FLAT) for each in ends)]
    return region_outline(union_all(every)) or shape


def on_floor(shape: Outline, across: float, down: float) -> Outline:
    """A shape laid down from its foot: its head comes to lie so far across and down from there."""
    foot, high = shape.bounds.bottom, max(shape.bounds.height, 1e-3)
    a, d = across / high, down / high
    return shape.through(Affine(1.0, 0.0, -a, -d, a * foot, foot + d * foot))
