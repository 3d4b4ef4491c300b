"""The frames of a spread's pages, and the rectangles of blocks on them."""

from collections.abc import Iterator

from half_fold.core.drawing.affine import Affine, turned
from half_fold.core.grid.frame import PageFrame, page_frame
from half_fold.core.grid.stops import Frames, block_rect
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import Spread, facing, on_right
from half_fold.core.publication.records import Block, Master, Page, Publication
from half_fold.core.publication.surgery import master_of

_frames: Keeper[PageFrame] = Keeper(256)


def frame_for(publication: Publication, master: Master, on_right: bool) -> PageFrame:
    """The frame of a left or right page on ``master``; kept by the identity of the records it follows from."""
    between = master.between.pt if master.between is not None else 0.0
    follows = publication.brief, publication.roles, master, on_right
    return _frames.of(follows, lambda: page_frame(publication, master.grid, on_right, between))


def page_frame_of(publication: Publication, number: int) -> PageFrame:
    """The frame of page ``number`` (from 1)."""
    return frame_for(publication, master_of(publication, publication.pages[number - 1]), on_right(publication, number))


def frames_of(publication: Publication, number: int) -> Frames:
    """The frames a block on page ``number`` is measured against."""
    other = facing(number)
    across = page_frame_of(publication, other) if 1 <= other <= len(publication.pages) else None
    return Frames(page_frame_of(publication, number), across)


def block_box(publication: Publication, number: int, block: Block) -> Rect:
    """The rectangle of a block on page ``number``, in points of spread space."""
    return block_rect(block, frames_of(publication, number))


def turn_of(block: Block, box: Rect) -> Affine | None:
    """How a block is turned about the middle of its box; None where it is not."""
    return turned(box.centre, block.angle) if block.angle else None


def hull_of(block: Block, box: Rect) -> Rect:
    """The upright rectangle round a block, turned or not."""
    turn = turn_of(block, box)
    return box if turn is None else turn.around(box)


def blocks_on(publication: Publication, spread: Spread) -> Iterator[tuple[int, Page, Block]]:
    """(page number, page, block) from back to front."""
    for number in spread.numbers:
        page = publication.pages[number - 1]
        for block in page.blocks:
            yield number, page, block


def spread_area(publication: Publication, spread: Spread) -> Rect:
    """The trimmed spread."""
    frames = [page_frame_of(publication, number).trim for number in spread.numbers]
    return Rect(min(f.left for f in frames), 0, max(f.right for f in frames), frames[0].bottom)
