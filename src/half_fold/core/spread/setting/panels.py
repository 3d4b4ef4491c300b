"""Panels, grounds and rules: areas of ink with their edges, and lines."""

import math

import numpy as np

from half_fold.core.drawing.marks import Line, Mark, Origin, Path, Shape, Stroke
from half_fold.core.drawing.outline import LINE, MOVE, Outline
from half_fold.core.drawing.shapes import Place
from half_fold.core.drawing.tone import Tone
from half_fold.core.inks.tones import fill_of, ink
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Edge, Ground, HoldsPanel, HoldsPicture, HoldsRule, Publication
from half_fold.core.spread.setting.forms import dashes_of, edge_outline, is_plain, outline_in, strokes_along
from half_fold.core.spread.setting.surface import opaque_as


def panel_marks(publication: Publication, origin: Origin, holds: HoldsPanel | Ground, box: Rect) -> list[Mark]:
    """What a panel prints in its box: its area, and its edge."""
    fill = fill_of(publication, holds.ink, holds.tint, box) if holds.ink else None
    edge = holds.edge
    is_toned = fill is None or isinstance(fill.paint, Tone)
    if is_plain(holds.form) and is_toned and (edge is None or _is_simple(publication, edge)):
        tone = fill.paint if fill is not None and isinstance(fill.paint, Tone) else None
        if edge is not None:
            return [Shape(box, tone, ink(publication, edge.ink, edge.tint), edge.weight.pt, origin)]
        return [Shape(box, tone, origin=origin)] if tone is not None else []
    marks: list[Mark] = []
    if fill is not None:
        area = Path(outline_in(holds.form, box), fill.paint, None, origin)
        marks += opaque_as(fill, [area], box.grown(1.0), origin)
    return [*marks, *edge_marks(publication, origin, holds, box)]


def _is_simple(publication: Publication, edge: Edge) -> bool:
    """Whether an edge is a whole line of one ink inside its box."""
    is_ink = not edge.ink or any(each.name == edge.ink for each in publication.inks)
    return edge.dashes == "none" and edge.side == "inside" and is_ink


def edge_marks(
    publication: Publication, origin: Origin, holds: HoldsPanel | Ground | HoldsPicture, box: Rect
) -> list[Mark]:
    """The stroke along an edge, if there is one."""
    edge = holds.edge
    outline = edge_outline(holds.form, box, edge) if edge is not None else None
    if edge is None or outline is None:
        return []
    return [Path(along, None, stroke, origin) for along, stroke in strokes_along(publication, edge, outline, box)]


def rule_marks(publication: Publication, origin: Origin, holds: HoldsRule, box: Rect) -> list[Mark]:
    """A rule in its box."""
    weight, tone = holds.weight.pt, ink(publication, holds.ink, holds.tint)
    start, end = rule_ends(holds, box)
    way = math.dist(start, end)
    dashes = dashes_of(holds.dashes, weight, holds.gap, way, is_closed=False)
    if not dashes and not holds.is_round:
        return [Line(start, end, tone, weight, origin)]
    stroke = Stroke(tone, weight, dashes, holds.is_round or holds.dashes == "dotted")
    return [Path(Outline(bytes([MOVE, LINE]), np.array([start, end])), None, stroke, origin)]


def rule_ends(holds: HoldsRule, box: Rect) -> tuple[Place, Place]:
    """Where a rule begins and ends: all of its weight inside its box."""
    half = holds.weight.pt / 2
    left, top, right, bottom = box
    (x, y), stands = box.centre, holds.stands
    if holds.runs == "across":
        y = {"first": min(top + half, y), "middle": y, "last": max(bottom - half, y)}[stands]
        return (left, y), (right, y)
    if holds.runs == "down":
        x = {"first": min(left + half, x), "middle": x, "last": max(right - half, x)}[stands]
        return (x, top), (x, bottom)
    return ((left, top), (right, bottom)) if holds.runs == "falling" else ((left, bottom), (right, top))
