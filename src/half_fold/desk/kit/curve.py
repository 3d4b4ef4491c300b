"""A curve of tone drawn by hand over the histogram of what it makes."""

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from half_fold.core.pictures.colour.curves import MOST, Places, curve_at, format_curve
from half_fold.desk.kit.plain import label
from half_fold.desk.kit.rows import Curve
from half_fold.desk.theme import tokens

HIGH, NEAR, FAR = 150, 9.0, 26.0  # pixels: how high it is, what takes hold of a place, what throws one away
STEP = 1.0  # per cent that a key moves a place
CLIPPED = 0.002  # of the pixels at an end of the histogram, from where on it is marked


class CurveField(QWidget):
    """The curve of one channel. Drag places, press to add one, drag one out of the field to take it away.

    Left and right choose a place, with Alt they move it; up and down raise and lower it. Insert adds, Delete removes.
    """

    def __init__(self, curve: Curve) -> None:
        super().__init__()
        self.curve, self.channel, self.chosen = curve, 0, 0
        self._held: int | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(HIGH)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._tell()

    def _tell(self) -> None:
        name, places = self.curve.names[self.channel], self.places
        self.setAccessibleName(f"Curve of {name}")
        self.setAccessibleDescription(format_curve(places) or "straight")

    @property
    def places(self) -> Places:
        """The places of the channel that is shown."""
        return self.curve.places[self.channel]

    def show_curve(self, curve: Curve) -> None:
        """Other places, or another histogram."""
        self.curve = curve
        self.chosen = min(self.chosen, max(0, len(self.places) - 1))
        self._tell()
        self.update()

    def show_channel(self, channel: int) -> None:
        """All of them, or red, green or blue."""
        self.channel, self.chosen = channel, 0
        self._tell()
        self.update()

    # Places -----------------------------------------------------------------------------------------------------------

    def at(self, place: tuple[float, float]) -> QPointF:
        """Where a place of the curve lies in the field."""
        return QPointF(place[0] / 100 * (self.width() - 1), (1 - place[1] / 100) * (self.height() - 1))

    def _place(self, at: QPointF) -> tuple[float, float]:
        across = at.x() / max(1, self.width() - 1) * 100
        down = (1 - at.y() / max(1, self.height() - 1)) * 100
        return round(min(max(across, 0.0), 100.0), 1), round(min(max(down, 0.0), 100.0), 1)

    def _take(self, places: Sequence[tuple[float, float]], chosen: tuple[float, float] | None = None) -> None:
        made = tuple(sorted(dict(places).items()))
        if chosen is not None and chosen in made:
            self.chosen = made.index(chosen)
        self.curve.take(self.channel, format_curve(made))

    # Mouse and keys ---------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self.setFocus()
        near = [(self.at(place) - event.position()).manhattanLength() for place in self.places]
        if near and min(near) <= NEAR:
            self._held = self.chosen = near.index(min(near))
        elif len(self.places) < MOST:
            place = self._place(event.position())
            self._take([*self.places, place], place)
            self._held = self.chosen
            return
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._held is None or self._held >= len(self.places):
            return
        others = [place for index, place in enumerate(self.places) if index != self._held]
        at = event.position()
        if not QRectF(self.rect()).adjusted(-FAR, -FAR, FAR, FAR).contains(at):
            self._held = None
            self._take(others)
            return
        place = self._place(at)
        if all(abs(place[0] - other[0]) >= STEP / 2 for other in others):
            self._take([*others, place], place)
            self._held = self.chosen

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        self._held = None
        self.curve.done()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, places = event.key(), list(self.places)
        moves = {Qt.Key.Key_Up: (0.0, STEP), Qt.Key.Key_Down: (0.0, -STEP)}
        if event.modifiers() & Qt.KeyboardModifier.AltModifier:
            moves |= {Qt.Key.Key_Left: (-STEP, 0.0), Qt.Key.Key_Right: (STEP, 0.0)}
        if key == Qt.Key.Key_Insert and len(places) < MOST:
            self._insert()
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and places:
            del places[self.chosen]
            self._take(places)
        elif key in moves and places:
            across, up = moves[Qt.Key(key)]
            now = places.pop(self.chosen)
            made = min(max(now[0] + across, 0.0), 100.0), min(max(now[1] + up, 0.0), 100.0)
            self._take([*places, made], made)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and places:
            self.chosen = (self.chosen + (1 if key == Qt.Key.Key_Right else -1)) % len(places)
            self.update()
        else:
            super().keyPressEvent(event)
            return
        self.curve.done()

    def _insert(self) -> None:
        """A place in the middle of the widest stretch, on the curve as it is."""
        ends = [0.0, *(place[0] for place in self.places), 100.0]
        wide, at = max((b - a, a) for a, b in pairwise(ends))
        middle = round(at + wide / 2, 1)
        place = middle, round(float(curve_at(self.places, np.array([middle / 100]))[0]) * 100, 1)
        self._take([*self.places, place], place)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.update()

    # Painting ---------------------------------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        field = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.fillRect(field, tokens.colour(tokens.CARD))
        self._paint_histogram(painter)
        painter.setPen(QPen(tokens.colour(tokens.LINE), 1))
        for share in (0.25, 0.5, 0.75):
            painter.drawLine(QPointF(share * self.width(), 0), QPointF(share * self.width(), self.height()))
        painter.drawLine(self.at((0, 0)), self.at((100, 100)))
        painter.setPen(QPen(tokens.colour(tokens.INK), 1.5))
        values = np.linspace(0, 1, 101)
        made = curve_at(self.places, values)
        places = zip(values.tolist(), made.tolist(), strict=True)
        painter.drawPolyline(QPolygonF([self.at((100 * x, 100 * y)) for x, y in places]))
        for index, place in enumerate(self.places):
            is_chosen = index == self.chosen and self.hasFocus()
            painter.setBrush(tokens.colour(tokens.LODEN if is_chosen else tokens.CARD))
            painter.drawEllipse(self.at(place), 4, 4)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(tokens.colour(tokens.LODEN if self.hasFocus() else tokens.LINE), 1))
        painter.drawRect(field)

    def _paint_histogram(self, painter: QPainter) -> None:
        """How many pixels have each tone once it is treated; its ends in ochre where they are clipped."""
        counts = self.curve.histogram[self.channel] if self.curve.histogram else ()
        if not counts:
            return
        most = sorted(counts)[-2] or max(counts) or 1.0  # one tone alone is not to flatten the rest
        wide = self.width() / len(counts)
        for index, count in enumerate(counts):
            high = min(1.0, (count / most) ** 0.5) * (self.height() - 4)
            lost = index in (0, len(counts) - 1) and count > CLIPPED * sum(counts)
            colour = tokens.colour(tokens.OCHRE, 0.7) if lost else tokens.colour(tokens.QUIET, 0.3)
            painter.fillRect(QRectF(index * wide, self.height() - high, wide + 0.5, high), colour)


class CurveView(QWidget):
    """The field, with what chooses its channel."""

    def __init__(self, curve: Curve) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 6)
        column.setSpacing(4)
        column.addWidget(label(curve.title, bold=False))
        self.field = CurveField(curve)
        column.addWidget(self.field)
        self.channel = QPushButton()
        self.channel.setProperty("link", True)
        self.channel.clicked.connect(self.next_channel)
        column.addWidget(self.channel, 0, Qt.AlignmentFlag.AlignLeft)
        self._name()

    def next_channel(self) -> None:
        """From all to red, to green, to blue, and to all again."""
        self.field.show_channel((self.field.channel + 1) % len(self.field.curve.names))
        self._name()

    def _name(self) -> None:
        names, at = self.field.curve.names, self.field.channel
        self.channel.setText(f"Of {names[at]}; show {names[(at + 1) % len(names)]}")
        self.channel.setAccessibleName(f"Curve of {names[at]}; show the next")

    def show_curve(self, curve: Curve) -> None:
        """Other places, or another histogram."""
        self.field.show_curve(curve)
