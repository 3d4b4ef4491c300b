"""A list that opens from a value: typed letters search it, arrows and Enter choose."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QHideEvent, QKeyEvent
from PyQt6.QtWidgets import QFrame, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

ROWS, HIGH = 9, 26


class PickList(QFrame):
    """What there is to choose from: ``taken`` is given what is; what is typed leaves only those that have it.

    ``put_away`` tells that it is closed, whether or not one was chosen.
    """

    put_away = pyqtSignal()

    def __init__(
        self,
        parent: QWidget,
        choices: Sequence[tuple[str, str]],
        now: str,
        taken: Callable[[str], object],
        called: str,
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("pickList")
        self._choices, self._taken = choices, taken
        self.search = QLineEdit()
        self.search.setPlaceholderText("type to search")
        self.search.setAccessibleName(f"Search the {called}")
        self.list = QListWidget()
        self.list.setAccessibleName(called.capitalize())
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column = QVBoxLayout(self)
        column.setContentsMargins(6, 6, 6, 6)
        column.setSpacing(4)
        column.addWidget(self.search)
        column.addWidget(self.list)
        self.search.textChanged.connect(lambda text: self._show(text))
        self.search.installEventFilter(self)
        self.list.itemClicked.connect(lambda item: self._take(item))
        self._show("", now)
        self.setFixedSize(240, 46 + HIGH * min(ROWS, len(choices)))

    def dress(self, item: QListWidgetItem, value: str) -> None:
        """Show what an entry stands for."""

    def _show(self, text: str, now: str = "") -> None:
        self.list.clear()
        for value, words in self._choices:
            if text.strip().lower() in words.lower():
                item = QListWidgetItem(words)
                item.setData(Qt.ItemDataRole.UserRole, value)
                item.setSizeHint(QSize(200, HIGH))
                self.dress(item, value)
                self.list.addItem(item)
                if value == now:
                    self.list.setCurrentItem(item)
        if self.list.currentRow() < 0 and self.list.count():
            self.list.setCurrentRow(0)

    def _take(self, item: QListWidgetItem | None) -> None:
        if item is not None:
            value = str(item.data(Qt.ItemDataRole.UserRole))
            self.close()
            self._taken(value)

    def eventFilter(self, watched: object, event: object) -> bool:
        """Arrows and Enter in the search move in the list and take from it."""
        if watched is self.search and isinstance(event, QKeyEvent) and event.type() == QKeyEvent.Type.KeyPress:
            steps = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
            if event.key() in steps:
                row = self.list.currentRow() + steps[Qt.Key(event.key())]
                self.list.setCurrentRow(min(max(row, 0), self.list.count() - 1))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take(self.list.currentItem())
                return True
        return False

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.put_away.emit()

    def open_at(self, at: QPoint) -> None:
        """Open at a place of the screen, and take the keys."""
        self.move(at)
        self.show()
        self.search.setFocus()
