"""The fonts of the system, read off the interface thread: there may be thousands."""

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from half_fold.core.typesetting.faces import families
from half_fold.core.typesetting.fonts import Found, system_fonts


class _Scan(QRunnable):
    def __init__(self, scan: "FontScan") -> None:
        super().__init__()
        self.scan = scan

    def run(self) -> None:
        known = set(families())
        found = []
        for font in system_fonts():
            if self.scan.stopped:
                return
            if font.family not in known:
                found.append(font)
        self.scan.done.emit(sorted(found, key=lambda each: (each.family, each.style)))


class FontScan(QObject):
    """``found`` are the fonts that are not there already; ``ended`` tells that they have been read."""

    done = pyqtSignal(object)
    ended = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.found: list[Found] = []
        self.busy = self.stopped = False
        self._pool = QThreadPool()
        self.done.connect(self._take)

    def start(self) -> None:
        """Read the system's fonts."""
        if not self.busy:
            self.busy = True
            self._pool.start(_Scan(self))

    def _take(self, found: list[Found]) -> None:
        self.busy, self.found = False, found
        self.ended.emit()

    def wait(self) -> None:
        """Until nothing is read; for the end of the window."""
        self.stopped = True
        self._pool.waitForDone()
