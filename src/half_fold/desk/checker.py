"""The checks run off the interface thread, with a setter of their own; only the newest run counts."""

from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter
from half_fold.desk.newest import Newest, StillWanted


class Checker(Newest):
    """``found`` gives the findings of the document that was asked about last."""

    found = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setter = Setter()

    def start(self, publication: Publication, pictures: Path) -> None:
        """Check a publication beside the window; a newer start overtakes it."""

        def work(still_wanted: StillWanted) -> object:
            from half_fold.core.checks.context import GivenUp
            from half_fold.core.checks.run import check

            try:
                return check(publication, self.setter, pictures, still_wanted)
            except GivenUp:
                return []  # which nobody takes

        self.begin(work)

    def taken(self, result: object) -> None:
        """Pass the findings on."""
        self.found.emit(result)
