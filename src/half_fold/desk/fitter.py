"""Remedies for a story are sought off the interface thread, with a setter of their own; only the newest counts."""

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter
from half_fold.core.spread.fitting import Remedy, remedies


class _Search(QRunnable):
    def __init__(self, fitter: "Fitter", publication: Publication, story: str) -> None:
        super().__init__()
        self.fitter, self.number = fitter, fitter.newest
        self.publication, self.story = publication, story

    def run(self) -> None:
        try:
            found = remedies(self.publication, Setter(), self.story, lambda: self.number == self.fitter.newest)
        except Problem as problem:
            self.fitter.failed.emit(str(problem))
            found = []
        self.fitter.done.emit(self.number, found)


class Fitter(QObject):
    """``found`` tells that ``remedies`` of ``story`` in ``publication`` are there, or that the search has ended."""

    done = pyqtSignal(int, object)
    failed = pyqtSignal(str)
    found = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.newest = 0
        self.busy = False
        self.publication: Publication | None = None
        self.story = ""
        self.remedies: list[Remedy] = []
        self._pool = QThreadPool()
        self._pool.setMaxThreadCount(1)
        self.done.connect(self._take)

    def start(self, publication: Publication, story: str) -> None:
        """Seek remedies for a story of that document."""
        self.newest += 1
        self.busy, self.publication, self.story, self.remedies = True, publication, story, []
        self._pool.start(_Search(self, publication, story))

    def cancel(self) -> None:
        """Seek no more."""
        self.newest += 1
        self.busy, self.publication, self.remedies = False, None, []
        self.found.emit()

    def _take(self, number: int, found: list[Remedy]) -> None:
        if number == self.newest:
            self.busy, self.remedies = False, found
            self.found.emit()

    def wait(self) -> None:
        """Until nothing is sought; for the end of the window."""
        self.newest += 1
        self._pool.waitForDone()
