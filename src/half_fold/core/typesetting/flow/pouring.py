"""Pouring paragraphs into columns one after another: where their lines stand, and what keeps them together."""

from collections.abc import Callable, Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

from msgspec import Struct

from half_fold.core.measure.kept import kept
from half_fold.core.publication.records import Paragraph, Role
from half_fold.core.typesetting.flow.columns import Column
from half_fold.core.typesetting.lines.composer import Composer, LineRequest, Lines
from half_fold.core.typesetting.lines.roles import Style, grid_lines, style_of

LEAST_TOGETHER = 2
ROUNDS = 8
NO_COLUMN = 100.0


class Chunk(Struct, frozen=True, eq=False):
    """Lines [start, end) of a paragraph, the first of them ending on line ``at`` of ``column``.

    One is the same as another only by identity: an edit leaves the chunks before it, and those it does not move.
    """

    column: int
    at: int
    lines: Lines
    start: int
    end: int
    step: int


class _Part(NamedTuple):
    """Lines [start, end) that are to stand in a column from its line ``at`` on."""

    column: int
    at: int
    start: int
    end: int


class _Kind(NamedTuple):
    """What is asked of paragraphs of one role and language again and again; ``step`` in lines of the grid."""

    style: Style
    step: int
    before: int
    after: int


@kept(64)
def are_alike(columns: Sequence[Column]) -> bool:
    """Whether all columns are of one width, with nothing in their way."""
    widths = {round(column.rect.width, 6) for column in columns}
    return len(widths) <= 1 and not any(column.shaped for column in columns)


class Pouring:
    """One run of paragraphs through columns: ``column`` and ``at`` are where the next line would stand."""

    def __init__(
        self,
        composer: Composer,
        paragraphs: Sequence[Paragraph],
        language: str,
        role_of: Callable[[str], Role],
        columns: Sequence[Column],
        step: float,
    ) -> None:
        self.composer, self.paragraphs = composer, paragraphs
        self.columns, self.step = columns, step
        self._role_of, self._language = role_of, language
        self._kinds: dict[tuple[str, str, float], _Kind] = {}
        self.column, self.at = 0, 0
        self.chunks: list[Chunk] = []
        self.over_lines = self.over_words = 0
        self._alike = are_alike(columns)

    def kind(self, index: int) -> _Kind:
        """Style and spacing of a paragraph."""
        paragraph = self.paragraphs[index]
        key = paragraph.role, paragraph.language, paragraph.tracking
        found = self._kinds.get(key)
        if found is None:
            role = self._role_of(paragraph.role)
            style = style_of(role, paragraph.language or self._language, None, "", paragraph.tracking)
            found = self._kinds[key] = _Kind(style, grid_lines(style.leading, self.step), role.before, role.after)
        return found

    def room(self, column: int, at: int) -> int:
        """Lines that are free in a column from ``at`` on."""
        return self.columns[column].lines - at if column < len(self.columns) else 0

    def room_left(self) -> int:
        """Lines that are free behind all that stands."""
        return self.room(self.column, self.at) + sum(column.lines for column in self.columns[self.column + 1 :])

    def prepare(self, indices: range) -> None:
        """Set those paragraphs for the first column's measure, all together."""
        self.composer.prepare([self._alone(index, 0) for index in indices])

    def place_next(self, index: int) -> None:
        """Place a paragraph as far as it has room, and count the lines and words of it that are over."""
        self._begin(self.kind(index).style.begins)
        kind, gap = self.kind(index), self._gap(index)
        lines, parts = self._settled(index) if self.column < len(self.columns) else (self._over(index), [])
        for part in parts:
            self.chunks.append(Chunk(part.column, part.at, lines, part.start, part.end, kind.step))
        placed = parts[-1].end if parts else 0
        if parts:
            self.column = parts[-1].column
            self.at = parts[-1].at + 1 + (parts[-1].end - parts[-1].start - 1) * kind.step
        if placed < lines.count:
            self.column, self.at = len(self.columns), 0
            self.over_lines += (lines.count - placed) * kind.step + (gap if not placed else 0)
            self.over_words += lines.words_from(placed)

    def _begin(self, begins: str) -> None:
        """Go on to where a paragraph may begin; a column is left, and a page, only if something stands in it."""
        if begins == "anywhere" or not (self.at or begins == "recto"):
            return
        left = self.columns[self.column].page if self.at and begins != "column" else None
        if self.at:
            self.column, self.at = self.column + 1, 0
        pages = [column.page for column in self.columns[self.column :]]
        fits = (n for n, page in enumerate(pages) if page != left and (page % 2 or begins != "recto"))
        self.column += next(fits, len(pages))

    def _gap(self, index: int) -> int:
        """Empty lines between a paragraph and the one before it."""
        return self.kind(index).before + (self.kind(index - 1).after if index else 0)

    def _gap_at(self, index: int, column: int, at: int) -> int:
        """Empty lines over a paragraph that begins there: none at the head of a column, unless it asks to begin one."""
        kind = self.kind(index)
        if at or kind.style.begins == "anywhere":
            return self._gap(index) if at else 0
        return min(kind.before, max(0, self.room(column, 0) - kind.step))

    def _is_indented(self, index: int) -> bool:
        """A paragraph is indented only after another of its own role, or after one that opened a run of it."""
        if not index:
            return False
        own, before = self.paragraphs[index].role, self.paragraphs[index - 1].role
        if own == before:
            return True
        style = self.kind(index - 1).style
        opened = style.drop_lines > 1 or style.opening_words > 0
        return opened and self._role_of(before).based_on == own

    def _wanted(self, index: int, places: Sequence[tuple[float, float]], whole: tuple[int, ...] = ()) -> LineRequest:
        """The paragraph for lines with those (measure, left), the last of which serves all that follow."""
        kind = self.kind(index)
        places = list(places)
        while len(places) > 1 and places[-1] == places[-2]:
            places.pop()
        style = kind.style
        inset = style.left + style.right
        return LineRequest(
            self.paragraphs[index],
            style,
            tuple([max(1.0, measure - inset) for measure, _ in places]),
            self._is_indented(index),
            tuple([left + style.left for _, left in places]),
            kind.step * self.step if style.drop_lines > 1 else 0.0,
            whole,
        )

    def _alone(self, index: int, column: int) -> LineRequest:
        """The paragraph set for a column's own width."""
        width = self.columns[min(column, len(self.columns) - 1)].rect.width if self.columns else NO_COLUMN
        return self._wanted(index, [(width, 0.0)])

    def _over(self, index: int) -> Lines:
        """The lines of a paragraph that no column is left for."""
        return self.composer.lines(self._alone(index, self.column))

    def _settled(self, index: int) -> tuple[Lines, list[_Part]]:
        """The paragraph set for the very places its lines get: set, placed, and set again where those differ."""
        wanted = self._alone(index, self.column)
        lines = self.composer.lines(wanted)
        if not self._alike:
            wanted = self._wanted(index, self._ahead(index, lines.count + 8))
            lines = self.composer.lines(wanted)
        parts = self._parts(index, lines)
        whole: tuple[int, ...] = ()
        for _ in range(ROUNDS):
            whole = tuple(sorted({*whole, *self._hyphens_at_turns(lines, parts)}))
            if self._alike and not whole:
                break
            places = [self._place(len(self.columns) - 1, 0)] if self._alike else self._places(index, parts)
            again = self._wanted(index, places, whole) if places else wanted
            if again.key == wanted.key:
                break
            wanted, lines = again, self.composer.lines(again)
            parts = self._parts(index, lines)
        return lines, parts

    def _ahead(self, index: int, count: int) -> list[tuple[float, float]]:
        """(measure, left) of the next ``count`` lines, were they to follow one another without a rule."""
        kind, out = self.kind(index), list[tuple[float, float]]()
        column, at = self.column, self.at + self._gap_at(index, self.column, self.at)
        while len(out) < count and column < len(self.columns):
            if at + kind.step > self.columns[column].lines:
                column, at = column + 1, 0
                continue
            out.append(self._place(column, at + kind.step - 1))
            at += kind.step
        return out or [self._place(len(self.columns) - 1, 0)] if self.columns else [(NO_COLUMN, 0.0)]

    def _place(self, column: int, at: int) -> tuple[float, float]:
        slot = self.columns[column].slot(at)
        return slot.width, slot.left - self.columns[column].rect.left

    def _places(self, index: int, parts: Sequence[_Part]) -> list[tuple[float, float]]:
        """(measure, left) of every line where it was placed."""
        step = self.kind(index).step
        return [
            self._place(part.column, part.at + (line - part.start) * step)
            for part in parts
            for line in range(part.start, part.end)
        ]

    def _hyphens_at_turns(self, lines: Lines, parts: Sequence[_Part]) -> Iterator[int]:
        """The lines that would break a word from one page to another."""
        for part, following in pairwise(parts):
            turns = self.columns[part.column].page != self.columns[following.column].page
            if turns and lines.ends_in_hyphen(part.end - 1):
                yield part.end - 1

    def _parts(self, index: int, lines: Lines) -> list[_Part]:
        """Where the lines would stand, column by column, by the rules that keep lines together."""
        k, column, at = self.kind(index).step, self.column, self.at
        parts: list[_Part] = []
        placed = 0
        while placed < lines.count and column < len(self.columns):
            gap = self._gap_at(index, column, at) if not placed else 0
            fit = self._fitting(index, lines, placed, at == 0, max(0, self.room(column, at + gap)))
            if fit:
                parts.append(_Part(column, at + gap + k - 1, placed, placed + fit))
                at += gap + fit * k
                placed += fit
            if placed < lines.count:
                column, at = column + 1, 0
        return parts

    def _fitting(self, index: int, lines: Lines, placed: int, fresh: bool, room: int) -> int:
        """How many of the lines from ``placed`` on may stand in a column that has ``room`` for lines of the grid."""
        style, k, _, _ = self.kind(index)
        left, fit = lines.count - placed, room // k
        if fit >= left:
            return left if fresh or not self._must_follow(index, left, room) else 0
        if not fresh and (style.keeps or style.whole):
            return 0
        least = max(LEAST_TOGETHER, lines.drop.lines if lines.drop is not None and not placed else 0)
        if left - fit < LEAST_TOGETHER and fit > LEAST_TOGETHER:
            fit -= LEAST_TOGETHER - (left - fit)
        return 0 if fit < least and not fresh else fit

    def _must_follow(self, index: int, left: int, room: int) -> bool:
        """A heading moves on where two lines of what follows would not fit under it."""
        kind = self.kind(index)
        if not kind.style.keeps or index + 1 >= len(self.paragraphs):
            return False
        return left * kind.step + self._gap(index + 1) + LEAST_TOGETHER * self.kind(index + 1).step > room
