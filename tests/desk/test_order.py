"""The Order station by mouse and keyboard."""

from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest

from half_fold.core.plan.order import set_extent
from half_fold.core.plan.own_kinds import begin
from half_fold.core.publication.records import Publication
from half_fold.desk.application import Desk
from half_fold.desk.stations.order import OrderStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, choose_from, drag, ready, type_into, type_into_dialog

CONTROL = Qt.KeyboardModifier.ControlModifier


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
    assert window.current == 4 and window.session.view.spread.label == "14–15"


# The other views ------------------------------------------------------------------------------------


def _unplanned(window: Window) -> None:
    """The demo as if nothing of its order had been said: no sections, states, adverts and dates."""

    def bare(p: Publication) -> Publication:
        pages = tuple(replace(page, state="", advert="") for page in p.pages)
        return replace(p, pages=pages, sections=(), brief=replace(p.brief, press_date=""))

    window.session.edit(bare, "unplanned")


def test_sections_states_and_adverts_are_set_for_many_pages_at_once(window: Window) -> None:
    _unplanned(window)
    order = _order(window).pages
    QTest.mouseClick(order, LEFT, pos=order.page_area(8).center().toPoint())
    for _ in range(3):
        QTest.keyClick(order, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    choose_from(window.working.row("State"), "proofed")
    choose_from(window.working.row("Advert"), "half")
    pages = window.session.publication.pages
    assert [p.state for p in pages[6:12]] == ["", "proofed", "proofed", "proofed", "proofed", ""]
    assert window.working.row("Advertising").row.value == "4.2 %"
    type_into(window.working.row("Start a section here"), "The orchard")
    choose_from(window.working.row("Folios"), "roman")
    assert window.working.row("Folio").row.value == "viii"
    type_into(window.working.row("Counts from"), "1")
    assert window.working.row("Folio").row.value == "i"
    assert not order.grab().isNull()
    ready(window)
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.working.row("Folio").row.value == "viii"


def test_a_sheet_is_folded_step_by_step(window: Window) -> None:
    station = _order(window)
    QTest.keyClick(station.pages, Qt.Key.Key_S)
    sheets = station.sheets
    assert window.working.row("Folded back").row.value == "1 to n, heads up"
    sheet = window.working.row("Sheet").row  # 4 x 220, milled off two spines, and 6 between; 2 x 285 and 6
    assert (sheet.value, sheet.working) == ("898 × 576 mm", "with bleed, marks and gripper 918 × 598 mm")
    flat = sheets.grab().toImage()
    for step in (1, 2, 3, 3):
        QTest.keyClick(sheets, Qt.Key.Key_Down)
        assert sheets.step == step
    assert sheets.grab().toImage() != flat
    QTest.keyClick(sheets, Qt.Key.Key_Right)
    assert window.working.row("Pages").row.value == "17–32" and sheets.step == 0
    QTest.keyClick(sheets, Qt.Key.Key_W)
    assert window.working.row("Printed").row.value == "work-and-turn" and not sheets.grab().isNull()
    QTest.keyClick(sheets, Qt.Key.Key_P)
    assert station.view is station.pages


def test_an_odd_remainder_is_said_and_loose_leaves_are_not_folded(window: Window) -> None:
    station = _order(window)
    window.session.edit(lambda p: set_extent(p, 46), "46 pages")
    assert "ask the printer" in window.working.row("Sheets").row.working
    QTest.keyClick(station.pages, Qt.Key.Key_S)
    while station.sheets.imposed() is not None:
        QTest.keyClick(station.sheets, Qt.Key.Key_Right)
    assert not station.sheets.grab().isNull()


def test_a_reply_card_is_made_and_mirrored(window: Window) -> None:
    station = _order(window)
    window.session.view.go_to(16)
    QTest.keyClick(station.pages, Qt.Key.Key_I)
    QTest.mouseClick(window.working.cards[-1].buttons[0], LEFT)
    assert window.working.row("After page").row.value == "16"
    type_into(window.working.row("Cut, recto"), "15mm")
    type_into(window.working.row("Perforations"), "40mm; 80mm")
    assert window.working.row("Cut, verso").row.value == "145 mm"
    assert window.working.row("Seen from the back").row.value == "80; 120"
    type_into(window.working.row("On the recto"), "words: Yes / lines: name; town / reply-paid")
    assert any("regulated" in view.card.words for view in window.working.cards)
    type_into(window.working.row("After page"), "15")
    assert any("starts on a recto" in view.card.words for view in window.working.cards)
    assert not station.inserts.grab().isNull()
    QTest.keyClick(station.inserts, Qt.Key.Key_Delete)
    assert window.session.publication.inserts == ()


def test_dates_are_worked_back_and_written(window: Window, tmp_path: Path) -> None:
    _unplanned(window)
    station = _order(window)
    QTest.keyClick(station.pages, Qt.Key.Key_D)
    assert station.dates.steps() == []
    type_into(window.working.row("Press date"), "2030-03-15")
    assert [step.name for step in station.dates.steps()][-1] == "On press"
    type_into(window.working.row("Files to the printer"), "5")
    days = {step.name: step.day.isoformat() for step in station.dates.steps()}
    assert days["Files to the printer"] == "2030-03-08"
    type_into_dialog(str(tmp_path / "dates.ics"))
    QTest.mouseClick(window.working.cards[0].buttons[0], LEFT)
    assert "20300308" in (tmp_path / "dates.ics").read_text() and not station.dates.grab().isNull()


def test_the_order_goes_out_as_a_table_and_comes_in_again(window: Window, tmp_path: Path) -> None:
    _order(window)
    path = tmp_path / "order.csv"
    type_into_dialog(str(path))
    QTest.mouseClick(window.working.cards[-1].buttons[0], LEFT)
    text = path.read_text(encoding="utf-8-sig")
    path.write_text(text.replace("Mending a wall", "Mending a hedge"), encoding="utf-8")
    type_into_dialog(str(path))
    QTest.mouseClick(window.working.cards[-1].buttons[1], LEFT)
    assert window.session.publication.pages[26].runs == "Mending a hedge"
    type_into_dialog(str(tmp_path / "wall.pdf"))
    QTest.mouseClick(window.working.cards[-1].buttons[2], LEFT)
    assert (tmp_path / "wall.pdf").read_bytes().startswith(b"%PDF")


def test_pages_are_copied_doubled_and_cut_between_jobs(window: Window, desk: Desk, tmp_path: Path) -> None:
    window.open_station(2)
    pages = window.station.pages  # type: ignore[attr-defined]  # of the Order station
    pages.setFocus()
    count = len(window.session.publication.pages)
    pages.choose_all([7])
    QTest.keyClick(pages, Qt.Key.Key_D, CONTROL)
    assert len(window.session.publication.pages) == count + 1 and pages.chosen == {8}
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    pages.choose_all([7])
    QTest.keyClick(window, Qt.Key.Key_C, CONTROL)
    other = desk.open(begin("magazine", "Other", tmp_path / "other"))
    ready(other)
    other.open_station(2)
    QTest.keyClick(other, Qt.Key.Key_V, CONTROL)
    laid = other.session.publication
    assert len(laid.pages) == 97 and len(laid.pages[1].blocks) == len(window.session.publication.pages[6].blocks)
    assert "Kept free" in other.foot.sentence
    QTest.keyClick(other, Qt.Key.Key_X, CONTROL)
    assert len(other.session.publication.pages) == 96
    QTest.keyClick(other, Qt.Key.Key_Z, CONTROL)
    QTest.keyClick(other, Qt.Key.Key_Z, CONTROL)
    assert len(other.session.publication.pages) == 96 and not other.session.publication.pages[1].blocks
