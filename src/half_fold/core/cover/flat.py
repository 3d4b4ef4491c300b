"""The flat of the cover in points: its left trimmed head corner is the origin, back to the left (left-bound)."""

from dataclasses import dataclass

from half_fold.core.brief.thickness import spine
from half_fold.core.drawing.marks import DisplayList, Mark, Picture, Shape
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.fit import placed
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.inks import ink


@dataclass(frozen=True, slots=True)
class Flat:
    """Trimmed panels; ``spine`` is None where the binding has none."""

    trim: Rect
    back: Rect
    spine: Rect | None
    front: Rect
    bleed: float


def cover_flat(publication: Publication) -> Flat:
    """The panels of the cover. Problem for a self-cover job."""
    brief = publication.brief
    if brief.cover_paper == "none":
        raise Problem("This job is its own cover; set paper.cover to a paper to give it one.")
    width, height = brief.width.pt, brief.height.pt
    panel = spine(publication)
    thick = panel.value * MM if panel is not None else 0.0
    whole = Rect(0, 0, 2 * width + thick, height)
    middle = Rect(width, 0, width + thick, height) if panel is not None else None
    return Flat(whole, Rect(0, 0, width, height), middle, Rect(width + thick, 0, whole.right, height), brief.bleed.pt)


def cover_marks(publication: Publication) -> DisplayList:
    """The cover's display list: its panel over the whole flat to the bleed, and its picture."""
    flat = cover_flat(publication)
    sheet = flat.trim.grown(flat.bleed)
    cover = publication.cover
    marks: list[Mark] = [Shape(sheet, ink(publication, cover.ink, cover.tint), block="cover")]
    if cover.picture:
        box = sheet if cover.over == "wrap" else Rect(flat.front.left, sheet.top, sheet.right, sheet.bottom)
        holds = HoldsPicture(picture=cover.picture, focus_x=cover.focus_x, focus_y=cover.focus_y)
        where = placed(picture_of(publication, cover.picture), holds, box)
        marks.append(Picture(cover.picture, where, box, "cover"))
    return DisplayList(sheet, tuple(marks))
