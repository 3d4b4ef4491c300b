"""Crop marks: 0.25 pt in registration colour, 5 mm long, clear of the bleed."""

from half_fold.core.drawing.marks import Line, Origin
from half_fold.core.drawing.tone import REGISTRATION
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect

WEIGHT = 0.25
PRESS = Origin("press")
LEAST_CLEARANCE = 3 * MM
LENGTH = 5 * MM
MARGIN = 2 * MM


def marks_reach(bleed: float) -> tuple[float, float]:
    """Where a mark begins and ends beyond the trim, in points."""
    near = max(bleed, LEAST_CLEARANCE)
    return near, near + LENGTH


def slug(bleed: float) -> float:
    """How far the sheet reaches past the trim to hold the marks, in points."""
    return marks_reach(bleed)[1] + MARGIN


def crop_marks(trim: Rect, bleed: float, folds: tuple[float, ...] = ()) -> list[Line]:
    """Marks at the corners of ``trim``, and fold marks above and below at each x of ``folds``."""
    near, far = marks_reach(bleed)
    out = []
    for x, dx in ((trim.left, -1), (trim.right, 1)):
        for y, dy in ((trim.top, -1), (trim.bottom, 1)):
            out.append(marked((x + dx * near, y), (x + dx * far, y)))
            out.append(marked((x, y + dy * near), (x, y + dy * far)))
    for x in folds:
        out.append(marked((x, trim.top - near), (x, trim.top - far)))
        out.append(marked((x, trim.bottom + near), (x, trim.bottom + far)))
    return out


def marked(start: tuple[float, float], end: tuple[float, float]) -> Line:
    """One line of them."""
    return Line(start, end, REGISTRATION, WEIGHT, PRESS)
