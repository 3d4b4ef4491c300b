"""The folding simulator: a flat sheet of panels folded step by step, and what comes to lie where.

Nothing is tabulated. A fold names its axis, the line it runs along, which side moves, and whether over or under; the
stack that comes of it is read in order, and that order is carried back to the flat sheet as its imposition.
"""

from collections.abc import Sequence
from functools import lru_cache
from typing import Literal

from msgspec import Struct

from half_fold.core.measure.problem import Problem

Axis = Literal["across", "down"]


class Fold(Struct, frozen=True):
    """Along ``at`` panels from the left (``across``: the right moves) or the head (``down``: the foot moves).

    ``low`` moves the other side instead: the left, or the head. It goes over what stays, or ``under`` it.
    """

    axis: Axis
    at: int
    low: bool = False
    under: bool = False

    @property
    def words(self) -> str:
        sides = {("across", False): "right", ("across", True): "left", ("down", False): "foot", ("down", True): "head"}
        where = "under" if self.under else "over"
        return f"the {sides[self.axis, self.low]} {where}, along line {self.at}"


class Panel(Struct, frozen=True):
    """A panel in the folded stack: where it was on the flat, and how it lies now.

    ``turned_x`` and ``turned_y`` count its mirrorings; a panel turned over once shows its back upwards.
    """

    row: int
    column: int
    turned_x: bool = False
    turned_y: bool = False

    @property
    def back_up(self) -> bool:
        return self.turned_x != self.turned_y


Stacks = dict[tuple[int, int], tuple[Panel, ...]]  # (row, column) to its panels from the bottom up


def flat_sheet(rows: int, columns: int) -> Stacks:
    """A sheet before any fold."""
    return {(r, c): (Panel(r, c),) for r in range(rows) for c in range(columns)}


def folded(stacks: Stacks, fold: Fold) -> Stacks:
    """What comes of one fold. Problem where its line does not part the sheet."""
    index = 1 if fold.axis == "across" else 0
    places = [place[index] for place in stacks]
    low, high = min(places), max(places)
    if not low < fold.at <= high:
        raise Problem(f"A fold along line {fold.at} does not part a sheet of {high - low + 1} panels; choose another.")
    stays: Stacks = {p: s for p, s in stacks.items() if (p[index] >= fold.at) == fold.low}
    moves: Stacks = {p: s for p, s in stacks.items() if (p[index] >= fold.at) != fold.low}
    for place, stack in moves.items():
        there = 2 * fold.at - 1 - place[index]
        target = (place[0], there) if index else (there, place[1])
        turned = tuple(_turned(panel, fold.axis) for panel in reversed(stack))
        below = stays.get(target, ())
        stays[target] = turned + below if fold.under else below + turned
    return stays


def _turned(panel: Panel, axis: Axis) -> Panel:
    if axis == "across":
        return Panel(panel.row, panel.column, not panel.turned_x, panel.turned_y)
    return Panel(panel.row, panel.column, panel.turned_x, not panel.turned_y)


class PlacedPage(Struct, frozen=True):
    """A page on a side of the flat sheet: its number, and by how many degrees its head is turned (clockwise)."""

    page: int
    turned: int


Side = tuple[tuple[PlacedPage, ...], ...]


class Imposition(Struct, frozen=True):
    """Both sides of a flat sheet as each is looked at: the back after turning the sheet sideways."""

    rows: int
    columns: int
    front: Side
    back: Side
    folds: tuple[Fold, ...]

    @property
    def pages(self) -> int:
        return 2 * self.rows * self.columns


@lru_cache(maxsize=256)
def impose(rows: int, columns: int, folds: tuple[Fold, ...]) -> Imposition:
    """The imposition of a sheet that these folds make into one stack bound along its last fold.

    Page 1 is the recto that shows when the closed stack lies with its spine to the left. Problem where the folds
    leave more than one stack.
    """
    if not folds:
        raise Problem("A sheet with no fold is no signature; give its folds.")
    stacks = flat_sheet(rows, columns)
    for fold in folds:
        stacks = folded(stacks, fold)
    if len(stacks) != 1:
        raise Problem(f"These folds leave {len(stacks)} panels side by side; fold on until one is left.")
    (stack,) = stacks.values()
    return _read(rows, columns, folds, stack)


def _read(rows: int, columns: int, folds: tuple[Fold, ...], stack: tuple[Panel, ...]) -> Imposition:
    """Number the faces of the closed stack from its top down, and carry each with its head back to the flat."""
    head = _head_of(folds[-1])
    front: dict[tuple[int, int], PlacedPage] = {}
    back: dict[tuple[int, int], PlacedPage] = {}
    for index, panel in enumerate(reversed(stack)):
        for number, on_back in ((2 * index + 1, panel.back_up), (2 * index + 2, not panel.back_up)):
            turned = _degrees(_on_flat(panel, head), on_back)
            (back if on_back else front)[panel.row, panel.column] = PlacedPage(number, turned)
    return Imposition(
        rows,
        columns,
        tuple(tuple(front[r, c] for c in range(columns)) for r in range(rows)),
        tuple(tuple(back[r, columns - 1 - c] for c in range(columns)) for r in range(rows)),
        folds,
    )


Vector = tuple[int, int]


def _head_of(last: Fold) -> Vector:
    """Where heads point in the closed stack, looked at from its top: so that its spine is at the left of a reader.

    x runs to the right and y down. A stack whose crease is at the right is turned half round to be read, and so on.
    """
    if last.axis == "across":
        return (0, -1) if last.low else (0, 1)
    return (1, 0) if last.low else (-1, 0)


def _on_flat(panel: Panel, head: Vector) -> Vector:
    """A direction of the stack on the flat that the panel came from."""
    return (-head[0] if panel.turned_x else head[0], -head[1] if panel.turned_y else head[1])


def _degrees(head: Vector, on_back: bool) -> int:
    """Clockwise from upright, looked at from the front, or from the back of a sheet turned sideways."""
    x, y = (-head[0], head[1]) if on_back else head
    return {(0, -1): 0, (1, 0): 90, (0, 1): 180, (-1, 0): 270}[x, y]


def halves(folds: Sequence[Axis]) -> tuple[int, int, tuple[Fold, ...]]:
    """Rows, columns and folds of a sheet folded in half each time, the low side under the high one."""
    size = {"down": 2 ** list(folds).count("down"), "across": 2 ** list(folds).count("across")}
    left, out = dict(size), []
    for axis in folds:
        left[axis] //= 2
        out.append(Fold(axis, size[axis] - left[axis], low=True, under=True))
    return size["down"], size["across"], tuple(out)


def _rolled(axis: Axis, at: int) -> Fold:
    return Fold(axis, at, low=True, under=True)


# The usual folding of each signature: right-angle folds, the last along the spine; some fold in thirds on the way.
_USUAL: dict[int, tuple[int, int, tuple[Fold, ...]]] = {
    4: halves(("across",)),
    8: halves(("down", "across")),
    12: (3, 2, (_rolled("down", 1), _rolled("down", 2), _rolled("across", 1))),
    16: halves(("across", "down", "across")),
    24: (3, 4, (_rolled("across", 2), _rolled("down", 1), _rolled("down", 2), _rolled("across", 3))),
    32: halves(("down", "across", "down", "across")),
}


def signature(pages: int) -> Imposition:
    """The usual imposition of a signature. Problem for a size that is not folded."""
    if pages not in _USUAL:
        sizes = ", ".join(map(str, _USUAL))
        raise Problem(f"There is no usual folding of {pages} pages; there are {sizes}.")
    rows, columns, folds = _USUAL[pages]
    return impose(rows, columns, folds)


def read_back(imposition: Imposition) -> list[tuple[int, bool]]:
    """Fold the printed sheet again and leaf through it: (page, whether its head is up) in reading order."""
    stacks = flat_sheet(imposition.rows, imposition.columns)
    for fold in imposition.folds:
        stacks = folded(stacks, fold)
    (stack,) = stacks.values()
    head = _head_of(imposition.folds[-1])
    found = []
    for panel in reversed(stack):
        for on_back in (panel.back_up, not panel.back_up):
            side = imposition.back if on_back else imposition.front
            column = imposition.columns - 1 - panel.column if on_back else panel.column
            placed = side[panel.row][column]
            found.append((placed.page, placed.turned == _degrees(_on_flat(panel, head), on_back)))
    return found


def is_proved(imposition: Imposition) -> bool:
    """Whether the folded sheet reads 1 to n with every head up."""
    return read_back(imposition) == [(page, True) for page in range(1, imposition.pages + 1)]


# Printing both sides from one plate ---------------------------------------------------------------------


def work_and_turn(imposition: Imposition) -> Side:
    """One plate of twice the width that prints both sides: the back stands to the right of the front.

    The sheet is turned sideways for its second printing and cut in two, which gives two copies.
    """
    return tuple(f + b for f, b in zip(imposition.front, imposition.back, strict=True))


def work_and_tumble(imposition: Imposition) -> Side:
    """One plate of twice the height: the sheet is tumbled head over foot, so it needs grip at both ends."""
    tumbled = tuple(
        tuple(PlacedPage(placed.page, (placed.turned + 180) % 360) for placed in reversed(row))
        for row in reversed(imposition.back)
    )
    return imposition.front + tumbled
