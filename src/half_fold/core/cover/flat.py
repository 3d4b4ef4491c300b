"""The flat of the cover in points: the spine's left fold at the trimmed head is the origin.

The back lies to the left of it, or the front where the copy is bound at the right.

Seen from inside, the inside front cover lies to the left and the inside back cover to the right.
"""

from msgspec.structs import replace

from half_fold.core.apart.cards import card_of, card_side
from half_fold.core.apart.covers import cover_sides, require_cover
from half_fold.core.apart.flat import Flat
from half_fold.core.apart.pair import LEFT, RIGHT, SPREAD
from half_fold.core.apart.sides import Side, is_blank, side_of, spread_of_side
from half_fold.core.brief.allowances import overprint
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.wrap import cover_panels, has_cover, joint
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.drawing.changes import moved
from half_fold.core.drawing.marks import DisplayList, Mark, Origin, PictureMark
from half_fold.core.measure.entry import MM
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.pictures.library.fit import placed
from half_fold.core.plan.inserts import faces
from half_fold.core.plan.spreads import Spread, lies_flat, spreads_of
from half_fold.core.publication.records import HoldsPanel, HoldsPicture, Insert, Publication
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.setting.cards import card_parts
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.panels import panel_marks
from half_fold.core.spread.where.all_round import reach_out
from half_fold.core.spread.where.frames import page_frame_of

_KEPT = 6
GROUND = Origin("cover")
IN_VIEW = 0.25  # of a front, from its head: what a rack shows


def cover_flat(publication: Publication) -> Flat:
    """The panels of the cover. Problem for a self-cover job."""
    require_cover(publication)
    panels = cover_panels(publication)
    width, height = panels.width * MM, panels.height * MM
    folding = (panels.flap * MM, panels.front_flap * MM)
    at_left, at_right = folding[::-1] if publication.brief.right_bound else folding
    thick = panels.spine * MM if panels.spine is not None else 0.0
    right, left = Rect(thick, 0, thick + width, height), Rect(-width, 0, 0, height)
    middle = Rect(0, 0, thick, height) if panels.spine is not None else None
    trim = Rect(left.left - at_left, 0, right.right + at_right, height)
    every = (Rect(trim.left, 0, left.left, height), Rect(right.right, 0, trim.right, height))
    flaps = tuple(flap for flap in every if flap.width > 0)
    front, back = (left, right) if publication.brief.right_bound else (right, left)
    if not panels.has_back:
        return Flat(front, None, None, front, panels.beyond * MM, what=panels.what)
    leaf = every[0 if publication.brief.right_bound else 1] if panels.has_leaf else None
    joints = joint(publication).value * MM if panels.what == "case" else 0.0
    return Flat(trim, back, middle, front, panels.beyond * MM, flaps, leaf, panels.what, joints)


def side_flat(publication: Publication, side: Side) -> Flat:
    """What is laid flat of a side: the cover as it lies under it, or the two faces of a card."""
    card = card_of(publication, side)
    if card is None:
        flat = cover_flat(publication)
        return flat.moved(flat.front.width) if side == "flaps" else flat
    own = side_of(publication, side)
    front, back = (page_frame_of(own, number).trim for number in (LEFT, RIGHT))
    both = zip((front, back), faces(publication, card), strict=True)
    creases = tuple(trim.left + face.fold * MM for trim, face in both if face.fold is not None)
    return Flat(hull((front, back)), back, None, front, own.brief.bleed.pt, what="card", creases=creases)


def piece_flat(publication: Publication) -> Flat:
    """What is laid flat on the working drawing: the cover, or the pages of a job that is not bound."""
    if has_cover(publication) or binding_named(publication.brief.binding).bound:
        return cover_flat(publication)
    width, height, bleed = publication.brief.width.pt, publication.brief.height.pt, publication.brief.bleed.pt
    right, left = Rect(0, 0, width, height), Rect(-width, 0, 0, height)
    if not lies_flat(publication):
        return Flat(right, None, None, right, bleed, what="sheet")
    return Flat(Rect(-width, 0, width, height), left, None, right, bleed, what="spread")


def cover_paper(publication: Publication) -> str:
    """The name of the paper that the cover flat is printed on: the jacket's where there is one."""
    brief = publication.brief
    paper = brief.jacket if cover_flat(publication).what == "jacket" else brief.cover_paper
    return paper if paper != "none" else brief.text_paper


def ground_marks(publication: Publication, flat: Flat) -> list[Mark]:
    """What lies under all of the outside: the cover's ink, those of single panels, the picture of a row of spines."""
    cover, sheet = publication.cover, flat.trim.grown(flat.bleed)
    marks: list[Mark] = panel_marks(publication, GROUND, HoldsPanel(ink=cover.ink, tint=cover.tint), sheet)
    panels = [(cover.back_ink, flat.back), (cover.spine_ground, flat.spine), (cover.front_ink, flat.front)]
    panels += [(cover.flap_ink, flap) for flap in flat.flaps if flap != flat.leaf]
    for ink, panel in panels:
        if ink and panel is not None:
            marks += panel_marks(publication, GROUND, HoldsPanel(ink=ink), _to_the_bleed(panel, flat))
    marks += _of_case(publication, flat)
    if cover.row_picture and flat.spine is not None:
        marks += _of_row(publication, flat, flat.spine)
    return marks


def _of_case(publication: Publication, flat: Flat) -> list[Mark]:
    """The joints of a case and what is turned in round its boards, where they have inks of their own."""
    cover, spine, sheet, trim = publication.cover, flat.spine, flat.trim.grown(flat.bleed), flat.trim
    if flat.what != "case" or spine is None:
        return []
    marks: list[Mark] = []
    if cover.joint_ink:
        for left in (spine.left - flat.joint, spine.right):
            place = Rect(left, sheet.top, left + flat.joint, sheet.bottom)
            marks += panel_marks(publication, GROUND, HoldsPanel(ink=cover.joint_ink), place)
    if cover.turn_in_ink:
        round_it = (
            Rect(sheet.left, sheet.top, sheet.right, trim.top),
            Rect(sheet.left, trim.bottom, sheet.right, sheet.bottom),
            Rect(sheet.left, trim.top, trim.left, trim.bottom),
            Rect(trim.right, trim.top, sheet.right, trim.bottom),
        )
        for place in round_it:
            marks += panel_marks(publication, GROUND, HoldsPanel(ink=cover.turn_in_ink), place)
    return marks


def _to_the_bleed(panel: Rect, flat: Flat) -> Rect:
    """A panel with the bleed beside it; none at its folds."""
    left = panel.left - (flat.bleed if panel.left <= flat.trim.left + 0.01 else 0)
    right = panel.right + (flat.bleed if panel.right >= flat.trim.right - 0.01 else 0)
    return Rect(left, panel.top - flat.bleed, right, panel.bottom + flat.bleed)


def _of_row(publication: Publication, flat: Flat, spine: Rect) -> list[Mark]:
    """The part of a picture over several spines that falls on this one: all spines are taken to be as wide."""
    cover = publication.cover
    seen = _to_the_bleed(spine, flat)
    first = spine.left - (min(cover.row_at, cover.row_of) - 1) * spine.width
    row = Rect(first, seen.top, first + cover.row_of * spine.width, seen.bottom)
    picture = picture_of(publication, cover.row_picture)
    where = placed(picture, HoldsPicture(picture=picture.id), row)
    return [PictureMark(picture.id, where, seen, GROUND)]


class CoverSetter:
    """Composes what lies apart, and keeps what it made. Belongs to one thread, as its setter does."""

    def __init__(self, setter: Setter) -> None:
        self.setter = setter
        self._kept: Keeper[DisplayList] = Keeper(_KEPT)

    def marks(self, publication: Publication, side: Side = "outside") -> DisplayList:
        """The display list of one side, bleed included. Problem for a self-cover job."""
        return self._kept.of((publication, side), lambda: self._composed(publication, side))

    def piece(self, publication: Publication) -> DisplayList:
        """The display list of what ``piece_flat`` lays flat."""
        flat = piece_flat(publication)
        if flat.what not in ("sheet", "spread"):
            return self.marks(publication)
        spread = self.setter.spread(publication, spreads_of(publication)[0])
        return replace(spread, area=flat.trim.grown(flat.bleed))

    def face(self, publication: Publication, insert: Insert, verso: bool) -> tuple[Mark, ...]:
        """All that prints on a face of an insert's leaf, as many cards as stand to its height: from its upper left."""
        side = card_side(insert)
        if card_of(publication, side) is None:
            return ()
        own = reach_out(side_of(publication, side))
        spread, number = (Spread(None, RIGHT), RIGHT) if verso else (Spread(LEFT, None), LEFT)
        trim = page_frame_of(own, number).trim
        blocks = moved(self.setter.spread(own, spread).marks, -trim.left, -trim.top)
        card = (*blocks, *card_parts(self.setter.composer, publication, insert, verso))
        return tuple(mark for n in range(insert.up) for mark in moved(card, 0, n * insert.height.pt))

    def _faces(self, publication: Publication, insert: Insert, side: Side) -> DisplayList:
        """Both faces of a card beside one another: blocks first, then its parts."""
        own, flat = reach_out(side_of(publication, side)), side_flat(publication, side)
        marks = list(self.setter.spread(own, SPREAD).marks)
        for number, verso in ((LEFT, False), (RIGHT, True)):
            trim = page_frame_of(own, number).trim
            parts = card_parts(self.setter.composer, publication, insert, verso)
            marks += moved(parts, trim.left, trim.top)
        return DisplayList(flat.trim.grown(flat.bleed), tuple(marks))

    def _composed(self, publication: Publication, side: Side) -> DisplayList:
        return replace(self._compose(publication, side), black=overprint(publication)[0])

    def _compose(self, publication: Publication, side: Side) -> DisplayList:
        card = card_of(publication, side)
        if card is not None:
            return self._faces(publication, card, side)
        flat = cover_flat(publication)
        sheet = flat.trim.grown(flat.bleed)
        if side == "flaps":
            over = flat.front.width
            return DisplayList(sheet.moved(over, 0), tuple(moved(self.marks(publication).marks, over)))
        blocks = self.setter.spread(side_of(publication, side), spread_of_side(publication)).marks
        if side == "inside":
            return DisplayList(sheet, blocks)
        blocks = (*blocks, *self._flaps(publication, flat))
        marks = ground_marks(publication, flat)
        return DisplayList(sheet, (*marks, *blocks, *spine_text(self.setter.composer, publication).marks))

    def _flaps(self, publication: Publication, flat: Flat) -> tuple[Mark, ...]:
        """What lies on the flaps, where they lie on the flat."""
        if "flaps" not in cover_sides(publication) or is_blank(publication, "flaps"):
            return ()
        spread = spread_of_side(publication, "flaps")
        return tuple(moved(self.setter.spread(side_of(publication, "flaps"), spread).marks, -flat.front.width))


def cover_marks(publication: Publication, side: Side = "outside") -> DisplayList:
    """The display list of one side, composed by itself."""
    return CoverSetter(Setter()).marks(publication, side)
