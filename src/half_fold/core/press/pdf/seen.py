"""What of a picture is seen where it lies, and how many pixels of it are wanted there: no more goes into the file."""

import math
from typing import NamedTuple

from half_fold.core.brief.allowances import GOOD_PPI
from half_fold.core.drawing.marks import PictureMark
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.publication.records import Treatment

WORTHWHILE = 1.5  # a picture with less than so many times the pixels that are wanted goes in as it is
AROUND = 2  # pixels beyond what is seen, so that its edges are as they are in the whole


class PicturePart(NamedTuple):
    """Pixels of a picture from ``left``, ``top`` up to ``right``, ``bottom``, made ``across`` by ``down`` of them.

    ``ppi`` is how many go to the printed inch, where it is sharpened for that.
    """

    picture: str
    left: int
    top: int
    right: int
    bottom: int
    across: int
    down: int
    ppi: float = 0.0

    @property
    def key(self) -> str:
        """What tells it from any other."""
        return "|".join(map(str, self))

    def laid(self, mark: PictureMark, size: tuple[int, int]) -> PictureMark:
        """The part as a picture of its own, laid where it lies in the whole, which has that many pixels."""
        where, (wide, high) = mark.placed, size
        across, down = where.width / wide, where.height / high
        place = Rect(
            where.left + self.left * across,
            where.top + self.top * down,
            where.left + self.right * across,
            where.top + self.bottom * down,
        )
        return PictureMark(mark.picture, place, mark.clip, mark.origin, mark.affine, mark.outline)


def part_of(mark: PictureMark, clip: Rect, size: tuple[int, int], ppi: float = GOOD_PPI) -> PicturePart:
    """The part of a picture of ``size`` pixels that is seen inside ``clip``; whole where ``ppi`` is 0."""
    wide, high = size
    if not ppi:
        return PicturePart(mark.picture, 0, 0, wide, high, wide, high)
    is_sharpened = (parse_drawn_key(mark.picture)[1] or Treatment()).sharpen > 0
    seen = mark.seen.clipped(clip)
    if mark.affine is not None:
        seen = mark.affine.inverse().around(seen)
    where = mark.placed
    across, down = wide / where.width, high / where.height
    left, right = _span((seen.left - where.left) * across, (seen.right - where.left) * across, wide)
    top, bottom = _span((seen.top - where.top) * down, (seen.bottom - where.top) * down, high)
    wanted = (right - left) / across * ppi / 72, (bottom - top) / down * ppi / 72
    if (right - left) <= WORTHWHILE * wanted[0] or (bottom - top) <= WORTHWHILE * wanted[1]:
        wanted = right - left, bottom - top
    made = math.ceil(wanted[0]), math.ceil(wanted[1])
    printed = made[0] * across / (right - left) * 72 if is_sharpened else 0.0
    return PicturePart(mark.picture, left, top, right, bottom, *made, round(printed, 1))


def _span(start: float, end: float, most: int) -> tuple[int, int]:
    """The pixels from the first to the last that is seen, and some around; at least one, where none is."""
    first = min(max(0, math.floor(start + 1e-6) - AROUND), most - 1)
    return first, max(first + 1, min(most, math.ceil(end - 1e-6) + AROUND))
