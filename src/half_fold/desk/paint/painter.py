"""A display list drawn with QPainter; the painter's transform brings points to the device."""

import math
import threading
from collections.abc import Callable, Iterator, Sequence
from itertools import islice

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QGlyphRun,
    QGradient,
    QImage,
    QLinearGradient,
    QPainter,
    QPainterPath,
    QPen,
    QRadialGradient,
    QRawFont,
    QTransform,
)

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import (
    DisplayList,
    Glyphs,
    Line,
    Mark,
    MarkGroup,
    Path,
    PictureMark,
    Shape,
    Stroke,
    Veil,
    leaves,
    mixes,
    passes,
)
from half_fold.core.drawing.outline import CURVE, LINE, MOVE, TAKES, Outline
from half_fold.core.drawing.overprint import USUAL_SIZE, Overprint
from half_fold.core.drawing.tone import Gradient, Paint, Tone, finer, through
from half_fold.core.measure.kept import Keeper, kept
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.pictures.colour.colour import ink_on_screen
from half_fold.core.typesetting.faces.faces import face_file
from half_fold.desk.paint.false_colour import SHOWN_STOPS, FalseInk, mixed, veiled

OUTLINE_SIZE = 1000.0
LARGEST_RUN = 40.0  # device pixels; Qt leaves larger glyphs of a raw font out
_KEPT_RUNS, _KEPT_OUTLINES = 6000, 20_000
_KEPT_PICTURES, _KEPT_PATHS = 24, 600
_KEPT_MIXED, _MIXED_OCTETS = 40, 80_000_000
PictureSource = Callable[[str, float], QImage | None]


def qrect(rect: Rect) -> QRectF:
    """A rectangle as Qt has it."""
    return QRectF(rect.left, rect.top, rect.width, rect.height)


def qcolour(colour: Tone) -> QColor:
    """An ink as the screen shows it."""
    return QColor(*ink_on_screen(colour))


class _Kept(threading.local):
    """Fonts, outlines, glyph runs made for marks, and pictures reduced to the size they are shown at.

    Each thread that paints keeps its own: a raw font belongs to the thread that made it.
    """

    def __init__(self) -> None:
        self._fonts: dict[tuple[str, float], QRawFont] = {}
        self._outlines: Keeper[QPainterPath] = Keeper(_KEPT_OUTLINES)
        self._runs: Keeper[QGlyphRun] = Keeper(_KEPT_RUNS)
        self._pictures: Keeper[QImage] = Keeper(_KEPT_PICTURES)
        self.mixed: Keeper[QImage] = Keeper(_KEPT_MIXED, _MIXED_OCTETS, QImage.sizeInBytes)

    def font(self, face: str, size: float) -> QRawFont:
        if (face, size) not in self._fonts:
            self._fonts[face, size] = QRawFont(str(face_file(face)), size, QFont.HintingPreference.PreferNoHinting)
        return self._fonts[face, size]

    def outline(self, face: str, gid: int) -> QPainterPath:
        return self._outlines.of((face, gid), lambda: self.font(face, OUTLINE_SIZE).pathForGlyph(gid))

    def run(self, mark: Glyphs) -> QGlyphRun:
        return self._runs.of((mark,), lambda: self._made_run(mark))

    def _made_run(self, mark: Glyphs) -> QGlyphRun:
        run = QGlyphRun()
        run.setRawFont(self.font(mark.face, mark.size))
        run.setGlyphIndexes(mark.gids.tolist())
        run.setPositions([QPointF(x, mark.baseline) for x in mark.xs.tolist()])
        return run

    def reduced(self, image: QImage, width: int, height: int) -> QImage:
        """The picture at the size it is shown, where that is smaller; reduced once for each size."""
        if not (1 <= width < image.width() and height >= 1):
            return image
        ways = Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
        follows = image.cacheKey(), width, height
        return self._pictures.of(follows, lambda: image.scaled(width, height, *ways))


_kept = _Kept()


def paint(
    painter: QPainter,
    marks: DisplayList,
    pictures: PictureSource,
    outlines: bool = False,
    clip_of: Callable[[Mark], Rect] | None = None,
) -> None:
    """Draw every mark, clipped to ``clip_of`` it; with ``outlines`` glyphs are exact outlines (for proofs).

    Where something mixes, all that lies there is drawn by its inks instead.
    """
    painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
    laying = _Laying(pictures, outlines, _device_scale(painter))
    areas = [_on_pixels(painter, area) for area in _mixing(marks, clip_of)]
    painter.save()
    if areas:
        _leave_out(painter, areas)
    for mark in marks.marks:
        if mixes(mark):
            continue
        if clip_of is None:
            laying.lay(painter, mark, SCREEN)
            continue
        painter.save()
        painter.setClipRect(qrect(clip_of(mark)), Qt.ClipOperation.IntersectClip)
        laying.lay(painter, mark, SCREEN)
        painter.restore()
    painter.restore()
    for area in areas:
        painter.drawImage(qrect(area), laying.mixed(marks, area, clip_of))


def paint_on_paper(
    painter: QPainter, marks: DisplayList, area: Rect, pictures: PictureSource, profile: bytes, outlines: bool = False
) -> None:
    """Draw an area as it will look in print on the paper of a press ``profile``, the paper itself with it."""
    laying = _Laying(pictures, outlines, _device_scale(painter))
    whole = _on_pixels(painter, area)
    painter.drawImage(qrect(whole), mixed(marks.marks, whole, laying.scale, laying.lay, marks.black, profile))


def _on_pixels(painter: QPainter, area: Rect) -> Rect:
    """The area out to whole pixels of what is painted on."""
    device = painter.device()
    ratio = device.devicePixelRatioF() if device is not None else 1.0
    way = painter.worldTransform() * QTransform.fromScale(ratio, ratio)
    back, _ = way.inverted()
    found = back.mapRect(QRectF(way.mapRect(qrect(area)).toAlignedRect()))
    return Rect(found.left(), found.top(), found.right(), found.bottom())


def _leave_out(painter: QPainter, areas: Sequence[Rect]) -> None:
    """Paint on everything but those areas."""
    around = hull(areas).grown(1e5)
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    for rect in (around, *areas):
        path.addRect(qrect(rect))
    painter.setClipPath(path, Qt.ClipOperation.IntersectClip)


def _mixing(marks: DisplayList, clip_of: Callable[[Mark], Rect] | None) -> list[Rect]:
    """Where groups lie, and black that shows what it overprints: areas that have nothing in common."""
    areas: list[Rect] = []
    seen_through = set(_seen_through(marks.marks, marks.black))
    for at, mark in enumerate(marks.marks):
        if mixes(mark) or at in seen_through:
            area = bounds(mark).clipped(clip_of(mark) if clip_of is not None else marks.area)
            while not area.is_empty():
                met = next((other for other in areas if other.meets(area)), None)
                if met is None:
                    areas.append(area)
                    break
                areas.remove(met)
                area = hull([met, area])
    return areas


def _seen_through(marks: Sequence[Mark], black: Overprint) -> Iterator[int]:
    """Which marks are black that is large enough to show what it overprints, or are groups that have such."""
    if black.of == "none" or (black.of == "text" and black.up_to <= USUAL_SIZE):
        return
    for at, mark in enumerate(marks):
        if isinstance(mark, MarkGroup):
            if any(True for _ in _seen_through(mark.marks, black)):
                yield at
        elif not (isinstance(mark, Glyphs) and mark.size <= USUAL_SIZE) and any(
            over for _, over in passes(mark, black)
        ):
            box = bounds(mark)
            if any(bounds(behind).meets(box) for behind in marks[:at]):
                yield at


class Screen:
    """The colours of the screen."""

    def colour(self, tone: Tone) -> QColor:
        return qcolour(tone)

    def picture(self, image: QImage) -> QImage:
        return image

    def stops(self, gradient: Gradient) -> Iterator[tuple[float, QColor]]:
        """Many colours along a gradient: each is exact, and those between two are near enough."""
        return ((stop.at, self.colour(stop.tone)) for stop in finer(gradient.stops, SHOWN_STOPS))


SCREEN = Screen()
Colours = Screen | FalseInk


def brush_of(paint: Paint, colours: Colours) -> QBrush:
    """A paint as Qt fills with it."""
    if isinstance(paint, Tone):
        return QBrush(colours.colour(paint))
    made: QGradient = QLinearGradient(0, 0, 1, 0) if paint.way == "linear" else QRadialGradient(QPointF(0, 0), 1)
    for at, colour in colours.stops(paint):
        made.setColorAt(min(max(at, 0.0), 1.0), colour)
    brush = QBrush(made)
    brush.setTransform(QTransform(*paint.affine))
    return brush


class _Laying:
    """Draws single marks: on the screen, or in false colour."""

    def __init__(self, pictures: PictureSource, exact: bool, scale: float) -> None:
        self.pictures, self.exact, self.scale = pictures, exact, scale

    def lay(self, painter: QPainter, mark: Mark, colours: Colours) -> None:
        """Draw a mark that does not mix."""
        if isinstance(mark, MarkGroup):
            painter.save()
            painter.setTransform(QTransform(*(mark.affine or Affine())), True)
            for each in mark.marks:
                self.lay(painter, each, colours)
            painter.restore()
        elif isinstance(mark, Glyphs):
            _paint_glyphs(painter, mark, self.exact, colours)
        elif isinstance(mark, Shape):
            _paint_shape(painter, mark, colours)
        elif isinstance(mark, Line):
            painter.setPen(_pen(Stroke(mark.colour, mark.weight), colours))
            painter.drawLine(QPointF(*mark.start), QPointF(*mark.end))
        elif isinstance(mark, Path):
            _paint_path(painter, mark, colours)
        elif isinstance(mark, PictureMark):
            _paint_picture(painter, mark, self.pictures, self.exact, colours)
        elif isinstance(mark, Veil):
            _paint_veil(painter, mark, colours)
        else:
            raise TypeError(f"no way to paint a {type(mark).__name__}")

    def mixed(self, drawn: DisplayList, area: Rect, clip_of: Callable[[Mark], Rect] | None) -> QImage:
        """What mixes there, made once for the same marks at the same scale and with the same pictures."""
        marks: Sequence[Mark] = drawn.marks
        if clip_of is not None:
            marks = [mark for mark in marks if bounds(mark).meets(clip_of(mark))]
        reaching = tuple(mark for mark in marks if bounds(mark).meets(area))
        laid = (mark for mark in leaves(reaching) if isinstance(mark, PictureMark))
        images = [self.pictures(mark.picture, mark.placed.width * self.scale) for mark in laid]
        keys = [image.cacheKey() if image is not None else 0 for image in images]
        key = *map(id, reaching), *keys, area, self.scale, self.exact, drawn.black
        made = _kept.mixed.find(key)
        return made or _kept.mixed.keep(key, reaching, mixed(reaching, area, self.scale, self.lay, drawn.black))


def _device_scale(painter: QPainter) -> float:
    """Device pixels to the point."""
    device = painter.device()
    way = painter.worldTransform()
    return math.hypot(way.m11(), way.m12()) * (device.devicePixelRatioF() if device is not None else 1.0)


def _paint_glyphs(painter: QPainter, mark: Glyphs, outlines: bool, colours: Colours) -> None:
    exact = (
        outlines
        or mark.turn is not None
        or isinstance(mark.colour, Gradient)
        or mark.size * _device_scale(painter) > LARGEST_RUN
    )
    if mark.turn is not None:
        painter.save()
        painter.setTransform(QTransform(*mark.turn), True)
    _paint_outlines(painter, mark, colours) if exact else _paint_run(painter, mark, colours)
    if mark.turn is not None:
        painter.restore()


def _paint_run(painter: QPainter, mark: Glyphs, colours: Colours) -> None:
    assert isinstance(mark.colour, Tone)
    painter.setPen(colours.colour(mark.colour))
    painter.drawGlyphRun(QPointF(0, 0), _kept.run(mark))


def _paint_outlines(painter: QPainter, mark: Glyphs, colours: Colours) -> None:
    scale = mark.size / OUTLINE_SIZE
    whole = QPainterPath()
    for gid, x in zip(mark.gids.tolist(), mark.xs.tolist(), strict=True):
        whole.addPath(QTransform(scale, 0, 0, scale, x, mark.baseline).map(_kept.outline(mark.face, gid)))
    whole.setFillRule(Qt.FillRule.WindingFill)
    paint = mark.colour if mark.turn is None else through(mark.colour, mark.turn.inverse())
    painter.fillPath(whole, brush_of(paint, colours))


def _paint_shape(painter: QPainter, mark: Shape, colours: Colours) -> None:
    if mark.fill is not None:
        painter.fillRect(qrect(mark.rect), colours.colour(mark.fill))
    if mark.stroke is not None:
        pen = QPen(colours.colour(mark.stroke), mark.weight)
        pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(qrect(mark.rect.grown(-mark.weight / 2)))


def _paint_path(painter: QPainter, mark: Path, colours: Colours) -> None:
    path = _qpath(mark.outline)
    if mark.fill is not None:
        painter.fillPath(path, brush_of(mark.fill, colours))
    if mark.stroke is not None:
        painter.strokePath(path, _pen(mark.stroke, colours))


@kept(_KEPT_PATHS)
def _qpath(outline: Outline) -> QPainterPath:
    path, points = QPainterPath(), iter(outline.points.tolist())
    path.setFillRule(Qt.FillRule.WindingFill)
    for op in outline.ops:
        places = [QPointF(*place) for place in islice(points, TAKES[op])]
        if op == MOVE:
            path.moveTo(*places)
        elif op == LINE:
            path.lineTo(*places)
        elif op == CURVE:
            path.cubicTo(*places)
        else:
            path.closeSubpath()
    return path


def _pen(stroke: Stroke, colours: Colours) -> QPen:
    """Qt counts dashes in widths of the pen, and draws none of no length at all."""
    pen = QPen(brush_of(stroke.tone, colours), stroke.weight)
    pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
    pen.setMiterLimit(10)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap if stroke.is_round else Qt.PenCapStyle.FlatCap)
    if stroke.dashes:
        pen.setDashPattern([max(1e-4, dash / stroke.weight) for dash in stroke.dashes])
    return pen


def _paint_veil(painter: QPainter, mark: Veil, colours: Colours) -> None:
    painter.save()
    painter.setTransform(QTransform(*(mark.affine or Affine())), True)
    fine = mark.cover.shape[1] / max(1e-6, mark.placed.width * _device_scale(painter))
    painter.drawImage(qrect(mark.placed), veiled(mark.cover, colours.colour(mark.tone), fine))
    painter.restore()


def _paint_picture(
    painter: QPainter, mark: PictureMark, pictures: PictureSource, exact: bool, colours: Colours
) -> None:
    scale = _device_scale(painter)
    image = pictures(mark.picture, mark.placed.width * scale)
    clip = qrect(mark.clip)
    if image is None:
        painter.fillRect(clip, QColor("#CFCDC8"))
        return
    image = colours.picture(image)
    if not exact and mark.affine is None:
        image = _kept.reduced(image, round(mark.placed.width * scale), round(mark.placed.height * scale))
    painter.save()
    if mark.outline is None:
        painter.setClipRect(clip, Qt.ClipOperation.IntersectClip)
    else:
        painter.setClipPath(_qpath(mark.outline), Qt.ClipOperation.IntersectClip)
    if mark.affine is not None:
        painter.setTransform(QTransform(*mark.affine), True)
    painter.drawImage(qrect(mark.placed), image)
    painter.restore()
