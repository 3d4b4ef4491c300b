"""Dressing the application: the faces that ship, the palette and the style sheet."""

from importlib.resources import files

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QColor, QFontDatabase, QIcon, QPalette
from PyQt6.QtWidgets import QApplication

from half_fold.desk.theme import tokens

_FACES = (
    "plex-sans/IBMPlexSans-Regular.ttf",
    "plex-sans/IBMPlexSans-Medium.ttf",
    "plex-sans/IBMPlexSans-SemiBold.ttf",
    "plex-sans/IBMPlexSans-Italic.ttf",
    "eb-garamond/EBGaramond_400Regular.ttf",
    "young-serif/YoungSerif_400Regular.ttf",
)


def new_application(name: str) -> QApplication:
    """The application in Qt's own style on every desktop; called for later, PyQt makes six hundred names of styles."""
    return QApplication([name, "-style", "fusion"])


def dress(application: QApplication) -> None:
    """Give the application its look; call once, before any window is made."""
    for name in _FACES:
        QFontDatabase.addApplicationFont(str(files("half_fold.data").joinpath("fonts", name)))
    application.setFont(tokens.font())
    palette = QPalette()
    role = QPalette.ColorRole
    for which, token in (
        (role.Window, tokens.BOARD),
        (role.Base, tokens.CARD),
        (role.Button, tokens.CARD),
        (role.Text, tokens.INK),
        (role.WindowText, tokens.INK),
        (role.ButtonText, tokens.INK),
        (role.Highlight, tokens.LODEN),
        (role.HighlightedText, tokens.CARD),
        (role.PlaceholderText, tokens.QUIET),
    ):
        palette.setColor(which, QColor(token))
    application.setPalette(palette)
    application.setStyleSheet(tokens.STYLE)
    QTimer.singleShot(0, lambda: application.setWindowIcon(_icon()))  # once the first window stands


def _icon() -> QIcon:
    return QIcon(str(files("half_fold.data").joinpath("icons/half-fold.svg")))
