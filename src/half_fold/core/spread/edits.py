"""Edits on a spread: claim fields, set what a block holds, reach, move, order, delete."""

from dataclasses import dataclass

from msgspec.structs import replace

from half_fold.core.grid.stops import EDGES, OUTWARD, SAME_PLACE, Edge, Frames, field_index, position, stops_for
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import Length, figure, in_unit, length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.plan.spreads import facing
from half_fold.core.publication.records import Block, Holds, Publication, Stop, Wrap
from half_fold.core.publication.surgery import block_ids, fresh_id, page_of_block, with_blocks
from half_fold.core.spread.frames import frames_of, page_frame_of

LEAST_BLOCK = 1.0


def claim(
    publication: Publication, start: tuple[float, float], end: tuple[float, float], pages: tuple[int, ...], holds: Holds
) -> tuple[Publication, str]:
    """A new block over the fields from one place to another (points of spread space); gives its id too.

    A drag that ends outside the text area reaches for the bleed on that side. The block belongs to the
    page it starts on; ``pages`` are the page numbers of the spread.
    """
    left, right = sorted((start[0], end[0]))
    top, bottom = sorted((start[1], end[1]))
    number = _page_at(publication, pages, left)
    frames = frames_of(publication, number)
    block = Block(
        id=fresh_id("b", block_ids(publication)),
        left=_claimed("left", left, frames),
        right=_claimed("right", right, frames),
        top=_claimed("top", top, frames),
        bottom=_claimed("bottom", bottom, frames),
        holds=holds,
    )
    page = publication.pages[number - 1]
    return with_blocks(publication, page.id, lambda blocks: (*blocks, block)), block.id


@dataclass(frozen=True, slots=True)
class Claimed:
    """The fields a claim takes, one by one and together (points of spread space), and how many across and down."""

    fields: tuple[Rect, ...]
    box: Rect
    across: int
    down: int

    def words(self, unit: str) -> str:
        """``3 × 2 fields, 102.4 × 64.0 mm``."""
        wide, high = (
            figure(in_unit(size, unit), 3 if unit == "in" else 1) for size in (self.box.width, self.box.height)
        )
        fields = "1 field" if self.across == self.down == 1 else f"{self.across} × {self.down} fields"
        return f"{fields}, {wide} × {high} {unit}"


def claimed(
    publication: Publication, pages: tuple[int, ...], start: tuple[float, float], end: tuple[float, float]
) -> Claimed | None:
    """What a drag from one place to another claims of the fields of those pages; None where it meets none."""
    (left, right), (top, bottom) = sorted((start[0], end[0])), sorted((start[1], end[1]))
    frames = [page_frame_of(publication, number) for number in pages]
    columns = [span for frame in frames for span in frame.columns if span[0] <= right and span[1] >= left]
    rows = [span for span in frames[0].rows if span[0] <= bottom and span[1] >= top]
    if not columns or not rows:
        return None
    fields = tuple(Rect(a, low, b, high) for low, high in rows for a, b in columns)
    return Claimed(fields, hull(fields), len(columns), len(rows))


def _page_at(publication: Publication, pages: tuple[int, ...], x: float) -> int:
    for number in pages:
        trim = page_frame_of(publication, number).trim
        if trim.left <= x < trim.right:
            return number
    trims = {number: page_frame_of(publication, number).trim for number in pages}
    return min(pages, key=lambda number: max(trims[number].left - x, x - trims[number].right))


def _claimed(edge: Edge, at: float, frames: Frames) -> Stop:
    """The field line that takes in the field at ``at``, or the bleed beyond the text area."""
    across = edge in ("left", "right")
    facing = across and frames.facing is not None and (at >= 0) != frames.own.on_right
    frame = frames.facing if facing and frames.facing is not None else frames.own
    spans = frame.columns if across else frame.rows
    low, high = spans[0][0], spans[-1][1]
    outside = at < low if edge in ("left", "top") else at > high
    if outside:
        return Stop(kind="bleed", facing=facing)
    is_near = edge in ("left", "top")
    index = sum(at > end for _, end in spans) if is_near else sum(at >= start for start, _ in spans) - 1
    return Stop(kind="field", index=min(max(index, 0), len(spans) - 1), count=len(spans), facing=facing)


def _with_block(publication: Publication, block: Block) -> Publication:
    index, page, before = page_of_block(publication, block.id)
    require_free(before)
    if block.left.facing and block.left.kind != "fold" and frames_of(publication, index + 1).facing is not None:
        return _on_facing_page(publication, index + 1, block)
    return with_blocks(publication, page.id, lambda blocks: tuple(block if b.id == block.id else b for b in blocks))


def _on_facing_page(publication: Publication, number: int, block: Block) -> Publication:
    """A block whose left edge went over the fold belongs to the page it now starts on."""
    other = publication.pages[facing(number) - 1]
    turned = {edge: replace(getattr(block, edge), facing=not getattr(block, edge).facing) for edge in ("left", "right")}
    moved = replace(block, **turned)
    own = publication.pages[number - 1]
    publication = with_blocks(publication, own.id, lambda blocks: tuple(b for b in blocks if b.id != block.id))
    return with_blocks(publication, other.id, lambda blocks: (*blocks, moved))


def require_free(block: Block) -> None:
    """Problem where a block is locked."""
    if block.locked:
        raise Problem("That block is locked; unlock it in its rows first.")


def set_holds(publication: Publication, block: str, holds: Holds) -> Publication:
    """Another thing in the same place."""
    _, _, found = page_of_block(publication, block)
    return _with_block(publication, replace(found, holds=holds))


def set_wrap(publication: Publication, block: str, wrap: Wrap | None) -> Publication:
    """How text keeps off a block; None lets it run under."""
    _, _, found = page_of_block(publication, block)
    return _with_block(publication, replace(found, wrap=wrap))


def set_inset(publication: Publication, block: str, inset: Length | None) -> Publication:
    _, _, found = page_of_block(publication, block)
    return _with_block(publication, replace(found, inset=inset))


def set_stop(publication: Publication, block: str, edge: Edge, stop: Stop) -> Publication:
    """One edge on another stop. Problem where the block would have no room left."""
    index, _, found = page_of_block(publication, block)
    changed = replace(found, **{edge: stop})
    frames = frames_of(publication, index + 1)
    places = {side: position(getattr(changed, side), side, frames) for side in EDGES}
    if places["right"] - places["left"] < LEAST_BLOCK or places["bottom"] - places["top"] < LEAST_BLOCK:
        raise Problem("That would leave the block no room; move its other edge first.")
    return _with_block(publication, changed)


def set_size(publication: Publication, block: str, edge: Edge, size: Length) -> Publication:
    """The block as wide (``edge`` right) or as high (bottom) as that; its other edge stays where it is."""
    index, _, found = page_of_block(publication, block)
    frames = frames_of(publication, index + 1)
    other: Edge = "left" if edge == "right" else "top"
    to = position(getattr(found, other), other, frames) + size.pt
    return set_stop(publication, block, edge, _stop_at(getattr(found, edge), edge, to, frames))


def set_place(publication: Publication, block: str, edge: Edge, at: Length) -> Publication:
    """The whole block with its left edge so far from the left trim of its page, or its upper one from the head."""
    index, _, found = page_of_block(publication, block)
    frames = frames_of(publication, index + 1)
    own = frames.own.trim
    start = own.left if edge == "left" else own.top
    by = start + at.pt - position(getattr(found, edge), edge, frames)
    pair: tuple[Edge, Edge] = ("left", "right") if edge == "left" else ("top", "bottom")
    moved = {
        each: _stop_at(getattr(found, each), each, position(getattr(found, each), each, frames) + by, frames)
        for each in pair
    }
    return _with_block(publication, replace(found, **moved))


def _stop_at(stop: Stop, edge: Edge, to: float, frames: Frames) -> Stop:
    """The stop moved from where it is by as much as brings its edge to a place (points), to the micrometre."""
    bare = replace(stop, off=None)
    off = OUTWARD[edge] * (to - position(bare, edge, frames)) / MM
    return replace(bare, off=length(f"{round(off, 3):g}mm") if abs(off) >= 0.0005 else None)


def reach(publication: Publication, block: str, edge: Edge, outward: bool) -> Publication:
    """The edge to its next stop, outward or drawn in; unchanged where there is none."""
    index, _, found = page_of_block(publication, block)
    require_free(found)
    frames = frames_of(publication, index + 1)
    here = position(getattr(found, edge), edge, frames)
    sign = OUTWARD[edge] * (1 if outward else -1)
    further = [(place, stop) for place, stop in stops_for(edge, frames) if sign * (place - here) > SAME_PLACE]
    for _, stop in sorted(further, key=lambda pair: sign * pair[0]):
        try:
            return set_stop(publication, block, edge, stop)
        except Problem:
            return publication
    return publication


def move(publication: Publication, block: str, across: int, down: int) -> Publication:
    """The whole block by fields; edges that are no field lines first take the nearest. Stays where it would leave."""
    index, _, found = page_of_block(publication, block)
    frames = frames_of(publication, index + 1)
    changed = found
    moves: tuple[tuple[Edge, Edge, int], ...] = (("left", "right", across), ("top", "bottom", down))
    for low, high, by in moves:
        if by:
            pair = _shifted(getattr(found, low), getattr(found, high), low, high, by, frames)
            if pair is None:
                return publication
            changed = replace(changed, **{low: pair[0], high: pair[1]})
    return _with_block(publication, changed)


def _shifted(start: Stop, end: Stop, low: Edge, high: Edge, by: int, frames: Frames) -> tuple[Stop, Stop] | None:
    """Both stops moved by fields along all fields of the spread, or None where that leaves it."""
    line = _field_line(low, frames)
    first, last = _ordinal(start, low, line, frames), _ordinal(end, high, line, frames)
    if first + by < 0 or last + by >= len(line):
        return None
    out = []
    for ordinal in (first + by, last + by):
        facing, index, count = line[ordinal]
        out.append(Stop(kind="field", index=index, count=count, facing=facing))
    return out[0], out[1]


def _field_line(edge: Edge, frames: Frames) -> list[tuple[bool, int, int]]:
    """(facing, index, count) of every field along the spread, from left to right or head to foot."""
    if edge == "top" or frames.facing is None:
        spans = frames.own.rows if edge == "top" else frames.own.columns
        return [(False, i, len(spans)) for i in range(len(spans))]
    own = [(False, i, len(frames.own.columns)) for i in range(len(frames.own.columns))]
    facing = [(True, i, len(frames.facing.columns)) for i in range(len(frames.facing.columns))]
    return facing + own if frames.own.on_right else own + facing


def _ordinal(stop: Stop, edge: Edge, line: list[tuple[bool, int, int]], frames: Frames) -> int:
    if stop.kind == "field" and stop.off is None:
        frame = frames.of(stop)
        facing = stop.facing and frames.facing is not None and edge in ("left", "right")
        count = len(frame.columns if edge in ("left", "right") else frame.rows)
        return line.index((facing, field_index(stop, edge, frame), count))
    here = position(stop, edge, frames)
    places = [position(Stop(kind="field", index=i, count=n, facing=f), edge, frames) for f, i, n in line]
    return min(range(len(places)), key=lambda i: abs(places[i] - here))


def delete(publication: Publication, block: str) -> Publication:
    """Without that block; a story it held stays among the stories."""
    _, page, found = page_of_block(publication, block)
    require_free(found)
    return with_blocks(publication, page.id, lambda blocks: tuple(b for b in blocks if b.id != block))


def restack(publication: Publication, block: str, forward: bool) -> Publication:
    """One step nearer to the front, or to the back."""
    _, page, found = page_of_block(publication, block)
    require_free(found)
    blocks = list(page.blocks)
    at = blocks.index(found)
    to = at + (1 if forward else -1)
    if not 0 <= to < len(blocks):
        return publication
    blocks[at], blocks[to] = blocks[to], blocks[at]
    return with_blocks(publication, page.id, lambda _: tuple(blocks))


PLACES: dict[str, Edge] = {"across": "left", "down": "top"}
SIZES: dict[str, Edge] = {"width": "right", "height": "bottom"}


def set_measure(publication: Publication, block: str, name: str, typed: str) -> Publication:
    """A block's ``width`` or ``height``, or how far ``across`` or ``down`` its page it begins, as typed."""
    size = length(typed, publication.brief.unit)
    if name in SIZES:
        return set_size(publication, block, SIZES[name], size)
    return set_place(publication, block, PLACES[name], size)
