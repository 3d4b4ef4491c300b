"""How a picture sits in its block: filling it or fitting inside, the focus kept in view, and its resolution."""

import math

from half_fold.core.drawing.affine import Affine, flipped, turned
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import HoldsPicture, Picture

SOFT_BELOW = 1.33 / 2
REFUSED_BELOW = 1.0 / 2


def placed(picture: Picture, holds: HoldsPicture, box: Rect) -> Rect:
    """Where the whole picture lies so that it fills ``box`` (or fits inside), in the box's own units, still unturned.

    Where it is turned about the box's middle it covers what the box then is to it: as wide as the turned box's hull.
    """
    room = _seen_from(box, -holds.turn)
    if holds.scale == "fill":
        scale = max(room.width / picture.width, room.height / picture.height) * holds.closer
    else:
        hull = _seen_from(Rect(0, 0, picture.width, picture.height), holds.turn)
        scale = min(box.width / hull.width, box.height / hull.height) * holds.closer
        middle_x, middle_y = box.centre
        half_x, half_y = picture.width * scale / 2, picture.height * scale / 2
        if holds.turn:
            return Rect(middle_x - half_x, middle_y - half_y, middle_x + half_x, middle_y + half_y)
    width, height = picture.width * scale, picture.height * scale
    left = _along(room.left, room.width, width, 1 - holds.focus_x if holds.flipped else holds.focus_x)
    top = _along(room.top, room.height, height, holds.focus_y)
    return Rect(left, top, left + width, top + height)


def _seen_from(box: Rect, degrees: float) -> Rect:
    """The upright rectangle round a box that is turned about its own middle; the box itself where it is not."""
    return turned(box.centre, degrees).around(box) if degrees else box


def turned_in(holds: HoldsPicture, box: Rect, where: Rect) -> Affine | None:
    """How a picture that lies on ``where`` is flipped, and turned about the middle of its box; None for neither."""
    if not holds.turn and not holds.flipped:
        return None
    turn = turned(box.centre, holds.turn)
    return turn.after(flipped(where)) if holds.flipped else turn


def _along(start: float, room: float, size: float, focus: float) -> float:
    """The focus goes to the middle of the room, as far as the picture still covers it (or stays inside)."""
    wanted = start + room / 2 - focus * size
    low, high = sorted((start, start + room - size))
    return min(max(wanted, low), high)


def effective_ppi(picture: Picture, where: Rect) -> float:
    """Pixels to the printed inch along the worse axis; ``where`` is the whole picture in points; art has any."""
    if picture.art:
        return math.inf
    return min(picture.width / where.width, picture.height / where.height) * 72


def cropped_away(where: Rect, box: Rect, turn: float = 0.0) -> float:
    """The share of the picture's area that lies outside its box; one that is turned covers all of that."""
    if turn:
        return max(0.0, 1 - (box.width * box.height) / (where.width * where.height))
    seen = where.clipped(box)
    return 1 - (seen.width * seen.height) / (where.width * where.height)
