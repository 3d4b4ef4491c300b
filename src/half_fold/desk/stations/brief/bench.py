"""The working drawing: the closed copy, the plot of its spine, and the cover laid flat with its dimensions.

A dimension that can be set is typed on the drawing, or dragged; any other opens its working.
"""

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import QLineEdit, QWidget

from half_fold.core.apart.flat import Flat
from half_fold.core.brief.allowances import trim_height, trim_width
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.spine import copy_thickness
from half_fold.core.cover.template import Lettered, WorkingDrawing, working_drawing
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted, figure, in_unit
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.settings import set_value
from half_fold.core.publication.records import Publication
from half_fold.desk.paint.painter import paint
from half_fold.desk.session import Session
from half_fold.desk.stations.brief.plot import SpinePlot
from half_fold.desk.theme import tokens

LETTERS_PX = 12.0
MOST_PASSES, NEAR = 4, 0.02
PAUSE_MS = 90
STEPS = {"in": 1 / 32, "pt": 1.0, "px": 1.0}  # of a dimension that is dragged; half a unit of any other


class _Figure(QLineEdit):
    """A value typed on the drawing: it follows each keystroke that makes sense; Escape takes all of it back."""

    def __init__(self, bench: "BriefBench", lettered: Lettered, typed: str) -> None:
        super().__init__(typed, bench)
        self.bench, self.key, self.before = bench, lettered.dimension.edits, bench.session.publication
        self.setFont(tokens.font(tokens.BASE, tokens.MEDIUM))
        self.setAccessibleName(lettered.dimension.words)
        self.selectAll()
        self.textEdited.connect(self._follow)

    def _follow(self, text: str) -> None:
        self.bench.follow(self.key, text)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            if self.bench.session.publication is not self.before:
                self.bench.session.undo()
            self.bench.close_figure()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self.bench.take(self.key, self.text()):
                self.bench.close_figure()
        else:
            super().keyPressEvent(event)


class BriefBench(QWidget):
    """``opened`` names the number whose working is wanted."""

    opened = pyqtSignal(str)

    def __init__(self, session: Session, wanted: Callable[[], float | None]) -> None:
        super().__init__()
        self.session, self.wanted = session, wanted
        self.plot = SpinePlot()
        self.figure: _Figure | None = None
        self._letters = 20.0
        self._drawn: tuple[tuple[object, ...], WorkingDrawing, float, QPointF] | None = None
        self._cover: tuple[tuple[Publication, float, float, int], QPixmap] | None = None
        self._paused = False
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(PAUSE_MS)
        self._pause.timeout.connect(self._at_pause)
        self._front: tuple[tuple[int, int, int], QPixmap] | None = None
        self._dragged: tuple[Lettered, QPointF, float] | None = None
        self.chosen = 0
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Working drawing")

    # Geometry -----------------------------------------------------------------------------------

    def _areas(self) -> tuple[QRectF, QRectF, QRectF]:
        """Closed copy, plot, flat."""
        area = QRectF(self.rect()).adjusted(28, 20, -28, -16)
        if not self._is_bound():
            return QRectF(), QRectF(), area.adjusted(0, 0, 0, -24)
        upper = area.height() * 0.4
        half = area.width() * 0.46
        return (
            QRectF(area.left(), area.top(), half, upper),
            QRectF(area.left() + half + 20, area.top(), area.width() - half - 20, upper),
            QRectF(area.left(), area.top() + upper + 14, area.width(), area.height() - upper - 14),
        )

    def _is_bound(self) -> bool:
        return binding_named(self.session.publication.brief.binding).bound

    def drawing(self) -> tuple[WorkingDrawing, float, QPointF]:
        """The drawing, pixels to the point, and where its origin lies. Problem for a job without a cover."""
        publication = self.session.publication
        key = (id(publication), self.width(), self.height())
        if self._drawn is None or self._drawn[0] != key:
            area = self._areas()[2]
            composer = self.session.setter.composer
            for _ in range(MOST_PASSES):  # letters of a size in pixels: their lanes change the scale, and it them
                made = working_drawing(composer, publication, self._letters, over=True)
                whole = made.drawing.area
                scale = min(area.width() / whole.width, area.height() / whole.height)
                before, self._letters = self._letters, LETTERS_PX / scale
                if abs(self._letters - before) < NEAR * before:
                    break
            origin = area.center() - QPointF(*whole.centre) * scale
            self._drawn = (key, made, scale, origin)
        return self._drawn[1:]

    def area_of(self, lettered: Lettered) -> QRectF:
        """Where a dimension's words lie on the widget."""
        _, scale, origin = self.drawing()
        rect = lettered.words_at
        left, top = origin.x() + rect.left * scale, origin.y() + rect.top * scale
        return QRectF(left, top, rect.width * scale, rect.height * scale).adjusted(-6, -4, 6, 4)

    def lettered_at(self, at: QPointF) -> Lettered | None:
        """The dimension lettered at a place, if any."""
        try:
            return next((placed for placed in self.drawing()[0].lettered if self.area_of(placed).contains(at)), None)
        except Problem:
            return None

    # Setting values -----------------------------------------------------------------------------

    def follow(self, key: str, text: str) -> None:
        """Draw what is being typed, where it makes sense already."""
        try:
            set_value(self.session.publication, key, text)
        except Problem:
            return
        self.session.edit(lambda p: set_value(p, key, text), f"{key} on the drawing", f"drawing {key}")

    def take(self, key: str, text: str) -> bool:
        """Set a dimension as it was typed on the drawing; whether it was taken."""
        done = self.session.edit(lambda p: set_value(p, key, text), f"{key} on the drawing", f"drawing {key}")
        self.session.history.pause()
        return done

    def open_figure(self, lettered: Lettered) -> None:
        """Type on a dimension, or open the working of one that is computed."""
        dimension = lettered.dimension
        if not dimension.edits:
            self.opened.emit(dimension.key)
            return
        self.close_figure()
        self.session.history.pause()
        self.figure = _Figure(self, lettered, _typed(self.session.publication, dimension.edits))
        area = self.area_of(lettered)
        self.figure.setGeometry(round(area.center().x() - 45), round(area.center().y() - 13), 90, 26)
        self.figure.show()
        self.figure.setFocus()

    def close_figure(self) -> None:
        """Take the field away in which a dimension is typed."""
        if self.figure is not None:
            gone, self.figure = self.figure, None
            self.session.history.pause()
            gone.deleteLater()
            self.setFocus()

    # Mouse and keys -----------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.close_figure()
        found = self.lettered_at(event.position())
        if found is not None:
            key = found.dimension.edits
            size = _size(self.session.publication, key) if key else 0.0
            self._dragged = (found, event.position(), size)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._dragged is None or not self._dragged[0].dimension.edits:
            self.setCursor(
                Qt.CursorShape.PointingHandCursor if self.lettered_at(event.position()) else Qt.CursorShape.ArrowCursor
            )
            return
        lettered, start, size = self._dragged
        moved = event.position() - start
        along = -moved.y() if lettered.dimension.down else moved.x()
        if abs(along) < 4:
            return
        unit = self.session.unit
        step = STEPS.get(unit, 0.5)
        value = round((in_unit(size + along / self.drawing()[1], unit)) / step) * step
        self.follow(lettered.dimension.edits, f"{figure(max(step, value), 4)}{unit}")

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        dragged, self._dragged = self._dragged, None
        self.session.history.pause()
        if dragged is not None and (event.position() - dragged[1]).manhattanLength() < 4:
            self.open_figure(dragged[0])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        try:
            every = self.drawing()[0].lettered
        except Problem:
            every = ()
        steps = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1}
        if event.key() in steps and every:
            self.chosen = (self.chosen + steps[Qt.Key(event.key())]) % len(every)
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and every:
            self.open_figure(every[self.chosen % len(every)])
        else:
            super().keyPressEvent(event)

    # Painting -----------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), tokens.colour(tokens.SURROUND))
        copy, plot, flat = self._areas()
        publication = self.session.publication
        if self._is_bound():
            self.plot.paint(painter, plot, publication, self.wanted())
        try:
            drawn, scale, origin = self.drawing()
        except Problem as problem:
            painter.setFont(tokens.font(tokens.SECTION))
            painter.setPen(tokens.colour(tokens.INK))
            painter.drawText(flat, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, str(problem))
            self._closed_copy(painter, copy, None)
            return
        if self._is_bound():
            self._closed_copy(painter, copy, drawn.flat)
        sheet = drawn.flat.trim.grown(drawn.flat.bleed)
        left, top = origin.x() + sheet.left * scale, origin.y() + sheet.top * scale
        painter.fillRect(QRectF(left + 3, top + 3, sheet.width * scale, sheet.height * scale), QColor(0, 0, 0, 26))
        pixmap = self._cover_pixmap(drawn.flat, scale)
        target = QRectF(left, top, sheet.width * scale, sheet.height * scale)
        painter.drawPixmap(target, pixmap, QRectF(pixmap.rect()))
        painter.save()
        painter.translate(origin)
        painter.scale(scale, scale)
        paint(painter, drawn.drawing, self.session.proxies.image)
        painter.restore()
        if self.hasFocus() and drawn.lettered:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.area_of(drawn.lettered[self.chosen % len(drawn.lettered)]))

    def _cover_pixmap(self, flat: Flat, scale: float) -> QPixmap:
        """The cover's own marks. While values change the earlier ones stand in; a pause makes them anew."""
        publication, ratio = self.session.publication, self.devicePixelRatioF()
        key = (publication, scale, ratio, self.session.proxies.seen)
        kept = self._cover
        if kept is not None and kept[0][0] is publication and kept[0][1:] == key[1:]:
            return kept[1]
        if kept is not None and not self._paused:
            self._pause.start()
            return kept[1]
        self._paused = False
        pixmap = self._drawn_cover(flat, scale, ratio)
        self._cover = (key, pixmap)
        return pixmap

    def _drawn_cover(self, flat: Flat, scale: float, ratio: float) -> QPixmap:
        sheet = flat.trim.grown(flat.bleed)
        pixmap = QPixmap(max(1, round(sheet.width * scale * ratio)), max(1, round(sheet.height * scale * ratio)))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(QColor("white"))
        painter = QPainter(pixmap)
        painter.scale(scale, scale)
        painter.translate(-sheet.left, -sheet.top)
        paint(painter, self.session.covers.piece(self.session.publication), self.session.proxies.image)
        painter.end()
        return pixmap

    def _at_pause(self) -> None:
        self._paused = True
        self.update()

    def size_words(self) -> str:
        """The closed copy in figures, in the job's own unit."""
        publication, unit = self.session.publication, self.session.unit
        sizes = [measure(publication).to(unit) for measure in (trim_width, trim_height, copy_thickness)]
        return f"{sizes[0].number} × {sizes[1].number} × {sizes[2].text}, {counted(len(publication.pages), 'page')}"

    def _closed_copy(self, painter: QPainter, area: QRectF, flat: Flat | None) -> None:
        """The closed copy seen a little from the fore edge: front, block of leaves and head."""
        publication = self.session.publication
        brief = publication.brief
        thick = copy_thickness(publication).value * MM
        size = flat.front if flat is not None else Rect(0, 0, brief.width.pt, brief.height.pt)
        scale = min((area.height() - 40) / (size.height + thick * 0.4), (area.width() - 10) / (size.width + thick))
        width, height = size.width * scale, size.height * scale
        depth = max(2.0, thick * scale)
        left, top = area.center().x() - (width + depth) / 2, area.top() + depth * 0.4 + 2
        for spread, strength in ((9, 10), (6, 14), (3, 20)):
            painter.fillRect(
                QRectF(left + 6, top + 8, width + depth + spread, height - 8 + spread / 2), QColor(0, 0, 0, strength)
            )
        front = QRectF(left, top, width, height)
        painter.fillRect(front, QColor("white"))
        if flat is not None:
            _, at, _ = self.drawing()
            pixmap = self._cover_pixmap(flat, at)
            sheet = flat.trim.grown(flat.bleed)
            across, down = pixmap.width() / sheet.width, pixmap.height() / sheet.height
            left_of, top_of = (size.left - sheet.left) * across, (size.top - sheet.top) * down
            source = QRectF(left_of, top_of, size.width * across, size.height * down)
            ratio = self.devicePixelRatioF()
            key = (pixmap.cacheKey(), round(width * ratio), round(height * ratio))
            if self._front is None or self._front[0] != key:
                smooth = Qt.TransformationMode.SmoothTransformation
                ignore = Qt.AspectRatioMode.IgnoreAspectRatio
                self._front = (key, pixmap.copy(source.toRect()).scaled(key[1], key[2], ignore, smooth))
            painter.drawPixmap(front, self._front[1], QRectF(self._front[1].rect()))
        painter.setBrush(QColor("#F3F1EA"))
        painter.setPen(QPen(tokens.colour(tokens.INK), 0.8))
        rise = depth * 0.4
        for corners in (
            ((width, 0), (width + depth, -rise), (width + depth, height - rise), (width, height)),
            ((0, 0), (depth, -rise), (width + depth, -rise), (width, 0)),
        ):
            painter.drawPolygon(QPolygonF([QPointF(left + x, top + y) for x, y in corners]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(front)
        words = self.size_words()
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(tokens.INK))
        painter.drawText(QRectF(area.left(), top + height + 8, area.width(), 20), Qt.AlignmentFlag.AlignHCenter, words)


_FIELDS = {"trim.width": "width", "trim.height": "height", "bleed": "bleed", "flap": "flap"}


def _typed(publication: Publication, key: str) -> str:
    """What was typed for a value of the brief that a dimension sets."""
    value = getattr(publication.brief, _FIELDS[key])
    return value.typed if value is not None else ""


def _size(publication: Publication, key: str) -> float:
    """The same in points."""
    value = getattr(publication.brief, _FIELDS[key])
    return value.pt if value is not None else 0.0
