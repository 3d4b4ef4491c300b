"""Strokes as areas: the dashes of an outline, each as wide as the stroke, for what fills areas alone."""

from collections.abc import Iterator, Sequence
from itertools import cycle

import numpy as np
import numpy.typing as npt

from half_fold.core.drawing.marks import Stroke
from half_fold.core.drawing.outline import CLOSE, Outline, turning

Floats = npt.NDArray[np.float64]
MITRE = 10.0  # how many widths a corner may reach out before it is cut off (ISO 32000, 8.4.3.5)
ROUND_STEPS = 16


def stroked(outline: Outline, stroke: Stroke, tolerance: float = 0.05, is_closed: bool = True) -> list[Floats]:
    """Polygons that together are what a stroke inks; they overlap, so fill them by non-zero winding."""
    parts = outline.flattened(tolerance)
    closed = is_closed and CLOSE in outline.ops
    out: list[Floats] = []
    for part in parts:
        line = np.vstack([part, part[:1]]) if closed and len(part) > 1 else part
        if stroke.dashes:
            for dash in _dashes(line, stroke.dashes):
                out += _ribbon(dash, stroke, False)
        else:
            out += _ribbon(line, stroke, closed)
    return [part if turning(part) > 0 else part[::-1] for part in out]


def _dashes(line: Floats, dashes: Sequence[float]) -> Iterator[Floats]:
    """The parts of a line that are inked; one of no length is a place with the way the line runs there."""
    steps = np.hypot(*np.diff(line, axis=0).T)
    reach = np.concatenate([[0.0], np.cumsum(steps)])
    at, total = 0.0, float(reach[-1])
    for index, dash in enumerate(cycle(dashes)):
        if at > total or (index >= 2 and sum(dashes) <= 0):
            return
        if index % 2 == 0:
            yield _cut(line, reach, at, min(at + dash, total))
        at += dash


def _cut(line: Floats, reach: Floats, start: float, end: float) -> Floats:
    inner = line[(reach > start) & (reach < end)]
    ends = [np.array([np.interp(at, reach, line[:, axis]) for axis in (0, 1)]) for at in (start, end)]
    return np.vstack([ends[0], inner, ends[1]])


def _ribbon(line: Floats, stroke: Stroke, closed: bool) -> list[Floats]:
    """A rectangle for each stretch, what joins them at corners, and round ends."""
    half = stroke.weight / 2
    ways = np.diff(line, axis=0)
    lengths = np.hypot(*ways.T)
    keep = lengths > 1e-9
    starts, ends, units = line[:-1][keep], line[1:][keep], ways[keep] / lengths[keep, None]
    sides = np.column_stack([-units[:, 1], units[:, 0]]) * half
    out = [np.array([a + s, b + s, b - s, a - s]) for a, b, s in zip(starts, ends, sides, strict=True)]
    corners = [(i, i + 1) for i in range(len(units) - 1)] + ([(len(units) - 1, 0)] if closed and len(units) > 1 else [])
    for one, other in corners:
        joined = _corner(ends[one], units[one], units[other], half)
        if joined is not None:
            out.append(joined)
    if stroke.is_round and not closed:
        out += [_disc(place, half) for place in (line[0], line[-1])]
    return out


def _corner(place: Floats, before: Floats, after: Floats, half: float) -> Floats | None:
    """What a sharp corner adds on its outer side; cut off where it would reach too far."""
    turn = float(before[0] * after[1] - before[1] * after[0])
    if abs(turn) < 1e-12:
        return None
    out = -1.0 if turn > 0 else 1.0
    one = place + out * half * np.array([-before[1], before[0]])
    other = place + out * half * np.array([-after[1], after[0]])
    cosine = float(before @ after)
    if np.sqrt(2 / max(1e-12, 1 + cosine)) > MITRE:
        return np.array([place, one, other])
    middle = one + other - 2 * place
    tip = place + middle / float(middle @ middle) * 2 * half * half
    return np.array([place, one, tip, other])


def _disc(place: Floats, radius: float) -> Floats:
    around = np.linspace(0, 2 * np.pi, 4 * ROUND_STEPS, endpoint=False)
    return np.asarray(place + radius * np.column_stack([np.cos(around), np.sin(around)]))
