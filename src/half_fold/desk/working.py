"""The working column: worked sums for what is selected."""

from collections import deque
from collections.abc import Callable, Iterator, Sequence
from functools import partial
from itertools import pairwise
from typing import TYPE_CHECKING, TypeVar, cast

from msgspec.structs import replace
from PyQt6.QtCore import QEvent, Qt, QTimer
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication, QFrame, QLabel, QScrollArea, QVBoxLayout, QWidget

from half_fold.desk.kit.card import CardView
from half_fold.desk.kit.dotted import DottedPage
from half_fold.desk.kit.fold_heading import FoldHeading
from half_fold.desk.kit.folds import FoldsOfWorking
from half_fold.desk.kit.plain import label, rule
from half_fold.desk.kit.row_shape import found_in, is_row, shape_of, sought_words
from half_fold.desk.kit.rows import Card, Curve, Row, RowSection
from half_fold.desk.kit.worked_row import WorkedRow
from half_fold.desk.theme import tokens

SOON_MS = 80
_W = TypeVar("_W", bound=QWidget)

if TYPE_CHECKING:
    from half_fold.desk.kit.curve import CurveView


def _heading() -> QLabel:
    return label("", tokens.LARGE - 3, bold=True)


def _section_heading() -> QLabel:
    return label("", tokens.BASE + 1, bold=True)


def _subtitle() -> QLabel:
    return label("", tokens.SMALL + 1, quiet=True)


class Working(QScrollArea):
    """Shows sections; rows keep their focus and their unfolding while their numbers change."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("working")
        self.setFixedWidth(tokens.WORKING_WIDTH)
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self._page = DottedPage(self.set_ones)
        self._column = QVBoxLayout(self._page)
        self._column.setContentsMargins(16, 12, 16, 12)
        self._column.setSpacing(0)
        self.setWidget(self._page)
        self._shape: tuple[object, ...] = ()
        self._head = ""
        self._told: Sequence[RowSection] = ()  # all of them, those that are folded away with what is in them
        self._folds = FoldsOfWorking()
        self._sought = ""  # what is typed to find a row by
        self._headings: list[FoldHeading] = []
        self._shown: list[tuple[object, QWidget]] = []  # each with what kind of widget it is
        self._spare: dict[object, deque[QWidget]] = {}
        self._rows: list[WorkedRow] = []
        self._cards: list[CardView] = []
        self._curves: list[CurveView] = []
        self._made: Callable[[], Sequence[RowSection]] | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON_MS)
        self._soon.timeout.connect(self.catch_up)

    def show_soon(self, make: Callable[[], Sequence[RowSection]]) -> None:
        """Show what is made in a moment: some times a second while someone types or drags, and not at each step."""
        self._made = make
        if not self._soon.isActive():
            self._soon.start()

    def catch_up(self) -> None:
        """Show at once what was to be shown soon."""
        made, self._made = self._made, None
        if made is not None:
            self.show_sections(made())

    def show_sections(self, sections: Sequence[RowSection]) -> None:
        """Show other rows; where only values changed, the same rows take them."""
        self._made = None
        self._folds.turn_to(sections)
        if self._told and sections and sections[0].title != self._told[0].title:
            self._sought = ""
        self._told = sections
        sections = self._seen_of(sections)
        shape = (self._sought, shape_of(sections))
        items = [item for section in sections for item in section.items]
        if shape == self._shape:
            for view, row in zip(self._rows, [i for i in items if isinstance(i, Row)], strict=True):
                view.show_row(row)
            for drawn, curve in zip(self._curves, [i for i in items if isinstance(i, Curve)], strict=True):
                drawn.show_curve(curve)
            self._fill_headings(sections)
            return
        self._shape = shape
        self._build(sections)

    def _build(self, sections: Sequence[RowSection]) -> None:
        """Lay other rows out. Widgets that were shown before take new words: to make and dress one costs most."""
        unfolded = {view.row.name for view in self._rows if view.unfolded}
        focused = next((view for view in self._rows if view.value.hasFocus()), None)
        kept = focused.row.name if focused is not None else None
        for view in self._rows:
            view.close_editor(back=False)
        self._column.setEnabled(False)  # laid out once at the end, and not with each that is shown
        self._put_away()
        head = sections[0].title if sections else ""
        if head != self._head:  # of something else: from its head
            self.ensureVisible(0, 0)
        self._head = head
        if self._sought:
            self._show("sought", _subtitle).setText(sought_words(self._sought, sections))
        for index, section in enumerate(sections):
            if section.says is not None:
                self._headings.append(self._heading(section))
                for item in section.items:
                    self._add(item)
                if section.items:
                    self._column.addSpacing(7)
                continue
            if index:
                self._column.addSpacing(10)
                self._show("rule", rule)
                self._column.addSpacing(8)
            title = self._show("title", _heading) if not index else self._show("section", _section_heading)
            title.setText(section.title)
            if section.subtitle:
                self._show("subtitle", _subtitle).setText(section.subtitle)
            self._column.addSpacing(6)
            for item in section.items:
                self._add(item)
        self._fill_headings(sections)
        self._column.addStretch(1)
        for spare in (widget for spares in self._spare.values() for widget in spares):
            spare.hide()
        self._column.setEnabled(True)
        self._column.activate()
        QApplication.sendEvent(self, QEvent(QEvent.Type.LayoutRequest))  # the page has its size now, as a new one would
        self._in_order()
        for view in self._rows:
            view.unfold(view.row.name in unfolded)
        if focused is not None:
            again = next((view for view in self._rows if view.row.name == kept), None)
            focused.value.clearFocus() if again is None else again.value.setFocus()

    def _put_away(self) -> None:
        """Everything that is shown: rows and headings to be shown again, cards and curves for good."""
        for key, widget in self._shown:
            self._spare.setdefault(key, deque()).append(widget)
        for gone in (*self._cards, *self._curves):
            gone.hide()
            gone.deleteLater()
        self._shown, self._rows, self._cards, self._curves, self._headings = [], [], [], [], []
        while self._column.takeAt(0) is not None:
            pass

    def _show(self, key: object, make: Callable[[], _W]) -> _W:
        """Lay out one more widget of a kind: a spare one where there is any."""
        spares = self._spare.get(key)
        widget = cast("_W", spares.popleft()) if spares else make()
        self._shown.append((key, widget))
        self._column.addWidget(widget)
        widget.show()
        return widget

    def _in_order(self) -> None:
        """The Tab key goes down the column, whatever was made first."""
        for one, other in pairwise(self._stops()):
            QWidget.setTabOrder(one, other)

    def _stops(self) -> Iterator[QWidget]:
        for _, widget in self._shown:
            if isinstance(widget, WorkedRow):
                yield from (widget, widget.value, *filter(None, (widget.runner,)))
            elif isinstance(widget, FoldHeading):
                yield widget

    def _add(self, item: Row | Card | Curve) -> None:
        if isinstance(item, Row):
            view = self._show(WorkedRow.kind_of(item), partial(WorkedRow, item))
            view.show_row(item)
            self._rows.append(view)
        elif isinstance(item, Curve):
            from half_fold.desk.kit.curve import CurveView  # where there is one to show

            drawn = CurveView(item)
            self._curves.append(drawn)
            self._column.addWidget(drawn)
            drawn.show()
        else:
            card = CardView(item)
            self._cards.append(card)
            self._column.addSpacing(6)
            self._column.addWidget(card)
            card.show()
            self._column.addSpacing(6)

    # Folding ------------------------------------------------------------------------------------

    def _seen_of(self, sections: Sequence[RowSection]) -> list[RowSection]:
        """The sections as they are shown: folded ones without what is in them, or what was sought in all of them."""
        if self._sought:
            return found_in(sections, self._sought)
        return [each if self._folds.is_open(each) else replace(each, items=()) for each in sections]

    def _heading(self, section: RowSection) -> FoldHeading:
        made = self._show("heading", self._new_heading)
        made.setText(section.title)
        return made

    def _new_heading(self) -> FoldHeading:
        made = FoldHeading()
        made.clicked.connect(lambda: self.fold(made.text()))
        return made

    def _fill_headings(self, sections: Sequence[RowSection]) -> None:
        told = {each.title: each for each in self._told}
        for heading in self._headings:
            section = told[heading.text()]
            is_open = bool(self._sought) or self._folds.is_open(section)
            heading.show_heading(section.title, section.says or "", is_open, section.is_set)
        self._page.update()

    def fold(self, title: str) -> None:
        """Fold what stands under a heading away, or unfold it; so it stays for things of this kind."""
        self.catch_up()
        section = next(each for each in self._told if each.title == title and each.says is not None)
        self._folds.turn(section)
        self._again(title)

    def unfold(self, title: str) -> None:
        """Unfold a heading, if it is folded."""
        self.catch_up()
        if any(each.title == title and not self._folds.is_open(each) for each in self._told):
            self.fold(title)

    def _again(self, title: str = "") -> None:
        self.show_sections(self._told)
        heading = next((each for each in self._headings if each.text() == title), None)
        if heading is not None:
            heading.setFocus()

    def _uncover(self, name: str) -> None:
        """Unfold the heading under which a row of that name stands, for now."""
        if any(view.row.name == name for view in self._rows):
            return
        section = next((each for each in self._told if any(is_row(item, name) for item in each.items)), None)
        if section is not None:
            self._sought = ""
            self._folds.peep(section)
            self.show_sections(self._told)

    @property
    def headings(self) -> list[FoldHeading]:
        """The headings that are shown."""
        self.catch_up()
        return self._headings

    # Finding ------------------------------------------------------------------------------------

    @property
    def sought(self) -> str:
        """What was typed to find a row by."""
        return self._sought

    def seek(self, words: str) -> None:
        """Show only the rows that answer to those words; all again for none."""
        self.catch_up()
        self._sought = words
        self.show_sections(self._told)
        self.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Letters find a row; Enter goes into the first that was found."""
        assert event is not None
        key, typed = event.key(), event.text()
        plain = event.modifiers() in (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier)
        if self._sought and key == Qt.Key.Key_Escape:
            self.seek("")
        elif self._sought and key == Qt.Key.Key_Backspace:
            self.seek(self._sought[:-1])
        elif self._sought and key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._into_first()
        elif plain and typed.isprintable() and typed and (typed.strip() or self._sought):
            self.seek(self._sought + typed)
        else:
            super().keyPressEvent(event)

    def _into_first(self) -> None:
        view = next((each for each in self._rows if each.row.edit is not None), None)
        if view is not None:
            view.value.setFocus()
            view.open_editor()

    def show_row(self, name: str) -> None:
        """Bring the row of that name into view, unfolded."""
        self.catch_up()
        self._uncover(name)
        for view in self._rows:
            if view.row.name == name:
                view.unfold(True)
                self.ensureWidgetVisible(view)
                view.setFocus()
                return

    def row(self, name: str) -> WorkedRow:
        """The row of that name, for those who drive the window."""
        self.catch_up()
        self._uncover(name)
        return next(view for view in self._rows if view.row.name == name)

    def askable(self) -> list[tuple[str, Sequence[str], Callable[[], object]]]:
        """What can be set or done here, folded away or not: a row is shown, what a button does is done."""
        self.catch_up()
        items = [item for section in self._told for item in section.items]
        rows = [(i.name, i.also, partial(self.show_row, i.name)) for i in items if isinstance(i, Row) and i.edit]
        return [*rows, *((words, (), act) for i in items if isinstance(i, Card) for words, act in i.actions)]

    def has_row(self, name: str) -> bool:
        """Whether there is a row of that name, folded away or not."""
        self.catch_up()
        return any(is_row(item, name) for each in self._told for item in each.items)

    @property
    def rows(self) -> list[WorkedRow]:
        """The rows that are shown."""
        self.catch_up()
        return self._rows

    @property
    def curves(self) -> "list[CurveView]":
        """The curves that are shown."""
        self.catch_up()
        return self._curves

    def set_ones(self) -> Iterator[tuple[QWidget, Callable[[], object] | None]]:
        """The rows that are not at rest, each with what puts it back, and the folded headings that hide any."""
        for view in self._rows:
            if view.row.back is not None:
                yield view, view.row.back
        for heading in self._headings:
            if heading.is_set and not heading.is_open:
                yield heading, None

    @property
    def cards(self) -> list[CardView]:
        """The cards that are shown."""
        self.catch_up()
        return self._cards
