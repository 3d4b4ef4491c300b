"""The working of the brief: sections of rows, each carrying the edit that sets it."""

from collections.abc import Callable

from msgspec.structs import replace

from half_fold.core.brief import allowances, bulk
from half_fold.core.brief.binding import Binding
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.compare import extent_for_spine, on_papers
from half_fold.core.brief.creep import WARN_MM, creep_numbers
from half_fold.core.brief.dummies import add_dummy, drop_dummy, measured
from half_fold.core.brief.papers import find_paper, keep_paper, known_papers, library
from half_fold.core.brief.printer_properties import SHEET, set_sheet
from half_fold.core.brief.printers import Change, keep_sheet, sheet_changes
from half_fold.core.brief.properties import BRIEF
from half_fold.core.brief.soft_spine import SCHOOLS
from half_fold.core.brief.spine import (
    block,
    copy_thickness,
    spine,
    spine_text_clear,
    spine_tolerance,
    worked_spine,
)
from half_fold.core.brief.stock import caliper, grammage, volume
from half_fold.core.brief.weight import carton, run_weight, weight
from half_fold.core.brief.wrap import cover_numbers, has_cover
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted, figure, format_length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.worked import Worked
from half_fold.core.plan.order import set_extent
from half_fold.core.plan.settings import PLAN
from half_fold.core.publication.records import Dummy, Paper, Publication
from half_fold.desk.kit.property_rows import property_row
from half_fold.desk.kit.rows import Card, Edit, Row, RowSection, row_of
from half_fold.desk.session import Session
from half_fold.desk.stations.bound_card import bound_card

Items = list[Row | Card]
PIXELS = "1600x2560px@300ppi"

OF = {each.key: each for each in (*BRIEF, *PLAN)}
FACTS = ("title", "issue", "season", "date", "author", "publisher", "price", "slogan")
OF_BINDING = ("signature", "swell", "back", "endpapers", "jacket", "core", "cored-ends", "flap", "gatefold")


class BriefRows:
    """Makes the sections from the job as it is."""

    def __init__(self, session: Session, edit: Callable[[str], Edit]) -> None:
        self.session, self.edit = session, edit
        self.wanted_spine: float | None = None
        self.compared: list[str] = []
        self.changed: list[Change] = []

    @property
    def publication(self) -> Publication:
        return self.session.publication

    @property
    def binding(self) -> Binding:
        return binding_named(self.publication.brief.binding)

    def sections(self) -> list[RowSection]:
        """The working of the brief, from trim to dummies."""
        school = SCHOOLS[self.publication.brief.spine_school]
        binding = self.binding
        words = f"{school}; the printer's own sheet wins" if binding.has_spine else binding.no_spine
        spine_first = [RowSection("Spine and cover", words, self._spine())] if binding.bound else []
        made = [*spine_first, RowSection("What is made", "", self._made())]
        if binding.on_screen:
            return [*made, RowSection("On the screen", "as the shop or the reader shows it", self._asked())]
        if has_cover(self.publication) and not binding.bound:
            made.append(RowSection("Cover", "the printer's own sheet wins", self._given_cover()))
        made.append(RowSection("Papers", "a figure is typed or derived", self._papers()))
        made.append(
            RowSection("What the printer asks for", "usual figures; the printer's own sheet wins", self._asked())
        )
        if not binding.bound:
            return [*made, RowSection("Printer's sheet", "copied into the job", self._printer())]
        made.append(RowSection("Weight", "glue is left out of it", self._weight()))
        creep = creep_numbers(self.publication)
        if creep:
            made.append(RowSection("Creep", "sheets inside others are pushed out", self._creep(creep)))
        return [
            *made,
            RowSection("On other papers", "this job, same extent", self._compare()),
            RowSection("Measured dummies", "from two on they speak for the paper", self._dummies()),
            RowSection("Printer's sheet", "copied into the job", self._printer()),
        ]

    # Rows ---------------------------------------------------------------------------------------

    def _number(self, number: Worked | None, large: bool = False) -> list[Row]:
        if number is None:
            return []
        return [row_of(number.said_in(self.session.unit), self.edit, large)]

    def _numbers(self, *numbers: Worked | None) -> list[Row]:
        return [row for number in numbers for row in self._number(number)]

    def _set(self, key: str, working: str = "") -> list[Row]:
        """The row of a property of the brief, where this job has it."""
        job = self.publication
        return [property_row(job, job, of, self.edit(key), working) for of in (OF[key],) if of.applies(job)]

    def _set_all(self, *keys: str) -> list[Row]:
        return [row for key in keys for row in self._set(key)]

    # Sections -----------------------------------------------------------------------------------

    def _spine(self) -> Items:
        publication = self.publication
        panel = spine(publication)
        why = binding_named(publication.brief.binding).no_spine
        items: Items = [*self._number(panel, large=True)] if panel is not None else [Row("Spine", "none", why)]
        if self.binding.has_spine:
            items += self._given_spine()
        items += self._numbers(block(publication), copy_thickness(publication))
        items += self._numbers(spine_tolerance(publication), spine_text_clear(publication))
        items += self._numbers(*cover_numbers(publication))
        if panel is not None:
            items += self._wanted()
        card = bound_card(self.session)
        if card is not None:
            items.append(card)
        return items

    def _given_spine(self) -> list[Row]:
        worked = worked_spine(self.publication)
        return self._set(
            "spine", "it wins over what is worked out" + (f", {worked.text}" if worked is not None else "")
        )

    def _given_cover(self) -> Items:
        """The cover of a job whose pages are made elsewhere."""
        panel = spine(self.publication)
        items: Items = [*self._number(panel, large=True)] if panel is not None else []
        return [*items, *self._given_spine(), *self._numbers(*cover_numbers(self.publication))]

    def _wanted(self) -> Items:
        """A spine that is wanted, and the extent that comes nearest to it."""
        wanted = self.wanted_spine
        unit = self.publication.brief.unit
        shown = format_length(wanted * MM, unit) if wanted else "say one"
        typed = shown.replace(" ", "") if wanted else ""
        items: Items = [Row("A spine of", shown, "finds the extent for it", "", typed, self._want)]
        found = extent_for_spine(self.publication, wanted) if wanted else None
        if found is not None and found[0] != len(self.publication.pages):
            pages, comes_to = found
            words = f"{pages} pages come nearest: a spine of {format_length(comes_to * MM, unit)}."
            act = (
                f"Make it {pages} pages",
                lambda: self.session.edit(lambda p: set_extent(p, pages), f"{pages} pages"),
            )
            items.append(Card("Extent for that spine", words, [act]))
        return items

    def _want(self, text: str) -> bool:
        try:
            self.wanted_spine = length(text, self.session.unit).mm if text.strip() else None
        except Problem as problem:
            self.session.said.emit(str(problem))
            return False
        self.session.view.selected.emit()
        return True

    def _made(self) -> Items:
        publication = self.publication
        items: Items = [
            *self._set_all(*FACTS, "language"),
            *self._numbers(allowances.trim_width(publication), allowances.trim_height(publication)),
            *self._set("trim"),
            *(() if self.binding.elsewhere else self._number(bulk.pages(publication))),
            *(self._number(bulk.leaf_count(publication)) if self.binding.bound else ()),
            *self._set("binding"),
        ]
        if self.binding.on_screen:
            across, down, ppi = allowances.pixels(publication)
            return [
                *items,
                Row("Pixels", f"{across} × {down}", f"at {ppi:g} to the inch; type a trim such as {PIXELS}"),
            ]
        return [*items, *self._set_all("bound", *OF_BINDING, "quantity", "press-date")]

    def _papers(self) -> Items:
        publication, brief = self.publication, self.publication.brief
        text = bulk.text_caliper(publication)
        items: Items = []
        if not self.binding.elsewhere:
            working = f"{text.text}, {_after_name(text)}"
            name = "Text paper" if self.binding.bound else "Paper"
            items += [replace(row, name=name) for row in self._set("paper.text", working)]
            items += self._figures(brief.text_paper)
        if self.binding.cover == "none":
            return items
        cover = bulk.cover_caliper(publication)
        working = f"{cover.text}, {_after_name(cover)}" if cover is not None else ""
        items += self._set("paper.cover", working)
        if cover is not None:
            items += self._figures(brief.cover_paper)
        how = "caliper=100um, ppi=400, grammage=130,volume=1.1 or lb=60,category=book; name=... names it"
        if not self.binding.elsewhere:
            items.append(Row("Own text paper", "state one", how, "", "grammage=,volume=", self.edit("paper.text")))
            how = "in the same words"
        items.append(Row("Own cover paper", "state one", how, "", "caliper=12pt", self.edit("paper.cover")))
        if self.binding.elsewhere:
            return items
        own = find_paper(publication, brief.text_paper)
        words = "Other jobs will then find it among their papers."
        items.append(Card("Keep this text paper", words, [("Keep it for other jobs", lambda: self._keep(own))]))
        return items

    def _figures(self, name: str) -> Items:
        paper = find_paper(self.publication, name)
        return [
            Row(f"  {number.name}", number.text, number.how)
            for number in (grammage(paper), volume(paper))
            if number is not None
        ]

    def _keep(self, paper: Paper) -> None:
        try:
            keep_paper(paper)
        except Problem as problem:
            self.session.said.emit(str(problem))
            return
        self.session.noted.emit(f"“{paper.name}” is kept for other jobs.")

    def _asked(self) -> Items:
        publication = self.publication
        if not self.binding.bound:
            return [
                *self._numbers(allowances.bleed(publication), allowances.safe_zone(publication)),
                *self._set("unit"),
            ]
        return [
            *self._numbers(allowances.bleed(publication), allowances.safe_zone(publication)),
            *self._numbers(allowances.fold_loss(publication)),
            *self._set_all("spine.school", "spine.rounding", "unit"),
        ]

    def _weight(self) -> Items:
        publication = self.publication
        copy = weight(publication)
        if copy is None:
            return [Row("Weight of a copy", "not known", "a paper was stated without its grammage")]
        return list(self._numbers(copy, run_weight(publication), carton(publication)))

    def _creep(self, numbers: list[Worked]) -> Items:
        items: Items = [*self._set("folds")]
        items += self._numbers(*numbers[:2]) if len(numbers) > 1 else self._numbers(numbers[0])
        if numbers[0].value > WARN_MM:
            words = "Folios and pictures near the fore edge lose more than 1 mm of margin on the inner sheets."
            items.append(Card("Much creep", words))
        return items

    # Other papers, dummies, printers ------------------------------------------------------------

    def _compare(self) -> Items:
        names = self.compared or [p.name for p in library() if p.kind == "text"][:4]
        choices = [(p.name, p.name) for p in known_papers(self.publication)]
        items: Items = [
            Row("Compare", counted(len(names), "paper"), "choose to add, or to take out", "", "", self._toggle, choices)
        ]
        for found in on_papers(self.publication, names):
            unit = self.publication.brief.unit
            shown = format_length(found.spine * MM, unit) if found.spine is not None else "no spine"
            heavy = f"{figure(found.weight, 0)} g, " if found.weight is not None else ""
            text = "spine text fits" if found.text_fits else "no spine text"
            items.append(Row(found.paper, shown, f"{heavy}{format_length(found.thickness * MM, unit)} thick, {text}"))
        return items

    def _toggle(self, name: str) -> bool:
        if not self.compared:
            self.compared = [p.name for p in library() if p.kind == "text"][:4]
        if name in self.compared and len(self.compared) > 1:
            self.compared.remove(name)
        elif name not in self.compared:
            self.compared.append(name)
        self.session.view.selected.emit()
        return True

    def _dummies(self) -> Items:
        publication, paper = self.publication, self.publication.brief.text_paper
        found = measured(publication, paper)
        items: Items = []
        if found is not None:
            items += self._set("caliper")
            mill = caliper(find_paper(publication, paper))
            spread = f"spread {figure(found.spread, 2)} µm; the mill says {mill.text}"
            items.append(Row("Measured caliper", f"{figure(found.caliper, 1)} µm", spread))
            for dummy, residual in found.residuals:
                working = f"{format_length(residual * MM, publication.brief.unit)} off the line" + (
                    f", {dummy.date}" if dummy.date else ""
                )
                working += f", {dummy.note}" if dummy.note else ""
                row = Row(
                    f"{dummy.pages} pages",
                    dummy.measured.typed,
                    working,
                    "",
                    _dummy_words(dummy),
                    self._edit_dummy(dummy),
                )
                items.append(row)
        log = "pages, block without cover, date, note; an empty entry takes one out"
        items.append(Row("Log a dummy", "measured", log, "", "96, 8.9mm, ", self._log))
        return items

    def _read_dummy(self, publication: Publication, text: str) -> Publication:
        parts = [part.strip() for part in text.split(",", 3)]
        if len(parts) < 2 or not parts[0].isdigit():
            raise Problem(f"“{text}” is no dummy; give pages, block, date and note such as 96, 8.9mm, 2026-11-20.")
        block = length(parts[1], self.session.unit)
        more = [*parts[2:], "", ""]
        return add_dummy(publication, publication.brief.text_paper, int(parts[0]), block, more[0], more[1])

    def _log(self, text: str) -> bool:
        return self.session.edit(lambda p: self._read_dummy(p, text), "logged a dummy")

    def _edit_dummy(self, dummy: Dummy) -> Edit:
        def change(publication: Publication, text: str) -> Publication:
            without = drop_dummy(publication, dummy)
            return self._read_dummy(without, text) if text.strip(" ,") else without

        return lambda text: self.session.edit(lambda p: change(p, text), "changed a dummy")

    def _printer(self) -> Items:
        sheet = self.publication.printer
        of, words = OF["printer"], sheet.note if sheet is not None else ""
        items: Items = [property_row(self.publication, self.publication, of, self._choose_printer, words)]
        items += [Row(c.name, c.now, f"was {c.before}, set by the sheet") for c in self.changed if sheet is not None]
        if sheet is None:
            return items
        items += [property_row(self.publication, sheet, each, self._set_sheet(each.key)) for each in SHEET]
        act = ("Keep it for other jobs", self._keep_sheet)
        items.append(Card("This printer's sheet", "Change its figures above, then keep it by its name.", [act]))
        return items

    def _choose_printer(self, name: str) -> bool:
        before = self.publication
        done = self.edit("printer")(name)
        self.changed = sheet_changes(before, self.publication)
        self.session.view.selected.emit()
        return done

    def _set_sheet(self, field: str) -> Edit:
        words = f"printer's {field.replace('_', ' ')}"
        return lambda text: self.session.edit(lambda p: set_sheet(p, field, text), words)

    def _keep_sheet(self) -> None:
        sheet = self.publication.printer
        if sheet is None:
            return
        try:
            path = keep_sheet(sheet)
        except Problem as problem:
            self.session.said.emit(str(problem))
            return
        self.session.noted.emit(f"Kept: {path}")


def _after_name(number: Worked) -> str:
    return number.how.partition(": ")[2] or number.how


def _dummy_words(dummy: Dummy) -> str:
    return ", ".join((str(dummy.pages), dummy.measured.typed, dummy.date, dummy.note)).rstrip(", ")
