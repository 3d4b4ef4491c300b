"""What a picture's file says of itself without being read whole, and how much ink its darkest parts lay."""

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.bring import load_pixels, open_picture, picture_file
from half_fold.core.pictures.colour import profile_name, to_press
from half_fold.core.publication.records import Picture

REDUCED = 600  # pixels along the longer side: enough to judge areas by
AREA = 0.001  # of the picture: what is smaller than that dries all the same


@dataclass(frozen=True, slots=True)
class Facts:
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


def most_ink(folder: Path, picture: Picture, profile: bytes) -> float | None:
    """The total ink (per cent) of a picture's darkest parts, on a reduced copy; None where it cannot be read."""
    try:
        path = picture_file(folder, picture)
        state = path.stat()
        return _most_ink(path, state.st_mtime_ns, state.st_size, profile, picture.inks)
    except (OSError, Problem):
        return None


@lru_cache(512)
def _most_ink(path: Path, _changed: int, _size: int, profile: bytes, inks: str) -> float:
    if open_picture(path).mode == "1":
        return 100.0
    image = load_pixels(path, REDUCED)
    image.thumbnail((REDUCED, REDUCED))
    made, alpha = to_press(image, profile, inks)
    if made.mode != "CMYK":
        return 100.0
    total = np.asarray(made, np.uint16).sum(2) / 2.55
    seen = total[np.asarray(alpha.resize(made.size)) > 0] if alpha is not None else total
    return float(np.quantile(seen, 1 - AREA)) if seen.size else 0.0
