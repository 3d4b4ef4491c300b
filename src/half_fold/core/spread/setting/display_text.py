"""Display text: a few words set for one block alone, on their own leading."""

from functools import partial

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, from_block
from half_fold.core.inks.tones import ink, ink_of_role
from half_fold.core.measure.length import length
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Block, HoldsDisplay, Publication
from half_fold.core.publication.surgery import role_in
from half_fold.core.spread.setting.captions import captioned
from half_fold.core.spread.setting.evened import SetLine, evened, size_of
from half_fold.core.spread.setting.goods import from_row
from half_fold.core.spread.setting.lying import lying_lines
from half_fold.core.spread.where.filled import filled, words_of_job
from half_fold.core.typesetting.lines.composer import Composer, LineRequest, Lines
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.marks.line_marks import is_overfull, line_marks

SMALLEST_SOLVED = 4.0


class DisplaySetting(Struct, frozen=True):
    """The lines, and how many (of how many words) found no room; the first line that is ``wide``r than its block."""

    lines: tuple[SetLine, ...]
    over_lines: int
    over_words: int
    wide: SetLine | None = None

    @property
    def marks(self) -> tuple[Glyphs, ...]:
        """The marks of all lines."""
        return tuple(mark for line in self.lines for mark in line.marks)


def _set(composer: Composer, publication: Publication, holds: HoldsDisplay, measure: float) -> list[Lines]:
    out = []
    for paragraph in holds.paragraphs:
        size = size_of(publication, holds, paragraph)
        style = style_of(role_in(publication, holds, paragraph.role), publication.language, size, holds.side)
        out.append(composer.lines(LineRequest(filled(publication, paragraph), style, (measure,), False)))
    return out


def display_marks(composer: Composer, publication: Publication, block: Block, box: Rect) -> DisplaySetting:
    """Set the words of a display block in its box."""
    block = captioned(publication, from_row(publication, block))
    follows = block, *box, publication.roles, publication.inks, publication.language, *words_of_job(publication)
    found: DisplaySetting = composer.words.of(follows, lambda: _setting(composer, publication, block, box))
    return found


def _setting(composer: Composer, publication: Publication, block: Block, box: Rect) -> DisplaySetting:
    """The words of a block set, as they are filled in."""
    assert isinstance(block.holds, HoldsDisplay)
    if block.inset is not None:
        box = box.grown(-block.inset.pt)
    if block.holds.lies != "straight":
        return DisplaySetting(*lying_lines(composer, publication, block, box))
    if block.holds.even:
        return DisplaySetting(tuple(evened(composer, publication, block, box)), 0, 0)
    every = _set(composer, publication, block.holds, box.width)
    empty = [role_in(publication, block.holds, paragraph.role).before for paragraph in block.holds.paragraphs]
    placed: list[tuple[Lines, int, float]] = []
    y = 0.0
    for lines, before in zip(every, empty, strict=True):
        style = lines.style
        y += before * style.leading if placed else 0.0
        for line in range(lines.count):
            y += style.leading if placed else style.face.cap_height * style.size
            placed.append((lines, line, y))
    spare = box.height - y
    shift = {"head": 0.0, "middle": max(0.0, spare / 2), "foot": max(0.0, spare)}[block.holds.stands]
    set_lines: list[SetLine] = []
    over_lines, over_words, wide = 0, 0, None
    named = partial(ink, publication)
    for lines, line, down in placed:
        if down > box.height + 0.5:
            over_words += lines.words_from(line) - lines.words_from(line + 1)
            over_lines += 1
            continue
        colour = ink_of_role(publication, role_in(publication, block.holds, lines.paragraph.role), block.holds.ink)
        marks = line_marks(lines, line, box.left, box.top + shift + down, colour, from_block(block.id), named)
        set_lines.append(SetLine(lines.paragraph.role, lines.style.size, tuple(marks)))
        if wide is None and is_overfull(lines, line):
            wide = set_lines[-1]
    return DisplaySetting(tuple(set_lines), over_lines, over_words, wide)


def fitting_size(composer: Composer, publication: Publication, block: Block, box: Rect) -> float:
    """The largest size in half points, below the present one, at which the words fit: found by setting them.

    0 where even the smallest does not.
    """
    assert isinstance(block.holds, HoldsDisplay)
    role = role_in(publication, block.holds, block.holds.paragraphs[0].role)
    now = block.holds.size.pt if block.holds.size is not None else role.size.pt
    halves = range(int(now * 2) - 1, int(SMALLEST_SOLVED * 2) - 1, -1)
    low, high = 0, len(halves)
    while low < high:
        middle = (low + high) // 2
        tried = replace(block, holds=replace(block.holds, size=length(f"{halves[middle] / 2:g}pt")))
        made = display_marks(composer, publication, tried, box)
        fits = not made.over_lines and made.wide is None
        low, high = (low, middle) if fits else (middle + 1, high)
    return halves[low] / 2 if low < len(halves) else 0.0
