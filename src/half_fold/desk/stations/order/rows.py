"""The working of the order: pages, sections, sheets, inserts, dates, each row with the edit that sets it."""

from collections.abc import Callable, Mapping, Sequence
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtWidgets import QFileDialog, QWidget

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.bulk import leaf_width
from half_fold.core.brief.properties import BY_KEY
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted, figure, format_length, format_size
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.folding import is_proved
from half_fold.core.plan.inserts import (
    INSERT,
    POSTED,
    REPLY_PAID,
    add_insert,
    backs_up,
    change_insert,
    drop_insert,
    faces,
    faults,
    lines_too_close,
)
from half_fold.core.plan.order import place_again
from half_fold.core.plan.sections import (
    SECTION,
    Span,
    advert_share,
    change_section,
    end_section,
    folio_of,
    spans,
    start_section,
)
from half_fold.core.plan.sheet_layout import GRIPPER_MM, HEAD_TRIM_MM, milled, sides
from half_fold.core.plan.signatures import PrintedSheet, format_remainder
from half_fold.core.plan.spreads import is_recto
from half_fold.core.press.imposed import paper_of_side
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Insert, Publication
from half_fold.core.publication.surgery import page_numbers
from half_fold.core.spread.running.order_table import take_table, write_table
from half_fold.core.spread.running.schedule import SCHEDULE, set_lead, write_schedule
from half_fold.core.spread.running.states import page_state, pages_laid
from half_fold.core.spread.settable.page_properties import PAGE, PageAt, set_pages
from half_fold.core.store.tables import read_table
from half_fold.desk.kit.property_rows import property_row
from half_fold.desk.kit.rows import Card, Edit, Row, RowSection
from half_fold.desk.memory import last_folder, note_folder
from half_fold.desk.session import Session
from half_fold.desk.stations.bound_card import bound_card
from half_fold.desk.stations.order.draft_rows import DraftRows
from half_fold.desk.stations.order.sheets import WAYS, SheetsView

Items = list[Row | Card]
TABLES = "Tables (*.csv *.xlsx)"


class OrderRows:
    """Makes the sections for what is on the bench."""

    def __init__(self, station: QWidget, session: Session, brief_edit: Callable[[str], Edit]) -> None:
        self.station, self.session, self.brief_edit = station, session, brief_edit
        self.draft = DraftRows(session, session.view.selected.emit)

    @property
    def publication(self) -> Publication:
        return self.session.publication

    # Pages --------------------------------------------------------------------------------------

    def pages(self, chosen: Sequence[int]) -> list[RowSection]:
        """The working of the chosen pages."""
        numbers = sorted(chosen)
        one = len(numbers) == 1
        title = f"Page {numbers[0]}" if one else f"Pages {numbers[0]}–{numbers[-1]}"
        side = "recto" if is_recto(self.publication, numbers[0]) else "verso"
        made = [RowSection(title, side if one else f"{len(numbers)} pages", self._page(numbers))]
        span = next((s for s in spans(self.publication) if s.first <= numbers[0] <= s.last), None)
        made.append(self._section(span, numbers[0]))
        return [*self.draft.section(), *made, self._whole(), *self._unplaced(), self._tables()]

    def _page(self, numbers: list[int]) -> Items:
        publication, first = self.publication, numbers[0]
        at = PageAt(publication, first)
        rows = {of.key: property_row(publication, at, of, self._on_pages(numbers, of)) for of in PAGE}
        blocks = counted(len(at.page.blocks), "block")
        rows["state"] = replace(rows["state"], value=page_state(publication, first - 1), working=blocks)
        folio = Row("Folio", folio_of(publication, first) or "hidden", "as its section says")
        return [rows["runs"], folio, *(rows[key] for key in ("master", "state", "standing", "advert"))]

    def _on_pages(self, numbers: list[int], of: Property[PageAt]) -> Edit:
        return lambda text: self.session.edit(lambda p: set_pages(p, numbers, of.key, text), of.label.lower())

    def _section(self, span: Span | None, number: int) -> RowSection:
        start = Row("Start a section here", "name it", f"from page {number}", "", "", self._start(number))
        if span is None:
            return RowSection("RowSection", "none yet", [start])
        section = span.section

        def change(field: str) -> Edit:
            return lambda text: self.session.edit(lambda p: change_section(p, section, field, text), f"section {field}")

        items: Items = [property_row(self.publication, section, of, change(of.key)) for of in SECTION]
        if span.first != number:
            items.append(start)
        act = (
            "Put it with what stands before",
            lambda: self.session.edit(lambda p: end_section(p, section), "section ended"),
        )
        items.append(Card("End this section", "Its pages stay; its name and rules go.", [act]))
        return RowSection(f"Section “{section.name}”", f"pages {span.first} to {span.last}", items)

    def _start(self, number: int) -> Edit:
        return lambda name: self.session.edit(lambda p: start_section(p, number, name), f"section {name}")

    def _whole(self) -> RowSection:
        publication = self.publication
        count = len(publication.pages)
        laid = len(pages_laid(publication))
        states = [page_state(publication, i) for i in range(count)]
        reached = ", ".join(f"{states.count(s)} {s}" for s in ("passed", "proofed", "copy in") if s in states)
        sold = sum(bool(page.advert) for page in publication.pages)
        items: Items = [
            Row("Extent", counted(count, "page"), "without the cover", "", str(count), self.brief_edit("pages")),
            Row("Laid", f"{laid} of {count}", reached or "pages with something on them"),
            Row("Advertising", f"{figure(100 * advert_share(publication), 1)} %", f"on {counted(sold, 'page')}"),
            Row(
                "Sheets",
                format_remainder(publication).partition(";")[0],
                format_remainder(publication).partition("; ")[2],
            ),
        ]
        card = bound_card(self.session)
        if card is not None:
            items.append(card)
        elif binding_named(publication.brief.binding).bound:
            items.append(Row("Binding", "can be bound", f"{counted(count, 'page')}, {publication.brief.binding}"))
        return RowSection("Whole job", "", items)

    def _unplaced(self) -> list[RowSection]:
        waiting = self.publication.unplaced
        if not waiting:
            return []
        at = len(self.publication.pages)
        cards = [
            Card(
                page.runs or f"A page of {counted(len(page.blocks), 'block')}",
                "Taken out of the order; nothing on it is lost.",
                [
                    (
                        "Place at the end",
                        partial(self.session.edit, partial(_placed_again, page=page.id, at=at), "placed again"),
                    )
                ],
            )
            for page in waiting
        ]
        return [RowSection("Unplaced", f"{len(waiting)} waiting", cards)]

    def _tables(self) -> RowSection:
        actions = [
            ("Write it as CSV or XLSX", self.write_table),
            ("Take in a table", self.take_table),
            ("Make a plan for the wall", self.write_plan),
        ]
        words = "The running order as a table, out and in again, or on one page for the wall."
        return RowSection("Tables and wall plan", "", [Card("Running order", words, actions)])

    # Files --------------------------------------------------------------------------------------

    def _save_name(self, title: str, name: str, kinds: str) -> Path | None:
        start = str(Path(last_folder("orders")) / f"{self.session.job.file.stem}-{name}")
        chosen, _ = QFileDialog.getSaveFileName(self.station, title, start, kinds)
        if chosen:
            note_folder("orders", Path(chosen).parent)
        return Path(chosen) if chosen else None

    def _write(self, path: Path | None, write: Callable[[Path], None]) -> None:
        if path is None:
            return
        try:
            write(path)
        except Problem as problem:
            self.session.said.emit(str(problem))
            return
        self.session.noted.emit(f"Written: {path}")

    def write_table(self) -> None:
        """Ask where, and write the running order as a table."""
        path = self._save_name("Write the running order", "order.csv", TABLES)
        self._write(path, lambda out: write_table(self.publication, out))

    def write_plan(self) -> None:
        """Ask where, and write the plan for the wall."""
        from half_fold.core.press.wall_plan import write_wall_plan

        path = self._save_name("Make a plan for the wall", "plan.pdf", "PDF (*.pdf)")
        self._write(path, lambda out: write_wall_plan(self.publication, out))

    def take_table(self) -> None:
        """Ask for a table, and order the pages by it."""
        name, _ = QFileDialog.getOpenFileName(self.station, "Take in a table", last_folder("orders"), TABLES)
        if not name:
            return
        note_folder("orders", Path(name).parent)
        notes: list[str] = []

        def take(publication: Publication) -> Publication:
            taken, said = take_table(publication, read_table(Path(name)))
            notes.extend(said)
            return taken

        if self.session.edit(take, f"took in {Path(name).name}"):
            self.session.noted.emit(" ".join(notes) or f"“{Path(name).name}” was taken in.")

    def write_dates(self) -> None:
        """Ask where, and write the schedule."""
        from datetime import date

        path = self._save_name("Write the schedule", "dates.ics", "Schedules (*.ics *.csv)")
        self._write(path, lambda out: write_schedule(self.publication, out, date.today()))

    # Sheets -------------------------------------------------------------------------------------

    def _sheet_size(self, sheet: PrintedSheet) -> list[Row]:
        """How large a sheet is, and what lies between its pages."""
        publication, unit = self.publication, self.publication.brief.unit
        both = sides(publication, sheet)
        if both is None:
            return []
        trim, paper = both[0].trim, paper_of_side(publication, both[0])
        grip, head = format_length(GRIPPER_MM * MM, unit), format_length(HEAD_TRIM_MM * MM, unit)
        milled_off = (
            f", {format_length(milled(publication), unit)} milled off each spine" if milled(publication) else ""
        )
        size = f"with bleed, marks and gripper {format_size(paper.width, paper.height, unit)}"
        return [
            Row("Sheet", format_size(trim.width, trim.height, unit), size),
            Row("Gripper", grip, f"head trim {head}, gutter 2 × bleed{milled_off}; the printer's own sheet wins"),
        ]

    def sheets(self, view: SheetsView) -> list[RowSection]:
        """The working of the printed sheet in view."""
        sheet, made = view.sheet(), view.imposed()
        spans_said = ", ".join(f"{first}–{last}" for first, last in sheet.spans)
        items: Items = [
            Row("Pages", spans_said, counted(len(sheet.pages), "page")),
            Row("Printed", view.way, "", "", view.way, view.print_by, [(way, way) for way in WAYS]),
        ]
        if made is not None:
            proof = "1 to n, heads up" if is_proved(made.imposition) else "NOT in order"
            items.append(Row("Folded back", proof, "the sheet folded by these folds and leafed through"))
            items += [Row(f"Fold {i}", "", fold.words) for i, fold in enumerate(made.imposition.folds, 1)]
        items.append(Row("Grain", "parallel to the spine", "or the copy will not lie open"))
        items += self._sheet_size(sheet)
        every = RowSection("All sheets", "", [Row(s.label, counted(len(s.pages), "page")) for s in view.sheets()])
        whole = Row(
            "Made up of", format_remainder(self.publication).partition(";")[0], format_remainder(self.publication)
        )
        return [
            RowSection(f"Sheet {sheet.letter}", "usual folding; the printer may fold otherwise", [*items, whole]),
            every,
        ]

    # Inserts ------------------------------------------------------------------------------------

    def inserts(self, insert: Insert | None) -> list[RowSection]:
        """The working of an insert, and what can be added."""
        made = [] if insert is None else [self._insert(insert)]
        at = self.session.view.page if self.session.view.page % 2 == 0 else max(2, self.session.view.page - 1)
        actions = [
            (words, lambda kind=kind: self.session.edit(lambda p: add_insert(p, at, kind), f"{kind} added"))
            for words, kind in (("Reply card", "card"), ("Tip-in", "tip-in"), ("Gatefold", "gatefold"))
        ]
        return [*made, RowSection("Add one", f"after page {at}", [Card("An insert", POSTED, actions)])]

    def _insert(self, insert: Insert) -> RowSection:
        places = page_numbers(self.publication)

        def change(field: str) -> Edit:
            return lambda text: self.session.edit(lambda p: change_insert(p, insert.id, field, text), f"insert {field}")

        after = str(places.get(insert.after, ""))
        where = "" if insert.kind == "tip-in" else f"a {insert.kind} starts on a recto"
        row = {of.key: property_row(self.publication, insert, of, change(of.key)) for of in INSERT}
        items: Items = [
            row["name"],
            Row("After page", after or "gone", where, "", after, change("after")),
            row["paper"],
            *self._widths(insert, row["width"]),
            replace(row["height"], working="of one card" if insert.kind == "card" else ""),
            row["counts"],
        ]
        if insert.kind == "card":
            items += self._card(insert, row)
        items += [Card("To look at", sentence) for sentence in faults(self.publication, insert)]
        act = ("Take it out", lambda: self.session.edit(lambda p: drop_insert(p, insert.id), "insert taken out"))
        items.append(Card("Take this insert out", "Undo brings it back.", [act]))
        return RowSection(insert.name, insert.kind, items)

    def _widths(self, insert: Insert, width: Row) -> Items:
        """How wide it is; of a gatefold also as it prints, opened."""
        if insert.kind != "gatefold":
            return [width]
        page, wide = self.publication.brief.width.mm, leaf_width(self.publication, insert)
        unit = self.publication.brief.unit
        working = f"page {format_length(page * MM, unit)} + {format_length(insert.width.pt, unit)} that folds in"
        folds = "short of the page, so that it clears the spine"
        return [replace(width, name="Folds in", working=folds), Row("Opened", format_length(wide * MM, unit), working)]

    def _card(self, insert: Insert, row: Mapping[str, Row]) -> Items:
        recto, verso = faces(self.publication, insert)
        through = "lies on it, seen through" if backs_up(self.publication, insert) else "does NOT back up"
        unit = self.publication.brief.unit
        across = f"card width {format_length(insert.width.pt, unit)} − {format_length(recto.cut * MM, unit)}; {through}"
        items: Items = [
            row["up"],
            row["stub"],
            row["cut"],
            Row("Cut, verso", format_length(verso.cut * MM, unit), across),
        ]
        items.append(row["perforations"])
        if verso.perforations:
            items.append(
                Row("Seen from the back", "; ".join(figure(x) for x in verso.perforations), "a finishing line, not ink")
            )
        for key, parts in (("parts", insert.parts), ("verso", insert.verso)):
            items.append(replace(row[key], value=counted(len(parts), "part")))
        if lines_too_close(insert):
            items.append(
                Card("Lines too close", "They leave less than 6 mm to write in; take a part out, or a larger card.")
            )
        if any(part.kind == "reply-paid" for part in (*insert.parts, *insert.verso)):
            items.append(Card("Reply-paid panel", REPLY_PAID))
        return items

    # Dates --------------------------------------------------------------------------------------

    def dates(self) -> list[RowSection]:
        """The working of the schedule."""
        plan = self.publication.schedule
        press = property_row(self.publication, self.publication, BY_KEY["press-date"], self.brief_edit("press-date"))

        def lead(field: str) -> Edit:
            return lambda text: self.session.edit(lambda p: set_lead(p, field, text), f"lead time {field}")

        items: Items = [property_row(self.publication, plan, of, lead(of.key)) for of in SCHEDULE]
        act = ("Write iCalendar or CSV", self.write_dates)
        card = Card("Schedule", "The steps as a calendar or a table.", [act])
        return [
            RowSection("On press", "", [press]),
            RowSection("Lead times", "working days", items),
            RowSection("Out", "", [card]),
        ]


def _placed_again(publication: Publication, page: str, at: int) -> Publication:
    return place_again(publication, page, at)
