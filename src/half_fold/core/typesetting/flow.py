"""A story threaded through columns: every line on the baseline grid, no widows, headings kept with text."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

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


@dataclass(frozen=True, slots=True)
class Chunk:
    """Lines [start, end) of a paragraph, the first of them ending on grid line ``at`` of ``column``."""

    column: int
    at: int
    lines: Lines
    start: int
    end: int
    step: int
    paragraph: int


@dataclass(frozen=True, slots=True)
class Flow:
    """Where a story came to stand, and what is over: grid lines and words without a place; ``room`` is left."""

    columns: tuple[Column, ...]
    chunks: tuple[Chunk, ...]
    over_lines: int
    over_words: int
    room: int

    @property
    def used(self) -> int:
        """Grid lines that carry text."""
        return sum((chunk.end - chunk.start) * chunk.step for chunk in self.chunks)


def styles_of(story: Story, role_of: Callable[[str], Role]) -> list[Style]:
    """The style of each paragraph."""
    known = {name: style_of(role_of(name), story.language) for name in {p.role for p in story.paragraphs}}
    return [known[paragraph.role] for paragraph in story.paragraphs]


def is_indented(paragraphs: Sequence[Paragraph], index: int) -> bool:
    """A paragraph is indented only after another of its own role."""
    return index > 0 and paragraphs[index].role == paragraphs[index - 1].role


class _Flowing:
    """One run of a story through its columns."""

    def __init__(
        self, composer: Composer, story: Story, role_of: Callable[[str], Role], columns: Sequence[Column], step: float
    ) -> None:
        self.composer, self.paragraphs = composer, story.paragraphs
        self.styles = styles_of(story, role_of)
        self.columns, self.step = columns, step
        self.before = [role_of(p.role).before for p in story.paragraphs]
        self.column, self.at = 0, 0
        self.chunks: list[Chunk] = []

    def room(self) -> int:
        return self.columns[self.column].lines - self.at if self.column < len(self.columns) else 0

    def measure(self, column: int) -> float:
        return self.columns[min(column, len(self.columns) - 1)].rect.width if self.columns else 100.0

    def wanted(self, index: int, measures: tuple[float, ...]) -> Wanted:
        return Wanted(self.paragraphs[index], self.styles[index], measures, is_indented(self.paragraphs, index))

    def lines_here(self, index: int) -> Lines:
        """The paragraph set for where it now stands; where a next column is of another width, line by line."""
        measure = self.measure(self.column)
        lines = self.composer.lines(self.wanted(index, (measure,)))
        k = grid_lines(self.styles[index].leading, self.step)
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

    def _gap(self, index: int) -> int:
        return self.before[index] if self.at else 0

    def advance(self) -> None:
        self.column, self.at = self.column + 1, 0

    def place(self, index: int) -> int:
        """Place a paragraph; gives how many of its lines found a place."""
        placed = 0
        k = grid_lines(self.styles[index].leading, self.step)
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
            self.chunks.append(Chunk(self.column, self.at + k - 1, lines, placed, placed + fit, k, index))
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
        if self.styles[index].keeps and not fresh:
            return 0
        if left - fit < LEAST_TOGETHER and fit > LEAST_TOGETHER:
            fit -= LEAST_TOGETHER - (left - fit)
        if fit < LEAST_TOGETHER and not fresh:
            return 0
        return fit

    def _must_follow(self, index: int, left: int) -> bool:
        """A heading moves on where two lines of what follows would not fit under it."""
        if not self.styles[index].keeps or index + 1 >= len(self.paragraphs):
            return False
        k = grid_lines(self.styles[index].leading, self.step)
        following = grid_lines(self.styles[index + 1].leading, self.step)
        used = left * k + self.before[index + 1] + LEAST_TOGETHER * following
        return used > self.room() - self._gap(index)


def flow(
    composer: Composer, story: Story, role_of: Callable[[str], Role], columns: Sequence[Column], step: float
) -> Flow:
    """Set ``story`` through ``columns`` in order on a baseline grid of ``step`` points."""
    run = _Flowing(composer, story, role_of, columns, step)
    if columns:
        measure = (run.measure(0),)
        composer.prepare([run.wanted(index, measure) for index in range(len(story.paragraphs))])
    over_lines = over_words = 0
    for index in range(len(story.paragraphs)):
        placed = run.place(index) if run.column < len(columns) else 0
        lines = run.last_lines if placed or run.column < len(columns) else run.lines_here(index)
        if placed < lines.count:
            k = grid_lines(run.styles[index].leading, step)
            over_lines += (lines.count - placed) * k + (run.before[index] if not placed else 0)
            over_words += lines.words_from(placed)
    room = run.room() + sum(column.lines for column in columns[run.column + 1 :])
    return Flow(tuple(columns), tuple(run.chunks), over_lines, over_words, room)
