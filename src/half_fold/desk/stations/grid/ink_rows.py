"""The rows of the ink list: of the ink, fade or look that is chosen, of what may be added, and of palettes."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QFileDialog, QWidget

from half_fold.core.inks import properties
from half_fold.core.inks.edits import (
    add_ink,
    remove_ink,
    rename_ink,
    replace_ink,
    said,
    state_ink,
    uses_of_ink,
    with_new_inks,
)
from half_fold.core.inks.exchange import give_inks, read_inks, take_inks
from half_fold.core.inks.fades import format_stops, remove_fade, rename_fade, state_fade
from half_fold.core.inks.looks import BEGINNINGS, add_look, remove_look, rename_look
from half_fold.core.inks.naming import used_by
from half_fold.core.inks.numbers import format_limit, ink_total, scheme_of
from half_fold.core.inks.palette import InkProposal
from half_fold.core.inks.screen import loss_of
from half_fold.core.measure.length import counted, figure
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Fade, HoldsPicture, Ink, Look, Publication
from half_fold.core.publication.surgery import by_name, cover_blocks, story_of
from half_fold.desk.beside.palette_maker import PaletteMaker
from half_fold.desk.kit.property_rows import property_row
from half_fold.desk.kit.rows import Card, Edit, Row, RowSection
from half_fold.desk.memory import last_folder, note_folder
from half_fold.desk.session import Session
from half_fold.desk.stations.grid.ink_sheet import Chosen

LISTS = "Ink lists (*.csv *.gpl *.halffold)"
STORY = "story "
COVER, SPREAD, EVERY = "the cover", "this spread", "all pictures"
STATED = "shares of cyan, magenta, yellow, black; “spot” before them; or a screen colour, #a04f2c"


class InkRows:
    """Sections of the working column for the ink list; every row is an edit of the job."""

    def __init__(self, session: Session, parent: QWidget, choose: Callable[[Chosen], None]) -> None:
        self.session, self.parent, self.choose = session, parent, choose
        self.palettes = PaletteMaker()
        self.palettes.failed.connect(session.said)

    @property
    def publication(self) -> Publication:
        return self.session.publication

    def sections(self, chosen: Chosen) -> list[RowSection]:
        """The working of one of the list, and of the list itself."""
        return [self._of(chosen), self._new(), self._palette(), self._scheme(), self._lists()]

    def _of(self, chosen: Chosen) -> RowSection:
        if chosen.kind == "ink":
            return self._of_ink(by_name(self.publication.inks, chosen.name, "ink"))
        if chosen.kind == "fade":
            return self._of_fade(by_name(self.publication.fades, chosen.name, "fade"))
        return self._of_look(by_name(self.publication.looks, chosen.name, "look"))

    def _edit(self, change: Callable[[Publication, str], Publication], words: str) -> Edit:
        return lambda text: self.session.edit(lambda p: change(p, text), words)

    def _renamed(self, chosen: Chosen, change: Callable[[Publication, str, str], Publication]) -> Edit:
        def take(text: str) -> bool:
            name = " ".join(text.split())
            if not self.session.edit(lambda p: change(p, chosen.name, name), f"{chosen.kind} {name}"):
                return False
            self.choose(Chosen(chosen.kind, name))
            return True

        return take

    # Inks ---------------------------------------------------------------------------------------

    def _of_ink(self, ink: Ink) -> RowSection:
        loss = loss_of(self.publication, ink)
        places = list(uses_of_ink(self.publication, ink.name))
        others = [(each.name, each.name) for each in self.publication.inks if each is not ink]
        rows: list[Row | Card] = [
            Row("Name", ink.name, "", "", ink.name, self._renamed(Chosen("ink", ink.name), rename_ink)),
            Row("Stated as", said(ink), STATED, "", said(ink), self._edit(self._stating(ink), f"ink {ink.name}")),
            *self._values("ink", ink.name, ink, properties.INK),
            Row("Ink in all", f"{figure(ink_total(ink), 0)} %", format_limit(self.publication, ink)),
        ]
        if loss is not None:
            rows.append(Row("In print", loss.words, f"{loss.difference:.1f} in Lab from {ink.screen} on the screen"))
        rows.append(Row("Used by", counted(len(places), "place"), used_by(places) if places else "nothing names it"))
        if others and places:
            take = self._edit(lambda p, other: replace_ink(p, ink.name, other), f"another ink for {ink.name}")
            words = "everywhere it is used"
            rows.append(Row("In its place", "choose", words, "", "", take, others, inks=self.publication))
        if not places:
            rows.append(self._removal("ink", ink.name, remove_ink))
        return RowSection(ink.name, "a spot, on a plate of its own" if ink.spot else "of the four process inks", rows)

    def _stating(self, ink: Ink) -> Callable[[Publication, str], Publication]:
        return lambda publication, text: state_ink(publication, ink.name, text)

    def _values(self, kind: str, name: str, thing: Any, table: Sequence[Property[Any]]) -> list[Row]:
        """A row for each property that applies to a thing of the list."""
        return [self._value(kind, name, thing, each) for each in table if each.applies(thing)]

    def _value(self, kind: str, name: str, thing: Any, each: Property[Any]) -> Row:
        path = f"{kind}.{name}.{each.key}"
        take = self._edit(lambda p, text: set_path(p, path, text), each.label.lower())
        return property_row(self.publication, thing, each, take)

    def _removal(self, kind: str, name: str, remove: Callable[[Publication, str], Publication]) -> Card:
        def gone() -> None:
            self.session.edit(lambda p: remove(p, name), f"{kind} {name} removed")

        return Card(f"Remove this {kind}", "Only one that nothing uses can go.", [("Remove it", gone)])

    # Fades and looks ----------------------------------------------------------------------------

    def _of_fade(self, fade: Fade) -> RowSection:
        stops = self._edit(lambda p, text: state_fade(p, fade.name, text), f"fade {fade.name}")
        typed = format_stops(fade)
        how = "inks in their order, parted by ; each with its tint, at its place, and how opaque"
        rows: list[Row | Card] = [
            Row("Name", fade.name, "", "", fade.name, self._renamed(Chosen("fade", fade.name), rename_fade)),
            Row("Runs over", counted(len(fade.stops), "ink"), f"{typed}; {how}", "", typed, stops),
            *self._values("fade", fade.name, fade, properties.FADE),
            self._removal("fade", fade.name, remove_fade),
        ]
        return RowSection(fade.name, "named as an ink is wherever an area is filled", rows)

    def _of_look(self, look: Look) -> RowSection:
        angle = f"{self.publication.light:g}"
        light = self._edit(lambda p, text: set_path(p, "light", text), "the light")
        how = "of every shadow that has no way of its own; 0 to the right, 90 down"
        rows: list[Row | Card] = [
            Row("Name", look.name, "", "", look.name, self._renamed(Chosen("look", look.name), rename_look)),
            *self._values("look", look.name, look, properties.LOOK),
            Row("Shadows fall", f"{angle}°", how, "", angle, light),
            self._removal("look", look.name, remove_look),
        ]
        return RowSection(look.name, "a treatment that is kept: give it to a role, or to a block", rows)

    # What may be added --------------------------------------------------------------------------

    def _new(self) -> RowSection:
        inks = self.publication.inks
        ends = f"{inks[-1].name} at 0; {inks[0].name} at 100"
        rows = [
            Row("A new ink", "name it", "begins as half black", "", "", self._added("ink", self._new_ink)),
            Row("A new fade", "name it", f"begins as {ends}", "", "", self._added("fade", self._new_fade(ends))),
            *(
                Row(f"A new {word}", "name it", "a look to give to words or blocks", "", "", self._new_look(word))
                for word in BEGINNINGS
            ),
        ]
        return RowSection("More", "", rows)

    @staticmethod
    def _new_ink(publication: Publication, name: str) -> Publication:
        return add_ink(publication, name, "0 0 0 50")

    @staticmethod
    def _new_fade(stops: str) -> Callable[[Publication, str], Publication]:
        return lambda publication, name: state_fade(publication, name, stops)

    def _new_look(self, beginning: str) -> Edit:
        return self._added("look", lambda publication, name: add_look(publication, name, beginning))

    def _added(self, kind: Any, add: Callable[[Publication, str], Publication]) -> Edit:
        def take(text: str) -> bool:
            name = " ".join(text.split())
            if not self.session.edit(lambda p: add(p, name), f"{kind} {name}"):
                return False
            self.choose(Chosen(kind, name))
            return True

        return take

    # Palettes -----------------------------------------------------------------------------------

    def _palette(self) -> RowSection:
        pictures = [(picture.id, picture.file) for picture in self.publication.pictures]
        stories = [(f"{STORY}{story.id}", f"the pages of “{story.title}”") for story in self.publication.stories]
        choices = [(SPREAD, SPREAD), (COVER, COVER), (EVERY, EVERY), *stories, *pictures]
        found, about = self.palettes.proposals, self.palettes.about
        words = f"of {about}" if about else "five to eight inks, found by area and by colour"
        rows: list[Row | Card] = [Row("From", "choose", words, "", "", self._found, choices)]
        if found:
            takes: list[tuple[str, Callable[[], object]]] = [("Take them all", lambda: self.take(found))]
            takes.append(("Put it away", self.palettes.forget))
            told = "Click one to take it; Enter takes all."
            rows.append(Card(f"{counted(len(found), 'ink')} of {about}", told, takes))
        return RowSection("A palette", "", rows)

    def _found(self, asked: str) -> bool:
        """Find the palette of what was asked for."""
        publication = self.publication
        used = {
            SPREAD: lambda: self._on_spread(),
            COVER: lambda: _pictures_in(cover_blocks(publication)),
            EVERY: lambda: {picture.id for picture in publication.pictures},
        }.get(asked, lambda: {asked})()
        about = asked if asked in (SPREAD, COVER, EVERY) else ""
        if asked.startswith(STORY):
            story = story_of(publication, asked.removeprefix(STORY))
            used, about = self._beside(story.id), f"“{story.title}”"
        pictures = [picture for picture in publication.pictures if picture.id in used]
        about = about or (pictures[0].file if pictures else "it")
        if not pictures:
            self.session.said.emit(f"There is no picture on {about}; choose another.")
            return False
        self.palettes.start(publication, self.session.job.pictures, pictures, about)
        return True

    def _beside(self, story: str) -> set[str]:
        """The pictures on the pages that a story runs over."""
        columns = self.session.setter.threads.flow(self.publication, story).columns
        pages = {column.page for column in columns}
        return _pictures_in([block for page in pages for block in self.publication.pages[page - 1].blocks])

    def _on_spread(self) -> set[str]:
        pages = [self.publication.pages[number - 1] for number in self.session.view.spread.numbers]
        return _pictures_in([block for page in pages for block in page.blocks])

    def take(self, proposals: Sequence[InkProposal]) -> None:
        """Put proposals into the ink list."""
        here = {ink.name for ink in self.publication.inks} | {fade.name for fade in self.publication.fades}
        inks = [proposal.ink for proposal in proposals if proposal.ink.name not in here]
        if not inks:
            self.session.said.emit("They are in the list already.")
            return
        if self.session.edit(lambda p: with_new_inks(p, inks), f"{counted(len(inks), 'ink')} of a palette"):
            self.choose(Chosen("ink", inks[0].name))

    def _scheme(self) -> RowSection:
        """How many of each the spread in view has."""
        marks = self.session.setter.spread(self.publication, self.session.view.spread).marks
        scheme = scheme_of([tuple(marks)])
        return RowSection(
            "Scheme", "", [Row("On this spread", scheme.words, scheme.note or "outside of pictures, black apart")]
        )

    # Lists --------------------------------------------------------------------------------------

    def _lists(self) -> RowSection:
        words = "A table of shares, or the plain palette that painting programs read."
        took = "A list of inks, or the job before: inks of the same name are stated anew."
        return RowSection(
            "Lists",
            "",
            [
                Card("To take elsewhere", words, [("Write the list", self._give)]),
                Card("From elsewhere", took, [("Take in a list", self._take_in)]),
            ],
        )

    def _give(self) -> None:
        start = str(Path(last_folder("inks")) / f"{self.publication.title} inks.csv")
        name, _ = QFileDialog.getSaveFileName(self.parent, "Write the ink list", start, "Ink lists (*.csv *.gpl)")
        if not name:
            return
        try:
            give_inks(self.publication, Path(name))
        except Problem as problem:
            self.session.said.emit(str(problem))
            return
        note_folder("inks", Path(name).parent)
        self.session.noted.emit(f"Written to {name}.")

    def _take_in(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self.parent, "Take in an ink list", last_folder("inks"), LISTS)
        if not name:
            return

        def change(publication: Publication) -> Publication:
            return take_inks(publication, read_inks(publication, Path(name)))

        self.session.edit(change, f"inks of {Path(name).name}")
        note_folder("inks", Path(name).parent)


def _pictures_in(blocks: Sequence[Any]) -> set[str]:
    return {block.holds.picture for block in blocks if isinstance(block.holds, HoldsPicture)}
