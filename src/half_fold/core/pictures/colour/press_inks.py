"""Pictures in the inks of the press: in four, in black alone, or as they are."""

import io
from functools import lru_cache
from typing import Any

import numpy as np
from PIL import Image, ImageCms

from half_fold.core.pictures.colour.colour import as_plain, converted, embedded_profile, made_profile
from half_fold.core.pictures.colour.ink_total import held_to
from half_fold.core.pictures.colour.press_table import in_inks
from half_fold.core.pictures.rasters.alpha import alpha_of, is_grey_image
from half_fold.core.publication.records import Treatment


def to_press(
    image: Image.Image,
    profile: bytes,
    inks: str = "",
    limit: float = 0.0,
    treatment: Treatment | None = None,
    final_ppi: float = 0.0,
) -> tuple[Image.Image, Image.Image | None]:
    """(picture in press inks, alpha or None): through the profile, relative colorimetric, black points met.

    It is CMYK; or L where it prints in black alone (255 is bare paper), which greys do unless ``inks`` is ``four`` and
    colours do where it is ``black``; or 1 where it is line art of one bit, which is kept. Inks it has already are left
    as they are unless ``inks`` is ``converted``, or ``held`` to the limit. What is converted to several inks lays no
    more than ``limit`` per cent of them together (0: what the profile gives), and colours are treated on the way:
    sharpened for ``final_ppi`` pixels to the inch, then in tones and colours.
    """
    alpha = alpha_of(image)
    if image.mode == "1" and inks in ("", "black"):
        return image, alpha
    if image.mode == "CMYK" and inks != "black":
        own = embedded_profile(image)
        if inks == "converted" and own is not None:
            image = converted(image, own, profile, "CMYK")
        if inks in ("converted", "held") and limit:
            image = Image.fromarray(held_to(np.asarray(image), limit, profile), "CMYK")
        return image, alpha
    if inks == "black" or (is_grey_image(image) and inks != "four"):
        return _in_black(image, profile), alpha
    plain, source = as_plain(image)
    colours = plain if plain.mode == "RGB" else plain.convert("RGB")
    return in_inks(colours, source, profile, limit, treatment, final_ppi), alpha


def _in_black(image: Image.Image, profile: bytes) -> Image.Image:
    """The picture in black alone, as light in print as it is: its luminance between those of paper and black."""
    if image.mode == "CMYK":
        source, plain = embedded_profile(image) or profile, image
    else:
        plain, source = as_plain(image)
    lab = converted(plain, source, made_profile("LAB"), "LAB")
    table = (255 - _black_for(profile)).round().astype(np.uint8)
    return Image.fromarray(table[np.asarray(lab.getchannel(0))], "L")


@lru_cache(8)
def _black_for(profile: bytes) -> np.ndarray[Any, np.dtype[np.float64]]:
    """How much black (0 to 255) is as light as each of 256 steps of lightness, black points met in luminance."""
    ramp = np.zeros((1, 256, 4), np.uint8)
    ramp[0, :, 3] = np.arange(256)
    press = ImageCms.getOpenProfile(io.BytesIO(profile))
    shown = ImageCms.profileToProfile(
        Image.fromarray(ramp, "CMYK"),
        press,
        ImageCms.createProfile("LAB"),
        ImageCms.Intent.RELATIVE_COLORIMETRIC,
        "LAB",
    )
    assert shown is not None
    light = np.minimum.accumulate(np.asarray(shown, np.float64)[0, :, 0]) * 100 / 255
    luminance, wanted = _luminance(light), _luminance(np.arange(256) * 100 / 255)
    paper, black = luminance[0], luminance[-1]
    return np.asarray(np.interp(-(black + wanted * (paper - black)), -luminance, np.arange(256.0)))


def _luminance(lightness: np.ndarray[Any, Any]) -> np.ndarray[Any, Any]:
    """Relative luminance of CIE lightness (CIE 15, 8.2.1)."""
    return np.where(lightness > 8, ((lightness + 16) / 116) ** 3, lightness / 903.3)
