"""Scenes: several pictures side by side over a whole spread as one ground, melting into each other, locked as one."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import placed
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Group,
    Holds,
    HoldsPanel,
    HoldsPicture,
    Publication,
    Slope,
    Treatment,
)
from half_fold.core.publication.surgery import (
    block_named,
    by_name,
    fresh_id,
    page_of_thing,
    picture_of,
    thing_ids,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.spread.edits.grouping import delete_things, group
from half_fold.core.spread.where.frames import block_box, frames_of, page_frame_of
from half_fold.core.spread.where.reaching import in_rect, with_place

MELT = 0.2  # of a picture's own width: how far it lies over the one before, and melts into it
MOST = 12
WASH = 25.0  # per cent: how thickly a wash lies over all


def scene_of(
    publication: Publication, number: int, pictures: Sequence[str], wash: str = "", called: str = "Scene"
) -> tuple[Publication, str]:
    """Pictures, by their ids, side by side from bleed to bleed over the spread of page ``number``, behind all else.

    Each lies over the one before by a part of its width and melts into it; an ink named as ``wash`` lies over all of
    them. They are a locked group; gives its id too. Problem where there are none, or too many.
    """
    if not pictures:
        raise Problem("A scene needs a picture at least; choose some.")
    if len(pictures) > MOST:
        raise Problem(f"A scene takes {MOST} pictures at most; choose fewer.")
    if wash:
        by_name(publication.inks, wash, "ink")
    spread = next(each for each in spreads_of(publication) if number in each.numbers)
    first, other = spread.numbers[0], len(spread.numbers) > 1
    names: list[str] = []
    for picture in pictures:
        publication, name = _behind(publication, first, HoldsPicture(picture=picture), other, len(names))
        names.append(name)
    whole = block_box(publication, first, block_named(publication, names[0]))
    frames, step = frames_of(publication, first), whole.width / len(pictures)
    for index, name in enumerate(names):
        left = whole.left + index * step - (MELT * step if index else 0.0)
        right = whole.left + (index + 1) * step + (MELT * step if index + 1 < len(names) else 0.0)
        # Whatever it begins on, it stays on the first page: what lies on either stands in front of the scene.
        place = in_rect(block_named(publication, name).place, Rect(left, whole.top, right, whole.bottom), frames)
        publication = with_place(publication, name, place)
        if index:
            publication = _melted(publication, first, name, 2 * MELT * step)
    if wash:
        ground = HoldsPanel(ink=wash)
        publication, name = _behind(publication, first, ground, other, len(names))
        publication = with_thing_anywhere(publication, replace(block_named(publication, name), opacity=WASH))
        names.append(name)
    if len(names) == 1:
        return with_thing_anywhere(publication, replace(block_named(publication, names[0]), locked=True)), names[0]
    publication, own = group(publication, names, called)
    _, _, found = page_of_thing(publication, own)
    assert isinstance(found, Group)
    return with_thing_anywhere(publication, replace(found, locked=True)), own


def make_scene(publication: Publication, number: int, names: Sequence[str]) -> tuple[Publication, str]:
    """Picture blocks of a spread taken from where they lie and laid as a scene, from left to right as they lay."""
    placed_at = {
        name: block_box(publication, page_of_thing(publication, name)[0] + 1, block_named(publication, name))
        for name in names
    }
    pictures = [
        holds.picture
        for name in sorted(names, key=lambda each: placed_at[each].centre)
        if isinstance(holds := block_named(publication, name).holds, HoldsPicture)
    ]
    return scene_of(delete_things(publication, names), number, pictures)


def _behind(publication: Publication, number: int, holds: Holds, over_both: bool, at: int) -> tuple[Publication, str]:
    """A new block from bleed to bleed, so many from the back."""
    bleed = Stop(kind="bleed")
    far = Stop(kind="bleed", facing=over_both)
    on_right = page_frame_of(publication, number).on_right
    left, right = (far, bleed) if on_right and over_both else (bleed, far)
    own = fresh_id("b", thing_ids(publication))
    block = Block(id=own, place=Held(left=left, top=bleed, right=right, bottom=bleed), holds=holds)
    page = publication.pages[number - 1]
    made = with_things(publication, page.id, lambda things: (*things[:at], block, *things[at:]))
    return made, own


def _melted(publication: Publication, number: int, name: str, over: float) -> Publication:
    """The picture seen more and more over so many points from the left edge of its block."""
    block = block_named(publication, name)
    assert isinstance(block.holds, HoldsPicture)
    box = block_box(publication, number, block)
    where = placed(picture_of(publication, block.holds.picture), block.holds, box)
    start, end = ((x - where.left) / where.width for x in (box.left, box.left + over))
    treatment = replace(block.holds.treatment or Treatment(), seen=Slope(start=(start, 0.5), end=(end, 0.5)))
    return with_thing_anywhere(publication, replace(block, holds=replace(block.holds, treatment=treatment)))
