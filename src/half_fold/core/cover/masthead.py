"""How much of each letter of a masthead is hidden by what lies in front of it, and the least that mends it.

Measured on the letters' own shapes: of a letter's area, the share that is covered, as the inks come to lie. The limits
are our own judgement, for no standard gives any: a name is taken in by its first letters and by the heads of all.
"""

from collections.abc import Callable, Iterator
from functools import partial
from math import ceil, floor

import msgspec
import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.cover.flat import IN_VIEW
from half_fold.core.cover.sides import front_page
from half_fold.core.cover.surfaces import SideSurface
from half_fold.core.drawing.changes import within
from half_fold.core.drawing.marks import DisplayList, Glyphs, Group, Mark, leaves
from half_fold.core.drawing.planes import Layer, Pixels, Plane, Sources
from half_fold.core.legibility.grounds import sources_of
from half_fold.core.legibility.reading import Surface
from half_fold.core.legibility.remedies import Remedy
from half_fold.core.legibility.verdicts import Verdict
from half_fold.core.measure.length import figure, show
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.measure.worked import Worked, given
from half_fold.core.pictures.library.fit import placed
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPicture, Publication
from half_fold.core.publication.surgery import is_free, picture_of, with_thing_anywhere
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.where.frames import block_box, blocks_on, hull_of, page_frame_of
from half_fold.core.spread.where.reaching import put_in

MASTHEAD = "masthead"
SCALE = 2.0  # pixels to the point
SOUGHT = 1.0  # while a remedy is looked for
PART, GONE = 0.5, 0.75  # of a letter: from where on it is in doubt, and gone
PART_OF_ALL, GONE_OF_ALL = 0.25, 0.5  # of all letters
SOLID, LEAST_PART = 0.5, 0.01  # of a drawn name: how opaque it is there, and how much of all a part has to be
TRIED = 12  # steps of a way
_NO_INKS: Plane = np.zeros((1, 1, 4), np.float32)
FARTHEST = 0.2  # of the sheet's height: no remedy goes farther
LEAST_SIZE, CLOSEST = 0.7, 1.5


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
    return None if name is None else _measured(sheet, sheet.marks(), name, scale)


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


def _measured(sheet: Surface, marks: DisplayList, name: str, scale: float) -> Masthead | None:
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
    if last < len(marks) and isinstance(marks[last], Group):
        group = marks[last]
        assert isinstance(group, Group)
        inner = tuple(_in_front(group.marks, name))
        if inner:
            yield replace(group, marks=inner)
    yield from (mark for mark in marks[last + 1 :] if mark.origin.block != name)


def _has(mark: Mark, name: str) -> bool:
    return any(each.origin.block == name for each in leaves((mark,)))


# What mends it ------------------------------------------------------------------------------------


def uncovered(sheet: Surface, go_on: Callable[[], bool] = lambda: True) -> list[Remedy]:
    """The smallest moves and sizes of what is in front, and of the masthead, with which the name reads well.

    The nearest first; each is done for real and measured again. Nothing where it reads well already.
    """
    now = masthead_of(sheet)
    if now is None or now.verdict == "good":
        return []
    found: list[tuple[float, Remedy]] = []
    for way in (_subject_moved, _subject_smaller, _both_reframed, _masthead_moved):
        if not go_on():
            break
        found += way(sheet, now)
    return [remedy for _, remedy in sorted(found, key=lambda each: each[0])]


class Uncovered(Remedy, frozen=True):
    """A masthead less hidden: ``score`` is what is then seen of it, ``worst`` what is then hidden of one letter."""

    worst: float = 0.0

    @property
    def then(self) -> str:
        hidden, most = figure(100 * (1 - self.score), 0), figure(100 * self.worst, 0)
        return f"Then {hidden} % of the name is hidden, and of no letter more than {most} %."


def _passes(sheet: Surface, publication: Publication, name: str, scale: float) -> Masthead | None:
    """The masthead as it then is, where it reads well."""
    changed = sheet.changed(publication)
    made = _measured(changed, changed.marks(), name, scale)
    return made if made is not None and made.verdict == "good" else None


def _first(
    sheet: Surface, now: Masthead, steps: Iterator[tuple[float, str, Callable[[], Publication | None]]]
) -> Iterator[tuple[float, Remedy]]:
    """The first of ever larger steps that passes, as a remedy; what cannot be done is passed over."""
    for size, words, make in steps:
        try:
            made = make()
        except Problem:
            return
        if made is None or _passes(sheet, made, now.block, SOUGHT) is None:
            continue
        good = _passes(sheet, made, now.block, SCALE)
        if good is not None:
            yield size, Uncovered(words, 1 - good.hidden, made, good.worst.hidden)
            return


def _subjects(sheet: Surface, now: Masthead) -> Iterator[tuple[int, Block, list[tuple[int, Block]]]]:
    """The free pictures in front, each with those behind it that show the same in the same box."""
    every = [(page, block) for page, _, block in blocks_on(sheet.publication, sheet.spread)]
    for page, block in every:
        if block.id in now.in_front and isinstance(block.holds, HoldsPicture) and is_free(sheet.publication, block.id):
            box = block_box(sheet.publication, page, block)
            twins = [
                (number, other)
                for number, other in every
                if other.id != block.id
                and isinstance(other.holds, HoldsPicture)
                and _is_same(block_box(sheet.publication, number, other), box)
            ]
            yield page, block, twins


def _is_same(one: Rect, other: Rect) -> bool:
    return max(abs(a - b) for a, b in zip(one, other, strict=True)) < 0.01


def _ways(sheet: Surface) -> Iterator[tuple[str, float, float, float]]:
    """Ways to go, as words and a direction, with how long a step is."""
    step = FARTHEST * sheet.marks().area.height / TRIED
    for words, across, down in (("down", 0, 1), ("up", 0, -1), ("to the left", -1, 0), ("to the right", 1, 0)):
        yield words, across, down, step


def _subject_moved(sheet: Surface, now: Masthead) -> Iterator[tuple[float, Remedy]]:
    for page, block, twins in _subjects(sheet, now):
        if twins:
            continue
        box = block_box(sheet.publication, page, block)
        for words, across, down, step in _ways(sheet):

            def steps(
                words: str = words, across: float = across, down: float = down, step: float = step,
                page: int = page, block: Block = block, box: Rect = box,
            ) -> Iterator[tuple[float, str, Callable[[], Publication | None]]]:  # fmt: skip
                for n in range(1, TRIED + 1):
                    there = box.moved(across * step * n, down * step * n)
                    if _crosses_fold(sheet, page, box, there):
                        return
                    said = f"What is in front {show(step * n, sheet.publication.brief.unit)} {words}"
                    yield step * n, said, partial(put_in, sheet.publication, block.id, there)

            yield from _first(sheet, now, steps())


def _crosses_fold(sheet: Surface, page: int, before: Rect, after: Rect) -> bool:
    """Whether what lay on one panel comes to lie on the next."""
    frame = page_frame_of(sheet.publication, page)
    if frame.on_right:
        return after.left < min(before.left, frame.fold) - 0.01
    return after.right > max(before.right, frame.fold) + 0.01


def _subject_smaller(sheet: Surface, now: Masthead) -> Iterator[tuple[float, Remedy]]:
    """About the middle of its foot, which stands on something."""
    for page, block, twins in _subjects(sheet, now):
        if twins:
            continue
        box = block_box(sheet.publication, page, block)
        middle = box.centre[0]

        def steps(
            block: Block = block, box: Rect = box, middle: float = middle
        ) -> Iterator[tuple[float, str, Callable[[], Publication | None]]]:
            for n in range(1, TRIED + 1):
                share = 1 - (1 - LEAST_SIZE) * n / TRIED
                half = box.width * share / 2
                there = Rect(middle - half, box.bottom - box.height * share, middle + half, box.bottom)
                said = f"What is in front at {figure(100 * share, 0)} % of its size"
                moved = box.height * (1 - share)
                yield moved, said, partial(put_in, sheet.publication, block.id, there)

        yield from _first(sheet, now, steps())


def _both_reframed(sheet: Surface, now: Masthead) -> Iterator[tuple[float, Remedy]]:
    """A picture and what is cut out of it, drawn and moved together inside the box that both fill."""
    for page, block, twins in _subjects(sheet, now):
        if not twins:
            continue
        both, box = [block, *(other for _, other in twins)], block_box(sheet.publication, page, block)
        ways = sorted(_framings(box), key=lambda each: each[0])

        def steps(
            both: list[Block] = both, box: Rect = box, ways: list[tuple[float, float, float, float]] = ways
        ) -> Iterator[tuple[float, str, Callable[[], Publication | None]]]:
            for moved, across, down, closer in ways:
                said = f"The picture {_way_said(across, down, sheet.publication.brief.unit)}" + (
                    f", drawn {closer:.2f} ×" if closer > 1 else ""
                )
                yield moved, said, partial(_reframed, sheet.publication, both, box, across, down, closer)

        yield from _first(sheet, now, steps())


def _way_said(across: float, down: float, unit: str) -> str:
    parts = [(down, "down", "up"), (across, "to the right", "to the left")]
    said = [f"{show(abs(by), unit)} {words if by > 0 else back}" for by, words, back in parts if abs(by) > 0.01]
    return " and ".join(said) or "as it lies"


def _framings(box: Rect) -> Iterator[tuple[float, float, float, float]]:
    """Ways to lie in a box: how far that is, across, down and how much closer."""
    step = FARTHEST * box.height / TRIED
    for grown in (1.0, 1.05, 1.1, 1.2, 1.3, CLOSEST):
        for n in range(-TRIED, TRIED + 1):
            for across, down in ((0.0, n * step), (n * step, 0.0)):
                yield abs(across) + abs(down) + (grown - 1) * box.height / 2, across, down, grown


def _reframed(
    publication: Publication, both: list[Block], box: Rect, across: float, down: float, closer: float
) -> Publication | None:
    """Both pictures moved so far and drawn closer; None where they would no longer fill the box."""
    for block in both:
        holds = block.holds
        assert isinstance(holds, HoldsPicture)
        picture = picture_of(publication, holds.picture)
        before = placed(picture, holds, box)
        grown = msgspec.structs.replace(holds, closer=holds.closer * closer)
        wide, high = before.width * closer, before.height * closer
        middle = before.centre[0] + across, before.centre[1] + down
        x, y = (box.centre[0] - middle[0]) / wide + 0.5, (box.centre[1] - middle[1]) / high + 0.5
        asked = msgspec.structs.replace(grown, focus_x=1 - x if holds.flipped else x, focus_y=y, aims=())
        if not (0 <= x <= 1 and 0 <= y <= 1):
            return None
        there = placed(picture, asked, box)
        if abs(there.centre[0] - middle[0]) > 0.1 or abs(there.centre[1] - middle[1]) > 0.1:
            return None
        publication = with_thing_anywhere(publication, msgspec.structs.replace(block, holds=asked))
    return publication


def _masthead_moved(sheet: Surface, now: Masthead) -> Iterator[tuple[float, Remedy]]:
    """Up as far as the safe zone, or down as far as a rack shows."""
    if not is_free(sheet.publication, now.block):
        return
    page, block = next(
        (page, each) for page, _, each in blocks_on(sheet.publication, sheet.spread) if each.id == now.block
    )
    frame, box = page_frame_of(sheet.publication, page), block_box(sheet.publication, page, block)
    ink = hull(letter.area for letter in now.letters)
    head = frame.trim.top + sheet.publication.brief.safe.pt
    foot = frame.trim.top + IN_VIEW * frame.trim.height
    for words, way in (("up", -1.0), ("down", 1.0)):
        room = ink.top - head if way < 0 else foot - ink.bottom

        def steps(
            words: str = words, way: float = way, room: float = room
        ) -> Iterator[tuple[float, str, Callable[[], Publication | None]]]:
            for n in range(1, TRIED + 1):
                far = room * n / TRIED
                if far > 0:
                    there = box.moved(0, way * far)
                    said = f"The masthead {show(far, sheet.publication.brief.unit)} {words}"
                    yield far, said, partial(put_in, sheet.publication, now.block, there)

        yield from _first(sheet, now, steps())
