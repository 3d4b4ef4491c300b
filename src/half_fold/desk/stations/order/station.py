"""Order: pages, sheets, inserts and dates, one on the bench at a time."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from half_fold.core.plan.inserts import drop_insert
from half_fold.desk.kit.rows import Section
from half_fold.desk.session import Session
from half_fold.desk.stations.order.dates import DatesView
from half_fold.desk.stations.order.inserts import InsertsView
from half_fold.desk.stations.order.pages import PagesView
from half_fold.desk.stations.order.rows import OrderRows
from half_fold.desk.stations.order.sheets import SheetsView
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens
from half_fold.desk.thumbnails import Thumbnails

VIEWS = (("Pages", "P"), ("Sheets", "S"), ("Inserts", "I"), ("Dates", "D"))


class OrderStation(Station):
    """The running order in four views; their letters change between them."""

    number, name = 2, "Order"

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__(session)
        self.rows = OrderRows(self, session, self.brief_edit)
        self.pages, self.sheets = PagesView(session, thumbnails), SheetsView(session)
        self.inserts, self.dates = InsertsView(session), DatesView(session)
        self.views = QStackedWidget()
        for view in (self.pages, self.sheets, self.inserts, self.dates):
            self.views.addWidget(view)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._tabs())
        column.addWidget(self.views, 1)
        self.pages.entered.connect(lambda: self.asked_for.emit(4))
        self.inserts.dropped.connect(lambda insert: session.edit(lambda p: drop_insert(p, insert), "insert taken out"))
        for view in (self.pages, self.sheets, self.inserts):
            view.moved.connect(self.moved)
        self.show_view(0)

    def _tabs(self) -> QWidget:
        shelf = QWidget()
        shelf.setObjectName("shelf")
        shelf.setStyleSheet(f"#shelf {{ background: {tokens.SHELF}; }}")
        line = QHBoxLayout(shelf)
        line.setContentsMargins(16, 2, 16, 2)
        group = QButtonGroup(shelf)
        self.tabs: list[QPushButton] = []
        for index, (name, key) in enumerate(VIEWS):
            tab = QPushButton(name)
            tab.setProperty("link", True)
            tab.setToolTip(key)
            tab.clicked.connect(lambda _=False, index=index: self.show_view(index))
            group.addButton(tab)
            line.addWidget(tab)
            self.tabs.append(tab)
        line.addStretch(1)
        return shelf

    def show_view(self, index: int) -> None:
        """Have that view on the bench."""
        self.views.setCurrentIndex(index)
        for number, tab in enumerate(self.tabs):
            tab.setFont(tokens.font(tokens.BASE, tokens.BOLD if number == index else tokens.font().weight()))
        self.setFocusProxy(self.view)
        self.view.refresh()
        self.view.setFocus()
        self.moved.emit()

    @property
    def view(self) -> PagesView | SheetsView | InsertsView | DatesView:
        return self.views.currentWidget()  # type: ignore[return-value]

    def refresh(self) -> None:
        self.view.refresh()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        letters = [key for _, key in VIEWS]
        if event.text().upper() in letters and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.show_view(letters.index(event.text().upper()))
        else:
            super().keyPressEvent(event)

    def keys(self) -> Sequence[tuple[str, str]]:
        if self.view is self.pages:
            return (("N", "new pages"), ("Delete", "remove"), ("Alt+arrows", "move"), ("P S I D", "views"))
        if self.view is self.sheets:
            return (("← →", "sheets"), ("↑ ↓", "fold"), ("W", "how printed"), ("P S I D", "views"))
        if self.view is self.inserts:
            return (("← →", "inserts"), ("Delete", "take out"), ("P S I D", "views"))
        return (("P S I D", "views"),)

    def where(self) -> str:
        if self.view is self.pages:
            pages = ", ".join(map(str, sorted(self.pages.chosen)))
            return f"Page {pages} selected. Drag pages to move them"
        if self.view is self.sheets:
            return f"Sheet {self.sheets.sheet().letter}, {self.sheets.way}"
        return self.view.accessibleName()

    def sections(self) -> Sequence[Section]:
        if self.view is self.pages:
            return self.rows.pages(sorted(self.pages.chosen))
        if self.view is self.sheets:
            return self.rows.sheets(self.sheets)
        if self.view is self.inserts:
            return self.rows.inserts(self.inserts.insert())
        return self.rows.dates()

    def take_focus(self) -> None:
        self.view.setFocus(Qt.FocusReason.OtherFocusReason)
