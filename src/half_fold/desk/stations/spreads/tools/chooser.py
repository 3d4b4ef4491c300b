"""The small chooser at the pointer: what goes into the fields just claimed, one letter each."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QMenu, QWidget

Entry = tuple[str, str, Callable[[], None]]  # its letter, its words, and what it does


class Chooser(QMenu):
    """Entries with a letter each; pressing the letter chooses at once."""

    def __init__(self, parent: QWidget, entries: Sequence[Entry]) -> None:
        super().__init__(parent)
        self.letters: dict[str, Callable[[], None]] = {}
        for letter, words, act in entries:
            action = self.addAction(f"{words}\t{letter}" if letter else words)
            assert action is not None
            action.triggered.connect(lambda _=False, act=act: act())
            if letter:
                self.letters[letter] = act
        actions = self.actions()
        if actions:
            self.setActiveAction(actions[0])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        act = self.letters.get(event.text().upper())
        if act is not None and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.close()
            act()
        else:
            super().keyPressEvent(event)

    def open_at(self, at: QPoint) -> None:
        """Open at a place of the screen, and take the keys."""
        self.popup(at)
        self.setFocus()
