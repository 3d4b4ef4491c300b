"""How far marks may reach: the area that each may touch."""

from half_fold.core.drawing.marks import (
    Glyphs,
    Mark,
    MarkGroup,
    Path,
    PictureMark,
    Shape,
    Veil,
)
from half_fold.core.measure.rect import Rect, hull

# How far letters may reach beyond their pens, in ems.
BEFORE, AFTER, ABOVE, BELOW = 1.0, 1.5, 1.2, 1.0


def touched_area(mark: Mark) -> Rect:
    """The area a mark may touch, never too small."""
    if isinstance(mark, Glyphs):
        if not len(mark.xs):
            return Rect(0, 0, 0, 0)
        (left, right), size = mark.reach, mark.size
        upright = Rect(
            left - BEFORE * size, mark.baseline - ABOVE * size, right + AFTER * size, mark.baseline + BELOW * size
        )
        return upright if mark.turn is None else mark.turn.around(upright)
    if isinstance(mark, Shape):
        return mark.rect
    if isinstance(mark, PictureMark):
        return mark.seen
    if isinstance(mark, Veil):
        return mark.placed if mark.affine is None else mark.affine.around(mark.placed)
    if isinstance(mark, Path):
        return mark.outline.bounds.grown(mark.stroke.weight if mark.stroke is not None else 0.0)
    if isinstance(mark, MarkGroup):
        box = hull(map(touched_area, mark.marks)) if mark.marks else Rect(0, 0, 0, 0)
        return box if mark.affine is None else mark.affine.around(box)
    (x0, y0), (x1, y1) = mark.start, mark.end
    half = mark.weight / 2
    return Rect(min(x0, x1) - half, min(y0, y1) - half, max(x0, x1) + half, max(y0, y1) + half)
