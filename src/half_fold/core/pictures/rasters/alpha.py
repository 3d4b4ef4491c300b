"""What of a picture covers: its alpha, and whether it holds greys alone."""

from PIL import Image

from half_fold.core.pictures.rasters.inks_with_alpha import ALPHA


def is_grey_image(image: Image.Image) -> bool:
    """Whether a picture has no colour, by its kind of pixels."""
    return image.mode in ("L", "LA", "1")


def has_alpha(image: Image.Image) -> bool:
    """Whether the picture says of any part that it is see-through."""
    return "A" in image.getbands() or "transparency" in image.info or ALPHA in image.info


def alpha_of(image: Image.Image) -> Image.Image | None:
    """How opaque each pixel is, where the picture says so."""
    if not has_alpha(image):
        return None
    own: Image.Image | None = image.info.get(ALPHA)
    if own is not None:
        return own
    return image.getchannel("A") if "A" in image.getbands() else image.convert("RGBA").getchannel("A")
