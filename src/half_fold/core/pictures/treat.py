"""Treatments of pictures: pure, and the same for a thumbnail, the bench, the proof and the press.

They work on sRGB, in linear light where light is more or less (IEC 61966-2-1), and never change the picture itself.
"""

from functools import lru_cache

import numpy as np
from PIL import Image

from half_fold.core.publication.records import Treatment

MOST_WARMTH = 0.35  # how many stops red gains, and blue loses, at a warmth of 100
_BETWEEN = "\x1f"  # stands in no id


def treated(image: Image.Image, treatment: Treatment | None) -> Image.Image:
    """A picture in sRGB (perhaps with alpha) treated; grey where that is asked."""
    if treatment is None:
        return image
    alpha = image.getchannel("A") if "A" in image.getbands() else None
    plain = image.convert("RGB").point(_tables(treatment.exposure, treatment.warmth))
    made = plain.convert("L") if treatment.grey else plain
    if alpha is not None:
        made.putalpha(alpha)
    return made


@lru_cache(64)
def _tables(exposure: float, warmth: float) -> list[int]:
    """What each of 256 steps of red, of green and of blue becomes."""
    light = _to_light(np.arange(256) / 255)
    warmer = MOST_WARMTH * warmth / 100
    stops = (exposure + warmer, exposure, exposure - warmer)
    return [round(255 * value) for stop in stops for value in _from_light(np.minimum(1, light * 2**stop)).tolist()]


def _to_light(encoded: np.ndarray) -> np.ndarray:
    return np.where(encoded <= 0.04045, encoded / 12.92, ((encoded + 0.055) / 1.055) ** 2.4)


def _from_light(light: np.ndarray) -> np.ndarray:
    return np.where(light <= 0.0031308, light * 12.92, 1.055 * light ** (1 / 2.4) - 0.055)


def drawn_key(picture: str, treatment: Treatment | None) -> str:
    """What tells what is drawn: the picture by its id, and how it is treated."""
    if treatment is None or treatment == Treatment():
        return picture
    return f"{picture}{_BETWEEN}{treatment.exposure!r} {treatment.warmth!r} {int(treatment.grey)}"


def parts_of(key: str) -> tuple[str, Treatment | None]:
    """The picture's id and its treatment, from what tells both."""
    picture, sign, words = key.partition(_BETWEEN)
    if not sign:
        return picture, None
    exposure, warmth, grey = words.split(" ")
    return picture, Treatment(exposure=float(exposure), warmth=float(warmth), grey=grey == "1")
