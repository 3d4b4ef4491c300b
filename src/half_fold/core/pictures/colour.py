"""Colour through ICC profiles: pictures to press inks, inks to the screen."""

import io
from functools import cache
from importlib.resources import files
from pathlib import Path

import numpy as np
from PIL import Image, ImageCms

from half_fold.core.drawing.marks import Colour
from half_fold.core.measure.problem import Problem

COATED, UNCOATED = "half-fold-coated", "half-fold-uncoated"
_FLAGS = ImageCms.Flags.BLACKPOINTCOMPENSATION
# A transform made for single pixels needs no table worked out beforehand: it is ready forty times as fast.
_ONE_PIXEL = ImageCms.Flags.NOOPTIMIZE
_INTENT = ImageCms.Intent.RELATIVE_COLORIMETRIC


@cache
def shipped_profile(name: str) -> bytes:
    """A press profile that ships with the program."""
    return files("half_fold.data").joinpath(f"profiles/{name}.icc").read_bytes()


def read_profile(path: Path) -> bytes:
    """A press profile from the user's file. Problem unless it is a four-colour output profile."""
    try:
        content = path.read_bytes()
        profile = ImageCms.getOpenProfile(io.BytesIO(content))
    except (OSError, ImageCms.PyCMSError) as error:
        raise Problem(f"“{path}” is no colour profile that can be read; give the printer's .icc file.") from error
    if profile.profile.xcolor_space.strip() != "CMYK" or profile.profile.device_class.strip() != "prtr":
        raise Problem(f"“{path.name}” is no four-colour press profile; give the printer's own.")
    return content


def profile_name(content: bytes) -> str:
    """The profile's own description."""
    return str(ImageCms.getProfileDescription(ImageCms.getOpenProfile(io.BytesIO(content)))).strip()


def _source_profile(image: Image.Image) -> ImageCms.ImageCmsProfile:
    embedded = image.info.get("icc_profile")
    if embedded and image.mode in ("RGB", "RGBA", "L"):
        try:
            profile = ImageCms.getOpenProfile(io.BytesIO(embedded))
            if profile.profile.xcolor_space.strip() == "RGB":
                return profile
        except ImageCms.PyCMSError:
            pass
    return ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB"))


def to_press(image: Image.Image, profile: bytes) -> tuple[Image.Image, Image.Image | None]:
    """(CMYK picture, alpha or None): RGB through the profile, relative colorimetric with black point compensation.

    A picture that is CMYK already is left as it is.
    """
    alpha = image.convert("RGBA").getchannel("A") if has_alpha(image) else None
    if image.mode == "CMYK":
        return image, None
    source = _source_profile(image)
    rgb = image.convert("RGB")
    target = ImageCms.getOpenProfile(io.BytesIO(profile))
    converted = ImageCms.profileToProfile(rgb, source, target, _INTENT, "CMYK", flags=_FLAGS)
    assert converted is not None
    return converted, alpha


def has_alpha(image: Image.Image) -> bool:
    """Whether the picture says of any part that it is see-through."""
    return "A" in image.getbands() or "transparency" in image.info


def to_screen(image: Image.Image) -> Image.Image:
    """The picture as sRGB (with alpha where it has one) for proxies and proofs."""
    if image.mode == "CMYK":
        source = ImageCms.getOpenProfile(io.BytesIO(image.info.get("icc_profile") or shipped_profile(COATED)))
        shown = ImageCms.profileToProfile(image, source, ImageCms.createProfile("sRGB"), _INTENT, "RGB", flags=_FLAGS)
        assert shown is not None
        return shown
    alpha = image.convert("RGBA").getchannel("A") if has_alpha(image) else None
    rgb = image.convert("RGB")
    if image.info.get("icc_profile"):
        rgb = (
            ImageCms.profileToProfile(rgb, _source_profile(image), ImageCms.createProfile("sRGB"), _INTENT, "RGB")
            or rgb
        )
    if alpha is not None:
        rgb.putalpha(alpha)
    return rgb


@cache
def _ink_transform() -> ImageCms.ImageCmsTransform:
    source = ImageCms.getOpenProfile(io.BytesIO(shipped_profile(COATED)))
    return ImageCms.buildTransform(
        source, ImageCms.createProfile("sRGB"), "CMYK", "RGB", _INTENT, flags=_FLAGS | _ONE_PIXEL
    )


@cache
def ink_on_screen(colour: Colour) -> tuple[int, int, int]:
    """An ink as sRGB (0 to 255), through the coated press profile."""
    shares = [round(255 * min(max(share, 0.0), 1.0)) for share in (colour.c, colour.m, colour.y, colour.k)]
    pixel = Image.fromarray(np.array([[shares]], np.uint8), "CMYK")
    shown = ImageCms.applyTransform(pixel, _ink_transform())
    assert shown is not None
    red, green, blue = np.asarray(shown)[0, 0].tolist()
    return int(red), int(green), int(blue)
