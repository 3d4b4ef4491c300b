"""How well each picture would lie on each rectangle of a room, by itself: crop, fold, resolution, size, where it looks.

All at once, as arrays of (pictures, rectangles). What cannot be (a focus or what is kept clear cut off, or lost in the
fold) is FORBIDDEN.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.arrange.judging import FORBIDDEN
from half_fold.core.arrange.room import Room
from half_fold.core.arrange.texts import Text, cost_of
from half_fold.core.measure.entry import MM
from half_fold.core.publication.records import Picture

Reals = npt.NDArray[np.float64]

CLEAR = 25.0 * MM  # a focus nearer to the fold than this is felt to fall into it
IN_IT = 5.0 * MM
OVER_BOTH = 0.42  # of the spread: a picture over the fold that is smaller only stumbles over it
RATINGS = {"opens": 3.0, "carries": 2.0, "": 1.5, "fills": 1.0, "left out": 0.0}
WORDS = -1.0  # the rating of what is no picture
NO_PICTURE = Picture(id="", file="", width=1000, height=1000, digest="")
LARGER = 1.55  # times as large for each step a picture is worth more
LOOKS = "looks"  # the named point of a picture to which someone in it looks


class Item(Struct, frozen=True):
    """A picture to be arranged, or the ``text`` of a block, which has NO_PICTURE.

    ``turn`` is its place in the order that it is to be read in. ``block`` is what it lies in already, if anything;
    ``focus`` and ``clear`` (left, top, right, bottom) are shares of the picture. ``rect`` is the rectangle where it is
    to stay, ``size`` how many fields it is to have across and down.
    """

    picture: Picture
    turn: float
    block: str = ""
    focus: tuple[float, float] = (0.5, 0.5)
    clear: tuple[tuple[float, float, float, float], ...] = ()
    rect: int = -1
    size: tuple[int, int] | None = None
    text: Text | None = None

    @property
    def rating(self) -> float:
        """What it is worth; below 0 for words, which have no rank among pictures."""
        return RATINGS[self.picture.worth] if self.text is None else WORDS

    @property
    def called(self) -> str:
        """Its picture's file; ``words`` or ``text`` else."""
        if self.text is None:
            return self.picture.file
        return "text" if self.text.runs else "words"


class Fitness(NamedTuple):
    """What it costs, unweighted, (pictures, rectangles) each; ``cut`` (a share) and ``ppi`` are as they are."""

    crop: Reals
    fold: Reals
    sharp: Reals
    size: Reals
    looks: Reals
    cut: Reals
    ppi: Reals
    target: Reals


def fitness(room: Room, items: Sequence[Item], share: float, good_ppi: float) -> Fitness:
    """How well items lie anywhere; ``share`` of the room is theirs in all, and ``good_ppi`` is asked of them."""
    view = _View(room, items)
    target = targets(room, items, share)
    sizes = room.areas[None, :]
    off = np.abs(np.log(sizes / target[:, None]))
    found = Fitness(
        _crop(view),
        _fold(room, items, view, sizes[0]),
        _sharp(view.ppi, good_ppi),
        0.3 * np.maximum(0, off - 0.35) ** 2,
        _looks(room, items, view),
        view.cut,
        view.ppi,
        target,
    )
    for number, item in enumerate(items):
        if item.text is not None:
            _as_words(found, number, room, item.text)
    return found._replace(size=found.size + _not_as_asked(room, items))


def _as_words(found: Fitness, number: int, room: Room, text: Text) -> None:
    """What words cost anywhere stands with their size; nothing else is asked of them."""
    for part in (found.crop, found.fold, found.sharp, found.looks, found.cut):
        part[number] = 0
    found.ppi[number], found.size[number] = np.inf, cost_of(room, text)


def targets(room: Room, items: Sequence[Item], share: float) -> Reals:
    """How large each picture is to be by what it is worth, in square points, of what words leave; words as they are."""
    words = np.array([0.0 if item.text is None else item.text.area for item in items])
    weights = np.where(words > 0, 0, LARGER ** np.array([item.rating for item in items]))
    left = max(0.2, share - words.sum() / (room.area.width * room.area.height)) * room.area.width * room.area.height
    return np.where(words > 0, words, weights / max(weights.sum(), 1e-9) * left)


class _View:
    """What is seen of each picture in each rectangle, which it fills: as ``pictures/fit`` would place it.

    ``left`` and ``top`` are where the whole picture begins, ``wide`` and ``high`` how large it lies, in points.
    """

    def __init__(self, room: Room, items: Sequence[Item]) -> None:
        left, top, right, bottom = (side[None, :] for side in room.printed.T)
        wide = np.array([item.picture.width for item in items], np.float64)[:, None]
        high = np.array([item.picture.height for item in items], np.float64)[:, None]
        scale = np.maximum((right - left) / wide, (bottom - top) / high)
        self.wide, self.high = wide * scale, high * scale
        focus = np.array([item.focus for item in items], np.float64)
        self.left = _along(left, right, self.wide, focus[:, :1])
        self.top = _along(top, bottom, self.high, focus[:, 1:])
        hulls = np.array([_hull(item.clear) for item in items])
        self.left, cut_across = _kept_in(self.left, self.wide, hulls[:, 0:1], hulls[:, 2:3], left, right)
        self.top, cut_down = _kept_in(self.top, self.high, hulls[:, 1:2], hulls[:, 3:4], top, bottom)
        self.is_cut = cut_across | cut_down
        self.focus_x = self.left + focus[:, :1] * self.wide
        self.cut = 1 - (right - left) * (bottom - top) / (self.wide * self.high)
        self.ppi = 72 / scale
        art = [bool(item.picture.art) for item in items]
        self.ppi[art] = np.inf


def _hull(areas: Sequence[tuple[float, float, float, float]]) -> tuple[float, float, float, float]:
    """Round all that is kept clear; the middle alone where nothing is."""
    if not areas:
        return 0.5, 0.5, 0.5, 0.5
    lefts, tops, rights, bottoms = zip(*areas, strict=True)
    return min(lefts), min(tops), max(rights), max(bottoms)


def _along(start: Reals, end: Reals, size: Reals, focus: Reals) -> Reals:
    """The focus in the middle, as far as the picture still covers all."""
    return np.clip((start + end) / 2 - focus * size, end - size, start)


def _kept_in(
    at: Reals, size: Reals, low: Reals, high: Reals, start: Reals, end: Reals
) -> tuple[Reals, npt.NDArray[np.bool_]]:
    """Where it begins with all from ``low`` to ``high`` in view, and where that cannot be."""
    first, last = at + low * size, at + high * size
    moved = at + np.maximum(0, start - first) - np.maximum(0, last - end)
    moved = np.clip(moved, end - size, start)
    is_cut = (high > low) & ((moved + low * size < start - 0.5) | (moved + high * size > end + 0.5))
    return np.where(high > low, moved, at), is_cut


def _crop(view: _View) -> Reals:
    lost = np.maximum(view.cut, 0)
    cost = 0.6 * lost + 4 * lost**2 + 5 * np.maximum(0, lost - 0.5)
    return np.asarray(np.where(view.is_cut, FORBIDDEN, cost))


def _fold(room: Room, items: Sequence[Item], view: _View, sizes: Reals) -> Reals:
    """What lies over the fold is to be large, to go well over, and to have neither focus nor what is clear in it."""
    cost = np.zeros_like(view.left)
    if room.fold is None:
        return cost
    over = room.over_fold
    both = room.area.width * room.area.height
    half = len(room.columns) // 2
    hangs = over & ((half - room.rects[:, 0] == 1) | (room.rects[:, 1] - half == 0))
    cost += np.where(over, 1.3 * np.maximum(0, 1 - sizes / (OVER_BOTH * both)) + 0.7 * hangs, 0)[None, :]
    away = np.abs(view.focus_x - room.fold)
    cost += np.where(over, 3 * np.clip((CLEAR - away) / (CLEAR - IN_IT), 0, 1), 0)
    forbidden = over[None, :] & (away < room.loss + 1)
    for number, item in enumerate(items):
        for low, _, high, _ in item.clear:
            first = view.left[number] + low * view.wide[number]
            last = view.left[number] + high * view.wide[number]
            forbidden[number] |= over & (first < room.fold + room.loss) & (last > room.fold - room.loss)
    return np.asarray(np.where(forbidden, FORBIDDEN, cost))


def _sharp(ppi: Reals, good: float) -> Reals:
    """Nothing from what is asked on; much from two thirds of it down, so that other sizes are taken where there are."""
    step = good / 3
    cost = np.where(ppi >= good, 0, 0.3 * ((good - ppi) / step) ** 2)
    return np.asarray(np.where(ppi < 2 * step, 6 + 2.5 * (2 * step - ppi) / step, cost))


def _looks(room: Room, items: Sequence[Item], view: _View) -> Reals:
    """Who looks out of the spread: by how far off its middle that is."""
    cost = np.zeros_like(view.left)
    middle = room.area.centre[0]
    off = ((room.seen[:, 0] + room.seen[:, 2]) / 2 - middle) / (room.area.width / 2)
    for number, item in enumerate(items):
        for point in item.picture.points:
            if point.name == LOOKS:
                way = np.sign(point.across - item.focus[0])
                cost[number] += 0.45 * np.maximum(0, way * off)
    return cost


def _not_as_asked(room: Room, items: Sequence[Item]) -> Reals:
    """FORBIDDEN for what has another size than its item is to have."""
    cost = np.zeros((len(items), len(room.rects)))
    wide = room.rects[:, 1] - room.rects[:, 0] + 1
    high = room.rects[:, 3] - room.rects[:, 2] + 1
    for number, item in enumerate(items):
        if item.size is not None:
            cost[number] = np.where((wide == item.size[0]) & (high == item.size[1]), 0, FORBIDDEN)
    return cost
