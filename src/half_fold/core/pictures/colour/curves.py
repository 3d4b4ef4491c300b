"""Curves of tone: smooth through the places that were given, and never turning back between them."""

import re
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from half_fold.core.measure.problem import Problem

Places = tuple[tuple[float, float], ...]  # per cent of the way from black to white: from what, to what
MOST = 16
Floats = npt.NDArray[np.float64]
_PLACE = re.compile(r"(-?[\d.]+)\s*[ :]\s*(-?[\d.]+)")


def curve_at(places: Places, values: Floats) -> Floats:
    """What values from 0 to 1 become by a curve through those places; the ends stay where none is given for them.

    A cubic in each stretch whose slopes are limited so that it rises with its places (Fritsch and Carlson, 1980).
    """
    if not places:
        return values
    x, y = _whole(places)
    step = np.diff(x)
    rise = np.diff(y) / step
    slope = np.concatenate([rise[:1], (rise[:-1] + rise[1:]) / 2, rise[-1:]])
    turns = rise[:-1] * rise[1:] <= 0
    slope[1:-1][turns] = 0
    for near, own in enumerate(rise):
        if own == 0:
            slope[near] = slope[near + 1] = 0
            continue
        first, last = slope[near] / own, slope[near + 1] / own
        far = np.hypot(first, last)
        if far > 3:
            slope[near], slope[near + 1] = 3 * own * first / far, 3 * own * last / far
    at = np.clip(np.searchsorted(x, values, "right") - 1, 0, len(step) - 1)
    t, wide = (np.clip(values, 0, 1) - x[at]) / step[at], step[at]
    made: Floats = (
        (2 * t**3 - 3 * t**2 + 1) * y[at]
        + (t**3 - 2 * t**2 + t) * wide * slope[at]
        + (-2 * t**3 + 3 * t**2) * y[at + 1]
        + (t**3 - t**2) * wide * slope[at + 1]
    )
    return made.clip(0, 1)


def _whole(places: Places) -> tuple[Floats, Floats]:
    """The places with both ends, from 0 to 1."""
    given = dict(places)
    every = {0.0: 0.0, 100.0: 100.0} | given
    x = np.array(sorted(every), np.float64)
    return x / 100, np.array([every[at] for at in sorted(every)], np.float64) / 100


def parse_curve(text: str) -> Places:
    """``25 20, 75 82``: what is 25 per cent of the way to white becomes 20. Problem where that is no curve."""
    if text.strip().lower() in ("", "none", "straight"):
        return ()
    made = []
    for entry in filter(str.strip, re.split(r"[,;]", text)):
        found = _PLACE.fullmatch(entry.strip())
        if found is None:
            raise Problem(f"“{entry.strip()}” is no place of a curve; give per cent from and to, such as 25 20, 75 82.")
        made.append((float(found[1]), float(found[2])))
    require_curve(made)
    return tuple(sorted(made))


def require_curve(places: Sequence[tuple[float, float]]) -> None:
    """Problem where those are no places of a curve."""
    if len(places) > MOST or any(not (0 <= a <= 100 and 0 <= b <= 100) for a, b in places):
        raise Problem(f"A curve has at most {MOST} places, each from 0 to 100 per cent.")
    if len({a for a, _ in places}) < len(places):
        raise Problem("A curve goes through one place for each tone; give every first figure once.")


def format_curve(places: Places) -> str:
    """A curve as it is typed."""
    return ", ".join(f"{a:g} {b:g}" for a, b in places)
