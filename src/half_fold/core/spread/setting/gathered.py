"""Captions of several pictures gathered in one place, each told from where it lies in words that follow the layout."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.records import Block, HoldsPicture, Publication
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.spread.where.frames import blocks_on, hull_of

CLOCKWISE_FROM = 4  # pictures: so many are told in their round, fewer each by its side
BESIDE = 0.35  # of its distance off: what lies less aside than that lies straight above, below, left or right


class _Told(NamedTuple):
    words: str
    box: Rect
    page: int


def gathered(publication: Publication, block: Block) -> str:
    """The captions of all pictures on the spread of a block that have none of their own laid.

    ``Left: Frost on the gate. Above: Mist.`` as they lie from the block; of four and more ``Clockwise from the upper
    left: ...``; of a single one its words alone. Nothing where there is none, or the block lies on no page.
    """
    try:
        index, _, _ = page_of_block(publication, block.id)
    except Problem:
        return ""
    spread, own = spread_of(publication, index + 1), hull_of(publication, index + 1, block)
    on = list(blocks_on(publication, spread))
    has_own = {each.of for _, _, each in on if each.of}
    told = [
        _Told(words, hull_of(publication, number, each), number)
        for number, _, each in on
        if isinstance(each.holds, HoldsPicture)
        and each.id not in has_own
        and (words := _sentence(picture_of(publication, each.holds.picture).caption))
    ]
    if len(told) < 2:
        return told[0].words if told else ""
    if len(told) >= CLOCKWISE_FROM:
        round_ = _clockwise(told)
        said = "; ".join(each.words.rstrip(".") for each in round_)
        return f"Clockwise from the {_corner(round_[0], told)}: {said}."
    places = [_place(each, own, index + 1) for each in told]
    if len(set(places)) < len(places):
        places = [_among(each, told) for each in told]
    order = sorted(range(len(told)), key=lambda at: (round(told[at].box.top / 20), told[at].box.left))
    return " ".join(f"{places[at].capitalize()}: {told[at].words}" for at in order)


def _sentence(caption: str) -> str:
    words = " ".join(caption.split())
    return words if not words or words[-1] in ".!?…" else f"{words}."


def _place(each: _Told, own: Rect, page: int) -> str:
    """Where a picture lies from the words that tell it."""
    if each.page != page and (each.box.left >= own.right or each.box.right <= own.left) and _level(each.box, own):
        return "opposite"
    across, down = each.box.centre[0] - own.centre[0], each.box.centre[1] - own.centre[1]
    apart_x = max(0.0, each.box.left - own.right, own.left - each.box.right)
    apart_y = max(0.0, each.box.top - own.bottom, own.top - each.box.bottom)
    side = "left" if across < 0 else "right"
    end = "above" if down < 0 else "below"
    if apart_y == 0 or apart_y < BESIDE * apart_x:
        return side
    return end if apart_x == 0 or apart_x < BESIDE * apart_y else f"{end}, {side}"


def _level(one: Rect, other: Rect) -> bool:
    return one.top < other.bottom and one.bottom > other.top


def _among(each: _Told, told: Sequence[_Told]) -> str:
    """Where a picture lies among the others, where their sides from the words are not told apart."""
    x = [other.box.centre[0] for other in told]
    y = [other.box.centre[1] for other in told]
    at_x, at_y = each.box.centre
    wide, high = max(x) - min(x), max(y) - min(y)
    if wide >= high:
        return _step(at_x, x, ("left", "middle", "right"))
    return _step(at_y, y, ("top", "middle", "foot"))


def _step(at: float, every: Sequence[float], names: tuple[str, str, str]) -> str:
    return names[0] if at == min(every) else names[2] if at == max(every) else names[1]


def _middle(told: Sequence[_Told]) -> tuple[float, float]:
    return sum(each.box.centre[0] for each in told) / len(told), sum(each.box.centre[1] for each in told) / len(told)


def _clockwise(told: Sequence[_Told]) -> list[_Told]:
    """Round their middle from the one nearest to the upper left."""
    x, y = _middle(told)

    def turn(each: _Told) -> float:
        return math.atan2(each.box.centre[1] - y, each.box.centre[0] - x)

    first = min(told, key=lambda each: each.box.centre[0] + each.box.centre[1])
    start = turn(first)
    return sorted(told, key=lambda each: (turn(each) - start + 1e-9) % (2 * math.pi))


def _corner(first: _Told, told: Sequence[_Told]) -> str:
    x, y = _middle(told)
    return f"{'upper' if first.box.centre[1] <= y else 'lower'} {'left' if first.box.centre[0] <= x else 'right'}"
