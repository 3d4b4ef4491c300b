"""Folding simulated, and proved by an independent folder that moves real corners through space."""

import itertools
import math

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.folding import (
    Fold,
    Imposition,
    flat_sheet,
    folded,
    halves,
    impose,
    is_proved,
    signature,
    work_and_tumble,
    work_and_turn,
)

SEQUENCES = [seq for n in range(1, 6) for seq in itertools.product(("across", "down"), repeat=n)]


class PaperFolder:
    """Folds a sheet as a body in space: each panel is a matrix, each fold a half turn about a line of the sheet.

    It knows nothing of the program's stacks: layers are told apart by a height that each fold reverses.
    """

    def __init__(self, imposition: Imposition) -> None:
        self.imposition = imposition
        self.panels = {(r, c): np.eye(4) for r in range(imposition.rows) for c in range(imposition.columns)}
        self.heights = dict.fromkeys(self.panels, 0.0)
        for fold in imposition.folds:
            self._fold(fold)

    def _middle(self, place: tuple[int, int]) -> npt.NDArray[np.float64]:
        return self.panels[place] @ np.array([place[1] + 0.5, place[0] + 0.5, 0, 1])

    def _fold(self, fold: Fold) -> None:
        axis = 0 if fold.axis == "across" else 1
        moving = [p for p in self.panels if (self._middle(p)[axis] < fold.at) == fold.low]
        turn = np.diag([1.0, 1.0, -1.0, 1.0])
        turn[axis, axis], turn[axis, 3] = -1.0, 2.0 * fold.at
        staying = [self.heights[p] for p in self.panels if p not in moving]
        edge = min(staying) if fold.under else max(staying)
        own = [self.heights[p] for p in moving]
        for place in moving:
            self.panels[place] = turn @ self.panels[place]
            if fold.under:
                self.heights[place] = edge - 1 - (self.heights[place] - min(own))
            else:
                self.heights[place] = edge + 1 + (max(own) - self.heights[place])

    def leaves(self) -> list[tuple[int, npt.NDArray[np.float64]]]:
        """(page, where its head points in space) from the top of the closed stack to its bottom."""
        out = []
        for place in sorted(self.panels, key=lambda p: -self.heights[p]):
            r, c = place
            matrix = self.panels[place]
            front_up = (matrix @ np.array([0, 0, 1, 0]))[2] > 0
            faces = [(self.imposition.front[r][c], 1), (self.imposition.back[r][self.imposition.columns - 1 - c], -1)]
            for placed, side in faces if front_up else reversed(faces):
                angle = math.radians(placed.turned)
                # Looked at from the back of a sheet turned sideways, right is left.
                head = np.array([side * math.sin(angle), -math.cos(angle), 0, 0])
                out.append((placed.page, (matrix @ head)[:3]))
        return out


def _proved_in_space(imposition: Imposition) -> None:
    leaves = PaperFolder(imposition).leaves()
    assert [page for page, _ in leaves] == list(range(1, imposition.pages + 1))
    last = imposition.folds[-1]
    spine = {("across", True): (-1, 0), ("across", False): (1, 0), ("down", True): (0, -1), ("down", False): (0, 1)}
    x, y = spine[last.axis, last.low]
    # Seen from the top with the spine at the left, heads point a quarter turn clockwise from the spine.
    for _, head in leaves:
        assert head[:2] == pytest.approx((-y, x), abs=1e-9)


@pytest.mark.parametrize("sequence", SEQUENCES, ids="".join)
def test_every_sequence_of_halves_up_to_five_folds_back(sequence: tuple[str, ...]) -> None:
    imposition = impose(*halves(sequence))  # type: ignore[arg-type]
    assert imposition.pages == 2 ** (len(sequence) + 1) and is_proved(imposition)
    _proved_in_space(imposition)


@settings(max_examples=300, deadline=None)
@given(st.data())
def test_any_folds_of_any_sheet_fold_back(data: st.DataObject) -> None:
    """Any lines, sides, over or under, that end in one stack: up to five folds."""
    rows, columns = data.draw(st.integers(1, 4)), data.draw(st.integers(1, 5))
    stacks, folds = flat_sheet(rows, columns), []
    while len(stacks) > 1 and len(folds) < 5:
        axes = [a for a, i in (("across", 1), ("down", 0)) if len({place[i] for place in stacks}) > 1]
        axis = data.draw(st.sampled_from(axes))
        places = sorted({place[1 if axis == "across" else 0] for place in stacks})
        fold = Fold(
            axis,  # type: ignore[arg-type]
            data.draw(st.integers(places[0] + 1, places[-1])),
            data.draw(st.booleans()),
            data.draw(st.booleans()),
        )
        stacks = folded(stacks, fold)
        folds.append(fold)
    if len(stacks) > 1 or not folds:
        return
    imposition = impose(rows, columns, tuple(folds))
    assert is_proved(imposition)
    _proved_in_space(imposition)


@pytest.mark.parametrize("pages", [4, 8, 12, 16, 24, 32])
def test_the_usual_signatures(pages: int) -> None:
    imposition = signature(pages)
    assert imposition.pages == pages
    _proved_in_space(imposition)


def _numbers(side: tuple[tuple[object, ...], ...]) -> list[list[int]]:
    return [[placed.page for placed in row] for row in side]  # type: ignore[attr-defined]


def test_impositions_the_trade_knows() -> None:
    """A folder is [4 | 1] and [2 | 3]; of sixteen pages neighbours add up to 17, heads together."""
    folder = signature(4)
    assert (_numbers(folder.front), _numbers(folder.back)) == ([[4, 1]], [[2, 3]])
    sixteen = signature(16)
    assert {p.page for row in sixteen.front for p in row} == {1, 4, 5, 8, 9, 12, 13, 16}
    assert all(a.page + b.page == 17 for row in sixteen.front for a, b in zip(row[::2], row[1::2], strict=True))
    turned = [{placed.turned for placed in row} for row in sixteen.front]
    assert turned in ([{180}, {0}], [{0}, {180}])


def test_work_and_turn_backs_up() -> None:
    """Turned sideways, what lies behind column j of the plate is column n - 1 - j: page k backs page k + 1."""
    for pages in (4, 8, 16):
        plate = work_and_turn(signature(pages))
        width = len(plate[0])
        for row in plate:
            for column, placed in enumerate(row):
                behind = row[width - 1 - column]
                assert {placed.page, behind.page} == {2 * ((placed.page + 1) // 2) - 1, 2 * ((placed.page + 1) // 2)}


def test_work_and_tumble_backs_up() -> None:
    plate = work_and_tumble(signature(8))
    for row in range(len(plate)):
        for column, placed in enumerate(plate[row]):
            behind = plate[len(plate) - 1 - row][column]
            assert (placed.page + 1) // 2 == (behind.page + 1) // 2 and placed.page != behind.page
            assert (placed.turned + behind.turned) % 360 == 180


def test_folds_that_cannot_be() -> None:
    with pytest.raises(Problem, match="side by side"):
        impose(2, 2, (Fold("across", 1),))
    with pytest.raises(Problem, match="does not part"):
        impose(1, 2, (Fold("across", 2),))
    with pytest.raises(Problem, match="no usual folding"):
        signature(20)
