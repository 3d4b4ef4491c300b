"""What is to be arranged: pictures of the drawer and of blocks, with what is known of each."""

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from half_fold.core.arrange.fitness import NO_PICTURE, Item
from half_fold.core.arrange.room import Room
from half_fold.core.arrange.texts import text_asked
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.told import Told
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import is_free, page_of_block, picture_of
from half_fold.core.spread.where.frames import block_box, blocks_on

NEAR = 6.0  # points: an edge that is no farther from a line of the room lies on it


def items_of(
    publication: Publication, blocks: Sequence[str], pictures: Sequence[str], told: Mapping[str, Told]
) -> tuple[Item, ...]:
    """Those blocks and those pictures, by their ids, the pictures to be read by the time they were taken.

    Where the time of one is not known, in the order given; words set large before them. ``told`` is what is known of
    pictures by their content. Problem where a block holds neither a picture nor words, or is locked.
    """
    every = [_of_block(publication, name, told) for name in blocks]
    every += [_of_picture(picture_of(publication, name), told) for name in pictures]
    words = [item for item in every if item.text is not None]
    found = [item for item in every if item.text is None]
    times = [told[item.picture.digest].taken if item.picture.digest in told else "" for item in found]
    order = sorted(range(len(found)), key=lambda n: (times[n], n)) if all(times) else list(range(len(found)))
    heads = (item for item in words if item.text is not None and not item.text.runs)
    first = next(heads, None)  # one headline is read before all else; where others are read is theirs
    return (
        *(replace(item, turn=-1.0 if item is first else float(len(every))) for item in words),
        *(replace(found[n], turn=float(turn)) for turn, n in enumerate(order)),
    )


def _of_picture(picture: Picture, told: Mapping[str, Told]) -> Item:
    known = told.get(picture.digest, Told())
    return Item(picture, 0.0, focus=known.focus, clear=(*picture.keep_clear, *known.faces))


def _of_block(publication: Publication, name: str, told: Mapping[str, Told]) -> Item:
    _, _, block = page_of_block(publication, name)
    holds = block.holds
    if not is_free(publication, name):
        raise Problem("A block that is locked stays where it is; unlock it (L), or leave it out.")
    if not isinstance(holds, HoldsPicture):
        text = text_asked(publication, block)
        if text is None:
            raise Problem("Pictures and words are arranged; choose blocks that hold some, the rest stays where it is.")
        return Item(NO_PICTURE, 0.0, name, text=text)
    picture = picture_of(publication, holds.picture)
    known = told.get(picture.digest, Told())
    return Item(picture, 0.0, name, (holds.focus_x, holds.focus_y), (*picture.keep_clear, *known.faces))


def picture_blocks(publication: Publication, spread: Spread) -> tuple[str, ...]:
    """The picture blocks of a spread that may be arranged: those that are free, and no cut-outs or drawings."""
    return tuple(
        block.id
        for _, _, block in blocks_on(publication, spread)
        if isinstance(block.holds, HoldsPicture)
        and is_free(publication, block.id)
        and not _is_drawn(picture_of(publication, block.holds.picture))
    )


def _is_drawn(picture: Picture) -> bool:
    return bool(picture.art) or picture.has_alpha or bool(picture.mask)


def rect_of(publication: Publication, room: Room, name: str) -> int:
    """The number of the rectangle that a block lies on; -1 where its edges lie on no lines of the room."""
    index, _, block = page_of_block(publication, name)
    box = block_box(publication, index + 1, block)
    off = abs(room.printed - [*box]).max(axis=1)
    nearest = int(off.argmin())
    return nearest if off[nearest] <= NEAR else -1


def fields_across_and_down(publication: Publication, room: Room, name: str) -> tuple[int, int] | None:
    """How many fields a block has across and down; None where its edges lie on no lines of the room."""
    rect = rect_of(publication, room, name)
    if rect < 0:
        return None
    c0, c1, r0, r1, _ = (int(each) for each in room.rects[rect])
    return c1 - c0 + 1, r1 - r0 + 1
