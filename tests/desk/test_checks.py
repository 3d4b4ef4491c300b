"""The Checks station: every fix applied through the window, and taken back."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from half_fold.cli import main
from half_fold.core.paths.all import set_path
from half_fold.core.store.codec import encode
from half_fold.core.typesetting.sheet.sheet import with_fallback
from half_fold.desk.application import Desk
from half_fold.desk.kit.rows import Row
from half_fold.desk.stations.checks import ChecksStation
from half_fold.desk.theme import tokens
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, ready, wait_for
from tests.trips import TRIPS

pytestmark = pytest.mark.checked


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


KEPT = "contents"  # which the desk itself keeps as the pages are after each edit
FIXED = [rule for rule, (_, _, fixed) in TRIPS.items() if fixed and rule != KEPT]


@pytest.mark.parametrize("at", range(4))
def test_a_fix_is_applied_and_taken_back(window: Window, demo: Path, at: int) -> None:
    """Of rules of every module, in a window that has looked at the job already; ``core`` takes every fix."""
    begun = encode(window.session.publication)
    for rule in FIXED[at::32]:
        _fix_and_take_back(window, demo, rule)
        QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        assert encode(window.session.publication) == begun, rule


def _fix_and_take_back(window: Window, demo: Path, rule: str) -> None:
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
    assert encode(window.session.publication) == before, rule


def test_what_is_only_as_was_asked_is_no_more_than_said(desk: Desk, tmp_path: Path) -> None:
    """A face that stands in as the type sheet says: it stands in the list, and nothing is counted or coloured."""
    assert main(["new", "magazine", str(tmp_path / "asked")]) == 0
    window = desk.open(tmp_path / "asked")
    ready(window)
    station = _checks(window)
    window.session.edit(lambda p: with_fallback(p, "Hebrew", "Frank Ruhl Libre"), "stand-in")
    window.session.edit(lambda p: set_path(p, "page.3.claim", "words שלום over 1-6 x 1-2"), "words")
    wait_for(lambda: [f.severity for f in window.session.findings] == ["note"])
    wait_for(lambda: window.docket.buttons[6].line.state == "nothing found")
    assert window.docket.buttons[6].line.tone == tokens.QUIET
    rows = {row.name: row.value for row in station.sections()[-1].items if isinstance(row, Row)}
    assert (rows["Would stop the press"], rows["To look at"], rows["As was asked"]) == ("0", "0", "1")


def test_the_docket_counts_and_the_place_is_shown(window: Window, demo: Path) -> None:
    station = _checks(window)
    wait_for(lambda: window.docket.buttons[6].line.state == "nothing found")
    window.session.edit(lambda p: TRIPS["short of the bleed"][0](p, demo), "trip")
    wait_for(lambda: window.docket.buttons[6].line.state == "1 would stop the press")
    assert window.docket.buttons[6].line.tone == tokens.MADDER
    assert window.session.view.spread.label == "6–7"
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
    assert window.current == 4 and window.session.view.block == window.session.publication.pages[5].blocks[0].id


def test_what_has_no_fix_says_so(window: Window, demo: Path) -> None:
    station = _checks(window)
    window.session.edit(lambda p: TRIPS["missing glyph"][0](p, demo), "trip")
    wait_for(lambda: bool(window.session.findings))
    QTest.keyClick(station.list, Qt.Key.Key_Return)
    assert "no computed fix" in window.foot.sentence


def test_nothing_is_said_to_be_found_before_it_was_looked_for(desk: Desk, demo: Path) -> None:
    """A job that would be refused stood as “nothing found” until the first check had ended."""
    assert main(["set", str(demo), "bleed=0"]) == 0
    window = desk.open(demo)
    ready(window)
    checks = window.docket.buttons[6]
    assert checks.line.state == "looking" and checks.line.tone == tokens.QUIET
    wait_for(lambda: checks.line.state != "looking")
    assert "would stop the press" in checks.line.state or "to look at" in checks.line.state


def test_nothing_is_said_to_be_in_order_before_it_was_looked_at(window: Window) -> None:
    """Opened at once, the station said that nothing was found while the job was still being looked through."""
    window.session.findings, window.session.is_checked = [], False
    window.open_station(6)
    station = window.station
    assert isinstance(station, ChecksStation)
    station._shown = None
    station.fill()
    assert station.list.item(0).text() == "Looking through the job."
    window.session._take_findings([])
    assert station.list.item(0).text().startswith("Nothing found")
