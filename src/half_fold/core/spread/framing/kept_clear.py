"""What of a picture is to be kept clear, where it lies on the page; and the picture moved so that it is clear."""

from collections.abc import Iterable, Sequence
from itertools import product

from half_fold.core.brief.allowances import fold_loss
from half_fold.core.drawing.affine import turned
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import placed, share_rect
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import Block, HoldsPicture, Publication
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.framing.reframing import move_inside
from half_fold.core.spread.where.frames import block_box, page_frame_of, spread_area, turn_of

FAR = 10_000.0  # points: beyond any sheet
NEAREST, TRIED = 24, 24  # ways along an axis that are looked at, the nearest; and of all of those gone, the best
LEAST = 0.25  # points: what is nearer is a matter of rounding


def areas_on_page(publication: Publication, number: int, block: Block) -> list[Rect]:
    """The kept-clear areas of a picture block on page ``number``, upright round them where it is turned."""
    if not isinstance(block.holds, HoldsPicture):
        return []
    picture, holds = picture_of(publication, block.holds.picture), block.holds
    box = block_box(publication, number, block)
    where = placed(picture, holds, box)
    turns = [turned(box.centre, holds.turn) if holds.turn else None, turn_of(publication, number, block)]
    out = []
    for share in picture.keep_clear:
        rect = share_rect(share, holds.flipped, where)
        for turn in turns:
            rect = rect if turn is None else turn.around(rect)
        out.append(parted_rect(publication, number, holds, rect))
    return out


def parted_rect(publication: Publication, number: int, holds: HoldsPicture, rect: Rect) -> Rect:
    """Where a part of a picture lies that is parted by the fold: as far from it as it is lost there."""
    if not holds.parted:
        return rect
    loss = fold_loss(publication).value * MM
    return rect.moved(loss if rect.centre[0] > _fold(publication, number) else -loss, 0)


def _fold(publication: Publication, number: int) -> float:
    return page_frame_of(publication, number).fold


def fold_band(publication: Publication, spread: Spread) -> Rect | None:
    """What the binding takes of a spread; None of a page alone."""
    if len(spread.numbers) < 2:
        return None
    loss, fold = fold_loss(publication).value * MM, _fold(publication, spread.numbers[0])
    return Rect(fold - loss, -FAR, fold + loss, FAR)


def beyond_trim(publication: Publication, spread: Spread) -> list[Rect]:
    """All that is cut off, as four rectangles."""
    trim = spread_area(publication, spread)
    return [
        Rect(-FAR, -FAR, trim.left, FAR),
        Rect(trim.right, -FAR, FAR, FAR),
        Rect(-FAR, -FAR, FAR, trim.top),
        Rect(-FAR, trim.bottom, FAR, FAR),
    ]


def overlap(areas: Iterable[Rect], others: Sequence[Rect]) -> float:
    """How many square points of the areas lie on any of the others; one that is no wider than a line counts as such."""
    return sum(_shared(area, other) for area in areas for other in others)


def _shared(area: Rect, other: Rect) -> float:
    across = min(area.right, other.right) - max(area.left, other.left)
    down = min(area.bottom, other.bottom) - max(area.top, other.top)
    if other.width <= 0:  # a fold that takes nothing still parts what lies over it
        across = 1.0 if area.left + LEAST < other.left < area.right - LEAST else 0.0
    return across * down if across > LEAST and down > LEAST else 0.0


def move_clear(publication: Publication, number: int, block: Block, others: Sequence[Rect]) -> Publication | None:
    """The picture moved inside its block as little as frees most of what is kept clear of it; None where that is none.

    Where it may go is where an edge of an area meets an edge of what is to be avoided.
    """
    if not isinstance(block.holds, HoldsPicture) or turn_of(publication, number, block) is not None:
        return None
    areas = areas_on_page(publication, number, block)
    before = overlap(areas, others)
    ways = [
        (overlap([area.moved(across, down) for area in areas], others), abs(across) + abs(down), across, down)
        for across, down in product(_ways(areas, others, 0), _ways(areas, others, 1))
        if across or down
    ]
    tried: list[tuple[float, float, Publication]] = []
    for left, way, across, down in sorted(ways)[:TRIED]:  # what the picture can do of a way is found by going it
        if left >= before:
            break
        made = move_inside(publication, block.id, across, down)
        now = next(each for page in made.pages for each in page.blocks if each.id == block.id)
        tried.append((overlap(areas_on_page(made, number, now), others), way, made))
    best = min(tried, key=lambda each: each[:2], default=None)
    return best[2] if best is not None and best[0] < before - LEAST else None


def _ways(areas: Sequence[Rect], others: Sequence[Rect], axis: int) -> list[float]:
    """No way at all, and those that bring an area just beside what is to be avoided."""
    ways = {0.0}
    for area, other in product(areas, others):
        ways.add(other[axis] - area[axis + 2] - LEAST)
        ways.add(other[axis + 2] - area[axis] + LEAST)
    return sorted((way for way in ways if abs(way) < FAR / 2), key=abs)[:NEAREST]


def is_seen_whole(publication: Publication, number: int, block: Block) -> bool:
    """Whether the block itself cuts nothing of what is kept clear."""
    if not isinstance(block.holds, HoldsPicture):
        return True
    picture, holds = picture_of(publication, block.holds.picture), block.holds
    box = block_box(publication, number, block)
    where = placed(picture, holds, box)
    about = turned(box.centre, holds.turn)
    areas = [about.around(share_rect(share, holds.flipped, where)) for share in picture.keep_clear]
    return all(
        area.left > box.left - LEAST
        and area.top > box.top - LEAST
        and area.right < box.right + LEAST
        and area.bottom < box.bottom + LEAST
        for area in areas
    )
