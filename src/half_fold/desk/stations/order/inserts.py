"""The inserts: recto and verso side by side, what is cut and perforated on one shown through on the other."""

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen

from half_fold.core.brief.bulk import leaf_width
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.plan.inserts import faces, place_parts
from half_fold.core.publication.records import Insert
from half_fold.core.spread.setting.cards import card_area
from half_fold.desk.paint.painter import paint
from half_fold.desk.session import Session
from half_fold.desk.stations.order.view import OrderView
from half_fold.desk.theme import tokens

NONE = "No inserts yet. The working beside this adds a reply card, a tip-in or a gatefold."


class InsertsView(OrderView):
    """One insert at a time; left and right go to others, Delete takes one out."""

    dropped = pyqtSignal(str)

    def __init__(self, session: Session) -> None:
        super().__init__(session, "Inserts")
        self.index = 0

    def insert(self) -> Insert | None:
        """The insert that is shown, if there is any."""
        every = self.session.publication.inserts
        self.index = min(self.index, max(0, len(every) - 1))
        return every[self.index] if every else None

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, insert = event.key(), self.insert()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and insert is not None:
            count = len(self.session.publication.inserts)
            self.index = (self.index + (1 if key == Qt.Key.Key_Right else -1)) % count
            self.moved.emit()
            self.update()
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and insert is not None:
            self.dropped.emit(insert.id)
        else:
            super().keyPressEvent(event)

    # Painting -----------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = self.begin()
        insert = self.insert()
        if insert is None:
            self.say(painter, NONE)
            return
        area = QRectF(self.rect()).adjusted(40, 50, -40, -40)
        tall = insert.height.mm * insert.up
        publication, wide = self.session.publication, leaf_width(self.session.publication, insert)
        scale = min((area.width() - 40) / (2 * wide), area.height() / tall)
        width, both = wide * scale, faces(publication, insert)
        top = area.center().y() - tall * scale / 2
        lefts = (area.center().x() - width - 20, area.center().x() + 20)
        for left, face, other in zip(lefts, both, reversed(both), strict=True):
            sheet = QRectF(left, top, width, tall * scale)
            painter.fillRect(sheet.translated(3, 3), QColor(0, 0, 0, 26))
            painter.fillRect(sheet, QColor("white"))
            painter.setPen(QPen(tokens.colour(tokens.INK), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(sheet)
            painter.setFont(tokens.font(12, tokens.MEDIUM))
            painter.drawText(QPointF(left, top - 24), f"{insert.name}, {face.name}")
            if insert.kind == "card":
                through = [wide - x for x in (other.cut, *other.perforations)]
                self._paint_lines(painter, sheet, scale, through, tokens.OCHRE, 5)
                self._paint_lines(painter, sheet, scale, [face.cut], tokens.INK, 1.4)
                self._paint_lines(painter, sheet, scale, list(face.perforations), tokens.INK, 1.4, True)
            self._paint_face(painter, sheet, scale / MM, insert, face.name == "verso")
            if face.fold is not None:
                self._paint_lines(painter, sheet, scale, [face.fold], tokens.INK, 1.4, True)
            painter.setFont(tokens.font(tokens.SMALL))
            painter.setPen(tokens.colour(tokens.INK))
            for x in face.lines:
                at = QRectF(left + x * scale - 40, top - 18, 80, 14)
                painter.drawText(at, Qt.AlignmentFlag.AlignCenter, f"{figure(x)}")
        painter.setFont(tokens.font(tokens.SMALL))
        painter.setPen(tokens.colour(tokens.INK))
        words = {
            "card": "Cuts and perforations are given on the recto; the other face’s show through in ochre.",
            "gatefold": "It folds at the dotted line: the page that is bound, and what folds in.",
        }
        foot = QRectF(area.left(), top + tall * scale + 10, area.width(), 16)
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, words.get(insert.kind, ""))

    def _paint_lines(
        self,
        painter: QPainter,
        sheet: QRectF,
        scale: float,
        xs: list[float],
        tone: str,
        weight: float,
        dash: bool = False,
    ) -> None:
        style = Qt.PenStyle.DotLine if dash else Qt.PenStyle.SolidLine
        painter.setPen(QPen(tokens.colour(tone, 0.45 if weight > 2 else 1.0), weight, style))
        for x in xs:
            painter.drawLine(
                QPointF(sheet.left() + x * scale, sheet.top()), QPointF(sheet.left() + x * scale, sheet.bottom())
            )

    def _paint_face(self, painter: QPainter, sheet: QRectF, scale: float, insert: Insert, verso: bool) -> None:
        """What prints on a face, where its cards part, and what is kept clear; ``scale`` in pixels to the point."""
        publication = self.session.publication
        tall = insert.height.pt
        painter.save()
        painter.translate(sheet.topLeft())
        painter.scale(scale, scale)
        marks = self.session.covers.face(publication, insert, verso)
        paint(painter, DisplayList(card_area(publication, insert), marks), self.session.proxies.image)
        painter.setPen(QPen(tokens.colour(tokens.QUIET), 1 / scale, Qt.PenStyle.DashLine))
        for number in range(1, insert.up):
            painter.drawLine(QPointF(0, number * tall), QPointF(insert.width.pt, number * tall))
        painter.restore()
        clear = [placed.rect for placed in place_parts(insert, verso) if placed.part.kind == "reply-paid"]
        painter.setFont(tokens.font(tokens.SMALL))
        for rect in (each.moved(0, number * tall) for number in range(insert.up) for each in clear):
            box = QRectF(rect.left * scale, rect.top * scale, rect.width * scale, rect.height * scale)
            box.translate(sheet.topLeft())
            painter.setPen(QPen(tokens.colour(tokens.OCHRE), 1, Qt.PenStyle.DashLine))
            painter.drawRect(box)
            painter.setPen(tokens.colour(tokens.OCHRE_TEXT))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(box, flags, "kept clear: artwork from your postal operator")
