"""Contents, chapters and goods in the window by mouse and keys."""

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from half_fold.core.catalogue.laying import laid_rows, rows_to_lay
from half_fold.core.publication.surgery import block_named, role_named, story_of
from half_fold.core.spread.edits.written import write_anew
from half_fold.core.spread.setting.threads import thread
from half_fold.desk.stations.order import OrderStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, choose_from, drag, field, ready, spreads_at, type_into, wait_for

SHIFTED = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier


def _folios(window: Window) -> list[int]:
    session = window.session
    assert session.view.story is not None
    lines = story_of(session.publication, session.view.story).paragraphs[1:]
    return [int(line.text.split("\t")[0]) for line in lines]


def test_contents_are_made_laid_and_follow_the_pages(window: Window) -> None:
    ready(window)
    spreads = spreads_at(window, 26)
    noted: list[str] = []
    window.session.noted.connect(noted.append)
    QTest.keyClick(window, Qt.Key.Key_T, SHIFTED)
    session = window.session
    assert session.view.story is not None and story_of(session.publication, session.view.story).lists
    assert "press S" in noted[-1]
    before = _folios(window)
    assert before == sorted(before) and len(before) > 3
    spreads.bench.setFocus()
    drag(spreads.bench, field(spreads.bench, 0, 4), field(spreads.bench, 3, 7))
    wait_for(lambda: spreads.chooser is not None and spreads.chooser.isVisible())
    assert spreads.chooser is not None
    QTest.keyClicks(spreads.chooser, "s")
    assert spreads.chooser.actions()[0].text() == "Contents\tS"
    QTest.keyClicks(spreads.chooser, "s")
    assert [number for number, _ in thread(session.publication, session.view.story)] == [26]
    window.open_station(2)
    order = window.station
    assert isinstance(order, OrderStation)
    QTest.mouseClick(order.pages, LEFT, pos=order.pages.page_area(1).center().toPoint())
    QTest.keyClick(order.pages, Qt.Key.Key_N)
    assert _folios(window) == [folio + 2 if folio > 1 else folio for folio in before]
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert _folios(window) == before


def test_headlines_are_told_to_begin_pages(window: Window) -> None:
    ready(window)
    window.open_station(3)
    window.session.view.go_to(7)
    grid = window.station
    QTest.mouseClick(grid.tabs[2], LEFT)  # type: ignore[attr-defined]  # the station of the grid
    QTest.qWait(30)
    sheet = grid.sheet  # type: ignore[attr-defined]
    QTest.mouseClick(sheet, LEFT, pos=sheet.place("crosshead").center().toPoint())
    row = window.working.row("Begins")
    assert row.row.value == "where it falls"
    over = [flow.over_lines for flow in _flows(window)]
    choose_from(row, "on a new page")
    assert role_named(window.session.publication, "crosshead").begins == "page"
    assert window.working.row("Begins").row.value == "on a new page"
    assert [flow.over_lines for flow in _flows(window)] != over
    assert not any(row.text() == "Remove it" for row in window.working.findChildren(type(row.value)))


def _flows(window: Window) -> list:
    session = window.session
    return [session.setter.threads.flow(session.publication, story.id) for story in session.publication.stories]


def test_a_table_of_goods_is_brought_in_and_laid_from_the_working(window: Window, tmp_path: Path) -> None:
    ready(window)
    table = tmp_path / "goods.csv"
    table.write_text("Key,Name,Price\n" + "".join(f"A{n},Pear {n},{n}.50\n" for n in range(7)))
    session, said = window.session, list[str]()
    session.noted.connect(said.append)
    session.said.connect(said.append)
    spreads = spreads_at(window, 26)
    drag(spreads.bench, field(spreads.bench, 0, 0), field(spreads.bench, 1, 0))
    assert spreads.chooser is not None
    QTest.keyClicks(spreads.chooser, "w")
    cell = session.view.chosen[0]
    session.edit(lambda p: write_anew(p, cell, ["{name} {price}"]), "words")
    window.take_files([table])
    assert said[-1] == "7 rows of goods."
    session.view.select(cell)
    wait_for(lambda: window.working.row("One for each of the goods") is not None)
    row = window.working.row("One for each of the goods")
    assert row.row.value == "7 to lay"
    type_into(row, "9 x 9, 4mm")
    assert "beyond its trim" in said[-1] and len(rows_to_lay(session.publication)) == 7
    QTest.keyClick(window, Qt.Key.Key_Escape)
    session.view.select(None)
    session.view.select(cell)
    type_into(window.working.row("One for each of the goods"), "2 x 2, 4mm")
    assert said[-1].startswith("Laid: 7 rows on pages 26")
    assert rows_to_lay(session.publication) == [] and laid_rows(session.publication)["A0"] == 26
    assert window.working.row("Row of the goods").row.value == "A0"
    choose_from(window.working.row("Row of the goods"), "A6")
    assert block_named(session.publication, cell).row == "A6"
    table.write_text(table.read_text().replace("3.50", "4.00"))
    window.take_files([table])
    assert said[-1] == "Price is another for A3."
