"""Rasters over a picture: coarser, finer, blurred, and areas of them."""

import numpy as np
import numpy.typing as npt

from half_fold.core.measure.opencv import cv2

Floats = npt.NDArray[np.float32]
Where = npt.NDArray[np.bool_]


def enlarged(field: Floats, size: tuple[int, int], rows: slice | None = None) -> Floats:
    """A field at the fineness of a picture of that (width, height), or only its ``rows``."""
    wide, high = size
    rows = rows or slice(0, high)
    across, down = field.shape[1] / wide, field.shape[0] / high
    way = np.array([[across, 0, across / 2 - 0.5], [0, down, (rows.start + 0.5) * down - 0.5]])
    how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    made = cv2.warpAffine(field, way, (wide, rows.stop - rows.start), flags=how, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(made, np.float32)


def fewer(values: Floats, size: tuple[int, int]) -> Floats:
    """Values by fewer, larger pixels."""
    return np.asarray(cv2.resize(values, size, interpolation=cv2.INTER_AREA), np.float32)


def blurred(values: Floats, sigma: float) -> Floats:
    return np.asarray(cv2.GaussianBlur(values, (0, 0), sigma), np.float32)


def far_in(where: Where, mask: int = cv2.DIST_MASK_5) -> Floats:
    """How far each pixel of an area is from what is not of it, the truer the larger the ``mask``; 0 outside."""
    return np.asarray(cv2.distanceTransform(where.astype(np.uint8), cv2.DIST_L2, mask), np.float32)


def holding(where: Where, core: Where) -> Where:
    """Of the pieces of an area those that hold some of the core."""
    count, pieces = cv2.connectedComponents(where.astype(np.uint8))
    holds = np.zeros(count, bool)
    holds[np.unique(pieces[core])] = True
    holds[0] = False
    made: Where = holds[pieces]
    return made
