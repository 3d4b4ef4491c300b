"""Colours of a screen as inks: the nearest that print comes to them, and what paper loses of them."""

import math
import re
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from PIL import Image

from half_fold.core.pictures.colour.colour import lab_of_inks, lab_of_screen, profile_for, screen_to_inks
from half_fold.core.pictures.rasters.srgb import from_light
from half_fold.core.publication.records import Ink, Publication

_HEX = re.compile(r"#?([0-9a-fA-F]{6}|[0-9a-fA-F]{3})")
_RGB = re.compile(r"rgb\s*\(?\s*(\d{1,3})[\s,]+(\d{1,3})[\s,]+(\d{1,3})\s*\)?", re.IGNORECASE)
JUST_SEEN = 2.3  # a difference in Lab that an eye just sees side by side (Mahy, 1994)
LOST = 3.0  # of chroma or lightness, from which it is worth saying


def screen_colour(text: str) -> str | None:
    """A colour typed as hex or RGB, as ``#rrggbb``; None where it is neither."""
    text = text.strip()
    if found := _RGB.fullmatch(text):
        figures = [int(figure) for figure in found.groups()]
        return "#" + "".join(f"{figure:02x}" for figure in figures) if max(figures) <= 255 else None
    found = _HEX.fullmatch(text)
    if found is None or (not text.startswith("#") and len(text) != 6):
        return None
    digits = found[1].lower()
    return "#" + (digits if len(digits) == 6 else "".join(digit * 2 for digit in digits))


def _pixel(colour: str) -> Image.Image:
    rgb = [int(colour[at : at + 2], 16) for at in (1, 3, 5)]
    return Image.fromarray(np.array([[rgb]], np.uint8), "RGB")


def near_in_print(publication: Publication, name: str, colour: str) -> Ink:
    """The ink that comes nearest to a screen colour through the profile of the job's text paper."""
    profile = profile_for(publication, publication.brief.text_paper)
    shares = np.asarray(screen_to_inks(_pixel(colour), profile), np.float64)[0, 0] * 100 / 255
    c, m, y, k = (round(float(share)) for share in shares)
    return Ink(name=name, cyan=c, magenta=m, yellow=y, black=k)


def hex_of_lab(lab: Sequence[float]) -> str:
    """A colour in Lab as sRGB, by CIE 15 and IEC 61966-2-1, whose white is brought to D50."""
    light = (lab[0] + 16) / 116
    cube = np.array([light + lab[1] / 500, light, light - lab[2] / 200])
    xyz = np.where(cube > 6 / 29, cube**3, 3 * (6 / 29) ** 2 * (cube - 4 / 29)) * (0.9642, 1.0, 0.8249)
    linear = np.clip(_FROM_XYZ @ xyz, 0, 1)
    return "#" + "".join(f"{round(255 * float(each)):02x}" for each in from_light(linear))


_FROM_XYZ = np.array(
    [[3.1338561, -1.6168667, -0.4906146], [-0.9787684, 1.9161415, 0.0334540], [0.0719453, -0.2289914, 1.4052427]]
)


def colour_seen(hue: float, strength: float, light: float) -> str:
    """A colour by its hue (degrees, 0 is a rose, 90 a yellow, 180 a green, 270 a blue), strength and light, in CIE LCh.

    As ``#rrggbb``; one too strong for a screen as strong as that shows it.
    """
    way = math.radians(hue)
    return hex_of_lab((light, strength * math.cos(way), strength * math.sin(way)))


class Loss(NamedTuple):
    """How far print stays from a screen colour: the difference in Lab (CIE 1976), and in words."""

    difference: float
    words: str


def loss_of(publication: Publication, ink: Ink) -> Loss | None:
    """What paper loses of the screen colour an ink was asked for as; None where it was asked for in inks."""
    if not ink.screen:
        return None
    profile = profile_for(publication, publication.brief.text_paper)
    wanted = lab_of_screen(_pixel(ink.screen))
    found = lab_of_inks((ink.cyan, ink.magenta, ink.yellow, ink.black), profile)
    difference = float(np.linalg.norm(np.subtract(wanted, found)))
    return Loss(difference, _words(wanted, found, difference))


def _words(wanted: tuple[float, float, float], found: tuple[float, float, float], difference: float) -> str:
    if difference < JUST_SEEN:
        return "prints as it is on the screen"
    chroma = [float(np.hypot(*lab[1:])) for lab in (wanted, found)]
    told = []
    if chroma[0] - chroma[1] > LOST:
        told.append("duller")
    if abs(wanted[0] - found[0]) > LOST:
        told.append("darker" if found[0] < wanted[0] else "lighter")
    return (
        f"prints {' and '.join(told)}"
        if told
        else "prints in another hue"
        if difference > 2 * LOST
        else "prints nearly so"
    )
