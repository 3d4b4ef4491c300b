"""Runs of glyphs as the operators that show them: codes, with the kerning that brings each to its own place.

Kerning is in thousandths of the em, to two decimals; rounded is its sum over a run, so that errors never add up.
Where the font's Unicode map does not tell what glyphs stand for, they are shown as a span with its actual text.
"""

from collections.abc import Hashable, Sequence
from functools import cached_property
from typing import Any

import numpy as np
import numpy.typing as npt

from half_fold.core.compiled.compiling import Octets, Reals, Shorts, Wholes, known
from half_fold.core.drawing.marks import Glyphs
from half_fold.core.drawing.said import NOTHING, figures_of
from half_fold.core.press.pdf.fonts import UNSAID, FontTables, FontUse

MOST_OCTETS = 24  # of a glyph with the kerning before it
MOST_AROUND = 80  # of what stands round a run, or round a span

_UPRIGHT = np.frombuffer(b"1 0 0 1 ", np.uint8)
_MATRIX = np.frombuffer(b"Tm ", np.uint8)
_SPAN = np.frombuffer(b"/Span <</ActualText <", np.uint8)
_BEGIN = np.frombuffer(b">>> BDC ", np.uint8)
_SHOWN = np.frombuffer(b"] TJ ", np.uint8)
_END = np.frombuffer(b"EMC ", np.uint8)
_NEWLINE, _RETURN, _SPACE, _LEFT, _RIGHT, _MINUS, _POINT, _ZERO = 10, 13, 32, 40, 41, 45, 46, 48
_OPEN, _BACKSLASH, _LETTER_R = 91, 92, 114


def _put(words: Octets, out: Octets, at: int) -> int:
    for letter in range(len(words)):
        out[at + letter] = words[letter]
    return at + len(words)


def _put_octet(octet: int, out: Octets, at: int) -> int:
    """Write an octet of a string; those that mean something in one behind a backslash."""
    if octet in (_LEFT, _RIGHT, _BACKSLASH, _RETURN):
        out[at] = _BACKSLASH
        at += 1
        if octet == _RETURN:
            octet = _LETTER_R
    out[at] = octet
    return at + 1


def _nearest(value: float) -> int:
    whole = int(value + 0.5)
    return whole - 1 if whole > value + 0.5 else whole


def _put_number(count: int, unit: int, out: Octets, at: int) -> int:
    """Write ``count`` parts, of which ``unit`` are one, in the fewest octets; gives where what follows begins."""
    if count < 0:
        out[at] = _MINUS
        at += 1
        count = -count
    power = unit
    while power * 10 <= count:
        power *= 10
    while power >= unit:
        out[at] = _ZERO + count // power % 10
        at += 1
        power //= 10
    part = count % unit
    if part > 0:
        out[at] = _POINT
        at += 1
    while part > 0:
        unit //= 10
        out[at] = _ZERO + part // unit
        at += 1
        part %= unit
    return at


def _needs(
    places: npt.NDArray[np.int64],
    ends: npt.NDArray[np.int64],
    runs: int,
    looks: npt.NDArray[np.int64],
    look_at: npt.NDArray[np.int64],
    **_: object,
) -> dict[str, int]:
    """How long the arrays have to be that runs are shown of and into; what is written follows from the glyphs."""
    glyphs = int(ends[runs - 1]) if 0 < runs <= len(ends) else 0
    most = int(places[:glyphs].max(initial=0)) + 1
    kinds = int(looks[:runs].max(initial=-1)) + 1
    return {
        **dict.fromkeys(("gids", "places", "xs", "said"), glyphs),
        **dict.fromkeys(("ends", "seen", "baselines", "looks"), runs),
        "scales": kinds,
        "look_at": kinds + 1,
        "chosen": int(look_at[: kinds + 1].max(initial=0)),
        **dict.fromkeys(("advances", "figures"), most),
        "out": MOST_OCTETS * glyphs,
    }


@known(_needs)
def _show(
    gids: Shorts,
    places: Wholes,
    xs: Reals,
    said: Wholes,
    ends: Wholes,
    runs: int,
    seen: Octets,
    baselines: Reals,
    looks: Wholes,
    scales: Reals,
    look_at: Wholes,
    chosen: Octets,
    left: float,
    foot: float,
    is_upright: int,
    advances: Reals,
    figures: Wholes,
    actual_at: Wholes,
    actual: Octets,
    out: Octets,
) -> int:
    """Write what shows the runs that are seen, those upright with their places; gives how much was written.

    Of each look the octets that choose it stand in ``chosen`` from its place in ``look_at`` up to the next one's.
    """
    at = 0
    end = 0
    now = -1
    for run in range(runs):
        glyph, end = end, ends[run]
        if seen[run] == 0:
            continue
        if looks[run] != now:
            now = looks[run]
            for octet in range(look_at[now], look_at[now + 1]):
                out[at] = chosen[octet]
                at += 1
        scale = scales[now]
        if is_upright == 1:
            at = _put(_UPRIGHT, out, at)
            at = _put_number(_nearest((xs[glyph] - left) * 10000), 10000, out, at)
            out[at] = _SPACE
            at = _put_number(_nearest((foot - baselines[run]) * 10000), 10000, out, at + 1)
            out[at] = _SPACE
            at = _put(_MATRIX, out, at + 1)
        off = 0.0
        told = 0
        begin = glyph
        is_open = False
        while glyph < end:
            stop = glyph + 1
            while stop < end and said[stop] == NOTHING:
                stop += 1
            is_spoken = stop > glyph + 1 or figures[places[glyph]] != said[glyph]
            if is_spoken:
                if is_open:
                    at = _put(_SHOWN, out, at)
                    is_open = False
                at = _put(_SPAN, out, at)
                for octet in range(actual_at[2 * said[glyph]], actual_at[2 * said[glyph] + 1]):
                    out[at] = actual[octet]
                    at += 1
                at = _put(_BEGIN, out, at)
            while glyph < stop:
                kern = 0
                if glyph > begin:
                    off += advances[places[glyph - 1]] - (xs[glyph] - xs[glyph - 1]) * scale
                    rounded = _nearest(off * 100.0)
                    kern = rounded - told
                    told = rounded
                begins = not is_open or kern != 0
                if not begins:
                    at -= 1  # go on with the codes before
                if not is_open:
                    out[at] = _OPEN
                    at += 1
                    is_open = True
                if kern != 0:
                    at = _put_number(kern, 100, out, at)
                if begins:
                    out[at] = _LEFT
                    at += 1
                at = _put_octet(gids[glyph] >> 8, out, at)
                at = _put_octet(gids[glyph] & 255, out, at)
                out[at] = _RIGHT
                at += 1
                glyph += 1
            if is_spoken:
                at = _put(_SHOWN, out, at)
                at = _put(_END, out, at)
                is_open = False
        if is_open:
            at = _put(_SHOWN, out, at)
        out[at - 1] = _NEWLINE
    return at


def look_of(mark: Glyphs) -> Hashable:
    """What glyphs have in common that are shown without choosing anew; colours are told apart by what they are."""
    return mark.face, mark.size, id(mark.colour)


class ShownRuns:
    """Marks with their glyphs in a row; ``lows`` and ``highs`` are the outermost pens of each.

    ``looks`` numbers the look of each mark: the first that has it is among ``first_of``.
    """

    def __init__(self, marks: list[Glyphs]) -> None:
        self._marks = marks
        first_of: dict[Hashable, Glyphs] = {}
        looks = [look_of(mark) for mark in marks]
        for look, mark in zip(looks, marks, strict=True):
            first_of.setdefault(look, mark)
        numbers = {look: number for number, look in enumerate(first_of)}
        self.looks = np.array([numbers[look] for look in looks], np.int64)
        self.first_of = list(first_of.values())
        self.sizes = np.array([mark.size for mark in self.first_of])
        self.counts = np.array([len(mark.gids) for mark in marks])
        self._ends = self.counts.cumsum()
        begins = self._ends - self.counts
        self.gids = np.concatenate([mark.gids for mark in marks])
        self.xs = np.concatenate([mark.xs for mark in marks])
        self.baselines = np.array([mark.baseline for mark in marks], np.float64)
        self.lows: npt.NDArray[np.float64] = np.minimum.reduceat(self.xs, begins)
        self.highs: npt.NDArray[np.float64] = np.maximum.reduceat(self.xs, begins)

    @cached_property
    def said(self) -> npt.NDArray[np.int64]:
        """The figure of what each glyph stands for."""
        return np.concatenate([figures_of(mark.texts) for mark in self._marks])

    def shown(
        self,
        tables: FontTables,
        fonts: Sequence[FontUse],
        chosen: Sequence[bytes],
        seen: npt.NDArray[Any],
        left: float,
        foot: float,
        is_upright: bool = True,
    ) -> bytes:
        """What shows the runs that are ``seen`` on a sheet whose left foot is at (``left``, ``foot``), in points.

        By look: ``fonts`` are their fonts, of those in ``tables``, and ``chosen`` the operators that choose each.
        """
        said, firsts = self.said, np.array([font.first for font in fonts], np.int64)
        places = firsts[self.looks].repeat(self.counts) + self.gids
        known_as = tables.figures[places]
        if (known_as == UNSAID).any():
            for look, mark in zip(self.looks.tolist(), self._marks, strict=True):
                fonts[look].meet(mark)
            known_as = tables.figures[places]
        spoken = (known_as != said) | (said == NOTHING)
        spans, actual = int(spoken.sum()), tables.actual
        if spans:
            before = np.maximum(spoken.nonzero()[0] - 1, 0)
            actual.have(said[spoken])
            actual.have(said[before])
        around = (MOST_AROUND + actual.longest) * (spans + len(self._marks)) + max(map(len, chosen)) * len(self._marks)
        out = np.empty(MOST_OCTETS * len(said) + around, np.uint8)
        written = _show(
            self.gids,
            places,
            self.xs,
            said,
            self._ends,
            len(self._marks),
            seen.astype(np.uint8),
            self.baselines,
            self.looks,
            1000 / self.sizes,
            np.cumsum([0, *map(len, chosen)]),
            np.frombuffer(bytearray().join(chosen), np.uint8),
            left,
            foot,
            int(is_upright),
            tables.advances,
            tables.figures,
            actual.places,
            actual.octets,
            out,
        )
        return out[:written].tobytes()
