"""The Spreads station: bench, drawer, and the working of what is selected."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtWidgets import QVBoxLayout

from half_fold.core.publication.kinds import kind_of
from half_fold.core.publication.records import (
    Block,
    Holds,
    HoldsDisplay,
    HoldsNothing,
    HoldsPicture,
    HoldsStory,
    Publication,
)
from half_fold.core.publication.surgery import page_of_block, page_of_thing
from half_fold.core.spread.edits import edits
from half_fold.core.spread.edits.claiming import BEGINS, Begins, display_words, held_picture, next_of_story
from half_fold.core.spread.edits.shaping import has_form
from half_fold.core.spread.settable.headings import AGAIN
from half_fold.core.spread.setting.hits import block_at
from half_fold.core.spread.where.reaching import set_measure
from half_fold.core.typesetting.texts.text_in import SUFFIXES, read_plain
from half_fold.desk.beside.fitter import Fitter
from half_fold.desk.kit.rows import Edit, RowSection
from half_fold.desk.stations.spreads.bench import SpreadBench
from half_fold.desk.stations.spreads.drawer.drawer import Drawer, Leaf
from half_fold.desk.stations.spreads.rows.feature_rows import FeatureRows
from half_fold.desk.stations.spreads.rows.fit_cards import FitCards
from half_fold.desk.stations.spreads.rows.read_rows import read_sections
from half_fold.desk.stations.spreads.rows.spread_rows import SpreadRows
from half_fold.desk.stations.spreads.rows.treatment_rows import Treatments
from half_fold.desk.stations.spreads.tools.chooser import Chooser, Entry
from half_fold.desk.stations.station import Station
from half_fold.desk.workpiece import Then, Workpiece

Place = tuple[float, float]
WORDS_MS = 120  # after which rows of words that were chosen are shown


class SpreadsStation(Station):
    """The bench above, the drawer below."""

    lays_things = True

    def __init__(self, session: Workpiece) -> None:
        super().__init__(session)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.bench = self.make_bench()
        self.drawer = Drawer(session)
        self.bench.moved.connect(self.moved)
        self.bench.claimed.connect(self.choose_for)
        self.bench.wants_drawer.connect(self.open_drawer)
        self.bench.wants_edit.connect(self.edit_selected)
        self.bench.wants_arranging.connect(self.arrange)
        self.bench.drawer_away.connect(self.drawer.setHidden)
        self.drawer.pictures.placed.connect(self.place_picture)
        self.drawer.slips.several = self.bench.several
        self.drawer.pictures.arranges.connect(self.arrange)
        column.addWidget(self.bench, 1)
        column.addWidget(self.bench.arranger.strip)
        column.addWidget(self.drawer)
        self.setFocusProxy(self.bench)
        self.fitter = Fitter()
        self.fitter.found.connect(self.turned)
        self.fitter.failed.connect(session.said)
        self.fit = FitCards(session, self.fitter)
        self._words_chosen = QTimer(self)
        self._words_chosen.setSingleShot(True)
        self._words_chosen.setInterval(WORDS_MS)
        self._words_chosen.timeout.connect(self.turned)
        self.drawer.stories.text.selectionChanged.connect(self._words_chosen.start)
        self.treatments = Treatments(session, partial(self.take_up, "Shift+C"), self.bench.marker.take_up)
        self.treatments.came.connect(self.turned)
        self.feature = FeatureRows(session)
        self.spread_rows = SpreadRows(
            session, self.bench.reader, self.fit, self.feature, lambda: self.drawer.pictures.gathered, self.arrange
        )

    @property
    def chooser(self) -> Chooser | None:
        """What asks at the pointer, or asked last."""
        return self.bench.chooser

    def take_up(self, key: str) -> None:
        """Take up the scissors (Shift+C), the easel (R) or the knife (D, C) over the block, or the picker (Shift+P)."""
        self.bench.setFocus()
        if key in ("Shift+P", "Shift+F"):
            (self.bench.picker if key == "Shift+P" else self.bench.fader).take_up()
        elif key in ("Shift+C", "R"):
            tool = self.bench.scissors if key == "Shift+C" else self.bench.easel
            tool.take_up()
        else:
            self.bench.knife.take_up("outline" if key == "D" else "cut")

    def look(self, key: str) -> None:
        """See it as trimmed (P) or printed (Q), what is clipped (J) or read (Z), before beside after; or not."""
        bench = self.bench
        ways = {
            "Q": bench.show_on_paper,
            "J": bench.show_clipped,
            "P": bench.turn_trimmed,
            "Shift+E": bench.show_split,
            "Shift+R": bench.show_rulers,
        }
        (ways | {"Z": bench.reader.show})[key]()

    def arrange(self) -> None:
        """Arrange the pictures that are chosen, in blocks and in the drawer, or all that lie free here (Y)."""
        gathered = [name for name in self.drawer.pictures.gathered if name not in self._pictures_chosen()]
        self.bench.setFocus()
        self.bench.arranger.take_up(gathered)
        self.drawer.pictures.choose(None)

    def _pictures_chosen(self) -> set[str]:
        """The pictures in the blocks that are chosen."""
        found = (page_of_thing(self.session.publication, name)[2] for name in self.session.view.chosen)
        return {
            thing.holds.picture for thing in found if isinstance(thing, Block) and isinstance(thing.holds, HoldsPicture)
        }

    def stop(self) -> None:
        self.fitter.wait()
        self.bench.arranger.finder.wait()
        self.bench.reader.stop()
        self.bench.picker.reads.wait()
        self.feature.layer.wait()
        self.treatments.stop()
        self.bench.scissors.solver.wait()
        self.bench.marker.mender.wait()
        self.drawer.pictures.teller.wait()
        self.drawer.wait()

    def folds(self) -> Drawer:
        return self.drawer

    def make_bench(self) -> SpreadBench:
        return SpreadBench(self.session)

    def refresh(self) -> None:
        block = self.session.view.block
        if block is not None:
            _, _, found = page_of_block(self.session.publication, block)
            if isinstance(found.holds, HoldsStory) and self.session.view.story != found.holds.story:
                self.session.view.story = found.holds.story
        self.bench.update()
        self.drawer.refresh()

    def picture_came(self) -> None:
        """Bench and drawer draw it where it lies, by themselves."""

    def open_drawer(self, leaf: Leaf) -> None:
        """Show pictures or stories under the bench."""
        self.drawer.open(leaf)

    def bring(self, what: str) -> None:
        self.drawer.open("pictures" if what == "pictures" else "stories")
        self.drawer.ask(what)

    def take_files(self, paths: Sequence[Path], at: QPoint | None = None) -> None:
        self.drawer.open("stories" if paths and paths[0].suffix.lower() in SUFFIXES else "pictures", focus=False)
        super().take_files(paths, at)

    def place_for(self, at: QPoint | None) -> Then | None:
        """Into the block a picture was dropped on, or the free field, or the block that is selected."""
        here = self.bench.mapFromGlobal(at) if at is not None else None
        if here is None or not self.bench.rect().contains(here):
            return None
        place = self.bench.to_points(here.toPointF())
        spread = self.session.view.spread

        def put(picture: str) -> None:
            if self.session.view.spread is not spread:
                return  # turned over meanwhile: it lies in the drawer
            block = block_at(self.session.publication, spread, *place)
            if block is not None:
                self.session.view.select(block)
                self.place_picture(picture)
            else:
                self.claim(place, place, held_picture(self.session.publication, picture))

        return put

    def take_words(self, words: str) -> None:
        self.drawer.open("stories")
        self.drawer.stories.new_story(read_plain(words).paragraphs)

    def keys(self) -> Sequence[tuple[str, str]]:
        if self.bench.arranger.work:
            return (
                ("left right", "show another"),
                ("Enter Esc", "take it, leave"),
                ("up down P", "choose, pin"),
                ("L Q E M F N V", "larger, quieter, ..."),
                ("O", "one page, both"),
            )
        if len(self.session.view.chosen) > 1 or (self.session.view.chosen and self.session.view.block is None):
            return (
                ("arrows", "move"),
                ("A", "line up"),
                ("G U", "group, take apart"),
                ("L H", "lock, hide"),
                ("N M", "order"),
            )
        if self.session.view.block is None:
            return (
                ("arrows, Enter", "claim fields"),
                ("Ctrl+drag", "choose several"),
                ("Tab", "blocks"),
                ("Space", "as trimmed"),
                ("I S W", "pictures, stories, what lies here"),
            )
        return (
            ("Alt+arrows", "reach"),
            ("Alt+Shift", "draw in"),
            ("arrows", "move"),
            ("Enter", "edit"),
            ("N M", "nearer, back"),
            *(
                (("D C", "draw its shape, cut it"), ("Shift+C", "cut out"), ("R", "reframe"))
                if self._has_form()
                else ()
            ),
        )

    def _has_form(self) -> bool:
        block = self.session.view.block
        return block is not None and has_form(page_of_block(self.session.publication, block)[2])

    def where(self) -> str:
        return self.bench.position_words()

    # Claiming and choosing ----------------------------------------------------------------------

    def choose_for(self, start: Place, end: Place, at: QPoint) -> None:
        """Ask what goes into the fields from ``start`` to ``end``."""
        asked: dict[type, Callable[[], None]] = {
            HoldsPicture: lambda: self._picture_for(start, end, at),
            HoldsStory: lambda: self._story_for(start, end, at),
            HoldsDisplay: lambda: self._words_for(start, end),
        }
        entries = [
            (each.letter, each.chosen, asked.get(kind) or partial(self._begin, each, start, end))
            for kind, each in BEGINS.items()
        ]
        self._open(entries, at, start, end)

    def _begin(self, begins: Begins, start: Place, end: Place) -> None:
        self.claim(start, end, begins.begin(self.session.publication, "", 1))

    def _open(self, entries: Sequence[Entry], at: QPoint, start: Place, end: Place) -> None:
        """A chooser at the pointer; what was claimed stays lit until it is closed."""
        self.bench.claim = start, end
        chooser = self.bench.choose_among(entries, at)
        chooser.aboutToHide.connect(lambda: self._let_go(chooser))
        self.bench.update()

    def _let_go(self, chooser: Chooser) -> None:
        if self.chooser is chooser:
            self.bench.claim = None
            self.bench.update()

    def claim(self, start: Place, end: Place, holds: Holds) -> None:
        """A new block over those fields, selected."""
        made = ""

        def make(publication: Publication) -> Publication:
            nonlocal made
            publication, made = edits.claim(publication, start, end, self.session.view.spread.numbers, holds)
            return publication

        if self.session.edit(make, "claimed fields"):
            self.session.view.select(made)
            self.bench.setFocus()

    def _picture_for(self, start: Place, end: Place, at: QPoint) -> None:
        chosen = self.drawer.pictures.chosen_or_first_free()
        if chosen is None:
            self.claim(start, end, HoldsNothing())
            self.drawer.open("pictures")
            self.session.said.emit("There are no pictures yet: bring some in, then press Enter on one to put it here.")
        else:
            self.claim(start, end, held_picture(self.session.publication, chosen))

    def _story_for(self, start: Place, end: Place, at: QPoint) -> None:
        stories = self.session.publication.stories
        if not stories:
            self._new_story_for(start, end)
            return
        entries: list[Entry] = [
            (str(i + 1) if i < 9 else "", story.title or "Untitled", partial(self._thread, start, end, story.id))
            for i, story in enumerate(stories)
        ]
        chosen = next((n for n, story in enumerate(stories) if story.id == self.session.view.story), None)
        if chosen is not None:  # the one in the story drawer comes first: S, S lays it
            entries.insert(0, ("S", *entries.pop(chosen)[1:]))
        entries.append(("N", "A new story", lambda: self._new_story_for(start, end)))
        self._open(entries, at, start, end)

    def _thread(self, start: Place, end: Place, story: str) -> None:
        columns, _ = self.bench.cells()
        fields = sum(a < max(start[0], end[0]) and b > min(start[0], end[0]) for a, b in columns)
        self.claim(start, end, next_of_story(self.session.publication, story, fields))

    def _new_story_for(self, start: Place, end: Place) -> None:
        story = self.drawer.stories.new_story()
        self._thread(start, end, story)
        self.drawer.open("stories")

    def _words_for(self, start: Place, end: Place) -> None:
        self.claim(start, end, display_words("headline", "Words"))
        self.drawer.open("stories")
        self.drawer.stories.text.selectAll()

    def place_picture(self, picture: str) -> None:
        """The picture into the selected block."""
        block = self.session.view.block
        if block is None:
            self.session.said.emit("Claim fields for it first: drag across them on the spread.")
            return
        _, _, found = page_of_block(self.session.publication, block)
        holds = (
            replace(found.holds, picture=picture)
            if isinstance(found.holds, HoldsPicture)
            else held_picture(self.session.publication, picture)
        )
        self.session.edit(lambda p: edits.set_holds(p, block, holds), "placed a picture")

    def edit_selected(self) -> None:
        """Into what the selected block holds: its text in the story drawer, or its picture in the picture drawer."""
        block = self.session.view.block
        if block is None:
            return
        _, _, found = page_of_block(self.session.publication, block)
        self.drawer.open("stories" if kind_of(found.holds).is_words else "pictures")

    # Working ------------------------------------------------------------------------------------

    def sections(self) -> Sequence[RowSection]:
        """What the working says: of the words that are chosen in the drawer first."""
        from half_fold.desk.stations.spreads.rows.word_rows import word_section

        head, *others = self._sections()
        return [head, *word_section(self.drawer.stories), *others]

    def _sections(self) -> Sequence[RowSection]:
        if self.bench.arranger.work:
            from half_fold.desk.stations.spreads.rows.arrange_rows import arrange_sections

            return arrange_sections(self.session, self.bench.arranger)
        if not self.session.view.chosen:
            return self.spread_rows.sections()
        if self.session.view.block is None:
            from half_fold.desk.stations.spreads.rows.several_rows import several_sections

            return several_sections(self.session, self.bench.several, self.treatments.of_several())
        return self._block_sections(self.session.view.block)

    def _block_sections(self, chosen: str) -> list[RowSection]:
        """What a block holds and where it lies; its rows are loaded for the first that is chosen."""
        from half_fold.desk.stations.spreads.rows.block_sections import block_sections
        from half_fold.desk.stations.spreads.rows.several_rows import repeat_rows

        _, _, block = page_of_block(self.session.publication, chosen)
        more = {AGAIN: repeat_rows(self.session, self.bench.several), **self.treatments.of(block)}
        first, *folding = block_sections(self.session, block, self._measure_edit(block.id), more)
        holds = block.holds
        fit = self.fit.section(holds.story) if isinstance(holds, HoldsStory) and self.session.runs_on else []
        return [*read_sections(self.bench.reader, block.id), first, *fit, *folding]

    def _measure_edit(self, block: str) -> Callable[[str], Edit]:
        """What sets a block's size and place, by the name of the measure."""

        def edit_for(name: str) -> Edit:
            return lambda typed: self.session.edit(lambda p: set_measure(p, block, name, typed), name)

        return edit_for

    def take_focus(self) -> None:
        self.bench.setFocus(Qt.FocusReason.OtherFocusReason)
