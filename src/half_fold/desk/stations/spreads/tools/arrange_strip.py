"""The strip under the bench in which arrangements are seen side by side, small, with the real pictures."""

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QMouseEvent, QPainter, QPaintEvent, QPen, QWheelEvent
from PyQt6.QtWidgets import QWidget

from half_fold.core.arrange.arrangement import Arrangement
from half_fold.core.arrange.reasons import arrangement_name
from half_fold.core.measure.length import figure
from half_fold.core.measure.rect import Rect
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

HIGH, GAP, MARGIN, LINE = 84, 14, 12, 15


class ArrangeStrip(QWidget):
    """``went`` tells of the one that was clicked, ``took`` of a double click."""

    went = pyqtSignal(int)
    took = pyqtSignal()

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session
        self.found: Sequence[Arrangement] = ()
        self.at = 0
        self.offset = 0.0
        self.setFixedHeight(HIGH + 2 * LINE + 18)
        self.setAccessibleName("Arrangements")
        session.proxies.ready.connect(self._picture_is_ready)

    def _picture_is_ready(self, _picture: str) -> None:
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(400, self.height())

    def show_arrangements(self, found: Sequence[Arrangement]) -> None:
        """These, from the first on."""
        self.found, self.at, self.offset = found, 0, 0.0
        self.update()

    def point_at(self, at: int) -> None:
        """Show which is on the bench, and bring it into view."""
        self.at = at
        if self.found:
            place = self.place(at)
            self.offset += min(0.0, place.left() - MARGIN) + max(0.0, place.right() + MARGIN - self.width())
            self.setAccessibleDescription(f"{at + 1} of {len(self.found)}: {arrangement_name(self.found[at])}")
        self.update()

    def place(self, at: int) -> QRectF:
        """Where one of them is drawn."""
        area = self.found[at].room.area
        wide = HIGH * area.width / area.height
        return QRectF(MARGIN + at * (wide + GAP) - self.offset, 8, wide, HIGH)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        hit = self._at(event.position())
        if hit is not None:
            self.went.emit(hit)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._at(event.position()) is not None:
            self.took.emit()

    def _at(self, place: QPointF) -> int | None:
        return next((n for n in range(len(self.found)) if self.place(n).contains(place)), None)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        turn = event.angleDelta().y() or event.angleDelta().x()
        if self.found:
            most = max(0.0, self.place(len(self.found) - 1).right() + self.offset + MARGIN - self.width())
            self.offset = min(max(self.offset - turn / 2, 0.0), most)
        self.update()
        event.accept()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), tokens.colour(tokens.SHELF))
        painter.setPen(tokens.colour("#B0ADA6"))
        painter.drawLine(0, 0, self.width(), 0)
        for at, arrangement in enumerate(self.found):
            place = self.place(at)
            if place.right() > 0 and place.left() < self.width():
                painter.save()
                self._paint_one(painter, arrangement, place)
                painter.restore()
                self._paint_words(painter, at, arrangement, place)

    def _paint_one(self, painter: QPainter, arrangement: Arrangement, place: QRectF) -> None:
        room = arrangement.room
        scale = place.height() / room.area.height

        def on_strip(box: Rect) -> QRectF:
            left, top = (
                place.left() + (box.left - room.area.left) * scale,
                place.top() + (box.top - room.area.top) * scale,
            )
            return QRectF(left, top, box.width * scale, box.height * scale)

        painter.setClipRect(place)
        painter.fillRect(place, Qt.GlobalColor.white)
        for box in arrangement.there:
            painter.fillRect(on_strip(box), tokens.colour(tokens.QUIET, 0.25))
        order = sorted(range(len(arrangement.items)), key=lambda n: n != arrangement.ground)
        for n in order:
            box, where = arrangement.lies(n)
            area = on_strip(box)
            if arrangement.items[n].text is not None:
                painter.fillRect(area, QBrush(tokens.colour(tokens.QUIET), Qt.BrushStyle.HorPattern))
                continue
            image = self.session.proxies.image(arrangement.items[n].picture.id, 160)
            if image is None:
                painter.fillRect(area, tokens.colour(tokens.BOARD))
                continue
            across, down = image.width() / where.width, image.height() / where.height
            part = QRectF(
                (box.left - where.left) * across, (box.top - where.top) * down, box.width * across, box.height * down
            )
            painter.drawImage(area, image, part)
        if room.fold is not None:
            x = place.left() + (room.fold - room.area.left) * scale
            painter.setPen(QPen(tokens.colour(tokens.INK, 0.25), 1))
            painter.drawLine(QPointF(x, place.top()), QPointF(x, place.bottom()))

    def _paint_words(self, painter: QPainter, at: int, arrangement: Arrangement, place: QRectF) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(tokens.colour(tokens.LODEN if at == self.at else "#8F8D88"), 3 if at == self.at else 1))
        painter.drawRect(place.adjusted(-1.5, -1.5, 1.5, 1.5) if at == self.at else place)
        painter.setFont(tokens.font(tokens.SMALL, tokens.BOLD if at == self.at else tokens.font().weight()))
        words = painter.fontMetrics().elidedText(
            arrangement_name(arrangement), Qt.TextElideMode.ElideRight, int(place.width())
        )
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(
            QRectF(place.left(), place.bottom() + 5, place.width(), LINE), Qt.AlignmentFlag.AlignLeft, words
        )
        painter.setFont(tokens.font(tokens.SMALL))
        painter.setPen(tokens.colour(tokens.QUIET))
        under = QRectF(place.left(), place.bottom() + 5 + LINE, place.width(), LINE)
        painter.drawText(under, Qt.AlignmentFlag.AlignLeft, f"{at + 1}, loses {figure(arrangement.cost, 2)}")
