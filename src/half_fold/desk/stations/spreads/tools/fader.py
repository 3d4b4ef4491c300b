"""The fader: a fade drawn as a line over what is chosen, its ends and its stops dragged, inks dropped on them."""

import math

from PyQt6.QtCore import QPoint, QPointF, QSize, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPen

from half_fold.core.publication.records import Fade, Publication
from half_fold.core.publication.surgery import is_free, page_of_block
from half_fold.core.spread.edits.fading import (
    Change,
    Share,
    add_stop,
    change_fade,
    draw_fade,
    drop_stop,
    fade_of,
    move_stop,
    reverse_fade,
    turn_outward,
    with_stop,
)
from half_fold.core.spread.settable.light_properties import FADES
from half_fold.core.spread.where.frames import block_box, turn_of
from half_fold.desk.kit.ink_chip import InkList, chip
from half_fold.desk.stations.aided_bench import label_pill
from half_fold.desk.stations.spreads.tools.tool import Tool
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

SAID = (
    "Drag a line over it. Drag its ends and its stops, double click for one more; I its ink, + and - how opaque, "
    "X the other way, O outward, Delete takes a stop away. Enter leaves it."
)
NOTHING_FIRST = "Choose words, a panel or a picture first, one that is not locked; then draw a fade over it."
GRAB = 9.0  # pixels
SWATCH = QSize(14, 14)
STEP = 10.0  # per cent of opacity that a key adds or takes
ACROSS: tuple[Share, Share] = ((0.0, 0.5), (1.0, 0.5))
START, END = -2, -1  # what is held of the line, besides its stops by their numbers


class Fader(Tool):
    """Works on the block that is chosen while it has ``work``; ``stop`` is the one that keys change."""

    def __init__(self, bench: Worktop) -> None:
        super().__init__(bench)
        self.stop = 0
        self.inks: InkList | None = None
        self._held: int | None = None
        self._drawn_from: Share | None = None

    def take_up(self) -> bool:
        """Begin over the block that is chosen; whether a fade can lie on it."""
        session = self.bench.session
        name = session.view.block
        found = page_of_block(session.publication, name)[2] if name is not None else None
        if found is None or not is_free(session.publication, found.id) or not isinstance(found.holds, FADES):
            session.said.emit(NOTHING_FIRST)
            return False
        self.work, self.block, self.stop = "fade", found.id, 0
        session.history.pause()
        session.noted.emit(SAID)
        self.bench.setCursor(Qt.CursorShape.CrossCursor)
        self.bench.update()
        return True

    def put_down(self) -> None:
        """Leave it as it is now."""
        self.work, self._held, self._drawn_from = "", None, None
        self.bench.session.history.pause()
        self.bench.unsetCursor()
        self.bench.update()

    def close(self) -> None:
        """It is as it should be."""
        self.put_down()

    # Where it lies ------------------------------------------------------------------------------

    @property
    def _fade(self) -> Fade | None:
        return fade_of(self.bench.session.publication, self.block)

    def _share_at(self, at: QPointF) -> Share:
        """A place of the bench as shares of the block."""
        publication = self.bench.session.publication
        index, _, block = page_of_block(publication, self.block)
        box, turn = block_box(publication, index + 1, block), turn_of(publication, index + 1, block)
        x, y = self.bench.to_points(at)
        if turn is not None:
            x, y = turn.inverse().of(x, y)
        return (x - box.left) / box.width, (y - box.top) / box.height

    def _at(self, share: Share) -> QPointF:
        """Where on the bench a share of the block lies."""
        publication = self.bench.session.publication
        index, _, block = page_of_block(publication, self.block)
        box, turn = block_box(publication, index + 1, block), turn_of(publication, index + 1, block)
        place = box.left + share[0] * box.width, box.top + share[1] * box.height
        return self.bench.from_points(place if turn is None else turn.of(*place))

    def _ends(self, fade: Fade) -> tuple[QPointF, QPointF]:
        start, end = fade.line or ACROSS
        return self._at(start), self._at(end)

    def stop_places(self) -> list[QPointF]:
        """Where on the bench the stops lie."""
        fade = self._fade
        if fade is None:
            return []
        start, end = self._ends(fade)
        return [start + (end - start) * (stop.at / 100) for stop in fade.stops]

    def _held_at(self, at: QPointF) -> int | None:
        """What a press there takes hold of: an end of the line before a stop that lies on it."""
        fade = self._fade
        if fade is None:
            return None
        places = self.stop_places()
        inner = [(each, number) for number, each in enumerate(places) if 0 < number < len(places) - 1]
        ends = zip(self._ends(fade), (START, END), strict=True)
        outer = [(places[0], 0), (places[-1], len(places) - 1)]
        for place, what in (*inner, *ends, *outer):
            if (place - at).manhattanLength() <= GRAB:
                return what
        return None

    # Mouse and keys -----------------------------------------------------------------------------

    def press(self, at: QPointF, _held: Qt.KeyboardModifier) -> None:
        """Take hold of an end or a stop, or begin a line."""
        self._held = self._held_at(at)
        fade = self._fade
        if self._held is None:
            self._drawn_from = self._share_at(at)
        elif fade is not None:
            self.stop = {START: 0, END: len(fade.stops) - 1}.get(self._held, self._held)
        self.bench.update()

    def move(self, at: QPointF) -> None:
        """With the pointer."""
        fade, share = self._fade, self._share_at(at)
        if self._drawn_from is not None:
            self._draw(self._drawn_from, share)
        elif self._held is not None and fade is not None:
            start, end = fade.line or ACROSS
            if self._held in (START, END):
                self._draw(*((share, end) if self._held == START else (start, share)))
            else:
                way, number = self._way(fade, at), self._held
                self._change(lambda fade: move_stop(fade, number, way))

    def _way(self, fade: Fade, at: QPointF) -> float:
        """How far along the line a place lies, in per cent."""
        start, end = self._ends(fade)
        along, to = end - start, at - start
        return 100 * (to.x() * along.x() + to.y() * along.y()) / max(1e-6, along.x() ** 2 + along.y() ** 2)

    def release(self, _at: QPointF) -> None:
        """Let go of it."""
        self._held, self._drawn_from = None, None
        self.bench.session.history.pause()

    def double(self, at: tuple[float, float]) -> None:
        """One more stop where the line is nearest."""
        fade = self._fade
        if fade is not None:
            way = min(max(self._way(fade, self.bench.from_points(at)), 0.0), 100.0)
            self._change(lambda fade: add_stop(fade, way))

    def own_key(self, event: QKeyEvent) -> bool:
        """Whether a key changes the fade or its stop."""
        fade, letter = self._fade, event.text().upper()
        if fade is None:
            return False
        number = min(self.stop, len(fade.stops) - 1)
        stop = fade.stops[number]
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.stop = (number + (1 if event.key() == Qt.Key.Key_Right else -1)) % len(fade.stops)
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self._change(lambda fade: drop_stop(fade, number))
        elif letter == "X":
            self._change(reverse_fade)
        elif letter == "O":
            self._change(turn_outward)
        elif letter == "I":
            self._ask_ink(number)
        elif event.text() in ("+", "-") and event.text():
            opacity = min(max(stop.opacity + (STEP if event.text() == "+" else -STEP), 0.0), 100.0)
            self._change(lambda fade: with_stop(fade, number, opacity=opacity))
        else:
            return False
        return True

    def _ask_ink(self, number: int) -> None:
        """Choose the ink of a stop from the list, at it."""
        fade, publication = self._fade, self.bench.session.publication
        assert fade is not None
        names = [(ink.name, ink.name) for ink in publication.inks]

        def take(name: str) -> None:
            self._change(lambda fade: with_stop(fade, number, ink=name, opacity=max(fade.stops[number].opacity, 10.0)))
            self.bench.setFocus()

        widget = self.bench.as_widget()
        self.inks = InkList(widget, publication, names, fade.stops[number].ink, take)
        self.inks.open_at(widget.mapToGlobal(self.stop_places()[number].toPoint() + QPoint(10, 10)))

    def _draw(self, start: Share, end: Share) -> None:
        if math.dist(start, end) < 0.01:
            return
        block = self.block
        self.bench.session.edit(lambda p: draw_fade(p, block, start, end), "fade drawn", f"fade {block}")

    def _change(self, change: Change) -> None:
        block = self.block

        def make(publication: Publication) -> Publication:
            return change_fade(publication, block, change)

        self.bench.session.edit(make, "fade changed", f"fade stop {block}" if self._held is not None else "")

    # Painting -----------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """The line with its stops, each in its ink, the chosen one ringed."""
        fade = self._fade if self.work else None
        if fade is None:
            return
        start, end = self._ends(fade)
        for colour, wide in ((QColor("white"), 3.5), (tokens.colour(tokens.LODEN), 1.5)):
            painter.setPen(QPen(colour, wide))
            painter.drawLine(start, end)
            for each in (start, end):
                painter.drawEllipse(each, 5, 5)
        publication, number = self.bench.session.publication, min(self.stop, len(fade.stops) - 1)
        for at, (place, stop) in enumerate(zip(self.stop_places(), fade.stops, strict=True)):
            corner = place - QPointF(SWATCH.width() / 2, SWATCH.height() / 2)
            painter.drawPixmap(corner, chip(publication, stop.ink, SWATCH))
            painter.setPen(QPen(tokens.colour(tokens.LODEN) if at == number else QColor("white"), 2))
            painter.drawRect(int(corner.x()), int(corner.y()), SWATCH.width(), SWATCH.height())
        stop = fade.stops[number]
        opaque = f", {stop.opacity:g} % opaque" if stop.opacity < 100 else ""
        label_pill(painter, self.stop_places()[number] + QPointF(0, 22), f"{stop.ink} at {stop.at:g} %{opaque}")
