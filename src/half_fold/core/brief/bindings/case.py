"""Case bound: a sewn block with endpapers in a case of boards, its back flat or round.

A round back follows an arc: the board's width is the chord's times (a/2) / sin(a/2) for a back of angle a.
"""

import math

from half_fold.core.brief.binding import Binding
from half_fold.core.brief.bulk import board_thickness, endpapers, swollen, text_thickness
from half_fold.core.measure.length import figure
from half_fold.core.measure.worked import Worked
from half_fold.core.publication.records import Publication


def case_block(publication: Publication) -> Worked:
    """Text leaves and endpapers."""
    ends = endpapers(publication)
    text = text_thickness(publication)
    return text if ends is None else text.named("Text leaves") + ends


def back_angle(publication: Publication) -> float:
    """Degrees of the back's arc; 0 for a flat one."""
    return float(publication.brief.back.removeprefix("round ")) if publication.brief.back != "flat" else 0.0


def arc_factor(degrees: float) -> float:
    """How much longer an arc of that angle is than its chord."""
    half = math.radians(degrees) / 2
    return half / math.sin(half) if half else 1.0


def case_panel(publication: Publication) -> Worked:
    """The spine board, or the round back's strip."""
    block = swollen(publication, case_block(publication).named("Block", "bulk.text"))
    across = block + 2 * board_thickness(publication)
    angle = back_angle(publication)
    if not angle:
        return across
    how = f"({across.how}) × {figure(arc_factor(angle), 3)} for a back of {angle:g}°"
    return Worked(across.value * arc_factor(angle), "mm", "", how, across.parts)


CASE = Binding(
    "case",
    "Case bound",
    4,
    3.0,
    panel=case_panel,
    block=case_block,
    cover="case",
    signatures=True,
    folded=True,
    sewn=True,
)
