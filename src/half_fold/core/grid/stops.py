"""Stops: the addresses an edge may sit on, and where they lie.

The fold side of a page, where it has one, has no bleed or trim of its own: those stops mean the fold there, and
``fold`` means the bleed on the outer side. So a page that changes from left to right keeps its blocks in order.
``fold`` with ``facing`` means the facing page's own fold, beyond the spine on a cover.
On another grid a field line goes to the nearest line of its kind and keeps at least one field; the record
is not touched, so going back restores exactly.
"""

from collections.abc import Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.grid.frame import PageFrame
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.publication.places import Anchor, Floating, Place, Stop

Edge = Literal["left", "top", "right", "bottom"]
EDGES: tuple[Edge, ...] = ("left", "top", "right", "bottom")
AXES: dict[Axis, tuple[Edge, Edge]] = {"across": ("left", "right"), "down": ("top", "bottom")}
OUTWARD = {"left": -1, "top": -1, "right": 1, "bottom": 1}
SAME_PLACE = 0.01
_LONGEST_OFF = 9  # letters, of how far off a stop lies: what is longer was not typed


class Frames(Struct, frozen=True):
    """The frames a block is measured against: its own page's, and the facing page's where there is one."""

    own: PageFrame
    facing: PageFrame | None

    def of(self, stop: Stop) -> PageFrame:
        return self.facing if stop.facing and self.facing is not None else self.own


def _across(edge: Edge) -> bool:
    return edge in ("left", "right")


def _nearest_field(index: int, set_against: int, now: int, far_edge: bool) -> int:
    if set_against in (0, now):
        return min(max(index, 0), now - 1)
    line = round((index + far_edge) * now / set_against) - far_edge
    return min(max(line, 0), now - 1)


def field_index(stop: Stop, edge: Edge, frame: PageFrame) -> int:
    """The field line of ``frame`` that a field stop means now."""
    spans = frame.columns_of(stop.count) if _across(edge) else frame.rows
    return _nearest_field(stop.index, stop.count, len(spans), edge in ("right", "bottom"))


def _at_fold(edge: Edge, frame: PageFrame) -> bool:
    return frame.has_fold and edge == ("left" if frame.on_right else "right")


def _is_far_fold(stop: Stop) -> bool:
    """The facing page's own fold: the other side of the spine on a cover, the same place inside."""
    return stop.kind == "fold" and stop.facing


def position(stop: Stop, edge: Edge, frames: Frames) -> float:
    """Where the stop lies, in points of spread space."""
    frame = frames.of(stop)
    out = OUTWARD[edge]
    axis = ("left", "top", "right", "bottom").index(edge)
    at = _kind_position(stop, edge, frame, axis, out)
    return at + out * stop.off.pt if stop.off is not None else at


def _kind_position(stop: Stop, edge: Edge, frame: PageFrame, axis: int, out: int) -> float:
    if stop.kind == "field":
        spans = frame.columns_of(stop.count) if _across(edge) else frame.rows
        return spans[field_index(stop, edge, frame)][edge in ("right", "bottom")]
    if stop.kind == "guide":
        share = stop.index / max(1, stop.count)
        return (
            frame.trim.left + share * frame.trim.width if _across(edge) else frame.trim.top + share * frame.trim.height
        )
    if stop.kind == "pencil":
        lines = _pencil(frame, edge).get(stop.index, (frame.area[axis],))
        return lines[min(stop.count, len(lines) - 1)]
    if stop.kind == "margin":
        return frame.area[axis]
    if _across(edge) and (_at_fold(edge, frame) or _is_far_fold(stop)):
        return frame.fold
    if stop.kind == "trim":
        return frame.trim[axis]
    return frame.trim[axis] + out * frame.bleed


def _pencil(frame: PageFrame, edge: Edge) -> dict[int, tuple[float, ...]]:
    """The pencil lines that an edge may lie on, by their numbers. One that is gone leaves the margin."""
    axis: Axis = "across" if _across(edge) else "down"
    return {line.number: line.at for line in frame.pencil if line.axis == axis}


def place_rect(place: Place, frames: Frames) -> Rect:
    """The rectangle of a place, in points of spread space; where a coarser grid would leave it nothing, one field."""
    if isinstance(place, Floating):
        wide, high = place.width.pt, place.height.pt
        left, top = begins(place.across, "across", wide, frames), begins(place.down, "down", high, frames)
        return Rect(left, top, left + wide, top + high)
    left, top = position(place.left, "left", frames), position(place.top, "top", frames)
    right, bottom = position(place.right, "right", frames), position(place.bottom, "bottom", frames)
    if right <= left:
        right = _one_field(place.left, "left", frames, left)
    if bottom <= top:
        bottom = _one_field(place.top, "top", frames, top)
    return Rect(left, top, right, bottom)


def anchor_line(anchor: Anchor, axis: Axis, frames: Frames) -> float:
    """Where the line of an anchor runs, in points of spread space; ``off`` moves a middle to the right, or down."""
    low, high = AXES[axis]
    if anchor.by != "middle":
        return position(anchor.stop, low if anchor.by == "first" else high, frames)
    bare = replace(anchor.stop, off=None)
    middle = (position(bare, low, frames) + position(bare, high, frames)) / 2
    return middle + (anchor.stop.off.pt if anchor.stop.off is not None else 0.0)


def begins(anchor: Anchor, axis: Axis, size: float, frames: Frames) -> float:
    """Where a thing of that size begins that lies on an anchor."""
    return anchor_line(anchor, axis, frames) - {"first": 0.0, "middle": 0.5, "last": 1.0}[anchor.by] * size


def _one_field(stop: Stop, edge: Edge, frames: Frames, start: float) -> float:
    frame = frames.of(stop)
    spans = frame.columns_of(stop.count) if _across(edge) else frame.rows
    return start + spans[0][1] - spans[0][0]


def stops_for(edge: Edge, frames: Frames) -> list[tuple[float, Stop]]:
    """Every stop that ``edge`` may sit on, with its position, from left to right or head to foot."""
    found: list[tuple[float, Stop]] = []
    for facing, frame in ((False, frames.own), (True, frames.facing)):
        if frame is None or (facing and not _across(edge)):
            continue
        spans = frame.columns if _across(edge) else frame.rows
        stops = [Stop(kind="field", index=i, count=len(spans), facing=facing) for i in range(len(spans))]
        if _across(edge):
            stops += [Stop(kind="field", index=i, count=len(frame.over), facing=facing) for i in range(len(frame.over))]
        stops += [
            Stop(kind="guide", index=i, count=parts, facing=facing) for parts in frame.guides for i in range(1, parts)
        ]
        stops += [
            Stop(kind="pencil", index=number, count=i, facing=facing)
            for number, places in _pencil(frame, edge).items()
            for i in range(len(places))
        ]
        at_fold = _across(edge) and _at_fold(edge, frame)
        stops += (
            [Stop(kind="fold", facing=facing)]
            if at_fold
            else [Stop(kind="trim", facing=facing), Stop(kind="bleed", facing=facing)]
        )
        if at_fold and not facing:
            stops.append(Stop(kind="fold", facing=True))
        found += [(position(stop, edge, frames), stop) for stop in stops]
    found.sort(key=lambda pair: pair[0])
    return _apart(found)


def _apart(found: Sequence[tuple[float, Stop]]) -> list[tuple[float, Stop]]:
    out: list[tuple[float, Stop]] = []
    for place, stop in found:
        if not out or place - out[-1][0] > SAME_PLACE:
            out.append((place, stop))
    return out


def describe(stop: Stop, edge: Edge, frames: Frames) -> str:
    """The stop in words: ``bleed``, ``field 3``, ``row 5``, ``fold``."""
    frame = frames.of(stop)
    words: str = stop.kind
    if stop.kind == "field":
        words = f"{'field' if _across(edge) else 'row'} {field_index(stop, edge, frame) + 1}"
        if _across(edge) and frame.over and stop.count:
            words += f" of {stop.count}"
    elif stop.kind == "pencil":
        words = f"pencil line {stop.index}" + (f", {stop.count + 1}" if stop.count else "")
    elif stop.kind == "guide":
        words = f"{stop.index}/{stop.count} of the {'width' if _across(edge) else 'height'}"
    elif _across(edge) and _at_fold(edge, frame) and stop.kind in ("bleed", "trim"):
        words = "fold"
    elif _is_far_fold(stop):
        words = "fold" if abs(frames.own.fold - frame.fold) < SAME_PLACE else "far fold"
    elif stop.kind == "fold" and not _at_fold(edge, frame):
        words = "bleed"
    if stop.off is None:
        return words
    off = stop.off.typed if len(stop.off.typed) <= _LONGEST_OFF else f"{round(stop.off.mm, 3):g}mm"
    return f"{words} {'+' if stop.off.pt >= 0 else ''}{off}"
