"""Which block lies at a place: what is seen of it there counts, not the box that holds it."""

from collections.abc import Callable, Container
from typing import Any

import numpy as np

from half_fold.core.drawing.outline import Outline
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import Block, HoldsPanel, HoldsPicture, HoldsRule, Publication
from half_fold.core.publication.surgery import things_around
from half_fold.core.spread.setting.forms import is_plain, outline_in
from half_fold.core.spread.where.frames import block_box, blocks_on, thing_hull, things_on, turn_of

NEAR = 4.0  # points from a line, within which it is taken for hit


def block_at(publication: Publication, spread: Spread, x: float, y: float, hidden: Container[str] = ()) -> str | None:
    """The frontmost block at a place, by its id; those ``hidden`` while working are not met."""
    hit = None
    for number, _page, block in blocks_on(publication, spread):
        box, turn = block_box(publication, number, block), turn_of(publication, number, block)
        if block.id not in hidden and is_hit(block, box, *((x, y) if turn is None else turn.inverse().of(x, y))):
            hit = block.id
    return hit


def thing_at(publication: Publication, spread: Spread, x: float, y: float, inside: str = "",
             hidden: Container[str] = ()) -> str | None:  # fmt: skip
    """The frontmost thing at a place, by its id: a block in a group stands for the group.

    In the group that was entered, ``inside``, it is the thing in that one.
    """
    block = block_at(publication, spread, x, y, hidden)
    if block is None:
        return None
    way = [thing.id for thing in things_around(publication, block)]
    return way[way.index(inside) + 1] if inside in way[:-1] else way[0]


def things_within(publication: Publication, spread: Spread, area: Rect) -> tuple[str, ...]:
    """The things that an area touches, from back to front."""
    return tuple(thing.id for number, thing in things_on(publication, spread)
                 if thing_hull(publication, number, thing).meets(area))  # fmt: skip


def is_hit(block: Block, box: Rect, x: float, y: float) -> bool:
    """Whether a block that lies upright in its box is seen at a place.

    A panel without ink is its stroke alone, and a rule its line; what has a form is all that lies in that.
    """
    if not box.grown(NEAR).holds(x, y):
        return False
    hit = _HITS.get(type(block.holds))
    return box.holds(x, y) if hit is None else hit(block.holds, box, x, y)


def _is_on_panel(holds: HoldsPanel, box: Rect, x: float, y: float) -> bool:
    if not holds.ink and holds.edge is not None:
        return _apart(outline_in(holds.form, box), x, y) <= NEAR + holds.edge.weight.pt
    return _is_in_form(holds, box, x, y)


def _is_in_form(holds: HoldsPanel | HoldsPicture, box: Rect, x: float, y: float) -> bool:
    return box.holds(x, y) if is_plain(holds.form) else _is_inside(outline_in(holds.form, box), x, y)


def _is_on_rule(holds: HoldsRule, box: Rect, x: float, y: float) -> bool:
    from half_fold.core.spread.setting.panels import rule_ends

    (x0, y0), (x1, y1) = rule_ends(holds, box)
    line = np.array([[x0, y0], [x1, y1]])
    return _nearest(line[:1], line[1:], x, y) <= NEAR + holds.weight.pt / 2


def _apart(outline: Outline, x: float, y: float) -> float:
    """How far a place lies from an outline, in points."""
    parts = outline.flattened(0.5)
    return min(_nearest(part, np.roll(part, -1, axis=0), x, y) for part in parts)


def _nearest(starts: np.ndarray, ends: np.ndarray, x: float, y: float) -> float:
    """The distance of a place to the nearest of some stretches."""
    ways, here = ends - starts, np.array([x, y]) - starts
    lengths = np.maximum((ways**2).sum(1), 1e-12)
    along = np.clip((here * ways).sum(1) / lengths, 0, 1)[:, None]
    return float(np.hypot(*(here - ways * along).T).min())


def _is_inside(outline: Outline, x: float, y: float) -> bool:
    """By the way its parts turn round the place (non-zero winding)."""
    turns = 0
    for part in outline.flattened(0.5):
        ends = np.roll(part, -1, axis=0)
        (x0, y0), (x1, y1) = part.T, ends.T
        side = (x1 - x0) * (y - y0) - (x - x0) * (y1 - y0)
        turns += int(((y0 <= y) & (y1 > y) & (side > 0)).sum()) - int(((y0 > y) & (y1 <= y) & (side < 0)).sum())
    return turns != 0


# Kinds that are not seen all over their box.
_HITS: dict[type, Callable[[Any, Rect, float, float], bool]] = {
    HoldsRule: _is_on_rule,
    HoldsPanel: _is_on_panel,
    HoldsPicture: _is_in_form,
}
