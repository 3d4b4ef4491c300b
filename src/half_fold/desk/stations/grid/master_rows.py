"""The rows of a master: its grid with its arithmetic, what a column holds, and its furniture."""

from half_fold.core.grid.edits import GRID
from half_fold.core.measure.length import counted
from half_fold.core.measure.worked import Worked
from half_fold.core.numbers.grid import extent_numbers, grid_numbers, type_numbers
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Furniture, Master, Publication
from half_fold.core.publication.surgery import by_name
from half_fold.core.spread.edits.masters import (
    MASTER,
    NEW_PIECES,
    add_master,
    give_own_grid,
    remove_furniture,
    remove_master,
    rename_master,
    set_master,
    why_master_stays,
)
from half_fold.core.spread.settable.furniture_properties import furniture_properties
from half_fold.desk.kit.property_rows import property_row
from half_fold.desk.kit.rows import Card, Edit, Row, RowSection, row_of
from half_fold.desk.session import Session
from half_fold.desk.stations.grid.at_work import AtWork
from half_fold.desk.stations.grid.furniture import FurnitureBench

Items = list[Row | Card]
LAID_OVER = [of for of in GRID if of.key in ("columns_over", "guides", "pencil")]


class MasterRows:
    """Sections of the working column for the master the station works on."""

    def __init__(self, station: AtWork, bench: FurnitureBench, session: Session) -> None:
        self.station, self.bench, self.session = station, bench, session

    @property
    def publication(self) -> Publication:
        return self.session.publication

    # The grid -----------------------------------------------------------------------------------

    def grid(self) -> list[RowSection]:
        """The working of the master's grid."""
        publication, master = self.publication, self.station.master()
        grid = master.grid
        rows: Items = [self._row(n) for n in grid_numbers(publication, master)]
        rows += [property_row(publication, grid, of, self.station.edit_for(f"grid.{of.key}")) for of in LAID_OVER]
        type_rows = [self._row(n) for n in type_numbers(publication, master)]
        extent: Items = [self._row(n) for n in extent_numbers(publication, master, self.station.words)]
        extent[0] = Row(
            "A story of",
            counted(self.station.words, "word"),
            "" if self.station.words_typed else "all stories of the job together",
            "",
            str(self.station.words),
            self.station.take_count,
        )
        return [
            RowSection(master.name.capitalize() or "No master", self._standing(), [self._which(), *rows]),
            RowSection("Text", "what a column holds", type_rows),
            RowSection("Extent", "estimated, not set", extent),
            self._spread(),
        ]

    def _row(self, number: Worked) -> Row:
        return row_of(number.said_in(self.session.unit), self.station.edit_for)

    def _standing(self) -> str:
        name = self.station.master().name
        on = sum(page.master == name for page in self.publication.pages)
        return f"master of {counted(on, 'page')}"

    def _which(self) -> Row:
        names = [(master.name, master.name) for master in self.publication.masters]
        now = self.station.master().name
        return Row("Master", now or "none", "the one in view", "", now, self.station.show_master, names)

    def _spread(self) -> RowSection:
        numbers = self.session.view.spread.numbers
        own = self.publication.pages[self.session.view.page - 1].grid is not None
        label = self.session.spread_words

        def change() -> None:
            words = f"{label} on {'its master’s' if own else 'its own'} grid"
            self.session.edit(lambda p: give_own_grid(p, numbers, not own), words)

        return RowSection(
            label,
            "on a grid of its own" if own else "on its master’s grid",
            [
                Card(
                    "Its own grid" if own else "A grid of its own",
                    "What is changed above changes this spread alone." if own else "It begins as its master’s.",
                    [("Take the master’s again", change) if own else ("Give it one", change)],
                )
            ],
        )

    # Masters and furniture ----------------------------------------------------------------------

    def furniture(self) -> list[RowSection]:
        """The working of the master's furniture."""
        master = by_name(self.publication.masters, self.station.master().name, "master")
        name = master.name

        def take(of: Property[Master]) -> Edit:
            return lambda text: self.session.edit(
                lambda p: set_master(p, name, of.key, text), f"{name} {of.label.lower()}"
            )

        rows: Items = [self._which()]
        for of in MASTER:
            if of.applies(master):
                edit = self.station.rename if of.key == "name" else take(of)
                rows.append(property_row(self.publication, master, of, edit))
        rows += [
            Row("A new master", "name it", f"based on {name}", "", "", self._new(name)),
            Row("One based on nothing", "name it", "the same grid, no furniture", "", "", self._new("")),
        ]
        if not why_master_stays(self.publication, name):
            rows.append(Card("Remove this master", "No page stands on it.", [("Remove it", self._remove)]))
        return [RowSection(name.capitalize(), self._standing(), rows), self._pieces(), *self._selected()]

    def _new(self, base: str) -> Edit:
        def make(text: str) -> bool:
            made = self.session.edit(lambda p: add_master(p, text, base), f"master {text}")
            return made and self.station.show_master(" ".join(text.split()))

        return make

    def _remove(self) -> None:
        name = self.station.master().name
        self.session.edit(lambda p: remove_master(p, name), f"master {name} removed")

    def _pieces(self) -> RowSection:
        bench = self.bench
        pieces = [(piece.id, _named(piece)) for piece in self.station.master().furniture]
        pictures = [(picture.id, picture.file) for picture in self.publication.pictures]

        def choose(piece: str) -> bool:
            bench.select(piece)
            return True

        def picture(chosen: str) -> bool:
            bench.add(Furniture(id="", kind="picture", at="head", lines=1.0, picture=chosen))
            return True

        chosen = dict(pieces).get(bench.selected, "none selected")
        rows: Items = [
            Row("Piece", chosen, "click it on the page, or choose it here", "", bench.selected, choose, pieces)
        ]
        if pictures:
            rows.append(Row("A picture", "choose one", "one of the job’s", "", "", picture, pictures))
        add = [
            ("Words", lambda: bench.add(NEW_PIECES["words"])),
            ("A rule", lambda: bench.add(NEW_PIECES["rule"])),
            ("A frame", lambda: bench.add(NEW_PIECES["frame"])),
        ]
        rows.append(Card("Add a piece", "It is dragged, or typed, to where it belongs.", add))
        return RowSection("Furniture", f"{counted(len(pieces), 'piece')} on each of its pages", rows)

    def _selected(self) -> list[RowSection]:
        piece = self.bench.piece()
        if piece is None:
            return []
        rows: Items = [
            property_row(self.publication, piece, of, self._set(of.key)) for of in furniture_properties(piece)
        ]
        return [RowSection(_named(piece), "", [*rows, self._here(piece), self._out(piece)])]

    def _here(self, piece: Furniture) -> Row:
        """Whether a piece stands on the page in view."""
        number = self.session.view.page
        hidden = piece.id in self.publication.pages[number - 1].without

        def shown(text: str) -> bool:
            if (text == "no") != hidden:
                self.bench.hide_here(piece)
            return True

        here = "no" if hidden else "yes"
        return Row(f"On page {number}", here, "of this page alone", "", here, shown, (("yes", "yes"), ("no", "no")))

    def _out(self, piece: Furniture) -> Card:
        name = self.station.master().name

        def take() -> None:
            self.session.edit(lambda p: remove_furniture(p, name, piece.id), "furniture taken out")

        return Card("Take it out", "From every page of this master.", [("Take it out", take)])

    def _set(self, field: str) -> Edit:
        return lambda text: self.station.set_piece(field, text)


def rename(session: Session, old: str, name: str) -> bool:
    """The master under another name."""
    return session.edit(lambda p: rename_master(p, old, name), f"master {name}")


def _named(piece: Furniture) -> str:
    if piece.kind == "words":
        return f"“{piece.words}” at the {piece.at}"
    if piece.kind == "frame":
        return "Frame round the page"
    return f"{piece.kind.capitalize()} at the {piece.at}"
