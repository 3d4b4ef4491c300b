"""The Order station by mouse and keyboard."""

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest

from half_fold.desk.stations.order import OrderStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag


def _order(window: Window) -> OrderStation:
    window.open_station(2)
    QTest.qWait(20)
    assert isinstance(window.station, OrderStation)
    return window.station


def test_pages_are_dragged(window: Window) -> None:
    order = _order(window).pages
    before = window.session.publication.pages
    QTest.mouseClick(order, LEFT, pos=order.page_area(6).center().toPoint())
    QTest.mouseClick(order, LEFT, Qt.KeyboardModifier.ShiftModifier, order.page_area(7).center().toPoint())
    start = order.page_area(6).center().toPoint()
    end = (order.page_area(10).topLeft() + QPointF(3, 30)).toPoint()
    drag(order, start, end)
    assert window.session.publication.pages == (*before[:5], *before[7:9], *before[5:7], *before[9:])
    assert order.chosen == {8, 9}


def test_pages_are_moved_added_and_removed_by_keys(window: Window) -> None:
    order = _order(window).pages
    QTest.mouseClick(order, LEFT, pos=order.page_area(7).center().toPoint())
    QTest.keyClick(order, Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
    assert order.chosen == {6}
    QTest.keyClick(order, Qt.Key.Key_N)
    assert len(window.session.publication.pages) == 50
    QTest.keyClick(order, Qt.Key.Key_Delete)
    assert len(window.session.publication.pages) == 49 and len(window.session.publication.unplaced) == 1
    assert any(view.card.title.startswith("A page of") for view in window.working.cards)


def test_a_count_that_cannot_be_bound_offers_those_that_can(window: Window) -> None:
    order = _order(window).pages
    QTest.mouseClick(order, LEFT, pos=order.page_area(3).center().toPoint())
    QTest.keyClick(order, Qt.Key.Key_Delete)
    card = next(view for view in window.working.cards if view.card.stops_press)
    assert "46 or 48" in card.card.words
    buttons = [b for b in card.findChildren(type(window.docket.job_button)) if "48" in b.text()]
    QTest.mouseClick(buttons[0], LEFT)
    assert len(window.session.publication.pages) == 48


def test_what_runs_on_a_page_is_typed(window: Window) -> None:
    order = _order(window).pages
    QTest.mouseClick(order, LEFT, pos=order.page_area(12).center().toPoint())
    row = window.working.row("What runs here")
    QTest.mouseClick(row.value, LEFT)
    assert row.editor is not None
    QTest.keyClick(row.editor, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(row.editor, "Hedges")
    QTest.keyClick(row.editor, Qt.Key.Key_Return)
    assert window.session.publication.pages[11].runs == "Hedges"


def test_enter_goes_to_the_spread(window: Window) -> None:
    order = _order(window).pages
    QTest.mouseClick(order, LEFT, pos=order.page_area(14).center().toPoint())
    QTest.keyClick(order, Qt.Key.Key_Return)
    assert window.current == 4 and window.session.spread.label == "14–15"
