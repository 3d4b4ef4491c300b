"""The real window, offscreen, driven by mouse and keyboard."""

import sys
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMenu, QWidget

from half_fold.core.publication.records import HoldsPicture
from half_fold.core.publication.surgery import block_named
from half_fold.desk import session
from half_fold.desk.application import Desk
from half_fold.desk.kit.worked_row import WorkedRow
from half_fold.desk.stations.bench import Bench
from half_fold.desk.stations.press import making
from half_fold.desk.stations.spreads.bench import SpreadBench
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.theme.apply import dress
from half_fold.desk.window import Window

LEFT = Qt.MouseButton.LeftButton
WAITING = "waits for a file dialog"
# The command that a station begins, which does not look through what it makes either.
UNLOOKED = (
    "from half_fold.commands import making; making.look_through = lambda *_: []\n"
    "from half_fold.cli import main; raise SystemExit(main())"
)


@pytest.fixture(autouse=True)
def _unchecked(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """Rules run by themselves only where a test looks at what they find: each job takes them seconds."""
    if request.node.get_closest_marker("checked") is None:
        monkeypatch.setattr(session, "CHECKED_AFTER_MS", 24 * 3600 * 1000)
        monkeypatch.setattr(making, "command_line", lambda *words: (sys.executable, ["-I", "-c", UNLOOKED, *words]))


@pytest.fixture(scope="session")
def dressed(qapp: QApplication) -> None:
    """The application in its look, once."""
    dress(qapp)


@pytest.fixture
def desk(dressed: None, qapp: QApplication) -> Iterator[Desk]:
    made = Desk()
    yield made
    for waiting in qapp.findChildren(QTimer, WAITING):  # of a test that failed before its dialog came
        waiting.stop()
    for window in list(made.windows):  # each that is closed goes from among them
        window.close()


@pytest.fixture
def window(desk: Desk, demo: Path) -> Window:
    """The demo's window, active and painted."""
    opened = desk.open(demo)
    ready(opened)
    return opened


def ready(window: QWidget) -> None:
    """Wait until the window is shown and has the focus."""
    window.activateWindow()
    QTest.qWaitForWindowExposed(window)
    QTest.qWait(60)


def spreads_at(window: Window, page: int) -> SpreadsStation:
    """The Spreads station at a page, painted."""
    window.open_station(4)
    window.session.view.go_to(page)
    QTest.qWait(50)
    assert isinstance(window.station, SpreadsStation)
    return window.station


def pears(window: Window) -> str:
    """The block of the picture across pages 14 and 15."""
    return next(b.id for b in window.session.publication.pages[13].blocks if isinstance(b.holds, HoldsPicture))


def pears_held(window: Window) -> HoldsPicture:
    """What that block holds."""
    holds = block_named(window.session.publication, pears(window)).holds
    assert isinstance(holds, HoldsPicture)
    return holds


@pytest.fixture
def at_the_pears(window: Window) -> SpreadsStation:
    """Spreads, at that picture, which is chosen."""
    station = spreads_at(window, 14)
    window.session.view.select(pears(window))
    station.bench.setFocus()
    return station


def drag(
    widget: QWidget, start: QPoint, end: QPoint, held: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier
) -> None:
    QTest.mousePress(widget, LEFT, held, start)
    for part in (0.3, 0.7, 1.0):
        QTest.mouseMove(widget, start + (end - start) * part)
        QTest.qWait(5)
    QTest.mouseRelease(widget, LEFT, held, end)
    QTest.qWait(20)


def field(bench: SpreadBench, column: int, row: int) -> QPoint:
    """The middle of a field of the spread on the bench; columns count over both pages."""
    columns, rows = bench.cells()
    return on_bench(bench, sum(columns[column]) / 2, sum(rows[row]) / 2)


def on_bench(bench: Bench, x: float, y: float) -> QPoint:
    """A place of spread space on the bench."""
    return (bench.origin() + QPointF(x, y) * bench.scale()).toPoint()


def type_into_dialog(text: str) -> None:
    """When a file dialog opens, type a name in it and press Enter; a dialog that will not close is put away."""
    looking = QTimer(QApplication.instance())
    looking.setObjectName(WAITING)

    def fill() -> None:
        dialog = QApplication.activeModalWidget()
        if not isinstance(dialog, QFileDialog):
            return
        looking.stop()
        line = dialog.findChild(QLineEdit, "fileNameEdit")
        assert line is not None
        line.setFocus()
        line.setText(text)  # as pasted: typed letter by letter, the dialog's own completion may cut in
        QTest.keyClick(line, Qt.Key.Key_Return)
        giving_up = QTimer(dialog)
        giving_up.setSingleShot(True)
        giving_up.timeout.connect(dialog.reject)
        giving_up.start(1500)

    looking.timeout.connect(fill)
    looking.start(30)


def wait_for(true: Callable[[], bool]) -> None:
    """Until it comes about, however long a busy machine takes: a guard ends the run and says where (pyproject.toml)."""
    while not true():
        QTest.qWait(10)


def type_into(row: WorkedRow, text: str) -> None:
    """Into a row's value by its own editor, by keyboard, in place of what stood there."""
    row.value.setFocus()
    QTest.keyClick(row.value, Qt.Key.Key_Return)
    assert row.editor is not None
    row.editor.selectAll()
    QTest.keyClicks(row.editor, text)
    QTest.keyClick(row.editor, Qt.Key.Key_Return)
    QTest.qWait(10)


def choose_from(row: WorkedRow, words: str) -> None:
    """From a row's choices: opened by mouse, the first that begins with those words taken by key."""
    QTest.mouseClick(row.value, LEFT)
    menu = row.findChild(QMenu)
    assert menu is not None
    menu.setActiveAction(next(a for a in menu.actions() if a.text().startswith(words)))
    QTest.keyClick(menu, Qt.Key.Key_Return)
    QTest.qWait(10)


def choose_listed(row: WorkedRow, letters: str) -> None:
    """From a row's list: opened by key, found by the letters typed, taken by Enter."""
    row.value.setFocus()
    QTest.keyClick(row.value, Qt.Key.Key_Return)
    assert row.pick_list is not None and row.pick_list.isVisible()
    QTest.keyClicks(row.pick_list.search, letters)
    QTest.keyClick(row.pick_list.search, Qt.Key.Key_Return)
    QTest.qWait(10)
