"""The hand on the bench: chosen things are carried, copied, turned and scaled, edges drawn, a box chooses."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPen

from half_fold.core.grid.stops import AXES, Edge
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.places import Held
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import is_free, page_of_block
from half_fold.core.spread.edits import edits
from half_fold.core.spread.edits.carrying import drawn_in, grabbed, reached
from half_fold.core.spread.edits.grouping import double_things, shift_things
from half_fold.core.spread.setting.hits import things_within
from half_fold.core.spread.where.frames import block_box, turn_of
from half_fold.core.spread.where.reaching import draw_edge
from half_fold.desk.kit.cursors import turning_cursor
from half_fold.desk.stations.aided_bench import label_pill
from half_fold.desk.stations.spreads.tools.grips import Grip, Pulling, Scaling, Turning, scaled_at, turns_at
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

GRAB_PIXELS = 6.0
PILL_ABOVE = -26.0  # pixels from the pointer to what is said beside it
DRAWN_PIXELS = 7.0  # how near a stop draws in what is carried


class Hand:
    """What the mouse is doing to what is chosen. Alt held lets go of the stops."""

    def __init__(self, bench: Worktop) -> None:
        self.bench = bench
        self.edges: tuple[Edge, ...] = ()
        self.carrying: Rect | None = None  # where what is carried lay at first
        self.done = (0.0, 0.0)
        self.start = (0.0, 0.0)
        self.box: tuple[QPointF, QPointF] | None = None
        self.grip: Grip | None = None
        self._copies, self.joining = False, ""

    @property
    def busy(self) -> bool:
        """Whether something is held."""
        return bool(self.edges or self.grip) or self.carrying is not None or self.box is not None

    # What is under the hand ---------------------------------------------------------------------

    def edges_at(self, at: QPointF) -> tuple[Edge, ...]:
        """The edges of the one chosen block that lie under a place on the bench."""
        session = self.bench.session
        if session.view.block is None:
            return ()
        index, _, block = page_of_block(session.publication, session.view.block)
        if index + 1 not in session.view.spread.numbers or not is_free(session.publication, block.id):
            return ()
        turn = turn_of(session.publication, index + 1, block)
        x, y = self.bench.to_points(at)
        box = block_box(session.publication, index + 1, block)
        reach = min(GRAB_PIXELS / self.bench.scale(), box.width / 4, box.height / 4)
        return grabbed(box, *((x, y) if turn is None else turn.inverse().of(x, y)), reach)

    def grip_at(self, at: QPointF, control: bool) -> Grip | None:
        """What a press there begins at a corner of what is chosen; Ctrl scales one block, or its edge is drawn."""
        session, axis = self.bench.session, self.bench.ruler_at(at)
        if axis is not None:
            return Pulling(self.bench, axis)
        if not session.view.chosen:
            return None
        if turns_at(self.bench, at):
            return Turning(self.bench, at)
        if session.view.block is None or control:
            edges = scaled_at(self.bench, at, GRAB_PIXELS)
            return Scaling(self.bench, edges) if edges else None
        return None

    def show_cursor(self, at: QPointF) -> None:
        """The cursor that says what a press here would take hold of."""
        session = self.bench.session
        if session.view.chosen and turns_at(self.bench, at):
            self.bench.setCursor(turning_cursor())
            return
        edges = self.edges_at(at) if session.view.block is not None else ()
        if session.view.chosen and session.view.block is None:
            edges = scaled_at(self.bench, at, GRAB_PIXELS)
        if not edges:
            self.bench.unsetCursor()
        elif len(edges) == 2:
            falling = set(edges) in ({"left", "top"}, {"right", "bottom"})
            self.bench.setCursor(Qt.CursorShape.SizeFDiagCursor if falling else Qt.CursorShape.SizeBDiagCursor)
        else:
            across = edges[0] in AXES["across"]
            self.bench.setCursor(Qt.CursorShape.SizeHorCursor if across else Qt.CursorShape.SizeVerCursor)

    # Taking hold, moving, letting go ------------------------------------------------------------

    def take_edges(self, edges: tuple[Edge, ...]) -> None:
        """Hold those edges of the chosen block."""
        self.edges = edges

    def carry(self, at: QPointF, copies: bool = False) -> None:
        """Hold all that is chosen, from a place on the bench; or a copy of it, once that is moved."""
        self._copies, self.joining = copies, f"carry {' '.join(self.bench.session.view.chosen)}"
        self.start, self.done = self.bench.to_points(at), (0.0, 0.0)
        self.carrying = reached(self.bench.session.publication, self.bench.session.view.chosen)

    def begin_box(self, at: QPointF) -> None:
        """Draw a box that chooses what it touches."""
        self.box = (at, at)

    def move(self, event: QMouseEvent) -> None:
        """What is held follows the mouse."""
        free = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if self.grip is not None:
            self.grip.follow(event.position(), event.modifiers())
        elif self.box is not None:
            self.box = (self.box[0], event.position())
        elif self.edges:
            self._draw(event.position(), free)
        elif self.carrying is not None:
            self._carry_to(event.position(), free)

    def release(self) -> None:
        """Let go."""
        if self.box is not None:
            self._choose_in(QRectF(*self.box).normalized())
        if self.grip is not None:
            self.grip.let_go()
        self.edges, self.carrying, self.box, self.grip, self._copies = (), None, None, None, False

    def _draw(self, at: QPointF, free: bool) -> None:
        session, edges = self.bench.session, self.edges
        block, place = session.view.block, self.bench.to_points(at)
        near = DRAWN_PIXELS / self.bench.scale()
        if block is not None:
            words = f"{' and '.join(edges)} edge"
            session.edit(lambda p: draw_edge(p, block, edges, place, free, near), words, f"draw {block} {words}")

    def _carry_to(self, at: QPointF, free: bool) -> None:
        session = self.bench.session
        if self._copies:
            self._copies = False
            self._copy()
        held = self._held_by_fields()
        if held is not None and not free and self.done == (0.0, 0.0):
            self._carry_by_fields(held, at)
            return
        x, y = self.bench.to_points(at)
        wanted = (x - self.start[0], y - self.start[1])
        if not free and self.carrying is not None and session.view.chosen:
            box, near = self.carrying.moved(*wanted), DRAWN_PIXELS / self.bench.scale()
            by = drawn_in(session.publication, session.view.chosen[-1], box, near)
            wanted = (wanted[0] + by[0], wanted[1] + by[1])
        step = (wanted[0] - self.done[0], wanted[1] - self.done[1])
        names = session.view.chosen
        if session.edit(lambda p: shift_things(p, names, *step), "moved", self.joining):
            self.done = wanted

    def _copy(self) -> None:
        """A copy of what is chosen lies on it, and is what is carried on; both are one step of undo."""
        session, made = self.bench.session, list[str]()

        def make(publication: Publication) -> Publication:
            publication, copies = double_things(publication, session.view.chosen, (0.0, 0.0))
            made.extend(copies)
            return publication

        if session.edit(make, "copied", self.joining):
            session.view.choose(made)
        else:
            self.carrying = None

    def _held_by_fields(self) -> str | None:
        """The one block that is carried, where it is held by its edges: it goes from field to field."""
        block = self.bench.session.view.block
        if block is None:
            return None
        place = page_of_block(self.bench.session.publication, block)[2].place
        return block if isinstance(place, Held) else None

    def _carry_by_fields(self, block: str, at: QPointF) -> None:
        session = self.bench.session
        start, now = self.bench.cell_at(self.bench.from_points(self.start)), self.bench.cell_at(at)
        if start is None or now is None or start == now:
            return
        across, down = now[0] - start[0], now[1] - start[1]
        before = session.publication
        session.edit(lambda p: edits.move(p, block, across, down), "moved a block", self.joining)
        if session.publication is not before:
            self.start = self.bench.to_points(at)

    def _choose_in(self, box: QRectF) -> None:
        (left, top), (right, bottom) = map(self.bench.to_points, (box.topLeft(), box.bottomRight()))
        session = self.bench.session
        found = things_within(session.publication, session.view.spread, Rect(left, top, right, bottom))
        session.view.choose(found)

    # Painting -----------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """The box that is being drawn, and beside the pointer how far something is turned or scaled."""
        if self.grip is not None:
            self.grip.paint(painter)
        if self.grip is not None and self.grip.says and self.bench.pointer is not None:
            label_pill(painter, self.bench.pointer + QPointF(0, PILL_ABOVE), self.grip.says)
        if self.box is not None:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 1, Qt.PenStyle.DashLine))
            painter.setBrush(tokens.colour(tokens.LODEN, 0.08))
            painter.drawRect(QRectF(*self.box).normalized())
