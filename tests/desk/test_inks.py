"""Inks, shapes and looks in the real window, by mouse and by keyboard."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest

from half_fold.core.publication.records import HoldsDisplay, HoldsPanel, HoldsRule, Ink, Publication
from half_fold.core.publication.surgery import block_named
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.kit.ink_chip import LARGE, chip
from half_fold.desk.kit.worked_row import WorkedRow
from half_fold.desk.stations.grid.ink_sheet import Chosen, InkSheet
from half_fold.desk.stations.grid.station import GridStation
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import (
    LEFT,
    choose_from,
    choose_listed,
    drag,
    field,
    spreads_at,
    type_into,
    type_into_dialog,
    wait_for,
)

CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def sheet(window: Window) -> InkSheet:
    """The ink list, opened by its letter."""
    window.open_station(3)
    QTest.qWait(30)
    assert isinstance(window.station, GridStation)
    QTest.keyClicks(window.station.view, "i")
    QTest.qWait(30)
    return window.station.inks


def _job(window: Window) -> Publication:
    return window.session.publication


def _ink(window: Window, name: str) -> Ink:
    return next(ink for ink in _job(window).inks if ink.name == name)


def _row(window: Window, name: str) -> WorkedRow:
    return window.working.row(name)


def test_the_list_is_walked_by_keys_and_by_mouse(window: Window, sheet: InkSheet) -> None:
    first = sheet.chosen
    QTest.keyClick(sheet, Qt.Key.Key_Down)
    assert sheet.chosen != first and sheet.chosen.kind == "ink"
    QTest.mouseClick(sheet, LEFT, pos=sheet.place("ink", "russet").center().toPoint())
    assert sheet.chosen == Chosen("ink", "russet")
    assert _row(window, "Stated as").row.typed == "18 78 86 18"
    QTest.keyClick(sheet, Qt.Key.Key_Up)
    assert sheet.chosen == Chosen("ink", "loden")


def test_an_ink_is_added_stated_renamed_and_taken_back_by_keyboard(window: Window, sheet: InkSheet) -> None:
    type_into(_row(window, "A new ink"), "damson")
    assert sheet.chosen == Chosen("ink", "damson")
    type_into(_row(window, "Stated as"), "spot 40 90 20 20")
    assert _ink(window, "damson").spot
    type_into(_row(window, "Magenta"), "80")
    assert _ink(window, "damson").magenta == 80
    type_into(_row(window, "Stated as"), "a plum")
    assert "no ink" in window.foot.sentence and _ink(window, "damson").magenta == 80
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_Escape)
    type_into(_row(window, "Name"), "straw")
    assert "already" in window.foot.sentence
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_Escape)
    type_into(_row(window, "Name"), "plum")
    assert sheet.chosen == Chosen("ink", "plum") and _ink(window, "plum").spot
    sheet.setFocus()
    for _ in range(4):
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert "plum" not in [ink.name for ink in _job(window).inks] and "damson" not in [i.name for i in _job(window).inks]


def test_a_screen_colour_says_what_paper_loses(window: Window, sheet: InkSheet) -> None:
    type_into(_row(window, "A new ink"), "neon")
    type_into(_row(window, "Stated as"), "#00ff30")
    assert "duller" in _row(window, "In print").row.value


def test_another_ink_is_put_in_its_place_everywhere_and_it_can_go(window: Window, sheet: InkSheet) -> None:
    QTest.mouseClick(sheet, LEFT, pos=sheet.place("ink", "russet").center().toPoint())
    choose_listed(_row(window, "In its place"), "dusk")
    assert not any(role.ink == "russet" for role in _job(window).roles)
    card = next(button for button in window.working.findChildren(type(_button(window))) if button.text() == "Remove it")
    QTest.mouseClick(card, LEFT)
    assert "russet" not in [ink.name for ink in _job(window).inks]
    assert sheet.chosen in (Chosen("ink", _job(window).inks[0].name),)


def _button(window: Window):  # type: ignore[no-untyped-def] # any button of the column
    from PyQt6.QtWidgets import QPushButton

    return window.working.findChild(QPushButton)


def test_a_fade_and_a_look_are_made_and_shown(window: Window, sheet: InkSheet) -> None:
    type_into(_row(window, "A new fade"), "evening")
    assert sheet.chosen == Chosen("fade", "evening")
    type_into(_row(window, "Runs over"), "loden at 0; straw at 100, 20 % opaque")
    assert [stop.ink for stop in _job(window).fades[-1].stops] == ["loden", "straw"]
    type_into(_row(window, "Turned"), "90")
    assert _job(window).fades[-1].angle == 90
    type_into(_row(window, "A new shadow"), "lifted")
    assert sheet.chosen == Chosen("look", "lifted")
    type_into(_row(window, "Shadow falls"), "2mm")
    choose_from(_row(window, "Glow"), "yes")
    look = _job(window).looks[-1]
    assert look.shadow is not None and look.shadow.distance.typed == "2mm" and look.glow is not None
    choose_listed(_row(window, "Filled with"), "even")
    assert _job(window).looks[-1].fill == "evening"
    assert not sheet.grab().isNull()


def test_a_palette_is_found_shown_and_taken(window: Window, sheet: InkSheet) -> None:
    before = len(_job(window).inks)
    choose_from(_row(window, "From"), "the-pear.jpg")
    wait_for(lambda: bool(sheet.proposals))
    wanted = sheet.proposals[1].ink
    QTest.mouseClick(sheet, LEFT, pos=sheet.chip(1).center().toPoint())
    assert _ink(window, wanted.name) == wanted and len(_job(window).inks) == before + 1
    count = len(sheet.proposals)
    sheet.setFocus()
    QTest.keyClick(sheet, Qt.Key.Key_Return)
    assert len(_job(window).inks) == before + count
    QTest.keyClick(sheet, Qt.Key.Key_Return)
    assert "already" in window.foot.sentence


def test_a_spread_without_pictures_has_no_palette(window: Window, sheet: InkSheet) -> None:
    window.session.view.go_to(26)
    QTest.qWait(20)
    choose_from(_row(window, "From"), "this spread")
    assert "no picture" in window.foot.sentence


def test_a_list_goes_out_and_comes_in(window: Window, sheet: InkSheet, tmp_path: Path) -> None:
    from PyQt6.QtWidgets import QPushButton

    def press(words: str) -> None:
        button = next(b for b in window.working.findChildren(QPushButton) if b.text() == words)
        QTest.mouseClick(button, LEFT)
        QTest.qWait(20)

    type_into_dialog(str(tmp_path / "list.csv"))
    press("Write the list")
    text = (tmp_path / "list.csv").read_text()
    assert "russet,process,18,78,86,18," in text
    (tmp_path / "other.csv").write_text(text.replace("russet,process,18", "russet,process,11") + "new,spot,1,2,3,4,\n")
    type_into_dialog(str(tmp_path / "other.csv"))
    press("Take in a list")
    assert _ink(window, "russet").cyan == 11 and _ink(window, "new").spot


def test_an_ink_is_searched_for_by_letters_and_chosen_with_the_mouse_too(window: Window) -> None:
    window.open_station(4)
    window.session.view.go_to(45)
    QTest.qWait(20)
    window.session.view.select("b69")
    QTest.qWait(20)
    choose_listed(_row(window, "Ink"), "dus")
    holds = block_named(_job(window), "b69").holds
    assert isinstance(holds, HoldsPanel) and holds.ink == "dusk"
    row = _row(window, "Ink")
    QTest.mouseClick(row.value, LEFT)
    assert row.pick_list is not None
    names = [row.pick_list.list.item(at).text() for at in range(row.pick_list.list.count())]  # type: ignore[union-attr] # counted
    assert names[0] == "none" and "straw" in names
    item = row.pick_list.list.item(names.index("straw"))
    QTest.mouseClick(row.pick_list.list.viewport(), LEFT, pos=row.pick_list.list.visualItemRect(item).center())
    assert block_named(_job(window), "b69").holds.ink == "straw"  # type: ignore[union-attr] # a panel
    QTest.mouseClick(_row(window, "Ink").value, LEFT)
    opened = _row(window, "Ink").pick_list
    assert opened is not None
    QTest.keyClicks(opened.search, "zz")
    assert opened.list.count() == 0
    QTest.keyClick(opened.search, Qt.Key.Key_Return)  # nothing to take
    QTest.keyClick(opened.search, Qt.Key.Key_Escape)
    assert block_named(_job(window), "b69").holds.ink == "straw"  # type: ignore[union-attr] # a panel


def test_a_chip_shows_its_ink_as_it_prints(window: Window) -> None:
    image = chip(_job(window), "loden", LARGE).toImage()
    colour = image.pixelColor(LARGE.width() // 2, LARGE.height() // 2)
    assert (colour.red(), colour.green(), colour.blue()) == (56, 96, 76)
    assert chip(_job(window), "loden", LARGE) is chip(_job(window), "loden", LARGE)


@pytest.fixture
def station(window: Window) -> SpreadsStation:
    return spreads_at(window, 26)


def _claimed(station: SpreadsStation, letter: str) -> str:
    bench = station.bench
    drag(bench, field(bench, 1, 1), field(bench, 3, 4))
    QTest.keyClicks(station.chooser, letter)
    QTest.qWait(10)
    assert station.session.view.block is not None
    return station.session.view.block


def test_a_rule_is_claimed_by_a_letter_and_set_by_its_rows(window: Window, station: SpreadsStation) -> None:
    block = _claimed(station, "r")
    type_into(_row(window, "Weight"), "3pt")
    choose_from(_row(window, "Runs"), "down")
    choose_from(_row(window, "Broken"), "in dots")
    holds = block_named(_job(window), block).holds
    assert isinstance(holds, HoldsRule) and (holds.weight.typed, holds.runs, holds.dashes) == ("3pt", "down", "dotted")


def test_a_panel_takes_a_form_by_its_rows(window: Window, station: SpreadsStation) -> None:
    block = _claimed(station, "i")
    choose_from(_row(window, "Shape"), "burst")
    type_into(_row(window, "Points"), "9")
    type_into(_row(window, "Stroke"), "2pt")
    choose_from(_row(window, "Stroke lies"), "outside")
    holds = block_named(_job(window), block).holds
    assert isinstance(holds, HoldsPanel) and holds.form.points == 9 and holds.edge is not None
    assert holds.edge.side == "outside" and holds.form.kind == "burst"
    type_into(_row(window, "Sliced"), "0 30; 100 60")
    assert len(block_named(_job(window), block).holds.form.slice) == 2  # type: ignore[union-attr] # a panel


def test_words_take_a_ground_and_lie_on_an_arc(window: Window, station: SpreadsStation) -> None:
    block = _claimed(station, "w")
    window.session.view.select(block)
    station.bench.setFocus()
    QTest.qWait(20)
    choose_from(_row(window, "On a ground"), "yes")
    choose_from(_row(window, "Ground's shape"), "circle")
    choose_from(_row(window, "Ground hugs them"), "yes")
    choose_from(_row(window, "Lies"), "on an arc, over")
    holds = block_named(_job(window), block).holds
    assert isinstance(holds, HoldsDisplay) and holds.ground is not None
    assert holds.ground.hugs and holds.ground.form.kind == "circle" and holds.ground.ink == "straw"
    assert holds.lies == "arched up"


def test_a_page_is_framed_by_its_row(window: Window, station: SpreadsStation) -> None:
    type_into(_row(window, "Frame of page 26"), "6mm both")
    assert _row(window, "Frame of page 27").row.value == "6mm both"
    type_into(_row(window, "Frame of page 27"), "far")
    assert "far" in window.foot.sentence
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_Escape)
    type_into(_row(window, "Frame of page 26"), "none")
    assert not _job(window).pages[26].blocks


# The knife ------------------------------------------------------------------------------------------------


def _form_of(window: Window, block: str):  # type: ignore[no-untyped-def] # a form
    return block_named(_job(window), block).holds.form  # type: ignore[union-attr] # a panel


def test_a_shape_is_drawn_corner_by_corner(window: Window, station: SpreadsStation) -> None:
    block = _claimed(station, "i")
    bench = station.bench
    area = bench.to_widget(block_box(_job(window), 26, block_named(_job(window), block)))
    corners = [area.topLeft(), area.topRight(), area.center(), QPointF(area.center().x(), area.bottom())]
    bench.setFocus()
    QTest.keyClicks(bench, "d")
    for corner in corners:
        QTest.mouseClick(bench, LEFT, pos=corner.toPoint())
    QTest.keyClick(bench, Qt.Key.Key_Backspace)
    QTest.keyClick(bench, Qt.Key.Key_Return)
    form = _form_of(window, block)
    assert form.kind == "polygon" and len(form.places) == 3
    assert [c for place in form.places for c in place] == pytest.approx([0, 0, 1, 0, 0.5, 0.5], abs=0.02)
    assert not bench.knife.work
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert _form_of(window, block).kind == "rectangle"


def test_too_few_corners_are_told_and_escape_gives_up(window: Window, station: SpreadsStation) -> None:
    block = _claimed(station, "i")
    bench = station.bench
    bench.setFocus()
    QTest.keyClicks(bench, "d")
    QTest.mouseClick(bench, LEFT, pos=bench.rect().center())
    QTest.keyClick(bench, Qt.Key.Key_Return)
    assert "three corners" in window.foot.sentence and bench.knife.work == "outline"
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.knife.work and _form_of(window, block).kind == "rectangle"
    assert window.session.view.block == block
    window.session.view.select(None)
    QTest.keyClicks(bench, "c")
    assert "first" in window.foot.sentence and not bench.knife.work


def test_a_shape_is_cut_along_a_line_that_is_drawn(window: Window, station: SpreadsStation) -> None:
    block = _claimed(station, "i")
    bench = station.bench
    area = bench.to_widget(block_box(_job(window), 26, block_named(_job(window), block)))
    bench.setFocus()
    QTest.keyClicks(bench, "c")
    drag(
        bench,
        QPointF(area.left() - 5, area.center().y()).toPoint(),
        QPointF(area.right() + 5, area.center().y()).toPoint(),
    )
    form = _form_of(window, block)
    assert len(form.slice) == 2 and form.slice[0][1] == pytest.approx(0.5, abs=0.02) and form.slice[0][0] < 0
    QTest.keyClicks(bench, "c")
    drag(bench, area.center().toPoint(), area.center().toPoint())
    assert "too short" in window.foot.sentence and _form_of(window, block) == form


# Words where they stand -----------------------------------------------------------------------------------


def test_words_are_written_where_they_stand(window: Window, station: SpreadsStation) -> None:
    block = _claimed(station, "w")
    bench = station.bench
    window.session.view.select(None)
    middle = bench.to_widget(block_box(_job(window), 26, block_named(_job(window), block))).center().toPoint()
    QTest.mouseDClick(bench, LEFT, pos=middle)
    sheet = bench.writing
    assert sheet is not None and sheet.isVisible() and sheet.hasFocus()
    QTest.keyClicks(sheet, "Kept pears")
    QTest.keyClick(sheet, Qt.Key.Key_Return)
    QTest.keyClicks(sheet, "in the dark")
    holds = block_named(_job(window), block).holds
    assert isinstance(holds, HoldsDisplay) and [p.text for p in holds.paragraphs] == ["Kept pears", "in the dark"]
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    assert bench.writing is None and bench.hasFocus()
    QTest.mouseDClick(bench, LEFT, pos=middle)
    assert bench.writing is not None
    bench.setFocus()  # going elsewhere puts it away
    assert bench.writing is None
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert [p.text for p in block_named(_job(window), block).holds.paragraphs] != ["Kept pears", "in the dark"]  # type: ignore[union-attr] # words
