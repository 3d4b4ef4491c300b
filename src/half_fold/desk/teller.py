"""What picture files tell is read off the interface thread, and kept for this sitting by content."""

from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.bring import picture_file
from half_fold.core.pictures.told import Told, told_of
from half_fold.core.publication.records import Picture
from half_fold.desk.newest import Newest, StillWanted


class Teller(Newest):
    """``told`` is what is known, by content; ``came`` says that there is more of it."""

    came = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.told: dict[str, Told] = {}
        self._asked: tuple[Picture, ...] = ()

    def ask(self, folder: Path, pictures: tuple[Picture, ...]) -> None:
        """Find out about those of a job's pictures that nothing is known of yet."""
        if pictures is self._asked:
            return
        self._asked = pictures
        lacking = [picture for picture in pictures if picture.digest not in self.told]
        if not lacking:
            return

        def work(still_wanted: StillWanted) -> dict[str, Told]:
            found = {}
            for picture in lacking:
                if not still_wanted():
                    break
                try:
                    found[picture.digest] = told_of(picture_file(folder, picture), picture.digest)
                except Problem:
                    found[picture.digest] = Told()
            return found

        self.begin(work)

    def taken(self, result: dict[str, Told]) -> None:
        """Keep it, and say so."""
        self.told |= result
        self.came.emit()
