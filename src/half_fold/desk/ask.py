"""Ask: a line in which a user says in plain words what is wanted, and the answers under it."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QEvent, QObject, QRect, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QFrame, QLineEdit, QVBoxLayout, QWidget

from half_fold.core.paths.ask import MOST, Match, Wish, answers
from half_fold.desk.theme import tokens

WIDTH, ROW, MARGIN = 600, 30, 10
ASKS = "say what you want: see-through, line round it, page 14, 12 pt"
MOST_RECENT = 12


class AnswerList(QWidget):
    """The answers, one a row: what, of what, and its value or its key."""

    taken = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[tuple[str, str, str, bool]] = []
        self.at = 0
        self.setAccessibleName("Answers")

    def show_rows(self, rows: list[tuple[str, str, str, bool]]) -> None:
        """Show rows of (what, of what, value or key, whether it can be done here)."""
        self.rows, self.at = rows, 0
        self.setFixedHeight(max(1, len(rows)) * ROW)
        self._say()

    def go(self, step: int) -> None:
        """To the answer below or above."""
        self.at = min(max(self.at + step, 0), max(0, len(self.rows) - 1))
        self._say()

    def _say(self) -> None:
        self.setAccessibleDescription(", ".join(filter(None, self.rows[self.at][:3])) if self.rows else "no answer")
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if not self.rows:
            painter.setFont(tokens.font(tokens.BASE))
            painter.setPen(tokens.colour(tokens.QUIET))
            painter.drawText(self.rect().adjusted(4, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, "nothing by that name")
        for at, (what, where, value, is_here) in enumerate(self.rows):
            self._paint_row(
                painter, QRect(0, at * ROW, self.width(), ROW), (what, where, value), is_here, at == self.at
            )

    def _paint_row(
        self, painter: QPainter, area: QRect, words: tuple[str, str, str], is_here: bool, chosen: bool
    ) -> None:
        if chosen:
            painter.fillRect(area, tokens.colour(tokens.LODEN, 0.12))
        inner = area.adjusted(8, 0, -8, 0)
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.setFont(tokens.font(tokens.BASE, tokens.MEDIUM))
        painter.setPen(tokens.colour(tokens.INK if is_here else tokens.QUIET))
        painter.drawText(inner, middle, words[0])
        wide = painter.fontMetrics().horizontalAdvance(words[0]) + 10
        painter.setFont(tokens.font(tokens.BASE, tokens.MEDIUM))
        value = painter.fontMetrics().elidedText(words[2], Qt.TextElideMode.ElideRight, inner.width() // 3)
        room = inner.width() - wide - painter.fontMetrics().horizontalAdvance(value) - 12
        painter.setPen(tokens.colour(tokens.LODEN if is_here else tokens.QUIET))
        painter.drawText(inner, middle | Qt.AlignmentFlag.AlignRight, value)
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.QUIET))
        where = painter.fontMetrics().elidedText(words[1], Qt.TextElideMode.ElideRight, max(0, room))
        painter.drawText(inner.adjusted(wide, 0, 0, 0), middle, where)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        at = int(event.position().y() // ROW)
        if at < len(self.rows):
            self.at = at
            self.taken.emit(at)


class Ask(QFrame):
    """Asks for one thing; a property that is meant without a value is asked for that in the same line."""

    def __init__(self, parent: QWidget, take: Callable[[Wish, str], bool]) -> None:
        super().__init__(parent)
        self._take = take
        self._wishes: Sequence[Wish] = ()
        self._answers: list[Match] = []
        self.wish: Wish | None = None  # whose value is asked for
        self.recent: list[str] = []
        self.setObjectName("card")
        self.setFrameShape(QFrame.Shape.Box)
        self.setAutoFillBackground(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(MARGIN, MARGIN, MARGIN, MARGIN)
        self.line = QLineEdit()
        self.line.setAccessibleName("Ask")
        self.line.setFont(tokens.font(tokens.SECTION))
        self.line.textEdited.connect(self._look)
        self.line.installEventFilter(self)
        self.list = AnswerList()
        self.list.taken.connect(lambda _: self._enter())
        column.addWidget(self.line)
        column.addWidget(self.list)
        self.hide()

    def begin(self, wishes: Sequence[Wish], area: QRect) -> None:
        """Ask, over an area of the window."""
        self._wishes, self.wish = tuple(wishes), None
        width = min(WIDTH, area.width() - 24)
        self.setFixedWidth(width)
        self.move(area.center().x() - width // 2, area.top() + 36)
        self.line.setPlaceholderText(ASKS)
        self.line.clear()
        self._look("")
        self.show()
        self.raise_()
        self.line.setFocus()

    def _look(self, said: str) -> None:
        if self.wish is not None:
            self._look_for_value(said)
            return
        self._answers = answers(self._wishes, said, MOST, self.recent)
        self._show([_row(answer) for answer in self._answers])

    def _look_for_value(self, said: str) -> None:
        """The choices that a value may be, as far as they are meant."""
        assert self.wish is not None
        meant = [(v, w) for v, w in self.wish.choices if said.lower() in w.lower() or said.lower() == v.lower()]
        self._answers = [Match(self.wish, value) for value, _ in meant[:MOST]]
        if not self.wish.choices:
            self._answers = [Match(self.wish, said)] if said.strip() else []
        rows = [(words, self.wish.label, "", True) for _, words in meant[:MOST]]
        self._show(rows or [(said or f"now {self.wish.value or 'nothing'}", self.wish.label, "Enter sets it", True)])

    def _show(self, rows: list[tuple[str, str, str, bool]]) -> None:
        self.list.show_rows(rows)
        self.list.setVisible(bool(rows) or bool(self.line.text().strip()))
        self.adjustSize()

    def _enter(self) -> None:
        if not 0 <= self.list.at < len(self._answers):
            return
        answer = self._answers[self.list.at]
        if self.wish is None and answer.wish.path and not answer.typed and not answer.wish.not_here:
            self._ask_value(answer.wish)
        elif self._take(answer.wish, answer.typed):
            self._note(answer.wish.label)
            self.end()

    def _ask_value(self, wish: Wish) -> None:
        self.wish = wish
        self.line.clear()
        self.line.setPlaceholderText(f"{wish.label} of {wish.where}")
        self._look("")

    def _note(self, label: str) -> None:
        self.recent = [label, *(each for each in self.recent if each != label)][:MOST_RECENT]

    def end(self) -> None:
        """Put the line away."""
        self.hide()
        self._wishes, self.wish = (), None

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Arrows go through the answers; Enter takes one; Escape, or leaving the line, puts it away."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            return self._key(event)
        if event is not None and event.type() == QEvent.Type.FocusOut and self.isVisible():
            self.end()
        return super().eventFilter(watched, event)

    def _key(self, event: QKeyEvent) -> bool:
        key = event.key()
        if key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            self.list.go(1 if key == Qt.Key.Key_Down else -1)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._enter()
        elif key == Qt.Key.Key_Escape:
            self.end()
        elif key == Qt.Key.Key_Backspace and self.wish is not None and not self.line.text():
            self.wish = None
            self.line.setPlaceholderText(ASKS)
            self._look("")
        else:
            return False
        return True


def _row(answer: Match) -> tuple[str, str, str, bool]:
    wish = answer.wish
    if wish.not_here:
        return wish.label, wish.not_here, "", False
    if answer.typed:
        words = dict(wish.choices).get(answer.typed, answer.typed)
        return wish.label, wish.where, f"{words} {wish.unit if wish.unit in ('%', '°') else ''}".strip(), True
    return wish.label, wish.where, _shown(wish), True


def _shown(wish: Wish) -> str:
    """Its value as it is now, or the key that does the same."""
    return wish.key if not wish.path else dict(wish.choices).get(wish.value, wish.value)
