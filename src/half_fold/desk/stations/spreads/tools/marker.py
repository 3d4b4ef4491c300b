"""The marker: what is drawn on a picture in its block. Lines made level or upright, areas kept clear, points, parts
that are treated by themselves, and stray things painted away."""

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QKeyEvent, QPainter, QPen, QPolygonF

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Drawn, HoldsPicture, Patch, Picture, PicturePoint, Publication, Region
from half_fold.core.publication.surgery import block_named, picture_of
from half_fold.core.spread.framing.retouching import (
    BRUSH,
    brushed_over,
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
from half_fold.desk.beside.newest import Answered, StillWanted
from half_fold.desk.stations.spreads.tools.clear_paint import paint_clear
from half_fold.desk.stations.spreads.tools.tool import Tool, paint_brush, resize_brush
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

Points = list[PicturePoint]
CLICK = 4  # pixels: what was dragged less was clicked
LEAST_BRUSH, MOST_BRUSH = 0.004, 0.3


class Way(NamedTuple):
    """One way to draw: the key that takes it up, what it is called, how the hand moves, and what is said of it."""

    key: str
    name: str
    hand: str  # "line", "box", "click" or "stroke"
    said: str
    stays: bool = False  # whether it goes on until it is put down


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
        Way("W", "Part: by brush", "stroke", "Paint it; Enter makes the part. + and - size the brush.", True),
        Way("C", "Part: a colour", "click", "Click the colour." + PART),
    )
}


class Marker(Tool):
    """Draws on the picture that is chosen while it has ``work``: the key of its way."""

    def __init__(self, bench: Worktop) -> None:
        super().__init__(bench)
        self.brush = BRUSH
        self._way: list[QPointF] = []
        self._lines: list[tuple[PicturePoint, PicturePoint]] = []
        self._strokes: list[Points] = []
        self._shift = False
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
        self._way, self._lines, self._strokes = [], [], []
        session.noted.emit(WAYS[key].said)
        self.bench.setCursor(Qt.CursorShape.CrossCursor)
        self.bench.setFocus()
        self.bench.update()
        return True

    def put_down(self) -> None:
        """Draw no more."""
        self.work, self._way, self._lines, self._strokes = "", [], [], []
        self.bench.session.history.pause()
        self.bench.unsetCursor()
        self.bench.update()

    def close(self) -> None:
        """What was begun is finished."""
        if self.work == "W" and self._strokes:
            session, folder = self.bench.session, self.bench.session.proxies.folder
            strokes, brush = self._strokes, self.brush
            self._part(lambda picture: brushed_over(folder, picture, strokes, brush))
            session.history.pause()
        self.put_down()

    # Mouse and keys -----------------------------------------------------------------------------------------------

    def press(self, at: QPointF, held: Qt.KeyboardModifier) -> None:
        """Where it begins."""
        self._way, self._shift = [at], bool(held & Qt.KeyboardModifier.ShiftModifier)

    def move(self, at: QPointF) -> None:
        """On to there."""
        if self._way:
            self._way.append(at)
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
        elif key == "W":
            self._strokes.append(points)
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
        elif event.text().upper() in WAYS and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.take_up(event.text().upper())
        else:
            return False
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
        ways = [*([self.place(point) for point in stroke] for stroke in self._strokes), self._way]
        paint_brush(painter, ways, self.bench.pointer, wide, tokens.colour(tokens.LODEN, 0.4))


def _drawn(points: Points) -> Drawn:
    """The outline of a stroke, with fewer points. Problem where it goes round nothing."""
    every = max(1, len(points) // 120)
    kept = tuple((round(x, 4), round(y, 4)) for x, y in points[::every])
    if len(set(kept)) < 3:
        raise Problem("That goes round nothing; draw round a part of the picture.")
    return Drawn(points=kept)
