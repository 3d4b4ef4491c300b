"""Soft edges: how a shape covers as a raster, blurred outwards and inwards, kept by what it is made from."""

import math
from collections.abc import Callable
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import Origin, Path, Veil
from half_fold.core.drawing.outline import Outline, turning
from half_fold.core.drawing.tone import Tone
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect

if TYPE_CHECKING:
    from PIL import Image

SIGMAS = 2.0  # a soft edge is so many standard deviations wide
FINE_PX = 8.0  # pixels to a standard deviation, at the least
LARGEST = 3_000_000  # pixels of a veil
MOST_FINE = 6.0  # pixels to the point
OVER = 2  # times as fine is a shape drawn before its edge is softened
BEYOND = 3.0  # standard deviations after which nothing is seen of a soft edge
GRAIN_PX = 144 / 72  # pixels to the point of grain
SEED, FEW = 14, 0xE0  # of its spots; and how few strengths they have, which keeps files small
_KEPT = 400
Octets = npt.NDArray[np.uint8]
Reals = npt.NDArray[np.float32]
Covers = tuple[Octets, Rect]  # how a shape covers, and where that lies
_veils: Keeper[Covers | None] = Keeper(_KEPT, 60_000_000, lambda found: found[0].nbytes if found is not None else 0)


def key_of_outline(shape: Outline) -> tuple[bytes, bytes]:
    """What tells one outline from another."""
    return shape.ops, shape.points.tobytes()


def soft(
    shape: Outline, blur: float, grown: float, off: tuple[float, float], tone: Tone, origin: Origin
) -> Path | Veil | None:
    """A shape moved by ``off``, in one tone, its edge ``blur`` points wide; sharp where that is nothing."""
    if blur <= 0.01:
        return Path(shape.through(Affine(e=off[0], f=off[1])), tone, None, origin)
    made = _spread(shape, blur, grown)
    if made is None:
        return None
    cover, where = made
    return Veil(cover, where.moved(*off), tone, origin)


def inward(shape: Outline, reach: float, tone: Tone, origin: Origin) -> Veil | None:
    """A tone that is full along a shape's edge and outside of it, and gone ``reach`` points further in."""

    def made(within: Reals) -> Reals:
        return np.asarray(np.minimum(1.0, 2 * (1 - within)), np.float32)

    return _veil(shape, ("in", reach), reach, made, tone, origin)


def feathered(shape: Outline, reach: float, tone: Tone, origin: Origin) -> Veil | None:
    """A tone that is nothing along a shape's edge and full from ``reach`` points further in."""

    def made(within: Reals) -> Reals:
        return np.asarray(np.maximum(0.0, 2 * within - 1), np.float32)

    return _veil(shape, ("feather", reach), reach, made, tone, origin)


def slopes(
    shape: Outline, width: float, way: tuple[float, float], tones: tuple[Tone, Tone], origin: Origin
) -> list[Veil]:
    """The edge of a shape as a slope ``width`` points wide: one tone facing the light, another turned away.

    ``way`` is the direction in which light falls, of length 1.
    """

    def facing(sign: int) -> Callable[[Reals], Reals]:
        def made(within: Reals) -> Reals:
            down, across = np.gradient(within)
            steep = sign * (across * way[0] + down * way[1])
            most = float(np.hypot(across, down).max()) or 1.0
            return np.asarray(np.clip(steep / most, 0.0, 1.0), np.float32)

        return made

    lit = (_veil(shape, ("slope", width, *way, sign), width, facing(sign), tone, origin)
           for sign, tone in zip((1, -1), tones, strict=True))  # fmt: skip
    return [each for each in lit if each is not None]


def grains(shape: Outline, share: float, tones: tuple[Tone, Tone], origin: Origin) -> list[Veil]:
    """Grain over a shape, of which ``share`` is from 0 to 1: lighter and darker spots, the same each time."""
    area = shape.bounds
    if area.is_empty():
        return []
    scale = min(GRAIN_PX, math.sqrt(LARGEST / (area.width * area.height)))
    wide, high = max(1, round(area.width * scale)), max(1, round(area.height * scale))

    def made(sign: int) -> Covers:
        noise = np.random.default_rng(SEED).standard_normal((high, wide), np.float32)
        cover = np.clip(sign * noise * 128 * share, 0, 255).astype(np.uint8) & FEW
        return cover, Rect(area.left, area.top, area.left + wide / scale, area.top + high / scale)

    covers = (_kept(shape, ("grain", share, sign), lambda sign=sign: made(sign)) for sign in (1, -1))  # type: ignore[misc]  # a default for what the loop changes
    return [Veil(*each, tone, origin) for each, tone in zip(covers, tones, strict=True) if each is not None]


def _kept(shape: Outline, what: tuple[object, ...], make: Callable[[], Covers | None]) -> Covers | None:
    return _veils.of((*key_of_outline(shape), *what), make)


def _veil(
    shape: Outline, what: tuple[object, ...], reach: float, made: Callable[[Reals], Reals], tone: Tone, origin: Origin
) -> Veil | None:
    """A veil made from how far within a shape each place is: a half at its edge, 1 from ``reach`` points further in."""

    def make() -> Covers | None:
        found = _spread(shape, reach, 0.0)  # once for both sides of a slope, and a shadow as soft
        if found is None:
            return None
        within, where = found
        return np.rint(255 * made(np.asarray(within, np.float32) / np.float32(255))).astype(np.uint8), where

    found = _kept(shape, what, make)
    return None if found is None else Veil(*found, tone, origin)


def _spread(shape: Outline, blur: float, grown: float) -> Covers | None:
    return _kept(shape, ("out", blur, grown), lambda: _blurred(shape, blur, grown))


def _blurred(shape: Outline, blur: float, grown: float) -> Covers | None:
    """How a shape with a soft edge covers, and where that lies."""
    sigma = blur / SIGMAS
    area = shape.bounds.grown(grown + BEYOND * sigma)
    if area.is_empty():
        return None

    from PIL import ImageFilter

    scale = min(MOST_FINE, FINE_PX / sigma, math.sqrt(LARGEST / (area.width * area.height)))
    image = _covered(shape, area, scale)
    if grown > 0:
        image = _spread_out(image, grown * scale)
    made = np.asarray(image.filter(ImageFilter.GaussianBlur(sigma * scale)))
    high, wide = made.shape
    return made, Rect(area.left, area.top, area.left + wide / scale, area.top + high / scale)


def _covered(shape: Outline, area: Rect, scale: float) -> "Image.Image":
    """How much of each pixel a shape covers: what runs as most of it does is solid, and what runs against that open."""
    from PIL import Image, ImageDraw

    wide, high = max(1, round(area.width * scale)), max(1, round(area.height * scale))
    image = Image.new("L", (wide * OVER, high * OVER))
    draw = ImageDraw.Draw(image)
    parts = [part for part in shape.flattened(0.2 / scale) if len(part) > 2]
    turns = [turning(part) for part in parts]
    way = sum(turns) >= 0
    for part, turn in zip(parts, turns, strict=True):
        places = (part - (area.left, area.top)) * (scale * OVER) - 0.5
        draw.polygon(list(map(tuple, places.tolist())), fill=255 if (turn >= 0) == way else 0, outline=128)
    return image.reduce(OVER)


def _spread_out(image: "Image.Image", by: float) -> "Image.Image":
    """What is covered, so many pixels further out: wherever some of it is near enough."""
    from PIL import ImageFilter

    return image.filter(ImageFilter.BoxBlur(by)).point([0, *[255] * 255])
