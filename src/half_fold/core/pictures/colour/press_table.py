"""Colours to press inks by a table of what LittleCMS answers: a treatment, the profile and the ink limit in one pass.

A pass of its own for each takes three times as long. Between the places of the table a colour is read within the
tetrahedron it lies in (Kasson, Nin, Plouffe and Hafner, 1995), so that greys stay on the line of greys.
"""

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace
from PIL import Image

from half_fold.core.compiled.compiling import Octets, Wholes, is_loaded, known
from half_fold.core.measure.kept import kept_by
from half_fold.core.pictures.colour.colour import converted
from half_fold.core.pictures.colour.colours import colour_steps, has_colours
from half_fold.core.pictures.colour.ink_total import held_to
from half_fold.core.pictures.colour.treat import cube, only_tones, sharpened, steeper, tables, treated, treatment_key
from half_fold.core.publication.records import Treatment

PLACES = 52  # along each colour: one at each fifth of 256 steps, so that none lies beside a step
STEP = 5
WORTHWHILE = 50_000  # pixels: for fewer a table takes longer to make than it saves
HALVES = 0x0080_0080_0080_0080  # a half of each of the four inks, to round by
FRACTION = 256  # a place is told in so many parts of the way to the next
_NEUTRAL = Treatment()


def _needs(pixels: object, places: object, table: object, made: object, count: int) -> dict[str, int]:
    return {"pixels": 3 * count, "places": 768, "table": PLACES**3, "made": 4 * count}


@known(_needs)
def look_up(pixels: Octets, places: Wholes, table: Wholes, made: Octets, count: int) -> int:
    """Write the inks of ``count`` pixels into ``made``; ``places`` says where each step of each colour lies.

    An entry of the table holds four inks, 16 bits apart: weights that come to 256 never carry from one to the next, so
    that all four are weighed at once.
    """
    for at in range(count):
        red = places[int(pixels[3 * at])]
        green = places[256 + int(pixels[3 * at + 1])]
        blue = places[512 + int(pixels[3 * at + 2])]
        low = (blue // FRACTION * PLACES + green // FRACTION) * PLACES + red // FRACTION
        r, g, b = red % FRACTION, green % FRACTION, blue % FRACTION
        to_red = 1 if r else 0
        to_green = PLACES if g else 0
        to_blue = PLACES * PLACES if b else 0
        # Chosen without branches: what the next pixel is cannot be foretold.
        first = to_red if r >= g and r >= b else (to_green if g >= b else to_blue)
        last = to_blue if b <= g and b <= r else (to_green if g <= r else to_red)
        most, least, far = max(r, g, b), min(r, g, b), to_red + to_green + to_blue
        middle = r + g + b - most - least
        inks = (
            table[low] * (FRACTION - most)
            + table[low + first] * (most - middle)
            + table[low + far - last] * (middle - least)
            + table[low + far] * least
            + HALVES
        )
        made[4 * at] = (inks >> 8) & 255
        made[4 * at + 1] = (inks >> 24) & 255
        made[4 * at + 2] = (inks >> 40) & 255
        made[4 * at + 3] = (inks >> 56) & 255
    return 0


def in_inks(
    image: Image.Image,
    source: bytes,
    profile: bytes,
    limit: float = 0.0,
    treatment: Treatment | None = None,
    final_ppi: float = 0.0,
) -> Image.Image:
    """A picture in RGB, meant by the profile ``source``, treated and in inks of ``profile`` that keep to a ``limit``.

    The limit is per cent of all inks together; 0 is none. Of a treatment curves, tones and colours are done, and it is
    sharpened before where ``final_ppi`` says how many pixels go to the printed inch; nothing else. Without the compiler
    LittleCMS converts the pixels themselves, to the same colours.
    """
    asked = only_colours(treatment)
    if not is_loaded() or image.width * image.height < WORTHWHILE:
        ready = sharpened(image, treatment, final_ppi) if treatment is not None else image
        return _one_by_one(ready, source, profile, limit, asked)
    colours = np.array(image)
    if treatment is not None and treatment.sharpen and final_ppi:
        colours = steeper(colours, treatment.sharpen, final_ppi)
    table = _table(source, profile, limit, colour_steps(asked))
    made = looked_up(colours.reshape(-1), table_places(asked), table)
    return Image.frombuffer("CMYK", image.size, made, "raw", "CMYK", 0, 1)


def only_colours(treatment: Treatment | None) -> Treatment:
    """What of a treatment follows from the colour of a pixel."""
    return _NEUTRAL if treatment is None else replace(only_tones(treatment), blur=0.0, sharpen=0.0)


def _one_by_one(image: Image.Image, source: bytes, profile: bytes, limit: float, treatment: Treatment) -> Image.Image:
    made = converted(treated(image, treatment).convert("RGB"), source, profile, "CMYK")
    return Image.fromarray(held_to(np.asarray(made), limit, profile), "CMYK") if limit else made


@kept_by(64, lambda treatment: (treatment_key(treatment),))
def table_places(treatment: Treatment) -> npt.NDArray[np.int64]:
    """Where each of 256 steps of red, of green and of blue lies once its curve has been applied."""
    return np.rint(tables(treatment) * (255 / STEP) * FRACTION).astype(np.int64).reshape(-1)


@kept_by(32, lambda source, profile, limit, colours: (source, profile, limit, treatment_key(colours)))
def _table(source: bytes, profile: bytes, limit: float, colours: Treatment) -> npt.NDArray[np.int64]:
    """The inks at each place, blue first and red last: cyan in the lowest 16 bits, black in the highest."""
    image = all_places(colours)
    inks = np.asarray(converted(image, source, profile, "CMYK"))
    inks = held_to(inks, limit, profile) if limit else inks
    return lanes(inks.reshape(-1, 4))


def all_places(colours: Treatment) -> Image.Image:
    """What a treatment makes of the colours at the places of a table, blue first and red last."""
    steps = np.arange(0, 256, STEP, dtype=np.uint8)
    blue, green, red = np.meshgrid(steps, steps, steps, indexing="ij")
    image = Image.fromarray(np.stack([red, green, blue], -1).reshape(PLACES * PLACES, PLACES, 3))
    return image.filter(cube(colours)) if has_colours(colours) else image


def lanes(octets: npt.NDArray[np.uint8]) -> npt.NDArray[np.int64]:
    """Four octets of each place (shape (places, 4)) as one entry of a table, 16 bits apart, the first in the lowest."""
    return octets.astype(np.int64) @ np.array([1, 1 << 16, 1 << 32, 1 << 48], np.int64)


def looked_up(
    pixels: npt.NDArray[np.uint8], places: npt.NDArray[np.int64], table: npt.NDArray[np.int64]
) -> npt.NDArray[np.uint8]:
    """Four octets of each pixel, which has three, by a table."""
    made = np.empty(len(pixels) // 3 * 4, np.uint8)
    look_up(pixels, places, table, made, len(pixels) // 3)
    return made
