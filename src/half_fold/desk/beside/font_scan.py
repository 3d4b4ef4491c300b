"""The fonts of the system, read off the interface thread: there may be thousands."""

from PyQt6.QtCore import pyqtSignal

from half_fold.core.typesetting.faces.faces import families
from half_fold.core.typesetting.faces.fonts import Found, system_fonts
from half_fold.desk.beside.newest import Newest, StillWanted


class FontScan(Newest):
    """``found`` are the fonts that are not there already; ``ended`` tells that they have been read."""

    ended = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.found: list[Found] = []
        self.busy = False

    def start(self) -> None:
        """Read the system's fonts."""
        if not self.busy:
            self.busy = True
            self.begin(_not_there_already)

    def taken(self, result: list[Found]) -> None:
        """Keep the families that were found."""
        self.busy, self.found = False, result
        self.ended.emit()

    def gave_up(self) -> None:
        self.taken([])


def _not_there_already(still_wanted: StillWanted) -> list[Found]:
    known = set(families())
    found = []
    for font in system_fonts():
        if not still_wanted():
            break
        if font.family not in known:
            found.append(font)
    return sorted(found, key=lambda each: (each.family, each.style))
