"""A chip of an ink or a fade, as it prints, and the list that opens from one: typed letters search it."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QHideEvent, QIcon, QKeyEvent, QPainter, QPixmap
from PyQt6.QtWidgets import QFrame, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from half_fold.core.drawing.marks import UNSAID, DisplayList
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.property import paint_choices
from half_fold.core.publication.records import HoldsPanel, Publication
from half_fold.core.spread.setting.panels import panel_marks
from half_fold.desk.paint.painter import paint
from half_fold.desk.theme import tokens

SMALL, LARGE = QSize(22, 12), QSize(34, 18)
ROWS = 9
_chips: Keeper[QPixmap] = Keeper(2000)


def chip(publication: Publication, name: str, size: QSize, ratio: float = 1.0) -> QPixmap:
    """An ink or a fade in a frame; hatched where it is see-through, crossed out where there is none."""
    key = publication.inks, publication.fades, name, size.width(), size.height(), ratio
    return _chips.of(key, lambda: _painted(publication, name, size, ratio))


def _painted(publication: Publication, name: str, size: QSize, ratio: float) -> QPixmap:
    pixmap = QPixmap(round(size.width() * ratio), round(size.height() * ratio))
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(QColor("white"))
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    wide, high = size.width(), size.height()
    if name in paint_choices(publication):
        painter.fillRect(0, 0, wide, high, QBrush(tokens.colour(tokens.LINE), Qt.BrushStyle.BDiagPattern))
        box = Rect(0, 0, wide, high)
        marks = panel_marks(publication, UNSAID, HoldsPanel(ink=name), box)
        paint(painter, DisplayList(box, tuple(marks)), lambda *_: None)
    else:
        painter.setPen(tokens.colour(tokens.QUIET))
        painter.drawLine(0, high, wide, 0)
    painter.setPen(tokens.colour(tokens.QUIET))
    painter.drawRect(0, 0, wide - 1, high - 1)
    painter.end()
    return pixmap


def _icon(pixmap: QPixmap) -> QIcon:
    """The same whether it is chosen or not: a colour is not to be tinted."""
    icon = QIcon(pixmap)
    icon.addPixmap(pixmap, QIcon.Mode.Selected)
    return icon


class InkList(QFrame):
    """The inks to choose from: ``taken`` is given the one that is; what is typed leaves only those that have it.

    ``put_away`` tells that it is closed, whether or not one was chosen.
    """

    put_away = pyqtSignal()

    def __init__(
        self,
        parent: QWidget,
        publication: Publication,
        choices: Sequence[tuple[str, str]],
        now: str,
        taken: Callable[[str], object],
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("inkList")
        self._choices, self._taken, self._publication = choices, taken, publication
        self.search = QLineEdit()
        self.search.setPlaceholderText("type to search")
        self.search.setAccessibleName("Search the inks")
        self.list = QListWidget()
        self.list.setAccessibleName("Inks")
        self.list.setIconSize(LARGE)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column = QVBoxLayout(self)
        column.setContentsMargins(6, 6, 6, 6)
        column.setSpacing(4)
        column.addWidget(self.search)
        column.addWidget(self.list)
        self.search.textChanged.connect(lambda text: self._show(text))
        self.search.installEventFilter(self)
        self.list.itemClicked.connect(lambda item: self._take(item))
        self._show("", now)
        self.setFixedSize(240, 46 + 26 * min(ROWS, len(choices)))

    def _show(self, text: str, now: str = "") -> None:
        self.list.clear()
        ratio = self.devicePixelRatioF()
        for value, words in self._choices:
            if text.strip().lower() in words.lower():
                item = QListWidgetItem(_icon(chip(self._publication, value, LARGE, ratio)), words)
                item.setData(Qt.ItemDataRole.UserRole, value)
                item.setSizeHint(QSize(200, 26))
                self.list.addItem(item)
                if value == now:
                    self.list.setCurrentItem(item)
        if self.list.currentRow() < 0 and self.list.count():
            self.list.setCurrentRow(0)

    def _take(self, item: QListWidgetItem | None) -> None:
        if item is not None:
            value = str(item.data(Qt.ItemDataRole.UserRole))
            self.close()
            self._taken(value)

    def eventFilter(self, watched: object, event: object) -> bool:
        """Arrows and Enter in the search move in the list and take from it."""
        if watched is self.search and isinstance(event, QKeyEvent) and event.type() == QKeyEvent.Type.KeyPress:
            steps = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
            if event.key() in steps:
                row = self.list.currentRow() + steps[Qt.Key(event.key())]
                self.list.setCurrentRow(min(max(row, 0), self.list.count() - 1))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take(self.list.currentItem())
                return True
        return False

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.put_away.emit()

    def open_at(self, at: QPoint) -> None:
        """Open at a place of the screen, and take the keys."""
        self.move(at)
        self.show()
        self.search.setFocus()
