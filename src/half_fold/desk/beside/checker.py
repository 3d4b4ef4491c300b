"""The checks run in a process of their own beside the window; only the newest run counts."""

import itertools
import sys
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.answering import Answer
from half_fold.core.publication.records import Publication
from half_fold.desk.beside.child import Resident, resident
from half_fold.desk.beside.post import by_post

_keys = itertools.count(1)
_numbers = itertools.count(1)


class CheckFault(Exception):
    """What went wrong in the other process, with its own report."""


class Checker(QObject):
    """``found`` gives the findings of the document that was asked about last."""

    found = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._key, self._newest = next(_keys), 0
        self._beside: Resident | None = None

    def start(self, publication: Publication, pictures: Path) -> None:
        """Check a publication beside the window; a newer start overtakes it."""
        self._newest = next(_numbers)
        self._beside = resident()
        self._beside.ask(self._newest, self._key, pictures.parent, publication, by_post(self.take))

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
