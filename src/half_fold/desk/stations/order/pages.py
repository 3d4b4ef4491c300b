"""The running order page by page: pages are dragged, added and removed here."""

from collections.abc import Iterable

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QWheelEvent
from PyQt6.QtWidgets import QWidget

from half_fold.core.plan.order import add_pages, move_pages, remove_pages
from half_fold.core.plan.sections import bands
from half_fold.core.plan.spreads import on_right, spread_index, spread_of, spreads_of
from half_fold.core.publication.records import Page, Publication, Section
from half_fold.core.spread.edits.taking import double_pages
from half_fold.core.spread.running.states import page_state, pages_laid
from half_fold.desk.session import Session
from half_fold.desk.theme import tokens
from half_fold.desk.thumbnails import Thumbnails

PAGE_HEIGHT, PITCH_Y, TOP = 92, 154, 36
BANDS = (tokens.LODEN, tokens.OCHRE, "#5C6B8A", "#8A5C72")
AD_WORDS = {"spread": "ad", "page": "ad", "half": "½ ad", "third": "⅓ ad", "quarter": "¼ ad"}  # under a narrow page


class PagesView(QWidget):
    """Pages in spreads, row under row; the marker shows where a dragged page would go."""

    moved = pyqtSignal()
    entered = pyqtSignal()

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session, self.thumbnails = session, thumbnails
        thumbnails.came.connect(self.update)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Running order")
        self.chosen: set[int] = {session.view.page}
        self.offset = 0.0
        self._pressed: int | None = None
        self._drop: int | None = None
        self._bands: dict[int, tuple[int, Section]] = {}

    # Geometry -----------------------------------------------------------------------------------

    def _page_width(self) -> float:
        brief = self.session.publication.brief
        return PAGE_HEIGHT * brief.width.pt / brief.height.pt

    def _per_row(self) -> int:
        return max(1, int((self.width() - 32) // (2 * self._page_width() + 28)))

    def page_area(self, number: int) -> QRectF:
        """Where page ``number`` is drawn."""
        width = self._page_width()
        row, place = divmod(spread_index(self.session.publication, number), self._per_row())
        left = 28 + place * (2 * width + 28) + (width if on_right(self.session.publication, number) else 0)
        return QRectF(left, TOP + row * PITCH_Y - self.offset, width, PAGE_HEIGHT)

    def page_at(self, at: QPointF) -> int | None:
        """The page drawn at a place, by its number."""
        for number in range(1, len(self.session.publication.pages) + 1):
            if self.page_area(number).adjusted(0, 0, 0, 34).contains(at):
                return number
        return None

    def _gap_at(self, at: QPointF) -> int:
        """The place (0 is before page 1) nearest to the pointer."""
        best, least = 0, float("inf")
        for number in range(1, len(self.session.publication.pages) + 1):
            area = self.page_area(number)
            for gap, x in ((number - 1, area.left()), (number, area.right())):
                distance = abs(at.x() - x) + 3 * abs(at.y() - area.center().y())
                if distance < least:
                    best, least = gap, distance
        return best

    def _most(self) -> float:
        rows = (len(spreads_of(self.session.publication)) - 1) // self._per_row() + 1
        return max(0.0, TOP + rows * PITCH_Y - self.height())

    def refresh(self) -> None:
        count = len(self.session.publication.pages)
        self.chosen = {n for n in self.chosen if n <= count} or {min(self.session.view.page, count)}
        self.offset = min(self.offset, self._most())
        self._bands = bands(self.session.publication)
        self.update()

    # Keys and mouse -----------------------------------------------------------------------------

    def _choose(self, number: int, extend: bool = False) -> None:
        number = min(max(number, 1), len(self.session.publication.pages))
        self.chosen = set(range(min(*self.chosen, number), max(*self.chosen, number) + 1)) if extend else {number}
        area = self.page_area(number)
        if area.top() < TOP:
            self.offset = max(0.0, self.offset - (TOP - area.top()))
        elif area.bottom() + 40 > self.height():
            self.offset = min(self._most(), self.offset + area.bottom() + 40 - self.height())
        self.session.view.go_to(number)
        self.moved.emit()
        self.update()

    def _move(self, by: int) -> None:
        first, last = min(self.chosen), max(self.chosen)
        to = first - 1 + by if by < 0 else last + by
        if not 0 <= to <= len(self.session.publication.pages):
            return
        self._move_to(to, first + by)

    def _move_to(self, to: int, first: int) -> None:
        indices = [n - 1 for n in sorted(self.chosen)]
        count = len(indices)
        if self.session.edit(lambda p: move_pages(p, indices, to), "moved pages"):
            self.chosen = set(range(first, first + count))
            self.moved.emit()
            self.update()

    def remove(self) -> None:
        """The chosen pages out of the order; what lay on them waits."""
        indices = [n - 1 for n in sorted(self.chosen)]
        self.session.edit(lambda p: remove_pages(p, indices), "removed pages")

    def _double(self) -> None:
        """Copies of the chosen pages right after them, chosen."""
        numbers = sorted(self.chosen)
        made: tuple[int, ...] = ()

        def make(publication: Publication) -> Publication:
            nonlocal made
            publication, made = double_pages(publication, numbers)
            return publication

        if self.session.edit(make, "doubled pages"):
            self.choose_all(made)

    def choose_all(self, numbers: Iterable[int]) -> None:
        """Have those pages chosen, and the first of them in view; none leaves what is chosen."""
        chosen = set(numbers)
        if chosen:
            self._choose(min(chosen), False)
            self.chosen = chosen
            self.moved.emit()
            self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, held = event.key(), event.modifiers()
        steps = {
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Up: -2 * self._per_row(),
            Qt.Key.Key_Down: 2 * self._per_row(),
        }
        if key in steps and held & Qt.KeyboardModifier.AltModifier:
            self._move(1 if steps[Qt.Key(key)] > 0 else -1)
        elif key in steps:
            from_page = max(self.chosen) if steps[Qt.Key(key)] > 0 else min(self.chosen)
            self._choose(from_page + steps[Qt.Key(key)], bool(held & Qt.KeyboardModifier.ShiftModifier))
        elif key == Qt.Key.Key_N:
            at = max(self.chosen)
            self.session.edit(lambda p: add_pages(p, at, 2), "two new pages")
        elif key == Qt.Key.Key_D and held & Qt.KeyboardModifier.ControlModifier:
            self._double()
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.entered.emit()
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        number = self.page_at(event.position())
        self._pressed = number
        if number is not None and not (number in self.chosen and len(self.chosen) > 1):
            self._choose(number, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._pressed is not None and event.buttons() & Qt.MouseButton.LeftButton:
            if self.page_at(event.position()) != self._pressed:
                self._drop = self._gap_at(event.position())
            self.update()

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        drop, self._drop, self._pressed = self._drop, None, None
        if drop is not None:
            before = sum(n <= drop for n in self.chosen)
            self._move_to(drop, drop - before + 1)
        self.update()

    def mouseDoubleClickEvent(self, _event: QMouseEvent | None) -> None:
        self.entered.emit()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self.offset = min(max(self.offset - event.angleDelta().y() / 2, 0.0), self._most())
        self.update()

    # Painting -----------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        for index, page in enumerate(self.session.publication.pages):
            area = self.page_area(index + 1)
            if -PITCH_Y < area.top() < self.height():
                self._paint_page(painter, index + 1, page, area)
        if self._drop is not None:
            self._paint_marker(painter, self._drop)

    def _paint_page(self, painter: QPainter, number: int, page: Page, area: QRectF) -> None:
        self._paint_band(painter, number, area)
        painter.fillRect(area.translated(2, 2), QColor(0, 0, 0, 22))
        painter.fillRect(area, QColor("white"))
        image = self.thumbnails.get(spread_index(self.session.publication, number))
        is_laid = number in pages_laid(self.session.publication)
        if is_laid and image is not None:
            both = len(spread_of(self.session.publication, number).numbers) == 2
            half = image.width() / (2 if both else 1)
            source = QRectF(half if both and on_right(self.session.publication, number) else 0, 0, half, image.height())
            painter.drawImage(area, image, source)
        elif not is_laid:
            painter.setFont(tokens.font(tokens.SMALL))
            painter.setPen(tokens.colour(tokens.QUIET))
            words = page.runs or "empty"
            painter.drawText(
                area.adjusted(5, 4, -5, -4), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, words
            )
        painter.setPen(QPen(tokens.colour("#8F8D88"), 0.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area)
        under = QRectF(area.left() - 4, area.bottom() + 4, area.width() + 8, 15)
        painter.setFont(tokens.font(12, tokens.BOLD if number in self.chosen else tokens.MEDIUM))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(under, Qt.AlignmentFlag.AlignCenter, str(number))
        painter.setFont(tokens.font(tokens.SMALL))
        words = painter.fontMetrics().elidedText(
            self._state(number, page), Qt.TextElideMode.ElideRight, int(under.width())
        )
        painter.drawText(under.translated(0, 14), Qt.AlignmentFlag.AlignCenter, words)
        if number in self.chosen:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 2.5 if self.hasFocus() else 1.5))
            painter.drawRect(area.adjusted(-2, -2, 2, 2))

    def _state(self, number: int, page: Page) -> str:
        """State in a word, and how much of it is sold."""
        state = page_state(self.session.publication, number - 1)
        return f"{state}, {AD_WORDS[page.advert]}" if page.advert else state

    def _paint_band(self, painter: QPainter, number: int, area: QRectF) -> None:
        """The section's band over its pages, its name over the first."""
        if number not in self._bands:
            return
        index, section = self._bands[number]
        painter.fillRect(QRectF(area.left(), area.top() - 9, area.width(), 4), tokens.colour(BANDS[index % len(BANDS)]))
        if self.session.publication.pages[number - 1].id == section.first:
            painter.setFont(tokens.font(tokens.SMALL, tokens.MEDIUM))
            painter.setPen(tokens.colour(tokens.INK))
            painter.drawText(QPointF(area.left(), area.top() - 12), section.name)

    def _paint_marker(self, painter: QPainter, gap: int) -> None:
        area = self.page_area(gap + 1) if gap < len(self.session.publication.pages) else self.page_area(gap)
        x = area.left() if gap < len(self.session.publication.pages) else area.right()
        painter.setPen(QPen(tokens.colour(tokens.LODEN), 4))
        painter.drawLine(QPointF(x, area.top() - 6), QPointF(x, area.bottom() + 6))
