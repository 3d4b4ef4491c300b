"""What is said of a picture in figures and words: its aims, its named points, and what is kept clear of it."""

import re
from collections.abc import Callable
from typing import Any, NamedTuple

from msgspec.structs import replace

from half_fold.core.grid.stops import AXES, Edge
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Axis
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import Aim, Point, Publication
from half_fold.core.publication.surgery import picture_of, swap

_AIM = re.compile(
    r"(?P<point>.+?)\s+on\s+(?:the\s+)?"
    r"(?:(?P<end>foot|right) of\s+)?(?P<what>row|column|margin|trim|half|third|quarter)s?\s*(?P<which>[\w ]*)",
    re.IGNORECASE,
)
_PARTS = {"half": 2, "third": 3, "quarter": 4}
_SIDES: dict[str, Edge] = {"left": "left", "right": "right", "head": "top", "foot": "bottom"}
HOW = "such as “eyes on row 3”, “spire on column 2”, “hand on third 1 down” or “roof on margin head”"
Area = tuple[float, float, float, float]


def parse_aims(text: str) -> tuple[Aim, ...]:
    """Aims from words, parted by semicolons. Problem where one is none."""
    return tuple(_read(part.strip()) for part in text.split(";") if part.strip())


def _read(text: str) -> Aim:
    found = _AIM.fullmatch(text)
    if found is None:
        raise Problem(f"“{text[:60]}” is no aim; say {HOW}.")
    point, what, which = found["point"].strip(), found["what"].lower(), found["which"].strip().lower()
    if what in ("row", "column"):
        if not which.isdigit() or not 1 <= int(which) <= 60:
            raise Problem(f"“{text[:60]}” names no {what}; say {HOW}.")
        ends: tuple[Edge, Edge] = AXES["down" if what == "row" else "across"]
        return Aim(point=point, edge=ends[bool(found["end"])], stop=Stop(kind="field", index=int(which) - 1))
    if what in _PARTS:
        number, _, axis = which.partition(" ")
        if what == "half":
            number, axis = "1", which.removeprefix("1").strip()
        if not number.isdigit() or not 0 < int(number) < _PARTS[what] or axis not in AXES:
            raise Problem(f"“{text[:60]}” says not which {what} across or down; say {HOW}.")
        stop = Stop(kind="guide", index=int(number), count=_PARTS[what])
        return Aim(point=point, edge=AXES["across" if axis == "across" else "down"][0], stop=stop)
    if which not in _SIDES:
        raise Problem(f"“{text[:60]}” says not which {what}: left, right, head or foot; say {HOW}.")
    return Aim(point=point, edge=_SIDES[which], stop=Stop(kind="margin" if what == "margin" else "trim"))


def format_aims(aims: tuple[Aim, ...]) -> str:
    """Aims in the words they are read from."""
    return "; ".join(f"{aim.point} on {_said(aim)}" for aim in aims)


def _said(aim: Aim) -> str:
    stop = aim.stop
    if stop.kind == "field":
        end = {"bottom": "foot of ", "right": "right of "}.get(aim.edge, "")
        return f"{end}{'row' if axis_of(aim) == 'down' else 'column'} {stop.index + 1}"
    if stop.kind == "guide":
        name = next((name for name, parts in _PARTS.items() if parts == stop.count), "half")
        return f"{name} {axis_of(aim)}" if name == "half" else f"{name} {stop.index} {axis_of(aim)}"
    return f"{stop.kind} {next(side for side, edge in _SIDES.items() if edge == aim.edge)}"


def axis_of(aim: Aim) -> Axis:
    """Along which axis it is brought there."""
    return "across" if aim.edge in AXES["across"] else "down"


def parse_points(text: str) -> tuple[Point, ...]:
    """Named points from words such as “eyes 42 31; chin 44 50”, per cent across and down. Problem where one is none."""
    out = []
    for part in filter(None, map(str.strip, text.split(";"))):
        found = re.fullmatch(r"(.+?)\s+([\d.]+)\s*%?[\s,]+([\d.]+)\s*%?", part)
        if found is None or max(float(found[2]), float(found[3])) > 100:
            raise Problem(f"“{part[:60]}” is no point; say a name and per cent across and down, such as “eyes 42 31”.")
        out.append(Point(name=" ".join(found[1].split()), across=float(found[2]) / 100, down=float(found[3]) / 100))
    names = [point.name.lower() for point in out]
    if len(set(names)) < len(names):
        raise Problem("Two points have one name; give each its own.")
    return tuple(out)


def format_points(points: tuple[Point, ...]) -> str:
    """Named points in the words they are read from."""
    return "; ".join(f"{point.name} {100 * point.across:.4g} {100 * point.down:.4g}" for point in points)


def parse_areas(text: str) -> tuple[Area, ...]:
    """Areas from words such as “20 10 60 55”: left, top, right and bottom in per cent. Problem where one is none."""
    out = []
    for part in filter(None, map(str.strip, text.split(";"))):
        figures = re.findall(r"[\d.]+", part)
        try:
            left, top, right, bottom = (float(each) / 100 for each in figures)
        except ValueError:
            left = right = top = bottom = 0.0
        if not (0 <= left < right <= 1 and 0 <= top < bottom <= 1):
            raise Problem(
                f"“{part[:60]}” is no area; say left, top, right and bottom in per cent, such as “20 10 60 55”."
            )
        out.append((left, top, right, bottom))
    return tuple(out)


def format_areas(areas: tuple[Area, ...]) -> str:
    """Areas in the words they are read from."""
    return "; ".join(" ".join(f"{100 * share:.4g}" for share in area) for area in areas)


class PictureWords(NamedTuple):
    """A field of a picture that is typed in words of its own."""

    label: str
    read: Callable[[str], tuple[Any, ...]]
    said: Callable[[Any], str]


PICTURE_WORDS = {
    "keep_clear": PictureWords("Kept clear", parse_areas, format_areas),
    "points": PictureWords("Points", parse_points, format_points),
}


def set_picture_words(publication: Publication, picture: str, field: str, text: str) -> Publication:
    """A picture of which that is said, wherever it lies. Problem where the words cannot be read."""
    made = replace(picture_of(publication, picture), **{field: PICTURE_WORDS[field].read(text)})
    return replace(publication, pictures=swap(publication.pictures, made))
