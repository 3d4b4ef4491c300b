"""What picture files tell is read off the interface thread, and kept for this sitting by content."""

from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from half_fold.core.pictures.library.told import Told, told_of_all
from half_fold.core.publication.records import Picture
from half_fold.desk.beside.newest import Newest, StillWanted


class Teller(Newest):
    """``told`` is what is known, by content; ``came`` says that there is more of it."""

    came = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.told: dict[str, Told] = {}
        self.busy = False
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
            return told_of_all(folder, lacking, still_wanted)

        self.busy = True
        self.begin(work)

    def taken(self, result: dict[str, Told]) -> None:
        """Keep it, and say so."""
        self.told |= result
        self.busy = False
        self.came.emit()

    def gave_up(self) -> None:
        """What is not known stays so."""
        self.busy = False
