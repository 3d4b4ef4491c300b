"""The marker: what is drawn on a picture in its block. Lines made level or upright, areas kept clear, points, parts
that are treated by themselves, and stray things painted away."""

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QImage, QKeyEvent, QPainter, QPen, QPolygonF, QTransform

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import (
    Block,
    Brushed,
    Drawn,
    HoldsPicture,
    Patch,
    Picture,
    PicturePoint,
    Publication,
    Region,
)
from half_fold.core.publication.surgery import block_named, picture_of
from half_fold.core.spread.framing.painting import Brush, Dab, paint_part, paint_seen, painted_mask
from half_fold.core.spread.framing.retouching import (
    BRUSH,
    colour_there,
    keep_area_clear,
    let_area_go,
    level_picture,
    make_upright,
    oval_in,
    patch_for,
    show_in,
    slope_along,
    with_part,
    with_patch,
    with_point,
)
from half_fold.core.spread.setting.developed import stated_treatment
from half_fold.desk.beside.newest import Answered, StillWanted
from half_fold.desk.stations.spreads.tools.clear_paint import paint_clear
from half_fold.desk.stations.spreads.tools.tool import Tool, paint_brush, resize_brush
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

Points = list[PicturePoint]
CLICK = 4  # pixels: what was dragged less was clicked
LEAST_BRUSH, MOST_BRUSH = 0.004, 0.3
PAINTS = ("W", "A")  # the ways in which a mask is painted
SHOWS = ("by what it does", "as a veil", "alone")
VEIL, VEIL_COLOUR = 120, (31, 51, 152)  # of 255: how thick the veil is, and its blue, green and red


class Way(NamedTuple):
    """One way to draw: the key that takes it up, what it is called, how the hand moves, and what is said of it."""

    key: str
    name: str
    hand: str  # "line", "box", "click" or "stroke"
    said: str
    stays: bool = False  # whether it goes on until it is put down


PAINTED = " Alt takes away; + - size, , . softness, 1 to 0 strength, X shows it. Enter ends."
PART = " Then set it in its rows; with Shift only that is shown."
WAYS = {
    way.key: way
    for way in (
        Way("H", "Level", "line", "Drag along the horizon, or along what stands upright."),
        Way("U", "Upright", "line", "Drag along one thing that stands upright, and then along another."),
        Way("K", "Keep clear", "box", "Drag over what is not to be cut or covered; a click lets one go.", True),
        Way("P", "Name a point", "click", "Click a point: the eyes first. Its name is in the rows.", True),
        Way("M", "Mend", "stroke", "Paint over what is to go. + and - size the brush.", True),
        Way("S", "Part: a slope", "line", "Drag from where nothing is done to where all is." + PART),
        Way("O", "Part: an oval", "box", "Drag a box; the oval in it is softened inwards." + PART),
        Way("D", "Part: an outline", "stroke", "Draw round it." + PART),
        Way("W", "Part: by brush", "stroke", "Paint it; N begins another part." + PAINTED, True),
        Way("A", "Seen: by brush", "stroke", "Paint what is to be seen." + PAINTED, True),
        Way("C", "Part: a colour", "click", "Click the colour." + PART),
    )
}


class Marker(Tool):
    """Draws on the picture that is chosen while it has ``work``: the key of its way."""

    def __init__(self, bench: Worktop) -> None:
        super().__init__(bench)
        self.brush, self.soft, self.strength = BRUSH, 0.5, 1.0
        self._way: list[QPointF] = []
        self._lines: list[tuple[PicturePoint, PicturePoint]] = []
        self._pressed: list[float] = []  # how hard, at each place of the way
        self._shift, self._away = False, False
        self._part_at, self.shows = 0, SHOWS[0]
        self._to_mend: list[tuple[str, Points]] = []  # strokes in the order they were made, the first being worked on
        self.mender = Answered()
        self.mender.answered.connect(self._mended)
        self.mender.failed.connect(self._not_mended)

    def take_up(self, key: str) -> bool:
        """Begin that way on the picture that is chosen; whether there is a photograph."""
        session = self.bench.session
        found = self.bench.picture_chosen("it can be drawn on")
        if found is None:
            return False
        assert isinstance(found.holds, HoldsPicture)
        if picture_of(session.publication, found.holds.picture).art:
            session.said.emit("That is a drawing; what is drawn on pictures is for photographs.")
            return False
        self.work, self.block = key, found.id
        self._way, self._lines = [], []
        self._part_at = self._brushed_part(found)
        session.noted.emit(WAYS[key].said)
        self.bench.setCursor(Qt.CursorShape.CrossCursor)
        self.bench.setFocus()
        self.bench.update()
        return True

    def put_down(self) -> None:
        """Draw no more."""
        self.work, self._way, self._lines = "", [], []
        self.bench.session.history.pause()
        self.bench.unsetCursor()
        self.bench.update()

    def close(self) -> None:
        """What was begun is finished."""
        self.put_down()

    def _brushed_part(self, block: Block) -> int:
        """Which part a stroke goes on with: the last that was brushed, or one more."""
        treatment = stated_treatment(self.bench.session.publication, block)
        areas = treatment.areas if treatment is not None else ()
        return next((at for at in reversed(range(len(areas))) if isinstance(areas[at].where, Brushed)), len(areas))

    # Mouse and keys -----------------------------------------------------------------------------------------------

    def press(self, at: QPointF, held: Qt.KeyboardModifier) -> None:
        """Where it begins."""
        self._way, self._shift = [at], bool(held & Qt.KeyboardModifier.ShiftModifier)
        self._pressed, self._away = [self.bench.pressure], bool(held & Qt.KeyboardModifier.AltModifier)

    def move(self, at: QPointF) -> None:
        """On to there."""
        if self._way:
            self._way.append(at)
            self._pressed.append(self.bench.pressure)
        self.bench.update()

    def release(self, at: QPointF) -> None:
        """Where it ends."""
        if not self._way or not self.work:
            return
        way, self._way = [*self._way, at], []
        is_click = (way[-1] - way[0]).manhattanLength() <= CLICK
        key = self.work
        points = [self.share(each) for each in way]
        if self._done(key, points, is_click) and not WAYS[key].stays and self.work == key:
            self.put_down()
            self.bench.session.noted.emit(f"{WAYS[key].name}: done. Ctrl+Z takes it back.")
        self.bench.update()

    def _done(self, key: str, points: Points, is_click: bool) -> bool:
        """What a gesture does; whether it is whole."""
        first, last = points[0], points[-1]
        if WAYS[key].hand in ("line", "box") and is_click and key != "K":
            self.bench.session.noted.emit(WAYS[key].said)
            return False
        if key == "U":
            return self._upright((first, last))
        if key == "M":
            self._mend(points)
        elif key in PAINTS:
            self._paint_stroke(key, points)
        elif key == "H":
            self._edit(lambda p: level_picture(p, self.block, (first, last)), "levelled a picture")
        elif key == "K" and is_click:
            self._edit(lambda p: let_area_go(p, self.block, first), "no longer kept clear")
        elif key == "K":
            self._edit(lambda p: keep_area_clear(p, self.block, first, last), "kept clear")
        elif key == "P":
            self._edit(lambda p: with_point(p, self.block, last), "named a point")
        else:
            self._part(self._region(key, points))
        return True

    def _region(self, key: str, points: Points) -> Callable[[Picture], Region]:
        session = self.bench.session
        if key == "C":
            return lambda _: colour_there(session.publication, session.proxies.folder, self.block, points[-1])
        if key == "D":
            return lambda _: _drawn(points)
        shape = slope_along if key == "S" else oval_in
        return lambda _: shape(points[0], points[-1])

    def _paint_stroke(self, key: str, points: Points) -> None:
        """A stroke on the part that is brushed, or on what is seen: one step of undo."""
        session, name, index, away = self.bench.session, self.block, self._part_at, self._away
        pressed = [*self._pressed, self._pressed[-1]]
        stroke = [Dab(*point, pressure) for point, pressure in zip(points, pressed, strict=False)]
        brush, folder = Brush(self.brush, self.soft, self.strength), session.proxies.folder
        if key == "A":
            self._edit(lambda p: paint_seen(p, folder, name, stroke, brush, away=away), "painted what is seen")
        else:
            self._edit(lambda p: paint_part(p, folder, name, index, stroke, brush, away=away), "painted a part")

    def _upright(self, line: tuple[PicturePoint, PicturePoint]) -> bool:
        self._lines.append(line)
        if len(self._lines) < 2:
            self.bench.session.noted.emit("And now along another thing that stands upright, far from the first.")
            return False
        first, second = self._lines
        self._lines = []
        self._edit(lambda p: make_upright(p, self.block, first, second), "put a picture upright")
        return True

    def _part(self, region: Callable[[Picture], Region]) -> None:
        """A region treated by itself; with Shift only that is shown."""
        block, only = self.block, self._shift

        def make(publication: Publication) -> Publication:
            holds = block_named(publication, block).holds
            assert isinstance(holds, HoldsPicture)
            where = region(picture_of(publication, holds.picture))
            return show_in(publication, block, where) if only else with_part(publication, block, where)

        self._edit(make, "shown only there" if only else "a part of a picture")

    def _edit(self, change: Callable[[Publication], Publication], words: str) -> None:
        self.bench.session.history.pause()
        self.bench.session.edit(change, words)

    def _mend(self, points: Points) -> None:
        """A stroke to be mended, after those before it: each goes by what they left."""
        self._to_mend.append((self.block, points))
        if len(self._to_mend) == 1:
            self._mend_next()

    def _mend_next(self) -> None:
        session, (block, points) = self.bench.session, self._to_mend[0]
        session.noted.emit("Mending")
        work = partial(patch_for, session.publication, session.proxies.folder, block, [points], self.brush)

        def mend(_still: StillWanted) -> Patch | str:
            try:
                return work()
            except Problem as problem:
                return str(problem)

        self.mender.begin(mend)

    def _mended(self, patch: Patch) -> None:
        block, _ = self._to_mend[0]
        self._edit(lambda p: with_patch(p, block, patch), "mended a picture")
        self.bench.session.noted.emit(WAYS["M"].said)
        self._after_mending()

    def _not_mended(self, sentence: str) -> None:
        self.bench.session.said.emit(sentence)
        self._after_mending()

    def _after_mending(self) -> None:
        del self._to_mend[0]
        if self._to_mend:
            self._mend_next()

    def own_key(self, event: QKeyEvent) -> bool:
        """+ and - size the brush; another letter goes on to another way."""
        if (brush := resize_brush(self.brush, event, LEAST_BRUSH, MOST_BRUSH)) is not None:
            self.brush = brush
        elif self.work in PAINTS and self._brush_key(event.text().upper()):
            pass
        elif event.text().upper() in WAYS and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.take_up(event.text().upper())
        else:
            return False
        return True

    def _brush_key(self, letter: str) -> bool:
        """Whether a key sets how soft or how strong the brush is, begins another part, or shows the mask otherwise."""
        if letter in (",", "."):
            self.soft = min(max(self.soft + (0.1 if letter == "." else -0.1), 0.0), 1.0)
        elif letter.isdigit() and letter:
            self.strength = (int(letter) or 10) / 10
        elif letter == "X":
            self.shows = SHOWS[(SHOWS.index(self.shows) + 1) % len(SHOWS)]
        elif letter == "N" and self.work == "W":
            block = block_named(self.bench.session.publication, self.block)
            treatment = stated_treatment(self.bench.session.publication, block)
            self._part_at = len(treatment.areas) if treatment is not None else 0
        else:
            return False
        soft, strong = f"{100 * self.soft:.0f} % soft", f"{100 * self.strength:.0f} % strong"
        self.bench.session.noted.emit(f"The brush is {soft}, {strong}; the mask is shown {self.shows}.")
        return True

    # Painting -----------------------------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """What is being drawn, and what is kept clear."""
        if not self.work:
            return
        paint_clear(self.bench, painter, self.block)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(tokens.colour(tokens.LODEN), 1.5, Qt.PenStyle.DashLine))
        for start, end in self._lines:
            painter.drawLine(self.place(start), self.place(end))
        if WAYS[self.work].hand == "stroke" and self.work != "D":
            self._paint_brush(painter)
        elif len(self._way) > 1 and WAYS[self.work].hand == "line":
            painter.drawLine(self._way[0], self._way[-1])
        elif len(self._way) > 1 and self.work == "O":
            painter.drawEllipse(QRectF(self._way[0], self._way[-1]).normalized())
        elif len(self._way) > 1 and self.work == "K":
            painter.drawRect(QRectF(self._way[0], self._way[-1]).normalized())
        elif len(self._way) > 1:
            painter.drawPolyline(QPolygonF(self._way))

    def _paint_brush(self, painter: QPainter) -> None:
        one, other = self.place((0, 0)), self.place((1, 1))
        wide = self.brush * max(abs(other.x() - one.x()), abs(other.y() - one.y()))
        if self.work in PAINTS and self.shows != SHOWS[0]:
            self._paint_mask(painter)
        colour = tokens.colour(tokens.OCHRE if self._away and self._way else tokens.LODEN, 0.4)
        paint_brush(painter, [self._way], self.bench.pointer, wide, colour)

    def _paint_mask(self, painter: QPainter) -> None:
        """The mask as a veil over what is in it, or alone: white what is in it, black what is not."""
        session = self.bench.session
        block = block_named(session.publication, self.block)
        mask = painted_mask(
            session.publication, session.proxies.folder, block, None if self.work == "A" else self._part_at
        )
        if mask is None:
            return
        high, wide = mask.shape
        shown = np.zeros((high, wide, 4), np.uint8)
        if self.shows == "alone":
            shown[..., :3], shown[..., 3] = mask[..., None], 255
        else:
            shown[..., 3] = (mask.astype(np.uint16) * VEIL // 255).astype(np.uint8)
            shown[..., :3] = np.array(VEIL_COLOUR, np.uint16) * shown[..., 3:] // 255
        image = QImage(shown.tobytes(), wide, high, 4 * wide, QImage.Format.Format_ARGB32_Premultiplied)
        corners = QPolygonF([self.place(each) for each in ((0, 0), (1, 0), (1, 1), (0, 1))])
        square = QPolygonF([QPointF(0, 0), QPointF(wide, 0), QPointF(wide, high), QPointF(0, high)])
        to = QTransform()
        if QTransform.quadToQuad(square, corners, to):
            painter.save()
            painter.setTransform(to, True)
            painter.drawImage(0, 0, image)
            painter.restore()


def _drawn(points: Points) -> Drawn:
    """The outline of a stroke, with fewer points. Problem where it goes round nothing."""
    every = max(1, len(points) // 120)
    kept = tuple((round(x, 4), round(y, 4)) for x, y in points[::every])
    if len(set(kept)) < 3:
        raise Problem("That goes round nothing; draw round a part of the picture.")
    return Drawn(points=kept)
