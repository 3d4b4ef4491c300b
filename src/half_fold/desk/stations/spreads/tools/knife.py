"""The knife: a shape drawn corner by corner, or cut along a line, over the block that is chosen."""

from typing import Literal

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPen, QPolygonF

from half_fold.core.publication.surgery import page_of_block
from half_fold.core.spread.edits.shaping import draw_form, has_form, slice_along
from half_fold.desk.stations.spreads.tools.tool import Tool
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

Work = Literal["outline", "cut"]
SAID = {
    "outline": "Click the corners of the shape; Enter or a double click closes it, Backspace takes one back.",
    "cut": "Draw a line across the shape: what lies to its left, as you draw, stays.",
}


class Knife(Tool):
    """What is being drawn, in points of spread space; it takes the bench's clicks and keys while there is ``work``."""

    def __init__(self, bench: Worktop) -> None:
        super().__init__(bench)
        self.places: list[tuple[float, float]] = []

    def take_up(self, work: Work) -> bool:
        """Begin drawing over the block that is chosen; whether that has a shape."""
        session = self.bench.session
        if session.view.block is None or not has_form(page_of_block(session.publication, session.view.block)[2]):
            session.said.emit("Choose a panel, a picture or words on a ground first; then its shape can be drawn.")
            return False
        self.work, self.block, self.places = work, session.view.block, []
        session.noted.emit(SAID[work])
        self.bench.setCursor(Qt.CursorShape.CrossCursor)
        return True

    def put_down(self) -> None:
        """Draw no more."""
        self.work, self.places = "", []
        self.bench.unsetCursor()
        self.bench.update()

    # Mouse and keys -----------------------------------------------------------------------------

    def press(self, at: QPointF, _held: Qt.KeyboardModifier) -> None:
        """A corner, or where a cut begins."""
        self.places.append(self.bench.to_points(at))
        self.bench.update()

    def move(self, _at: QPointF) -> None:
        """The line follows the pointer by itself."""

    def release(self, at: QPointF) -> None:
        """Where a cut ends."""
        if self.work == "cut" and self.places:
            block, start, end = self.block, self.places[0], self.bench.to_points(at)
            self.put_down()
            self.bench.session.edit(lambda p: slice_along(p, block, start, end), "cut along a line")

    def close(self) -> None:
        """The corners are all there."""
        block, places = self.block, tuple(self.places)
        if self.work == "outline" and self.bench.session.edit(lambda p: draw_form(p, block, places), "drew a shape"):
            self.put_down()

    def own_key(self, event: QKeyEvent) -> bool:
        """Backspace takes a corner back."""
        if event.key() != Qt.Key.Key_Backspace or not self.places:
            return False
        self.places.pop()
        return True

    def paint(self, painter: QPainter) -> None:
        """The corners so far, and the line to the pointer."""
        if not self.work or not self.places:
            return
        way = [self.bench.from_points(place) for place in self.places]
        if self.bench.pointer is not None:
            way.append(self.bench.pointer)
        painter.setPen(QPen(tokens.colour(tokens.INK if self.work == "cut" else tokens.LODEN), 1.5))
        painter.setBrush(tokens.colour(tokens.LODEN, 0.18) if self.work == "outline" else Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF(way)) if self.work == "outline" else painter.drawPolyline(QPolygonF(way))
        painter.setBrush(tokens.colour(tokens.LODEN))
        for place in way[: len(self.places)]:
            painter.drawEllipse(place, 3, 3)
