"""The checks run in a process of their own beside the window; only the newest run counts."""

import itertools
import sys
from functools import cache
from pathlib import Path
from weakref import WeakValueDictionary

from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.answering import Answer
from half_fold.core.publication.records import Publication
from half_fold.desk.beside.child import Resident, resident

_keys = itertools.count(1)
_numbers = itertools.count(1)


class CheckFault(Exception):
    """What went wrong in the other process, with its own report."""


class _Post(QObject):
    """Brings answers from the thread that listens for them to the thread of the window.

    It is never deleted, and knows the checkers without holding them: a window may be closed while what it asked is
    still worked on, and what belongs to it must be taken down by no other thread than its own.
    """

    came = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.checkers: WeakValueDictionary[int, Checker] = WeakValueDictionary()
        self.came.connect(self._deal)

    def _deal(self, answer: Answer) -> None:
        checker = self.checkers.get(answer.key)
        if checker is not None:
            checker.take(answer)


@cache
def _post() -> _Post:
    return _Post()


class Checker(QObject):
    """``found`` gives the findings of the document that was asked about last."""

    found = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._key, self._newest = next(_keys), 0
        self._beside: Resident | None = None
        _post().checkers[self._key] = self

    def start(self, publication: Publication, pictures: Path) -> None:
        """Check a publication beside the window; a newer start overtakes it."""
        self._newest = next(_numbers)
        self._beside = resident()
        self._beside.ask(self._newest, self._key, pictures.parent, publication, _post().came.emit)

    def take(self, answer: Answer) -> None:
        """What was found, or what went wrong, beside the window."""
        if answer.number != self._newest:
            return
        if answer.fault:
            fault = CheckFault(answer.fault)
            sys.excepthook(CheckFault, fault, None)
        else:
            self.found.emit(answer.findings)

    def wait(self) -> None:
        """Let go of the job, and take no answer any more. For the end of the window."""
        self._newest = 0
        if self._beside is not None:
            self._beside.let_go(self._key)
