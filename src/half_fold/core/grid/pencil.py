"""Pencil lines: what is drawn on a page to lay things against, and never prints.

Each is told from the head, the foot, the fold or the outside of the trimmed page, and may be repeated at a distance:
``head 40mm, fold 25mm every 20mm``.
"""

import re
from collections.abc import Sequence
from itertools import count
from typing import NamedTuple

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.measure.ruler import drawn_length
from half_fold.core.publication.records import Pencil, PencilEdge

EDGES: tuple[PencilEdge, ...] = ("head", "foot", "fold", "outside")
PENCIL_WORDS = "from head, foot, fold or outside, such as head 40mm, fold 25mm every 20mm"
LEAST_STEP_MM, MOST_LINES = 1.0, 40
_ONE = re.compile(r"(?P<edge>[a-z]+)\s+(?P<at>.+?)(?:\s+every\s+(?P<every>.+))?$")


class Pencilled(NamedTuple):
    """A line as it lies: its number, which way its places are counted, and where it runs, in points."""

    number: int
    axis: Axis
    at: tuple[float, ...]


def pencilled(lines: Sequence[Pencil], trim: Rect, on_right: bool) -> tuple[Pencilled, ...]:
    """Where the lines of a grid run on a page with that trim."""
    return tuple(Pencilled(line.number, pencil_axis(line), _places(line, trim, on_right)) for line in lines)


def pencil_axis(line: Pencil) -> Axis:
    """Lines told from head or foot lie level, and stop what moves down."""
    return "down" if line.edge in ("head", "foot") else "across"


def _places(line: Pencil, trim: Rect, on_right: bool) -> tuple[float, ...]:
    low, high = trim.along(pencil_axis(line))
    from_low = line.edge == "head" or (line.edge == ("fold" if on_right else "outside"))
    start, sign = (low, 1) if from_low else (high, -1)
    step = line.every.pt if line.every is not None else 0.0
    room = high - low - line.at.pt
    times = 1 + (int(room / step + 1e-6) if step > 0 and room > 0 else 0)
    return tuple(start + sign * (line.at.pt + index * step) for index in range(times))


def parse_pencil(text: str, before: Sequence[Pencil], unit: str) -> tuple[Pencil, ...]:
    """The lines of a text; those that were there keep their numbers, so that what lies on them stays.

    Problem where one is not understood, or where there are too many.
    """
    entries = [entry.strip() for entry in re.split(r"[,;]", text.lower()) if entry.strip() not in ("", "none")]
    if len(entries) > MOST_LINES:
        raise Problem(f"{len(entries)} pencil lines are too many; {MOST_LINES} are the most, and one can be repeated.")
    made = [_read(entry, unit) for entry in entries]
    left = list(before)
    numbers: dict[int, int] = {}
    for alike in (_same, _of_one_edge):  # what stayed, then what was moved
        for index, line in enumerate(made):
            old = next((each for each in left if alike(each, line)), None)
            if index not in numbers and old is not None:
                numbers[index] = old.number
                left.remove(old)
    fresh = (number for number in count(1) if number not in {each.number for each in before})
    return tuple(replace(line, number=numbers.get(i) or next(fresh)) for i, line in enumerate(made))


def _read(entry: str, unit: str) -> Pencil:
    found = _ONE.match(entry)
    if found is None or found["edge"] not in EDGES:
        raise Problem(
            f"“{entry}” is no pencil line; say from where and how far, such as head 40mm or fold 25mm every 20mm."
        )
    at = length(found["at"], unit)
    every = length(found["every"], unit) if found["every"] else None
    if at.mm < 0 or (every is not None and every.mm < LEAST_STEP_MM):
        raise Problem(f"“{entry}” cannot be; a line lies 0 or more from an edge, and steps are 1 mm or more.")
    return Pencil(number=0, edge=next(edge for edge in EDGES if edge == found["edge"]), at=at, every=every)


def _same(one: Pencil, other: Pencil) -> bool:
    return (one.edge, one.at, one.every) == (other.edge, other.at, other.every)


def _of_one_edge(one: Pencil, other: Pencil) -> bool:
    return one.edge == other.edge


def pull_line(
    lines: Sequence[Pencil], axis: Axis, place: float, trim: Rect, on_right: bool, unit: str
) -> tuple[Pencil, ...]:
    """The lines with one more at a place (points) of a page with that trim, told from its head or its edge by the fold.

    ``axis`` is which way its place is counted.
    """
    low, high = trim.along(axis)
    edge: PencilEdge = "head" if axis == "down" else "fold"
    far = place - low if axis == "down" or on_right else high - place
    number = next(each for each in count(1) if each not in {line.number for line in lines})
    return (*lines, Pencil(number=number, edge=edge, at=drawn_length(far, unit)))


def format_pencil(lines: Sequence[Pencil]) -> str:
    """The lines as they are typed; ``none`` where there are none."""
    return ", ".join(_said(line) for line in lines) or "none"


def _said(line: Pencil) -> str:
    return f"{line.edge} {line.at.typed}" + (f" every {line.every.typed}" if line.every is not None else "")
