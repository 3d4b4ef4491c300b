"""Earlier versions, to be looked at before one is returned to."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPen
from PyQt6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.numbers.between import changed_pages, differences
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.desk.kit.rows import Card, Row, RowSection
from half_fold.desk.paint.proxies import Proxies
from half_fold.desk.session import Session, version_words
from half_fold.desk.stations.bench import Bench
from half_fold.desk.stations.checks import LIST_STYLE
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens
from half_fold.desk.view import View
from half_fold.desk.workpiece import Workpiece

PATH = Qt.ItemDataRole.UserRole
LIST_WIDTH = 236


class KeptVersion(Workpiece):
    """A version as it was kept: nothing of it can be changed. It has a setter and pictures of its own."""

    takes_stories = False

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setter, self.proxies = Setter(), Proxies(session.job.pictures)
        self._publication = session.publication
        self.view = View(self, session.view.page)
        self.noted.connect(session.noted)

    @property
    def publication(self) -> Publication:
        return self._publication

    @property
    def can_be_chosen(self) -> bool:
        return False

    def show(self, publication: Publication, near: int) -> None:
        """Have that version in view, at the page near to the one given."""
        self._publication = publication
        self.view.page = min(near, len(publication.pages))
        self.proxies.know(publication.pictures)


class KeptBench(Bench):
    """A spread of the version; pages that are not the same now are marked."""

    def __init__(self, station: "VersionsStation", kept: KeptVersion) -> None:
        super().__init__(kept)
        self.station = station
        self.show_fields = False
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("The version's spread")

    def paint_over(self, painter: QPainter) -> None:
        painter.setPen(QPen(tokens.colour(tokens.OCHRE), 3))
        for number, frame in self.frames():
            if number in self.station.changed:
                area = self.to_widget(frame.trim)
                y = area.bottom() + 8
                painter.drawLine(int(area.left()), int(y), int(area.right()), int(y))


class _List(QListWidget):
    """Up and down choose a version, left and right its spread; Enter returns to it, Esc goes back."""

    def __init__(self, station: "VersionsStation") -> None:
        super().__init__()
        self.station = station
        self.setStyleSheet(LIST_STYLE)
        self.setFixedWidth(LIST_WIDTH)
        self.setWordWrap(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("Versions")
        self.currentItemChanged.connect(lambda *_: station.show_chosen())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        acts = {
            Qt.Key.Key_Left: lambda: self.station.turn(-1),
            Qt.Key.Key_Right: lambda: self.station.turn(1),
            Qt.Key.Key_Return: self.station.return_to_it,
            Qt.Key.Key_Enter: self.station.return_to_it,
            Qt.Key.Key_Escape: self.station.left.emit,
        }
        act = acts.get(Qt.Key(event.key()))
        if act is not None:
            act()
        else:
            super().keyPressEvent(event)


class VersionsStation(Station):
    """The versions at the left, newest first, and the spread of the one chosen."""

    follows_pointer = True
    left = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.job = session
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(0)
        self.kept = KeptVersion(session)
        self.changed: set[int] = set()
        self.problem = ""
        self.bench = KeptBench(self, self.kept)
        self.list = _List(self)
        line.addWidget(self.list)
        line.addWidget(self.bench, 1)
        self.setFocusProxy(self.list)
        self._compared: Publication | None = None

    def opened(self) -> None:
        """Read what versions there are; the newest is chosen."""
        self.kept.view.page = self.job.view.page
        self.list.blockSignals(True)
        self.list.clear()
        for version in reversed(self.job.job.versions()):
            item = QListWidgetItem(version_words(version))
            item.setData(PATH, version)
            self.list.addItem(item)
        self.list.setCurrentRow(0)
        self.list.blockSignals(False)
        self.show_chosen()

    def chosen(self) -> Path | None:
        """The file of the chosen version."""
        item = self.list.currentItem()
        return item.data(PATH) if item is not None else None

    def show_chosen(self) -> None:
        """Have the chosen version on the bench; one that cannot be read is said and nothing of it shown."""
        version, self.problem = self.chosen(), ""
        try:
            if version is not None:
                self.kept.show(self.job.job.read_version(version), self.kept.view.page)
        except Problem as problem:
            self.problem = str(problem)
        self.bench.setVisible(not self.problem)
        self._compared = None
        self.refresh()
        self.moved.emit()

    def refresh(self) -> None:
        """Compare with the job as it is now."""
        if self._compared is not self.job.publication:
            self._compared = self.job.publication
            self.changed = set(changed_pages(self.kept.publication, self.job.publication))
        self.bench.update()

    def turn(self, step: int) -> None:
        """Turn so many spreads of the version on, or back."""
        self.kept.view.go_by_spread(step)
        self.bench.update()
        self.moved.emit()

    def return_to_it(self) -> None:
        """Make the job what it was then: an edit like any other."""
        version = self.chosen()
        if version is not None and not self.problem:
            self.job.return_to(version)
            self.job.view.go_to(self.kept.view.page)
            self.left.emit()

    def keys(self) -> Sequence[tuple[str, str]]:
        return (("↑ ↓", "versions"), ("← →", "spreads"), ("Enter", "return to it"), ("Esc", "back to now"))

    def where(self) -> str:
        return self.problem or f"{self.kept.spread_words} as it was kept"

    def sections(self) -> Sequence[RowSection]:
        version = self.chosen()
        if version is None:
            return []
        title = version_words(version)
        if self.problem:
            return [RowSection(title, "", [Card("This version cannot be shown", self.problem)])]
        then, now = self.kept.publication, self.job.publication
        rows: list[Row | Card] = [Row(d.name, d.then, f"now {d.now}") for d in differences(then, now)]
        pages = counted(len(self.changed), "page") + " of it not the same now"
        spread = [n for n in self.kept.view.spread.numbers if n in self.changed]
        here = "as it is now" if not spread else "not as it is now: " + ", ".join(map(str, spread))
        rows += [Row("Pages", counted(len(then.pages), "page"), pages), Row("This spread", here)]
        if not self.changed and not differences(then, now):
            rows = [Card("The same as now", "Nothing has changed since this version was kept.")]
        act = Card(
            "Return to this version",
            "The job becomes what it was then. That is an edit: undo takes it back.",
            [("Return to it", self.return_to_it), ("Back to now", self.left.emit)],
        )
        return [RowSection(title, "looked at, not changed", rows), RowSection("What to do", "", [act])]

    def take_focus(self) -> None:
        self.list.setFocus(Qt.FocusReason.OtherFocusReason)

    def stop(self) -> None:
        self.kept.proxies.stop()
