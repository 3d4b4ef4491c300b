"""Paragraphs' lines in columns as marks, with the rules above and below it."""

from collections.abc import Iterable, Iterator, Sequence
from functools import partial
from itertools import chain

from half_fold.core.drawing.marks import Line, Mark, Origin, from_block
from half_fold.core.inks.tones import ink, ink_of_role
from half_fold.core.measure.length import Length
from half_fold.core.publication.records import Publication, Role
from half_fold.core.spread.setting.looks import dressed, look_named, with_lit_words
from half_fold.core.typesetting.flow.columns import Column
from half_fold.core.typesetting.flow.flow import Flow
from half_fold.core.typesetting.flow.pouring import Chunk
from half_fold.core.typesetting.marks.line_marks import PlacedLine, parts_marks
from half_fold.core.typesetting.marks.ruled import with_rules

RULE_AWAY = 0.32  # of the leading, from the cap height up or from the baseline down


def chunks_marks(
    publication: Publication, flow: Flow, chunks: Sequence[Chunk], role: Role, step: float
) -> list[tuple[Mark, ...]]:
    """The marks of the lines of chunks of one role and block, chunk by chunk; ``step`` is the grid's, in points."""
    colour, named = ink_of_role(publication, role), partial(ink, publication)
    columns = [flow.columns[chunk.column] for chunk in chunks]
    parts = [_placed(column, chunk, step) for column, chunk in zip(columns, chunks, strict=True)]
    origin = from_block(columns[0].block)
    by_chunk = [
        [with_lit_words(publication, with_rules(line, role, origin), origin) for line in by_line]
        for by_line in parts_marks(parts, colour, origin, named, chunks[0].step * step)
    ]
    if role.look:
        return [_in_look(publication, chain.from_iterable(by_line), role, origin) for by_line in by_chunk]
    if role.rule_above is None and role.rule_below is None:
        return [tuple(chain.from_iterable(by_line)) for by_line in by_chunk]
    return [
        (*chain.from_iterable(by_line), *_rules(publication, column, chunk, part, role))
        for column, chunk, part, by_line in zip(columns, chunks, parts, by_chunk, strict=True)
    ]


def _in_look(publication: Publication, marks: Iterable[Mark], role: Role, origin: Origin) -> tuple[Mark, ...]:
    look = look_named(publication, role.look)
    return tuple(marks) if look is None else tuple(dressed(publication, list(marks), look, origin))


def _placed(column: Column, chunk: Chunk, step: float) -> PlacedLine:
    """The lines of a chunk at their places."""
    left, first = column.rect.left, column.first_baseline
    at = range(chunk.at, chunk.at + (chunk.end - chunk.start) * chunk.step, chunk.step)
    return PlacedLine(chunk.lines, chunk.start, [(left, first + column.line(each) * step) for each in at])


def _rules(publication: Publication, column: Column, chunk: Chunk, part: PlacedLine, role: Role) -> Iterator[Line]:
    """The rules above the first and below the last line of a paragraph, where they are among the chunk's."""
    lines, style = chunk.lines, chunk.lines.style
    if chunk.start == 0 and role.rule_above is not None:
        y = part.places[0][1] - style.face.cap_height * style.size - RULE_AWAY * style.leading
        yield _rule(publication, column, chunk, 0, y, role.rule_above, role)
    if chunk.end == lines.count and role.rule_below is not None:
        y = part.places[-1][1] + RULE_AWAY * style.leading
        yield _rule(publication, column, chunk, lines.count - 1, y, role.rule_below, role)


def _rule(
    publication: Publication, column: Column, chunk: Chunk, line: int, y: float, weight: Length, role: Role
) -> Line:
    left = column.rect.left + chunk.lines.left(line)
    right = left + chunk.lines.measure(line)
    return Line((left, y), (right, y), ink_of_role(publication, role), weight.pt, from_block(column.block))
