"""Things that are linked: change one and all change, but for where each lies and what it is said to differ in."""

from collections.abc import Container, Iterable, Iterator, Mapping
from functools import partial

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.places import ANYWHERE, Floating, Place
from half_fold.core.publication.records import Block, Group, Publication, Thing, blocks_of
from half_fold.core.publication.surgery import (
    every_thing_of,
    fresh_id,
    page_numbers_of_things,
    thing_named,
    with_every_layer,
    with_thing_anywhere,
)
from half_fold.core.publication.things import every_thing, swapped_all
from half_fold.core.spread.settable.properties import BLOCK
from half_fold.core.spread.where.frames import block_box, frames_of, thing_box
from half_fold.core.spread.where.reaching import in_rect

WORDS = "words"
LINK = "link"


def link(publication: Publication, names: Iterable[str]) -> Publication:
    """The things linked with each other: the others become as the last is, where they lie.

    Problem where there are fewer than two, or where they are not of one make.
    """
    every = [thing_named(publication, name) for name in names]
    if len(every) < 2:
        raise Problem("One thing alone is linked with nothing; choose another as well.")
    for thing in every[:-1]:
        if not _is_alike(thing, every[-1]):
            raise Problem("Only things of one make can be linked: blocks, or groups of as many blocks.")
    known = every[-1].link or fresh_id(LINK, (thing.link for thing in every_thing_of(publication) if thing.link))
    for thing in every:
        publication = with_thing_anywhere(publication, replace(thing, link=known))
    return _spread(publication, thing_named(publication, every[-1].id))


def unlink(publication: Publication, name: str) -> Publication:
    """A thing by itself again, as it is."""
    return with_thing_anywhere(publication, replace(thing_named(publication, name), link=""))


def linked_with(publication: Publication, name: str) -> tuple[str, ...]:
    """The ids of the things that one is linked with."""
    known = thing_named(publication, name).link
    others = (thing for thing in every_thing_of(publication) if thing.link == known and thing.id != name)
    return tuple(thing.id for thing in others) if known else ()


def follow(before: Publication, after: Publication) -> Publication:
    """A document in which what was changed of a linked thing is changed of all that are linked with it.

    Where several of one link were changed at once, each differently, the last of them is the one that is followed.
    """
    if after.pages is before.pages and after.cover is before.cover and after.unplaced is before.unplaced:
        return after
    was = {thing.id: thing for thing in every_thing_of(before) if thing.link}
    if not was:
        return after
    changed: dict[str, Thing] = {}
    for thing in every_thing_of(after):
        old = was.get(thing.id)
        if old is not None and thing.link == old.link and thing is not old and _seen(thing) != _seen(old):
            changed[thing.link] = thing
    for thing in changed.values():
        after = _spread(after, thing)
    return after


def _seen(thing: Thing) -> tuple[object, ...]:
    """What of a thing is the same in all that are linked: not its name, its place, or what it differs in."""
    if isinstance(thing, Group):
        shared = thing.opacity, thing.blend, thing.angle
        return (*shared, *(_seen(member) for member in thing.members), _shape(thing))
    size = (thing.place.width, thing.place.height) if isinstance(thing.place, Floating) else ()
    return (replace(thing, id="", name="", locked=False, link="", differs=(), place=ANYWHERE, row=""), size)


def _shape(group: Group) -> tuple[object, ...]:
    """How the members of a group lie to each other, as far as their places say."""
    return tuple(block.place for block in blocks_of(group.members))


def _spread(publication: Publication, source: Thing) -> Publication:
    """All that are linked with a thing, as that is."""
    pages = page_numbers_of_things(publication)
    made = {
        other.id: _as(publication, pages, other, source)
        for other in every_thing_of(publication)
        if other.link == source.link and other.id != source.id and _is_alike(other, source)
    }
    return with_every_layer(publication, partial(swapped_all, made=made)) if made and source.link else publication


def _is_alike(one: Thing, other: Thing) -> bool:
    if isinstance(one, Group) and isinstance(other, Group):
        return len(one.members) == len(other.members) and all(map(_is_alike, one.members, other.members))
    return isinstance(one, Block) and isinstance(other, Block)


def _as(publication: Publication, pages: Mapping[str, int], other: Thing, source: Thing) -> Thing:
    """A thing as another that it is linked with, in its own place and with what it differs in.

    ``pages`` are the numbers of the pages on which things lie.
    """
    return _made_as(publication, pages, other, source, _way_between(publication, pages, other, source))


def _way_between(
    publication: Publication, pages: Mapping[str, int], other: Thing, source: Thing
) -> tuple[float, float] | None:
    """From where the source begins to where the other does, in points; None where one lies on no page."""
    if other.id not in pages or source.id not in pages:
        return None
    mine, its = (thing_box(publication, pages[each.id], each) for each in (other, source))
    return mine.left - its.left, mine.top - its.top


def _made_as(
    publication: Publication, pages: Mapping[str, int], other: Thing, source: Thing, way: tuple[float, float] | None
) -> Thing:
    if isinstance(other, Group) and isinstance(source, Group):
        pairs = zip(other.members, source.members, strict=True)
        members = tuple(_made_as(publication, pages, mine, its, way) for mine, its in pairs)
        return replace(other, members=members, opacity=source.opacity, blend=source.blend, angle=source.angle)
    assert isinstance(other, Block) and isinstance(source, Block)
    kept = ("id", "name", "locked", "link", "differs", "row", "place")
    made = replace(source, **{field: getattr(other, field) for field in kept})
    if way is not None:
        made = replace(made, place=_placed_as(publication, pages, other, source, way))
    return _differing(made, other, {*other.differs, *source.differs})


def _placed_as(
    publication: Publication, pages: Mapping[str, int], other: Block, source: Block, way: tuple[float, float]
) -> Place:
    """A block's own place, as large as the source and as far from where both begin."""
    frames = frames_of(publication, pages[other.id])
    return in_rect(other.place, Rect(*block_box(publication, pages[source.id], source)).moved(*way), frames)


def _differing(made: Block, other: Block, keys: Container[str]) -> Block:
    """A block with what is another's own: what that differs in, and what the one it was made as does."""
    for of in BLOCK:
        if of.key in keys and of.applies(made) and of.applies(other):
            made = of.write(made, of.read(other))
    if WORDS in keys and hasattr(made.holds, "paragraphs") and hasattr(other.holds, "paragraphs"):
        made = replace(made, holds=replace(made.holds, paragraphs=other.holds.paragraphs))
    return made


def format_differences(block: Block) -> str:
    """In what a block differs from those it is linked with, as it would be typed."""
    labels = {of.key: of.label.lower() for of in BLOCK}
    return ", ".join(labels.get(key, key) for key in block.differs)


def set_differences(publication: Publication, name: str, typed: str) -> Publication:
    """In what a block differs from those it is linked with: ``words, ink``; what it no longer does, it takes from them.

    Problem where a block has no such thing.
    """
    block = thing_named(publication, name)
    if not isinstance(block, Block):
        raise Problem("A group differs in its blocks; go into it and choose one.")
    keys = tuple(dict.fromkeys(_key_of(block, part.strip()) for part in typed.split(",") if part.strip()))
    made = with_thing_anywhere(publication, replace(block, differs=keys))
    for other in _sources(made, name):
        return _spread(made, other)
    return made


def _sources(publication: Publication, name: str) -> Iterator[Thing]:
    """Another of the link that a block is of, by itself or in a group."""
    for thing in every_thing_of(publication):
        if thing.link and any(each.id == name for each in every_thing((thing,))):
            yield from (thing_named(publication, other) for other in linked_with(publication, thing.id))


def _key_of(block: Block, said: str) -> str:
    if said.lower() == WORDS and hasattr(block.holds, "paragraphs"):
        return WORDS
    for of in BLOCK:
        if of.applies(block) and said.lower() in (of.key, of.label.lower()):
            return of.key
    raise Problem(f"A block like this has no “{said}” to differ in; there are words, ink, and the names of its rows.")
