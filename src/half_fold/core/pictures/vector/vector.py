"""Vector art out of SVG files: every fill and stroke as filled outlines; what is not understood is said."""

import re
from collections.abc import Iterator, Mapping, Sequence
from itertools import islice
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.outline import CLOSE, CURVE, LINE, MOVE, Outline, rectangle
from half_fold.core.drawing.regions import region_outline
from half_fold.core.measure.kept import kept
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.vector.svg_areas import clip_area, svg_area
from half_fold.core.pictures.vector.svg_cuts import DEEPEST, Cuts, too_many_shapes
from half_fold.core.pictures.vector.svg_shapes import (
    SHAPES,
    box_of,
    drawn_of,
    lies_in_box,
    link_of,
    named_by,
    place_shape,
    share_of,
    svg_stroked,
    tag_of,
    unit_box,
)
from half_fold.core.pictures.vector.svg_style import (
    FARTHEST,
    SvgStyle,
    colour_of,
    number,
    rules_of,
    svg_style_of,
    transform_of,
)
from half_fold.core.publication.ranges import MOST
from half_fold.core.publication.records import Art, ArtGradient, ArtStop, Picture
from half_fold.core.store.files import octets_of

if TYPE_CHECKING:
    from lxml import etree

LONG_SIDE = 2400  # units that the longer side is measured in: places are kept to a hundredth of one
LEAST_SIDE = 1e-4  # of a drawing, in its own units
MOST_OCTETS, MOST_DATA = 8_000_000, 4_000_000
_LETTERS = {MOVE: "M", LINE: "L", CURVE: "C", CLOSE: "Z"}
_OPS = {letter: op for op, letter in _LETTERS.items()}
_TAKES = {"M": 2, "L": 2, "C": 6, "Z": 0}
_WORDS = re.compile(r"[MLCZ]|-?[\d.]+(?:e-?\d+)?")
_SILENT = frozenset(
    {"title", "desc", "metadata", "defs", "style", "namedview", "symbol"}
    | {"linearGradient", "radialGradient", "clipPath", "mask", "filter", "marker"}
)  # which say something, or are drawn only where they are named


class Vector(Struct, frozen=True):
    """Art on ``width`` by ``height`` units, the longer of which is LONG_SIDE, and what of the file was left out."""

    width: int
    height: int
    art: tuple[Art, ...]
    notes: tuple[str, ...]


def read_vector(path: Path) -> Vector:
    """The art of an SVG file. Problem where it is none, or has nothing to print."""
    octets = octets_of(path, "drawing", MOST_OCTETS)
    from lxml import etree

    parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False, remove_comments=True)
    try:
        root = etree.fromstring(octets, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise Problem(f"“{path.name}” is no SVG drawing that can be read; export it anew.") from error
    if tag_of(root) != "svg":
        raise Problem(f"“{path.name}” is no SVG drawing; give one, or a picture.")
    reader = _Reader(root, path.name)
    art = tuple(islice(reader.art(), MOST[Picture, "art"] + 1))
    if len(art) > MOST[Picture, "art"]:
        raise too_many_shapes()
    if not art:
        left_out = f" ({', '.join(reader.notes)} are not understood)" if reader.notes else ""
        raise Problem(f"“{path.name}” has nothing that can be printed{left_out}; export it with its shapes as paths.")
    if sum(len(each.data) for each in art) > MOST_DATA:
        raise Problem(f"“{path.name}” has too many places for vector art; give a simpler drawing.")
    return Vector(reader.wide, reader.high, art, tuple(dict.fromkeys(reader.notes)))


class _Reader:
    """Walks the drawing from back to front."""

    def __init__(self, root: "etree._Element", name: str) -> None:
        self.root, self.name = root, name
        self.notes: list[str] = []
        self.rules = rules_of(element.text or "" for element in self.root.iter() if tag_of(element) == "style")
        self.named = {str(e.get("id")): e for e in self.root.iter() if isinstance(e.tag, str) and e.get("id")}
        left, top, wide, high = self._view()
        scale = LONG_SIDE / max(wide, high)
        self.wide, self.high = max(1, round(wide * scale)), max(1, round(high * scale))
        self._sheet = Affine(scale, 0, 0, scale, -left * scale, -top * scale)
        self._size = (wide, high)
        self._shows_beyond = svg_style_of(self.root, SvgStyle(), self.rules).shows_beyond
        self.cuts = Cuts(self.named, self.rules, self._size, self.notes, self._layers)

    def _view(self) -> tuple[float, float, float, float]:
        box = [number(word) for word in (self.root.get("viewBox") or "").replace(",", " ").split()]
        if len(box) == 4 and min(box[2:]) >= LEAST_SIDE:
            return box[0], box[1], box[2], box[3]
        wide, high = (number(self.root.get(side) or "0") for side in ("width", "height"))
        if min(wide, high) < LEAST_SIDE:
            raise Problem(f"“{self.name}” does not say how large it is; export it with a view box.")
        return 0.0, 0.0, wide, high

    def art(self) -> Iterator[Art]:
        """Everything that prints."""
        yield from self._inside(self.root, self._sheet, svg_style_of(self.root, SvgStyle(), self.rules), 0)

    def _layers(
        self, parent: "etree._Element", where: Affine, style: SvgStyle, deep: int
    ) -> Iterator[tuple[Outline, Art]]:
        """The art inside an element, each with its outline."""
        return ((outline_of_art(art), art) for art in self._inside(parent, where, style, deep))

    def _on_sheet(self, outline: Outline | None, style: SvgStyle) -> Outline | None:
        """What of an outline is seen: nothing beyond the sheet, nor of what clip paths and masks take away."""
        made, sheet = outline and clip_area(outline, style.clip), Rect(0, 0, self.wide, self.high)
        if made is None or self._shows_beyond or sheet.grown(0.01).clipped(made.bounds) == made.bounds:
            return made
        return clip_area(made, svg_area(rectangle(sheet)))

    def _inside(self, parent: "etree._Element", where: Affine, style: SvgStyle, deep: int) -> Iterator[Art]:
        if deep > DEEPEST:
            self.notes.append("drawings inside drawings without end")
            return
        for element in parent:
            yield from self._element(element, where, style, deep)

    def _element(self, element: "etree._Element", where: Affine, style: SvgStyle, deep: int) -> Iterator[Art]:
        tag = tag_of(element)
        if not tag or tag in _SILENT or not style.is_shown:
            return
        self.cuts.visit()
        own = svg_style_of(element, style, self.rules)
        if not own.is_shown:
            return
        lies = where.after(transform_of(element.get("transform") or ""))
        if own.by_filter:
            self.notes.append("a filter")
        if own.by_marker and tag in SHAPES:
            self.notes.append("an arrowhead or another mark along a line")
        if own.by_clip or own.by_mask:
            own = self.cuts.cut_by(element, tag, own, lies, deep)
        if tag in ("g", "svg", "a", "switch"):
            if tag == "svg":
                own, lies = (
                    self.cuts.boxed(own, lies, *box_of(element, self._size)),
                    lies.after(lies_in_box(element, self._size)),
                )
            yield from self._inside(element, lies, own, deep + 1)
        elif tag == "use":
            yield from self._used(element, lies, own, deep)
        elif tag in SHAPES:
            yield from self._shape(element, tag, lies, own)
        else:
            self.notes.append({"text": "text", "image": "a picture inside it"}.get(tag, f"“{tag}”"))

    def _used(self, element: "etree._Element", where: Affine, style: SvgStyle, deep: int) -> Iterator[Art]:
        target = self.named.get(link_of(element))
        if target is None or deep > DEEPEST:
            self.notes.append("a link to what is not there")
            return
        where = where.after(Affine(e=number(element.get("x") or "0"), f=number(element.get("y") or "0")))
        if tag_of(target) == "symbol":
            own, box = svg_style_of(target, style, self.rules), box_of(element, box_of(target, self._size)[2:])
            if target.get("viewBox"):
                own = self.cuts.boxed(own, where, 0.0, 0.0, *box[2:])
            yield from self._inside(target, where.after(lies_in_box(target, box[2:])), own, deep + 1)
        else:
            yield from self._element(target, where, style, deep + 1)

    def _shape(self, element: "etree._Element", tag: str, where: Affine, style: SvgStyle) -> Iterator[Art]:
        drawn = drawn_of(element, tag, self._size)
        if drawn is None or not drawn.ops:
            return
        outline = place_shape(drawn, where)
        if style.fill and tag != "line" and outline is not None:
            filled = region_outline(svg_area(outline, True)) if style.is_even_odd else outline
            yield from self._painted(
                self._on_sheet(filled, style), style.fill, style.opacity * style.fill_opacity, drawn, where
            )
        if style.stroke and style.weight > 0:
            line = svg_stroked(drawn, style, where)
            if line is not None:
                opacity = style.opacity * style.stroke_opacity
                yield from self._painted(self._on_sheet(line, style), style.stroke, opacity, drawn, where)

    def _painted(
        self, outline: Outline | None, paint: str, opacity: float, drawn: Outline, where: Affine
    ) -> Iterator[Art]:
        data = data_of(outline) if outline is not None else ""
        if not data or opacity <= 0:
            return
        if not paint.startswith("url("):
            colour = colour_of(paint)
            if colour is None:
                self.notes.append(f"the colour “{paint[:30]}”")
                colour = "#000000"
            yield Art(data=data, colour=colour, opacity=round(min(opacity, 1.0), 4))
            return
        gradient = self._gradient(named_by(paint), drawn, where)
        if isinstance(gradient, ArtGradient):
            yield Art(data=data, gradient=gradient, opacity=round(min(opacity, 1.0), 4))
        elif gradient:
            yield Art(data=data, colour=gradient, opacity=round(min(opacity, 1.0), 4))
        else:
            self.notes.append("a pattern")

    def _gradient(self, name: str, drawn: Outline, where: Affine) -> "ArtGradient | str":
        """The gradient of that name for what is drawn; a single colour where it has but one, "" where it is none."""
        element = self.named.get(name)
        told = _inherited(element, self.named) if element is not None else {}
        kind = tag_of(element) if element is not None else ""
        stops = [_stop(each, self.rules) for each in self._stops(element, 0)]
        if kind not in ("linearGradient", "radialGradient") or not stops:
            return ""
        if len(stops) == 1:
            return stops[0].colour
        lies = where if told.get("gradientUnits") == "userSpaceOnUse" else where.after(unit_box(drawn))
        lies = lies.after(transform_of(told.get("gradientTransform", "")))
        if kind == "linearGradient":
            x1, y1, x2, y2 = (share_of(told.get(n), d) for n, d in (("x1", 0), ("y1", 0), ("x2", 1), ("y2", 0)))
            along = Affine(x2 - x1, y2 - y1, -(y2 - y1), x2 - x1, x1, y1)
        else:
            x, y, radius = (share_of(told.get(n), 0.5) for n in ("cx", "cy", "r"))
            along = Affine(radius, 0, 0, radius, x, y)
            if "fx" in told or "fy" in told:
                self.notes.append("a gradient's focus beside its middle")
        made = lies.after(along)
        if max(map(abs, made)) > FARTHEST or not abs(made.a * made.d - made.b * made.c) >= 1e-9:
            return stops[-1].colour
        matrix = tuple(round(figure, 3) for figure in made)
        way = "linear" if kind == "linearGradient" else "radial"
        return ArtGradient(way=way, matrix=matrix, stops=tuple(_rising(_fewer(stops))))  # type: ignore[arg-type] # six figures

    def _stops(self, element: "etree._Element | None", deep: int) -> list["etree._Element"]:
        if element is None or deep > DEEPEST:
            return []
        own = [child for child in element if tag_of(child) == "stop"]
        return own or self._stops(self.named.get(link_of(element)), deep + 1)


def _fewer(stops: Sequence[ArtStop]) -> Sequence[ArtStop]:
    """As many as there may be, the first and the last among them; of more, the nearest differ by less than is seen."""
    most = MOST[ArtGradient, "stops"]
    return stops if len(stops) <= most else [stops[at * (len(stops) - 1) // (most - 1)] for at in range(most)]


def _rising(stops: Sequence[ArtStop]) -> Iterator[ArtStop]:
    at = 0.0
    for stop in stops:
        at = max(at, min(max(stop.at, 0.0), 1.0))
        yield ArtStop(at=at, colour=stop.colour, opacity=stop.opacity)


def _stop(element: "etree._Element", rules: Mapping[str, Mapping[str, str]]) -> ArtStop:
    style = svg_style_of(element, SvgStyle(), rules)
    colour = colour_of(style.stop_colour) or "#000000"
    return ArtStop(
        at=share_of(element.get("offset"), 0.0), colour=colour, opacity=min(max(style.stop_opacity, 0.0), 1.0)
    )


def _inherited(element: "etree._Element", named: Mapping[str, "etree._Element"]) -> dict[str, str]:
    """What a gradient states, and what it takes from those it names."""
    out: dict[str, str] = {}
    at: etree._Element | None = element
    for _ in range(DEEPEST):
        if at is None:
            break
        out = {**{str(name): str(value) for name, value in at.attrib.items()}, **out}
        at = named.get(link_of(at))
    return out


def data_of(outline: Outline) -> str:
    """An outline as the data of a piece of art, its places to the hundredth of a unit."""
    points = iter(outline.points.round(2).tolist())
    words: list[str] = []
    for op in outline.ops:
        letter = _LETTERS[op]
        words.append(letter + " ".join(f"{x:g} {y:g}" for x, y in (next(points) for _ in range(_TAKES[letter] // 2))))
    return "".join(words)


@kept(4000)
def outline_of_art(art: Art) -> Outline:
    """The outline of a piece of art, in its picture's units. Problem where its data is none."""
    ops, figures, wanted = bytearray(), [], 0
    for word in _WORDS.findall(art.data):
        if word in _OPS:
            if wanted:
                break
            ops.append(_OPS[word])
            wanted = _TAKES[word]
        elif wanted:
            figures.append(float(word))
            wanted -= 1
    if wanted or not ops or ops[0] != MOVE:
        raise Problem("The vector art of this job is damaged; bring the drawing in anew.")
    return Outline(bytes(ops), np.array(figures, np.float64).reshape(-1, 2))
