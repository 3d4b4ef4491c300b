"""A chip of an ink or a fade, as it prints, and the list that opens from one: typed letters search it."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QBrush, QColor, QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import QListWidgetItem, QWidget

from half_fold.core.drawing.marks import UNSAID, DisplayList
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.property import paint_choices
from half_fold.core.publication.records import HoldsPanel, Publication
from half_fold.core.spread.setting.panels import panel_marks
from half_fold.desk.kit.pick_list import PickList
from half_fold.desk.paint.painter import paint
from half_fold.desk.theme import tokens

SMALL, LARGE = QSize(22, 12), QSize(34, 18)
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


class InkList(PickList):
    """The inks and fades to choose from, each as it prints."""

    def __init__(
        self,
        parent: QWidget,
        publication: Publication,
        choices: Sequence[tuple[str, str]],
        now: str,
        taken: Callable[[str], object],
    ) -> None:
        self._publication = publication
        super().__init__(parent, choices, now, taken, "inks")
        self.list.setIconSize(LARGE)

    def dress(self, item: QListWidgetItem, value: str) -> None:
        """The chip of an ink."""
        item.setIcon(_icon(chip(self._publication, value, LARGE, self.devicePixelRatioF())))
