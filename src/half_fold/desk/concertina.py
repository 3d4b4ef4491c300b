"""The concertina: the whole publication as one folded strip of spreads with true thumbnails."""

from PyQt6.QtCore import QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF, QTransform, QWheelEvent
from PyQt6.QtWidgets import QWidget

from half_fold.core.drawing.marks import DisplayList, Picture
from half_fold.core.plan.spreads import Spread, spread_index, spreads
from half_fold.core.spread.frames import spread_area
from half_fold.desk.paint.painter import paint
from half_fold.desk.session import Session
from half_fold.desk.theme import tokens

QUIET_MS = 250
LEAF_HEIGHT, TOP, FOLD_DROP, GAP = 52, 14, 5, 12


class Thumbnails:
    """Small pictures of spreads, made one at a time when the window has nothing else to do."""

    def __init__(self, session: Session, height: int) -> None:
        self.session, self.height = session, height
        self._held: dict[int, tuple[DisplayList, int, QPixmap]] = {}
        self.pictures_seen = 0

    def get(self, index: int) -> QPixmap | None:
        """What was made for the spread at ``index``, though it may be of an earlier state."""
        held = self._held.get(index)
        return held[2] if held else None

    def make_next(self, ratio: float) -> bool:
        """Make one thumbnail that is lacking or out of date; False where none is."""
        publication = self.session.publication
        every = spreads(len(publication.pages))
        for index, spread in enumerate(every):
            marks = self.session.setter.spread(publication, spread)
            held = self._held.get(index)
            if held is None or held[0] is not marks or (held[1] != self.pictures_seen and _has_pictures(marks)):
                self._held[index] = (marks, self.pictures_seen, self._draw(spread, marks, ratio))
                return True
        return False

    def _draw(self, spread: Spread, marks: DisplayList, ratio: float) -> QPixmap:
        area = spread_area(self.session.publication, spread)
        scale = self.height / area.height
        pixmap = QPixmap(max(1, round(area.width * scale * ratio)), round(self.height * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(QColor("white"))
        painter = QPainter(pixmap)
        painter.scale(scale, scale)
        painter.translate(-area.left, -area.top)
        paint(painter, marks, self.session.proxies.image)
        painter.end()
        return pixmap


def _has_pictures(marks: DisplayList) -> bool:
    return any(isinstance(mark, Picture) for mark in marks.marks)


class Concertina(QWidget):
    """Click a spread to go there; the wheel moves along the strip."""

    went = pyqtSignal(int)

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.setFixedHeight(tokens.CONCERTINA_HEIGHT)
        self.session, self.thumbnails = session, thumbnails
        self.offset = 0.0
        self._shown: tuple[int, int, float] | None = None
        self._idle = QTimer(self)
        self._idle.timeout.connect(self._make_one)
        self.setToolTip("Click a spread to go there; PgUp and PgDn go by spread")

    def refresh(self) -> None:
        self._bring_into_view()
        self._idle.start(QUIET_MS)
        shown = (spread_index(self.session.page), len(self.session.publication.pages), self.offset)
        if shown != self._shown:
            self._shown = shown
            self.update()

    def _make_one(self) -> None:
        if self.thumbnails.make_next(self.devicePixelRatioF()):
            self._idle.setInterval(0)
            self.update()
        else:
            self._idle.stop()

    def _leaf_width(self) -> float:
        brief = self.session.publication.brief
        return min(60.0, LEAF_HEIGHT * brief.width.pt / brief.height.pt)

    def _pitch(self) -> float:
        return 2 * self._leaf_width() + GAP

    def _left_of(self, index: int) -> float:
        return 16 + index * self._pitch() - self.offset - self._leaf_width()

    def _most(self) -> float:
        count = len(spreads(len(self.session.publication.pages)))
        return max(0.0, 32 + (count - 0.5) * self._pitch() - self.width())

    def _bring_into_view(self) -> None:
        left = self._left_of(spread_index(self.session.page))
        if left < 20:
            self.offset += left - 60
        elif left + self._pitch() > self.width() - 20:
            self.offset += left + self._pitch() - self.width() + 60
        self.offset = min(max(self.offset, 0.0), self._most())

    def spread_at(self, x: float) -> int | None:
        """The index of the spread under a place."""
        for index in range(len(spreads(len(self.session.publication.pages)))):
            left = self._left_of(index)
            if left <= x <= left + 2 * self._leaf_width():
                return index
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        index = self.spread_at(event.position().x())
        if index is not None:
            self.went.emit(max(1, 2 * index))

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        step = event.angleDelta().y() or event.angleDelta().x()
        self.offset = min(max(self.offset - step / 2, 0.0), self._most())
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), tokens.colour(tokens.SHELF))
        for index, spread in enumerate(spreads(len(self.session.publication.pages))):
            left = self._left_of(index)
            if -self._pitch() < left < self.width():
                self._paint_spread(painter, index, spread, left)
        painter.setPen(tokens.colour("#B0ADA6"))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)

    def _paint_spread(self, painter: QPainter, index: int, spread: Spread, left: float) -> None:
        width = self._leaf_width()
        current = index == spread_index(self.session.page)
        pixmap = self.thumbnails.get(index)
        fold = left + width
        for number, is_right in ((spread.left, False), (spread.right, True)):
            if number is None:
                continue
            x = fold if is_right else left
            self._paint_leaf(painter, pixmap, x, width, is_right, spread)
            painter.setFont(tokens.font(tokens.SMALL, tokens.BOLD if current else tokens.font().weight()))
            painter.setPen(tokens.colour(tokens.INK if current else tokens.QUIET))
            area = QRectF(x, TOP + LEAF_HEIGHT + 3, width, 16)
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, str(number))
        if current:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            from_x = left if spread.left else fold
            to_x = fold + width if spread.right else fold
            painter.drawRect(QRectF(from_x - 3, TOP - 4, to_x - from_x + 6, LEAF_HEIGHT + 8))

    def _paint_leaf(
        self, painter: QPainter, pixmap: QPixmap | None, x: float, width: float, is_right: bool, spread: Spread
    ) -> None:
        """A leaf sheared so that the strip stands folded: the fold deeper than the fore edge."""
        shear = FOLD_DROP / width
        painter.save()
        painter.setTransform(
            QTransform(1, -shear if is_right else shear, 0, 1, x, TOP + (FOLD_DROP if is_right else 0)), True
        )
        area = QRectF(0, 0, width, LEAF_HEIGHT - FOLD_DROP)
        painter.fillRect(area, QColor("white"))
        if pixmap is not None:
            both = spread.left is not None and spread.right is not None
            half = pixmap.width() / 2 if both else pixmap.width()
            source = QRectF(half if both and is_right else 0, 0, half, pixmap.height())
            painter.drawPixmap(area, pixmap, source)
        if not is_right:
            painter.fillRect(area, QColor(0, 0, 0, 14))
        painter.setPen(QPen(QColor("#8F8D88"), 0.7))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF(area))
        painter.restore()
