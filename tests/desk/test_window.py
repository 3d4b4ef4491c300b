"""The window as a whole: stations, working, foot, undo, saving, reopening."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor, QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu

from half_fold.core.brief.printers import choose_printer, shipped
from half_fold.core.measure.problem import Problem
from half_fold.core.store.codec import encode
from half_fold.core.store.job import read
from half_fold.desk.application import Desk
from half_fold.desk.help import Help, guide_section
from half_fold.desk.kit.worked_row import WorkedRow
from half_fold.desk.memory import recall
from half_fold.desk.session import version_words
from half_fold.desk.stations.press import PressStation
from half_fold.desk.theme import tokens
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag, on_bench, ready, type_into, wait_for

CONTROL = Qt.KeyboardModifier.ControlModifier


def _choose(row: WorkedRow, words: str) -> None:
    """From a row's choices, by mouse."""
    QTest.mouseClick(row.value, LEFT)
    menu = row.findChild(QMenu)
    assert menu is not None
    action = next(a for a in menu.actions() if a.text().startswith(words))
    QTest.mouseClick(menu, LEFT, pos=menu.actionGeometry(action).center())
    QTest.qWait(10)


@pytest.mark.parametrize(
    ("number", "name"),
    [(1, "Brief"), (2, "Order"), (3, "Grid"), (4, "Spreads"), (5, "Cover"), (6, "Checks"), (7, "Press")],
)
def test_stations_open_by_key_and_by_mouse(window: Window, number: int, name: str) -> None:
    QTest.keyClick(window, Qt.Key(Qt.Key.Key_0 + number), CONTROL)
    button = window.docket.buttons[number]
    assert type(window.station).__name__ == f"{name}Station" and button.isChecked() and button.line.name == name
    other = 1 if number != 1 else 2
    QTest.mouseClick(window.docket.buttons[other], LEFT)
    assert window.current == other


def test_spine_and_wrap_follow_the_extent_and_the_paper(window: Window) -> None:
    window.open_station(1)
    type_into(window.working.row("Pages"), "96")
    assert window.working.row("Spine").row.value == "9.4 mm"
    assert window.working.row("Wrap width").row.value == "455.4 mm"
    assert window.docket._facts["Spine"].value == "9.4 mm"
    _choose(window.working.row("Text paper"), "Marrow Gloss 115")
    assert window.working.row("Spine").row.value == "4.9 mm"
    assert "block 4.31" in window.working.row("Spine").row.working


def test_a_row_unfolds_to_what_the_user_typed(window: Window) -> None:
    window.open_station(1)
    spine = window.working.row("Spine")
    spine.setFocus()
    QTest.keyClick(spine, Qt.Key.Key_Space)
    assert [part.row.name for part in spine._parts] == ["Block", "Cover paper"]
    block = spine._parts[0]
    QTest.mouseClick(block._name, LEFT)
    assert [part.row.name for part in block._parts] == ["Text paper", "Leaves"]


def test_a_bad_entry_is_said_in_the_foot_and_nothing_is_lost(window: Window) -> None:
    window.open_station(1)
    before = window.session.publication
    row = window.working.row("Bleed")
    type_into(row, "3 furlongs")
    assert "furlongs" in window.foot.sentence and window.session.publication is before
    assert row.editor is not None
    QTest.keyClick(row.editor, Qt.Key.Key_Escape)
    assert row.editor is None and row.row.value == "3 mm"
    type_into(row, "1/8in")
    assert window.session.publication.brief.bleed.typed == "1/8in" and row.row.value == "3.18 mm"


def test_columns_re_solve_every_spread_and_undo_restores(window: Window) -> None:
    window.open_station(3)
    before = window.session.publication
    QTest.keyClick(window.station.bench, Qt.Key.Key_Left)  # type: ignore[attr-defined]
    QTest.keyClick(window.station.bench, Qt.Key.Key_Left)  # type: ignore[attr-defined]
    assert window.session.publication.masters[0].grid.columns == 4
    type_into(window.working.row("Columns"), "5")
    assert window.session.publication.masters[0].grid.columns == 5
    for _ in range(3):
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication is before
    for _ in range(3):
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL | Qt.KeyboardModifier.ShiftModifier)
    assert (
        window.session.publication.masters[0].grid.columns == 5
        or window.session.publication.masters[0].grid.columns == 5
    )


def test_a_margin_is_dragged(window: Window) -> None:
    window.open_station(3)
    window.session.view.go_to(7)
    QTest.qWait(30)
    bench = window.station.bench  # type: ignore[attr-defined]
    frame = bench.frames()[1][1]
    start = on_bench(bench, frame.area.right, 300)
    drag(bench, start, start + (on_bench(bench, frame.area.right - 20, 300) - start))
    outside = window.session.publication.masters[0].grid.outside
    assert outside.mm == pytest.approx(14 + 20 * 25.4 / 72, abs=0.8) and outside.typed.endswith("mm")
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication.masters[0].grid.outside.mm == 14


def test_pages_go_by_key_and_the_concertina_by_mouse(window: Window) -> None:
    window.session.view.go_to(1)
    for _ in range(3):
        QTest.keyClick(window, Qt.Key.Key_PageDown)
    assert window.session.view.spread.label == "6–7"
    QTest.keyClick(window, Qt.Key.Key_PageUp)
    assert window.session.view.spread.label == "4–5"
    place = next(x for x in range(700) if window.concertina.spread_at(x) == 4)
    QTest.mouseClick(window.concertina, LEFT, pos=window.concertina.rect().topLeft().__class__(place + 10, 40))
    assert window.session.view.spread.label == "8–9"


def test_thumbnails_are_true(window: Window) -> None:
    wait_for(lambda: not window.thumbnails.busy)
    window.session.proxies.wait()
    QTest.qWait(50)
    wait_for(lambda: not window.thumbnails.busy)
    full, empty = window.thumbnails.get(3), window.thumbnails.get(4)
    assert full is not None and empty is not None
    colours = {full.pixelColor(x, y).name() for x in range(5, 70, 5) for y in range(5, 90, 5)}
    blank = {empty.pixelColor(x, y).name() for x in range(5, 70, 5) for y in range(5, 90, 5)}
    assert len(colours) > 40 and blank == {"#ffffff"}


def test_close_and_reopen_finds_everything_as_it_was(desk: Desk, demo: Path) -> None:
    first = desk.open(demo)
    ready(first)
    first.open_station(1)
    type_into(first.working.row("Title"), "Graftwood spring")
    now = encode(first.session.publication)
    first.close()
    second = desk.open(demo)
    ready(second)
    assert encode(second.session.publication) == now
    assert second.session.publication.title == "Graftwood spring"


def test_a_second_window_on_the_same_job_is_refused(desk: Desk, window: Window, demo: Path) -> None:
    with pytest.raises(Problem, match="another window"):
        desk.open(demo)


def test_versions_are_kept_by_key(window: Window) -> None:
    QTest.keyClick(window, Qt.Key.Key_S, CONTROL)
    assert len(window.session.job.versions()) == 1
    assert window.docket.versions_button.text() == "1 version kept"


def test_returning_to_a_version_is_an_edit(window: Window) -> None:
    QTest.keyClick(window, Qt.Key.Key_S, CONTROL)
    kept = encode(window.session.publication)
    window.open_station(1)
    type_into(window.working.row("Title"), "Something else")
    changed = window.session.publication
    QTest.mouseClick(window.docket.versions_button, LEFT)
    QTest.keyClick(window.station.focusProxy(), Qt.Key.Key_Return)
    assert encode(window.session.publication) == kept and window.docket._title.text() == "Graftwood"
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication is changed


def test_a_damaged_version_is_said_and_nothing_is_lost(window: Window) -> None:
    window.session.keep_version("sent to printer")
    version = window.session.job.versions()[0]
    version.write_bytes(version.read_bytes()[:200])
    before = window.session.publication
    window.session.return_to(version)
    assert "cannot be read" in window.foot.sentence and window.session.publication is before
    assert version_words(version).endswith(", sent to printer")


def test_a_folder_that_cannot_be_written_is_said_and_the_edit_kept(
    window: Window, demo: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(_path: Path, _content: bytes) -> None:
        raise Problem("The disk is full; free some room.")

    monkeypatch.setattr("half_fold.core.store.job.write_whole", full)
    window.open_station(1)
    type_into(window.working.row("Title"), "Not yet saved")
    wait_for(lambda: "disk is full" in window.foot.sentence)
    assert window.docket._saved.text().startswith("Not saved")
    assert window.session.publication.title == "Not yet saved"
    monkeypatch.undo()
    type_into(window.working.row("Title"), "Saved now")
    assert window.session.autosave.flush()
    assert read(demo / "graftwood.halffold").title == "Saved now"


def _ratio(one: str, other: str) -> float:
    def luminance(token: str) -> float:
        channels = [int(token[i : i + 2], 16) / 255 for i in (1, 3, 5)]
        linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    high, low = sorted((luminance(one), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def test_words_of_the_interface_can_be_read() -> None:
    for words in (tokens.INK, tokens.QUIET, tokens.LODEN, tokens.OCHRE_TEXT, tokens.MADDER):
        for ground in (tokens.BOARD, tokens.CARD):
            assert _ratio(words, ground) >= 4.5, (words, ground)
    assert _ratio(tokens.INK, tokens.SURROUND) >= 4.5


def test_the_demo_reaches_a_real_window() -> None:
    """Not offscreen: on an X server, with the system libraries that ``./run demo`` needs."""
    script = """
import sys, tempfile
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication
from half_fold.core.store.demo import make_demo
from half_fold.desk import application

def look():  # until there is something to be seen, however long that takes: a guard ends the whole run
    window = next(w for w in QApplication.topLevelWidgets() if w.windowTitle().startswith("Graftwood"))
    image = window.screen().grabWindow(window.winId()).toImage()
    colours = {image.pixelColor(x, y).name() for x in range(0, image.width(), 16) for y in range(0, image.height(), 16)}
    if len(colours) <= 150:
        QTimer.singleShot(250, look)
        return
    print(QApplication.platformName(), image.width(), image.height(), len(colours))
    QApplication.closeAllWindows()

application_object = QApplication([])
QTimer.singleShot(2500, look)
with tempfile.TemporaryDirectory() as folder:
    application.run(make_demo(Path(folder)))
"""
    environment = {**os.environ, "QT_QPA_PLATFORM": "xcb"}
    words = ["xvfb-run", "-a", "-s", "-screen 0 1400x900x24", sys.executable, "-c", script]
    done = subprocess.run(words, env=environment, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
    platform, width, height, colours = done.stdout.split()
    assert (platform, width, height) == ("xcb", "1280", "800") and int(colours) > 150


def test_what_was_refused_is_said_however_late_the_rest_comes(window: Window, tmp_path: Path) -> None:
    (tmp_path / "late.md").write_text("# A late text\n\nWords.", encoding="utf-8")
    window.session.bring_text(tmp_path / "late.md")
    window.session.bringing.failed.emit("“sum.xls” is no picture.")  # before the text is on its pages
    wait_for(lambda: window.session.publication.stories[-1].title == "A late text")
    assert window.foot.sentence == "“A late text” is on its pages. “sum.xls” is no picture."


def test_files_dropped_on_the_window_are_brought_in(window: Window, story_file: Path, tmp_path: Path) -> None:
    from PIL import Image
    from PyQt6.QtCore import QMimeData, QPointF, QUrl
    from PyQt6.QtGui import QDropEvent

    picture = tmp_path / "hedge.png"
    Image.new("RGB", (90, 60), (40, 80, 30)).save(picture)
    (tmp_path / "sum.xls").write_bytes(b"nonsense")
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(p)) for p in (story_file, picture, tmp_path / "sum.xls")])
    copy, none = Qt.DropAction.CopyAction, Qt.KeyboardModifier.NoModifier
    window.open_station(1)
    window.dropEvent(QDropEvent(QPointF(400, 300), copy, mime, LEFT, none))
    assert window.current == 1, "what is dropped stays where the user is"
    wait_for(lambda: window.session.publication.stories[-1].title == "The office of fjords")
    wait_for(lambda: "no picture" in window.foot.sentence)
    wait_for(lambda: window.session.publication.pictures[-1].file == "hedge.png")
    assert "no picture" in window.foot.sentence, "said with the news that comes after it too"


def test_f1_shows_the_guide_for_the_station(window: Window) -> None:
    for number, name in ((3, "Grid"), (6, "Checks")):
        window.open_station(number)
        QTest.keyClick(window, Qt.Key.Key_F1)
        assert window.help.page.toPlainText().startswith(f"{number} {name}")
        window.help.close()


def test_the_window_and_the_jobs_are_remembered(desk: Desk, demo: Path) -> None:
    first = desk.open(demo)
    ready(first)
    first.close()
    assert recall().geometry == bytes(first.saveGeometry().toHex().data()).decode()
    desk.show_welcome()
    assert desk.welcome is not None and "Graftwood" in desk.welcome.recent[0].text()
    QTest.mouseClick(desk.welcome.recent[0], LEFT)
    assert desk.windows[-1].session.job.folder == demo.resolve()


def test_pictures_and_words_are_pasted(window: Window) -> None:
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    image = QImage(80, 50, QImage.Format.Format_RGB32)
    image.fill(QColor("#336622"))
    clipboard.setImage(image)
    window.open_station(4)
    window.station.take_focus()
    QTest.keyClick(window, Qt.Key.Key_V, CONTROL)
    wait_for(lambda: len(window.session.publication.pictures) == 15)
    pasted = window.session.publication.pictures[-1]
    assert (pasted.file, pasted.width, pasted.height) == ("pasted.png", 80, 50)
    clipboard.setText("Words from elsewhere.\n\nIn two paragraphs.")
    window.station.take_focus()
    QTest.keyClick(window, Qt.Key.Key_V, CONTROL)
    story = window.session.publication.stories[-1]
    assert [p.text for p in story.paragraphs] == ["Words from elsewhere.", "In two paragraphs."]
    assert story.title == "Words from elsewhere." and window.session.view.story == story.id


def test_pasting_into_a_text_stays_in_the_text(window: Window) -> None:
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("pasted ")
    window.open_station(4)
    window.session.view.go_to(7)
    window.station.open_drawer("stories")  # type: ignore[attr-defined]
    text = window.station.drawer.stories.text  # type: ignore[attr-defined]
    count = len(window.session.publication.stories)
    QTest.keyClick(text, Qt.Key.Key_V, CONTROL)
    assert text.toPlainText().startswith("pasted The ladders") and len(window.session.publication.stories) == count
    text.selectAll()
    text.copy()
    assert clipboard.text().startswith("pasted The ladders")


@pytest.mark.parametrize("number", range(1, 8))
def test_the_guide_tells_the_keys_of_each_station_as_a_table(window: Window, number: int) -> None:
    window.open_station(number)
    section = guide_section(number)
    table = " ".join(line for line in section.splitlines() if line.startswith("| "))
    assert "| keys | do |" in table
    told = window.station.keys()
    for key, words in told:
        for part in key.replace("drag", "").split():
            assert part in table, (key, words)
    page = Help(window, number)
    assert page.page.document().toHtml().count("<table") >= 1  # type: ignore[union-attr]
    page.close()


def test_marks_are_as_the_printer_wants_them_until_they_are_chosen(window: Window) -> None:
    window.open_station(7)
    assert isinstance(window.station, PressStation)
    box = window.station.with_marks
    assert box.isChecked() and window.station.marks
    sheet = replace(shipped()[0], name="Without", marks=False)
    window.session.edit(lambda p: choose_printer(p, sheet), "a printer")
    assert not box.isChecked() and not window.station.marks
    QTest.mouseClick(box, LEFT, pos=QPoint(8, box.height() // 2))
    window.session.edit(lambda p: choose_printer(p, replace(sheet, note="told so")), "a note")
    assert box.isChecked() and window.station.marks
