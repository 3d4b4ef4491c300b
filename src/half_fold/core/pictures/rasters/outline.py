"""The outline of a cut-out, as extents of horizontal bands: enough for text to run round it."""

import numpy as np
from PIL import Image

from half_fold.core.pictures.rasters.alpha import alpha_of

BANDS = 64
SEEN_ABOVE = 96  # of 255: fainter edges are shadow and blur


def outline_of(image: Image.Image) -> tuple[tuple[float, float], ...]:
    """(left, right) of what is opaque in 64 bands from head to foot, as shares of the width; (0, 0) for none."""
    alpha = np.asarray(alpha_of(image))
    out = []
    for band in np.array_split(alpha, min(BANDS, len(alpha))):
        across = np.flatnonzero((band > SEEN_ABOVE).any(axis=0))
        wide = alpha.shape[1]
        out.append(
            (round(float(across[0]) / wide, 4), round(float(across[-1] + 1) / wide, 4)) if len(across) else (0.0, 0.0)
        )
    return tuple(out)
