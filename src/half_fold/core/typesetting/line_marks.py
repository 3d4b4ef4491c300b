"""A set line as glyph runs: where each glyph stands, and what it says."""

from dataclasses import replace

import numpy as np

from half_fold.core.drawing.marks import Colour, Glyphs
from half_fold.core.typesetting.composer import TAB_GAP_EMS, Lines
from half_fold.core.typesetting.tokens import AT_HYPHEN, HYPHEN, Piece, Word, split_word, with_hyphen

SOFT_HYPHEN = "\u00ad"


def words_on(lines: Lines, line: int) -> list[tuple[int, Word, bool]]:
    """(token, what of it stands on the line, whether it ends in a hyphen of ours)."""
    start, end = lines.bounds[line], lines.bounds[line + 1]
    strip, table = lines.strip, lines.table
    if start == end:
        return []
    first = int(strip.token[start]) - lines.first_token
    last = int(strip.token[end]) - lines.first_token
    part = int(strip.part[start])
    start_at = -1
    if part >= 0:
        start_at = table.breaks_of(lines.tokens[first])[part][3]
        if start_at < 0:
            first += 1
    _, _, kind, end_at = table.breaks_of(lines.tokens[last])[int(strip.part[end])]
    out = []
    for index in range(first, last + 1):
        token = lines.tokens[index]
        word = table.word(token)
        is_cut = index == last and end_at >= 0
        if is_cut:
            word = split_word(word, end_at)[0]
        if index == first and start_at >= 0:
            word = split_word(word, start_at)[1]
        hyphenated = is_cut and kind == AT_HYPHEN
        out.append((token, with_hyphen(word) if hyphenated else word, hyphenated))
    return out


def spacing(lines: Lines, line: int) -> tuple[float, float]:
    """(factor of the word spaces, distance of the line's start from the left edge in ems)."""
    start, end = lines.bounds[line], lines.bounds[line + 1]
    strip, style = lines.strip, lines.style
    measure = lines.measures[min(line, len(lines.measures) - 1)] / style.size
    width, spaces = strip.width(start, end), strip.spaces(start, end)
    is_last = line == lines.count - 1
    factor = 1.0
    if style.align == "justified" and spaces > 0 and (not is_last or width > measure):
        factor = 1 + (measure - width) / spaces
    lead = float(strip.ends[start] - strip.starts[start]) if line == 0 else 0.0
    if style.align == "right":
        lead += measure - width
    elif style.align == "centre":
        lead += (measure - width) / 2
    return factor, lead


def is_overfull(lines: Lines, line: int) -> bool:
    """Whether a line is wider than its measure even at full shrink: one word too long for it."""
    start, end = lines.bounds[line], lines.bounds[line + 1]
    measure = lines.measures[min(line, len(lines.measures) - 1)] / lines.style.size
    return lines.strip.width(start, end) - lines.style.manner.shrink * lines.strip.spaces(start, end) > measure + 0.01


class _Runs:
    """Gathers glyphs in reading order, a new run wherever the face changes."""

    def __init__(self) -> None:
        self.runs: list[tuple[str, list[int], list[float], list[str]]] = []

    def add(self, face: str, gids: list[int], xs: list[float], texts: list[str]) -> None:
        if not self.runs or self.runs[-1][0] != face:
            self.runs.append((face, [], [], []))
        _, held_gids, held_xs, held_texts = self.runs[-1]
        held_gids.extend(gids)
        held_xs.extend(xs)
        held_texts.extend(texts)


def line_marks(lines: Lines, line: int, left: float, baseline: float, colour: Colour, block: str) -> list[Glyphs]:
    """The glyph runs of one line whose measure begins at ``left`` (points)."""
    if lines.hang:
        return _with_tabs(lines, line, left, baseline, colour, block)
    words = words_on(lines, line)
    if not words:
        return []
    table, size = lines.table, lines.style.size
    factor, x = spacing(lines, line)
    runs = _Runs()
    for index, (token, word, hyphenated) in enumerate(words):
        if index:
            space = table.shape(Piece(" ", *word[0][1:]))
            runs.add(table.face_of(word[0]).key, space.gids.tolist(), [x], [" "])
            x += table.space(token) * factor
        x = _add_word(runs, lines, word, x, hyphenated)
    return [
        Glyphs(face, size, np.array(gids, np.uint16), left + size * np.array(xs), baseline, colour, tuple(texts), block)
        for face, gids, xs, texts in runs.runs
    ]


def _with_tabs(lines: Lines, line: int, left: float, baseline: float, colour: Colour, block: str) -> list[Glyphs]:
    """A line that hangs at its tab stop, with its label before the first and its tail after the last."""
    body = replace(lines, hang=0.0, label=None, tail=None)
    out = []
    if lines.label is not None and line == 0:
        out += line_marks(lines.label, 0, left, baseline, colour, block)
    out += line_marks(body, line, left + lines.hang, baseline, colour, block)
    if lines.tail is not None and line == lines.count - 1:
        gap = TAB_GAP_EMS * lines.style.size
        out += line_marks(lines.tail, 0, left + lines.hang + lines.measures[-1] + gap, baseline, colour, block)
    return out


def _add_word(runs: _Runs, lines: Lines, word: Word, x: float, hyphenated: bool) -> float:
    for piece in word:
        shaped = lines.table.shape(piece)
        pens = x + np.concatenate([[0.0], np.cumsum(shaped.advances)[:-1]]) + shaped.offsets
        texts = list(shaped.texts)
        if hyphenated and piece is word[-1] and texts and texts[-1] == HYPHEN:
            texts[-1] = SOFT_HYPHEN
        runs.add(lines.table.face_of(piece).key, shaped.gids.tolist(), pens.tolist(), texts)
        x += shaped.width
    return x
