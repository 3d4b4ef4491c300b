"""The cover as sheets of the file: a flat, or the loose leaves of a wired copy; and the faces of inserts."""

from collections.abc import Callable
from functools import partial

from half_fold.core.apart.covers import front_page, require_cover
from half_fold.core.apart.pair import LEFT, RIGHT, SPREAD
from half_fold.core.apart.sides import Side, is_blank, page_name, side_of
from half_fold.core.cover.flat import GROUND, CoverSetter, cover_flat, cover_paper
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import Mark
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.inserts import faces
from half_fold.core.press.sheets import Sheet, clip_whole, has_loose_leaves, leaf_clips
from half_fold.core.publication.records import HoldsPanel, Insert, Publication
from half_fold.core.spread.setting.cards import card_area
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.panels import panel_marks
from half_fold.core.spread.where.all_round import reach_out
from half_fold.core.spread.where.frames import page_frame_of


def cover_makers(publication: Publication, setter: Setter) -> list[Callable[[], Sheet]]:
    """The cover flat, and its inside where anything lies on it; Problem where the job has no cover.

    Of a wired copy the two leaves, each face by itself: front, its inside, the inside of the back, back.
    """
    require_cover(publication)
    covers = CoverSetter(setter)
    sides: tuple[Side, ...] = ("outside",) if is_blank(publication, "inside") else ("outside", "inside")
    if not has_loose_leaves(publication):
        return [partial(cover_sheet, publication, covers, side) for side in sides]
    front, back = (LEFT, RIGHT) if publication.brief.right_bound else (RIGHT, LEFT)
    order: list[tuple[Side, int]] = [("outside", front), ("inside", back), ("inside", front), ("outside", back)]
    return [partial(leaf_sheet, publication, setter, side, page) for side, page in order if side in sides]


def cover_sheet(publication: Publication, covers: CoverSetter, side: Side) -> Sheet:
    """One side of the cover flat, with its folds."""
    flat = cover_flat(publication)
    whole = flat.trim.grown(flat.bleed)
    marks = covers.marks(publication, side).marks
    return Sheet(
        f"the cover’s {side}", flat.trim, whole, marks, clip_whole(whole), flat.marked, cover_paper(publication)
    )


def front_sheet(publication: Publication, setter: Setter) -> Sheet:
    """The front alone with bleed all round, what lies beyond its spine edge seen in that; of a wired copy its leaf."""
    front = front_page(publication)
    if has_loose_leaves(publication):
        return leaf_sheet(publication, setter, "outside", front)
    trim = cover_flat(publication).front
    whole = trim.grown(publication.brief.bleed.pt)
    marks = CoverSetter(setter).marks(publication, "outside").marks
    return Sheet("the front", trim, whole, marks, clip_whole(whole), (), cover_paper(publication))


def leaf_sheet(publication: Publication, setter: Setter, side: Side, page: int) -> Sheet:
    """One face of a loose cover leaf, with bleed all round."""
    own = side_of(publication, side)
    trim = page_frame_of(own, page).trim
    whole = trim.grown(cover_flat(publication).bleed)
    marks: tuple[Mark, ...] = setter.spread(reach_out(own), SPREAD).marks
    if side == "outside":
        cover = publication.cover
        ground = HoldsPanel(ink=cover.ink, tint=cover.tint)
        marks = (*panel_marks(publication, GROUND, ground, whole), *marks)
    clip_of = leaf_clips(own, SPREAD, page, whole, whole)
    return Sheet(page_name(publication, side, page), trim, whole, marks, clip_of, (), cover_paper(publication))


def insert_makers(publication: Publication, insert: Insert, setter: Setter) -> list[Callable[[], Sheet]]:
    """Both faces of an insert's leaf."""
    return [partial(insert_sheet, publication, insert, setter, index) for index in (0, 1)]


def insert_sheet(publication: Publication, insert: Insert, setter: Setter, index: int) -> Sheet:
    """Recto (0) or verso (1) of an insert's leaf; where it is cut, perforated and folded is marked beyond the trim."""
    trim, face = card_area(publication, insert), faces(publication, insert)[index]
    whole = trim.grown(publication.brief.bleed.pt)
    marks = CoverSetter(setter).face(publication, insert, verso=index == 1)
    folds = tuple(x * MM for x in face.lines)
    return Sheet(f"{insert.name}, {face.name}", trim, whole, marks, card_clips(insert, whole), folds, insert.paper)


def card_clips(insert: Insert, whole: Rect) -> Callable[[Mark], Rect]:
    """The clip of each mark on a leaf: of several cards the one it lies on, for a single cut parts it from the next."""
    tall, last = insert.height.pt, insert.up - 1

    def clip_of(mark: Mark) -> Rect:
        on = min(max(int(bounds(mark).centre[1] // tall), 0), last)
        top = whole.top if on == 0 else on * tall
        return Rect(whole.left, top, whole.right, whole.bottom if on == last else (on + 1) * tall)

    return clip_of
