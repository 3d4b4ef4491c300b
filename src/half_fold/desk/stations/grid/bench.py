"""The bench of a grid: margins, columns, fields and baselines of a master, drawn on a left and a right page."""

from collections.abc import Sequence

from msgspec.structs import replace
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter

from half_fold.core.grid.frame import PageFrame
from half_fold.core.grid.pencil import Pencilled, format_pencil
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.measure.ruler import drawn_length
from half_fold.core.publication.records import Pencil, PencilEdge
from half_fold.core.spread.where.frames import frame_for
from half_fold.desk.stations.bench import Bench
from half_fold.desk.stations.grid.at_work import AtWork
from half_fold.desk.theme import tokens

GRAB = 6.0


class MasterBench(Bench):
    """A left and a right page of the master that the station works on."""

    def __init__(self, station: AtWork) -> None:
        super().__init__(station.session)
        self.station = station
        self.show_content = False

    def frames(self) -> list[tuple[int, PageFrame]]:
        master, publication = self.station.master(), self.session.publication
        right = self.session.view.spread.right or len(publication.pages)
        left = self.session.view.spread.left or 1
        return [(left, frame_for(publication, master, False)), (right, frame_for(publication, master, True))]

    def paper(self) -> Rect:
        return hull([frame.trim for _, frame in self.frames()])

    def ground_follows(self) -> tuple[object, ...]:
        return (self.station.master(),)


class GridBench(MasterBench):
    """The master's grid; margins are dragged at their lines."""

    def __init__(self, station: AtWork) -> None:
        super().__init__(station)
        self._dragging: tuple[str, PageFrame] | None = None
        self._pencil: tuple[Pencilled, int, PageFrame] | None = None
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
        self._pencil = self._pencil_at(event.position())
        self._dragging = None if self._pencil is not None else self._margin_at(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pointer = event.position()
        if self._pencil is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._move_pencil(*self._pencil, event.position())
        elif self._dragging is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._drag(*self._dragging, event.position())
        else:
            self.setCursor(self._shape_at(event.position()))
        self.station.moved.emit()

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        self._dragging = self._pencil = None
        self.session.history.pause()

    def _shape_at(self, at: QPointF) -> Qt.CursorShape:
        line = self._pencil_at(at)
        if line is not None:
            return Qt.CursorShape.SplitHCursor if line[0].axis == "across" else Qt.CursorShape.SplitVCursor
        found = self._margin_at(at)
        if found is None:
            return Qt.CursorShape.ArrowCursor
        return Qt.CursorShape.SizeVerCursor if found[0] in ("head", "foot") else Qt.CursorShape.SizeHorCursor

    # Pencil lines -------------------------------------------------------------------------------

    def _frame_at(self, at: QPointF) -> PageFrame | None:
        return next((frame for _, frame in self.frames() if self.to_widget(frame.trim).contains(at)), None)

    def _pencil_at(self, at: QPointF) -> tuple[Pencilled, int, PageFrame] | None:
        """The pencil line under the pointer, which of its repetitions, and the page it is drawn on."""
        frame = self._frame_at(at)
        if frame is None:
            return None
        x, y = self.to_points(at)
        ways = [
            (abs((x if line.axis == "across" else y) - place) * self.scale(), line, index)
            for line in frame.pencil
            for index, place in enumerate(line.at)
        ]
        distance, line, index = min(ways, key=lambda way: way[0], default=(GRAB + 1, None, 0))
        return (line, index, frame) if line is not None and distance <= GRAB else None

    def _move_pencil(self, line: Pencilled, index: int, frame: PageFrame, at: QPointF) -> None:
        """The line to the pointer; off the page it is rubbed out."""
        lines = self.station.master().grid.pencil
        old = next((each for each in lines if each.number == line.number), None)
        if old is None:
            return
        low, high = frame.trim.along(line.axis)
        if not low <= self.to_points(at)[0 if line.axis == "across" else 1] <= high:
            self._set_pencil([each for each in lines if each is not old])
            return
        off = self._from_edge(old.edge, frame, at) - (index * old.every.pt if old.every is not None else 0.0)
        moved = replace(old, at=drawn_length(off, self.session.unit))
        self._set_pencil([moved if each is old else each for each in lines])

    def _from_edge(self, edge: str, frame: PageFrame, at: QPointF) -> float:
        """How far the pointer is from an edge of a page, in points."""
        x, y = self.to_points(at)
        trim = frame.trim
        from_left = x - trim.left, trim.right - x
        fold, outside = from_left if frame.on_right else from_left[::-1]
        return {"head": y, "foot": trim.bottom - y, "fold": fold, "outside": outside}[edge]

    def _draw_pencil(self, edge: PencilEdge) -> None:
        """A new line at the pointer, told from that edge."""
        frame = self._frame_at(self.pointer) if self.pointer is not None else None
        if frame is None or self.pointer is None:
            self.session.said.emit("Point at a page first; the line is drawn where the pointer is.")
            return
        lines = self.station.master().grid.pencil
        far = drawn_length(self._from_edge(edge, frame, self.pointer), self.session.unit)
        made = Pencil(number=0, edge=edge, at=far)
        self._set_pencil([*lines, made])

    def _set_pencil(self, lines: Sequence[Pencil]) -> None:
        self.station.set_grid_value("pencil", format_pencil(lines), "drag pencil")

    def _rub_out(self) -> None:
        found = self._pencil_at(self.pointer) if self.pointer is not None else None
        if found is not None:
            number = found[0].number
            self._set_pencil([each for each in self.station.master().grid.pencil if each.number != number])
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
        self.station.set_grid_value(name, drawn_length(size, self.session.unit).typed, f"drag {name}")

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
        drawn: dict[Qt.Key, PencilEdge] = {Qt.Key.Key_L: "head", Qt.Key.Key_U: "fold"}
        if Qt.Key(event.key()) in drawn:
            self._draw_pencil(drawn[Qt.Key(event.key())])
            self.session.history.pause()
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self._rub_out()
        elif event.key() == Qt.Key.Key_F and not event.isAutoRepeat():
            self.show_content = not self.show_content
            self.update()
        elif event.key() in steps:
            field, by = steps[Qt.Key(event.key())]
            grid = self.station.master().grid
            count = (grid.columns if field == "columns" else grid.rows) + by
            self.station.edit_for(f"grid.{field}")(str(count))
        else:
            super().keyPressEvent(event)
