"""The furniture of a master, edited in place: dragged to its line and side, its words typed where they stand."""

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPen
from PyQt6.QtWidgets import QLineEdit

from half_fold.core.drawing.marks import DisplayList
from half_fold.core.grid.frame import PageFrame
from half_fold.core.publication.records import Furniture, Publication
from half_fold.core.spread.edits.masters import (
    NEW_PIECES,
    add_furniture,
    hide_furniture,
    remove_furniture,
    with_furniture,
)
from half_fold.core.spread.setting.furniture import PlacedPiece, moved_to
from half_fold.desk.paint.painter import paint
from half_fold.desk.stations.grid.at_work import AtWork
from half_fold.desk.stations.grid.bench import MasterBench
from half_fold.desk.theme import tokens

NEAR = 5.0
NEW = {Qt.Key.Key_N: "words", Qt.Key.Key_R: "rule"}


class FurnitureBench(MasterBench):
    """Left and right page of the master with all that repeats on them; one piece may be selected."""

    def __init__(self, station: AtWork) -> None:
        super().__init__(station)
        self.selected = ""
        self._dragging: PageFrame | None = None
        self.editor: QLineEdit | None = None
        self.setAccessibleName("Furniture of the master")

    def placed(self) -> list[tuple[int, PageFrame, PlacedPiece]]:
        """(page number, its frame, piece) of all that stands on the two pages."""
        session, master = self.session, self.station.master()
        return [
            (number, frame, piece)
            for number, frame in self.frames()
            for piece in session.setter.furniture.pieces(session.publication, master, frame, number, every=True)
        ]

    def piece(self) -> Furniture | None:
        """The selected piece, as the master has it."""
        return next((each for each in self.station.master().furniture if each.id == self.selected), None)

    def paint_over(self, painter: QPainter) -> None:
        for number, _, placed in self.placed():
            self.paint_marks(painter, placed)
            box = self.to_widget(placed.box).adjusted(-NEAR, -NEAR, NEAR, NEAR)
            chosen = placed.piece.id == self.selected
            shy = placed.piece.id in self.session.publication.pages[number - 1].without
            style = Qt.PenStyle.SolidLine if chosen else Qt.PenStyle.DotLine
            colour = tokens.OCHRE if shy else tokens.LODEN
            painter.setPen(QPen(tokens.colour(colour, 1.0 if chosen else 0.6), 2 if chosen else 1, style))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(box)

    def paint_marks(self, painter: QPainter, placed: PlacedPiece) -> None:
        """The furniture itself, as it prints."""
        scale, origin = self.scale(), self.origin()
        painter.save()
        painter.translate(origin)
        painter.scale(scale, scale)
        paint(painter, DisplayList(placed.box, placed.marks), self.session.proxies.image)
        painter.restore()

    def _at(self, at: QPointF) -> tuple[PageFrame, PlacedPiece] | None:
        for _, frame, placed in reversed(self.placed()):
            box = self.to_widget(placed.box)
            within_it = placed.piece.kind == "frame" and box.adjusted(NEAR, NEAR, -NEAR, -NEAR).contains(at)
            if box.adjusted(-NEAR, -NEAR, NEAR, NEAR).contains(at) and not within_it:
                return frame, placed
        return None

    def select(self, piece: str) -> None:
        """Have that piece's rows in the working column."""
        self.selected = piece
        self.update()
        self.station.turned.emit()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        found = self._at(event.position())
        self._dragging = found[0] if found is not None else None
        self.select(found[1].piece.id if found is not None else "")

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pointer = event.position()
        piece = self.piece()
        if (
            self._dragging is not None
            and piece is not None
            and piece.kind != "frame"
            and event.buttons() & Qt.MouseButton.LeftButton
        ):
            self._drag(piece, self._dragging, event.position())
        self.station.moved.emit()

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        self._dragging = None
        self.session.history.pause()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._at(event.position()) is not None:
            self.open_editor()

    def _drag(self, piece: Furniture, frame: PageFrame, at: QPointF) -> None:
        moved = moved_to(piece, frame, *self.to_points(at))
        if moved != piece:
            name = self.station.master().name
            self.session.edit(lambda p: with_furniture(p, name, moved), "furniture moved", f"drag {piece.id}")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, piece = Qt.Key(event.key()), self.piece()
        if self.view_key(event):
            return
        if key in NEW:
            self.add(NEW_PIECES[NEW[key]])
        elif key == Qt.Key.Key_Tab or key == Qt.Key.Key_Backtab:
            self._next(-1 if key == Qt.Key.Key_Backtab else 1)
        elif piece is not None and key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.open_editor()
        elif piece is not None and key == Qt.Key.Key_Delete:
            name = self.station.master().name
            self.session.edit(lambda p: remove_furniture(p, name, piece.id), "furniture taken out")
        elif piece is not None and key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            outward = (key == Qt.Key.Key_Up) == (piece.at == "head")
            self.station.set_piece("lines", f"{max(0.0, piece.lines + (0.5 if outward else -0.5)):g}")
        elif piece is not None and key == Qt.Key.Key_H:
            self.hide_here(piece)
        else:
            super().keyPressEvent(event)

    def focusNextPrevChild(self, on: bool) -> bool:
        """Tab goes through the pieces first; behind the last it leaves the bench."""
        ids = [each.id for each in self.station.master().furniture]
        at = ids.index(self.selected) if self.selected in ids else -1
        after = at + (1 if on else -1)
        if 0 <= after < len(ids):
            self.select(ids[after])
            return True
        return super().focusNextPrevChild(on)

    def _next(self, by: int) -> None:
        ids = [each.id for each in self.station.master().furniture]
        if ids:
            at = ids.index(self.selected) if self.selected in ids else -1
            self.select(ids[(at + by) % len(ids)])

    def add(self, piece: Furniture) -> None:
        """A piece more; it is selected, and its words wait to be typed."""
        name, made = self.station.master().name, [""]

        def make(publication: Publication) -> Publication:
            changed, made[0] = add_furniture(publication, name, piece)
            return changed

        if self.session.edit(make, "furniture added"):
            self.select(made[0])

    def hide_here(self, piece: Furniture) -> None:
        """Hide or show a piece on the page in view alone."""
        number = self.session.view.page
        hidden = piece.id in self.session.publication.pages[number - 1].without
        words = "shown" if hidden else "hidden"
        self.session.edit(lambda p: hide_furniture(p, number, piece.id, not hidden), f"{words} on page {number}")

    def open_editor(self) -> None:
        """Type the words of the selected piece where they stand."""
        piece = self.piece()
        if piece is None or piece.kind != "words":
            return
        box = next(placed.box for _, _, placed in self.placed() if placed.piece.id == piece.id)
        editor = self.editor = _WordsEditor(self, piece.words)
        place = self.to_widget(box).toRect()
        width = 260
        editor.setGeometry(min(place.x() - 6, self.width() - width - 8), place.y() - 8, width, 30)
        editor.show()
        editor.setFocus()

    def close_editor(self) -> None:
        """Take the field away in which words of furniture are typed."""
        if self.editor is not None:
            editor, self.editor = self.editor, None
            editor.hide()
            editor.deleteLater()
            self.setFocus()

    def take_words(self, words: str) -> None:
        """Set the words of the chosen piece as they were typed."""
        self.station.set_piece("words", words)
        self.close_editor()


class _WordsEditor(QLineEdit):
    """Return takes the words, Escape leaves them."""

    def __init__(self, bench: FurnitureBench, words: str) -> None:
        super().__init__(words, bench)
        self._bench = bench
        self.setFont(tokens.font(tokens.BASE))
        self.setAccessibleName("Words of the furniture")
        self.selectAll()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self._bench.close_editor()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._bench.take_words(self.text())
        else:
            super().keyPressEvent(event)
