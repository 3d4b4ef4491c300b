"""Bringing pictures into the job: copied to pictures/, named by the user's file name, told apart by content."""

import hashlib
import math
import shutil
import struct
import warnings
from collections.abc import Iterable
from pathlib import Path
from typing import TYPE_CHECKING, Final

import numpy as np
from msgspec.structs import replace
from PIL import Image, ImageCms

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import to_screen
from half_fold.core.pictures.colour.tones import tones_of
from half_fold.core.pictures.library.file_words import file_words
from half_fold.core.pictures.rasters.alpha import has_alpha
from half_fold.core.pictures.rasters.inks_with_alpha import ALPHA, ORIENTATION, inks_with_alpha
from half_fold.core.pictures.rasters.outline import outline_of
from half_fold.core.pictures.vector.vector_names import is_vector
from half_fold.core.publication.records import Picture, Publication
from half_fold.core.publication.surgery import fresh_id
from half_fold.core.store.atomic import whole_file
from half_fold.core.store.files import name_of_copy, own_file, own_folder_of, require_file

if TYPE_CHECKING:
    from half_fold.core.pictures.vector.vector import Vector

READABLE = {
    "JPEG": ".jpg",
    "PNG": ".png",
    "TIFF": ".tif",
    "WEBP": ".webp",
    "PSD": ".psd",
}  # layered files by their merged picture
MOST_PIXELS = 150_000_000  # which take 0.6 GB as they are, and as much again in press inks
Image.MAX_IMAGE_PIXELS = MOST_PIXELS
MOST_NOTES = 6
VECTOR_PIXELS = 800  # the long way, of vector art where it is looked at as pixels
SMALL: Final = 160  # pixels the long way of the smallest reduced copy
SOON: Final = 750  # of what is looked at of every picture: an eighth of 24 megapixels, read without resizing
ENOUGH: Final = 2400  # of the largest
LIES_ON_ITS_SIDE = 5  # of the ways a camera is held (Exif 2.3, 4.6.4): from here on width and height change places
_SIXTEEN_BITS = ("I;16", "I;16B", "I;16L")


def open_picture(path: Path) -> Image.Image:
    """The picture in a file, turned upright by its own note of how it was held. Problem where it is none."""
    require_file(path, "picture")
    if is_vector(path):
        return _vector_pixels(path)[1]
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image = Image.open(path, formats=list(READABLE))
    except Image.DecompressionBombError as error:
        raise too_large(path) from error
    except (OSError, ValueError, SyntaxError) as error:
        beside = inks_with_alpha(path)
        if beside is not None:
            return beside
        raise Problem(
            f"“{path.name}” is no picture that can be read; give a JPEG, PNG, TIFF, WebP or SVG file."
        ) from error
    if image.width * image.height > MOST_PIXELS:
        raise too_large(path)
    return image


def too_large(path: Path) -> Problem:
    """What is said of a picture that would take more memory than there may be."""
    return Problem(f"“{path.name}” has more than {MOST_PIXELS // 1_000_000} million pixels; give a smaller one.")


def load_pixels(path: Path, least: int = 0) -> Image.Image:
    """The whole picture, upright; where ``least`` is given perhaps reduced, but not below so many pixels its long way.

    Problem where the file is damaged, or holds what is no picture to print.
    """
    image = open_picture(path)
    if least:
        share = least / max(image.size)  # which JPEG decodes in a fraction of the time
        image.draft(None, (math.ceil(image.width * share), math.ceil(image.height * share)))
    try:
        image.load()
    except (OSError, ValueError, SyntaxError, EOFError, struct.error, Image.DecompressionBombError) as error:
        raise Problem(f"“{path.name}” is damaged and cannot be read to its end; bring in a whole copy.") from error
    if ALPHA in image.info:
        image.info[ALPHA] = _upright(image.info[ALPHA])
    if image.mode in _SIXTEEN_BITS:
        image = _eight_bits(image)
    elif image.mode in ("I", "F"):
        raise Problem(
            f"“{path.name}” keeps its pixels in 32 bits, which say nothing of white and black; "
            "save it with 8 or 16 bits a channel."
        )
    elif image.mode in ("LAB", "YCbCr", "HSV"):
        image = _as_rgb(image)
    elif image.mode == "P" and _holds_greys(image):
        image = _as_grey(image)
    return _upright(image)


def _upright(image: Image.Image) -> Image.Image:
    """The picture turned by its own note of how it was held; itself, not a copy, where it says nothing."""
    from PIL import ImageOps

    return image if image.getexif().get(ORIENTATION, 1) == 1 else ImageOps.exif_transpose(image)


def _holds_greys(image: Image.Image) -> bool:
    """Whether all that a picture with a palette uses of it is grey."""
    colours = image.convert("RGB").getcolors(256) or ()
    return all(red == green == blue for _, (red, green, blue) in colours)  # type: ignore[misc]


def _as_grey(image: Image.Image) -> Image.Image:
    """A palette of greys as a grey, by the profile it brings, which is one of colours, read as sRGB."""
    made = to_screen(image).convert("LA" if has_alpha(image) else "L")
    made.info = {name: image.info[name] for name in ("exif",) if name in image.info}
    return made


def _eight_bits(image: Image.Image) -> Image.Image:
    """A grey of 16 bits in 8, what it says of itself kept."""
    made = Image.fromarray((np.asarray(image) >> 8).astype(np.uint8), "L")
    made.info |= {name: image.info[name] for name in ("icc_profile", "exif") if name in image.info}
    return made


def _as_rgb(image: Image.Image) -> Image.Image:
    if image.mode != "LAB":
        return image.convert("RGB")
    made = ImageCms.profileToProfile(
        image, ImageCms.createProfile("LAB"), ImageCms.createProfile("sRGB"), outputMode="RGB"
    )
    assert made is not None
    made.info.pop("icc_profile", None)
    return made


def digest_of(path: Path) -> str:
    """What tells a file by its content."""
    hasher = hashlib.sha256()
    with path.open("rb") as file:
        while part := file.read(1 << 20):
            hasher.update(part)
    return hasher.hexdigest()[:24]


def _free_name(folder: Path, wanted: str, taken: frozenset[str]) -> str:
    path = Path(name_of_copy(wanted))
    stem, suffix = path.stem, path.suffix.lower()
    name, number = f"{stem}{suffix}", 2
    while name in taken or (folder / name).exists():
        name, number = f"{stem}-{number}{suffix}", number + 1
    return name


def copy_in(known: tuple[Picture, ...], folder: Path, source: Path) -> Picture:
    """``read_record``, ``named_for`` and ``keep_copy`` in one: the slow half of bringing in, fit for another thread."""
    picture = named_for(known, folder, source, read_record(source)[0])
    keep_copy(folder, source, picture)
    return picture


def named_for(known: tuple[Picture, ...], folder: Path, source: Path, record: Picture) -> Picture:
    """The record of ``source`` under the name its copy is to have in ``folder``; the known one of the same content.

    A record that is new has no id yet: ``with_picture`` gives it one.
    """
    for picture in known:
        if picture.digest == record.digest and not picture.mask:
            return picture
    return replace(record, file=_free_name(folder, source.name, frozenset(picture.file for picture in known)))


def keep_copy(folder: Path, source: Path, picture: Picture) -> None:
    """Copy ``source`` into the job's pictures ``folder`` under the picture's name, unless it lies there.

    Problem where it cannot be copied.
    """
    if (folder / picture.file).exists():
        return
    with whole_file(own_folder_of(folder.parent, folder.name) / picture.file) as temporary:
        shutil.copyfile(source, temporary)


def record_of(path: Path) -> Picture:
    """What a job keeps of a picture's file, still without an id. Problem where it cannot be read to its end."""
    return read_record(path)[0]


def read_record(path: Path) -> tuple[Picture, Image.Image]:
    """``record_of`` a file, and the picture, perhaps reduced as far as SOON."""
    if is_vector(path):
        return _vector_record(path)
    with open_picture(path) as opened:
        size = opened.size
        lies_on_its_side = opened.getexif().get(ORIENTATION, 1) >= LIES_ON_ITS_SIDE
    image = load_pixels(path, SOON)
    width, height = size[::-1] if lies_on_its_side else size
    cut_out = has_alpha(image)
    outline, said = outline_of(image) if cut_out else (), file_words(path)
    record = Picture(
        id="", file=path.name, width=width, height=height, digest=digest_of(path), has_alpha=cut_out, outline=outline,
        tones="" if cut_out else tones_of(image),
        caption=said.get("caption", ""), credit=said.get("credit") or said.get("creator", ""),
    )  # fmt: skip
    return record, image


def _vector_pixels(path: Path) -> "tuple[Vector, Image.Image]":
    """Vector art, and how it looks; what reads it is loaded when there is some."""
    from half_fold.core.pictures.vector.vector import read_vector
    from half_fold.core.pictures.vector.vector_pixels import pixels_of

    vector = read_vector(path)
    return vector, pixels_of(vector, VECTOR_PIXELS)


def _vector_record(path: Path) -> tuple[Picture, Image.Image]:
    vector, image = _vector_pixels(path)
    record = Picture(
        id="", file=path.name, width=vector.width, height=vector.height, digest=digest_of(path), has_alpha=True,
        outline=outline_of(image), art=vector.art, left_out=", ".join(vector.notes[:MOST_NOTES]),
    )  # fmt: skip
    return record, image


def with_picture(publication: Publication, picture: Picture) -> tuple[Publication, Picture]:
    """The publication with that picture among its pictures, and the picture under its id."""
    for known in publication.pictures:
        if (known.digest, known.file, known.mask) == (picture.digest, picture.file, picture.mask):
            return publication, known
    named = replace(picture, id=fresh_id("picture", (p.id for p in publication.pictures)))
    return replace(publication, pictures=(*publication.pictures, named)), named


def with_pictures(publication: Publication, pictures: Iterable[Picture]) -> Publication:
    """The publication with all of these among its pictures, in their order."""
    for picture in pictures:
        publication, _ = with_picture(publication, picture)
    return publication


def bring_picture(publication: Publication, folder: Path, source: Path) -> tuple[Publication, Picture]:
    """``copy_in`` and ``with_picture`` in one; the same content is never brought in twice."""
    return with_picture(publication, copy_in(publication.pictures, folder, source))


def picture_file(folder: Path, picture: Picture) -> Path:
    """Where the picture lies. Problem where it has gone, or is no file of the job's own."""
    return own_file(folder, picture.file, "picture")
