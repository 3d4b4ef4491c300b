"""Families and styles to choose from, each drawn in itself."""

from collections.abc import Callable, Sequence
from functools import cache

from PyQt6.QtGui import QFont, QFontDatabase
from PyQt6.QtWidgets import QListWidgetItem, QWidget

from half_fold.core.typesetting.faces.faces import face_file
from half_fold.desk.kit.pick_list import PickList
from half_fold.desk.theme import tokens

SHOWN = 17  # pixels


@cache
def qt_family(key: str) -> str:
    """The name under which Qt knows a face of ours."""
    number = QFontDatabase.addApplicationFont(str(face_file(key)))
    names = QFontDatabase.applicationFontFamilies(number) if number >= 0 else []
    return names[0] if names else tokens.SANS


def desk_font(key: str, pixels: int = SHOWN) -> QFont:
    """A face of ours for the desk to draw with."""
    font = QFont(qt_family(key))
    style = key.partition("/")[2]
    font.setItalic("Italic" in style)
    font.setBold("Bold" in style)
    font.setPixelSize(pixels)
    return font


class FaceList(PickList):
    """``faces`` gives the key of the face that a value is shown in; "" for none."""

    def __init__(
        self,
        parent: QWidget,
        faces: Callable[[str], str],
        choices: Sequence[tuple[str, str]],
        now: str,
        taken: Callable[[str], object],
    ) -> None:
        self._faces = faces
        super().__init__(parent, choices, now, taken, "faces")

    def dress(self, item: QListWidgetItem, value: str) -> None:
        """Its name in its own face."""
        key = self._faces(value)
        if key:
            item.setFont(desk_font(key))
