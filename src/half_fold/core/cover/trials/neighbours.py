"""Made-up publications that stand beside a cover on racks and shelves: calm and loud, dark and light."""

from functools import lru_cache
from pathlib import Path as FilePath

import numpy as np
from msgspec import Struct

from half_fold.core.cover.trials.seen import Pixels, draw_in_light
from half_fold.core.drawing.marks import DisplayList, Glyphs, Mark, Path
from half_fold.core.drawing.outline import ellipse, polygon, rectangle
from half_fold.core.drawing.shapes import burst
from half_fold.core.drawing.tone import Tone
from half_fold.core.legibility.grounds import sources_of
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import COATED, shipped_profile
from half_fold.core.typesetting.faces.faces import face

_UNIT = 100.0  # a cover is drawn so many points wide


class Neighbour(Struct, frozen=True):
    """A name in a face, its tone on that of the ground, a third tone, and what is drawn: hills, a round or a burst."""

    name: str
    face: str
    ink: Tone
    ground: Tone
    third: Tone
    shows: str


_WHITE, _BLACK = Tone(0, 0, 0, 0), Tone(0, 0, 0, 0.92)
_SANS, _NARROW = "IBM Plex Sans/Bold", "IBM Plex Sans Condensed/Bold"
NEIGHBOURS = (
    Neighbour("Osier", "Young Serif/Regular", _WHITE, Tone(0.85, 0.35, 0.2, 0.3), Tone(0.1, 0.25, 0.8, 0), "hills"),
    Neighbour("QUERN", _SANS, Tone(0, 0.9, 0.85, 0.05), Tone(0.02, 0.02, 0.06, 0), Tone(0, 0.3, 0.5, 0.1), "round"),
    Neighbour("Sallow Post", "EB Garamond/Bold", _BLACK, Tone(0.05, 0.1, 0.55, 0), Tone(0.6, 0.1, 0.7, 0.1), "burst"),
    Neighbour("MARL", _NARROW, _WHITE, _BLACK, Tone(0, 0.75, 0.95, 0), "burst"),
    Neighbour(
        "Upper Brook", "EB Garamond/Italic", Tone(0.9, 0.6, 0.1, 0.2), Tone(0.3, 0.05, 0.08, 0),
        Tone(0.7, 0.3, 0.1, 0), "hills",
    ),
    Neighbour(
        "Tallow", "Young Serif/Regular", Tone(0, 0.05, 0.4, 0), Tone(0.2, 0.85, 0.7, 0.25),
        Tone(0, 0.35, 0.7, 0), "round",
    ),
    Neighbour("FURROW", _SANS, _WHITE, Tone(0.55, 0.15, 0.75, 0.2), Tone(0.1, 0, 0.5, 0), "round"),
    Neighbour("Hob & Kiln", "Frank Ruhl Libre/Bold", _BLACK, _WHITE, Tone(0, 0.5, 0.9, 0), "hills"),
)  # fmt: skip


@lru_cache(64)
def front_of(number: int, wide: int, high: int) -> Pixels:
    """The front of a neighbour, so many pixels wide and high; their numbers begin again after the last."""
    each = NEIGHBOURS[number % len(NEIGHBOURS)]
    size = Rect(0, 0, _UNIT, _UNIT * high / wide)
    marks: list[Mark] = [Path(rectangle(size), each.ground, None), *_shown(each, size)]
    head = min(22.0, size.bottom * 0.2)
    marks += _line(each.name, each.face, each.ink, 6, 88, head, head * 1.15)
    marks += _line("what they grew, and what became of it", "IBM Plex Sans/Regular", each.ink, 6, 52, size.bottom - 8)
    return _pixels(DisplayList(size, tuple(marks)), wide, high)


@lru_cache(64)
def neighbour_spine(number: int, wide: int, high: int) -> Pixels:
    """The spine of a neighbour, read from head to foot."""
    each = NEIGHBOURS[number % len(NEIGHBOURS)]
    size = Rect(0, 0, _UNIT, _UNIT * wide / high)  # as it lies, turned at the end
    marks: list[Mark] = [Path(rectangle(size), each.ground, None)]
    marks.append(Path(rectangle(Rect(82, 0, 86, size.bottom)), each.third, None))
    marks += _line(each.name, each.face, each.ink, 8, 50, size.bottom * 0.72, size.bottom * 0.75)
    return np.ascontiguousarray(np.rot90(_pixels(DisplayList(size, tuple(marks)), high, wide), -1))


def _shown(each: Neighbour, size: Rect) -> list[Mark]:
    if each.shows == "hills":
        return [
            Path(polygon([(0, y), (size.right * 0.3, y - rise), (size.right * 0.6, y - rise * 0.4),
                          (size.right, y - rise * 1.1), (size.right, size.bottom), (0, size.bottom)]), tone, None)
            for y, rise, tone in ((size.bottom * 0.62, 14.0, each.third), (size.bottom * 0.8, 8.0, each.ink))
        ]  # fmt: skip
    middle = Rect(22, size.bottom * 0.36, 78, size.bottom * 0.36 + 56)
    shape = ellipse(middle) if each.shows == "round" else burst(middle, 18, 0.22)
    return [Path(shape, each.third, None)]


def _line(
    words: str, key: str, tone: Tone, left: float, wide: float, baseline: float, most: float = 26.0
) -> list[Glyphs]:
    """Words as wide as that, and no larger than ``most``."""
    shaped = face(key).shape(words)
    size = min(wide / shaped.width, most)
    xs = left + size * np.array(shaped.pens[: len(shaped.glyphs)])
    return [Glyphs(key, size, shaped.gids, xs, baseline, tone, shaped.texts)]


def _pixels(marks: DisplayList, wide: int, high: int) -> Pixels:
    profile = shipped_profile(COATED)
    made = draw_in_light(marks, wide / marks.area.width, sources_of(FilePath("."), (), profile), profile)
    return made[:high, :wide]
