"""Paragraphs to lines, each set once for a style and a measure and kept as long as it serves."""

from collections.abc import Iterator, Sequence
from itertools import chain, groupby, repeat
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace
from msgspec.structs import replace as with_fields

from half_fold.core.compiled.compiling import load
from half_fold.core.measure.kept import Keeper
from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.faces.directions import begins_right, has_turns, reads_leftwards
from half_fold.core.typesetting.lines.demerits import Justification
from half_fold.core.typesetting.lines.drop_cap import Drop, drop_for
from half_fold.core.typesetting.lines.openings import opening_of
from half_fold.core.typesetting.lines.pieces import is_plain_style, tokenise
from half_fold.core.typesetting.lines.roles import Style
from half_fold.core.typesetting.lines.strip import Strip, StripRoom, lay_out
from half_fold.core.typesetting.lines.tokens import TokenSetting, TokenTable
from half_fold.core.typesetting.lines.total_fit import Task, break_lines

Ints = npt.NDArray[np.int64]

KEPT_OCTETS = 64_000_000  # of lines, and as much again of tokens, reckoned; a flow holds the lines it has itself
MOST_KEPT = 1_000_000
MOST_WORDS = 2000  # blocks of words that stand by themselves
OVERHEAD, BY_LINE, BY_WORD = 3000, 110, 8  # octets of a paragraph kept, of each of its lines, and of each of its words
AT_ONCE = 64  # paragraphs of one strip: few enough for a processor to keep it at hand
TAB, MOST_PARTS, TAB_GAP_EMS = "\t", 3, 0.6
UNBROKEN = 1e7
MANY_LETTERS = 10_000  # so many are set sooner by compiled procedures, the loading of those included


class Lines(Struct, frozen=True):
    """A paragraph broken: line ``i`` runs from break ``bounds[i]`` to ``bounds[i + 1]`` of the strip.

    ``measures`` and ``lefts`` (points) are line by line, the last serving all that follow. Where it has tabs, ``label``
    stands before the first line, ``tail`` at the right end of the last, and the lines themselves begin ``hang`` points
    from the left. A ``drop`` cap stands before its first lines.
    """

    paragraph: Paragraph
    style: Style
    table: TokenTable
    tokens: Ints
    strip: Strip
    first_token: int
    bounds: Sequence[int]
    measures: tuple[float, ...]
    lefts: tuple[float, ...] = (0.0,)
    hang: float = 0.0
    label: "Lines | None" = None
    tail: "Lines | None" = None
    drop: Drop | None = None

    @property
    def count(self) -> int:
        return len(self.bounds) - 1

    @property
    def begins_right(self) -> bool:
        """Whether its lines run from the right."""
        return begins_right(self.paragraph.text, self.style.setting.language)

    @property
    def natural_width(self) -> float:
        """The width of its first line in points, at natural word spaces."""
        return self.strip.width(self.bounds[0], self.bounds[1]) * self.style.size

    def measure(self, line: int) -> float:
        """The measure of a line in points."""
        return self.measures[min(line, len(self.measures) - 1)]

    def left(self, line: int) -> float:
        """How far from the left of its place a line's measure begins, in points."""
        return self.lefts[min(line, len(self.lefts) - 1)]

    def lefts_from(self, line: int) -> Iterator[float]:
        """``left`` of a line and of all after it, without end."""
        return chain(self.lefts[line:], repeat(self.lefts[-1]))

    def measures_from(self, line: int) -> Iterator[float]:
        """``measure`` of a line and of all after it, without end."""
        return chain(self.measures[line:], repeat(self.measures[-1]))

    def ends_in_hyphen(self, line: int) -> bool:
        """Whether a line ends inside a word, with a hyphen of ours."""
        return bool(self.strip.kind[self.bounds[line + 1]] == 1)

    def words_from(self, line: int) -> int:
        """How many words stand on ``line`` and after it (a word broken before it counts)."""
        if line >= self.count:
            return 0
        start = self.bounds[line]
        at = int(self.strip.token[start]) - self.first_token
        whole_before = int(self.strip.kind[start]) == 0 and int(self.strip.part[start]) >= 0
        return len(self.tokens) - at - (1 if whole_before else 0)


class LineRequest(NamedTuple):
    """A paragraph to be set in a style; ``measures`` and ``lefts`` in points, the last serving all further lines.

    ``pitch`` is the distance of its lines in points (its leading where it is 0), which a drop cap stands by;
    none of ``whole_lines`` may end in a hyphen.
    """

    paragraph: Paragraph
    style: Style
    measures: tuple[float, ...]
    indented: bool
    lefts: tuple[float, ...] = (0.0,)
    pitch: float = 0.0
    whole_lines: tuple[int, ...] = ()

    @property
    def key(self) -> tuple[object, ...]:
        return (
            id(self.paragraph),
            id(self.style),
            self.measures,
            self.lefts,
            self.indented,
            self.pitch if self.style.drop_lines > 1 else 0.0,
            self.whole_lines,
        )


class Composer:
    """Sets paragraphs; holds the token tables and the lines already made. Belongs to one thread."""

    def __init__(self) -> None:
        self._tables: dict[TokenSetting, TokenTable] = {}
        self._room = StripRoom()
        self._lines: Keeper[Lines] = Keeper(MOST_KEPT, KEPT_OCTETS, _octets, least=AT_ONCE)
        self._tokens: Keeper[Ints] = Keeper(MOST_KEPT, KEPT_OCTETS, _octets_of_tokens)
        self.words: Keeper[Any] = Keeper(MOST_WORDS)  # what those who set words by themselves have made of it

    def table(self, setting: TokenSetting) -> TokenTable:
        found = self._tables.get(setting)
        if found is None:
            found = self._tables[setting] = TokenTable(setting)
        return found

    def lines(self, wanted: LineRequest) -> Lines:
        """The paragraph's lines, from what is kept or set now."""
        found = self._lines.find(wanted.key)
        if found is not None:
            return found
        self._set_one(wanted)
        return self._set_now(wanted)

    def _set_now(self, wanted: LineRequest) -> Lines:
        """The lines that were set a moment ago."""
        found = self._lines.find(wanted.key)
        assert found is not None
        return found

    def _set_one(self, wanted: LineRequest) -> None:
        if TAB in wanted.paragraph.text:
            self._tabbed(wanted)
        elif wanted.style.drop_lines > 1:
            self._dropped(wanted)
        else:
            self._set([wanted])

    def prepare(self, every: Sequence[LineRequest]) -> None:
        """Set all of these that are not kept yet, those of one style together."""
        plain = [
            wanted
            for wanted in every
            if wanted.key not in self._lines and wanted.style.drop_lines < 2 and TAB not in wanted.paragraph.text
        ]
        for _, group in groupby(sorted(plain, key=_order), key=_order):
            self._set(list(group))

    def _set(self, group: list[LineRequest]) -> None:
        if sum(len(run.text) for wanted in group for run in wanted.paragraph.runs) > MANY_LETTERS:
            load()
        table, manner = self.table(group[0].style.setting), group[0].style.manner
        every = [(w, w, tokens, None) for w, tokens in zip(group, self._tokens_of(group, table), strict=True)]
        for begin in range(0, len(every), AT_ONCE):
            self._broken(every[begin : begin + AT_ONCE], table, manner)

    def _broken(
        self,
        every: Sequence[tuple[LineRequest, LineRequest, Ints, Drop | None]],
        table: TokenTable,
        manner: Justification,
    ) -> None:
        """Break paragraphs given as (asked for, as its lines shall be, tokens, drop cap), and keep their lines."""
        for asked, w, tokens, drop in every:
            if not len(tokens):
                none = Lines(asked.paragraph, w.style, table, tokens, _EMPTY, 0, (0, 0), w.measures, w.lefts, drop=drop)
                self._keep(asked, none)
        filled = [each for each in every if len(each[2])]
        if not filled:
            return
        indents = [w.style.indent if w.indented and drop is None else 0.0 for _, w, _, drop in filled]
        strip = lay_out(table, [tokens for _, _, tokens, _ in filled], indents, self._room)
        tasks = [_task(index, w) for index, (_, w, _, _) in enumerate(filled)]
        breaks: list[int] = []
        begins: list[int] = []
        for first, ends in zip(strip.first.tolist(), break_lines(strip, tasks, manner), strict=True):
            begins.append(len(breaks))
            breaks.append(first)
            breaks += ends
        kept = strip.at(breaks, begins)
        first_tokens = kept.token[kept.first].tolist()
        for (asked, w, tokens, drop), begin, end, first_token in zip(
            filled, begins, [*begins[1:], len(breaks)], first_tokens, strict=True
        ):
            bounds = range(begin, end)
            lines = Lines(
                asked.paragraph, w.style, table, tokens, kept, first_token, bounds, w.measures, w.lefts, drop=drop
            )
            self._keep(asked, lines)

    def _dropped(self, wanted: LineRequest) -> None:
        """With a drop cap as deep as asked, or as deep as the paragraph is."""
        table, depth = self.table(wanted.style.setting), wanted.style.drop_lines
        while True:
            drop = drop_for(wanted.paragraph, wanted.style, depth, wanted.pitch or wanted.style.leading)
            if drop is None:
                shallow = wanted._replace(style=replace(wanted.style, drop_lines=0))
                self._set([shallow])
                self._keep(wanted, replace(self._set_now(shallow), style=wanted.style))
                return
            (tokens,) = self._tokens_of([wanted], table)
            self._broken([(wanted, beside_drop_cap(wanted, drop), tokens, drop)], table, wanted.style.manner)
            count = self._set_now(wanted).count
            if count >= depth:
                return
            depth = count if depth > count > 1 else 0

    def _tabbed(self, wanted: LineRequest) -> None:
        """Text before the first tab is a label, text after the second a tail; what is between hangs at the stop."""
        label, body, *tails = _between_tabs(wanted.paragraph)
        whole = (UNBROKEN,)
        style = wanted.style
        set_label = self.lines(LineRequest(label, style, whole, False))
        set_tail = self.lines(LineRequest(tails[0], style, whole, False)) if tails else None
        hang = max(style.tab, set_label.natural_width + TAB_GAP_EMS * style.size if label.text.strip() else 0.0)
        less = hang + (set_tail.natural_width + TAB_GAP_EMS * style.size if set_tail is not None else 0.0)
        narrower = tuple(max(style.size, measure - less) for measure in wanted.measures)
        lines = self.lines(LineRequest(body, style, narrower, False, wanted.lefts))
        self._keep(
            wanted,
            replace(lines, paragraph=wanted.paragraph, measures=narrower, hang=hang, label=set_label, tail=set_tail),
        )

    def _keep(self, wanted: LineRequest, lines: Lines) -> None:
        self._lines.keep(wanted.key, (wanted.paragraph, wanted.style), lines)

    def _tokens_of(self, group: Sequence[LineRequest], table: TokenTable) -> list[Ints]:
        """The tokens of paragraphs, those of all plain texts that are new found in one walk."""
        keys = [_token_key(wanted, table) for wanted in group]
        found = {key: self._tokens.find(key) for key in keys}
        new = {key: wanted for key, wanted in zip(keys, group, strict=True) if found[key] is None}
        plain = {key: w.paragraph.runs[0].text for key, w in new.items() if _is_plain_text(w)}
        made = dict(zip(plain, table.tokens_of(list(plain.values())), strict=True)) if plain else {}
        for key, wanted in new.items():
            tokens = made.get(key)
            told = tokens if tokens is not None else _styled_tokens(wanted, table)
            found[key] = self._tokens.keep(key, wanted.paragraph, told)
        return [tokens for key in keys if (tokens := found[key]) is not None]


def _octets_of_tokens(tokens: Ints) -> int:
    return OVERHEAD // 4 + BY_WORD * len(tokens)


def _octets(lines: Lines) -> int:
    """About how many octets the lines of a paragraph take."""
    return OVERHEAD + BY_LINE * lines.count + BY_WORD * len(lines.tokens)


def _token_key(wanted: LineRequest, table: TokenTable) -> tuple[object, ...]:
    """What the tokens of a paragraph follow from."""
    style = wanted.style
    opening = style.opening_words and (style.opening, style.opening_words)
    return id(wanted.paragraph), id(table), opening, style.drop_lines > 1 and style.drop_letters


def _is_plain_text(wanted: LineRequest) -> bool:
    """Whether a paragraph is one run in its role's own style."""
    runs, style = wanted.paragraph.runs, wanted.style
    if len(runs) != 1 or not is_plain_style(runs[0]) or style.opening_words or style.drop_lines > 1:
        return False
    return not (reads_leftwards(style.setting.language) or has_turns(runs[0].text))


def _styled_tokens(wanted: LineRequest, table: TokenTable) -> Ints:
    style, runs = wanted.style, wanted.paragraph.runs
    if style.opening_words or style.drop_lines > 1:
        runs = opening_of(wanted.paragraph, style)
    return np.array(tokenise(runs, table), np.int64)


def _order(wanted: LineRequest) -> int:
    return id(wanted.style)  # the same style is the same record


def _task(index: int, wanted: LineRequest) -> Task:
    size, measures = wanted.style.size, wanted.measures
    in_ems = (measures[0] / size,) if len(measures) == 1 else tuple([measure / size for measure in measures])
    return Task(index, in_ems, wanted.paragraph.looseness, wanted.whole_lines)


def beside_drop_cap(wanted: LineRequest, drop: Drop) -> LineRequest:
    """The same paragraph with room for its drop cap beside its first lines."""
    longest = max(len(wanted.measures), drop.lines + 1)
    shift = 0.0 if begins_right(wanted.paragraph.text, wanted.style.setting.language) else drop.takes
    places = [
        (wanted.measures[min(i, len(wanted.measures) - 1)], wanted.lefts[min(i, len(wanted.lefts) - 1)])
        for i in range(longest)
    ]
    places = [
        (max(wanted.style.size, measure - drop.takes), left + shift) if i < drop.lines else (measure, left)
        for i, (measure, left) in enumerate(places)
    ]
    return wanted._replace(measures=tuple(m for m, _ in places), lefts=tuple(left for _, left in places))


def _between_tabs(paragraph: Paragraph) -> list[Paragraph]:
    """The paragraph cut at its first two tabs; further ones become spaces."""
    parts: list[list[Run]] = [[]]
    for run in paragraph.runs:
        for index, text in enumerate(run.text.split(TAB)):
            if index and len(parts) < MOST_PARTS:
                parts.append([])
            parts[-1].append(with_fields(run, text=text))
    return [with_fields(paragraph, runs=tuple(runs)) for runs in parts]


_NONE = np.zeros(1)
_ZERO = np.zeros(1, np.int64)
_EMPTY = Strip(_NONE, _NONE, _NONE, _NONE, _NONE, _NONE, _NONE, _ZERO, _ZERO, _ZERO, _ZERO, _ZERO, _ZERO)
