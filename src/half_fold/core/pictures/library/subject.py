"""Where the subject of a picture is likely to be: a proposal for its focus, to be moved by who sees better."""

from functools import lru_cache
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.measure.opencv import cv2
from half_fold.core.pictures.colour.colour import lab_of_picture

Floats = npt.NDArray[np.float64]

FACES_AT, LEAST_FACE, MOST_FACES = 480, 0.06, 12  # pixels that faces are looked for at, and how large they are at least
SMALL = 64  # of what is transformed
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


def faces_in(image: Image.Image) -> tuple[tuple[float, float, float, float], ...]:
    """What looks like faces (left, top, right, bottom as shares), the largest first; none where no cascade is there.

    By a cascade of OpenCV's own (Viola and Jones, 2001) that hardly ever takes for a face what is none.
    """
    cascade = _cascade()
    if cascade is None:
        return ()
    small = image.convert("L")
    small.thumbnail((FACES_AT, FACES_AT), Image.Resampling.BILINEAR)
    wide, high = small.size
    least = max(20, round(LEAST_FACE * max(wide, high)))
    found = cascade.detectMultiScale(np.asarray(small), 1.15, 5, minSize=(least, least))
    boxes = sorted(((int(x), int(y), int(side)) for x, y, side, _ in found), key=lambda box: -box[2])
    return tuple(
        (round(x / wide, 3), round(y / high, 3), round((x + side) / wide, 3), round((y + side) / high, 3))
        for x, y, side in boxes[:MOST_FACES]
    )


@lru_cache(1)
def _cascade() -> cv2.CascadeClassifier | None:
    file = Path(cv2.__file__).parent / "data" / "haarcascade_frontalface_alt2.xml"
    return cv2.CascadeClassifier(str(file)) if file.is_file() else None


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
