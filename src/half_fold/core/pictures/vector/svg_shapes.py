"""The shapes of SVG as outlines, and what its elements say of their names, sizes and places."""

import math
import re
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

import numpy as np

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.outline import CLOSE, MOVE, Outline, OutlinePen
from half_fold.core.drawing.regions import region_outline
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.vector.svg_areas import FLAT
from half_fold.core.pictures.vector.svg_style import FARTHEST, SvgStyle, number

if TYPE_CHECKING:
    from lxml import etree

SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")
MOST_STROKED = 60_000  # places of a line: what a stroke inks is one area, however often it crosses itself


def tag_of(element: "etree._Element") -> str:
    """What kind of element it is; "" for a comment."""
    return str(element.tag).rpartition("}")[2] if isinstance(element.tag, str) else ""


def link_of(element: "etree._Element") -> str:
    """The name of what an element stands for."""
    link = element.get("href") or element.get("{http://www.w3.org/1999/xlink}href") or ""
    return str(link).removeprefix("#")


def named_by(text: str) -> str:
    """The name in ``url(#name)``; "" where there is none."""
    found = re.match(r"url\(\s*['\"]?#([^)'\"]+)", text)
    return found[1] if found else ""


def share_of(text: str | None, usual: float) -> float:
    """A share, perhaps in per cent."""
    if not text:
        return float(usual)
    return number(text[:-1]) / 100 if text.strip().endswith("%") else number(text)


def box_of(element: "etree._Element", around: Sequence[float]) -> tuple[float, float, float, float]:
    """The place and the size of a drawing inside another: the whole of what is ``around`` where it says nothing."""
    x, y = (number(element.get(side) or "0") for side in ("x", "y"))
    wide, high = (
        share_of(text, 1.0) * whole if (text := element.get(side) or "100%").strip().endswith("%") else number(text)
        for side, whole in zip(("width", "height"), around, strict=True)
    )
    return x, y, wide, high


def lies_in_box(element: "etree._Element", around: Sequence[float]) -> Affine:
    """Where a drawing inside a drawing lies: its view box in its place, as large as fits."""
    x, y, wide, high = box_of(element, around) if tag_of(element) == "svg" else (0.0, 0.0, *around)
    box = [number(word) for word in (element.get("viewBox") or "").replace(",", " ").split()]
    if len(box) != 4 or box[2] <= 0 or box[3] <= 0 or wide <= 0 or high <= 0:
        return Affine(e=x, f=y)
    scale = min(wide / box[2], high / box[3])
    left, top = x + (wide - scale * box[2]) / 2, y + (high - scale * box[3]) / 2
    return Affine(scale, 0, 0, scale, left - scale * box[0], top - scale * box[1])


def unit_box(drawn: Outline) -> Affine:
    """What brings shares of a shape's box to its places."""
    box = drawn.bounds
    return Affine(box.width or 1e-6, 0, 0, box.height or 1e-6, box.left, box.top)


def drawn_of(element: "etree._Element", tag: str, size: tuple[float, float]) -> Outline | None:
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


def place_shape(drawn: Outline, where: Affine) -> Outline | None:
    """A shape in its place; None where that is beyond all measure."""
    made = drawn.through(where)
    return made if _is_near(made.points) else None


def _is_near(points: np.ndarray) -> bool:
    return bool((np.abs(points) <= FARTHEST).all())  # which nothing is that is no number


class _Pen(OutlinePen):
    """Takes what the reader of paths draws; a part that is left open stays so."""

    @property
    def has_places(self) -> bool:
        return bool(self._points) and _is_near(np.array(self._points))

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


def svg_stroked(drawn: Outline, style: SvgStyle, where: Affine) -> Outline | None:
    """What a stroke inks, in the picture's units: it is drawn in the shape's own, and then brought there."""
    from shapely import MultiLineString

    scale = math.sqrt(abs(where.a * where.d - where.b * where.c)) or 1e-9
    lines = [line for line in _lines(drawn, FLAT / scale) if len(line) > 1]
    if style.dashes and sum(style.dashes) > 0:
        lines = [dash for line in lines for dash in _dashed(line, style.dashes, style.dash_from)]
    if not lines:
        return None
    if sum(map(len, lines)) > MOST_STROKED:
        raise Problem(f"The drawing strokes a line of over {MOST_STROKED:,} places; give a simpler one, or a picture.")
    ways = {"cap_style": style.cap, "join_style": style.join, "mitre_limit": style.mitre}
    segments = max(4, math.ceil(math.sqrt(style.weight * scale / FLAT)))
    made = region_outline(MultiLineString(lines).buffer(style.weight / 2, quad_segs=segments, **ways))
    return place_shape(made, where) if made is not None else None


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
