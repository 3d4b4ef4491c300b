"""Asking for arrangements of what is chosen, and taking one: what the window and the command line share."""

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from half_fold.core.arrange.finding import Arrangement, arranged
from half_fold.core.arrange.fitness import Item
from half_fold.core.arrange.items import fields_of, items_of, picture_blocks, rect_of
from half_fold.core.arrange.laying import laid
from half_fold.core.arrange.room import room_of
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.told import told_of_all
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.publication.surgery import block_named, picture_of


def arrangements_on(
    publication: Publication,
    folder: Path,
    number: int,
    blocks: Sequence[str],
    pictures: Sequence[str],
    alone: bool = False,
    pinned: Mapping[str, str] | None = None,
    still_wanted: Callable[[], bool] = lambda: True,
) -> list[Arrangement]:
    """Arrangements of picture blocks and of pictures over the spread of page ``number``, or over it ``alone``.

    Where nothing is named, of all pictures that lie there free. ``pinned`` says of blocks whether their ``place`` or
    their ``size`` stays. Problem where there is nothing to arrange, or no room.
    """
    spread = spread_of(publication, number)
    pages = (number,) if alone else spread.numbers
    blocks = list(blocks) if blocks or pictures else list(picture_blocks(publication, spread))
    if not blocks and not pictures:
        raise Problem("No picture lies free here; choose some in the drawer, or lay one.")
    records = [picture_of(publication, name) for name in (*_held(publication, blocks), *pictures)]
    told = told_of_all(folder, records, still_wanted)
    items = items_of(publication, blocks, pictures, told)
    return arranged(publication, pages, _pinned(publication, pages, items, pinned or {}), still_wanted)


def _held(publication: Publication, blocks: Sequence[str]) -> list[str]:
    found = (block_named(publication, name).holds for name in blocks)
    return [holds.picture for holds in found if isinstance(holds, HoldsPicture)]


def _pinned(
    publication: Publication, pages: Sequence[int], items: Sequence[Item], pinned: Mapping[str, str]
) -> list[Item]:
    """The items, of which those whose block is pinned keep its place or its size."""
    room, made = room_of(publication, pages), []
    for item in items:
        how = pinned.get(item.block, "")
        rect = rect_of(publication, room, item.block) if how == "place" else -1
        size = fields_of(publication, room, item.block) if how == "size" else None
        if how and rect < 0 and size is None:
            raise Problem("That block lies off the fields, so that it cannot be pinned; move its edges onto them.")
        made.append(Item(item.picture, item.turn, item.block, item.focus, item.clear, rect, size))
    return made


def taken(publication: Publication, arrangement: Arrangement) -> tuple[Publication, tuple[str, ...]]:
    """The job with an arrangement laid, and the ids of its blocks."""
    return laid(publication, arrangement)
