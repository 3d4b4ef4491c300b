"""Small operations on records that every edit shares: find by name, replace by id, fresh ids."""

from collections.abc import Callable, Iterable, Iterator
from itertools import count
from typing import Protocol, TypeVar

from msgspec.structs import replace

from half_fold.core.measure.kept import kept
from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import (
    Block,
    Cover,
    Grid,
    Holds,
    HoldsDisplay,
    Insert,
    Master,
    Page,
    Picture,
    Publication,
    Role,
    Story,
    Thing,
    blocks_of,
)
from half_fold.core.publication.things import Things, every_thing, swapped, way_to


class _HasId(Protocol):
    @property
    def id(self) -> str: ...


class _HasName(Protocol):
    @property
    def name(self) -> str: ...


I = TypeVar("I", bound=_HasId)  # noqa: E741
B = TypeVar("B", Role, Master)
N = TypeVar("N", bound=_HasName)


def by_id(records: Iterable[I], wanted: str) -> I:
    """The record with that id; Problem where there is none."""
    for record in records:
        if record.id == wanted:
            return record
    raise Problem(f"There is nothing called “{wanted}” in this job.")


def by_name(records: Iterable[N], wanted: str, what: str) -> N:
    """The record with that name; Problem names what is missing and what there is."""
    known = list(records)
    for record in known:
        if record.name == wanted:
            return record
    names = ", ".join(record.name for record in known) or "none"
    raise Problem(f"There is no {what} “{wanted}” in this job; it has {names}.")


def swap(records: tuple[I, ...], new: I) -> tuple[I, ...]:
    """The same records with ``new`` in place of the one that has its id."""
    return tuple(new if record.id == new.id else record for record in records)


def swap_named(records: tuple[N, ...], new: N) -> tuple[N, ...]:
    """The same records with ``new`` in place of the one that has its name."""
    return tuple(new if record.name == new.name else record for record in records)


def fresh_id(prefix: str, taken: Iterable[str]) -> str:
    """The first of ``prefix``1, ``prefix``2 ... that is not taken."""
    return next(fresh_ids(prefix, taken))


def fresh_ids(prefix: str, taken: Iterable[str]) -> Iterator[str]:
    """Of ``prefix``1, ``prefix``2 ... those that are not taken, one after the other."""
    used = set(taken)
    return (name for number in count(1) if (name := f"{prefix}{number}") not in used)


NO_MARGIN = length("0mm")
BARE = Master(
    name="",
    grid=Grid(head=NO_MARGIN, foot=NO_MARGIN, inside=NO_MARGIN, outside=NO_MARGIN, columns=1, rows=1, gutter=NO_MARGIN),
    text_columns=1,
)


def master_of(publication: Publication, page: Page) -> Master:
    """The master a page stands on, complete: with what it is based on, and with the page's own grid where it has one.

    The same record each time, as long as the masters and the page's own grid stay the same.
    """
    master = master_named(publication, page.master) if page.master else BARE
    return master if page.grid is None else _on_grid(master, page.grid)


def master_named(publication: Publication, name: str) -> Master:
    """The master of that name with what it is based on."""
    return _complete(publication.masters, name)


@kept(256)
def _on_grid(master: Master, grid: Grid) -> Master:
    return replace(master, grid=grid)


@kept(256)
def _complete(masters: tuple[Master, ...], name: str) -> Master:
    own = by_name(masters, name, "master")
    base = own
    seen = {own.name}
    while base.based_on and base.based_on not in seen:
        base = by_name(masters, base.based_on, "master")
        seen.add(base.name)
        ids = {piece.id for piece in own.furniture}
        under = tuple(piece for piece in base.furniture if piece.id not in ids)
        own = replace(own, furniture=(*under, *own.furniture))
        if own.takes_grid:
            own = replace(own, grid=base.grid, takes_grid=base.takes_grid, text_columns=base.text_columns)
    return own


def role_named(publication: Publication, name: str) -> Role:
    """The role of that name, complete: what it does not state itself is that of the role it is based on."""
    return _complete_role(publication.roles, name)


@kept(512)
def _complete_role(roles: tuple[Role, ...], name: str) -> Role:
    role = by_name(roles, name, "role")
    if not role.based_on or role.based_on == name:
        return role
    base = _complete_role(tuple(r for r in roles if r.name != name), role.based_on)  # never round in a circle
    stated = {field: getattr(role, field) for field in role.own}
    return replace(base, name=name, label=role.label, based_on=role.based_on, own=role.own, **stated)


def role_in(publication: Publication, holds: Holds, name: str) -> Role:
    """The role of that name as a block has it: what a block of words states stands over what the role does."""
    role = role_named(publication, name)
    if not isinstance(holds, HoldsDisplay) or holds.own is None:
        return role
    return _stated_over(role, holds.own, None if holds.size is None else holds.size.pt)


@kept(512)
def _stated_over(role: Role, own: Role, size: float | None) -> Role:
    """A leading that is stated is that of the block's own size, if it has one, and not of the role's, to grow from."""
    said = {field: getattr(own, field) for field in own.own}
    if "leading" in said and size is not None:
        grown_from = own.leading.pt * role.size.pt / size
        said["leading"] = Length(f"{grown_from!r}pt", grown_from)
    return replace(role, **said)


def story_of(publication: Publication, story: str) -> Story:
    return by_id(publication.stories, story)


def picture_of(publication: Publication, picture: str) -> Picture:
    return by_id(publication.pictures, picture)


def page_numbers(publication: Publication) -> dict[str, int]:
    """The number of each page of the order, by its id."""
    return numbers_of(publication.pages)


def numbers_of(pages: tuple[Page, ...]) -> dict[str, int]:
    """The number of each of such pages, by its id."""
    return {page.id: number for number, page in enumerate(pages, 1)}


def every_block(publication: Publication) -> Iterable[tuple[int, Page, Block]]:
    """(page index, page, block) in reading order, back to front on each page."""
    for index, page in enumerate(publication.pages):
        for block in page.blocks:
            yield index, page, block


COVER_SIDES = ("back", "front", "inside_front", "inside_back", "back_flap", "front_flap")


def cover_blocks(publication: Publication) -> tuple[Block, ...]:
    """Every block of the cover: back and front, then the inside; and those of bound-in cards."""
    return (*blocks_of_cover(publication.cover), *blocks_of_cards(publication.inserts))


def blocks_of_cards(inserts: tuple[Insert, ...]) -> tuple[Block, ...]:
    """Every block of bound-in cards."""
    return blocks_of(tuple(thing for insert in inserts for thing in (*insert.front, *insert.back)))


def blocks_of_cover(cover: Cover) -> tuple[Block, ...]:
    """Every block of a cover."""
    return blocks_of(tuple(thing for side in COVER_SIDES for thing in getattr(cover, side)))


def every_thing_of(publication: Publication) -> Iterator[Thing]:
    """Every group and block: of pages, of those that wait, of the cover and of bound-in cards."""
    for things in _every_layer(publication):
        yield from every_thing(things)


def block_ids(publication: Publication) -> list[str]:
    """The ids of all blocks, those of the cover and of unplaced pages included."""
    return [thing.id for thing in every_thing_of(publication) if isinstance(thing, Block)]


def thing_ids(publication: Publication) -> list[str]:
    """The ids of all blocks and groups, so that a new id is new everywhere."""
    return [thing.id for thing in every_thing_of(publication)]


def with_page(publication: Publication, page: Page) -> Publication:
    return replace(publication, pages=swap(publication.pages, page))


def with_things(publication: Publication, page: str, change: Callable[[Things], Things]) -> Publication:
    """The publication with the things of one page changed."""
    old = by_id(publication.pages, page)
    things = change(old.things)
    return publication if things is old.things else with_page(publication, replace(old, things=things))


def may_be_base(every: Iterable[B], of: B) -> list[B]:
    """The roles, or masters, that one may be based on: not itself, and none that is based on it in turn."""
    by, found = {each.name: each for each in every}, list[B]()
    for each in by.values():
        at: B | None = each
        while at is not None and at.name != of.name:
            at = by.get(at.based_on)
        if at is None:
            found.append(each)
    return found


def with_story(publication: Publication, story: Story) -> Publication:
    return replace(publication, stories=swap(publication.stories, story))


def with_master(publication: Publication, master: Master) -> Publication:
    return replace(publication, masters=swap_named(publication.masters, master))


def with_role(publication: Publication, role: Role) -> Publication:
    return replace(publication, roles=swap_named(publication.roles, role))


def block_named(publication: Publication, wanted: str) -> Block:
    """A block wherever it lies: on a page, on one that waits, or on the cover. Problem where there is none."""
    return by_id((thing for thing in every_thing_of(publication) if isinstance(thing, Block)), wanted)


def thing_named(publication: Publication, wanted: str) -> Thing:
    """A block or a group wherever it lies. Problem where there is none."""
    return by_id(every_thing_of(publication), wanted)


def things_around(publication: Publication, name: str) -> tuple[Thing, ...]:
    """The thing of that id wherever it lies, behind the groups it is in. Problem where there is none."""
    for things in _every_layer(publication):
        if way := way_to(things, name):
            return way
    raise Problem(f"There is nothing called “{name}” in this job.")


def _every_layer(publication: Publication) -> Iterator[Things]:
    yield from (page.things for page in (*publication.pages, *publication.unplaced))
    yield from (getattr(publication.cover, side) for side in COVER_SIDES)
    yield from (things for insert in publication.inserts for things in (insert.front, insert.back))


def require_free(publication: Publication, name: str) -> None:
    """Problem where a thing, or a group it is in, is locked."""
    locked = {each.name for each in publication.sets if each.locked}
    for thing in things_around(publication, name):
        if thing.set in locked:
            raise Problem(f"That is in the set “{thing.set}”, which is locked; free the set first.")
        if thing.locked:
            what = "block" if isinstance(thing, Block) else "group"
            raise Problem(f"That {what} is locked; unlock it in its rows first.")


def is_free(publication: Publication, name: str) -> bool:
    """Whether neither a thing nor a group it is in is locked."""
    locked = {each.name for each in publication.sets if each.locked}
    return not any(thing.locked or thing.set in locked for thing in things_around(publication, name))


def with_thing_anywhere(publication: Publication, thing: Thing) -> Publication:
    """The publication with ``thing`` in place of the one that has its id, wherever that lies.

    Problem where that one is locked, unless it is now unlocked, or where a group it is in is.
    """
    *groups, was = things_around(publication, thing.id)
    if any(group.locked for group in groups) or (thing.locked and was.locked):
        require_free(publication, thing.id)
    return with_every_layer(publication, lambda things: swapped(things, thing))


def page_numbers_of_things(publication: Publication) -> dict[str, int]:
    """The number of the page on which each thing lies, by its id."""
    pages = enumerate(publication.pages, 1)
    return {thing.id: number for number, page in pages for thing in every_thing(page.things)}


def with_every_layer(publication: Publication, change: Callable[[Things], Things]) -> Publication:
    """The publication with the things of every page, of those that wait, of the cover and of cards changed."""
    changed: dict[str, object] = {}
    for field in ("pages", "unplaced"):
        pages = getattr(publication, field)
        made = tuple(_with_layer(page, change) for page in pages)
        if any(new is not old for new, old in zip(made, pages, strict=True)):
            changed[field] = made
    sides = {name: change(getattr(publication.cover, name)) for name in COVER_SIDES}
    if any(things is not getattr(publication.cover, name) for name, things in sides.items()):
        changed["cover"] = replace(publication.cover, **sides)
    cards = tuple(_card_with(insert, change) for insert in publication.inserts)
    if any(new is not old for new, old in zip(cards, publication.inserts, strict=True)):
        changed["inserts"] = cards
    return replace(publication, **changed) if changed else publication


def _card_with(insert: Insert, change: Callable[[Things], Things]) -> Insert:
    front, back = change(insert.front), change(insert.back)
    same = front is insert.front and back is insert.back
    return insert if same else replace(insert, front=front, back=back)


def _with_layer(page: Page, change: Callable[[Things], Things]) -> Page:
    things = change(page.things)
    return page if things is page.things else replace(page, things=things)


def page_of_block(publication: Publication, block: str) -> tuple[int, Page, Block]:
    """(page index, page, block) of a block on a page. Problem where it is on none."""
    for index, page, found in every_block(publication):
        if found.id == block:
            return index, page, found
    raise Problem("That block is no longer on a page; it may have been undone.")


def page_of_thing(publication: Publication, name: str) -> tuple[int, Page, Thing]:
    """(page index, page, thing) of a block or a group on a page. Problem where it is on none."""
    for index, page in enumerate(publication.pages):
        if way := way_to(page.things, name):
            return index, page, way[-1]
    raise Problem("That is no longer on a page; it may have been undone.")
