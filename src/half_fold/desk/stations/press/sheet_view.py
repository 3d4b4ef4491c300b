"""The sheet as it will be made, with its bleed and the printer’s marks."""

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QWidget,
)

from half_fold.core.brief.allowances import overprint
from half_fold.core.drawing.marks import DisplayList, Line, Mark
from half_fold.core.measure.length import figure, format_size
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.press.parts import sheet_at
from half_fold.core.press.sheets import NOWHERE, Sheet, cut_to_trim
from half_fold.desk.paint.painter import paint, qrect
from half_fold.desk.stations.press.choosing import ChoosingStation
from half_fold.desk.theme import tokens

MOST_ACROSS, GAP = 2, 18


class SheetView(QWidget):
    """The sheet drawn as it will be printed, with its boxes and marks."""

    def __init__(self, station: ChoosingStation) -> None:
        super().__init__()
        self.station = station
        station.session.proxies.ready.connect(self._picture_is_ready)

    def _picture_is_ready(self, _picture: str) -> None:
        """A slot of its own object: what a closed window's pictures tell no longer reaches it."""
        self.update()

    def sheets(self) -> list[Sheet]:
        """The sheet in view, or all of a part that has no pages."""
        station, session = self.station, self.station.session
        part = station.part()
        makers = part.makers(session.setter, station.form)
        if part.has_pages:
            makers = [makers[sheet_at(session.publication, part, station.form, session.view.page)]]
        made = [make() for make in makers]
        return [cut_to_trim(sheet) for sheet in made] if station.to_read else made

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        try:
            sheets = self.sheets()
        except Problem as problem:
            painter.setPen(tokens.colour(tokens.INK))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, str(problem))
            return
        medias = [self._media(sheet) for sheet in sheets]
        across = min(len(sheets), MOST_ACROSS)
        rows = -(-len(sheets) // across)
        wide, tall = max(media.width for media in medias), max(media.height for media in medias)
        room = self.width() - 60 - GAP * (across - 1), self.height() - 74 - GAP * (rows - 1)
        scale = min(room[0] / (across * wide), room[1] / (rows * tall))
        left = (self.width() - scale * wide * across - GAP * (across - 1)) / 2
        top = (self.height() - 20 - scale * tall * rows - GAP * (rows - 1)) / 2
        for at, (sheet, media) in enumerate(zip(sheets, medias, strict=True)):
            row, column = divmod(at, across)
            painter.save()
            painter.translate(left + column * (scale * wide + GAP), top + row * (scale * tall + GAP))
            painter.scale(scale, scale)
            painter.translate(-media.left, -media.top)
            self._draw(painter, sheet, media)
            painter.restore()
        self._caption(painter, sheets[0].trim, medias[0], scale)

    def _media(self, sheet: Sheet) -> Rect:
        return sheet.area(self.station.marks)

    def _draw(self, painter: QPainter, sheet: Sheet, media: Rect) -> None:
        painter.fillRect(qrect(media), QColor("white"))
        marks = DisplayList(sheet.bleed, sheet.marks, overprint(self.station.session.publication)[0])
        paint(painter, marks, self.station.session.proxies.image, clip_of=sheet.clip_of)
        painter.setPen(QPen(tokens.colour(tokens.INK), 0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(qrect(sheet.trim))
        painter.setPen(QPen(tokens.colour(tokens.OCHRE), 0, Qt.PenStyle.DashLine))
        painter.drawRect(qrect(sheet.bleed))
        if self.station.marks:
            self._draw_printers(painter, sheet.printers)

    def _draw_printers(self, painter: QPainter, marks: Sequence[Mark]) -> None:
        """The printer's marks, their lines as thin as the window shows lines, however small the sheet is drawn."""
        painter.setPen(QPen(tokens.colour(tokens.INK), 0))
        for mark in marks:
            if isinstance(mark, Line):
                painter.drawLine(QPointF(*mark.start), QPointF(*mark.end))
        others = tuple(mark for mark in marks if not isinstance(mark, Line))
        paint(painter, DisplayList(NOWHERE, others), self.station.session.proxies.image)

    def _caption(self, painter: QPainter, trim: Rect, media: Rect, scale: float) -> None:
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.INK))
        unit = self.station.session.publication.brief.unit
        words = (
            f"Trim {format_size(trim.width, trim.height, unit)}, "
            f"sheet {format_size(media.width, media.height, unit)}, "
            f"drawn at {figure(100 * scale * 72 / self.logicalDpiX(), 0)} %"
        )
        area = QRectF(0, self.height() - 34, self.width(), 20)
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, words)
