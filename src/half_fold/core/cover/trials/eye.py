"""What eyes make of pixels: from afar, in grey, and without one of the three kinds of cones.

Sight from afar: an eye of usual sharpness (6/6) parts lines one minute of arc apart, and knows letters whose height is
five minutes (the test that opticians use). Eyes that lack a kind of cone: Machado, Oliveira and Fernandes, *A
physiologically-based model for simulation of color vision deficiency* (2009), the matrices of full severity.
"""

import math
from collections.abc import Iterator

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from PIL import Image, ImageCms

from half_fold.core.cover.trials.seen import Pixels
from half_fold.core.drawing.marks import DisplayList, Glyphs, leaves
from half_fold.core.measure.entry import MM
from half_fold.core.typesetting.faces.directions import as_read
from half_fold.core.typesetting.faces.faces import face

MINUTE = math.radians(1 / 60)
LETTER_MINUTES = 5.0
ARM_MM, SHOP_MM = 600.0, 3000.0
# Rows give red, green and blue of what is seen, of linear red, green and blue.
WITHOUT: dict[str, npt.NDArray[np.float64]] = {
    "no red cones": np.array(
        [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]]
    ),
    "no green cones": np.array(
        [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.011820, 0.042940, 0.968881]]
    ),
    "no blue cones": np.array(
        [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.303900]]
    ),
}
Reals = npt.NDArray[np.float64]


def linear(pixels: Pixels) -> Reals:
    """sRGB as light, 0 to 1 (IEC 61966-2-1)."""
    share = pixels.astype(float) / 255
    return np.asarray(np.where(share <= 0.04045, share / 12.92, ((share + 0.055) / 1.055) ** 2.4))


def coded(light: Reals) -> Pixels:
    """Light as sRGB."""
    share = np.clip(light, 0, 1)
    made = np.where(share <= 0.0031308, share * 12.92, 1.055 * share ** (1 / 2.4) - 0.055)
    return np.asarray(np.round(made * 255), np.uint8)


def without_cones(pixels: Pixels, cones: str) -> Pixels:
    """As it looks to an eye that has none of those ``cones`` (a key of WITHOUT)."""
    return coded(linear(pixels) @ WITHOUT[cones].T)


def in_grey(pixels: Pixels) -> Pixels:
    """Lightness L* alone, as a grey of the same lightness."""
    lab = ImageCms.profileToProfile(
        Image.fromarray(pixels), ImageCms.createProfile("sRGB"), ImageCms.createProfile("LAB"), outputMode="LAB"
    )
    assert lab is not None
    light = np.asarray(lab)[..., 0].astype(float) / 255 * 100
    above = (light + 16) / 116
    luminance = np.where(light > 8, above**3, light / 903.3)
    return np.repeat(coded(luminance)[..., None], 3, axis=2)


def from_afar(pixels: Pixels, scale: float, away: float) -> Pixels:
    """What is left of it ``away`` millimetres off; ``scale`` is its pixels to the millimetre.

    A point is spread to a minute of arc, which half of its light lies within.
    """
    from half_fold.core.measure.opencv import cv2

    spread = away * math.tan(MINUTE) * scale / 2.355  # the deviation of a bell that is so wide at half its height
    if spread < 0.2:
        return pixels
    return coded(np.asarray(cv2.GaussianBlur(linear(pixels), (0, 0), spread, borderType=cv2.BORDER_REPLICATE)))


def least_letter(away: float) -> float:
    """The height in millimetres of the smallest letters that are known so far away."""
    return away * math.tan(LETTER_MINUTES * MINUTE)


def farthest(height: float) -> float:
    """How far away, in millimetres, letters of that height are still known."""
    return height / math.tan(LETTER_MINUTES * MINUTE)


class SeenLine(Struct, frozen=True):
    """Words of one size in a block, with the height of their x in millimetres, and where they end below, in points."""

    words: str
    block: str
    height: float
    bottom: float


def lines_seen(marks: DisplayList, left: float, right: float) -> Iterator[SeenLine]:
    """The runs of letters between two places across, in the order they are drawn."""
    for mark in leaves(marks.marks):
        if isinstance(mark, Glyphs) and len(mark.gids) and mark.turn is None and left <= mark.reach[0] <= right:
            words = as_read(mark.texts).strip()
            if words:
                yield SeenLine(words, mark.origin.block, x_height(mark.face) * mark.size / MM, mark.baseline)


def x_height(key: str) -> float:
    """The height of a face's x, in ems; that of its first capital where it has none."""
    told = face(key)
    for letter in ("x", "H"):
        gids = told.shape(letter).gids
        top = -told.ink_of(int(gids[0]))[1] if len(gids) else 0.0
        if top > 0:
            return top
    return 0.5


def turned_runs(marks: DisplayList, left: float, right: float) -> Iterator[Glyphs]:
    """Runs that are turned and come to lie between two places across, as on a spine."""
    for mark in leaves(marks.marks):
        if isinstance(mark, Glyphs) and len(mark.gids) and mark.turn is not None:
            x, _ = mark.turn.of(float(mark.xs[0]), mark.baseline)
            if left - 1 <= x <= right + 1:
                yield mark
