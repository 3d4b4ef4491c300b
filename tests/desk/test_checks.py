"""The Checks station: every fix applied through the window, and taken back."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from half_fold.core.store.codec import encode
from half_fold.desk.stations.checks import ChecksStation
from half_fold.desk.theme import tokens
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, wait_for
from tests.trips import TRIPS


def _checks(window: Window) -> ChecksStation:
    QTest.keyClick(window, Qt.Key.Key_6, Qt.KeyboardModifier.ControlModifier)
    assert isinstance(window.station, ChecksStation)
    return window.station


def _choose(station: ChecksStation, rule: str) -> None:
    rows = [
        i
        for i in range(station.list.count())
        if getattr(station.list.item(i).data(Qt.ItemDataRole.UserRole), "rule", "") == rule
    ]
    station.list.setCurrentRow(rows[0])


@pytest.mark.parametrize("rule", [rule for rule, (_, _, fixed) in TRIPS.items() if fixed])
def test_a_fix_is_applied_and_taken_back(window: Window, demo: Path, rule: str) -> None:
    trip, stops, _ = TRIPS[rule]
    window.session.edit(lambda p: trip(p, demo / "pictures"), "trip")
    station = _checks(window)
    wait_for(lambda: any(f.rule == rule for f in window.session.findings))
    _choose(station, rule)
    assert window.working.cards[0].card.stops_press == stops
    before, count = encode(window.session.publication), sum(f.rule == rule for f in window.session.findings)
    QTest.keyClick(station.list, Qt.Key.Key_Return)
    wait_for(lambda: sum(f.rule == rule for f in window.session.findings) < count)
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert encode(window.session.publication) == before


def test_the_docket_counts_and_the_place_is_shown(window: Window, demo: Path) -> None:
    station = _checks(window)
    wait_for(lambda: window.docket.buttons[6].line.state == "nothing found")
    window.session.edit(lambda p: TRIPS["short of the bleed"][0](p, demo), "trip")
    wait_for(lambda: window.docket.buttons[6].line.state == "1 would stop the press")
    assert window.docket.buttons[6].line.tone == tokens.MADDER
    assert window.session.spread.label == "6–7"
    finding = station.chosen()
    assert finding is not None and finding.rect is not None
    QTest.qWait(30)
    edge = station.bench.to_widget(finding.rect).topLeft().toPoint()
    assert station.bench.grab().toImage().pixelColor(edge.x() + 60, edge.y()).name() == tokens.MADDER.lower()


def test_the_card_goes_there(window: Window, demo: Path) -> None:
    _checks(window)
    window.session.edit(lambda p: TRIPS["low resolution"][0](p, demo), "trip")
    wait_for(lambda: bool(window.session.findings))
    card = window.working.cards[0]
    QTest.mouseClick(next(b for b in card.findChildren(QPushButton) if b.text() == "Go there"), LEFT)
    assert window.current == 4 and window.session.block == window.session.publication.pages[5].blocks[0].id


def test_what_has_no_fix_says_so(window: Window, demo: Path) -> None:
    station = _checks(window)
    window.session.edit(lambda p: TRIPS["missing glyph"][0](p, demo), "trip")
    wait_for(lambda: bool(window.session.findings))
    QTest.keyClick(station.list, Qt.Key.Key_Return)
    assert "no computed fix" in window.foot.sentence
