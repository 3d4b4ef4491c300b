"""A paragraph's lines in a column as marks, with the rules above and below it."""

from functools import partial

from half_fold.core.drawing.marks import Glyphs, Line
from half_fold.core.measure.length import Length
from half_fold.core.publication.records import Publication, Role
from half_fold.core.spread.inks import ink, ink_of_role
from half_fold.core.typesetting.columns import Column
from half_fold.core.typesetting.line_marks import lines_marks
from half_fold.core.typesetting.pouring import Chunk

RULE_AWAY = 0.32  # of the leading, from the cap height up or from the baseline down


def chunk_marks(publication: Publication, column: Column, chunk: Chunk, role: Role, step: float) -> list[Glyphs | Line]:
    """The marks of the lines of a chunk; ``step`` is the baseline grid's, in points."""
    lines, colour = chunk.lines, ink_of_role(publication, role)
    pitch, named = chunk.step * step, partial(ink, publication)
    marks: list[Glyphs | Line] = []
    slots = [column.slot(chunk.at + offset * chunk.step) for offset in range(chunk.end - chunk.start)]
    places = [(column.rect.left, column.first_baseline + slot.line * step) for slot in slots]
    by_line = lines_marks(lines, chunk.start, places, colour, column.block, named, pitch)
    for line, (_, baseline), runs in zip(range(chunk.start, chunk.end), places, by_line, strict=True):
        marks += runs
        if line == 0 and role.rule_above is not None:
            style = lines.style
            y = baseline - style.face.cap_height * style.size - RULE_AWAY * style.leading
            marks.append(_rule(publication, column, chunk, line, y, role.rule_above, role))
        if line == lines.count - 1 and role.rule_below is not None:
            y = baseline + RULE_AWAY * lines.style.leading
            marks.append(_rule(publication, column, chunk, line, y, role.rule_below, role))
    return marks


def _rule(
    publication: Publication, column: Column, chunk: Chunk, line: int, y: float, weight: Length, role: Role
) -> Line:
    left = column.rect.left + chunk.lines.left(line)
    right = left + chunk.lines.measure(line)
    return Line((left, y), (right, y), ink_of_role(publication, role), weight.pt, column.block)
