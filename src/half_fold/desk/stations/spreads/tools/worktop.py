"""What a tool knows of the bench it works over."""

from collections.abc import Sequence
from typing import Protocol

from PyQt6.QtCore import QPoint, QPointF, QRect, QRectF, Qt
from PyQt6.QtGui import QCursor
from PyQt6.QtWidgets import QWidget

from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.publication.records import Block
from half_fold.desk.stations.spreads.tools.chooser import Entry
from half_fold.desk.workpiece import Workpiece


class Worktop(Protocol):
    """Where things lie on it, what is chosen and takes edits (its ``session``), and that it is painted anew."""

    session: Workpiece
    pointer: QPointF | None
    pressure: float  # of a pen, from 0 to 1; 1 of a mouse

    def to_points(self, at: QPointF) -> tuple[float, float]:
        """A place of the widget in spread space, in points."""

    def from_points(self, place: tuple[float, float]) -> QPointF:
        """Where on the widget a place of spread space lies."""

    def to_widget(self, rect: Rect) -> QRectF:
        """Where on the widget a rectangle of spread space lies."""

    def scale(self) -> float:
        """Pixels to the point."""

    def origin(self) -> QPointF:
        """Where the fold at the head lies on the widget."""

    def rect(self) -> QRect:
        """The widget's own."""

    def cell_at(self, at: QPointF) -> tuple[int, int] | None:
        """The column and the row of the field at a place of the widget."""

    def selection_box(self) -> Rect | None:
        """The rectangle round what is chosen, where that lies on this spread."""

    def ruler_at(self, at: QPointF) -> Axis | None:
        """Which way a line runs that is pulled from a ruler there; None beside them."""

    def draw_pencil(self, axis: Axis, at: QPointF) -> None:
        """A pencil line there."""

    def picture_chosen(self, then: str) -> Block | None:
        """The block of the picture that is chosen and not locked; with none it is said what ``then`` could be done."""

    def update(self) -> None:
        """Paint it anew."""

    def setFocus(self) -> None:
        """Have the keys."""

    def setCursor(self, cursor: QCursor | Qt.CursorShape, /) -> None:
        """Show the pointer so."""

    def unsetCursor(self) -> None:
        """Show the pointer as ever."""

    def as_widget(self) -> QWidget:
        """What lies over it has this for its parent."""

    def choose_among(self, entries: Sequence[Entry], at: QPoint) -> object:
        """Ask which of some entries, at a place of the screen."""

    def clear_drawer(self, away: bool) -> None:
        """Have the drawer out of the way, or back."""

    def mark(self, way: str) -> None:
        """Take the marker up over the chosen picture, in the way of that key."""
