"""Laying goods: copies of one pattern, a row of the table in each, over as many pages as they take."""

from collections.abc import Sequence
from functools import partial

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.catalogue.table import pictured
from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import pages_told
from half_fold.core.publication.records import Block, Group, HoldsPicture, Publication, Thing, blocks_of
from half_fold.core.publication.surgery import (
    every_block,
    every_thing_of,
    fresh_id,
    page_of_thing,
    thing_named,
    with_every_layer,
    with_things,
)
from half_fold.core.publication.things import Things, swapped_all
from half_fold.core.spread.edits.carrying import reached
from half_fold.core.spread.edits.grouping import double_things, freed, namer, outermost, renewed, shift_things
from half_fold.core.spread.edits.linked import LINK
from half_fold.core.spread.edits.placing import with_free_pages
from half_fold.core.spread.edits.repeating import Repeat, places_of
from half_fold.core.spread.setting.goods import rows_of
from half_fold.core.spread.where.frames import page_frame_of

BEYOND = 0.01  # points over the trim that are nothing
ITS_OWN = ("picture", "focus.across", "focus.down")  # what a picture's block differs in from row to row


class LaidGoods(Struct, frozen=True):
    """The job with goods laid: which rows, on which pages."""

    publication: Publication
    rows: tuple[str, ...]
    pages: tuple[int, ...]

    @property
    def words(self) -> str:
        """``31 rows on pages 4 to 7``."""
        return f"{counted(len(self.rows), 'row')} on {pages_told(self.pages)}"


def laid_rows(publication: Publication) -> dict[str, int]:
    """The number of the page on which each row lies first; of those that lie on one."""
    found: dict[str, int] = {}
    for index, _, block in every_block(publication):
        if block.row:
            found.setdefault(block.row, index + 1)
    return found


def lay_goods(publication: Publication, name: str, how: Repeat) -> LaidGoods:
    """Copies of a thing for each row that lies nowhere yet, linked with it; across, then down.

    It takes the first row itself, unless it has one: then all go on further pages. Those that find no room on its page
    go on over the next free pages, in the same places. Problem where the job has no goods, or all are laid.
    """
    rows = rows_to_lay(publication)
    if not rows:
        raise Problem("Every row of the goods is laid already; take one off its page to lay it anew.")
    (name,) = outermost(publication, (name,))
    places = _places(publication, name, how)
    number = page_of_thing(publication, name)[0] + 1
    link, has_row = _link_of(publication, name), any(b.row for b in blocks_of((thing_named(publication, name),)))
    begin = 0 if has_row else len(places)
    begins = range(begin, len(rows), len(places))
    publication, free = with_free_pages(publication, number, len(begins))
    if len(free) < len(begins):
        raise Problem(
            f"{counted(len(rows) - begin, 'row')} more than there is room for, and this job takes no further pages; "
            "lay more of them on a page, or take rows out of the table."
        )
    with_copies, names = _repeated(publication, name, places[: len(rows)])
    pattern, new = [thing_named(with_copies, each) for each in names], namer(with_copies)
    if not has_row:
        first = {each.id: _given(publication, each, link, row) for each, row in zip(pattern, rows, strict=False)}
        publication = with_every_layer(with_copies, partial(swapped_all, made=first))
    for page, at in zip(free, begins, strict=True):
        copies = (freed(renewed(thing, new)) for thing in pattern)
        here = zip(copies, rows[at : at + len(places)], strict=False)
        things = tuple(_given(publication, thing, link, row) for thing, row in here)
        publication = with_things(publication, publication.pages[page - 1].id, partial(_behind, things=things))
    return LaidGoods(publication, tuple(rows), (*(() if has_row else (number,)), *free))


def _repeated(
    publication: Publication, name: str, places: Sequence[tuple[float, float]]
) -> tuple[Publication, tuple[str, ...]]:
    """A thing once at each of those places, its own the first; gives the ids."""
    names: tuple[str, ...] = (name,)
    for place in places[1:]:
        publication, copies = double_things(publication, (name,), (0.0, 0.0))
        publication = shift_things(publication, copies, *place)
        names = (*names, *copies)
    return publication, names


def _behind(there: Things, *, things: Things) -> Things:
    return (*there, *things)


def _places(publication: Publication, name: str, how: Repeat) -> list[tuple[float, float]]:
    """Where on a page the copies lie from the first. Problem where some would lie beyond the trim."""
    places, box = places_of(publication, (name,), how), reached(publication, (name,))
    trim = page_frame_of(publication, page_of_thing(publication, name)[0] + 1).trim
    fits = [box.right + x <= trim.right + BEYOND and box.bottom + y <= trim.bottom + BEYOND for x, y in places]
    if not all(fits):
        beyond = f"{fits.count(False)} of {len(places)} on a page would lie beyond its trim"
        raise Problem(f"{beyond}; give fewer, or make it smaller.")
    return places


def rows_to_lay(publication: Publication) -> list[str]:
    """The rows that lie on no page yet. Problem where the job has no goods."""
    if publication.goods is None:
        raise Problem("This job has no goods yet; bring in a table of them first.")
    lie = laid_rows(publication)
    return [row for row in rows_of(publication.goods) if row not in lie]


def _link_of(publication: Publication, name: str) -> str:
    own = thing_named(publication, name).link
    return own or fresh_id(LINK, (thing.link for thing in every_thing_of(publication) if thing.link))


def _given(publication: Publication, thing: Thing, link: str, row: str) -> Thing:
    """A thing with a link, and all its blocks with a row and the picture that this names."""
    return replace(_with_row(publication, thing, row), link=link)


def _with_row(publication: Publication, thing: Thing, row: str) -> Thing:
    if isinstance(thing, Group):
        return replace(thing, members=tuple(_with_row(publication, member, row) for member in thing.members))
    assert isinstance(thing, Block)
    own = ITS_OWN if isinstance(thing.holds, HoldsPicture) else ()
    return pictured(publication, replace(thing, row=row, differs=tuple(dict.fromkeys((*thing.differs, *own)))))
