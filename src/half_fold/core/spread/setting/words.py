"""Words that stand by themselves, as they are printed: on their ground, in their looks."""

from collections.abc import Sequence
from itertools import groupby

from half_fold.core.drawing.affine import mirror
from half_fold.core.drawing.marks import Mark, MarkGroup, Origin, from_block
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Block, Ground, HoldsDisplay, Publication
from half_fold.core.publication.surgery import role_in
from half_fold.core.spread.setting.display_text import DisplaySetting, display_marks
from half_fold.core.spread.setting.evened import SetLine, ink_of
from half_fold.core.spread.setting.forms import box_holding
from half_fold.core.spread.setting.looks import dressed, look_named, with_lit_words
from half_fold.core.spread.setting.panels import panel_marks
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.marks.ruled import with_rules


def words_marks(composer: Composer, publication: Publication, block: Block, box: Rect) -> list[Mark]:
    """What a block of display text prints in its box."""
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    setting, origin = display_marks(composer, publication, block, box), from_block(block.id)
    if block.look:
        words = [mark for line in setting.lines for mark in _ruled(publication, holds, line, origin)]
    else:
        words = _in_their_looks(publication, holds, setting, origin)
    if holds.mirrored:
        words = [MarkGroup(tuple(words), origin=origin, affine=mirror(box, holds.mirrored))]
    if holds.ground is None:
        return words
    where = _hugged(setting, block, holds.ground, box) if holds.ground.hugs else box
    return [*panel_marks(publication, origin, holds.ground, where), *words]


def _in_their_looks(
    publication: Publication, holds: HoldsDisplay, setting: DisplaySetting, origin: Origin
) -> list[Mark]:
    """The words in the looks of their roles; lines of one role and size as one, so that a fade runs over them all."""
    out: list[Mark] = []
    for (name, size), some in groupby(setting.lines, key=lambda line: (line.role, line.size)):
        marks = [mark for line in some for mark in _ruled(publication, holds, line, origin)]
        role = role_in(publication, holds, name)
        look = look_named(publication, role.look)
        out += marks if look is None else dressed(publication, marks, look, origin, size / role.size.pt)
    return out


def _ruled(publication: Publication, holds: HoldsDisplay, line: SetLine, origin: Origin) -> Sequence[Mark]:
    """A line with what is ruled under its words and through them, and those lit that have a light of their own."""
    return with_lit_words(publication, with_rules(line.marks, role_in(publication, holds, line.role), origin), origin)


def _hugged(setting: DisplaySetting, block: Block, ground: Ground, box: Rect) -> Rect:
    """The box of a ground that holds what words print, and as far round it as the block's inset."""
    ink = ink_of(list(setting.marks))
    if ink.is_empty():
        return box
    return box_holding(ground.form, ink.grown(block.inset.pt if block.inset is not None else 0.0))
