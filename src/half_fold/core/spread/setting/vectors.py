"""Vector art in a block: its outlines, in the inks that its colours come to, or all in one."""

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import Mark, MarkGroup, Origin, Path, from_block
from half_fold.core.drawing.outline import Outline, rectangle
from half_fold.core.drawing.tone import Gradient, GradientStop, Paint, Tone
from half_fold.core.inks.tones import ink
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import profile_for
from half_fold.core.pictures.colour.screen_tone import tone_of_screen
from half_fold.core.pictures.vector.vector import outline_of_art
from half_fold.core.publication.records import Art, Block, HoldsPicture, Picture, Publication


def vector_marks(
    publication: Publication, block: Block, picture: Picture, where: Rect, turn: Affine | None, clip: Outline
) -> list[Mark]:
    """The art of a picture laid on ``where``, turned so, and cut off outside of ``clip``."""
    scale = where.width / picture.width
    lies = Affine(scale, 0, 0, where.height / picture.height, where.left, where.top)
    lies = lies if turn is None else turn.after(lies)
    assert isinstance(block.holds, HoldsPicture)
    tone = ink(publication, block.holds.ink) if block.holds.ink else None
    profile = profile_for(publication, publication.brief.text_paper)
    out: list[Mark] = []
    for art in picture.art:
        outline = _cut(outline_of_art(art).through(lies), clip)
        if outline is not None:
            out.append(_painted(art, outline, lies, profile, tone, from_block(block.id)))
    return out


def _cut(outline: Outline, clip: Outline) -> Outline | None:
    """What of an outline lies inside the clip: all of it, as it is, where it does not reach the clip's edge."""
    box = clip.bounds
    if clip.is_same(rectangle(box)) and outline.bounds.clipped(box) == outline.bounds:
        return outline
    if not outline.bounds.meets(box):
        return None
    from half_fold.core.drawing.regions import region_of, region_outline

    return region_outline(region_of([outline]).intersection(region_of([clip])))


def _painted(art: Art, outline: Outline, lies: Affine, profile: bytes, tone: Tone | None, origin: Origin) -> Mark:
    gradient = art.gradient
    if gradient is None or tone is not None:
        paint: Paint = tone if tone is not None else tone_of_screen(art.colour, profile)
        return _see_through(Path(outline, paint, None, origin), art.opacity, None)
    axis = lies.after(Affine(*gradient.matrix))
    stops = tuple(GradientStop(stop.at, tone_of_screen(stop.colour, profile)) for stop in gradient.stops)
    area = Path(outline, Gradient(gradient.way, axis, stops), None, origin)
    if all(stop.opacity >= 1 for stop in gradient.stops):
        return _see_through(area, art.opacity, None)
    opacities = Gradient(
        gradient.way, axis, tuple(GradientStop(stop.at, Tone(k=stop.opacity)) for stop in gradient.stops)
    )
    mask = Path(rectangle(outline.bounds.grown(1.0)), opacities, None, origin)
    return _see_through(area, art.opacity, MarkGroup((mask,), origin=origin))


def _see_through(mark: Path, opacity: float, mask: MarkGroup | None) -> Mark:
    return mark if opacity >= 1 and mask is None else MarkGroup((mark,), opacity, origin=mark.origin, mask=mask)
