"""A display list drawn with QPainter; the painter's transform brings points to the device."""

import threading
from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QGlyphRun, QImage, QPainter, QPainterPath, QPen, QRawFont, QTransform

from half_fold.core.drawing.marks import DisplayList, Glyphs, Line, Mark, Picture, Shape, Tone
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour import ink_on_screen
from half_fold.core.typesetting.faces import face_file

OUTLINE_SIZE = 1000.0
LARGEST_RUN = 40.0  # device pixels; Qt leaves larger glyphs of a raw font out
_KEPT_RUNS, _KEPT_OUTLINES = 6000, 20_000
_KEPT_PICTURES = 24
PictureSource = Callable[[str, float], QImage | None]


def qrect(rect: Rect) -> QRectF:
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
    """Draw every mark, clipped to ``clip_of`` it; with ``outlines`` glyphs are exact outlines (for proofs)."""
    painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
    for mark in marks.marks:
        if clip_of is None:
            _paint_mark(painter, mark, pictures, outlines)
            continue
        painter.save()
        painter.setClipRect(qrect(clip_of(mark)))
        _paint_mark(painter, mark, pictures, outlines)
        painter.restore()


def _paint_mark(painter: QPainter, mark: Mark, pictures: PictureSource, outlines: bool) -> None:
    if isinstance(mark, Glyphs):
        _paint_glyphs(painter, mark, outlines)
    elif isinstance(mark, Shape):
        _paint_shape(painter, mark)
    elif isinstance(mark, Line):
        painter.setPen(QPen(qcolour(mark.colour), mark.weight, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawLine(QPointF(*mark.start), QPointF(*mark.end))
    else:
        _paint_picture(painter, mark, pictures, outlines)


def _device_scale(painter: QPainter) -> float:
    """Device pixels to the point."""
    device = painter.device()
    return painter.worldTransform().m11() * (device.devicePixelRatioF() if device is not None else 1.0)


def _paint_glyphs(painter: QPainter, mark: Glyphs, outlines: bool) -> None:
    exact = outlines or mark.turn is not None or mark.size * _device_scale(painter) > LARGEST_RUN
    if mark.turn is not None:
        painter.save()
        painter.setTransform(QTransform(*mark.turn), True)
    _paint_outlines(painter, mark) if exact else _paint_run(painter, mark)
    if mark.turn is not None:
        painter.restore()


def _paint_run(painter: QPainter, mark: Glyphs) -> None:
    painter.setPen(qcolour(mark.colour))
    painter.drawGlyphRun(QPointF(0, 0), _kept.run(mark))


def _paint_outlines(painter: QPainter, mark: Glyphs) -> None:
    scale = mark.size / OUTLINE_SIZE
    whole = QPainterPath()
    for gid, x in zip(mark.gids.tolist(), mark.xs.tolist(), strict=True):
        whole.addPath(QTransform(scale, 0, 0, scale, x, mark.baseline).map(_kept.outline(mark.face, gid)))
    whole.setFillRule(Qt.FillRule.WindingFill)
    painter.fillPath(whole, qcolour(mark.colour))


def _paint_shape(painter: QPainter, mark: Shape) -> None:
    if mark.fill is not None:
        painter.fillRect(qrect(mark.rect), qcolour(mark.fill))
    if mark.stroke is not None:
        pen = QPen(qcolour(mark.stroke), mark.weight)
        pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(qrect(mark.rect.grown(-mark.weight / 2)))


def _paint_picture(painter: QPainter, mark: Picture, pictures: PictureSource, exact: bool) -> None:
    scale = _device_scale(painter)
    image = pictures(mark.picture, mark.placed.width * scale)
    clip = qrect(mark.clip)
    if image is None:
        painter.fillRect(clip, QColor("#CFCDC8"))
        return
    if not exact:
        image = _kept.reduced(image, round(mark.placed.width * scale), round(mark.placed.height * scale))
    painter.save()
    painter.setClipRect(clip, Qt.ClipOperation.IntersectClip)
    painter.drawImage(qrect(mark.placed), image)
    painter.restore()
