"""A picture as the bench shows it: treated and as it looks in print, in one pass, in the octets that a screen takes."""

from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.compiled.compiling import is_loaded
from half_fold.core.measure.kept import Keeper, kept_by
from half_fold.core.pictures.colour.colour import inks_to_screen, to_screen_profile
from half_fold.core.pictures.colour.colours import colour_steps
from half_fold.core.pictures.colour.press_table import all_places, lanes, looked_up, only_colours, table_places
from half_fold.core.pictures.colour.treat import is_of_colours, treatment_key
from half_fold.core.pictures.library.developing import shown_whole
from half_fold.core.pictures.library.pyramid import Step, kept_copy, reduced
from half_fold.core.publication.records import Picture, Treatment

Octets = npt.NDArray[np.uint8]
_NEUTRAL = Treatment()
_COPIES = (
    160_000_000  # octets of reduced copies that are kept read: a slider of a treatment asks for one again and again
)
_copies: Keeper[Image.Image] = Keeper(400, _COPIES, lambda image: image.width * image.height * 4)


def copy_of(path: Path, digest: str, step: Step) -> Image.Image:
    """A reduced copy, kept read for as long as there is room. Problem where the picture cannot be read."""
    return _copies.of((digest, step, str(path)), lambda: reduced(path, digest, step))


def at_hand(path: Path, digest: str, step: Step) -> Image.Image | None:
    """That copy where it takes no time to speak of: it is held, or kept. None where the file had to be read."""
    return _copies.find((digest, step, str(path))) or kept_copy(digest, step)


def octets_shown(plain: Image.Image, folder: Path, picture: Picture, treatment: Treatment | None) -> Octets | None:
    """Blue, green, red and 255 of each pixel of a whole picture, shape (high, wide, 4), as it looks in print.

    None where it takes more than one pass: it is see-through, prints in black alone, or there is no compiler.
    """
    if not is_loaded() or picture.inks == "black":
        return None
    asked = treatment or _NEUTRAL
    colours = only_colours(asked)
    if not is_of_colours(asked) or asked.seen or asked.patches or asked.upright or picture.mask:
        colours, plain = _NEUTRAL, shown_whole(plain, folder, picture, treatment)
    if plain.mode not in ("RGB", "L"):
        return None
    pixels = np.array(plain.convert("RGB")).reshape(-1)
    table = _table(colour_steps(colours))
    made = looked_up(pixels, table_places(colours), table)
    return made.reshape(plain.height, plain.width, 4)


@kept_by(64, lambda colours: (treatment_key(colours),))
def _table(colours: Treatment) -> npt.NDArray[np.int64]:
    """What each place of the table looks like in print on coated paper."""
    shown = np.asarray(inks_to_screen(to_screen_profile(all_places(colours)))).reshape(-1, 3)
    return lanes(np.concatenate([shown[:, ::-1], np.full((len(shown), 1), 255, np.uint8)], 1))
