"""A value at the right of a row: underlined with dots where it can be set, edited in place."""

from collections.abc import Callable

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy

from half_fold.desk.theme import tokens

MOST_WIDTH, CHIP_ROOM = 176, 28


class ValueButton(QAbstractButton):
    """Shows a value; clicking it, or Enter, asks to edit it (or to unfold its working)."""

    def __init__(self, editable: bool, large: bool = False) -> None:
        super().__init__()
        self.editable = editable
        self.chip: Callable[[float], QPixmap] | None = None
        self._font = tokens.font(tokens.LARGE if large else tokens.BASE, tokens.BOLD if large else tokens.MEDIUM)
        self._colour = tokens.LODEN if large else tokens.INK
        self.setFont(self._font)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if editable else Qt.FocusPolicy.NoFocus)
        if editable:
            self.setCursor(Qt.CursorShape.PointingHandCursor)
            self.setToolTip("Enter edits this")

    def sizeHint(self) -> QSize:
        metrics = QFontMetrics(self._font)
        beside = CHIP_ROOM if self.chip is not None else 0
        return QSize(min(MOST_WIDTH, metrics.horizontalAdvance(self.text()) + 10 + beside), metrics.height() + 5)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setFont(self._font)
        painter.setPen(tokens.colour(self._colour))
        area = self.rect().adjusted(3, 0, -3, 0)
        metrics = QFontMetrics(self._font)
        if self.chip is not None:
            made = self.chip(self.devicePixelRatioF())
            painter.drawPixmap(area.left(), area.center().y() - 5, made)
            area.adjust(CHIP_ROOM, 0, 0, 0)
        text = metrics.elidedText(self.text(), Qt.TextElideMode.ElideRight, area.width() + 2)
        painter.drawText(area, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text)
        if self.editable:
            left = area.right() - metrics.horizontalAdvance(text) + 1
            pen = QPen(tokens.colour(tokens.LODEN), 1.2, Qt.PenStyle.DotLine)
            painter.setPen(pen)
            y = min(self.height() - 2, area.center().y() + metrics.ascent() // 2 + 4)
            painter.drawLine(left, y, area.right() + 1, y)
        if self.hasFocus():
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 1))
            painter.drawRoundedRect(self.rect().adjusted(0, 0, -1, -1), 2, 2)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)
