"""What a picture's tones are, in worked figures; and the treatment that brings them to those of another."""

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import astuple, replace
from PIL import Image

from half_fold.core.pictures.colour.colour import lab_of_picture
from half_fold.core.pictures.colour.treat import treated
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import Treatment

SMALL = 64  # pixels of the longer side that are looked at when a set is matched
ROUNDS = 8
BINS = 64  # of a histogram
SPREAD_COUNTS = 0.3
MOST_CONTRAST = 50.0  # that matching asks for
SOLVED = ("exposure", "contrast", "warmth", "tint")
_STEPS = {"exposure": 0.15, "contrast": 12.0, "warmth": 12.0, "tint": 12.0}
Floats = npt.NDArray[np.float64]


class Tones(Struct, frozen=True):
    """L* of the darkest and lightest hundredth, its mean and spread; the mean a* and b*; shares that are clipped."""

    darkest: float
    lightest: float
    mean: float
    spread: float
    a: float
    b: float
    black: float
    white: float

    @property
    def words(self) -> str:
        """``L* 4 to 97, mean 46; 0.3 % white without detail``."""
        clipped = [
            f"{share * 100:.1f} % {what}"
            for share, what in ((self.white, "white"), (self.black, "black"))
            if share >= 0.0005
        ]
        lost = f"; {' and '.join(clipped)} without detail" if clipped else ""
        return f"L* {self.darkest:.0f} to {self.lightest:.0f}, mean {self.mean:.0f}{lost}"


def histogram(image: Image.Image) -> tuple[tuple[float, ...], ...]:
    """How many pixels of a picture in sRGB have each of 64 tones: of light, of red, of green and of blue."""
    plain = image.convert("RGB")
    seen = np.asarray(image.getchannel("A")) > 127 if "A" in image.getbands() else slice(None)
    planes = [np.asarray(plain.convert("L"))[seen], *(np.asarray(plain)[..., at][seen] for at in range(3))]
    return tuple(tuple(np.histogram(plane, BINS, (0, 256))[0].astype(float).tolist()) for plane in planes)


def tonal_figures(image: Image.Image) -> Tones:
    """The tones of a picture in sRGB; of a cut-out those that are seen."""
    pixels = np.asarray(image.convert("RGB"))
    lab = lab_of_picture(image.convert("RGB"))
    seen = np.asarray(image.getchannel("A")) > 127 if "A" in image.getbands() else np.ones(pixels.shape[:2], bool)
    if not seen.any():
        seen[:] = True
    light, colours, values = lab[..., 0][seen], lab[..., 1:][seen], pixels[seen]
    low, high = np.percentile(light, (1, 99))
    a, b = colours.mean(0)
    return Tones(
        float(low), float(high), float(light.mean()), float(light.std()), float(a), float(b),
        float((values.max(-1) <= 1).mean()), float((values.min(-1) >= 254).mean()),
    )  # fmt: skip


def middle_tone(every: list[Tones]) -> Tones:
    """The median of several, figure by figure."""
    return Tones(*(float(np.median(figure)) for figure in zip(*map(astuple, every), strict=True)))


def away(one: Tones, other: Tones) -> float:
    """How far two lie apart in CIE L*a*b*, spread of light included."""
    return float(np.linalg.norm(_figures(one) - _figures(other)))


def _figures(found: Tones) -> Floats:
    """What is matched; the spread of light counts less, for it is what a picture is about."""
    return np.array([found.mean, found.spread * SPREAD_COUNTS, found.a, found.b])


def brought_to(image: Image.Image, target: Tones, own: Treatment | None, strength: float = 1.0) -> Treatment:
    """The treatment that brings a picture's mean light, spread and cast so far towards those of another.

    Exposure, contrast, warmth and tint are solved by Gauss and Newton's steps from what its ``own`` treatment gives;
    all else of that stays.
    """
    small = image.copy()
    small.thumbnail((SMALL, SMALL), Image.Resampling.BOX)
    made = own or Treatment()
    start = _figures(tonal_figures(treated(small, made)))
    wanted = start + (_figures(target) - start) * strength
    for _ in range(ROUNDS):
        now = _figures(tonal_figures(treated(small, made)))
        if np.abs(wanted - now).max() < 0.2:
            break
        slopes = np.stack([_slope(small, made, field, now) for field in SOLVED], 1)
        steps: Floats = np.linalg.lstsq(slopes, wanted - now, rcond=1e-3)[0].astype(np.float64)
        made = _stepped(made, steps)
    return made


def _slope(image: Image.Image, made: Treatment, field: str, now: Floats) -> Floats:
    """By how much each figure changes for a step of a field."""
    low, high = RANGES[Treatment][field]
    value = getattr(made, field)
    step = _STEPS[field] if value + _STEPS[field] <= high else -_STEPS[field]
    stepped = replace(made, **{field: min(max(value + step, low), high)})
    return (_figures(tonal_figures(treated(image, stepped))) - now) / step


def _stepped(made: Treatment, steps: Floats) -> Treatment:
    changed = {}
    for field, step in zip(SOLVED, steps, strict=True):
        low, high = RANGES[Treatment][field]
        if field == "contrast":
            low, high = -MOST_CONTRAST, MOST_CONTRAST
        most = 8 * _STEPS[field]
        changed[field] = round(float(min(max(getattr(made, field) + np.clip(step, -most, most), low), high)), 3)
    return replace(made, **changed)
