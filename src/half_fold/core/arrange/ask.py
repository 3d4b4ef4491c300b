"""Asking for arrangements of what is chosen, and taking one: what the window and the command line share."""

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.arrange.arrangement import Arrangement
from half_fold.core.arrange.finding import arranged
from half_fold.core.arrange.fitness import Item
from half_fold.core.arrange.items import fields_across_and_down, items_of, picture_blocks, rect_of
from half_fold.core.arrange.laying import lay_arrangement
from half_fold.core.arrange.room import room_of
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.told import told_of_all
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.publication.surgery import block_named, picture_of


class Pin(Struct, frozen=True):
    """What of an item stays: the rectangle it lies on, by its number, or how many fields it has across and down."""

    rect: int = -1
    size: tuple[int, int] | None = None


def arrangements_on(
    publication: Publication,
    folder: Path,
    number: int,
    blocks: Sequence[str],
    pictures: Sequence[str],
    alone: bool = False,
    pinned: Mapping[str, Pin] | None = None,
    still_wanted: Callable[[], bool] = lambda: True,
) -> list[Arrangement]:
    """Arrangements of picture blocks and of pictures over the spread of page ``number``, or over it ``alone``.

    Where nothing is named, of all pictures that lie there free. ``pinned`` says, by the block of an item or its picture
    where it has none, what of it stays. Problem where there is nothing to arrange, or no room.
    """
    spread = spread_of(publication, number)
    pages = (number,) if alone else spread.numbers
    blocks = list(blocks) if blocks or pictures else list(picture_blocks(publication, spread))
    if not blocks and not pictures:
        raise Problem("No picture lies free here; choose some in the drawer, or lay one.")
    records = [picture_of(publication, name) for name in (*_held(publication, blocks), *pictures)]
    told = told_of_all(folder, records, still_wanted)
    items = items_of(publication, blocks, pictures, told)
    pins = pinned or {}
    items = tuple(replace(item, rect=pins[key(item)].rect, size=pins[key(item)].size) if key(item) in pins else item
                  for item in items)  # fmt: skip
    return arranged(publication, pages, items, still_wanted)


def key(item: Item) -> str:
    """What an item is known by: its block, or its picture where it lies in none yet."""
    return item.block or item.picture.id


def _held(publication: Publication, blocks: Sequence[str]) -> list[str]:
    found = (block_named(publication, name).holds for name in blocks)
    return [holds.picture for holds in found if isinstance(holds, HoldsPicture)]


def pins_of(publication: Publication, number: int, alone: bool, asked: Mapping[str, str]) -> dict[str, Pin]:
    """Pins of blocks, of which the ``place`` or the ``size`` is to stay. Problem where one lies off the fields."""
    room = room_of(publication, (number,) if alone else spread_of(publication, number).numbers)
    made = {}
    for name, how in asked.items():
        rect, size = rect_of(publication, room, name), fields_across_and_down(publication, room, name)
        if size is None:
            raise Problem("That block lies off the fields, so that it cannot be pinned; move its edges onto them.")
        made[name] = Pin(rect=rect) if how == "place" else Pin(size=size)
    return made


def take_arrangement(publication: Publication, arrangement: Arrangement) -> tuple[Publication, tuple[str, ...]]:
    """The job with an arrangement laid, and the ids of its blocks."""
    return lay_arrangement(publication, arrangement)
