"""What goes on each sheet of the file: a page or a spread, with its boxes."""

from collections.abc import Callable

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.drawing.marks import Mark
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.sections import paper_of_page
from half_fold.core.plan.spreads import Spread, on_right, spread_of
from half_fold.core.press.crop_marks import crop_marks, slug
from half_fold.core.publication.records import (
    Group,
    Publication,
)
from half_fold.core.publication.things import every_thing
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.all_round import reach_out
from half_fold.core.spread.where.frames import blocks_on, hull_of, is_over_fold, page_frame_of, spread_area, thing_hull

NOWHERE = Rect(0, 0, 0, 0)


class Sheet(Struct, frozen=True):
    """Marks in their own coordinates, trim and bleed in the same, the clip of each mark, and the paper it is for.

    ``signs`` are the printer's marks and ``whole`` what they need, where they are others than at the trim's corners.
    """

    label: str
    trim: Rect
    bleed: Rect
    marks: tuple[Mark, ...]
    clip_of: Callable[[Mark], Rect]
    folds: tuple[float, ...] = ()
    paper: str = ""
    signs: tuple[Mark, ...] | None = None
    whole: Rect | None = None

    @property
    def printers(self) -> tuple[Mark, ...]:
        """The printer's marks."""
        return tuple(crop_marks(self.trim, self._bleed, self.folds)) if self.signs is None else self.signs

    def area(self, marks: bool) -> Rect:
        """How large it is: to its bleed, or as the printer's ``marks`` need."""
        if not marks:
            return self.bleed
        return self.trim.grown(slug(self._bleed)) if self.whole is None else self.whole

    @property
    def _bleed(self) -> float:
        return self.trim.left - self.bleed.left


def page_sheet(publication: Publication, setter: Setter, number: int) -> Sheet:
    """One page, cut at the fold; blocks that cross the fold run on into the inner bleed.

    Where leaves are loose each is trimmed at its inner edge too, and what lies there runs into that bleed.
    """
    spread, paper = spread_of(publication, number), paper_of_page(publication, number)
    frame = page_frame_of(publication, number)
    whole = frame.bleed_box
    left, right = (0.0, whole.right) if on_right(publication, number) else (whole.left, 0.0)
    if not frame.has_fold:
        left, right = whole.left, whole.right
    cut = Rect(left, whole.top, right, whole.bottom)
    crossing = crossing_names(publication, spread)
    label = f"page {number}"
    if not has_loose_leaves(publication):
        marks = setter.spread(publication, spread).marks
        return Sheet(label, frame.trim, whole, marks, _clipper(crossing, whole, cut), (), paper)
    marks = setter.spread(reach_out(publication), spread).marks
    return Sheet(label, frame.trim, whole, marks, leaf_clips(publication, spread, number, whole, cut), (), paper)


def leaf_clips(publication: Publication, spread: Spread, number: int, whole: Rect, cut: Rect) -> Callable[[Mark], Rect]:
    """The clip of each mark on a loose leaf: its own blocks run out into the bleed, the other page's are not seen."""
    crossing = crossing_names(publication, spread)
    clips: dict[str, Rect] = {}
    for page in spread.numbers:
        every = every_thing(publication.pages[page - 1].things)
        clips |= dict.fromkeys((thing.id for thing in every), whole if page == number else NOWHERE)
    clips |= dict.fromkeys(crossing, whole)
    return lambda mark: clips.get(mark.origin.block, cut)


def has_loose_leaves(publication: Publication) -> bool:
    """Whether every leaf is trimmed all round before it is bound."""
    return binding_named(publication.brief.binding).cover == "leaves"


def _clipper(crossing: frozenset[str], whole: Rect, cut: Rect) -> Callable[[Mark], Rect]:
    return lambda mark: whole if mark.origin.block in crossing else cut


def crossing_names(publication: Publication, spread: Spread) -> frozenset[str]:
    """Blocks, and groups as a whole, that lie on both pages."""
    if len(spread.numbers) < 2:
        return frozenset()
    boxes = [(block.id, hull_of(publication, number, block)) for number, _, block in blocks_on(publication, spread)]
    for number in spread.numbers:
        groups = (thing for thing in every_thing(publication.pages[number - 1].things) if isinstance(thing, Group))
        boxes += [(group.id, thing_hull(publication, number, group)) for group in groups]
    return frozenset(name for name, box in boxes if is_over_fold(box))


def spread_sheet(publication: Publication, setter: Setter, spread: Spread) -> Sheet:
    """One spread whole, with its fold."""
    trim = spread_area(publication, spread)
    whole = trim.grown(publication.brief.bleed.pt)
    folds = (0.0,) if len(spread.numbers) == 2 else ()
    marks = setter.spread(publication, spread).marks
    paper = paper_of_page(publication, spread.numbers[0])
    return Sheet(f"spread {spread.label}", trim, whole, marks, clip_whole(whole), folds, paper)


def clip_whole(whole: Rect) -> Callable[[Mark], Rect]:
    """Every mark clipped to the whole."""
    return lambda _mark: whole


def cut_to_trim(sheet: Sheet) -> Sheet:
    """The sheet as a reader sees it: nothing beyond its trim."""
    trim, clip_of = sheet.trim, sheet.clip_of
    return replace(sheet, bleed=trim, clip_of=lambda mark: clip_of(mark).clipped(trim), folds=(), signs=(), whole=trim)
