"""Things carried by hand, and the stops that draw them in."""

from collections.abc import Iterable

from half_fold.core.grid.stops import AXES, EDGES, Edge, Frames, stops_for
from half_fold.core.measure.rect import Axis, Rect, hull
from half_fold.core.publication.records import Publication
from half_fold.core.spread.edits.grouping import outermost, reach_of
from half_fold.core.spread.where.frames import frames_of
from half_fold.core.spread.where.reaching import NEAR_STOP


def reached(publication: Publication, names: Iterable[str]) -> Rect:
    """The rectangle round things where they lie, in points of spread space."""
    return hull(reach_of(publication, name)[1] for name in outermost(publication, names))


def drawn_in(publication: Publication, name: str, box: Rect, near: float = NEAR_STOP) -> tuple[float, float]:
    """By how much a box comes to lie on the stops nearest to its edges, or with its middle on that of a page.

    ``name`` is a thing on the page whose stops they are; where none is ``near`` enough (points), by nothing.
    """
    frames = frames_of(publication, reach_of(publication, name)[0])
    return _nearest("across", box, frames, near), _nearest("down", box, frames, near)


def _nearest(axis: Axis, box: Rect, frames: Frames, near: float) -> float:
    ways = [at - box[EDGES.index(edge)] for edge in AXES[axis] for at, _ in stops_for(edge, frames)]
    middle = sum(box.along(axis)) / 2
    pages = [frames.own, *([frames.facing] if frames.facing is not None and axis == "across" else [])]
    ways += [sum(area.along(axis)) / 2 - middle for page in pages for area in (page.trim, page.area)]
    close = [way for way in ways if abs(way) <= near]
    return min(close, key=abs) if close else 0.0


def grabbed(box: Rect, x: float, y: float, reach: float) -> tuple[Edge, ...]:
    """The edges of an upright box that a place within ``reach`` (points) of them takes hold of: two at a corner."""
    if not box.grown(reach).holds(x, y):
        return ()
    spots = {"left": x - box.left, "right": x - box.right, "top": y - box.top, "bottom": y - box.bottom}
    near = sorted((abs(off), edge) for edge, off in spots.items() if abs(off) <= reach)
    taken: list[Edge] = []
    for _, edge in near:
        pair = AXES["across"] if edge in AXES["across"] else AXES["down"]
        if not any(other in pair for other in taken):
            taken.append(edge)  # type: ignore[arg-type]  # a key of the table above
    return tuple(taken)
