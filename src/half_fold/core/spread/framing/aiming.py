"""Named points of pictures brought to stops: eyes on a row, a spire on the middle of the page.

They are solved again after each edit, round what is kept clear, as far as the picture still fills its block.
"""

from collections.abc import Iterator

from msgspec.structs import replace

from half_fold.core.grid.stops import position
from half_fold.core.measure.length import format_length
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import placed, share_rect
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import Aim, Block, HoldsPicture, Picture, Point, Publication
from half_fold.core.publication.surgery import is_free, picture_of, with_thing_anywhere
from half_fold.core.spread.framing.aim_words import axis_of
from half_fold.core.spread.framing.reframing import focused
from half_fold.core.spread.where.frames import block_box, frames_of

OFF = 0.05  # points within which a point lies on its stop


def aim_picture(before: Publication, after: Publication) -> Publication:
    """A document after an edit, with the points of its pictures where they are aimed; locked blocks stay."""
    for number, block in list(_touched(before, after)):
        after = _solved(after, number, block)
    return after


def _touched(before: Publication, after: Publication) -> Iterator[tuple[int, Block]]:
    """The picture blocks with aims that may lie otherwise than before."""
    same = all(
        getattr(before, field) is getattr(after, field) for field in ("brief", "masters", "roles", "pictures")
    ) and len(before.pages) == len(after.pages)
    if same and before.pages is after.pages:
        return
    for index, page in enumerate(after.pages):
        if same and before.pages[index].things is page.things and before.pages[index].id == page.id:
            continue
        for block in page.blocks:
            if isinstance(block.holds, HoldsPicture) and block.holds.aims:
                yield index + 1, block


def _solved(publication: Publication, number: int, block: Block) -> Publication:
    assert isinstance(block.holds, HoldsPicture)
    if not is_free(publication, block.id):
        return publication
    picture, box = picture_of(publication, block.holds.picture), block_box(publication, number, block)
    holds = _drawn_to(publication, number, block, picture, box)
    where = placed(picture, holds, box)
    by = {"across": 0.0, "down": 0.0}
    for aim in holds.aims:
        at = _point_at(picture, holds, aim.point, where)
        if at is not None:
            by[axis_of(aim)] = _line(publication, number, aim) - at[0 if axis_of(aim) == "across" else 1]
    if any(abs(each) > OFF / 10 for each in by.values()):
        holds = focused(picture, holds, box, where.moved(by["across"], by["down"]))
    if holds == block.holds:
        return publication
    return with_thing_anywhere(publication, replace(block, holds=holds))


def _drawn_to(publication: Publication, number: int, block: Block, picture: Picture, box: Rect) -> HoldsPicture:
    """Drawn as close as brings two points aimed along one axis both to their stops; as it is where there is one."""
    holds = block.holds
    assert isinstance(holds, HoldsPicture)
    for axis in ("down", "across"):
        along = [aim for aim in holds.aims if axis_of(aim) == axis and _named(picture, aim.point) is not None]
        if len(along) < 2 or holds.turn:
            continue
        where, at = placed(picture, holds, box), 0 if axis == "across" else 1
        first, second = (_point_at(picture, holds, aim.point, where) for aim in along[:2])
        assert first is not None and second is not None
        lines = [_line(publication, number, aim) for aim in along[:2]]
        apart, wanted = second[at] - first[at], lines[1] - lines[0]
        if abs(apart) > OFF and wanted / apart > 0:
            low, high = RANGES[HoldsPicture]["closer"]
            holds = replace(holds, closer=round(min(max(holds.closer * wanted / apart, low), high), 5))
    return holds


def _named(picture: Picture, name: str) -> Point | None:
    return next((point for point in picture.points if point.name.lower() == name.lower()), None)


def _point_at(picture: Picture, holds: HoldsPicture, name: str, where: Rect) -> tuple[float, float] | None:
    """Where a named point lies, the picture being unturned; None where it has none of that name."""
    point = _named(picture, name)
    if point is None:
        return None
    rect = share_rect((point.across, point.down, point.across, point.down), holds.flipped, where)
    return rect.left, rect.top


def _line(publication: Publication, number: int, aim: Aim) -> float:
    return position(aim.stop, aim.edge, frames_of(publication, number))


def missed(publication: Publication, number: int, block: Block) -> list[str]:
    """Of each aim that is not reached, by how much, in words."""
    holds = block.holds
    if not isinstance(holds, HoldsPicture) or not holds.aims:
        return []
    picture, box = picture_of(publication, holds.picture), block_box(publication, number, block)
    where, out = placed(picture, holds, box), []
    for aim in holds.aims:
        at = _point_at(picture, holds, aim.point, where)
        if at is None:
            out.append(f"{picture.file} has no point “{aim.point}”")
            continue
        off = _line(publication, number, aim) - at[0 if axis_of(aim) == "across" else 1]
        if abs(off) > OFF:
            out.append(
                f"{aim.point} {format_length(abs(off), publication.brief.unit)} off: the picture ends, or is kept clear"
            )
    return out
