"""Colour through ICC profiles: pictures to press inks, inks to the screen."""

import io
import re
from collections.abc import Sequence
from functools import cache, lru_cache
from importlib.resources import files
from pathlib import Path
from typing import Any, Literal

import numpy as np
from PIL import Image, ImageCms

from half_fold.core.brief.papers import find_paper
from half_fold.core.drawing.tone import Tone
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.rasters.alpha import alpha_of
from half_fold.core.publication.records import Publication
from half_fold.core.store.files import octets_of

COATED, UNCOATED = "half-fold-coated", "half-fold-uncoated"
BAND_PIXELS = 8_000_000  # so much of a picture is converted at once, so that it is not held twice over
_FLAGS = ImageCms.Flags.BLACKPOINTCOMPENSATION
# A transform made for single pixels needs no table worked out beforehand: it is ready forty times as fast.
_ONE_PIXEL = ImageCms.Flags.NOOPTIMIZE
_INTENT = ImageCms.Intent.RELATIVE_COLORIMETRIC
LARGEST_PROFILE = 64_000_000  # octets


@cache
def shipped_profile(name: str) -> bytes:
    """A press profile that ships with the program."""
    return files("half_fold.data").joinpath(f"profiles/{name}.icc").read_bytes()


def profile_for(publication: Publication, paper: str) -> bytes:
    """The shipped profile that the printer's sheet asks for, else that of the paper: coated or uncoated."""
    asked = publication.printer
    if asked is not None and asked.profile:
        return shipped_profile(COATED if asked.profile == "coated" else UNCOATED)
    return shipped_profile(COATED if find_paper(publication, paper).coated else UNCOATED)


def read_profile(path: Path) -> bytes:
    """A press profile from the user's file. Problem unless it is a four-colour output profile."""
    content = octets_of(path, "profile", LARGEST_PROFILE)
    try:
        profile = ImageCms.getOpenProfile(io.BytesIO(content))
    except (OSError, ImageCms.PyCMSError) as error:
        raise Problem(f"“{path}” is no colour profile that can be read; give the printer's .icc file.") from error
    if _space(profile) != "CMYK" or _signature(profile, "device_class") != "prtr":
        raise Problem(f"“{path.name}” is no four-colour press profile; give the printer's own.")
    if not _works(content, "CMYK") or not _works(content, "CMYK", to_it=True):
        raise Problem(f"“{path.name}” is damaged: nothing can be converted by it. Give a whole copy.")
    return content


def profile_name(content: bytes) -> str:
    """The profile's own description; that it has none where it cannot be read."""
    return _words_of(content, "profile_description").strip() or "a profile without a name"


def _words_of(content: bytes, field: str) -> str:
    """What a profile says in a field of words, which in a damaged one may be no words."""
    try:
        return str(getattr(ImageCms.getOpenProfile(io.BytesIO(content)).profile, field) or "")
    except ValueError:
        return ""


# Names under which printing conditions are registered, as profiles write them in their description or their target.
_CONDITIONS = (
    (re.compile(r"\bFOGRA ?(\d{2})"), "FOGRA{}"),
    (re.compile(r"\bIFRA ?(\d{2})"), "IFRA{}"),
    (re.compile(r"\bCGATS[ _]?TR[ _]?(\d{3})"), "CGATS TR {}"),
    (re.compile(r"\bCGATS21[ _-]*(?:\d[ _-]*)?CRPC ?(\d)"), "CGATS21_CRPC{}"),
)


def printing_condition(content: bytes) -> str:
    """The registered printing condition that a profile is one of, by its own words; "" where it names none."""
    words = f"{_words_of(content, 'profile_description')} {_words_of(content, 'target')[:400]}"
    for pattern, name in _CONDITIONS:
        if found := pattern.search(words):
            return name.format(found[1])
    return ""


_PIXELS = {"CMYK": "CMYK", "GRAY": "L", "RGB": "RGB"}  # the kind of pixels of a profile's space


def _space(profile: ImageCms.ImageCmsProfile) -> str:
    return _signature(profile, "xcolor_space")


def _signature(profile: ImageCms.ImageCmsProfile, field: str) -> str:
    """Four letters of a profile's head; "" where a damaged one has no letters there."""
    try:
        return str(getattr(profile.profile, field)).strip()
    except ValueError:  # which says that they are no ASCII
        return ""


def embedded_profile(image: Image.Image) -> bytes | None:
    """The profile a picture brings with it, where that can be used for its kind of pixels."""
    content: bytes | None = image.info.get("icc_profile")
    if not content:
        return None
    try:
        profile = ImageCms.getOpenProfile(io.BytesIO(content))
    except (ImageCms.PyCMSError, OSError, ValueError, TypeError):
        return None
    wanted = {"CMYK": "CMYK", "L": "GRAY", "LA": "GRAY", "1": "GRAY"}.get(image.mode, "RGB")
    return content if _space(profile) == wanted and _works(content, _PIXELS[wanted]) else None


@lru_cache(32)
def _works(content: bytes, mode: str, to_it: bool = False) -> bool:
    """Whether pixels can be converted from a profile (or to it); one that opens may still be damaged within."""
    try:
        if to_it:
            _transform(made_profile("LAB"), content, "LAB", mode)
        else:
            _transform(content, made_profile("LAB"), mode, "LAB")
    except (ImageCms.PyCMSError, ValueError):
        return False
    return True


def as_plain(image: Image.Image) -> tuple[Image.Image, bytes]:
    """The picture as grey or colour without its alpha, and the profile its pixels are meant by: sRGB where none is."""
    profile = embedded_profile(image)
    if image.mode in ("L", "LA", "1") and profile is not None:
        return image.convert("L"), profile
    plain = image if image.mode in ("RGB", "RGBA") else image.convert("RGB")
    return plain, profile or made_profile("sRGB")


def converted(image: Image.Image, source: bytes, target: bytes, mode: str) -> Image.Image:
    """Through profiles, relative colorimetric with black point compensation; a large picture in bands."""
    through = _transform(source, target, image.mode, mode)
    step = max(1, BAND_PIXELS // image.width)
    if image.height <= step:
        return _applied(image, through)
    made = Image.new(mode, image.size)
    for top in range(0, image.height, step):
        band = image.crop((0, top, image.width, min(top + step, image.height)))
        made.paste(_applied(band, through), (0, top))
    return made


@lru_cache(24)
def _transform(source: bytes, target: bytes, of: str, to: str) -> ImageCms.ImageCmsTransform:
    """The way from one profile to another, kept: to make one takes as long as to convert a million pixels."""
    before, after = (ImageCms.getOpenProfile(io.BytesIO(content)) for content in (source, target))
    return ImageCms.buildTransform(before, after, of, to, _INTENT, flags=_FLAGS)


@cache
def made_profile(space: Literal["LAB", "XYZ", "sRGB"]) -> bytes:
    """A profile that the library makes, the same one each time."""
    return ImageCms.ImageCmsProfile(ImageCms.createProfile(space)).tobytes()


def _applied(image: Image.Image, through: ImageCms.ImageCmsTransform) -> Image.Image:
    made = ImageCms.applyTransform(image, through)
    assert made is not None
    return made


def to_screen(image: Image.Image, inks: str = "") -> Image.Image:
    """The picture as sRGB (with alpha where it has one) for proxies and proofs."""
    alpha = alpha_of(image)
    if image.mode == "CMYK":
        source = embedded_profile(image) or shipped_profile(COATED)
        shown = converted(image, source, made_profile("sRGB"), "RGB")
    elif embedded_profile(image) is not None:
        plain, source = as_plain(image)
        shown = converted(plain, source, made_profile("sRGB"), "RGB")
    else:
        shown = image.convert("RGB")
    if inks == "black":
        shown = shown.convert("L").convert("RGB")
    if alpha is not None:
        shown.putalpha(alpha)
    return shown


@cache
def _ink_transform() -> ImageCms.ImageCmsTransform:
    source = ImageCms.getOpenProfile(io.BytesIO(shipped_profile(COATED)))
    return ImageCms.buildTransform(
        source, ImageCms.createProfile("sRGB"), "CMYK", "RGB", _INTENT, flags=_FLAGS | _ONE_PIXEL
    )


def to_screen_profile(image: Image.Image) -> Image.Image:
    """A picture in sRGB as the inks it is shown by: those of the coated press profile."""
    return converted(image, made_profile("sRGB"), shipped_profile(COATED), "CMYK")


def inks_to_screen(inks: Image.Image) -> Image.Image:
    """Inks as sRGB, through the coated press profile, as ``ink_on_screen`` shows a single one."""
    return converted(inks, shipped_profile(COATED), made_profile("sRGB"), "RGB")


def make_ready() -> None:
    """Make the way from inks to the screen ahead of the first that are shown: fit for another thread."""
    _transform(shipped_profile(COATED), made_profile("sRGB"), "CMYK", "RGB")


def as_printed(image: Image.Image, inks: str = "") -> Image.Image:
    """A picture in sRGB (perhaps with alpha) as it looks in print; in black alone where ``inks`` says so."""
    plain = image.convert("L").convert("RGB") if inks == "black" else image.convert("RGB")
    shown = inks_to_screen(to_screen_profile(plain))
    if "A" in image.getbands():
        shown.putalpha(image.getchannel("A"))
    return shown


def as_it_lies(inks: Image.Image, profile: bytes) -> Image.Image:
    """Inks as they look on their own paper, whose white is not that of the screen: absolute colorimetric, in sRGB."""
    made = ImageCms.applyTransform(inks, _on_paper(profile))
    assert made is not None
    return made


@lru_cache(8)
def _on_paper(profile: bytes) -> ImageCms.ImageCmsTransform:
    source = ImageCms.getOpenProfile(io.BytesIO(profile))
    return ImageCms.buildTransform(
        source, ImageCms.createProfile("sRGB"), "CMYK", "RGB", ImageCms.Intent.ABSOLUTE_COLORIMETRIC
    )


def screen_to_inks(image: Image.Image, profile: bytes) -> Image.Image:
    """A picture in sRGB as inks through a press profile."""
    return converted(image, made_profile("sRGB"), profile, "CMYK")


def lab_of_screen(pixel: Image.Image) -> tuple[float, float, float]:
    """A single pixel of sRGB in CIE L*a*b*."""
    return _single_lab(converted(pixel, made_profile("sRGB"), made_profile("LAB"), "LAB"))


def lab_of_picture(image: Image.Image) -> np.ndarray[Any, np.dtype[np.float64]]:
    """A picture in sRGB in CIE L*a*b*, an array of shape (high, wide, 3)."""
    return _lab_array(converted(image, made_profile("sRGB"), made_profile("LAB"), "LAB"))


def lab_of_ink_picture(image: Image.Image, profile: bytes) -> np.ndarray[Any, np.dtype[np.float64]]:
    """Inks as they look in print, in CIE L*a*b*: an array of shape (high, wide, 3)."""
    return _lab_array(converted(image, profile, made_profile("LAB"), "LAB"))


def _lab_array(image: Image.Image) -> np.ndarray[Any, np.dtype[np.float64]]:
    octets = np.asarray(image)
    return np.stack([octets[..., 0] * (100 / 255), *(octets[..., at].view(np.int8) for at in (1, 2))], 2)


def lab_of_inks(shares: Sequence[float], profile: bytes) -> tuple[float, float, float]:
    """Per cent of cyan, magenta, yellow and black as they look in print, in CIE L*a*b*."""
    octets = [round(255 * min(max(share, 0.0), 100.0) / 100) for share in shares]
    return _single_lab(
        converted(Image.fromarray(np.array([[octets]], np.uint8), "CMYK"), profile, made_profile("LAB"), "LAB")
    )


def _single_lab(image: Image.Image) -> tuple[float, float, float]:
    light, a, b = np.asarray(image, np.uint8)[0, 0]
    return float(light) * 100 / 255, float(a.view(np.int8)), float(b.view(np.int8))


@lru_cache(4096)
def ink_in_lab(colour: Tone) -> tuple[float, float, float]:
    """An ink as it looks in print (CIE L*a*b*), through the coated press profile."""
    return lab_of_inks([100 * share for share in colour.process], shipped_profile(COATED))


@lru_cache(4096)
def ink_on_screen(colour: Tone) -> tuple[int, int, int]:
    """An ink as sRGB (0 to 255), through the coated press profile."""
    shares = [round(255 * min(max(share, 0.0), 1.0)) for share in colour.process]
    pixel = Image.fromarray(np.array([[shares]], np.uint8), "CMYK")
    shown = ImageCms.applyTransform(pixel, _ink_transform())
    assert shown is not None
    red, green, blue = np.asarray(shown)[0, 0].tolist()
    return int(red), int(green), int(blue)
