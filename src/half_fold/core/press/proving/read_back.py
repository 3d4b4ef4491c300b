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
from half_fold.core.press.proving.operators import (
    DASHED,
    DASHES,
    DASHING,
    DEEP,
    DRAWN,
    FILLED,
    FONT,
    FONT_DRAWN,
    FONT_NOW,
    FONTS,
    FOUND,
    GLYPHS,
    HEX_AT,
    HEX_END,
    IN_ARRAY,
    IN_TEXT,
    INK,
    LAID,
    MOST_DASHES,
    NAME,
    NAME_AT,
    NAME_END,
    NOT_MINE,
    OPERANDS,
    PAINT,
    PEN,
    REALS,
    ROOM,
    SIZE,
    SPAN,
    SPAN_AT,
    STACK,
    STATE_REALS,
    STATED,
    STATES,
    STROKED_BOX,
    TAKEN,
    WHOLES,
    WIDE,
    begin_glyphs,
    take_colour,
    take_object,
    take_paint,
    take_path,
    take_state,
    take_string,
    take_text,
)

Floats = npt.NDArray[np.float64]


def _needs(end: int, firsts: npt.NDArray[np.int64], now: npt.NDArray[np.int64], **_: object) -> dict[str, int]:
    """How long the arrays have to be that content is read of and into: no glyph or event takes less than two octets."""
    room, fonts = end // 2 + 1, int(now[FONTS])
    return {
        "text": end,
        "names": fonts,
        "firsts": fonts + 1,
        "widths": int(firsts[fonts]) if fonts < len(firsts) else 0,
        "now": WHOLES,
        "reals": REALS,
        "ops": room,
        "gids": room,
        "path_places": 2 * room,
        "places": 2 * room,
        "events": WIDE * room,
        "figures": DEEP * room,
    }


def _number(text: Octets, at: int, end: int, reals: Reals, place: int) -> int:
    """Read a number into ``reals``; gives where it ends."""
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
    reals[place] = sign * value / unit
    return at


def _ends_word(octet: int) -> int:
    """Whether an octet ends a word: white space, or what begins something else."""
    return 1 if octet <= 32 or octet in (40, 41, 47, 60, 62, 91, 93) else 0


@known(_needs)
def _read(
    text: Octets,
    end: int,
    names: Wholes,
    firsts: Wholes,
    widths: Reals,
    now: Wholes,
    reals: Reals,
    ops: Octets,
    path_places: Reals,
    gids: Shorts,
    places: Reals,
    events: Wholes,
    figures: Reals,
) -> int:
    """Walk over content; gives how many events there are, or, where it cannot be read, less than 0: -1 less the octet.

    A font's widths stand from its place in ``firsts`` up to the next one's. ``now`` begins with how many fonts there
    are, and ends with how many glyphs; ys stand behind the xs, by the room that there is for them.
    """
    now[ROOM] = end // 2 + 1
    now[FONT_NOW] = -1
    now[FONT_DRAWN] = -1
    now[SPAN_AT] = -1
    at = 0
    while at < end:
        octet = text[at]
        if octet <= 32:
            at += 1
        elif octet == 40:
            at = take_string(text, at, end, firsts, widths, now, reals, gids, places)
            if at < 0:
                return at
        elif 48 <= octet <= 57 or octet in (43, 45, 46):
            begin = at
            taken = now[TAKEN]
            if taken >= OPERANDS:
                return -1 - at
            at = _number(text, at, end, reals, STACK + taken)
            if at == begin or (at < end and _ends_word(text[at]) == 0):
                return -1 - at
            if now[IN_ARRAY] == 1:
                reals[PEN] -= reals[STACK + taken] * reals[SIZE] / 1000.0
            elif now[DASHING] == 1:
                base = now[STATES] * STATE_REALS
                count = int(reals[base + DASHED])
                if count >= MOST_DASHES:
                    return -1 - at
                reals[base + DASHES + count] = reals[STACK + taken]
                reals[base + DASHED] = count + 1.0
            else:
                now[TAKEN] = taken + 1
        elif octet == 91 and now[IN_TEXT] == 0:
            if now[DASHING] == 1 or now[TAKEN] != 0:
                return -1 - at
            now[DASHING] = 1
            reals[now[STATES] * STATE_REALS + DASHED] = 0.0
            at += 1
        elif octet == 93 and now[DASHING] == 1:
            now[DASHING] = 2
            at += 1
        elif octet == 91:
            if begin_glyphs(now, reals, events, figures) < 0:
                return -1 - at
            at += 1
        elif octet == 93:
            if now[IN_ARRAY] == 0:
                return -1 - at
            now[IN_ARRAY] = 0
            at += 1
        elif octet == 47:
            at += 1
            now[NAME_AT] = at
            name = START
            while at < end and _ends_word(text[at]) == 0:
                name = ((name ^ text[at]) * FACTOR) & BITS
                at += 1
            now[NAME] = name
            now[NAME_END] = at
        elif octet in (60, 62):
            if at + 1 < end and text[at + 1] == octet:
                at += 2
            elif octet == 60:
                at += 1
                now[HEX_AT] = at
                while at < end and text[at] != 62:
                    at += 1
                now[HEX_END] = at
                at += 1
            else:
                return -1 - at
        else:
            begin = at
            operator = 0
            while at < end and _ends_word(text[at]) == 0 and at < begin + 4:
                operator = operator * 256 + text[at]
                at += 1
            if now[IN_ARRAY] == 1 or now[DASHING] == 1 or (at < end and _ends_word(text[at]) == 0):
                return -1 - begin
            asks = take_text(operator, names, now, reals, events, figures)
            if asks == NOT_MINE:
                asks = take_colour(operator, now, reals)
            if asks == NOT_MINE:
                asks = take_path(operator, now, reals, ops, path_places)
            if asks == NOT_MINE:
                asks = take_paint(operator, now, reals, ops, path_places, events, figures)
            if asks == NOT_MINE:
                asks = take_state(operator, text, now, reals, events)
            if asks == NOT_MINE:
                asks = take_object(operator, now, reals, events, figures)
            if asks < 0 or now[TAKEN] != asks:
                return -1 - begin
            now[TAKEN] = 0
    unended = now[STATES] + now[IN_TEXT] + now[IN_ARRAY] + now[DASHING] + now[TAKEN]
    if unended != 0 or now[SPAN_AT] >= 0:
        return -1 - end
    return int(now[FOUND])


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
        self._places = np.empty(0)
        self._events, self._figures = np.empty(0, np.int64), np.empty(0)
        self._now, self._reals = np.zeros(WHOLES, np.int64), np.zeros(REALS)
        self._ops, self._path_places = np.empty(0, np.uint8), np.empty(0)
        self._room = 0

    def read(self, content: bytes, fonts: ReadFonts) -> ReadPage:
        """The page of that content; raises Unreadable."""
        self._room = room = len(content) // 2 + 1
        self._gids, self._places = grown(self._gids, room), grown(self._places, 2 * room)
        self._events, self._figures = grown(self._events, WIDE * room), grown(self._figures, DEEP * room)
        self._ops, self._path_places = grown(self._ops, room), grown(self._path_places, 2 * room)
        self._reals[:STATE_REALS] = [0, 0, 0, 1, 0, 0, 0, 0, 0, 1, 0, 0, 1, *[0] * 15]
        self._now[:] = 0
        self._now[FONTS] = len(fonts.names)
        told = np.frombuffer(bytearray(content), np.uint8), len(content), fonts.names, fonts.firsts, fonts.widths
        rooms = self._ops, self._path_places, self._gids, self._places, self._events, self._figures
        found = _read(*told, self._now, self._reals, *rooms)
        if found < 0:
            raise Unreadable(f"its content cannot be read at octet {-1 - found}")
        return self._page(content, found, int(self._now[GLYPHS]), fonts)

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
        return ReadPage(_text(gids, stretches, spans, fonts), gids, self._both(self._places)[:, :glyphs], inks, drawn)

    def _both(self, places: Floats) -> Floats:
        """The xs, and the ys behind them."""
        return places[: 2 * self._room].reshape(2, self._room)

    def _drawn(self, events: Sequence[tuple[list[int], list[float]]], content: bytes) -> list[Drawn]:
        """All but glyphs, in order."""
        out: list[Drawn] = []
        ops = places = 0
        for event, figures in events:
            if event[0] == DRAWN:
                path = self._ops[ops : ops + event[2]], self._both(self._path_places)[:, places : places + event[3]]
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
