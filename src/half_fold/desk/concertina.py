"""The concertina: the whole publication as one folded strip of spreads with true thumbnails."""

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QTransform, QWheelEvent
from PyQt6.QtWidgets import QWidget

from half_fold.core.brief.bindings import binding_named
from half_fold.core.plan.signatures import PrintedSheet, printed_sheets
from half_fold.core.plan.spreads import Spread, on_right, spread_index, spreads_of
from half_fold.desk.docket import MADE_ELSEWHERE
from half_fold.desk.session import Session
from half_fold.desk.theme import tokens
from half_fold.desk.thumbnails import Thumbnails

FOLDED_HEIGHT = 24
LEAF_HEIGHT, TOP, FOLD_DROP, GAP = 52, 12, 5, 12
BRACKET_TOP, BRACKET_DROP = TOP + LEAF_HEIGHT + 21, 5


class Concertina(QWidget):
    """Click a spread to go there; the wheel moves along the strip. Folded away, only its page numbers show."""

    went = pyqtSignal(int)

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.unfolded = True
        self.unfold(True)
        self.session, self.thumbnails = session, thumbnails
        self.offset = 0.0
        self._shown: tuple[object, ...] | None = None
        thumbnails.came.connect(self.update)
        self.setToolTip("Click a spread to go there; PgUp and PgDn go by spread; F9 folds the strip away")

    def unfold(self, unfolded: bool) -> None:
        """Show the whole strip, or only its page numbers."""
        self.unfolded = unfolded
        self.setFixedHeight(tokens.CONCERTINA_HEIGHT if unfolded else FOLDED_HEIGHT)
        self.update()

    def refresh(self) -> None:
        """Draw the strip anew, with the spread in view brought into it."""
        self._bring_into_view()
        self.thumbnails.ratio = self.devicePixelRatioF()
        self.thumbnails.refresh()
        publication, brief = self.session.publication, self.session.publication.brief
        bound = (brief.binding, brief.signature, brief.right_bound)
        shown = (
            spread_index(self.session.publication, self.session.view.page),
            len(publication.pages),
            bound,
            self._leaf_width(),
            self.offset,
        )
        if shown != self._shown:
            self._shown = shown
            self.update()

    def _leaf_width(self) -> float:
        brief = self.session.publication.brief
        return min(60.0, LEAF_HEIGHT * brief.width.pt / brief.height.pt)

    def _pitch(self) -> float:
        return 2 * self._leaf_width() + GAP

    def _left_of(self, index: int) -> float:
        return 16 + self._place(index) * self._pitch() - self.offset - self._lead()

    def _lead(self) -> float:
        """How far the first place of the strip begins off it: by a leaf, where that has no left page."""
        every = spreads_of(self.session.publication)
        first = every[-1 if self.session.publication.brief.right_bound else 0]
        return 0.0 if first.left is not None else self._leaf_width()

    def _place(self, index: int) -> int:
        """The place along the strip: a copy read from right to left begins at its right end."""
        publication = self.session.publication
        return len(spreads_of(publication)) - 1 - index if publication.brief.right_bound else index

    def _most(self) -> float:
        count = len(spreads_of(self.session.publication))
        return max(0.0, 32 + (count - 0.5) * self._pitch() - self.width())

    def _bring_into_view(self) -> None:
        left = self._left_of(spread_index(self.session.publication, self.session.view.page))
        if left < 20:
            self.offset += left - 60
        elif left + self._pitch() > self.width() - 20:
            self.offset += left + self._pitch() - self.width() + 60
        self.offset = min(max(self.offset, 0.0), self._most())

    def _in_view(self, count: int) -> range:
        """The indices of the spreads that can be seen."""
        start = 16 - self.offset - self._lead()
        first = max(0, int((-self._pitch() - start) // self._pitch()))
        last = min(count, max(0, int((self.width() - start) // self._pitch()) + 1))
        if self.session.publication.brief.right_bound:
            first, last = count - last, count - first
        return range(max(0, first), min(count, last))

    def _is_elsewhere(self) -> bool:
        return binding_named(self.session.publication.brief.binding).elsewhere

    def spread_at(self, x: float) -> int | None:
        """The index of the spread under a place."""
        for index in self._in_view(len(spreads_of(self.session.publication))):
            left = self._left_of(index)
            if left <= x <= left + 2 * self._leaf_width():
                return index
        return None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        index = self.spread_at(event.position().x())
        if index is not None:
            self.went.emit(spreads_of(self.session.publication)[index].numbers[0])

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        step = event.angleDelta().y() or event.angleDelta().x()
        self.offset = min(max(self.offset - step / 2, 0.0), self._most())
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), tokens.colour(tokens.SHELF))
        every = spreads_of(self.session.publication)
        if self._is_elsewhere():
            painter.setPen(tokens.colour(tokens.QUIET))
            painter.drawText(
                self.rect(), Qt.AlignmentFlag.AlignCenter, f"{MADE_ELSEWHERE[0].upper()}{MADE_ELSEWHERE[1:]}"
            )
            every = ()
        for index in self._in_view(len(every)):
            self._paint_spread(painter, index, every[index], self._left_of(index))
        if self.unfolded and every:
            for sheet in printed_sheets(self.session.publication):
                self._paint_sheet(painter, sheet)
        painter.setPen(tokens.colour("#B0ADA6"))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)

    def _edge_of(self, page: int, right: bool) -> float:
        """The left or the right edge of a page of the strip."""
        fold = self._left_of(spread_index(self.session.publication, page)) + self._leaf_width()
        start = fold if on_right(self.session.publication, page) else fold - self._leaf_width()
        return start + self._leaf_width() if right else start

    def _paint_sheet(self, painter: QPainter, sheet: PrintedSheet) -> None:
        """Brackets under the pages that share a printed sheet, each with the sheet's letter."""
        painter.setFont(tokens.font(tokens.SMALL))
        for first, last in sheet.spans:
            ends = (last, first) if self.session.publication.brief.right_bound else (first, last)
            left, right = self._edge_of(ends[0], False) + 2, self._edge_of(ends[1], True) - 2
            if right < 0 or left > self.width():
                continue
            words = sheet.label if right - left > 90 else sheet.letter
            text = painter.fontMetrics().horizontalAdvance(words)
            seen = (max(left, 0.0) + min(right, float(self.width()))) / 2
            at = min(max(seen, left + text / 2 + 8), right - text / 2 - 8)
            foot = BRACKET_TOP + BRACKET_DROP
            painter.setPen(QPen(tokens.colour(tokens.QUIET), 1))
            painter.drawLine(QPointF(left, BRACKET_TOP), QPointF(left, foot))
            painter.drawLine(QPointF(right, BRACKET_TOP), QPointF(right, foot))
            painter.drawLine(QPointF(left, foot), QPointF(at - text / 2 - 4, foot))
            painter.drawLine(QPointF(at + text / 2 + 4, foot), QPointF(right, foot))
            area = QRectF(at - text / 2 - 2, foot - 8, text + 4, 16)
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_spread(self, painter: QPainter, index: int, spread: Spread, left: float) -> None:
        width = self._leaf_width()
        current = index == spread_index(self.session.publication, self.session.view.page)
        image = self.thumbnails.get(index)
        fold = left + width
        for number, is_right in ((spread.left, False), (spread.right, True)):
            if number is None:
                continue
            x = fold if is_right else left
            if self.unfolded:
                self._paint_leaf(painter, image, x, width, is_right, spread)
            painter.setFont(tokens.font(tokens.SMALL, tokens.BOLD if current else tokens.font().weight()))
            painter.setPen(tokens.colour(tokens.INK if current else tokens.QUIET))
            area = QRectF(x, TOP + LEAF_HEIGHT + 3 if self.unfolded else 4, width, 16)
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, str(number))
        if current and self.unfolded:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            from_x = left if spread.left else fold
            to_x = fold + width if spread.right else fold
            painter.drawRect(QRectF(from_x - 3, TOP - 4, to_x - from_x + 6, LEAF_HEIGHT + 8))

    def _paint_leaf(
        self, painter: QPainter, image: QImage | None, x: float, width: float, is_right: bool, spread: Spread
    ) -> None:
        """A leaf sheared so that the strip stands folded: the fold deeper than the fore edge."""
        shear = FOLD_DROP / width
        painter.save()
        painter.setTransform(
            QTransform(1, -shear if is_right else shear, 0, 1, x, TOP + (FOLD_DROP if is_right else 0)), True
        )
        area = QRectF(0, 0, width, LEAF_HEIGHT - FOLD_DROP)
        painter.fillRect(area, QColor("white"))
        if image is not None:
            both = spread.left is not None and spread.right is not None
            half = image.width() / 2 if both else image.width()
            source = QRectF(half if both and is_right else 0, 0, half, image.height())
            painter.drawImage(area, image, source)
        if not is_right:
            painter.fillRect(area, QColor(0, 0, 0, 14))
        painter.setPen(QPen(QColor("#8F8D88"), 0.7))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF(area))
        painter.restore()
