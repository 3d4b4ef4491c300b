"""What mixes, painted in false colour: pictures of the light that the three colours leave, that black does, each spot.

QPainter's own arithmetic is then that of the inks (see ``core/drawing/planes``), each on its own plate, and the
screen's colours follow from the inks at the end, all at once.
"""

from collections.abc import Callable, Iterator, Sequence
from functools import cache

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from PIL import Image
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QTransform

from half_fold.core.drawing.marks import Mark, MarkGroup, leaves, paints, passes
from half_fold.core.drawing.overprint import USUAL, Overprint
from half_fold.core.drawing.tone import EVERY_PLATE, Gradient, Spot, Tone, finer
from half_fold.core.measure.kept import Keeper, kept
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import as_it_lies, inks_to_screen, screen_to_inks, to_screen_profile

Octets = npt.NDArray[np.uint8]
Laying = Callable[[QPainter, Mark, "FalseInk"], None]
MODES = {
    "normal": QPainter.CompositionMode.CompositionMode_SourceOver,
    "multiply": QPainter.CompositionMode.CompositionMode_Multiply,
    "screen": QPainter.CompositionMode.CompositionMode_Screen,
    "darken": QPainter.CompositionMode.CompositionMode_Darken,
    "lighten": QPainter.CompositionMode.CompositionMode_Lighten,
    "overlay": QPainter.CompositionMode.CompositionMode_Overlay,
    "soft-light": QPainter.CompositionMode.CompositionMode_SoftLight,
}
SHOWN_STOPS = 16  # between two tones, where what paints does not run from one to the other as inks do
_KEPT_PICTURES = 120_000_000
KEPT_COVERS = 12  # of veils, as they are seen
_pictures: Keeper[tuple[QImage, QImage]] = Keeper(64, _KEPT_PICTURES, lambda pair: sum(i.sizeInBytes() for i in pair))


class InkedImage(QImage):
    """A picture whose inks in print are known: an array of shape (high, wide, 4), 255 for all of an ink."""

    def __init__(self, image: QImage, inks: Octets) -> None:
        super().__init__(image)
        self.inks = inks


class FalseInk(Struct, frozen=True):
    """Which of the pictures is painted: that of the three colours, that of black, or that of a ``spot``.

    Pictures are in the inks of ``profile``, or of the one that the screen goes by where none is given. The ``parted``
    spots have pictures of their own: the others are stood in for. ``black`` says what of that overprints.
    """

    is_black: bool
    profile: bytes = b""
    spot: str = ""
    parted: frozenset[str] = frozenset()
    black: Overprint = USUAL

    def colour(self, tone: Tone) -> QColor:
        """The light that a tone leaves."""
        if self.spot:
            share = tone.s if tone.spot is not None and tone.spot.name in (self.spot, EVERY_PLATE.name) else 0.0
            return QColor.fromRgbF(1 - share, 1 - share, 1 - share)
        is_apart = tone.spot is not None and tone.spot.name in self.parted
        c, m, y, k = (tone.c, tone.m, tone.y, tone.k) if is_apart else tone.process
        return QColor.fromRgbF(1 - k, 1.0, 1.0) if self.is_black else QColor.fromRgbF(1 - c, 1 - m, 1 - y)

    def stops(self, gradient: Gradient) -> Iterator[tuple[float, QColor]]:
        """The light that a gradient leaves at its stops: between them it runs as the inks do, but for spots."""
        has_spots = any(stop.tone.spot is not None for stop in gradient.stops)
        stops = finer(gradient.stops, SHOWN_STOPS) if has_spots else iter(gradient.stops)
        return ((stop.at, self.colour(stop.tone)) for stop in stops)

    def picture(self, image: QImage) -> QImage:
        """A picture's light, made once for each; it has nothing of any spot."""
        if self.spot:
            return _white(image)
        key = image.cacheKey(), hash(self.profile)
        return _pictures.of(key, lambda: _lights(image, self.profile))[self.is_black]


def mixed(
    marks: Sequence[Mark], area: Rect, scale: float, lay: Laying, black: Overprint = USUAL, profile: bytes = b""
) -> QImage:
    """What marks look like in print in an ``area`` at so many pixels to the point; clear where nothing lies.

    ``lay`` paints one mark that is no group, in the colours of an ink. With a press ``profile`` it is what lies on that
    paper, by its white and through its own inks, and the paper itself where nothing does.
    """
    wide, high = max(1, round(area.width * scale)), max(1, round(area.height * scale))
    spots = _spots_of(marks)
    parted = frozenset(spots)
    inked = [FalseInk(False, profile, "", parted, black), FalseInk(True, profile, "", parted, black)]
    inked += [FalseInk(False, profile, name, parted, black) for name in spots]
    lights = [_laid(marks, ink, (wide, high), area, lay) for ink in inked]
    colours, blacks, *others = (_octets(light) for light in lights)
    alpha = np.maximum(colours[..., 3], blacks[..., 3])
    # Premultiplied light on bare paper is itself and the paper's own where nothing lies.
    bare = 255 - np.stack([colours[..., 3], blacks[..., 3]], 2)
    inks = np.empty((high, wide, 4), np.uint8)
    inks[..., :3] = 255 - (colours[..., 2::-1] + bare[..., :1])
    inks[..., 3] = 255 - (blacks[..., 2] + bare[..., 1])
    for spot, light in zip(spots.values(), others, strict=True):
        inks = _stood_in(inks, 1 - (light[..., 2] + 255.0 - light[..., 3]) / 255, spot)
    out = np.empty((high, wide, 4), np.uint8)
    if profile:
        out[..., 3] = 255
        out[..., :3] = np.asarray(as_it_lies(Image.fromarray(inks, "CMYK"), profile))[..., ::-1]
        return QImage(out.tobytes(), wide, high, 4 * wide, QImage.Format.Format_RGB32).copy()
    shown = np.asarray(inks_to_screen(Image.fromarray(inks, "CMYK")), np.int16)
    clear = 255 - alpha.astype(np.int16)
    out[..., :3] = np.clip(shown[..., ::-1] - clear[..., None], 0, alpha[..., None])
    out[..., 3] = alpha
    return QImage(out.tobytes(), wide, high, 4 * wide, QImage.Format.Format_ARGB32_Premultiplied).copy()


def _spots_of(marks: Sequence[Mark]) -> dict[str, Spot]:
    """The spots that are laid, by their names."""
    tones = (tone for leaf in leaves(marks) for tone in paints(leaf))
    return {tone.spot.name: tone.spot for tone in tones if tone.spot is not None and tone.spot != EVERY_PLATE}


def _stood_in(inks: Octets, shares: npt.NDArray[np.float64], spot: Spot) -> Octets:
    """The inks with a spot's stand-in printed over them, as much of it as there is."""
    stand_in = shares[..., None] * np.array(spot[1:], np.float64)
    return np.rint(255 - (255.0 - inks) * (1 - stand_in)).astype(np.uint8)


def _white(image: QImage) -> QImage:
    """White, where an image lies."""
    out = image.convertToFormat(QImage.Format.Format_ARGB32_Premultiplied)
    painter = QPainter(out)
    painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceIn)
    painter.fillRect(out.rect(), QColor(255, 255, 255))
    painter.end()
    return out


def _laid(
    marks: Sequence[Mark], ink: FalseInk, size: tuple[int, int], area: Rect, lay: Laying, way: QTransform | None = None
) -> QImage:
    """One of the two pictures of light; ``way`` is how the groups round the marks are turned."""
    image = QImage(*size, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
    painter.scale(size[0] / area.width, size[1] / area.height)
    painter.translate(-area.left, -area.top)
    upright = painter.transform()
    way = way or QTransform()
    painter.setTransform(way, True)
    for mark in marks:
        if isinstance(mark, MarkGroup):
            turn = way if mark.affine is None else QTransform(*mark.affine) * way
            inner = _laid(mark.marks, ink, size, area, lay, turn)
            if mark.mask is not None:
                _let_through(inner, _laid((mark.mask,), FalseInk(True, ink.profile), size, area, lay, turn))
            painter.setTransform(upright)
            painter.setOpacity(mark.opacity)
            painter.setCompositionMode(MODES[mark.blend])
            painter.drawImage(QRectF(area.left, area.top, area.width, area.height), inner)
            painter.setOpacity(1.0)
            painter.setCompositionMode(MODES["normal"])
            painter.setTransform(way, True)
        elif ink.is_black:
            lay(painter, mark, ink)
        else:  # what overprints takes nothing away there: its white lets all that lies behind through
            for each, overprints in passes(mark, ink.black):
                painter.setCompositionMode(MODES["multiply" if overprints else "normal"])
                lay(painter, each, ink)
            painter.setCompositionMode(MODES["normal"])
    painter.end()
    return image


def _let_through(image: QImage, mask: QImage) -> None:
    """Leave of an image as much as a mask is black."""
    light = _octets(mask)
    black = np.ascontiguousarray(light[..., 3] - light[..., 2])
    high, wide = black.shape
    cover = QImage(black.tobytes(), wide, high, wide, QImage.Format.Format_Alpha8)
    painter = QPainter(image)
    painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_DestinationIn)
    painter.drawImage(0, 0, cover)
    painter.end()


@kept(KEPT_COVERS)
def _reduced(cover: Octets, by: int) -> Octets:
    """A cover with ``by`` times ``by`` pixels in one, over the same place."""
    high, wide = cover.shape
    small = Image.fromarray(cover).resize((max(1, wide // by), max(1, high // by)), Image.Resampling.BOX)
    return np.asarray(small)


def veiled(cover: Octets, colour: QColor, fine: float = 1.0) -> QImage:
    """A colour as thick as a cover says, of which so many pixels are seen as one."""
    cover = _reduced(cover, int(fine)) if fine >= 2 else cover
    high, wide = cover.shape
    made = _thicknesses(colour.rgb())[cover]
    return QImage(made.tobytes(), wide, high, 4 * wide, QImage.Format.Format_ARGB32_Premultiplied).copy()


@cache
def _thicknesses(rgb: int) -> npt.NDArray[np.uint32]:
    """A colour in each of the 256 thicknesses that a cover may have, as Qt multiplies it."""
    every = np.full(256, rgb & 0xFFFFFF, np.uint32) | np.arange(256, dtype=np.uint32) << 24
    strip = QImage(every.tobytes(), 256, 1, 1024, QImage.Format.Format_ARGB32)
    return _octets(strip.convertToFormat(QImage.Format.Format_ARGB32_Premultiplied)).view(np.uint32).reshape(256)


def _octets(image: QImage) -> Octets:
    """Blue, green, red and alpha of an image, an array of shape (high, wide, 4) of its own."""
    bits = image.constBits()
    assert bits is not None
    octets = bits.asstring(image.sizeInBytes())
    return np.frombuffer(octets, np.uint8).reshape(image.height(), image.width(), 4)


def _lights(image: QImage, profile: bytes) -> tuple[QImage, QImage]:
    """What the inks of a picture leave of the light: as it is printed, by the profile that the screen goes by."""
    plain = _octets(image.convertToFormat(QImage.Format.Format_ARGB32))
    if isinstance(image, InkedImage):
        inks = 255 - image.inks
    else:
        rgb = Image.fromarray(np.ascontiguousarray(plain[..., 2::-1]), "RGB")
        inks = 255 - np.asarray(screen_to_inks(rgb, profile) if profile else to_screen_profile(rgb))
    out = []
    for channels in ((2, 1, 0), (None, None, 3)):
        made = np.full((*inks.shape[:2], 4), 255, np.uint8)
        for place, channel in enumerate(channels):
            if channel is not None:
                made[..., place] = inks[..., channel]
        made[..., 3] = plain[..., 3]
        light = QImage(made.tobytes(), image.width(), image.height(), 4 * image.width(), QImage.Format.Format_ARGB32)
        out.append(light.convertToFormat(QImage.Format.Format_ARGB32_Premultiplied))
    return out[0], out[1]
