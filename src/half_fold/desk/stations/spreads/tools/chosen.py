"""How what is chosen is drawn on the bench: its outline, crop ticks at its corners, and what its edges sit on."""

import math

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF, QTransform

from half_fold.core.drawing.affine import Affine
from half_fold.core.grid.stops import EDGES, Edge, describe
from half_fold.core.publication.places import Held
from half_fold.core.publication.records import Block, Thing
from half_fold.core.publication.surgery import is_free, page_of_thing
from half_fold.core.spread.where.frames import frames_of, thing_box, turn_of
from half_fold.desk.stations.aided_bench import PILL_HIGH, label_pill, pill_width
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

TICK, AWAY = 9.0, 3.0  # pixels: how long the ticks are, and how far off the corner they begin
OFF = 4.0  # pixels between an edge and what is said of it


def paint_chosen(bench: Worktop, painter: QPainter) -> None:
    """Draw round each thing that is chosen; the last is the one that others are measured by."""
    session = bench.session
    names = session.view.chosen
    for name in names:
        index, _, thing = page_of_thing(session.publication, name)
        if index + 1 in session.view.spread.numbers:
            _paint(bench, painter, index + 1, thing, is_last=name == names[-1], alone=len(names) == 1)


def _paint(bench: Worktop, painter: QPainter, number: int, thing: Thing, *, is_last: bool, alone: bool) -> None:
    publication = bench.session.publication
    area = bench.to_widget(thing_box(publication, number, thing))
    turn = _on_bench(bench, turn_of(publication, number, thing))
    lying = turn.map(QPolygonF(area))
    style = Qt.PenStyle.SolidLine if isinstance(thing, Block) else Qt.PenStyle.DashLine
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(255, 255, 255, 160), 4))
    painter.drawPolygon(lying)
    painter.setPen(QPen(tokens.colour(tokens.LODEN), 2 if is_last else 1.25, style))
    painter.drawPolygon(lying)
    if alone and isinstance(thing, Block):
        if is_free(publication, thing.id):
            _paint_ticks(painter, turn, area)
        _paint_stops(bench, painter, number, thing, area, turn)


def _on_bench(bench: Worktop, turn: Affine | None) -> QTransform:
    """A turn of spread space as one of pixels on the bench."""
    if turn is None:
        return QTransform()
    scale, origin = bench.scale(), bench.origin()
    to = QTransform.fromTranslate(origin.x(), origin.y()).scale(scale, scale)
    back, _ = to.inverted()
    return back * QTransform(*turn) * to


def _paint_ticks(painter: QPainter, turn: QTransform, area: QRectF) -> None:
    """Crop ticks off the corners: where a hand takes hold of two edges at once."""
    painter.setPen(QPen(tokens.colour(tokens.LODEN), 1.5))
    for x, out in ((area.left(), -1), (area.right(), 1)):
        for y, down in ((area.top(), -1), (area.bottom(), 1)):
            for begin, end in (
                (QPointF(x + out * AWAY, y), QPointF(x + out * (AWAY + TICK), y)),
                (QPointF(x, y + down * AWAY), QPointF(x, y + down * (AWAY + TICK))),
            ):
                painter.drawLine(turn.map(begin), turn.map(end))


def _paint_stops(bench: Worktop, painter: QPainter, number: int, block: Block, area: QRectF, turn: QTransform) -> None:
    """Beside each edge of a held block what it sits on: outside, so that it hides nothing of the block."""
    if not isinstance(block.place, Held):
        return
    frames, room = frames_of(bench.session.publication, number), QRectF(bench.as_widget().rect())
    for edge in EDGES:
        words = describe(getattr(block.place, edge), edge, frames)
        at = beside_edge(area, edge, pill_width(words), turn)
        label_pill(painter, _within(at, words, room), words)


def beside_edge(area: QRectF, edge: Edge, wide: float, turn: QTransform) -> QPointF:
    """The middle of a label so wide that stands outside an edge of an area, as that lies when turned; in pixels."""
    centre = area.center()
    on_edge = {
        "left": QPointF(area.left(), centre.y()),
        "right": QPointF(area.right(), centre.y()),
        "top": QPointF(centre.x(), area.top()),
        "bottom": QPointF(centre.x(), area.bottom()),
    }[edge]
    spot, middle = turn.map(on_edge), turn.map(centre)
    way = spot - middle
    far = math.hypot(way.x(), way.y()) or 1.0
    across, down = way.x() / far, way.y() / far
    off = OFF + abs(across) * wide / 2 + abs(down) * PILL_HIGH / 2
    return QPointF(spot.x() + across * off, spot.y() + down * off)


def _within(centre: QPointF, words: str, room: QRectF) -> QPointF:
    """A label's middle, drawn in so far that all of it is on the bench."""
    across, down = pill_width(words) / 2 + 2, PILL_HIGH / 2 + 2
    return QPointF(
        min(max(centre.x(), room.left() + across), room.right() - across),
        min(max(centre.y(), room.top() + down), room.bottom() - down),
    )
