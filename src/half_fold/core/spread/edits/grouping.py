"""Several things at once: moved, grouped and ungrouped, brought to the front or the back, doubled and taken away."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from functools import partial
from typing import Literal

from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine, in_half_turns
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.publication.places import told_from_facing
from half_fold.core.publication.records import Block, Group, Publication, Thing, blocks_of
from half_fold.core.publication.surgery import (
    fresh_ids,
    page_of_thing,
    require_free,
    thing_ids,
    thing_named,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.publication.things import (
    Things,
    every_thing,
    mapped,
    put_beside,
    siblings_of,
    swapped,
    way_to,
    without,
)
from half_fold.core.spread.where.frames import own_turn, thing_box, thing_hull
from half_fold.core.spread.where.reaching import put_in

Order = Literal["front", "forward", "backward", "back"]
DOUBLED_BY = (8.5, 8.5)  # points that a copy lies off what it was made of: 3 mm


def outermost(publication: Publication, names: Iterable[str]) -> tuple[str, ...]:
    """The things of those ids without such as are in a group that is among them, from back to front by page.

    Problem where one is on no page.
    """
    wanted = set(names)
    for name in wanted:
        page_of_thing(publication, name)
    found: list[str] = []
    for page in publication.pages:
        for thing in every_thing(page.things):
            way = way_to(page.things, thing.id) if thing.id in wanted else ()
            if way and not any(outer.id in wanted for outer in way[:-1]):
                found.append(thing.id)
    return tuple(found)


def blocks_in(publication: Publication, names: Iterable[str]) -> list[str]:
    """The ids of the blocks of those things, those of groups among them."""
    things = (page_of_thing(publication, name)[2] for name in names)
    return [block.id for block in blocks_of(tuple(things))]


def shift_things(publication: Publication, names: Iterable[str], across: float, down: float) -> Publication:
    """The things by so many points. Problem where one is locked."""
    for name in blocks_in(publication, outermost(publication, names)):
        index, _, block = page_of_thing(publication, name)
        publication = put_in(publication, name, thing_box(publication, index + 1, block).moved(across, down))
    return publication


def shift_along(publication: Publication, names: Iterable[str], axis: Axis, by: float) -> Publication:
    """The things by so many points one way. Problem where one is locked."""
    return shift_things(publication, names, *((by, 0.0) if axis == "across" else (0.0, by)))


def group(publication: Publication, names: Iterable[str], called: str = "", own: str = "") -> tuple[Publication, str]:
    """The things as one group, in the place of the frontmost; gives its id, which is a new one or that of its ``own``.

    Things of both pages of a spread come to the page of the frontmost. Problem where there are fewer than two, where
    they are in different groups or one is locked.
    """
    chosen = outermost(publication, names)
    if len(chosen) < 2:
        raise Problem("A group needs two things at least; choose another as well.")
    for name in chosen:
        require_free(publication, name)
    front = chosen[-1]
    number, page, _ = page_of_thing(publication, front)
    beside_it = {thing.id for thing in siblings_of(page.things, front)}
    own = own or next(fresh_ids("g", thing_ids(publication)))
    members: Things = ()
    for name in chosen:
        at, other, thing = page_of_thing(publication, name)
        if at == number and name not in beside_it:
            raise Problem("They are in different groups; take those apart first.")
        members += (thing,) if at == number else mapped((thing,), _told_from_facing)
        if name != front:
            publication = with_things(publication, other.id, partial(without, names={name}))
    made = Group(id=own, members=members, name=called)

    def put(things: Things) -> Things:
        return tuple(made if thing.id == front else thing for thing in things)

    return with_things(publication, page.id, lambda things: put_beside(things, front, put)), made.id


def _told_from_facing(block: Block) -> Block:
    return replace(block, place=told_from_facing(block.place))


def ungroup(publication: Publication, name: str) -> tuple[Publication, tuple[str, ...]]:
    """The members of a group by themselves, turned as they were seen; gives their ids.

    Its opacity and blend were those of the whole, and go with it.
    """
    index, page, found = page_of_thing(publication, name)
    if isinstance(found, Block):
        raise Problem("That is no group; choose one.")
    require_free(publication, name)
    turn, names = own_turn(publication, index + 1, found), tuple(member.id for member in found.members)

    def put(things: Things) -> Things:
        return tuple(each for thing in things for each in (found.members if thing.id == name else (thing,)))

    publication = with_things(publication, page.id, lambda things: put_beside(things, name, put))
    if turn is not None:
        for member in names:
            publication = turn_with(publication, member, turn, found.angle)
    return publication, names


def turn_with(publication: Publication, name: str, turn: Affine, angle: float) -> Publication:
    """A thing where a turn brings its middle, and turned as much itself."""
    index, page, thing = page_of_thing(publication, name)
    x, y = thing_box(publication, index + 1, thing).centre
    to_x, to_y = turn.of(x, y)
    whole = round(in_half_turns(thing.angle + angle), 6)
    publication = with_things(publication, page.id, lambda things: swapped(things, replace(thing, angle=whole)))
    return shift_things(publication, [name], to_x - x, to_y - y)


def restack(publication: Publication, names: Iterable[str], to: Order) -> Publication:
    """The things to the front or the back, or one step that way among those they lie with."""
    for name in _in_order(outermost(publication, names), to):
        require_free(publication, name)
        _, page, _ = page_of_thing(publication, name)
        change = partial(_moved, name=name, to=to)
        publication = with_things(publication, page.id, partial(put_beside, name=name, change=change))
    return publication


def _in_order(names: Sequence[str], to: Order) -> Iterator[str]:
    """Those whose move does not bring them past the others first."""
    return reversed(names) if to in ("forward", "back") else iter(names)


def _moved(things: Things, *, name: str, to: Order) -> Things:
    at = next(index for index, thing in enumerate(things) if thing.id == name)
    place = {"front": len(things) - 1, "back": 0, "forward": at + 1, "backward": at - 1}[to]
    rest = [*things[:at], *things[at + 1 :]]
    place = min(max(place, 0), len(rest))
    return things if place == at else (*rest[:place], things[at], *rest[place:])


def put_at(publication: Publication, name: str, behind: str) -> Publication:
    """A thing right in front of another that it lies with, or at the very back where none is named.

    What lies on another page of the spread keeps to its own order. Problem where it is locked.
    """
    require_free(publication, name)
    _, page, thing = page_of_thing(publication, name)
    others = [each for each in siblings_of(page.things, name) if each.id != name]
    at = next((index + 1 for index, each in enumerate(others) if each.id == behind), 0 if not behind else None)
    if at is None:  # the other lies on the facing page: nothing of its own lies in front of it
        at = len(others)
    made = (*others[:at], thing, *others[at:])
    return with_things(publication, page.id, lambda things: put_beside(things, name, lambda _: made))


def name_thing(publication: Publication, name: str, text: str) -> Publication:
    """A block or a group under a name of the user's own, or under none."""
    thing = thing_named(publication, name)
    return with_thing_anywhere(publication, replace(thing, name=" ".join(text.split())))


def delete_things(publication: Publication, names: Iterable[str]) -> Publication:
    """Without those things; a story that one held stays among the stories. Problem where one is locked."""
    for name in outermost(publication, names):
        require_free(publication, name)
        _, page, _ = page_of_thing(publication, name)
        publication = with_things(publication, page.id, partial(without, names={name}))
    return publication


def renewed(thing: Thing, names: Callable[[str], str]) -> Thing:
    """A thing with ids of its own, those of its members as well; ``names`` gives one for a prefix."""
    return renewed_all((thing,), names)[0]


def renewed_all(things: Things, names: Callable[[str], str]) -> Things:
    """Things with ids of their own; a caption is of the copy of its picture, where that is among them."""
    told: dict[str, str] = {}

    def one(thing: Thing) -> Thing:
        if isinstance(thing, Block):
            told[thing.id] = names("b")
            return replace(thing, id=told[thing.id])
        return replace(thing, id=names("g"), members=tuple(map(one, thing.members)))

    made = tuple(map(one, things))
    return mapped(made, lambda block: replace(block, of=told[block.of]) if block.of in told else block)


def namer(publication: Publication) -> Callable[[str], str]:
    """What gives new ids for a prefix, each once."""
    taken = thing_ids(publication)
    ways = {prefix: fresh_ids(prefix, taken) for prefix in ("b", "g")}
    return lambda prefix: next(ways[prefix])


def double_things(
    publication: Publication, names: Iterable[str], by: tuple[float, float] = DOUBLED_BY
) -> tuple[Publication, tuple[str, ...]]:
    """A copy of each thing, a little off it and in front of all; gives the ids of the copies."""
    new, made = namer(publication), []
    for name in outermost(publication, names):
        _, page, thing = page_of_thing(publication, name)
        copy = freed(renewed(thing, new))
        publication = with_things(publication, page.id, partial(_in_front, thing=copy))
        made.append(copy.id)
    return shift_things(publication, made, *by), tuple(made)


def _in_front(things: Things, *, thing: Thing) -> Things:
    return (*things, thing)


def freed(thing: Thing) -> Thing:
    """A thing that is neither locked nor linked, with all in it."""
    if isinstance(thing, Group):
        return replace(thing, locked=False, link="", members=tuple(map(freed, thing.members)))
    return replace(thing, locked=False, link="")


def reach_of(publication: Publication, name: str) -> tuple[int, Rect]:
    """(page number, box) round a thing where it lies, turned or not."""
    index, _, thing = page_of_thing(publication, name)
    return index + 1, thing_hull(publication, index + 1, thing)
