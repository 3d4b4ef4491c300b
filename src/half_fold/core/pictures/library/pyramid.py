"""Reduced copies of pictures, made once by their content and kept in the user's cache folder.

They are in sRGB, as they are shown. What is looked at of every picture is made as it comes, in as little time as a
JPEG of many pixels takes to be read at a quarter of them; the finest copy where one is drawn closer, or cut.
"""

import os
import tempfile
from contextlib import suppress
from pathlib import Path
from typing import Literal

import numpy as np
import platformdirs
from PIL import Image

from half_fold.core.pictures.colour.colour import to_screen
from half_fold.core.pictures.library.bring import ENOUGH, SMALL, SOON, load_pixels
from half_fold.core.pictures.rasters.inks_with_alpha import ALPHA
from half_fold.core.pictures.rasters.resize import resized

Step = Literal[160, 750, 2400]  # pixels along the longer side
STEPS: tuple[Step, Step, Step] = (SMALL, SOON, ENOUGH)
MOST_OCTETS = 4_000_000_000
QUALITY = 85
_AVERAGED = ("L", "RGB", "CMYK")  # whose pixels may be averaged as they are


def copies_folder() -> Path:
    """Where the copies lie."""
    return platformdirs.user_cache_path("half-fold") / "pictures"


def step_for(pixels: float) -> Step:
    """The copy that serves so many pixels along the longer side: the largest where none does."""
    return next((step for step in STEPS if step >= pixels), STEPS[-1])


def reduced(path: Path, digest: str, step: Step) -> Image.Image:
    """The copy of at most ``step`` pixels of the picture in a file, whose content is ``digest``.

    Where it has to be made, so is what is coarser and lacking. Problem where the picture cannot be read.
    """
    kept = kept_copy(digest, step)
    if kept is not None:
        return kept
    return make_copies(load_pixels(path, SOON if step <= SOON else ENOUGH), digest, step)[step]


def kept_copy(digest: str, step: int) -> Image.Image | None:
    """A copy as it is kept, which takes no time to speak of; None where there is none, or it is damaged."""
    for suffix in (".jpg", ".webp"):
        with suppress(OSError, ValueError, SyntaxError):
            image = Image.open(_file(digest, step, suffix), formats=["JPEG", "WEBP"])
            image.load()
            return image
    return None


def _is_kept(digest: str, step: int) -> bool:
    return any(_file(digest, step, suffix).is_file() for suffix in (".jpg", ".webp"))


def _file(digest: str, step: int, suffix: str) -> Path:
    return copies_folder() / digest[:2] / f"{digest}-{step}{suffix}"


def make_copies(image: Image.Image, digest: str, finest: int = SOON) -> dict[int, Image.Image]:
    """Make and keep the copies of a picture that has been read: up to the ``finest``, and what else it has pixels for.

    One that is kept already stays; one that cannot be kept is given all the same.
    """
    made, largest = dict[int, Image.Image](), image
    for step in reversed(STEPS):
        if step > max(finest, *image.size) or (step != finest and _is_kept(digest, step)):
            continue
        largest = at_most(largest, step)
        if not made:
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
    if step <= SOON or image.mode not in _AVERAGED or ALPHA in image.info:
        return resized(image, (wide, high))
    from half_fold.core.measure.opencv import (
        cv2,  # which pays for many pixels only: it takes a tenth of a second to load, and a window is to open first
    )

    by = cv2.INTER_AREA if longer > 2 * step else cv2.INTER_LINEAR  # which then takes in every pixel, in a seventh
    made = Image.fromarray(cv2.resize(np.asarray(image), (wide, high), interpolation=by), image.mode)
    made.info = image.info
    return made


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
