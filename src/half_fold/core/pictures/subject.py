"""Where the subject of a picture is likely to be: a proposal for its focus, to be moved by who sees better."""

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.pictures.colour import lab_of_picture

Floats = npt.NDArray[np.float64]

LOOKED_AT = 160  # pixels of the longer side of the reduced copy that is asked for
SMALL = 64  # and of what is transformed
SPREAD = 0.04  # what stands out is gathered over so much of the longer side
MIDDLE = 0.28  # how far from the middle a subject is expected: the deviation, as a share of each side
USUAL = 0.7  # so much of a picture is its ground
MOST = 0.4  # of the highest, from where on it counts


def subject_of(image: Image.Image) -> tuple[float, float]:
    """The point, across and down as shares, round which most of what stands out lies; the middle of a plain picture.

    What stands out is what the spectrum does not share with its own surroundings (the spectral residual of Hou and
    Zhang, 2007), of lightness and of both colours, weighted by nearness to the middle.
    """
    small = image.convert("RGB")
    small.thumbnail((SMALL, SMALL), Image.Resampling.BOX)
    lab = lab_of_picture(small)
    out = np.sum([_residual(lab[..., channel]) for channel in range(3)], axis=0)
    high, wide = out.shape
    down, across = (np.arange(high) + 0.5) / high, (np.arange(wide) + 0.5) / wide
    out = cv2.GaussianBlur(out, (0, 0), max(1.0, SPREAD * max(high, wide)))
    out = np.maximum(out - np.quantile(out, USUAL), 0)
    out = out * _near_middle(down)[:, None] * _near_middle(across)[None]
    if out.max() <= 0:
        return 0.5, 0.5
    weights = np.where(out >= MOST * out.max(), out, 0)
    total = weights.sum()
    return round(float(weights.sum(0) @ across / total), 2), round(float(weights.sum(1) @ down / total), 2)


def _residual(channel: Floats) -> Floats:
    """How much stands out, weighted by how much of the channel there is; nothing where it is plain."""
    contrast = float(channel.std())
    if contrast < 0.5:
        return np.zeros_like(channel)
    spectrum = np.fft.fft2(channel - channel.mean())
    log = np.log(np.abs(spectrum) + 1e-9)
    rest = np.exp(log - cv2.blur(log, (3, 3)) + 1j * np.angle(spectrum))
    found = np.abs(np.fft.ifft2(rest)) ** 2
    return np.asarray(found / found.mean() * contrast, np.float64)


def _near_middle(place: Floats) -> Floats:
    return np.exp(-(((place - 0.5) / MIDDLE) ** 2) / 2)
