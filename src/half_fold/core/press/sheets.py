"""What goes on each sheet of the file: a page or a spread, with its boxes."""

from collections.abc import Callable
from dataclasses import dataclass

from half_fold.core.drawing.marks import Mark
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import Spread, on_right, spread_of
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


def page_sheet(publication: Publication, setter: Setter, number: int) -> Sheet:
    """One page, cut at the fold; blocks that cross the fold run on into the inner bleed."""
    spread = spread_of(publication, number)
    frame = page_frame_of(publication, number)
    whole = frame.bleed_box
    left, right = (0.0, whole.right) if on_right(publication, number) else (whole.left, 0.0)
    cut = Rect(left, whole.top, right, whole.bottom)
    marks = setter.spread(publication, spread).marks
    return Sheet(f"page {number}", frame.trim, whole, marks, _clipper(_crossing(publication, spread), whole, cut))


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


def spread_sheet(publication: Publication, setter: Setter, spread: Spread) -> Sheet:
    """One spread whole, with its fold."""
    trim = spread_area(publication, spread)
    whole = trim.grown(publication.brief.bleed.pt)
    folds = (0.0,) if len(spread.numbers) == 2 else ()
    return Sheet(f"spread {spread.label}", trim, whole, setter.spread(publication, spread).marks, always(whole), folds)


def always(whole: Rect) -> Callable[[Mark], Rect]:
    """Every mark clipped to the whole."""
    return lambda _mark: whole
