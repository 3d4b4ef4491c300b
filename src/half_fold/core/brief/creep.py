"""Creep: sheets that lie inside others are pushed out at the fore edge by what lies outside them.

Push-out of sheet k = f x the summed caliper of all sheets outside it; f = 1 for a sharp fold, pi/2 for a round one.
"""

import math

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.bulk import cover_caliper, text_caliper
from half_fold.core.measure.length import figure
from half_fold.core.measure.worked import Worked
from half_fold.core.publication.records import Publication

WARN_MM = 1.0


def factor(publication: Publication) -> float:
    """How much of the paper's thickness each fold pushes out."""
    return math.pi / 2 if publication.brief.folds_round else 1.0


def sheets(publication: Publication) -> int:
    """How many sheets lie one inside the other: all of a stitched copy, else those of one signature."""
    binding, pages = binding_named(publication.brief.binding), len(publication.pages)
    within = pages if binding.nests else min(pages, publication.brief.signature)
    return max(1, -(-within // 4))


def creep_total(publication: Publication) -> Worked | None:
    """The innermost sheet's push-out against the outermost text sheet; None where nothing nests."""
    if not has_creep(publication):
        return None
    count, thick = sheets(publication), text_caliper(publication).to("mm")
    value = factor(publication) * (count - 1) * thick.value
    how = f"{_said(publication)}({count} sheets − 1) × text paper {thick.number}"
    return Worked(value, "mm", "Creep", how, (thick,), "creep.total")


def creep_cover(publication: Publication) -> Worked | None:
    """What a separate cover around the sheets adds; None where there is none."""
    cover = cover_caliper(publication)
    if cover is None or not binding_named(publication.brief.binding).nests:
        return None
    thick = cover.to("mm")
    how = f"{_said(publication)}cover paper {thick.number}"
    return Worked(factor(publication) * thick.value, "mm", "Creep by the cover", how, (thick,), "creep.cover")


def creep_of(publication: Publication, sheet: int) -> Worked:
    """The push-out of text sheet ``sheet`` (1 is the outermost), the cover outside it included."""
    thick, cover = text_caliper(publication).to("mm"), creep_cover(publication)
    value = factor(publication) * (sheet - 1) * thick.value + (cover.value if cover is not None else 0.0)
    how = f"{_said(publication)}{sheet - 1} × text paper {thick.number}"
    how += f" + cover {cover.number}" if cover is not None else ""
    return Worked(value, "mm", f"Creep of sheet {sheet}", how, (thick,), f"creep.{sheet}")


def creep_numbers(publication: Publication) -> list[Worked]:
    """Total, the cover's share, and every sheet's."""
    whole = creep_total(publication)
    if whole is None:
        return []
    cover = creep_cover(publication)
    each = [creep_of(publication, sheet) for sheet in range(1, sheets(publication) + 1)]
    return [whole, *([cover] if cover is not None else []), *each]


def has_creep(publication: Publication) -> bool:
    """Whether folded sheets lie inside one another when the copy is cut."""
    binding = binding_named(publication.brief.binding)
    return binding.nests or binding.folded


def _said(publication: Publication) -> str:
    return f"{figure(factor(publication), 3)} × " if publication.brief.folds_round else ""
