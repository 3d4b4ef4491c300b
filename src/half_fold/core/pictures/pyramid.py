"""Reduced copies of pictures, made once by their content and kept in the user's cache folder.

They are in sRGB, as they are shown; a whole picture is read but once for all of them.
"""

import os
import tempfile
from contextlib import suppress
from pathlib import Path

import platformdirs
from PIL import Image

from half_fold.core.pictures.bring import ENOUGH, load_pixels
from half_fold.core.pictures.colour import to_screen
from half_fold.core.pictures.resize import resized

STEPS = (160, 800, ENOUGH)  # pixels along the longer side
MOST_OCTETS = 4_000_000_000
QUALITY = 85


def copies_folder() -> Path:
    """Where the copies lie."""
    return platformdirs.user_cache_path("half-fold") / "pictures"


def step_for(pixels: float) -> int:
    """The copy that serves so many pixels along the longer side: the largest where none does."""
    return next((step for step in STEPS if step >= pixels), STEPS[-1])


def reduced(path: Path, digest: str, step: int) -> Image.Image:
    """The copy of at most ``step`` pixels of the picture in a file, whose content is ``digest``.

    All that are lacking are made where it has to be. Problem where the picture cannot be read.
    """
    kept = _kept(digest, step)
    if kept is not None:
        return kept
    return make_copies(load_pixels(path, STEPS[-1]), digest)[step]


def _kept(digest: str, step: int) -> Image.Image | None:
    """A copy as it is kept; None where there is none, or it is damaged."""
    for suffix in (".jpg", ".webp"):
        with suppress(OSError, ValueError, SyntaxError):
            image = Image.open(_file(digest, step, suffix), formats=["JPEG", "WEBP"])
            image.load()
            return image
    return None


def _file(digest: str, step: int, suffix: str) -> Path:
    return copies_folder() / digest[:2] / f"{digest}-{step}{suffix}"


def make_copies(image: Image.Image, digest: str) -> dict[int, Image.Image]:
    """Make and keep all copies of a picture that has been read; one that cannot be kept is given all the same."""
    made, largest = {}, image
    for step in reversed(STEPS):
        largest = at_most(largest, step)
        if step == STEPS[-1]:
            largest = to_screen(largest)
        made[step] = largest
        with suppress(OSError):
            _keep(largest, digest, step)
    return made


def at_most(image: Image.Image, step: int) -> Image.Image:
    """The picture with no more than ``step`` pixels along its longer side."""
    longer = max(image.size)
    if longer <= step:
        return image
    wide, high = (max(1, round(side * step / longer)) for side in image.size)
    return resized(image, (wide, high))


def _keep(image: Image.Image, digest: str, step: int) -> None:
    """Write a copy, whole or not at all; where it is cut short by a fall of the machine it is made anew."""
    suffix, kind = (".webp", "WEBP") if image.mode == "RGBA" else (".jpg", "JPEG")
    file = _file(digest, step, suffix)
    file.parent.mkdir(parents=True, exist_ok=True)
    handle, name = tempfile.mkstemp(dir=file.parent)
    try:
        with os.fdopen(handle, "wb") as stream:
            image.save(stream, kind, quality=QUALITY)
        Path(name).replace(file)
    finally:
        Path(name).unlink(missing_ok=True)


def tidy(most: int = MOST_OCTETS) -> None:
    """Let go of the copies that were longest not read, once they take more than ``most`` octets."""
    tidy_folder(copies_folder(), most)


def tidy_folder(folder: Path, most: int) -> None:
    """Let go of the files in the folders of a folder that were longest not read, until they take ``most`` octets."""
    files = [(file.stat(), file) for file in folder.glob("*/*") if file.is_file()]
    total = sum(state.st_size for state, _ in files)
    for state, file in sorted(files, key=lambda each: each[0].st_atime):
        if total <= most:
            return
        file.unlink(missing_ok=True)
        total -= state.st_size
