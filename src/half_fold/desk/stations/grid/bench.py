"""The bench of a grid: margins, columns, fields and baselines of a master, drawn on a left and a right page."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter

from half_fold.core.grid.frame import PageFrame
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.spread.frames import frame_for
from half_fold.desk.stations.bench import Bench
from half_fold.desk.theme import tokens

if TYPE_CHECKING:
    from half_fold.desk.stations.grid.station import GridStation

GRAB = 6.0


class MasterBench(Bench):
    """A left and a right page of the master that the station works on."""

    def __init__(self, station: "GridStation") -> None:
        super().__init__(station.session)
        self.station = station
        self.show_content = False

    def frames(self) -> list[tuple[int, PageFrame]]:
        master, publication = self.station.master(), self.session.publication
        right = self.session.spread.right or len(publication.pages)
        left = self.session.spread.left or 1
        return [(left, frame_for(publication, master, False)), (right, frame_for(publication, master, True))]

    def paper(self) -> Rect:
        return hull([frame.trim for _, frame in self.frames()])

    def ground_follows(self) -> tuple[object, ...]:
        return (self.station.master(),)


class GridBench(MasterBench):
    """The master's grid; margins are dragged at their lines."""

    def __init__(self, station: "GridStation") -> None:
        super().__init__(station)
        self._dragging: tuple[str, PageFrame] | None = None
        self.setAccessibleName("Grid of the master")

    def paint_over(self, painter: QPainter) -> None:
        for _, frame in self.frames():
            self._paint_margins(painter, frame)

    def _paint_margins(self, painter: QPainter, frame: PageFrame) -> None:
        painter.setFont(tokens.font(12, tokens.BOLD))
        painter.setPen(tokens.colour(tokens.LODEN))
        trim, area = frame.trim, frame.area
        middle = trim.height / 2
        for x0, x1 in ((trim.left, area.left), (area.right, trim.right)):
            box = self.to_widget(Rect(x0, middle - 20, x1, middle + 20))
            painter.drawText(box.adjusted(-14, 0, 14, 0), Qt.AlignmentFlag.AlignCenter, figure((x1 - x0) / MM, 1))
        for y0, y1 in ((trim.top, area.top), (area.bottom, trim.bottom)):
            box = self.to_widget(Rect(area.centre[0] - 60, y0, area.centre[0] + 60, y1))
            painter.drawText(box.adjusted(0, -10, 0, 10), Qt.AlignmentFlag.AlignCenter, figure((y1 - y0) / MM, 1))

    def _margin_at(self, at: QPointF) -> tuple[str, PageFrame] | None:
        """The margin whose line is under the pointer."""
        for _, frame in self.frames():
            box = self.to_widget(frame.area)
            if not box.adjusted(-GRAB, -GRAB, GRAB, GRAB).contains(at):
                continue
            names = ("inside", "outside") if frame.on_right else ("outside", "inside")
            lines = (
                (names[0], abs(at.x() - box.left())),
                (names[1], abs(at.x() - box.right())),
                ("head", abs(at.y() - box.top())),
                ("foot", abs(at.y() - box.bottom())),
            )
            name, distance = min(lines, key=lambda pair: pair[1])
            if distance <= GRAB:
                return name, frame
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        self._dragging = self._margin_at(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pointer = event.position()
        if self._dragging is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._drag(*self._dragging, event.position())
        else:
            found = self._margin_at(event.position())
            shapes = {"head": Qt.CursorShape.SizeVerCursor, "foot": Qt.CursorShape.SizeVerCursor}
            self.setCursor(shapes.get(found[0], Qt.CursorShape.SizeHorCursor) if found else Qt.CursorShape.ArrowCursor)
        self.station.moved.emit()

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        self._dragging = None
        self.session.history.pause()

    def _drag(self, name: str, frame: PageFrame, at: QPointF) -> None:
        x, y = self.to_points(at)
        loss = abs(frame.area.left - frame.trim.left if frame.on_right else frame.trim.right - frame.area.right)
        typed = self.station.master().grid.inside.pt
        size = {
            "head": y,
            "foot": frame.trim.bottom - y,
            "inside": abs(x) - (loss - typed),
            "outside": frame.trim.width - abs(x),
        }[name]
        words = f"{max(0.0, round(size / MM * 2) / 2):g}mm"
        self.station.set_grid_value(name, words, f"drag {name}")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {
            Qt.Key.Key_Left: ("columns", -1),
            Qt.Key.Key_Right: ("columns", 1),
            Qt.Key.Key_Up: ("rows", 1),
            Qt.Key.Key_Down: ("rows", -1),
        }
        if self.view_key(event):
            return
        if event.key() == Qt.Key.Key_F and not event.isAutoRepeat():
            self.show_content = not self.show_content
            self.update()
        elif event.key() in steps:
            field, by = steps[Qt.Key(event.key())]
            grid = self.station.master().grid
            count = (grid.columns if field == "columns" else grid.rows) + by
            self.station.edit_for(f"grid.{field}")(str(count))
        else:
            super().keyPressEvent(event)
