"""Cutting a subject out of its ground: a rough box, strokes that say what belongs to it, and an edge at full fineness.

The subject is found by GrabCut (Rother, Kolmogorov, Blake, 2004) on the box and a quarter more, made small; along the
edge that it finds, how much of each pixel is subject follows from the colours of both, smoothed as the picture itself
is (He, Sun, Tang, Guided image filtering, 2010).
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.measure.opencv import cv2
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.cutting.soft_edge import with_soft_edge
from half_fold.core.pictures.cutting.two_colours import surer
from half_fold.core.pictures.rasters.rasters import Floats, Where, far_in

SMALL = 400  # pixels of the longer side on which the subject is found
MORE = 0.25  # of the box, round about: what the ground is learned from
FIRST, NEXT = 3, 1  # rounds at first, and for each further stroke
BAND = 4.0  # small pixels on either side of the edge in which it is refined
SOFT_BAND = 16.0  # the same where hair or fur ends softly
SEED = 7  # GrabCut begins with chance, and would else answer otherwise each time
ALIKE = 0.3  # of the colours of subject and ground in common: from there on an edge is a guess
ALIKE_SAID = (
    "Subject and ground are much alike here: look along the edge, and draw over what is wrong. "
    "Glass is better seen through by the block's opacity."
)
_SHADES = 8, 16, 16  # of lightness, and of either way of colour, that are told apart
LEAST_BOX = 0.01  # of the picture's sides
UNSURE = 0.12
_GUIDED_EPS = 1e-4
_COARSE = 8  # colours of subject and ground are fields of an eighth of the fineness
Octets = npt.NDArray[np.uint8]


class Box(NamedTuple):
    """A part of a picture in shares of its width and height."""

    left: float
    top: float
    right: float
    bottom: float


class Cutting:
    """A subject being cut out of a picture in sRGB. Problem where the box is too small, or lies outside."""

    def __init__(self, image: Image.Image, box: Box) -> None:
        wide, high = image.size
        box = Box(max(0.0, box.left), max(0.0, box.top), min(1.0, box.right), min(1.0, box.bottom))
        if box.right - box.left < LEAST_BOX or box.bottom - box.top < LEAST_BOX:
            raise Problem("Draw a box round the whole subject; that one is too small.")
        more = (box.right - box.left) * MORE, (box.bottom - box.top) * MORE
        self.size = wide, high
        self.crop = (
            round(max(0.0, box.left - more[0]) * wide), round(max(0.0, box.top - more[1]) * high),
            round(min(1.0, box.right + more[0]) * wide), round(min(1.0, box.bottom + more[1]) * high),
        )  # fmt: skip
        self.pixels: Octets = np.asarray(image.convert("RGB").crop(self.crop))
        self.scale = min(1.0, SMALL / max(self.pixels.shape[:2]))
        across, down = (max(8, round(side * self.scale)) for side in self.pixels.shape[1::-1])
        small = np.asarray(cv2.resize(self.pixels, (across, down), interpolation=cv2.INTER_AREA), np.uint8)
        self._small: Octets = small[..., ::-1].copy()
        self._marks: Octets = np.full((down, across), cv2.GC_BGD, np.uint8)
        self._models = np.zeros((1, 65)), np.zeros((1, 65))
        self._tries = 0
        left, top = self._at(box.left, box.top)
        right, bottom = self._at(box.right, box.bottom)
        self._marks[top : max(bottom, top + 1), left : max(right, left + 1)] = cv2.GC_PR_FGD
        if not (self._marks == cv2.GC_BGD).any():  # the box is the whole picture: its rim is what the ground is like
            self._marks[[0, -1]] = self._marks[:, [0, -1]] = cv2.GC_BGD
        self._solve(FIRST, again=False)

    def _at(self, x: float, y: float) -> tuple[int, int]:
        """A place of the picture, in shares, on the small copy."""
        down, across = self._marks.shape
        at = ((x * self.size[0] - self.crop[0]) * self.scale, (y * self.size[1] - self.crop[1]) * self.scale)
        return min(max(round(at[0]), 0), across), min(max(round(at[1]), 0), down)

    def _solve(self, rounds: int, again: bool) -> None:
        ground = np.isin(self._marks, (cv2.GC_BGD, cv2.GC_PR_BGD))
        if ground.all() or not ground.any():
            return  # there is nothing left to be told apart
        cv2.setRNGSeed(SEED + self._tries)
        how = cv2.GC_EVAL if again else cv2.GC_INIT_WITH_MASK
        cv2.grabCut(self._small, self._marks, (0, 0, 1, 1), self._models[0], self._models[1], rounds, how)

    def stroke(self, places: Sequence[tuple[float, float]], keeps: bool, width: float) -> None:
        """A stroke through places of the picture, ``width`` of its longer side wide: this too, or not this."""
        mark = cv2.GC_FGD if keeps else cv2.GC_BGD
        thick = max(1, round(width * max(self.size) * self.scale))
        way = [self._at(*place) for place in places]
        for start, end in zip(way, way[1:] or way, strict=False):
            cv2.line(self._marks, start, end, mark, thick)
        self._solve(NEXT, again=True)

    def again(self) -> None:
        """Another try: what no stroke has said is sought anew in the box, from another beginning by chance."""
        self._tries += 1
        self._marks[self._marks == cv2.GC_PR_BGD] = cv2.GC_PR_FGD
        self._models[0][:] = self._models[1][:] = 0
        self._solve(FIRST, again=False)

    @property
    def is_alike(self) -> bool:
        """Whether subject and ground have so many colours in common that where the one ends is a guess."""
        lab = cv2.cvtColor(self._small, cv2.COLOR_BGR2LAB)
        shares = []
        for where in (self.subject, ~self.subject):
            counts = cv2.calcHist([lab], [0, 1, 2], where.astype(np.uint8), _SHADES, (0, 256) * 3)
            shares.append(counts / max(float(counts.sum()), 1.0))
        return float(np.minimum(*shares).sum()) > ALIKE

    @property
    def subject(self) -> Where:
        """What is found to be the subject, on the small copy of the part that is looked at."""
        found: Where = (self._marks == cv2.GC_FGD) | (self._marks == cv2.GC_PR_FGD)
        return found

    def preview(self) -> Image.Image:
        """The subject as a mask of the whole picture, small and hard-edged."""
        whole = Image.new("L", (max(1, round(self.size[0] * self.scale)), max(1, round(self.size[1] * self.scale))))
        at = round(self.crop[0] * self.scale), round(self.crop[1] * self.scale)
        whole.paste(Image.fromarray(self.subject.astype(np.uint8) * 255), at)
        return whole

    def mask(self, soft: bool = False) -> Image.Image:
        """How much of each pixel is subject, of the whole picture; ``soft`` says that it ends in hair, or in fur."""
        whole = Image.new("L", self.size)
        sharp = refined(self.pixels, self.subject, self.scale, SOFT_BAND if soft else BAND)
        alpha = with_soft_edge(self.pixels, self.subject, sharp, has_hair=soft)
        whole.paste(Image.fromarray(np.rint(alpha * 255).astype(np.uint8)), self.crop[:2])
        return whole


def refined(pixels: Octets, subject: Where, scale: float, band: float) -> Floats:
    """The edge of a subject found on a small copy, at the fineness of ``pixels``; from 0 to 1.

    Within a band about it each pixel is projected on the line from the ground's colour to the subject's, as far as they
    can be told apart; the rest is the small mask enlarged.
    """
    high, wide = pixels.shape[:2]
    large = cv2.resize(subject.astype(np.float32), (wide, high), interpolation=cv2.INTER_CUBIC)
    hard: Floats = np.asarray(large, np.float32).clip(0, 1)
    reach = max(1.0, band / scale)
    inner, outer = far_in(hard >= 0.5, cv2.DIST_MASK_3), far_in(hard < 0.5, cv2.DIST_MASK_3)
    colours: Floats = np.asarray(pixels, np.float32) / np.float32(255)
    near = (inner <= reach) & (outer <= reach)
    if not near.any():
        return hard.round()
    front, spread = _field(colours, inner > reach * 0.6)
    behind, noise = _field(colours, outer > reach * 0.6)
    between = front - behind
    length = (between**2).sum(-1)
    share = ((colours - behind) * between).sum(-1) / np.maximum(length, 1e-6)
    trust = length / (length + 0.01 + 3 * (spread + noise))
    clear = surer(share.clip(0, 1).astype(np.float32), UNSURE)
    alpha = np.where(near, trust * clear + (1 - trust) * hard, hard >= 0.5).astype(np.float32)
    smooth = surer(_guided(colours, alpha, max(2, round(reach / 4))), UNSURE)
    made: Floats = np.where(near, smooth, hard >= 0.5).astype(np.float32)
    return made


def _field(colours: Floats, where: Where) -> tuple[Floats, Floats]:
    """The colour an area has near each pixel, and how much it varies there: box filters normed by their weights."""
    high, wide = where.shape
    coarse = max(1, wide // _COARSE), max(1, high // _COARSE)
    weights = where.astype(np.float32)
    sums = [cv2.resize(part, coarse, interpolation=cv2.INTER_AREA) for part in
            (weights, colours * weights[..., None], colours**2 * weights[..., None])]  # fmt: skip
    size = max(3, round(max(coarse) * 0.12) | 1)
    filtered = [cv2.blur(part, (size, size)) for part in sums]
    for _ in range(3):  # where there is none of it near, from farther away
        wider = [cv2.blur(part, (size * 3 | 1, size * 3 | 1)) for part in filtered]
        lacking = filtered[0] < 1e-4
        filtered = [np.where(lacking if part.ndim == 2 else lacking[..., None], far, part)
                    for part, far in zip(filtered, wider, strict=True)]  # fmt: skip
    weight = np.maximum(filtered[0], 1e-6)[..., None]
    mean = filtered[1] / weight
    variance = np.maximum(filtered[2] / weight - mean**2, 0).sum(-1)
    size_of = (wide, high)
    return np.asarray(cv2.resize(mean, size_of), np.float32), np.asarray(cv2.resize(variance, size_of), np.float32)


def _guided(colours: Floats, alpha: Floats, radius: int) -> Floats:
    """A mask smoothed within ``radius``, and sharp where the picture is (guided by its lightness)."""
    guide: Floats = np.asarray(cv2.cvtColor(colours, cv2.COLOR_RGB2GRAY), np.float32)
    size = (2 * radius + 1, 2 * radius + 1)
    mean_g, mean_a = cv2.blur(guide, size), cv2.blur(alpha, size)
    slope = (cv2.blur(guide * alpha, size) - mean_g * mean_a) / (
        cv2.blur(guide * guide, size) - mean_g**2 + _GUIDED_EPS
    )
    shift = mean_a - slope * mean_g
    return np.asarray(cv2.blur(slope, size) * guide + cv2.blur(shift, size), np.float32)
