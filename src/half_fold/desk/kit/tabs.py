"""The views of a station as names on a shelf; the letter of each changes to it."""

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from half_fold.desk.theme import tokens


class Tabs(QWidget):
    """Names in a row; ``chosen`` is called with the index of the one that was clicked."""

    def __init__(self, views: Sequence[tuple[str, str]], chosen: Callable[[int], None]) -> None:
        super().__init__()
        self.setObjectName("shelf")
        self.setStyleSheet(f"#shelf {{ background: {tokens.SHELF}; }}")
        line = QHBoxLayout(self)
        line.setContentsMargins(16, 2, 16, 2)
        self.names: list[QPushButton] = []
        for index, (name, key) in enumerate(views):
            tab = QPushButton(name)
            tab.setProperty("link", True)
            tab.setToolTip(key)
            tab.clicked.connect(lambda _=False, index=index: chosen(index))
            line.addWidget(tab)
            self.names.append(tab)
        line.addStretch(1)
        self.line = line

    def show_at(self, index: int) -> None:
        """Set the name of the view that is open in bold."""
        for number, tab in enumerate(self.names):
            tab.setFont(tokens.font(tokens.BASE, tokens.BOLD if number == index else tokens.font().weight()))
