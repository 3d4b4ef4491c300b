"""Lines laid together: how each is spaced, and where each of its glyphs stands."""

import threading
from collections.abc import Sequence
from itertools import islice
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from half_fold.core.compiled.compiling import HeldArray, Reals, Shorts, Wholes, hold_array, known
from half_fold.core.drawing.said import SPACE
from half_fold.core.measure.kept import kept
from half_fold.core.typesetting.lines.composer import Lines
from half_fold.core.typesetting.lines.drawn import GOES, MIXED, STAYS, UNDRAWN, WHOLE, GlyphLook, ToDraw
from half_fold.core.typesetting.lines.roles import Style
from half_fold.core.typesetting.lines.strip import ToBreak, ToLay

Ints = npt.NDArray[np.int64]
LEFT_SHARE = {"right": 1.0, "centre": 0.5}
LEAST_ROOM = 4096


class Spacing(NamedTuple):
    """The factor of a line's word spaces, what every letter gets more, and where its first letter stands, in ems."""

    factor: float
    letters: float
    lead: float


class Laid(NamedTuple):
    """Lines as they are laid: their spacings, and their glyphs in points from the left of the page.

    Of ``runs`` each is (line, look, where it begins, where it ends among the glyphs); a line that has none is not laid.
    """

    spacings: npt.NDArray[np.float64]
    runs: list[tuple[int, GlyphLook, int, int]]
    gids: npt.NDArray[np.uint16]
    xs: npt.NDArray[np.float64]
    said: npt.NDArray[np.int64]

    def spacing(self, line: int) -> Spacing:
        """How a line is spaced to stand in its measure."""
        return Spacing(*self.spacings[3 * line : 3 * line + 3].tolist())


def _turned(runs: Wholes, run: int, now: int, line: int, look: int, count: int) -> int:
    """End the run of look ``now``, where there is one, before glyph ``count``, and begin one of ``look``."""
    if now >= 0:
        runs[3 * run + 2] = count
        run += 1
    runs[3 * run] = line
    runs[3 * run + 1] = look
    return run


def _place_at(
    index: int,
    first: int,
    last: int,
    head: int,
    tail: int,
    laid: Wholes,
    of_token: Wholes,
    stays: Wholes,
    goes: Wholes,
) -> int:
    """Where the word at ``index`` of a line is drawn, or what is left of it where a break cuts it."""
    if index == first and head >= 0:
        return int(goes[head])
    if index == last and tail >= 0:
        return int(stays[tail])
    return int(of_token[laid[index]])


def _needs(
    token: Ints,
    laid: Ints,
    line_starts: Ints,
    line_ends: Ints,
    lines: int,
    first_break: Ints,
    end_glyph: Ints,
    room: int,
    **_: object,
) -> dict[str, int]:
    """How long the arrays have to be that lines are laid of and into."""
    breaks = int(max(line_starts[:lines].max(initial=-1), line_ends[:lines].max(initial=-1))) + 1
    words = int(token[line_ends[:lines]].max(initial=-1)) + 1 if breaks <= len(token) else 0
    tokens = int(laid[:words].max(initial=-1)) + 1
    glyphs, places = int(end_glyph.max(initial=0)), len(end_glyph)
    by_break = int(first_break[tokens]) if tokens < len(first_break) else 0
    strip = ("starts", "ends", "spaces_s", "spaces_e", "letters_s", "letters_e", "kind", "lead_in", "token", "part")
    return {
        **dict.fromkeys(strip, breaks),
        "laid": words,
        **dict.fromkeys(("line_starts", "line_ends", "closes", "from_right", "measures", "lefts"), lines),
        "manner": 5,
        "space": tokens,
        "first_break": tokens + 1,
        "of_token": tokens,
        **dict.fromkeys(("cut", "stays", "goes"), by_break),
        **dict.fromkeys(("first_glyph", "look", "space_look", "space_gid", "way", "width"), places),
        **dict.fromkeys(("gids", "pens", "said"), glyphs),
        "spacings": 3 * lines,
        "runs": 3 * lines,
        "wanted": 2,
        **dict.fromkeys(("out_gids", "out_xs", "out_said"), room),
    }


class _Asked(NamedTuple):
    """Lines to lay: between which breaks, whether each closes its paragraph or is read from the right, and where."""

    line_starts: Wholes
    line_ends: Wholes
    closes: Wholes
    from_right: Wholes
    lines: int
    measures: Reals
    lefts: Reals
    size: float
    manner: Reals


class _Into(NamedTuple):
    """Room for lines as they are laid, ``room`` that for glyphs."""

    room: int
    spacings: Reals
    runs: Wholes
    wanted: Wholes
    out_gids: Shorts
    out_xs: Reals
    out_said: Wholes


@known(_needs)
def _lay_words(strip: ToBreak, of_words: ToLay, asked: _Asked, words: ToDraw, into: _Into) -> int:
    """Lay lines, as far as their words are drawn and there is room; gives how many glyphs they have.

    Filled are ``spacings``, three a line; ``runs``, each (line, look, end among the glyphs), where a line with a
    word of several looks, or with words that go either way, has a look of -1 and no glyphs; and ``wanted``: how many
    words must be drawn first, how many runs there are, and then of each word (token, break, part).
    """
    starts, ends, spaces_s, spaces_e, letters_s, letters_e, _ = strip
    lead_in, token, part, laid = of_words
    line_starts, line_ends, closes, from_right, lines, measures, lefts, size, manner = asked
    space, first_break, cut, of_token, stays, goes, first_glyph, end_glyph = words[:8]
    look, space_look, space_gid, way, width, gids, pens, said = words[8:]
    room, spacings, runs, wanted, out_gids, out_xs, out_said = into
    justified, share, shrink, stretch, by_letters = manner[0] > 0, manner[1], manner[2], manner[3], manner[4]
    lacking = 0
    count = 0
    run = 0
    for line in range(lines):
        s, e = line_starts[line], line_ends[line]
        spaces = spaces_e[e] - spaces_s[s]
        over = measures[line] - (ends[e] - starts[s])
        factor = 1.0
        between = 0.0
        letters = letters_e[e] - letters_s[s]
        if justified and not (closes[line] == 1 and over >= 0):
            if by_letters > 0 and letters > 0:
                give = (stretch if over > 0 else shrink) * spaces + by_letters * letters
                between = min(1.0, max(-1.0, over / give)) * by_letters
            if spaces > 0:
                factor = 1 + (over - between * letters) / spaces
        lead = lead_in[s] + share * over
        spacings[3 * line] = factor
        spacings[3 * line + 1] = between
        spacings[3 * line + 2] = lead
        first, last = token[s], token[e]
        head, tail = -1, -1  # the breaks at which a line's first and last word are cut
        if part[s] >= 0:
            at = first_break[laid[first]] + part[s]
            if cut[at] < 0:
                first += 1
            else:
                head = at
        at = first_break[laid[last]] + part[e]
        if cut[at] >= 0:
            tail = at
        mixed = head >= 0 and tail >= 0 and first == last
        x = lefts[line] + size * lead
        if from_right[line] == 1:  # where the last word ends that is read, as far from the left as the lead allows
            wide = ends[e] - starts[s] - lead_in[s] + (factor - 1) * spaces + between * letters
            x = lefts[line] + size * (measures[line] - lead - wide)
        at = _place_at(first, first, last, head, tail, laid, of_token, stays, goes)
        leftwards = at >= 0 and way[at] == 1
        if from_right[line] == 1 and at >= 0 and not leftwards:
            mixed = True
        now = -1
        begun = run
        count_before = count
        for step in range(last + 1 - first):
            if mixed:
                break
            index = last - step if leftwards else first + step
            t = laid[index]
            place = _place_at(index, first, last, head, tail, laid, of_token, stays, goes)
            if place == UNDRAWN:
                how, at = WHOLE, -1
                if index == first and head >= 0:
                    how, at = GOES, head
                elif index == last and tail >= 0:
                    how, at = STAYS, tail
                wanted[3 * lacking + 2] = t
                wanted[3 * lacking + 3] = at
                wanted[3 * lacking + 4] = how
                lacking += 1
                continue
            if place == MIXED or (lacking == 0 and (way[place] == 1) != leftwards):
                mixed = True
                break
            if lacking > 0:
                continue
            begin, end = first_glyph[place], end_glyph[place]
            if count + 1 + end - begin > room:
                count += 1 + end - begin
                continue
            for half in range(2):  # the space before a word stands at the side where reading comes from
                if (half == 0) == leftwards:
                    if look[place] != now:
                        run = _turned(runs, run, now, line, look[place], count)
                        now = look[place]
                    for glyph in range(begin, end):
                        out_gids[count] = gids[glyph]
                        out_xs[count] = x + size * (pens[glyph] + between * (glyph - begin))
                        out_said[count] = said[glyph]
                        count += 1
                    x += size * (width[place] + between * (end - begin))
                elif index > first:
                    if space_look[place] != now:
                        run = _turned(runs, run, now, line, space_look[place], count)
                        now = space_look[place]
                    out_gids[count] = space_gid[place]
                    out_xs[count] = x
                    out_said[count] = SPACE
                    count += 1
                    x += size * (space[t] * factor + between)
        if mixed:
            count = count_before
            run = begun
            runs[3 * run] = line
            runs[3 * run + 1] = -1
            now = 0
        if now >= 0:
            runs[3 * run + 2] = count
            run += 1
    wanted[0] = lacking
    wanted[1] = run
    return count


class _Room(threading.local):
    """Room to lay lines in, one a thread: what the procedure fills before it is cut to its length."""

    def __init__(self) -> None:
        self.make(LEAST_ROOM, LEAST_ROOM, LEAST_ROOM)

    def make(self, lines: int, words: int, glyphs: int) -> None:
        self.lines, self.words, self.glyphs = lines, words, glyphs
        self.spacings = np.empty(3 * lines)
        self.runs = np.empty(3 * (2 * words + lines), np.int64)
        self.wanted = np.empty(3 * (words + 2 * lines), np.int64)
        self.gids, self.xs, self.said = np.empty(glyphs, np.uint16), np.empty(glyphs), np.empty(glyphs, np.int64)
        self.into = _Into(glyphs, *hold_array(self.spacings, self.runs, self.wanted, self.gids, self.xs, self.said))

    def need(self, lines: int, words: int, glyphs: int) -> None:
        """See that there is room for so much."""
        if lines >= self.lines or words >= self.words or glyphs > self.glyphs:
            self.make(2 * max(lines, self.lines), 2 * max(words, self.words), max(2 * glyphs, self.glyphs))


_room = _Room()


class LinePart(NamedTuple):
    """Lines [start, end) of a paragraph, each in a place that begins at its own of ``lefts`` (points)."""

    lines: Lines
    start: int
    end: int
    lefts: Sequence[float]


def lay_lines(parts: Sequence[LinePart]) -> Laid:
    """The lines of parts of paragraphs that have words and are of one strip and one style.

    A line with a word of several looks, words that go either way or one cut at both its ends, is spaced but not laid.
    """
    lines, room = parts[0].lines, _room
    strip, table, size = lines.strip, lines.table, lines.style.size
    starts: list[int] = []
    ends: list[int] = []
    closes: list[int] = []
    from_right: list[int] = []
    measures: list[float] = []
    lefts: list[float] = []
    for part in parts:
        count = part.end - part.start
        starts += part.lines.bounds[part.start : part.end]
        ends += part.lines.bounds[part.start + 1 : part.end + 1]
        closes += [0] * (count - 1) + [int(part.end == part.lines.count)]
        from_right += [int(part.lines.begins_right)] * count
        measures += islice(part.lines.measures_from(part.start), count)
        lefts += part.lefts
    begins, stops = np.array(starts, np.int64), np.array(ends, np.int64)
    words = int((strip.token[stops] - strip.token[begins]).sum()) + len(starts)
    told = np.array(measures) / size, np.array(lefts, np.float64)
    flags = np.array(closes, np.int64), np.array(from_right, np.int64)
    asked = _Asked(begins, stops, *flags, len(starts), *told, size, _manner(lines.style))
    glyphs, lacking = 0, 1
    while lacking or glyphs > room.glyphs:
        room.need(len(starts), words, glyphs)
        glyphs = _lay_words(strip.to_break, strip.to_lay, asked, table.to_draw(), room.into)
        lacking, run_count = room.wanted[:2].tolist()
        for token, at, part_of in room.wanted[2 : 2 + 3 * lacking].reshape(-1, 3).tolist():
            table.draw(token, at, part_of)
    found = _runs(room.runs[: 3 * run_count].tolist(), table.drawn.looks)
    filled = room.gids[:glyphs].copy(), room.xs[:glyphs].copy(), room.said[:glyphs].copy()
    return Laid(room.spacings[: 3 * len(starts)].copy(), found, *filled)


def _runs(told: list[int], looks: Sequence[GlyphLook]) -> list[tuple[int, GlyphLook, int, int]]:
    out: list[tuple[int, GlyphLook, int, int]] = []
    begin = 0
    for line, look, end in zip(told[::3], told[1::3], told[2::3], strict=True):
        if look >= 0:
            out.append((line, looks[look], begin, end))
            begin = end
    return out


@kept(200)
def _manner(style: Style) -> HeldArray:
    """Whether lines are justified, the share of what is free that stands at their left, and how they may give."""
    manner = style.manner
    share, justified = LEFT_SHARE.get(style.align, 0.0), float(style.align == "justified")
    return HeldArray(np.array([justified, share, manner.shrink, manner.stretch, manner.letters]))


def spacing(lines: Lines, line: int) -> Spacing:
    """How a line is spaced to stand in its measure."""
    return lay_lines([LinePart(lines, line, line + 1, [0.0])]).spacing(0)
