"""Treatments of pictures: pure, and the same for a thumbnail, the bench, the proof and the press.

They work on sRGB, in this order: light and cast in linear light (IEC 61966-2-1), black and white points, contrast and
curves, colours, fading to paper, blur; what is sharpened is so at its final size, at the press alone.
"""

from functools import lru_cache

import msgspec
import numpy as np
import numpy.typing as npt
from PIL import Image, ImageFilter

from half_fold.core.pictures.colours import CUBE, colour_cube, has_colours
from half_fold.core.pictures.curves import curve_at
from half_fold.core.pictures.srgb import from_light, to_light
from half_fold.core.publication.records import Treatment

MOST_CAST = 0.35  # how many stops red gains, and blue loses, at a warmth of 100; green loses at a tint of 100
_BETWEEN = "\x1f"  # stands in no id
_SHARPEN_MM = 0.2  # how far from an edge sharpening reaches, at the printed size
_NEUTRAL = Treatment()
Floats = npt.NDArray[np.float64]


def treated(
    image: Image.Image, treatment: Treatment | None, longer: float = 0.0, final_ppi: float = 0.0
) -> Image.Image:
    """A picture in sRGB (perhaps with alpha) treated; grey where that is asked.

    ``longer`` is how many pixels the longer side of the whole picture has at this scale, where the image is a part of
    it; ``final_ppi`` how many go to the printed inch, where it is at its final size.
    """
    if treatment is None:
        return image
    alpha = image.getchannel("A") if "A" in image.getbands() else None
    made = image.convert("RGB").point(_tables(treatment))
    if has_colours(treatment):
        made = made.filter(_cube(treatment))
    made = made.convert("L") if is_grey(treatment) else made
    if treatment.blur:
        made = made.filter(ImageFilter.GaussianBlur(treatment.blur / 1000 * (longer or max(image.size))))
    if treatment.sharpen and final_ppi:
        made = made.filter(ImageFilter.UnsharpMask(_SHARPEN_MM / 25.4 * final_ppi, round(treatment.sharpen), 2))
    if alpha is not None:
        made.putalpha(alpha)
    return made


def is_grey(treatment: Treatment) -> bool:
    """Whether nothing but a grey is left of it."""
    toned = treatment.toned_dark or treatment.toned_middle or treatment.toned_light
    return treatment.grey and not treatment.kept and not toned


@lru_cache(64)
def _cube(treatment: Treatment) -> ImageFilter.Color3DLUT:
    return ImageFilter.Color3DLUT(CUBE, colour_cube(treatment).ravel())


@lru_cache(64)
def _tables(treatment: Treatment) -> list[int]:
    """What each of 256 steps of red, of green and of blue becomes."""
    light = to_light(np.arange(256) / 255)
    warm, tint = MOST_CAST * treatment.warmth / 100, MOST_CAST * treatment.tint / 100
    stops = (treatment.exposure + warm, treatment.exposure - tint, treatment.exposure - warm)
    own = (treatment.curve_red, treatment.curve_green, treatment.curve_blue)
    made = []
    for stop, curve in zip(stops, own, strict=True):
        value = from_light(np.minimum(1, light * 2**stop))
        value = _between(value, treatment.black / 100, treatment.white / 100)
        value = _contrasted(value, treatment.contrast / 100)
        value = curve_at(curve, curve_at(treatment.curve, value))
        value = value + (1 - value) * treatment.faded / 100
        made += np.rint(255 * np.clip(value, 0, 1)).astype(int).tolist()
    return made


def _between(value: Floats, black: float, white: float) -> Floats:
    """Drawn apart so that what was ``black`` is, and what was ``white``."""
    return np.clip((value - black) / max(0.01, white - black), 0, 1)


def _contrasted(value: Floats, by: float) -> Floats:
    """Steeper about the middle by half as much, or flatter; both ends stay, and it never turns back."""
    return value + by * value * (1 - value) * (2 * value - 1)


def drawn_key(picture: str, treatment: Treatment | None) -> str:
    """What tells what is drawn: the picture by its id, and how it is treated."""
    if treatment is None or treatment == _NEUTRAL:
        return picture
    return f"{picture}{_BETWEEN}{_words(treatment)}"


@lru_cache(512)
def _words(treatment: Treatment) -> str:
    asked = {
        field: value
        for field in Treatment.__struct_fields__
        if (value := getattr(treatment, field)) != getattr(_NEUTRAL, field)
    }
    return msgspec.json.encode(asked).decode()


@lru_cache(512)
def parts_of(key: str) -> tuple[str, Treatment | None]:
    """The picture's id and its treatment, from what tells both."""
    picture, sign, words = key.partition(_BETWEEN)
    return (picture, msgspec.json.decode(words, type=Treatment)) if sign else (picture, None)
