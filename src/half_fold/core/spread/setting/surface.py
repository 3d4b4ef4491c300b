"""What lies on a thing within its edge: an inner glow, an edge that stands out, grain; and fades and soft edges."""

import math
from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, Mark, MarkGroup, Origin, Path, PictureMark, Shape
from half_fold.core.drawing.outline import Outline, rectangle
from half_fold.core.drawing.tone import BLACK, WHITE, through
from half_fold.core.inks.tones import Filled, faded, ink
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Fade, Look, Publication
from half_fold.core.spread.setting.softness import feathered, grains, inward, slopes

LEAST = 0.01  # points: an edge less soft is sharp


def surfaced(publication: Publication, look: Look, shape: Outline, origin: Origin, scale: float) -> list[Mark]:
    """What a look lays on a shape, each seen only within it."""
    made: list[Mark] = []
    inner, raised = look.inner, look.raised
    if inner is not None and inner.opacity > 0 and inner.reach.pt * scale > LEAST:
        tone = ink(publication, inner.ink) if inner.ink else WHITE
        laid = inward(shape, inner.reach.pt * scale, tone, origin)
        made += _within(shape, [laid] if laid is not None else [], inner.opacity / 100, origin)
    if raised is not None and raised.opacity > 0 and raised.width.pt * scale > LEAST:
        way = math.radians(publication.light)
        falls = math.cos(way), math.sin(way)
        made += _within(
            shape, slopes(shape, raised.width.pt * scale, falls, (WHITE, BLACK), origin), raised.opacity / 100, origin
        )
    if look.grain:
        made += _within(shape, grains(shape, look.grain / 100, (WHITE, BLACK), origin), 1.0, origin)
    return made


def _within(shape: Outline, marks: Sequence[Mark], opacity: float, origin: Origin) -> list[Mark]:
    """Marks seen only inside a shape."""
    mask = MarkGroup((Path(shape, BLACK, None, origin),), origin=origin)
    return [MarkGroup(tuple(marks), opacity, origin=origin, mask=mask)] if marks else []


def feather_edge(marks: Sequence[Mark], shape: Outline, reach: float, origin: Origin) -> Sequence[Mark]:
    """Marks that are gone along a shape's edge, and all there ``reach`` points further in."""
    veil = feathered(shape, reach, BLACK, origin) if reach > LEAST else None
    if veil is None:
        return marks
    return [MarkGroup(tuple(marks), origin=origin, mask=MarkGroup((veil,), origin=origin))]


def faded_marks(publication: Publication, marks: Sequence[Mark], fade: Fade, box: Rect, origin: Origin) -> list[Mark]:
    """Areas and words in a fade over a box in place of their ink; pictures seen through as much as it is opaque."""
    fill = faded(publication, fade, 100.0, box)
    return opaque_as(fill, [_painted(mark, fill) for mark in marks], box.grown(1.0), origin)


def opaque_as(fill: Filled, marks: list[Mark], box: Rect, origin: Origin) -> list[Mark]:
    """Marks in a box as opaque as what they are filled with is along its way."""
    if fill.mask is None:
        return marks
    mask = MarkGroup((Path(rectangle(box), fill.mask, None, origin),), origin=origin)
    return [MarkGroup(tuple(marks), origin=origin, mask=mask)]


def _painted(mark: Mark, fill: Filled) -> Mark:
    if isinstance(mark, Glyphs):
        return replace(mark, colour=fill.paint)
    if isinstance(mark, Shape):
        mark = mark.as_path
    if isinstance(mark, Path) and mark.fill is not None:
        return replace(mark, fill=fill.paint)
    if isinstance(mark, MarkGroup) and not any(isinstance(each, PictureMark) for each in mark.marks):
        if mark.affine is not None:  # what is turned or mirrored by itself lies in the fade as it is seen
            fill = Filled(through(fill.paint, mark.affine.inverse()))
        return replace(mark, marks=tuple(_painted(each, fill) for each in mark.marks))
    return mark
