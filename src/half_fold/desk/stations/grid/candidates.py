"""Grids that work out, each drawn small; picking one is one edit."""

from collections.abc import Callable

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QScrollArea, QWidget

from half_fold.core.grid.frame import page_frame
from half_fold.core.grid.solver import Candidate, solve
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import format_length
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Grid, Master, Publication
from half_fold.desk.theme import tokens

CELL, DRAWN, HEIGHT = 148, 80, 164


class CandidateStrip(QWidget):
    """The candidates in a row, the nearest first; ``picked`` is called with the grid of one."""

    def __init__(self, picked: Callable[[Grid, str], None]) -> None:
        super().__init__()
        self.picked = picked
        self.candidates: list[Candidate] = []
        self.at = 0
        self._publication: Publication | None = None
        self._held: tuple[object, ...] = ()
        self._grid: Grid | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("Grids that work out")
        self.setToolTip("← → choose, Enter takes")
        self._hover = -1

    def follow(self, publication: Publication, master: Master) -> None:
        """Solve again where what grids follow from has changed."""
        held = (publication.brief, publication.roles, master.grid)
        if len(held) == len(self._held) and all(a is b for a, b in zip(held, self._held, strict=True)):
            return
        self._held, self._publication, self._grid = held, publication, master.grid
        self.candidates = solve(publication, master)
        self.at = min(self.at, max(0, len(self.candidates) - 1))
        self.setFixedSize(CELL * len(self.candidates) + 16, HEIGHT)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(CELL * len(self.candidates) + 16, HEIGHT)

    def cell(self, index: int) -> QRectF:
        """Where a candidate is drawn."""
        return QRectF(8 + index * CELL, 0, CELL, HEIGHT)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for index, candidate in enumerate(self.candidates):
            self._paint(painter, index, candidate)

    def _paint(self, painter: QPainter, index: int, candidate: Candidate) -> None:
        cell, publication = self.cell(index), self._publication
        assert publication is not None
        if index in (self._hover, self.at if self.hasFocus() else -1):
            painter.fillRect(cell.adjusted(2, 2, -2, -2), tokens.colour(tokens.CARD))
        if self.hasFocus() and index == self.at:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 2))
            painter.drawRect(cell.adjusted(3, 3, -3, -3))
        frames = [page_frame(publication, candidate.grid, right) for right in (False, True)]
        width, height = frames[1].trim.width, frames[1].trim.height
        scale = min((CELL - 24) / (2 * width), DRAWN / height)
        x, y = cell.center().x(), cell.top() + 10

        def on(rect: Rect) -> QRectF:
            return QRectF(x + rect.left * scale, y + rect.top * scale, rect.width * scale, rect.height * scale)

        for frame in frames:
            painter.fillRect(on(frame.trim), QColor("white"))
            for top, bottom in frame.rows:
                for left, right in frame.columns:
                    painter.fillRect(on(Rect(left, top, right, bottom)), tokens.colour(tokens.LODEN, 0.22))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(tokens.colour(tokens.INK), 0.8))
        for frame in frames:
            painter.drawRect(on(frame.trim))
        self._paint_words(painter, cell, candidate)

    def _unit(self) -> str:
        return self._publication.brief.unit if self._publication is not None else "mm"

    def _paint_words(self, painter: QPainter, cell: QRectF, candidate: Candidate) -> None:
        grid = candidate.grid
        area = cell.adjusted(6, DRAWN + 18, -6, 0)
        painter.setPen(tokens.colour(tokens.INK))
        painter.setFont(tokens.font(tokens.SMALL, tokens.BOLD))
        centred = Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop
        painter.drawText(area, centred, candidate.name)
        painter.setFont(tokens.font(tokens.SMALL))
        painter.setPen(tokens.colour(tokens.QUIET))
        fields = f"{grid.columns} × {grid.rows} fields of {candidate.lines_per_field} lines"
        painter.drawText(area.adjusted(0, 15, 0, 0), centred, fields)
        painter.drawText(area.adjusted(0, 29, 0, 0), centred, f"gutter {grid.gutter.typed}")
        away = (
            "as it is" if self._is_now(candidate) else f"{format_length(candidate.departure * MM, self._unit())} away"
        )
        painter.drawText(area.adjusted(0, 43, 0, 0), centred, away)

    def _is_now(self, candidate: Candidate) -> bool:
        return candidate.grid == self._grid

    def _index_at(self, x: float) -> int:
        index = int((x - 8) // CELL)
        return index if 0 <= index < len(self.candidates) else -1

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._hover = self._index_at(event.position().x())
        if self._hover >= 0:
            self.setToolTip(format_candidate(self.candidates[self._hover], self._unit()))
        self.update()

    def leaveEvent(self, _event: object) -> None:
        self._hover = -1
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        index = self._index_at(event.position().x())
        if index >= 0:
            self.at = index
            self.take()

    def take(self) -> None:
        """Put the master on the chosen candidate."""
        if self.candidates:
            candidate = self.candidates[self.at]
            self.picked(candidate.grid, candidate.name)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.take()
        elif event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            step = 1 if event.key() == Qt.Key.Key_Right else -1
            self.at = min(max(0, self.at + step), len(self.candidates) - 1)
            self.update()
            parent = self.parentWidget()
            scroller = parent.parentWidget() if parent is not None else None
            if isinstance(scroller, QScrollArea):
                scroller.ensureVisible(round(self.cell(self.at).center().x()), 0, CELL, 0)
        else:
            super().keyPressEvent(event)


def format_candidate(candidate: Candidate, unit: str) -> str:
    """A candidate's measures in words."""
    grid = candidate.grid
    margins = ", ".join(f"{name} {getattr(grid, name).typed}" for name in ("inside", "head", "outside", "foot"))
    return (
        f"{candidate.how}\n{margins}\ngutter {grid.gutter.typed}, {grid.row_gap} empty lines between rows, "
        f"{candidate.lines} lines a column, columns of {format_length(candidate.column * MM, unit)}"
    )


def strip_in_scroller(strip: CandidateStrip) -> QScrollArea:
    """The strip where it may be wider than the bench."""
    scroller = QScrollArea()
    scroller.setWidget(strip)
    scroller.setFixedHeight(HEIGHT + 10)
    scroller.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    scroller.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    scroller.setStyleSheet(f"QScrollArea {{ background: {tokens.SHELF}; }}")
    return scroller
