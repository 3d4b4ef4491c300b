"""Edits on a spread: claim fields, set what a block holds, reach, move, order, delete."""

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.grid.stops import Edge, Frames, field_index, place_rect, position
from half_fold.core.measure.entry import unit_name
from half_fold.core.measure.length import figure, in_unit
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.publication.places import Floating, Held, Stop
from half_fold.core.publication.records import (
    Block,
    Holds,
    Publication,
)
from half_fold.core.publication.surgery import (
    fresh_id,
    page_of_block,
    require_free,
    thing_ids,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.spread.where.frames import frames_of, page_frame_of
from half_fold.core.spread.where.reaching import put_in, with_place


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
        id=fresh_id("b", thing_ids(publication)),
        place=Held(
            left=_claimed("left", left, frames),
            top=_claimed("top", top, frames),
            right=_claimed("right", right, frames),
            bottom=_claimed("bottom", bottom, frames),
        ),
        holds=holds,
    )
    page = publication.pages[number - 1]
    return with_things(publication, page.id, lambda things: (*things, block)), block.id


class Claimed(Struct, frozen=True):
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
        return f"{fields}, {wide} × {high} {unit_name(unit)}"


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


def set_holds(publication: Publication, block: str, holds: Holds) -> Publication:
    """Another thing in the same place. Problem where the block is locked."""
    _, _, found = page_of_block(publication, block)
    require_free(publication, block)
    return with_thing_anywhere(publication, replace(found, holds=holds))


def move(publication: Publication, block: str, across: int, down: int) -> Publication:
    """The whole block by fields; edges that are no field lines first take the nearest. Stays where it would leave."""
    index, _, found = page_of_block(publication, block)
    frames = frames_of(publication, index + 1)
    place = found.place
    if isinstance(place, Floating):
        return _floated(publication, block, place_rect(place, frames), across, down, frames)
    moves: tuple[tuple[Edge, Edge, int], ...] = (("left", "right", across), ("top", "bottom", down))
    for low, high, by in moves:
        if by:
            pair = _shifted(getattr(place, low), getattr(place, high), low, high, by, frames)
            if pair is None:
                return publication
            place = replace(place, **{low: pair[0], high: pair[1]})
    return with_place(publication, block, place)


def _floated(publication: Publication, block: str, box: Rect, across: int, down: int, frames: Frames) -> Publication:
    """A floating block by as far as fields lie apart."""
    columns, rows = frames.own.columns, frames.own.rows
    wide = columns[1][0] - columns[0][0] if len(columns) > 1 else columns[0][1] - columns[0][0]
    high = rows[1][0] - rows[0][0] if len(rows) > 1 else rows[0][1] - rows[0][0]
    return put_in(publication, block, box.moved(across * wide, down * high))


def _shifted(start: Stop, end: Stop, low: Edge, high: Edge, by: int, frames: Frames) -> tuple[Stop, Stop] | None:
    """Both stops moved by fields along all fields of the spread, or None where that leaves it."""
    line = _field_line(low, frames)
    # Edges that are drawn in far may lie nearest to fields the other way round.
    first, last = sorted((_ordinal(start, low, line, frames), _ordinal(end, high, line, frames)))
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
