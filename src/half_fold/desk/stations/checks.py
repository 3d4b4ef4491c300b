"""Checks: what would go wrong, grouped by consequence, shown on the page, with the fix where one can be computed."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPen
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QStackedWidget, QVBoxLayout

from half_fold.core.apart.sides import side_called
from half_fold.core.checks.finding import Finding, summary, to_look_at, would_stop
from half_fold.core.checks.run import RULES
from half_fold.core.publication.surgery import block_ids
from half_fold.desk.kit.rows import Card, Row, RowSection
from half_fold.desk.session import Session
from half_fold.desk.stations.bench import Bench
from half_fold.desk.stations.cover.bench import FlatView
from half_fold.desk.stations.cover.side import CoverSide
from half_fold.desk.stations.numbers import ORDER, SPREADS
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

LIST_STYLE = f"""
QListWidget {{ background: {tokens.SHELF}; border: none; outline: none; padding: 8px 12px; font-size: 13px; }}
QListWidget::item {{ padding: 5px 8px; }}
QListWidget::item:selected {{ background: {tokens.CARD}; color: {tokens.INK}; border-left: 3px solid {tokens.LODEN}; }}
QListWidget::item:disabled {{ padding-top: 10px; }}
"""
FINDING = Qt.ItemDataRole.UserRole


class PlaceBench(Bench):
    """The spread of the chosen finding with its place marked."""

    def __init__(self, station: "ChecksStation", workpiece: Workpiece) -> None:
        super().__init__(workpiece)
        self.station = station
        self.show_fields = False
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)

    def paint_over(self, painter: QPainter) -> None:
        finding = self.station.chosen()
        if finding is None or finding.rect is None or finding.page not in self.session.view.spread.numbers:
            return
        area = self.to_widget(finding.rect)
        tone = tokens.MADDER if finding.stops_press else tokens.OCHRE
        painter.setBrush(tokens.colour(tone, 0.12))
        painter.setPen(QPen(QColor(255, 255, 255, 180), 5))
        painter.drawRect(area)
        painter.setPen(QPen(tokens.colour(tone), 2.5))
        painter.drawRect(area)


class CoverPlace(FlatView, PlaceBench):
    """The same on the cover."""


class _List(QListWidget):
    """Enter applies the fix; Space goes to the place."""

    def __init__(self, station: "ChecksStation") -> None:
        super().__init__()
        self.station = station
        self.setStyleSheet(LIST_STYLE)
        self.setFixedHeight(250)
        self.setAccessibleName("Findings")
        self.currentItemChanged.connect(lambda *_: station.show_chosen())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.station.fix()
        elif event.key() == Qt.Key.Key_Space:
            self.station.go_there()
        else:
            super().keyPressEvent(event)


class ChecksStation(Station):
    """Findings above, their place below."""

    follows_pointer = True
    session: Session
    asked_for_cover = pyqtSignal(str, str)

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.list = _List(self)
        self.bench = PlaceBench(self, session)
        self.cover = CoverSide(session)
        self.benches = QStackedWidget()
        self.benches.addWidget(self.bench)
        self.benches.addWidget(CoverPlace(self, self.cover))
        column.addWidget(self.list)
        column.addWidget(self.benches, 1)
        self.setFocusProxy(self.list)
        self._shown: list[Finding] | None = None
        session.checked.connect(self.fill)

    def refresh(self) -> None:
        self.fill()
        self.benches.update()

    def fill(self) -> None:
        """Show the findings; the choice stays on the same place in the list."""
        findings = self.session.findings
        if findings is self._shown:
            return
        row = max(self.list.currentRow(), 0)
        self._shown = findings
        self.list.blockSignals(True)
        self.list.clear()
        if not self.session.is_checked:
            self._heading("Looking through the job.")
        elif not findings:
            self._heading("Nothing found. Everything that is checked would go through the press.")
        for group in dict.fromkeys(f.consequence for f in findings):
            self._heading(f"{group[0].upper()}{group[1:]}")
            for finding in (f for f in findings if f.consequence == group):
                item = QListWidgetItem(f"{finding.where}    {finding.message}")
                item.setData(FINDING, finding)
                item.setForeground(tokens.colour(tokens.MADDER if finding.stops_press else tokens.INK))
                self.list.addItem(item)
        self.list.blockSignals(False)
        self._choose_from(row)
        self.show_chosen()

    def _heading(self, words: str) -> None:
        item = QListWidgetItem(words)
        item.setFlags(Qt.ItemFlag.NoItemFlags)
        item.setFont(tokens.font(12, tokens.BOLD))
        item.setForeground(tokens.colour(tokens.INK))
        self.list.addItem(item)

    def _choose_from(self, row: int) -> None:
        """The finding nearest to a row of the list."""
        rows = [i for i in range(self.list.count()) if self.list.item(i).data(FINDING) is not None]  # type: ignore[union-attr]
        if rows:
            self.list.setCurrentRow(min(rows, key=lambda i: abs(i - row)))

    def chosen(self) -> Finding | None:
        """The finding that is chosen in the list."""
        item = self.list.currentItem()
        finding = item.data(FINDING) if item is not None else None
        return finding if isinstance(finding, Finding) else None

    def show_chosen(self) -> None:
        """Show the spread, or the cover side, where the chosen finding lies."""
        finding = self.chosen()
        on_cover = finding is not None and bool(finding.side) and self.cover.exists
        if finding is not None and on_cover:
            self.cover.side = side_called(self.cover.job.publication, finding.side)
        elif finding is not None and finding.page and finding.page != self.session.view.page:
            self.session.view.go_to(finding.page)
        self.benches.setCurrentIndex(int(on_cover))
        self.benches.currentWidget().update()  # type: ignore[union-attr]
        self.moved.emit()

    def fix(self) -> None:
        """Apply the chosen finding's fix; undo takes it back."""
        finding = self.chosen()
        if finding is None:
            return
        if finding.fix is None:
            self.session.said.emit("There is no computed fix for this; its reason says what to do.")
        elif self.session.edit(finding.fix.edit, finding.fix.words.lower()):
            self.session.check_now()

    def go_there(self) -> None:
        """To the place itself, its block selected."""
        finding = self.chosen()
        if finding is not None and finding.side:
            self.asked_for_cover.emit(finding.side, finding.block)
            return
        if finding is None or not finding.page:
            self.asked_for.emit(ORDER)
            return
        self.session.view.go_to(finding.page)
        if finding.block in block_ids(self.session.publication):
            self.session.view.select(finding.block)
        self.asked_for.emit(SPREADS)

    def keys(self) -> Sequence[tuple[str, str]]:
        return (("↑ ↓", "findings"), ("Enter", "fix"), ("Space", "go there"))

    def where(self) -> str:
        return summary(self.session.findings) if self.session.is_checked else "Looking through the job"

    def sections(self) -> Sequence[RowSection]:
        finding = self.chosen()
        found = self.session.findings
        stop, look = len(would_stop(found)), len(to_look_at(found))
        whole = RowSection(
            "All findings",
            "",
            [
                Row("Would stop the press", str(stop) if self.session.is_checked else "looking"),
                Row("To look at", str(look) if self.session.is_checked else "looking"),
                *([Row("As was asked", str(len(found) - stop - look))] if len(found) > stop + look else []),
                Row("Rules", str(len(RULES)), "each looked at after every edit"),
            ],
        )
        if finding is None:
            return [whole]
        actions = [("Go there", self.go_there)]
        if finding.fix is not None:
            actions = [(finding.fix.words, self.fix), *actions]
        card = Card(finding.message, finding.why, actions, finding.stops_press)
        return [RowSection("Finding", f"{finding.where}, {finding.consequence}", [card]), whole]
