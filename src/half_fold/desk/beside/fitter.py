"""Remedies for a story are sought off the interface thread, with a setter of their own; only the newest counts."""

from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.spread.edits.fitting import FitRemedy
from half_fold.core.spread.setting.compose import Setter
from half_fold.desk.beside.newest import Newest, StillWanted


class Fitter(Newest):
    """``found`` tells that ``remedies`` of ``story`` in ``publication`` are there, or that the search has ended."""

    failed = pyqtSignal(str)
    found = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.busy = False
        self.publication: Publication | None = None
        self.story = ""
        self.remedies: list[FitRemedy] = []

    def start(self, publication: Publication, story: str, folder: Path) -> None:
        """Seek remedies for a story of that document, whose pictures lie in a folder."""
        from half_fold.core.arrange.giving_room import every_remedy

        self.busy, self.publication, self.story, self.remedies = True, publication, story, []

        def work(still_wanted: StillWanted) -> list[FitRemedy]:
            try:
                return every_remedy(publication, Setter(), story, folder, still_wanted)
            except Problem as problem:
                self.failed.emit(str(problem))
                return []

        self.begin(work)

    def cancel(self) -> None:
        """Seek no more."""
        super().cancel()
        self.busy, self.publication, self.remedies = False, None, []
        self.found.emit()

    def taken(self, result: list[FitRemedy]) -> None:
        """Keep the remedies, and say that they are there."""
        self.busy, self.remedies = False, result
        self.found.emit()

    def gave_up(self) -> None:
        self.busy = False
        self.found.emit()
