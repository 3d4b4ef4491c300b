"""The Spreads station: bench, drawer, and the working of what is selected."""

from collections.abc import Sequence

from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QVBoxLayout

from half_fold.core.grid.stops import EDGES, Edge, describe, stops_for
from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.numbers.blocks import block_numbers, story_numbers
from half_fold.core.publication.records import (
    Block,
    Holds,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    HoldsStory,
    Publication,
    Stop,
)
from half_fold.core.publication.surgery import page_of_block, picture_of, story_of
from half_fold.core.spread import edits
from half_fold.core.spread.frames import blocks_on, frames_of
from half_fold.desk.kit.rows import Card, Edit, Row, Section, row_of
from half_fold.desk.session import Session
from half_fold.desk.stations.spreads.bench import SpreadBench
from half_fold.desk.stations.spreads.chooser import Chooser
from half_fold.desk.stations.spreads.drawer import Drawer, blank_words, holds_story
from half_fold.desk.stations.station import Station

Place = tuple[float, float]
EDGE_NAMES: dict[Edge, str] = {"left": "Left edge", "top": "Upper edge", "right": "Right edge", "bottom": "Lower edge"}


class SpreadsStation(Station):
    """The bench above, the drawer below."""

    number, name = 4, "Spreads"

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.bench = SpreadBench(self)
        self.drawer = Drawer(session)
        self.drawer.table.placed.connect(self.place_picture)
        column.addWidget(self.bench, 1)
        column.addWidget(self.drawer)
        self.setFocusProxy(self.bench)
        self.chooser: Chooser | None = None

    def refresh(self) -> None:
        block = self.session.block
        if block is not None:
            _, _, found = page_of_block(self.session.publication, block)
            if isinstance(found.holds, HoldsStory) and self.session.story != found.holds.story:
                self.session.story = found.holds.story
        self.bench.update()
        self.drawer.refresh()

    def open_drawer(self, leaf: str) -> None:
        self.drawer.open(leaf)

    def bring(self, what: str) -> None:
        self.drawer.open("light table" if what == "pictures" else "copy desk")
        self.drawer.ask(what)

    def keys(self) -> Sequence[tuple[str, str]]:
        if self.session.block is None:
            return (
                ("arrows, Enter", "claim fields"),
                ("Tab", "blocks"),
                ("Space", "as trimmed"),
                ("F L C", "fields, drawers"),
            )
        return (
            ("Alt+arrows", "reach"),
            ("Alt+Shift", "draw in"),
            ("arrows", "move"),
            ("Enter", "edit"),
            ("N M", "nearer, back"),
        )

    def where(self) -> str:
        return self.bench.position_words()

    # Claiming and choosing ----------------------------------------------------------------------

    def choose_for(self, start: Place, end: Place, at: QPoint) -> None:
        """Ask what goes into the fields from ``start`` to ``end``."""

        def claim(holds: Holds) -> None:
            self.claim(start, end, holds)

        entries = (
            ("P", "Picture", lambda: self._picture_for(start, end, at)),
            ("S", "Story", lambda: self._story_for(start, end, at)),
            ("W", "Words, set large", lambda: self._words_for(start, end)),
            ("I", "Ink panel", lambda: claim(HoldsPanel(ink="straw"))),
            ("K", "Keep it free", lambda: claim(HoldsNothing())),
        )
        self._open(entries, at)

    def _open(self, entries: Sequence[tuple[str, str, object]], at: QPoint) -> None:
        self.chooser = Chooser(self, entries)  # type: ignore[arg-type]
        self.chooser.open_at(at)

    def claim(self, start: Place, end: Place, holds: Holds) -> None:
        """A new block over those fields, selected."""
        made = ""

        def make(publication: Publication) -> Publication:
            nonlocal made
            publication, made = edits.claim(publication, start, end, self.session.spread.numbers, holds)
            return publication

        if self.session.edit(make, "claimed fields"):
            self.session.select(made)
            self.bench.setFocus()

    def _picture_for(self, start: Place, end: Place, at: QPoint) -> None:
        chosen = self.drawer.table.chosen_or_first_free()
        if chosen is None:
            self.claim(start, end, HoldsNothing())
            self.drawer.open("light table")
            self.session.said.emit("There are no pictures yet: bring some in, then press Enter on one to put it here.")
        else:
            self.claim(start, end, HoldsPicture(picture=chosen))

    def _story_for(self, start: Place, end: Place, at: QPoint) -> None:
        stories = self.session.publication.stories
        if not stories:
            self._new_story_for(start, end)
            return
        entries = [
            (str(i + 1) if i < 9 else "", story.title or "Untitled", lambda s=story.id: self._thread(start, end, s))
            for i, story in enumerate(stories)
        ]
        entries.append(("N", "A new story", lambda: self._new_story_for(start, end)))
        self._open(entries, at)

    def _thread(self, start: Place, end: Place, story: str) -> None:
        columns, _ = self.bench.cells()
        fields = sum(a < max(start[0], end[0]) and b > min(start[0], end[0]) for a, b in columns)
        self.claim(start, end, holds_story(self.session.publication, story, fields))

    def _new_story_for(self, start: Place, end: Place) -> None:
        story = self.drawer.copy.new_story()
        self._thread(start, end, story)
        self.drawer.open("copy desk")

    def _words_for(self, start: Place, end: Place) -> None:
        self.claim(start, end, blank_words("headline", "Words"))
        self.drawer.open("copy desk")
        self.drawer.copy.text.selectAll()

    def place_picture(self, picture: str) -> None:
        """The picture into the selected block."""
        block = self.session.block
        if block is None:
            self.session.said.emit("Claim fields for it first: drag across them on the spread.")
            return
        _, _, found = page_of_block(self.session.publication, block)
        holds = (
            replace(found.holds, picture=picture)
            if isinstance(found.holds, HoldsPicture)
            else HoldsPicture(picture=picture)
        )
        self.session.edit(lambda p: edits.set_holds(p, block, holds), "placed a picture")

    def edit_selected(self) -> None:
        """Into what the selected block holds: its text on the copy desk, or its picture on the light table."""
        block = self.session.block
        if block is None:
            return
        _, _, found = page_of_block(self.session.publication, block)
        self.drawer.open("copy desk" if isinstance(found.holds, HoldsStory | HoldsDisplay) else "light table")

    # Working ------------------------------------------------------------------------------------

    def sections(self) -> Sequence[Section]:
        if self.session.block is None:
            return self._spread_sections()
        index, _, block = page_of_block(self.session.publication, self.session.block)
        numbers = [row_of(n, lambda _: None) for n in block_numbers(self.session.publication, block.id)]
        title, subtitle, own = self._holds_rows(block)
        return [
            Section(title, subtitle, [*numbers, *own]),
            Section("Where it reaches", "", self._edge_rows(index + 1, block)),
        ]

    def _spread_sections(self) -> list[Section]:
        publication, spread = self.session.publication, self.session.spread
        on = list(blocks_on(publication, spread))
        stories = {block.holds.story: None for _, _, block in on if isinstance(block.holds, HoldsStory)}
        masters = ", ".join(dict.fromkeys(publication.pages[n - 1].master for n in spread.numbers))
        runs = [publication.pages[n - 1].runs for n in spread.numbers if publication.pages[n - 1].runs]
        first: list[Row | Card] = [Row("Master", masters), Row("Blocks", str(len(on)))]
        first += [Row("Runs here", words) for words in dict.fromkeys(runs)]
        if not on:
            first.append(Card("Nothing here yet", "Drag across fields to claim them, or press an arrow key and Enter."))
        out = [Section(f"Spread {spread.label}", "", first)]
        for story in stories:
            rows = [row_of(n, lambda _: None) for n in story_numbers(publication, self.session.setter.threads, story)]
            out.append(Section(story_of(publication, story).title, "story on this spread", rows))
        return out

    def _edge_rows(self, number: int, block: Block) -> list[Row]:
        frames = frames_of(self.session.publication, number)
        out = []
        for edge in EDGES:
            stop: Stop = getattr(block, edge)
            choices = [
                (f"{s.kind}:{s.index}:{s.count}:{int(s.facing)}", self._stop_words(s, edge, number))
                for _, s in stops_for(edge, frames)
            ]
            typed = f"{stop.kind}:{stop.index}:{stop.count}:{int(stop.facing)}"
            moved = stop.off.typed if stop.off else "0mm"
            part = Row("Moved outwards", moved, "from that stop", "", moved, self._off_edit(block, edge))
            words = describe(stop, edge, frames)
            out.append(Row(EDGE_NAMES[edge], words, "", "", typed, self._stop_edit(block.id, edge), choices, (part,)))
        return out

    def _stop_words(self, stop: Stop, edge: Edge, number: int) -> str:
        words = describe(stop, edge, frames_of(self.session.publication, number))
        return f"{words}, other page" if stop.facing else words

    def _stop_edit(self, block: str, edge: Edge) -> Edit:
        def take(text: str) -> bool:
            kind, index, count, facing = text.split(":")
            stop = Stop(kind=kind, index=int(index), count=int(count), facing=facing == "1")  # type: ignore[arg-type]
            return self.session.edit(lambda p: edits.set_stop(p, block, edge, stop), EDGE_NAMES[edge].lower())

        return take

    def _off_edit(self, block: Block, edge: Edge) -> Edit:
        def move(publication: Publication, text: str) -> Publication:
            size: Length = length(text, self.session.unit)
            stop: Stop = getattr(block, edge)
            return edits.set_stop(publication, block.id, edge, replace(stop, off=size if size.pt else None))

        return lambda text: self.session.edit(lambda p: move(p, text), f"moved the {EDGE_NAMES[edge].lower()}")

    def _set(self, block: str, said: str, holds: Holds) -> bool:
        return self.session.edit(lambda p: edits.set_holds(p, block, holds), said)

    def _holds_rows(self, block: Block) -> tuple[str, str, list[Row]]:
        publication, holds = self.session.publication, block.holds
        if isinstance(holds, HoldsPicture):
            picture = picture_of(publication, holds.picture)
            return "Picture", f"{picture.file}, {picture.width} × {picture.height}", self._picture_rows(block.id, holds)
        if isinstance(holds, HoldsStory):
            numbers = story_numbers(publication, self.session.setter.threads, holds.story)
            return (
                "Story",
                story_of(publication, holds.story).title,
                [*(row_of(n, lambda _: None) for n in numbers), *self._story_rows(block, holds)],
            )
        if isinstance(holds, HoldsDisplay):
            return "Words", "display text of this block", self._display_rows(block, holds)
        if isinstance(holds, HoldsPanel):
            return "Ink panel", "", self._panel_rows(block.id, holds)
        return "Kept free", "Enter on a picture of the light table puts it here", []

    def _picture_rows(self, block: str, holds: HoldsPicture) -> list[Row]:
        pictures = [(p.id, p.file) for p in self.session.publication.pictures]
        shown = dict(pictures)[holds.picture]
        return [
            Row(
                "Which",
                shown,
                "",
                "",
                holds.picture,
                lambda v: self._set(block, "another picture", replace(holds, picture=v)),
                pictures,
            ),
            Row(
                "Sits",
                "fills the block" if holds.scale == "fill" else "fits inside",
                "",
                "",
                holds.scale,
                lambda v: self._set(block, "how it sits", replace(holds, scale=v)),
                [("fill", "fills the block"), ("fit", "fits inside")],
            ),
            Row(
                "Focus across",
                f"{holds.focus_x * 100:.0f} %",
                "from the left",
                "",
                f"{holds.focus_x * 100:.0f}",
                self._share(block, holds, "focus_x"),
            ),
            Row(
                "Focus down",
                f"{holds.focus_y * 100:.0f} %",
                "from the head",
                "",
                f"{holds.focus_y * 100:.0f}",
                self._share(block, holds, "focus_y"),
            ),
        ]

    def _share(self, block: str, holds: HoldsPicture, field: str) -> Edit:
        def take(text: str) -> bool:
            share = _number(self.session, text, 0, 100, "share of the picture")
            return share is not None and self._set(block, "focus", replace(holds, **{field: share / 100}))

        return take

    def _story_rows(self, block: Block, holds: HoldsStory) -> list[Row]:
        def columns(text: str) -> bool:
            count = _number(self.session, text, 1, 12, "number of columns")
            return count is not None and self._set(block.id, "columns", replace(holds, columns=int(count)))

        return [
            Row("Columns", str(holds.columns), "in this block", "", str(holds.columns), columns),
            self._inset_row(block),
        ]

    def _inset_row(self, block: Block) -> Row:
        now = block.inset.typed if block.inset else "0mm"

        def take(text: str) -> bool:
            def make(publication: Publication) -> Publication:
                size = length(text, self.session.unit)
                if size.pt < 0:
                    raise Problem("An inset cannot be less than nothing; type a measure of 0 or more.")
                return edits.set_inset(publication, block.id, size if size.pt else None)

            return self.session.edit(make, "inset")

        return Row("Inset", now, "of the text from the block's edges", "", now, take)

    def _display_rows(self, block: Block, holds: HoldsDisplay) -> list[Row]:
        roles = [(role.name, role.label) for role in self.session.publication.roles]
        role = holds.paragraphs[0].role if holds.paragraphs else "headline"
        size = holds.size.typed if holds.size else "as the role says"

        def set_role(name: str) -> bool:
            return self._set(
                block.id, "role", replace(holds, paragraphs=tuple(replace(p, role=name) for p in holds.paragraphs))
            )

        def set_size(text: str) -> bool:
            try:
                size = length(text, "pt") if text.strip() else None
            except Problem as problem:
                self.session.said.emit(str(problem))
                return False
            if size is not None and not 2 <= size.pt <= 2000:
                self.session.said.emit("Type from 2 to 2000 points can be set; type a size between.")
                return False
            return self._set(block.id, "size", replace(holds, size=size))

        return [
            Row("Role", dict(roles).get(role, role), "", "", role, set_role, roles),
            Row("Size", size, "", "", holds.size.typed if holds.size else "", set_size),
            Row(
                "Stands",
                holds.stands,
                "in its block",
                "",
                holds.stands,
                lambda v: self._set(block.id, "where it stands", replace(holds, stands=v)),
                [("head", "at the head"), ("middle", "in the middle"), ("foot", "at the foot")],
            ),
            self._inset_row(block),
        ]

    def _panel_rows(self, block: str, holds: HoldsPanel) -> list[Row]:
        inks = [(ink.name, ink.name) for ink in self.session.publication.inks]

        def tint(text: str) -> bool:
            share = _number(self.session, text, 0, 100, "tint")
            return share is not None and self._set(block, "tint", replace(holds, tint=share))

        return [
            Row("Ink", holds.ink, "", "", holds.ink, lambda v: self._set(block, "ink", replace(holds, ink=v)), inks),
            Row("Tint", f"{holds.tint:g} %", "", "", f"{holds.tint:g}", tint),
        ]

    def take_focus(self) -> None:
        self.bench.setFocus(Qt.FocusReason.OtherFocusReason)


def _number(session: Session, text: str, least: float, most: float, what: str) -> float | None:
    try:
        value = float(text.replace("%", "").replace(",", ".").strip())
    except ValueError:
        value = least - 1
    if not least <= value <= most:
        session.said.emit(f"“{text}” is no {what}; type a number from {least:g} to {most:g}.")
        return None
    return value
