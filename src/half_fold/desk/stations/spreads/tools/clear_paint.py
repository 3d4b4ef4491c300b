"""What is kept clear of a picture, its named points, and what the fold takes of it, drawn over the bench."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QPainter, QPen, QPolygonF

from half_fold.core.measure.length import format_length
from half_fold.core.pictures.colour.regions import around, region_middle
from half_fold.core.publication.records import Block, HoldsPicture
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.spread.framing.kept_clear import areas_on_page, fold_band
from half_fold.core.spread.setting.developed import treatment_of
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.stations.aided_bench import label_pill
from half_fold.desk.stations.spreads.tools.tool import on_bench
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

POINT = 5.0  # pixels from the middle of a point's cross to its ends


def paint_clear(bench: Worktop, painter: QPainter, name: str) -> None:
    """Of the picture in that block."""
    publication = bench.session.publication
    index, _, block = page_of_block(publication, name)
    if not isinstance(block.holds, HoldsPicture):
        return
    box, number = block_box(publication, index + 1, block), index + 1
    painter.save()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(tokens.colour(tokens.LODEN), 1.5, Qt.PenStyle.DotLine))
    for area in areas_on_page(publication, number, block):
        rect = bench.to_widget(area)
        painter.drawRect(rect)
        label_pill(painter, QPointF(rect.center().x(), rect.top() + 10), "kept clear")
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(tokens.colour(tokens.LODEN), 1.5, Qt.PenStyle.DotLine))
    picture = picture_of(publication, block.holds.picture)
    _paint_parts(bench, painter, block)
    for point in picture.points:
        at = on_bench(bench, name, (point.across, point.down))
        painter.setPen(QPen(tokens.colour(tokens.LODEN), 2))
        painter.drawLine(at - QPointF(POINT, 0), at + QPointF(POINT, 0))
        painter.drawLine(at - QPointF(0, POINT), at + QPointF(0, POINT))
        label_pill(painter, at + QPointF(0, 16), point.name)
    painter.restore()
    band = fold_band(publication, bench.session.view.spread)
    if band is not None and band.width and box.left < band.left and box.right > band.right:
        _paint_swallowed(bench, painter, QRectF(bench.to_widget(band.clipped(box))), block.holds.parted)


def _paint_parts(bench: Worktop, painter: QPainter, block: Block) -> None:
    """Where the parts lie that are treated by themselves, each with its number."""
    treatment = treatment_of(bench.session.publication, block)
    for number, area in enumerate(treatment.areas if treatment is not None else (), 1):
        painter.setPen(QPen(tokens.colour(tokens.OCHRE), 1.5, Qt.PenStyle.DashLine))
        points = [on_bench(bench, block.id, share) for share in around(area.where)]
        if len(points) == 2:
            painter.drawLine(points[0], points[1])
        elif points:
            painter.drawPolygon(QPolygonF(points))
        label_pill(painter, on_bench(bench, block.id, region_middle(area.where)), f"part {number}")


def _paint_swallowed(bench: Worktop, painter: QPainter, strip: QRectF, is_parted: bool) -> None:
    """The strip that the binding takes, and what becomes of the picture there."""
    painter.save()
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QBrush(tokens.colour(tokens.OCHRE_TEXT, 0.55), Qt.BrushStyle.BDiagPattern))
    painter.drawRect(strip)
    wide = format_length(strip.width() / bench.scale(), bench.session.unit)
    words = f"{wide} in the fold: shown twice" if is_parted else f"{wide} are lost in the fold"
    label_pill(painter, QPointF(strip.center().x(), strip.bottom() - 0.22 * strip.height()), words)
    painter.restore()
