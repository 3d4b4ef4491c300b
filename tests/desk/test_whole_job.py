"""A whole small job in the real window, from new to the PDF: once by keyboard alone, once by mouse."""

from pathlib import Path

import pytest
from PIL import Image
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QPushButton, QWidget

from half_fold.cli import main
from half_fold.core.publication.records import HoldsPicture, HoldsStory
from half_fold.core.store.job import read
from half_fold.desk.application import Desk
from half_fold.desk.stations.press import PressStation
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.conftest import judge
from tests.desk.conftest import LEFT, drag, field, ready, type_into_dialog, wait_for

CONTROL, SHIFT, ALT = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)


@pytest.fixture
def pictures(tmp_path: Path) -> list[Path]:
    made = []
    for number, colour in enumerate(((180, 60, 40), (60, 120, 70), (50, 70, 140))):
        made.append(tmp_path / f"picture{number}.jpg")
        Image.new("RGB", (1200, 800 + number), colour).save(made[-1])
    return made


def _key(key: Qt.Key, held: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
    """A key to whatever has the focus, as from a real keyboard."""
    QTest.keyClick(_focus(), key, held)
    QTest.qWait(8)


def _type(text: str) -> None:
    QTest.keyClicks(_focus(), text)
    QTest.qWait(8)


def _focus() -> QWidget:
    """What has the focus; after a dialog the window behind it is made active, as a window manager does."""
    if QApplication.activeWindow() is None:
        behind = next(w for w in QApplication.topLevelWidgets() if isinstance(w, Window) and w.isVisible())
        ready(behind)
    target = QApplication.activePopupWidget() or QApplication.focusWidget()
    assert target is not None
    return target


def _pressed_well(pdf: Path, words: list[str]) -> None:
    judge("qpdf", "--check", pdf)
    read_back = judge("pdftotext", "-raw", pdf, "-").replace("\u00ad\n", "").split()
    assert [word for word in words if word not in read_back] == []
    assert judge("pdfimages", "-list", pdf).count("cmyk") >= 1


def test_by_keyboard_alone(desk: Desk, tmp_path: Path, pictures: list[Path]) -> None:
    desk.show_welcome()
    welcome = desk.welcome
    assert welcome is not None
    ready(welcome)
    _type("Hedge Laying")
    _key(Qt.Key.Key_Tab)
    _key(Qt.Key.Key_Right)
    _key(Qt.Key.Key_Right)
    _key(Qt.Key.Key_Tab)
    _key(Qt.Key.Key_A, CONTROL)
    _type(str(tmp_path / "jobs"))
    _key(Qt.Key.Key_Return)
    window = desk.windows[-1]
    ready(window)
    assert window.session.publication.kind == "catalogue"
    _key(Qt.Key.Key_4, CONTROL)
    for path in pictures:
        type_into_dialog(str(path))
        _key(Qt.Key.Key_I, CONTROL)
    wait_for(lambda: len(window.session.publication.pictures) == 3)
    _key(Qt.Key.Key_F6)
    _key(Qt.Key.Key_PageDown)
    _key(Qt.Key.Key_Right)
    for _ in range(2):
        _key(Qt.Key.Key_Down, SHIFT)
        _key(Qt.Key.Key_Right, SHIFT)
    _key(Qt.Key.Key_Return)
    _type("p")
    _key(Qt.Key.Key_Left, ALT)
    _key(Qt.Key.Key_Left, ALT)
    _key(Qt.Key.Key_Escape)
    _key(Qt.Key.Key_Right)
    for _ in range(4):
        _key(Qt.Key.Key_Right)
    for _ in range(3):
        _key(Qt.Key.Key_Right, SHIFT)
        _key(Qt.Key.Key_Down, SHIFT)
    _key(Qt.Key.Key_Return)
    _type("s")
    _type("Hedges are laid in the office of winter, and difficult flies are baffled.")
    _key(Qt.Key.Key_Return)
    _type("The second paragraph.")
    _key(Qt.Key.Key_F6)
    _key(Qt.Key.Key_P, CONTROL)
    pdf = tmp_path / "hedges.pdf"
    type_into_dialog(str(pdf))
    _key(Qt.Key.Key_P, CONTROL)
    wait_for(pdf.exists)
    wait_for(lambda: "Pressed" in window.foot.sentence)
    _pressed_well(pdf, ["Hedges", "office", "difficult", "baffled.", "second", "paragraph."])
    window.close()
    saved = read(tmp_path / "jobs" / "hedge-laying" / "hedge-laying.halffold")
    kinds = [type(block.holds) for page in saved.pages for block in page.blocks]
    assert kinds == [HoldsPicture, HoldsStory]
    assert saved.pages[1].blocks[0].place.left.kind == "bleed"


def _click(widget: QWidget, at: QPoint | None = None) -> None:
    QTest.mouseClick(widget, LEFT, pos=at if at is not None else widget.rect().center())
    QTest.qWait(10)


def _button(parent: QWidget, words: str) -> QPushButton:
    shown = (button for button in parent.findChildren(QPushButton) if button.isVisible())
    return next(button for button in shown if words in (button.accessibleName(), button.text()))


def _choose(station: SpreadsStation, words: str) -> None:
    menu = station.chooser
    assert menu is not None
    action = next(a for a in menu.actions() if a.text().startswith(words))
    QTest.mouseClick(menu, LEFT, pos=menu.actionGeometry(action).center())
    QTest.qWait(20)


def test_by_mouse(desk: Desk, tmp_path: Path, pictures: list[Path], story_file: Path) -> None:
    desk.show_welcome()
    welcome = desk.welcome
    assert welcome is not None
    ready(welcome)
    welcome.title.setText("Mouse made")
    welcome.folder.setText(str(tmp_path / "jobs"))
    _click(welcome.begin)
    window: Window = desk.windows[-1]
    ready(window)
    _click(window.docket.buttons[4])
    station = window.station
    assert isinstance(station, SpreadsStation)
    for path in pictures:
        type_into_dialog(str(path))
        _click(_button(station.drawer, "Bring in pictures"))
    wait_for(lambda: len(window.session.publication.pictures) == 3)
    _click(station.drawer.tabs["stories"])
    type_into_dialog(str(story_file))
    _click(_button(station.drawer, "Bring in"))
    wait_for(lambda: window.foot.sentence == "“The office of fjords” is on its pages.")
    assert window.session.view.page == 1 and window.session.publication.pages[0].blocks
    _click(window.concertina, QPoint(next(x for x in range(700) if window.concertina.spread_at(x) == 1) + 12, 40))
    assert window.session.view.spread.label == "2–3"
    drag(station.bench, field(station.bench, 0, 0), field(station.bench, 8, 3))
    _choose(station, "Picture")
    drag(station.bench, field(station.bench, 6, 5), field(station.bench, 11, 7))
    _choose(station, "Story")
    _choose(station, "The office of fjords")
    _click(window.docket.buttons[7])
    press = window.station
    assert isinstance(press, PressStation)
    pdf = tmp_path / "mouse.pdf"
    type_into_dialog(str(pdf))
    _click(press.button)
    wait_for(lambda: "Pressed" in window.foot.sentence)
    _pressed_well(pdf, ["office", "fjords", "efficient", "difficulty:", "baffled", "afflicted", "sufficient."])
    assert window.working.row(window.session.job.pressed()[0]["when"][:16].replace("T", " ")).row.working.startswith(
        "mouse.pdf, proved: "
    )  # type: ignore[index]


def test_pressing_can_be_cancelled(desk: Desk, demo: Path, tmp_path: Path) -> None:
    window = desk.open(demo)
    ready(window)
    _key(Qt.Key.Key_7, CONTROL)
    press = window.station
    assert isinstance(press, PressStation)
    out = tmp_path / "out"
    out.mkdir()
    type_into_dialog(str(out / "x.pdf"))
    _click(press.button)
    wait_for(lambda: press.progress_words.text() != "Setting the pages")
    _click(press.cancel)
    wait_for(lambda: press.process is None)
    assert "Cancelled" in window.foot.sentence and not list(out.iterdir())


@pytest.mark.parametrize(
    ("kind", "suffix", "size"),
    [("screen-cover", "jpg", (1600, 2560)), ("screen-cover", "png", (1600, 2560)), ("magazine", "png", (1247, 1616))],
)
def test_a_picture_for_the_screen_is_written(
    desk: Desk, tmp_path: Path, kind: str, suffix: str, size: tuple[int, int]
) -> None:
    """A shop asks for the front in pixels: it was to be had by the command line alone."""
    assert main(["new", kind, str(tmp_path / "job"), "--set", "title=Grafts"]) == 0
    window = desk.open(tmp_path / "job")
    ready(window)
    window.open_station(7)
    out = tmp_path / f"out.{suffix}"
    type_into_dialog(str(out))
    _click(next(b for b in window.working.findChildren(QPushButton) if b.text() == "Write the picture"))
    wait_for(lambda: window.foot.sentence == f"Written: {out}.")
    image = Image.open(out)
    assert image.format == {"jpg": "JPEG", "png": "PNG"}[suffix] and image.size == size


def test_the_way_in_says_what_is_wrong(desk: Desk, tmp_path: Path) -> None:
    desk.show_welcome()
    welcome = desk.welcome
    assert welcome is not None
    ready(welcome)
    _key(Qt.Key.Key_Return)
    assert "title" in welcome.sentence.text()
    _type("Taken")
    (tmp_path / "taken").mkdir()
    (tmp_path / "taken" / "mine.txt").write_text("mine")
    welcome.folder.setText(str(tmp_path))
    _key(Qt.Key.Key_Return)
    assert "already there" in welcome.sentence.text() and not desk.windows


def test_the_cover_flat_is_chosen_and_pressed(desk: Desk, demo: Path, tmp_path: Path) -> None:
    window = desk.open(demo)
    ready(window)
    window.open_station(7)
    press = window.station
    assert isinstance(press, PressStation)
    _click(press.choices["cover"], QPoint(10, 10))
    assert press.choices["cover"].isChecked() and not press.forms["pages"].isVisible()
    pdf = tmp_path / "cover.pdf"
    press.press(pdf)
    wait_for(lambda: "Pressed" in window.foot.sentence)
    assert "Pages:           1" in judge("pdfinfo", pdf)
