"""The checks run in a process of their own beside the window; only the newest run counts."""

import itertools
import sys
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.beside import Answer
from half_fold.core.publication.records import Publication
from half_fold.desk.child import Resident, resident

_keys = itertools.count(1)
_numbers = itertools.count(1)


class CheckFault(Exception):
    """What went wrong in the other process, with its own report."""


class Checker(QObject):
    """``found`` gives the findings of the document that was asked about last."""

    found = pyqtSignal(object)
    answered = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._key, self._newest = next(_keys), 0
        self._beside: Resident | None = None
        self.answered.connect(self._take)

    def start(self, publication: Publication, pictures: Path) -> None:
        """Check a publication beside the window; a newer start overtakes it."""
        self._newest = next(_numbers)
        self._beside = resident()
        self._beside.ask(self._newest, self._key, pictures.parent, publication, self.answered.emit)

    def _take(self, answer: Answer) -> None:
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
