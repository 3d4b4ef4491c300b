"""Vector art as pixels: for the picture drawer, palettes and what else looks at pictures; never for print."""

import math
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import Path
from half_fold.core.drawing.planes import Layer
from half_fold.core.drawing.tone import BLACK
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.vector.vector import Vector, outline_of_art
from half_fold.core.publication.records import Art, ArtGradient

Floats = npt.NDArray[np.float64]


def pixels_of(vector: Vector, long_side: int) -> Image.Image:
    """The art in sRGB with its alpha, so many pixels the long way."""
    scale = long_side / max(vector.width, vector.height)
    wide, high = max(1, round(vector.width * scale)), max(1, round(vector.height * scale))
    colour, alpha = np.zeros((high, wide, 3)), np.zeros((high, wide, 1))
    for art in vector.art:
        outline = outline_of_art(art)
        left, top, right, bottom = _window(outline.bounds, scale, wide, high)
        if left >= right or top >= bottom:
            continue
        area, where = Rect(left / scale, top / scale, right / scale, bottom / scale), np.s_[top:bottom, left:right]
        cover = Layer(area, scale, None).lay((Path(outline, BLACK),)).alpha[..., None] * art.opacity
        paint, opaque = _paint(art, scale, where)
        cover = cover * opaque
        colour[where] = colour[where] * (1 - cover) + paint * cover
        alpha[where] += cover - alpha[where] * cover
    plain = colour / np.maximum(alpha, 1e-6)
    octets = np.clip(np.dstack([plain, alpha]) * 255, 0, 255).round().astype(np.uint8)
    return Image.fromarray(octets, "RGBA")


def _window(bounds: Rect, scale: float, wide: int, high: int) -> tuple[int, int, int, int]:
    """The pixels that a shape may touch, and one round about: left, top, right, bottom."""
    left, top = (max(0, math.floor(edge * scale) - 1) for edge in bounds[:2])
    ends = zip(bounds[2:], (wide, high), strict=True)
    right, bottom = (min(most, math.ceil(edge * scale) + 1) for edge, most in ends)
    return left, top, right, bottom


def _paint(art: Art, scale: float, where: tuple[slice, slice]) -> tuple[Floats, Floats | float]:
    if art.gradient is None:
        return np.array(rgb_of(art.colour)) / 255, 1.0
    at = _along(art.gradient, scale, where)
    stops = art.gradient.stops
    places = [stop.at for stop in stops]
    channels = np.array([rgb_of(stop.colour) for stop in stops]) / 255
    paint = np.stack([np.interp(at, places, channels[:, axis]) for axis in range(3)], 2)
    return paint, np.interp(at, places, [stop.opacity for stop in stops])[..., None]


def _along(gradient: ArtGradient, scale: float, where: tuple[slice, slice]) -> Floats:
    back = Affine(scale, 0, 0, scale, 0, 0).after(Affine(*gradient.matrix)).inverse()
    down, across = np.mgrid[where] + 0.5
    x, y = back.a * across + back.c * down + back.e, back.b * across + back.d * down + back.f
    return np.asarray(x if gradient.way == "linear" else np.hypot(x, y))


def rgb_of(colour: str) -> Sequence[int]:
    """The three octets of ``#rrggbb``."""
    return [int(colour[at : at + 2], 16) for at in (1, 3, 5)]
