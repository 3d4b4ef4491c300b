"""The cover flat as sheets of the file."""

from collections.abc import Callable
from functools import partial

from half_fold.core.cover.flat import CoverSetter, cover_flat
from half_fold.core.cover.sides import Side, is_blank, require_cover
from half_fold.core.press.sheets import Sheet, always
from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter


def cover_makers(publication: Publication, setter: Setter) -> list[Callable[[], Sheet]]:
    """The cover flat, and its inside where anything lies on it; Problem where the job has no cover."""
    require_cover(publication)
    covers = CoverSetter(setter)
    sides: tuple[Side, ...] = ("outside",) if is_blank(publication, "inside") else ("outside", "inside")
    return [partial(cover_sheet, publication, covers, side) for side in sides]


def cover_sheet(publication: Publication, covers: CoverSetter, side: Side) -> Sheet:
    """One side of the cover flat, with its folds."""
    flat = cover_flat(publication)
    whole = flat.trim.grown(flat.bleed)
    marks = covers.marks(publication, side).marks
    return Sheet(f"the cover’s {side}", flat.trim, whole, marks, always(whole), flat.folds)
