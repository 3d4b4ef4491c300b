"""Cover: the flat with its spine, worked on as a spread is, and the working of its spine."""

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QKeyEvent

from half_fold.core.apart.cards import card_of
from half_fold.core.apart.sides import Side, is_blank, side_called, sides_of
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.bulk import leaf_width
from half_fold.core.brief.spine import spine, spine_text_clear
from half_fold.core.cover.over_folds import over_folds_number
from half_fold.core.cover.parts import parts_number
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.inks.numbers import scheme_of
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import format_length, format_size
from half_fold.core.plan.inserts import faces
from half_fold.core.publication.kinds import NO_NUMBER
from half_fold.core.publication.records import (
    Holds,
    HoldsBarcode,
    HoldsDisplay,
    HoldsPanel,
    Insert,
    Paragraph,
    Run,
)
from half_fold.core.publication.used import usual_ink
from half_fold.core.spread.edits.claiming import BEGINS
from half_fold.core.spread.settable.properties import NOTE_ROLE
from half_fold.desk.kit.plain import label
from half_fold.desk.kit.rows import Card, Row, RowSection, row_of
from half_fold.desk.session import Session
from half_fold.desk.stations.cover.bench import CoverBench
from half_fold.desk.stations.cover.rows import cover_rows, panel_rows, piece_sections, spine_rows, version_section
from half_fold.desk.stations.cover.side import CoverSide
from half_fold.desk.stations.cover.trials import VERSIONS, TrialView
from half_fold.desk.stations.numbers import BRIEF
from half_fold.desk.stations.spreads.rows.read_rows import read_sections
from half_fold.desk.stations.spreads.station import Place, SpreadsStation
from half_fold.desk.stations.spreads.tools.chooser import Entry
from half_fold.desk.stations.station import Station
from half_fold.desk.theme import tokens

NO_COVER = "This job is its own cover. Choose a cover paper in Brief to give it one."


def _words(*lines: tuple[str, str]) -> tuple[Paragraph, ...]:
    return tuple(Paragraph(role=role, runs=(Run(text=text),)) for role, text in lines)


class CoverStation(SpreadsStation):
    """The bench of the flat, the picture drawer and the words under it."""

    def __init__(self, session: Session) -> None:
        self.job = session
        self.cover = CoverSide(session)
        super().__init__(self.cover)
        self._none = label(NO_COVER, tokens.SECTION)
        self._none.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.layout().insertWidget(0, self._none, 1)  # type: ignore[union-attr]
        self.trials = TrialView(session)
        self.trials.changed.connect(self._tried)
        self.layout().insertWidget(1, self.trials, 1)  # type: ignore[union-attr]
        self._show_whether()

    def make_bench(self) -> CoverBench:
        return CoverBench(self.cover)

    def _show_whether(self) -> None:
        there, trying = self.cover.exists, bool(self.trials.name)
        self.bench.setVisible(there and not trying)
        self.drawer.setVisible(there and not trying and not self.bench.arranger.work)
        self.trials.setVisible(there and trying)
        self._none.setVisible(not there)

    def _tried(self) -> None:
        """Another trial came into view, or none is any more."""
        self._show_whether()
        if not self.trials.name:
            self.bench.setFocus()
        self.turned.emit()

    def stop(self) -> None:
        super().stop()
        self.trials.stop()

    def refresh(self) -> None:
        self._show_whether()
        if self.cover.side not in sides_of(self.job.publication):
            self.cover.turn_over(side_called(self.job.publication, "outside"))  # flaps that there are no longer
        if self.cover.exists:
            self.trials.keep_up()
            super().refresh()

    def keys(self) -> Sequence[tuple[str, str]]:
        if self.trials.name:
            return (("1 to 9", "rack, small, afar, in print, the copy"), ("0", "back to the cover"))
        return (*super().keys()[:2], ("Shift+drag", "claim over"), ("O", "turn it over"), ("1 to 9", "try it"))

    def where(self) -> str:
        return super().where() if self.cover.exists else "No cover"

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        is_plain = not event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
        leaves = self.trials.name and event.key() == Qt.Key.Key_Escape
        if self.cover.exists and is_plain and (leaves or self.trials.key(event.text())):
            if leaves:
                self.trials.show_trial("")
        elif event.text().upper() == "O" and self.cover.exists:
            every = self._sides()
            at = every.index(self.cover.side) if self.cover.side in every else -1
            self.cover.turn_over(every[(at + 1) % len(every)])
        else:
            super().keyPressEvent(event)

    def _sides(self) -> list[Side]:
        """What can be turned to: a front alone has no inside."""
        publication = self.job.publication
        is_front = binding_named(publication.brief.binding).cover == "front"
        return [side for side in sides_of(publication) if side != "inside" or not is_front]

    # Claiming -----------------------------------------------------------------------------------

    def choose_for(self, start: Place, end: Place, at: QPoint) -> None:
        """Ask what goes into the fields from ``start`` to ``end``."""
        left = (start[0] + end[0]) / 2 < self._middle_of(start)
        side = "left" if left else "right"
        cover_ink = self.job.publication.cover.ink
        ink = usual_ink(self.job.publication, "black" if cover_ink in ("straw", "paper") else "paper")
        lines = _words(("cover line", "What it is about"), ("strong line", "and why"))
        said = ", ".join(f"{{{name}}}" for name in ("issue", "season") if getattr(self.job.publication, name))
        notes = _words(*((NOTE_ROLE, words) for words in (said, "Price") if words))

        def claim(holds: Holds) -> None:
            self.claim(start, end, holds)
            if isinstance(holds, HoldsDisplay):
                self.drawer.open("stories")
                self.drawer.stories.text.selectAll()

        masthead = HoldsDisplay(paragraphs=_words(("masthead", "{title}")), even=True, ink=ink)
        stack = HoldsDisplay(paragraphs=lines, even=True, side=side, ink=ink)  # type: ignore[arg-type]
        code = HoldsBarcode(number=NO_NUMBER, size=80.0, side=side, paragraphs=notes)  # type: ignore[arg-type]
        own: list[Entry] = [
            ("P", "Picture", lambda: self._picture_for(start, end, at)),
            ("M", "Masthead", lambda: claim(masthead)),
            ("L", "Cover lines, evened", lambda: claim(stack)),
            ("S", "Story", lambda: self._story_for(start, end, at)),
            ("W", "Words", lambda: claim(HoldsDisplay(paragraphs=_words(("standfirst", "Words")), ink=ink))),
            ("B", "Barcode", lambda: claim(code)),
            ("I", "Ink panel", lambda: claim(HoldsPanel(ink=usual_ink(self.session.publication, "loden")))),
        ]
        letters = {letter for letter, _, _ in own}
        others = [each for each in BEGINS.values() if each.letter not in letters]
        rest = [(each.letter, each.chosen, partial(self._begin, each, start, end)) for each in others]
        self._open([*own, *rest], at, start, end)

    def _middle_of(self, place: Place) -> float:
        return self.bench.frame_at(place[0]).trim.centre[0]

    def take_words(self, words: str) -> None:
        Station.take_words(self, words)

    def show_block(self, side: str, block: str) -> None:
        """Turn to a side, and choose a block there."""
        self._turn(side)
        self.cover.view.select(block or None)

    # Working ------------------------------------------------------------------------------------

    def sections(self) -> Sequence[RowSection]:
        if not self.cover.exists:
            return [
                RowSection(
                    "Cover", "", [Card("No cover", NO_COVER, [("To Brief", lambda: self.asked_for.emit(BRIEF))])]
                )
            ]
        if self.trials.name:
            return self.trials.sections()
        if self.cover.view.block is not None or self.bench.arranger.work:
            return super().sections()
        card = card_of(self.job.publication, self.cover.side)
        if card is not None:
            return [*read_sections(self.bench.reader, None), self._card_section(card)]
        return [
            *read_sections(self.bench.reader, None),
            self._cover_section(),
            self._spine_section(),
            *self._pieces(),
            version_section(self.job, lambda: self.trials.show_trial(VERSIONS)),
        ]

    def _pieces(self) -> list[RowSection]:
        """Nothing where there is no spine to put them on."""
        if spine(self.job.publication) is None:
            return []
        return piece_sections(self.job)

    def _scheme_row(self) -> Row:
        scheme = scheme_of([self.cover.marks().marks])
        return Row("Scheme", scheme.words, scheme.note or "outside of pictures, black apart")

    def _turn(self, side: str) -> bool:
        self.cover.turn_over(side_called(self.job.publication, side))
        return True

    def _cover_section(self) -> RowSection:
        publication = self.job.publication
        inside = "blank; it is not printed" if is_blank(publication, "inside") else "printed as a second sheet"
        ink, *others = cover_rows(self.job)
        rows = [
            *([self._view_row(f"the inside is {inside}")] if len(self._sides()) > 1 else []),
            ink,
            *panel_rows(self.job),
            *others,
            self._scheme_row(),
            *([row_of(parts, lambda _: None)] if (parts := parts_number(publication)) is not None else []),
        ]
        return RowSection("Cover", f"the flat, {self.cover.side}", rows)

    def _view_row(self, note: str) -> Row:
        sides = [(side, self._called(side)) for side in self._sides()]
        return Row("In view", self._called(self.cover.side), note, "", self.cover.side, self._turn, sides)

    def _card_section(self, card: Insert) -> RowSection:
        """A leaf that is bound or tipped in; blocks lie under the parts of a card."""
        job = self.job.publication
        unit = job.brief.unit
        size = format_size(leaf_width(job, card) * MM, card.height.pt, unit)
        fold = faces(job, card)[0].fold
        under = "; blocks lie under its lines, boxes and words" if card.kind == "card" else ""
        if fold is not None:
            under = f"; it folds {format_length(fold * MM, unit)} from the left of its front"
        rows = [
            self._view_row(f"both faces of what is {'tipped' if card.kind == 'tip-in' else 'bound'} in"),
            Row("Leaf", size, f"on {card.paper}" + under),
        ]
        return RowSection(card.name, "front and back", rows)

    def _called(self, side: Side) -> str:
        """A side by its name; a card by its own."""
        card = card_of(self.job.publication, side)
        return side if card is None else card.name

    def _spine_section(self) -> RowSection:
        publication = self.job.publication
        text = spine_text(self.job.setter.composer, publication)
        panel, clear = spine(publication), spine_text_clear(publication)
        if panel is None:
            return RowSection("Spine", "", [Card("No spine text", text.absent)])
        numbers = [number for number in (panel, clear, over_folds_number(publication)) if number is not None]
        rows: list[Row | Card] = [
            *(row_of(number.said_in(publication.brief.unit), lambda _: None) for number in numbers),
            *spine_rows(self.job, text),
        ]
        if text.absent:
            rows.insert(2, Card("No spine text", text.absent))
        return RowSection("Spine", "usual figures; the printer's own sheet wins", rows)
