"""A page's content read as a stranger to its writer reads it: by the operators of ISO 32000, and by nothing of ours.

It knows the operators that press files are made of and refuses any other: what it does not understand it does not
pass over.
"""

from collections.abc import Mapping, Sequence
from itertools import pairwise

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.compiled.compiling import Octets, Reals, Shorts, Wholes, known
from half_fold.core.drawing.said import spelled, written_out
from half_fold.core.measure.columns import grown
from half_fold.core.press.pdf.composed import (
    AREA,
    BITS,
    EDGE,
    FACTOR,
    FORM,
    PATH,
    PICTURE,
    RULE,
    SOFT,
    START,
    STATE,
    Drawn,
    hashed,
)
from half_fold.core.press.pdf.paints import VEIL

Floats = npt.NDArray[np.float64]

# Operators, by their letters.
_Q, _BACK, _CM, _W, _N, _FILL, _STROKE, _CLIP = 113, 81, 25453, 119, 110, 102, 83, 87
_C, _H, _BOTH, _D, _CAP = 99, 104, 66, 100, 74
_RE, _M, _L, _K, _KK, _CS, _SCN, _GS, _DO = 29285, 109, 108, 107, 75, 17235, 5456718, 26483, 17519
_FILL_CS, _FILL_SCN = 25459, 7562094
_BT, _ET, _TF, _TM, _TJ, _BDC, _EMC = 16980, 17748, 21606, 21613, 21578, 4342851, 4541763

# What is found beside glyphs: its kind, the glyph it stands before, and two places in the content.
INK, FONT, SPAN, FILLED, STROKED_BOX, STROKED_LINE, LAID, DRAWN, STATED = range(9)
WIDE, DEEP, MOST_DEEP, OPERANDS, MOST_DASHES = 4, 20, 24, 16, 6
# Fill 0-5, stroke 6-11, weight 12, matrix 13-18, whether there is one 19, round ends 20, dashes 21, how long 22-27.
# A paint is the shares of the process inks, that of what is named, and which that is.
_STATE = 28
_STROKED, _WEIGHT, _MATRIX, _HAS_MATRIX, _CAPS, _DASHED, _DASHES = 6, 12, 13, 19, 20, 21, 22
PAINT = 6


def _number(text: Octets, at: int, end: int, out: Reals, place: int) -> int:
    """Read a number into ``out``; gives where it ends."""
    sign = 1.0
    if text[at] == 45 or text[at] == 43:
        if text[at] == 45:
            sign = -1.0
        at += 1
    value = 0.0
    unit = 1.0
    is_part = 0
    while at < end and (48 <= text[at] <= 57 or (text[at] == 46 and is_part == 0)):
        if text[at] == 46:
            is_part = 1
        else:
            value = value * 10.0 + (text[at] - 48)
            if is_part == 1:
                unit *= 10.0
        at += 1
    out[place] = sign * value / unit
    return at


def _is_between(octet: int) -> int:
    """Whether an octet ends a word: white space, or what begins something else."""
    return 1 if octet <= 32 or octet in (40, 41, 47, 60, 62, 91, 93) else 0


def _needs(end: int, font_firsts: npt.NDArray[np.int64], fonts: int, **_: object) -> dict[str, int]:
    """How long the arrays have to be that content is read of and into: no glyph or event takes less than two octets."""
    room = end // 2 + 1
    return {
        "text": end,
        "font_names": fonts,
        "font_firsts": fonts + 1,
        "widths": int(font_firsts[fonts]) if fonts < len(font_firsts) else 0,
        "state": _STATE * MOST_DEEP,
        "stack": 2 * OPERANDS,
        "path": 4,
        **dict.fromkeys(("gids", "xs", "ys", "ops", "path_xs", "path_ys"), room),
        "events": WIDE * room,
        "figures": DEEP * room,
        "counts": 1,
    }


@known(_needs)
def _read(
    text: Octets,
    end: int,
    font_names: Wholes,
    font_firsts: Wholes,
    fonts: int,
    widths: Reals,
    state: Reals,
    stack: Reals,
    path: Reals,
    ops: Octets,
    path_xs: Reals,
    path_ys: Reals,
    gids: Shorts,
    xs: Reals,
    ys: Reals,
    events: Wholes,
    figures: Reals,
    counts: Wholes,
) -> int:
    """Walk over content; gives how many events there are, or, where it cannot be read, less than 0: -1 less the octet.

    ``counts`` gets the glyphs. A font's widths stand from its place in ``font_firsts`` up to the next one's.
    """
    at = 0
    glyphs = 0
    found = 0
    deep = 0
    operands = 0
    points = 0
    path_kind = FILLED
    ops_done = 0
    ops_now = 0
    places_done = 0
    places_now = 0
    in_dashes = 0
    in_text = 0
    in_array = 0
    has_place = 0
    font = -1
    drawn_font = -1
    size = 0.0
    pen = 0.0
    name = 0
    name_at = 0
    name_end = 0
    hex_at = 0
    hex_end = 0
    span = -1
    span_event = 0
    while at < end:
        octet = text[at]
        if octet <= 32:
            at += 1
        elif octet == 40:
            if in_array == 0 or font < 0:
                return -1 - at
            at += 1
            nested = 0
            half = -1
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
                if gid >= font_firsts[font + 1] - font_firsts[font]:
                    return -1 - at
                gids[glyphs] = gid
                xs[glyphs] = stack[OPERANDS] * pen + stack[OPERANDS + 4]
                ys[glyphs] = stack[OPERANDS + 1] * pen + stack[OPERANDS + 5]
                pen += widths[font_firsts[font] + gid] * size / 1000.0
                glyphs += 1
            if half >= 0:
                return -1 - at
        elif 48 <= octet <= 57 or octet in (43, 45, 46):
            if operands >= OPERANDS:
                return -1 - at
            begin = at
            at = _number(text, at, end, stack, operands)
            if at == begin or (at < end and _is_between(text[at]) == 0):
                return -1 - at
            if in_array == 1:
                pen -= stack[operands] * size / 1000.0
            elif in_dashes == 1:
                count = int(state[deep * _STATE + _DASHED])
                if count >= MOST_DASHES:
                    return -1 - at
                state[deep * _STATE + _DASHES + count] = stack[operands]
                state[deep * _STATE + _DASHED] = count + 1.0
            else:
                operands += 1
        elif octet == 91 and in_text == 0:
            if in_dashes == 1 or operands != 0:
                return -1 - at
            in_dashes = 1
            state[deep * _STATE + _DASHED] = 0.0
            at += 1
        elif octet == 93 and in_dashes == 1:
            in_dashes = 2
            at += 1
        elif octet == 91:
            if in_array == 1 or has_place == 0:
                return -1 - at
            in_array = 1
            at += 1
            same = 1 if glyphs > 0 else 0
            for i in range(PAINT):
                if state[deep * _STATE + i] != stack[OPERANDS + 6 + i]:
                    same = 0
            if same == 0:
                events[WIDE * found] = INK
                events[WIDE * found + 1] = glyphs
                for i in range(PAINT):
                    stack[OPERANDS + 6 + i] = state[deep * _STATE + i]
                    figures[DEEP * found + i] = state[deep * _STATE + i]
                found += 1
            if font != drawn_font:
                events[WIDE * found] = FONT
                events[WIDE * found + 1] = glyphs
                events[WIDE * found + 2] = font
                drawn_font = font
                found += 1
        elif octet == 93:
            if in_array == 0:
                return -1 - at
            in_array = 0
            at += 1
        elif octet == 47:
            at += 1
            name_at = at
            name = START
            while at < end and _is_between(text[at]) == 0:
                name = ((name ^ text[at]) * FACTOR) & BITS
                at += 1
            name_end = at
        elif octet in (60, 62):
            if at + 1 < end and text[at + 1] == octet:
                at += 2
            elif octet == 60:
                at += 1
                hex_at = at
                while at < end and text[at] != 62:
                    at += 1
                hex_end = at
                at += 1
            else:
                return -1 - at
        else:
            begin = at
            operator = 0
            while at < end and _is_between(text[at]) == 0 and at < begin + 4:
                operator = operator * 256 + text[at]
                at += 1
            if in_array == 1 or in_dashes == 1 or (at < end and _is_between(text[at]) == 0):
                return -1 - begin
            base = deep * _STATE
            asks = 0
            if operator == _TM:
                if in_text == 0 or operands != 6:
                    return -1 - begin
                for i in range(6):
                    stack[OPERANDS + i] = stack[i]
                pen = 0.0
                has_place = 1
                asks = 6
            elif operator == _TJ:
                if in_text == 0:
                    return -1 - begin
            elif operator == _TF:
                font = -1
                for i in range(fonts):
                    if font_names[i] == name:
                        font = i
                if font < 0:
                    return -1 - begin
                size = stack[0]
                asks = 1
            elif operator in (_K, _KK):
                first = base if operator == _K else base + _STROKED
                for i in range(4):
                    state[first + i] = stack[i]
                state[first + 4] = 0.0
                state[first + 5] = 0.0
                asks = 4
            elif operator in (_CS, _FILL_CS):
                first = base if operator == _FILL_CS else base + _STROKED
                for i in range(5):
                    state[first + i] = 0.0
                state[first + 5] = float(name)
            elif operator in (_SCN, _FILL_SCN):
                first = base if operator == _FILL_SCN else base + _STROKED
                if operands == 0:
                    state[first + 5] = float(name)
                else:
                    state[first + 4] = stack[0]
                    asks = 1
            elif operator == _BDC:
                if span >= 0:
                    return -1 - begin
                span = glyphs
                span_event = found
                events[WIDE * found] = SPAN
                events[WIDE * found + 1] = glyphs
                events[WIDE * found + 2] = hex_at
                events[WIDE * found + 3] = hex_end
                found += 1
            elif operator == _EMC:
                if span < 0 or span == glyphs:
                    return -1 - begin
                figures[DEEP * span_event] = float(glyphs)
                span = -1
            elif operator == _BT:
                if in_text == 1 or state[base + _HAS_MATRIX] != 0.0:
                    return -1 - begin
                in_text = 1
                has_place = 0
            elif operator == _ET:
                if in_text == 0:
                    return -1 - begin
                in_text = 0
            elif operator == _Q:
                if deep + 1 >= MOST_DEEP:
                    return -1 - begin
                for i in range(_STATE):
                    state[base + _STATE + i] = state[base + i]
                deep += 1
            elif operator == _BACK:
                if deep == 0:
                    return -1 - begin
                deep -= 1
            elif operator == _CM:
                if state[base + _HAS_MATRIX] != 0.0:
                    return -1 - begin
                for i in range(6):
                    state[base + _MATRIX + i] = stack[i]
                state[base + _HAS_MATRIX] = 1.0
                asks = 6
            elif operator == _W:
                state[base + _WEIGHT] = stack[0]
                asks = 1
            elif operator == _RE:
                asks = 4
                if points != 0 or ops_now != 0:
                    return -1 - begin
                path_kind = STROKED_BOX
                for i in range(4):
                    path[i] = stack[i]
                points = 4
            elif operator in (_M, _L, _C, _H):
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
                asks = 2 * takes
                if points != 0 or (ops_now == 0 and operator != _M):
                    return -1 - begin
                ops[ops_done + ops_now] = code
                ops_now += 1
                for i in range(takes):
                    path_xs[places_done + places_now] = stack[2 * i]
                    path_ys[places_done + places_now] = stack[2 * i + 1]
                    places_now += 1
            elif operator == _CLIP:
                asks = 0
            elif operator == _N:
                points = 0
                ops_now = 0
                places_now = 0
            elif operator in (_FILL, _STROKE, _BOTH):
                for i in range(PAINT):
                    figures[DEEP * found + 4 + i] = state[base + _STROKED + i] if operator != _FILL else state[base + i]
                figures[DEEP * found + 4 + PAINT] = state[base + _WEIGHT]
                if points == 4 and operator != _BOTH:
                    events[WIDE * found] = FILLED if operator == _FILL else path_kind
                    for i in range(4):
                        figures[DEEP * found + i] = path[i]
                elif (
                    operator == _STROKE
                    and ops_now == 2
                    and ops[ops_done + 1] == 1
                    and state[base + _DASHED] == 0.0
                    and state[base + _CAPS] == 0.0
                ):
                    events[WIDE * found] = STROKED_LINE
                    for i in range(2):
                        figures[DEEP * found + 2 * i] = path_xs[places_done + i]
                        figures[DEEP * found + 2 * i + 1] = path_ys[places_done + i]
                elif points == 0 and ops_now > 0:
                    events[WIDE * found] = DRAWN
                    events[WIDE * found + 2] = ops_now
                    events[WIDE * found + 3] = places_now
                    for i in range(PAINT):
                        figures[DEEP * found + i] = state[base + i] if operator != _STROKE else 0.0
                        figures[DEEP * found + PAINT + i] = state[base + _STROKED + i] if operator != _FILL else 0.0
                    figures[DEEP * found + 12] = 0.0 if operator == _FILL else state[base + _WEIGHT]
                    figures[DEEP * found + 13] = 1.0 if operator == _FILL else 2.0 if operator == _STROKE else 3.0
                    for i in range(8):
                        figures[DEEP * found + 14 + i] = state[base + _CAPS + i]
                    ops_done += ops_now
                    places_done += places_now
                else:
                    return -1 - begin
                events[WIDE * found + 1] = glyphs
                points = 0
                ops_now = 0
                places_now = 0
                found += 1
            elif operator == _D:
                if in_dashes != 2:
                    return -1 - begin
                in_dashes = 0
                asks = 1
                if operands == 1 and stack[0] != 0.0:
                    return -1 - begin
            elif operator == _CAP:
                state[base + _CAPS] = stack[0]
                asks = 1
            elif operator == _DO:
                events[WIDE * found] = LAID
                events[WIDE * found + 1] = glyphs
                events[WIDE * found + 2] = name_at
                events[WIDE * found + 3] = name_end
                for i in range(6):
                    figures[DEEP * found + i] = state[base + _MATRIX + i]
                if state[base + _HAS_MATRIX] == 0.0:  # it is laid as it is
                    figures[DEEP * found] = 1.0
                    figures[DEEP * found + 3] = 1.0
                found += 1
            elif operator == _GS:
                if name_end - name_at > 2 and text[name_at] == 71 and text[name_at + 1] == 84:
                    events[WIDE * found] = STATED
                    events[WIDE * found + 1] = glyphs
                    events[WIDE * found + 2] = name_at
                    events[WIDE * found + 3] = name_end
                    found += 1
            else:
                return -1 - begin
            if operands != asks:
                return -1 - begin
            operands = 0
    if deep != 0 or in_text == 1 or in_array == 1 or in_dashes != 0 or span >= 0 or operands != 0:
        return -1 - end
    counts[0] = glyphs
    return found


class Unreadable(Exception):
    """What a reader could not make sense of."""


class ReadFont(Struct, frozen=True):
    """A font as the file states it: the width of each glyph in thousandths of the em, and what each stands for."""

    widths: Floats
    texts: Mapping[int, str]


class ReadFonts:
    """The fonts that contents name, laid end to end: their names, their widths, and the texts of their glyphs."""

    def __init__(self, fonts: Mapping[str, ReadFont]) -> None:
        self.names = np.array([hashed(name) for name in fonts], np.int64)
        self.firsts = np.cumsum([0, *(len(font.widths) for font in fonts.values())])
        self.widths = np.concatenate([*(font.widths for font in fonts.values()), np.zeros(1)])
        told = [font.texts.get(gid, "") for font in fonts.values() for gid in range(len(font.widths))]
        self.begins, self.letters = spelled([*told, ""])


class ReadPage(Struct, frozen=True):
    """What a reader finds on a page; ``places`` are x and y of each glyph in points from the left foot of its sheet."""

    text: str
    gids: npt.NDArray[np.uint16]
    places: Floats
    inks: list[tuple[int, list[float]]]
    drawn: list[Drawn]


class ContentReader:
    """Reads contents one after another into the same room; what it gives of a page lasts until the next."""

    def __init__(self) -> None:
        self._gids = np.empty(0, np.uint16)
        self._places = np.empty((2, 0))
        self._events, self._figures = np.empty(0, np.int64), np.empty(0)
        self._state, self._stack, self._path = np.zeros(_STATE * MOST_DEEP), np.zeros(2 * OPERANDS), np.zeros(4)
        self._ops, self._path_places = np.empty(0, np.uint8), np.empty((2, 0))

    def read(self, content: bytes, fonts: ReadFonts) -> ReadPage:
        """The page of that content; raises Unreadable."""
        room = len(content) // 2 + 1
        self._gids, self._places = grown(self._gids, room), grown(self._places, room)
        self._events, self._figures = grown(self._events, WIDE * room), grown(self._figures, DEEP * room)
        self._ops, self._path_places = grown(self._ops, room), grown(self._path_places, room)
        self._state[:_STATE] = [0, 0, 0, 1, 0, 0, 0, 0, 0, 1, 0, 0, 1, *[0] * 15]
        octets, counts = np.frombuffer(bytearray(content), np.uint8), np.zeros(1, np.int64)
        told = fonts.names, fonts.firsts, len(fonts.names), fonts.widths
        paths = self._path, self._ops, *self._path_places
        rooms = self._state, self._stack, *paths, self._gids, *self._places, self._events, self._figures, counts
        found = _read(octets, len(content), *told, *rooms)
        if found < 0:
            raise Unreadable(f"its content cannot be read at octet {-1 - found}")
        return self._page(content, found, int(counts[0]), fonts)

    def _page(self, content: bytes, found: int, glyphs: int, fonts: ReadFonts) -> ReadPage:
        told = self._events[: WIDE * found].reshape(-1, WIDE).tolist()
        events = list(zip(told, self._figures[: DEEP * found].reshape(-1, DEEP).tolist(), strict=True))
        gids = self._gids[:glyphs]
        begins: list[tuple[int, list[float]]] = [(event[1], ink[:PAINT]) for event, ink in events if event[0] == INK]
        inks = [(end - begin, ink) for (begin, ink), (end, _) in pairwise([*begins, (glyphs, [])])]
        drawn = self._drawn(events, content)
        spans = [
            (event[1], int(figures[0]), _actual(content[event[2] : event[3]]))
            for event, figures in events
            if event[0] == SPAN
        ]
        stretches = [(event[1], event[2]) for event, _ in events if event[0] == FONT]
        return ReadPage(_text(gids, stretches, spans, fonts), gids, self._places[:, :glyphs], inks, drawn)

    def _drawn(self, events: Sequence[tuple[list[int], list[float]]], content: bytes) -> list[Drawn]:
        """All but glyphs, in order."""
        out: list[Drawn] = []
        ops = places = 0
        for event, figures in events:
            if event[0] == DRAWN:
                path = self._ops[ops : ops + event[2]], self._path_places[:, places : places + event[3]]
                out.append((PATH, _path(figures, *path)))
                ops, places = ops + event[2], places + event[3]
            elif event[0] not in (INK, FONT, SPAN):
                out.append(_drawn(event, figures, content))
        return out


def _actual(stated: bytes) -> str:
    """The text that a span says it stands for."""
    try:
        return bytes.fromhex(stated.decode()).decode("utf-16")
    except ValueError as error:
        raise Unreadable("a span does not say what it stands for") from error


def _drawn(event: list[int], figures: list[float], content: bytes) -> Drawn:
    name = content[event[2] : event[3]].decode("latin-1") if event[0] in (LAID, STATED) else ""
    if event[0] == LAID:
        kind = FORM if is_form(name) else SOFT if name[:1] == VEIL else PICTURE
        return f"{kind} {name}", figures[:6]
    if event[0] == STATED:
        return f"{STATE} {name}", []
    if event[0] == FILLED:
        return AREA, figures[: 4 + PAINT]
    return EDGE if event[0] == STROKED_BOX else RULE, figures[: 5 + PAINT]


def _path(figures: list[float], ops: npt.NDArray[np.uint8], places: Floats) -> list[float]:
    """As ``composed`` tells of it."""
    dashes = int(figures[15])
    told = [*figures[:15], float(dashes), *figures[16 : 16 + dashes]]
    return [*told, *ops.astype(np.float64).tolist(), *places.T.ravel().tolist()]


def is_form(name: str) -> bool:
    """Whether what is laid is a group, by its name."""
    return name[:1] == "G" and name[1:].isdigit()


def _text(
    gids: npt.NDArray[np.uint16],
    stretches: Sequence[tuple[int, int]],
    spans: Sequence[tuple[int, int, str]],
    fonts: ReadFonts,
) -> str:
    """What the glyphs say: by the maps of their fonts, and where a span says what it stands for, by that.

    ``stretches`` are (first glyph, font), ``spans`` (first glyph, end, what they say).
    """
    said = np.empty(len(gids), np.int64)
    for (first, font), (end, _) in pairwise([*stretches, (len(gids), 0)]):
        said[first:end] = gids[first:end] + fonts.firsts[font]
    if not spans:
        return written_out(said, fonts.begins, fonts.letters)
    silent = len(fonts.begins) - 2
    for index, (first, end, _) in enumerate(spans):
        said[first:end] = silent
        said[first] = silent + 1 + index
    begins, letters = spelled([actual for _, _, actual in spans])
    told = np.append(fonts.begins, begins[1:] + fonts.begins[-1]), np.append(fonts.letters, letters)
    return written_out(said, *told)
