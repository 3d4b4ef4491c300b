"""An arrangement that was found, and which of many are told apart: of those that look alike the best is kept."""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.arrange.fitness import Fitness, Item
from half_fold.core.arrange.judging import (
    NO_TURN,
)
from half_fold.core.arrange.room import Room
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import placed
from half_fold.core.publication.records import HoldsPicture

APART = 0.22
WORSE = 1.2  # than the best, by so much and half as much again, is not worth showing
GROUNDS = 2  # of the dozen, at most, that lie on a picture

Reals = npt.NDArray[np.float64]
Wholes = npt.NDArray[np.int64]


class Arrangement(Struct, frozen=True, eq=False):
    """Where each item lies, by the numbers of rectangles; one that is the ``ground`` of all others lies behind them.

    ``parts`` are what it costs, weighted, under the names of the manner; ``there`` is where other things lie;
    ``family`` is what it was sought as, if not simply as the best.
    """

    room: Room
    items: tuple[Item, ...]
    rects: tuple[int, ...]
    cost: float
    parts: dict[str, float]
    fitness: Fitness
    there: tuple[Rect, ...] = ()
    family: str = ""
    ground: int = -1

    def fields(self, item: int) -> tuple[int, int]:
        """How many fields an item has across and down."""
        c0, c1, r0, r1, _ = (int(each) for each in self.room.rects[self.rects[item]])
        return c1 - c0 + 1, r1 - r0 + 1

    def width(self, item: int) -> float:
        """How wide an item lies, in points."""
        left, _, right, _ = self.room.printed[self.rects[item]]
        return float(right - left)

    def lies(self, item: int) -> tuple[Rect, Rect]:
        """The block of an item as it is printed, and where all of its picture lies, in points of spread space."""
        box, of = Rect(*map(float, self.room.printed[self.rects[item]])), self.items[item]
        picture = replace(of.picture, keep_clear=of.clear)
        return box, placed(picture, HoldsPicture(picture=picture.id, focus_x=of.focus[0], focus_y=of.focus[1]), box)

    def item_at(self, x: float, y: float) -> int:
        """The item that lies on a place, the foremost where there are several; -1 where none does."""
        hit = [n for n, rect in enumerate(self.rects) if Rect(*self.room.seen[rect]).holds(x, y)]
        return next((n for n in hit if n != self.ground), hit[0] if hit else -1)

    def owners(self) -> Wholes:
        """Which item lies on each field, twice what it is and one more where it bleeds; -1 where none does."""
        made = np.full((len(self.room.rows), len(self.room.columns)), -1, np.int64)
        for item, rect in enumerate(self.rects):
            if item != self.ground:
                c0, c1, r0, r1, form = self.room.rects[rect]
                made[r0 : r1 + 1, c0 : c1 + 1] = 2 * item + form
        return made.ravel()


def told_apart(found: Wholes, totals: Reals) -> dict[tuple[int, ...], float]:
    """What arrangements cost, each once."""
    return {tuple(map(int, rects)): float(total) for rects, total in zip(found, totals, strict=False)}


def turn_in_order(number: int, item: Item) -> float:
    """Its place in the order; running text and words but the first have none."""
    return float(number) if item.text is None or item.turn < 0 else 10 * NO_TURN * (number + 1)


def kept_of_ground(room: Room, item: Item, whole: int) -> Wholes:
    """The fields of a picture all over the pages that nothing is to lie on: round its focus, and what is kept clear."""
    box = Rect(*room.printed[whole])
    scale = max(box.width / item.picture.width, box.height / item.picture.height)
    wide, high = item.picture.width * scale, item.picture.height * scale
    left = min(max(box.centre[0] - item.focus[0] * wide, box.right - wide), box.left)
    top = min(max(box.centre[1] - item.focus[1] * high, box.bottom - high), box.top)
    clear = [Rect(left + a * wide, top + b * high, left + c * wide, top + d * high) for a, b, c, d in item.clear]
    across, down = left + item.focus[0] * wide, top + item.focus[1] * high
    reach = box.height * 0.22
    return room.cells([*clear, Rect(across - reach, down - reach, across + reach, down + reach)])


def that_differ(found: Sequence[Arrangement], most: int) -> list[Arrangement]:
    """The best; then the best of each family in turn that differs from all before, and those that differ more first."""
    ordered = sorted(found, key=lambda each: (each.cost, each.rects))
    best = ordered[0].cost
    ordered = [each for each in ordered if each.cost <= best * 1.5 + WORSE]
    owners = np.array([each.owners() for each in ordered])
    costs = np.array([each.cost for each in ordered])
    grounds = np.array([each.ground for each in ordered])
    families = np.array([each.family for each in ordered])
    turns = list(dict.fromkeys(families))
    chosen, away = [0], np.full(len(ordered), np.inf)
    for turn in range(4 * most):
        last = chosen[-1]
        off = (owners != owners[last]).mean(axis=1) + (grounds != grounds[last])
        away = np.minimum(away, off)
        away[last] = 0
        score = np.where(away >= APART, costs - 0.5 * np.minimum(away, 1), np.inf)
        if (grounds[chosen] >= 0).sum() >= GROUNDS:
            score = np.where(grounds >= 0, np.inf, score)
        if len(chosen) >= most or not np.isfinite(score).any():
            break
        of_family = np.where(families == turns[(turn + 1) % len(turns)], score, np.inf)
        if np.isfinite(of_family).any():
            chosen.append(int(of_family.argmin()))
    return [ordered[n] for n in sorted(chosen, key=lambda n: (costs[n], n))]
