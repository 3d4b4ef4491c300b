"""A fade drawn over what is chosen with the mouse, its stops dragged, added, taken away and inked by keys."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from half_fold.core.publication.records import Fade
from half_fold.core.publication.surgery import block_named, page_of_block
from half_fold.core.spread.edits.fading import fade_of
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag, field, on_bench, spreads_at

SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def station(window: Window) -> SpreadsStation:
    """Spreads, with a panel on page 27, which is chosen."""
    station = spreads_at(window, 26)
    drag(station.bench, field(station.bench, 7, 0), field(station.bench, 9, 3))
    QTest.keyClicks(station.chooser, "i")
    QTest.qWait(10)
    station.session.view.select(station.session.publication.pages[26].things[0].id)
    return station


def _at(station: SpreadsStation, across: float, down: float) -> QPoint:
    """A place of the panel, as shares of it."""
    publication, name = station.session.publication, station.session.view.block
    assert name is not None
    index, _, block = page_of_block(publication, name)
    left, top, right, bottom = block_box(publication, index + 1, block)
    return on_bench(station.bench, left + across * (right - left), top + down * (bottom - top))


def _fade(station: SpreadsStation) -> Fade:
    name = station.session.view.block
    assert name is not None
    fade = fade_of(station.session.publication, name)
    assert fade is not None
    return fade


def test_a_fade_is_drawn_in_two_acts_and_is_one_step(station: SpreadsStation) -> None:
    bench, session = station.bench, station.session
    steps = session.history.undoes
    QTest.keyClick(bench, Qt.Key.Key_F, SHIFT)
    drag(bench, _at(station, 0.1, 0.2), _at(station, 0.9, 0.8))
    fade = _fade(station)
    assert fade.line is not None
    assert [each for place in fade.line for each in place] == pytest.approx([0.1, 0.2, 0.9, 0.8], abs=0.02)
    assert [(stop.at, stop.opacity) for stop in fade.stops] == [(0.0, 100.0), (100.0, 0.0)]
    session.undo()
    assert session.history.undoes == steps
    name = session.view.block
    assert name is not None and block_named(session.publication, name).light is None


def test_ends_and_stops_are_dragged_and_keys_change_them(station: SpreadsStation) -> None:
    bench = station.bench
    QTest.keyClick(bench, Qt.Key.Key_F, SHIFT)
    drag(bench, _at(station, 0.1, 0.5), _at(station, 0.9, 0.5))
    drag(bench, _at(station, 0.9, 0.5), _at(station, 0.9, 0.9))
    line = _fade(station).line
    assert (
        line is not None and line[1][1] == pytest.approx(0.9, abs=0.02) and line[0][1] == pytest.approx(0.5, abs=0.02)
    )
    places = bench.fader.stop_places()
    middle = (places[0] + (places[1] - places[0]) * 0.4).toPoint()
    QTest.mouseDClick(bench, LEFT, pos=middle)
    QTest.mouseRelease(bench, LEFT, pos=middle)
    assert [stop.at for stop in _fade(station).stops] == [0.0, pytest.approx(40, abs=2), 100.0]
    drag(bench, middle, (places[0] + (places[1] - places[0]) * 0.7).toPoint())
    assert _fade(station).stops[1].at == pytest.approx(70, abs=2)
    QTest.keyClicks(bench, "i")
    assert bench.fader.inks is not None
    QTest.keyClicks(bench.fader.inks.search, "loden")
    QTest.keyClick(bench.fader.inks.search, Qt.Key.Key_Return)
    assert _fade(station).stops[1].ink == "loden"
    QTest.keyClicks(bench, "-")
    assert _fade(station).stops[1].opacity == 90
    QTest.keyClicks(bench, "x")
    assert [stop.opacity for stop in _fade(station).stops] == [0.0, 90.0, 100.0]
    QTest.keyClicks(bench, "o")
    assert _fade(station).way == "outward"
    QTest.keyClick(bench, Qt.Key.Key_Delete)
    assert len(_fade(station).stops) == 2
    QTest.keyClick(bench, Qt.Key.Key_Return)
    assert not bench.fader.work


def test_nothing_chosen_is_said_and_nothing_taken_up(station: SpreadsStation) -> None:
    said: list[str] = []
    station.session.said.connect(said.append)
    station.session.view.select(None)
    QTest.keyClick(station.bench, Qt.Key.Key_F, SHIFT)
    assert not station.bench.fader.work and "Choose words" in said[0]
