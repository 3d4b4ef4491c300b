"""The application: one window at a time, or the way in when no job is open."""

import os
import sys
from functools import partial
from pathlib import Path
from threading import Thread
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QApplication

from half_fold.core.compiled import compiling
from half_fold.core.measure.kept import let_go_of_all
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import make_ready
from half_fold.core.store.job import open_job
from half_fold.desk.beside.collector import Collector
from half_fold.desk.faults import Faults
from half_fold.desk.memory import note_opened
from half_fold.desk.session import Session
from half_fold.desk.theme.apply import dress, new_application
from half_fold.desk.window import Window

if TYPE_CHECKING:
    from half_fold.desk.welcome import Welcome

LOAD_AFTER_MS = 1500
LET_GO_MS = 200  # after a window was closed: then Qt has let go of its own
SWITCH_SECONDS = 0.001  # how long a worker may hold the interpreter before the interface thread has its turn


def _after_opening() -> None:
    """In the background, once the window is painted and answers: what long texts are broken with, and tidied caches."""
    Thread(target=compiling.load).start()
    Thread(target=_tidy, daemon=True).start()


def _tidy() -> None:
    from half_fold.core.pictures.library import pyramid
    from half_fold.core.press.pdf import kept_images

    pyramid.tidy()
    kept_images.tidy_images()


class Desk(QObject):
    """Opens jobs and keeps their windows."""

    def __init__(self) -> None:
        super().__init__()
        self.windows: list[Window] = []
        self._collector = Collector()
        self.welcome: Welcome | None = None
        self.faults = Faults()
        self.faults.problem.connect(self._say)
        self.faults.fault.connect(self._say_fault)

    def open(self, file: Path) -> Window:
        """A window on that job. Problem where it cannot be opened."""
        Thread(target=make_ready).start()  # beside the window, whose first painting is to find it made
        window = Window(Session(open_job(file)))
        window.wants_job.connect(self._wanted)
        window.closed.connect(partial(self._let_go, window))
        self.windows.append(window)
        note_opened(window.session.job.file)
        window.show()
        if window.session.job.told_swept:
            window.session.noted.emit(window.session.job.told_swept)
        QTimer.singleShot(LOAD_AFTER_MS, _after_opening)
        if self.welcome is not None:
            self.welcome.close()
        return window

    def _let_go(self, window: Window) -> None:
        """Of a window that was closed, with all that it kept: the next would else be opened beside it."""
        if window in self.windows:
            self.windows.remove(window)
            window.deleteLater()
            let_go_of_all()
            QTimer.singleShot(LET_GO_MS, self._collector.collect_all)

    def _wanted(self, file: Path | None) -> None:
        if file is None:
            self.show_welcome()
            return
        try:
            self.open(file)
        except Problem as problem:
            self._say(str(problem))

    def _say_fault(self, sentence: str) -> None:
        """Say a fault where the user looks, with every open job saved."""
        for window in self.windows:
            window.session.autosave.offer(window.session.publication)
            window.foot.fault(sentence, self.faults.report)
        if self.welcome is not None and self.welcome.isVisible():
            self.welcome.sentence.setText(sentence)

    def _say(self, sentence: str) -> None:
        if self.welcome is not None and self.welcome.isVisible():
            self.welcome.sentence.setText(sentence)
        elif self.windows:
            self.windows[-1].foot.say(sentence)

    def show_welcome(self) -> None:
        """Show the way in: new jobs, and those opened lately."""
        from half_fold.desk.welcome import Welcome

        self.welcome = Welcome()
        self.welcome.made.connect(self._wanted)
        self.welcome.show()


def _require_screen() -> None:
    """Problem where there is none to open a window on: Qt would end the program by a signal."""
    if not any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        raise Problem("There is no screen to open a window on; “half-fold --help” lists what can be done without one.")


def run(file: Path | None) -> int:
    """Run until the last window closes; gives the exit status. Problem where the job cannot be opened, or shown."""
    _require_screen()
    application = QApplication.instance() or new_application(sys.argv[0])
    assert isinstance(application, QApplication)
    application.setApplicationName("Half Fold")
    dress(application)
    sys.setswitchinterval(SWITCH_SECONDS)
    desk = Desk()
    desk.faults.catch()
    if file is not None:
        desk.open(file)
    else:
        desk.show_welcome()
    return application.exec()
