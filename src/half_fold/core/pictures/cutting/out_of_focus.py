"""An edge out of focus: an outline, and how far it is blurred about each place.

Where shares rise as evenly as those of a sharp edge that is blurred do, it is taken for just that, since the grain of
single pixels says nothing of it.
"""

import numpy as np

from half_fold.core.pictures.cutting.two_colours import COARSE, Colours, colours_of, shares_of
from half_fold.core.pictures.rasters.rasters import Floats, Where, blurred, enlarged, far_in, fewer, holding

ROUNDS = 4
BLURS = 1.0, 2.0, 4.0, 6.0, 9.0, 13.0, 18.0, 24.0, 32.0, 44.0, 60.0  # deviations of blurred edges that are tried
ALONG = 0.04  # of the longer side along which an edge is blurred alike
SMOOTH = 0.012  # of the longer side: an outline is no finer
BESIDE, LEAST_STEP = 5.0, 0.03  # pixels beside an edge that are looked at, and from which step on it is a sharp one
LEAST_BLUR, ALIKE = 3.5, 0.045  # from there on, and as near to its shares, an edge is a blurred one


def as_outline(small: Floats, colours: Colours, core: Where, found: Where) -> tuple[Floats, Floats]:
    """The shares of an outline blurred as far as what is seen, and, 0 to 1, where the edge is such a one.

    It is none where the edge as it was ``found`` is a sharp one: there a subject only grows darker towards it.
    """
    side = max(core.shape)
    made = np.zeros(core.shape, np.float32)
    for _ in range(ROUNDS):
        shares: Floats = shares_of(small, colours).clip(0, 1)
        inside = holding(blurred(shares, 3.0) > 0.5, core)
        inside = holding(blurred(inside.astype(np.float32), SMOOTH * side) > 0.5, core)
        if not inside.any() or inside.all():
            return made, np.zeros_like(made)
        away: Floats = far_in(inside) - far_in(~inside) + np.where(inside, np.float32(-0.5), np.float32(0.5))
        blur = _blur_along(shares, away, side)
        made = _risen(away / blur)
        colours = colours_of(small, made, np.ones_like(made))
    near: Floats = (np.abs(away) < 2 * blur).astype(np.float32)
    off = _about(near * (blurred(shares, 1.0) - made) ** 2, ALONG * side) / _about(near, ALONG * side)
    is_alike = (blur > LEAST_BLUR) & (off < ALIKE**2)
    is_blurred = is_alike & (_step_at(small, colours, made, found) < LEAST_STEP)
    return made, blurred(is_blurred.astype(np.float32), SMOOTH * side)


def _step_at(small: Floats, colours: Colours, shares: Floats, found: Where) -> Floats:
    """How far the colour leaps across an edge, about each place, beyond what shares and colours say, of 1."""
    high, wide = shares.shape
    front, behind = (enlarged(field, (wide, high)) for field in colours)
    besides = small - behind - shares[..., None] * (front - behind)
    sides = []
    for where in (found, ~found):
        away = far_in(where)
        near: Floats = ((away > 1) & (away <= BESIDE)).astype(np.float32)
        weight = _about(near, ALONG * max(wide, high))
        sides.append([_about(besides[..., n] * near, ALONG * max(wide, high)) / weight for n in range(3)])
    return np.asarray(np.sqrt(sum((one - other) ** 2 for one, other in zip(*sides, strict=True))), np.float32)


def _blur_along(shares: Floats, away: Floats, side: int) -> Floats:
    """The deviation of an edge's blur about each place, in pixels: the one from which shares differ least.

    ``away`` is how far each pixel lies within the outline, less than 0 outside.
    """
    high, wide = shares.shape
    size = max(1, wide // COARSE), max(1, high // COARSE)
    shares, away, at_edge = (fewer(each, size) for each in (shares, away, (np.abs(away) < 3).astype(np.float32)))
    reach = ALONG * side / COARSE
    least, best = np.full_like(shares, np.inf), np.zeros_like(shares)
    for blur in BLURS:
        near = np.abs(away) < 2.5 * max(blur, 8.0)
        about = blurred(np.where(near, (shares - _risen(away / blur)) ** 2, 0).astype(np.float32), reach)
        is_less = about < least
        least[is_less], best[is_less] = about[is_less], np.log(blur)
    deviation: Floats = _about(best * at_edge, reach) / _about(at_edge, reach)
    made: Floats = np.exp(enlarged(deviation, (wide, high)))
    return made


def _about(values: Floats, reach: float) -> Floats:
    """The mean of values about each place, and a little of that of all of them, which counts where there are none."""
    made: Floats = blurred(values, reach) + np.float32(1e-4) * values.mean() + np.float32(1e-12)
    return made


def _risen(ways: Floats) -> Floats:
    """The share at so many deviations of its blur inside an edge: the normal distribution, to 0.0002."""
    ways = ways.clip(-6, 6)
    return np.asarray(1 / (1 + np.exp(ways * (-1.5976 - 0.07056 * ways * ways))), np.float32)
