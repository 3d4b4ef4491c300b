"""Things scaled by hand: where they lie alone, or their type, their strokes and their corners with them."""

import re
from collections.abc import Container, Iterable
from typing import Any, TypeVar

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.grid.stops import Edge
from half_fold.core.measure.length import Length, of_unit
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Block, HoldsDisplay, Look, Publication
from half_fold.core.publication.surgery import page_of_thing, require_free, role_named, with_thing_anywhere
from half_fold.core.spread.edits.grouping import blocks_in, outermost, reach_of
from half_fold.core.spread.setting.looks import worn_by
from half_fold.core.spread.where.frames import thing_box
from half_fold.core.spread.where.reaching import put_in

_TYPED = re.compile(r"(\d+(?:[.,]\d+)?)\s*%?\s*(alone)?")
LEAST = 0.02  # times as large as they were, at the least
_R = TypeVar("_R", bound=Struct)


def scale_things(
    publication: Publication,
    was: Publication,
    names: Iterable[str],
    by: tuple[float, float],
    about: tuple[float, float],
    *,
    alone: bool = False,
) -> Publication:
    """The things as they ``was``, so many times as wide and as high ``about`` a place of spread space.

    What is in them grows by the smaller of the two, unless they are scaled ``alone``: type, insets, strokes, corners
    and what falls from them. A story's type is that of its roles, and stays. Problem where one is locked.
    """
    across, down = (max(LEAST, each) for each in by)
    for name in blocks_in(was, outermost(was, names)):
        require_free(publication, name)
        index, _, block = page_of_thing(was, name)
        assert isinstance(block, Block)
        box = _about(thing_box(was, index + 1, block), (across, down), about)
        if not alone:
            grown = scaled_within(was, block, min(across, down))
            publication = with_thing_anywhere(publication, replace(grown, place=_now(publication, name).place))
        publication = put_in(publication, name, box)
    return publication


def _now(publication: Publication, name: str) -> Block:
    block = page_of_thing(publication, name)[2]
    assert isinstance(block, Block)
    return block


def _about(box: Rect, by: tuple[float, float], place: tuple[float, float]) -> Rect:
    (across, down), (x, y) = by, place
    return Rect(
        x + (box.left - x) * across, y + (box.top - y) * down, x + (box.right - x) * across, y + (box.bottom - y) * down
    )


def scaled_within(publication: Publication, block: Block, by: float) -> Block:
    """A block with all that is measured in it so many times as large; where it lies is left as it is."""
    look = worn_by(publication, block)
    lit = None if look is None else _light(look, block.light, by)
    wrap = None if block.wrap is None else scaled(block.wrap, by)
    held = block.holds
    holds = _words(publication, held, by) if isinstance(held, HoldsDisplay) else scaled(held, by)
    return replace(block, holds=holds, inset=_length(block.inset, by), wrap=wrap, light=lit)


def _light(look: Look, own: Look | None, by: float) -> Look | None:
    """What a block states of its light so that all of it, its look's as well, is so many times as large."""
    measured = {part: scaled(getattr(look, part), by) for part in ("shadow", "glow") if getattr(look, part)}
    if look.contours:
        measured["contours"] = tuple(scaled(each, by) for each in look.contours)
    return own if not measured else replace(own or Look(name=""), **measured)


def _words(publication: Publication, holds: HoldsDisplay, by: float) -> HoldsDisplay:
    """Words at a size of their own that is so many times their size, the second lines in their ratio.

    Their leading they take from their size; what else they state over their roles grows with it.
    """
    ground = holds.ground if holds.ground is None else scaled(holds.ground, by)
    own = holds.own if holds.own is None else scaled(holds.own, by, set(holds.own.own) - {"leading"})
    made = replace(holds, ground=ground, own=own, size=_length(holds.size, by))
    if holds.size is not None or not holds.paragraphs:
        return made
    names = dict.fromkeys(paragraph.role for paragraph in holds.paragraphs)
    sizes = [role_named(publication, name).size for name in names]
    second = round(100 * sizes[1].pt / sizes[0].pt, 2) if len(sizes) > 1 and not holds.second else holds.second
    return replace(made, size=_length(sizes[0], by), second=second)


def scaled(record: _R, by: float, among: Container[str] | None = None) -> _R:
    """A record with every length in it, and in the records it holds, so many times as long; or those ``among`` some."""
    made: dict[str, Any] = {}
    for name in record.__struct_fields__:
        value = getattr(record, name)
        if among is not None and name not in among:
            continue
        if isinstance(value, Length):
            made[name] = _length(value, by)
        elif isinstance(value, Struct):
            made[name] = scaled(value, by)
    return replace(record, **made) if made else record


def _length(value: Length | None, by: float) -> Length | None:
    """A length so many times as long, in the unit it was typed in: to about a micrometre."""
    if value is None or not value.pt:
        return value
    unit = next((each for each in ("mm", "in", "cm") if value.typed.endswith(each)), "pt")
    return of_unit(value.pt * by, unit)


def scale_as_typed(publication: Publication, name: str, typed: str) -> Publication:
    """A thing so many per cent as large about its middle: ``120 %``, or ``80 % alone`` without what is in it."""
    found = _TYPED.fullmatch(typed.strip())
    share = float(found[1].replace(",", ".")) / 100 if found is not None else 0.0
    if found is None or not share:
        raise Problem(f"“{typed}” says not how large it becomes; give per cent of its size: 80 %, or 80 % alone.")
    middle = reach_of(publication, name)[1].centre
    return scale_things(publication, publication, [name], (share, share), middle, alone=bool(found[2]))


def drawn_scale(
    box: Rect, turn: Affine | None, edges: tuple[Edge, ...], to: tuple[float, float], *, stretched: bool = False
) -> tuple[tuple[float, float], tuple[float, float]]:
    """How many times as wide and as high a box becomes where edges of it are drawn to a place, and about which place.

    Two edges are a corner, which keeps its proportion unless it is ``stretched``; what is turned always does. What lies
    opposite stays where it is seen.
    """
    x, y = to if turn is None else turn.inverse().of(*to)
    across, down, left, top = 1.0, 1.0, box.left, box.top
    if "left" in edges or "right" in edges:
        left, moved = (box.right, box.left) if "left" in edges else (box.left, box.right)
        across = max(LEAST, (x - left) / (moved - left))
    if "top" in edges or "bottom" in edges:
        top, moved = (box.bottom, box.top) if "top" in edges else (box.top, box.bottom)
        down = max(LEAST, (y - top) / (moved - top))
    if turn is not None or (len(edges) == 2 and not stretched):
        across = down = max(across, down) if len(edges) == 2 else across * down
    return (across, down), (left, top) if turn is None else turn.of(left, top)
