"""Total-fit breaking of one paragraph whose lines may each have their own measure, in plain Python.

Below about a dozen paragraphs this beats the bulk breaker; its costs are the same.
"""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from half_fold.core.typesetting.demerits import (
    EMERGENCIES,
    LEAST_RATIO,
    UNLIKE_NEIGHBOURS,
    Manner,
    demerits,
    fitness,
    ratio,
)
from half_fold.core.typesetting.strip import Strip

Ints = npt.NDArray[np.int64]
_State = tuple[float, int, int, int]  # cost, break it came from, its class, index into the layer before


def measure_of(measures: Sequence[float], line: int) -> float:
    """The measure of a line; the last one given serves all that follow."""
    return measures[min(line, len(measures) - 1)]


def break_one(strip: Strip, paragraph: int, measures: Sequence[float], manner: Manner) -> Ints:
    """The break at which each line of one paragraph ends; measures in ems, line by line."""
    for share in (0.0, *EMERGENCIES):
        lines = _total_fit(strip, paragraph, measures, manner.eased(share))
        if lines is not None:
            return lines
    return break_greedily(strip, paragraph, measures)


def _total_fit(strip: Strip, paragraph: int, measures: Sequence[float], manner: Manner) -> Ints | None:
    first, last = int(strip.first[paragraph]), int(strip.last[paragraph])
    span = slice(first, last + 1)
    ends, starts = strip.ends[span].tolist(), strip.starts[span].tolist()
    at_end, at_start = strip.spaces_at_end[span].tolist(), strip.spaces_at_start[span].tolist()
    kind = strip.kind[span].tolist()
    final = last - first
    layers: list[dict[tuple[int, int], tuple[float, tuple[int, int] | None]]] = [{(0, 1): (0.0, None)}]
    best: tuple[float, int] | None = None
    closing: tuple[int, int] | None = None
    while layers[-1]:
        line = len(layers) - 1
        measure = measure_of(measures, line)
        reached: dict[tuple[int, int], tuple[float, tuple[int, int] | None]] = {}
        by_start: dict[int, list[tuple[int, float]]] = {}
        for (start, klass), (cost, _) in layers[-1].items():
            by_start.setdefault(start, []).append((klass, cost))
        for start, states in by_start.items():
            for end in range(start + 1, final + 1):
                width, spaces = ends[end] - starts[start], at_end[end] - at_start[start]
                if width - manner.shrink * spaces > measure + 1e-7:
                    if width - spaces > measure:
                        break
                    continue
                r = ratio(manner, measure, width, spaces, end == final)
                if not LEAST_RATIO <= r <= manner.tolerance:
                    continue
                into = fitness(r)
                own = demerits(r, kind[start], kind[end], end == final, width, start > 0)
                for klass, cost in states:
                    total = cost + own + (UNLIKE_NEIGHBOURS if abs(klass - into) > 1 else 0.0)
                    if total < reached.get((end, into), (float("inf"), None))[0]:
                        reached[end, into] = (total, (start, klass))
        layers.append(reached)
        for done in [key for key in reached if key[0] == final]:
            total, came = reached.pop(done)
            if best is None or total < best[0]:
                best, closing = (total, len(layers) - 1), came
        if best is not None and all(cost >= best[0] for cost, _ in reached.values()):
            break
    if best is None:
        return None
    out = [final]
    state: tuple[int, int] | None = closing
    for layer in range(best[1] - 1, 0, -1):
        assert state is not None
        out.append(state[0])
        state = layers[layer][state][1]
    return np.array(out[::-1], np.int64) + first


def break_greedily(strip: Strip, paragraph: int, measures: Sequence[float]) -> Ints:
    """First fit, which always succeeds: a word wider than the measure stands alone on its line."""
    first, last = int(strip.first[paragraph]), int(strip.last[paragraph])
    out: list[int] = []
    start = first
    while start < last:
        measure = measure_of(measures, len(out))
        end = start + 1
        while end < last and strip.width(start, end + 1) <= measure + 1e-9:
            end += 1
        out.append(end)
        start = end
    return np.array(out or [last], np.int64)
