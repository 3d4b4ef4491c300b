"""The working column: worked sums for what is selected."""

from collections import deque
from collections.abc import Callable, Sequence
from functools import partial
from itertools import pairwise
from typing import TYPE_CHECKING, TypeVar, cast

from PyQt6.QtCore import QEvent, Qt, QTimer
from PyQt6.QtWidgets import QApplication, QFrame, QLabel, QScrollArea, QVBoxLayout, QWidget

from half_fold.desk.kit.card import CardView
from half_fold.desk.kit.plain import label, rule
from half_fold.desk.kit.rows import Card, Curve, Row, RowSection
from half_fold.desk.kit.worked_row import WorkedRow
from half_fold.desk.theme import tokens

SOON_MS = 80
_W = TypeVar("_W", bound=QWidget)

if TYPE_CHECKING:
    from half_fold.desk.kit.curve import CurveView


def _shape(sections: Sequence[RowSection]) -> tuple[object, ...]:
    """What must be the same for rows to be filled in again rather than made anew."""
    return tuple(
        (
            section.title,
            section.subtitle,
            tuple(
                (item.name, item.large, item.edit is not None, bool(item.choices), item.span)
                if isinstance(item, Row)
                else (item.title, tuple(item.names))
                if isinstance(item, Curve)
                else (item.title, item.words, item.stops_press, tuple(words for words, _ in item.actions))
                for item in section.items
            ),
        )
        for section in sections
    )


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
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._page = QWidget()
        self._column = QVBoxLayout(self._page)
        self._column.setContentsMargins(16, 16, 16, 16)
        self._column.setSpacing(0)
        self.setWidget(self._page)
        self._shape: tuple[object, ...] = ()
        self._head = ""
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
        shape = _shape(sections)
        items = [item for section in sections for item in section.items]
        if shape == self._shape:
            for view, row in zip(self._rows, [i for i in items if isinstance(i, Row)], strict=True):
                view.show_row(row)
            for drawn, curve in zip(self._curves, [i for i in items if isinstance(i, Curve)], strict=True):
                drawn.show_curve(curve)
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
        for index, section in enumerate(sections):
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
        self._shown, self._rows, self._cards, self._curves = [], [], [], []
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
        stops = (each for view in self._rows for each in (view, view.value, *filter(None, (view.runner,))))
        for one, other in pairwise(stops):
            QWidget.setTabOrder(one, other)

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

    def show_row(self, name: str) -> None:
        """Bring the row of that name into view, unfolded."""
        self.catch_up()
        for view in self._rows:
            if view.row.name == name:
                view.unfold(True)
                self.ensureWidgetVisible(view)
                view.setFocus()
                return

    def row(self, name: str) -> WorkedRow:
        """The row of that name, for those who drive the window."""
        self.catch_up()
        return next(view for view in self._rows if view.row.name == name)

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

    @property
    def cards(self) -> list[CardView]:
        """The cards that are shown."""
        self.catch_up()
        return self._cards
