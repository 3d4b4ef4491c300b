"""Masks of cut-outs: kept in the job beside its pictures, and laid on the pixels wherever a picture is read."""

import hashlib
import io
from pathlib import Path

from msgspec.structs import replace
from PIL import Image, ImageChops

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour import alpha_of, to_screen
from half_fold.core.pictures.inks_with_alpha import ALPHA
from half_fold.core.pictures.outline import outline_of
from half_fold.core.publication.records import Picture, Publication
from half_fold.core.publication.surgery import fresh_id
from half_fold.core.store.atomic import write_whole
from half_fold.core.store.files import own_file

FOLDER = "masks"
Box = tuple[float, float, float, float]  # in shares of the picture


def masks_folder(pictures: Path) -> Path:
    """Where the masks of a job lie, by its folder of pictures."""
    return pictures.parent / FOLDER


def keep_mask(pictures: Path, mask: Image.Image) -> str:
    """Write a mask into the job; gives its file's name, which follows from its content. Problem where it cannot be."""
    packed = io.BytesIO()
    mask.convert("L").save(packed, "PNG", compress_level=4)
    name = f"{hashlib.sha256(packed.getvalue()).hexdigest()[:16]}.png"
    folder = masks_folder(pictures)
    try:
        folder.mkdir(exist_ok=True)
    except OSError as error:
        raise Problem(f"“{folder}” cannot be made; check that the job folder may be written.") from error
    if not (folder / name).exists():
        write_whole(folder / name, packed.getvalue())
    return name


def read_mask(pictures: Path, picture: Picture) -> Image.Image:
    """The mask of a cut-out. Problem where it has gone or is damaged."""
    path = own_file(masks_folder(pictures), picture.mask, "mask")
    try:
        image = Image.open(path, formats=["PNG"])
        image.load()
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise Problem(f"The mask of “{picture.file}” cannot be read; cut it out anew.") from error
    return image.convert("L")


def masked(image: Image.Image, pictures: Path, picture: Picture, part: Box = (0.0, 0.0, 1.0, 1.0)) -> Image.Image:
    """The pixels of a picture, or of a part of it, see-through where its mask says so; itself where it has none."""
    if not picture.mask:
        return image
    mask = read_mask(pictures, picture)
    box = part[0] * mask.width, part[1] * mask.height, part[2] * mask.width, part[3] * mask.height
    laid = mask.resize(image.size, Image.Resampling.BILINEAR, box=box)
    own = alpha_of(image)
    return _with_alpha(image, laid if own is None else ImageChops.multiply(own, laid))


def _with_alpha(image: Image.Image, alpha: Image.Image) -> Image.Image:
    if image.mode == "CMYK":
        made = image.copy()
        made.info = image.info | {ALPHA: alpha}
        return made
    made = image.copy() if image.mode in ("RGB", "RGBA", "L", "LA") else to_screen(image)
    made.putalpha(alpha)
    return made


def cut_out(publication: Publication, picture: Picture, name: str, mask: Image.Image) -> tuple[Publication, Picture]:
    """A picture as a cut-out of its own in the job, of the same file, with its mask of that name; gives its record."""
    small = mask.copy()
    small.thumbnail((800, 800))
    shape = Image.new("RGBA", small.size)
    shape.putalpha(small)
    made = replace(
        picture,
        id=fresh_id("picture", (each.id for each in publication.pictures)),
        mask=name,
        has_alpha=True,
        outline=outline_of(shape),
        tones="",
    )
    found = next((each for each in publication.pictures if (each.digest, each.mask) == (made.digest, name)), None)
    if found is not None:
        return publication, found
    return replace(publication, pictures=(*publication.pictures, made)), made


def picture_words(picture: Picture) -> str:
    """What a picture is called: its file, and whether it is a cut-out of that."""
    return f"{picture.file}, cut out" if picture.mask else picture.file
