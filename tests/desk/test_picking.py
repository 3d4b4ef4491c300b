"""An ink picked with the mouse from what is seen, on a spread and on the cover."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from half_fold.core.paths.all import set_paths
from half_fold.core.publication.records import HoldsPanel
from half_fold.core.publication.surgery import block_named, page_of_block
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.stations.cover.station import CoverStation
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag, field, on_bench, spreads_at

SHIFT, NONE = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def station(window: Window) -> SpreadsStation:
    """Spreads, with two panels on page 27, the first in straw."""
    station = spreads_at(window, 26)
    for at in range(2):
        drag(station.bench, field(station.bench, 7, 2 * at), field(station.bench, 8, 2 * at))
        QTest.keyClicks(station.chooser, "i")
        QTest.qWait(10)
    first = station.session.publication.pages[26].things[0].id
    station.session.edit(lambda p: set_paths(p, [f"block.{first}.ink=russet", f"block.{first}.tint=60 %"]), "ink")
    return station


def _middle(station: SpreadsStation, name: str) -> QPoint:
    index, _, block = page_of_block(station.session.publication, name)
    left, top, right, bottom = block_box(station.session.publication, index + 1, block)
    return on_bench(station.bench, (left + right) / 2, (top + bottom) / 2)


def test_what_is_clicked_is_the_ink_of_what_is_chosen(station: SpreadsStation, qtbot: QtBot) -> None:
    session, bench = station.session, station.bench
    first, second = (thing.id for thing in session.publication.pages[26].things)
    session.view.select(second)
    QTest.keyClick(bench, Qt.Key.Key_P, SHIFT)
    assert bench.picker.work
    QTest.mouseMove(bench, _middle(station, first))
    qtbot.waitUntil(lambda: bench.picker.found is not None)
    assert bench.picker.found is not None and bench.picker.found.name == "russet"
    QTest.mouseClick(bench, LEFT, NONE, _middle(station, first))
    qtbot.waitUntil(lambda: not bench.picker.work)
    holds = block_named(session.publication, second).holds
    assert isinstance(holds, HoldsPanel) and (holds.ink, holds.tint) == ("russet", 60.0)
    session.undo()
    assert getattr(block_named(session.publication, second).holds, "ink", "") != "russet"


def test_with_nothing_chosen_it_goes_into_the_list_and_esc_leaves_it(station: SpreadsStation, qtbot: QtBot) -> None:
    session, bench = station.session, station.bench
    first, _ = (thing.id for thing in session.publication.pages[26].things)
    session.view.select(None)
    QTest.keyClick(bench, Qt.Key.Key_P, SHIFT)
    across = bench.picker.across
    QTest.keyClicks(bench, "+")
    assert bench.picker.across > across
    before = session.publication.inks
    QTest.mouseClick(bench, LEFT, SHIFT, _middle(station, first))  # as a new one, though the list has it
    qtbot.waitUntil(lambda: not bench.picker.work)
    assert len(session.publication.inks) == len(before) + 1
    QTest.keyClick(bench, Qt.Key.Key_P, SHIFT)
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.picker.work and len(session.publication.inks) == len(before) + 1


def test_it_is_picked_on_the_cover_too(window: Window, qtbot: QtBot) -> None:
    window.open_station(5)
    station = window.station
    assert isinstance(station, CoverStation)
    bench, session = station.bench, station.session
    QTest.qWait(50)
    before = window.session.publication.inks
    QTest.keyClick(bench, Qt.Key.Key_P, SHIFT)
    middle = bench.to_widget(bench.flat().trim).center().toPoint()
    QTest.mouseClick(bench, LEFT, SHIFT, middle + QPoint(bench.width() // 5, 0))
    qtbot.waitUntil(lambda: not bench.picker.work, timeout=15000)
    assert len(window.session.publication.inks) == len(before) + 1
    assert session.publication.inks is window.session.publication.inks
