"""Rulers along the head and the left of a bench, in the job's unit, with the pointer and what is chosen on them."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPixmap

from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.measure.ruler import ruler_marks
from half_fold.desk.stations.placed_bench import PlacedBench
from half_fold.desk.theme import tokens

WIDE = 17  # pixels
MARK, NUMBERED = 4, 9  # pixels, how long they are


class Rulers:
    """Drawn over a bench while they are ``shown``; each page is measured from its own left trim, and from its head."""

    def __init__(self, bench: PlacedBench) -> None:
        self.bench, self.shown = bench, True
        self._kept: tuple[tuple[object, ...], QPixmap] | None = None

    def axis_at(self, at: QPointF) -> Axis | None:
        """Which way a line runs that is pulled from there: ``down`` counts from the head. None beside the rulers."""
        if not self.shown:
            return None
        if at.y() < WIDE <= at.x():
            return "down"
        return "across" if at.x() < WIDE <= at.y() else None

    def paint(self, painter: QPainter, pointer: QPointF | None, chosen: Rect | None) -> None:
        """The rulers as they stand, the reach of what is chosen, and where the pointer is."""
        if not self.shown:
            return
        painter.drawPixmap(0, 0, self._drawn())
        if chosen is not None:
            area = self.bench.to_widget(chosen)
            painter.fillRect(QRectF(max(area.left(), WIDE), 0, area.width(), WIDE), tokens.colour(tokens.LODEN, 0.25))
            painter.fillRect(QRectF(0, max(area.top(), WIDE), WIDE, area.height()), tokens.colour(tokens.LODEN, 0.25))
        if pointer is not None:
            painter.setPen(QPen(tokens.colour(tokens.MADDER), 1))
            painter.drawLine(QPointF(pointer.x(), 0), QPointF(pointer.x(), WIDE))
            painter.drawLine(QPointF(0, pointer.y()), QPointF(WIDE, pointer.y()))

    def _drawn(self) -> QPixmap:
        """Marks and numbers; kept as long as the spread lies where it does."""
        bench, ratio = self.bench, self.bench.devicePixelRatioF()
        origin, panels = bench.origin(), tuple(bench.panels_across())
        key = bench.scale(), origin.x(), origin.y(), bench.width(), bench.height(), ratio, bench.session.unit, panels
        if self._kept is None or self._kept[0] != key:
            pixmap = QPixmap(round(bench.width() * ratio), round(bench.height() * ratio))
            pixmap.setDevicePixelRatio(ratio)
            pixmap.fill(Qt.GlobalColor.transparent)
            painter = QPainter(pixmap)
            painter.setFont(tokens.font(tokens.SMALL))
            ground = tokens.colour(tokens.BOARD)
            painter.fillRect(QRectF(0, 0, bench.width(), WIDE), ground)
            painter.fillRect(QRectF(0, 0, WIDE, bench.height()), ground)
            painter.setPen(tokens.colour(tokens.QUIET))
            for area in panels:
                self._paint_across(painter, area)
            if panels:
                self._paint_down(painter, panels[0])
            painter.fillRect(QRectF(0, 0, WIDE, WIDE), ground)
            painter.end()
            self._kept = key, pixmap
        return self._kept[1]

    def _paint_across(self, painter: QPainter, area: Rect) -> None:
        for mark in ruler_marks(area.width, self.bench.session.unit, self.bench.scale()):
            x = self.bench.from_points((area.left + mark.at, 0.0)).x()
            painter.drawLine(QPointF(x, WIDE - (NUMBERED if mark.says else MARK)), QPointF(x, WIDE - 1))
            if mark.says:
                painter.drawText(QPointF(x + 2, WIDE - 6), mark.says)

    def _paint_down(self, painter: QPainter, area: Rect) -> None:
        for mark in ruler_marks(area.height, self.bench.session.unit, self.bench.scale()):
            y = self.bench.from_points((0.0, area.top + mark.at)).y()
            painter.drawLine(QPointF(WIDE - (NUMBERED if mark.says else MARK), y), QPointF(WIDE - 1, y))
            if mark.says:
                painter.save()
                painter.translate(WIDE - 6, y - 2)
                painter.rotate(-90)
                painter.drawText(QPointF(0, 0), mark.says)
                painter.restore()


def paint_pulled(painter: QPainter, room: QSize, axis: Axis, at: QPointF) -> None:
    """The line that is being pulled from a ruler."""
    for colour, wide in ((QColor(255, 255, 255, 160), 3.0), (tokens.colour(tokens.PENCIL), 1.0)):
        painter.setPen(QPen(colour, wide))
        if axis == "down":
            painter.drawLine(QPointF(0, at.y()), QPointF(room.width(), at.y()))
        else:
            painter.drawLine(QPointF(at.x(), 0), QPointF(at.x(), room.height()))
