"""How light a picture is in each part, kept with it in few letters: enough to choose an ink that reads on it."""

import numpy as np
from PIL import Image

from half_fold.core.drawing.tone import Tone
from half_fold.core.pictures.colour.colour import ink_in_lab, to_screen
from half_fold.core.pictures.colour.treat import treated
from half_fold.core.pictures.rasters.resize import resized
from half_fold.core.pictures.rasters.srgb import from_light, to_light
from half_fold.core.publication.records import Picture, Treatment

ACROSS = 12
SMALL = 8 * ACROSS  # pixels each way, of a large picture: the parts of it come out even
_LETTERS = "0123456789abcdefghijklmnopqrstuvwxyz"  # from black to white


def tones_of(image: Image.Image) -> str:
    """The lightness of twelve by twelve parts, from head to foot and from left to right, a letter each."""
    if min(image.size) > SMALL and image.mode in ("L", "RGB", "CMYK"):
        image = resized(image, (SMALL, SMALL))  # so that few pixels go through its profile
    small = to_screen(image).convert("RGB").resize((ACROSS, ACROSS), Image.Resampling.BOX)
    steps = np.rint(_lightness(small) / 100 * (len(_LETTERS) - 1)).astype(int)
    return "".join(_LETTERS[step] for step in steps.ravel())


def lightness_in(
    picture: Picture, treatment: Treatment | None, left: float, top: float, right: float, bottom: float
) -> tuple[float, float] | None:
    """The darkest and the lightest L* of a part of a picture, told in shares of its size; None where it is not known.

    A treatment is taken as it changes a grey of that lightness.
    """
    if len(picture.tones) != ACROSS * ACROSS:
        return None
    steps = np.array([_LETTERS.find(letter) for letter in picture.tones], np.float64).reshape(ACROSS, ACROSS)
    light = steps / (len(_LETTERS) - 1) * 100
    if treatment is not None:
        light = _lightness(treated(_as_grey(light), treatment).convert("RGB"))
    columns = slice(*_cells(left, right))
    part = light[slice(*_cells(top, bottom)), columns]
    return float(part.min()), float(part.max())


def _cells(low: float, high: float) -> tuple[int, int]:
    first = min(max(int(low * ACROSS), 0), ACROSS - 1)
    return first, max(first + 1, min(int(np.ceil(high * ACROSS)), ACROSS))


def _lightness(image: Image.Image) -> np.ndarray:
    """L* of each pixel of an image in sRGB (IEC 61966-2-1; CIE 15)."""
    luminance = to_light(np.asarray(image, np.float64) / 255) @ np.array([0.2126, 0.7152, 0.0722])
    light_of: np.ndarray = np.where(luminance > 216 / 24389, 116 * np.cbrt(luminance) - 16, luminance * 24389 / 27)
    return light_of


def _as_grey(light: np.ndarray) -> Image.Image:
    luminance = np.where(light > 8, ((light + 16) / 116) ** 3, light * 27 / 24389)
    grey = np.rint(np.clip(from_light(luminance), 0, 1) * 255).astype(np.uint8)
    return Image.fromarray(np.repeat(grey[..., None], 3, 2), "RGB")


def stands_off(ink: Tone, darkest: float, lightest: float) -> float:
    """By how much L* an ink stands off a ground that lies between those; below nothing where it lies among them."""
    own = ink_in_lab(ink)[0]
    return darkest - own if own < (darkest + lightest) / 2 else own - lightest
