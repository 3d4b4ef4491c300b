"""What the benches and the rows of a grid know of the master that is worked on."""

from typing import Protocol

from PyQt6.QtCore import pyqtBoundSignal

from half_fold.core.publication.records import Master
from half_fold.desk.kit.rows import Edit
from half_fold.desk.session import Session


class AtWork(Protocol):
    """The master in view, and what sets it."""

    session: Session
    words_typed: int

    @property
    def moved(self) -> pyqtBoundSignal:
        """The pointer has moved."""

    @property
    def turned(self) -> pyqtBoundSignal:
        """Another thing is shown, which has other rows."""

    @property
    def words(self) -> int:
        """The words an extent is estimated for."""

    def master(self) -> Master:
        """The master in view, complete."""

    def show_master(self, name: str) -> bool:
        """Work on that master."""

    def rename(self, name: str) -> bool:
        """Give the master another name; whether it was taken."""

    def set_grid_value(self, field: str, text: str, joining: str = "") -> bool:
        """One value of the grid in view, as typed."""

    def set_piece(self, field: str, text: str) -> bool:
        """One value of the selected piece of furniture."""

    def edit_for(self, key: str) -> Edit:
        """An edit that sets one value of the grid, or of the plan."""

    def take_count(self, text: str) -> bool:
        """How many words an extent is estimated for, as typed."""
