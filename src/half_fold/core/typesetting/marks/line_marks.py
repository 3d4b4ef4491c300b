"""A set line as glyph runs: where each glyph stands, and what it says."""

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import NamedTuple

from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, Origin
from half_fold.core.drawing.said import Said
from half_fold.core.drawing.tone import Tone
from half_fold.core.typesetting.faces.words import AT_HYPHEN, Piece, Word, split_word, with_hyphen
from half_fold.core.typesetting.lines.composer import TAB_GAP_EMS, Lines
from half_fold.core.typesetting.marks.laying import LinePart, Spacing, lay_lines
from half_fold.core.typesetting.marks.word_marks import InkOf, Runs, word_marks


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


def is_overfull(lines: Lines, line: int) -> bool:
    """Whether a line is wider than its measure even at full shrink: one word too long for it."""
    start, end = lines.bounds[line], lines.bounds[line + 1]
    strip, manner = lines.strip, lines.style.manner
    give = manner.shrink * strip.spaces(start, end) + manner.letters * strip.letters(start, end)
    return strip.width(start, end) - give > lines.measure(line) / lines.style.size + 0.01


def line_marks(
    lines: Lines,
    line: int,
    left: float,
    baseline: float,
    colour: Tone,
    origin: Origin,
    ink_of: InkOf | None = None,
    pitch: float = 0.0,
) -> list[Glyphs]:
    """The glyph runs of one line whose place begins at ``left`` (points).

    ``ink_of`` gives the colour of an ink by name; ``pitch`` is the distance of the lines, which a drop cap stands by.
    """
    part = PlacedLine(lines, line, [(left, baseline)])
    return parts_marks([part], colour, origin, ink_of, pitch)[0][0]


class PlacedLine(NamedTuple):
    """The lines of a paragraph from ``start`` on, each in a place at its own (left, baseline), in points."""

    lines: Lines
    start: int
    places: Sequence[tuple[float, float]]


def parts_marks(
    parts: Sequence[PlacedLine], colour: Tone, origin: Origin, ink_of: InkOf | None = None, pitch: float = 0.0
) -> list[list[list[Glyphs]]]:
    """The glyph runs of parts of paragraphs of one style, part by part and line by line."""
    laid = _laid([part for part in parts if _is_laid(part)], colour, origin, ink_of)
    out = []
    for part in parts:
        if _is_laid(part):
            by_line = next(laid)
        elif part.lines.label is not None:
            by_line = [
                _with_tabs(part.lines, part.start + offset, left, baseline, colour, origin, ink_of)
                for offset, (left, baseline) in enumerate(part.places)
            ]
        else:
            by_line = [[] for _ in part.places]
        drop = part.lines.drop
        if drop is not None and part.start == 0 and part.places:
            left, baseline = part.places[0]
            deep = baseline + (drop.lines - 1) * pitch - part.lines.style.shift
            by_line[0] = _drop_marks(part.lines, left, deep, colour, origin, ink_of) + by_line[0]
        out.append(by_line)
    return out


def _is_laid(part: PlacedLine) -> bool:
    """Whether a part has words that no tab parts."""
    return part.lines.label is None and len(part.lines.tokens) > 0 and len(part.places) > 0


def _laid(
    parts: Sequence[PlacedLine], colour: Tone, origin: Origin, ink_of: InkOf | None
) -> Iterator[list[list[Glyphs]]]:
    """The body of lines, those of one strip laid together; those that cannot be laid so, word by word."""
    for _, group in groupby(parts, key=lambda part: id(part.lines.strip)):
        yield from _laid_together(list(group), colour, origin, ink_of)


def _laid_together(
    parts: Sequence[PlacedLine], colour: Tone, origin: Origin, ink_of: InkOf | None
) -> Iterator[list[list[Glyphs]]]:
    asked = []
    for lines, start, places in parts:
        lefts = [left + inner for (left, _), inner in zip(places, lines.lefts_from(start), strict=False)]
        asked.append(LinePart(lines, start, start + len(places), lefts))
    laid = lay_lines(asked)
    style = parts[0].lines.style
    baselines = [baseline - style.shift for part in parts for _, baseline in part.places]
    marks: list[list[Glyphs]] = [[] for _ in baselines]
    for line, (face, scale, rise, ink, light), begin, end in laid.runs:
        drawn = ink_of(ink) if ink and ink_of is not None else colour
        gids, xs, said = laid.gids[begin:end], laid.xs[begin:end], Said(laid.said[begin:end])
        baseline = baselines[line] - rise * style.size
        marks[line].append(Glyphs(face, style.size * scale, gids, xs, baseline, drawn, said, origin, light=light))
    first = 0
    for part in asked:
        by_line = marks[first : first + len(part.lefts)]
        for offset, (of_line, left) in enumerate(zip(by_line, part.lefts, strict=True)):
            if not of_line:
                spaced, line = laid.spacing(first + offset), part.start + offset
                baseline = baselines[first + offset]
                of_line += _by_words(part.lines, line, spaced, left, baseline, colour, origin, ink_of)
        first += len(part.lefts)
        yield by_line


def _by_words(
    lines: Lines,
    line: int,
    spaced: Spacing,
    left: float,
    baseline: float,
    colour: Tone,
    origin: Origin,
    ink_of: InkOf | None,
) -> list[Glyphs]:
    """A line laid word by word: one that reads leftwards, or has words of several looks."""
    words = words_on(lines, line)
    if not words:
        return []
    gaps = [lines.table.space(token) for token, _, _ in words]
    told = [(word, hyphenated) for _, word, hyphenated in words]
    if lines.begins_right:
        left, spaced = _from_the_right(lines, line, left, spaced), spaced._replace(lead=0.0)
    return word_marks(lines.table, told, gaps, spaced, lines.style.size, left, baseline, colour, origin, ink_of)


def _from_the_right(lines: Lines, line: int, left: float, spaced: Spacing) -> float:
    """Where the leftmost letter of a line that reads leftwards stands: the line's lead is counted from the right."""
    start, end = lines.bounds[line], lines.bounds[line + 1]
    strip, style = lines.strip, lines.style
    natural = strip.width(start, end) - float(strip.lead_in[start])
    width = natural + (spaced.factor - 1) * strip.spaces(start, end) + spaced.letters * strip.letters(start, end)
    return left + lines.measure(line) - (spaced.lead + width) * style.size


def _drop_marks(
    lines: Lines, left: float, baseline: float, colour: Tone, origin: Origin, ink_of: InkOf | None
) -> list[Glyphs]:
    drop = lines.drop
    assert drop is not None
    runs = Runs()
    shaped = lines.table.face_of(drop.piece).shape(drop.piece.text)
    runs.add(drop.piece, shaped, 0.0, 0.0, shaped.texts)
    edge = left + lines.left(0) - drop.shift
    edge += lines.measure(0) + drop.gap if lines.begins_right else -drop.takes
    return runs.marks(drop.size, edge, baseline, colour, origin, ink_of)


def _with_tabs(
    lines: Lines, line: int, left: float, baseline: float, colour: Tone, origin: Origin, ink_of: InkOf | None
) -> list[Glyphs]:
    """A line that hangs at its tab stop, with its label before the first and its tail after the last."""
    body = replace(lines, lefts=(0.0,), hang=0.0, label=None, tail=None, drop=None)
    left += lines.left(line)
    gap, measure = TAB_GAP_EMS * lines.style.size, lines.measure(line)
    tail = lines.tail.natural_width + gap if lines.tail is not None else 0.0
    begins = left + (tail if lines.begins_right else lines.hang)
    out = line_marks(body, line, begins, baseline, colour, origin, ink_of)
    if lines.label is not None and line == 0:
        width = lines.label.natural_width
        at = begins + measure + lines.hang - width if lines.begins_right else left
        out = line_marks(_as_wide_as_it_is(lines.label), 0, at, baseline, colour, origin, ink_of) + out
    if lines.tail is not None and line == lines.count - 1:
        at = left if lines.begins_right else begins + measure + gap
        if lines.style.leader:
            if lines.begins_right:
                room = left + tail - gap, begins + measure - _set_width(body, line)
            else:
                room = begins + _set_width(body, line), at
            out += _leader(lines, *room, baseline, colour, origin)
        out += line_marks(_as_wide_as_it_is(lines.tail), 0, at, baseline, colour, origin, ink_of)
    return out


def _as_wide_as_it_is(lines: Lines) -> Lines:
    """Unbroken lines whose measure is their own width, so that either side of it is theirs."""
    return replace(lines, measures=(lines.natural_width,))


def _set_width(lines: Lines, line: int) -> float:
    start, end = lines.bounds[line], lines.bounds[line + 1]
    return lines.strip.width(start, end) * lines.style.size


def _leader(lines: Lines, begins: float, ends: float, baseline: float, colour: Tone, origin: Origin) -> list[Glyphs]:
    """The leader repeated from the right, so that those of neighbouring lines stand under one another."""
    size, baseline = lines.style.size, baseline - lines.style.shift
    shaped = lines.table.shape(Piece(lines.style.leader))
    pitch = max(shaped.width, 0.1) * size + 0.25 * size
    first = begins + 0.4 * size
    count = max(0, int((ends - 0.3 * size - first) / pitch))
    runs = Runs()
    for i in range(count, 0, -1):
        runs.add(Piece(""), shaped, (ends - 0.3 * size - i * pitch) / size, 0.0, [""] * len(shaped.glyphs))
    return runs.marks(size, 0.0, baseline, colour, origin, None)
