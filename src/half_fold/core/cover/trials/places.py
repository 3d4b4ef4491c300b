"""Where covers are seen beside others: on a rack, in a list on a screen, spine out on a shelf."""

from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from PIL import Image

from half_fold.core.cover.flat import IN_VIEW
from half_fold.core.cover.trials.neighbours import front_of, neighbour_spine
from half_fold.core.cover.trials.seen import Pixels, Seen
from half_fold.core.measure.problem import Problem

WALL, WOOD, EDGE = (58, 57, 55), (112, 98, 82), (84, 73, 61)
LIST, AROUND = (248, 248, 248), (189, 189, 189)
GAP = 24  # pixels between pictures that are compared
SMALL = (160, 96)  # pixels across, as lists on screens show covers
_LEDGE = 20  # pixels of wood before each tier
_THIN = 16  # pixels that a spine is at least seen wide on its shelf
_POINT = (246, 244, 239)
_SHELF_MM = (14.0, 9.0, 22.0, 6.5, 17.0, 11.0, 27.0, 8.0, 19.0, 12.5, 5.5, 15.5, 24.0, 10.0)  # thickness of others
_SHELF_HIGH = (0.97, 1.0, 0.9, 1.04, 0.94, 1.0, 1.07, 0.88, 0.98, 1.02, 0.95, 0.91, 1.05, 0.99)  # against ours


class Canvas(Struct, frozen=True):
    """Pixels that things are put on."""

    pixels: Pixels

    @classmethod
    def of(cls, wide: int, high: int, colour: tuple[int, int, int]) -> "Canvas":
        return cls(np.full((high, wide, 3), colour, np.uint8))

    def put(self, what: Pixels, left: int, top: int) -> None:
        """Lay pixels on it, cut where they reach beyond."""
        high, wide = self.pixels.shape[:2]
        x0, y0 = max(0, left), max(0, top)
        x1, y1 = min(wide, left + what.shape[1]), min(high, top + what.shape[0])
        if x1 > x0 and y1 > y0:
            self.pixels[y0:y1, x0:x1] = what[y0 - top : y1 - top, x0 - left : x1 - left]

    def shade(self, left: int, top: int, right: int, bottom: int, light: float) -> None:
        """Darken a rectangle to a share of its light."""
        high, wide = self.pixels.shape[:2]
        part = self.pixels[max(0, top) : min(high, bottom), max(0, left) : min(wide, right)]
        part[...] = (part * light).astype(np.uint8)


def resample(pixels: Pixels, wide: int, high: int) -> Pixels:
    """The pixels at another size, filtered."""
    return np.asarray(Image.fromarray(pixels).resize((max(1, wide), max(1, high)), Image.Resampling.LANCZOS))


def stand_beside(parts: Sequence[Pixels], wide: int, high: int) -> Pixels:
    """Pictures beside one another in columns of one width, all at one scale, as large as there is room."""
    canvas = Canvas.of(wide, high, AROUND)
    column = wide / len(parts)
    scale = min(min((column - GAP) / part.shape[1], (high - 2 * GAP) / part.shape[0]) for part in parts)
    for n, part in enumerate(parts):
        made = resample(part, round(part.shape[1] * scale), round(part.shape[0] * scale))
        canvas.put(made, round(column * (n + 0.5) - made.shape[1] / 2), (high - made.shape[0]) // 2)
    return canvas.pixels


def rack(seen: Seen, wide: int, high: int) -> Pixels:
    """Ours in the middle tier of a stepped rack, of which each tier hides all but the head of the one behind."""
    ratio = seen.size[1] / seen.size[0]
    count = next(n for n in range(3, 12) if (wide // n - 16) * ratio * (1 + 2 * IN_VIEW) + 3 * _LEDGE < high - 24)
    across = wide // count - 16
    tall = round(across * ratio)
    shown = round(tall * IN_VIEW)
    canvas = Canvas.of(wide, high, WALL)
    head = (high - tall - 2 * shown - 3 * _LEDGE) // 2
    for tier, height in enumerate((shown, shown, tall)):
        for place in range(count):
            left = place * (wide // count) + 8
            is_ours = (tier, place) == (1, count // 2)
            front = resample(seen.front, across, tall) if is_ours else front_of(tier * 3 + place, across, tall)
            canvas.shade(left + 4, head + 4, left + across + 5, head + height, 0.7)
            canvas.put(front[:height], left, head)
        head += height
        canvas.put(np.full((_LEDGE, wide, 3), WOOD, np.uint8), 0, head)
        canvas.put(np.full((3, wide, 3), EDGE, np.uint8), 0, head)
        canvas.shade(0, head + 3, wide, head + 9, 0.85)
        head += _LEDGE
    return canvas.pixels


def list_on_screen(seen: Seen, wide: int, high: int) -> Pixels:
    """Ours among others in a list on a screen, at each of the usual sizes, pixel for pixel."""
    canvas = Canvas.of(wide, high, LIST)
    top = 40
    for across, count, ours in ((SMALL[0], 5, 2), (SMALL[1], 8, 3)):
        tall = round(across * seen.size[1] / seen.size[0])
        gap = max(16, (wide - 80 - count * across) // max(1, count - 1))
        gap = min(gap, 48)
        left = (wide - count * across - (count - 1) * gap) // 2
        for place in range(count):
            on_screen = resample(seen.on_screen, across, tall)
            canvas.put(on_screen if place == ours else front_of(place + ours, across, tall), left, top)
            left += across + gap
        top += tall + 48
    return canvas.pixels


def shelf(seen: Seen, wide: int, high: int) -> Pixels:
    """Ours spine out among others of several thicknesses. Problem where there is no spine."""
    if seen.spine is None or seen.thick <= 0:
        raise Problem("This binding has no spine to be seen on a shelf; perfect, sewn and cased copies have.")
    scale = max((high - 130) / seen.size[1] / max(_SHELF_HIGH), _THIN / seen.thick)
    canvas = Canvas.of(wide, high, WALL)
    foot = max(high - 60, round(60 + seen.size[1] * scale * max(_SHELF_HIGH)))  # of tall ones their heads are seen
    canvas.put(np.full((60, wide, 3), WOOD, np.uint8), 0, foot)
    canvas.put(np.full((4, wide, 3), EDGE, np.uint8), 0, foot)
    ours = max(1, round(seen.thick * scale))
    left = (wide - ours) // 2
    for row in range(12):  # points at ours from above
        canvas.put(np.full((1, 24 - 2 * row, 3), _POINT, np.uint8), left + ours // 2 - 12 + row, 16 + row)
    _stand(canvas, resample(seen.spine, ours, round(seen.size[1] * scale)), left, foot)
    for way in (-1, 1):
        at, number = (left if way < 0 else left + ours), 0 if way < 0 else 7
        while 0 < at < wide:
            thick = max(1, round(_SHELF_MM[number % len(_SHELF_MM)] * scale))
            tall = round(seen.size[1] * scale * _SHELF_HIGH[number % len(_SHELF_HIGH)])
            start = at - thick if way < 0 else at
            _stand(canvas, neighbour_spine(number + (way > 0), thick, tall), start, foot)
            at, number = (start if way < 0 else at + thick), number + 1
    return canvas.pixels


def _stand(canvas: Canvas, spine: Pixels, left: int, foot: int) -> None:
    """A spine on the shelf, darker towards its joints."""
    high, wide = spine.shape[:2]
    across = np.abs(np.linspace(-1, 1, wide))
    light = 1 - 0.35 * across**6
    canvas.put((spine * light[None, :, None]).astype(np.uint8), left, foot - high)
    canvas.shade(left + wide, foot - high, left + wide + 1, foot, 0.5)
