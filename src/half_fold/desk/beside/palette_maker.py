"""Palettes are found off the interface thread: pictures have to be read for them."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from half_fold.core.inks.palette import InkProposal, palette_of
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.pyramid import STEPS, reduced
from half_fold.core.publication.records import Picture, Publication
from half_fold.desk.beside.newest import Newest, StillWanted


class PaletteMaker(Newest):
    """``proposals`` are those of the pictures that were asked for last, which are called ``about``."""

    failed = pyqtSignal(str)
    found = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.busy, self.about = False, ""
        self.proposals: list[InkProposal] = []

    def start(self, publication: Publication, folder: Path, pictures: Sequence[Picture], about: str) -> None:
        """Find the palette of some pictures of a job."""
        self.busy, self.about, self.proposals = True, about, []

        def work(still_wanted: StillWanted) -> list[InkProposal]:
            images = []
            for picture in pictures:
                if not still_wanted():
                    return []
                try:
                    images.append(reduced(picture_file(folder, picture), picture.digest, STEPS[1]))
                except Problem as problem:
                    self.failed.emit(str(problem))
            return palette_of(publication, images)

        self.begin(work)

    def taken(self, result: list[InkProposal]) -> None:
        """Keep the proposals, and say that they are there."""
        self.busy, self.proposals = False, result
        self.found.emit()

    def gave_up(self) -> None:
        self.taken([])

    def forget(self) -> None:
        """Show none any more."""
        self.cancel()
        self.busy, self.about, self.proposals = False, "", []
        self.found.emit()
