"""Masks of cut-outs: kept in the job beside its pictures, and laid on the pixels wherever a picture is read."""

from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PIL import Image, ImageChops

from half_fold.core.pictures.colour.colour import to_screen
from half_fold.core.pictures.colour.regions import WHOLE, Box
from half_fold.core.pictures.cutting.spill import without_spill
from half_fold.core.pictures.rasters.alpha import alpha_of
from half_fold.core.pictures.rasters.inks_with_alpha import ALPHA
from half_fold.core.pictures.rasters.mask_files import keep_in_masks, read_from_masks
from half_fold.core.pictures.rasters.outline import outline_of
from half_fold.core.publication.records import Picture, Publication
from half_fold.core.publication.surgery import fresh_id


def keep_mask(pictures: Path, mask: Image.Image) -> str:
    """Write a mask into the job; gives its file's name, which follows from its content. Problem where it cannot be."""
    return keep_in_masks(pictures, mask.convert("L"))


def read_mask(pictures: Path, picture: Picture) -> Image.Image:
    """The mask of a cut-out. Problem where it has gone or is damaged."""
    return read_from_masks(pictures, picture.mask, f"“{picture.file}”")


def masked(image: Image.Image, pictures: Path, picture: Picture, part: Box = WHOLE) -> Image.Image:
    """The pixels of a picture, or of a part of it, see-through where its mask says so; itself where it has none.

    What the old ground left in its edge is taken out.
    """
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
    if made.mode in ("RGB", "RGBA"):
        clean = without_spill(np.asarray(made.convert("RGB")), np.asarray(alpha))
        made = _as_it_was(Image.fromarray(clean), made)
    made.putalpha(alpha)
    return made


def _as_it_was(made: Image.Image, before: Image.Image) -> Image.Image:
    """With what the file said of itself."""
    made.info = dict(before.info)
    made.info.pop("transparency", None)
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
