"""The room that pictures are arranged in: the fields of one page or of both, and all rectangles that may lie there.

Where a grid has more fields than a designer would think in, several together count as one; all edges still lie on lines
of the job's own grid.
"""

from collections.abc import Collection, Sequence
from functools import cached_property
from itertools import pairwise, product
from typing import Literal

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.arrange.judging import FAR
from half_fold.core.brief.allowances import fold_loss
from half_fold.core.grid.frame import PageFrame
from half_fold.core.measure.entry import MM
from half_fold.core.measure.kept import kept
from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.plan.spreads import Spread, spread_of
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsPanel, HoldsRule, Publication
from half_fold.core.spread.where.frames import blocks_on, hull_of, page_frame_of

MOST_ACROSS, MOST_DOWN = 8, 6  # fields of a page that are thought in
GROUND = 0.5  # of the room: a panel that covers more of it is what things lie on

Reals = npt.NDArray[np.float64]
Wholes = npt.NDArray[np.int64]
End = Literal["field", "bleed", "fold"]
Fields = tuple[int, int, int, int, int]  # first and last column, first and last row, and whether out to the bleed


class RoomLine(Struct, frozen=True):
    """Fields that count as one, across or down: from where to where in points, and which of which page's grid."""

    start: float
    end: float
    page: int
    first: int
    last: int
    of: int
    folds_left: float | None = None  # where the fold is that it lies beside
    folds_right: float | None = None


class Room(Struct, frozen=True, eq=False, dict=True):
    """What may be laid on; ``pages`` are numbers, in points of spread space.

    ``rects`` are Fields, ``seen`` what is left of them trimmed, ``printed`` with the bleed, (n, 4) each; ``index``
    gives the number of a rectangle by its fields. ``fold`` is where the fold lies between two pages, or None; ``loss``
    is what it takes of each.
    """

    pages: tuple[int, ...]
    columns: tuple[RoomLine, ...]
    rows: tuple[RoomLine, ...]
    area: Rect
    fold: float | None
    loss: float
    rects: Wholes
    seen: Reals
    printed: Reals
    index: Wholes
    right_bound: bool
    frame: Length | None = None

    def number(self, fields: Fields) -> int:
        """The number of a rectangle; -1 where there is none."""
        return int(self.index[self.at(fields)])

    def at(self, fields: Fields) -> int:
        """Where ``index`` tells of a rectangle."""
        c0, c1, r0, r1, form = fields
        return (((c0 * len(self.columns) + c1) * len(self.rows) + r0) * len(self.rows) + r1) * 2 + form

    @cached_property
    def areas(self) -> Reals:
        """What is seen of each rectangle, in square points."""
        left, top, right, bottom = self.seen.T
        return np.asarray((right - left) * (bottom - top))

    @cached_property
    def over_fold(self) -> npt.NDArray[np.bool_]:
        """Which rectangles lie on both pages."""
        if self.fold is None:
            return np.zeros(len(self.rects), bool)
        return np.asarray((self.seen[:, 0] < self.fold - 1) & (self.seen[:, 2] > self.fold + 1))

    def place(self, rect: int) -> tuple[int, Held]:
        """The page that a rectangle begins on, and the stops of its edges there."""
        c0, c1, r0, r1, form = (int(each) for each in self.rects[rect])
        left, right, top, bottom = self.columns[c0], self.columns[c1], self.rows[r0], self.rows[r1]
        ends = _ends((c0, c1, r0, r1, form), self.columns, self.rows)
        return left.page, Held(
            left=self._stop(left, left.first, False, ends[0]),
            top=self._stop(top, top.first, False, ends[1]),
            right=self._stop(right, right.last, right.page != left.page, ends[2]),
            bottom=self._stop(bottom, bottom.last, False, ends[3]),
        )

    def _stop(self, line: RoomLine, index: int, facing: bool, end: End) -> Stop:
        if end == "field":
            return Stop(kind="field", index=index, count=line.of, facing=facing)
        if self.frame is None:
            return Stop(kind=end, facing=facing)
        return Stop(kind="trim", facing=facing, off=length(f"-({self.frame.typed})"))  # which means the fold beside it

    def cells(self, boxes: Sequence[Rect]) -> Wholes:
        """1 for each field, row by row, that one of the boxes lies on, 0 for the others."""
        taken = np.zeros((len(self.rows), len(self.columns)), np.int64)
        for box in boxes:
            across = [line.start < box.right - 1 and line.end > box.left + 1 for line in self.columns]
            down = [line.start < box.bottom - 1 and line.end > box.top + 1 for line in self.rows]
            taken |= np.outer(down, across)
        return taken.ravel()


def _ends(fields: Fields, columns: Sequence[RoomLine], rows: Sequence[RoomLine]) -> tuple[End, End, End, End]:
    """What the left, upper, right and lower edge of a rectangle lie on.

    What goes out to the bleed at the head or the foot goes up to the fold beside it as well.
    """
    c0, c1, r0, r1, form = fields
    if not form:
        return "field", "field", "field", "field"
    head, foot = r0 == 0, r1 == len(rows) - 1

    def aside(at_fold: bool, at_edge: bool) -> End:
        if at_fold:
            return "fold" if head or foot else "field"
        return "bleed" if at_edge else "field"

    return (
        aside(columns[c0].folds_left is not None, c0 == 0),
        "bleed" if head else "field",
        aside(columns[c1].folds_right is not None, c1 == len(columns) - 1),
        "bleed" if foot else "field",
    )


def room_of(publication: Publication, pages: Sequence[int]) -> Room:
    """The room on one page, or on both of a spread. Problem where they are no such pages."""
    if not pages or not all(1 <= number <= len(publication.pages) for number in pages):
        raise Problem(f"This job has pages 1 to {len(publication.pages)}; name one of them, or a spread.")
    spread = spread_of(publication, pages[0])
    numbers = tuple(number for number in (spread.left, spread.right) if number is not None and number in pages)
    if set(numbers) != set(pages):
        raise Problem("Those pages do not lie side by side; name one page, or the two of a spread.")
    frames = [page_frame_of(publication, number) for number in numbers]
    loss = fold_loss(publication).value * MM if len(spread.numbers) == 2 else 0.0
    other = frames[1] if len(frames) > 1 else None
    frame, right_bound = publication.manner.frame, publication.brief.right_bound
    return _room(frames[0], other, " ".join(map(str, numbers)), loss, right_bound, frame.typed if frame else "")


@kept(16)
def _room(first: PageFrame, other: PageFrame | None, numbers: str, loss: float, right_bound: bool, framed: str) -> Room:
    frames = (first,) if other is None else (first, other)
    pages = tuple(map(int, numbers.split()))
    columns = tuple(line for number, frame in zip(pages, frames, strict=True) for line in _across(number, frame))
    rows = _lines(frames[0].rows, pages[0], MOST_DOWN)
    fold = frames[0].fold if other is not None else None
    wide, high = len(columns), len(rows)
    spans = [(a, b) for a in range(wide) for b in range(a, wide)], [(a, b) for a in range(high) for b in range(a, high)]
    every = [
        (c0, c1, r0, r1, form)
        for (c0, c1), (r0, r1) in product(*spans)
        for form in (0, 1)
        if not form or "bleed" in _ends((c0, c1, r0, r1, form), columns, rows)
    ]
    frame_width = length(framed) if framed else None
    trim, bleed = hull(frame.trim for frame in frames), frames[0].bleed
    inside = -frame_width.pt if frame_width is not None else 0.0
    seen = [_box(fields, columns, rows, trim, inside) for fields in every]
    printed = [_box(fields, columns, rows, trim, inside or bleed) for fields in every]
    index = np.full(2 * (wide * high) ** 2, -1, np.int64)
    rects = np.array(every, np.int64)
    at = (((rects[:, 0] * wide + rects[:, 1]) * high + rects[:, 2]) * high + rects[:, 3]) * 2 + rects[:, 4]
    index[at] = np.arange(len(rects))
    return Room(
        pages,
        columns,
        rows,
        trim,
        fold,
        loss,
        rects,
        np.array(seen),
        np.array(printed),
        index,
        right_bound,
        frame_width,
    )


def _lines(spans: Sequence[tuple[float, float]], page: int, most: int) -> tuple[RoomLine, ...]:
    """The fields of a page across or down, several together where there are more than ``most``."""
    count = len(spans)
    together = -(-count // most)
    parts = -(-count // together)
    starts = [round(part * count / parts) for part in range(parts + 1)]
    return tuple(RoomLine(spans[a][0], spans[b - 1][1], page, a, b - 1, count) for a, b in pairwise(starts))


def _across(page: int, frame: PageFrame) -> tuple[RoomLine, ...]:
    """The columns of a page, the one beside the fold marked."""
    lines = list(_lines(frame.columns, page, MOST_ACROSS))
    if not frame.has_fold:
        return tuple(lines)
    if frame.on_right:
        lines[0] = replace(lines[0], folds_left=frame.fold)
    else:
        lines[-1] = replace(lines[-1], folds_right=frame.fold)
    return tuple(lines)


def _box(fields: Fields, columns: Sequence[RoomLine], rows: Sequence[RoomLine], trim: Rect, bleed: float) -> Rect:
    c0, c1, r0, r1, _ = fields
    left, top, right, bottom = _ends(fields, columns, rows)
    out = trim.grown(bleed)
    first, last = columns[c0], columns[c1]
    return Rect(
        {"field": first.start, "bleed": out.left, "fold": (first.folds_left or 0.0) - min(bleed, 0.0)}[left],
        {"field": rows[r0].start, "bleed": out.top}[top],
        {"field": last.end, "bleed": out.right, "fold": (last.folds_right or 0.0) + min(bleed, 0.0)}[right],
        {"field": rows[r1].end, "bleed": out.bottom}[bottom],
    )


def standing(publication: Publication, spread: Spread, room: Room, besides: Collection[str] = ()) -> list[Rect]:
    """Where things lie that stay: all but rules, what is a ground for others, and the blocks ``besides``."""
    found = []
    for number, _, block in blocks_on(publication, spread):
        box = hull_of(publication, number, block).clipped(room.area)
        if block.id not in besides and not box.is_empty() and not _is_ground(block, box, room.area):
            found.append(box)
    return found


def _is_ground(block: Block, box: Rect, area: Rect) -> bool:
    if isinstance(block.holds, HoldsRule):
        return True
    over = box.width * box.height > GROUND * area.width * area.height
    return over and (isinstance(block.holds, HoldsPanel) or block.locked)


def fold_for_reading(room: Room) -> float:
    """The fold as the judge reads pages, which is from left to right; FAR where there is none."""
    if room.fold is None:
        return FAR
    return -room.fold if room.right_bound else room.fold


def in_reading_order(room: Room) -> Reals:
    """The rectangles as they are seen, mirrored where the job is read from right to left, so that all read alike."""
    if not room.right_bound:
        return room.seen
    left, top, right, bottom = room.seen.T
    return np.stack([-right, top, -left, bottom], axis=1)
