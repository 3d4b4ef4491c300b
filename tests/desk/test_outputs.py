"""Outputs at the Press station: chosen, kept, set, made and dropped by mouse and keyboard."""

from pathlib import Path

import pikepdf
import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QLabel, QPushButton

from half_fold.core.plan.settings import set_values
from half_fold.core.press.outputs import format_output
from half_fold.desk.application import Desk
from half_fold.desk.stations.press import PressStation
from half_fold.desk.window import Window
from tests.desk.conftest import choose_from, ready, type_into, type_into_dialog, wait_for

LEFT = Qt.MouseButton.LeftButton


def _at_press(window: Window) -> PressStation:
    """The station for the demo without the outputs that it keeps."""
    ready(window)
    assert window.session.edit(lambda p: replace(p, outputs=()), "outputs dropped")
    window.open_station(7)
    assert isinstance(window.station, PressStation)
    return window.station


def _press_button(window: Window, words: str) -> None:
    button = next(b for b in window.working.findChildren(QPushButton) if b.text() == words)
    QTest.mouseClick(button, LEFT)


def test_what_is_chosen_is_kept_under_a_name_and_chosen_again(window: Window) -> None:
    press = _at_press(window)
    QTest.mouseClick(press.forms["spreads"], LEFT, pos=QPoint(8, 8))
    QTest.mouseClick(press.for_reading, LEFT, pos=QPoint(8, 8))
    assert not press.with_marks.isVisible()
    type_into(window.working.row("Keep this as"), "Reading copy")
    assert [format_output(each) for each in window.session.publication.outputs] == ["pages, as spreads, to read"]
    assert window.working.row("Output").row.value == "Reading copy"
    QTest.mouseClick(press.for_press, LEFT, pos=QPoint(8, 8))
    QTest.mouseClick(press.forms["sheets"], LEFT, pos=QPoint(8, 8))
    assert window.working.row("Output").row.value == "choose"
    assert window.working.row("File").row.value == "6 sides"
    type_into(window.working.row("Keep this as"), "Dummy")
    choose_from(window.working.row("Output"), "Reading copy")
    assert press.for_reading.isChecked() and press.forms["spreads"].isChecked()
    type_into(window.working.row("Pictures"), "90")
    assert format_output(window.session.publication.outputs[0]).endswith("90 ppi") and press.ppi == 90
    type_into(window.working.row("Name"), "For the author")
    assert window.working.row("Output").row.value == "For the author"
    ready(window)  # a menu that closes leaves no window active here
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.session.publication.outputs[0].name == "Reading copy"
    _press_button(window, "Drop “Reading copy”")
    assert [output.name for output in window.session.publication.outputs] == ["Dummy"]


def test_the_demo_keeps_three_and_opens_on_what_goes_to_the_printer(window: Window) -> None:
    ready(window)
    window.open_station(7)
    assert window.working.row("Output").row.value == "Pages for the printer"
    choose_from(window.working.row("Output"), "Cover for the printer")
    press = window.station
    assert isinstance(press, PressStation) and press.part().key == "cover"


def test_a_name_that_is_taken_is_said_and_what_was_kept_stays(window: Window) -> None:
    press = _at_press(window)
    type_into(window.working.row("Keep this as"), "Sent")
    QTest.mouseClick(press.forms["spreads"], LEFT, pos=QPoint(8, 8))
    type_into(window.working.row("Keep this as"), "Sent")
    assert "already" in window.foot.sentence
    assert [format_output(each) for each in window.session.publication.outputs] == ["pages, marks"]


def test_an_output_whose_part_has_gone_is_not_in_the_way(window: Window, tmp_path: Path) -> None:
    press = _at_press(window)
    QTest.mouseClick(press.choices["cover"], LEFT, pos=QPoint(8, 8))
    type_into(window.working.row("Keep this as"), "Cover")
    assert window.session.edit(lambda p: set_values(p, ["paper.cover=none", "binding=saddle"]), "no cover")
    assert press.part().key == "pages" and press.kept() is None
    choose_from(window.working.row("Output"), "Cover")
    assert press.part().key == "pages"
    press.press(tmp_path / "x.pdf")
    wait_for(lambda: press.process is None)
    assert "Pressed" in window.foot.sentence


def test_sheets_are_seen_pressed_and_named_in_the_foot(desk: Desk, demo: Path, tmp_path: Path) -> None:
    window = desk.open(demo)
    press = _at_press(window)
    QTest.mouseClick(press.forms["sheets"], LEFT, pos=QPoint(8, 8))
    assert press.where() == "Sheet A, front"
    sheet = press.sheet.sheets()[0]
    assert len({mark.origin for mark in sheet.marks}) > 4, "what lies on several pages"
    window.session.view.go_to(2)
    assert press.where() == "Sheet A, back"
    type_into_dialog(str(tmp_path / "sheets.pdf"))
    QTest.mouseClick(press.button, LEFT)
    wait_for(lambda: "Pressed" in window.foot.sentence)
    with pikepdf.open(tmp_path / "sheets.pdf") as pdf:
        assert len(pdf.pages) == 6
    assert window.session.job.pressed()[-1]["as"] == "sheets"


def test_every_output_is_made_into_a_folder(window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    press = _at_press(window)
    QTest.mouseClick(press.choices["front"], LEFT, pos=QPoint(8, 8))
    type_into(window.working.row("Keep this as"), "Front")
    QTest.mouseClick(press.for_reading, LEFT, pos=QPoint(8, 8))
    type_into(window.working.row("Keep this as"), "Front to read")
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(tmp_path / "made"))
    _press_button(window, "Make every output")
    wait_for(lambda: press.process is None)
    assert window.foot.sentence == f"2 outputs made: {tmp_path / 'made'}."
    assert sorted(file.name for file in (tmp_path / "made").iterdir()) == [
        "graftwood-no-14-front-to-read.pdf", "graftwood-no-14-front.pdf",
    ]  # fmt: skip
    assert [entry["output"] for entry in window.session.job.pressed()[-2:]] == ["Front", "Front to read"]


def test_a_file_that_comes_back_is_proved_at_the_station(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    press, out = _at_press(window), tmp_path / "sent.pdf"
    QTest.mouseClick(press.choices["cover"], LEFT, pos=QPoint(8, 8))
    press.press(out)
    wait_for(lambda: press.process is None)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(out), ""))
    _press_button(window, "Prove a file")
    wait_for(lambda: press.process is None)
    assert "whole and unchanged: “cover”" in window.foot.sentence
    assert any("stands as it did then" in label.text() for label in window.working.findChildren(QLabel))
    with pikepdf.open(out, allow_overwriting_input=True) as pdf:
        pdf.pages[0].Rotate = 90
        pdf.save(out)
    _press_button(window, "Prove a file")
    wait_for(lambda: press.process is None)
    assert "is not as it was made" in window.foot.sentence
    assert any("sent.pdf” is not as it was made" in label.text() for label in window.working.findChildren(QLabel))
