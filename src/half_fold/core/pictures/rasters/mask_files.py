"""Files of masks and patches: kept in the job beside its pictures, named by their content."""

import hashlib
import io
from functools import lru_cache
from pathlib import Path

from PIL import Image

from half_fold.core.measure.problem import Problem
from half_fold.core.store.atomic import write_whole
from half_fold.core.store.files import own_file, own_folder_of

FOLDER = "masks"


def masks_folder(pictures: Path) -> Path:
    """Where the masks of a job lie, by its folder of pictures."""
    return pictures.parent / FOLDER


def keep_in_masks(pictures: Path, image: Image.Image) -> str:
    """Write an image into the job; its file's name follows from its content. Problem where it cannot be written."""
    packed = io.BytesIO()
    image.save(packed, "PNG", compress_level=4)
    name = f"{hashlib.sha256(packed.getvalue()).hexdigest()[:16]}.png"
    folder = own_folder_of(pictures.parent, FOLDER)
    if not (folder / name).exists():
        write_whole(folder / name, packed.getvalue())
    return name


def read_from_masks(pictures: Path, file: str, of: str, mode: str = "L") -> Image.Image:
    """An image of the masks; ``of`` says what it is of. Problem where it has gone or is damaged."""
    path = own_file(masks_folder(pictures), file, "mask")
    try:
        state = path.stat()
        return _read(path, state.st_mtime_ns, state.st_size, mode)
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise Problem(f"The mask of {of} cannot be read; make it anew.") from error


@lru_cache(16)
def _read(path: Path, _changed: int, _size: int, mode: str) -> Image.Image:
    return Image.open(io.BytesIO(path.read_bytes()), formats=["PNG"]).convert(mode)
