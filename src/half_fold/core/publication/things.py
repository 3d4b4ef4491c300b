"""Surgery on the things of a page, blocks and groups; what stays as it was stays the same record."""

from collections.abc import Callable, Collection, Iterator, Mapping
from typing import TypeVar

from msgspec.structs import replace

from half_fold.core.publication.records import Block, Group, Thing

Things = tuple[Thing, ...]
T = TypeVar("T", bound=Thing)


def mapped(things: Things, change: Callable[[Block], Block]) -> Things:
    """The things with every block changed, those in groups as well."""
    return _same(things, tuple(_mapped(thing, change) for thing in things))


def _mapped(thing: Thing, change: Callable[[Block], Block]) -> Thing:
    if isinstance(thing, Block):
        return change(thing)
    return _with_members(thing, mapped(thing.members, change))


def _with_members(group: Group, members: Things) -> Group:
    return group if members is group.members else replace(group, members=members)


def _same(before: Things, after: Things) -> Things:
    is_same = len(before) == len(after) and all(a is b for a, b in zip(before, after, strict=True))
    return before if is_same else after


def swapped(things: Things, new: Thing) -> Things:
    """The things with ``new`` in place of the one that has its id, wherever among them that is."""
    return swapped_all(things, {new.id: new})


def swapped_all(things: Things, made: Mapping[str, Thing]) -> Things:
    """The things with those that were ``made``, by their ids, in place of what they were."""
    return _same(things, tuple(_swapped(thing, made) for thing in things))


def _swapped(thing: Thing, made: Mapping[str, Thing]) -> Thing:
    new = made.get(thing.id)
    if new is not None:
        return new
    return thing if isinstance(thing, Block) else _with_members(thing, swapped_all(thing.members, made))


def without(things: Things, names: Collection[str]) -> Things:
    """Without the things of those ids; a group that is left with nothing goes too."""
    kept = (_without(thing, names) for thing in things if thing.id not in names)
    return _same(things, tuple(thing for thing in kept if thing is not None))


def _without(thing: Thing, names: Collection[str]) -> Thing | None:
    if isinstance(thing, Block):
        return thing
    members = without(thing.members, names)
    return _with_members(thing, members) if members else None


def every_thing(things: Things) -> Iterator[Thing]:
    """Groups and blocks, each group before what is in it."""
    for thing in things:
        yield thing
        if isinstance(thing, Group):
            yield from every_thing(thing.members)


def way_to(things: Things, name: str) -> tuple[Thing, ...]:
    """The thing of that id, behind the groups it is in, outermost first; nothing where it is not there."""
    for thing in things:
        if thing.id == name:
            return (thing,)
        if isinstance(thing, Group) and (inner := way_to(thing.members, name)):
            return (thing, *inner)
    return ()


def siblings_of(things: Things, name: str) -> Things:
    """The things among which one stands: those of its group, or of its page."""
    way = way_to(things, name)
    return way[-2].members if len(way) > 1 and isinstance(way[-2], Group) else things


def put_beside(things: Things, name: str, change: Callable[[Things], Things]) -> Things:
    """The things with those changed among which one stands."""
    way = way_to(things, name)
    if len(way) > 1 and isinstance(group := way[-2], Group):
        members = change(group.members)
        return swapped(things, _with_members(group, members)) if members else without(things, {group.id})
    return change(things)
