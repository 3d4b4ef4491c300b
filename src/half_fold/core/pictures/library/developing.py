"""A picture from its pixels to what is shown of it: cut out, mended, put upright, and treated, in that order."""

from pathlib import Path

from PIL import Image

from half_fold.core.pictures.colour.colour import to_screen
from half_fold.core.pictures.colour.regions import WHOLE, Box
from half_fold.core.pictures.colour.treat import treated
from half_fold.core.pictures.cutting.masks import masked
from half_fold.core.pictures.cutting.mending import patched
from half_fold.core.pictures.cutting.upright import put_upright
from half_fold.core.publication.records import Picture, Treatment


def mended_and_cut(
    image: Image.Image, folder: Path, picture: Picture, treatment: Treatment | None, part: Box = WHOLE
) -> Image.Image:
    """The part of a picture that ``image`` is, with its patches and its mask; in its own inks where it has no patch.

    ``folder`` is that of the job's pictures. Problem where a mask or a patch has lost its file.
    """
    if treatment is not None and treatment.patches:
        image = patched(to_screen(image), treatment.patches, folder, part)
    return masked(image, folder, picture, part)


def shown_whole(plain: Image.Image, folder: Path, picture: Picture, treatment: Treatment | None) -> Image.Image:
    """A whole picture in sRGB, perhaps a reduced copy, as it is shown; not sharpened."""
    made = mended_and_cut(plain, folder, picture, treatment)
    if treatment is not None and treatment.upright is not None:
        made = put_upright(made, treatment.upright, made.size, WHOLE)
    return treated(made, treatment, folder=folder)
