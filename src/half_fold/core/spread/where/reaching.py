"""Where a block lies and how far it reaches: its edges on stops, its size and place as typed, held or floating."""

from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.grid.stops import (
    AXES,
    EDGES,
    OUTWARD,
    SAME_PLACE,
    Edge,
    Frames,
    begins,
    place_rect,
    position,
    stops_for,
)
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import Length, length, of_mm
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.plan.spreads import facing
from half_fold.core.publication.places import Anchor, Floating, Held, Place, Stop, told_from_facing
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import page_of_block, require_free, with_things
from half_fold.core.publication.things import swapped, way_to, without
from half_fold.core.spread.where.frames import frames_of, turn_of
from half_fold.core.spread.where.neighbours import gap_before

LEAST_BLOCK = 1.0  # points
LEAST_OFF = 0.00005  # millimetres: what lies nearer to its stop lies on it
TRIM = Stop(kind="trim")


def with_place(publication: Publication, block: str, place: Place) -> Publication:
    """The block in another place of its spread. Problem where it is locked, or would have no room left."""
    index, page, found = page_of_block(publication, block)
    require_free(publication, block)
    frames = frames_of(publication, index + 1)
    if not _has_room(place, frames):
        raise Problem("That would leave the block no room; move its other edge first.")
    moved = replace(found, place=place)
    if _starts_on_facing(place) and frames.facing is not None and len(way_to(page.things, block)) == 1:
        moved = replace(moved, place=told_from_facing(place))
        return _on_page(publication, index + 1, facing(publication, index + 1), moved)
    return with_things(publication, page.id, lambda things: swapped(things, moved))


def _has_room(place: Place, frames: Frames) -> bool:
    if isinstance(place, Floating):
        return min(place.width.pt, place.height.pt) >= LEAST_BLOCK
    at = {edge: position(getattr(place, edge), edge, frames) for edge in EDGES}
    return min(at["right"] - at["left"], at["bottom"] - at["top"]) >= LEAST_BLOCK


def _starts_on_facing(place: Place) -> bool:
    stop = place.left if isinstance(place, Held) else place.across.stop
    return stop.facing and stop.kind != "fold"


def _on_page(publication: Publication, number: int, other: int, block: Block) -> Publication:
    """A block of one page on another, in front of all that lies there."""
    own, there = publication.pages[number - 1], publication.pages[other - 1]
    publication = with_things(publication, own.id, lambda things: without(things, {block.id}))
    return with_things(publication, there.id, lambda things: (*things, block))


# Held and floating --------------------------------------------------------------------------------


def held_where_it_lies(place: Place, frames: Frames) -> Held:
    """A place held by its four edges just where it lies: a floating one by the stops of its anchors."""
    if isinstance(place, Held):
        return place
    box = place_rect(place, frames)
    stops = {edge: _stop_at(place.across.stop if edge in AXES["across"] else place.down.stop, edge, at, frames)
             for edge, at in zip(EDGES, box, strict=True)}  # fmt: skip
    return Held(**stops)


def floating(place: Place, frames: Frames) -> Floating:
    """A place that floats off the stops of its left and upper edge, just where it lies."""
    if isinstance(place, Floating):
        return place
    box = place_rect(place, frames)
    return Floating(
        across=Anchor(stop=place.left),
        down=Anchor(stop=place.top),
        width=of_mm(box.width / MM),
        height=of_mm(box.height / MM),
    )


def let_float(publication: Publication, block: str, floats: bool) -> Publication:
    """The block just where it is: floating at its own size, or held by its edges."""
    index, _, found = page_of_block(publication, block)
    frames = frames_of(publication, index + 1)
    make = floating if floats else held_where_it_lies
    made = make(found.place, frames)
    return publication if made is found.place else with_place(publication, block, made)


def set_floating(publication: Publication, block: str, typed: str) -> Publication:
    """Held or floating, as typed. Problem where it is neither."""
    words = {"held": False, "by its edges": False, "floating": True, "at its own size": True}
    if typed.strip() not in words:
        raise Problem(f"“{typed}” is no way to keep a place; there are held and floating.")
    return let_float(publication, block, words[typed.strip()])


# Edges --------------------------------------------------------------------------------------------


def set_stop(publication: Publication, block: str, edge: Edge, stop: Stop) -> Publication:
    """One edge on another stop; a floating block is held from then on. Problem where it would have no room left."""
    index, _, found = page_of_block(publication, block)
    place = held_where_it_lies(found.place, frames_of(publication, index + 1))
    return with_place(publication, block, replace(place, **{edge: stop}))


def _stop_at(stop: Stop, edge: Edge, to: float, frames: Frames) -> Stop:
    """The stop moved from where it is by as much as brings its edge to a place (points)."""
    bare = replace(stop, off=None)
    off = OUTWARD[edge] * (to - position(bare, edge, frames)) / MM
    return replace(bare, off=of_mm(off) if abs(off) >= LEAST_OFF else None)


def _anchor_at(anchor: Anchor, axis: Axis, start: float, size: float, frames: Frames) -> Anchor:
    """The anchor moved from its stop by as much as has a thing of that size begin at a place (points)."""
    bare = replace(anchor, stop=replace(anchor.stop, off=None))
    off = (start - begins(bare, axis, size, frames)) / MM * (-1 if anchor.by == "first" else 1)
    return replace(bare, stop=replace(bare.stop, off=of_mm(off) if abs(off) >= LEAST_OFF else None))


def in_rect(place: Place, box: Rect, frames: Frames) -> Place:
    """A place moved and sized to a rectangle (points of spread space): it keeps its stops, and how far off it lies."""
    if isinstance(place, Held):
        return Held(**{edge: _stop_at(getattr(place, edge), edge, at, frames)
                       for edge, at in zip(EDGES, box, strict=True)})  # fmt: skip
    return Floating(
        across=_anchor_at(place.across, "across", box.left, box.width, frames),
        down=_anchor_at(place.down, "down", box.top, box.height, frames),
        width=_kept(place.width, box.width),
        height=_kept(place.height, box.height),
    )


def _kept(size: Length, now: float) -> Length:
    """A size as it was typed, as long as it is the same."""
    return size if abs(size.pt - now) < 0.001 else of_mm(now / MM)


def put_in(publication: Publication, block: str, box: Rect) -> Publication:
    """The block in a rectangle of its spread (points), on the page it then starts on.

    Problem where it is locked, or that leaves it no room.
    """
    index, page, found = page_of_block(publication, block)
    frames = frames_of(publication, index + 1)
    if max(abs(a - b) for a, b in zip(box, place_rect(found.place, frames), strict=True)) < 0.001:
        return publication
    if _starts_beyond(box, frames) and len(way_to(page.things, block)) == 1:
        other = facing(publication, index + 1)
        moved = replace(found, place=in_rect(found.place, box, frames_of(publication, other)))
        require_free(publication, block)
        return _on_page(publication, index + 1, other, moved)
    return with_place(publication, block, in_rect(found.place, box, frames))


def _starts_beyond(box: Rect, frames: Frames) -> bool:
    """Whether a rectangle begins on the facing page."""
    if frames.facing is None:
        return False
    own, other = frames.own, frames.facing
    return box.left < other.fold - SAME_PLACE if own.on_right else box.left >= other.fold - SAME_PLACE


def reach(publication: Publication, block: str, edge: Edge, outward: bool) -> Publication:
    """The edge to its next stop, outward or drawn in; unchanged where there is none."""
    index, _, found = page_of_block(publication, block)
    require_free(publication, block)
    frames = frames_of(publication, index + 1)
    place = held_where_it_lies(found.place, frames)
    here = position(getattr(place, edge), edge, frames)
    sign = OUTWARD[edge] * (1 if outward else -1)
    further = [(at, stop) for at, stop in stops_for(edge, frames) if sign * (at - here) > SAME_PLACE]
    for _, stop in sorted(further, key=lambda pair: sign * pair[0]):
        try:
            return set_stop(publication, block, edge, stop)
        except Problem:
            return publication
    return publication


# As typed -----------------------------------------------------------------------------------------

FROM: dict[Axis, tuple[tuple[str, str, str, str], ...]] = {
    "across": (
        ("left trim", "from the left trim", "trim", "first"),
        ("right trim", "from the right trim", "trim", "last"),
        ("middle", "from the page's middle", "trim", "middle"),
        ("left margin", "from the left margin", "margin", "first"),
        ("right margin", "from the right margin", "margin", "last"),
        ("text's middle", "from the middle of the text", "margin", "middle"),
    ),
    "down": (
        ("head", "from the head", "trim", "first"),
        ("foot", "from the foot", "trim", "last"),
        ("middle", "from the page's middle", "trim", "middle"),
        ("text's head", "from the head of the text", "margin", "first"),
        ("text's foot", "from the foot of the text", "margin", "last"),
        ("text's middle", "from the middle of the text", "margin", "middle"),
    ),
}  # name, words, the kind of stop, and what of the block is measured from it
_BESIDE: dict[str, Axis] = {"beside": "across", "under": "down"}
_SIZES: dict[str, Axis] = {"width": "across", "height": "down"}


def format_told_from(place: Place, axis: Axis) -> str:
    """From where a floating block's place is told, as it would be typed; nothing for a held one."""
    if not isinstance(place, Floating):
        return ""
    anchor: Anchor = getattr(place, axis)
    return next((name for name, _, kind, by in FROM[axis] if (kind, by) == (anchor.stop.kind, anchor.by)), "a stop")


def set_from(publication: Publication, block: str, axis: Axis, name: str) -> Publication:
    """A block's place told from elsewhere; it does not move, and floats from then on. Problem where that is nowhere."""
    index, _, found = page_of_block(publication, block)
    if not name and isinstance(found.place, Held):
        return publication
    frames = frames_of(publication, index + 1)
    known = {key: (kind, by) for each, words, kind, by in FROM[axis] for key in (each, words)}
    if name not in known:
        raise Problem(f"“{name}” is no place to tell it from; there are {', '.join(each[0] for each in FROM[axis])}.")
    kind, by = known[name]
    place = floating(found.place, frames)
    low, high = place_rect(place, frames).along(axis)
    was: Anchor = getattr(place, axis)
    anchor = Anchor(stop=Stop(kind=kind, facing=was.stop.facing), by=by)  # type: ignore[arg-type]  # from the table
    moved = _anchor_at(anchor, axis, low, high - low, frames)
    return with_place(publication, block, replace(place, **{axis: moved}))


def set_measure(publication: Publication, block: str, name: str, typed: str) -> Publication:
    """A block's ``width`` or ``height``, or how far ``across`` or ``down`` it lies, as typed.

    The upper left corner of a held one stays, and is told from the trim and from the head; a floating one stays on its
    anchors, and is told from them, inwards. ``beside`` and ``under`` are how far from what lies there to its left and
    above it. Problem where nothing does, or where it cannot be.
    """
    index, _, found = page_of_block(publication, block)
    frames = frames_of(publication, index + 1)
    size = length(typed, publication.brief.unit)
    if name in _SIZES:
        return _set_size(publication, found, name, size, frames)
    if name in _BESIDE:
        return _set_beside(publication, block, _BESIDE[name], size)
    axis: Axis = "across" if name == "across" else "down"
    if isinstance(found.place, Floating):
        anchor: Anchor = getattr(found.place, axis)
        off = size if anchor.by == "middle" else of_mm(-size.mm)
        moved = replace(anchor, stop=replace(anchor.stop, off=off if off.pt else None))
        return with_place(publication, block, replace(found.place, **{axis: moved}))
    box, trim = place_rect(found.place, frames), frames.own.trim
    by = size.pt - (box.left - trim.left if axis == "across" else box.top - trim.top)
    moved_box = box.moved(by, 0) if axis == "across" else box.moved(0, by)
    return put_in(publication, block, moved_box)


def _set_beside(publication: Publication, block: str, axis: Axis, gap: Length) -> Publication:
    now = gap_before(publication, block, axis)
    if now is None:
        raise Problem(f"Nothing lies {'to the left of it' if axis == 'across' else 'above it'} to be measured from.")
    index, _, found = page_of_block(publication, block)
    box, by = place_rect(found.place, frames_of(publication, index + 1)), gap.pt - now
    return put_in(publication, block, box.moved(by, 0) if axis == "across" else box.moved(0, by))


def _set_size(publication: Publication, block: Block, name: str, size: Length, frames: Frames) -> Publication:
    """As wide or as high as that."""
    if size.pt < LEAST_BLOCK:
        raise Problem("That would leave the block no room; give it a larger size.")
    if isinstance(block.place, Floating):
        return with_place(publication, block.id, replace(block.place, **{name: size}))
    low, high = AXES[_SIZES[name]]
    to = position(getattr(block.place, low), low, frames) + size.pt
    return set_stop(publication, block.id, high, _stop_at(getattr(block.place, high), high, to, frames))


def place_told(place: Place, axis: Axis, frames: Frames) -> float:
    """How far a place lies across or down, in points, told as it is set."""
    if isinstance(place, Floating):
        anchor: Anchor = getattr(place, axis)
        off = anchor.stop.off.pt if anchor.stop.off is not None else 0.0
        return off if anchor.by == "middle" else -off
    box, trim = place_rect(place, frames), frames.own.trim
    return box.left - trim.left if axis == "across" else box.top - trim.top


# By hand ------------------------------------------------------------------------------------------

NEAR_STOP = 4.0  # points within which a stop draws an edge to it


def draw_edge(
    publication: Publication,
    block: str,
    edges: tuple[Edge, ...],
    to: tuple[float, float],
    free: bool = False,
    near: float = NEAR_STOP,
) -> Publication:
    """The block with some of its edges drawn to a place (points of spread space), its other edges where they are.

    A stop within ``near`` points takes an edge, unless they are ``free`` or the block is turned; where no room would
    be left, it stays as it is. Problem where it is locked.
    """
    index, _, found = page_of_block(publication, block)
    require_free(publication, block)
    frames, turn = frames_of(publication, index + 1), turn_of(publication, index + 1, found)
    box = place_rect(found.place, frames)
    if turn is not None:
        return _drawn_turned(publication, block, box, turn, edges, to)
    at, stops = _taken(box, edges, to, [] if free else [(edge, stops_for(edge, frames)) for edge in edges], near)
    if min(at.width, at.height) < LEAST_BLOCK:
        return publication
    made = in_rect(found.place, at, frames)
    if isinstance(made, Held):
        kept: dict[str, Stop] = {edge: getattr(found.place, edge) for edge in EDGES if edge not in edges}
        made = replace(made, **kept, **stops)
    return publication if made == found.place else with_place(publication, block, made)


Stops = list[tuple[Edge, list[tuple[float, Stop]]]]


def _taken(
    box: Rect, edges: tuple[Edge, ...], to: tuple[float, float], known: Stops, near: float
) -> tuple[Rect, dict[str, Stop]]:
    """The box with its edges at a place, or on the nearest stop of those known, and which stops those are."""
    at: dict[str, float] = dict(zip(EDGES, box, strict=True))
    at |= {edge: to[0] if edge in AXES["across"] else to[1] for edge in edges}
    taken: dict[str, Stop] = {}
    for edge, stops in known:
        away, place, stop = min((abs(place - at[edge]), place, index) for index, (place, _) in enumerate(stops))
        if away <= near:
            at[edge], taken[edge] = place, stops[stop][1]
    return Rect(*(at[edge] for edge in EDGES)), taken


def _drawn_turned(
    publication: Publication,
    block: str,
    box: Rect,
    turn: Affine,
    edges: tuple[Edge, ...],
    to: tuple[float, float],
) -> Publication:
    """An edge of a turned block: what does not move stays where it is seen, so its middle goes where it is turned."""
    at, _ = _taken(box, edges, turn.inverse().of(*to), [], 0.0)
    if min(at.width, at.height) < LEAST_BLOCK:
        return publication
    x, y = at.centre
    seen_x, seen_y = turn.of(x, y)
    return put_in(publication, block, at.moved(seen_x - x, seen_y - y))
