"""Arrangements of pictures in a room: sought, judged, and a dozen that differ given, the best first.

The same from the same input, always.
"""

from collections.abc import Callable, Iterator, Sequence

import numpy as np
import numpy.typing as npt

from half_fold.core.arrange.arrangement import (
    GROUNDS,
    Arrangement,
    Reals,
    Wholes,
    kept_of_ground,
    that_differ,
    told_apart,
    turn_in_order,
)
from half_fold.core.arrange.fitness import Item, fitness
from half_fold.core.arrange.judging import (
    BEFORE,
    COLUMNS,
    FIGURES,
    FOLD,
    FORBIDDEN,
    FREE,
    HEAD,
    HIGH,
    IS_GROUND,
    ITEMS,
    LEFT,
    RECTS,
    ROWS,
    SECOND,
    TAKEN_BITS,
    THERE,
    THERE_ACROSS,
    THERE_DOWN,
    WEIGHTS,
    WIDE,
)
from half_fold.core.arrange.judging import PARTS as COUNT_OF_PARTS
from half_fold.core.arrange.room import Room, fold_for_reading, in_reading_order, room_of, standing
from half_fold.core.arrange.seeking import go_on, judge_all, seek
from half_fold.core.arrange.slicing import WHITES
from half_fold.core.brief.allowances import picture_ppi
from half_fold.core.compiled.compiling import load
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import spread_index, spread_of, spreads_of
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.spread.where.frames import blocks_on, hull_of

MOST_ITEMS = 12
GIVEN = 12
RUNS, TRIES, KEPT = 7, 1_400, 6
LEANING_TRIES, LEANING_KEPT, LEAN = 2_500, 8, 0.3  # sought besides: what bleeds, and what keeps to the margins
GROUND_TRIES, GROUND_KEPT = 2_000, 8
UPON = "upon one"
MOST_UPON = 6
GROUND_MOST = 1.3  # what lying so may cost a picture by itself
GROUND_SHARE, GROUND_DEARER = 0.28, 0.35  # what lies on a picture takes so much of it; and is not for every day
_BETWEEN = ("rank", "order", "edges", "balance", "white", "contrast", "variety")  # parts as the judge has them

StillWanted = Callable[[], bool]


def arranged(
    publication: Publication,
    pages: Sequence[int],
    items: Sequence[Item],
    still_wanted: StillWanted = lambda: True,
    most: int = GIVEN,
) -> list[Arrangement]:
    """Up to ``most`` arrangements of one to twelve items on a page or both of a spread, the best first.

    What lies there and is not among the items stays where it is, and they lie round it. Problem where there are too
    many items, or no room for them.
    """
    if not items:
        raise Problem("There is no picture to arrange; choose some.")
    if len(items) > MOST_ITEMS:
        raise Problem(f"At most {MOST_ITEMS} pictures are arranged at once; choose fewer.")
    load()
    room = room_of(publication, pages)
    search = _Search(publication, room, tuple(items))
    found = list(search.found(still_wanted))
    if not found:
        raise Problem(
            "There is no room for these pictures where nothing of them is lost; take fewer, free some fields, or see "
            "what is kept clear in them."
        )
    return that_differ(found, most)


class _Search:
    """A room, what lies in it, and the items that are to."""

    def __init__(self, publication: Publication, room: Room, items: tuple[Item, ...]) -> None:
        self.room, self.manner = room, publication.manner
        self.items = tuple(sorted(items, key=lambda item: item.turn))
        spread = spread_of(publication, room.pages[0])
        self.there = tuple(standing(publication, spread, room, {item.block for item in items}))
        self.taken = room.cells(self.there)
        self.ppi = picture_ppi(publication)[0]
        self.before = _beside(publication, room)
        self.read = in_reading_order(room)

    def found(self, still_wanted: StillWanted) -> Iterator[Arrangement]:
        every = tuple(range(len(self.items)))
        usual = _Problem(self, every, self.manner.room / 100)
        yield from self._told(usual, usual.sought(RUNS, TRIES, KEPT, 3))
        for family, besides in self._families(usual) if still_wanted() else ():
            other = _Problem(self, every, self.manner.room / 100, besides)
            yield from self._told(usual, other.sought(1, LEANING_TRIES, LEANING_KEPT, 0), family)
        has_words = any(item.text is not None for item in self.items)
        if (
            1 < len(every) <= MOST_UPON
            and not has_words
            and self.room.fold is not None
            and not self.taken.any()
            and still_wanted()
        ):
            yield from self._on_grounds(usual)

    def _families(self, usual: "_Problem") -> Iterator[tuple[str, Reals]]:
        """What else is worth seeing, each with what lying anywhere costs besides, (items, rectangles)."""
        room, count = self.room, len(self.items)
        out = room.rects[:, 4] == 1
        every = np.ones((count, 1))
        yield "out to the bleed", every * np.where(out, 0, LEAN)[None, :]
        yield "in the margins", every * np.where(out, LEAN, 0)[None, :]
        free = [n for n, item in enumerate(self.items) if item.rect < 0 and item.size is None and item.text is None]
        if not free:
            return
        most = max(self.items[n].rating for n in free)
        first = min((n for n in free if self.items[n].rating == most), key=usual.least)
        share = room.areas / (room.area.width * room.area.height)
        if count > 2:
            large = np.zeros((count, len(room.rects)))
            large[first] = np.where(share < min(0.3, 1.2 / count), FORBIDDEN, 0)
            yield "one large", large
        if room.fold is not None:
            across = np.zeros((count, len(room.rects)))
            across[first] = np.where(room.over_fold, 0, FORBIDDEN)
            yield "over the fold", across

    def _told(self, problem: "_Problem", rects: Wholes, family: str = "") -> Iterator[Arrangement]:
        for row in rects:
            cost, parts = problem.judged(row)
            if cost < FORBIDDEN:
                where = tuple(map(int, row))
                yield Arrangement(self.room, self.items, where, cost, parts, problem.fitness, self.there, family)

    def _on_grounds(self, usual: "_Problem") -> Iterator[Arrangement]:
        """One picture all over the pages, the others small upon it."""
        whole = self.room.number((0, len(self.room.columns) - 1, 0, len(self.room.rows) - 1, 1))
        costs = usual.costs[:, whole] - usual.of_size[:, whole]
        free = [n for n, item in enumerate(self.items) if item.rect < 0 and item.size is None]
        for ground in sorted(free, key=lambda n: (-self.items[n].rating, costs[n]))[:GROUNDS]:
            if costs[ground] >= GROUND_MOST:
                continue
            others = tuple(n for n in range(len(self.items)) if n != ground)
            bleeds = np.where(self.room.rects[:, 4] == 1, FORBIDDEN, 0.0)
            upon = _Problem(self, others, GROUND_SHARE, bleeds[None, :], ground, whole)
            for row in upon.sought(1, GROUND_TRIES, GROUND_KEPT, 0):
                cost, parts = upon.judged(row)
                rects = [0] * len(self.items)
                rects[ground] = whole
                for other, rect in zip(others, row, strict=True):
                    rects[other] = int(rect)
                parts = {**parts, "crop": parts["crop"] + float(costs[ground]), "white": GROUND_DEARER}
                made = cost + float(costs[ground]) + GROUND_DEARER
                yield Arrangement(
                    self.room, self.items, tuple(rects), made, parts, usual.fitness, self.there, UPON, ground
                )


class _Problem:
    """What the compiled procedures are given: some items, so much of the room, and what else lying there costs."""

    def __init__(
        self,
        search: _Search,
        of: tuple[int, ...],
        share: float,
        besides: Reals | float = 0.0,
        ground: int = -1,
        whole: int = -1,
    ) -> None:
        self.search, room, manner = search, search.room, search.manner
        self.items = tuple(search.items[n] for n in of)
        self.fitness = fitness(room, self.items, share, search.ppi)
        self.manner = manner
        self.of_size = manner.size / 100 * self.fitness.size
        each = self.fitness
        self.by_part = {
            "crop": manner.crop / 100 * each.crop,
            "fold": manner.fold / 100 * each.fold,
            "sharp": manner.sharp / 100 * each.sharp,
            "size": self.of_size,
            "looks": manner.looks / 100 * each.looks,
            "bleed": np.broadcast_to(_leaning(room, manner.bleed / 100 * LEAN), each.crop.shape),
        }
        taken = search.taken.copy()
        if ground >= 0:
            taken |= kept_of_ground(room, search.items[ground], whole)
        self.taken = taken
        impossible = np.max([each.crop, each.fold, each.size], axis=0) >= FORBIDDEN
        impossible |= _on_taken(room, taken)[None, :]
        self.costs = np.where(impossible, 10 * FORBIDDEN, sum(self.by_part.values()) + besides)
        self.fixed = np.array([item.rect for item in self.items], np.int64)
        self._hold_pinned()
        self._arrays(ground >= 0)

    def least(self, item: int) -> float:
        """What an item costs where it would lie best and large."""
        size = self.search.room.seen[:, 2] - self.search.room.seen[:, 0]
        return float(self.costs[item][size >= np.quantile(size, 0.5)].min())

    def _hold_pinned(self) -> None:
        """What is pinned lies where it lies, whatever it costs there, and nothing else does."""
        room = self.search.room
        for item, rect in enumerate(self.fixed):
            if rect >= 0:
                self.costs[item, rect] = min(self.costs[item, rect], 10.0)
                boxes = _on_taken(room, room.cells([Rect(*room.seen[rect])]))
                others = [n for n in range(len(self.items)) if n != item]
                self.costs[np.array(others)[:, None], np.flatnonzero(boxes)] = 10 * FORBIDDEN

    def _arrays(self, is_ground: bool) -> None:
        room, manner, count = self.search.room, self.manner, len(self.items)
        self.costs = np.ascontiguousarray(self.costs, np.float64)
        cells = len(room.columns) * len(room.rows)
        self.counts = np.zeros(TAKEN_BITS + len(room.rows), np.int64)
        self.counts[[ITEMS, RECTS, COLUMNS, ROWS]] = count, len(room.rects), len(room.columns), len(room.rows)
        self.counts[SECOND] = sum(line.page == room.pages[0] for line in room.columns)
        self.counts[IS_GROUND], self.counts[BEFORE] = is_ground, 0 if is_ground else len(self.search.before)
        taken = (self.taken if is_ground else self.search.taken).reshape(len(room.rows), len(room.columns))
        self.counts[TAKEN_BITS:] = (taken > 0) @ (1 << np.arange(len(room.columns)))
        self.figures = np.zeros(FIGURES)
        left = -room.area.right if room.right_bound else room.area.left
        self.figures[[WIDE, HIGH, LEFT, HEAD]] = room.area.width, room.area.height, left, room.area.top
        self.figures[FOLD] = fold_for_reading(room)
        for box in self.search.there:
            size, across = box.width * box.height, box.centre[0] * (-1 if room.right_bound else 1)
            self.figures[[THERE, THERE_ACROSS, THERE_DOWN]] += size, size * across, size * box.centre[1]
        self.figures[WEIGHTS] = 1.0
        self.figures[WEIGHTS + 1 :] = [getattr(manner, name) / 100 for name in _BETWEEN]
        self.told = np.array(
            [(item.rating, turn_in_order(n, item)) for n, item in enumerate(self.items)], np.float64
        ).ravel()
        self.before = np.array(self.search.before, np.int64).ravel() if self.counts[BEFORE] else np.zeros(0, np.int64)
        self.scratch = np.zeros(2 * cells + len(room.columns) + len(room.rows) + 2, np.int64)
        self.parts, self.where = np.zeros(COUNT_OF_PARTS), np.zeros(count, np.int64)
        self.given = (
            self.counts, self.figures, room.rects.ravel(), np.ascontiguousarray(self.search.read).ravel(),
            self.costs.ravel(), self.told, taken.ravel(), self.before, self.scratch,
            self.parts, self.where,
        )  # fmt: skip

    def sought(self, runs: int, tries: int, keep: int, together: int) -> Wholes:
        """The best that searches come to, the best first, (found, items); on ``together`` of them it goes on longer."""
        room, count = self.search.room, len(self.items)
        ranked = np.argsort(self.costs, axis=1, kind="stable").astype(np.int64).ravel()
        spans, trial = np.zeros(5 * (count + WHITES), np.int64), np.zeros(count, np.int64)
        every: dict[tuple[int, ...], float] = {}
        for run in range(runs):
            found, totals = np.zeros(keep * count, np.int64), np.zeros(keep)
            more = room.index, ranked, self.fixed, trial, spans, found, totals
            kept = seek(1 + 97 * run, tries, keep, *self.given, *more)
            every |= told_apart(found.reshape(keep, count)[:kept], totals)
        best = sorted(every, key=lambda rects: (every[rects], rects))[:together]
        if best:
            found, totals = np.array(best, np.int64).ravel(), np.array([every[rects] for rects in best])
            go_on(len(best), *self.given, room.index, ranked, self.fixed, trial, spans, found, totals)
            every |= told_apart(found.reshape(-1, count), totals)
        ordered = sorted(every, key=lambda rects: (every[rects], rects))
        return np.array([rects for rects in ordered if every[rects] < FORBIDDEN], np.int64).reshape(-1, count)

    def judged(self, rects: Wholes) -> tuple[float, dict[str, float]]:
        """What an arrangement costs, and in what parts."""
        total = np.zeros(1)
        wheres = np.ascontiguousarray(rects, np.int64)
        judge_all(wheres, 1, *self.given, total)
        each = {name: float(costs[range(len(rects)), rects].sum()) for name, costs in self.by_part.items()}
        between = dict(zip(_BETWEEN, map(float, self.parts[1:]), strict=True))
        return float(total[0]), each | between


def _leaning(room: Room, lean: float) -> Reals:
    """What a rectangle costs for not lying as is leaned to: out to the bleed above 0, in the margins below."""
    out = room.rects[:, 4] == 1
    return np.where(out, max(0.0, -lean), max(0.0, lean))


def _on_taken(room: Room, taken: Wholes) -> npt.NDArray[np.bool_]:
    """Which rectangles lie on a field that is taken."""
    rows, columns = len(room.rows), len(room.columns)
    sums = np.zeros((rows + 1, columns + 1), np.int64)
    sums[1:, 1:] = taken.reshape(rows, columns).cumsum(0).cumsum(1)
    c0, c1, r0, r1, _ = room.rects.T
    inside = sums[r1 + 1, c1 + 1] - sums[r0, c1 + 1] - sums[r1 + 1, c0] + sums[r0, c0]
    return np.asarray(inside > 0)


def _beside(publication: Publication, room: Room) -> list[Wholes]:
    """Which picture lies on each field of the spreads before and after, where they have the same fields."""
    every, index = spreads_of(publication), spread_index(publication, room.pages[0])
    here, found = every[index], []
    for other in (index - 1, index + 1):
        if not 0 <= other < len(every) or len(every[other].numbers) != len(here.numbers):
            continue
        there = every[other]
        side = there.left if room.pages[0] == here.left else there.right
        theirs = room_of(publication, there.numbers if len(room.pages) == 2 or side is None else (side,))
        if (len(theirs.columns), len(theirs.rows)) != (len(room.columns), len(room.rows)):
            continue
        laid = [
            hull_of(publication, number, block)
            for number, _, block in blocks_on(publication, there)
            if isinstance(block.holds, HoldsPicture)
        ]
        cells = np.full(len(room.columns) * len(room.rows), FREE, np.int64)
        for name, box in enumerate(laid):
            cells[theirs.cells([box]) > 0] = name
        if laid:
            found.append(cells)
    return found
