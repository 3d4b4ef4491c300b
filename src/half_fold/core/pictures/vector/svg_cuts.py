"""What clip paths, masks and the boxes of drawings leave of the shapes of an SVG."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import TYPE_CHECKING

from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.outline import Outline, rectangle
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.vector.svg_areas import both, by_black_and_white, svg_area
from half_fold.core.pictures.vector.svg_shapes import SHAPES, drawn_of, link_of, named_by, place_shape, tag_of, unit_box
from half_fold.core.pictures.vector.svg_style import SvgStyle, number, svg_style_of, transform_of
from half_fold.core.publication.ranges import MOST
from half_fold.core.publication.records import Art, Picture

if TYPE_CHECKING:
    from lxml import etree
    from shapely import Geometry

DEEPEST = 40  # drawings inside one another
MOST_VISITED = 20_000  # elements, those that stand for others each time they do
Painted = Callable[["etree._Element", Affine, SvgStyle, int], Iterator[tuple[Outline, Art]]]


def too_many_shapes() -> Problem:
    """What is said of a drawing of more shapes than a job may hold."""
    most = MOST[Picture, "art"]
    return Problem(f"The drawing has more shapes than the {most:,} there may be; give a simpler drawing, or a picture.")


class Cuts:
    """Works out what is left; ``painted`` gives the art inside an element, ``notes`` take what is not understood."""

    def __init__(
        self,
        named: Mapping[str, "etree._Element"],
        rules: Mapping[str, Mapping[str, str]],
        size: tuple[float, float],
        notes: list[str],
        painted: Painted,
    ) -> None:
        self.named, self.rules, self.notes = named, rules, notes
        self._size, self._painted = size, painted
        self._visited = 0
        self._left: dict[tuple[object, ...], Geometry] = {}  # by clip path, and where it lies

    def visit(self) -> None:
        """Note that one more element is drawn or cut by. Problem where a few lines stand for more than there may be."""
        self._visited += 1
        if self._visited > MOST_VISITED:
            raise too_many_shapes()

    def cut_by(self, element: "etree._Element", tag: str, style: SvgStyle, where: Affine, deep: int) -> SvgStyle:
        """The style with all that the clip path and the mask of an element leave of what may be painted."""
        clip = style.clip
        for name, kind in ((style.by_clip, "clipPath"), (style.by_mask, "mask")):
            target = self.named.get(named_by(name))
            if not name:
                continue
            lies = self._lying_on(element, tag, target, where) if target is not None else None
            if target is None or tag_of(target) != kind or lies is None or deep > DEEPEST:
                self.notes.append("a clip path" if kind == "clipPath" else "a mask")
            elif kind == "clipPath":
                key = target, lies, style.is_clip_even_odd
                if key not in self._left:
                    self._left[key] = self._let_through(target, lies, style, deep + 1)
                clip = both(clip, self._left[key])
            else:
                clip = self._masked(target, lies, clip, deep + 1)
        return replace(style, clip=clip)

    def _lying_on(self, element: "etree._Element", tag: str, target: "etree._Element", where: Affine) -> Affine | None:
        """Where what cuts an element lies; None where it goes by the box of what has none of its own."""
        units = target.get("clipPathUnits" if tag_of(target) == "clipPath" else "maskContentUnits")
        if units != "objectBoundingBox":
            return where
        drawn = drawn_of(element, tag, self._size) if tag in SHAPES else None
        return where.after(unit_box(drawn)) if drawn is not None else None

    def _let_through(self, target: "etree._Element", where: Affine, style: SvgStyle, deep: int) -> "Geometry":
        """What the shapes of a clip path leave: all of them together, within what cuts the clip path itself."""
        from shapely import union_all

        where = where.after(transform_of(target.get("transform") or ""))
        own = svg_style_of(target, replace(SvgStyle(), is_clip_even_odd=style.is_clip_even_odd), self.rules)
        if own.by_clip:
            own = self.cut_by(target, "", own, where, deep)
        return both(own.clip, union_all(list(self._shapes_of(target, where, own, deep))))

    def _shapes_of(
        self, parent: "Iterable[etree._Element]", where: Affine, style: SvgStyle, deep: int
    ) -> "Iterator[Geometry]":
        """The areas of shapes, and of those that are stood for."""
        for element in parent:
            self.visit()
            tag, own = tag_of(element), svg_style_of(element, style, self.rules)
            if deep > DEEPEST or not tag or not own.is_shown:
                continue
            lies = where.after(transform_of(element.get("transform") or ""))
            if own.by_clip:
                own = self.cut_by(element, tag, own, lies, deep)
            target = self.named.get(link_of(element)) if tag == "use" else None
            drawn = drawn_of(element, tag, self._size) if tag in SHAPES else None
            if target is not None:
                lies = lies.after(Affine(e=number(element.get("x") or "0"), f=number(element.get("y") or "0")))
                yield from self._shapes_of([target], lies, own, deep + 1)
            elif tag == "g":
                yield from self._shapes_of(element, lies, own, deep + 1)
            elif drawn is not None:
                outline = place_shape(drawn, lies)
                if outline is not None:
                    yield both(own.clip, svg_area(outline, own.is_clip_even_odd))
            elif tag == "text":
                self.notes.append("a clip path of words")

    def _masked(self, target: "etree._Element", where: Affine, clip: "Geometry | None", deep: int) -> "Geometry | None":
        """What a mask of black and white leaves; one with anything between is said, and cuts nothing."""
        before = len(self.notes)
        left = by_black_and_white(self._painted(target, where, svg_style_of(target, SvgStyle(), self.rules), deep))
        if left is None or len(self.notes) > before:
            self.notes[before:] = ["a mask"]
            return clip
        return both(clip, left)

    def boxed(self, style: SvgStyle, where: Affine, x: float, y: float, wide: float, high: float) -> SvgStyle:
        """Nothing is painted beyond the box of a drawing inside the drawing, unless it says so."""
        if style.shows_beyond or wide <= 0 or high <= 0:
            return style
        box = place_shape(rectangle(Rect(x, y, x + wide, y + high)), where)
        return replace(style, clip=both(style.clip, svg_area(box))) if box is not None else style
