"""The plainest widgets: words, and a line between them."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QLabel

from half_fold.desk.theme import tokens


def label(
    text: str, pixels: int = tokens.BASE, *, quiet: bool = False, bold: bool = False, note: bool = False
) -> QLabel:
    """A label in the interface face; a ``note`` is in the colour of caution."""
    made = QLabel(text)
    made.setFont(tokens.font(pixels, tokens.BOLD if bold else tokens.font().weight()))
    made.setTextFormat(Qt.TextFormat.PlainText)
    made.setWordWrap(True)
    if quiet or note:  # by the sheet of the whole: one of its own takes longer than all the rest
        made.setProperty("quiet" if quiet else "note", True)
    return made


def said_of(words: str) -> str:
    """Words that stand by themselves begin with a capital."""
    return f"{words[:1].upper()}{words[1:]}"


def rule() -> QFrame:
    """A thin line across."""
    made = QFrame()
    made.setFixedHeight(1)
    made.setStyleSheet(f"background: {tokens.LINE};")
    return made
