"""The aids of a bench, drawn our way: bleed, fields, edges, folds, guides, baselines and the shade of the fold."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QFontMetricsF,
    QLinearGradient,
    QPainter,
    QPainterPath,
    QPen,
)

from half_fold.core.brief.allowances import fold_loss
from half_fold.core.grid.frame import PageFrame
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.desk.stations.placed_bench import PlacedBench
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

PILL_HIGH = 18.0  # pixels


class AidedBench(PlacedBench):
    """A bench with its aids; those that are shown are asked for by ``show_fields`` and ``show_baselines``."""

    shade_mm = 12.0

    def __init__(self, session: Workpiece) -> None:
        super().__init__(session)
        self.show_fields, self.show_baselines = True, False

    def _paint_bleed(self, painter: QPainter) -> None:
        band, bleed = QPainterPath(), self.session.publication.brief.bleed.pt
        for sheet in self.sheets():
            band.addRect(self.to_widget(sheet.grown(bleed)))
            band.addRect(self.to_widget(sheet))
        painter.save()
        painter.setClipPath(band)
        brush = QBrush(tokens.colour(tokens.OCHRE, 0.55), Qt.BrushStyle.BDiagPattern)
        painter.fillRect(band.boundingRect(), tokens.colour("#D9D5CC"))
        painter.fillRect(band.boundingRect(), brush)
        painter.restore()

    def _paint_fields(self, painter: QPainter) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        for _, frame in self.frames():
            for top, bottom in frame.rows:
                for left, right in frame.columns:
                    painter.fillRect(self.to_widget(Rect(left, top, right, bottom)), tokens.colour(tokens.LODEN, 0.09))
                for left, right in frame.over:
                    painter.fillRect(self.to_widget(Rect(left, top, right, bottom)), tokens.colour(tokens.OCHRE, 0.1))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)

    def _paint_edges(self, painter: QPainter) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)  # straight lines, a tenth of the work
        safe = self.session.publication.brief.safe.pt
        paper = self.paper()
        for panel in self.panels():
            _dotted(painter, self.to_widget(panel.grown(-safe)))
        painter.setPen(QPen(tokens.colour(tokens.INK), 1))
        for sheet in self.sheets():
            painter.drawRect(self.to_widget(sheet))
        loss = fold_loss(self.session.publication).value * MM
        for _, frame in self.frames():
            lost = Rect(0, paper.top, loss, paper.bottom) if frame.on_right else Rect(-loss, paper.top, 0, paper.bottom)
            if loss:
                painter.fillRect(self.to_widget(lost), QColor(35, 38, 43, 18))
        self._paint_folds(painter)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)

    def _paint_folds(self, painter: QPainter) -> None:
        painter.setPen(QPen(tokens.colour(tokens.INK), 1, Qt.PenStyle.DashDotLine))
        area, (scale, origin) = self.to_widget(self.paper()), self._fitted()
        for fold in self.folds():
            x = origin.x() + fold * scale
            painter.drawLine(QPointF(x, area.top() - 10), QPointF(x, area.bottom() + 10))

    def _paint_ticks(self, painter: QPainter, frame: PageFrame) -> None:
        painter.setPen(QPen(tokens.colour(tokens.LODEN, 0.75), 0.8))
        outer = frame.area.right + 5 if frame.on_right else frame.area.left - 5
        reach = 4 if frame.on_right else -4
        for line in range(frame.lines):
            y = frame.baseline(line)
            box = self.to_widget(Rect(outer, y, outer + reach, y))
            painter.drawLine(box.topLeft(), box.topRight())

    def _paint_guides(self, painter: QPainter, frame: PageFrame) -> None:
        xs, ys = frame.guide_lines()
        painter.setPen(QPen(tokens.colour(tokens.OCHRE, 0.8), 0.9, Qt.PenStyle.DashLine))
        trim = self.to_widget(frame.trim)
        for x in xs:
            across = self.to_widget(Rect(x, 0, x, 0)).left()
            painter.drawLine(QPointF(across, trim.top()), QPointF(across, trim.bottom()))
        for y in ys:
            down = self.to_widget(Rect(0, y, 0, y)).top()
            painter.drawLine(QPointF(trim.left(), down), QPointF(trim.right(), down))
        painter.setPen(QPen(tokens.colour(tokens.PENCIL), 1))
        for line in frame.pencil:
            for at in line.at:
                spot = self.to_widget(Rect(at, at, at, at)).topLeft()
                if line.axis == "across":
                    painter.drawLine(QPointF(spot.x(), trim.top()), QPointF(spot.x(), trim.bottom()))
                else:
                    painter.drawLine(QPointF(trim.left(), spot.y()), QPointF(trim.right(), spot.y()))

    def _paint_baselines(self, painter: QPainter) -> None:
        painter.setPen(QPen(tokens.colour(tokens.LODEN, 0.35), 0.7))
        for _, frame in self.frames():
            for line in range(frame.lines):
                y = frame.baseline(line)
                box = self.to_widget(Rect(frame.area.left, y, frame.area.right, y))
                painter.drawLine(box.topLeft(), box.topRight())

    def _paint_fold_shade(self, painter: QPainter) -> None:
        if len(self.session.view.spread.numbers) < 2:
            return
        area = self.to_widget(self.paper())
        reach = self.shade_mm * MM * self.scale()
        for at_fold in self.folds():
            fold = self.origin().x() + at_fold * self.scale()
            shade = QLinearGradient(fold - reach, 0, fold + reach, 0)
            for at, strength in ((0.0, 0), (0.38, 16), (0.495, 80), (0.505, 60), (0.62, 10), (1.0, 0)):
                shade.setColorAt(at, QColor(0, 0, 0, strength))
            painter.fillRect(QRectF(fold - reach, area.top(), 2 * reach, area.height()), shade)


def _dotted(painter: QPainter, box: QRectF) -> None:
    """The outline of a box in dots: as fills with a pattern, since Qt takes a tenth of its time for those."""
    brush = QBrush(tokens.colour(tokens.QUIET, 0.8), Qt.BrushStyle.Dense5Pattern)
    area = box.toRect()
    for x, y, wide, high in (
        (area.left(), area.top(), area.width(), 1),
        (area.left(), area.bottom(), area.width(), 1),
        (area.left(), area.top(), 1, area.height()),
        (area.right(), area.top(), 1, area.height()),
    ):
        painter.fillRect(x, y, wide, high, brush)


def pill_width(words: str) -> float:
    """How wide a label of those words is, in pixels."""
    return QFontMetricsF(tokens.font(tokens.SMALL, tokens.MEDIUM)).horizontalAdvance(words) + 14


def label_pill(painter: QPainter, centre: QPointF, words: str) -> None:
    """A small filled label, for what an edge sits on."""
    painter.setFont(tokens.font(tokens.SMALL, tokens.MEDIUM))
    width = pill_width(words)
    area = QRectF(centre.x() - width / 2, centre.y() - PILL_HIGH / 2, width, PILL_HIGH)
    painter.fillRect(area, tokens.colour(tokens.LODEN))
    painter.setPen(QColor("white"))
    painter.drawText(area, Qt.AlignmentFlag.AlignCenter, words)
