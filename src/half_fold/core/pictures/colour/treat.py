"""Treatments of pictures: pure, and the same for a thumbnail, the bench, the proof and the press.

They work on sRGB, in this order: what is sharpened, at its final size and at the press alone; light and cast in linear
light (IEC 61966-2-1), black and white points, contrast and curves, colours, fading to paper, blur.
"""

from functools import lru_cache
from pathlib import Path

import msgspec
import numpy as np
import numpy.typing as npt
from msgspec.structs import replace
from PIL import Image, ImageChops, ImageFilter

from half_fold.core.measure.kept import kept, kept_by
from half_fold.core.pictures.colour.colours import CUBE, colour_cube, colour_steps, has_colours
from half_fold.core.pictures.colour.curves import curve_at
from half_fold.core.pictures.colour.regions import WHOLE, Box, belongs
from half_fold.core.pictures.rasters.srgb import from_light, to_light
from half_fold.core.publication.records import Treatment

MOST_CAST = 0.35  # how many stops red gains, and blue loses, at a warmth of 100; green loses at a tint of 100
_BETWEEN = "\x1f"  # stands in no id
_SHARPEN_MM = 0.2  # how far from an edge sharpening reaches, at the printed size
_NEUTRAL = Treatment()
Floats = npt.NDArray[np.float64]
Octets = npt.NDArray[np.uint8]


def treated(
    image: Image.Image,
    treatment: Treatment | None,
    longer: float = 0.0,
    final_ppi: float = 0.0,
    folder: Path | None = None,
    part: Box = WHOLE,
) -> Image.Image:
    """A picture in sRGB (perhaps with alpha) treated; grey where that is asked.

    ``longer`` is how many pixels the longer side of the whole picture has at this scale, where the image is a part of
    it; ``final_ppi`` how many go to the printed inch, where it is at its final size. Its regions are treated by
    themselves where the job's ``folder`` of pictures is given, and lie in the ``part`` of the picture that this is.
    """
    if treatment is None:
        return image
    alpha = image.getchannel("A") if "A" in image.getbands() else None
    plain = image.convert("RGB")
    made = sharpened(plain, treatment, final_ppi).point(_tables(treatment))
    if has_colours(treatment):
        made = made.filter(cube(colour_steps(treatment)))
    if folder is not None:
        for area in treatment.areas:
            own = treated(made, area.treatment, longer or max(image.size))
            made = Image.composite(own.convert("RGB"), made, _as_mask(belongs(area.where, plain, folder, part)))
    made = made.convert("L") if is_grey(treatment) else made
    if treatment.blur:
        made = made.filter(ImageFilter.GaussianBlur(treatment.blur / 1000 * (longer or max(image.size))))
    if folder is not None:
        alpha = alpha_seen(plain, alpha, treatment, folder, part)
    if alpha is not None:
        made.putalpha(alpha)
    return made


def alpha_seen(
    plain: Image.Image, alpha: Image.Image | None, treatment: Treatment, folder: Path, part: Box = WHOLE
) -> Image.Image | None:
    """How opaque each pixel is once only a region is shown; None where all of it is."""
    if treatment.seen is None:
        return alpha
    seen = _as_mask(belongs(treatment.seen, plain, folder, part))
    return seen if alpha is None else ImageChops.multiply(alpha, seen)


def _as_mask(share: npt.NDArray[np.float32]) -> Image.Image:
    return Image.fromarray(np.rint(255 * share).astype(np.uint8), "L")


def only_tones(treatment: Treatment) -> Treatment:
    """What of it is done to the whole picture alike: without its patches, regions and lines made upright."""
    return replace(treatment, patches=(), upright=None, areas=(), seen=None)


def sharpened(image: Image.Image, treatment: Treatment, final_ppi: float) -> Image.Image:
    """A picture in RGB with steeper edges, where it is at its final size: what differs from its blur, times so much.

    ``final_ppi`` is how many of its pixels go to the printed inch; 0 where that is not settled yet.
    """
    if not treatment.sharpen or not final_ppi:
        return image
    return Image.fromarray(steeper(np.asarray(image), treatment.sharpen, final_ppi))


def steeper(pixels: Octets, sharpen: float, final_ppi: float) -> Octets:
    """Pixels of shape (high, wide, 3) with what differs from their blur added ``sharpen`` per cent more."""
    from half_fold.core.measure.opencv import cv2  # which takes a tenth of a second

    by = sharpen / 100
    reach = _SHARPEN_MM / 25.4 * final_ppi
    size = 2 * max(1, round(2.2 * reach)) + 1
    soft = cv2.GaussianBlur(pixels, (size, size), reach)
    return np.asarray(cv2.addWeighted(pixels, 1 + by, soft, -by, 0), np.uint8)


def is_of_colours(treatment: Treatment) -> bool:
    """Whether all it does to a pixel follows from that pixel's colour, once it is sharpened, and leaves it coloured."""
    return not (treatment.areas or treatment.blur or is_grey(treatment))


def keeps_greys(treatment: Treatment) -> bool:
    """Whether what is grey stays so."""
    own = treatment.warmth or treatment.tint or treatment.curve_red or treatment.curve_green or treatment.curve_blue
    toned = treatment.toned_dark or treatment.toned_middle or treatment.toned_light
    return not own and not toned and all(keeps_greys(area.treatment) for area in treatment.areas)


def is_grey(treatment: Treatment) -> bool:
    """Whether nothing but a grey is left of it."""
    toned = treatment.toned_dark or treatment.toned_middle or treatment.toned_light
    return treatment.grey and not treatment.kept and not toned


@kept(512)
def treatment_key(treatment: Treatment) -> str:
    """What it asks for beside the neutral one, as it tells a picture treated so from others."""
    asked = {
        field: value
        for field in Treatment.__struct_fields__
        if (value := getattr(treatment, field)) != getattr(_NEUTRAL, field)
    }
    return msgspec.json.encode(asked).decode()


@kept_by(64, lambda treatment: (treatment_key(treatment),))
def cube(treatment: Treatment) -> ImageFilter.Color3DLUT:
    """What it does to colours, as a filter."""
    return ImageFilter.Color3DLUT(CUBE, colour_cube(treatment).ravel())


@kept_by(64, lambda treatment: (treatment_key(treatment),))
def _tables(treatment: Treatment) -> list[int]:
    return np.rint(255 * tables(treatment)).astype(int).ravel().tolist()


def tables(treatment: Treatment) -> Floats:
    """What each of 256 steps of red, of green and of blue becomes, from 0 to 1: an array of shape (3, 256)."""
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
        made.append(np.clip(value, 0, 1))
    return np.stack(made)


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
    return f"{picture}{_BETWEEN}{treatment_key(treatment)}"


@lru_cache(512)
def parse_drawn_key(key: str) -> tuple[str, Treatment | None]:
    """The picture's id and its treatment, from what tells both."""
    picture, sign, words = key.partition(_BETWEEN)
    return (picture, msgspec.json.decode(words, type=Treatment)) if sign else (picture, None)
