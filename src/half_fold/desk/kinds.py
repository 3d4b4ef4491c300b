"""The kinds that a job can be started from, as a shelf of small pictures."""

from collections.abc import Iterable

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QIcon, QImage, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QListView, QListWidget, QListWidgetItem

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.wrap import has_cover
from half_fold.core.plan.own_kinds import own_kinds
from half_fold.core.plan.starters import KINDS, format_kind, start
from half_fold.core.publication.records import Publication
from half_fold.desk.theme import tokens

PICTURE = QSize(72, 58)
CELL = QSize(114, 92)
IN_ROW, MOST_ROWS = 4, 3
SPINE = 0.09  # how thick a bound copy is drawn, of its height


class KindShelf(QListWidget):
    """Every kind with its picture, those of the user's own after the program's; arrows and letters choose."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("kinds")
        self.setAccessibleName("Kind")
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setMovement(QListView.Movement.Static)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setUniformItemSizes(True)
        self.setIconSize(PICTURE)
        self.setGridSize(CELL)
        self.setWordWrap(True)
        self.setSpacing(0)
        for kind in KINDS:
            self._add(kind, format_kind(kind), _drawn(start(kind, "")))
        for own in own_kinds():
            self._add(own.folder.name, own.name, _scaled(QImage(str(own.picture))))
        self.setCurrentRow(0)
        rows = min(MOST_ROWS, -(-self.count() // IN_ROW))
        self.setMinimumHeight(rows * CELL.height() + 10)

    def kind(self) -> str:
        """The word of the kind that is chosen."""
        item = self.currentItem()
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else KINDS[0]

    def _add(self, kind: str, words: str, picture: QPixmap) -> None:
        item = QListWidgetItem(QIcon(picture), words)
        item.setData(Qt.ItemDataRole.UserRole, kind)
        item.setToolTip(words)
        self.addItem(item)


def _pixmap() -> QPixmap:
    pixmap = QPixmap(PICTURE * 2)
    pixmap.setDevicePixelRatio(2)
    pixmap.fill(QColor(0, 0, 0, 0))
    return pixmap


def _scaled(image: QImage) -> QPixmap:
    """A picture that was kept, at the foot of its place."""
    pixmap = _pixmap()
    if image.isNull():
        return pixmap
    fitted = image.scaled(PICTURE * 2, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)
    width, height = fitted.width() / 2, fitted.height() / 2
    painter = QPainter(pixmap)
    _paper(painter, [QRectF((PICTURE.width() - width) / 2, PICTURE.height() - height, width, height)])
    painter.drawImage(QRectF((PICTURE.width() - width) / 2, PICTURE.height() - height, width, height), fitted)
    painter.end()
    return pixmap


def _drawn(publication: Publication) -> QPixmap:
    """The thing in its own proportions: a copy with its back, a sheet, two pages, a cover laid flat, a screen."""
    binding, brief = binding_named(publication.brief.binding), publication.brief
    pixmap = _pixmap()
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    tall = brief.height.pt / brief.width.pt
    laid_flat = has_cover(publication) and binding.elsewhere and not binding.on_screen
    leaves = 2 if binding.pairs or laid_flat else 1
    back = SPINE if binding.bound or laid_flat else 0.0
    height = min(PICTURE.height() - 6, (PICTURE.width() - 8) / (leaves / tall + back))
    width, thick = height / tall, height * back
    left, top = (PICTURE.width() - leaves * width - thick) / 2, PICTURE.height() - height - 2
    panels = [QRectF(left, top, width, height)]
    if leaves == 2:
        panels += [QRectF(left + width + thick, top, width, height)]
    _paper(painter, panels)
    if thick:
        at = left + width if leaves == 2 else left - thick
        painter.fillRect(QRectF(at, top, thick, height), tokens.colour(tokens.LODEN, 0.75))
    if binding.on_screen:
        painter.setPen(QPen(tokens.colour(tokens.INK), 2.4))
        painter.drawRoundedRect(panels[0], 3, 3)
    painter.end()
    return pixmap


def _paper(painter: QPainter, panels: Iterable[QRectF]) -> None:
    for panel in panels:
        painter.fillRect(panel.translated(1.5, 1.5), QColor(0, 0, 0, 40))
        painter.setPen(QPen(tokens.colour(tokens.INK, 0.55), 0.7))
        painter.setBrush(QColor("white"))
        painter.drawRect(panel)
        painter.setBrush(Qt.BrushStyle.NoBrush)
