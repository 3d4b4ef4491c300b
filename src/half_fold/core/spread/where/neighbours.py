"""What lies next to a thing, and how far off: to its left and above it."""

from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import page_of_thing
from half_fold.core.publication.things import way_to
from half_fold.core.spread.where.frames import thing_hull, things_on

LEAST_SHARED = 1.0  # points that two must have in common the other way to lie beside each other


def gap_before(publication: Publication, name: str, axis: Axis) -> float | None:
    """How far a thing lies from what is next to its left (across) or above it (down), in points; None where nothing is.

    What lies with it on its spread counts, where the two share a stretch the other way.
    """
    index, page, thing = page_of_thing(publication, name)
    outer = way_to(page.things, name)[0].id
    own = thing_hull(publication, index + 1, thing)
    others = (
        thing_hull(publication, number, other)
        for number, other in things_on(publication, spread_of(publication, index + 1))
        if other.id != outer
    )
    gaps = [_gap(own, other, axis) for other in others]
    return min((gap for gap in gaps if gap is not None), default=None)


def _gap(own: Rect, other: Rect, axis: Axis) -> float | None:
    """From the end of another to the beginning of one; None where it does not lie before it, or beside it."""
    start, (_, end) = own.along(axis)[0], other.along(axis)
    across = "down" if axis == "across" else "across"
    (low, high), (other_low, other_high) = own.along(across), other.along(across)
    beside = min(high, other_high) - max(low, other_low) > LEAST_SHARED
    return start - end if beside and start - end > -0.01 else None
