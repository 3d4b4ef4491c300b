"""A display list laid out in planes of ink: how much of cyan, magenta, yellow, black and each spot lies where.

Colours mix as they do on the press (ISO 32000, 11.3 and 11.7): blends work on what the inks leave of the paper's light,
marks of a group are laid out by themselves and then laid on what is behind as one, and what overprints leaves the inks
it has none of as they are.
"""

from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.drawing.affine import Affine, onto
from half_fold.core.drawing.marks import (
    Blend,
    Glyphs,
    Line,
    Mark,
    MarkGroup,
    Path,
    PictureMark,
    Shape,
    Stroke,
    Veil,
)
from half_fold.core.drawing.outline import Outline, polygon, rectangle, turning
from half_fold.core.drawing.overprint import USUAL, Overprint
from half_fold.core.drawing.strokes import stroked
from half_fold.core.drawing.tone import EVERY_PLATE, Gradient, Paint, Tone, finer
from half_fold.core.measure.rect import Rect

Plane = npt.NDArray[np.float32]
Pixels = Plane | npt.NDArray[np.uint8]
FINER = 4  # pixels across are so many times as many while a mark's coverage is found
STEPS = 16  # of a gradient between tones with spots that are stood in for
Kept = npt.NDArray[np.bool_]
_CORNERS = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))
_SHIFT = 6  # places of OpenCV are whole numbers: parts of a pixel
_PARTS = 1 << _SHIFT
_NOTHING: Plane = np.zeros((0, 0), np.float32)


class Sources(NamedTuple):
    """Where glyphs and pictures come from.

    ``outline_of`` a glyph of a face is in ems, y downwards; ``pixels_of`` a picture are its inks, an array of shape
    (high, wide, 4), and how opaque it is; both may be octets.
    """

    outline_of: Callable[[str, int], Outline]
    pixels_of: Callable[[str], tuple[Pixels, Pixels]]


class PlaneWindow(NamedTuple):
    """Pixels from ``left``, ``top`` up to ``right``, ``bottom``: what a mark reaches."""

    left: int
    top: int
    right: int
    bottom: int

    @property
    def of(self) -> tuple[slice, slice]:
        """What it is of a plane."""
        return slice(self.top, self.bottom), slice(self.left, self.right)


class Planes(Struct, frozen=True):
    """``inks`` from 0 to 1, an array of shape (high, wide, 4 and the spots), and where anything lies, ``alpha``."""

    inks: Plane
    alpha: Plane


class Layer:
    """What is laid on a sheet ``area`` at so many pixels to the point, on the process plates and those of ``spots``.

    ``sources`` may be left out where neither glyphs nor pictures are laid; coverage is found so many times ``finer``.
    ``black`` says what of that overprints.
    """

    def __init__(
        self,
        area: Rect,
        scale: float,
        sources: Sources | None,
        through: Affine | None = None,
        spots: Sequence[str] = (),
        finer: int = FINER,
        black: Overprint = USUAL,
    ) -> None:
        self.area, self.scale, self._sources, self._through = area, scale, sources, through or Affine()
        self._spots, self._finer, self._black = tuple(spots), finer, black
        self._wide, self._high = max(1, round(area.width * scale)), max(1, round(area.height * scale))
        self.inks: Plane = np.zeros((self._high, self._wide, 4 + len(self._spots)), np.float32)
        self.alpha: Plane = np.zeros((self._high, self._wide), np.float32)

    def lay(self, marks: Sequence[Mark]) -> Planes:
        """Lay marks from back to front; gives what then lies there."""
        for mark in marks:
            self._mark(mark)
        return Planes(self.inks, self.alpha)

    def _mark(self, mark: Mark) -> None:
        if isinstance(mark, Glyphs):
            self._glyphs(mark)
        elif isinstance(mark, Shape):
            self._shape(mark)
        elif isinstance(mark, Line):
            line = stroked(polygon([mark.start, mark.end]), Stroke(mark.colour, mark.weight), is_closed=False)
            self._fill(line, mark.colour)
        elif isinstance(mark, Path):
            if mark.fill is not None:
                self._fill(mark.outline.flattened(0.1 / self.scale), mark.fill)
            if mark.stroke is not None:
                self._fill(stroked(mark.outline, mark.stroke, 0.1 / self.scale), mark.stroke.tone)
        elif isinstance(mark, PictureMark):
            self._picture(mark)
        elif isinstance(mark, Veil):
            self._veil(mark)
        elif isinstance(mark, MarkGroup):
            self._group(mark)
        else:
            raise TypeError(f"no way to lay out a {type(mark).__name__}")

    def _group(self, mark: MarkGroup) -> None:
        through = self._through if mark.affine is None else self._through.after(mark.affine)
        made = self._within(through).lay(mark.marks)
        alpha = made.alpha * mark.opacity
        if mark.mask is not None:
            mask = self._within(through).lay((mark.mask,))
            alpha = alpha * mask.inks[..., 3] * mask.alpha
        self._put(made.inks, alpha, PlaneWindow(0, 0, self._wide, self._high), mark.blend)

    @property
    def _source(self) -> Sources:
        if self._sources is None:
            raise TypeError("a layer that was given no sources has glyphs or pictures to lay")
        return self._sources

    def _within(self, through: Affine) -> "Layer":
        """A layer for marks that are laid out by themselves."""
        return Layer(self.area, self.scale, self._sources, through, self._spots, self._finer, self._black)

    def _veil(self, mark: Veil) -> None:
        place = self._to_pixels(onto(mark.placed) if mark.affine is None else mark.affine.after(onto(mark.placed)))
        window = self._window([np.array([place.of(*corner) for corner in _CORNERS])], 1.0)
        if window is not None:
            cover = self._drawn(mark.cover, place, window)
            alpha = cover * self._within_edges(place, window)
            self._put(self._shares(mark.tone), alpha, window)

    def _to_pixels(self, place: Affine) -> Affine:
        """A place on the sheet, through the groups round it, in pixels."""
        scale = self.scale
        sheet = Affine(scale, 0, 0, scale, -self.area.left * scale, -self.area.top * scale)
        return sheet.after(self._through.after(place))

    def _shape(self, mark: Shape) -> None:
        if mark.fill is not None:
            self._fill(rectangle(mark.rect).flattened(1), mark.fill)
        if mark.stroke is not None:
            inner = mark.rect.grown(-mark.weight)
            outer = rectangle(mark.rect).flattened(1)
            self._fill([*outer, *(part[::-1] for part in rectangle(inner).flattened(1))], mark.stroke)

    def _glyphs(self, mark: Glyphs) -> None:
        parts: list[npt.NDArray[np.float64]] = []
        for gid, x in zip(mark.gids.tolist(), mark.xs.tolist(), strict=True):
            where = Affine(mark.size, 0, 0, mark.size, x, mark.baseline)
            drawn = self._source.outline_of(mark.face, gid)
            if drawn.ops:
                where = where if mark.turn is None else mark.turn.after(where)
                parts += drawn.through(where).flattened(0.1 / self.scale)
        if parts:
            self._tone(parts, mark.colour, self._black.letters(mark.colour, mark.size))

    def _picture(self, mark: PictureMark) -> None:
        inks, opaque = self._source.pixels_of(mark.picture)
        place = onto(mark.placed) if mark.affine is None else mark.affine.after(onto(mark.placed))
        seen = self._to_pixels(place)
        outline = rectangle(mark.clip) if mark.outline is None else mark.outline
        window, clip = self._coverage(outline.flattened(0.1 / self.scale))
        if window is None:
            return
        drawn = self._drawn(inks, seen, window)
        if self._spots:
            drawn = np.dstack([drawn, *[np.zeros_like(clip)] * len(self._spots)])
        alpha = clip * self._within_edges(seen, window)
        if opaque.min() < (255 if opaque.dtype == np.uint8 else 1):
            alpha = alpha * self._drawn(opaque, seen, window)
        self._put(drawn, alpha, window)

    def _drawn(self, plane: Pixels, seen: Affine, window: PlaneWindow) -> Plane:
        """A picture's planes where they come to lie, inside a window; beyond its edges as at them."""
        from half_fold.core.measure.opencv import cv2  # which takes a tenth of a second

        high, wide = plane.shape[:2]
        across, down = np.hypot(seen.a, seen.b), np.hypot(seen.c, seen.d)
        size = min(wide, max(1, round(float(across) * 2))), min(high, max(1, round(float(down) * 2)))
        reduced = plane if size == (wide, high) else cv2.resize(plane, size, interpolation=cv2.INTER_AREA)
        there = [[seen.a, seen.c, seen.e - window.left], [seen.b, seen.d, seen.f - window.top], [0, 0, 1]]
        back = np.linalg.inv(np.array(there))[:2] * np.array([[size[0]], [size[1]]])
        back[:, 2] += back[:, :2].sum(1) / 2 - 0.5  # OpenCV counts from the middle of the first pixel
        drawn = cv2.warpAffine(
            reduced,
            back,
            (window.right - window.left, window.bottom - window.top),
            flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_REPLICATE,
        )
        return _shares(np.asarray(drawn))

    def _within_edges(self, seen: Affine, window: PlaneWindow) -> Plane:
        """1 where the middle of a pixel of a window lies on a picture, 0 beyond its edges."""
        back = seen.inverse()
        across, down = np.arange(window.left, window.right) + 0.5, np.arange(window.top, window.bottom)[:, None] + 0.5
        inside = np.ones((len(down), across.size), np.float32)
        for by_x, by_y, off in ((back.a, back.c, back.e), (back.b, back.d, back.f)):
            at = by_x * across + (by_y * down + off)
            inside *= (at >= 0) & (at <= 1)
        return inside

    def _fill(self, parts: Sequence[npt.NDArray[np.float64]], paint: Paint) -> None:
        self._tone(parts, paint, self._black.shapes(paint))

    def _tone(self, parts: Sequence[npt.NDArray[np.float64]], paint: Paint, overprinted: bool) -> None:
        window, alpha = self._coverage(parts)
        if window is None:
            return
        source = self._shares(paint) if isinstance(paint, Tone) else self._graded(paint, window)
        self._put(source, alpha, window, keeps=source == 0 if overprinted else None)

    def _shares(self, tone: Tone) -> Plane:
        """The share of every plate in a tone."""
        own, spot = [tone.c, tone.m, tone.y, tone.k], tone.spot
        if spot == EVERY_PLATE:
            return np.full(4 + len(self._spots), tone.s, np.float32)
        if spot is not None and spot.name not in self._spots:
            own = list(tone.process)
        spots = [tone.s if spot is not None and spot.name == name else 0.0 for name in self._spots]
        return np.array([*own, *spots], np.float32)

    def _graded(self, gradient: Gradient, window: PlaneWindow) -> Plane:
        """The shares of a gradient at the middle of every pixel of a window."""
        back = self._to_pixels(gradient.affine).inverse()
        down, across = np.mgrid[window.of] + 0.5
        x, y = back.a * across + back.c * down + back.e, back.b * across + back.d * down + back.f
        at = x if gradient.way == "linear" else np.hypot(x, y)
        stood_in = any(stop.tone.spot is not None and stop.tone.spot.name not in self._spots for stop in gradient.stops)
        stops = list(finer(gradient.stops, STEPS) if stood_in else gradient.stops)
        places = [stop.at for stop in stops]
        shares = np.stack([self._shares(stop.tone) for stop in stops])
        return np.stack([np.interp(at, places, plane) for plane in shares.T], 2).astype(np.float32)

    def _window(self, parts: Sequence[npt.NDArray[np.float64]], by: float) -> PlaneWindow | None:
        """The pixels that parts reach, each place times ``by``; None where that is beyond the sheet."""
        if not parts:
            return None
        low = np.floor(np.min([part.min(0) for part in parts], 0) * by).astype(int) - 1
        high = np.ceil(np.max([part.max(0) for part in parts], 0) * by).astype(int) + 2
        left, top = (int(each) for each in np.maximum(low, 0))
        right, bottom = (int(each) for each in np.minimum(high, (self._wide, self._high)))
        return PlaneWindow(left, top, right, bottom) if right > left and bottom > top else None

    def _coverage(self, parts: Sequence[npt.NDArray[np.float64]]) -> tuple[PlaneWindow | None, Plane]:
        """How much of each pixel lies inside, by the way the parts turn (non-zero winding): in the window they reach.

        There is none where they lie beyond the sheet.
        """
        if self._through != Affine():
            parts = [self._through.of_all(part) for part in parts]
        parts = [part - (self.area.left, self.area.top) for part in parts if len(part)]
        window = self._window(parts, self.scale)
        if window is None:
            return None, _NOTHING
        box = _upright(parts)
        if box is not None:
            return window, _covered(box * self.scale, window)
        finer, high, wide = self._finer, window.bottom - window.top, window.right - window.left
        scale = self.scale * finer
        wound = np.zeros((high * finer, wide * finer), np.int8)
        corner = window.left * finer, window.top * finer
        for part in parts:
            places = part * scale - corner
            low = np.clip(np.floor(places.min(0)).astype(int) - 1, 0, (wound.shape[1], wound.shape[0]))
            ends = np.clip(np.ceil(places.max(0)).astype(int) + 2, 0, (wound.shape[1], wound.shape[0]))
            if (ends <= low).any() or len(part) < 3:
                continue
            way = 1 if turning(part) > 0 else -1
            size = int(ends[0] - low[0]), int(ends[1] - low[1])
            wound[low[1] : ends[1], low[0] : ends[0]] += way * _inside(places - low, size)
        from half_fold.core.measure.opencv import cv2

        filled = np.minimum(np.abs(wound), 2).astype(np.float32)
        return window, np.asarray(cv2.resize(filled, (wide, high), interpolation=cv2.INTER_AREA) / 2, np.float32)

    def _put(
        self, source: Plane, alpha: Plane, window: PlaneWindow, blend: Blend = "normal", keeps: Kept | None = None
    ) -> None:
        """Lay a source on what is there (ISO 32000, 11.3.6): ``keeps`` names inks that stay as they are behind it."""
        inks, there = self.inks[window.of], self.alpha[window.of]
        if blend == "normal" and keeps is None:
            _laid(source, alpha, inks, there)
            return
        behind = there[..., None]
        own = alpha[..., None]
        mixed = source if blend == "normal" else (1 - behind) * source + behind * blended(inks, source, blend)
        union = behind + own - behind * own
        with np.errstate(divide="ignore", invalid="ignore"):
            share = np.where(union > 0, own / union, 0)
        made = (1 - share) * inks + share * mixed
        if keeps is not None:  # as much of those inks lies there as before, though more lies there now
            with np.errstate(divide="ignore", invalid="ignore"):
                as_before = np.where(union > 0, inks * behind / union, 0)
            made = np.where(keeps, as_before, made)
        self.inks[window.of], self.alpha[window.of] = made.astype(np.float32), union[..., 0].astype(np.float32)


def _shares(pixels: npt.NDArray[np.generic]) -> Plane:
    """Pixels from 0 to 1, also those that are octets."""
    by = np.float32(1 / 255 if pixels.dtype == np.uint8 else 1)
    return np.asarray(np.multiply(pixels, by, dtype=np.float32))


def _laid(source: Plane, alpha: Plane, inks: Plane, there: Plane) -> None:
    """Lay a source on inks, as what is plain and knocks out is laid: in place."""
    if alpha.min() >= 1:
        inks[:], there[:] = source, 1
        return
    union = there + alpha - there * alpha
    share = np.divide(alpha, union, out=np.zeros_like(alpha), where=union > 0)
    for at in range(inks.shape[2]):
        inks[..., at] += share * (source[..., at] - inks[..., at])
    there[:] = union


def _upright(parts: Sequence[npt.NDArray[np.float64]]) -> npt.NDArray[np.float64] | None:
    """The left, top, right and bottom of parts that are one upright rectangle; None where they are not."""
    if len(parts) != 1 or not 4 <= len(parts[0]) <= 5 or (len(parts[0]) == 5 and (parts[0][0] != parts[0][4]).any()):
        return None
    sides = np.abs(np.roll(parts[0][:4], -1, 0) - parts[0][:4]) < 1e-9
    if not (sides.sum(1) >= 1).all() or (sides[:, 0] != sides[[2, 3, 0, 1], 0]).any() or (sides[0] == sides[1]).any():
        return None
    return np.concatenate([parts[0].min(0), parts[0].max(0)])


def _covered(box: npt.NDArray[np.float64], window: PlaneWindow) -> Plane:
    """How much of each pixel of a window lies inside a box, in pixels."""
    across, down = np.arange(window.left, window.right), np.arange(window.top, window.bottom)
    wide = np.clip(np.minimum(across + 1, box[2]) - np.maximum(across, box[0]), 0, 1)
    high = np.clip(np.minimum(down + 1, box[3]) - np.maximum(down, box[1]), 0, 1)
    return np.outer(high, wide).astype(np.float32)


def _inside(places: npt.NDArray[np.float64], size: tuple[int, int]) -> npt.NDArray[np.int8]:
    """2 where a polygon takes pixels in, 1 where its edge runs through them."""
    from half_fold.core.measure.opencv import cv2

    inside = np.zeros((size[1], size[0]), np.uint8)
    corners = np.round((places - 0.5) * _PARTS).astype(np.int32)
    cv2.fillPoly(inside, [corners], 2, shift=_SHIFT)
    cv2.polylines(inside, [corners], True, 1, shift=_SHIFT)
    return inside.view(np.int8)


def blended(behind: Plane, source: Plane, blend: Blend) -> Plane:
    """The inks of a blend (ISO 32000, 11.3.5.2), which works on what the inks leave of the light."""
    back, front = 1 - behind, 1 - source
    if blend == "multiply":
        light = back * front
    elif blend == "screen":
        light = back + front - back * front
    elif blend == "darken":
        light = np.minimum(back, front)
    elif blend == "lighten":
        light = np.maximum(back, front)
    elif blend == "overlay":
        light = np.where(back <= 0.5, 2 * back * front, 1 - 2 * (1 - back) * (1 - front))
    elif blend == "soft-light":
        curved = np.where(back <= 0.25, ((16 * back - 12) * back + 4) * back, np.sqrt(back))
        darker, lighter = back - (1 - 2 * front) * back * (1 - back), back + (2 * front - 1) * (curved - back)
        light = np.where(front <= 0.5, darker, lighter)
    else:
        light = np.broadcast_to(front, back.shape)
    return np.asarray(1 - light, np.float32)


def on_paper(planes: Planes) -> Plane:
    """The inks as they come to lie on bare paper."""
    return np.asarray(planes.inks * planes.alpha[..., None], np.float32)
