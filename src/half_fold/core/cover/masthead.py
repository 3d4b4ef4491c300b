"""How much of each letter of a masthead is hidden by what lies in front of it, and the least that mends it.

Measured on the letters' own shapes: of a letter's area, the share that is covered, as the inks come to lie. The limits
are our own judgement, for no standard gives any: a name is taken in by its first letters and by the heads of all.
"""

from collections.abc import Iterator
from math import ceil, floor

import msgspec
import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.apart.covers import front_page
from half_fold.core.cover.surfaces import SideSurface
from half_fold.core.drawing.changes import within
from half_fold.core.drawing.marks import DisplayList, Glyphs, Mark, MarkGroup, leaves
from half_fold.core.drawing.planes import Layer, Pixels, Plane, Sources
from half_fold.core.legibility.grounds import sources_of
from half_fold.core.legibility.reading import Surface
from half_fold.core.legibility.verdicts import Verdict
from half_fold.core.measure.rect import Rect
from half_fold.core.measure.worked import Worked, given
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPicture
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.where.frames import blocks_on, hull_of

MASTHEAD = "masthead"
SCALE = 2.0  # pixels to the point
PART, GONE = 0.5, 0.75  # of a letter: from where on it is in doubt, and gone
PART_OF_ALL, GONE_OF_ALL = 0.25, 0.5  # of all letters
SOLID, LEAST_PART = 0.5, 0.01  # of a drawn name: how opaque it is there, and how much of all a part has to be
_NO_INKS: Plane = np.zeros((1, 1, 4), np.float32)


class Letter(Struct, frozen=True):
    """A letter of the name: where it lies (points), how much of the name it is, and what share of it is ``hidden``."""

    text: str
    area: Rect
    weight: float
    hidden: float


class Masthead(Struct, frozen=True):
    """A masthead's letters in the order they are read, and the blocks that lie in front of them."""

    block: str
    letters: tuple[Letter, ...]
    in_front: tuple[str, ...]

    @property
    def hidden(self) -> float:
        """The share of the whole name that is hidden."""
        whole = sum(each.weight for each in self.letters)
        return sum(each.hidden * each.weight for each in self.letters) / whole if whole else 0.0

    @property
    def worst(self) -> Letter:
        """The letter that most is hidden of."""
        return max(self.letters, key=lambda each: each.hidden)

    @property
    def verdict(self) -> Verdict:
        """Whether the name can still be read."""
        most = self.worst.hidden
        if most > GONE or self.hidden > GONE_OF_ALL:
            return "not to be read"
        return "risky" if most > PART or self.hidden > PART_OF_ALL else "good"

    @property
    def worked(self) -> Worked:
        """The share hidden of the whole, with that of each letter."""
        parts = tuple(
            given(round(100 * each.hidden, 1), "%", f"“{each.text}”", how="of its area, covered by what lies in front")
            for each in self.letters
            if each.hidden > 0.001
        )
        limits = f"{100 * PART:.0f} % of a letter or {100 * PART_OF_ALL:.0f} % of all is in doubt"
        return Worked(round(100 * self.hidden, 1), "%", "Masthead hidden", f"{self.verdict}: {limits}", parts)


def masthead_of(sheet: Surface, scale: float = SCALE) -> Masthead | None:
    """The masthead of a sheet, measured; None where there is none, or it has no letters."""
    name = masthead_block(sheet)
    return None if name is None else masthead_measured(sheet, sheet.marks(), name, scale)


def is_masthead(block: Block) -> bool:
    """Whether a block holds words in the masthead's role, or a picture that is the name."""
    if isinstance(block.holds, HoldsPicture):
        return block.holds.masthead
    return isinstance(block.holds, HoldsDisplay) and any(p.role == MASTHEAD for p in block.holds.paragraphs)


def masthead_block(sheet: Surface) -> str | None:
    """The block on the front that is the masthead; the first of several."""
    if not isinstance(sheet, SideSurface) or sheet.side != "outside":
        return None
    front = front_page(sheet.job)
    on_front = (block for page, _, block in blocks_on(sheet.publication, sheet.spread) if page == front)
    return next((block.id for block in on_front if is_masthead(block)), None)


def masthead_measured(sheet: Surface, marks: DisplayList, name: str, scale: float) -> Masthead | None:
    own = [mark for mark in leaves(marks.marks) if mark.origin.block == name]
    runs = [mark for mark in own if isinstance(mark, Glyphs) and len(mark.gids)]
    page, _, block = next(each for each in blocks_on(sheet.publication, sheet.spread) if each[2].id == name)
    is_drawn = isinstance(block.holds, HoldsPicture)
    if not own or not (runs or is_drawn):
        return None
    area = (hull_of(sheet.publication, page, block) if is_drawn else ink_of(runs)).grown(2)
    sources = _without_inks(sources_of(sheet.folder, sheet.job.pictures, sheet.profile))
    front = within(DisplayList(area, tuple(_in_front(marks.marks, name))), area).marks
    cover = Layer(area, scale, sources).lay(front).alpha
    if is_drawn:
        letters = list(_parts(Layer(area, scale, sources).lay(own).alpha, area, scale, cover))
    else:
        letters = [each for run in runs for each in _letters(run, area, scale, sources, cover)]
    blocks = dict.fromkeys(mark.origin.block for mark in leaves(front) if mark.origin.block)
    return Masthead(name, tuple(letters), tuple(blocks)) if letters else None


def _letters(run: Glyphs, area: Rect, scale: float, sources: Sources, cover: Plane) -> Iterator[Letter]:
    """Each letter of a run laid by itself, on the pixels it reaches, and how much of it lies under what covers it."""
    for n in range(len(run.gids)):
        one = msgspec.structs.replace(run, gids=run.gids[n : n + 1], xs=run.xs[n : n + 1], texts=run.texts[n : n + 1])
        reach = ink_of([one])
        left, top = (floor((at - low) * scale) for at, low in ((reach.left, area.left), (reach.top, area.top)))
        right, bottom = (ceil((at - low) * scale) for at, low in ((reach.right, area.left), (reach.bottom, area.top)))
        there = Rect(left / scale, top / scale, right / scale, bottom / scale).moved(area.left, area.top)
        shape = Layer(there, scale, sources).lay((one,)).alpha
        weight = float(shape.sum())
        if weight > 0:
            under = cover[top : top + shape.shape[0], left : left + shape.shape[1]]
            yield Letter(run.texts[n], reach, weight, float((shape * under).sum()) / weight)


def _parts(drawn: Plane, area: Rect, scale: float, cover: Plane) -> Iterator[Letter]:
    """Each part of a drawn name that hangs together, from left to right; what is too small to be a letter is none."""
    from half_fold.core.measure.opencv import cv2  # which takes a tenth of a second

    count, labels, boxes, _ = cv2.connectedComponentsWithStats((drawn > SOLID).astype(np.uint8))
    sizes = np.bincount(labels.ravel(), weights=drawn.ravel(), minlength=count)
    under = np.bincount(labels.ravel(), weights=(drawn * cover).ravel(), minlength=count)
    large = [n for n in range(1, count) if sizes[n] >= LEAST_PART * sizes[1:].sum()]
    for at, n in enumerate(sorted(large, key=lambda n: int(boxes[n][0])), 1):
        left, top, wide, high = (float(each) / scale for each in boxes[n][:4])
        reach = Rect(left, top, left + wide, top + high).moved(area.left, area.top)
        yield Letter(f"part {at}", reach, float(sizes[n]), float(under[n] / sizes[n]))


def _without_inks(sources: Sources) -> Sources:
    """What pictures cover is asked, and not with what."""

    def opaque(key: str) -> tuple[Pixels, Pixels]:
        return _NO_INKS, sources.pixels_of(key)[1]

    return Sources(sources.outline_of, opaque)


def _in_front(marks: tuple[Mark, ...], name: str) -> Iterator[Mark]:
    """What is drawn after the last mark of a block, but for the block's own."""
    last = max((n for n, mark in enumerate(marks) if _has(mark, name)), default=len(marks))
    if last < len(marks) and isinstance(marks[last], MarkGroup):
        group = marks[last]
        assert isinstance(group, MarkGroup)
        inner = tuple(_in_front(group.marks, name))
        if inner:
            yield replace(group, marks=inner)
    yield from (mark for mark in marks[last + 1 :] if mark.origin.block != name)


def _has(mark: Mark, name: str) -> bool:
    return any(each.origin.block == name for each in leaves((mark,)))
