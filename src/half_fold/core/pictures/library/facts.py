"""What a picture's file says of itself without being read whole, and how much ink its darkest parts lay."""

from functools import lru_cache
from pathlib import Path

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import profile_name
from half_fold.core.pictures.colour.ink_total import change_by
from half_fold.core.pictures.colour.press_inks import to_press
from half_fold.core.pictures.library.bring import load_pixels, open_picture, picture_file
from half_fold.core.publication.records import Picture

REDUCED = 600  # pixels along the longer side: enough to judge areas by
AREA = 0.001  # of the picture: what is smaller than that dries all the same


class Facts(Struct, frozen=True):
    """Kind of pixels (as Pillow names it), and the profile it brings with it, as octets and by name."""

    mode: str
    profile: bytes = b""
    profile_name: str = ""

    @property
    def is_line_art(self) -> bool:
        return self.mode == "1"


def facts_of(folder: Path, picture: Picture) -> Facts | None:
    """What a picture's file says; None where it cannot be read."""
    try:
        return read_facts(folder, picture)
    except (OSError, Problem):
        return None


def read_facts(folder: Path, picture: Picture) -> Facts:
    """What a picture's file says. Problem or OSError where it cannot be read."""
    path = picture_file(folder, picture)
    state = path.stat()
    return _facts(path, state.st_mtime_ns, state.st_size)


@lru_cache(2048)
def _facts(path: Path, _changed: int, _size: int) -> Facts:
    image = open_picture(path)
    content = image.info.get("icc_profile") or b""
    try:
        name = profile_name(content) if content else ""
    except Exception:  # a profile that is none: LittleCMS raises what it likes
        content, name = b"", ""
    return Facts(image.mode, content, name)


class InkLaid(Struct, frozen=True):
    """The total ink (per cent) of a picture's darkest parts in print, and how far they go where it is held to a limit.

    ``change`` is a CIE 1976 colour difference: of what is done, or would be where the picture keeps inks of its own.
    """

    total: float
    change: float = 0.0


def most_ink(folder: Path, picture: Picture, profile: bytes, limit: float) -> InkLaid | None:
    """How much ink a picture lays where the paper takes so much, on a reduced copy; None where it cannot be read."""
    try:
        path = picture_file(folder, picture)
        state = path.stat()
        return _most_ink(path, state.st_mtime_ns, state.st_size, profile, picture.inks, limit)
    except (OSError, Problem):
        return None


@lru_cache(512)
def _most_ink(path: Path, _changed: int, _size: int, profile: bytes, inks: str, limit: float) -> InkLaid:
    if open_picture(path).mode == "1":
        return InkLaid(100.0)
    image = load_pixels(path, REDUCED)
    image.thumbnail((REDUCED, REDUCED))
    free, alpha = to_press(image, profile, inks)
    if free.mode != "CMYK":
        return InkLaid(100.0)
    pixels = np.asarray(free).reshape(-1, 4)
    if alpha is not None:
        pixels = pixels[np.asarray(alpha.resize(free.size)).reshape(-1) > 0]
    total = _among_the_darkest(pixels.sum(1) / 2.55)
    if total <= limit:
        return InkLaid(total)
    over = pixels[pixels.sum(1) > 2.55 * limit]
    change = _among_the_darkest(change_by(over, limit, profile))
    keeps_its_own = image.mode == "CMYK" and inks not in ("converted", "held")
    return InkLaid(total if keeps_its_own else limit, change)


def _among_the_darkest(figures: npt.NDArray[np.floating]) -> float:
    return float(np.quantile(figures, 1 - AREA)) if figures.size else 0.0
