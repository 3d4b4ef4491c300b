"""A row of tools that leaves some out where a window is too narrow for all of them."""

from collections.abc import Callable

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QWidget


class Narrowing(QWidget):
    """Tells ``make_narrow`` whether it is narrower than ``least`` pixels, each time that changes."""

    def __init__(self, least: int, make_narrow: Callable[[bool], None]) -> None:
        super().__init__()
        self._least, self._make_narrow = least, make_narrow
        self._is_narrow: bool | None = None

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        narrow = self.width() < self._least
        if narrow != self._is_narrow:
            self._is_narrow = narrow
            self._make_narrow(narrow)
