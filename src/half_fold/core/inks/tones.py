"""Inks and fades of the job's list as tones and gradients of the display list."""

import math
from typing import NamedTuple

from half_fold.core.drawing.affine import Affine, turned
from half_fold.core.drawing.tone import BLACK, Gradient, GradientStop, Paint, Spot, Tone, Way
from half_fold.core.measure.kept import kept
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Fade, Ink, Publication, Role
from half_fold.core.publication.surgery import by_name


def ink(publication: Publication, name: str, tint: float = 100.0) -> Tone:
    """The ink of that name at ``tint`` per cent; no name is black alone. Problem where the list lacks it."""
    return _colour(publication.inks, name, tint) if name else BLACK.tinted(tint / 100)


@kept(400)
def _colour(inks: tuple[Ink, ...], name: str, tint: float) -> Tone:
    return tone_of(by_name(inks, name, "ink"), tint)


def tone_of(found: Ink, tint: float = 100.0) -> Tone:
    """An ink at ``tint`` per cent: on a plate of its own where it is a spot."""
    c, m, y, k = found.cyan / 100, found.magenta / 100, found.yellow / 100, found.black / 100
    colour = Tone(s=1.0, spot=Spot(found.name, c, m, y, k)) if found.spot else Tone(c, m, y, k)
    return colour if tint >= 100 else colour.tinted(tint / 100)


def ink_of_role(publication: Publication, role: Role, instead: str | Tone = "") -> Tone:
    """The role's ink and tint, or ``instead`` of it an ink of the list, or a tone."""
    if isinstance(instead, Tone):
        return instead
    return ink(publication, instead) if instead else ink(publication, role.ink, role.tint)


class Filled(NamedTuple):
    """What an area is filled with, and how opaque it is along a fade: None where it is so all over."""

    paint: Paint
    mask: Gradient | None = None


def fill_of(publication: Publication, name: str, tint: float, box: Rect) -> Filled:
    """The ink or fade of that name, laid over a box, its inks screened to ``tint`` per cent."""
    fade = next((each for each in publication.fades if each.name == name), None)
    return Filled(ink(publication, name, tint)) if fade is None else faded(publication, fade, tint, box)


def faded(publication: Publication, fade: Fade, tint: float, box: Rect) -> Filled:
    """A fade laid over a box."""
    lies = _lies(fade, box)
    stops = sorted(fade.stops, key=lambda stop: stop.at)
    tones = (GradientStop(s.at / 100, ink(publication, s.ink, s.tint * tint / 100)) for s in stops)
    way: Way = "radial" if fade.way == "outward" else "linear"
    paint = Gradient(way, lies, tuple(tones))
    if all(stop.opacity >= 100 for stop in stops):
        return Filled(paint)
    return Filled(paint, Gradient(way, lies, tuple(GradientStop(s.at / 100, Tone(k=s.opacity / 100)) for s in stops)))


def _lies(fade: Fade, box: Rect) -> Affine:
    """Where a fade begins and ends in a box: where it was drawn, or at its outermost corners or edges along its way."""
    if fade.line is not None:
        (x, y), (to_x, to_y) = ((box.left + a * box.width, box.top + b * box.height) for a, b in fade.line)
        across, down = to_x - x, to_y - y
        if abs(across) + abs(down) < 1e-3:
            across = 1e-3
        far = math.hypot(across, down)
        return Affine(far, 0, 0, far, x, y) if fade.way == "outward" else Affine(across, down, -down, across, x, y)
    x, y = box.centre
    if fade.way == "outward":
        return Affine(max(box.width, 1e-3) / 2, 0, 0, max(box.height, 1e-3) / 2, x, y)
    sine, cosine = math.sin(math.radians(fade.angle)), math.cos(math.radians(fade.angle))
    reach = max(1e-3, abs(box.width * cosine) + abs(box.height * sine))
    return turned((x, y), fade.angle).after(Affine(reach, 0, 0, reach, x - reach / 2, y))
