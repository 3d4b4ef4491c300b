"""What lies here: the things of the spread as slips of paper, seen from the front one to the back one."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import (
    QColor,
    QFocusEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QTransform,
    QWheelEvent,
)
from PyQt6.QtWidgets import QAbstractScrollArea, QFrame, QLineEdit

from half_fold.core.drawing.marks import DisplayList
from half_fold.core.publication.records import Group, Thing
from half_fold.core.publication.surgery import page_of_thing, things_around
from half_fold.core.spread.edits.grouping import name_thing, put_at
from half_fold.core.spread.settable.called import called
from half_fold.core.spread.where.frames import thing_hull, things_on
from half_fold.desk.paint.painter import paint
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

if TYPE_CHECKING:
    from half_fold.desk.stations.spreads.tools.several import Several

WIDE, HIGH = 130.0, 120.0
STEP = 114.0  # from slip to slip: each lies a little under the one in front of it
MARGIN, DROP = 14.0, 5.0
LEFT = WIDE - STEP + 5  # from where what is on a slip can be seen
PICTURE = QRectF(LEFT, 8, WIDE - LEFT - 7, 66)
DRAG_FROM = 6


class Slips(QAbstractScrollArea):
    """Slips in a row; the bench's letters work here too, and a slip that is dragged changes its place in the order."""

    def __init__(self, session: Workpiece) -> None:
        super().__init__()
        self.session = session
        self.several: Several | None = None  # the bench's, which does what keys ask for
        self._images: dict[str, tuple[object, object, QImage]] = {}
        self._held: tuple[str, QPointF] | None = None
        self._to: int | None = None
        self.editor: QLineEdit | None = None
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("What lies here")
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def sizeHint(self) -> QSize:
        return QSize(400, round(HIGH + 2 * MARGIN))

    # What lies where ----------------------------------------------------------------------------

    def things(self) -> list[tuple[int, Thing]]:
        """(page number, thing) from the front one to the back one; in a group that was entered, its members."""
        session = self.session
        if session.view.inside and session.view.chosen:
            *_, group, thing = things_around(session.publication, session.view.chosen[-1])
            number = page_of_thing(session.publication, thing.id)[0] + 1
            members = group.members if isinstance(group, Group) else ()
            return [(number, member) for member in reversed(members)]
        return list(reversed(list(things_on(session.publication, session.view.spread))))

    def _place(self, at: int) -> QRectF:
        bar = self.horizontalScrollBar()
        off = bar.value() if bar is not None else 0
        return QRectF(MARGIN + at * STEP - off, MARGIN / 2 + (at % 2) * DROP, WIDE, HIGH)

    def _at(self, place: QPointF) -> int | None:
        count = len(self.things())
        return next((at for at in range(count) if self._place(at).contains(place)), None)

    def refresh(self) -> None:
        """Show the things as they are now, and the chosen one in view."""
        things, port, bar = self.things(), self.viewport(), self.horizontalScrollBar()
        assert port is not None and bar is not None
        bar.setRange(0, max(0, round(2 * MARGIN + len(things) * STEP + WIDE - STEP) - port.width()))
        bar.setPageStep(port.width())
        names = [thing.id for _, thing in things]
        last = self.session.view.chosen[-1] if self.session.view.chosen else ""
        self.setAccessibleDescription(self._words(things[names.index(last)][1]) if last in names else "nothing chosen")
        port.update()

    def _words(self, thing: Thing) -> str:
        """A slip in words: what it is called, and how it is kept."""
        states = [word for word, on in (("locked", thing.locked), ("hidden", self._is_hidden(thing))) if on]
        return ", ".join([called(self.session.publication, thing), *states])

    def _is_hidden(self, thing: Thing) -> bool:
        return thing.id in self.session.view.hidden

    # Painting -----------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        port = self.viewport()
        painter = QPainter(port)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        things = self.things()
        if not things:
            painter.setPen(tokens.colour(tokens.QUIET))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "Nothing lies here yet: claim fields first.")
            return
        for at in reversed(range(len(things))):
            area = self._place(at)
            if area.right() > 0 and area.left() < self.width():
                self._paint_slip(painter, area, *things[at])
        if self._to is not None:
            x = self._place(self._to).left() - 4
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 3))
            painter.drawLine(QPointF(x, 4), QPointF(x, HIGH + 8))

    def _paint_slip(self, painter: QPainter, area: QRectF, number: int, thing: Thing) -> None:
        chosen, hidden = thing.id in self.session.view.chosen, self._is_hidden(thing)
        painter.fillRect(area.translated(1.5, 2.5), QColor(0, 0, 0, 46))
        painter.fillRect(area, tokens.colour(tokens.CARD))
        painter.setPen(QPen(tokens.colour(tokens.LODEN), 2.5) if chosen else QPen(QColor(0, 0, 0, 60), 1))
        painter.drawRect(area)
        spot = PICTURE.translated(area.topLeft())
        image = self._image(number, thing)
        painter.setOpacity(0.25 if hidden else 1.0)
        painter.drawImage(spot, image)
        painter.setOpacity(1.0)
        painter.setFont(tokens.font(tokens.SMALL))
        painter.setPen(tokens.colour(tokens.QUIET if hidden else tokens.INK))
        words = QRectF(area.left() + LEFT, spot.bottom() + 3, PICTURE.width(), 28)
        painter.drawText(words, Qt.TextFlag.TextWordWrap.value, called(self.session.publication, thing))
        states = [word for word, on in (("locked", thing.locked), ("hidden", hidden)) if on]
        painter.setPen(tokens.colour(tokens.OCHRE_TEXT if states else tokens.QUIET))
        state = QRectF(area.left() + LEFT, area.bottom() - 15, PICTURE.width(), 13)
        painter.fillRect(state.adjusted(0, -1, 0, 0), tokens.colour(tokens.CARD))
        painter.drawText(state, Qt.AlignmentFlag.AlignVCenter, ", ".join(states) or f"page {number}")

    def _image(self, number: int, thing: Thing) -> QImage:
        """The thing itself, small; kept as long as it and the place it is in stay the same."""
        session, ratio = self.session, self.devicePixelRatioF()
        marks = session.marks()
        known = self._images.get(thing.id)
        if known is not None and known[0] is thing and known[1] is marks:
            return known[2]
        image = QImage((PICTURE.size() * ratio).toSize(), QImage.Format.Format_RGB32)
        image.setDevicePixelRatio(ratio)
        image.fill(QColor("white"))
        hull = thing_hull(session.publication, number, thing)
        scale = min(PICTURE.width() / max(hull.width, 1), PICTURE.height() / max(hull.height, 1)) * 0.96
        x, y = hull.centre
        painter = QPainter(image)
        painter.setTransform(
            QTransform.fromTranslate(PICTURE.width() / 2 - x * scale, PICTURE.height() / 2 - y * scale).scale(
                scale, scale
            )
        )
        drawn = DisplayList(hull, tuple(session.setter.thing_marks(session.publication, number, thing)))
        paint(painter, drawn, session.proxies.image)
        painter.end()
        if len(self._images) > 300:
            self._images.clear()
        self._images[thing.id] = (thing, marks, image)
        return image

    # Mouse --------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        at = self._at(event.position())
        if at is None:
            self.session.view.select(None)
            return
        name = self.things()[at][1].id
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.session.view.add_or_drop(name)
        else:
            self.session.view.select(name)
        self._held = name, event.position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._held is None or not event.buttons() & Qt.MouseButton.LeftButton:
            return
        if (event.position() - self._held[1]).manhattanLength() > DRAG_FROM:
            bar = self.horizontalScrollBar()
            off = bar.value() if bar is not None else 0
            at = round((event.position().x() + off - MARGIN) / STEP)
            self._to = min(max(at, 0), len(self.things()))
            self.viewport().update()  # type: ignore[union-attr]  # a scroll area has one

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        held, to = self._held, self._to
        self._held = self._to = None
        if held is not None and to is not None:
            self._reorder(held[0], to)
        self.viewport().update()  # type: ignore[union-attr]  # a scroll area has one

    def _reorder(self, name: str, to: int) -> None:
        """The slip before the one that is now the ``to``-th from the front."""
        names = [thing.id for _, thing in self.things()]
        behind = [each for each in names[to:] if each != name]
        self.session.edit(lambda p: put_at(p, name, behind[0] if behind else ""), "changed the order")

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        at = self._at(event.position())
        if at is not None:
            self.begin_naming(self.things()[at][1].id)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        bar, by = self.horizontalScrollBar(), event.angleDelta()
        assert bar is not None
        bar.setValue(bar.value() - round((by.y() or by.x()) / 120 * STEP))

    # Keys ---------------------------------------------------------------------------------------

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, held = event.key(), event.modifiers()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self._go(1 if key == Qt.Key.Key_Right else -1, bool(held & Qt.KeyboardModifier.ShiftModifier))
        elif key == Qt.Key.Key_F2 and self.session.view.chosen:
            self.begin_naming(self.session.view.chosen[-1])
        elif self.several is None or not self.several.key(event):
            super().keyPressEvent(event)

    def _go(self, step: int, adding: bool) -> None:
        names = [thing.id for _, thing in self.things()]
        last = self.session.view.chosen[-1] if self.session.view.chosen else ""
        at = names.index(last) + step if last in names else 0
        if 0 <= at < len(names):
            if adding:
                self.session.view.choose([*(each for each in self.session.view.chosen if each != names[at]), names[at]])
            else:
                self.session.view.select(names[at])
            bar, place = self.horizontalScrollBar(), self._place(at)
            if bar is not None and not 0 <= place.left() <= self.width() - WIDE:
                bar.setValue(round(bar.value() + place.left() - MARGIN))

    # Names --------------------------------------------------------------------------------------

    def begin_naming(self, name: str) -> None:
        """Type what a thing is called, on its slip."""
        names = [thing.id for _, thing in self.things()]
        if name not in names:
            return
        thing = self.things()[names.index(name)][1]
        area = self._place(names.index(name))
        editor = self.editor = QLineEdit(thing.name, self.viewport())
        editor.setAccessibleName("What it is called")
        editor.setPlaceholderText("call it")
        editor.setGeometry(round(area.left()), round(area.top() + 76), round(WIDE), 26)
        editor.returnPressed.connect(lambda: self._name(name, editor.text()))
        editor.editingFinished.connect(self.end_naming)
        editor.show()
        editor.setFocus()
        editor.selectAll()

    def _name(self, name: str, text: str) -> None:
        self.session.edit(lambda p: name_thing(p, name, text), "named it")

    def end_naming(self) -> None:
        """Put the field away."""
        if self.editor is not None:
            editor, self.editor = self.editor, None
            editor.hide()
            editor.deleteLater()
            self.setFocus()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.refresh()
