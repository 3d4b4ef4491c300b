"""What the drawn views of the order share: the focus, the ground, and a sentence where there is nothing to draw."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter
from PyQt6.QtWidgets import QWidget

from half_fold.desk.session import Session
from half_fold.desk.theme import tokens


class OrderView(QWidget):
    """A view of the session's order; ``moved`` tells that another thing is shown."""

    moved = pyqtSignal()

    def __init__(self, session: Session, name: str) -> None:
        super().__init__()
        self.session = session
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)

    def refresh(self) -> None:
        """Show the document as it is now."""
        self.update()

    def mousePressEvent(self, _event: QMouseEvent | None) -> None:
        self.setFocus()

    def begin(self) -> QPainter:
        """A painter on a fresh ground."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        painter.setPen(tokens.colour(tokens.INK))
        return painter

    def say(self, painter: QPainter, sentence: str) -> None:
        """A sentence in the middle."""
        painter.setFont(tokens.font(tokens.SECTION))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, sentence)
