"""Brief: what is made and what the printer asks for, drawn as the thing itself."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout

from half_fold.core.numbers.all import brief_numbers
from half_fold.desk.kit.rows import RowSection
from half_fold.desk.session import Session
from half_fold.desk.stations.brief.bench import BriefBench
from half_fold.desk.stations.brief.rows import BriefRows
from half_fold.desk.stations.station import Station


class BriefStation(Station):
    """The working drawing on the bench, the worked sums beside it. ``unfolds`` names a row of the working."""

    unfolds = pyqtSignal(str)

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.rows = BriefRows(session, self.brief_edit)
        self.bench = BriefBench(session, lambda: self.rows.wanted_spine)
        self.bench.opened.connect(self._open)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.bench)
        self.setFocusProxy(self.bench)

    def refresh(self) -> None:
        self.bench.update()

    def keys(self) -> Sequence[tuple[str, str]]:
        return (("arrows", "dimensions"), ("Enter", "set it, or its working"), ("Tab", "next value"))

    def where(self) -> str:
        return "Click a dimension to set it or to see its working; drag one to try"

    def sections(self) -> Sequence[RowSection]:
        return self.rows.sections()

    def _open(self, key: str) -> None:
        """The working of the number with that key."""
        name = next((n.name for n in brief_numbers(self.rows.publication) if n.key == key), "")
        if name:
            self.unfolds.emit(name)

    def take_focus(self) -> None:
        self.bench.setFocus(Qt.FocusReason.OtherFocusReason)
