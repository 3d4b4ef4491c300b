"""Evened stacks: every line at the size at which its own ink runs from edge to edge of the measure.

Lines are spaced by their ink, not by a leading, so that a line without descenders draws the next one up.
Where the whole is taller than its block, all lines shrink by one factor and stay even.
"""

from dataclasses import dataclass
from functools import partial
from itertools import pairwise

from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.publication.records import Block, HoldsDisplay, Paragraph, Publication
from half_fold.core.publication.surgery import role_named
from half_fold.core.spread.filled import filled
from half_fold.core.spread.inks import ink as ink_named
from half_fold.core.spread.inks import ink_of_role
from half_fold.core.typesetting.composer import Composer
from half_fold.core.typesetting.faces import face
from half_fold.core.typesetting.roles import style_of
from half_fold.core.typesetting.unbroken import unbroken

GAP_EMS = 0.2
_TRIED = 100.0


@dataclass(frozen=True, slots=True)
class EvenLine:
    """One line of a stack: its size in points, and its marks."""

    size: float
    marks: tuple[Glyphs, ...]


def ink_of(marks: list[Glyphs]) -> Rect:
    """What the glyphs blacken, in points."""
    boxes = []
    for mark in marks:
        drawn = face(mark.face)
        for gid, x in zip(mark.gids.tolist(), mark.xs.tolist(), strict=True):
            left, top, right, bottom = (mark.size * value for value in drawn.ink_of(gid))
            if right > left:
                boxes.append(Rect(x + left, mark.baseline + top, x + right, mark.baseline + bottom))
    if not boxes:
        return Rect(0, 0, 0, 0)
    return hull(boxes)


def one_line(composer: Composer, publication: Publication, paragraph: Paragraph, size: float, ink: str) -> list[Glyphs]:
    """A paragraph on one line at ``size``, its pen starting at the origin."""
    role = role_named(publication, paragraph.role)
    style = style_of(role, publication.language, size, "left")
    line = unbroken(composer, filled(publication, paragraph), style)
    return line.marks(0.0, 0.0, ink_of_role(publication, role, ink), "", partial(ink_named, publication))


def evened(composer: Composer, publication: Publication, block: Block, box: Rect) -> list[EvenLine]:
    """The lines of an evened stack in ``box``, from head to foot."""
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    tried = [
        (paragraph, ink_of(one_line(composer, publication, paragraph, _TRIED, holds.ink)))
        for paragraph in holds.paragraphs
    ]
    tried = [(paragraph, ink) for paragraph, ink in tried if ink.width > 0]
    if not tried:
        return []
    factors = [box.width / ink.width for _, ink in tried]
    gaps = [GAP_EMS * _TRIED * min(pair) for pair in pairwise(factors)]
    height = sum(ink.height * factor for (_, ink), factor in zip(tried, factors, strict=True)) + sum(gaps)
    shrink = min(1.0, box.height / height) if height else 1.0
    y = box.top + {"head": 0.0, "middle": 0.5, "foot": 1.0}[holds.stands] * (box.height - shrink * height)
    left = box.left + {"centre": 0.5, "right": 1.0}.get(_side(publication, holds), 0.0) * box.width * (1 - shrink)
    out = []
    for (paragraph, ink), factor, gap in zip(tried, factors, [*gaps, 0.0], strict=True):
        scale = factor * shrink
        out.append(
            _placed(composer, publication, block, paragraph, scale, left - ink.left * scale, y - ink.top * scale)
        )
        y += (ink.height * factor + gap) * shrink
    return out


def _side(publication: Publication, holds: HoldsDisplay) -> str:
    return holds.side or role_named(publication, holds.paragraphs[0].role).align


def _placed(
    composer: Composer,
    publication: Publication,
    block: Block,
    paragraph: Paragraph,
    scale: float,
    left: float,
    baseline: float,
) -> EvenLine:
    assert isinstance(block.holds, HoldsDisplay)
    size = _TRIED * scale
    marks = one_line(composer, publication, paragraph, size, block.holds.ink)
    return EvenLine(size, tuple(replace(mark, xs=mark.xs + left, baseline=baseline, block=block.id) for mark in marks))
