"""Picking an ink from what is seen: a circle at the pointer, what lies in it beside it; a click takes it."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPen, QWheelEvent

from half_fold.core.legibility.picking import Picked, add_picked, in_words, pick, use_picked
from half_fold.core.measure.length import format_length
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.desk.beside.newest import Answered, StillWanted
from half_fold.desk.kit.ink_chip import chip
from half_fold.desk.stations.spreads.tools.tool import Tool, resize_brush
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

SAID = "Click what has the ink; the wheel makes the circle larger. Shift+click keeps it as a new one. Esc leaves it."
LEAST, BEGUN, MOST = 1.0, 3.0, 60.0  # points across
SWATCH = 34  # pixels
CHIP = QSize(22, 12)
WIDE, LINE, PAD, OFF = 224, 18, 8, 18  # pixels of the card beside the pointer, and how far off it stands


class Picker(Tool):
    """Shows what the circle has while it moves; what is clicked is the ink of what is chosen, or goes into the list."""

    def __init__(self, bench: Worktop) -> None:
        super().__init__(bench)
        self.across = BEGUN
        self.found: Picked | None = None
        self._then: Qt.KeyboardModifier | None = None  # that was clicked with, while the ink there is being read
        self.reads = Answered()
        self.reads.answered.connect(self._came)

    def take_up(self) -> None:
        """Begin, whatever is chosen."""
        self.work, self.block, self.found, self._then = "pick", self.bench.session.view.block or "", None, None
        self.bench.session.noted.emit(SAID)
        self.bench.setCursor(Qt.CursorShape.CrossCursor)
        if self.bench.pointer is not None:
            self.move(self.bench.pointer)

    def put_down(self) -> None:
        """Pick no more."""
        self.work, self.found, self._then = "", None, None
        self.reads.cancel()
        self.bench.unsetCursor()
        self.bench.update()

    # Mouse and keys -----------------------------------------------------------------------------

    def press(self, at: QPointF, held: Qt.KeyboardModifier) -> None:
        """Take what lies there, as soon as it is read."""
        self._then = held
        self._read(at)

    def move(self, at: QPointF) -> None:
        """Read what lies there now."""
        if self._then is None:
            self._read(at)

    def release(self, _at: QPointF) -> None:
        """It was taken when it was pressed."""

    def close(self) -> None:
        """Take what lies under the pointer."""
        if self.bench.pointer is not None:
            self.press(self.bench.pointer, Qt.KeyboardModifier.NoModifier)

    def wheel(self, event: QWheelEvent) -> None:
        """A larger circle, or a smaller one."""
        self._resized(self.across * 1.25 ** (event.angleDelta().y() / 120))

    def own_key(self, event: QKeyEvent) -> bool:
        """Whether a key makes the circle larger or smaller."""
        made = resize_brush(self.across, event, LEAST, MOST)
        if made is not None:
            self._resized(made)
        return made is not None

    def _resized(self, across: float) -> None:
        self.across = min(max(across, LEAST), MOST)
        if self.bench.pointer is not None:
            self.move(self.bench.pointer)
        self.bench.update()

    def _read(self, at: QPointF) -> None:
        session = self.bench.session
        sheet, marks = session.sheet(Setter()), session.marks()
        place, radius = self.bench.to_points(at), self.across / 2

        def work(_still_wanted: StillWanted) -> object:
            return pick(sheet, place, radius, marks)

        self.reads.begin(work)

    def _came(self, found: Picked) -> None:
        held, self.found = self._then, found
        if held is not None:
            self._take(found, anew=bool(held & Qt.KeyboardModifier.ShiftModifier))
        self.bench.update()

    def _take(self, found: Picked, *, anew: bool) -> None:
        session, self._then = self.bench.session, None
        names = session.view.chosen

        def make(publication: Publication) -> Publication:
            return use_picked(publication, found, names, anew=anew)

        before = session.publication
        if not session.edit(make, "ink picked"):
            return
        added = session.publication.inks is not before.inks
        _, name, tint = add_picked(before, found, anew=anew)
        tinted = name if tint >= 100 else f"{name} at {tint:g} %"
        said = f"“{tinted}” is in the ink list" if added else f"{tinted}, of the ink list"
        session.noted.emit(f"{said}, and the ink of what is chosen." if names else f"{said}.")
        self.put_down()

    # Painting -----------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """The circle, and beside it what lies in it with the nearest inks of the list."""
        at = self.bench.pointer
        if not self.work or at is None:
            return
        radius = max(self.across * self.bench.scale() / 2, 2.0)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, wide in ((QColor("white"), 3.0), (tokens.colour(tokens.INK), 1.25)):
            painter.setPen(QPen(colour, wide))
            painter.drawEllipse(at, radius, radius)
        if self.found is not None:
            self._paint_card(painter, self._card(at, radius), self.found)

    def _card(self, at: QPointF, radius: float) -> QRectF:
        """Where the card stands: to the right of the pointer and under it, or where there is room."""
        high = 2 * PAD + SWATCH + (LINE * len(self.found.near) if self.found is not None else 0)
        room, off = self.bench.rect(), radius + OFF
        x = at.x() + off if at.x() + off + WIDE < room.right() else at.x() - off - WIDE
        y = at.y() + off if at.y() + off + high < room.bottom() else at.y() - off - high
        return QRectF(x, y, WIDE, high)

    def _paint_card(self, painter: QPainter, area: QRectF, found: Picked) -> None:
        publication = self.bench.session.publication
        painter.fillRect(area, tokens.colour(tokens.CARD))
        painter.setPen(QPen(tokens.colour(tokens.LINE), 1))
        painter.drawRect(area)
        left, top = area.left() + PAD, area.top() + PAD
        name = found.name or found.ink.name
        shown = publication if found.name else add_picked(publication, found)[0] if not found.is_bare else publication
        painter.drawPixmap(QPointF(left, top), chip(shown, name, QSize(SWATCH, SWATCH - 6)))
        words = QRectF(left + SWATCH + PAD, top - 3, WIDE - SWATCH - 3 * PAD, LINE)
        painter.setPen(tokens.colour(tokens.INK))
        painter.setFont(tokens.font(tokens.SMALL, tokens.MEDIUM))
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, in_words(found))
        painter.setPen(tokens.colour(tokens.QUIET))
        painter.setFont(tokens.font(tokens.SMALL))
        circle = f"mean of {format_length(self.across, self.bench.session.unit)}"
        painter.drawText(words.translated(0, LINE - 2), Qt.AlignmentFlag.AlignVCenter, circle)
        for at, near in enumerate(found.near):
            y = top + SWATCH + LINE * at
            painter.drawPixmap(QPointF(left, y + 3), chip(publication, near.name, CHIP))
            row = QRectF(left + CHIP.width() + PAD, y, WIDE - CHIP.width() - 3 * PAD, LINE)
            painter.drawText(row, Qt.AlignmentFlag.AlignVCenter, near.name)
            painter.drawText(row, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, f"{near.difference:g}")
