"""The marks of a ruler in a unit: as many as can be told apart at a scale, and numbered where there is room."""

import math
from typing import NamedTuple

from half_fold.core.measure.length import Length, figure, in_unit, length

LEAST_PIXELS, LEAST_NUMBERED = 5.0, 42.0  # between marks, and between such as are numbered
# Between marks, in the unit: what a rule of that unit is divided into.
_TENS = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0)
_STEPS: dict[str, tuple[float, ...]] = {
    "in": (1 / 32, 1 / 16, 1 / 8, 1 / 4, 1 / 2, 1.0, 2.0, 5.0, 10.0),
    "pica": (1 / 12, 1 / 4, 1 / 2, 1.0, 3.0, 6.0, 12.0, 24.0, 48.0),
    "pt": (1.0, 3.0, 6.0, 12.0, 36.0, 72.0, 144.0, 288.0),
}

DRAWN_STEPS = {"in": 1 / 32, "cm": 0.05, "um": 500.0}  # of any other unit a half


class RulerMark(NamedTuple):
    """A mark so many points from where the ruler begins; one that is numbered says how far that is."""

    at: float
    says: str = ""


def ruler_marks(reach: float, unit: str, pixels: float) -> tuple[RulerMark, ...]:
    """The marks along ``reach`` points, at so many ``pixels`` to the point, the first at its beginning."""
    point = 1 / in_unit(1.0, unit)  # points to the unit
    steps = [step for step in _STEPS.get(unit, _TENS) if step * point * pixels >= LEAST_PIXELS] or [_TENS[-1]]
    step = steps[0]
    wide = [each for each in steps if each * point * pixels >= LEAST_NUMBERED and _divides(step, each)]
    every = wide[0] if wide else steps[-1]
    count = math.floor(reach / point / step + 1e-6)
    times = max(1, round(every / step))
    return tuple(RulerMark(at * step * point, figure(at * step) if at % times == 0 else "") for at in range(count + 1))


def _divides(step: float, each: float) -> bool:
    return abs(each / step - round(each / step)) < 1e-6


def drawn_length(points: float, unit: str) -> Length:
    """A measure that was drawn by hand: whole steps of the job's unit, and no less than nothing."""
    step = DRAWN_STEPS.get(unit, 0.5)
    return length(f"{max(0.0, round(in_unit(points, unit) / step) * step):g}{unit}")
