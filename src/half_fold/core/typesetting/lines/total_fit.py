"""Total-fit line breaking: one procedure, interpreted until its compiled form has been loaded.

For every break and every state a line that ends there may leave (its line, its fitness class, how many hyphens stand
one under the other) the cheapest way to it is kept; no cheaper way can pass through a dearer one, so the end's cheapest
state is the paragraph's. Lines are told apart only as far as their measures differ. The procedure is written for
both lists (interpreted) and arrays (compiled), which is why it knows nothing but numbers.
"""

from collections.abc import Sequence
from typing import Any, NamedTuple, cast

import numpy as np
import numpy.typing as npt

from half_fold.core.compiled.compiling import HeldArray, Reals, Wholes, known
from half_fold.core.typesetting.lines import demerits as price
from half_fold.core.typesetting.lines.demerits import Justification
from half_fold.core.typesetting.lines.strip import Strip, ToBreak

CLASSES = len(price.CLASS_EDGES) + 1
SPARE_LINES = 4


def _needs(
    tasks: npt.NDArray[np.int64], task_count: int, manner: Any, emergency_count: int, **_: object
) -> dict[str, int]:
    """How long the arrays have to be that paragraphs are broken by and into."""
    first, last, at, count, _looseness, whole_at, whole_count = tasks[: 7 * task_count].reshape(-1, 7).T
    rows = int(manner[5]) + 1
    states = int(((last - first + 1) * count).max(initial=0)) * CLASSES * rows
    strip = ("starts", "ends", "spaces_s", "spaces_e", "letters_s", "letters_e", "kind")
    return {
        **dict.fromkeys(strip, int(last.max(initial=-1)) + 1),
        "measures": int((at + count).max(initial=0)),
        "wholes": int((whole_at + whole_count).max(initial=0)),
        "tasks": 7 * task_count,
        "manner": 6,
        "prices": 11,
        "emergencies": 2 * emergency_count,
        "cost": states,
        "came": states,
        "out": int((last - first).sum()) + task_count,
    }


class _Asked(NamedTuple):
    """Paragraphs to break: of each seven numbers in ``tasks``, and all their measures and whole lines."""

    measures: Reals
    wholes: Wholes
    tasks: Wholes
    task_count: int


class _Scale(NamedTuple):
    """What lines cost, and how far they may give: the manner's own, and what is granted where that will not do."""

    manner: Reals
    prices: Reals
    emergencies: Reals
    emergency_count: int


class _Ways(NamedTuple):
    """Room for the cheapest way to each state of a break, and for the state it came by."""

    cost: Reals
    came: Wholes


@known(_needs)
def _solve(strip: ToBreak, asked: _Asked, scale: _Scale, ways: _Ways, out: Wholes) -> int:
    """Break paragraphs; gives how many line ends were written to ``out``, each paragraph's closed by -1."""
    starts, ends, spaces_s, spaces_e, letters_s, letters_e, kind = strip
    measures, wholes, tasks, task_count = asked
    manner, prices, emergencies, emergency_count = scale
    cost, came = ways
    shrink, stretch, letters, in_row = manner[0], manner[1], manner[4], int(manner[5])
    line_penalty, hyphen_price, dash_price, ladder = prices[0], prices[1], prices[2], prices[3]
    unlike, last_hyphen, runt, short_last = prices[4], prices[5], prices[6], prices[7]
    edge0, edge1, edge2 = prices[8], prices[9], prices[10]
    infinite = 1e300
    rows = in_row + 1
    written = 0
    for task in range(task_count):
        first, last = tasks[task * 7], tasks[task * 7 + 1]
        at, count, looseness = tasks[task * 7 + 2], tasks[task * 7 + 3], tasks[task * 7 + 4]
        whole_at, whole_count = tasks[task * 7 + 5], tasks[task * 7 + 6]
        states = count * 4 * rows
        widest = 0.0
        for i in range(count):
            widest = max(widest, measures[at + i])
        best = infinite
        best_state = -1
        for attempt in range(emergency_count):
            tolerance = max(manner[3], emergencies[2 * attempt])
            slack = manner[2] + emergencies[2 * attempt + 1]
            base = (last - first) * states
            for i in range(states):
                cost[i] = infinite
                cost[base + i] = infinite
            cost[1 * rows] = 0.0  # a paragraph begins as if after a line of class 1
            low = first
            alive = first  # the last break that any line can end at
            for end in range(first + 1, last + 1):
                is_last = end == last
                closes = kind[end]
                base_end = (end - first) * states
                at_end, spaces_at_end, letters_at_end = ends[end], spaces_e[end], letters_e[end]
                # Behind a space no hyphens stand; behind a hyphen at least one does.
                row_from, row_to = (1, rows) if closes == 1 else (0, 1)
                if not is_last:
                    for at_line in range(base_end, base_end + states, 4 * rows):
                        for row in range(row_from, row_to):
                            for k in range(4):
                                cost[at_line + row + k * rows] = infinite
                while low < end - 1 and (
                    at_end
                    - starts[low]
                    - shrink * (spaces_at_end - spaces_s[low])
                    - letters * (letters_at_end - letters_s[low])
                    - 1.0
                    > widest
                ):
                    low += 1
                if low > alive:  # no line reaches so far: nothing can come of this attempt
                    break
                for start in range(low, end):
                    width = at_end - starts[start]
                    spaces = spaces_at_end - spaces_s[start]
                    give = letters * (letters_at_end - letters_s[start])
                    give_up = stretch * spaces + give
                    give_down = shrink * spaces + give
                    loosest = width + tolerance * (give_up + slack * widest)
                    if count == 1 and not is_last and loosest + 1.0 < widest:
                        break
                    opens = kind[start]
                    base_start = (start - first) * states
                    for line in range(count):
                        from_line = base_start + line * 4 * rows
                        measure = measures[at + line]
                        over = measure - width
                        gives = give_up + slack * measure if over > 0 else give_down
                        r = over / gives if gives > 0 else 0.0
                        if is_last and over > 0:
                            r = 0.0
                        elif r > tolerance or r < -1.000000001 or (gives <= 0 and (over > 1e-9 or over < -1e-9)):
                            continue
                        if closes == 1 and whole_count > 0 and not is_last:
                            is_whole = False
                            for w in range(whole_at, whole_at + whole_count):
                                is_whole = is_whole or wholes[w] == line
                            if is_whole:
                                continue
                        into = (r > edge0) + (r > edge1) + (r > edge2)
                        own = line_penalty + 100.0 * abs(r * r * r)
                        own = own * own
                        if is_last:
                            if opens == 1:
                                own += last_hyphen
                            if width < short_last and start > first:
                                own += runt
                        elif closes == 1:
                            own += hyphen_price
                            if opens == 1:
                                own += ladder
                        elif closes == 2:
                            own += dash_price
                        next_line = min(line + 1, count - 1)
                        for row in range(1 if opens == 1 else 0, rows if opens == 1 else 1):
                            to_row = row + 1 if closes == 1 and not is_last else 0
                            if to_row >= rows:
                                continue
                            here = infinite
                            from_state = -1
                            for k in range(4):  # the cheapest way to the line before, of whichever class that is
                                at_class = from_line + k * rows + row
                                way = cost[at_class] + (unlike if k - into > 1 or into - k > 1 else 0.0)
                                if way < here:
                                    here = way
                                    from_state = at_class
                            if from_state < 0:
                                continue
                            to = base_end + next_line * 4 * rows + into * rows + to_row
                            if is_last and looseness != 0:
                                to = base_end + line * 4 * rows + into * rows + to_row
                            total = here + own
                            if total < cost[to]:
                                cost[to] = total
                                came[to] = from_state
                                alive = end
            best = infinite
            best_state = -1
            best_line = 0
            for i in range(states):
                if cost[base + i] < best:
                    best = cost[base + i]
                    best_state = base + i
                    best_line = i // (4 * rows)
            if best_state >= 0 and looseness != 0:
                goal = best_line + looseness
                nearest = infinite
                for i in range(states):
                    if cost[base + i] < infinite:
                        away = abs(i // (4 * rows) - goal) * 1e100 + cost[base + i]
                        if away < nearest:
                            nearest = away
                            best_state = base + i
            if best_state >= 0:
                break
        begin = written
        if best_state >= 0:
            state = best_state
            while state >= states:
                out[written] = state // states + first
                written += 1
                state = came[state]
            half = (written - begin) // 2
            for i in range(half):
                other = written - 1 - i
                swap = out[begin + i]
                out[begin + i] = out[other]
                out[other] = swap
        else:
            start = first
            line = 0
            row = 0
            while start < last:
                measure = measures[at + min(line, count - 1)]
                end = start + 1
                furthest = -1
                while end <= last and (end == start + 1 or ends[end] - starts[start] <= measure + 1e-9):
                    if kind[end] != 1 or row < in_row:
                        furthest = end
                    end += 1
                if furthest < 0:  # nothing that may end the line fits: the first that may stands out of the measure
                    while end < last and kind[end] == 1:
                        end += 1
                    furthest = min(end, last)
                end = furthest
                row = row + 1 if kind[end] == 1 else 0
                out[written] = end
                written += 1
                start = end
                line += 1
        out[written] = -1
        written += 1
    return written


_PRICES = HeldArray(
    np.array(
        (
            price.LINE_PENALTY,
            price.HYPHEN_PENALTY**2,
            price.DASH_PENALTY**2,
            price.LADDER,
            price.UNLIKE_NEIGHBOURS,
            price.LAST_BUT_ONE_HYPHEN,
            price.RUNT,
            price.SHORTEST_LAST_LINE_EMS,
            *price.CLASS_EDGES,
        )
    )
)
_EMERGENCIES = HeldArray(np.array([0.0, 0.0, *(value for emergency in price.EMERGENCIES for value in emergency)]))


class Task(NamedTuple):
    """A paragraph to break: its measures in ems, the last serving all further lines.

    ``looseness`` asks for so many lines more (or fewer) than are best; no line of
    ``whole_lines`` may end in a hyphen.
    """

    paragraph: int
    measures: tuple[float, ...]
    looseness: int = 0
    whole_lines: tuple[int, ...] = ()


def break_lines(strip: Strip, tasks: Sequence[Task], manner: Justification) -> list[list[int]]:
    """For each task the break at which each of its lines ends.

    What cannot be broken within the manner is tried again with a wider tolerance, then with emergency stretch too, and
    then greedily, which always succeeds: a word wider than the measure stands alone on its line.
    """
    numbers: list[int] = []
    measures: list[float] = []
    wholes: list[int] = []
    states = 0
    firsts, lasts = strip.first.tolist(), strip.last.tolist()
    for task in tasks:
        first, last = firsts[task.paragraph], lasts[task.paragraph]
        own = _told_apart(strip, task) if task.looseness or task.whole_lines else task.measures
        whole = len(wholes), len(task.whole_lines)
        numbers += [first, last, len(measures), len(own), task.looseness, *whole]
        measures += own
        wholes += task.whole_lines
        states = max(states, (last - first + 1) * len(own))
    states *= CLASSES * (manner.hyphens_in_row + 1)
    return _by_task(_solved(strip, numbers, measures, wholes, manner, states))


def _told_apart(strip: Strip, task: Task) -> Sequence[float]:
    """The measure of every line that must be told from the others."""
    measures = list(task.measures)
    least = len(measures)
    if task.whole_lines:
        least = max(least, max(task.whole_lines) + 2)
    if task.looseness:
        first, last = int(strip.first[task.paragraph]), int(strip.last[task.paragraph])
        likely = int(strip.width(first, last) / max(1e-6, min(measures))) + 1
        least = max(least, likely + abs(task.looseness) + SPARE_LINES)
    return measures + [measures[-1]] * (least - len(measures))


def _solved(
    strip: Strip, numbers: list[int], measures: list[float], wholes: list[int], manner: Justification, states: int
) -> list[int]:
    out = np.empty(len(strip.ends) + len(numbers), np.int64)
    told = np.array(measures), np.array(wholes, np.int64), np.array(numbers, np.int64)
    gives = manner.shrink, manner.stretch, manner.slack, manner.tolerance, manner.letters, manner.hyphens_in_row
    scale = _Scale(np.array(gives, np.float64), _PRICES, _EMERGENCIES, len(_EMERGENCIES.array) // 2)
    ways = _Ways(np.empty(states), np.empty(states, np.int64))
    written = _solve(strip.to_break, _Asked(*told, len(numbers) // 7), scale, ways, out)
    return cast(list[int], out[:written].tolist())


def _by_task(written: list[int]) -> list[list[int]]:
    found: list[list[int]] = []
    begin = 0
    while begin < len(written):
        close = written.index(-1, begin)
        found.append(written[begin:close])
        begin = close + 1
    return found
