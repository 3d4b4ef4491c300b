"""Room to work: the parts round the bench folded to their edges, one by one or all, as each station was left."""

from collections.abc import Callable
from typing import Literal, Protocol, get_args

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from half_fold.desk.memory import recall, remember
from half_fold.desk.theme import tokens

Part = Literal["docket", "working", "concertina", "drawer"]
PARTS: tuple[Part, ...] = get_args(Part)
KEYS: dict[Part, str] = {"concertina": "F9", "docket": "Ctrl+F9", "working": "Shift+F9", "drawer": "Alt+F9"}
ALONE_KEY = "F8"
EDGE = 12


class FoldEdge(QWidget):
    """What is seen of a part that is folded away; a click, or Enter, unfolds it."""

    pressed = pyqtSignal()

    def __init__(self, part: Part) -> None:
        super().__init__()
        self.setFixedWidth(EDGE)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(f"{part.capitalize()}, folded away")
        self.setToolTip(f"Unfold the {part} ({KEYS[part]})")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.hide()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), tokens.colour(tokens.BOARD))
        painter.setPen(QPen(tokens.colour(tokens.LODEN if self.hasFocus() else tokens.QUIET), 1.5))
        middle, x = self.height() // 2, self.width() // 2
        for at in (-8, 0, 8):
            painter.drawPoint(x, middle + at)
            painter.drawLine(x - 2, middle + at, x + 2, middle + at)

    def mousePressEvent(self, _event: QMouseEvent | None) -> None:
        self.pressed.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.pressed.emit()
        else:
            super().keyPressEvent(event)


class Folds(Protocol):
    """A part that shows itself whole, or only its edge."""

    def unfold(self, unfolded: bool) -> None:
        """Show it whole, or only its edge."""


class Hidden:
    """A part that is put away whole, with an edge in its place."""

    def __init__(self, part: QWidget, edge: FoldEdge) -> None:
        self.part, self.edge = part, edge

    def unfold(self, unfolded: bool) -> None:
        """Show the part, or its edge."""
        self.part.setVisible(unfolded)
        self.edge.setVisible(not unfolded)


class WindowRoom(QObject):
    """Which parts are folded at which station; the desk remembers them."""

    def __init__(self, part_of: Callable[[Part], Folds | None]) -> None:
        super().__init__()
        self._part_of = part_of
        self._folded = {station: set(parts) for station, parts in recall().folded.items()}
        self.station = ""

    def folded(self, part: Part) -> bool:
        """Whether a part is folded at the station that is open."""
        return part in self._folded.get(self.station, set())

    @property
    def is_alone(self) -> bool:
        """Whether the bench is alone."""
        return all(self.folded(part) for part in PARTS if self._part_of(part) is not None)

    def enter(self, station: str) -> None:
        """Fold and unfold the parts as that station was left."""
        self.station = station
        for part in PARTS:
            found = self._part_of(part)
            if found is not None:
                found.unfold(not self.folded(part))

    def turn(self, part: Part) -> None:
        """Fold a part away, or out again."""
        self._keep(self._folded.get(self.station, set()) ^ {part})

    def alone(self) -> None:
        """Leave the bench alone, or bring every part back."""
        self._keep(set() if self.is_alone else set(PARTS))

    def _keep(self, folded: set[str]) -> None:
        self._folded[self.station] = folded
        self.enter(self.station)
        memory = recall()
        memory.folded = {station: sorted(parts) for station, parts in self._folded.items()}
        remember(memory)
