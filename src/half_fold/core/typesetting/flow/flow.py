"""A story threaded through columns: every line on the baseline grid, no widows, headings kept with text."""

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Sequence
from typing import NamedTuple

from msgspec import Struct

from half_fold.core.measure.kept import kept
from half_fold.core.publication.records import Role, Story
from half_fold.core.typesetting.flow.columns import Column
from half_fold.core.typesetting.flow.counting import alike
from half_fold.core.typesetting.flow.pouring import Chunk, Pouring, are_alike
from half_fold.core.typesetting.lines.composer import Composer


class Start(NamedTuple):
    """Where a paragraph began: its column and line, the chunks before it, and what was over before it."""

    column: int
    at: int
    chunks: int
    over_lines: int
    over_words: int


class Flow(Struct, frozen=True, eq=False):
    """Where a story came to stand, and what is over: grid lines and words without a place; ``room`` lines are left.

    ``used`` lines of the grid carry text.

    ``starts`` has one entry a paragraph, so that an edit can go on from where it was made.
    """

    story: Story
    columns: tuple[Column, ...]
    chunks: tuple[Chunk, ...]
    starts: tuple[Start, ...]
    over_lines: int
    over_words: int
    room: int
    used: int

    def chunks_of(self, block: str) -> tuple[Chunk, ...]:
        """What stands in the columns of a block, which follow one another."""
        inside = columns_of_blocks(self.columns).get(block)
        if inside is None:
            return ()
        low = bisect_left(self.chunks, inside[0], key=_column_of)
        return self.chunks[low : bisect_right(self.chunks, inside[1], key=_column_of)]


@kept(400)
def columns_of_blocks(columns: tuple[Column, ...]) -> dict[str, tuple[int, int]]:
    """The first and the last column of every block."""
    found: dict[str, tuple[int, int]] = {}
    for index, column in enumerate(columns):
        found[column.block] = found.get(column.block, (index, index))[0], index
    return found


TOGETHER = 2000  # paragraphs that are set in one go before they are placed


def _column_of(chunk: Chunk) -> int:
    return chunk.column


def flow(
    composer: Composer,
    story: Story,
    role_of: Callable[[str], Role],
    columns: Sequence[Column],
    step: float,
    before: Flow | None = None,
) -> Flow:
    """Set ``story`` through ``columns`` in order on a baseline grid of ``step`` points.

    ``before`` is the flow of an earlier state under the same roles and on the same grid. Through the same columns (the
    same tuple), what stands before the edit stays, and so does what follows once it stands where it stood; where the
    same story has got more columns behind those it had, it goes on from the paragraph they had no room for.
    """
    pouring = Pouring(composer, story.paragraphs, story.language, role_of, columns, step)
    run = _Flowing(pouring, story)
    if before is not None and before.columns is columns and before.story.language == story.language:
        return _go_on(run, before)
    first = _first_over(before) if before is not None and _has_more(pouring, story, before) else 0
    if before is not None and first:
        run.begin_at(before, first)
    run.place_all(first, is_prepared=bool(columns))
    return run.outcome()


def _has_more(pouring: Pouring, story: Story, before: Flow) -> bool:
    """Whether the same story has more columns behind all those it had."""
    had, columns = before.columns, pouring.columns
    is_more = before.story is story and before.over_lines > 0 and 0 < len(had) < len(columns)
    return is_more and are_alike(had) == are_alike(columns) and tuple(columns[: len(had)]) == had


def _first_over(before: Flow) -> int:
    """The first paragraph that was not placed whole, or the one before it, which may be a heading kept with it."""
    after = [start.over_lines for start in before.starts[1:]]
    first = next((index for index, over in enumerate(after) if over), len(after))
    return max(0, first - 1)


class _Flowing:
    """A story being poured, with a note of where each paragraph began."""

    def __init__(self, pouring: Pouring, story: Story) -> None:
        self.pouring, self.story = pouring, story
        self.starts: list[Start] = []
        self.kept = 0  # chunks that an earlier flow had placed

    def place_next(self, index: int) -> None:
        p = self.pouring
        self.starts.append(Start(p.column, p.at, len(p.chunks), p.over_lines, p.over_words))
        p.place_next(index)

    def place_all(self, first: int, is_prepared: bool) -> None:
        """Every paragraph from the ``first`` on; so many are set together as are kept until they are placed."""
        count = len(self.story.paragraphs)
        for index in range(first, count):
            if is_prepared and (index - first) % TOGETHER == 0:
                self.pouring.prepare(range(index, min(index + TOGETHER, count)))
            self.place_next(index)

    def begin_at(self, before: Flow, first: int) -> None:
        """Take over what an earlier flow had placed before paragraph ``first``."""
        p = self.pouring
        self.starts = list(before.starts[:first])
        p.column, p.at, chunks, p.over_lines, p.over_words = before.starts[first]
        p.chunks = list(before.chunks[:chunks])
        self.kept = chunks

    def stands_as(self, before: Flow, index: int) -> bool:
        """Whether the next paragraph begins where paragraph ``index`` of an earlier flow did."""
        return (self.pouring.column, self.pouring.at) == before.starts[index][:2]

    def outcome(self) -> Flow:
        """All that was placed, once nothing is left to place."""
        p = self.pouring
        over = p.over_lines, p.over_words
        used = _lines_of(p.chunks)
        return Flow(self.story, tuple(p.columns), tuple(p.chunks), tuple(self.starts), *over, p.room_left(), used)


def _go_on(run: _Flowing, before: Flow) -> Flow:
    """Set again from the first paragraph that changed to the first after the change that begins as before."""
    old, new = before.story.paragraphs, run.story.paragraphs
    first = alike(old, new)
    if first == len(old) == len(new):
        return before
    if first and run.pouring.kind(first - 1).style.keeps:  # a heading looks at what follows it
        first -= 1
    first = max(0, min(first, len(old) - 1))
    tail = min(alike(old[first:][::-1], new[first:][::-1]), len(new) - first)
    if first:
        run.begin_at(before, first)
    same_from = len(new) - tail + 1  # the first paragraph after the change may be indented otherwise
    shift = len(old) - len(new)
    run.pouring.prepare(range(first, min(same_from, len(new))))
    for index in range(first, len(new)):
        if index >= same_from and run.stands_as(before, index + shift):
            return _joined(run, before, index + shift)
        run.place_next(index)
    return run.outcome()


def _joined(run: _Flowing, before: Flow, at: int) -> Flow:
    """What was set again, and from the old paragraph ``at`` on all as it was."""
    was, p = before.starts[at], run.pouring
    more, lines, words = len(p.chunks) - was.chunks, p.over_lines - was.over_lines, p.over_words - was.over_words
    rest = before.starts[at:]
    if more or lines or words:
        rest = tuple(Start(s.column, s.at, s.chunks + more, s.over_lines + lines, s.over_words + words) for s in rest)
    chunks = (*p.chunks, *before.chunks[was.chunks :])
    over = before.over_lines + lines, before.over_words + words
    used = before.used + _lines_of(p.chunks[run.kept :]) - _lines_of(before.chunks[run.kept : was.chunks])
    return Flow(run.story, before.columns, chunks, (*run.starts, *rest), *over, before.room, used)


def _lines_of(chunks: Sequence[Chunk]) -> int:
    """The lines of the grid that chunks take."""
    return sum([(chunk.end - chunk.start) * chunk.step for chunk in chunks])
