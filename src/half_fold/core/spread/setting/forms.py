"""The form of a panel, a picture or a ground in its box, and the strokes along it."""

import math

import numpy as np

from half_fold.core.drawing import shapes
from half_fold.core.drawing.marks import Stroke
from half_fold.core.drawing.outline import Outline, ellipse, rectangle
from half_fold.core.inks.tones import fill_of
from half_fold.core.measure.length import Length
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import RECTANGLE, Edge, Form, Publication

DASH, GAP, DOT_GAP = 3.0, 2.0, 2.0  # in weights of the stroke
FLASH_CORNER = "head right"


def is_plain(form: Form) -> bool:
    """Whether it is the rectangle itself."""
    return form is RECTANGLE or (form.kind == "rectangle" and not _size(form) and not form.slice)


def _size(form: Form) -> float:
    return form.corner.pt if form.corner is not None else 0.0


def outline_in(form: Form, box: Rect) -> Outline:
    """The outline of a form in a box; sliced where it is."""
    outline = _whole(form, box)
    if len(form.slice) == 2:
        from half_fold.core.drawing.regions import slice_region

        start, end = ((box.left + x * box.width, box.top + y * box.height) for x, y in form.slice)
        return slice_region(outline, start, end) or outline
    return outline


def _whole(form: Form, box: Rect) -> Outline:
    if form.kind == "ellipse":
        return ellipse(box)
    if form.kind == "circle":
        return shapes.circle(box)
    if form.kind == "ring":
        return shapes.ring(box, form.hole / 100)
    if form.kind == "burst":
        return shapes.burst(box, form.points, form.depth / 100)
    if form.kind == "banner":
        return shapes.banner(box, form.depth / 100)
    if form.kind == "flash":
        return shapes.flash(box, form.only[0] if form.only else FLASH_CORNER, form.depth / 100)
    if form.kind == "polygon" and len(form.places) > 2:
        return shapes.placed_polygon(box, form.places)
    return shapes.cornered(box, _size(form), form.corners, form.only)


def box_holding(form: Form, inner: Rect) -> Rect:
    """The box in which a form holds all of a rectangle: no larger than it need be."""
    (x, y), wide, high = inner.centre, inner.width / 2, inner.height / 2
    if form.kind in ("ellipse", "ring", "burst"):
        reach = math.sqrt(2) / (1 - form.depth / 100 if form.kind == "burst" else 1.0)
        wide, high = wide * reach, high * reach
    elif form.kind == "circle":
        wide = high = math.hypot(wide, high)
    elif form.kind == "banner":
        wide += form.depth / 100 * inner.height
    return Rect(x - wide, y - high, x + wide, y + high)


def edge_outline(form: Form, box: Rect, edge: Edge) -> Outline | None:
    """The middle of a stroke along a form, inside, on or outside its outline; None where no room is left for it."""
    half = {"inside": -1, "centred": 0, "outside": 1}[edge.side] * edge.weight.pt / 2
    if not half:
        return outline_in(form, box)
    if is_plain(form):
        return rectangle(box.grown(half))
    if form.kind in ("ellipse", "circle") and not form.slice:
        return _whole(form, box.grown(half))
    if form.kind == "rectangle" and form.corners == "round" and not form.slice:
        return shapes.cornered(box.grown(half), max(0.0, _size(form) + half), "round", form.only)
    from half_fold.core.drawing.regions import grow_region

    return grow_region(outline_in(form, box), half)


def strokes_along(publication: Publication, edge: Edge, outline: Outline, box: Rect) -> list[tuple[Outline, Stroke]]:
    """The strokes of an edge, each with what it runs along; dots are dashes of no length with round ends.

    Each part of a broken one has its own dashes, which go into it without a rest.
    """
    weight, paint = edge.weight.pt, fill_of(publication, edge.ink, edge.tint, box).paint
    if edge.dashes == "none":
        return [(outline, Stroke(paint, weight))]
    is_round, parts = edge.dashes == "dotted", outline.parts
    broken = [dashes_of(edge.dashes, weight, edge.gap, _way_round(part)) for part in parts]
    return [(part, Stroke(paint, weight, dashes, is_round)) for part, dashes in zip(parts, broken, strict=True)]


def _way_round(part: Outline) -> float:
    """How long a closed part is, in points."""
    places = part.flattened(0.001)[0]
    return float(np.hypot(*np.diff(np.vstack([places, places[:1]]), axis=0).T).sum())


def dashes_of(kind: str, weight: float, gap: Length | None, way: float, is_closed: bool = True) -> tuple[float, ...]:
    """The dashes of a stroke of that weight along a way, in points, stretched or drawn together to come out even.

    Round a closed outline the last gap is as the others are; along an open line a dash stands at either end.
    """
    if kind == "none":
        return ()
    dash = DASH * weight if kind == "dashed" else 0.0
    inked = dash or weight  # a dot takes its own width of the way
    clear = gap.pt if gap is not None else {"dashed": GAP, "dotted": DOT_GAP - 1}[kind] * weight
    whole = way if is_closed else way + (clear if dash else clear + weight)
    count = max(1, round(whole / (inked + clear)))
    if not is_closed and count > 1:
        return (dash, (way - count * dash) / (count - 1) if dash else way / (count - 1))
    return (dash, max(way / count - dash, 0.0))
