"""F1: the guide's page for a station."""

from importlib.resources import files

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QTextBrowser, QVBoxLayout, QWidget

from half_fold.desk.theme import tokens


def guide_section(number: int) -> str:
    """The guide's section that begins with the station's number, as Markdown."""
    text = files("half_fold.data").joinpath("help/guide.md").read_text(encoding="utf-8")
    sections = text.split("\n## ")
    return next((f"## {part}" for part in sections if part.startswith(f"{number} ")), sections[0])


class Help(QDialog):
    """A page of the guide beside the window; Escape puts it away."""

    def __init__(self, parent: QWidget, number: int) -> None:
        super().__init__(parent)
        self.setWindowTitle("Half Fold guide")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(520, 560)
        column = QVBoxLayout(self)
        self.page = QTextBrowser()
        self.page.setFont(tokens.font(tokens.BASE + 1))
        self.page.setMarkdown(guide_section(number))
        column.addWidget(self.page)
