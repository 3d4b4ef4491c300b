"""What tools over the bench have in common: the keys that end them, the brush, and where a picture lies under them."""

from collections.abc import Iterable

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPen, QPolygonF

from half_fold.core.publication.records import HoldsPicture, PicturePoint
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.spread.framing.retouching import place_of, share_at
from half_fold.core.spread.where.frames import block_box, turn_of
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

COARSER = 1.25  # times as wide is a brush after a key


class Tool:
    """It works on a ``block`` and takes the bench's clicks and keys while it has ``work``, which says what it does."""

    def __init__(self, bench: Worktop) -> None:
        self.bench = bench
        self.work = ""
        self.block = ""

    def put_down(self) -> None:
        """Give up what was begun."""
        raise NotImplementedError

    def close(self) -> None:
        """Finish what was begun."""
        raise NotImplementedError

    def own_key(self, event: QKeyEvent) -> bool:
        """Whether a key was meant for it that neither ends nor finishes what was begun."""
        raise NotImplementedError

    def key(self, event: QKeyEvent) -> bool:
        """Whether a key was meant for it."""
        if not self.work:
            return False
        if event.key() == Qt.Key.Key_Escape:
            self.put_down()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.close()
        elif not self.own_key(event):
            return False
        self.bench.update()
        return True

    def share(self, at: QPointF) -> PicturePoint:
        """A place of the bench in shares of the picture of its block."""
        publication = self.bench.session.publication
        index, _, block = page_of_block(publication, self.block)
        assert isinstance(block.holds, HoldsPicture)
        turn, place = turn_of(publication, index + 1, block), self.bench.to_points(at)
        place = place if turn is None else turn.inverse().of(*place)
        picture = picture_of(publication, block.holds.picture)
        return share_at(picture, block.holds, block_box(publication, index + 1, block), place)

    def place(self, share: PicturePoint) -> QPointF:
        """Where on the bench a share of the picture of its block is seen."""
        return on_bench(self.bench, self.block, share)


def on_bench(bench: Worktop, name: str, share: PicturePoint) -> QPointF:
    """Where on the bench a share of the picture in a block is seen."""
    publication = bench.session.publication
    index, _, block = page_of_block(publication, name)
    assert isinstance(block.holds, HoldsPicture)
    picture = picture_of(publication, block.holds.picture)
    place = place_of(picture, block.holds, block_box(publication, index + 1, block), share)
    turn = turn_of(publication, index + 1, block)
    return bench.from_points(place if turn is None else turn.of(*place))


def resize_brush(brush: float, event: QKeyEvent, least: float, most: float) -> float | None:
    """A brush after + or -; None after any other key."""
    if event.text() not in ("+", "-") or not event.text():
        return None
    return min(max(brush * (COARSER if event.text() == "+" else 1 / COARSER), least), most)


def paint_brush(
    painter: QPainter, ways: Iterable[list[QPointF]], pointer: QPointF | None, wide: float, colour: QColor
) -> None:
    """Strokes of a brush so many pixels wide, and its ring at the pointer."""
    painter.setPen(QPen(colour, wide, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for way in ways:
        if len(way) > 1:
            painter.drawPolyline(QPolygonF(way))
    if pointer is not None:
        painter.setPen(QPen(tokens.colour(tokens.INK), 1))
        painter.drawEllipse(pointer, wide / 2, wide / 2)
