"""The working column: worked sums for what is selected."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from half_fold.desk.kit.card import CardView
from half_fold.desk.kit.plain import label, rule
from half_fold.desk.kit.rows import Card, Curve, Row, Section
from half_fold.desk.kit.worked_row import WorkedRow
from half_fold.desk.theme import tokens

if TYPE_CHECKING:
    from half_fold.desk.kit.curve import CurveView


def _shape(sections: Sequence[Section]) -> tuple[object, ...]:
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
        self._shape: tuple[object, ...] = ()
        self._rows: list[WorkedRow] = []
        self._cards: list[CardView] = []
        self._curves: list[CurveView] = []

    def show_sections(self, sections: Sequence[Section]) -> None:
        """Show other rows; where only values changed, the same rows take them."""
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

    def _build(self, sections: Sequence[Section]) -> None:
        unfolded = {view.row.name for view in self._rows if view.unfolded}
        focused = next((view.row.name for view in self._rows if view.value.hasFocus()), None)
        for view in self._rows:
            view.close_editor(back=False)
        self._rows, self._cards, self._curves = [], [], []
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(16, 16, 16, 16)
        column.setSpacing(0)
        for index, section in enumerate(sections):
            if index:
                column.addSpacing(10)
                column.addWidget(rule())
                column.addSpacing(8)
            title = label(section.title, tokens.LARGE - 3 if not index else tokens.BASE + 1, bold=True)
            column.addWidget(title)
            if section.subtitle:
                column.addWidget(label(section.subtitle, tokens.SMALL + 1, quiet=True))
            column.addSpacing(6)
            for item in section.items:
                self._add(column, item)
        column.addStretch(1)
        self.setWidget(page)
        for view in self._rows:
            if view.row.name in unfolded:
                view.unfold(True)
            if view.row.name == focused:
                view.value.setFocus()

    def _add(self, column: QVBoxLayout, item: Row | Card | Curve) -> None:
        if isinstance(item, Row):
            view = WorkedRow(item)
            self._rows.append(view)
            column.addWidget(view)
        elif isinstance(item, Curve):
            from half_fold.desk.kit.curve import CurveView  # where there is one to show

            drawn = CurveView(item)
            self._curves.append(drawn)
            column.addWidget(drawn)
        else:
            card = CardView(item)
            self._cards.append(card)
            column.addSpacing(6)
            column.addWidget(card)
            column.addSpacing(6)

    def show_row(self, name: str) -> None:
        """Bring the row of that name into view, unfolded."""
        for view in self._rows:
            if view.row.name == name:
                view.unfold(True)
                self.ensureWidgetVisible(view)
                view.setFocus()
                return

    def row(self, name: str) -> WorkedRow:
        """The row of that name, for those who drive the window."""
        return next(view for view in self._rows if view.row.name == name)

    @property
    def rows(self) -> list[WorkedRow]:
        """The rows that are shown."""
        return self._rows

    @property
    def curves(self) -> "list[CurveView]":
        """The curves that are shown."""
        return self._curves

    @property
    def cards(self) -> list[CardView]:
        """The cards that are shown."""
        return self._cards
