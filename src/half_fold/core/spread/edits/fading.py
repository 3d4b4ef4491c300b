"""A fade drawn over a thing: its line, its stops, and a name for it once it pleases."""

from collections.abc import Callable

from msgspec.structs import replace

from half_fold.core.inks.fades import LEAST, MOST
from half_fold.core.inks.naming import new_paint_name
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import (
    Block,
    Fade,
    FadeStop,
    HoldsDisplay,
    HoldsPanel,
    Look,
    Publication,
)
from half_fold.core.publication.surgery import block_named, require_free, with_thing_anywhere
from half_fold.core.spread.settable.light_properties import FADES, with_light
from half_fold.core.spread.settable.type_properties import first_role

Change = Callable[[Fade], Fade]
Share = tuple[float, float]  # a place as shares of a block's width and height
BLACK = "black"


def fade_of(publication: Publication, block: str) -> Fade | None:
    """The fade that lies over a block alone; None where none does."""
    light = block_named(publication, block).light
    return None if light is None else light.fade


def draw_fade(publication: Publication, block: str, start: Share, end: Share) -> Publication:
    """A fade over a block from a place to a place: the one that it has, or its own ink until nothing is left of it.

    Problem where it is locked, or is nothing that a fade is laid on.
    """
    require_free(publication, block)
    found = block_named(publication, block)
    if not isinstance(found.holds, FADES):
        raise Problem("A fade is drawn over words, a panel or a picture; choose one of these first.")
    fade = fade_of(publication, block) or Fade(name="", stops=_begun(publication, found))
    rounded = tuple((round(x, 4), round(y, 4)) for x, y in (start, end))
    return _with_fade(publication, found, replace(fade, line=(rounded[0], rounded[1])))


def _begun(publication: Publication, block: Block) -> tuple[FadeStop, ...]:
    """From a block's own ink to nothing of it."""
    ink, tint = getattr(block.holds, "ink", "") or BLACK, getattr(block.holds, "tint", 100.0)
    if isinstance(block.holds, HoldsDisplay) and not block.holds.ink:
        role = first_role(publication, block)
        ink, tint = role.ink, role.tint
    if all(each.name != ink for each in publication.inks):  # it is filled with a fade already
        ink = publication.inks[0].name
    return FadeStop(ink=ink, at=0.0, tint=tint), FadeStop(ink=ink, at=100.0, tint=tint, opacity=0.0)


def _with_fade(publication: Publication, block: Block, fade: Fade | None) -> Publication:
    light = replace(block.light or Look(name=""), fade=fade)
    return with_thing_anywhere(publication, with_light(block, light))


def change_fade(publication: Publication, block: str, change: Change) -> Publication:
    """The fade over a block changed. Problem where it has none or is locked."""
    require_free(publication, block)
    fade = fade_of(publication, block)
    if fade is None:
        raise Problem("There is no fade there yet; draw a line over it first.")
    return _with_fade(publication, block_named(publication, block), change(fade))


def move_stop(fade: Fade, number: int, at: float) -> Fade:
    """The stop of that number, counted from 0, at so many per cent of the way: between its neighbours."""
    low = fade.stops[number - 1].at if number else 0.0
    high = fade.stops[number + 1].at if number + 1 < len(fade.stops) else 100.0
    return with_stop(fade, number, at=round(min(max(at, low), high), 1))


def with_stop(fade: Fade, number: int, **values: object) -> Fade:
    """A stop with other values."""
    made = replace(fade.stops[number], **values)
    return replace(fade, stops=(*fade.stops[:number], made, *fade.stops[number + 1 :]))


def add_stop(fade: Fade, at: float) -> Fade:
    """One more stop at so many per cent of the way, as the one before it. Problem where there are too many."""
    if len(fade.stops) >= MOST:
        raise Problem(f"A fade runs over {MOST} inks at most; take one away first.")
    before = max((stop for stop in fade.stops if stop.at <= at), key=lambda stop: stop.at, default=fade.stops[0])
    stops = sorted((*fade.stops, replace(before, at=round(at, 1))), key=lambda stop: stop.at)
    return replace(fade, stops=tuple(stops))


def drop_stop(fade: Fade, number: int) -> Fade:
    """Without one of its stops. Problem where it would have too few."""
    if len(fade.stops) <= LEAST:
        raise Problem(f"A fade runs over {LEAST} inks at least.")
    return replace(fade, stops=(*fade.stops[:number], *fade.stops[number + 1 :]))


def reverse_fade(fade: Fade) -> Fade:
    """The other way round."""
    return replace(fade, stops=tuple(replace(stop, at=100.0 - stop.at) for stop in reversed(fade.stops)))


def turn_outward(fade: Fade) -> Fade:
    """Outward from where it began, or straight again."""
    return replace(fade, way="straight" if fade.way == "outward" else "outward")


def keep_fade(publication: Publication, block: str, called: str) -> Publication:
    """The fade over a block by a name among the job's, which then fills the block. Problem where it is none."""
    fade, found = fade_of(publication, block), block_named(publication, block)
    if fade is None:
        raise Problem("There is no fade there yet; draw a line over it first.")
    if not isinstance(found.holds, HoldsPanel | HoldsDisplay):
        raise Problem("A picture is not filled with an ink; its fade stays its own.")
    name = new_paint_name(publication, called)
    made = replace(publication, fades=(*publication.fades, replace(fade, name=name)))
    light = replace(found.light or Look(name=""), fade=None)
    if isinstance(found.holds, HoldsPanel):
        filled = with_light(replace(found, holds=replace(found.holds, ink=name, tint=100.0)), light)
    else:
        filled = with_light(found, replace(light, fill=name))
    return with_thing_anywhere(made, filled)
