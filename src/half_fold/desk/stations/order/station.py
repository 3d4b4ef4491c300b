"""Order: pages, sheets, inserts and dates, one on the bench at a time."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QMimeData

from half_fold.core.plan.inserts import drop_insert
from half_fold.desk.kit.rows import RowSection
from half_fold.desk.session import Session
from half_fold.desk.stations.numbers import SPREADS
from half_fold.desk.stations.order.dates import DatesView
from half_fold.desk.stations.order.inserts import InsertsView
from half_fold.desk.stations.order.pages import PagesView
from half_fold.desk.stations.order.rows import OrderRows
from half_fold.desk.stations.order.sheets import SheetsView
from half_fold.desk.stations.order.view import OrderView
from half_fold.desk.stations.viewed import ViewedStation
from half_fold.desk.thumbnails import Thumbnails

VIEWS = (("Pages", "P"), ("Sheets", "S"), ("Inserts", "I"), ("Dates", "D"))


class OrderStation(ViewedStation):
    """The running order in four views; their letters change between them."""

    follows_pointer = True
    names = VIEWS

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__(session)
        self.rows = OrderRows(self, session, self.brief_edit)
        self.pages, self.sheets = PagesView(session, thumbnails), SheetsView(session)
        self.inserts, self.dates = InsertsView(session), DatesView(session)
        self.pages.entered.connect(lambda: self.asked_for.emit(SPREADS))
        self.inserts.dropped.connect(lambda insert: session.edit(lambda p: drop_insert(p, insert), "insert taken out"))
        for view in (self.pages, self.sheets, self.inserts):
            view.moved.connect(self.moved)
        self.show_views((self.pages, self.sheets, self.inserts, self.dates))

    def stop(self) -> None:
        self.rows.draft.drafter.wait()

    def refresh(self) -> None:
        view = self.view
        assert isinstance(view, OrderView | PagesView)
        view.refresh()

    def to_copy(self, pictures: Path) -> QMimeData | None:
        if self.view is not self.pages:
            return super().to_copy(pictures)
        from half_fold.desk.beside.copying import copied_pages

        return copied_pages(self.session.publication, sorted(self.pages.chosen))

    def cut(self) -> None:
        if self.view is self.pages:
            self.pages.remove()

    def lay(self, mime: QMimeData, _mirror: bool) -> bool:
        from half_fold.core.spread.edits.taking import KIND
        from half_fold.desk.beside.copying import lay_pages

        if self.view is not self.pages or not mime.hasFormat(KIND):
            return False
        self.pages.choose_all(lay_pages(self.session, mime, max(self.pages.chosen)))
        return True

    def keys(self) -> Sequence[tuple[str, str]]:
        if self.view is self.pages:
            return (
                ("N", "new pages"),
                ("Delete", "remove"),
                ("Alt+arrows", "move"),
                ("Ctrl+D", "double"),
                ("P S I D", "views"),
            )
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

    def sections(self) -> Sequence[RowSection]:
        if self.view is self.pages:
            return self.rows.pages(sorted(self.pages.chosen))
        if self.view is self.sheets:
            return self.rows.sheets(self.sheets)
        if self.view is self.inserts:
            return self.rows.inserts(self.inserts.insert())
        return self.rows.dates()
