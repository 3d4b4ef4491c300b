"""Sets at the real window: made, opened, hidden, and things moved into and out of them with one key."""

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import drag, field, spreads_at, wait_for

SHIFT = Qt.KeyboardModifier.ShiftModifier


def _take(window: Window, name: str, way: str) -> None:
    window.session.view.select(None)
    wait_for(lambda: window.working.has_row(name))
    edit = window.working.row(name).row.edit
    assert edit is not None
    edit(way)
    QTest.qWait(10)


def _claim(station: SpreadsStation, row: int) -> str:
    before = {thing.id for thing in station.session.publication.pages[26].things}
    drag(station.bench, field(station.bench, 7, row), field(station.bench, 8, row))
    QTest.keyClicks(station.chooser, "i")
    QTest.qWait(10)
    return next(each.id for each in station.session.publication.pages[26].things if each.id not in before)


def _set_of(station: SpreadsStation, name: str) -> str:
    return next(thing.set for thing in station.session.publication.pages[26].things if thing.id == name)


def test_a_set_is_made_opened_and_new_things_fall_into_it(window: Window) -> None:
    station = spreads_at(window, 26)
    _take(window, "A new set", "Trial")
    first = _claim(station, 0)
    assert _set_of(station, first) == ""
    _take(window, "Trial", "open")
    assert "open" in window.working.row("Trial").row.value
    second = _claim(station, 2)
    assert _set_of(station, second) == "Trial"
    station.session.view.select(first)
    QTest.keyClicks(station.bench, "S", SHIFT)
    assert _set_of(station, first) == "Trial"
    QTest.keyClicks(station.bench, "S", SHIFT)
    assert _set_of(station, first) == ""
    station.session.undo()
    assert _set_of(station, first) == "Trial"


def test_a_hidden_set_is_not_seen_and_not_hit_and_comes_back(window: Window) -> None:
    station = spreads_at(window, 26)
    _take(window, "A new set", "Trial")
    _take(window, "Trial", "open")
    name = _claim(station, 0)
    _take(window, "Trial", "hidden")
    assert all(mark.origin.block != name for mark in station.session.marks().marks)
    _take(window, "Trial", "hidden")
    assert any(mark.origin.block == name for mark in station.session.marks().marks)
    _take(window, "Trial", "choose")
    assert station.session.view.chosen == (name,)


def test_with_no_set_open_the_key_says_what_to_do(window: Window) -> None:
    station, said = spreads_at(window, 26), list[str]()
    name = _claim(station, 0)
    station.session.said.connect(said.append)
    station.session.view.select(name)
    QTest.keyClicks(station.bench, "S", SHIFT)
    assert said and "No set is open" in said[0]


def test_what_is_in_a_locked_set_obeys_no_hand(window: Window) -> None:
    station = spreads_at(window, 26)
    _take(window, "A new set", "Trial")
    _take(window, "Trial", "open")
    name = _claim(station, 0)
    _take(window, "Trial", "locked")
    station.session.view.select(name)
    box = station.bench.selection_box()
    assert box is not None
    before, area = station.session.publication, station.bench.to_widget(box)
    assert station.bench.hand.edges_at(area.bottomRight()) == ()
    drag(station.bench, area.bottomRight().toPoint() + QPoint(12, 12), area.center().toPoint())
    drag(station.bench, area.center().toPoint(), area.center().toPoint() + QPoint(60, 40))
    assert [thing for thing in station.session.publication.pages[26].things if thing.id == name] == [
        thing for thing in before.pages[26].things if thing.id == name
    ]
