"""Text that keeps off what lies in its way: the room it leaves, line by line."""

import math
from collections.abc import Iterator, Sequence
from typing import assert_never

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.drawing.outline import Outline, rectangle
from half_fold.core.drawing.shapes import joined
from half_fold.core.grid.frame import Baselines
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import placed, turned_in
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.kinds import form_of, kind_of
from half_fold.core.publication.records import Block, HoldsPicture, Picture, Publication, Wrap
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.setting.forms import is_plain, outline_in
from half_fold.core.spread.where.frames import angle_of, block_box, blocks_on, hull_of, turn_of
from half_fold.core.typesetting.flow.columns import Slot

LEAST_MEASURE_STEPS = 4.0
DEPTH_STEPS = 0.25  # how far letters hang under their baseline
Span = tuple[float, float]
Floats = npt.NDArray[np.float64]
BANDS = 96  # of an outline, from head to foot


class Obstacle(Struct, frozen=True):
    """A shape text keeps off: its box, and for an outline the extents (left, right) of its bands from head to foot."""

    box: Rect
    wrap: Wrap
    bands: tuple[Span, ...] = ()

    def blocked(self, top: float, bottom: float) -> Span | None:
        """From where to where it stands in the way between two heights, its offset included; None where it does not."""
        off = self.wrap.offset.pt
        if bottom <= self.box.top - off or top >= self.box.bottom + off:
            return None
        if self.wrap.shape == "box":
            return self.box.left - off, self.box.right + off
        if self.wrap.shape == "ellipse":
            return self._ellipse(top, bottom, off)
        if self.wrap.shape == "outline":
            return self._outline(top - off, bottom + off, off)
        assert_never(self.wrap.shape)

    def _ellipse(self, top: float, bottom: float, off: float) -> Span | None:
        x, y = self.box.centre
        wide, high = self.box.width / 2 + off, self.box.height / 2 + off
        away = max(0.0, top - y, y - bottom)
        if away >= high:
            return None
        half = wide * math.sqrt(1 - (away / high) ** 2)
        return x - half, x + half

    def _outline(self, top: float, bottom: float, off: float) -> Span | None:
        step = self.box.height / len(self.bands)
        first = max(0, math.floor((top - self.box.top) / step))
        last = min(len(self.bands), math.ceil((bottom - self.box.top) / step))
        met = [band for band in self.bands[first:last] if band[0] < band[1]]
        return (min(b[0] for b in met) - off, max(b[1] for b in met) + off) if met else None


def obstacles(publication: Publication, number: int, own: Block) -> list[Obstacle]:
    """What text of a block on page ``number`` keeps off: the other blocks of its spread that ask for it."""
    spread = spread_of(publication, number)
    return [
        obstacle_of(publication, on, block, block.wrap)
        for on, _, block in blocks_on(publication, spread)
        if block.wrap is not None and block.id != own.id
    ]


def obstacle_of(publication: Publication, number: int, block: Block, wrap: Wrap) -> Obstacle:
    """A block as an obstacle. An outline is that of its form or its cut-out, where it lies; of all else, its box."""
    if wrap.shape == "outline":
        cut_out = _upright_cut_out(publication, number, block, wrap)
        if cut_out is not None:
            return cut_out
        shape = _shape_of(publication, number, block)
        if shape is not None:
            bounds = shape.bounds
            return Obstacle(bounds, wrap, tuple(_bands(shape, bounds)))
    return Obstacle(hull_of(publication, number, block), wrap if wrap.shape != "outline" else _as_box(wrap))


def _as_box(wrap: Wrap) -> Wrap:
    return Wrap(shape="box", side=wrap.side, offset=wrap.offset)


def _upright_cut_out(publication: Publication, number: int, block: Block, wrap: Wrap) -> Obstacle | None:
    """A cut-out that is not turned: the bands that were measured of it, where they lie."""
    holds = block.holds
    if not isinstance(holds, HoldsPicture) or holds.turn or angle_of(publication, number, block):
        return None
    picture = picture_of(publication, holds.picture)
    if not picture.outline:
        return None
    box = block_box(publication, number, block)
    where = placed(picture, holds, box)
    outline = [(1 - right, 1 - left) for left, right in picture.outline] if holds.flipped else picture.outline
    return Obstacle(where, wrap, tuple(_in_place(outline, where, box)))


def _in_place(outline: Sequence[Span], where: Rect, box: Rect) -> Iterator[Span]:
    """The bands of a picture where it lies, as far as its box shows them."""
    step = where.height / len(outline)
    for index, (left, right) in enumerate(outline):
        middle = where.top + (index + 0.5) * step
        seen = left < right and box.top <= middle <= box.bottom
        ends = max(box.left, where.left + left * where.width), min(box.right, where.left + right * where.width)
        yield ends if seen else (0.0, 0.0)


def _shape_of(publication: Publication, number: int, block: Block) -> Outline | None:
    """What a block's outline is, turned with it; None where it is its box."""
    holds, turn = block.holds, turn_of(publication, number, block)
    box = block_box(publication, number, block)
    shape = None
    if isinstance(holds, HoldsPicture):
        shape = _cut_out(picture_of(publication, holds.picture), holds, box)
    if (
        shape is None
        and kind_of(holds).is_area
        and (form := form_of(holds)) is not None
        and (turn is not None or not is_plain(form))
    ):
        shape = outline_in(form, box)
    return shape if shape is None or turn is None else shape.through(turn)


def _cut_out(picture: Picture, holds: HoldsPicture, box: Rect) -> Outline | None:
    """The outline of a cut-out where it lies, as far as its box shows it; None for any other picture."""
    if not picture.outline:
        return None
    where = placed(picture, holds, box)
    turn = turned_in(holds, box, where)
    step = where.height / len(picture.outline)
    tops = [where.top + at * step for at in range(len(picture.outline))]
    seen = [
        rectangle(Rect(where.left + left * where.width, top, where.left + right * where.width, top + step))
        for top, (left, right) in zip(tops, picture.outline, strict=True)
        if left < right
    ]
    if not seen:
        return None
    whole = joined(seen)
    whole = whole if turn is None else whole.through(turn)
    points = np.clip(whole.points, (box.left, box.top), (box.right, box.bottom))
    return Outline(whole.ops, points)


def _bands(shape: Outline, bounds: Rect) -> Iterator[Span]:
    """From where to where a shape reaches in each of so many bands, from its head down; (0, 0) where it does not."""
    places = np.vstack([_close_along(part, bounds.height / BANDS / 2) for part in shape.flattened(0.1)])
    which = np.clip((places[:, 1] - bounds.top) / max(bounds.height, 1e-6) * BANDS, 0, BANDS - 1).astype(int)
    low, high = np.full(BANDS, np.inf), np.full(BANDS, -np.inf)
    np.minimum.at(low, which, places[:, 0])
    np.maximum.at(high, which, places[:, 0])
    for left, right in zip(low.tolist(), high.tolist(), strict=True):
        yield (left, right) if left < right else (0.0, 0.0)


def _close_along(part: Floats, step: float) -> Floats:
    """Places along a closed polygon, no two of them further apart in height than a step."""
    ends = np.roll(part, -1, axis=0)
    counts = np.maximum(1, np.ceil(np.abs(ends - part)[:, 1] / max(step, 1e-3)).astype(int))
    shares = np.concatenate([np.arange(count) / count for count in counts.tolist()])
    starts, ways = np.repeat(part, counts, axis=0), np.repeat(ends - part, counts, axis=0)
    return np.asarray(starts + ways * shares[:, None])


def slots(column: Rect, first: float, lines: int, base: Baselines, ways: Sequence[Obstacle]) -> list[Slot] | None:
    """Where lines of a column may stand beside what is in its way; None where nothing is.

    A stretch too narrow for words (under 4 baseline steps) is left free.
    """
    near = [each for each in ways if each.box.grown(each.wrap.offset.pt).meets(column)]
    if not near:
        return None
    out: list[Slot] = []
    for line in range(lines):
        baseline = first + line * base.step
        free = [(column.left, column.right)]
        for each in near:
            blocked = each.blocked(baseline - base.cap, baseline + DEPTH_STEPS * base.step)
            if blocked is not None:
                free = [part for span in free for part in _beside(span, blocked, each.wrap.side)]
        out += [Slot(line, a, b - a) for a, b in free if b - a >= LEAST_MEASURE_STEPS * base.step]
    return out


def _beside(free: Span, blocked: Span, side: str) -> list[Span]:
    """What is left of a free stretch beside what blocks it, on the sides where text may run."""
    if blocked[1] <= free[0] or blocked[0] >= free[1]:
        return [free]
    left, right = (free[0], blocked[0]), (blocked[1], free[1])
    if side == "larger":
        side = "left" if left[1] - left[0] >= right[1] - right[0] else "right"
    return [part for name, part in (("left", left), ("right", right)) if side in (name, "both") and part[0] < part[1]]
