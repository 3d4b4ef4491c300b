"""Frames: a stroke round a page, or round both pages of a spread as one, at a worked inset from the trim."""

from msgspec.structs import replace

from half_fold.core.grid.stops import EDGES
from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import facing, on_right
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Edge,
    HoldsPanel,
    Page,
    Publication,
)
from half_fold.core.publication.surgery import block_ids, fresh_id, thing_ids, with_things
from half_fold.core.publication.things import without

BOTH = "both"
DEEPEST_MM = 200.0


def frame_on(page: Page) -> Block | None:
    """The frame on a page: a panel without ink whose four edges stand as far inside the trim."""
    return next((block for block in page.blocks if _is_frame(block)), None)


def _is_frame(block: Block) -> bool:
    holds = block.holds
    if not isinstance(holds, HoldsPanel) or holds.ink or holds.edge is None:
        return False
    stops = _stops(block)
    return bool(stops) and all(stop.kind == "trim" and stop.off is not None and stop.off.pt <= 0 for stop in stops)


def _stops(block: Block) -> list[Stop]:
    return [getattr(block.place, edge) for edge in EDGES] if isinstance(block.place, Held) else []


def format_frame(publication: Publication, number: int) -> str:
    """How a page is framed, as it would be typed: ``5mm``, ``5mm both`` where its spread is, or nothing."""
    for owner in (number, _nearer(publication, number)):
        frame = frame_on(publication.pages[owner - 1])
        if (
            frame is not None
            and (stops := _stops(frame))[0].off is not None
            and (owner == number or _is_of_both(frame))
        ):
            inset = stops[0].off.typed.removeprefix("-").removeprefix("(").removesuffix(")")
            return f"{inset} {BOTH}" if _is_of_both(frame) else inset
    return ""


def _is_of_both(frame: Block) -> bool:
    return any(stop.facing for stop in _stops(frame))


def _nearer(publication: Publication, number: int) -> int:
    """The page of a spread whose blocks lie in front: a frame of both is its own."""
    other = facing(publication, number)
    return max(number, other) if 1 <= other <= len(publication.pages) else number


def set_frame(publication: Publication, number: int, text: str) -> Publication:
    """A frame so far inside the trim of a page, with “both” of its spread; typing nothing takes it away.

    Its weight and ink are those of a panel's stroke. Problem where there is no facing page, or no such inset.
    """
    words = text.strip().lower()
    both = words.endswith(BOTH)
    inset = words.removesuffix(BOTH).strip()
    front = _nearer(publication, number)
    if both and front == number and not 1 <= facing(publication, number) <= len(publication.pages):
        raise Problem(f"Page {number} has none facing it; give the inset alone.")
    off = None if inset in ("", "none") else _inwards(inset, publication.brief.unit)
    there = frame_on(publication.pages[number - 1]) or frame_on(publication.pages[front - 1])
    publication = _without_frame(publication, number)
    if front != number and (found := frame_on(publication.pages[front - 1])) is not None and _is_of_both(found):
        publication = _without_frame(publication, front)
    if off is None:
        return publication
    owner = front if both else number
    across = "left" if on_right(publication, owner) else "right"
    stops = {edge: Stop(kind="trim", off=off, facing=both and edge == across) for edge in EDGES}
    name = fresh_id("b", thing_ids(publication))
    held = Held(**stops)
    is_gone = there is not None and there.id not in block_ids(publication)
    made = Block(id=name, place=held, holds=HoldsPanel(ink="", edge=Edge()))
    framed = replace(there, place=held) if there is not None and is_gone else made
    page = publication.pages[owner - 1]
    return with_things(publication, page.id, lambda things: (*things, framed))


def _without_frame(publication: Publication, number: int) -> Publication:
    page = publication.pages[number - 1]
    there = frame_on(page)
    return publication if there is None else with_things(publication, page.id, lambda all: without(all, {there.id}))


def _inwards(text: str, unit: str) -> Length:
    size = length(text, unit)
    if not 0 <= size.mm <= DEEPEST_MM:
        raise Problem(f"A frame stands inside the trim, by up to {DEEPEST_MM:g} mm; “{text}” is no such inset.")
    is_sum = any(sign in size.typed for sign in "+-*/() ")
    return length(f"-({size.typed})" if is_sum else f"-{size.typed}", unit)
