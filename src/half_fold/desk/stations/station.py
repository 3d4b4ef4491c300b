"""What every station is: a bench, its working, its keys, and where the pointer stands."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from half_fold.desk.kit.rows import Edit, Section
from half_fold.desk.workpiece import Workpiece


class Station(QWidget):
    """A station at the desk; the window shows its working and its keys beside it."""

    number = 0
    name = ""
    moved = pyqtSignal()  # the pointer, or what the foot says of it
    turned = pyqtSignal()  # another view or thing is shown, which has other rows
    asked_for = pyqtSignal(int)

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session

    def opened(self) -> None:
        """It has been pulled out: look at what lies outside the document."""

    def picture_came(self) -> None:
        """Show pictures better than before: what was read is there now."""
        self.update()

    def refresh(self) -> None:
        """Show the document as it is now."""
        self.update()

    def sections(self) -> Sequence[Section]:
        """The working column."""
        return ()

    def keys(self) -> Sequence[tuple[str, str]]:
        """(key, what it does now)."""
        return ()

    def where(self) -> str:
        """Where the pointer or the selection is, in words."""
        return ""

    def take_focus(self) -> None:
        """Put the focus on the bench."""
        self.setFocus()

    def brief_edit(self, key: str) -> Edit:
        """An edit that sets one value of the plan."""
        from half_fold.core.plan.settings import set_value

        return lambda text: self.session.edit(lambda p: set_value(p, key, text), f"{key} {text}")

    def act(self) -> None:
        """Do what this station is for (Ctrl+P at the press)."""

    def bring(self, what: str) -> None:
        """Ask for pictures or a text to bring in, where a station takes them."""

    def take_file(self, path: Path) -> None:
        """A file dropped on the window, where a station takes it."""

    def take_words(self, words: str) -> None:
        """Words pasted outside any text, where a station takes them."""

    def show_block(self, side: str, block: str) -> None:
        """Show that side of the cover with that block selected, where a station shows covers."""

    def stop(self) -> None:
        """End what runs in the background; the window is closing."""
