"""Where words would be calm: for every place of a sheet, how well a block would read that had its middle there.

The worst tenth of the letter windows inside the block's own outline, as for words themselves; places where it would lie
on other words, on a barcode, on what is kept clear or off the pages are none.
"""

from functools import cached_property

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.legibility.reading import Read
from half_fold.core.legibility.remedies import in_the_way
from half_fold.core.legibility.verdicts import HIGH, UNREST, WIDE, WORST
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.spread.where.frames import page_frame_of

CELLS = 90  # across the longer side of what is looked at

Reals = npt.NDArray[np.float64]


class Calm(Struct, frozen=True, eq=False, dict=True):
    """``scores`` of places, shape (down, across), NaN where the block cannot be, in cells from ``left`` and ``top`` on.

    ``size`` is how wide and high the block's words are; all in points.
    """

    block: str
    scores: Reals
    left: float
    top: float
    cell: float
    size: tuple[float, float]

    @cached_property
    def covered(self) -> Reals:
        """For each cell the best score of all places for the block that lie over it; nothing where there is none."""
        wide, high = self.size
        reach = max(1, round(high / self.cell)), max(1, round(wide / self.cell))
        return _widened(np.nan_to_num(self.scores, nan=0.0), reach)

    def at(self, x: float, y: float) -> float:
        """The score of the place in whose cell a point lies; NaN where there is none."""
        row, column = int((y - self.top) // self.cell), int((x - self.left) // self.cell)
        high, wide = self.scores.shape
        return float(self.scores[row, column]) if 0 <= row < high and 0 <= column < wide else float("nan")


def calm_of(read: Read, block: str) -> Calm | None:
    """The places for a block's words as they are set; None where it has none."""
    words = read.of(block)
    if not words:
        return None
    sheet = read.sheet
    area = hull(page_frame_of(sheet.publication, number).trim for number in sheet.spread.numbers)
    own = hull(word.area for word in words)
    cell = max(area.width, area.height) / CELLS
    across, down = max(1, int(area.width / cell)), max(1, int(area.height / cell))
    x: Reals = area.left + (np.arange(across, dtype=np.float64) + 0.5) * cell
    y: Reals = area.top + (np.arange(down, dtype=np.float64) + 0.5) * cell
    size, ink = max(word.size for word in words), words[0].ink
    middles = np.stack(np.meshgrid(x, y), axis=2).reshape(-1, 2)
    half = np.array([WIDE, HIGH]) * size / 2
    mean, unrest = read.ground.around(np.concatenate([middles - half, middles + half], axis=1))
    off = ((ink - mean) / np.sqrt(unrest**2 + UNREST**2)).reshape(down, across) * min(word.thin for word in words)
    reach = max(1, round(own.height / cell)), max(1, round(own.width / cell))
    scores = np.maximum(_worst(off, reach), _worst(-off, reach))
    scores[~_is_free(read, block, own, x, y)] = np.nan
    return Calm(block, scores, area.left, area.top, cell, (own.width, own.height))


def _worst(off: Reals, reach: tuple[int, int]) -> Reals:
    """At each place the worst tenth of what lies within so many rows and columns about it."""
    return np.asarray(np.quantile(_about(off, reach), WORST, axis=(2, 3), method="lower"), np.float64)


def _widened(scores: Reals, reach: tuple[int, int]) -> Reals:
    """At each place the best of what lies within so many rows and columns about it."""
    return np.asarray(_about(scores, reach).max(axis=(2, 3)), np.float64)


def _about(values: Reals, reach: tuple[int, int]) -> Reals:
    """What lies about each place, as two more axes; beyond the edges as at the edges."""
    down, across = reach
    before, after = ((down - 1) // 2, (across - 1) // 2), (down // 2, across // 2)
    padded = np.pad(values, tuple(zip(before, after, strict=True)), mode="edge")
    return np.asarray(np.lib.stride_tricks.sliding_window_view(padded, reach))


def _is_free(read: Read, block: str, own: Rect, x: Reals, y: Reals) -> npt.NDArray[np.bool_]:
    """Where words so large would lie in the safe zone of a page and on nothing that is in the way."""
    sheet = read.sheet
    left, right = x[None, :] - own.width / 2, x[None, :] + own.width / 2
    top, bottom = y[:, None] - own.height / 2, y[:, None] + own.height / 2
    inside = np.zeros((len(y), len(x)), bool)
    for number in sheet.spread.numbers:
        safe = page_frame_of(sheet.publication, number).trim.grown(-sheet.job.brief.safe.pt)
        inside |= (left >= safe.left) & (right <= safe.right) & (top >= safe.top) & (bottom <= safe.bottom)
    for box in in_the_way(sheet, block):
        inside &= ~((left < box.right) & (right > box.left) & (top < box.bottom) & (bottom > box.top))
    return inside
