"""Colours of a screen as inks: the nearest that print comes to them, and what paper loses of them."""

import re
from typing import NamedTuple

import numpy as np
from PIL import Image

from half_fold.core.pictures.colour.colour import lab_of_inks, lab_of_screen, profile_for, screen_to_inks
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
