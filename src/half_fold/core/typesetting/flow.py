"""A story threaded through columns: every line on the baseline grid, no widows, headings kept with text."""

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Paragraph, Role, Story
from half_fold.core.typesetting.composer import Composer, Lines, Wanted
from half_fold.core.typesetting.roles import Style, grid_lines, style_of

LEAST_TOGETHER = 2


@dataclass(frozen=True, slots=True)
class Column:
    """Room for ``lines`` lines of the baseline grid, the first on ``first_baseline``; ``block`` holds it."""

    block: str
    rect: Rect
    first_baseline: float
    lines: int
    page: int = 0


@dataclass(frozen=True, slots=True, eq=False)
class Chunk:
    """Lines [start, end) of a paragraph, the first of them ending on grid line ``at`` of ``column``.

    One is the same as another only by identity: an edit leaves the chunks before it, and those it does not move.
    """

    column: int
    at: int
    lines: Lines
    start: int
    end: int
    step: int


class Start(NamedTuple):
    """Where a paragraph began: its column and grid line, the chunks before it, and what was over before it."""

    column: int
    at: int
    chunks: int
    over_lines: int
    over_words: int


@dataclass(frozen=True, slots=True, eq=False)
class Flow:
    """Where a story came to stand, and what is over: grid lines and words without a place; ``room`` is left.

    ``starts`` has one entry a paragraph, so that an edit can go on from where it was made.
    """

    story: Story
    columns: tuple[Column, ...]
    chunks: tuple[Chunk, ...]
    starts: tuple[Start, ...]
    over_lines: int
    over_words: int
    room: int

    def chunks_of(self, block: str) -> tuple[Chunk, ...]:
        """What stands in the columns of a block, which follow one another."""
        inside = [index for index, column in enumerate(self.columns) if column.block == block]
        if not inside:
            return ()
        low = bisect_left(self.chunks, inside[0], key=_column_of)
        return self.chunks[low : bisect_right(self.chunks, inside[-1], key=_column_of)]

    @property
    def used(self) -> int:
        """Grid lines that carry text."""
        return sum((chunk.end - chunk.start) * chunk.step for chunk in self.chunks)


def _column_of(chunk: Chunk) -> int:
    return chunk.column


def is_indented(paragraphs: Sequence[Paragraph], index: int) -> bool:
    """A paragraph is indented only after another of its own role."""
    return index > 0 and paragraphs[index].role == paragraphs[index - 1].role


class _Flowing:
    """One run of a story through its columns."""

    def __init__(
        self, composer: Composer, story: Story, role_of: Callable[[str], Role], columns: Sequence[Column], step: float
    ) -> None:
        self.composer, self.paragraphs = composer, story.paragraphs
        self.columns, self.step = columns, step
        self._role_of, self._language = role_of, story.language
        self._known: dict[str, tuple[Style, int]] = {}  # by role: asked for as paragraphs are placed
        self.column, self.at = 0, 0
        self.chunks: list[Chunk] = []
        self.starts: list[Start] = []
        self.over_lines = self.over_words = 0

    def begin_at(self, before: Flow, first: int) -> None:
        """Take over what an earlier flow had placed before paragraph ``first``."""
        self.starts = list(before.starts[:first])
        self.column, self.at, chunks, self.over_lines, self.over_words = before.starts[first]
        self.chunks = list(before.chunks[:chunks])

    def stands_as(self, before: Flow, index: int) -> bool:
        """Whether the next paragraph begins where paragraph ``index`` of an earlier flow did."""
        return (self.column, self.at) == before.starts[index][:2]

    def outcome(self, story: Story) -> Flow:
        """All that was placed, once nothing is left to place."""
        room = self.room() + sum(column.lines for column in self.columns[self.column + 1 :])
        over = self.over_lines, self.over_words
        return Flow(story, tuple(self.columns), tuple(self.chunks), tuple(self.starts), *over, room)

    def _of_role(self, index: int) -> tuple[Style, int]:
        name = self.paragraphs[index].role
        if name not in self._known:
            role = self._role_of(name)
            self._known[name] = style_of(role, self._language), role.before
        return self._known[name]

    def style(self, index: int) -> Style:
        """The style of a paragraph."""
        return self._of_role(index)[0]

    def before(self, index: int) -> int:
        """The empty lines before a paragraph."""
        return self._of_role(index)[1]

    def room(self) -> int:
        return self.columns[self.column].lines - self.at if self.column < len(self.columns) else 0

    def measure(self, column: int) -> float:
        return self.columns[min(column, len(self.columns) - 1)].rect.width if self.columns else 100.0

    def wanted(self, index: int, measures: tuple[float, ...]) -> Wanted:
        return Wanted(self.paragraphs[index], self.style(index), measures, is_indented(self.paragraphs, index))

    def lines_here(self, index: int) -> Lines:
        """The paragraph set for where it now stands; where a next column is of another width, line by line."""
        measure = self.measure(self.column)
        lines = self.composer.lines(self.wanted(index, (measure,)))
        k = grid_lines(self.style(index).leading, self.step)
        fit = max(0, self.room() - self._gap(index)) // k
        if lines.count <= fit or self.column + 1 >= len(self.columns):
            return lines
        measures: list[float] = []
        for column in range(self.column, len(self.columns)):
            count = fit if column == self.column else self.columns[column].lines // k
            measures += [self.measure(column)] * count
            if len(measures) > lines.count + 8:
                break
        if all(abs(m - measure) < 1e-6 for m in measures):
            return lines
        return self.composer.lines(self.wanted(index, tuple(measures)))

    def prepare(self, indices: range) -> None:
        """Set those paragraphs for the first column's measure, in bulk where they are many."""
        measure = (self.measure(0),)
        self.composer.prepare([self.wanted(index, measure) for index in indices])

    def place_next(self, index: int) -> None:
        """Place a paragraph as far as it has room, and count the grid lines and words of it that are over."""
        self.starts.append(Start(self.column, self.at, len(self.chunks), self.over_lines, self.over_words))
        placed = self.place(index) if self.column < len(self.columns) else 0
        lines = self.last_lines if placed or self.column < len(self.columns) else self.lines_here(index)
        if placed < lines.count:
            k = grid_lines(self.style(index).leading, self.step)
            self.over_lines += (lines.count - placed) * k + (self.before(index) if not placed else 0)
            self.over_words += lines.words_from(placed)

    def _gap(self, index: int) -> int:
        return self.before(index) if self.at else 0

    def advance(self) -> None:
        self.column, self.at = self.column + 1, 0

    def place(self, index: int) -> int:
        """Place a paragraph; gives how many of its lines found a place."""
        placed = 0
        k = grid_lines(self.style(index).leading, self.step)
        lines = self.lines_here(index)
        while placed < lines.count and self.column < len(self.columns):
            gap = self._gap(index) if not placed else 0
            fit = self._fitting(index, lines, placed, max(0, self.room() - gap) // k)
            if fit == 0:
                self.advance()
                if not placed:
                    lines = self.lines_here(index)
                continue
            self.at += gap
            self.chunks.append(Chunk(self.column, self.at + k - 1, lines, placed, placed + fit, k))
            self.at += fit * k
            placed += fit
        self.last_lines = lines
        return placed

    def _fitting(self, index: int, lines: Lines, placed: int, fit: int) -> int:
        """How many of the lines that would fit may stand here, by the rules that keep lines together."""
        left = lines.count - placed
        fresh = self.at == 0
        if fit >= left:
            return left if fresh or not self._must_follow(index, left) else 0
        if self.style(index).keeps and not fresh:
            return 0
        if left - fit < LEAST_TOGETHER and fit > LEAST_TOGETHER:
            fit -= LEAST_TOGETHER - (left - fit)
        if fit < LEAST_TOGETHER and not fresh:
            return 0
        return fit

    def _must_follow(self, index: int, left: int) -> bool:
        """A heading moves on where two lines of what follows would not fit under it."""
        if not self.style(index).keeps or index + 1 >= len(self.paragraphs):
            return False
        k = grid_lines(self.style(index).leading, self.step)
        following = grid_lines(self.style(index + 1).leading, self.step)
        used = left * k + self.before(index + 1) + LEAST_TOGETHER * following
        return used > self.room() - self._gap(index)


def flow(
    composer: Composer,
    story: Story,
    role_of: Callable[[str], Role],
    columns: Sequence[Column],
    step: float,
    before: Flow | None = None,
) -> Flow:
    """Set ``story`` through ``columns`` in order on a baseline grid of ``step`` points.

    ``before`` is the flow of an earlier state through the same columns (the same tuple), under the same roles and on
    the same grid: what stands before the edit stays, and so does what follows once it stands where it stood.
    """
    run = _Flowing(composer, story, role_of, columns, step)
    if before is not None and before.columns is columns and before.story.language == story.language:
        return _go_on(run, story, before)
    if columns:
        run.prepare(range(len(story.paragraphs)))
    for index in range(len(story.paragraphs)):
        run.place_next(index)
    return run.outcome(story)


def _go_on(run: _Flowing, story: Story, before: Flow) -> Flow:
    """Set again from the first paragraph that changed, until one after the change begins where it began before."""
    old, new = before.story.paragraphs, story.paragraphs
    first = _alike(old, new)
    if first == len(old) == len(new):
        return before
    if first and run.style(first - 1).keeps:  # a heading looks at what follows it
        first -= 1
    first = max(0, min(first, len(old) - 1))
    tail = min(_alike(old[first:][::-1], new[first:][::-1]), len(new) - first)
    if first:
        run.begin_at(before, first)
    same_from = len(new) - tail + 1  # the first paragraph after the change may be indented otherwise
    shift = len(old) - len(new)
    run.prepare(range(first, min(same_from, len(new))))
    for index in range(first, len(new)):
        if index >= same_from and run.stands_as(before, index + shift):
            return _joined(run, story, before, index + shift)
        run.place_next(index)
    return run.outcome(story)


def _joined(run: _Flowing, story: Story, before: Flow, at: int) -> Flow:
    """What was set again, and from the old paragraph ``at`` on all as it was."""
    was = before.starts[at]
    more, lines, words = len(run.chunks) - was.chunks, run.over_lines - was.over_lines, run.over_words - was.over_words
    rest = before.starts[at:]
    if more or lines or words:
        rest = tuple(Start(s.column, s.at, s.chunks + more, s.over_lines + lines, s.over_words + words) for s in rest)
    chunks = (*run.chunks, *before.chunks[was.chunks :])
    over = before.over_lines + lines, before.over_words + words
    return Flow(story, before.columns, chunks, (*run.starts, *rest), *over, before.room)


def _alike(one: Sequence[Paragraph], other: Sequence[Paragraph]) -> int:
    """How many paragraphs from the start are the very same records."""
    return next((i for i, (a, b) in enumerate(zip(one, other, strict=False)) if a is not b), min(len(one), len(other)))
