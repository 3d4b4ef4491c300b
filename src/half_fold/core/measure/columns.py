"""Growing lists of figures as arrays."""

from collections.abc import Sequence
from typing import Any

import numpy as np
import numpy.typing as npt

LEAST_ROOM = 256


class Columns:
    """The rows of a list that only grows as one array a column, brought up to date at the cost of what is new.

    ``rows`` are tuples of ``width`` figures, or single figures where ``width`` is 1.
    """

    def __init__(self, rows: Sequence[Any], width: int = 1, kind: npt.DTypeLike = np.float64) -> None:
        self._rows, self._width = rows, width
        self._block = np.empty((width, LEAST_ROOM), kind)
        self._count = 0

    def now(self) -> npt.NDArray[Any]:
        """All rows there are now: an array of shape (``width``, rows) whose columns lie each in one piece."""
        have, want = self._count, len(self._rows)
        if want > have:
            self._block = grown(self._block, want)
            self._block[:, have:want] = np.array(self._rows[have:want]).reshape(-1, self._width).T
            self._count = want
        return self._block[:, :want]


def grown(block: npt.NDArray[Any], want: int, fill: float | None = None) -> npt.NDArray[Any]:
    """The array itself where its last axis has room for ``want``, else one of twice the room that begins as it does."""
    have = block.shape[-1]
    if want <= have:
        return block
    more = np.empty((*block.shape[:-1], max(want, 2 * have)), block.dtype)
    more[..., :have] = block
    if fill is not None:
        more[..., have:] = fill
    return more
