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
    FORBIDDEN,
    FREE,
    ITEMS,
    OF_EACH,
    ORDER,
    PARTS,
    RECTS,
    ROWS,
    TAKEN_BITS,
    WEIGHTS,
    edges_cost,
    is_read_before,
    judged,
    meet,
    order_cost,
)
from half_fold.core.compiled.compiling import Reals, Wholes, known

WHITES = 4  # of the leaves of a slicing, at most, that nothing lies on
SWEEPS = 20
NOWHERE = 1e9
_BITS = 0x7FFFFFFF


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
            kept = put_in(where, total, count, keep, kept, found, totals)
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


def rolled(seed: int) -> int:
    """The next of a row of numbers that look like chance."""
    return (seed * 1103515245 + 12345) & _BITS


def among(seed: int, count: int) -> int:
    """A number below ``count``, from the upper half of a seed, which is the better one."""
    return (seed >> 12) % count


def sliced(
    seed: int,
    counts: Wholes,
    figures: Reals,
    rects: Wholes,
    boxes: Reals,
    taken: Wholes,
    where: Wholes,
    index: Wholes,
    fixed: Wholes,
    spans: Wholes,
) -> int:
    """Slice what is free by chance, and lay the items that are not pinned on its leaves in the order they are read.

    Gives the next seed; ``where`` begins with FREE where it came to nothing.
    """
    count, columns, rows = counts[ITEMS], counts[COLUMNS], counts[ROWS]
    wanted = 0
    for item in range(count):
        wanted += fixed[item] < 0
    seed = rolled(seed)
    leaves = wanted + min(among(seed, WHITES + 2), WHITES)
    where[0] = FREE
    spans[0], spans[1], spans[2], spans[3] = columns, -1, rows, -1
    for row in range(rows):
        for column in range(columns):
            if taken[row * columns + column] == 0:
                spans[0], spans[1] = min(spans[0], column), max(spans[1], column)
                spans[2], spans[3] = min(spans[2], row), max(spans[3], row)
    if spans[1] < 0:
        return seed
    made = 1
    for _ in range(4 * leaves):
        if made == leaves:
            break
        seed = rolled(seed)
        one = 5 * among(seed, made)
        seed = rolled(seed)
        other = 5 * among(seed, made)
        if leaf_size(spans, other) > leaf_size(spans, one):
            one = other
        wide, high = spans[one + 1] - spans[one] + 1, spans[one + 3] - spans[one + 2] + 1
        seed = rolled(seed)
        # A field is wider than high or not: by what there is of them in the room.
        along = 0 if among(seed, wide * rows + high * columns) < wide * rows else 2
        if (wide if along == 0 else high) < 2:
            along = 2 - along
        size = spans[one + along + 1] - spans[one + along] + 1
        if size < 2:
            continue
        seed = rolled(seed)
        cut = spans[one + along] + 1 + among(seed, size - 1)
        new = 5 * made
        for side in range(4):
            spans[new + side] = spans[one + side]
        spans[one + along + 1] = cut - 1
        spans[new + along] = cut
        made += 1
    free = 0
    for leaf in range(made):
        spans[5 * leaf + 4] = 0
        for row in range(spans[5 * leaf + 2], spans[5 * leaf + 3] + 1):
            for column in range(spans[5 * leaf], spans[5 * leaf + 1] + 1):
                spans[5 * leaf + 4] |= taken[row * columns + column]
        for item in range(count):
            if fixed[item] >= 0 and leaf_meets(spans, leaf, fixed[item], rects):
                spans[5 * leaf + 4] = 1
        free += spans[5 * leaf + 4] == 0
    if free < wanted:
        return seed
    while free > wanted:
        seed = rolled(seed)
        leaf = among(seed, made)
        free -= spans[5 * leaf + 4] == 0
        spans[5 * leaf + 4] = 1
    seed = rolled(seed)
    style = among(seed, 8)  # all in the margins, all to the bleed, or as it comes
    for item in range(count):
        where[item] = fixed[item]
    last = -1
    for _ in range(wanted):
        # The next in reading order of those that are left.
        best, rect = -1, -1
        for leaf in range(made):
            at = 5 * leaf
            if spans[at + 4]:
                continue
            seed = seed if style < 6 else rolled(seed)
            form = 0 if style < 3 else 1 if style < 6 else among(seed, 2)
            here = (((spans[at] * columns + spans[at + 1]) * rows + spans[at + 2]) * rows + spans[at + 3]) * 2
            this = index[here + form] if index[here + form] >= 0 else index[here]
            if best < 0 or is_read_before(this, rect, boxes, figures[FOLD]):
                best, rect = leaf, this
        spans[5 * best + 4] = 1
        last += 1
        while fixed[last] >= 0:
            last += 1
        where[last] = rect
    return seed


def leaf_size(spans: Wholes, at: int) -> int:
    """How many fields a leaf has."""
    return int((spans[at + 1] - spans[at] + 1) * (spans[at + 3] - spans[at + 2] + 1))


def leaf_meets(spans: Wholes, leaf: int, rect: int, rects: Wholes) -> bool:
    """Whether a leaf has a field in common with a rectangle."""
    a, b = 5 * leaf, 5 * rect
    across = spans[a] <= rects[b + 1] and rects[b] <= spans[a + 1]
    return bool(across and spans[a + 2] <= rects[b + 3] and rects[b + 2] <= spans[a + 3])


def in_turn(where: Wholes, counts: Wholes, figures: Reals, costs: Reals, fixed: Wholes) -> int:
    """Change two about wherever they gain more by it than reading them the other way round costs."""
    count, every = counts[ITEMS], counts[RECTS]
    pairs = max(1, count * (count - 1) // 2)
    order = 2.4 * figures[WEIGHTS + ORDER] / pairs
    for _ in range(count):
        changed = False
        for one in range(count):
            for other in range(one + 1, count):
                if fixed[one] >= 0 or fixed[other] >= 0:
                    continue
                now = costs[one * every + where[one]] + costs[other * every + where[other]]
                then = costs[one * every + where[other]] + costs[other * every + where[one]]
                if (now - then) * figures[WEIGHTS + OF_EACH] > (2 * (other - one) - 1) * order + 1e-9:
                    where[one], where[other] = where[other], where[one]
                    changed = True
        if not changed:
            break
    return 0


def put_in(where: Wholes, total: float, count: int, keep: int, kept: int, found: Wholes, totals: Reals) -> int:
    """Keep an arrangement where it is among the best, the best first; gives how many are kept."""
    if total >= FORBIDDEN or total >= totals[keep - 1]:
        return kept
    at = min(kept, keep - 1)
    while at > 0 and totals[at - 1] > total:
        at -= 1
    for one in range(max(0, at - 1), min(kept, at + 1)):
        same = True
        for item in range(count):
            same = same and found[one * count + item] == where[item]
        if same:
            return kept
    last = min(kept, keep - 1)
    for one in range(last, at, -1):
        totals[one] = totals[one - 1]
        for item in range(count):
            found[one * count + item] = found[(one - 1) * count + item]
    totals[at] = total
    for item in range(count):
        found[at * count + item] = where[item]
    return min(kept + 1, keep)


def in_order(kept: int, count: int, found: Wholes, totals: Reals) -> int:
    """Sort what was found, the best first."""
    for one in range(1, kept):
        at = one
        while at > 0 and totals[at - 1] > totals[at]:
            totals[at - 1], totals[at] = totals[at], totals[at - 1]
            for item in range(count):
                a, b = (at - 1) * count + item, at * count + item
                found[a], found[b] = found[b], found[a]
            at -= 1
    return 0


def fits(item: int, rect: int, other: int, where: Wholes, count: int, rects: Wholes) -> bool:
    """Whether a rectangle meets none that an item lies on, but for two items."""
    met = False
    for each in range(count):
        met = met or (each != item and each != other and meet(rect, where[each], rects))
    return not met


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
                if not shifted(where, trial, count, columns, rows, rects, index, fixed, at, across, by):
                    continue
                now = judged(trial, counts, figures, rects, boxes, costs, items, taken, before, scratch, parts, total)
                if now < total - 1e-9:
                    total = now
                    for item in range(count):
                        where[item] = trial[item]
        if total >= began - 1e-9:
            break
    return total


def shifted(
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
