"""Where each page of a printed sheet lies on it: which way up, with what room between, and where it is folded."""

from collections.abc import Iterator
from itertools import pairwise, product

from msgspec import Struct

from half_fold.core.brief.bindings import binding_named
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.plan.folding import PlacedPage, Side
from half_fold.core.plan.signatures import PrintedSheet, imposed
from half_fold.core.plan.spreads import on_right
from half_fold.core.publication.records import Publication

GRIPPER_MM, HEAD_TRIM_MM, MILLED_MM = 12.0, 3.0, 3.0
COLLATION_STEPS = 12  # down a spine, before the mark begins at its head again
SPINE = "spine"
_SIDES = ("head", "right", "foot", "left")  # clockwise, as they lie on a page that is upright


class Cell(Struct, frozen=True):
    """A page on a sheet: its trim there in points, y downwards, and how far it is turned clockwise, in degrees."""

    page: int
    turned: int
    trim: Rect


class SheetSide(Struct, frozen=True):
    """One side of a printed sheet: its pages, and the lines it is folded along, upright and lying, in points.

    It is laid out from the upper left corner of the first trim. ``spines`` are places of folds that are a spine.
    """

    sheet: PrintedSheet
    name: str
    cells: tuple[Cell, ...]
    upright: tuple[float, ...]
    lying: tuple[float, ...]

    @property
    def trim(self) -> Rect:
        """The rectangle round the trims of all its pages."""
        return hull(cell.trim for cell in self.cells)


def sides(publication: Publication, sheet: PrintedSheet) -> tuple[SheetSide, SheetSide] | None:
    """Front and back of a sheet, the back as it lies when the sheet was turned sideways; None where it is not folded.

    Between pages is the bleed of both, at heads what is trimmed there, at a spine what is milled off.
    """
    if not is_folded(publication):
        return None
    made = imposed(sheet, publication.brief.right_bound)
    if made is None:
        return None
    front, back = (_laid(publication, sheet, *side) for side in (("front", made.front), ("back", made.back)))
    return front, back


def is_folded(publication: Publication) -> bool:
    """Whether its pages are printed on sheets that are folded: not loose leaves, boards, or what is not bound."""
    binding = binding_named(publication.brief.binding)
    return binding.bound and not binding.mounted and binding.cover != "leaves"


def _laid(publication: Publication, sheet: PrintedSheet, name: str, side: Side) -> SheetSide:
    wide, high = publication.brief.width.pt, publication.brief.height.pt
    if side[0][0].turned in (90, 270):
        wide, high = high, wide
    edges = [[_edges(publication, placed) for placed in row] for row in side]
    rows, columns = len(side), len(side[0])
    across = [
        max(_room(publication, edges[r][c][1]) + _room(publication, edges[r][c + 1][3]) for r in range(rows))
        for c in range(columns - 1)
    ]
    down = [
        max(_room(publication, edges[r][c][2]) + _room(publication, edges[r + 1][c][0]) for c in range(columns))
        for r in range(rows - 1)
    ]
    lefts, tops = list(_starts(wide, across)), list(_starts(high, down))
    cells = [
        Cell(side[r][c].page, side[r][c].turned, Rect(x, y, x + wide, y + high))
        for (r, y), (c, x) in product(enumerate(tops), enumerate(lefts))
    ]
    return SheetSide(sheet, name, tuple(cells), _between(lefts, wide), _between(tops, high))


def _starts(size: float, gaps: list[float]) -> Iterator[float]:
    at = 0.0
    for gap in (*gaps, 0.0):
        yield at
        at += size + gap


def _between(starts: list[float], size: float) -> tuple[float, ...]:
    """The middles of the gaps, which is where a sheet is folded."""
    return tuple((one + size + other) / 2 for one, other in pairwise(starts))


def _edges(publication: Publication, placed: PlacedPage) -> tuple[str, ...]:
    """What lies at the top, right, bottom and left of a page as it is turned."""
    spine = "left" if on_right(publication, placed.page) else "right"
    names = [SPINE if side == spine else side for side in _SIDES]
    steps = placed.turned // 90
    return tuple(names[(at - steps) % 4] for at in range(4))


def _room(publication: Publication, edge: str) -> float:
    """How far a page keeps from its neighbour beyond that edge, in points."""
    if edge == SPINE:
        return milled(publication)
    least = HEAD_TRIM_MM * MM if edge == "head" else 0.0
    return max(publication.brief.bleed.pt, least)


def milled(publication: Publication) -> float:
    """What is milled off the spine of a gathered copy before it is glued, in points."""
    binding = binding_named(publication.brief.binding)
    return MILLED_MM * MM if binding.signatures and not binding.folded else 0.0


def sheet_spine(side: SheetSide) -> tuple[float, float, float] | None:
    """Where the first and the last page of a sheet meet: x, and the top and foot of the pages, in points."""
    ends = {side.sheet.pages[0], side.sheet.pages[-1]}
    first, *more = (cell for cell in side.cells if cell.page in ends)
    if not more or first.trim.top != more[0].trim.top:
        return None
    x = next(x for x in side.upright if first.trim.right <= x <= more[0].trim.left)
    return x, first.trim.top, first.trim.bottom
