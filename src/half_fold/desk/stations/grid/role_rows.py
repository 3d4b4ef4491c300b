"""The rows of a role: what it states itself, and what it takes from the role it is based on."""

from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

from half_fold.core.measure.length import counted, figure
from half_fold.core.pictures.vector.symbols import add_symbol, remove_symbol
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Paragraph, Publication, Role, Run
from half_fold.core.publication.surgery import by_name, role_named
from half_fold.core.typesetting.faces.faces import families
from half_fold.core.typesetting.faces.fonts import bring_font, missing_fonts
from half_fold.core.typesetting.lines.drop_cap import drop_for
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.sheet.exceptions import format_exceptions
from half_fold.core.typesetting.sheet.role_properties import BASED_ON, GROUPS, NAME
from half_fold.core.typesetting.sheet.scale import RATIOS, apply_scale, propose
from half_fold.core.typesetting.sheet.sheet import (
    add_role,
    give_back,
    remove_role,
    set_base,
    set_role,
    uses_of,
    why_it_stays,
)
from half_fold.desk.beside.font_scan import FontScan
from half_fold.desk.kit.property_rows import property_row
from half_fold.desk.kit.rows import Card, Edit, Row, RowSection
from half_fold.desk.session import Session


class RoleRows:
    """Sections of the working column for one role of the type sheet."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        self.session, self.parent = session, parent
        self.ratio = 1.25
        self.scan = FontScan()
        self.scan.ended.connect(session.view.selected)

    @property
    def publication(self) -> Publication:
        return self.session.publication

    def sections(self, name: str) -> list[RowSection]:
        """The working of a role of the type sheet."""
        own = by_name(self.publication.roles, name, "role")
        role = role_named(self.publication, name)
        used = uses_of(self.publication, name)
        first = RowSection(own.label, f"{counted(used, 'paragraph')} set in it", self._about(own))
        groups = [
            RowSection(title, "", [*(self._row(own, role, each) for each in group), *self._extra(title, role)])
            for title, group in GROUPS
        ]
        return [first, *groups, self._scale(), self._fonts(), self._symbols()]

    def _about(self, own: Role) -> list[Row | Card]:
        def base(text: str) -> bool:
            return self.session.edit(lambda p: set_base(p, own.name, text), f"{own.label} based on {text or 'none'}")

        return [
            property_row(self.publication, own, NAME, self._set(own, NAME)),
            property_row(self.publication, own, BASED_ON, base),
            *self._exceptions(own.name),
            Row("A new role", "name it", f"begins as {own.label.lower()}", "", "", self._new(own)),
            *self._removing(own),
        ]

    def _removing(self, own: Role) -> list[Card]:
        """Taking a role out is offered where nothing needs it."""
        if why_it_stays(self.publication, own.name):
            return []
        return [Card("Remove this role", "Nothing is set in it.", [("Remove it", lambda: self._gone(own))])]

    def _exceptions(self, name: str) -> list[Row]:
        """Words that are set otherwise than the role says, where there are any."""
        said = format_exceptions(self.publication, name)
        count, _, ways = said.partition(": ")
        return [Row("Exceptions", count.partition(" in ")[0], ways)] if said else []

    def _base_label(self, own: Role) -> str:
        return next((r.label for r in self.publication.roles if r.name == own.based_on), "")

    def _new(self, own: Role) -> Edit:
        return lambda text: self.session.edit(lambda p: add_role(p, text, own.name)[0], f"role {text}")

    def _gone(self, own: Role) -> None:
        self.session.edit(lambda p: remove_role(p, own.name), f"role {own.label} removed")

    def _row(self, own: Role, role: Role, of: Property[Role]) -> Row:
        said = of.note
        if own.based_on:
            base = self._base_label(own).lower()
            whose = f"its own; typing nothing takes {base}'s" if of.key in own.own else f"as {base}"
            said = f"{said}; {whose}" if said else whose
        return property_row(self.publication, role, of, self._set(own, of), said)

    def _set(self, own: Role, of: Property[Role]) -> Edit:
        words = f"{own.label} {of.label.lower()}"

        def take(text: str) -> bool:
            if own.based_on and not text.strip() and of.key in own.own:
                return self.session.edit(lambda p: give_back(p, own.name, of.key), f"{words} as {own.based_on}")
            return self.session.edit(lambda p: set_role(p, own.name, of.key, text), words, f"role {of.key}")

        return take

    def _extra(self, title: str, role: Role) -> list[Row]:
        if title != "Opening" or role.drop_lines < 2:
            return []
        style = style_of(role, self.publication.language)
        drop = drop_for(Paragraph(role=role.name, runs=(Run(text="N"),)), style, role.drop_lines, style.leading)
        if drop is None:
            return []
        cap = style.face.cap_height
        height = f"{role.drop_lines - 1} × {figure(style.leading)} + cap height {figure(cap * style.size)}"
        how = f"({height}) ÷ {figure(cap, 3)}"
        return [Row("Drop cap, size", f"{figure(drop.size)} pt", how)]

    def _scale(self) -> RowSection:
        ratios = [("0", "traditional row"), *((f"{ratio:g}", f"{ratio:g}") for ratio in RATIOS)]
        proposals = [each for each in propose(self.publication, self.ratio) if abs(each.now - each.size) > 0.05]
        words = ", ".join(f"{each.label.lower()} {each.now:g} to {each.size:g}" for each in proposals[:8])
        more = f" and {len(proposals) - 8} more" if len(proposals) > 8 else ""

        def choose(text: str) -> bool:
            self.ratio = float(text)
            self.session.view.selected.emit()
            return True

        def apply() -> None:
            self.session.edit(lambda p: apply_scale(p, self.ratio), "type scale")

        return RowSection(
            "Type scale",
            "sizes through the body's, leadings on its baseline",
            [
                Row(
                    "Ratio",
                    dict(ratios)[f"{self.ratio:g}"],
                    "from one size to the next",
                    "",
                    f"{self.ratio:g}",
                    choose,
                    ratios,
                ),
                Card(
                    "Every role at its nearest size",
                    f"{words}{more}." if words else "Every role is on the scale already.",
                    [("Set them all", apply)] if words else [],
                ),
            ],
        )

    def _fonts(self) -> RowSection:
        gone = {font.file for font in missing_fonts(self.publication, self.session.job.folder)}
        rows: list[Row | Card] = [
            Row(
                f"{font.family}",
                font.style,
                "copied into the job",
                "Its file has gone from the job's fonts folder; put it back there." if font.file in gone else "",
            )
            for font in self.publication.fonts
        ]
        found = [(str(each.file), f"{each.family} {each.style}") for each in self.scan.found]
        if found:
            rows.append(Row("One of the system's", "choose", f"{len(found)} found", "", "", self._bring_found, found))
        look = "Reading the system's fonts" if self.scan.busy else "Look at the system's"
        acts = [("Bring in a font", self.ask_font), *([] if found else [(look, self._look)])]
        rows.append(
            Card("Fonts of your own", "A font is copied into the job where its licence bits let it be embedded.", acts)
        )
        return RowSection("Fonts", f"{len(families())} families to choose from", rows)

    def _symbols(self) -> RowSection:
        """The job's own drawings that are set as letters."""
        symbols = self.publication.symbols
        rows: list[Row | Card] = [
            Row(symbol.name, f"{{{symbol.name}}}", "so in words; in stories by the menu Text") for symbol in symbols
        ]
        acts = [("Bring in a symbol", self.ask_symbol)]
        acts += [(f"Take “{each.name}” away", partial(self.take_away, each.name)) for each in symbols]
        rows.append(Card("End marks, arrows, bullets", "A drawing (SVG) becomes a letter as high as capitals.", acts))
        return RowSection("Symbols", "", rows)

    def ask_symbol(self) -> None:
        """Ask for a drawing and make a symbol of it."""
        name, _ = QFileDialog.getOpenFileName(self.parent, "Bring in a symbol", str(Path.home()), "Drawings (*.svg)")
        if name:
            self.bring_symbol(Path(name))

    def bring_symbol(self, file: Path) -> None:
        """Make a symbol of a drawing."""
        folder = self.session.job.folder
        if self.session.edit(lambda p: add_symbol(p, folder, file)[0], f"symbol {file.stem}"):
            name = self.publication.symbols[-1].name
            self.session.noted.emit(f"In words {{{name}}} is that symbol now; in stories the menu Text puts it in.")

    def take_away(self, name: str) -> None:
        """Take a symbol away that nothing uses."""
        folder = self.session.job.folder
        self.session.edit(lambda p: remove_symbol(p, folder, name), f"symbol {name} gone")

    def _look(self) -> None:
        self.scan.start()
        self.session.view.selected.emit()

    def _bring_found(self, file: str) -> bool:
        self.bring(Path(file))
        return True

    def ask_font(self) -> None:
        """Ask for a font file and bring it in."""
        name, _ = QFileDialog.getOpenFileName(self.parent, "Bring in a font", str(Path.home()), "Fonts (*.ttf *.otf)")
        if name:
            self.bring(Path(name))

    def bring(self, file: Path) -> None:
        """Bring a font into the job."""
        folder = self.session.job.folder
        if self.session.edit(lambda p: bring_font(p, folder, file)[0], f"font {file.name}"):
            self.session.noted.emit(f"“{file.stem}” can be chosen as a family now.")
