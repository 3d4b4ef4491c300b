"""The checks run off the interface thread, with a setter of their own; only the newest run counts."""

from pathlib import Path

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter


class _Run(QRunnable):
    def __init__(self, checker: "Checker", number: int, publication: Publication, pictures: Path) -> None:
        super().__init__()
        self.checker, self.number, self.publication, self.pictures = checker, number, publication, pictures

    def run(self) -> None:
        from half_fold.core.checks.run import check

        if self.number == self.checker.newest:
            found = check(self.publication, self.checker.setter, self.pictures)
            self.checker.done.emit(self.number, found)


class Checker(QObject):
    """``found`` gives the findings of the document that was asked about last."""

    done = pyqtSignal(int, object)
    found = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setter = Setter()
        self.newest = 0
        self._pool = QThreadPool()
        self._pool.setMaxThreadCount(1)
        self.done.connect(self._take)

    def start(self, publication: Publication, pictures: Path) -> None:
        self.newest += 1
        self._pool.start(_Run(self, self.newest, publication, pictures))

    def _take(self, number: int, findings: object) -> None:
        if number == self.newest:
            self.found.emit(findings)

    def wait(self) -> None:
        """Until nothing runs; what has not begun is given up."""
        self.newest += 1
        self._pool.waitForDone()
