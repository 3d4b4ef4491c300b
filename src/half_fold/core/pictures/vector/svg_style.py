"""What SVG says of how a shape is painted: attributes, style attributes and plain rules of a style sheet."""

import math
import re
from collections.abc import Iterable, Mapping
from typing import Any

from msgspec import Struct
from msgspec.structs import replace
from PIL import ImageColor

from half_fold.core.drawing.affine import Affine, turned

_NUMBER = re.compile(r"\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)\s*([a-z%]*)")
_TRANSFORM = re.compile(r"(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")
_RULE = re.compile(r"([^{}]+)\{([^}]*)\}")
_RGB = re.compile(r"rgba?\(\s*([\d.]+%?)[\s,]+([\d.]+%?)[\s,]+([\d.]+%?)")
_UNITS = {"px": 1.0, "": 1.0, "pt": 96 / 72, "pc": 16.0, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0}
_CAPS = {"butt": "flat", "round": "round", "square": "square"}
FARTHEST = 1e7  # from where a drawing begins, in any of its units
_JOINS = {"miter": "mitre", "round": "round", "bevel": "bevel"}


class SvgStyle(Struct, frozen=True):
    """How a shape is painted; ``fill`` and ``stroke`` are colours or links, "" for none."""

    fill: str = "#000000"
    stroke: str = ""
    weight: float = 1.0
    opacity: float = 1.0
    fill_opacity: float = 1.0
    stroke_opacity: float = 1.0
    cap: str = "flat"
    join: str = "mitre"
    mitre: float = 4.0
    dashes: tuple[float, ...] = ()
    dash_from: float = 0.0
    is_even_odd: bool = False
    is_shown: bool = True
    colour: str = "#000000"
    stop_colour: str = "#000000"
    stop_opacity: float = 1.0
    is_clip_even_odd: bool = False
    clip: Any = None  # the area, a shapely geometry in the picture's units, outside of which nothing is painted
    by_clip: str = ""  # what the element itself names to be cut by; "" for nothing
    by_mask: str = ""
    by_filter: str = ""
    by_marker: str = ""
    shows_beyond: bool = False  # whether a drawing inside the drawing may reach out of its box


def number(text: str) -> float:
    """A length in the units of the drawing; 0 where it is none, or beyond all measure."""
    found = _NUMBER.match(text)
    if found is None:
        return 0.0
    value = float(found[1]) * _UNITS.get(found[2], 1.0)
    return value if abs(value) <= FARTHEST else 0.0


def rules_of(sheets: Iterable[str]) -> dict[str, dict[str, str]]:
    """What style sheets say, by their selectors: ``.class``, ``#id`` or an element's name."""
    out: dict[str, dict[str, str]] = {}
    for sheet in sheets:
        for selectors, body in _RULE.findall(re.sub(r"/\*.*?\*/", "", sheet, flags=re.DOTALL)):
            for selector in selectors.split(","):
                out.setdefault(selector.strip(), {}).update(_declared(body))
    return out


def _declared(text: str) -> dict[str, str]:
    pairs = (part.partition(":") for part in text.split(";") if ":" in part)
    return {name.strip(): value.replace("!important", "").strip() for name, _, value in pairs}


def svg_style_of(element: Any, parent: SvgStyle, rules: Mapping[str, Mapping[str, str]]) -> SvgStyle:
    """How an element is painted: what it states itself over what it takes from round it."""
    told: dict[str, str] = {str(name): str(value) for name, value in element.attrib.items()}
    told |= rules.get(str(element.tag).rpartition("}")[2], {})
    for name in (element.get("class") or "").split():
        told |= rules.get(f".{name}", {})
    told |= rules.get(f"#{element.get('id')}", {})
    told |= _declared(element.get("style") or "")
    return _with(parent, {name: value for name, value in told.items() if value != "inherit"})


def _with(style: SvgStyle, told: Mapping[str, str]) -> SvgStyle:
    colour = told.get("color", style.colour)
    changed: dict[str, Any] = {"colour": colour}
    for name, where in (("fill", "fill"), ("stroke", "stroke"), ("stop-color", "stop_colour")):
        if name in told:
            value = colour if told[name].lower() == "currentcolor" else told[name]
            changed[where] = "" if value in ("none", "transparent") else value
    for name, where in (
        ("fill-opacity", "fill_opacity"),
        ("stroke-opacity", "stroke_opacity"),
        ("stop-opacity", "stop_opacity"),
    ):
        if name in told:
            changed[where] = _opacity(told[name])
    if "opacity" in told:
        changed["opacity"] = style.opacity * _opacity(told["opacity"])
    if "stroke-width" in told:
        changed["weight"] = max(0.0, number(told["stroke-width"]))
    if "stroke-dasharray" in told:
        figures = told["stroke-dasharray"].replace(",", " ").split()
        changed["dashes"] = () if figures == ["none"] else tuple(max(0.0, number(figure)) for figure in figures)
    if "stroke-dashoffset" in told:
        changed["dash_from"] = number(told["stroke-dashoffset"])
    if "stroke-miterlimit" in told:
        changed["mitre"] = max(1.0, number(told["stroke-miterlimit"]))
    if "stroke-linecap" in told:
        changed["cap"] = _CAPS.get(told["stroke-linecap"], "flat")
    if "stroke-linejoin" in told:
        changed["join"] = _JOINS.get(told["stroke-linejoin"], "mitre")
    if "clip-rule" in told:
        changed["is_clip_even_odd"] = told["clip-rule"] == "evenodd"
    for name, where in (("clip-path", "by_clip"), ("mask", "by_mask"), ("filter", "by_filter")):
        changed[where] = told.get(name, "none").replace("none", "")
    for name in ("marker", "marker-start", "marker-mid", "marker-end"):
        if name in told:  # which is passed on, as the others are not
            changed["by_marker"] = told[name].replace("none", "")
    changed["shows_beyond"] = told.get("overflow") in ("visible", "auto")
    if "fill-rule" in told:
        changed["is_even_odd"] = told["fill-rule"] == "evenodd"
    if told.get("display") == "none" or told.get("visibility") in ("hidden", "collapse"):
        changed["is_shown"] = False
    return replace(style, **changed)


def _opacity(text: str) -> float:
    value = number(text.rstrip("%")) / (100 if text.strip().endswith("%") else 1)
    return min(max(value, 0.0), 1.0)


def colour_of(text: str) -> str | None:
    """A colour as ``#rrggbb``; None where it is none that is known."""
    text = text.strip().lower()
    if found := _RGB.match(text):
        figures = [number(part.rstrip("%")) * (255 if part.endswith("%") else 100) / 100 for part in found.groups()]
        return "#" + "".join(f"{min(max(round(figure), 0), 255):02x}" for figure in figures)
    try:
        red, green, blue = ImageColor.getrgb(text)[:3]
    except ValueError:
        return None
    return f"#{red:02x}{green:02x}{blue:02x}"


def transform_of(text: str) -> Affine:
    """What a list of transforms makes of a place, the last of them first."""
    out = Affine()
    for name, inside in _TRANSFORM.findall(text):
        figures = [number(word) for word in inside.replace(",", " ").split()]
        out = out.after(_transform(name, figures))
    return out


def _transform(name: str, figures: list[float]) -> Affine:
    one, two = [*figures, 0.0, 0.0][:2]
    if name == "matrix" and len(figures) == 6:
        return Affine(*figures)
    if name == "translate":
        return Affine(e=one, f=two)
    if name == "scale":
        return Affine(one, 0, 0, figures[1] if len(figures) > 1 else one)
    if name == "rotate":
        return turned((figures[1], figures[2]) if len(figures) > 2 else (0.0, 0.0), one)
    if name == "skewX":
        return Affine(c=math.tan(math.radians(one)))
    if name == "skewY":
        return Affine(b=math.tan(math.radians(one)))
    return Affine()
