"""The picture drawer: the job's pictures, to be chosen and put into blocks."""

from bisect import bisect_left

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QFrame, QSizePolicy

from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length_roughly
from half_fold.core.numbers.blocks import printed_well
from half_fold.core.pictures.library.choosing import Order, Show, chosen, value_pictures
from half_fold.core.pictures.library.stacks import format_stacks, stacks
from half_fold.core.publication.records import Picture, Worth
from half_fold.core.publication.surgery import page_of_block
from half_fold.core.publication.used import format_picture
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.beside.teller import Teller
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

THUMB_HEIGHT, NARROWEST, WIDEST, GAP, MARGIN = 78, 76.0, 190.0, 16, 8
LINE = 15  # of the words under a picture
ROW = THUMB_HEIGHT + 2 * LINE + GAP
WHEEL_STEP = 90
IN_STACKS = ("one of each", "alike")  # where what is near to what is said
WORTH_KEYS: dict[str, Worth] = {"1": "opens", "2": "carries", "3": "fills", "0": "left out", "-": ""}


class PictureDrawer(QAbstractScrollArea):
    """Pictures in a row, or in rows where there is room; under each its name, and how wide it prints well."""

    placed = pyqtSignal(str)
    grows = pyqtSignal()  # it is asked to be taller
    arranges = pyqtSignal()  # what is chosen is to be arranged

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session
        self.chosen: str | None = None
        self.gathered: tuple[str, ...] = ()  # all that are chosen, in that order, the one above the last
        self.order: Order = "arrival"
        self.show_only: Show = "all"
        self.search = ""
        self.teller = Teller()
        self.teller.came.connect(self.refresh)
        self._chosen: tuple[tuple[Picture, ...], tuple[object, ...], tuple[Picture, ...]] | None = None
        self._said: dict[str, str] = {}  # of the pictures that have near duplicates
        self._first: set[str] = set()  # the sharpest of each stack
        self._laid: tuple[tuple[Picture, ...], tuple[int, int], list[QRectF]] | None = None
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Picture drawer")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        session.proxies.ready.connect(self._picture_came)

    def sizeHint(self) -> QSize:
        return QSize(400, ROW + MARGIN)

    # What lies where ----------------------------------------------------------------------------

    def places(self) -> list[QRectF]:
        """Where each picture lies, before anything is scrolled: the same as long as pictures and room are."""
        pictures, port = self.pictures(), self._port()
        room = port.width(), port.height()
        if self._laid is None or self._laid[0] is not pictures or self._laid[1] != room:
            self._laid = pictures, room, self._lay_out(pictures)
        return self._laid[2]

    def pictures(self) -> tuple[Picture, ...]:
        """Those that are asked for, in that order; the same as long as nothing that they follow from changes."""
        every = self.session.pictures
        used = self.used() if self.show_only == "unused" else set()
        follows = (self.order, self.show_only, self.search, frozenset(used), len(self.teller.told), self._room_chosen())
        if self._chosen is None or self._chosen[0] is not every or self._chosen[1] != follows:
            plain = (self.order, self.show_only, self.search) == ("arrival", "all", "")
            found = every if plain else tuple(self._found(every, used))
            self._chosen = every, follows, found
            kept = [picture for picture in every if picture.worth != "left out"]
            gathered = stacks(kept, self.teller.told) if self.show_only in IN_STACKS else []
            self._said = format_stacks(gathered, self.teller.told)
            self._first = {stack[0].id for stack in gathered}
        return self._chosen[2]

    def _found(self, every: tuple[Picture, ...], used: set[str]) -> list[Picture]:
        room = self._room_chosen()
        return chosen(
            every, self.teller.told, used, self.order, self.show_only, self.search,
            lambda picture: room > 0 and printed_well(self.session.publication, picture) < room,
        )  # fmt: skip

    def _room_chosen(self) -> float:
        """How wide the block that is chosen is, in millimetres: what is too small for it can be asked for."""
        if self.show_only != "too small" or self.session.view.block is None:
            return 0.0
        index, _, block = page_of_block(self.session.publication, self.session.view.block)
        return block_box(self.session.publication, index + 1, block).width / MM

    def _port(self) -> QSize:
        port = self.viewport()
        assert port is not None
        return port.size()

    def _lay_out(self, pictures: tuple[Picture, ...]) -> list[QRectF]:
        port = self._port()
        in_rows = port.height() >= 2 * ROW
        out, x, y = [], float(MARGIN), float(MARGIN)
        for picture in pictures:
            wide = min(WIDEST, max(NARROWEST, THUMB_HEIGHT * picture.width / picture.height))
            ends = x + wide > port.width() - MARGIN or (self.show_only == "alike" and picture.id in self._first)
            if in_rows and x > MARGIN and ends:
                x, y = float(MARGIN), y + ROW
            out.append(QRectF(x, y, wide, THUMB_HEIGHT))
            x += wide + GAP
        across, down = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across is not None and down is not None
        across.setRange(0, 0 if in_rows or not out else max(0, round(out[-1].right() + MARGIN) - port.width()))
        down.setRange(0, max(0, round(out[-1].top() + ROW) - port.height()) if in_rows and out else 0)
        across.setPageStep(port.width())
        down.setPageStep(port.height())
        return out

    def _scrolled(self) -> QPointF:
        across, down = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across is not None and down is not None
        return QPointF(across.value(), down.value())

    def _in_view(self) -> list[tuple[Picture, QRectF]]:
        """The pictures that are seen now, and where."""
        places, off, port = self.places(), self._scrolled(), self._port()
        pictures = self.pictures()
        if not places:
            return []
        shown = QRectF(off, QPointF(off.x() + port.width(), off.y() + port.height()))
        if places[-1].top() > MARGIN:  # in rows
            first = bisect_left(places, shown.top(), key=lambda place: place.top() + ROW)
            last = bisect_left(places, shown.bottom(), key=lambda place: place.top())
        else:
            first = bisect_left(places, shown.left(), key=lambda place: place.right())
            last = bisect_left(places, shown.right(), key=lambda place: place.left())
        return [(pictures[at], places[at].translated(-off)) for at in range(first, last)]

    def used(self) -> set[str]:
        """The pictures that are laid somewhere, by id."""
        return self.session.used_pictures()

    def chosen_or_first_free(self) -> str | None:
        """The picture chosen here, else the first that is not used, else the first."""
        known = [picture.id for picture in self.pictures()]
        if self.chosen in known:
            return self.chosen
        used = self.used()
        return next((p for p in known if p not in used), known[0] if known else None)

    # Painting -----------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the pictures as they are now."""
        if self.isVisible() and (self.order, self.search, self.show_only in IN_STACKS) != ("arrival", "", False):
            self.teller.ask(self.session.proxies.folder, self.session.pictures)
        self.places()
        self._repaint()

    def _repaint(self) -> None:
        port = self.viewport()
        assert port is not None
        port.update()

    def _picture_came(self, content: str) -> None:
        port = self.viewport()
        assert port is not None
        for picture, area in self._in_view() if self.isVisible() else ():
            if picture.digest == content:
                port.update(area.toAlignedRect())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.places()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        port = self.viewport()
        assert port is not None
        painter = QPainter(port)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(port.rect(), tokens.colour(tokens.SHELF))
        painter.setFont(tokens.font(tokens.SMALL))
        used, shown = self.used(), self._in_view()
        if not shown:
            painter.setPen(tokens.colour(tokens.INK))
            words = "No pictures yet. Bring some in with the button above, or drop them here."
            if self.session.pictures:
                words = "None of the pictures is asked for; show others, or search for something else."
                if self.show_only in IN_STACKS and self.teller.busy:
                    words = (
                        "The pictures are being looked at for the first time; what is alike shows when that is done."
                    )
            painter.drawText(port.rect(), Qt.AlignmentFlag.AlignCenter, words)
        for picture, area in shown:
            self._paint_picture(painter, picture, area, picture.id in used)

    def _paint_picture(self, painter: QPainter, picture: Picture, area: QRectF, used: bool) -> None:
        drawn = _inside(area, picture.width / picture.height)
        image = self.session.proxies.image(picture.id, drawn.width() * self.devicePixelRatioF())
        if image is not None:
            painter.drawImage(drawn, image)
        else:
            painter.fillRect(drawn, tokens.colour(tokens.CARD))
        if picture.id in self.gathered:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 3 if picture.id == self.chosen else 2))
            painter.drawRect(drawn.adjusted(-2, -2, 2, 2))
        under = QRectF(area.left(), area.bottom() + 3, area.width() + GAP - 8, LINE)
        name = painter.fontMetrics().elidedText(
            format_picture(picture), Qt.TextElideMode.ElideMiddle, int(under.width())
        )
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(under, Qt.AlignmentFlag.AlignLeft, name)
        painter.setPen(tokens.colour(tokens.QUIET))
        well = length_roughly(printed_well(self.session.publication, picture) * MM, self.session.unit)
        wide = "outlines" if picture.art else well
        said = ", ".join(filter(None, (picture.worth, self._said.get(picture.id, wide), "used" if used else "")))
        said = painter.fontMetrics().elidedText(said, Qt.TextElideMode.ElideRight, int(under.width()))
        painter.drawText(under.translated(0, LINE), Qt.AlignmentFlag.AlignLeft, said)

    # Mouse and keys -----------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        hit = next((p.id for p, area in self._in_view() if area.contains(event.position())), None)
        held = event.modifiers()
        if hit is not None and held & Qt.KeyboardModifier.ControlModifier:
            self.add_or_drop(hit)
        elif hit is not None and held & Qt.KeyboardModifier.ShiftModifier and self.chosen is not None:
            self.choose_to(hit)
        else:
            self.choose(hit)

    def mouseDoubleClickEvent(self, _event: QMouseEvent | None) -> None:
        if self.chosen is not None:
            self.placed.emit(self.chosen)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """The wheel goes along the row, whichever way it turns."""
        assert event is not None
        across, down = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across is not None and down is not None
        turn = event.angleDelta()
        by = turn.y() or turn.x()
        bar = down if down.maximum() else across
        bar.setValue(bar.value() - round(by / 120 * WHEEL_STEP))
        event.accept()

    def choose(self, picture: str | None) -> None:
        """Choose a picture, to be placed or to read its working."""
        self._choose(() if picture is None else (picture,))

    def add_or_drop(self, picture: str) -> None:
        """Choose a picture as well, or no longer."""
        rest = tuple(each for each in self.gathered if each != picture)
        self._choose(rest if picture in self.gathered else (*rest, picture))

    def choose_to(self, picture: str) -> None:
        """Choose as well all from the last chosen to one."""
        known = [each.id for each in self.pictures()]
        if self.chosen in known and picture in known:
            start, end = known.index(self.chosen), known.index(picture)
            way = known[start : end + 1] if end >= start else known[end : start + 1][::-1]
            self._choose((*(each for each in self.gathered if each not in way), *way))

    def _choose(self, pictures: tuple[str, ...]) -> None:
        self.gathered, self.chosen = pictures, pictures[-1] if pictures else None
        self.session.view.selected.emit()
        self._repaint()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        known = [picture.id for picture in self.pictures()]
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Home: -len(known), Qt.Key.Key_End: len(known)}
        if event.key() in steps and known:
            step = steps[Qt.Key(event.key())]
            at = known.index(self.chosen) + step if self.chosen in known else max(0, step - 1)
            at = min(max(at, 0), len(known) - 1)
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier and self.chosen in known:
                self.choose_to(known[at])
            else:
                self.choose(known[at])
            self._bring_into_view(self.places()[at])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.chosen is not None:
            self.placed.emit(self.chosen)
        elif event.text().upper() == "I":
            self.grows.emit()
        elif event.text().upper() == "Y":
            self.arranges.emit()
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier and event.key() == Qt.Key.Key_A:
            self._choose(tuple(known))
        elif event.text() in WORTH_KEYS and self.chosen in known:
            self._value(self.chosen or "", WORTH_KEYS[event.text()])
        else:
            event.ignore()

    def _value(self, picture: str, worth: Worth) -> None:
        """What a picture is worth; the next is chosen then, so that a batch is gone through by one key each."""
        known = [each.id for each in self.pictures()]
        at = known.index(picture)
        if self.session.edit(lambda p: value_pictures(p, picture, worth), f"a picture {worth or 'of no worth said'}"):
            after = [each.id for each in self.pictures()]
            if after:
                self.choose(after[min(at + (picture in after), len(after) - 1)])

    def _bring_into_view(self, place: QRectF) -> None:
        across, down = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across is not None and down is not None
        port = self._port()
        left, right = round(place.left()) - MARGIN, round(place.right()) + MARGIN - port.width()
        across.setValue(min(max(across.value(), right), left))
        top, bottom = round(place.top()) - MARGIN, round(place.top()) + ROW - port.height()
        down.setValue(min(max(down.value(), bottom), top))


def _inside(area: QRectF, shape: float) -> QRectF:
    """The largest rectangle of a shape (width to height) in an area, standing on its foot."""
    wide = min(area.width(), area.height() * shape)
    high = wide / shape
    return QRectF(area.left(), area.bottom() - high, wide, high)
