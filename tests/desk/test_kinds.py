"""Small jobs through the window: every station opens, is walked, drawn and worked at; kinds stand in the way in."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QInputDialog

from half_fold.core.plan.own_kinds import begin
from half_fold.core.plan.starters import KINDS
from half_fold.desk.application import Desk
from half_fold.desk.docket import facts
from half_fold.desk.welcome import Welcome
from half_fold.desk.window import Window
from tests.desk.conftest import ready, wait_for

SMALL = ("one-sheet", "one-spread", "cover", "screen-cover")
WALKED = (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp, Qt.Key.Key_O, Qt.Key.Key_P, Qt.Key.Key_Right, Qt.Key.Key_Tab)


@pytest.fixture(params=SMALL)
def small(desk: Desk, tmp_path: Path, request: pytest.FixtureRequest) -> Iterator[Window]:
    window = desk.open(begin(request.param, "Hedge", tmp_path / "hedge"))
    window.resize(1280, 800)
    ready(window)
    yield window
    window.close()


@pytest.mark.checked
def test_every_station_of_a_small_job_is_walked(small: Window) -> None:
    for number in range(1, 8):
        small.open_station(number)
        small.station.take_focus()
        for key in WALKED:
            QTest.keyClick(small.focusWidget() or small, key)
        QTest.qWait(20)
        assert small.grab().width() == 1280
        assert small.working.cards is not None
    assert small.session.findings == []


def test_the_docket_says_what_a_small_job_is(small: Window) -> None:
    said = facts(small.session)
    expected = {
        "one-sheet": ("210 × 297 mm", "1 pp", "One sheet", "none"),
        "one-spread": ("210 × 297 mm", "2 pp", "Lying flat", "none"),
        "cover": ("138 × 216 mm", "pages elsewhere", "Cover alone", "14 mm"),
        "screen-cover": ("1600 × 2560 px", "front alone", "For the screen", "none"),
    }
    assert tuple(said.values()) == expected[small.session.publication.kind]


def test_a_claim_over_the_fold_of_pages_that_lie_flat(desk: Desk, tmp_path: Path) -> None:
    window = desk.open(begin("one-spread", "Map", tmp_path / "map"))
    ready(window)
    window.open_station(4)
    bench = window.station.bench  # type: ignore[attr-defined]  # of the Spreads station
    columns, _ = bench.cells()
    assert len(columns) == 12, "both pages are one spread"
    window.close()


def test_every_kind_is_in_the_way_in(desk: Desk) -> None:
    desk.show_welcome()
    assert desk.welcome is not None
    shelf = desk.welcome.kinds
    kinds = []
    for row in range(shelf.count()):
        shelf.setCurrentRow(row)
        kinds.append(shelf.kind())
    assert tuple(kinds) == KINDS


def test_a_job_is_kept_as_a_kind_and_stands_in_the_way_in(
    window: Window, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("Quarterly", True))
    QTest.keyClick(window, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    way_in = Welcome()
    made: list[Path] = []
    way_in.made.connect(made.append)
    last = way_in.kinds.item(way_in.kinds.count() - 1)
    assert last is not None and last.text() == "Quarterly" and not last.icon().isNull()
    way_in.kinds.setCurrentItem(last)
    way_in.title.setText("Hedge Layer")
    way_in.folder.setText(str(tmp_path / "jobs"))
    way_in.start()
    wait_for(lambda: bool(made))
    assert made[0] == tmp_path / "jobs" / "hedge-layer" / "hedge-layer.halffold"
    way_in.deleteLater()
