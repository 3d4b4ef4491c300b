"""Looks: outlines, shadows and glows of words and of what blocks hold, as marks behind and in place of their own."""

import math
from collections.abc import Iterator, Sequence
from functools import partial
from itertools import groupby

import numpy as np
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import Glyphs, Mark, MarkGroup, Origin, Path, PictureMark, Shape
from half_fold.core.drawing.outline import Outline, rectangle
from half_fold.core.drawing.regions import region_of, region_outline
from half_fold.core.drawing.tone import WHITE
from half_fold.core.inks.tones import fill_of, ink
from half_fold.core.measure.kept import Keeper, kept
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import placed
from half_fold.core.publication.records import Block, Glow, HoldsPicture, Look, Publication, Shadow
from half_fold.core.publication.surgery import by_name, picture_of
from half_fold.core.spread.setting.cast import on_floor, swept
from half_fold.core.spread.setting.softness import key_of_outline, soft
from half_fold.core.spread.setting.surface import faded_marks, feather_edge, opaque_as, surfaced
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.lines.lit import look_in

# What a block may state of its light.
_LIT = ("fill", "picture", "contours", "shadow", "glow", "fade", "inner", "feather", "raised", "grain")
_FLAT = 0.004  # of an outline's weight, that it stays within
_KEPT = 400
_outlines: Keeper[Outline | None] = Keeper(_KEPT)


def look_named(publication: Publication, name: str) -> Look | None:
    """The look of that name; None for no name."""
    return by_name(publication.looks, name, "look") if name else None


def worn_by(publication: Publication, block: Block) -> Look | None:
    """What a block is dressed in: what it states of its light, over its look; None where it has neither."""
    named = look_named(publication, block.look)
    return named if block.light is None else _over(named, block.light)


@kept(400)
def _over(named: Look | None, light: Look) -> Look:
    if named is None:
        return light
    said = {field: getattr(light, field) for field in _LIT if getattr(light, field) not in ("", (), None)}
    return replace(named, **said)


def dressed(
    publication: Publication,
    marks: Sequence[Mark],
    look: Look,
    origin: Origin,
    scale: float = 1.0,
    box: Rect | None = None,
) -> list[Mark]:
    """Marks in a look, its lengths ``scale`` times as long: what lies behind them first.

    A fade of the look that was drawn lies in their ``box``, where that is given.
    """
    shape = _shape_of(marks)
    if shape is None:
        return list(marks)
    behind: list[Mark] = []
    before: list[Mark] = []
    around = shape
    for contour in look.contours:
        is_outside, weight = contour.side == "outside", contour.weight.pt * scale
        line = _along(around if is_outside else shape, weight, contour.side) if weight > 0 else None
        if line is None:
            continue
        inked = _inked(publication, line, contour.ink, origin)
        if is_outside:
            behind, around = [*inked, *behind], line
        else:
            before += inked
    lit = [
        *_glow(publication, look.glow, around, origin, scale),
        *_shadow(publication, look.shadow, around, origin, scale),
    ]
    filled = _filled(publication, marks, look, origin)
    if look.fade is not None:
        filled = faded_marks(publication, filled, look.fade, shape.bounds if box is None else box, origin)
    surface = surfaced(publication, look, shape, origin, scale)
    feather = look.feather.pt * scale if look.feather is not None else 0.0
    return [*lit, *feather_edge([*behind, *filled, *surface, *before], around, feather, origin)]


def with_lit_words(publication: Publication, marks: Sequence[Mark], origin: Origin) -> Sequence[Mark]:
    """Marks, with the words among them that have a light of their own lit; the same where none has."""
    if not any(isinstance(mark, Glyphs) and mark.light for mark in marks):
        return marks
    out: list[Mark] = []
    for light, some in groupby(marks, key=lambda mark: mark.light if isinstance(mark, Glyphs) else ""):
        words = list(some)
        out += dressed(publication, words, look_in(light), origin) if light else words
    return out


def _along(shape: Outline, weight: float, side: str) -> Outline | None:
    """What a line along a shape covers; one that lies outside, with all that it goes round."""
    made = {"outside": _around, "inside": _within, "centred": _astride}[side]
    return _outlines.of((*key_of_outline(shape), weight, side), partial(made, shape, weight))


def _inked(publication: Publication, outline: Outline, name: str, origin: Origin) -> list[Mark]:
    """An outline filled with an ink or a fade."""
    fill = fill_of(publication, name, 100.0, outline.bounds)
    return opaque_as(fill, [Path(outline, fill.paint, None, origin)], outline.bounds.grown(2.0), origin)


def _filled(publication: Publication, marks: Sequence[Mark], look: Look, origin: Origin) -> list[Mark]:
    """Words in the look's own ink or fade, which runs over all of them."""
    words = [mark for mark in marks if isinstance(mark, Glyphs)]
    if look.picture and words:
        return _windows(publication, marks, look.picture, origin)
    if not look.fill or not words:
        return list(marks)
    shape = _shape_of(words)
    fill = fill_of(publication, look.fill, 100.0, shape.bounds if shape is not None else Rect(0, 0, 1, 1))
    made: list[Mark] = [replace(mark, colour=fill.paint) if isinstance(mark, Glyphs) else mark for mark in marks]
    return made if shape is None else opaque_as(fill, made, shape.bounds.grown(2.0), origin)


def _windows(publication: Publication, marks: Sequence[Mark], name: str, origin: Origin) -> list[Mark]:
    """Words through which a picture is seen, as large as all of them: they stay words, though their ink is unseen."""
    shape = _shape_of([mark for mark in marks if isinstance(mark, Glyphs)])
    if shape is None:
        return list(marks)
    picture = picture_of(publication, name)
    unseen = tuple(mark for mark in marks if isinstance(mark, Glyphs))
    where = placed(picture, HoldsPicture(picture=name), shape.bounds)
    others = [mark for mark in marks if not isinstance(mark, Glyphs)]
    return [
        *others,
        MarkGroup(unseen, 0.0, origin=origin),
        PictureMark(name, where, shape.bounds, origin, outline=shape),
    ]


def _shape_of(marks: Sequence[Mark]) -> Outline | None:
    """The outlines of all that is printed, one after another; None where there is nothing."""
    parts = [part for mark in marks for part in _parts(mark) if part.ops]
    if not parts:
        return None
    return Outline(b"".join(part.ops for part in parts), np.vstack([part.points for part in parts]))


def _parts(mark: Mark) -> Iterator[Outline]:
    if isinstance(mark, Glyphs):
        yield from _letters(mark)
    elif isinstance(mark, Shape):
        yield rectangle(mark.rect)
    elif isinstance(mark, Path):
        yield mark.outline
    elif isinstance(mark, PictureMark):
        yield mark.outline if mark.outline is not None else rectangle(mark.clip.clipped(mark.seen))
    elif isinstance(mark, MarkGroup):
        inner = (part for each in mark.marks for part in _parts(each))
        yield from inner if mark.affine is None else (part.through(mark.affine) for part in inner)


def _letters(mark: Glyphs) -> Iterator[Outline]:
    drawn = face(mark.face)
    for gid, x in zip(mark.gids.tolist(), mark.xs.tolist(), strict=True):
        where = Affine(mark.size, 0, 0, mark.size, x, mark.baseline)
        yield drawn.polygon(gid).through(where if mark.turn is None else mark.turn.after(where))


def _around(shape: Outline, weight: float) -> Outline | None:
    """What a shape fills, grown outwards alone: its counters stay as open as they are."""
    from shapely import Polygon, get_parts, union_all

    region = region_of([shape], max(0.005, _FLAT * weight))
    solid = [part for part in get_parts(region) if isinstance(part, Polygon)]
    outer = union_all([Polygon(part.exterior) for part in solid]).buffer(weight, quad_segs=12)
    counters = [Polygon(hole) for part in solid for hole in part.interiors]
    return region_outline(outer.difference(union_all(counters)) if counters else outer)


def _within(shape: Outline, weight: float) -> Outline | None:
    """A line along the inner side of a shape's edge."""
    region = region_of([shape], max(0.005, _FLAT * weight))
    return region_outline(region.difference(region.buffer(-weight, quad_segs=12)))


def _astride(shape: Outline, weight: float) -> Outline | None:
    """A line half to either side of a shape's edge."""
    region = region_of([shape], max(0.005, _FLAT * weight))
    half = weight / 2
    return region_outline(region.buffer(half, quad_segs=12).difference(region.buffer(-half, quad_segs=12)))


def _shadow(
    publication: Publication, shadow: Shadow | None, shape: Outline, origin: Origin, scale: float
) -> list[Mark]:
    """The shadow of a shape: one of black alone darkens what lies behind it, and never knocks it out."""
    if shadow is None or shadow.opacity <= 0:
        return []
    tone, blur = ink(publication, shadow.ink), shadow.blur.pt * scale
    across, down = (far * scale for far in falls(publication, shadow))
    if shadow.kind == "long":
        laid = soft(swept(shape, across, down), blur, 0.0, (0.0, 0.0), tone, origin)
    elif shadow.kind == "floor":
        laid = soft(on_floor(shape, across, down), blur, 0.0, (0.0, 0.0), tone, origin)
    else:
        laid = soft(shape, blur, 0.0, (across, down), tone, origin)
    is_black = tone.spot is None and not (tone.c or tone.m or tone.y)
    return [MarkGroup((laid,), shadow.opacity / 100, "multiply" if is_black else "normal", origin)] if laid else []


def falls(publication: Publication, shadow: Shadow) -> tuple[float, float]:
    """How far a shadow falls across and down, in points."""
    way = math.radians(publication.light if shadow.angle is None else shadow.angle)
    far = shadow.distance.pt
    across = far * math.cos(way) if shadow.across is None else shadow.across.pt
    return across, far * math.sin(way) if shadow.down is None else shadow.down.pt


def _glow(publication: Publication, glow: Glow | None, shape: Outline, origin: Origin, scale: float) -> list[Mark]:
    """Light round a shape: full as far as half of its reach, and gone at all of it."""
    if glow is None or glow.opacity <= 0 or glow.reach.pt <= 0:
        return []
    reach = glow.reach.pt * scale
    laid = soft(shape, reach / 2, reach / 2, (0.0, 0.0), ink(publication, glow.ink) if glow.ink else WHITE, origin)
    return [MarkGroup((laid,), glow.opacity / 100, "normal", origin)] if laid else []
