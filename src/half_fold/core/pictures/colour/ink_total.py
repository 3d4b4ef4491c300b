"""Inks held to what a paper takes: less of the three colours, and as much more black as keeps the colour nearest."""

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.pictures.colour.colour import lab_of_ink_picture

Octets = npt.NDArray[np.uint8]
Floats = npt.NDArray[np.float64]
TRIED = 9  # amounts of black, from what there is to all of it
AT_ONCE = 400_000  # pixels


def held_to(inks: Octets, limit: float, profile: bytes) -> Octets:
    """Pixels of four inks (shape (..., 4), 255 is solid) none of which lay more than ``limit`` per cent together."""
    flat = inks.reshape(-1, 4)
    over = np.flatnonzero(flat.sum(1, dtype=np.uint16) > limit * 2.55)
    if not over.size:
        return inks
    made = flat.copy()
    for start in range(0, over.size, AT_ONCE):
        some = over[start : start + AT_ONCE]
        made[some] = _held(flat[some], limit * 2.55, profile)
    return made.reshape(inks.shape)


def _held(inks: Octets, most: float, profile: bytes) -> Octets:
    """Each as near to what it was as one of some amounts of black brings it."""
    wanted, black = _lab(inks, profile), inks[:, 3].astype(np.float64)
    colours = inks[:, :3].astype(np.float64)
    total = np.maximum(1.0, colours.sum(1))
    best, nearest = inks.copy(), np.full(len(inks), np.inf)
    for share in np.linspace(0, 1, TRIED):
        k = np.floor(np.minimum(black + share * (255 - black), most))
        scale = np.clip((most - k) / total, 0, 1)
        tried = np.concatenate([np.floor(colours * scale[:, None]), k[:, None]], 1).astype(np.uint8)
        away = np.linalg.norm(_lab(tried, profile) - wanted, axis=1)
        better = away < nearest - 1e-9
        best[better], nearest[better] = tried[better], away[better]
    return best


def change_by(inks: Octets, limit: float, profile: bytes) -> Floats:
    """How far (CIE 1976 colour difference) each pixel goes when it is held to a limit; shape (pixels,)."""
    flat = inks.reshape(-1, 4)
    change: Floats = np.linalg.norm(_lab(held_to(flat, limit, profile), profile) - _lab(flat, profile), axis=1)
    return change


def _lab(inks: Octets, profile: bytes) -> Floats:
    shown: Floats = lab_of_ink_picture(Image.fromarray(inks[None], "CMYK"), profile)[0]
    return shown
