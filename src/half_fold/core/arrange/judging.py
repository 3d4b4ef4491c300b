"""What an arrangement costs, part by part: one plain function that the search and the working both ask.

It knows nothing but numbers and arrays of them, so that it can be compiled. Rectangles are told by their fields (first
and last column and row, and whether they go out to the bleed where they reach an edge) and by what is seen of them in
points. All costs are nothing or more, so that what is placed so far is never dearer than the whole; where an item is
left out, ``but`` says which.
"""

from half_fold.core.compiled.compiling import Reals, Wholes

# What each part of a cost is known as, in the order of ``parts``.
OF_EACH, RANK, ORDER, EDGES, BALANCE, WHITE, CONTRAST, VARIETY = range(8)
PARTS = 8

# Where each count stands in ``counts``.
ITEMS, RECTS, COLUMNS, ROWS, SECOND, IS_GROUND, BEFORE = range(7)  # SECOND: the first column of the second page
TAKEN_BITS = BEFORE + 1  # from here on, row by row: a bit for each field that others lie on

# And each figure in ``figures``: the room's width, height, left and head in points; the fold, or FAR; what lies there
# already (its area, and its middle times that); then the weight of each part.
WIDE, HIGH, LEFT, HEAD, FOLD, THERE, THERE_ACROSS, THERE_DOWN, WEIGHTS = range(9)
FIGURES = WEIGHTS + PARTS
FAR = 1e6
FORBIDDEN = 1e5

FREE, TAKEN = -1, -2
NONE = -1  # no item
NO_TURN = 1e6  # between turns: what has none lies so far from those that have
_HALF = 0.5


def judged(
    where: Wholes,
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
    limit: float,
) -> float:
    """The cost of items lying on the rectangles ``where`` says; ``parts`` tell what it is made of, each weighted.

    Once it comes to the ``limit`` no more is added: it is then that at least, and its parts tell nothing.
    """
    count, columns, rows = counts[ITEMS], counts[COLUMNS], counts[ROWS]
    for part in range(PARTS):
        parts[part] = 0.0
    for item in range(count):
        parts[OF_EACH] += costs[item * counts[RECTS] + where[item]]
    if parts[OF_EACH] >= FORBIDDEN:
        return float(parts[OF_EACH])
    parts[OF_EACH] *= figures[WEIGHTS + OF_EACH]
    parts[EDGES] = figures[WEIGHTS + EDGES] * edges_cost(where, NONE, counts, rects, items, scratch)
    parts[BALANCE] = figures[WEIGHTS + BALANCE] * balance_cost(where, count, boxes, figures)
    total = summed(parts)
    if total >= limit:
        return total
    if counts[IS_GROUND] == 0:
        parts[WHITE] = figures[WEIGHTS + WHITE] * white_cost(where, counts, rects, scratch)
    parts[CONTRAST] = figures[WEIGHTS + CONTRAST] * contrast_cost(where, count, boxes, items)
    total = summed(parts)
    if total >= limit:
        return total
    parts[ORDER] = figures[WEIGHTS + ORDER] * order_cost(where, count, NONE, boxes, items, figures[FOLD])
    total = summed(parts)
    if total >= limit:
        return total
    parts[RANK] = figures[WEIGHTS + RANK] * rank_cost(where, count, boxes, items)
    total = summed(parts)
    if counts[BEFORE] and figures[WEIGHTS + VARIETY] != 0.0 and total < limit:
        owners(where, count, columns, rows, rects, taken, scratch)
        weight, likeness = figures[WEIGHTS + VARIETY], shared_pattern(columns, rows, counts[BEFORE], scratch, before)
        parts[VARIETY] = weight * max(0.0, likeness - 1 / 3) * 1.5 if weight > 0 else -weight * (1 - likeness)
        total = summed(parts)
    return total


def summed(parts: Reals) -> float:
    """All parts together."""
    total = 0.0
    for part in range(PARTS):
        total += parts[part]
    return total


def owners(where: Wholes, count: int, columns: int, rows: int, rects: Wholes, taken: Wholes, scratch: Wholes) -> int:
    """Write which item lies on each field; those that others lie on already are TAKEN, the rest FREE."""
    for cell in range(columns * rows):
        scratch[cell] = TAKEN if taken[cell] else FREE
    for item in range(count):
        at = 5 * where[item]
        for row in range(rects[at + 2], rects[at + 3] + 1):
            for column in range(rects[at], rects[at + 1] + 1):
                scratch[row * columns + column] = item
    return 0


def meet(one: int, other: int, rects: Wholes) -> bool:
    """Whether two rectangles have a field in common."""
    a, b = 5 * one, 5 * other
    return bool(
        rects[a] <= rects[b + 1]
        and rects[b] <= rects[a + 1]
        and rects[a + 2] <= rects[b + 3]
        and rects[b + 2] <= rects[a + 3]
    )


def rank_cost(where: Wholes, count: int, boxes: Reals, items: Reals) -> float:
    """Pictures worth more are to be larger by a tenth at least; and equals, but for the largest, are to be alike."""
    cost, pairs, largest, most = 0.0, 0, 0, 0.0
    for item in range(count):
        size = area(boxes, where[item])
        if size > most and items[2 * item] >= 0:
            largest, most = item, size
    for one in range(count):
        for other in range(one + 1, count):
            if items[2 * one] < 0 or items[2 * other] < 0:
                continue
            pairs += 1
            gap = items[2 * one] - items[2 * other]
            ratio = area(boxes, where[one]) / area(boxes, where[other])
            if gap < 0:
                gap, ratio = -gap, 1 / ratio
            if gap > 0 and ratio < 1.1:
                cost += 2 * gap * min(1.0, 1.1 / ratio - 1)
            elif gap == 0 and one != largest and other != largest:
                ratio = max(ratio, 1 / ratio)
                if ratio > 2.2:
                    cost += 0.25 * (ratio / 2.2 - 1)
                elif ratio > 1.02:
                    cost += 0.06
    return float(cost / pairs**0.5) if pairs else 0.0


def area(boxes: Reals, rect: int) -> float:
    """What is seen of a rectangle, in square points."""
    return float((boxes[4 * rect + 2] - boxes[4 * rect]) * (boxes[4 * rect + 3] - boxes[4 * rect + 1]))


def order_cost(where: Wholes, count: int, but: int, boxes: Reals, items: Reals, fold: float) -> float:
    """The share of pairs that are read the other way round than they are to be."""
    wrong, pairs = 0, 0
    for one in range(count):
        for other in range(one + 1, count):
            turn = items[2 * one + 1] - items[2 * other + 1]
            if turn != 0 and abs(turn) < NO_TURN:
                pairs += 1
                if one == but or other == but:
                    continue
                wrong += is_read_before(where[one], where[other], boxes, fold) == (turn > 0)
    return 2.4 * wrong / pairs if pairs else 0.0


def is_read_before(one: int, other: int, boxes: Reals, fold: float) -> bool:
    """Page by page, from head to foot, and from left to right what lies side by side by half of the lower one."""
    a, b = 4 * one, 4 * other
    first, second = boxes[a] >= fold - 1, boxes[b] >= fold - 1
    if first != second:
        return bool(second)
    lower = min(boxes[a + 3] - boxes[a + 1], boxes[b + 3] - boxes[b + 1])
    beside = min(boxes[a + 3], boxes[b + 3]) - max(boxes[a + 1], boxes[b + 1])
    if beside > _HALF * lower:
        return bool(boxes[a] < boxes[b])
    return bool(boxes[a + 1] < boxes[b + 1])


def edges_cost(where: Wholes, but: int, counts: Wholes, rects: Wholes, items: Reals, scratch: Wholes) -> float:
    """Few lines on which edges lie, none a single field from another, and no side of a page half out to the bleed."""
    count, columns, rows, second = counts[ITEMS], counts[COLUMNS], counts[ROWS], counts[SECOND]
    at = columns * rows
    for line in range(columns + rows + 2):
        scratch[at + line] = 0
    sides_out, sides_in = 0, 0
    for item in range(count):
        if item == but:
            continue
        rect = 5 * where[item]
        scratch[at + rects[rect]] |= 1
        scratch[at + rects[rect + 1] + 1] |= 2
        scratch[at + columns + 1 + rects[rect + 2]] |= 1
        scratch[at + columns + 1 + rects[rect + 3] + 1] |= 2
        touched = 0
        if rects[rect] == 0:
            touched += 1
        if rects[rect + 1] == columns - 1:
            touched += 2
        on = (4 if rects[rect] < second else 0) + (8 if rects[rect + 1] >= second else 0)
        if rects[rect + 2] == 0:
            touched += on
        if rects[rect + 3] == rows - 1:
            touched += 4 * on
        if rects[rect + 4]:
            sides_out |= touched
        elif items[2 * item] >= 0:  # words keep to the margins beside anything
            sides_in |= touched
    lines, near, mixed = 0, 0, 0
    for line in range(columns + rows + 2):
        lines += scratch[at + line] > 0
    for line in range(columns + rows):
        here = at + line + (line >= columns)  # from the last upright to the first level line is no step
        both = scratch[here] & scratch[here + 1]
        near += (both & 1) + (both >> 1)
    for side in range(6):
        mixed += (sides_out >> side) & (sides_in >> side) & 1
    return 0.06 * max(0, lines - 4) + 0.18 * near + 0.25 * mixed


def balance_cost(where: Wholes, count: int, boxes: Reals, figures: Reals) -> float:
    """How far the middle of all that lies there is from the middle of the room, beyond what is not felt."""
    weight, across, down = figures[THERE], figures[THERE_ACROSS], figures[THERE_DOWN]
    for item in range(count):
        size, at = area(boxes, where[item]), 4 * where[item]
        weight += size
        across += size * (boxes[at] + boxes[at + 2]) / 2
        down += size * (boxes[at + 1] + boxes[at + 3]) / 2
    aside = abs(across / weight - figures[LEFT] - figures[WIDE] / 2) / figures[WIDE] - 0.06
    below = abs(down / weight - figures[HEAD] - figures[HIGH] / 2) / figures[HIGH] - 0.08
    cost = 0.0
    if aside > 0:
        cost += 1.2 * aside + 4 * aside * aside
    if below > 0:
        cost += 0.6 * below + 2 * below * below
    return float(cost)


def contrast_cost(where: Wholes, count: int, boxes: Reals, items: Reals) -> float:
    """One that is clearly the largest; or all alike, where all are worth the same."""
    first, second, least, worth, pictures = 0.0, 0.0, 1e300, -1.0, 0
    same = True
    for item in range(count):
        if items[2 * item] < 0:
            continue
        size = area(boxes, where[item])
        pictures += 1
        worth = items[2 * item] if worth < 0 else worth
        same = same and items[2 * item] == worth
        least = min(least, size)
        if size > first:
            first, second = size, first
        elif size > second:
            second = size
    if pictures < 3 or (same and first <= 1.12 * least) or first >= 1.6 * second:
        return 0.0
    return float(0.35 * (1.6 - first / second) / 0.6)


def shared_pattern(columns: int, rows: int, spreads: int, scratch: Wholes, before: Wholes) -> float:
    """The share of edges that it has in common with the likest of other spreads: 1 is the same pattern."""
    most = 0.0
    for spread in range(spreads):
        shared, either = 0, 0
        base = spread * columns * rows
        for row in range(rows):
            for column in range(columns):
                here = row * columns + column
                for step in range(2):
                    if (column if step == 0 else row) == 0:
                        continue
                    there = here - (1 if step == 0 else columns)
                    now = scratch[here] != scratch[there]
                    then = before[base + here] != before[base + there]
                    shared += now and then
                    either += now or then
        likeness = shared / either if either else 1.0
        most = max(most, likeness)
    return most


def white_cost(where: Wholes, counts: Wholes, rects: Wholes, scratch: Wholes) -> float:
    """White that lies together at the edge, neither too little nor too much of it; none is needed where all bleed.

    Rows are told as bits, a column each, so that white grows over a whole row at once.
    """
    count, columns, rows = counts[ITEMS], counts[COLUMNS], counts[ROWS]
    bleeds, free, white = 0, 0, 0
    for row in range(rows):
        scratch[row] = ~counts[TAKEN_BITS + row] & ((1 << columns) - 1)
        free += bits(scratch[row])
    for item in range(count):
        at = 5 * where[item]
        bleeds += rects[at + 4]
        under = ~((1 << (rects[at + 1] + 1)) - (1 << rects[at]))
        for row in range(rects[at + 2], rects[at + 3] + 1):
            scratch[row] &= under
    for row in range(rows):
        white += bits(scratch[row])
    corners = corners_of(rows, scratch)
    regions, trapped, between, slivers = 0, 0, 0, 0
    for start in range(rows):
        while scratch[start]:
            low, high, first, last, outside = take_white_out(start, columns, rows, scratch)
            regions += 1
            trapped += not outside
            between += outside and low > 0 and high < columns - 1
            slivers += high == low and last - first > 1 and columns > 6
            slivers += first == last and high - low > 1 and rows > 4
    share = white / free if free else 0.0
    cost = 0.2 * max(0, regions - 1) + 0.25 * trapped + 0.15 * between + 0.06 * slivers
    cost += 0.045 * max(0, corners - 4 * regions)
    if share < 0.06 and count > 2 and bleeds < count:
        cost += 2 * (0.06 - share)
    if share > 1 / 3:
        cost += 2.5 * (share - 1 / 3)
    return cost


def bits(mask: int) -> int:
    """How many are set."""
    count = 0
    while mask:
        mask &= mask - 1
        count += 1
    return count


def corners_of(rows: int, white: Wholes) -> int:
    """How many corners white has: where one or three of the four fields round a place are white."""
    count, above = 0, 0
    for row in range(rows + 1):
        here = white[row] if row < rows else 0
        count += bits(above ^ (above << 1) ^ here ^ (here << 1))
        above = here
    return count


def take_white_out(start: int, columns: int, rows: int, white: Wholes) -> tuple[int, int, int, int, bool]:
    """Take the region of white out that begins in a row, the first that has any.

    Gives its first and last column and row, and whether it reaches the edge of the room.
    """
    for row in range(rows):
        white[rows + row] = 0
    white[rows + start] = white[start] & -white[start]
    grows = True
    while grows:
        grows = False
        for row in range(start, rows):
            here = white[rows + row]
            reached = here | (here << 1) | (here >> 1)
            if row > 0:
                reached |= white[rows + row - 1]
            if row < rows - 1:
                reached |= white[rows + row + 1]
            reached &= white[row]
            if reached != here:
                white[rows + row] = reached
                grows = True
    all_of, last = 0, start
    for row in range(start, rows):
        here = white[rows + row]
        white[row] &= ~here
        all_of |= here
        last = row if here else last
    low, high = 0, columns - 1
    while not (all_of >> low) & 1:
        low += 1
    while not (all_of >> high) & 1:
        high -= 1
    return low, high, start, last, start == 0 or last == rows - 1 or low == 0 or high == columns - 1
