"""The search: random slicings of the room in good order, then downhill from the best of them, each step judged whole.

Compiled procedures; the same from the same seed. Rectangles are told by their number among ``rects``, and ``index``
gives that of fields; ``ranked`` lists, item by item, all rectangles from the cheapest on. ``fixed`` is where an item is
pinned, or FREE.
"""

from typing import Any

from half_fold.core.arrange.judging import (
    BEFORE,
    COLUMNS,
    EDGES,
    FIGURES,
    FOLD,
    ITEMS,
    OF_EACH,
    ORDER,
    PARTS,
    RECTS,
    ROWS,
    TAKEN_BITS,
    WEIGHTS,
    edges_cost,
    judged,
    meet,
    order_cost,
)
from half_fold.core.arrange.slicing import WHITES, fits, in_order, in_turn, keep_best, sliced
from half_fold.core.compiled.compiling import Reals, Wholes, known

SWEEPS = 20
NOWHERE = 1e9


def _needs(counts: Any, many: int = 1, keep: int = 0, **_: Any) -> dict[str, int]:
    count, rects, cells = int(counts[ITEMS]), int(counts[RECTS]), int(counts[COLUMNS] * counts[ROWS])
    least = {
        "counts": TAKEN_BITS + int(counts[ROWS]),
        "figures": FIGURES,
        "rects": 5 * rects,
        "boxes": 4 * rects,
        "costs": count * rects,
        "items": 2 * count,
        "taken": cells,
        "before": int(counts[BEFORE]) * cells,
        "scratch": 2 * cells + int(counts[COLUMNS] + counts[ROWS]) + 2,
        "parts": PARTS,
        "where": count,
    }
    if keep:
        sides = {"index": 2 * cells * cells, "ranked": count * rects, "fixed": count, "trial": count}
        return least | sides | {"spans": 5 * (count + WHITES), "found": keep * count, "totals": keep}
    return least | {"wheres": many * count, "totals": many}


@known(_needs)
def judge_all(
    wheres: Wholes,
    many: int,
    counts: Wholes,
    figures: Reals,
    rects: Wholes,
    boxes: Reals,
    costs: Reals,
    items: Reals,
    taken: Wholes,
    before: Wholes,
    scratch: Wholes,
    parts: Reals,
    where: Wholes,
    totals: Reals,
) -> int:
    """Write what each of ``many`` arrangements costs; ``parts`` are those of the last."""
    count = counts[ITEMS]
    for one in range(many):
        for item in range(count):
            where[item] = wheres[one * count + item]
        totals[one] = judged(where, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, NOWHERE)
    return 0


@known(_needs)
def seek(
    seed: int,
    tries: int,
    keep: int,
    counts: Wholes,
    figures: Reals,
    rects: Wholes,
    boxes: Reals,
    costs: Reals,
    items: Reals,
    taken: Wholes,
    before: Wholes,
    scratch: Wholes,
    parts: Reals,
    where: Wholes,
    index: Wholes,
    ranked: Wholes,
    fixed: Wholes,
    trial: Wholes,
    spans: Wholes,
    found: Wholes,
    totals: Reals,
) -> int:
    """Fill ``found`` with the ``keep`` best arrangements that it comes to, the best first; gives how many there are.

    So many ``tries`` are begun with.
    """
    count, every = counts[ITEMS], counts[RECTS]
    kept = 0
    for one in range(keep):
        totals[one] = NOWHERE
    for _ in range(tries):
        seed = sliced(seed, counts, figures, rects, boxes, taken, where, index, fixed, spans)
        if where[0] < 0:
            continue
        in_turn(where, counts, figures, costs, fixed)
        alone = 0.0
        for item in range(count):
            alone += costs[item * every + where[item]]
        if alone * figures[WEIGHTS + OF_EACH] < totals[keep - 1]:
            total = judged(
                where, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, totals[keep - 1]
            )
            kept = keep_best(where, total, count, keep, kept, found, totals)
    for one in range(kept):
        for item in range(count):
            where[item] = found[one * count + item]
        totals[one] = downhill(
            where, totals[one], counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, index,
            ranked, fixed, trial,
        )  # fmt: skip
        for item in range(count):
            found[one * count + item] = where[item]
    in_order(kept, count, found, totals)
    return int(kept)


@known(_needs)
def go_on(
    keep: int,
    counts: Wholes,
    figures: Reals,
    rects: Wholes,
    boxes: Reals,
    costs: Reals,
    items: Reals,
    taken: Wholes,
    before: Wholes,
    scratch: Wholes,
    parts: Reals,
    where: Wholes,
    index: Wholes,
    ranked: Wholes,
    fixed: Wholes,
    trial: Wholes,
    spans: Wholes,
    found: Wholes,
    totals: Reals,
) -> int:
    """Lay any two items of each arrangement in ``found`` again, and go downhill from there, as long as it helps."""
    count = counts[ITEMS]
    for one in range(keep):
        for item in range(count):
            where[item] = found[one * count + item]
        total = totals[one]
        better = laid_again(
            where,
            total,
            counts,
            figures,
            rects,
            boxes,
            costs,
            items,
            taken,
            before,
            scratch,
            parts,
            ranked,
            fixed,
            trial,
        )
        while better < total - 1e-9:
            total = downhill(
                where, better, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, index,
                ranked, fixed, trial,
            )  # fmt: skip
            better = laid_again(
                where, total, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, ranked, fixed,
                trial,
            )  # fmt: skip
        totals[one] = total
        for item in range(count):
            found[one * count + item] = where[item]
    in_order(keep, count, found, totals)
    return 0


def downhill(
    where: Wholes,
    total: float,
    counts: Wholes,
    figures: Reals,
    rects: Wholes,
    boxes: Reals,
    costs: Reals,
    items: Reals,
    taken: Wholes,
    before: Wholes,
    scratch: Wholes,
    parts: Reals,
    index: Wholes,
    ranked: Wholes,
    fixed: Wholes,
    trial: Wholes,
) -> float:
    """Go from an arrangement to better ones as long as there are any; gives what it then costs.

    A step lays one item anywhere else, changes two about, or moves a line with all edges that lie on it.
    """
    count, every, columns, rows = counts[ITEMS], counts[RECTS], counts[COLUMNS], counts[ROWS]
    each = figures[WEIGHTS + OF_EACH]
    for _ in range(SWEEPS):
        began = total
        for item in range(count):
            if fixed[item] >= 0:
                continue
            others = 0.0
            for other in range(count):
                others += costs[other * every + where[other]] if other != item else 0.0
            begun = so_far(where, item, others, counts, figures, rects, boxes, items, scratch)
            stood, best = where[item], where[item]
            for place in range(every):
                rect = ranked[item * every + place]
                if begun + costs[item * every + rect] * each >= total:
                    break
                if rect == stood or not fits(item, rect, item, where, count, rects):
                    continue
                where[item] = rect
                now = judged(where, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, total)
                if now < total - 1e-9:
                    total, best = now, rect
            where[item] = best
        for one in range(count):
            for other in range(one + 1, count):
                if fixed[one] >= 0 or fixed[other] >= 0:
                    continue
                where[one], where[other] = where[other], where[one]
                now = judged(where, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, total)
                if now < total - 1e-9:
                    total = now
                else:
                    where[one], where[other] = where[other], where[one]
        for line in range(1, columns + rows - 1):
            across = line < columns
            at = line if across else line - columns + 1
            for by in range(-1, 2, 2):
                if not shift_rects(where, trial, count, columns, rows, rects, index, fixed, at, across, by):
                    continue
                now = judged(trial, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, total)
                if now < total - 1e-9:
                    total = now
                    for item in range(count):
                        where[item] = trial[item]
        if total >= began - 1e-9:
            break
    return total


def shift_rects(
    where: Wholes,
    trial: Wholes,
    count: int,
    columns: int,
    rows: int,
    rects: Wholes,
    index: Wholes,
    fixed: Wholes,
    line: int,
    across: bool,
    by: int,
) -> bool:
    """Write into ``trial`` the arrangement with all edges on a line moved by a field; False where that cannot be."""
    moved = False
    for item in range(count):
        at = 5 * where[item]
        c0, c1, r0, r1, form = rects[at], rects[at + 1], rects[at + 2], rects[at + 3], rects[at + 4]
        if across:
            first, last = c0 == line, c1 == line - 1
            c0 += by if first else 0
            c1 += by if last else 0
        else:
            first, last = r0 == line, r1 == line - 1
            r0 += by if first else 0
            r1 += by if last else 0
        if c0 < 0 or r0 < 0 or c1 >= columns or r1 >= rows or c0 > c1 or r0 > r1:
            return False
        if first or last:
            if fixed[item] >= 0:
                return False
            moved = True
        here = (((c0 * columns + c1) * rows + r0) * rows + r1) * 2
        trial[item] = index[here + form] if index[here + form] >= 0 else index[here]
    if not moved:
        return False
    for one in range(count):
        for other in range(one + 1, count):
            if meet(trial[one], trial[other], rects):
                return False
    return True


def laid_again(
    where: Wholes,
    total: float,
    counts: Wholes,
    figures: Reals,
    rects: Wholes,
    boxes: Reals,
    costs: Reals,
    items: Reals,
    taken: Wholes,
    before: Wholes,
    scratch: Wholes,
    parts: Reals,
    ranked: Wholes,
    fixed: Wholes,
    trial: Wholes,
) -> float:
    """Take any two items out and lay both in the best way there is; gives what the best of all then costs."""
    count, every = counts[ITEMS], counts[RECTS]
    each = figures[WEIGHTS + OF_EACH]
    for one in range(count):
        for other in range(one + 1, count):
            if fixed[one] >= 0 or fixed[other] >= 0:
                continue
            rest = 0.0
            for item in range(count):
                rest += costs[item * every + where[item]] if item != one and item != other else 0.0
            least = costs[other * every + ranked[other * every]]
            first, second = where[one], where[other]
            for place in range(every):
                rect = ranked[one * every + place]
                own = rest + costs[one * every + rect]
                if (own + least) * each >= total:
                    break
                if not fits(one, rect, other, where, count, rects):
                    continue
                for item in range(count):
                    trial[item] = where[item]
                trial[one] = rect
                begun = so_far(trial, other, own, counts, figures, rects, boxes, items, scratch)
                if begun + least * each >= total:
                    continue
                for after in range(every):
                    beside = ranked[other * every + after]
                    if begun + costs[other * every + beside] * each >= total:
                        break
                    if not fits(other, beside, other, trial, count, rects):
                        continue
                    trial[other] = beside
                    now = judged(
                        trial, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, total
                    )
                    if now < total - 1e-9:
                        total, first, second = now, rect, beside
            where[one], where[other] = first, second
    return total


def so_far(
    where: Wholes,
    but: int,
    alone: float,
    counts: Wholes,
    figures: Reals,
    rects: Wholes,
    boxes: Reals,
    items: Reals,
    scratch: Wholes,
) -> float:
    """What an arrangement costs at least that lacks one item: the others themselves, their edges and their order."""
    count = counts[ITEMS]
    edges = edges_cost(where, but, counts, rects, items, scratch)
    order = order_cost(where, count, but, boxes, items, figures[FOLD])
    return float(
        alone * figures[WEIGHTS + OF_EACH] + edges * figures[WEIGHTS + EDGES] + order * figures[WEIGHTS + ORDER]
    )
