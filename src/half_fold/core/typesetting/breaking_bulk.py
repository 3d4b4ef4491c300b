"""Total-fit line breaking of many paragraphs at once, in NumPy.

A line that fits is nearly a measure long, so all breaks within one such stretch depend only on earlier
ones: they are solved together, for all paragraphs, in waves. Along one line end the fitness class only
rises with the line's start, so the edges of each (end, class) lie side by side and one
``minimum.reduceat`` finds every minimum.
"""

import numpy as np
import numpy.typing as npt

from half_fold.core.typesetting import demerits as price
from half_fold.core.typesetting.breaking_one import break_greedily
from half_fold.core.typesetting.demerits import Manner
from half_fold.core.typesetting.strip import Strip
from half_fold.core.typesetting.tokens import AT_DASH, AT_HYPHEN

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]
CLASSES = len(price.CLASS_EDGES) + 1
_UNLIKE = np.array([[price.UNLIKE_NEIGHBOURS * (abs(a - b) > 1) for b in range(CLASSES)] for a in range(CLASSES)])


def break_bulk(strip: Strip, measures: Floats, manner: Manner) -> list[Ints]:
    """For each paragraph the break at which each of its lines ends; ``measures`` in ems, one a paragraph.

    Paragraphs that cannot be broken within the manner are tried again with emergency stretch of 5 %, then
    25 % of the measure, and then greedily.
    """
    found: list[Ints | None] = [None] * len(strip.first)
    waiting = np.arange(len(strip.first))
    for share in (0.0, *price.EMERGENCIES):
        solved = _Solver(strip, measures, manner.eased(share), waiting).lines()
        for paragraph, lines in zip(waiting.tolist(), solved, strict=True):
            found[paragraph] = lines
        waiting = np.array([p for p in waiting.tolist() if found[p] is None], np.int64)
        if not len(waiting):
            break
    return [
        lines if lines is not None else break_greedily(strip, p, [float(measures[p])]) for p, lines in enumerate(found)
    ]


def _ranges(low: Ints, high: Ints) -> tuple[Ints, Ints]:
    """All integers of [low, high) one range after another, and the range each belongs to."""
    sizes = np.maximum(high - low, 0)
    owner = np.repeat(np.arange(len(low)), sizes)
    begins = np.cumsum(sizes) - sizes
    return np.arange(len(owner)) - begins[owner] + low[owner], owner


class _Solver:
    """One pass over some paragraphs of a strip."""

    def __init__(self, strip: Strip, measures: Floats, manner: Manner, chosen: Ints) -> None:
        self.s, self.manner = strip, manner
        self.first, self.last, self.measures = strip.first[chosen], strip.last[chosen], measures[chosen]
        count = len(strip.ends)
        self.measure = np.zeros(count)
        inside, owner = _ranges(self.first, self.last + 1)
        self.measure[inside] = self.measures[owner]
        self.paragraph_start = np.zeros(count, np.int64)
        self.paragraph_start[inside] = self.first[owner]
        self.is_last = np.zeros(count, bool)
        self.is_last[self.last] = True
        self.cost = np.full((count, CLASSES), np.inf)
        self.cost[self.first, 1] = 0.0
        self.reach = np.full((count, CLASSES), np.inf)
        self.came_from = np.full((count, CLASSES), -1, np.int64)
        self._windows()

    def _windows(self) -> None:
        """For each break the breaks at which a line that ends here may start: [low, high)."""
        s, m = self.s, self.manner
        tight = np.maximum.accumulate(s.starts - m.shrink * s.spaces_at_start)
        self.low = np.searchsorted(tight, s.ends - m.shrink * s.spaces_at_end - self.measure - 1e-7, "left")
        give = m.tolerance * m.stretch
        loose = np.minimum.accumulate((s.starts + give * s.spaces_at_start)[::-1])[::-1]
        least = s.ends + give * s.spaces_at_end - self.measure * (1 - m.tolerance * m.slack)
        self.high = np.searchsorted(loose, least + 1e-7, "right")
        places = np.arange(len(s.ends))
        self.low = np.maximum(self.low, self.paragraph_start)
        self.high = np.clip(self.high, self.paragraph_start, places)
        self.high = np.where(self.is_last, places, self.high)
        # Waves look at how far back the ends need to see; a paragraph's own end comes in a wave of its own.
        self.needs = np.maximum.accumulate(np.where(self.is_last, 0, self.high))

    def lines(self) -> list[Ints | None]:
        """The line ends of each chosen paragraph, or None where it cannot be broken so."""
        begin = self.first + 1
        self._close(self.first)
        live = np.arange(len(self.first))
        while len(live):
            low = begin[live]
            high = np.minimum(np.searchsorted(self.needs, low, "right"), self.last[live])
            ends, _ = _ranges(low, high)
            if len(ends):
                self._solve(ends)
                self._close(ends)
            begin[live] = high
            live = live[high < self.last[live]]
        self._solve(self.last)
        return self._trace()

    def _solve(self, ends: Ints) -> None:
        starts, owner = _ranges(self.low[ends], self.high[ends])
        if not len(starts):
            return
        ends = ends[owner]
        s, m = self.s, self.manner
        measure, last = self.measure[ends], self.is_last[ends]
        width = s.ends[ends] - s.starts[starts]
        spaces = s.spaces_at_end[ends] - s.spaces_at_start[starts]
        over = measure - width
        with np.errstate(divide="ignore", invalid="ignore"):
            r = np.where(over >= 0, over / (m.stretch * spaces + m.slack * measure), over / (m.shrink * spaces))
        r = np.where((last & (over >= 0)) | (np.abs(over) < 1e-9), 0.0, r)
        fits = (r >= price.LEAST_RATIO) & (r <= m.tolerance) & np.isfinite(r)
        starts, ends, r, last, width = starts[fits], ends[fits], r[fits], last[fits], width[fits]
        if not len(starts):
            return
        klass = np.searchsorted(price.CLASS_EDGES, r, "left")
        total = self.reach[starts, klass] + self._demerits(r, starts, ends, last, width)
        self._keep_best(starts, ends, klass, total)

    def _demerits(self, r: Floats, starts: Ints, ends: Ints, last: npt.NDArray[np.bool_], width: Floats) -> Floats:
        begins, closes = self.s.kind[starts], self.s.kind[ends]
        cost = (price.LINE_PENALTY + 100.0 * np.abs(r) ** 3) ** 2
        hyphen, dash = closes == AT_HYPHEN, closes == AT_DASH
        cost += np.where(last, 0.0, hyphen * price.HYPHEN_PENALTY**2 + dash * price.DASH_PENALTY**2)
        after_hyphen = begins == AT_HYPHEN
        cost += after_hyphen * np.where(last, price.LAST_BUT_ONE_HYPHEN, hyphen * price.LADDER)
        runt = last & (width < price.SHORTEST_LAST_LINE_EMS) & (starts != self.paragraph_start[ends])
        return np.asarray(cost + runt * price.RUNT, np.float64)

    def _keep_best(self, starts: Ints, ends: Ints, klass: Ints, total: Floats) -> None:
        group = ends * CLASSES + klass
        opens = np.flatnonzero(np.concatenate([[True], group[1:] != group[:-1]]))
        best = np.minimum.reduceat(total, opens)
        sizes = np.diff(np.concatenate([opens, [len(total)]]))
        hits = np.flatnonzero(total == np.repeat(best, sizes))[::-1]
        which = np.empty(len(opens), np.int64)
        which[np.searchsorted(opens, hits, "right") - 1] = hits
        end, into = ends[which], klass[which]
        self.cost[end, into] = best
        self.came_from[end, into] = starts[which]

    def _close(self, places: Ints) -> None:
        """These breaks are final: what the cheapest way on from them into each class has cost so far."""
        cost = self.cost[places]
        near = cost.copy()
        np.minimum(near[:, 1:], cost[:, :-1], out=near[:, 1:])
        np.minimum(near[:, :-1], cost[:, 1:], out=near[:, :-1])
        self.reach[places] = np.minimum(near, cost.min(1, keepdims=True) + price.UNLIKE_NEIGHBOURS)

    def _trace(self) -> list[Ints | None]:
        at, klass = self.last.copy(), self.cost[self.last].argmin(1)
        fits = np.isfinite(self.cost[at, klass])
        steps: list[tuple[Ints, Ints]] = []
        live = np.flatnonzero(fits)
        while len(live):
            steps.append((live, at[live]))
            before = self.came_from[at[live], klass[live]]
            klass[live] = (self.cost[before] + _UNLIKE[klass[live]]).argmin(1)
            at[live] = before
            live = live[before != self.first[live]]
        found: list[Ints | None] = [None] * len(self.last)
        if steps:
            who = np.concatenate([step[0] for step in steps])[::-1]
            where = np.concatenate([step[1] for step in steps])[::-1]
            order = np.argsort(who, kind="stable")
            who, where = who[order], where[order]
            cuts = np.flatnonzero(np.diff(who)) + 1
            for paragraph, lines in zip(who[np.concatenate([[0], cuts])].tolist(), np.split(where, cuts), strict=True):
                found[paragraph] = lines
        return found
