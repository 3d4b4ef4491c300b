"""How a picture sits in its block: filling it or fitting inside, the focus kept in view, and its resolution."""

from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import HoldsPicture, Picture

GOOD_PPI = 300.0
SOFT_BELOW = 1.33 / 2
REFUSED_BELOW = 1.0 / 2


def placed(picture: Picture, holds: HoldsPicture, box: Rect) -> Rect:
    """Where the whole picture lies so that it fills ``box`` (or fits inside), in the box's own units."""
    across, down = box.width / picture.width, box.height / picture.height
    scale = max(across, down) if holds.scale == "fill" else min(across, down)
    width, height = picture.width * scale, picture.height * scale
    left = _along(box.left, box.width, width, holds.focus_x)
    top = _along(box.top, box.height, height, holds.focus_y)
    return Rect(left, top, left + width, top + height)


def _along(start: float, room: float, size: float, focus: float) -> float:
    """The focus goes to the middle of the room, as far as the picture still covers it (or stays inside)."""
    wanted = start + room / 2 - focus * size
    low, high = sorted((start, start + room - size))
    return min(max(wanted, low), high)


def effective_ppi(picture: Picture, where: Rect) -> float:
    """Pixels to the printed inch along the worse axis; ``where`` is the whole picture in points."""
    return min(picture.width / where.width, picture.height / where.height) * 72


def cropped_away(where: Rect, box: Rect) -> float:
    """The share of the picture's area that lies outside its box."""
    seen = where.clipped(box)
    return 1 - (seen.width * seen.height) / (where.width * where.height)
