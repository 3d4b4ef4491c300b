"""The cover flat as sheets of the file."""

from collections.abc import Iterator

from half_fold.core.cover.flat import CoverSetter, cover_flat
from half_fold.core.cover.sides import Side, is_blank, require_cover
from half_fold.core.press.sheets import Sheet, always
from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter


def cover_count(publication: Publication) -> int:
    """How many sheets the cover makes; Problem where the job has none."""
    require_cover(publication)
    return 1 if is_blank(publication, "inside") else 2


def cover_sheets(publication: Publication, setter: Setter) -> Iterator[Sheet]:
    """The cover flat, one page; its inside as a second where anything lies on it."""
    covers = CoverSetter(setter)
    yield cover_sheet(publication, covers, "outside")
    if not is_blank(publication, "inside"):
        yield cover_sheet(publication, covers, "inside")


def cover_sheet(publication: Publication, covers: CoverSetter, side: Side) -> Sheet:
    """One side of the cover flat, with its folds."""
    flat = cover_flat(publication)
    whole = flat.trim.grown(flat.bleed)
    return Sheet(f"cover {side}", flat.trim, whole, covers.marks(publication, side).marks, always(whole), flat.folds)
