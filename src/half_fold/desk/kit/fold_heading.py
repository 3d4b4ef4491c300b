"""A heading of the working that folds: its name, and, while it is folded, what is in it in one line."""

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy

from half_fold.desk.kit.plain import said_of
from half_fold.desk.theme import tokens

HIGH = 24
APART = 12  # pixels between the name and what is in it


class FoldHeading(QAbstractButton):
    """A click, Space or Enter unfolds it, and folds it again."""

    def __init__(self) -> None:
        super().__init__()
        self.is_open, self.says, self.is_set = False, "", False
        self.setCheckable(False)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._bold, self._small = tokens.font(tokens.BASE, tokens.BOLD), tokens.font(tokens.SMALL)

    def show_heading(self, title: str, says: str, is_open: bool, is_set: bool) -> None:
        """Take new words."""
        self.is_open, self.is_set = is_open, is_set
        self.says = says
        self.setText(title)
        self.setAccessibleName(title if is_open else f"{title}: {says}")
        self.setToolTip("" if is_open else said_of(says))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(100, HIGH)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setPen(tokens.colour(tokens.LINE))
        painter.drawLine(0, 0, self.width(), 0)
        area = self.rect().adjusted(0, 2, 0, 0)
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.setFont(self._bold)
        painter.setPen(tokens.colour(tokens.LODEN if self.underMouse() else tokens.INK))
        painter.drawText(area, Qt.AlignmentFlag.AlignLeft | middle, self.text())
        if not self.is_open:
            room = area.adjusted(QFontMetrics(self._bold).horizontalAdvance(self.text()) + APART, 0, -1, 0)
            painter.setFont(self._small)
            painter.setPen(tokens.colour(tokens.QUIET))
            words = QFontMetrics(self._small).elidedText(self.says, Qt.TextElideMode.ElideRight, room.width())
            painter.drawText(room, Qt.AlignmentFlag.AlignRight | middle, words)
        if self.hasFocus():
            painter.setPen(tokens.colour(tokens.LODEN))
            painter.drawRect(self.rect().adjusted(0, 1, -1, -1))
