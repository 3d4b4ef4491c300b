"""Areas of a drawing: what clip paths and masks leave of shapes."""

from collections.abc import Iterable
from typing import TYPE_CHECKING

from half_fold.core.drawing.outline import Outline
from half_fold.core.drawing.regions import region_of, region_outline
from half_fold.core.publication.records import Art

if TYPE_CHECKING:
    from shapely import Geometry

FLAT = 0.2  # units of a drawing, whose longer side has 2400, that a stroke's or a cut edge stays within
_WHITE, _BLACK = "#ffffff", "#000000"


def svg_area(outline: Outline, is_even_odd: bool = False) -> "Geometry":
    """What an outline fills: by the way its parts turn, or by the even-odd rule."""
    from shapely import Polygon, make_valid

    if not is_even_odd:
        return region_of([outline], FLAT)
    whole: Geometry = Polygon()
    for part in outline.flattened(FLAT):
        if len(part) > 2:
            whole = whole.symmetric_difference(make_valid(Polygon(part)))
    return whole


def both(one: "Geometry | None", other: "Geometry") -> "Geometry":
    """What lies in two areas, of which the first may be everything (None)."""
    return other if one is None else one.intersection(other)


def clip_area(outline: Outline, within: "Geometry | None") -> Outline | None:
    """What of an outline lies within an area; the same outline, with its curves, where all of it does."""
    if within is None:
        return outline
    area = svg_area(outline)
    return outline if within.covers(area) else region_outline(area.intersection(within))


def by_black_and_white(layers: Iterable[tuple[Outline, Art]]) -> "Geometry | None":
    """What a mask leaves, whose shapes are laid on one another: white lets through, black hides. None where one is
    neither, or see-through."""
    from shapely import Polygon

    left: Geometry = Polygon()
    for outline, art in layers:
        if art.gradient is not None or art.opacity < 1 or art.colour not in (_WHITE, _BLACK):
            return None
        area = svg_area(outline)
        left = left.union(area) if art.colour == _WHITE else left.difference(area)
    return left
