"""Panels: areas of ink with their edges."""

from half_fold.core.drawing.marks import Mark, Path, Shape, Stroke
from half_fold.core.drawing.outline import Outline, ellipse, rounded
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Edge, HoldsPanel, Publication
from half_fold.core.spread.inks import ink

DASH, GAP, DOT_GAP = 3.0, 2.0, 2.0  # in weights of the stroke


def panel_marks(publication: Publication, block: str, holds: HoldsPanel, box: Rect) -> list[Mark]:
    """What a panel prints in its box: its area, and its edge all inside of it."""
    fill = ink(publication, holds.ink, holds.tint) if holds.ink else None
    edge, corner = holds.edge, holds.corner.pt if holds.corner is not None else 0.0
    is_plain = holds.shape == "rectangle" and corner <= 0
    if is_plain and (edge is None or edge.dashes == "none"):
        if edge is not None:
            return [Shape(box, fill, ink(publication, edge.ink, edge.tint), edge.weight.pt, block)]
        return [Shape(box, fill, block=block)] if fill is not None else []
    marks: list[Mark] = []
    if fill is not None:
        marks.append(Path(_outline(holds, box, corner), fill, None, block))
    if edge is not None:
        half = edge.weight.pt / 2
        inner = _outline(holds, box.grown(-half), max(0.0, corner - half))
        marks.append(Path(inner, None, _stroke(publication, edge), block))
    return marks


def _outline(holds: HoldsPanel, box: Rect, corner: float) -> Outline:
    return ellipse(box) if holds.shape == "ellipse" else rounded(box, corner)


def _stroke(publication: Publication, edge: Edge) -> Stroke:
    """Dots are dashes of no length with round ends."""
    weight, tone = edge.weight.pt, ink(publication, edge.ink, edge.tint)
    dashes = {"none": (), "dashed": (DASH * weight, GAP * weight), "dotted": (0.0, DOT_GAP * weight)}[edge.dashes]
    return Stroke(tone, weight, dashes, edge.dashes == "dotted")
