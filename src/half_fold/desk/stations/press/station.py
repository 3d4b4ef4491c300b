"""Press: what to make, the sheet as it will be, progress that can be cancelled, and the record of what was made."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtWidgets import (
    QVBoxLayout,
)

from half_fold.core.brief.allowances import overprint, pixels
from half_fold.core.brief.printers import STANDARD
from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import profile_for, profile_name
from half_fold.core.plan.bound import binding_report
from half_fold.core.press.make import READ_PPI
from half_fold.core.press.outputs import (
    FORM_WORDS,
    OUTPUT,
    drop_output,
    format_output,
    keep_output,
    output_named,
    set_output,
)
from half_fold.core.press.parts import PAGES, SHEETS_FORM, part_named, side_name
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Output, OutputForm, Publication
from half_fold.desk.kit.property_rows import property_row
from half_fold.desk.kit.rows import Card, Edit, Row, RowSection
from half_fold.desk.session import Session
from half_fold.desk.stations.press.making import MakingStation, proved_words
from half_fold.desk.stations.press.sheet_view import SheetView

MADE_OF: dict[OutputForm, str] = {"pages": "page", "spreads": "spread", "sheets": "side"}
PICTURED = ("cover", "front")  # parts without pages that a picture is made of


class PressStation(MakingStation):
    """The sheet, the choices under it, and the working of what will be and what was made."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.sheet = SheetView(self)
        column.addWidget(self.sheet, 1)
        column.addWidget(self._controls())

    def take_focus(self) -> None:
        self.button.setFocus()

    def refresh(self) -> None:
        self._as_the_printer_wants()
        self._fill_parts()
        self.sheet.update()

    def show_sheet(self) -> None:
        self.sheet.update()

    def keys(self) -> Sequence[tuple[str, str]]:
        return (("Ctrl+P", "press"), ("PgUp PgDn", "sheets"), ("Tab", "choices"))

    def where(self) -> str:
        if self.form == SHEETS_FORM and self.part().has_pages:
            label = side_name(self.session.publication, self.part(), self.session.view.page)
            return label[0].upper() + label[1:]
        return f"Sheet of {self._in_view()}"

    # Working ------------------------------------------------------------------------------------

    def _picture_card(self) -> list[Row | Card]:
        """A picture of what is in view, for those who see it on a screen; none of what is bound in."""
        part = self.part()
        if not part.has_pages and part.key not in PICTURED:
            return []
        words = f"{self._in_view().capitalize()}, cut to the trim, as PNG or JPEG."
        if part.key == "front":
            wide, high, _ = pixels(self.session.publication)
            words = f"The front as PNG or JPEG, {wide} × {high} pixels."
        return [Card("A picture for the screen", words, [("Write the picture", self.ask_picture)])]

    def _pages_row(self) -> Row:
        """Which pages are made."""

        def take(text: str) -> bool:
            wanted = "" if text.strip().lower() in ("", "all") else text
            try:
                self.pages = part_named(self.session.publication, wanted).key if wanted else ""
            except Problem as problem:
                self.session.said.emit(str(problem))
                return False
            self.sheet.update()
            self.session.view.selected.emit()
            return True

        return Row("Pages", self.pages or "all", "such as 1, 6-9", "", self.pages or "all", take)

    def _kept_outputs(self) -> RowSection:
        """What is made again and again: chosen, set, kept and dropped."""
        publication, kept = self.session.publication, self.kept()
        every = publication.outputs
        items: list[Row | Card] = []
        if every:
            names = [(output.name, output.name) for output in every]
            words = format_output(kept) if kept is not None else "what is chosen below has no name"
            items.append(
                Row("Output", kept.name if kept is not None else "choose", words, "", "", self._take_named, names)
            )
        if kept is None:
            items.append(Row("Keep this as", "name it", format_output(self.asked()), "", "", self._keep))
        else:
            items += [property_row(publication, kept, of, self._setter(kept.name, of)) for of in OUTPUT]
        actions: list[tuple[str, Callable[[], object]]] = [("Make every output", self.ask_outputs)] if every else []
        if kept is not None:
            actions.append((f"Drop “{kept.name}”", partial(self._drop, kept.name)))
        if actions:
            made = counted(len(every), "output") + (" is kept." if len(every) == 1 else " are kept.")
            items.append(Card("Made again and again", f"{made} Each is a file of its own.", actions))
        return RowSection("Outputs", "", items)

    def _take_named(self, name: str) -> bool:
        self.take(output_named(self.session.publication, name))
        return True

    def _keep(self, name: str) -> bool:
        asked = replace(self.asked(), name=name)
        return self.session.edit(lambda p: keep_output(p, asked), f"output {name} kept")

    def _drop(self, name: str) -> None:
        self.session.edit(lambda p: drop_output(p, name), f"output {name} dropped")

    def _setter(self, name: str, of: Property[Output]) -> Edit:
        def take(text: str) -> bool:
            if not self.session.edit(lambda p: set_output(p, name, of.key, text), f"{name} {of.label.lower()}"):
                return False
            at = [output.name for output in self.session.publication.outputs]
            now = name if name in at else " ".join(text.split())
            self.take(output_named(self.session.publication, now))
            return True

        return take

    def sections(self) -> Sequence[RowSection]:
        publication = self.session.publication
        part = self.part()
        profile, paper = profile_name(profile_for(publication, part.paper)), part.paper
        what = MADE_OF[self.form] if part.has_pages else "sheet"
        count = counted(len(part.makers(self.session.setter, self.form)), what)
        brief = publication.brief
        items: list[Row | Card] = [
            Row("File", count, FORM_WORDS[self.form].capitalize() if part.has_pages else part.label),
            *([self._pages_row()] if self.choice == PAGES else []),
            Row("Standard", STANDARD, "live transparency, profile inside")
            if not self.to_read
            else Row("Standard", "none", f"cut to the trim, pictures of {self.ppi or READ_PPI:g} ppi; not for a press"),
            Row(
                "Profile",
                profile.partition(" (")[0].removeprefix("Half Fold "),
                f"{profile}, for {paper}"
                + ("; inks are shown by it" if self.to_read else "; the printer's own profile wins (--profile)"),
            ),
        ]
        if not self.to_read:
            items += [
                Row("Bleed", brief.bleed.typed, "on every side"),
                _black_row(publication),
            ]
        report = binding_report(publication)
        if report.stops_press:
            items.append(Card("Would stop the press", report.sentence, (), True))
        items += self._picture_card()
        words = "Every part pressed and proved, and the job ticket, in one archive."
        items.append(Card("Everything for the printer", words, [("Gather it", self.ask_everything)]))
        made = [
            Row(
                str(entry.get("when", "")).replace("T", " ")[:16],
                f"{entry.get('part', '')}",
                ", ".join(filter(None, (Path(str(entry.get("file", ""))).name, proved_words(entry)))),
            )
            for entry in reversed(self.session.job.pressed()[-8:])
        ]
        words = self._returned or "Whether a file that comes back is one of these, whole and unchanged."
        back = [Card("Is this the file?", words, [("Prove a file", self.ask_which)])] if made else []
        return [
            RowSection("What will be made", "", items),
            self._kept_outputs(),
            RowSection("Made before", "" if made else "nothing yet", [*back, *made]),
        ]


def _black_row(publication: Publication) -> Row:
    """What of black alone is printed on what lies behind it."""
    rule, says = overprint(publication)
    return Row("Black", "K alone", f"{rule.words}; {says}")
