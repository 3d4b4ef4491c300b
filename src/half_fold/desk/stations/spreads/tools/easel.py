"""The easel: a picture moved, drawn closer and turned inside its block with the mouse, the wheel and keys."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPainterPath, QPen, QTransform, QWheelEvent

from half_fold.core.pictures.library.fit import placed, turned_in
from half_fold.core.publication.records import HoldsPicture
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.spread.framing.reframing import bring_to_middle, draw_closer, move_inside, turn_inside
from half_fold.core.spread.framing.subjects import aim_at_subject
from half_fold.core.spread.setting.developed import key_of_block
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.stations.spreads.tools.clear_paint import paint_clear
from half_fold.desk.stations.spreads.tools.marker import WAYS
from half_fold.desk.stations.spreads.tools.tool import Tool
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

SAID = (
    "Drag or arrows move it, the wheel draws it closer, Shift+wheel turns it. "
    "To the middle: a place by double click, the subject by F. H levels it, K keeps clear, M mends."
)
CLOSER, TURN, STEP = 1.04, 0.5, 2.0  # a notch of the wheel or a key: times, degrees, points
FAINT = 0.28


class Easel(Tool):
    """Works on the picture that is chosen while it has ``work``; all that is done in a row is one step of undo."""

    def __init__(self, bench: Worktop) -> None:
        super().__init__(bench)
        self._from: QPointF | None = None

    def take_up(self) -> bool:
        """Begin on the picture that is chosen; whether there is one."""
        session = self.bench.session
        found = self.bench.picture_chosen("it can be moved inside its block")
        if found is None:
            return False
        self.work, self.block = "easel", found.id
        session.history.pause()
        session.noted.emit(SAID)
        self.bench.setCursor(Qt.CursorShape.OpenHandCursor)
        self.bench.update()
        return True

    def put_down(self) -> None:
        """Leave the picture as it is now."""
        self.work, self._from = "", None
        self.bench.session.history.pause()
        self.bench.unsetCursor()
        self.bench.update()

    # Mouse and keys -----------------------------------------------------------------------------

    def press(self, at: QPointF, _held: Qt.KeyboardModifier) -> None:
        """Take hold of the picture."""
        self._from = at
        self.bench.setCursor(Qt.CursorShape.ClosedHandCursor)

    def move(self, at: QPointF) -> None:
        """With the pointer."""
        if self._from is None:
            return
        by, self._from = at - self._from, at
        self._move(by.x() / self.bench.scale(), by.y() / self.bench.scale())

    def release(self, _at: QPointF) -> None:
        """Let go of it."""
        self._from = None
        self.bench.setCursor(Qt.CursorShape.OpenHandCursor)

    def close(self) -> None:
        """It lies as it should."""
        self.put_down()

    def wheel(self, event: QWheelEvent) -> None:
        """Closer about the pointer; with Shift turned."""
        turn = event.angleDelta()
        notches = (turn.y() or turn.x()) / 120
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._turn(notches * TURN)
        else:
            self._closer(CLOSER**notches, self.bench.to_points(event.position()))

    def own_key(self, event: QKeyEvent) -> bool:
        """Whether a key moves, turns or draws the picture closer, or goes on to what is drawn on it."""
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        steps = {
            Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)
        }  # fmt: skip
        if event.key() in steps and shift:
            self._turn(TURN * sum(steps[Qt.Key(event.key())]))
        elif event.key() in steps:
            across, down = steps[Qt.Key(event.key())]
            self._move(STEP * across, STEP * down)
        elif event.text().upper() == "F":
            self._to_subject()
        elif event.text().upper() in WAYS and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.put_down()
            self.bench.mark(event.text().upper())
        elif event.text() in ("+", "-") and event.text():
            self._closer(CLOSER if event.text() == "+" else 1 / CLOSER, None)
        else:
            return False
        return True

    def _move(self, across: float, down: float) -> None:
        self.bench.session.edit(lambda p: move_inside(p, self.block, across, down), "picture moved", "easel")

    def _closer(self, factor: float, at: tuple[float, float] | None) -> None:
        self.bench.session.edit(lambda p: draw_closer(p, self.block, factor, at), "picture drawn closer", "easel")

    def _turn(self, by: float) -> None:
        self.bench.session.edit(lambda p: turn_inside(p, self.block, by), "picture turned", "easel")

    def double(self, at: tuple[float, float]) -> None:
        """What lies there comes to the middle; beside the block it is put down."""
        session = self.bench.session
        index, _, block = page_of_block(session.publication, self.block)
        if not block_box(session.publication, index + 1, block).holds(*at):
            self.put_down()
            return
        self.bench.session.edit(lambda p: bring_to_middle(p, self.block, at), "picture moved", "easel")

    def _to_subject(self) -> None:
        """The focus where the subject is likely to be: a proposal, which can be moved on."""
        session = self.bench.session
        session.edit(lambda p: aim_at_subject(p, session.proxies.folder, self.block), "focus on the subject", "easel")

    # Painting -----------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """All of the picture, faint where its block does not show it."""
        if not self.work:
            return
        session = self.bench.session
        index, _, block = page_of_block(session.publication, self.block)
        if not isinstance(block.holds, HoldsPicture):
            return
        box = block_box(session.publication, index + 1, block)
        where = placed(picture_of(session.publication, block.holds.picture), block.holds, box)
        turn = turned_in(block.holds, box, where)
        image = session.proxies.image(key_of_block(session.publication, block), where.width * self.bench.scale())
        painter.save()
        outside, inside = QPainterPath(), QPainterPath()
        outside.addRect(QRectF(self.bench.rect()))
        inside.addRect(self.bench.to_widget(box))
        painter.setClipPath(outside.subtracted(inside))
        painter.translate(self.bench.origin())
        painter.scale(self.bench.scale(), self.bench.scale())
        if turn is not None:
            painter.setTransform(QTransform(*turn), True)
        painter.setOpacity(FAINT)
        area = QRectF(where.left, where.top, where.width, where.height)
        if image is not None:
            painter.drawImage(area, image)
        painter.setOpacity(1.0)
        painter.setPen(QPen(tokens.colour(tokens.LODEN), 0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area)
        painter.restore()
        paint_clear(self.bench, painter, self.block)
