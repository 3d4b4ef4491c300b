"""The tokens of the look, and the style sheet made of them."""

from importlib.resources import files

from PyQt6.QtGui import QColor, QFont

SURROUND = "#BDBDBD"
BOARD = "#E6E3DC"
CARD = "#F6F4EF"
INK = "#23262B"
QUIET = "#54585D"
LODEN = "#22594A"
OCHRE = "#9A6A14"
PENCIL = "#5B8DB8"  # the blue that no plate took, for lines that never print
OCHRE_TEXT = "#7E560E"
MADDER = "#98331F"
LINE = "#CBC7BE"
SHELF = "#D2D0CA"

RHYTHM = 8
DOCKET_WIDTH, WORKING_WIDTH, CONCERTINA_HEIGHT, FOOT_HEIGHT = 220, 300, 100, 28
SANS, SERIF, DISPLAY = "IBM Plex Sans", "EB Garamond", "Young Serif"
BASE, SMALL, LARGE, SECTION = 13, 11, 20, 15


def colour(token: str, alpha: float = 1.0) -> QColor:
    """A token as a colour, ``alpha`` from 0 to 1."""
    made = QColor(token)
    made.setAlphaF(alpha)
    return made


def font(pixels: int = BASE, weight: int = QFont.Weight.Normal, family: str = SANS) -> QFont:
    """The interface face at a size in pixels."""
    made = QFont(family)
    made.setPixelSize(pixels)
    made.setWeight(QFont.Weight(weight))
    return made


MEDIUM, BOLD = QFont.Weight.Medium, QFont.Weight.DemiBold

_DOWN = str(files("half_fold.data").joinpath("icons/down.svg"))
STYLE = f"""
QWidget {{ color: {INK}; }}
QMainWindow, #docket, #working, #foot, QDialog, #welcome {{ background: {BOARD}; }}
QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: none; }}
QLabel[quiet="true"] {{ color: {QUIET}; }}
QLabel[note="true"] {{ color: {OCHRE_TEXT}; }}
QLineEdit, QTextEdit, QPlainTextEdit, QComboBox {{
    background: {CARD}; border: 1px solid {LINE}; border-radius: 2px; padding: 3px 6px;
    selection-background-color: {LODEN}; selection-color: {CARD};
}}
QComboBox::drop-down {{ border: none; width: 18px; }}
QComboBox::down-arrow {{ image: url({_DOWN}); width: 10px; height: 10px; }}
QLineEdit:focus, QTextEdit:focus, QComboBox:focus {{ border: 1px solid {LODEN}; }}
QPushButton {{ background: {CARD}; border: 1px solid {LINE}; border-radius: 3px; padding: 5px 12px; }}
QPushButton:hover {{ border-color: {QUIET}; }}
QPushButton:focus {{ border: 2px solid {LODEN}; padding: 4px 11px; }}
QPushButton:disabled {{ color: {QUIET}; background: {BOARD}; }}
QPushButton[primary="true"] {{ background: {LODEN}; color: {CARD}; border: 1px solid {LODEN}; }}
QPushButton[primary="true"]:focus {{ border: 2px solid {INK}; }}
QPushButton[link="true"] {{
    background: transparent; border: 1px solid transparent; color: {LODEN}; padding: 2px 4px; text-align: left;
}}
QPushButton[link="true"]:hover {{ text-decoration: underline; }}
QPushButton[link="true"]:focus {{ border: 1px solid {LODEN}; }}
QCheckBox:focus, QRadioButton:focus {{ color: {LODEN}; text-decoration: underline; }}
QMenu {{ background: {CARD}; border: 1px solid {QUIET}; padding: 4px; }}
QMenu::item {{ padding: 4px 24px 4px 12px; }}
QMenu::item:selected {{ background: {LODEN}; color: {CARD}; }}
QMenu::item:disabled {{ color: {QUIET}; }}
QScrollBar:vertical {{ background: transparent; width: 10px; margin: 0; }}
QScrollBar:horizontal {{ background: transparent; height: 8px; margin: 0; }}
QScrollBar::handle {{ background: #A9A69E; border-radius: 4px; min-width: 24px; min-height: 24px; }}
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{
    background: transparent; width: 0; height: 0;
}}
QProgressBar {{ background: {CARD}; border: 1px solid {LINE}; border-radius: 2px; height: 10px; }}
QProgressBar::chunk {{ background: {LODEN}; }}
QToolTip {{ background: {INK}; color: {CARD}; border: none; padding: 4px 6px; }}
"""
