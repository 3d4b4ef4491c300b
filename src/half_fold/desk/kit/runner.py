"""A short steel rule with a pointer under it: a number between two ends, set by dragging or by the arrow keys."""

from PyQt6.QtCore import QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from half_fold.desk.theme import tokens

HEIGHT = 18
_TICKS = 10
_POINTER = 5
_STEPS = 20  # from end to end by arrow keys
_BACK = (Qt.Key.Key_Left, Qt.Key.Key_Down)
_ON = (Qt.Key.Key_Right, Qt.Key.Key_Up)


class Runner(QWidget):
    """``taken`` tells the number once the pointer is let go; ``passed`` what it stands at meanwhile."""

    passed = pyqtSignal(float)
    taken = pyqtSignal(float)

    def __init__(self, least: float, most: float) -> None:
        super().__init__()
        self.least, self.most, self.at = least, most, least
        self._step = 1.0 if most - least >= 2 * _STEPS else (most - least) / 10 / _STEPS
        self._held: float | None = None  # what it stood at before the drag
        self.setFixedHeight(HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setToolTip("Drag, or left and right")

    def sizeHint(self) -> QSize:
        return QSize(120, HEIGHT)

    def stand(self, at: float) -> None:
        """Show that number; not while the pointer is held."""
        if self._held is None:
            self.at = min(max(at, self.least), self.most)
            self.update()

    def _x(self, number: float) -> float:
        return _POINTER + (number - self.least) / (self.most - self.least) * (self.width() - 2 * _POINTER - 1)

    def _number(self, x: float) -> float:
        share = (x - _POINTER) / max(1.0, self.width() - 2 * _POINTER - 1)
        number = self.least + min(1.0, max(0.0, share)) * (self.most - self.least)
        return round(round(number / self._step) * self._step, 4)

    def _pass(self, number: float) -> None:
        self.at = number
        self.update()
        self.passed.emit(number)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._held = self.at
        self._pass(self._number(event.position().x()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._held is not None:
            self._pass(self._number(event.position().x()))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._held is not None:
            before, self._held = self._held, None
            if self.at != before:
                self.taken.emit(self.at)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = event.key()
        if key == Qt.Key.Key_Escape and self._held is not None:
            before, self._held = self._held, None
            self._pass(before)
        elif key in (*_BACK, *_ON):
            step = (self.most - self.least) / _STEPS * (-1 if key in _BACK else 1)
            number = min(self.most, max(self.least, self.at + step))
            if number != self.at:
                self._pass(number)
                self.taken.emit(self.at)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(tokens.colour(tokens.QUIET))
        base = 8.5
        painter.drawLine(QPointF(self._x(self.least), base), QPointF(self._x(self.most), base))
        for tick in range(_TICKS + 1):
            x = self._x(self.least + (self.most - self.least) * tick / _TICKS)
            painter.drawLine(QPointF(x, base), QPointF(x, base - (6 if tick % 5 == 0 else 3)))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(tokens.colour(tokens.LODEN))
        x = self._x(self.at)
        painter.drawPolygon(
            QPolygonF([QPointF(x, base), QPointF(x - _POINTER, HEIGHT - 1), QPointF(x + _POINTER, HEIGHT - 1)])
        )
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(tokens.colour(tokens.LODEN))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
