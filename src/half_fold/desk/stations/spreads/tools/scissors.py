"""The scissors: a subject cut out of its picture by a rough box, and strokes that say what belongs to it."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from msgspec.structs import replace
from PIL import Image
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QImage, QKeyEvent, QPainter, QPen, QTransform

from half_fold.core.drawing.affine import Affine
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.cutting.masks import cut_out, keep_mask
from half_fold.core.pictures.library.bring import ENOUGH, picture_file
from half_fold.core.pictures.library.fit import placed, turned_in
from half_fold.core.pictures.library.pyramid import reduced
from half_fold.core.publication.records import HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.spread.edits.edits import set_holds
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.beside.newest import Answered, StillWanted
from half_fold.desk.stations.spreads.tools.tool import Tool, paint_brush, resize_brush
from half_fold.desk.stations.spreads.tools.worktop import Worktop
from half_fold.desk.theme import tokens

if TYPE_CHECKING:
    from half_fold.core.pictures.cutting.cutting import Cutting

Sides = tuple[float, float, float, float]
BRUSH, LEAST_BRUSH, MOST_BRUSH = 0.025, 0.004, 0.12  # of the picture's longer side
BOX_SAID = "Drag a box round the whole subject. Esc gives it up."
STROKES_SAID = (
    "Drag: this too. Shift+drag: not this. + and - size the brush, S for hair, A tries again, Enter cuts it out, "
    "Esc gives it up."
)


class _Cut(NamedTuple):
    """A mask that was kept in the job under a name."""

    name: str
    mask: Image.Image


class Scissors(Tool):
    """What is being cut out of the picture that is chosen; it takes clicks and keys while it has ``work``."""

    def __init__(self, bench: Worktop) -> None:
        super().__init__(bench)  # its work is "box" or "strokes"
        self.picture: Picture | None = None
        self.cutting: Cutting | None = None
        self.brush, self.soft, self.keeps = BRUSH, False, True
        self._way: list[QPointF] = []
        self._veil: QImage | None = None
        self.solver = Answered()
        self.solver.answered.connect(self._solved)
        self.solver.failed.connect(self._failed)

    # Taking up and putting down -----------------------------------------------------------------

    def take_up(self) -> bool:
        """Begin on the picture that is chosen; whether it can be cut out of."""
        session = self.bench.session
        found = self.bench.picture_chosen("its subject can be cut out")
        if found is None:
            return False
        assert isinstance(found.holds, HoldsPicture)
        picture = picture_of(session.publication, found.holds.picture)
        if picture.art:
            session.said.emit("A drawing has no ground to be cut out of.")
            return False
        self.work, self.block, self.picture, self.cutting = "box", found.id, picture, None
        self._way, self._veil = [], None
        session.noted.emit(BOX_SAID)
        self.bench.setCursor(Qt.CursorShape.CrossCursor)
        return True

    def put_down(self) -> None:
        """Cut no more."""
        self.solver.cancel()
        self.work, self.cutting, self._veil, self._way = "", None, None, []
        self.bench.unsetCursor()
        self.bench.update()

    # Where the picture lies ---------------------------------------------------------------------

    def _lies(self) -> tuple[Rect, Affine | None]:
        """Where the whole picture lies before it is turned, and how it is turned."""
        publication = self.bench.session.publication
        index, _, block = page_of_block(publication, self.block)
        box = block_box(publication, index + 1, block)
        assert isinstance(block.holds, HoldsPicture) and self.picture is not None
        where = placed(self.picture, block.holds, box)
        return where, turned_in(block.holds, box, where)

    # Mouse and keys -----------------------------------------------------------------------------

    def press(self, at: QPointF, held: Qt.KeyboardModifier) -> None:
        """Where a box or a stroke begins."""
        self._way, self.keeps = [at], not held & Qt.KeyboardModifier.ShiftModifier
        self.bench.update()

    def move(self, at: QPointF) -> None:
        """On to there."""
        if self._way:
            self._way.append(at)

    def release(self, at: QPointF) -> None:
        """Where it ends: what follows from it is sought."""
        if not self._way:
            return
        way, self._way = [*self._way, at], []
        places = [self.share(each) for each in way]
        if self.work == "box":
            (x0, y0), (x1, y1) = places[0], places[-1]
            self._begin((min(x0, x1), min(y0, y1), max(x0, x1), max(y0, y1)))
        elif self.cutting is not None:
            self._seek(partial(_stroked, self.cutting, places, self.keeps, self.brush))

    def _begin(self, box: Sides) -> None:
        session, picture = self.bench.session, self.picture
        assert picture is not None
        session.noted.emit("Looking for the subject")
        self._seek(partial(_begun, session.proxies.folder, picture, box))

    def _seek(self, work: "partial[Cutting]") -> None:
        def found(_still: StillWanted) -> "Cutting | str":
            try:
                return work()
            except Problem as problem:
                return str(problem)

        self.solver.begin(found)

    def _solved(self, cutting: "Cutting | _Cut") -> None:
        if not self.work:
            return
        if isinstance(cutting, _Cut):
            self._take(cutting)
            return
        self.cutting, self.work = cutting, "strokes"
        self._veil = _veil_of(cutting)
        self.bench.session.noted.emit(_said_of(cutting))
        self.bench.update()

    def _failed(self, sentence: str) -> None:
        self.bench.session.said.emit(sentence)

    def own_key(self, event: QKeyEvent) -> bool:
        """+ and - size the brush; S looks for hair at the edge, or no longer; A tries once more."""
        if (brush := resize_brush(self.brush, event, LEAST_BRUSH, MOST_BRUSH)) is not None:
            self.brush = brush
        elif event.text().upper() == "A" and self.cutting is not None:
            self._seek(partial(_again, self.cutting))
        elif event.text().upper() == "S":
            self.soft = not self.soft
            words = "Hair and fur are looked for along the edge." if self.soft else "The edge is taken for one without."
            self.bench.session.noted.emit(words)
        else:
            return False
        return True

    def close(self) -> None:
        """Cut it out: the block then shows the cut-out."""
        session, cutting, soft = self.bench.session, self.cutting, self.soft
        if cutting is None:
            return
        session.noted.emit("Cutting along the edge")
        folder = session.proxies.folder

        def cut(_still: StillWanted) -> "_Cut | str":
            mask = cutting.mask(soft)
            try:
                return _Cut(keep_mask(folder, mask), mask)
            except Problem as problem:
                return str(problem)

        self.solver.begin(cut)

    def _take(self, cut: "_Cut") -> None:
        """The block shows what was cut out."""
        picture, block, session = self.picture, self.block, self.bench.session
        if picture is None or not self.work:
            return

        def make(publication: Publication) -> Publication:
            publication, made = cut_out(publication, picture, cut.name, cut.mask)
            holds = page_of_block(publication, block)[2].holds
            return set_holds(publication, block, _holding(holds, made))

        self.put_down()
        if session.edit(make, "cut a subject out"):
            session.noted.emit("Cut out. The whole picture is still in the drawer; Ctrl+Z takes it back.")

    # Painting -----------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """What is no subject veiled, the box or stroke being drawn, and the brush."""
        if not self.work:
            return
        if self._veil is not None:
            self._paint_veil(painter, self._veil)
        if self.work == "box" and len(self._way) > 1:
            painter.setPen(QPen(tokens.colour(tokens.LODEN), 1.5, Qt.PenStyle.DashLine))
            painter.setBrush(tokens.colour(tokens.LODEN, 0.12))
            painter.drawRect(QRectF(self._way[0], self._way[-1]).normalized())
        elif self.work == "strokes":
            self._paint_stroke(painter)

    def _paint_veil(self, painter: QPainter, veil: QImage) -> None:
        where, turn = self._lies()
        publication = self.bench.session.publication
        index, _, block = page_of_block(publication, self.block)
        painter.save()
        painter.setClipRect(self.bench.to_widget(block_box(publication, index + 1, block)))
        origin, scale = self.bench.origin(), self.bench.scale()
        painter.translate(origin)
        painter.scale(scale, scale)
        if turn is not None:
            painter.setTransform(QTransform(*turn), True)
        painter.drawImage(QRectF(where.left, where.top, where.width, where.height), veil)
        painter.restore()

    def _paint_stroke(self, painter: QPainter) -> None:
        where, _ = self._lies()
        wide = self.brush * max(where.width, where.height) * self.bench.scale()
        colour = tokens.colour(tokens.LODEN if self.keeps else tokens.INK, 0.45)
        paint_brush(painter, [self._way], self.bench.pointer, wide, colour)


def _holding(holds: object, picture: Picture) -> HoldsPicture:
    assert isinstance(holds, HoldsPicture)
    return replace(holds, picture=picture.id)


def _begun(folder: Path, picture: Picture, box: Sides) -> "Cutting":
    from half_fold.core.pictures.cutting.cutting import Box, Cutting  # which takes a tenth of a second to load

    return Cutting(reduced(picture_file(folder, picture), picture.digest, ENOUGH), Box(*box))


def _stroked(cutting: "Cutting", places: list[tuple[float, float]], keeps: bool, width: float) -> "Cutting":
    cutting.stroke(places, keeps, width)
    return cutting


def _again(cutting: "Cutting") -> "Cutting":
    cutting.again()
    return cutting


def _said_of(cutting: "Cutting") -> str:
    """What may be done now with what was found."""
    from half_fold.core.pictures.cutting.cutting import ALIKE_SAID

    if not cutting.subject.any():
        return "Nothing was found there; draw over the subject."
    return ALIKE_SAID if cutting.is_alike else STROKES_SAID


def _veil_of(cutting: "Cutting") -> QImage:
    """What is no subject under a veil of the surround's grey."""
    mask = cutting.preview()
    veil = Image.new("RGBA", mask.size, (0xBD, 0xBD, 0xBD, 255))
    veil.putalpha(mask.point([200 if level < 128 else 0 for level in range(256)]))
    return QImage(veil.tobytes(), veil.width, veil.height, 4 * veil.width, QImage.Format.Format_RGBA8888).copy()
