"""The job's own symbols in the window: their font made known to Qt, so that they are seen where text is edited."""

from pathlib import Path

from PyQt6.QtGui import QFont, QFontDatabase

from half_fold.core.publication.records import Publication
from half_fold.core.typesetting.faces.fonts import FOLDER, SYMBOLS

_known: dict[str, int] = {}  # the file that is known, and what Qt calls it


def show_symbols(publication: Publication, folder: Path) -> bool:
    """Make the font of a job's symbols known in place of another; True where that changed anything."""
    file = next((str(folder / FOLDER / font.file) for font in publication.fonts if font.family == SYMBOLS), "")
    if list(_known) == [file] or not (file or _known):
        return False
    for number in _known.values():
        QFontDatabase.removeApplicationFont(number)
    _known.clear()
    if file:
        _known[file] = QFontDatabase.addApplicationFont(file)
    return True


def with_symbols(font: QFont) -> QFont:
    """A face of the window that takes symbols from their font."""
    made = QFont(font)
    made.setFamilies([*font.families(), SYMBOLS])
    return made
