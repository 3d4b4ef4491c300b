"""The frames of a spread's pages, and the rectangles of blocks on them."""

from collections.abc import Iterator

from half_fold.core.drawing.affine import Affine, turned
from half_fold.core.grid.frame import PageFrame, page_frame
from half_fold.core.grid.stops import Frames, place_rect
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.plan.spreads import Spread, facing, on_right
from half_fold.core.publication.records import Block, Master, Page, Publication, Thing
from half_fold.core.publication.surgery import master_of
from half_fold.core.publication.things import way_to

_frames: Keeper[PageFrame] = Keeper(256)
_both: Keeper[Frames] = Keeper(1000)
_TOUCHES = 0.01  # points: what only touches the fold does not lie on the other page


def frame_for(publication: Publication, master: Master, on_right: bool) -> PageFrame:
    """The frame of a left or right page on ``master``; kept by the identity of the records it follows from."""
    between = master.between.pt if master.between is not None else None
    follows = publication.brief, publication.roles, master, on_right
    return _frames.of(follows, lambda: page_frame(publication, master.grid, on_right, between))


def page_frame_of(publication: Publication, number: int) -> PageFrame:
    """The frame of page ``number`` (from 1)."""
    return frames_of(publication, number).own


def _page_frame(publication: Publication, number: int) -> PageFrame:
    return frame_for(publication, master_of(publication, publication.pages[number - 1]), on_right(publication, number))


def frames_of(publication: Publication, number: int) -> Frames:
    """The frames a block on page ``number`` is measured against."""
    follows = publication.brief, publication.roles, publication.masters, publication.pages, number
    return _both.of(follows, lambda: _frames_of(publication, number))


def _frames_of(publication: Publication, number: int) -> Frames:
    other, own = facing(publication, number), _page_frame(publication, number)
    across = _page_frame(publication, other) if own.has_fold and 1 <= other <= len(publication.pages) else None
    return Frames(own, across)


def block_box(publication: Publication, number: int, block: Block) -> Rect:
    """The rectangle of a block on page ``number`` before it is turned, in points of spread space."""
    return place_rect(block.place, frames_of(publication, number))


def turn_of(publication: Publication, number: int, thing: Thing) -> Affine | None:
    """How a block or a group is turned, by itself and with the groups it is in; None where it is not."""
    turn = own_turn(publication, number, thing)
    for group in reversed(way_to(publication.pages[number - 1].things, thing.id)[:-1]):
        if (outer := own_turn(publication, number, group)) is not None:
            turn = outer if turn is None else outer.after(turn)
    return turn


def angle_of(publication: Publication, number: int, block: Block) -> float:
    """By how many degrees a block is turned clockwise in all."""
    return sum(thing.angle for thing in way_to(publication.pages[number - 1].things, block.id))


def own_turn(publication: Publication, number: int, thing: Thing) -> Affine | None:
    """The turn of a block or a group alone, about the middle of its box; None where there is none."""
    return turned(thing_box(publication, number, thing).centre, thing.angle) if thing.angle else None


def thing_box(publication: Publication, number: int, thing: Thing) -> Rect:
    """The box of a block, or what the members of a group reach, before that thing itself is turned."""
    if isinstance(thing, Block):
        return block_box(publication, number, thing)
    return hull(thing_hull(publication, number, member) for member in thing.members)


def thing_hull(publication: Publication, number: int, thing: Thing) -> Rect:
    """The upright rectangle round a thing, turned or not, leaving out the groups it is in."""
    box = thing_box(publication, number, thing)
    return turned(box.centre, thing.angle).around(box) if thing.angle else box


def hull_of(publication: Publication, number: int, block: Block) -> Rect:
    """The upright rectangle round a block where it really lies, turned or not."""
    box, turn = block_box(publication, number, block), turn_of(publication, number, block)
    return box if turn is None else turn.around(box)


def is_over_fold(box: Rect) -> bool:
    """Whether a rectangle of spread space lies on both its pages."""
    return box.left < -_TOUCHES and box.right > _TOUCHES


def blocks_on(publication: Publication, spread: Spread) -> Iterator[tuple[int, Page, Block]]:
    """(page number, page, block) from back to front."""
    for number in spread.numbers:
        page = publication.pages[number - 1]
        for block in page.blocks:
            yield number, page, block


def things_on(publication: Publication, spread: Spread) -> Iterator[tuple[int, Thing]]:
    """(page number, thing) of those that are in no group, from back to front."""
    for number in spread.numbers:
        for thing in publication.pages[number - 1].things:
            yield number, thing


def spread_area(publication: Publication, spread: Spread) -> Rect:
    """The trimmed spread."""
    frames = [page_frame_of(publication, number).trim for number in spread.numbers]
    return Rect(min(f.left for f in frames), 0, max(f.right for f in frames), frames[0].bottom)
