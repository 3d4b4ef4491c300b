"""Things lined up, spread evenly and made the same size: by their boxes, or by the ink of what they hold."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from itertools import pairwise
from typing import Literal

from half_fold.core.drawing.changes import bounds
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Axis, Rect, hull
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import page_of_thing
from half_fold.core.spread.edits.grouping import outermost, reach_of, shift_along
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import page_frame_of, spread_area, thing_box
from half_fold.core.spread.where.reaching import put_in

Way = Literal["first", "middle", "last"]
Against = Literal["each other", "the last chosen", "the text area", "the page", "the spread"]
AGAINST: tuple[Against, ...] = ("each other", "the last chosen", "the text area", "the page", "the spread")
Span = tuple[float, float]  # from and to, in points
BoxOf = Callable[[Publication, str], Rect]


def aligned_box(publication: Publication, name: str) -> Rect:
    """The rectangle round a thing where it lies."""
    return reach_of(publication, name)[1]


def ink_by(setter: Setter) -> BoxOf:
    """What gives the rectangle round the ink of a thing; its box where it prints nothing."""

    def ink(publication: Publication, name: str) -> Rect:
        index, _, thing = page_of_thing(publication, name)
        marks = setter.thing_marks(publication, index + 1, thing)
        return hull(bounds(mark) for mark in marks) if marks else aligned_box(publication, name)

    return ink


def area_of(publication: Publication, names: Sequence[str], against: Against, measured: BoxOf = aligned_box) -> Rect:
    """What things are lined up against, in points of spread space; ``names`` in the order in which they were chosen."""
    number = reach_of(publication, names[-1])[0]
    if against == "each other":
        return hull(measured(publication, name) for name in names)
    if against == "the last chosen":
        return measured(publication, names[-1])
    if against == "the spread":
        return spread_area(publication, spread_of(publication, number))
    frame = page_frame_of(publication, number)
    return Rect(*frame.area) if against == "the text area" else frame.trim


def align_things(
    publication: Publication,
    names: Sequence[str],
    axis: Axis,
    way: Way,
    against: Against = "each other",
    measured: BoxOf = aligned_box,
) -> Publication:
    """The things with their first edges, their middles or their last edges on one line.

    Problem where there is one alone and nothing to line it up against, or where one is locked.
    """
    if len(names) < 2 and against in ("each other", "the last chosen"):
        raise Problem("One thing alone lines up with nothing; choose another as well, or the page.")
    area = area_of(publication, names, against, measured)
    for name in outermost(publication, names):
        box = measured(publication, name)
        by = _line(area, axis, way) - _line(box, axis, way)
        publication = shift_along(publication, [name], axis, by)
    return publication


def _line(box: Rect, axis: Axis, way: Way) -> float:
    low, high = box.along(axis)
    return {"first": low, "middle": (low + high) / 2, "last": high}[way]


def spread_evenly(
    publication: Publication,
    names: Iterable[str],
    axis: Axis,
    gap: float | None = None,
    measured: BoxOf = aligned_box,
) -> Publication:
    """The things with equal gaps, in the order in which they lie: between the outermost two, or of ``gap`` points.

    Problem where there are too few, or one is locked.
    """
    every = outermost(publication, names)
    if len(every) < (3 if gap is None else 2):
        raise Problem("Choose three things or more to spread them evenly, or two and say the gap.")
    spans = {name: measured(publication, name).along(axis) for name in every}
    for name, by in even_moves(spans, even_gap(list(spans.values())) if gap is None else gap):
        publication = shift_along(publication, [name], axis, by)
    return publication


def even_gap(spans: Sequence[Span]) -> float:
    """The gap at which spans, two or more, lie evenly between the outermost two; below nothing where they overlap."""
    low, high = min(start for start, _ in spans), max(end for _, end in spans)
    return (high - low - sum(end - start for start, end in spans)) / (len(spans) - 1)


def even_moves(spans: Mapping[str, Span], gap: float) -> list[tuple[str, float]]:
    """By how much each moves so that they follow on the first at that gap, in the order in which they lie."""
    moves, at = [], min(spans.values())[0]
    for name in sorted(spans, key=lambda name: spans[name]):
        low, high = spans[name]
        moves.append((name, at - low))
        at += high - low + gap
    return moves


def gaps(publication: Publication, names: Iterable[str], axis: Axis) -> list[float]:
    """The gaps between things in the order in which they lie, in points; below nothing where two overlap."""
    spans = sorted(aligned_box(publication, name).along(axis) for name in outermost(publication, names))
    return [low - high for (_, high), (low, _) in pairwise(spans)]


def make_same_size(publication: Publication, names: Sequence[str], axis: Axis) -> Publication:
    """The blocks as wide (across) or as high as the one chosen last; each keeps its upper left corner.

    Problem where one is a group, or there is one alone.
    """
    if len(names) < 2:
        raise Problem("One thing alone is as large as itself; choose another as well.")
    size = _size(publication, names[-1], axis)
    for name in names[:-1]:
        index, _, thing = page_of_thing(publication, name)
        if not isinstance(thing, Block):
            raise Problem("A group has no size of its own; choose blocks.")
        box = thing_box(publication, index + 1, thing)
        wide, high = (size, box.height) if axis == "across" else (box.width, size)
        publication = put_in(publication, name, Rect(box.left, box.top, box.left + wide, box.top + high))
    return publication


def _size(publication: Publication, name: str, axis: Axis) -> float:
    index, _, thing = page_of_thing(publication, name)
    low, high = thing_box(publication, index + 1, thing).along(axis)
    return high - low
