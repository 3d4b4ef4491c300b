"""The picture drawer: the job's pictures, to be chosen and put into blocks."""

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from half_fold.core.measure.length import figure
from half_fold.core.pictures.fit import GOOD_PPI
from half_fold.core.publication.records import Picture
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

THUMB_HEIGHT, GAP = 88, 14


class PictureDrawer(QWidget):
    """A row of pictures; under each how wide it prints at 300 ppi, and whether it is used."""

    placed = pyqtSignal(str)
    asked = pyqtSignal()

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session
        self.chosen: str | None = None
        self.offset = 0.0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Picture drawer")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        session.proxies.ready.connect(lambda _: self.update())

    def sizeHint(self) -> QSize:
        return QSize(400, THUMB_HEIGHT + 36)

    def _areas(self) -> list[tuple[Picture, QRectF]]:
        x, out = 12 - self.offset, []
        for picture in self.session.publication.pictures:
            width = min(220.0, max(44.0, THUMB_HEIGHT * picture.width / picture.height))
            out.append((picture, QRectF(x, 8, width, THUMB_HEIGHT)))
            x += width + GAP
        return out

    def used(self) -> set[str]:
        return self.session.used_pictures()

    def chosen_or_first_free(self) -> str | None:
        """The picture chosen here, else the first that is not used, else the first."""
        known = [picture.id for picture in self.session.publication.pictures]
        if self.chosen in known:
            return self.chosen
        used = self.used()
        return next((p for p in known if p not in used), known[0] if known else None)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        used = self.used()
        areas = self._areas()
        if not areas:
            painter.setPen(tokens.colour(tokens.INK))
            painter.drawText(
                self.rect(), Qt.AlignmentFlag.AlignCenter, "No pictures yet. Bring some in with the button above."
            )
        for picture, area in areas:
            self._paint_picture(painter, picture, area, picture.id in used)

    def _paint_picture(self, painter: QPainter, picture: Picture, area: QRectF, used: bool) -> None:
        image = self.session.proxies.image(picture.id, 2 * area.width() * self.devicePixelRatioF())
        painter.fillRect(area, tokens.colour(tokens.CARD))
        if image is not None:
            painter.drawImage(area, image)
        if picture.id == self.chosen:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 3))
            painter.drawRect(area.adjusted(-2, -2, 2, 2))
        painter.setFont(tokens.font(tokens.SMALL))
        painter.setPen(tokens.colour(tokens.INK))
        wide = f"{figure(picture.width / GOOD_PPI * 25.4, 0)} mm"
        under = QRectF(area.left(), area.bottom() + 3, area.width(), 16)
        painter.drawText(under, Qt.AlignmentFlag.AlignLeft, wide)
        if used and area.width() > 80:
            painter.drawText(under, Qt.AlignmentFlag.AlignRight, "used")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        hit = next((p.id for p, area in self._areas() if area.contains(event.position())), None)
        self.choose(hit)

    def mouseDoubleClickEvent(self, _event: QMouseEvent | None) -> None:
        if self.chosen is not None:
            self.placed.emit(self.chosen)

    def choose(self, picture: str | None) -> None:
        self.chosen = picture
        self.session.selected.emit()
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        known = [picture.id for picture in self.session.publication.pictures]
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right) and known:
            step = 1 if event.key() == Qt.Key.Key_Right else -1
            at = known.index(self.chosen) + step if self.chosen in known else 0
            self.choose(known[min(max(at, 0), len(known) - 1)])
            area = {p.id: a for p, a in self._areas()}[self.chosen or ""]
            if area.right() > self.width():
                self.offset += area.right() - self.width() + 20
            elif area.left() < 0:
                self.offset = max(0.0, self.offset + area.left() - 20)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.chosen is not None:
            self.placed.emit(self.chosen)
        else:
            super().keyPressEvent(event)
