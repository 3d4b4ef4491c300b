"""The bench: a spread in its true proportion with the aids drawn our way, shared by Grid and Spreads."""

from PyQt6.QtCore import QEvent, QPointF, QRect, QRectF, QSizeF, Qt
from PyQt6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QWheelEvent,
)

from half_fold.core.drawing.changes import bounds, changed_area, within
from half_fold.core.drawing.marks import DisplayList, PictureMark, leaves
from half_fold.core.measure.entry import unit_name
from half_fold.core.measure.length import figure, in_unit
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import profile_for
from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.plan.sections import paper_of_page
from half_fold.core.publication.surgery import master_of
from half_fold.desk.paint.clipped import clipped
from half_fold.desk.paint.painter import paint, paint_on_paper
from half_fold.desk.stations.aided_bench import AidedBench
from half_fold.desk.stations.viewing import STEP
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

LOUPE = 260


class Bench(AidedBench):
    """Draws the session's spread; the drawn content is kept until the display list or the scale changes."""

    def __init__(self, session: Workpiece) -> None:
        super().__init__(session)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.as_trimmed, self.as_it_came = False, False
        self.show_content, self.on_paper, self.shows_clipped, self.is_split = True, False, False, False
        self._kept_before: tuple[DisplayList, tuple[object, ...], QPixmap] | None = None
        self.pointer: QPointF | None = None
        self._kept: tuple[DisplayList, tuple[object, ...], QPixmap] | None = None
        self.shows_loupe = False
        self._kept_ground: tuple[tuple[object, ...], tuple[object, ...], QPixmap] | None = None
        session.proxies.ready.connect(self._picture_came)

    def _picture_came(self, content: str) -> None:
        """Draw again where that picture lies, and nowhere else."""
        if self._kept is None or not self.isVisible():
            self._kept = None  # it is drawn as a whole when it is seen again
            return
        marks, _, pixmap = self._kept
        self._kept_before = None
        if self.on_paper:
            self._kept = None
            self.update()
            return
        known = self.session.proxies.pictures
        for mark in leaves(marks.marks):
            name = parse_drawn_key(mark.picture)[0] if isinstance(mark, PictureMark) else ""
            if name in known and known[name].digest == content:
                self.update(self._draw_area(pixmap, marks, bounds(mark)))

    # Painting -----------------------------------------------------------------------------------

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawPixmap(0, 0, self._ground())
        if self.as_trimmed:
            self.paint_content(painter, self.paper())
            self._paint_fold_shade(painter)
            return
        if self.show_content:
            self.paint_content(painter, self.paper().grown(self.session.publication.brief.bleed.pt))
        self._paint_edges(painter)
        if self.show_baselines:
            self._paint_baselines(painter)
        self.paint_over(painter)
        if self.shows_loupe:
            self._paint_loupe(painter)

    def _ground(self) -> QPixmap:
        """Surround, paper, bleed and fields; kept, since typing and dragging leave them as they are."""
        publication, ratio = self.session.publication, self.devicePixelRatioF()
        held = (publication.brief, publication.masters, publication.roles, *self.ground_follows())
        shown = (self.session.view.spread, self.as_trimmed, self.show_fields)
        scale, origin = self._fitted()
        place = (self.width(), self.height(), scale, origin.x(), origin.y())
        key = (*place, ratio, *map(id, held), shown)
        if self._kept_ground is None or self._kept_ground[0] != key:
            pixmap = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
            pixmap.setDevicePixelRatio(ratio)
            pixmap.fill(tokens.colour(tokens.SURROUND))
            painter = QPainter(pixmap)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self.paint_paper(painter)
            if not self.as_trimmed:
                self._paint_bleed(painter)
                if self.show_fields:
                    self._paint_fields(painter)
                for _, frame in self.frames():
                    self._paint_ticks(painter, frame)
                    self._paint_guides(painter, frame)
            painter.end()
            self._kept_ground = (key, held, pixmap)
        return self._kept_ground[2]

    def ground_follows(self) -> tuple[object, ...]:
        """The records that fields and margins follow from, besides brief and type sheet."""
        publication, spread = self.session.publication, self.session.view.spread
        return tuple(master_of(publication, publication.pages[number - 1]) for number in spread.numbers)

    def paint_over(self, painter: QPainter) -> None:
        """What a station draws over the spread."""

    def paint_paper(self, painter: QPainter) -> None:
        """The sheets with their shadow, before anything is laid on them."""
        for area in map(self.to_widget, self.sheets()):
            for depth, strength in ((6, 10), (4, 14), (2, 20)):
                painter.fillRect(area.adjusted(-1, 2, depth, depth), QColor(0, 0, 0, strength))
            painter.fillRect(area, QColor("white"))

    def _content(self) -> QPixmap:
        marks = self.session.marks()
        (scale, origin), ratio = self._fitted(), self.devicePixelRatioF()
        key = (
            scale,
            origin.x(),
            origin.y(),
            ratio,
            self.width(),
            self.height(),
            self.as_it_came,
            self.on_paper,
            self.shows_clipped,
        )
        is_other = self._kept is not None and self.on_paper and self._kept[0] is not marks
        if self._kept is None or self._kept[1] != key or is_other:
            self._kept = (marks, key, self._drawn(marks, scale, origin, self.width(), self.height()))
        elif self._kept[0] is not marks:
            area = changed_area(self._kept[0], marks)
            if area is not None:
                self._draw_area(self._kept[2], marks, area)
            self._kept = (marks, key, self._kept[2])
        return self._kept[2]

    def _draw_area(self, pixmap: QPixmap, marks: DisplayList, area: Rect) -> QRect:
        """Draw an area again into what was drawn before, and give it in pixels; an edit of a line leaves most alone."""
        scale, origin = self._fitted()
        dirty = self.to_widget(area).adjusted(-2, -2, 2, 2).toAlignedRect()
        reach = Rect(
            (dirty.left() - origin.x()) / scale,
            (dirty.top() - origin.y()) / scale,
            (dirty.right() + 1 - origin.x()) / scale,
            (dirty.bottom() + 1 - origin.y()) / scale,
        )
        painter = QPainter(pixmap)
        painter.setClipRect(dirty)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Clear)
        painter.fillRect(dirty, Qt.GlobalColor.transparent)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceOver)
        painter.translate(origin)
        painter.scale(scale, scale)
        paint(painter, within(marks, reach), self._image)
        painter.end()
        return dirty

    def _drawn(self, marks: DisplayList, scale: float, origin: QPointF, width: int, height: int) -> QPixmap:
        """The marks on a clear ground of that many pixels."""
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(max(1, round(width * ratio)), max(1, round(height * ratio)))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.translate(origin)
        painter.scale(scale, scale)
        if self.on_paper:
            paint_on_paper(painter, marks, self._sheet(), self._image, self._press_profile())
        else:
            paint(painter, marks, self._image)
        painter.end()
        return pixmap

    def paper_name(self) -> str:
        """What it is printed on."""
        return paper_of_page(self.session.publication, self.session.view.spread.numbers[0])

    def _press_profile(self) -> bytes:
        return profile_for(self.session.publication, self.paper_name())

    def show_clipped(self) -> None:
        """Whites and blacks without detail marked, or no longer."""
        self.shows_clipped = not self.shows_clipped
        words = "Without detail: whites in red, blacks in green; J shows them as they are"
        self.session.noted.emit(words if self.shows_clipped else "Whites and blacks as they are")
        self.update()

    def show_split(self) -> None:
        """Pictures as they came to the left of the pointer, as they are treated to its right; or no longer."""
        self.is_split = not self.is_split
        words = "To the left of the pointer as it came, to the right as it is treated; Shift+E ends it"
        self.session.noted.emit(words if self.is_split else "As treated")
        self.update()

    def show_on_paper(self) -> None:
        """As it will look in print, or again as it is designed."""
        self.on_paper = not self.on_paper
        words = f"As printed on {self.paper_name()}: its white, its inks, overprints; Q shows it as before"
        self.session.noted.emit(words if self.on_paper else "As designed, on white")
        self.update()

    def _image(self, picture: str, width: float) -> QImage | None:
        """A picture as it is treated, or as it came while that is asked for."""
        image = self.session.proxies.image(parse_drawn_key(picture)[0] if self.as_it_came else picture, width)
        return clipped(image) if image is not None and self.shows_clipped else image

    def paint_content(self, painter: QPainter, clip: Rect) -> None:
        """What is laid on the spread, inside ``clip`` (points)."""
        painter.save()
        painter.setClipRect(self.to_widget(clip))
        content, x = self._content(), self.pointer.x() if self.is_split and self.pointer is not None else 0.0
        if x > 0:
            self._paint_before(painter, x)
            painter.setClipRect(QRectF(x, 0, self.width() - x, self.height()), Qt.ClipOperation.IntersectClip)
        painter.drawPixmap(0, 0, content)
        painter.restore()

    def _paint_before(self, painter: QPainter, x: float) -> None:
        """To the left of a line all pictures as they came."""
        marks, key = self.session.marks(), self._kept[1] if self._kept is not None else ()
        if self._kept_before is None or self._kept_before[0] is not marks or self._kept_before[1] != key:
            scale, origin = self._fitted()
            self.as_it_came = True
            try:
                self._kept_before = marks, key, self._drawn(marks, scale, origin, self.width(), self.height())
            finally:
                self.as_it_came = False
        painter.save()
        painter.setClipRect(QRectF(0, 0, x, self.height()), Qt.ClipOperation.IntersectClip)
        painter.drawPixmap(0, 0, self._kept_before[2])
        painter.setPen(QPen(tokens.colour(tokens.LODEN), 2))
        painter.drawLine(QPointF(x - 1, 0), QPointF(x - 1, self.height()))
        painter.restore()

    def _paint_loupe(self, painter: QPainter) -> None:
        """What is under the pointer at the size it is printed."""
        if self.pointer is None:
            return
        x, y = self.to_points(self.pointer)
        scale = self.true_scale()
        middle = QPointF(LOUPE / 2, LOUPE / 2)
        marks = self.session.marks()
        drawn = self._drawn(marks, scale, middle - QPointF(x, y) * scale, LOUPE, LOUPE)
        area = QRectF(self.pointer - middle, QSizeF(LOUPE, LOUPE))
        painter.fillRect(area, QColor("white"))
        painter.drawPixmap(area.topLeft(), drawn)
        painter.setPen(QPen(tokens.colour(tokens.INK), 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area)

    # Keys held ----------------------------------------------------------------------------------

    def event(self, event: QEvent | None) -> bool:
        """B shows full baselines, T the loupe, as long as they are held."""
        ways = (QEvent.Type.KeyPress, QEvent.Type.KeyRelease)
        if isinstance(event, QKeyEvent) and event.type() in ways and event.key() in (Qt.Key.Key_B, Qt.Key.Key_T):
            on = event.type() == QEvent.Type.KeyPress or event.isAutoRepeat()
            if event.key() == Qt.Key.Key_B:
                self.show_baselines = on
            else:
                self.shows_loupe = on
            self.update()
            return True
        return super().event(event)

    def view_key(self, event: QKeyEvent) -> bool:
        """V goes to the next view, + and - closer and farther; True where the key was one of them."""
        middle = self.pointer or QPointF(self.width() / 2, self.height() / 2)
        if event.text().upper() == "V":
            self.session.noted.emit(f"View: {self.viewing.next(self.selection_box() is not None)}")
        elif event.text() in ("+", "-"):
            self.viewing.zoom(self._fitted(), middle, STEP if event.text() == "+" else 1 / STEP)
        else:
            return False
        self.update()
        return True

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """The wheel moves over the spread; with Ctrl it goes closer and farther."""
        assert event is not None
        turn = event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.viewing.zoom(self._fitted(), event.position(), STEP ** (turn.y() / 120))
        elif self.viewing.is_free or self.viewing.name != "spread":
            self.viewing.pan(self._fitted(), QPointF(turn.x(), turn.y()) / 2)
        self.update()

    # Words --------------------------------------------------------------------------------------

    def position_words(self) -> str:
        """The pointer from the trim and from the fold, in the job's unit."""
        words = self.session.spread_words
        if self.pointer is None:
            return words
        x, y = self.to_points(self.pointer)
        frame, unit = self.frame_at(x), self.session.unit
        edge = frame.trim.right if frame.on_right else frame.trim.left
        decimals = 3 if unit == "in" else 1
        trim, fold, head = (figure(in_unit(size, unit), decimals) for size in (abs(x - edge), abs(x - frame.fold), y))
        other = f"   {fold} from fold" if frame.has_fold else ""
        return f"{words}   {trim} {unit_name(unit)} from trim{other}   {head} from head"
