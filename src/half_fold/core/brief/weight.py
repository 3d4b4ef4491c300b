"""The weight of a copy and of the run: area x grammage over all leaves, cover and boards; glue is ignored."""

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.bulk import ENDPAPER_LEAVES, leaf_width, leaves_by_paper
from half_fold.core.brief.papers import find_paper
from half_fold.core.brief.spine import copy_thickness, spine
from half_fold.core.brief.stock import grammage
from half_fold.core.brief.wrap import (
    board_height,
    board_width,
    case_height,
    case_width,
    cover_panels,
    has_cover,
    is_cased,
    jacket_height,
    jacket_width,
)
from half_fold.core.measure.length import figure
from half_fold.core.measure.worked import Worked, total
from half_fold.core.publication.records import Publication

BOARD_KG_M2_MM = 0.64
CARTON_G, CARTON_MM = 12_000.0, 300.0


def weight(publication: Publication) -> Worked | None:
    """Grams of one copy; None where a paper's grammage is not known."""
    parts = _parts(publication)
    if parts is None:
        return None
    return total(parts).named("Weight of a copy", "weight.copy")


def _parts(publication: Publication) -> list[Worked] | None:
    brief = publication.brief
    leaf = brief.width.mm * brief.height.mm
    sheets = 2 if binding_named(brief.binding).mounted else 1
    found: list[Worked | None] = [
        _sheet(publication, f"Text on {name}", name, count * sheets, leaf)
        for name, count in leaves_by_paper(publication).items()
    ]
    for insert in publication.inserts:
        area = leaf_width(publication, insert) * insert.height.mm * insert.up
        found.append(_sheet(publication, insert.name, insert.paper, 1, area))
    if brief.endpapers != "none":
        found.append(_sheet(publication, "Endpapers", brief.endpapers, ENDPAPER_LEAVES, leaf))
    if is_cased(publication):
        found += _case(publication)
    elif has_cover(publication):
        panels = cover_panels(publication)
        width = 2 * panels.width + (panels.spine or 0.0) + panels.flap + panels.front_flap
        found.append(_sheet(publication, "Cover", brief.cover_paper, 1, width * brief.height.mm))
    parts = [part for part in found if part is not None]
    return parts if len(parts) == len(found) else None


def _case(publication: Publication) -> list[Worked | None]:
    brief = publication.brief
    thick, back = brief.boards.mm, spine(publication)
    assert back is not None
    area = (2 * board_width(publication).value + back.value) * board_height(publication).value
    how = f"{figure(area / 100, 0)} cm² × {figure(thick)} mm × 0.64 kg/m²"
    found: list[Worked | None] = [Worked(area / 1e6 * thick * BOARD_KG_M2_MM * 1000, "g", "Boards", how)]
    if brief.cover_paper != "none":
        covering = case_width(publication).value * case_height(publication).value
        found.append(_sheet(publication, "Covering", brief.cover_paper, 1, covering))
    width, height = jacket_width(publication), jacket_height(publication)
    if width is not None and height is not None:
        found.append(_sheet(publication, "Jacket", brief.jacket, 1, width.value * height.value))
    return found


def _sheet(publication: Publication, name: str, paper: str, count: int, area_mm2: float) -> Worked | None:
    per_m2 = grammage(find_paper(publication, paper))
    if per_m2 is None:
        return None
    how = f"{count} × {figure(area_mm2 / 100, 1)} cm² × {per_m2.text}"
    return Worked(count * area_mm2 / 1e6 * per_m2.value, "g", name, how, (per_m2,))


def run_weight(publication: Publication) -> Worked | None:
    """Kilograms of the whole run; None where quantity or weight is not known."""
    copy, count = weight(publication), publication.brief.quantity
    if copy is None or not count:
        return None
    how = f"{figure(count, 0)} × {copy.text}"
    return Worked(count * copy.value / 1000, "kg", "Weight of the run", how, (copy,), "weight.run")


def carton(publication: Publication) -> Worked | None:
    """Copies to a carton of at most 12 kg stacked 300 mm high, with the stack's height in the working."""
    copy = weight(publication)
    if copy is None:
        return None
    thick = copy_thickness(publication)
    count = max(1, int(min(CARTON_G // copy.value, CARTON_MM // thick.value)))
    stack = f"a stack of {figure(count * thick.value, 0)} mm, {figure(count * copy.value / 1000, 1)} kg"
    how = f"at most 12 kg and 300 mm: {stack}"
    return Worked(count, "copies", "In a carton", how, (copy, thick), "carton.copies")
