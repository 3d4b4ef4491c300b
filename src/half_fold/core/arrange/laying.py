"""An arrangement laid: ordinary blocks on stops of the grid, which are anybody's afterwards."""

from msgspec.structs import replace

from half_fold.core.arrange.arrangement import Arrangement
from half_fold.core.arrange.texts import Text, columns_in
from half_fold.core.publication.places import Held
from half_fold.core.publication.records import Block, HoldsPicture, HoldsStory, Publication, Thing
from half_fold.core.publication.surgery import fresh_ids, page_of_thing, require_free, thing_ids, with_things
from half_fold.core.publication.things import without
from half_fold.core.spread.edits.claiming import held_picture


def lay_arrangement(publication: Publication, arrangement: Arrangement) -> tuple[Publication, tuple[str, ...]]:
    """The job with the pictures laid so, and the ids of their blocks in the order they are read.

    A block that a picture lay in already goes to its new place with all that is set of it; it lies straight there and
    fills it. Problem where such a block is locked, or in a group.
    """
    names = fresh_ids("b", thing_ids(publication))
    blocks: dict[int, list[Thing]] = {page: [] for page in arrangement.room.pages}
    made = []
    order = sorted(range(len(arrangement.items)), key=lambda n: n != arrangement.ground)
    for number in order:
        item = arrangement.items[number]
        page, place = arrangement.room.place(arrangement.rects[number])
        block = _taken_out(publication, item.block) if item.block else None
        if block is not None:
            publication = _without(publication, block.id)
        if block is not None and item.text is not None:
            blocks[page].append(_worded(block, item.text, place, arrangement.width(number)))
            continue
        name = next(names) if block is None else block.id
        blocks[page].append(_block(block, name, held_picture(publication, item.picture.id), item.focus, place))
    for page, things in blocks.items():
        laid_on = publication.pages[page - 1].id

        def put(there: tuple[Thing, ...], things: list[Thing] = things) -> tuple[Thing, ...]:
            behind = [thing for thing in things if arrangement.ground >= 0 and thing is things[0]]
            rest = [thing for thing in things if thing not in behind]
            return (*behind, *there, *rest)

        if things:
            publication = with_things(publication, laid_on, put)
        made += [thing.id for thing in things]
    return publication, tuple(made)


def _taken_out(publication: Publication, name: str) -> Block:
    require_free(publication, name)
    _, _, thing = page_of_thing(publication, name)
    assert isinstance(thing, Block)
    return thing


def _without(publication: Publication, name: str) -> Publication:
    _, page, _ = page_of_thing(publication, name)
    return with_things(publication, page.id, lambda things: without(things, {name}))


def _worded(block: Block, text: Text, place: Held, width: float) -> Block:
    """Words in their new place; running text in as many columns as read well there."""
    if isinstance(block.holds, HoldsStory):
        return replace(block, place=place, angle=0.0, holds=replace(block.holds, columns=columns_in(text, width)))
    return replace(block, place=place, angle=0.0)


def _block(block: Block | None, name: str, holds: HoldsPicture, focus: tuple[float, float], place: Held) -> Block:
    if block is None:
        return Block(id=name, place=place, holds=replace(holds, focus_x=focus[0], focus_y=focus[1]))
    assert isinstance(block.holds, HoldsPicture)
    return replace(block, place=place, angle=0.0, holds=replace(block.holds, scale="fill", closer=1.0, turn=0.0))
