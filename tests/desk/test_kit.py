"""The small widgets: rows, values, cards, the foot, the docket's lines."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QPushButton

from half_fold.core.measure.worked import given
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.store.job import create_job
from half_fold.desk.application import Desk
from half_fold.desk.concertina import Concertina
from half_fold.desk.docket import facts
from half_fold.desk.foot import Foot
from half_fold.desk.kit.card import CardView
from half_fold.desk.kit.rows import Card, Row, RowSection, row_of
from half_fold.desk.kit.worked_row import WorkedRow
from half_fold.desk.theme import tokens
from half_fold.desk.window import Window
from half_fold.desk.working import Working
from tests.desk.conftest import LEFT, ready, wait_for

pytestmark = pytest.mark.usefixtures("dressed")


def _editable(taken: list[str], fits: bool = True) -> Row:
    def take(text: str) -> bool:
        taken.append(text)
        return fits

    return Row("Bleed", "3 mm", "3mm", "", "3mm", take)


def test_enter_edits_return_takes_escape_leaves() -> None:
    taken: list[str] = []
    row = WorkedRow(_editable(taken))
    row.show()
    QTest.keyClick(row.value, Qt.Key.Key_Return)
    assert row.editor is not None and row.editor.text() == "3mm" and row.editor.selectedText() == "3mm"
    QTest.keyClicks(row.editor, "5mm")
    QTest.keyClick(row.editor, Qt.Key.Key_Escape)
    assert taken == [] and row.editor is None
    QTest.mouseClick(row.value, LEFT)
    QTest.keyClicks(row.editor, "1/8in")
    QTest.keyClick(row.editor, Qt.Key.Key_Return)
    assert taken == ["1/8in"] and row.editor is None


def test_a_value_that_cannot_be_stays_open_with_what_was_typed() -> None:
    taken: list[str] = []
    row = WorkedRow(_editable(taken, fits=False))
    row.show()
    QTest.mouseClick(row.value, LEFT)
    QTest.keyClicks(row.editor, "nonsense")
    QTest.keyClick(row.editor, Qt.Key.Key_Return)
    assert row.editor is not None and row.editor.text() == "nonsense"
    row.close_editor()


def test_going_elsewhere_takes_what_was_typed() -> None:
    taken: list[str] = []
    working = Working()
    working.show()
    ready(working)
    working.show_sections(
        [RowSection("S", "", [_editable(taken), Row("Safe", "5 mm", typed="5mm", edit=lambda _: True)])]
    )
    row = working.row("Bleed")
    QTest.mouseClick(row.value, LEFT)
    assert row.editor is not None
    QTest.keyClicks(row.editor, "4mm")
    working.row("Safe").value.setFocus()
    QTest.qWait(10)
    assert taken == ["4mm"] and row.editor is None


def test_a_computed_value_is_not_edited() -> None:
    row = WorkedRow(Row("Block", "4.43 mm"))
    QTest.mouseClick(row.value, LEFT)
    assert row.editor is None and row.value.focusPolicy() == Qt.FocusPolicy.NoFocus


def test_rows_of_worked_numbers_keep_each_part_once() -> None:
    bleed = given(3, "mm", "Bleed", edits="bleed", typed="3mm")
    number = (given(220, "mm", "Trim") + 2 * bleed + bleed).named("Wrap")
    row = row_of(number, lambda key: (lambda text: True) if key == "bleed" else None)
    assert [part.name for part in row.parts] == ["Trim", "Bleed"]
    assert row.edit is None and row.parts[1].edit is not None


def test_the_working_fills_rows_in_again_and_keeps_the_focus() -> None:
    working = Working()
    working.resize(300, 500)
    working.show()
    ready(working)
    working.show_sections([RowSection("Spine", "", [_editable([]), Row("Leaves", "24")])])
    row = working.row("Bleed")
    row.value.setFocus()
    working.show_sections([RowSection("Spine", "", [_editable([]), Row("Leaves", "48", note="More")])])
    assert working.row("Bleed") is row and row.value.hasFocus()
    assert working.row("Leaves").row.value == "48" and working.row("Leaves")._note.isVisible()
    working.show_sections([RowSection("Spine", "", [_editable([]), Card("Too thin", "Add pages")])])
    assert working.row("Bleed").value.hasFocus()
    assert working.cards[0].card.title == "Too thin"


def test_what_is_shown_anew_lies_in_its_place_at_once() -> None:
    """A click right after another block was chosen must not fall on what lay there before."""
    working = Working()
    working.resize(300, 900)
    working.show()
    ready(working)
    acted: list[int] = []
    for rows in (3, 12, 1, 7):
        card = Card("Too thin", "Add pages", [("Add 4", partial(acted.append, rows))])
        items = [Row(f"Row {at}", str(at), "working of it " * at) for at in range(rows)]
        working.show_sections([RowSection("Spine", "", [*items, card])])
        button = working.cards[0].buttons[0]
        there = button.mapTo(working, button.rect().center())
        assert working.childAt(there) is button
        QTest.mouseClick(button, LEFT)
    assert acted == [3, 12, 1, 7]


def test_what_is_shown_soon_is_made_once_for_many_and_is_there_for_who_asks() -> None:
    working, made = Working(), list[str]()

    def of(value: str) -> Callable[[], list[RowSection]]:
        def make() -> list[RowSection]:
            made.append(value)
            return [RowSection("Spine", "", [Row("Leaves", value)])]

        return make

    working.show_sections(of("24")())
    for value in ("25", "26", "27"):
        working.show_soon(of(value))
    assert made == ["24"]
    wait_for(lambda: made == ["24", "27"])
    working.show_soon(of("28"))
    assert working.row("Leaves").row.value == "28" and made[-1] == "28"
    working.show_soon(of("29"))
    working.show_sections(of("30")())
    QTest.qWait(150)
    assert made[-1] == "30" and working.row("Leaves").row.value == "30"


def test_a_row_is_never_wider_than_the_column() -> None:
    working = Working()
    working.resize(300, 500)
    working.show_sections(
        [
            RowSection(
                "S",
                "",
                [
                    Row(
                        "A rather long name for a row",
                        "a value of many words that runs on and on",
                        "w " * 90,
                        "n " * 60,
                    )
                ],
            )
        ]
    )
    working.show()
    QTest.qWait(20)
    page = working.widget()
    assert page is not None and page.width() <= 300 and page.minimumSizeHint().width() <= 300


def test_a_card_acts_and_only_the_press_is_madder() -> None:
    acted: list[int] = []
    for stops, token in ((True, tokens.MADDER), (False, tokens.OCHRE)):
        view = CardView(Card("Cannot be bound", "30 pages", [("Make it 32", lambda: acted.append(32))], stops))
        view.resize(260, 120)
        view.show()
        assert view.grab().toImage().pixelColor(1, 40) == QColor(token)
        QTest.mouseClick(view.findChildren(QPushButton)[0], LEFT)
    assert acted == [32, 32]


def test_the_foot_says_a_sentence_in_place_of_the_position() -> None:
    foot = Foot()
    foot.resize(700, 28)
    foot.show_where("Spread 6–7")
    foot.show_keys((("Enter", "edit"),))
    where = foot.grab().toImage()
    foot.say("“x” is no measure.")
    said = foot.grab().toImage()
    foot.note("A version was kept.")
    assert where != said != foot.grab().toImage() and foot.toolTip() == "A version was kept."
    foot.say("")
    assert foot.grab().toImage() == where


def test_facts_are_in_the_users_own_unit(window: Window) -> None:
    assert facts(window.session) == {
        "Trim": "220 × 285 mm",
        "Extent": "48 + 4 pp",
        "Binding": "Perfect",
        "Spine": "5 mm",
    }
    window.session.edit(
        lambda p: set_values(p, ["unit=in", "trim=8.5x11in", "binding=saddle", "paper.cover=none"]), "inches"
    )
    assert facts(window.session) == {
        "Trim": "8.5 × 11 in",
        "Extent": "48 pp",
        "Binding": "Saddle stitch",
        "Spine": "none",
    }
    window.open_station(1)
    assert window.working.row("Trim width").row.value == "8.5 in"
    assert window.working.row("Bleed").row.value == "0.1181 in"


def test_stations_say_their_state_in_words(window: Window) -> None:
    def state(number: int) -> str:
        return window.docket.buttons[number].line.state

    assert state(1) == "spine 5 mm, wrap 451" and state(2) == "48 pages" and state(4) == "25 of 48 pages laid"
    window.session.edit(lambda p: set_values(p, ["binding=saddle", "pages=46", "trim.height=281mm"]), "change")
    assert state(1) == "no spine, wrap 446" and state(2) == "46 pages, cannot be bound"
    assert "off the baseline" in state(3) and window.docket.buttons[2].line.tone == tokens.MADDER


def test_the_wheel_moves_the_concertina_within_its_ends(window: Window) -> None:
    strip = window.concertina
    assert isinstance(strip, Concertina)
    from PyQt6.QtCore import QPoint, QPointF
    from PyQt6.QtGui import QWheelEvent

    def turn(by: int) -> None:
        at = QPointF(50, 50)
        event = QWheelEvent(
            at,
            at,
            QPoint(),
            QPoint(0, by),
            LEFT & Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        QApplication.sendEvent(strip, event)

    for _ in range(60):
        turn(-120)
    assert strip.offset == strip._most() > 0
    for _ in range(60):
        turn(120)
    assert strip.offset == 0


def test_the_job_menu_holds_what_its_keys_do(window: Window) -> None:
    titles = {action.text(): action.shortcut().toString() for action in window.actions()}
    assert (
        titles["Undo"] == "Ctrl+Z" and titles["Keep a version"] == "Ctrl+S" and titles["Bring in pictures"] == "Ctrl+I"
    )
    QTest.mouseClick(window.docket.job_button, LEFT)
    popup = QApplication.activePopupWidget()
    assert popup is not None
    popup.close()


def test_another_job_opens_in_a_window_of_its_own(desk: Desk, window: Window, tmp_path: Path) -> None:
    other = create_job(tmp_path / "other", start("book", "Other"))
    window.wants_job.emit(other)
    assert desk.windows[-1].session.publication.title == "Other" and desk.windows[-1].current == 1
    window.wants_job.emit(other)
    assert "another window" in desk.windows[-1].foot.sentence and len(desk.windows) == 2


def test_an_open_editor_is_put_away_when_the_working_changes_under_it() -> None:
    taken: list[str] = []
    working = Working()
    working.show()
    ready(working)
    working.show_sections([RowSection("S", "", [_editable(taken)])])
    QTest.mouseClick(working.row("Bleed").value, LEFT)
    QTest.keyClicks(working.row("Bleed").editor, "9mm")
    working.show_sections([RowSection("T", "", [_editable(taken), Row("Leaves", "24")])])
    QTest.qWait(30)
    assert working.row("Bleed").editor is None and taken == []
