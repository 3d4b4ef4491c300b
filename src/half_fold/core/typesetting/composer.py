"""Paragraphs to lines, each set once for a style and a measure and kept as long as it serves."""

import re
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace as with_fields

from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.breaking_bulk import break_bulk
from half_fold.core.typesetting.breaking_one import break_one
from half_fold.core.typesetting.roles import Style
from half_fold.core.typesetting.strip import Strip, lay_out
from half_fold.core.typesetting.tokens import Piece, Setting, TokenTable

Ints = npt.NDArray[np.int64]
FEW_PARAGRAPHS = 12
KEPT_PARAGRAPHS = 60_000
TAB, MOST_PARTS, TAB_GAP_EMS = "\t", 3, 0.6
UNBROKEN = 1e7
_SPACES = re.compile(r"[ \t\r\n]+")


@dataclass(frozen=True, slots=True)
class Lines:
    """A paragraph broken: line ``i`` runs from break ``bounds[i]`` to ``bounds[i + 1]`` of the strip.

    Where it has tabs, ``label`` stands before the first line, ``tail`` at the right end of the last, and the
    lines themselves begin ``hang`` points from the left.
    """

    paragraph: Paragraph
    style: Style
    table: TokenTable
    tokens: tuple[int, ...]
    strip: Strip
    first_token: int
    bounds: tuple[int, ...]
    measures: tuple[float, ...]
    hang: float = 0.0
    label: "Lines | None" = None
    tail: "Lines | None" = None

    @property
    def count(self) -> int:
        return len(self.bounds) - 1

    @property
    def natural_width(self) -> float:
        """The width of its first line in points, at natural word spaces."""
        return self.strip.width(self.bounds[0], self.bounds[1]) * self.style.size

    def words_from(self, line: int) -> int:
        """How many words stand on ``line`` and after it (a word broken before it counts)."""
        if line >= self.count:
            return 0
        start = self.bounds[line]
        at = int(self.strip.token[start]) - self.first_token
        whole_before = int(self.strip.kind[start]) == 0 and int(self.strip.part[start]) >= 0
        return len(self.tokens) - at - (1 if whole_before else 0)


@dataclass(frozen=True, slots=True)
class Wanted:
    """A paragraph to be set in a style; ``measures`` in points, the last serving all further lines."""

    paragraph: Paragraph
    style: Style
    measures: tuple[float, ...]
    indented: bool

    @property
    def key(self) -> tuple[object, ...]:
        return id(self.paragraph), self.style, self.measures, self.indented


class Composer:
    """Sets paragraphs; holds the token tables and the lines already made. Belongs to one thread."""

    def __init__(self) -> None:
        self._tables: dict[Setting, TokenTable] = {}
        self._lines: OrderedDict[tuple[object, ...], Lines] = OrderedDict()
        self._tokens: OrderedDict[tuple[int, Setting], tuple[Paragraph, tuple[int, ...]]] = OrderedDict()

    def table(self, setting: Setting) -> TokenTable:
        if setting not in self._tables:
            self._tables[setting] = TokenTable(setting)
        return self._tables[setting]

    def lines(self, wanted: Wanted) -> Lines:
        """The paragraph's lines, from what is kept or set now."""
        found = self._lines.get(wanted.key)
        if found is None:
            self._tabbed(wanted) if TAB in wanted.paragraph.text else self._set([wanted])
            found = self._lines[wanted.key]
        return found

    def prepare(self, every: Sequence[Wanted]) -> None:
        """Set all of these that are not kept yet, in bulk where they are many."""
        missing = [wanted for wanted in every if wanted.key not in self._lines and TAB not in wanted.paragraph.text]
        for _, group in groupby(
            sorted(missing, key=lambda w: (hash(w.style.setting), hash(w.style.manner))),
            key=lambda w: (w.style.setting, w.style.manner),
        ):
            self._set(list(group))

    def _set(self, group: list[Wanted]) -> None:
        table = self.table(group[0].style.setting)
        token_lists = [self._tokens_of(wanted.paragraph, table) for wanted in group]
        filled = [(wanted, tokens) for wanted, tokens in zip(group, token_lists, strict=True) if tokens]
        for wanted, tokens in zip(group, token_lists, strict=True):
            if not tokens:
                self._keep(wanted, Lines(wanted.paragraph, wanted.style, table, (), _EMPTY, 0, (0, 0), wanted.measures))
        if not filled:
            return
        strip = lay_out(
            table,
            [tokens for _, tokens in filled],
            [wanted.style.indent if wanted.indented else 0.0 for wanted, _ in filled],
        )
        for (wanted, tokens), index, ends in zip(filled, range(len(filled)), _broken(strip, filled), strict=True):
            bounds = (int(strip.first[index]), *ends.tolist())
            first_token = int(strip.token[strip.first[index]])
            self._keep(
                wanted,
                Lines(wanted.paragraph, wanted.style, table, tokens, strip, first_token, bounds, wanted.measures),
            )

    def _tabbed(self, wanted: Wanted) -> None:
        """Text before the first tab is a label, text after the second a tail; what is between hangs at the stop."""
        label, body, *tails = _between_tabs(wanted.paragraph)
        whole = (UNBROKEN,)
        style = wanted.style
        set_label = self.lines(Wanted(label, style, whole, False))
        set_tail = self.lines(Wanted(tails[0], style, whole, False)) if tails else None
        hang = max(style.tab, set_label.natural_width + TAB_GAP_EMS * style.size if label.text.strip() else 0.0)
        less = hang + (set_tail.natural_width + TAB_GAP_EMS * style.size if set_tail is not None else 0.0)
        narrower = tuple(max(style.size, measure - less) for measure in wanted.measures)
        lines = self.lines(Wanted(body, style, narrower, False))
        self._keep(wanted, replace(lines, measures=narrower, hang=hang, label=set_label, tail=set_tail))

    def _keep(self, wanted: Wanted, lines: Lines) -> None:
        self._lines[wanted.key] = lines
        while len(self._lines) > KEPT_PARAGRAPHS:
            self._lines.popitem(last=False)

    def _tokens_of(self, paragraph: Paragraph, table: TokenTable) -> tuple[int, ...]:
        key = id(paragraph), table.setting
        found = self._tokens.get(key)
        if found is None:
            found = self._tokens[key] = paragraph, tuple(tokenise(paragraph.runs, table))
            while len(self._tokens) > KEPT_PARAGRAPHS:
                self._tokens.popitem(last=False)
        return found[1]


def _between_tabs(paragraph: Paragraph) -> list[Paragraph]:
    """The paragraph cut at its first two tabs; further ones become spaces."""
    parts: list[list[Run]] = [[]]
    for run in paragraph.runs:
        for index, text in enumerate(run.text.split(TAB)):
            if index and len(parts) < MOST_PARTS:
                parts.append([])
            parts[-1].append(with_fields(run, text=text))
    return [with_fields(paragraph, runs=tuple(runs)) for runs in parts]


def tokenise(runs: Sequence[Run], table: TokenTable) -> list[int]:
    """The token of every word; a word that changes style inside is one token of several pieces."""
    if len(runs) == 1 and not (runs[0].bold or runs[0].italic):
        return [table.id_of(word) for word in _SPACES.split(runs[0].text) if word]
    words: list[list[Piece]] = [[]]
    for run in runs:
        for index, text in enumerate(_SPACES.split(run.text)):
            if index:
                words.append([])
            if text:
                words[-1].append(Piece(text, run.bold, run.italic))
    return [table.id_of_styled(tuple(word)) for word in words if word]


def _broken(strip: Strip, filled: list[tuple[Wanted, tuple[int, ...]]]) -> list[Ints]:
    manner = filled[0][0].style.manner
    in_ems = [[m / wanted.style.size for m in wanted.measures] for wanted, _ in filled]
    if len(filled) > FEW_PARAGRAPHS and all(len(measures) == 1 for measures in in_ems):
        return break_bulk(strip, np.array([measures[0] for measures in in_ems]), manner)
    return [break_one(strip, index, measures, manner) for index, measures in enumerate(in_ems)]


_NONE = np.zeros(1)
_ZERO = np.zeros(1, np.int64)
_EMPTY = Strip(_NONE, _NONE, _NONE, _NONE, _ZERO, _ZERO, _ZERO, _ZERO, _ZERO)
