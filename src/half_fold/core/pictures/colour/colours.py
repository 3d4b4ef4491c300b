"""What a treatment does to colours, as a cube: hues, vibrance, saturation, greys by weights, tones of inks."""

import re
from typing import get_args

import numpy as np
import numpy.typing as npt

from half_fold.core.measure.kept import kept
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Hue, Range, Treatment

CUBE = 33  # steps of each colour; between them the cube is read in a straight line
RANGES: tuple[Range, ...] = get_args(Range)
_MIDDLES: dict[Range, float] = {  # degrees of hue
    "reds": 0.0, "oranges": 30.0, "yellows": 60.0, "greens": 120.0, "blues": 220.0, "purples": 290.0,
}  # fmt: skip
_REACH: dict[Range, float] = {"reds": 35, "oranges": 25, "yellows": 30, "greens": 60, "blues": 60, "purples": 50}
MOST_SHIFT = 60.0
WEIGHTS = (30.0, 59.0, 11.0)  # of red, green and blue in a grey, as the eye takes them (ITU-R BT.601)
_ONE = re.compile(r"(?P<range>[a-z]+)\s+(?P<by>[-+−]?[\d.]+)\s*°?")
Floats = npt.NDArray[np.float64]


def has_colours(treatment: Treatment) -> bool:
    """Whether it does more than change tones."""
    neutral = treatment.saturation == treatment.vibrance == 0 and not treatment.hues
    own_grey = treatment.grey and (treatment.weights != WEIGHTS or bool(treatment.kept))
    return not neutral or own_grey or bool(treatment.toned_dark or treatment.toned_middle or treatment.toned_light)


_STEPS = (
    "saturation", "vibrance", "hues", "grey", "weights", "kept", "toned_dark", "toned_middle", "toned_light",
)  # fmt: skip


@kept(256)
def colour_steps(treatment: Treatment) -> Treatment:
    """What of it is done to colours: of two that differ in nothing of that, the same is made."""
    return Treatment(**{step: getattr(treatment, step) for step in _STEPS})


def colour_cube(treatment: Treatment) -> npt.NDArray[np.float32]:
    """What each of the colours of a cube becomes: an array of shape (33, 33, 33, 3), blue first, from 0 to 1."""
    steps = np.linspace(0, 1, CUBE)
    blue, green, red = np.meshgrid(steps, steps, steps, indexing="ij")
    colours = np.stack([red, green, blue], -1)
    for hue in treatment.hues:
        colours = _shifted(colours, hue)
    colours = _fuller(colours, treatment.saturation / 100, treatment.vibrance / 100)
    toned = [treatment.toned_dark, treatment.toned_middle, treatment.toned_light]
    if treatment.grey or any(toned):
        grey = _grey(colours, treatment)[..., None]
        plain = _in_inks(grey, toned) if any(toned) else np.repeat(grey, 3, -1)
        share = _belongs(colours, treatment.kept)[..., None] if treatment.kept else 0.0
        colours = plain * (1 - share) + colours * share
    return np.clip(colours, 0, 1).astype(np.float32)


def _hue_and_chroma(colours: Floats) -> tuple[Floats, Floats]:
    """Hue in degrees, and how far the strongest of the three stands above the weakest."""
    red, green, blue = colours[..., 0], colours[..., 1], colours[..., 2]
    chroma = colours.max(-1) - colours.min(-1)
    hue = np.degrees(np.arctan2(np.sqrt(3) * (green - blue), 2 * red - green - blue)) % 360
    return hue, chroma


def _belongs(colours: Floats, which: Range) -> Floats:
    """How far each colour belongs to a range, from 0 to 1: all of it in the middle, none where it is grey."""
    hue, chroma = _hue_and_chroma(colours)
    away = np.abs((hue - _MIDDLES[which] + 180) % 360 - 180) / _REACH[which]
    near = np.clip(1.5 - away, 0, 1)
    belongs: Floats = _smooth(near) * _smooth(np.clip(chroma * 4, 0, 1))
    return belongs


def _smooth(value: Floats) -> Floats:
    smooth: Floats = value * value * (3 - 2 * value)
    return smooth


def _shifted(colours: Floats, hue: Hue) -> Floats:
    """A range turned about the grey axis, as light as it was."""
    turn = np.radians(hue.by * _belongs(colours, hue.range))
    grey = colours.mean(-1)
    red, green, blue = (colours[..., i] - grey for i in range(3))
    cosine, sine = np.cos(turn), np.sin(turn) / np.sqrt(3)
    made = [
        grey + red * cosine + (blue - green) * sine,
        grey + green * cosine + (red - blue) * sine,
        grey + blue * cosine + (green - red) * sine,
    ]
    turned = np.clip(np.stack(made, -1), 0, 1)
    as_light: Floats = turned + (_luma(colours) - _luma(turned))[..., None]
    return as_light


def _luma(colours: Floats) -> Floats:
    luma: Floats = colours @ (np.array(WEIGHTS) / 100)
    return luma


def _fuller(colours: Floats, saturation: float, vibrance: float) -> Floats:
    """Farther from grey, or nearer to it; vibrance spares what is full already."""
    if not saturation and not vibrance:
        return colours
    luma = _luma(colours)[..., None]
    full = (colours.max(-1) - colours.min(-1))[..., None]
    factor = (1 + saturation) * (1 + vibrance * (1 - full) ** 2)
    made: Floats = luma + (colours - luma) * factor
    return made.clip(0, 1)


def _grey(colours: Floats, treatment: Treatment) -> Floats:
    weights = np.array(treatment.weights, np.float64)
    whole = weights.sum()
    return np.clip(colours @ (weights / whole if whole > 0 else weights), 0, 1)


def _in_inks(grey: Floats, inks: list[str]) -> Floats:
    """A grey printed in inks: the dark one where it is black, the middle one half way, the light one or paper above."""
    dark, middle, light = inks
    stops = [(0.0, dark or "#000000"), *([(0.5, middle)] if middle else []), (1.0, light or "#ffffff")]
    at = [where for where, _ in stops]
    every = np.array([[int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)] for _, colour in stops])
    return np.concatenate([np.interp(grey, at, every[:, channel]) for channel in range(3)], -1)


# As it is typed -------------------------------------------------------------------------------------


def parse_hues(text: str) -> tuple[Hue, ...]:
    """``greens 12, blues -8``: ranges turned by so many degrees. Problem where that cannot be."""
    made = []
    for entry in filter(None, (part.strip().lower() for part in re.split(r"[,;]", text))):
        if entry == "none":
            continue
        found = _ONE.fullmatch(entry)
        which = next((each for each in RANGES if found is not None and each == found["range"]), None)
        if found is None or which is None:
            raise Problem(f"“{entry}” is no hue; name {', '.join(RANGES)} and by how many degrees, such as greens 12.")
        by = float(found["by"].replace("−", "-"))
        if abs(by) > MOST_SHIFT:
            raise Problem(f"A hue turns by {MOST_SHIFT:g} degrees at most, not by {by:g}.")
        made.append(Hue(range=which, by=by))
    if len({hue.range for hue in made}) < len(made):
        raise Problem("Name each range of hues once.")
    return tuple(made)


def format_hues(hues: tuple[Hue, ...]) -> str:
    return ", ".join(f"{hue.range} {hue.by:g}" for hue in hues)


def parse_weights(text: str) -> tuple[float, float, float]:
    """``40 50 10``: how much red, green and blue count in a grey. Problem where those are no weights."""
    if text.strip().lower() in ("", "none"):
        return WEIGHTS
    try:
        red, green, blue = (float(part) for part in re.split(r"[\s,;]+", text.strip()))
    except ValueError as error:
        raise Problem(f"“{text}” are no weights; give red, green and blue, such as 40 50 10.") from error
    if not all(-200 <= weight <= 200 for weight in (red, green, blue)) or red + green + blue < 10:
        raise Problem(f"“{text}” cannot be weighed; each is from -200 to 200, and together they are 10 or more.")
    return red, green, blue


def format_weights(weights: tuple[float, float, float]) -> str:
    return "" if weights == WEIGHTS else " ".join(f"{weight:g}" for weight in weights)
