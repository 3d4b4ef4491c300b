"""A room sliced into rectangles by a tree of cuts, in the order that reading asks for."""

from half_fold.core.arrange.judging import (
    COLUMNS,
    FOLD,
    FORBIDDEN,
    FREE,
    ITEMS,
    OF_EACH,
    ORDER,
    RECTS,
    ROWS,
    WEIGHTS,
    is_read_before,
    meet,
)
from half_fold.core.compiled.compiling import Reals, Wholes

WHITES = 4  # of the leaves of a slicing, at most, that nothing lies on
_BITS = 0x7FFFFFFF


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


def keep_best(where: Wholes, total: float, count: int, keep: int, kept: int, found: Wholes, totals: Reals) -> int:
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
