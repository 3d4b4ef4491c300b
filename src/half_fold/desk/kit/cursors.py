"""Pointers of our own, where the system has none that says what a press would do."""

from functools import cache

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QCursor, QPainter, QPen, QPixmap, QPolygonF

from half_fold.desk.theme import tokens

SIDE = 25
_ARC = QRectF(4.5, 4.5, 16, 16)
_TIP = (QPointF(12.5, 0.5), QPointF(18.5, 4.5), QPointF(12.5, 8.5))


@cache
def turning_cursor() -> QCursor:
    """Three quarters of a circle with a tip: what is chosen is turned from here."""
    pixmap = QPixmap(SIDE, SIDE)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for colour, wide in ((QColor("white"), 4.5), (tokens.colour(tokens.INK), 2.0)):  # light round dark: on any ground
        painter.setPen(QPen(colour, wide))
        painter.drawArc(_ARC, -180 * 16, 270 * 16)
        painter.setBrush(colour)
        painter.drawPolygon(QPolygonF(_TIP))
        painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.end()
    return QCursor(pixmap, SIDE // 2, SIDE // 2)
