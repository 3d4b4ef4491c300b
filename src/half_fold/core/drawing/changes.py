"""What differs between two display lists of one spread, so that only that need be drawn again."""

from collections.abc import Container, Iterable, Iterator

import numpy as np
from msgspec import structs
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import (
    DisplayList,
    Glyphs,
    Line,
    Mark,
    MarkGroup,
    Path,
    PictureMark,
    Shape,
    Veil,
    brought,
)
from half_fold.core.drawing.tone import Gradient, through
from half_fold.core.measure.rect import Rect, hull

# How far letters may reach beyond their pens, in ems: generous, since a face's own extremes are not asked.
BEFORE, AFTER, ABOVE, BELOW = 1.0, 2.0, 1.5, 0.8
NOWHERE = Rect(0, 0, 0, 0)


def bounds(mark: Mark) -> Rect:
    """A rectangle, in points, that all of a mark lies in."""
    if isinstance(mark, Glyphs):
        return _of_glyphs(mark)
    if isinstance(mark, Line):
        (x1, y1), (x2, y2) = mark.start, mark.end
        return Rect(min(x1, x2), min(y1, y2), max(x1, x2), max(y1, y2)).grown(mark.weight)
    if isinstance(mark, Path):
        return mark.outline.bounds.grown(mark.stroke.weight if mark.stroke is not None else 0.0)
    if isinstance(mark, MarkGroup):
        box = hull(map(bounds, mark.marks)) if mark.marks else NOWHERE
        return box if mark.affine is None else mark.affine.around(box)
    if isinstance(mark, Veil):
        return mark.placed if mark.affine is None else mark.affine.around(mark.placed)
    return mark.clip if isinstance(mark, PictureMark) else mark.rect.grown(mark.weight)


def _of_glyphs(mark: Glyphs) -> Rect:
    if not len(mark.xs):
        return Rect(0, mark.baseline, 0, mark.baseline)
    low, high = mark.reach
    left, right = low - BEFORE * mark.size, high + AFTER * mark.size
    box = Rect(left, mark.baseline - ABOVE * mark.size, right, mark.baseline + BELOW * mark.size)
    return mark.turn.around(box) if mark.turn is not None else box


def _same(one: Mark, other: Mark) -> bool:
    if one is other:
        return True
    if isinstance(one, Glyphs) and isinstance(other, Glyphs):
        return (
            (one.face, one.size, one.baseline, one.colour, one.turn)
            == (other.face, other.size, other.baseline, other.colour, other.turn)
            and np.array_equal(one.gids, other.gids)
            and np.array_equal(one.xs, other.xs)
        )
    if isinstance(one, Path) and isinstance(other, Path):
        return (one.fill, one.stroke) == (other.fill, other.stroke) and one.outline.is_same(other.outline)
    if isinstance(one, MarkGroup) and isinstance(other, MarkGroup):
        told = [(each.opacity, each.blend, each.affine, len(each.marks)) for each in (one, other)]
        return told[0] == told[1] and all(map(_same, one.marks, other.marks)) and _masked_alike(one.mask, other.mask)
    if isinstance(one, Veil) and isinstance(other, Veil):
        is_placed_alike = (one.placed, one.tone, one.affine) == (other.placed, other.tone, other.affine)
        return is_placed_alike and np.array_equal(one.cover, other.cover)
    return type(one) is type(other) and one == other


def _masked_alike(one: MarkGroup | None, other: MarkGroup | None) -> bool:
    return one is other or (one is not None and other is not None and _same(one, other))


def changed_area(before: DisplayList, now: DisplayList) -> Rect | None:
    """A rectangle that holds every difference; None where there is none."""
    old, new = before.marks, now.marks
    least = min(len(old), len(new))
    start = next((i for i in range(least) if not _same(old[i], new[i])), least)
    end = next((i for i in range(least - start) if not _same(old[-1 - i], new[-1 - i])), least - start)
    areas = [bounds(mark) for mark in (*old[start : len(old) - end], *new[start : len(new) - end])]
    if not areas:
        return None
    return hull(areas)


def within(marks: DisplayList, area: Rect) -> DisplayList:
    """The marks that may reach into an area, in their order."""
    return replace(marks, area=area, marks=tuple(mark for mark in marks.marks if bounds(mark).meets(area)))


def without_blocks(marks: DisplayList, blocks: Container[str]) -> DisplayList:
    """The list without the marks of some blocks, those in groups as well."""
    return replace(marks, marks=tuple(_without(marks.marks, blocks)))


def _without(marks: Iterable[Mark], blocks: Container[str]) -> Iterator[Mark]:
    for mark in marks:
        if mark.origin.block in blocks:
            continue
        yield replace(mark, marks=tuple(_without(mark.marks, blocks))) if isinstance(mark, MarkGroup) else mark


def moved(marks: Iterable[Mark], across: float, down: float = 0.0) -> Iterator[Mark]:
    """The same marks so many points to the right, and down."""
    shift, back = Affine(1, 0, 0, 1, across, down), Affine(1, 0, 0, 1, -across, -down)

    def about(affine: Affine | None) -> Affine | None:
        return None if affine is None else shift.after(affine).after(back)

    for mark in marks:
        if isinstance(mark, Glyphs):
            colour = mark.colour.through(shift) if isinstance(mark.colour, Gradient) else mark.colour
            if mark.turn is None:
                yield structs.replace(mark, xs=mark.xs + across, baseline=mark.baseline + down, colour=colour)
            else:
                yield structs.replace(mark, turn=shift.after(mark.turn), colour=colour)
        elif isinstance(mark, Line):
            yield replace(mark, start=shift.of(*mark.start), end=shift.of(*mark.end))
        elif isinstance(mark, Shape):
            yield replace(mark, rect=mark.rect.moved(across, down))
        elif isinstance(mark, Path):
            stroke, fill = mark.stroke, mark.fill
            if stroke is not None:
                stroke = stroke._replace(tone=through(stroke.tone, shift))
            fill = fill if fill is None else through(fill, shift)
            yield Path(mark.outline.through(shift), fill, stroke, mark.origin)
        elif isinstance(mark, MarkGroup):
            mask = mark.mask
            if mask is not None:
                mask = next(each for each in moved((mask,), across, down) if isinstance(each, MarkGroup))
            yield replace(mark, marks=tuple(moved(mark.marks, across, down)), affine=about(mark.affine), mask=mask)
        elif isinstance(mark, Veil):
            yield replace(mark, placed=mark.placed.moved(across, down), affine=about(mark.affine))
        else:
            outline = mark.outline if mark.outline is None else mark.outline.through(shift)
            placed, clip = mark.placed.moved(across, down), mark.clip.moved(across, down)
            yield replace(mark, placed=placed, clip=clip, affine=about(mark.affine), outline=outline)


def move_marks(marks: Iterable[Mark], affine: Affine) -> Iterator[Mark]:
    """The same marks where ``affine`` brings them."""
    for mark in marks:
        if isinstance(mark, MarkGroup):
            yield replace(mark, affine=affine if mark.affine is None else affine.after(mark.affine))
        else:
            yield brought(mark, affine)
