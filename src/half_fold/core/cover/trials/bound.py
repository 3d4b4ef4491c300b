"""The bound copy in perspective, with its real thickness and lit: standing, lying, open, its jacket half off."""

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.brief.wrap import SQUARE_MM, is_cased
from half_fold.core.cover.trials.places import resample
from half_fold.core.cover.trials.seen import Pixels, Seen
from half_fold.core.drawing.outline import turning

TABLE = (150, 149, 147)
PAPER = (240, 237, 230)
LIGHT = np.array([-0.15, -0.55, 1.0])  # towards it: left, above and before
AMBIENT = 0.55
STRIPS = 28  # of a curved page
_FAR = 3.2  # of the copy's size: how far the eye is away
_CLOTH = (128, 122, 112)

Reals = npt.NDArray[np.float64]


class Facet(Struct, frozen=True, eq=False):
    """A flat part: pixels, and its corners from the upper left clockwise, in mm (x right, y down, z near)."""

    pixels: Pixels
    corners: Reals
    over: int = 0  # what lies on others is drawn after them, wherever it is

    @property
    def normal(self) -> Reals:
        """Outward, of unit length."""
        across, down = self.corners[1] - self.corners[0], self.corners[3] - self.corners[0]
        way = np.cross(across, down)
        return np.asarray(way / np.linalg.norm(way))


def bound_copy(seen: Seen, how: str, wide: int, high: int, pages: tuple[Pixels | None, Pixels | None]) -> Pixels:
    """The copy ``standing``, ``lying``, ``open`` at a spread, or with its ``jacket`` half off."""
    width, height = seen.size
    thick = max(seen.thick, 0.4)
    right_bound = seen.publication.brief.right_bound
    if how == "open":
        faces = list(_open(seen, pages, thick))
        view = _view(0.0, 0.8, (2 * width, height))
    elif how == "lying":
        faces = _closed(seen, thick)
        view = _view(0.0, 0.85, (width * 1.25, height), 0.32)
    else:
        faces = _closed(seen, thick)
        if how == "jacket":
            faces += _half_off(seen, thick)
        view = _view(-0.62 if right_bound else 0.62, 0.14, (width * 1.2, height))
    return _painted(faces, view, wide, high, is_flat=how in ("lying", "open"))


def _closed(seen: Seen, thick: float) -> list[Facet]:
    """A block of leaves between its covers: a case stands proud of it by its squares."""
    width, height = seen.size
    near, far = thick / 2, -thick / 2
    at_left = not seen.publication.brief.right_bound
    square = SQUARE_MM if is_cased(seen.publication) else 0.0
    board = min(2.5, thick / 3) if square else 0.0
    front = Facet(seen.front, _quad((0, 0, near), (width, 0, near), (width, height, near), (0, height, near)))
    head = _edge(width, thick, False)
    fore = _edge(thick, height, True)
    top, foot = square, height - square
    inner, outer = near - board, far + board
    x0, x1 = (0.0, width - square) if at_left else (square, width)
    made = [
        Facet(head, _quad((x0, top, outer), (x1, top, outer), (x1, top, inner), (x0, top, inner))),
        Facet(head, _quad((x0, foot, inner), (x1, foot, inner), (x1, foot, outer), (x0, foot, outer))),
    ]
    if at_left:
        made.append(Facet(fore, _quad((x1, top, inner), (x1, top, outer), (x1, foot, outer), (x1, foot, inner))))
    else:
        made.append(Facet(fore, _quad((x0, top, outer), (x0, top, inner), (x0, foot, inner), (x0, foot, outer))))
    if square:
        made += _boards(seen, near, far, board)
    spine = _spine_pixels(seen, thick)
    if at_left:
        made.append(Facet(spine, _quad((0, 0, far), (0, 0, near), (0, height, near), (0, height, far))))
    else:
        made.append(Facet(spine, _quad((width, 0, near), (width, 0, far), (width, height, far), (width, height, near))))
    return [*made, front]


def _boards(seen: Seen, near: float, far: float, board: float) -> Iterator[Facet]:
    """The edges of both boards, covered as the front is where it ends."""
    width, height = seen.size
    plain = np.full((4, 4, 3), seen.front[-1].mean(axis=0), np.uint8)
    for first, last in ((near - board, near), (far, far + board)):
        yield Facet(plain, _quad((0, 0, first), (width, 0, first), (width, 0, last), (0, 0, last)))
        yield Facet(plain, _quad((width, 0, last), (width, 0, first), (width, height, first), (width, height, last)))
        yield Facet(plain, _quad((0, 0, first), (0, 0, last), (0, height, last), (0, height, first)))
        yield Facet(plain, _quad((0, height, last), (width, height, last), (width, height, first), (0, height, first)))


def _half_off(seen: Seen, thick: float) -> Iterator[Facet]:
    """The jacket drawn up off its case: the case is seen below it, in plain cloth."""
    width, height = seen.size
    up, near = -height * 0.3, thick / 2 + 0.6
    bare, low = np.full((8, 8, 3), _CLOTH, np.uint8), height + up
    at = width if seen.publication.brief.right_bound else 0.0
    first, last = (near, -near) if at else (-near, near)
    yield Facet(bare, _quad((0, 0, near), (width, 0, near), (width, height, near), (0, height, near)), 1)
    yield Facet(bare, _quad((at, 0, first), (at, 0, last), (at, height, last), (at, height, first)), 1)
    yield Facet(seen.front, _quad((0, up, near), (width, up, near), (width, low, near), (0, low, near)), 2)
    spine = _spine_pixels(seen, thick)
    yield Facet(spine, _quad((at, up, first), (at, up, last), (at, low, last), (at, low, first)), 2)


def _open(seen: Seen, pages: tuple[Pixels | None, Pixels | None], thick: float) -> Iterator[Facet]:
    """Two pages that rise from the fold and fall to their edges, on halves of the block."""
    width, height = seen.size
    blank = np.full((8, 8, 3), PAPER, np.uint8)
    edge = _edge(thick, height, True)
    foot = _edge(width, thick, False)
    half = thick / 2
    for way, page in ((-1, pages[0]), (1, pages[1])):
        pixels = page if page is not None else blank
        yield Facet(edge, _upright(way * width, height, half, way))
        x0, x1 = (-width, 0.0) if way < 0 else (0.0, width)
        yield Facet(foot, _quad((x0, height, half), (x1, height, half), (x1, height, 0), (x0, height, 0)))
        yield from _page(pixels, way, width, height, half)


def _page(pixels: Pixels, way: int, width: float, height: float, half: float) -> Iterator[Facet]:
    """A page in strips, closer together towards the fold that it rises from."""
    places = np.linspace(0, 1, STRIPS + 1) ** 1.7
    bent = min(height * 0.045, half + 5)
    rise = half + bent * (1 - np.exp(-9 * places)) * (1 - places) ** 1.3
    wide = pixels.shape[1]
    for (a, b), (low, high) in zip(pairwise(places), pairwise(rise), strict=True):
        if way > 0:
            first, last, ends = a * wide, b * wide, ((a, low), (b, high))
        else:
            first, last, ends = (1 - b) * wide, (1 - a) * wide, ((-b, high), (-a, low))
        part = pixels[:, int(first) : max(math.ceil(last), int(first) + 1)]
        (x0, z0), (x1, z1) = ends
        x0, x1 = x0 * width, x1 * width
        yield Facet(part, _quad((x0, 0, z0), (x1, 0, z1), (x1, height, z1), (x0, height, z0)), 1)


def _upright(x: float, height: float, half: float, way: int) -> Reals:
    if way > 0:
        return _quad((x, 0, half), (x, 0, 0), (x, height, 0), (x, height, half))
    return _quad((x, 0, 0), (x, 0, half), (x, height, half), (x, height, 0))


def _spine_pixels(seen: Seen, thick: float) -> Pixels:
    """The spine; where there is none, the folded sheet's outer edge in the colour of the front's own."""
    if seen.spine is not None:
        return seen.spine
    return np.ascontiguousarray(seen.front[:, :2])


def _edge(wide: float, high: float, is_upright: bool) -> Pixels:
    """Edges of leaves, as fine lines that differ a little."""
    chance = np.random.default_rng(7)
    count = max(4, round((wide if is_upright else high) * 6))
    lines = np.clip(1 + chance.normal(0, 0.045, count), 0.8, 1.05)[:, None] * np.array(PAPER)
    strip = np.clip(lines, 0, 255).astype(np.uint8)
    return np.repeat(strip[None], 8, axis=0) if is_upright else np.repeat(strip[:, None], 8, axis=1)


def _quad(*corners: Sequence[float]) -> Reals:
    return np.array(corners, float)


# Seeing it ----------------------------------------------------------------------------------------


def _view(aside: float, above: float, size: tuple[float, float], about: float = 0.0) -> tuple[Reals, float]:
    """How it is turned, in radians, and how far away the eye is.

    Turned ``about`` itself as it lies, then about its upright by ``aside``, then down by ``above``.
    """
    z = np.array([[math.cos(about), -math.sin(about), 0], [math.sin(about), math.cos(about), 0], [0, 0, 1]])
    y = np.array([[math.cos(aside), 0, math.sin(aside)], [0, 1, 0], [-math.sin(aside), 0, math.cos(aside)]])
    x = np.array([[1, 0, 0], [0, math.cos(above), -math.sin(above)], [0, math.sin(above), math.cos(above)]])
    return x @ y @ z, _FAR * max(size)


def _painted(faces: Sequence[Facet], view: tuple[Reals, float], wide: int, high: int, is_flat: bool) -> Pixels:
    """The faces that look towards the eye, from far to near, each in its light, over its shadow on a table."""
    from half_fold.core.measure.opencv import cv2

    turn, far = view
    every = np.concatenate([face.corners for face in faces])
    middle = (every.min(0) + every.max(0)) / 2
    fine = 2

    def flat(corners: Reals) -> tuple[Reals, Reals]:
        seen = (corners - middle) @ turn.T
        depth = far - seen[:, 2]
        return seen[:, :2] * far / depth[:, None], depth

    places = np.concatenate([flat(face.corners)[0] for face in faces])
    low, most = places.min(0), places.max(0)
    scale = fine * min(wide * 0.82 / (most[0] - low[0]), high * 0.82 / (most[1] - low[1]))
    off = np.array([wide, high]) * fine / 2 - (low + most) / 2 * scale
    canvas: npt.NDArray[np.float32] = np.full((high * fine, wide * fine, 3), TABLE, np.float32)
    canvas *= np.linspace(0.94, 1.05, high * fine, dtype=np.float32)[:, None, None]
    canvas = _with_shadow(canvas, [flat(face.corners)[0] * scale + off for face in faces], scale, is_flat)
    light = LIGHT / np.linalg.norm(LIGHT)
    for face in sorted(faces, key=lambda each: (each.over, -float(flat(each.corners)[1].mean()))):
        there, _ = flat(face.corners)
        spots = (there * scale + off).astype(np.float32)
        if turning(spots) <= 1e-6:
            continue
        lit = AMBIENT + (1 - AMBIENT) * max(0.0, float(face.normal @ np.linalg.inv(turn) @ light)) / 0.85
        size = spots.max(0) - spots.min(0)
        pixels = _reduced(face.pixels, size)
        across, down = pixels.shape[1], pixels.shape[0]
        corners = np.array([(0, 0), (across, 0), (across, down), (0, down)], np.float32)
        left, top = (int(at) - 1 for at in spots.min(0))
        right, bottom = (int(at) + 2 for at in spots.max(0))
        left, top, right, bottom = max(0, left), max(0, top), min(wide * fine, right), min(high * fine, bottom)
        inside = spots - np.array([left, top], np.float32)
        size_of_part = right - left, bottom - top
        drawn = cv2.warpPerspective(
            pixels.astype(np.float32) * min(1.06, lit), cv2.getPerspectiveTransform(corners, inside), size_of_part,
            flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE,
        )  # fmt: skip
        mask = np.zeros((bottom - top, right - left), np.uint8)
        cv2.fillConvexPoly(mask, np.round(inside * 16).astype(np.int32), 255, cv2.LINE_AA, 4)
        share = (mask / np.float32(255))[..., None]
        there_now = canvas[top:bottom, left:right]
        canvas[top:bottom, left:right] = there_now * (1 - share) + drawn * share
    made = cv2.resize(canvas, (wide, high), interpolation=cv2.INTER_AREA)
    return np.clip(made, 0, 255).astype(np.uint8)


def _reduced(pixels: Pixels, size: Reals) -> Pixels:
    """No finer than twice what is seen, so that nothing flickers."""
    high, wide = pixels.shape[:2]
    across, down = min(wide, max(2, int(size[0]) * 2)), min(high, max(2, int(size[1]) * 2))
    return pixels if (across, down) == (wide, high) else resample(pixels, across, down)


def _with_shadow(
    canvas: npt.NDArray[np.float32], faces: Sequence[Reals], scale: float, is_flat: bool
) -> npt.NDArray[np.float32]:
    """Soft, to the right and below: of all of a copy that lies, along the foot of one that stands."""
    from half_fold.core.measure.opencv import cv2

    mask = np.zeros(canvas.shape[:2], np.float32)
    every = np.concatenate(faces)
    low, top = every.min(0), every.max(0)
    if is_flat:
        for spots in faces:
            shifted = spots + np.array([5.0, 7.0]) * scale
            cv2.fillConvexPoly(mask, np.round(shifted).astype(np.int32), 1.0)
    else:
        foot = every[every[:, 1] > top[1] - 0.2 * (top[1] - low[1])]
        cv2.fillConvexPoly(mask, cv2.convexHull(np.round(foot + np.array([6.0, 2.0]) * scale).astype(np.int32)), 1.0)
        middle = (foot[:, 0].min() + foot[:, 0].max()) / 2
        cv2.ellipse(
            mask, (int(middle), int(top[1])), (int((top[0] - low[0]) * 0.56), int(9 * scale)), 0, 0, 360, 1.0, -1
        )
    soft = np.asarray(cv2.GaussianBlur(mask, (0, 0), 7 * scale), np.float32)
    return np.asarray(canvas * (1 - 0.45 * soft[..., None]), np.float32)
