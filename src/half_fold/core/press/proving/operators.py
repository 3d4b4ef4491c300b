"""The operators of ISO 32000 that press files are made of, by their families, as a reader takes them.

Where the walk over content stands is held in two arrays: ``now`` has whole figures, ``reals`` the graphics states, one
on another, the operands and the type. Each family gives how many operands an operator takes: ``NOT_MINE`` where it is
of another family, ``WRONG`` where it cannot stand there.
"""

import numpy as np
import numpy.typing as npt

from half_fold.core.compiled.compiling import Octets, Reals, Shorts, Wholes

Floats = npt.NDArray[np.float64]

# Operators, by their letters.
_Q, _BACK, _CM, _W, _N, _FILL, _STROKE, _CLIP = 113, 81, 25453, 119, 110, 102, 83, 87
_C, _H, _BOTH, _D, _CAP = 99, 104, 66, 100, 74
_RE, _M, _L, _K, _KK, _CS, _SCN, _GS, _DO = 29285, 109, 108, 107, 75, 17235, 5456718, 26483, 17519
_FILL_CS, _FILL_SCN = 25459, 7562094
_BT, _ET, _TF, _TM, _TJ, _BDC, _EMC = 16980, 17748, 21606, 21613, 21578, 4342851, 4541763
WRONG, NOT_MINE = -1, -2

# What is found beside glyphs: its kind, the glyph it stands before, and two places in the content.
INK, FONT, SPAN, FILLED, STROKED_BOX, STROKED_LINE, LAID, DRAWN, STATED = range(9)
WIDE, DEEP, MOST_DEEP, OPERANDS, MOST_DASHES = 4, 20, 24, 16, 6
# Fill 0-5, stroke 6-11, weight 12, matrix 13-18, whether there is one 19, round ends 20, dashes 21, how long 22-27.
# A paint is the shares of the process inks, that of what is named, and which that is.
STATE_REALS = 28
STROKED, WEIGHT, MATRIX, HAS_MATRIX, CAPS, DASHED, DASHES = 6, 12, 13, 19, 20, 21, 22
PAINT = 6

# Whole figures: how much was found so far, what is begun, and the name and the hexadecimal words that were read last.
GLYPHS, FOUND, STATES, TAKEN, POINTS, BOX_KIND, OPS_DONE, OPS, PLACES_DONE, PLACES = range(10)
DASHING, IN_TEXT, IN_ARRAY, IS_PLACED, FONT_NOW, FONT_DRAWN, FONTS = range(10, 17)
NAME, NAME_AT, NAME_END, HEX_AT, HEX_END, SPAN_AT, SPAN_EVENT, ROOM = range(17, 25)
WHOLES = 25
# Real figures behind the states: operands, the text's matrix, the ink of the glyphs before, a box, size and pen.
STACK = STATE_REALS * MOST_DEEP
TEXT, DRAWN_INK, BOX, SIZE, PEN = STACK + OPERANDS, STACK + OPERANDS + 6, STACK + OPERANDS + 12, STACK + 32, STACK + 33
REALS = STACK + 34


def take_string(
    text: Octets,
    at: int,
    end: int,
    firsts: Wholes,
    widths: Reals,
    now: Wholes,
    reals: Reals,
    gids: Shorts,
    places: Reals,
) -> int:
    """Glyphs of a string from ``at`` on, each where the pen stands; gives where it ends, or -1 less the octet."""
    font = now[FONT_NOW]
    if now[IN_ARRAY] == 0 or font < 0:
        return -1 - at
    first = firsts[font]
    count = firsts[font + 1] - first
    glyphs = now[GLYPHS]
    room = now[ROOM]
    pen = reals[PEN]
    size = reals[SIZE]
    nested = 0
    half = -1
    at += 1
    while True:
        if at >= end:
            return -1 - at
        octet = text[at]
        at += 1
        if octet == 41:
            if nested == 0:
                break
            nested -= 1
        elif octet == 40:
            nested += 1
        elif octet == 92:
            if at >= end:
                return -1 - at
            octet = text[at]
            at += 1
            if 48 <= octet <= 55:
                octet -= 48
                more = 0
                while more < 2 and at < end and 48 <= text[at] <= 55:
                    octet = octet * 8 + text[at] - 48
                    at += 1
                    more += 1
                octet &= 255
            elif octet == 110:
                octet = 10
            elif octet == 114:
                octet = 13
            elif octet == 116:
                octet = 9
            elif octet == 98:
                octet = 8
            elif octet == 102:
                octet = 12
            elif octet in (10, 13):
                continue
        elif octet == 13:
            octet = 10  # a line end of any kind, bare in a string, is read as a line feed
            if at < end and text[at] == 10:
                at += 1
        if half < 0:
            half = octet
            continue
        gid = half * 256 + octet
        half = -1
        if gid >= count:
            return -1 - at
        gids[glyphs] = gid
        places[glyphs] = reals[TEXT] * pen + reals[TEXT + 4]
        places[room + glyphs] = reals[TEXT + 1] * pen + reals[TEXT + 5]
        pen += widths[first + gid] * size / 1000.0
        glyphs += 1
    if half >= 0:
        return -1 - at
    now[GLYPHS] = glyphs
    reals[PEN] = pen
    return at


def begin_glyphs(now: Wholes, reals: Reals, events: Wholes, figures: Reals) -> int:
    """An array of glyphs begins: the ink and the font they stand in, where these are others than before."""
    if now[IN_ARRAY] == 1 or now[IS_PLACED] == 0:
        return WRONG
    now[IN_ARRAY] = 1
    base = now[STATES] * STATE_REALS
    same = 1 if now[GLYPHS] > 0 else 0
    for i in range(PAINT):
        if reals[base + i] != reals[DRAWN_INK + i]:
            same = 0
    if same == 0:
        found = now[FOUND]
        events[WIDE * found] = INK
        events[WIDE * found + 1] = now[GLYPHS]
        for i in range(PAINT):
            reals[DRAWN_INK + i] = reals[base + i]
            figures[DEEP * found + i] = reals[base + i]
        now[FOUND] = found + 1
    if now[FONT_NOW] != now[FONT_DRAWN]:
        found = now[FOUND]
        events[WIDE * found] = FONT
        events[WIDE * found + 1] = now[GLYPHS]
        events[WIDE * found + 2] = now[FONT_NOW]
        now[FONT_DRAWN] = now[FONT_NOW]
        now[FOUND] = found + 1
    return 0


def take_text(operator: int, names: Wholes, now: Wholes, reals: Reals, events: Wholes, figures: Reals) -> int:
    """Text objects, their matrix and font, and spans that say what they stand for."""
    if operator == _TM:
        if now[IN_TEXT] == 0 or now[TAKEN] != 6:
            return WRONG
        for i in range(6):
            reals[TEXT + i] = reals[STACK + i]
        reals[PEN] = 0.0
        now[IS_PLACED] = 1
        return 6
    if operator == _TJ:
        return WRONG if now[IN_TEXT] == 0 else 0
    if operator == _TF:
        now[FONT_NOW] = -1
        for i in range(now[FONTS]):
            if names[i] == now[NAME]:
                now[FONT_NOW] = i
        reals[SIZE] = reals[STACK]
        return WRONG if now[FONT_NOW] < 0 else 1
    if operator == _BDC:
        if now[SPAN_AT] >= 0:
            return WRONG
        found = now[FOUND]
        now[SPAN_AT] = now[GLYPHS]
        now[SPAN_EVENT] = found
        events[WIDE * found] = SPAN
        events[WIDE * found + 1] = now[GLYPHS]
        events[WIDE * found + 2] = now[HEX_AT]
        events[WIDE * found + 3] = now[HEX_END]
        now[FOUND] = found + 1
        return 0
    if operator == _EMC:
        if now[SPAN_AT] < 0 or now[SPAN_AT] == now[GLYPHS]:
            return WRONG
        figures[DEEP * now[SPAN_EVENT]] = float(now[GLYPHS])
        now[SPAN_AT] = -1
        return 0
    if operator == _BT:
        if now[IN_TEXT] == 1 or reals[now[STATES] * STATE_REALS + HAS_MATRIX] != 0.0:
            return WRONG
        now[IN_TEXT] = 1
        now[IS_PLACED] = 0
        return 0
    if operator == _ET:
        if now[IN_TEXT] == 0:
            return WRONG
        now[IN_TEXT] = 0
        return 0
    return NOT_MINE


def take_colour(operator: int, now: Wholes, reals: Reals) -> int:
    """Inks of fills and strokes: the four of the process, and those that are named."""
    base = now[STATES] * STATE_REALS
    if operator in (_K, _KK):
        first = base if operator == _K else base + STROKED
        for i in range(4):
            reals[first + i] = reals[STACK + i]
        reals[first + 4] = 0.0
        reals[first + 5] = 0.0
        return 4
    if operator in (_CS, _FILL_CS):
        first = base if operator == _FILL_CS else base + STROKED
        for i in range(5):
            reals[first + i] = 0.0
        reals[first + 5] = float(now[NAME])
        return 0
    if operator in (_SCN, _FILL_SCN):
        first = base if operator == _FILL_SCN else base + STROKED
        if now[TAKEN] == 0:
            reals[first + 5] = float(now[NAME])
            return 0
        reals[first + 4] = reals[STACK]
        return 1
    return NOT_MINE


def take_state(operator: int, text: Octets, now: Wholes, reals: Reals, events: Wholes) -> int:
    """Graphics states laid by and taken up again, and what they hold: matrix, weight, dashes, ends, names of more."""
    base = now[STATES] * STATE_REALS
    if operator == _Q:
        if now[STATES] + 1 >= MOST_DEEP:
            return WRONG
        for i in range(STATE_REALS):
            reals[base + STATE_REALS + i] = reals[base + i]
        now[STATES] += 1
        return 0
    if operator == _BACK:
        if now[STATES] == 0:
            return WRONG
        now[STATES] -= 1
        return 0
    if operator == _CM:
        if reals[base + HAS_MATRIX] != 0.0:
            return WRONG
        for i in range(6):
            reals[base + MATRIX + i] = reals[STACK + i]
        reals[base + HAS_MATRIX] = 1.0
        return 6
    if operator == _W:
        reals[base + WEIGHT] = reals[STACK]
        return 1
    if operator == _D:
        if now[DASHING] != 2:
            return WRONG
        now[DASHING] = 0
        return WRONG if now[TAKEN] == 1 and reals[STACK] != 0.0 else 1
    if operator == _CAP:
        reals[base + CAPS] = reals[STACK]
        return 1
    if operator == _GS:
        name = now[NAME_AT]
        if now[NAME_END] - name > 2 and text[name] == 71 and text[name + 1] == 84:
            found = now[FOUND]
            events[WIDE * found] = STATED
            events[WIDE * found + 1] = now[GLYPHS]
            events[WIDE * found + 2] = name
            events[WIDE * found + 3] = now[NAME_END]
            now[FOUND] = found + 1
        return 0
    return NOT_MINE


def take_path(operator: int, now: Wholes, reals: Reals, ops: Octets, path_places: Reals) -> int:
    """Boxes and outlines, point by point, clips, and paths given up."""
    if operator == _RE:
        if now[POINTS] != 0 or now[OPS] != 0:
            return WRONG
        now[BOX_KIND] = STROKED_BOX
        for i in range(4):
            reals[BOX + i] = reals[STACK + i]
        now[POINTS] = 4
        return 4
    if operator in (_M, _L, _C, _H):
        takes = 1
        code = 0
        if operator == _L:
            code = 1
        elif operator == _C:
            code = 2
            takes = 3
        elif operator == _H:
            code = 3
            takes = 0
        if now[POINTS] != 0 or (now[OPS] == 0 and operator != _M):
            return WRONG
        ops[now[OPS_DONE] + now[OPS]] = code
        now[OPS] += 1
        for i in range(takes):
            at = now[PLACES_DONE] + now[PLACES]
            path_places[at] = reals[STACK + 2 * i]
            path_places[now[ROOM] + at] = reals[STACK + 2 * i + 1]
            now[PLACES] += 1
        return 2 * takes
    if operator == _CLIP:
        return 0
    if operator == _N:
        now[POINTS] = 0
        now[OPS] = 0
        now[PLACES] = 0
        return 0
    return NOT_MINE


def take_paint(
    operator: int, now: Wholes, reals: Reals, ops: Octets, path_places: Reals, events: Wholes, figures: Reals
) -> int:
    """What was drawn is filled, stroked, or both: a box, a line of two points, or an outline."""
    if operator not in (_FILL, _STROKE, _BOTH):
        return NOT_MINE
    base = now[STATES] * STATE_REALS
    found = now[FOUND]
    to = DEEP * found
    for i in range(PAINT):
        figures[to + 4 + i] = reals[base + STROKED + i] if operator != _FILL else reals[base + i]
    figures[to + 4 + PAINT] = reals[base + WEIGHT]
    if now[POINTS] == 4 and operator != _BOTH:
        events[WIDE * found] = FILLED if operator == _FILL else now[BOX_KIND]
        for i in range(4):
            figures[to + i] = reals[BOX + i]
    elif (
        operator == _STROKE
        and now[OPS] == 2
        and ops[now[OPS_DONE] + 1] == 1
        and reals[base + DASHED] == 0.0
        and reals[base + CAPS] == 0.0
    ):
        events[WIDE * found] = STROKED_LINE
        for i in range(2):
            figures[to + 2 * i] = path_places[now[PLACES_DONE] + i]
            figures[to + 2 * i + 1] = path_places[now[ROOM] + now[PLACES_DONE] + i]
    elif now[POINTS] == 0 and now[OPS] > 0:
        events[WIDE * found] = DRAWN
        events[WIDE * found + 2] = now[OPS]
        events[WIDE * found + 3] = now[PLACES]
        for i in range(PAINT):
            figures[to + i] = reals[base + i] if operator != _STROKE else 0.0
            figures[to + PAINT + i] = reals[base + STROKED + i] if operator != _FILL else 0.0
        figures[to + 12] = 0.0 if operator == _FILL else reals[base + WEIGHT]
        figures[to + 13] = 1.0 if operator == _FILL else 2.0 if operator == _STROKE else 3.0
        for i in range(8):
            figures[to + 14 + i] = reals[base + CAPS + i]
        now[OPS_DONE] += now[OPS]
        now[PLACES_DONE] += now[PLACES]
    else:
        return WRONG
    events[WIDE * found + 1] = now[GLYPHS]
    now[POINTS] = 0
    now[OPS] = 0
    now[PLACES] = 0
    now[FOUND] = found + 1
    return 0


def take_object(operator: int, now: Wholes, reals: Reals, events: Wholes, figures: Reals) -> int:
    """Pictures and groups, laid where the matrix says."""
    if operator != _DO:
        return NOT_MINE
    base = now[STATES] * STATE_REALS
    found = now[FOUND]
    events[WIDE * found] = LAID
    events[WIDE * found + 1] = now[GLYPHS]
    events[WIDE * found + 2] = now[NAME_AT]
    events[WIDE * found + 3] = now[NAME_END]
    for i in range(6):
        figures[DEEP * found + i] = reals[base + MATRIX + i]
    if reals[base + HAS_MATRIX] == 0.0:  # it is laid as it is
        figures[DEEP * found] = 1.0
        figures[DEEP * found + 3] = 1.0
    now[FOUND] = found + 1
    return 0
