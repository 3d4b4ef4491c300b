"""What stations, and what is asked for, know of the window that they stand in."""

from collections.abc import Callable, Sequence
from typing import Protocol

from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QWidget

from half_fold.desk.session import Session
from half_fold.desk.stations.station import Station
from half_fold.desk.thumbnails import Thumbnails


class Front(Protocol):
    """One job at one desk: the station that is open, and the way to others."""

    session: Session
    thumbnails: Thumbnails
    current: int

    @property
    def bench(self) -> QWidget:
        """Where the open station stands."""

    @property
    def station(self) -> Station:
        """The one that is open."""

    def open_station(self, number: int) -> None:
        """Pull another out."""

    def leave_versions(self) -> None:
        """Back from the earlier versions to where the user was."""

    def show_on_cover(self, side: str, block: str) -> None:
        """Open the cover at that side, with that block chosen."""

    def show_row(self, name: str) -> None:
        """Unfold the row of that name in the working."""

    def in_the_working(self) -> Sequence[tuple[str, Sequence[str], Callable[[], object]]]:
        """What can be set or done in the working: how it is called, by what other words, and what brings it about."""

    def actions(self) -> Sequence[QAction]:
        """What the window's own keys do."""
