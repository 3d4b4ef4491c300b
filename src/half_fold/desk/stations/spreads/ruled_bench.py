"""A bench of fields with rulers along it, from which pencil lines are pulled; it feels how hard a pen is pressed."""

from PyQt6.QtCore import QEvent, QPointF
from PyQt6.QtGui import QTabletEvent

from half_fold.core.measure.rect import Axis
from half_fold.core.spread.edits.pencilling import draw_pencil, format_drawn
from half_fold.desk.stations.rulers import Rulers
from half_fold.desk.stations.spreads.field_bench import FieldBench
from half_fold.desk.workpiece import Workpiece


class RuledBench(FieldBench):
    """Where rulers stand, and the pencil line that is let go of beside them."""

    def __init__(self, session: Workpiece) -> None:
        super().__init__(session)
        self.rulers = Rulers(self)
        self.pressure = 1.0

    def tabletEvent(self, event: QTabletEvent | None) -> None:
        """How hard a pen is pressed; what else it does is done as by a mouse."""
        assert event is not None
        is_up = event.type() == QEvent.Type.TabletRelease
        self.pressure = 1.0 if is_up else max(event.pressure(), 0.0)
        event.ignore()

    def show_rulers(self) -> None:
        """The rulers, or no longer."""
        self.rulers.shown = not self.rulers.shown
        self.update()

    def ruler_at(self, at: QPointF) -> Axis | None:
        """Which way a line runs that is pulled from a ruler there; None beside them."""
        return self.rulers.axis_at(at)

    def draw_pencil(self, axis: Axis, at: QPointF) -> None:
        """A pencil line on the page there, which is its master's, or its own where it has a grid of its own."""
        (x, y), session = self.to_points(at), self.session
        spread = session.view.spread
        number = spread.right if self.frame_at(x).on_right else spread.left
        assert number is not None
        place = x if axis == "across" else y
        if session.edit(lambda p: draw_pencil(p, number, axis, place, session.unit), "pencil line"):
            session.noted.emit(format_drawn(session.publication, number))
