"""Bringing pictures in off the interface thread: reading and copying there, the edit here."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.bring import copy_in
from half_fold.core.publication.records import Picture


class _CopyIn(QRunnable):
    def __init__(self, bringing: "Bringing", known: tuple[Picture, ...], folder: Path, source: Path) -> None:
        super().__init__()
        self.bringing, self.known, self.folder, self.source = bringing, known, folder, source

    def run(self) -> None:
        try:
            picture = copy_in((*self.known, *self.bringing.copied), self.folder, self.source)
            self.bringing.copied.append(picture)
            self.bringing.brought.emit(picture, self.source.name)
        except Problem as problem:
            self.bringing.failed.emit(str(problem))


class Bringing(QObject):
    """Pictures in the order they were asked for; ``brought`` gives a record without an id, and the file's name."""

    brought = pyqtSignal(object, str)
    failed = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._pool = QThreadPool()
        self._pool.setMaxThreadCount(1)
        self.copied: list[Picture] = []  # in this sitting; written by the one working thread

    def start(self, known: tuple[Picture, ...], folder: Path, paths: Sequence[Path]) -> None:
        for path in paths:
            self._pool.start(_CopyIn(self, known, folder, path))

    def wait(self) -> None:
        """Until everything asked for has been copied."""
        self._pool.waitForDone()
