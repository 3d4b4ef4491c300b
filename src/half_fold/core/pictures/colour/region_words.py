"""Regions of pictures, and what is done in them, in words: as they are typed and told. All figures are per cent."""

import re
from collections.abc import Callable, Sequence

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import (
    Area,
    Brushed,
    Coloured,
    Drawn,
    Oval,
    Patch,
    PicturePoint,
    Publication,
    Region,
    Slope,
    Treatment,
    Upright,
)

HOW = (
    "say “from 50 0 to 50 40”, “oval 40 60 by 30 20 soft 50”, “outline 10 20, 80 30, 50 90 soft 12” or "
    "“colour #c83c28 within 30”; “outside” after it means all but that"
)
_N = r"(-?[\d.]+)\s*%?"
_SLOPE = re.compile(rf"from\s+{_N}[\s,]+{_N}\s+to\s+{_N}[\s,]+{_N}")
_OVAL = re.compile(rf"oval\s+{_N}[\s,]+{_N}\s+by\s+{_N}[\s,]+{_N}(?:\s+soft\s+{_N})?(\s+outside)?")
_OUTLINE = re.compile(rf"outline\s+((?:{_N}\s+{_N}\s*,?\s*){{3,}}?)(?:\s*soft\s+{_N})?(\s*outside)?")
_COLOUR = re.compile(rf"colou?r\s+(#[0-9a-f]{{6}})(?:\s+within\s+{_N})?(\s+outside)?")
_BRUSH = re.compile(r"brush\s+([0-9a-f]+\.png)(?:\s+rim\s+(-?[\d.]+))?(?:\s+soft\s+([\d.]+))?(\s+outside)?")
_FIGURE = re.compile(r"-?[\d.]+")


def parse_region(text: str) -> Region:
    """A region from words. Problem where it is none."""
    words = " ".join(text.lower().split())
    try:
        if found := _SLOPE.fullmatch(words):
            x1, y1, x2, y2 = _shares(found.groups())
            return Slope(start=(x1, y1), end=(x2, y2))
        if found := _OVAL.fullmatch(words):
            x, y, across, down = _shares(found.groups()[:4])
            soft = float(found[5]) if found[5] else Oval.soft
            return _held(Oval(middle=(x, y), half=(across, down), soft=soft, outside=bool(found[6])))
        if found := _OUTLINE.fullmatch(words):
            figures = _shares(_FIGURE.findall(found[1]))
            points = tuple(zip(figures[::2], figures[1::2], strict=True))
            soft = float(found[4]) if found[4] else Drawn.soft
            return _held(Drawn(points=points, soft=soft, outside=bool(found[5])))
        if found := _COLOUR.fullmatch(words):
            reach = float(found[2]) if found[2] else Coloured.reach
            return _held(Coloured(colour=found[1], reach=reach, outside=bool(found[3])))
        if found := _BRUSH.fullmatch(words):
            rim, soft = (float(each) if each else 0.0 for each in found.groups()[1:3])
            return _held(Brushed(file=found[1], rim=rim, soft=soft, outside=bool(found[4])))
    except ValueError:
        pass
    raise Problem(f"“{text[:60]}” is no region of a picture; {HOW}.")


def _shares(figures: Sequence[str]) -> list[float]:
    return [float(each) / 100 for each in figures]


def _held(region: Region) -> Region:
    """The region, where its figures can be. ValueError else."""
    from half_fold.core.publication.ranges import figures_out_of_range

    if next(figures_out_of_range(region), None) is not None:
        raise ValueError
    return region


def format_region(region: Region | None) -> str:
    """A region in the words it is read from; nothing of none."""
    if region is None:
        return ""
    return _words(region) + (" outside" if getattr(region, "outside", False) else "")


def _words(region: Region) -> str:
    match region:
        case Slope():
            return f"from {_at(region.start)} to {_at(region.end)}"
        case Oval():
            return f"oval {_at(region.middle)} by {_at(region.half)} soft {region.soft:g}"
        case Drawn():
            return f"outline {', '.join(map(_at, region.points))} soft {region.soft:g}"
        case Coloured():
            return f"colour {region.colour} within {region.reach:g}"
        case Brushed():
            rim, soft = f" rim {region.rim:g}" if region.rim else "", f" soft {region.soft:g}" if region.soft else ""
            return f"brush {region.file}{rim}{soft}"


def _at(point: PicturePoint) -> str:
    return " ".join(f"{100 * share:.5g}" for share in point)


def parser_of_treated_areas(steps: Sequence[Property[Treatment]]) -> Callable[[str], tuple[Area, ...]]:
    """What reads areas such as “oval 40 60 by 30 20: exposure=-0.5; blur=3 | from 50 0 to 50 40: warmth=-20”."""
    return lambda text: tuple(_area(part, steps) for part in text.split("|") if part.strip())


def _area(text: str, steps: Sequence[Property[Treatment]]) -> Area:
    where, sign, done = text.partition(":")
    if not sign:
        raise Problem(f"“{text.strip()[:60]}” says not what is done there; put a colon and then “exposure=-0.5”.")
    treatment, known = Treatment(), {each.key: each for each in steps}
    for step in filter(None, map(str.strip, done.split(";"))):
        key, _, value = step.partition("=")
        of = known.get(key.strip().lower())
        if of is None or not value.strip():
            raise Problem(f"“{step[:60]}” is no step of a treatment; there are {', '.join(known)}, each with “=”.")
        treatment = of.write(treatment, of.value(_NOTHING, treatment, value.strip()))
    return Area(where=parse_region(where.strip()), treatment=treatment)


def format_treated_areas(steps: Sequence[Property[Treatment]]) -> Callable[[tuple[Area, ...]], str]:
    """What says areas in the words they are read from."""
    neutral = Treatment()

    def said(area: Area) -> str:
        done = [
            f"{each.key}={each.typed(area.treatment)}"
            for each in steps
            if each.read(area.treatment) != each.read(neutral)
        ]
        return f"{format_region(area.where)}: {'; '.join(done)}".rstrip()

    return lambda areas: " | ".join(map(said, areas))


def parse_upright(text: str) -> Upright | None:
    """Two lines such as “20 90 to 30 10; 80 90 to 70 10”; none of “none”. Problem where they are none."""
    if text.strip().lower() in ("", "none"):
        return None
    figures = [float(each) / 100 for each in _FIGURE.findall(text)]
    if len(figures) != 8:
        raise Problem(f"“{text[:60]}” is not two lines; say “20 90 to 30 10; 80 90 to 70 10”, in per cent.")
    a, b, c, d, e, f, g, h = figures
    return Upright(first=((a, b), (c, d)), second=((e, f), (g, h)))


def format_upright(upright: Upright | None) -> str:
    """Two lines in the words they are read from."""
    if upright is None:
        return ""
    return "; ".join(f"{_at(start)} to {_at(end)}" for start, end in (upright.first, upright.second))


def parse_patches(text: str) -> tuple[Patch, ...]:
    """Patches by their files and places, as they are said; what is left out is taken off. Problem where one is none."""
    out = []
    for part in filter(None, map(str.strip, text.split(";"))):
        file, _, rest = part.partition(" at ")
        figures = [float(each) / 100 for each in _FIGURE.findall(rest)]
        if len(figures) != 4 or not file.endswith(".png"):
            raise Problem(f"“{part[:60]}” is no patch; they are painted on the easel, and told as they are to be kept.")
        left, top, right, bottom = figures
        out.append(Patch(file=file, left=left, top=top, right=right, bottom=bottom))
    return tuple(out)


def format_patches(patches: tuple[Patch, ...]) -> str:
    """Patches in the words they are read from."""
    return "; ".join(
        f"{p.file} at {' '.join(f'{100 * side:.6g}' for side in (p.left, p.top, p.right, p.bottom))}" for p in patches
    )


_NOTHING: Publication = None  # type: ignore[assignment]  # no step of an area looks at the job
