"""Rulers at the benches: pencil lines pulled from them with the mouse, on a spread and on the cover."""

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from half_fold.core.grid.pencil import format_pencil
from half_fold.core.publication.surgery import master_of
from half_fold.core.spread.where.frames import page_frame_of
from half_fold.desk.stations.cover.station import CoverStation
from half_fold.desk.window import Window
from tests.desk.conftest import drag, on_bench, spreads_at


def test_a_line_is_pulled_onto_the_page_and_pushed_back_is_none(window: Window) -> None:
    station = spreads_at(window, 26)
    bench, session = station.bench, station.session
    before = session.publication
    x, y = page_frame_of(before, 27).trim.centre
    drag(bench, QPoint(round(bench.width() / 2), 6), QPoint(round(bench.width() / 2), 4))
    assert session.publication is before, "let go of on the ruler"
    drag(bench, QPoint(round(bench.width() / 2) + 60, 6), on_bench(bench, x, y))
    lines = page_frame_of(session.publication, 27).pencil
    assert len(lines) == 1 and lines[0].axis == "down" and abs(lines[0].at[0] - y) < 3
    drag(bench, QPoint(6, 200), on_bench(bench, x, y))
    assert [line.axis for line in page_frame_of(session.publication, 27).pencil] == ["down", "across"]
    session.undo()
    session.undo()
    page = session.publication.pages[26]
    assert format_pencil(master_of(session.publication, page).grid.pencil) == "none"


def test_without_rulers_the_head_of_the_bench_is_as_any_other_place(window: Window) -> None:
    bench = spreads_at(window, 26).bench
    QTest.keyClick(bench, Qt.Key.Key_R, Qt.KeyboardModifier.ShiftModifier)
    assert bench.ruler_at(bench.rect().topLeft().toPointF() + QPoint(200, 5).toPointF()) is None
    QTest.keyClick(bench, Qt.Key.Key_R, Qt.KeyboardModifier.ShiftModifier)
    assert bench.ruler_at(bench.rect().topLeft().toPointF() + QPoint(200, 5).toPointF()) == "down"


def test_a_line_is_pulled_onto_the_cover(window: Window) -> None:
    window.open_station(5)
    station = window.station
    assert isinstance(station, CoverStation)
    bench = station.bench
    QTest.qWait(30)
    front = bench.flat().front
    drag(bench, QPoint(6, 200), on_bench(bench, *front.centre))
    grid = window.session.publication.cover.grid
    assert len(grid.pencil) == 1 and grid.pencil[0].edge == "fold"
    at = [place for _, frame in bench.frames() for line in frame.pencil for place in line.at]
    assert any(abs(place - front.centre[0]) < 3 for place in at)
