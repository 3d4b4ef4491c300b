"""Pictures as they went into a press file, kept in the user's cache folder for the next file they go into unchanged."""

import hashlib
import os
import tempfile
from contextlib import suppress
from pathlib import Path

import msgspec
import platformdirs
from msgspec import Struct

from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.pyramid import tidy_folder
from half_fold.core.pictures.rasters.mask_files import masks_folder
from half_fold.core.press.pdf.seen import PicturePart
from half_fold.core.publication.records import Brushed, Picture, Treatment

MADE_BY = 1  # to be raised whenever the same picture would be made otherwise
MOST_OCTETS = 2_000_000_000
_DIGEST = 32


class MadeImage(Struct, frozen=True):
    """A picture as it goes into the file: its octets, what they are, and those of its alpha (packed), if it has one."""

    octets: bytes
    size: tuple[int, int]
    bits: int
    inks: int
    is_jpeg: bool
    alpha: bytes | None = None


def image_key(folder: Path, picture: Picture, part: PicturePart, profile: bytes, limit: float) -> str:
    """What tells a picture as it is pressed: its file and its masks as they are now, and all that is done to it.

    Problem where the file has gone.
    """
    files = [picture_file(folder, picture)]
    files += [masks_folder(folder) / name for name in _masks(picture, parse_drawn_key(part.picture)[1])]
    states = [(file.stat().st_mtime_ns, file.stat().st_size) if file.exists() else (0, 0) for file in files]
    told = (MADE_BY, picture.digest, picture.mask, picture.inks, part.key, limit, states, list(map(str, files)))
    return hashlib.sha256(repr(told).encode() + profile).hexdigest()


def _masks(picture: Picture, treatment: Treatment | None) -> list[str]:
    """The files beside the picture's own that it is made with."""
    names = [picture.mask] if picture.mask else []
    if treatment is not None:
        regions = [*(area.where for area in treatment.areas), treatment.seen]
        names += [patch.file for patch in treatment.patches]
        names += [region.file for region in regions if isinstance(region, Brushed)]
    return names


def pressed_folder() -> Path:
    """Where they lie."""
    return platformdirs.user_cache_path("half-fold") / "pressed"


def find_image(key: str) -> MadeImage | None:
    """The picture as it was made before; None where it was not, or is not whole any more."""
    with suppress(OSError, msgspec.MsgspecError):
        file = _file(key)
        content = file.read_bytes()
        if hashlib.sha256(content[_DIGEST:]).digest() == content[:_DIGEST]:
            os.utime(file)
            return msgspec.msgpack.decode(content[_DIGEST:], type=MadeImage)
    return None


def keep(key: str, made: MadeImage) -> None:
    """Keep a picture for the next time, whole or not at all; where there is no room it is made anew."""
    content, file = msgspec.msgpack.encode(made), _file(key)
    with suppress(OSError):
        file.parent.mkdir(parents=True, exist_ok=True)
        handle, name = tempfile.mkstemp(dir=file.parent)
        try:
            with os.fdopen(handle, "wb") as stream:
                stream.write(hashlib.sha256(content).digest() + content)
            Path(name).replace(file)
        finally:
            Path(name).unlink(missing_ok=True)


def tidy_images() -> None:
    """Let go of those that were longest not used, once they take too much room."""
    tidy_folder(pressed_folder(), MOST_OCTETS)


def _file(key: str) -> Path:
    return pressed_folder() / key[:2] / key
