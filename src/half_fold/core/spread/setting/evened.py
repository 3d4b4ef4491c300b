"""Evened stacks: every line at the size at which its own ink runs from edge to edge of the measure.

Lines are spaced by their ink, not by a leading, so that a line without descenders draws the next one up.
Where the whole is taller than its block, all lines shrink by one factor and stay even.
"""

from collections.abc import Sequence
from functools import partial
from itertools import pairwise

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import UNSAID, Glyphs, Origin, from_block
from half_fold.core.drawing.tone import Tone
from half_fold.core.inks.tones import ink as ink_named
from half_fold.core.inks.tones import ink_of_role
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.publication.records import Block, HoldsDisplay, Paragraph, Publication, Role
from half_fold.core.publication.surgery import role_in, role_named
from half_fold.core.spread.where.filled import filled
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.marks.unbroken import unbroken

GAP_EMS = 0.2
_TRIED = 100.0


class SetLine(Struct, frozen=True):
    """A line of display text: its role, its size in points, and its marks."""

    role: str
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
                box = Rect(x + left, mark.baseline + top, x + right, mark.baseline + bottom)
                boxes.append(box if mark.turn is None else mark.turn.around(box))
    if not boxes:
        return Rect(0, 0, 0, 0)
    return hull(boxes)


def size_of(publication: Publication, holds: HoldsDisplay, paragraph: Paragraph) -> float | None:
    """The size of a paragraph's lines in points, where it is not that of its role: of second lines in a ratio."""
    own = holds.size.pt if holds.size is not None else None
    first = holds.paragraphs[0].role
    if not holds.second or paragraph.role == first:
        return own
    main = role_in(publication, holds, first).size.pt if own is None else own
    return main * holds.second / 100


def one_line(
    composer: Composer,
    publication: Publication,
    paragraph: Paragraph,
    size: float,
    ink: str | Tone,
    role: Role | None = None,
) -> list[Glyphs]:
    """A paragraph on one line at ``size``, its pen starting at the origin; in its own role, or in another."""
    role = role or role_named(publication, paragraph.role)
    style = style_of(role, publication.language, size, "left")
    line = unbroken(composer, filled(publication, paragraph), style)
    return line.marks(0.0, 0.0, ink_of_role(publication, role, ink), UNSAID, partial(ink_named, publication))


def evened(composer: Composer, publication: Publication, block: Block, box: Rect) -> list[SetLine]:
    """The lines of an evened stack in ``box``, from head to foot: by their size, their width or their tracking."""
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    tried = [_Tried(composer, publication, holds, paragraph) for paragraph in holds.paragraphs]
    lines = [line.filling(box.width) for line in tried if line.ink.width > 0]
    if not lines:
        return []
    gaps = [GAP_EMS * min(one.size, other.size) for one, other in pairwise(lines)]
    inks = [ink_of(list(line.marks)) for line in lines]
    height = sum(ink.height for ink in inks) + sum(gaps)
    shrink = min(1.0, box.height / height) if height else 1.0
    y = box.top + {"head": 0.0, "middle": 0.5, "foot": 1.0}[holds.stands] * (box.height - shrink * height)
    left = box.left + {"centre": 0.5, "right": 1.0}.get(_side(publication, holds), 0.0) * box.width * (1 - shrink)
    out = []
    for line, ink, gap in zip(lines, inks, [*gaps, 0.0], strict=True):
        out.append(_placed(line, from_block(block.id), shrink, left - ink.left * shrink, y - ink.top * shrink))
        y += (ink.height + gap) * shrink
    return out


MOST_TRACKED = 0.04  # ems: as far as a reader does not see that letters were moved apart or together


class _Tried:
    """A paragraph as a line at the size of its role, or of its block, to be brought to a measure."""

    def __init__(self, composer: Composer, publication: Publication, holds: HoldsDisplay, paragraph: Paragraph) -> None:
        role = role_in(publication, holds, paragraph.role)
        own = size_of(publication, holds, paragraph) or role.size.pt
        self.role, self.by = paragraph.role, holds.even_by
        self.size = _TRIED if self.by == "size" else own
        self.marks = one_line(composer, publication, paragraph, self.size, holds.ink, role)
        self.ink = ink_of(self.marks)

    def filling(self, measure: float) -> SetLine:
        """The line as wide as the measure."""
        factor = measure / self.ink.width
        if self.by == "size":
            return SetLine(self.role, self.size * factor, tuple(_sized(mark, factor) for mark in self.marks))
        if self.by == "width":
            wide = Affine(a=factor)
            return SetLine(self.role, self.size, tuple(replace(mark, turn=wide) for mark in self.marks))
        spare = measure - self.ink.width
        if self.by == "tracking":
            return SetLine(self.role, self.size, tuple(_tracked(self.marks, spare)))
        return self._by_both(measure, spare)

    def _by_both(self, measure: float, spare: float) -> SetLine:
        """By tracking as far as that goes unnoticed, and by size for what is left: the role's size is hardly left."""
        most = MOST_TRACKED * self.size * _gaps(self.marks)
        given = max(-most, min(most, spare))
        factor = measure / (self.ink.width + given)
        marks = _tracked(self.marks, given)
        return SetLine(self.role, self.size * factor, tuple(_sized(mark, factor) for mark in marks))


def _sized(mark: Glyphs, factor: float) -> Glyphs:
    return replace(mark, size=mark.size * factor, xs=mark.xs * factor, baseline=mark.baseline * factor)


def _begins(mark: Glyphs) -> npt.NDArray[np.bool_]:
    """Which glyphs begin a letter of their own."""
    return np.array([bool(text) for text in mark.texts], bool)


def _gaps(marks: Sequence[Glyphs]) -> int:
    """How many gaps between letters a line has."""
    return sum(int(_begins(mark).sum()) for mark in marks) - 1


def _tracked(marks: Sequence[Glyphs], spare: float) -> list[Glyphs]:
    """What is spare, given in equal parts between letters; a mark over or under one goes with it."""
    begins, gaps = [_begins(mark) for mark in marks], _gaps(marks)
    each_gap, before = spare / gaps if gaps > 0 else 0.0, 0
    out = []
    for mark, starts in zip(marks, begins, strict=True):
        place = before + np.cumsum(starts) - 1
        before += int(starts.sum())
        out.append(replace(mark, xs=mark.xs + np.maximum(place, 0) * each_gap))
    return out


def _placed(line: SetLine, origin: Origin, shrink: float, left: float, baseline: float) -> SetLine:
    """A line drawn down by a factor, and brought to its place."""
    marks = []
    for mark in line.marks:
        if mark.turn is None:
            small = _sized(mark, shrink)
            marks.append(replace(small, xs=small.xs + left, baseline=small.baseline + baseline, origin=origin))
        else:
            turn = Affine(shrink, 0, 0, shrink, left, baseline).after(mark.turn)
            marks.append(replace(mark, turn=turn, origin=origin))
    return SetLine(line.role, line.size * shrink, tuple(marks))


def _side(publication: Publication, holds: HoldsDisplay) -> str:
    return holds.side or role_in(publication, holds, holds.paragraphs[0].role).align
