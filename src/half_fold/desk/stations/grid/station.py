"""Grid: a master's grid and the grids that work out, its furniture, and the type sheet."""

from collections.abc import Sequence

from msgspec.structs import replace
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from half_fold.core.grid.edits import set_grid, set_page_grid, use_grid
from half_fold.core.measure.length import counted
from half_fold.core.publication.records import Furniture, Grid, Master, Publication
from half_fold.core.publication.surgery import by_id, master_named, master_of
from half_fold.core.spread.edits.masters import set_furniture
from half_fold.core.typesetting.flow.counting import count_words
from half_fold.desk.kit.rows import Edit, RowSection
from half_fold.desk.session import Session
from half_fold.desk.stations.grid.bench import GridBench
from half_fold.desk.stations.grid.candidates import CandidateStrip, strip_in_scroller
from half_fold.desk.stations.grid.furniture import FurnitureBench
from half_fold.desk.stations.grid.ink_rows import InkRows
from half_fold.desk.stations.grid.ink_sheet import Chosen, InkSheet
from half_fold.desk.stations.grid.master_rows import MasterRows, rename
from half_fold.desk.stations.grid.role_rows import RoleRows
from half_fold.desk.stations.grid.sheet import TypeSheet, in_scroller
from half_fold.desk.stations.viewed import ViewedStation

VIEWS = (("Grid", "G"), ("Masters", "M"), ("Type sheet", "Y"), ("Inks", "I"))
VIEW_KEYS = ("G M Y I", "views")
WORDS_IF_NONE = 10_000


class GridStation(ViewedStation):
    """Views of one master, of the job's type and of its inks; their letters change between them."""

    names = VIEWS

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.session: Session = session
        self._shown: tuple[str, str] = ("", "")  # the page's master when another was asked for, and that other
        self.words_typed = 0
        self.bench, self.furniture = GridBench(self), FurnitureBench(self)
        self.strip = CandidateStrip(self.use)
        self.sheet = TypeSheet(session, lambda: self.turned.emit())
        self.rows, self.roles = MasterRows(self, self.furniture, session), RoleRows(session, self)
        self.ink_rows = InkRows(session, self, self._choose_ink)
        self.inks = InkSheet(session, lambda: self.turned.emit(), self.ink_rows.take)
        self.ink_rows.palettes.found.connect(self._show_palette)
        views = self._grid_view(), self.furniture, in_scroller(self.sheet), in_scroller(self.inks)
        self.show_views(views)

    def _grid_view(self) -> QWidget:
        both = QWidget()
        column = QVBoxLayout(both)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.bench, 1)
        column.addWidget(strip_in_scroller(self.strip))
        return both

    def _choose_ink(self, chosen: Chosen) -> None:
        """Have one of the ink list in the working column, once it is there."""
        self.inks.refresh()
        self.inks.choose(chosen)
        self.turned.emit()

    def _show_palette(self) -> None:
        palettes = self.ink_rows.palettes
        self.inks.show_palette(palettes.about, palettes.proposals)
        self.turned.emit()

    # Which master -------------------------------------------------------------------------------

    def master(self) -> Master:
        """The master in view, complete: that of the page in view until another is asked for."""
        publication = self.session.publication
        page = publication.pages[self.session.view.page - 1]
        asked_on, asked = self._shown
        if asked and asked_on == page.master and any(m.name == asked for m in publication.masters):
            return master_named(publication, asked)
        return master_of(publication, page)

    def show_master(self, name: str) -> bool:
        """Work on that master, whether or not the page in view stands on it."""
        page = self.session.publication.pages[self.session.view.page - 1]
        self._shown = (page.master, name if name != page.master else "")
        self.furniture.selected = ""
        self.refresh()
        self.turned.emit()
        return True

    def rename(self, name: str) -> bool:
        """Give the master another name; whether it was taken."""
        old = self.master().name
        shown = self._shown[1] == old
        if not rename(self.session, old, name):
            return False
        return self.show_master(" ".join(name.split())) if shown else True

    def on_own_grid(self) -> bool:
        """Whether it is the spread's own grid that is in view."""
        page = self.session.publication.pages[self.session.view.page - 1]
        return page.grid is not None and self.master().grid is page.grid

    # Edits --------------------------------------------------------------------------------------

    def set_grid_value(self, field: str, text: str, joining: str = "") -> bool:
        """One value of the grid in view, as typed."""
        said = f"{field.replace('_', ' ')} {text}"
        if self.on_own_grid():
            numbers = self.session.view.spread.numbers
            return self.session.edit(lambda p: set_page_grid(p, numbers, field, text), said, joining)
        name = self.master().name
        return self.session.edit(lambda p: set_grid(p, name, field, text), said, joining)

    def use(self, grid: Grid, words: str) -> None:
        """Put what is in view on that grid, as one edit."""

        def make(publication: Publication) -> Publication:
            if not self.on_own_grid():
                return use_grid(publication, self.master().name, grid)
            pages = tuple(
                replace(page, grid=grid) if number in self.session.view.spread.numbers else page
                for number, page in enumerate(publication.pages, 1)
            )
            return replace(publication, pages=pages)

        if self.session.edit(make, f"grid {words}"):
            self.session.noted.emit(f"On the grid “{words}”. Ctrl+Z takes it back.")

    def set_piece(self, field: str, text: str) -> bool:
        """One value of the selected piece of furniture."""
        name, piece = self.master().name, self.furniture.selected
        self.furniture.close_editor()
        return self.session.edit(lambda p: set_furniture(p, name, piece, field, text), f"furniture {field}")

    def piece(self) -> Furniture:
        """The piece of furniture that is chosen."""
        return by_id(self.master().furniture, self.furniture.selected)

    def edit_for(self, key: str) -> Edit:
        if not key.startswith("grid."):
            return self.brief_edit(key)
        return lambda text: self.set_grid_value(key.removeprefix("grid."), text)

    @property
    def words(self) -> int:
        """The words an extent is estimated for: as typed, or all there are."""
        written = sum(count_words(story.paragraphs) for story in self.session.publication.stories)
        return self.words_typed or written or WORDS_IF_NONE

    def take_count(self, text: str) -> bool:
        """How many words an extent is estimated for, as typed."""
        try:
            self.words_typed = max(0, int(text.replace(",", "").replace(".", "").split()[0])) if text.strip() else 0
        except ValueError:
            self.session.said.emit(f"“{text}” is no number of words; type one such as 60000.")
            return False
        self.turned.emit()
        return True

    # Views --------------------------------------------------------------------------------------

    @property
    def view(self) -> QWidget:
        """The view that is open: grid, masters, type sheet or inks."""
        return (self.bench, self.furniture, self.sheet, self.inks)[self.views.currentIndex()]

    def refresh(self) -> None:
        if self.view is self.bench:
            self.strip.follow(self.session.publication, self.master())
        elif self.view is self.sheet:
            self.sheet.refresh()
        elif self.view is self.inks:
            self.inks.refresh()
        self.view.update()

    def keys(self) -> Sequence[tuple[str, str]]:
        if self.view is self.furniture:
            return (
                ("N R", "words, a rule"),
                ("Enter", "type"),
                ("↑ ↓", "move"),
                ("H", "hide here"),
                VIEW_KEYS,
            )
        if self.view is self.sheet:
            return (("↑ ↓", "roles"), VIEW_KEYS)
        if self.view is self.inks:
            taking = (("Enter", "take the palette"),) if self.inks.proposals else ()
            return (("↑ ↓", "the list"), *taking, VIEW_KEYS)
        return (
            ("← →", "columns"),
            ("↑ ↓", "rows"),
            ("B held", "baselines"),
            ("L U", "pencil a line"),
            ("F", "show the pages"),
            VIEW_KEYS,
        )

    def where(self) -> str:
        if self.view is self.sheet:
            return f"Type sheet, {counted(len(self.session.publication.roles), 'role')}"
        if self.view is self.inks:
            return f"Ink list, {counted(len(self.session.publication.inks), 'ink')}"
        name = self.master().name or "no master"
        if self.view is self.furniture:
            return f"Furniture of “{name}”   drag a piece, or double-click its words"
        what = f"{self.session.spread_words}, its own grid" if self.on_own_grid() else f"Grid of “{name}”"
        return f"{what}   drag a margin, or type it   {self.bench.position_words()}"

    def stop(self) -> None:
        self.roles.scan.wait()
        self.ink_rows.palettes.cancel()
        self.ink_rows.palettes.wait()

    def sections(self) -> Sequence[RowSection]:
        if self.view is self.furniture and self.master().name:
            return self.rows.furniture()
        if self.view is self.inks:
            return self.ink_rows.sections(self.inks.chosen)
        return self.roles.sections(self.sheet.role) if self.view is self.sheet else self.rows.grid()
