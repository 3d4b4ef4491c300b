"""A QR code as it is printed: its modules as one outline, on a white ground with the quiet zone of four modules.

Source: ISO/IEC 18004, by segno. A code stands in the middle of its block, as large as that allows. How large a module
has to be is the reader's matter: phones read 0.4 mm from a hand's length, and a tenth of the distance from afar.
"""

from functools import lru_cache

import numpy as np

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import Mark, Path, Shape, from_block
from half_fold.core.drawing.outline import Outline, polygon
from half_fold.core.drawing.shapes import joined
from half_fold.core.drawing.tone import WHITE
from half_fold.core.inks.tones import ink
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Block, HoldsCode, Publication
from half_fold.core.spread.where.filled import fill_words

QUIET = 4  # modules all round
LEAST_MODULE_MM = 0.4
FAR = 10.0  # times its own size: from so far away a code is read
PROOFS = {"low": ("L", 7), "medium": ("M", 15), "high": ("Q", 25), "highest": ("H", 30)}
MOST_LETTERS = 1200


@lru_cache(64)
def code_modules(says: str, proof: str) -> np.ndarray[tuple[int, int], np.dtype[np.bool_]]:
    """The modules of a code without its quiet zone, True where dark. Problem where it says too much."""
    import segno  # only where there is a code: it would slow every start
    from segno.encoder import DataOverflowError

    try:
        is_plain = says.isascii()  # of other letters it is said what they are, so that no reader has to guess
        made = segno.make(
            says or " ", error=PROOFS[proof][0], micro=False, boost_error=False, eci=not is_plain,
            encoding=None if is_plain else "utf-8", mode=None if is_plain else "byte",
        )  # fmt: skip
    except (DataOverflowError, ValueError, UnicodeError) as error:
        raise Problem("That is more than a code can say; give it a shorter address.") from error
    return np.array([list(row) for row in made.matrix], bool)


def as_said(typed: str) -> str:
    """What a code is to say, as typed. Problem where it is too long to be read from paper."""
    says = typed.strip()
    if len(says) > MOST_LETTERS:
        raise Problem(f"A code of {len(says)} letters is too fine to be read; {MOST_LETTERS} are the most.")
    code_modules(says, "highest")
    return says


def code_area(publication: Publication, holds: HoldsCode, box: Rect) -> tuple[Rect, float]:
    """Where a code lies in its block with its quiet zone, and how large a module is, in points."""
    count = len(_modules_of(publication, holds)) + 2 * QUIET
    side = min(box.width, box.height)
    x, y = box.centre
    return Rect(x - side / 2, y - side / 2, x + side / 2, y + side / 2), side / count


def module_mm(publication: Publication, holds: HoldsCode, box: Rect) -> float:
    """How large its modules print."""
    return code_area(publication, holds, box)[1] / MM


def code_marks(publication: Publication, block: Block, box: Rect) -> list[Mark]:
    """Ground and modules."""
    holds = block.holds
    assert isinstance(holds, HoldsCode)
    area, module = code_area(publication, holds, box)
    place = Affine(module, 0, 0, module, area.left + QUIET * module, area.top + QUIET * module)
    outline = _outline(_words(publication, holds), holds.proof).through(place)
    white: list[Mark] = [Shape(area, WHITE, origin=from_block(block.id))] if holds.white else []
    return [*white, Path(outline, ink(publication, holds.ink), None, from_block(block.id))]


def _words(publication: Publication, holds: HoldsCode) -> str:
    return fill_words(publication, holds.says)


def _modules_of(publication: Publication, holds: HoldsCode) -> np.ndarray[tuple[int, int], np.dtype[np.bool_]]:
    return code_modules(_words(publication, holds), holds.proof)


@lru_cache(64)
def _outline(says: str, proof: str) -> Outline:
    """Round all that is dark, one unit a module: no edge runs between two dark modules, where light would show."""
    from shapely import box, unary_union
    from shapely.geometry import MultiPolygon
    from shapely.geometry.polygon import orient

    dark = code_modules(says, proof)
    whole = unary_union([box(x, y, x + 1, y + 1) for y, x in np.argwhere(dark).tolist()])
    parts = list(whole.geoms) if isinstance(whole, MultiPolygon) else [whole]
    rings = []
    for part in map(orient, parts):
        rings += [polygon(list(ring.coords)[:-1]) for ring in (part.exterior, *part.interiors)]
    return joined(rings)
