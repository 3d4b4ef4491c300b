"""The bench of Spreads: claiming fields, choosing blocks, reaching and moving with the mouse and the keys."""

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPen, QWheelEvent
from PyQt6.QtWidgets import QWidget

from half_fold.core.grid.stops import Edge
from half_fold.core.publication.records import Block, Group, HoldsDisplay, HoldsPicture
from half_fold.core.publication.surgery import is_free, page_of_block, page_of_thing
from half_fold.core.spread.edits import edits
from half_fold.core.spread.where.reaching import reach
from half_fold.desk.stations.spreads.ruled_bench import RuledBench
from half_fold.desk.stations.spreads.tools.arranger import Arranger
from half_fold.desk.stations.spreads.tools.chooser import Chooser, Entry
from half_fold.desk.stations.spreads.tools.chosen import paint_chosen
from half_fold.desk.stations.spreads.tools.easel import Easel
from half_fold.desk.stations.spreads.tools.fader import Fader
from half_fold.desk.stations.spreads.tools.hand import Hand
from half_fold.desk.stations.spreads.tools.in_place import WordsInPlace
from half_fold.desk.stations.spreads.tools.knife import Knife
from half_fold.desk.stations.spreads.tools.marker import Marker
from half_fold.desk.stations.spreads.tools.picker import Picker
from half_fold.desk.stations.spreads.tools.reader import Reader
from half_fold.desk.stations.spreads.tools.scissors import Scissors
from half_fold.desk.stations.spreads.tools.several import Several
from half_fold.desk.stations.spreads.tools.unlit import Unlit
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

DRAG_FROM = 6
ARROWS: dict[int, tuple[Edge, int, int]] = {
    Qt.Key.Key_Left.value: ("left", -1, 0),
    Qt.Key.Key_Right.value: ("right", 1, 0),
    Qt.Key.Key_Up.value: ("top", 0, -1),
    Qt.Key.Key_Down.value: ("bottom", 0, 1),
}


class SpreadBench(RuledBench):
    """Drag across fields to claim them; a drag from a selected block moves it by fields."""

    moved = pyqtSignal()  # the pointer
    claimed = pyqtSignal(tuple, tuple, QPoint)  # fields between two places of spread space, and where on the screen
    wants_drawer = pyqtSignal(str)  # a leaf of it
    wants_edit = pyqtSignal()  # of what the chosen block holds
    wants_arranging = pyqtSignal()
    drawer_away = pyqtSignal(bool)

    def __init__(self, session: Workpiece) -> None:
        super().__init__(session)
        self.setAccessibleName("Spread")
        self.chooser: Chooser | None = None
        self._from: QPointF | None = None
        self._claiming = False
        self._begun = False
        self._toggled: str | None = None
        self._cursor: tuple[int, int] | None = None
        self._anchor: tuple[int, int] | None = None
        self._space_held = False
        self.unlit = Unlit(session)
        self._panning: QPointF | None = None
        self._may_claim = False
        self.knife, self.scissors, self.easel, self.marker = Knife(self), Scissors(self), Easel(self), Marker(self)
        self.arranger, self.reader, self.picker, self.fader = Arranger(self), Reader(self), Picker(self), Fader(self)
        self.hand = Hand(self)
        self.several = Several(self)
        self.writing: WordsInPlace | None = None
        self.claim: tuple[tuple[float, float], tuple[float, float]] | None = None  # while what goes there is chosen

    def picture_chosen(self, then: str) -> Block | None:
        """The block of the picture that is chosen and not locked; with none it is said what ``then`` could be done."""
        session = self.session
        found = page_of_block(session.publication, session.view.block)[2] if session.view.block is not None else None
        if found is not None and isinstance(found.holds, HoldsPicture) and is_free(session.publication, found.id):
            return found
        session.said.emit(f"Choose a picture first, one that is not locked; then {then}.")
        return None

    def as_widget(self) -> QWidget:
        return self

    def choose_among(self, entries: Sequence[Entry], at: QPoint) -> Chooser:
        """Ask which of some entries, at a place of the screen."""
        self.chooser = Chooser(self, entries)
        self.chooser.open_at(at)
        return self.chooser

    def clear_drawer(self, away: bool) -> None:
        """Have the drawer out of the way, or back."""
        self.drawer_away.emit(away)

    def mark(self, way: str) -> None:
        """Take the marker up over the chosen picture, in the way of that key."""
        self.marker.take_up(way)

    # Painting -----------------------------------------------------------------------------------

    def paint_over(self, painter: QPainter) -> None:
        if self.arranger.work:
            self.arranger.look_again()
        elif self.tool.work and self.tool.block != (self.session.view.block or ""):
            self.tool.put_down()  # another block is chosen, or that one is gone
        self.rulers.paint(painter, self.pointer, self.selection_box())
        for paint in (
            self._paint_said, self._paint_claim, self.reader.paint, partial(paint_chosen, self), self._paint_cursor,
            self.tool.paint, self.hand.paint,
        ):  # fmt: skip
            painter.save()  # what one leaves in the painter is nothing to the next
            paint(painter)
            painter.restore()

    def _paint_cursor(self, painter: QPainter) -> None:
        if not self.session.view.chosen and self._cursor is not None and self.hasFocus():
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 1.5, Qt.PenStyle.DashLine))
            painter.setBrush(tokens.colour(tokens.LODEN, 0.18))
            painter.drawRect(self.to_widget(self._cell_rect(self._anchor or self._cursor, self._cursor)))

    def _paint_claim(self, painter: QPainter) -> None:
        cell = self.cell_at(self.pointer) if self.pointer is not None else None
        if self._claiming and self._from is not None and self.pointer is not None:
            self._paint_claimed(painter, self.to_points(self._from), self.to_points(self.pointer))
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self._from, self.pointer).normalized())
        elif self.claim is not None:
            self._paint_claimed(painter, *self.claim)
        elif cell is not None and self.show_fields and self._hit(self.pointer) is None:
            painter.fillRect(self.to_widget(self._cell_rect(cell, cell)), tokens.colour(tokens.LODEN, 0.1))

    @property
    def tool(self) -> Knife | Scissors | Easel | Marker | Arranger | Picker | Fader:
        """What is at work; the knife, which may not be, where nothing else is."""
        every = self.arranger, self.scissors, self.marker, self.easel, self.picker, self.fader
        return next((tool for tool in every if tool.work), self.knife)

    # Mouse --------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        if event.button() == Qt.MouseButton.MiddleButton:
            self._panning = event.position()
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self.tool.work:
            self.tool.press(event.position(), event.modifiers())
            return
        self._from, self._cursor, self._anchor, self._may_claim = event.position(), None, None, False
        self._toggled = None
        held = event.modifiers()
        hit, edges = self._hit(event.position()), self.hand.edges_at(event.position())
        control, shift = (
            bool(held & each) for each in (Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier)
        )
        if (grip := self.hand.grip_at(event.position(), control)) is not None:
            self.hand.grip = grip
        elif control and (shift or hit is None):
            self.hand.begin_box(event.position())
        elif control:
            self._take(hit, event.position(), copies=True)
        elif shift:
            self._may_claim, self._toggled = True, hit
        elif edges:
            self.hand.take_edges(edges)
        else:
            self._take(hit, event.position())
        self._go_to_page_at(event.position())

    def _take(self, hit: str | None, at: QPointF, copies: bool = False) -> None:
        """Choose what was pressed and hold it, with all that is chosen where it is among that."""
        self._may_claim = hit is None
        if hit not in self.session.view.chosen:
            self.session.view.select(hit)
        if hit is not None:
            self.hand.carry(at, copies)

    def _go_to_page_at(self, at: QPointF) -> None:
        x, _ = self.to_points(at)
        spread = self.session.view.spread
        number = spread.left if not self.frame_at(x).on_right else spread.right
        if number is not None:
            self.session.view.go_to(number)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pointer = event.position()
        if self._panning is not None and event.buttons() & Qt.MouseButton.MiddleButton:
            self.viewing.pan(self._fitted(), event.position() - self._panning)
            self._panning = event.position()
        if self._from is not None and event.buttons() & Qt.MouseButton.LeftButton:
            if (event.position() - self._from).manhattanLength() > DRAG_FROM:
                self._begun = True
            if self._begun and self._may_claim:
                self._claiming, self._toggled = True, None
            elif self._begun:
                self.hand.move(event)
        elif self.tool.work:
            self.tool.move(event.position())
        else:
            self.hand.show_cursor(event.position())
        self.moved.emit()
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self.tool.work:
            self.tool.release(event.position())
            return
        start, self._from, self._begun = self._from, None, False
        self.hand.release()
        self.session.history.pause()
        if self._toggled is not None:
            self.session.view.add_or_drop(self._toggled)
            self._toggled = None
        if self._claiming and start is not None:
            self._claiming = False
            self.claimed.emit(self.to_points(start), self.to_points(event.position()), event.globalPosition().toPoint())
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self.easel.work or self.fader.work:
            (self.easel if self.easel.work else self.fader).double(self.to_points(event.position()))
            return
        if self.tool.work:
            self.tool.close()
            return
        hit = self._hit(event.position())
        if hit is not None:
            self._open(hit, event.position())

    def _open(self, name: str, at: QPointF) -> None:
        """Into a group; words are written where they stand; all else is opened in its drawer."""
        self.hand.release()
        index, _, found = page_of_thing(self.session.publication, name)
        if isinstance(found, Group):
            self.session.view.inside = name
            inner = self._hit(at)
            self.session.view.enter(name, inner or name)
            return
        self.session.view.select(name)
        if isinstance(found.holds, HoldsDisplay) and is_free(self.session.publication, name):
            self.writing = WordsInPlace(self, index + 1, found)
            self.writing.away.connect(self._stop_writing)
        elif isinstance(found.holds, HoldsPicture) and is_free(self.session.publication, name):
            self.easel.take_up()
        else:
            self.wants_edit.emit()

    def _stop_writing(self, back: bool) -> None:
        self.writing = None
        if back:
            self.setFocus()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        if self.easel.work or self.picker.work:
            (self.easel if self.easel.work else self.picker).wheel(event)
        else:
            super().wheelEvent(event)

    def leaveEvent(self, event: QEvent | None) -> None:
        self.pointer = None
        self.update()
        super().leaveEvent(event)

    # Keys ---------------------------------------------------------------------------------------

    def event(self, event: QEvent | None) -> bool:
        """Tab goes from block to block while the bench has the focus, and on when they are through."""
        if (
            isinstance(event, QKeyEvent)
            and event.type() == event.Type.KeyPress
            and event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab)
        ):
            blocks = self.several.in_order()
            step = 1 if event.key() == Qt.Key.Key_Tab else -1
            last = self.session.view.chosen[-1] if self.session.view.chosen else None
            at = blocks.index(last) + step if last in blocks else (0 if step > 0 else len(blocks) - 1)
            if blocks and 0 <= at < len(blocks):
                self.session.view.select(blocks[at])
                return True
            self.session.view.select(None)
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, held = event.key(), event.modifiers()
        if self.tool.key(event):
            return
        if key in ARROWS:
            self._arrow(ARROWS[key], held)
        elif held & Qt.KeyboardModifier.ControlModifier and key == Qt.Key.Key_A:
            self.session.view.choose(self.several.in_order())
        elif self.several.key(event):
            pass
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._enter()
        elif key == Qt.Key.Key_Escape:
            self._cursor = self._anchor = None
            self.several.leave()
        elif key == Qt.Key.Key_Space and not event.isAutoRepeat():
            self.as_trimmed = self._space_held = True
        elif key == Qt.Key.Key_E and held == Qt.KeyboardModifier.NoModifier:
            self.as_it_came = True
            self.unlit.show(True)
        elif not (self.view_key(event) or self._letter(event)):
            super().keyPressEvent(event)
            return
        self.update()

    def turn_trimmed(self) -> None:
        """Show it as it will be trimmed, or with its aids again."""
        self.as_trimmed = not self.as_trimmed
        self.update()

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Space and self._space_held and not event.isAutoRepeat():
            self.as_trimmed = self._space_held = False
            self.update()
        if event.key() == Qt.Key.Key_E and not event.isAutoRepeat():
            self.as_it_came = False
            self.unlit.show(False)
            self.update()
        super().keyReleaseEvent(event)

    def _letter(self, event: QKeyEvent) -> bool:
        """Whether a letter, with Shift or without, takes up a tool, shows something or opens a leaf of the drawer."""
        if event.modifiers() & ~Qt.KeyboardModifier.ShiftModifier:
            return False
        open_leaf, knife = self.wants_drawer.emit, self.knife.take_up
        acts: dict[str, Callable[[], object]] = {
            "P": self.turn_trimmed, "Shift+P": self.picker.take_up, "Q": self.show_on_paper, "J": self.show_clipped,
            "F": self._show_fields, "Shift+F": self.fader.take_up, "Shift+E": self.show_split, "Z": self.reader.show,
            "I": partial(open_leaf, "pictures"), "S": partial(open_leaf, "stories"), "W": partial(open_leaf, "slips"),
            "D": partial(knife, "outline"), "C": partial(knife, "cut"), "Shift+C": self.scissors.take_up,
            "R": self.easel.take_up, "Shift+R": self.show_rulers, "Y": self.wants_arranging.emit,
        }  # fmt: skip
        held = "Shift+" if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else ""
        act = acts.get(held + event.text().upper())
        if act is not None:
            act()
        return act is not None

    def _show_fields(self) -> None:
        self.show_fields = not self.show_fields

    def _arrow(self, arrow: tuple[Edge, int, int], held: Qt.KeyboardModifier) -> None:
        edge, across, down = arrow
        block, shift = self.session.view.block, bool(held & Qt.KeyboardModifier.ShiftModifier)
        if not self.session.view.chosen:
            self._move_cursor(across, down, shift)
        elif held & Qt.KeyboardModifier.ControlModifier:
            self.several.nudge(across, down, shift)
        elif block is None:
            self.several.step(across, down)
        elif held & Qt.KeyboardModifier.AltModifier:
            self.session.edit(lambda p: reach(p, block, edge, not shift), f"{edge} edge")
        else:
            self.session.edit(lambda p: edits.move(p, block, across, down), "moved a block")

    def _move_cursor(self, across: int, down: int, extend: bool) -> None:
        """A cursor of fields, for claiming by keyboard; with Shift it stretches."""
        columns, rows = self.cells()
        if self._cursor is None:
            spread = self.session.view.spread
            on_right = spread.left is not None and self.session.view.page == spread.right
            self._cursor = (len(columns) // 2 if on_right else 0, 0)
            self._anchor = self._cursor
            return
        column = min(max(self._cursor[0] + across, 0), len(columns) - 1)
        row = min(max(self._cursor[1] + down, 0), len(rows) - 1)
        self._cursor = (column, row)
        if not extend:
            self._anchor = self._cursor

    def _enter(self) -> None:
        if self.session.view.block is not None:
            self.wants_edit.emit()
        elif self.session.view.chosen:
            self.several.enter()
        elif self._cursor is not None:
            rect = self._cell_rect(self._anchor or self._cursor, self._cursor)
            area = self.to_widget(rect)
            self.claimed.emit(
                (rect.left + 1, rect.top + 1),
                (rect.right - 1, rect.bottom - 1),
                self.mapToGlobal(area.center().toPoint()),
            )
