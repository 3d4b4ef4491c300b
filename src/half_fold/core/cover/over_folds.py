"""What runs over a fold of the spine, and where that fold may come to lie: a spine is made thicker or thinner."""

from msgspec import Struct

from half_fold.core.apart.sides import side_of, spread_of_side
from half_fold.core.brief.spine import spine_tolerance
from half_fold.core.cover.flat import cover_flat
from half_fold.core.measure.entry import MM
from half_fold.core.measure.kept import kept
from half_fold.core.measure.length import format_length
from half_fold.core.measure.worked import Worked
from half_fold.core.publication.records import Publication
from half_fold.core.spread.settable.called import called
from half_fold.core.spread.where.frames import blocks_on, hull_of

_OVER = 1.0  # points: what only touches a fold does not run over it


class OverFold(Struct, frozen=True):
    """A fold that something runs over: where it lies, and from where to where it may, in points; ``what`` by name."""

    fold: float
    least: float
    most: float
    what: tuple[str, ...]


@kept(4)  # the bench asks at every paint
def over_folds(publication: Publication) -> list[OverFold]:
    """The folds of the spine that blocks of the outside run over. Problem for a self-cover job."""
    flat, tolerance = cover_flat(publication), spine_tolerance(publication)
    if flat.spine is None or tolerance is None:
        return []
    side, half = side_of(publication, "outside"), tolerance.value * MM / 2
    boxes = [
        (called(side, block), hull_of(side, number, block))
        for number, _, block in blocks_on(side, spread_of_side(publication))
    ]
    found = []
    for fold in (flat.spine.left, flat.spine.right):
        over = tuple(name for name, box in boxes if box.left < fold - _OVER and box.right > fold + _OVER)
        if over:
            found.append(OverFold(fold, fold - half, fold + half, over))
    return found


def over_folds_number(publication: Publication) -> Worked | None:
    """How far a fold may wander under what runs over it; None where nothing does."""
    found, tolerance = over_folds(publication), spine_tolerance(publication)
    if not found or tolerance is None:
        return None
    names = ", ".join(dict.fromkeys(name for each in found for name in each.what))
    by = format_length(tolerance.value / 2 * MM, publication.brief.unit)
    how = f"{names} may be folded {by} to either side; both are drawn"
    return Worked(tolerance.value, "mm", "Over a fold", how, (tolerance,))
