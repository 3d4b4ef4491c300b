"""A picture moved, drawn closer and turned inside its block, which stays as it is."""

from msgspec.structs import replace

from half_fold.core.drawing.affine import in_half_turns, turned
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import placed
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import Block, HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import block_named, page_of_block, picture_of, require_free, with_thing_anywhere
from half_fold.core.spread.where.frames import block_box


def _held(publication: Publication, name: str) -> tuple[Block, HoldsPicture, Picture, Rect]:
    """The block, what it holds, that picture, and the block's box. Problem where it holds none, or is locked."""
    index, _, block = page_of_block(publication, name)
    if not isinstance(block.holds, HoldsPicture):
        raise Problem("That block holds no picture; choose one that does.")
    require_free(publication, name)
    return block, block.holds, picture_of(publication, block.holds.picture), block_box(publication, index + 1, block)


def _with(publication: Publication, block: Block, holds: HoldsPicture) -> Publication:
    return with_thing_anywhere(publication, replace(block, holds=holds)) if holds != block.holds else publication


def move_inside(publication: Publication, name: str, across: float, down: float) -> Publication:
    """The picture moved by so many points of the spread, as far as it still fills its block."""
    block, holds, picture, box = _held(publication, name)
    where, back = placed(picture, holds, box), turned((0, 0), -holds.turn)  # a mirror goes along with what it mirrors
    return _with(publication, block, focused(picture, holds, box, where.moved(*back.of(across, down))))


def draw_closer(
    publication: Publication, name: str, factor: float, at: tuple[float, float] | None = None
) -> Publication:
    """The picture so many times as large, what lies ``at`` a place staying there; no less than it fills its block."""
    block, holds, picture, box = _held(publication, name)
    low, high = RANGES[HoldsPicture]["closer"]
    made = replace(holds, closer=round(min(max(holds.closer * factor, low), high), 4))
    if made == holds:
        return publication
    before, after = placed(picture, holds, box), placed(picture, made, box)
    x, y = turned(box.centre, -holds.turn).of(*(at if at is not None else box.centre))
    left = x - (x - before.left) * after.width / before.width
    top = y - (y - before.top) * after.height / before.height
    wanted = Rect(left, top, left + after.width, top + after.height)
    return _with(publication, block, focused(picture, made, box, wanted))


def bring_to_middle(publication: Publication, name: str, at: tuple[float, float]) -> Publication:
    """The picture moved so that what lies ``at`` a place comes to the middle of its block, as far as it fills it."""
    *_, box = _held(publication, name)
    return move_inside(publication, name, box.centre[0] - at[0], box.centre[1] - at[1])


def focus_on(publication: Publication, name: str, subject: tuple[float, float]) -> Publication:
    """The picture with its focus on a point of its own, across and down as shares of it."""
    block = block_named(publication, name)
    if not isinstance(block.holds, HoldsPicture):
        raise Problem("That block holds no picture; choose one that does.")
    require_free(publication, name)
    holds = replace(block.holds, focus_x=_share(subject[0]), focus_y=_share(subject[1]))
    return _with(publication, block, holds)


def turn_inside(publication: Publication, name: str, by: float) -> Publication:
    """The picture turned by so many degrees more, clockwise."""
    block, holds, _, _ = _held(publication, name)
    turn = round(in_half_turns(holds.turn + by), 3)
    return _with(publication, block, replace(holds, turn=turn))


def focused(picture: Picture, holds: HoldsPicture, box: Rect, wanted: Rect) -> HoldsPicture:
    """The picture with the focus that brings it nearest to where it is wanted."""
    centre_x, centre_y = box.centre
    focus_x, focus_y = (centre_x - wanted.left) / wanted.width, (centre_y - wanted.top) / wanted.height
    if holds.flipped:
        focus_x = 1 - focus_x
    tried = replace(holds, focus_x=_share(focus_x), focus_y=_share(focus_y))
    lies = placed(picture, tried, box)  # as far as it still fills its block
    back_x, back_y = (centre_x - lies.left) / lies.width, (centre_y - lies.top) / lies.height
    return replace(holds, focus_x=_share(1 - back_x if holds.flipped else back_x), focus_y=_share(back_y))


def _share(value: float) -> float:
    return round(min(max(value, 0.0), 1.0), 5)
