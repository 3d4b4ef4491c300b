"""Asking for files to bring in; the desk remembers where such things were last fetched."""

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

from half_fold.core.store.tables import SUFFIXES as TABLE_SUFFIXES
from half_fold.core.typesetting.texts.text_in import SUFFIXES
from half_fold.desk.memory import last_folder, note_folder

PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.psd *.svg)"
TEXTS = f"Texts ({' '.join('*' + suffix for suffix in SUFFIXES)})"


def ask_for_pictures(parent: QWidget) -> list[Path]:
    """The pictures that the user chooses; none where they think better of it."""
    names, _ = QFileDialog.getOpenFileNames(parent, "Bring in pictures", last_folder("pictures"), PICTURES)
    if names:
        note_folder("pictures", Path(names[0]).parent)
    return [Path(name) for name in names]


def ask_for_table(parent: QWidget) -> Path | None:
    """The table that the user chooses."""
    kinds = f"Tables ({' '.join('*' + suffix for suffix in TABLE_SUFFIXES)})"
    name, _ = QFileDialog.getOpenFileName(parent, "Bring in a table of goods", last_folder("texts"), kinds)
    if not name:
        return None
    note_folder("texts", Path(name).parent)
    return Path(name)


def ask_for_text(parent: QWidget) -> Path | None:
    """The text that the user chooses."""
    name, _ = QFileDialog.getOpenFileName(parent, "Bring in a text", last_folder("texts"), TEXTS)
    if not name:
        return None
    note_folder("texts", Path(name).parent)
    return Path(name)
