"""What goes on each sheet of the file: a page, a spread or the cover flat, with its boxes."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from half_fold.core.cover.flat import cover_flat, cover_marks
from half_fold.core.drawing.marks import Mark
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import Spread, is_recto, spreads
from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter
from half_fold.core.spread.frames import block_box, blocks_on, page_frame_of, spread_area

ACROSS = 0.01


@dataclass(frozen=True, slots=True)
class Sheet:
    """Marks in their own coordinates, the trim and bleed in the same, and the clip of each mark."""

    label: str
    trim: Rect
    bleed: Rect
    marks: tuple[Mark, ...]
    clip_of: Callable[[Mark], Rect]
    folds: tuple[float, ...] = ()


def page_sheets(publication: Publication, setter: Setter) -> Iterator[Sheet]:
    """Single pages in reading order, cut at the fold, blocks that cross it running on into the inner bleed."""
    for spread in spreads(len(publication.pages)):
        marks = setter.spread(publication, spread).marks
        crossing = _crossing(publication, spread)
        for number in spread.numbers:
            frame = page_frame_of(publication, number)
            whole = frame.bleed_box
            recto = is_recto(number)
            cut = (
                Rect(0.0, whole.top, whole.right, whole.bottom)
                if recto
                else Rect(whole.left, whole.top, 0.0, whole.bottom)
            )
            yield Sheet(str(number), frame.trim, whole, marks, _clipper(crossing, whole, cut))


def _clipper(crossing: frozenset[str], whole: Rect, cut: Rect) -> Callable[[Mark], Rect]:
    return lambda mark: whole if mark.block in crossing else cut


def _crossing(publication: Publication, spread: Spread) -> frozenset[str]:
    """Blocks that lie on both pages."""
    found = set()
    for number, _page, block in blocks_on(publication, spread):
        box = block_box(publication, number, block)
        if box.left < -ACROSS and box.right > ACROSS and len(spread.numbers) == 2:
            found.add(block.id)
    return frozenset(found)


def spread_sheets(publication: Publication, setter: Setter) -> Iterator[Sheet]:
    """Spreads as the reader sees them."""
    bleed = publication.brief.bleed.pt
    for spread in spreads(len(publication.pages)):
        trim = spread_area(publication, spread)
        whole = trim.grown(bleed)
        marks = setter.spread(publication, spread).marks
        folds = (0.0,) if len(spread.numbers) == 2 else ()
        yield Sheet(spread.label, trim, whole, marks, _always(whole), folds)


def _always(whole: Rect) -> Callable[[Mark], Rect]:
    return lambda _mark: whole


def cover_sheet(publication: Publication) -> Sheet:
    """The cover flat, one page."""
    flat = cover_flat(publication)
    whole = flat.trim.grown(flat.bleed)
    folds = (flat.spine.left, flat.spine.right) if flat.spine is not None else (flat.back.right,)
    return Sheet("cover", flat.trim, whole, cover_marks(publication).marks, _always(whole), folds)
