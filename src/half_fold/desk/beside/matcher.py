"""Sets of pictures are matched off the interface thread: their reduced copies have to be read for it."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.pyramid import STEPS, reduced
from half_fold.core.publication.records import HoldsPicture, Publication, Treatment
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.framing.matching import To, farthest_off, pictures_among, solved
from half_fold.desk.beside.newest import Newest, StillWanted


class Matcher(Newest):
    """``found`` gives the treatments of the blocks asked for last, and how far each was off, the farthest first."""

    failed = pyqtSignal(str)
    found = pyqtSignal(object, object)

    def start(self, publication: Publication, folder: Path, names: Sequence[str], to: To, strength: float) -> None:
        """Solve what brings those picture blocks to the last of them, or to their middle."""

        def work(still_wanted: StillWanted) -> tuple[dict[str, Treatment], list[tuple[str, float]]] | str:
            try:
                images = {}
                for block in pictures_among(publication, names):
                    if not still_wanted():
                        return ""
                    assert isinstance(block.holds, HoldsPicture)
                    picture = picture_of(publication, block.holds.picture)
                    images[block.id] = reduced(picture_file(folder, picture), picture.digest, STEPS[0])
                chosen = list(images)
                return solved(publication, images, chosen, to, strength, still_wanted), farthest_off(
                    publication, images, chosen
                )
            except Problem as problem:
                return str(problem)

        self.begin(work)

    def taken(self, result: tuple[dict[str, Treatment], list[tuple[str, float]]] | str) -> None:
        """Say what was found, or why nothing was."""
        if isinstance(result, str):
            self.failed.emit(result)
        else:
            self.found.emit(*result)
