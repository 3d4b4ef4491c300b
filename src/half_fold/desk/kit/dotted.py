"""What the rows of the working lie on: in its margin a dot before each that is not at rest, which puts it back."""

from collections.abc import Callable, Iterator

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from half_fold.desk.theme import tokens

DOT_DOWN = 13  # pixels from the head of a row to the middle of its dot
Dotted = Callable[[], Iterator[tuple[QWidget, Callable[[], object] | None]]]


class DottedPage(QWidget):
    """``dotted`` gives what has a dot, each with what puts it back, if it can be put back by that."""

    def __init__(self, dotted: Dotted) -> None:
        super().__init__()
        self._dotted = dotted

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(tokens.colour(tokens.LODEN))
        for widget, _ in self._dotted():
            painter.drawEllipse(QPointF(widget.x() - 8, widget.y() + DOT_DOWN), 2.5, 2.5)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A click on a dot puts back what it stands for."""
        assert event is not None
        at = event.position()
        for widget, back in self._dotted():
            if back is not None and at.x() < widget.x() and abs(at.y() - widget.y() - DOT_DOWN) < tokens.RHYTHM:
                back()
                return
        super().mousePressEvent(event)
