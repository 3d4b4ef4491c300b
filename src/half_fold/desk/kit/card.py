"""A raised note with a coloured edge and what can be done about it."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from half_fold.desk.kit.plain import label
from half_fold.desk.kit.rows import Card
from half_fold.desk.theme import tokens


class CardView(QWidget):
    """Ochre for caution, madder only where the press would stop."""

    def __init__(self, card: Card) -> None:
        super().__init__()
        self.card = card
        whole = QVBoxLayout(self)
        whole.setContentsMargins(14, 8, 10, 8)
        whole.setSpacing(3)
        whole.addWidget(label(card.title, bold=True))
        if card.words:
            whole.addWidget(label(card.words, 12, quiet=True))
        if card.actions:
            whole.addSpacing(3)
        self.buttons: list[QPushButton] = []
        for index, (words, act) in enumerate(card.actions):
            button = QPushButton(words)
            button.setProperty("primary" if index == 0 else "link", True)
            button.clicked.connect(lambda _=False, act=act: act())
            self.buttons.append(button)
            whole.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), tokens.colour(tokens.CARD))
        painter.setPen(tokens.colour(tokens.LINE))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        edge = tokens.MADDER if self.card.stops_press else tokens.OCHRE
        painter.fillRect(0, 0, 4, self.height(), tokens.colour(edge))
