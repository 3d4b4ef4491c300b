"""A bench of fields with rulers along it, from which pencil lines are pulled."""

from PyQt6.QtCore import QPointF

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
