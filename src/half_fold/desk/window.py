"""The window: docket, concertina, bench, working and foot."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QByteArray, QMimeData, QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QKeySequence
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMenu,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from half_fold.core.pictures.library.folders import is_job
from half_fold.core.store.files import SUFFIX
from half_fold.desk.concertina import LEAF_HEIGHT, Concertina
from half_fold.desk.docket import Docket, StationLine
from half_fold.desk.foot import Foot
from half_fold.desk.job_window import JobWindow
from half_fold.desk.memory import recall, remember
from half_fold.desk.room import ALONE_KEY, KEYS, PARTS, FoldEdge, Folds, Hidden, Part, WindowRoom
from half_fold.desk.session import Session
from half_fold.desk.stations.numbers import BRIEF, CHECKS, COVER, PRESS, SPREADS, VERSIONS
from half_fold.desk.stations.register import STATIONS, make_versions
from half_fold.desk.stations.station import Station
from half_fold.desk.thumbnails import Thumbnails

if TYPE_CHECKING:
    from half_fold.desk.wanted import Wanted

THUMBNAIL_HEIGHT = 2 * LEAF_HEIGHT


class Window(JobWindow):
    """One job at one desk."""

    closed = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.setWindowTitle(f"{session.publication.title} · Half Fold")
        self.setMinimumSize(1100, 700)
        self.resize(1280, 800)
        self.restoreGeometry(QByteArray.fromHex(recall().geometry.encode("ascii", "ignore")))
        self.setAcceptDrops(True)
        self.thumbnails = Thumbnails(session, THUMBNAIL_HEIGHT)
        self.stations: dict[int, Station] = {}
        self.current = self._before = BRIEF
        self.foot = Foot()
        self.room = WindowRoom(self._part)
        self.wanted: Wanted | None = None
        self._build()
        session.changed.connect(self.refresh)
        session.checked.connect(self._checked)
        session.view.selected.connect(self.refresh)
        session.said.connect(self.foot.say)
        session.noted.connect(self.foot.note)
        session.saved.connect(self._show_saved)
        session.proxies.ready.connect(self._picture_came)
        self.docket.refresh_saved()
        self.open_station(SPREADS if any(page.blocks for page in session.publication.pages) else BRIEF)

    def _build(self) -> None:
        whole = QWidget()
        line = QHBoxLayout(whole)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(0)
        self.docket = Docket(self.session, self._lines, self._menu())
        self.docket.chosen.connect(self.open_station)
        self.docket.versions_button.clicked.connect(self.show_versions)
        self.concertina = Concertina(self.session, self.thumbnails)
        self.concertina.went.connect(self.session.view.go_to)
        from half_fold.desk.working import Working

        self.working = Working()
        self.bench = QStackedWidget()
        middle = QVBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.concertina)
        middle.addWidget(self.bench, 1)
        middle.addWidget(self.foot)
        left, right = FoldEdge("docket"), FoldEdge("working")
        self._docket, self._working = Hidden(self.docket, left), Hidden(self.working, right)
        left.pressed.connect(lambda: self.room.turn("docket"))
        right.pressed.connect(lambda: self.room.turn("working"))
        line.addWidget(self.docket)
        line.addWidget(left)
        line.addLayout(middle, 1)
        line.addWidget(right)
        line.addWidget(self.working)
        self.setCentralWidget(whole)

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        entries = (
            ("New job", QKeySequence("Ctrl+N"), self.new_job),
            ("Open a job", QKeySequence("Ctrl+O"), self.open_job),
            ("Start the next number", QKeySequence("Ctrl+Shift+N"), self.start_next),
            ("Keep as a kind of your own", QKeySequence("Ctrl+Shift+K"), self.keep_as_kind),
            ("Keep a version", QKeySequence("Ctrl+S"), self.session.keep_version),
            ("Keep a version by name", QKeySequence("Ctrl+Shift+S"), self.keep_by_name),
            ("Earlier versions", QKeySequence("Ctrl+Shift+O"), self.show_versions),
            ("", None, None),
            ("Undo", QKeySequence("Ctrl+Z"), self.session.undo),
            ("Redo", QKeySequence("Ctrl+Shift+Z"), self.session.redo),
            ("", None, None),
            ("Bring in pictures", QKeySequence("Ctrl+I"), lambda: self._bring("pictures")),
            ("Copy what is chosen", QKeySequence("Ctrl+C"), self.copy),
            ("Cut what is chosen", QKeySequence("Ctrl+X"), self.cut),
            ("Paste", QKeySequence("Ctrl+V"), self.paste),
            ("Paste in a mirror", QKeySequence("Ctrl+Shift+V"), lambda: self.paste(mirror=True)),
            ("Contact sheets of the pictures", QKeySequence("Ctrl+Shift+I"), self.contact_sheets),
            ("Bring in a text", QKeySequence("Ctrl+T"), lambda: self._bring("text")),
            ("Bring in a table of goods", QKeySequence("Ctrl+Shift+G"), lambda: self._bring("goods")),
            ("Make the contents", QKeySequence("Ctrl+Shift+T"), self.session.make_contents),
            ("Press", QKeySequence("Ctrl+P"), self.press),
            ("Close", QKeySequence("Ctrl+W"), self.close),
        )
        for words, keys, act in entries:
            if act is None or keys is None:
                menu.addSeparator()
            else:
                self._action(words, keys, act, menu)
        for number in STATIONS:
            self._action(f"Station {number}", QKeySequence(f"Ctrl+{number}"), partial(self.open_station, number))
        self._action("Next spread", QKeySequence(Qt.Key.Key_PageDown), lambda: self.session.view.go_by_spread(1))
        self._action("Spread before", QKeySequence(Qt.Key.Key_PageUp), lambda: self.session.view.go_by_spread(-1))
        self._action("Help for this station", QKeySequence("F1"), self.show_help)
        for part in PARTS:
            turn = partial(self._fold, part)
            self._action(f"Fold the {part} away, or out", QKeySequence(KEYS[part]), turn)
        self._action("Leave the bench alone", QKeySequence(ALONE_KEY), lambda: self.room.alone(), menu)
        self._action("Ask", QKeySequence("F4"), self.ask_for, menu)
        self._action("Job", QKeySequence("F10"), lambda: self.docket.job_button.click())
        self._action("To the bench", QKeySequence("F6"), lambda: self.stations[self.current].take_focus())
        self._action(
            "To the working, to find a row by typing", QKeySequence("Shift+F6"), lambda: self.working.setFocus()
        )
        return menu

    def _action(self, words: str, keys: QKeySequence, act: Callable[[], object], menu: QMenu | None = None) -> None:
        action = QAction(words, self)
        action.setShortcut(keys)
        action.triggered.connect(lambda _=False: act())
        self.addAction(action)
        if menu is not None:
            menu.addAction(action)

    # Stations -----------------------------------------------------------------------------------

    def _make(self, number: int) -> Station:
        station = make_versions(self) if number == VERSIONS else STATIONS[number].make(self)
        station.moved.connect(self._show_where)
        station.turned.connect(self._show_turned)
        station.asked_for.connect(self.open_station)
        self.bench.addWidget(station)
        return station

    def open_station(self, number: int) -> None:
        """Pull that station out; it is made on its first opening."""
        if number not in self.stations:
            self.stations[number] = self._make(number)
        self.current = number
        self.docket.choose(number)
        self.bench.setCurrentWidget(self.stations[number])
        self.room.enter(STATIONS[number].name if number in STATIONS else "Versions")
        self.stations[number].opened()
        self.refresh()
        self.stations[number].take_focus()

    def leave_versions(self) -> None:
        """Back to the station that was open before the versions were looked at."""
        self.open_station(self._before)

    def show_on_cover(self, side: str, block: str) -> None:
        """To the Cover station, that side in view and that block selected."""
        self.open_station(COVER)
        self.station.show_block(side, block)

    def show_row(self, name: str) -> None:
        """Unfold the row of that name in the working."""
        self.working.show_row(name)

    def in_the_working(self) -> Sequence[tuple[str, Sequence[str], Callable[[], object]]]:
        """What can be set or done in the working; a row is shown, to be set."""
        return self.working.askable()

    @property
    def station(self) -> Station:
        """The station that is open."""
        return self.stations[self.current]

    def refresh(self) -> None:
        """Show the document as it is now, in every part."""
        self.station.refresh()
        if self.session.history.goes_on:  # the letter comes before what follows from it
            self.working.show_soon(self.station.sections)
        else:
            self.working.show_sections(self.station.sections())
        self.docket.refresh()
        self.concertina.refresh()
        self._show_where()

    def _show_where(self) -> None:
        self.foot.show_where(self.station.where())
        self.foot.show_keys(self.station.keys())
        if self.station.follows_pointer:
            self.working.show_sections(self.station.sections())

    def _show_turned(self) -> None:
        self.working.show_sections(self.station.sections())
        self._show_where()

    def _checked(self) -> None:
        self.docket.refresh()
        if self.current == CHECKS:
            self.working.show_sections(self.station.sections())
            self._show_where()

    def _picture_came(self, _content: str) -> None:
        self.thumbnails.refresh()
        self.station.picture_came()

    def _lines(self) -> Sequence[StationLine]:
        return [StationLine(number, each.name, *each.stands(self.session)) for number, each in STATIONS.items()]

    # Job ----------------------------------------------------------------------------------------

    def press(self) -> None:
        """Ctrl+P: to the press, and there press."""
        if self.current != PRESS:
            self.open_station(PRESS)
        else:
            self.station.act()

    def _bring(self, what: str) -> None:
        """Ask which pictures or which text; the user stays where they are."""
        self.station.bring(what)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        assert event is not None
        if _local_files(event.mimeData()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Files from the file manager: pictures and texts are brought in, a job is opened."""
        assert event is not None
        self.take_files(_local_files(event.mimeData()), self.mapToGlobal(event.position().toPoint()))

    def take_files(self, paths: list[Path], at: QPoint | None = None) -> None:
        """Bring in pictures (of folders too) and texts where they were dropped, open jobs; what is none is said."""
        jobs = [path for path in paths if path.suffix == SUFFIX or (path.is_dir() and is_job(path))]
        for path in jobs:
            self.wants_job.emit(path)
        others = [path for path in paths if path not in jobs]
        if others:
            self.station.take_files(others, at)

    def copy(self) -> None:
        """What is chosen, to the clipboard."""
        mime = self.station.to_copy(self.session.job.pictures)
        clipboard = QApplication.clipboard()
        if mime is None or clipboard is None:
            self.session.said.emit("Choose something on a spread or the cover, or pages of the order, to copy it.")
        else:
            clipboard.setMimeData(mime)
            self.session.noted.emit("Copied.")

    def cut(self) -> None:
        """What is chosen, to the clipboard and off the page."""
        self.copy()
        self.station.cut()

    def paste(self, mirror: bool = False) -> None:
        """What the clipboard holds: things on the page in view, files and pictures, words as a new story."""
        clipboard = QApplication.clipboard()
        mime = clipboard.mimeData() if clipboard is not None else None
        if clipboard is None or mime is None:
            return
        if self.station.lay(mime, mirror):
            return
        if mime.hasUrls():
            self.take_files(_local_files(mime))
        elif mime.hasImage():
            self.session.bring_image(clipboard.image())
        elif mime.hasText() and mime.text().strip():
            self.station.take_words(mime.text())
        else:
            self.session.said.emit("The clipboard holds neither a picture nor words.")

    def _fold(self, part: Part) -> None:
        self.room.turn(part)

    def _part(self, part: Part) -> Folds | None:
        """A part round the bench, where there is one at this station."""
        if part == "drawer":
            return self.station.folds()
        parts: dict[Part, Folds] = {
            "docket": self._docket,
            "working": self._working,
            "concertina": self.concertina,
        }
        return parts[part]

    def ask_for(self) -> None:
        """A line in which what is wanted is said in plain words."""
        from half_fold.desk.wanted import Wanted

        if self.wanted is None:
            self.wanted = Wanted(self)
        self.wanted.begin()

    def show_help(self) -> None:
        """Show what the keys do."""
        from half_fold.desk.help import Help

        self.help = Help(self, self.current)
        self.help.show()

    def show_versions(self) -> None:
        """Earlier versions on the bench, to be looked at before one is returned to."""
        if not self.session.job.versions():
            self.session.said.emit("No versions kept yet; Ctrl+S keeps one.")
            return
        if self.current != VERSIONS:
            self._before = self.current
        self.open_station(VERSIONS)

    def _show_saved(self, _said: str) -> None:
        self.docket.refresh_saved()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if self.contact is not None:
            self.contact.stop()
        for station in self.stations.values():
            station.stop()
        self.thumbnails.stop()
        memory = recall()
        memory.geometry = bytes(self.saveGeometry().toHex().data()).decode("ascii")
        remember(memory)
        self.session.close()
        super().closeEvent(event)
        self.closed.emit()


def _local_files(mime: QMimeData | None) -> list[Path]:
    return [Path(url.toLocalFile()) for url in mime.urls() if url.isLocalFile()] if mime is not None else []
