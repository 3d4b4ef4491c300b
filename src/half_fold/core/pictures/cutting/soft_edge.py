"""Edges that end softly: hair and fur, pixel by pixel, and what lies out of focus.

How much of a pixel is subject, and which colours subject and ground have there, follow from one another: each is found
from the other in turn, beginning with what is certain.
"""

import numpy as np
import numpy.typing as npt

from half_fold.core.measure.opencv import cv2
from half_fold.core.pictures.cutting.out_of_focus import as_outline
from half_fold.core.pictures.cutting.two_colours import (
    FINEST,
    REACHES,
    UNSURE,
    Colours,
    colours_of,
    products,
    shares_between,
    shares_of,
    surer,
    without_grain,
)
from half_fold.core.pictures.rasters.rasters import Floats, Where, blurred, enlarged, far_in, holding

Octets = npt.NDArray[np.uint8]

SIDE = 700  # pixels of the longer side on which colours are found
CORE = 0.75  # of the way in to the middle of a subject: from there on it is wholly itself
RIM = 0.08  # of the longer side: so far in, hair may leave a subject open
FAR, LEAST_FAR = 0.6, 20.0  # as far out, in such ways and in pixels, is nothing of it
ROUNDS = 8
TOLD_APART = 6.0  # times their own variance the colours of subject and ground are apart, or an edge cannot be told
VARIES = 3.0  # how much that variance counts where it is told place by place
INSIDE, LEFT_ABOUT = 3.0, 0.04  # pixels within what was found, and of the longer side: so far about it is looked at it
LITTLE = 0.0064  # of that, which counts as wholly left where nothing was found near
LEAST_LEFT, MOST_LEFT = 0.3, 0.4  # how much of it colours have to leave to the subject
STRIP = 512  # rows at full fineness at a time


def with_soft_edge(pixels: Octets, subject: Where, shares: Floats, has_hair: bool) -> Floats:
    """The shares of a subject (0 to 1, of each pixel), and those of its soft edge wherever that can be told.

    ``subject`` is where it was found, in coarser pixels. What is out of focus is known by itself; of hair it has to be
    said that there is some, since what is thin and light may belong to the ground as well.
    """
    high, wide = pixels.shape[:2]
    scale = min(1.0, SIDE / max(wide, high))
    size = max(1, round(wide * scale)), max(1, round(high * scale))
    small: Floats = np.asarray(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA), np.float32) / np.float32(255)
    found = cv2.resize(subject.astype(np.float32), size, interpolation=cv2.INTER_LINEAR) > 0.5
    inner = far_in(found)
    deep = float(inner.max())
    core = inner > CORE * deep
    far = far_in(~found) > max(LEAST_FAR, FAR * deep)
    if not core.any() or not far.any():
        return shares
    made = shares.copy()
    if has_hair:
        rim = inner > min(CORE * deep, RIM * max(size))
        colours, belongs = _unmixed(small, _begun(small, found, rim, far), rim, far)
        fine = _at_full_size(pixels, colours, rim.astype(np.float32), belongs)
        _lay(made, fine, _trust(small, colours, found, rim, far))
    found = holding(found, core)
    colours = _begun(small, found, core, far)
    if _are_told_apart(small, colours, core, far):
        colours, _ = _unmixed(small, colours, core, far)
        _lay(made, *as_outline(small, colours, core, found))
    return made


def _lay(made: Floats, other: Floats, share: Floats) -> None:
    """Lay other shares over those made, each as far as its place says; by strips of rows."""
    high, wide = made.shape
    for row in range(0, high, STRIP):
        rows = slice(row, min(row + STRIP, high))
        how = enlarged(share, (wide, high), rows)
        if how.any():
            part = other[rows] if other.shape == made.shape else enlarged(other, (wide, high), rows)
            made[rows] += how * (part - made[rows])


def _begun(small: Floats, found: Where, core: Where, far: Where) -> Colours:
    """The colours of subject and ground as what is certain alone tells them."""
    return colours_of(small, found.astype(np.float32), (core | far) + np.float32(1e-3))


def _unmixed(small: Floats, colours: Colours, core: Where, far: Where) -> tuple[Colours, Floats]:
    """The colours of subject and ground, each found from the shares in turn; and how far the subject reaches."""
    for _ in range(ROUNDS):
        shares = surer(without_grain(shares_of(small, colours)))
        shares[core], shares[far] = 1, 0
        colours = colours_of(small, shares, np.ones_like(shares))
    belongs = holding(shares > UNSURE, core)
    return colours, cv2.dilate(belongs.astype(np.uint8), np.ones((5, 5), np.uint8)).astype(np.float32)


def _trust(small: Floats, colours: Colours, found: Where, core: Where, far: Where) -> Floats:
    """How far shares can be told about each place, 0 to 1.

    That is by how far colours are apart, and how much they vary; and by how much of what was found to be subject they
    leave to it, for where there is little the subject has other colours there than elsewhere.
    """
    in_front, at_back, way = _differences(small, colours)
    sigma = REACHES[2] * max(core.shape)
    varies = np.zeros_like(way)
    for differs, where in ((in_front, core), (at_back, far)):
        weight = where.astype(np.float32)
        varies += blurred(differs * weight, sigma) / (blurred(weight, sigma) + np.float32(1e-4))
    times = way / (VARIES * varies + np.float32(0.003))
    inside = (far_in(found) > INSIDE).astype(np.float32)
    sigma = LEFT_ABOUT * max(core.shape)
    left = blurred(shares_of(small, colours).clip(0, 1) * inside + LITTLE, sigma)
    left = left / (blurred(inside, sigma) + np.float32(LITTLE))
    trust: Floats = ((times - 3) / 3).clip(0, 1) * ((left - LEAST_LEFT) / (MOST_LEFT - LEAST_LEFT)).clip(0, 1)
    return trust


def _are_told_apart(small: Floats, colours: Colours, core: Where, far: Where) -> bool:
    """Whether subject and ground each keep to their own colours, as against how far those are apart."""
    in_front, at_back, way = _differences(small, colours)
    spread = in_front[core].mean() + at_back[far].mean()
    apart = way[~(core | far)]
    return bool(len(apart)) and float(np.median(apart)) > TOLD_APART * float(spread)


def _differences(small: Floats, colours: Colours) -> tuple[Floats, Floats, Floats]:
    """The squares of how far each pixel is from the subject's colour and from the ground's, and those from another."""
    front, behind = (enlarged(field, small.shape[1::-1]) for field in colours)
    in_front, at_back, way = (products(each, each) for each in (small - front, small - behind, front - behind))
    return in_front, at_back, way


def _at_full_size(pixels: Octets, colours: Colours, core: Floats, seen: Floats) -> Floats:
    """The shares of the picture's own pixels, by strips of rows: 1 in the core, and 0 where nothing of it was seen."""
    high, wide = pixels.shape[:2]
    made = np.empty((high, wide), np.float32)
    for row in range(0, high, STRIP):
        begins, ends = max(0, row - 2 * FINEST), min(high, row + STRIP + 2 * FINEST)
        rows = slice(begins, ends)
        part = pixels[rows].astype(np.float32) / np.float32(255)
        front, behind = (enlarged(field, (wide, high), rows) for field in colours)
        shares = surer(without_grain(shares_between(part, front, behind)))
        shares *= enlarged(seen, (wide, high), rows)
        shares = np.maximum(shares, enlarged(core, (wide, high), rows))
        made[row : row + STRIP] = shares[row - begins : row - begins + STRIP]
    return made
