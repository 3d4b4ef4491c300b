"""Vector art out of SVG files: every fill and stroke as filled outlines; what is not understood is said."""

import math
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.outline import CLOSE, CURVE, LINE, MOVE, Outline, OutlinePen
from half_fold.core.drawing.regions import outline_of
from half_fold.core.measure.kept import kept
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.svg_style import Style, colour_of, number, rules_of, style_of, transform_of
from half_fold.core.publication.records import Art, ArtGradient, ArtStop

if TYPE_CHECKING:
    from lxml import etree

LONG_SIDE = 2400  # units that the longer side is measured in: places are kept to a hundredth of one
MOST_OCTETS, MOST_DATA = 8_000_000, 4_000_000
DEEPEST = 40
FLAT = 0.2  # of those units, that a stroke's or a cut edge stays within
_LETTERS = {MOVE: "M", LINE: "L", CURVE: "C", CLOSE: "Z"}
_OPS = {letter: op for op, letter in _LETTERS.items()}
_TAKES = {"M": 2, "L": 2, "C": 6, "Z": 0}
_WORDS = re.compile(r"[MLCZ]|-?[\d.]+(?:e-?\d+)?")
_SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")
_SILENT = ("title", "desc", "metadata", "defs", "style", "namedview", "linearGradient", "radialGradient", "symbol")


@dataclass(frozen=True, slots=True)
class Vector:
    """Art on ``width`` by ``height`` units, the longer of which is LONG_SIDE, and what of the file was left out."""

    width: int
    height: int
    art: tuple[Art, ...]
    notes: tuple[str, ...]


def read_vector(path: Path) -> Vector:
    """The art of an SVG file. Problem where it is none, or has nothing to print."""
    try:
        octets = path.read_bytes()
    except OSError as error:
        raise Problem(f"“{path.name}” cannot be read; check that it is there and may be opened.") from error
    if len(octets) > MOST_OCTETS:
        raise Problem(f"“{path.name}” is too large for vector art; give a simpler drawing.")
    from lxml import etree

    parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False, remove_comments=True)
    try:
        root = etree.fromstring(octets, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise Problem(f"“{path.name}” is no SVG drawing that can be read; export it anew.") from error
    if _tag(root) != "svg":
        raise Problem(f"“{path.name}” is no SVG drawing; give one, or a picture.")
    reader = _Reader(root, path.name)
    art = tuple(reader.art())
    if not art:
        left_out = f" ({', '.join(reader.notes)} are not understood)" if reader.notes else ""
        raise Problem(f"“{path.name}” has nothing that can be printed{left_out}; export it with its shapes as paths.")
    if sum(len(each.data) for each in art) > MOST_DATA:
        raise Problem(f"“{path.name}” has too many places for vector art; give a simpler drawing.")
    return Vector(reader.wide, reader.high, art, tuple(dict.fromkeys(reader.notes)))


def _tag(element: "etree._Element") -> str:
    return str(element.tag).rpartition("}")[2] if isinstance(element.tag, str) else ""


@dataclass
class _Reader:
    """Walks the drawing from back to front."""

    root: "etree._Element"
    name: str
    notes: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.rules = rules_of(element.text or "" for element in self.root.iter() if _tag(element) == "style")
        self.named = {str(e.get("id")): e for e in self.root.iter() if isinstance(e.tag, str) and e.get("id")}
        left, top, wide, high = self._view()
        scale = LONG_SIDE / max(wide, high)
        self.wide, self.high = max(1, round(wide * scale)), max(1, round(high * scale))
        self._sheet = Affine(scale, 0, 0, scale, -left * scale, -top * scale)
        self._size = (wide, high)

    def _view(self) -> tuple[float, float, float, float]:
        box = [number(word) for word in (self.root.get("viewBox") or "").replace(",", " ").split()]
        if len(box) == 4 and box[2] > 0 and box[3] > 0:
            return box[0], box[1], box[2], box[3]
        wide, high = (number(self.root.get(side) or "0") for side in ("width", "height"))
        if wide <= 0 or high <= 0:
            raise Problem(f"“{self.name}” does not say how large it is; export it with a view box.")
        return 0.0, 0.0, wide, high

    def art(self) -> Iterator[Art]:
        """Everything that prints."""
        yield from self._inside(self.root, self._sheet, style_of(self.root, Style(), self.rules), 0)

    def _inside(self, parent: "etree._Element", where: Affine, style: Style, deep: int) -> Iterator[Art]:
        if deep > DEEPEST:
            self.notes.append("drawings inside drawings without end")
            return
        for element in parent:
            yield from self._element(element, where, style, deep)

    def _element(self, element: "etree._Element", where: Affine, style: Style, deep: int) -> Iterator[Art]:
        tag = _tag(element)
        if not tag or tag in _SILENT or not style.is_shown:
            return
        own = style_of(element, style, self.rules)
        if not own.is_shown:
            return
        lies = where.after(transform_of(element.get("transform") or ""))
        for what in ("clip-path", "mask", "filter"):
            if (element.get(what) or "none") != "none":
                self.notes.append(f"a {what.replace('-', ' ')}")
        if tag in ("g", "svg", "a", "switch"):
            if tag == "svg":
                lies = lies.after(_placed(element))
            yield from self._inside(element, lies, own, deep + 1)
        elif tag == "use":
            yield from self._used(element, lies, own, deep)
        elif tag in _SHAPES:
            yield from self._shape(element, tag, lies, own)
        else:
            self.notes.append({"text": "text", "image": "a picture inside it"}.get(tag, f"“{tag}”"))

    def _used(self, element: "etree._Element", where: Affine, style: Style, deep: int) -> Iterator[Art]:
        target = self.named.get(_link(element))
        if target is None or deep > DEEPEST:
            self.notes.append("a link to what is not there")
            return
        where = where.after(Affine(e=number(element.get("x") or "0"), f=number(element.get("y") or "0")))
        if _tag(target) == "symbol":
            yield from self._inside(target, where.after(_placed(target)), style_of(target, style, self.rules), deep + 1)
        else:
            yield from self._element(target, where, style, deep + 1)

    def _shape(self, element: "etree._Element", tag: str, where: Affine, style: Style) -> Iterator[Art]:
        drawn = _drawn(element, tag, self._size)
        if drawn is None or not drawn.ops:
            return
        if style.fill and tag != "line":
            outline = drawn.through(where)
            if style.is_even_odd:
                outline = _even_odd(outline) or outline
            yield from self._painted(outline, style.fill, style.opacity * style.fill_opacity, drawn, where)
        if style.stroke and style.weight > 0:
            line = _stroked(drawn, style, where)
            if line is not None:
                yield from self._painted(line, style.stroke, style.opacity * style.stroke_opacity, drawn, where)

    def _painted(self, outline: Outline, paint: str, opacity: float, drawn: Outline, where: Affine) -> Iterator[Art]:
        data = data_of(outline)
        if not data or opacity <= 0:
            return
        if not paint.startswith("url("):
            colour = colour_of(paint)
            if colour is None:
                self.notes.append(f"the colour “{paint[:30]}”")
                colour = "#000000"
            yield Art(data=data, colour=colour, opacity=round(min(opacity, 1.0), 4))
            return
        named = re.match(r"url\(\s*['\"]?#([^)'\"]+)", paint)
        gradient = self._gradient(named[1] if named else "", drawn, where)
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
        kind = _tag(element) if element is not None else ""
        stops = [_stop(each, self.rules) for each in self._stops(element, 0)]
        if kind not in ("linearGradient", "radialGradient") or not stops:
            return ""
        if len(stops) == 1:
            return stops[0].colour
        box = drawn.bounds
        unit = Affine(box.width or 1e-6, 0, 0, box.height or 1e-6, box.left, box.top)
        lies = where if told.get("gradientUnits") == "userSpaceOnUse" else where.after(unit)
        lies = lies.after(transform_of(told.get("gradientTransform", "")))
        if kind == "linearGradient":
            x1, y1, x2, y2 = (_share(told.get(n), d) for n, d in (("x1", 0), ("y1", 0), ("x2", 1), ("y2", 0)))
            along = Affine(x2 - x1, y2 - y1, -(y2 - y1), x2 - x1, x1, y1)
        else:
            x, y, radius = (_share(told.get(n), 0.5) for n in ("cx", "cy", "r"))
            along = Affine(radius, 0, 0, radius, x, y)
            if "fx" in told or "fy" in told:
                self.notes.append("a gradient's focus beside its middle")
        made = lies.after(along)
        if abs(made.a * made.d - made.b * made.c) < 1e-9:
            return stops[-1].colour
        matrix = tuple(round(figure, 3) for figure in made)
        way = "linear" if kind == "linearGradient" else "radial"
        return ArtGradient(way=way, matrix=matrix, stops=tuple(_rising(stops)))  # type: ignore[arg-type] # six figures

    def _stops(self, element: "etree._Element | None", deep: int) -> list["etree._Element"]:
        if element is None or deep > DEEPEST:
            return []
        own = [child for child in element if _tag(child) == "stop"]
        return own or self._stops(self.named.get(_link(element)), deep + 1)


def _rising(stops: Sequence[ArtStop]) -> Iterator[ArtStop]:
    at = 0.0
    for stop in stops:
        at = max(at, min(max(stop.at, 0.0), 1.0))
        yield ArtStop(at=at, colour=stop.colour, opacity=stop.opacity)


def _stop(element: "etree._Element", rules: Mapping[str, Mapping[str, str]]) -> ArtStop:
    style = style_of(element, Style(), rules)
    colour = colour_of(style.stop_colour) or "#000000"
    return ArtStop(at=_share(element.get("offset"), 0.0), colour=colour, opacity=min(max(style.stop_opacity, 0.0), 1.0))


def _inherited(element: "etree._Element", named: Mapping[str, "etree._Element"]) -> dict[str, str]:
    """What a gradient states, and what it takes from those it names."""
    out: dict[str, str] = {}
    at: etree._Element | None = element
    for _ in range(DEEPEST):
        if at is None:
            break
        out = {**{str(name): str(value) for name, value in at.attrib.items()}, **out}
        at = named.get(_link(at))
    return out


def _link(element: "etree._Element") -> str:
    link = element.get("href") or element.get("{http://www.w3.org/1999/xlink}href") or ""
    return str(link).removeprefix("#")


def _share(text: str | None, usual: float) -> float:
    if not text:
        return float(usual)
    return number(text[:-1]) / 100 if text.strip().endswith("%") else number(text)


def _placed(element: "etree._Element") -> Affine:
    """Where a drawing inside a drawing lies: its view box in its place, as large as fits."""
    x, y = (number(element.get(side) or "0") for side in ("x", "y")) if _tag(element) == "svg" else (0.0, 0.0)
    box = [number(word) for word in (element.get("viewBox") or "").replace(",", " ").split()]
    wide, high = (number(element.get(side) or "0") for side in ("width", "height"))
    if len(box) != 4 or box[2] <= 0 or box[3] <= 0 or wide <= 0 or high <= 0:
        return Affine(e=x, f=y)
    scale = min(wide / box[2], high / box[3])
    left, top = x + (wide - scale * box[2]) / 2, y + (high - scale * box[3]) / 2
    return Affine(scale, 0, 0, scale, left - scale * box[0], top - scale * box[1])


def _drawn(element: "etree._Element", tag: str, size: tuple[float, float]) -> Outline | None:
    """A shape's outline in its own units; None where it is none."""
    from fontTools.svgLib.path import parse_path

    data = _path_data(element, tag, size)
    if not data:
        return None
    pen = _Pen()
    try:
        parse_path(data, pen)
    except (ValueError, IndexError, TypeError, ZeroDivisionError, AttributeError):
        return None
    return pen.made(Affine()) if pen.has_places else None


class _Pen(OutlinePen):
    """Takes what the reader of paths draws; a part that is left open stays so."""

    @property
    def has_places(self) -> bool:
        return bool(self._points) and bool(np.isfinite(np.array(self._points)).all())

    def endPath(self) -> None:
        """A part ends without being closed."""


def _path_data(element: "etree._Element", tag: str, size: tuple[float, float]) -> str:
    """Any shape as the data of a path."""

    def at(name: str, usual: float = 0.0) -> float:
        text = element.get(name)
        if text and text.strip().endswith("%"):
            return number(text[:-1]) / 100 * size["y" in name or name == "height"]
        return number(text) if text else usual

    if tag == "path":
        return str(element.get("d") or "")
    if tag in ("polyline", "polygon"):
        places = str(element.get("points") or "").replace(",", " ").split()
        return (
            f"M{' '.join(places[: len(places) // 2 * 2])}{'Z' if tag == 'polygon' else ''}" if len(places) > 3 else ""
        )
    if tag == "line":
        return f"M{at('x1')} {at('y1')}L{at('x2')} {at('y2')}"
    if tag in ("circle", "ellipse"):
        rx, ry = (at("r"), at("r")) if tag == "circle" else (at("rx"), at("ry"))
        x, y = at("cx"), at("cy")
        if rx <= 0 or ry <= 0:
            return ""
        return f"M{x - rx} {y}A{rx} {ry} 0 0 1 {x + rx} {y}A{rx} {ry} 0 0 1 {x - rx} {y}Z"
    return _rounded(at("x"), at("y"), at("width"), at("height"), at("rx", -1), at("ry", -1))


def _rounded(x: float, y: float, wide: float, high: float, rx: float, ry: float) -> str:
    if wide <= 0 or high <= 0:
        return ""
    rx, ry = (ry if rx < 0 else rx), (rx if ry < 0 else ry)
    rx, ry = min(max(rx, 0.0), wide / 2), min(max(ry, 0.0), high / 2)
    if not rx or not ry:
        return f"M{x} {y}h{wide}v{high}h{-wide}Z"
    arc = f"a{rx} {ry} 0 0 1"
    return (
        f"M{x + rx} {y}h{wide - 2 * rx}{arc} {rx} {ry}v{high - 2 * ry}{arc} {-rx} {ry}"
        f"h{2 * rx - wide}{arc} {-rx} {-ry}v{2 * ry - high}{arc} {rx} {-ry}Z"
    )


def _even_odd(outline: Outline) -> Outline | None:
    """What is inside by the even-odd rule, as what is inside by the way parts turn."""
    from shapely import Polygon, make_valid

    whole = None
    for part in outline.flattened(FLAT):
        if len(part) > 2:
            region = make_valid(Polygon(part))
            whole = region if whole is None else whole.symmetric_difference(region)
    return outline_of(whole) if whole is not None else None


def _stroked(drawn: Outline, style: Style, where: Affine) -> Outline | None:
    """What a stroke inks, in the picture's units: it is drawn in the shape's own, and then brought there."""
    from shapely import MultiLineString

    scale = math.sqrt(abs(where.a * where.d - where.b * where.c)) or 1e-9
    lines = [line for line in _lines(drawn, FLAT / scale) if len(line) > 1]
    if style.dashes and sum(style.dashes) > 0:
        lines = [dash for line in lines for dash in _dashed(line, style.dashes, style.dash_from)]
    if not lines:
        return None
    ways = {"cap_style": style.cap, "join_style": style.join, "mitre_limit": style.mitre}
    segments = max(4, math.ceil(math.sqrt(style.weight * scale / FLAT)))
    made = outline_of(MultiLineString(lines).buffer(style.weight / 2, quad_segs=segments, **ways))
    return made.through(where) if made is not None else None


def _lines(drawn: Outline, tolerance: float) -> Iterator[np.ndarray]:
    """The parts as lines, closed ones back to where they began."""
    ends, at = [], -1
    for op in drawn.ops:
        if op == MOVE:
            at += 1
            ends.append(False)
        elif op == CLOSE:
            ends[at] = True
    for part, is_closed in zip(drawn.flattened(tolerance), ends, strict=False):
        yield np.vstack([part, part[:1]]) if is_closed else part


def _dashed(line: np.ndarray, dashes: Sequence[float], start: float) -> Iterator[np.ndarray]:
    reach = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
    pattern = list(dashes) * (2 if len(dashes) % 2 else 1)
    at, index = -(start % sum(pattern)), 0
    while at < reach[-1] and index < 20_000:
        end = at + pattern[index % len(pattern)]
        low, high = max(at, 0.0), min(end, reach[-1])
        if index % 2 == 0 and high > low:
            inner = line[(reach > low) & (reach < high)]
            ends = [[np.interp(s, reach, line[:, axis]) for axis in (0, 1)] for s in (low, high)]
            yield np.vstack([ends[:1], inner, ends[1:]])
        at, index = end, index + 1


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
