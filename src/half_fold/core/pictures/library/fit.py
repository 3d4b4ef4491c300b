"""How a picture sits in its block: filling it or fitting inside, the focus kept in view, and its resolution."""

import math

from half_fold.core.drawing.affine import Affine, flipped, turned
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.publication.records import HoldsPicture, Picture

SOFT_BELOW = 1.33 / 2
REFUSED_BELOW = 1.0 / 2


def placed(picture: Picture, holds: HoldsPicture, box: Rect) -> Rect:
    """Where the whole picture lies so that it fills ``box`` (or fits inside), in the box's own units, still unturned.

    Where it is turned about the box's middle it covers what the box then is to it: as wide as the turned box's hull.
    """
    room = _seen_from(box, -holds.turn)
    if holds.repeated and not holds.turn:
        scale = room.height / picture.height * holds.closer  # its mirror images go on to both sides
    elif holds.scale == "fill":
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
    where = Rect(left, top, left + width, top + height)
    return _kept_in_view(picture, holds, box, room, where) if picture.keep_clear else where


def share_rect(share: tuple[float, float, float, float], flipped: bool, where: Rect) -> Rect:
    """A part of a picture (left, top, right and bottom as shares of it) where the picture lies on ``where``."""
    left, top, right, bottom = share
    if flipped:
        left, right = 1 - right, 1 - left
    across, down = where.width, where.height
    return Rect(
        where.left + left * across, where.top + top * down, where.left + right * across, where.top + bottom * down
    )


def _kept_in_view(picture: Picture, holds: HoldsPicture, box: Rect, room: Rect, where: Rect) -> Rect:
    """Moved as little as brings all that is kept clear into the box, as far as the picture still fills its room.

    What is larger than the box is brought to its middle. Seen from a turned picture the box is turned: the way there is
    measured along its sides.
    """
    turn = turned(box.centre, holds.turn)
    clear = turn.around(hull(share_rect(each, holds.flipped, where) for each in picture.keep_clear))
    by = _into(clear.left, clear.right, box.left, box.right), _into(clear.top, clear.bottom, box.top, box.bottom)
    across, down = turned((0, 0), -holds.turn).of(*by)
    left = _held(where.left + across, room.left, room.width, where.width)
    top = _held(where.top + down, room.top, room.height, where.height)
    return where.moved(left - where.left, top - where.top)


def _into(low: float, high: float, start: float, end: float) -> float:
    """How far a span has to go to lie between start and end: to their middle where it is longer."""
    if high - low > end - start:
        return (start + end - low - high) / 2
    return max(0.0, start - low) - max(0.0, high - end)


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
    return _held(start + room / 2 - focus * size, start, room, size)


def _held(wanted: float, start: float, room: float, size: float) -> float:
    """As near to where it is wanted as still covers the room, or stays inside."""
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
