"""Runs of glyphs as the operands that show them: their codes, and the kerning that brings each to its own place.

Kerning is in thousandths of the em, to two decimals; rounded is its sum over a run, so that errors never add up.
"""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from half_fold.core.drawing.said import NOTHING, figures_of
from half_fold.core.drawing.marks import Glyphs
from half_fold.core.press.fonts import FontUse
from half_fold.core.typesetting.compiling import Octets, Reals, Shorts, Wholes, known

MOST_OCTETS = 24  # of a glyph with the kerning before it, or of what opens and closes a stretch
_LESS, _GREATER, _OPEN, _CLOSE, _MINUS, _POINT, _ZERO, _TEN = 60, 62, 91, 93, 45, 46, 48, 55


@known
def _show(
    gids: Shorts,
    xs: Reals,
    advances: Reals,
    scale: float,
    starts: Wholes,
    ends: Wholes,
    opens: Wholes,
    stretches: int,
    out: Octets,
    out_ends: Wholes,
) -> int:
    """Write ``[<codes>kern<codes>]`` for stretches of glyphs, of which some open a run; gives how much was written."""
    at = 0
    off = 0.0
    told = 0
    for stretch in range(stretches):
        first, last = starts[stretch], ends[stretch]
        out[at] = _OPEN
        at += 1
        is_in = False
        for glyph in range(first, last):
            gid = gids[glyph]
            kern = 0
            if glyph == first and opens[stretch] == 1:
                off = 0.0
                told = 0
            else:
                before = gids[glyph - 1]
                off += advances[before] - (xs[glyph] - xs[glyph - 1]) * scale
                hundredths = off * 100.0 + 0.5
                rounded = int(hundredths)
                if rounded > hundredths:
                    rounded -= 1
                kern = rounded - told
                told = rounded
            if kern != 0:
                if is_in:
                    out[at] = _GREATER
                    at += 1
                    is_in = False
                if kern < 0:
                    out[at] = _MINUS
                    at += 1
                    kern = -kern
                whole = kern // 100
                power = 1
                while power * 10 <= whole:
                    power *= 10
                while power > 0:
                    out[at] = _ZERO + whole // power % 10
                    at += 1
                    power //= 10
                part = kern % 100
                if part > 0:
                    out[at] = _POINT
                    out[at + 1] = _ZERO + part // 10
                    at += 2
                    if part % 10 > 0:
                        out[at] = _ZERO + part % 10
                        at += 1
            if not is_in:
                out[at] = _LESS
                at += 1
                is_in = True
            for shift in range(4):
                digit = (gid >> (12 - 4 * shift)) & 15
                out[at + shift] = digit + (_ZERO if digit < 10 else _TEN)
            at += 4
        if is_in:
            out[at] = _GREATER
            at += 1
        out[at] = _CLOSE
        at += 1
        out_ends[stretch] = at
    return at


class Run(NamedTuple):
    """What shows one mark: operands of TJ, each with None or the text that its glyphs stand for."""

    mark: Glyphs
    shown: list[tuple[str, str | None]]


class Runs:
    """Marks of one face and size, ready to be shown; ``lows`` and ``highs`` are the outermost pens of each."""

    def __init__(self, marks: list[Glyphs], font: FontUse) -> None:
        self.marks, self._font = marks, font
        ends = np.cumsum([len(mark.gids) for mark in marks])
        self._bounds = [0, *ends.tolist()]
        self._gids = np.concatenate([mark.gids for mark in marks])
        self._xs = np.concatenate([mark.xs for mark in marks])
        begins = np.array(self._bounds[:-1])
        self.lows: list[float] = np.minimum.reduceat(self._xs, begins).tolist()
        self.highs: list[float] = np.maximum.reduceat(self._xs, begins).tolist()

    def shown(self, wanted: list[int]) -> list[Run]:
        """What shows those of the marks."""
        said = np.concatenate([figures_of(mark.texts) for mark in self.marks])
        odd = (self._font.figures[self._gids] != said) | (said == NOTHING)
        is_odd: list[bool] = np.logical_or.reduceat(odd, self._bounds[:-1]).tolist()
        starts: list[int] = []
        ends: list[int] = []
        opens: list[int] = []
        texts: list[list[str | None]] = []
        for index in wanted:
            begin, end = self._bounds[index], self._bounds[index + 1]
            parts: list[tuple[str | None, range]] = [(None, range(end - begin))]
            if is_odd[index]:
                places = odd[begin:end].nonzero()[0].tolist()
                parts = spoken(self.marks[index], places, self._font)
            starts += [begin + part.start for _, part in parts]
            ends += [begin + part.stop for _, part in parts]
            opens += [1] + [0] * (len(parts) - 1)
            texts.append([text for text, _ in parts])
        operands = iter(self._written(starts, ends, opens))
        return [
            Run(self.marks[index], [(next(operands), text) for text in said_by])
            for index, said_by in zip(wanted, texts, strict=True)
        ]

    def _written(self, starts: list[int], ends: list[int], opens: list[int]) -> list[str]:
        count = len(starts)
        glyphs = sum(ends) - sum(starts)
        out, out_ends = np.empty(MOST_OCTETS * (glyphs + count), np.uint8), np.empty(count, np.int64)
        asked = (np.array(each, np.int64) for each in (starts, ends, opens))
        scale = 1000 / self.marks[0].size
        written = _show(self._gids, self._xs, self._font.advances, scale, *asked, count, out, out_ends)
        text = out[:written].tobytes().decode("ascii")
        stops = out_ends.tolist()
        return [text[begin:end] for begin, end in zip([0, *stops], stops, strict=False)]


def spoken(mark: Glyphs, odd: list[int], font: FontUse) -> list[tuple[str | None, range]]:
    """Stretches of a mark's glyphs with None where the font's Unicode map says them right, else the actual text.

    ``odd`` are the glyphs whose text differs from what the map says so far, and those that say nothing themselves.
    """
    gids, texts = mark.gids.tolist(), mark.texts
    count, plain, after = len(gids), 0, 0
    parts: list[tuple[str | None, range]] = []
    for i in odd:
        if i < after:
            continue
        start = i - 1 if not texts[i] and i else i  # what an earlier glyph said stands for this one too
        while start > plain and not texts[start]:
            start -= 1
        end = i + 1
        while end < count and not texts[end]:
            end += 1
        after = end
        if end == start + 1 and font.use(gids[start], texts[start]):
            continue
        for k in range(start, end):
            font.use(gids[k], "")
        if plain < start:
            parts.append((None, range(plain, start)))
        parts.append((texts[start], range(start, end)))
        plain = end
    if plain < count:
        parts.append((None, range(plain, count)))
    return parts
