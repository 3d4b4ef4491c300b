"""Subject and ground as two colours that change slowly, and how much of each pixel is the one and the other.

The colours about a place follow from the shares by least squares, the shares from where a pixel lies between the two.
"""

from typing import NamedTuple

import numpy as np

from half_fold.core.measure.opencv import cv2
from half_fold.core.pictures.rasters.rasters import Floats, blurred, enlarged, fewer

COARSE = 4  # pixels, of a small copy, to one of a field of colours
REACHES = 0.3, 0.12, 0.06, 0.03  # of the longer side: so far colours are looked for, each time from the one before
PER_REACH = 3.0  # points of a field within the reach of its colours
HOLDS = 0.02  # how much a colour keeps of the one found from farther away
FINEST, GRAIN = 2, 0.06  # pixels within which shares are smoothed where they differ by no more than grain does
UNSURE = 0.08  # less than that of subject is none, and less than that of ground none


class Colours(NamedTuple):
    """The colour of the subject and of its ground about each place, as fields coarser than the picture."""

    front: Floats
    behind: Floats


def colours_of(small: Floats, shares: Floats, weights: Floats) -> Colours:
    """The two colours that, mixed as the shares say, come nearest to what is seen about each place.

    From far to near; where little is seen of one of them, it stays as it was from farther away.
    """
    high, wide = shares.shape
    size = max(1, wide // COARSE), max(1, high // COARSE)
    front, behind = weights * shares, weights * (1 - shares)
    told = [
        fewer(each, size)
        for each in (
            front, behind, front * shares, front * (1 - shares), behind * (1 - shares),
            front[..., None] * small, behind[..., None] * small,
        )
    ]  # fmt: skip
    found: Colours | None = None
    for reach in REACHES:
        coarser = max(1.0, reach * max(size) / PER_REACH)  # a field that is smooth has no need of more
        few = max(1, round(size[0] / coarser)), max(1, round(size[1] / coarser))
        sigma = reach * max(few)
        one, two, a, b, c, p, q = (blurred(fewer(each, few), sigma) for each in told)
        holds = HOLDS if found is not None else 1e-3
        if found is None:
            before = Colours(p / (one[..., None] + 1e-6), q / (two[..., None] + 1e-6))
        else:
            before = Colours(enlarged(found.front, few), enlarged(found.behind, few))
        a, c = (a + holds)[..., None], (c + holds)[..., None]
        p, q = p + holds * before.front, q + holds * before.behind
        across = b[..., None]
        whole = a * c - across**2
        found = Colours((c * p - across * q) / whole, (a * q - across * p) / whole)
    assert found is not None
    return found


def shares_of(seen: Floats, colours: Colours) -> Floats:
    """Where each pixel lies on the way from the ground's colour to the subject's, little beyond either."""
    front, behind = (enlarged(field, seen.shape[1::-1]) for field in colours)
    return shares_between(seen, front, behind)


def shares_between(seen: Floats, front: Floats, behind: Floats) -> Floats:
    way = front - behind
    share = products(seen - behind, way) / np.maximum(products(way, way), 1e-4)
    return np.asarray(share.clip(-0.2, 1.2), np.float32)


def products(one: Floats, other: Floats) -> Floats:
    """The product of the colours of each pixel."""
    return np.asarray(np.einsum("ijk,ijk->ij", one, other), np.float32)


def without_grain(shares: Floats) -> Floats:
    """Shares smoothed where they differ by no more than grain, and left where they differ by more."""
    size = (2 * FINEST + 1, 2 * FINEST + 1)
    mean = cv2.blur(shares, size)
    spread = np.maximum(cv2.blur(shares * shares, size) - mean * mean, 0)
    slope = spread / (spread + np.float32(GRAIN**2))
    return np.asarray(cv2.blur(slope, size) * shares + cv2.blur((1 - slope) * mean, size), np.float32)


def surer(shares: Floats, unsure: float = UNSURE) -> Floats:
    """What is nearly all subject is all of it, and what is hardly any is none: the grain of a picture is no edge."""
    made: Floats = ((shares - unsure) / (1 - 2 * unsure)).clip(0, 1)
    return made
