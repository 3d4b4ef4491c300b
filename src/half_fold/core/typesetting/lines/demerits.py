"""What a line costs. One set of figures for the breaker, interpreted or compiled, and for the test's brute force."""

from msgspec import Struct

LINE_PENALTY = 10.0
HYPHEN_PENALTY = 50.0
DASH_PENALTY = 30.0
LADDER = 12_000.0
UNLIKE_NEIGHBOURS = 8_000.0
LAST_BUT_ONE_HYPHEN = 5_000.0
RUNT = 6_000.0
SHORTEST_LAST_LINE_EMS = 1.6
CLASS_EDGES = (-0.5, 0.5, 1.0)


class Justification(Struct, frozen=True):
    """How lines may give: shares of the word space, and of the measure, by which one may shrink or stretch.

    Justified text keeps its word spaces from 80 to 133 per cent (``tolerance`` lets a line exceed that at a
    steep price); ragged text keeps them whole and prices the shortfall at the line's end. ``letters`` is the ems by
    which every letter may move, ``hyphens_in_row`` how many lines in a row may end in a hyphen.
    """

    shrink: float = 0.2
    stretch: float = 0.33
    slack: float = 0.0
    tolerance: float = 1.5
    letters: float = 0.0
    hyphens_in_row: int = 2


JUSTIFIED = Justification()
RAGGED = Justification(shrink=0.0, stretch=0.0, slack=0.16, tolerance=3.0)
# What is tried in turn where a paragraph cannot be broken: (tolerance, slack as a share of the measure). A steep price
# on loose lines keeps all others as they should be; slack comes last, for lines of a single word.
EMERGENCIES = ((4.0, 0.0), (12.0, 0.0), (10.0, 0.1))
LEAST_RATIO = -1.0 - 1e-9


def ratio(
    manner: Justification, measure: float, width: float, spaces: float, is_last: bool, letters: float = 0.0
) -> float:
    """How far a line must stretch (> 0) or shrink (< 0), as a share of what it may."""
    over = measure - width
    if over >= 0:
        if is_last:
            return 0.0
        give = manner.stretch * spaces + manner.letters * letters + manner.slack * measure
        return over / give if give > 0 else (0.0 if over < 1e-9 else float("inf"))
    give = manner.shrink * spaces + manner.letters * letters
    if give > 0:
        return over / give
    return 0.0 if over > -1e-9 else float("-inf")


def demerits(r: float, kind_start: int, kind_end: int, is_last: bool, width: float, lines_before: bool) -> float:
    """The cost of a line by itself; ``kind_*`` are kinds of break (0 space, 1 hyphen, 2 dash)."""
    cost = (LINE_PENALTY + 100.0 * abs(r) ** 3) ** 2
    if not is_last:
        cost += (0.0, HYPHEN_PENALTY**2, DASH_PENALTY**2)[kind_end]
        if kind_start == 1 and kind_end == 1:
            cost += LADDER
    else:
        if kind_start == 1:
            cost += LAST_BUT_ONE_HYPHEN
        if width < SHORTEST_LAST_LINE_EMS and lines_before:
            cost += RUNT
    return cost
