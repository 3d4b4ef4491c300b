"""A worked row: name and value, the working in small figures under it, and the numbers it came from on a click."""

from collections.abc import Callable
from functools import partial

from PyQt6 import sip
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPixmap
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QSizePolicy, QVBoxLayout, QWidget

from half_fold.core.publication.property import paint_choices
from half_fold.core.publication.records import Publication
from half_fold.desk.kit.face_list import FaceList
from half_fold.desk.kit.ink_chip import SMALL, InkList, chip
from half_fold.desk.kit.pick_list import PickList
from half_fold.desk.kit.plain import label, said_of
from half_fold.desk.kit.rows import Row
from half_fold.desk.kit.runner import Runner
from half_fold.desk.kit.value_button import ValueButton
from half_fold.desk.theme import tokens


class _Editor(QLineEdit):
    """Return takes what was typed, Escape leaves the value as it was."""

    def __init__(self, row: "WorkedRow") -> None:
        super().__init__(row.row.typed)
        self._row = row
        self.setFont(tokens.font(tokens.BASE, tokens.MEDIUM))
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setMinimumWidth(110)
        self.selectAll()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self._row.close_editor()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._row.take(self.text())
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        if not sip.isdeleted(self._row) and self._row.editor is self:
            self._row.leave_editor()


def _ink_of(row: Row) -> object:
    """What a chip follows from."""
    return None if row.inks is None else (id(row.inks.inks), id(row.inks.fades), row.typed)


def _chip_of(row: Row) -> Callable[[float], QPixmap] | None:
    """The chip of the ink that a row's value is, whoever says so; crossed out where it is none."""
    if row.inks is None:
        return None
    name = row.typed or (row.value if row.value in paint_choices(row.inks) else "")
    return partial(chip, row.inks, name, SMALL) if name or row.value == NOTHING else None


NOTHING = "none"  # what can be set and is empty has to be seen to be clicked


class WorkedRow(QWidget):
    """One row; ``show_row`` puts another row's words into it without making it anew."""

    def __init__(self, row: Row, level: int = 0) -> None:
        super().__init__()
        self.row, self.level, self.unfolded = row, level, False
        self.editor: _Editor | None = None
        self.pick_list: PickList | None = None
        self.menu: QMenu | None = None
        self.runner: Runner | None = None
        self._parts: list[WorkedRow] = []
        self._seen: tuple[object, ...] | None = None
        whole = QVBoxLayout(self)
        whole.setContentsMargins(level * 12, 2, 0, 2)
        whole.setSpacing(0)
        self._line = QHBoxLayout()
        self._line.setSpacing(6)
        self._name = label(row.name)
        self._name.setWordWrap(False)
        self._name.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.value = ValueButton(row.edit is not None, row.large)
        self.value.clicked.connect(self.open_editor)
        self._line.addWidget(self._name, 1)
        self._line.addWidget(self.value)
        whole.addLayout(self._line)
        if row.span is not None:
            self.runner = Runner(*row.span)
            # Once the event is over: what they do may put another row in the place of this one.
            later = Qt.ConnectionType.QueuedConnection
            self.runner.passed.connect(self._pass, later)  # type: ignore[call-arg]  # the stubs leave it out
            self.runner.taken.connect(self._let_go, later)  # type: ignore[call-arg]
            whole.addWidget(self.runner)
        self._working = label("", tokens.SMALL, quiet=True)
        self._note = label("", tokens.SMALL, note=True)
        whole.addWidget(self._working)
        whole.addWidget(self._note)
        self._inside = QVBoxLayout()
        self._inside.setContentsMargins(0, 0, 0, 0)
        whole.addLayout(self._inside)
        self.show_row(row)

    @staticmethod
    def kind_of(row: Row) -> object:
        """What a widget must have been made for to show a row: one that is dragged is for that row alone."""
        return row.edit is not None, row.large, (row.name, row.span) if row.span is not None else None

    def show_row(self, row: Row) -> None:
        """Take new words and values; what is unfolded stays so."""
        if row.name != self.row.name:
            self._put_away()
        seen = (row.name, row.value, row.working, row.note, row.hint, bool(row.parts), _ink_of(row))
        self.row = row
        if self.runner is not None:
            self.runner.setAccessibleName(row.name)
            self.runner.stand(float(row.typed or 0) if row.stands is None else row.stands)
        if seen == self._seen:  # most rows stay as they are after an edit, and laying them out again costs
            if self.unfolded:
                self._show_parts()
            return
        self._seen = seen
        self._name.setText(row.name)
        self.value.setText(row.value or (NOTHING if row.edit is not None else ""))
        self.value.chip = _chip_of(row)
        self.value.setAccessibleName(f"{row.name} {row.value}")
        self.setAccessibleName(f"{row.name} {row.value}")
        self.setAccessibleDescription(" ".join(filter(None, (row.working, row.note))))
        self.value.updateGeometry()
        self.value.update()
        self._working.setText(row.working)
        self._working.setVisible(bool(row.working) and row.working != row.value.replace(" ", ""))
        self._note.setText(row.note)
        self._note.setVisible(bool(row.note))
        self.setCursor(Qt.CursorShape.PointingHandCursor if row.parts else Qt.CursorShape.ArrowCursor)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus if row.parts else Qt.FocusPolicy.NoFocus)
        self.setToolTip("Click, or Space, unfolds what it came from" if row.parts else said_of(row.hint))
        if self.unfolded:
            self._show_parts()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if self.row.parts and event.key() in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.unfold(not self.unfolded)
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if self.row.parts:
            self.unfold(not self.unfolded)
        else:
            super().mousePressEvent(event)

    def unfold(self, on: bool) -> None:
        """Show the numbers this one was made from, or put them away."""
        self.unfolded = on and bool(self.row.parts)
        self._show_parts()
        self.update()

    def _show_parts(self) -> None:
        wanted = self.row.parts if self.unfolded else ()
        while len(self._parts) > len(wanted):
            gone = self._parts.pop()
            self._inside.removeWidget(gone)
            gone.deleteLater()
        for index, part in enumerate(wanted):
            if index < len(self._parts):
                self._parts[index].show_row(part)
            else:
                made = WorkedRow(part, 1)
                self._parts.append(made)
                self._inside.addWidget(made)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        if self.hasFocus():
            painter.setPen(tokens.colour(tokens.LODEN))
            painter.drawRect(self.rect().adjusted(self.level * 12, 0, -1, -1))
        if self.unfolded and self._parts:
            painter.setPen(tokens.colour(tokens.LODEN, 0.5))
            top = self._parts[0].y() + 2
            painter.drawLine(self.level * 12 + 4, top, self.level * 12 + 4, self.height() - 4)
        if self.row.note:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(tokens.colour(tokens.OCHRE))
            painter.drawEllipse(QPoint(self.value.x() - 6, self.value.y() + self.value.height() // 2), 3, 3)

    def open_editor(self) -> None:
        """Let the value be typed, or chosen from its list."""
        if self.row.edit is None:
            return
        if self.row.inks is not None:
            self._choose_ink(self.row.inks)
            return
        if self.row.faces is not None:
            self._open_list(FaceList(self, self.row.faces, self.row.choices, self.row.typed, self.row.edit))
            return
        if self.row.choices:
            self._choose()
            return
        if self.editor is None:
            self.editor = _Editor(self)
            self._line.addWidget(self.editor)
            self.editor.show()
            self.editor.setFocus()
            self.value.hide()

    def _choose_ink(self, publication: Publication) -> None:
        edit = self.row.edit
        assert edit is not None
        self._open_list(InkList(self, publication, self.row.choices, self.row.typed, edit))

    def _open_list(self, made: PickList) -> None:
        self.pick_list = made
        made.put_away.connect(self._take_back_keys)
        at = QPoint(self.value.width() - made.width(), self.value.height())
        made.open_at(self.value.mapToGlobal(at))

    def _take_back_keys(self) -> None:
        window = self.window()
        if window is not None:
            window.activateWindow()
        self.value.setFocus()

    def _choose(self) -> None:
        self.menu = menu = QMenu(self)
        menu.aboutToHide.connect(menu.deleteLater)
        for value, words in self.row.choices:
            action = menu.addAction(words)
            assert action is not None
            action.setData(value)
            action.setCheckable(True)
            action.setChecked(value == self.row.typed)
            if value == self.row.typed:
                menu.setActiveAction(action)
        menu.triggered.connect(lambda action: self.row.edit and self.row.edit(action.data()))
        menu.popup(self.value.mapToGlobal(QPoint(0, self.value.height())))

    def _put_away(self) -> None:
        """What was opened for another row is not taken for this one."""
        for opened in (self.menu, self.pick_list):
            if opened is not None and not sip.isdeleted(opened):
                opened.close()
        self.menu = self.pick_list = None

    def _pass(self, number: float) -> None:
        """Say what the pointer stands at while it is dragged; the next row that is shown says what was taken."""
        if self.runner is None or self.runner.at != number:
            return  # dragged on since
        self._seen = None
        self.value.setText(f"{number:g}")
        if self.row.passing is not None:
            self.row.passing(f"{number:g}")

    def _let_go(self, number: float) -> None:
        self.take(f"{number:g}")

    def take(self, text: str) -> None:
        """Try the typed value; it stays open with its sentence in the foot where it cannot be."""
        if self.row.edit is not None and self.row.edit(text):
            self.close_editor()
        elif self.editor is not None:
            self.editor.selectAll()

    def leave_editor(self) -> None:
        """Going elsewhere takes a changed value if it can be taken."""
        if self.editor is not None:
            text = self.editor.text()
            if text != self.row.typed and self.row.edit is not None:
                self.row.edit(text)
            self.close_editor(back=False)

    def close_editor(self, back: bool = True) -> None:
        """End typing; ``back`` gives the keys back to the value."""
        if self.editor is not None:
            editor, self.editor = self.editor, None
            self._line.removeWidget(editor)
            editor.hide()
            editor.deleteLater()
            self.value.show()
            if back:
                self.value.setFocus()
