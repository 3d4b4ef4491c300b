"""What hides a masthead moved or made smaller, or the masthead moved: the least that lets each letter be read."""

from collections.abc import Callable, Iterator
from functools import partial

import msgspec

from half_fold.core.cover.flat import IN_VIEW
from half_fold.core.cover.masthead import SCALE, Masthead, masthead_measured, masthead_of
from half_fold.core.legibility.reading import Surface
from half_fold.core.legibility.remedies import Remedy
from half_fold.core.measure.length import figure, format_length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.pictures.library.fit import placed
from half_fold.core.publication.records import Block, HoldsPicture, Publication
from half_fold.core.publication.surgery import is_free, picture_of, with_thing_anywhere
from half_fold.core.spread.where.frames import block_box, blocks_on, page_frame_of
from half_fold.core.spread.where.reaching import put_in

SOUGHT = 1.0  # while a remedy is looked for
TRIED = 12  # steps of a way
FARTHEST = 0.2  # of the sheet's height: no remedy goes farther
LEAST_SIZE, CLOSEST = 0.7, 1.5


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
    made = masthead_measured(changed, changed.marks(), name, scale)
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
                    said = f"What is in front {format_length(step * n, sheet.publication.brief.unit)} {words}"
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
    said = [
        f"{format_length(abs(by), unit)} {words if by > 0 else back}" for by, words, back in parts if abs(by) > 0.01
    ]
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
                    said = f"The masthead {format_length(far, sheet.publication.brief.unit)} {words}"
                    yield far, said, partial(put_in, sheet.publication, now.block, there)

        yield from _first(sheet, now, steps())
