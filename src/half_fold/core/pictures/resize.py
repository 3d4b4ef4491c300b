"""Pictures with fewer pixels, and what they carry beside."""

from PIL import Image

from half_fold.core.pictures.colour import has_alpha
from half_fold.core.pictures.inks_with_alpha import ALPHA

Box = tuple[float, float, float, float]


def resized(image: Image.Image, size: tuple[int, int], box: Box | None = None) -> Image.Image:
    """An image, or what of it lies in ``box`` (pixels), made ``size``; alpha that is kept beside inks goes along."""
    if image.mode in ("P", "PA", "1"):
        image = image.convert("RGBA" if has_alpha(image) else "L" if image.mode == "1" else "RGB")
    small = image.resize(size, Image.Resampling.BICUBIC, box, reducing_gap=2.0)
    beside = image.info.get(ALPHA)
    if beside is not None:
        small.info = small.info | {ALPHA: beside.resize(size, Image.Resampling.BICUBIC, box)}
    return small
