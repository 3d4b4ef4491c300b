"""Sets: names for things wherever they lie, that are shown, hidden, locked and left out of outputs together."""

from collections.abc import Container, Iterable
from functools import partial

from msgspec.structs import replace

from half_fold.core.inks.naming import new_name
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Property, named
from half_fold.core.publication.records import Group, Publication, Thing, ThingSet
from half_fold.core.publication.references import SET
from half_fold.core.publication.renaming import name_anew
from half_fold.core.publication.surgery import (
    by_name,
    every_thing_of,
    swap_named,
    thing_named,
    with_every_layer,
    with_thing_anywhere,
)
from half_fold.core.publication.things import Things, every_thing, without

SETS: tuple[Property[ThingSet], ...] = (
    field_of(ThingSet, "hidden", "Hidden", "flag", note="it prints as ever", also=("invisible", "shown")),
    field_of(ThingSet, "locked", "Locked", "flag", also=("protected", "frozen")),
)


def add_set(publication: Publication, name: str) -> Publication:
    """One more set, with nothing in it. Problem where its name is taken or none."""
    if "." in name:  # a full stop parts the words of a path
        raise Problem("A set needs a name without a full stop; type another.")
    made = ThingSet(name=new_name(name, {each.name for each in publication.sets}, "a set"))
    return replace(publication, sets=(*publication.sets, made))


def set_of_set(publication: Publication, name: str, key: str, typed: str) -> Publication:
    """Whether a set is hidden or locked, as typed. Problem where it cannot be."""
    found = by_name(publication.sets, name, "set")
    return replace(publication, sets=swap_named(publication.sets, named(SETS, key).set(publication, found, typed)))


def rename_set(publication: Publication, old: str, new: str) -> Publication:
    """A set under another name, wherever it is named."""
    if " ".join(new.split()) == old:
        return publication
    found = by_name(publication.sets, old, "set")
    made = replace(found, name=new_name(new, {each.name for each in publication.sets}, "a set"))
    sets = tuple(made if each is found else each for each in publication.sets)
    return name_anew(replace(publication, sets=sets), (SET,), old, made.name)


def remove_set(publication: Publication, name: str) -> Publication:
    """Without that set; what was in it stays where it is, and outputs leave out nothing of it."""
    by_name(publication.sets, name, "set")
    bare = name_anew(publication, (SET,), name, "")
    outputs = tuple(replace(each, without=tuple(filter(None, each.without))) for each in bare.outputs)
    return replace(bare, outputs=outputs, sets=tuple(each for each in bare.sets if each.name != name))


def put_in_set(publication: Publication, names: Iterable[str], name: str) -> Publication:
    """Those things in that set, or in none. Problem where there is no such set."""
    if name:
        by_name(publication.sets, name, "set")
    for each in names:
        publication = with_thing_anywhere(publication, replace(thing_named(publication, each), set=name))
    return publication


def things_of(publication: Publication, name: str) -> list[Thing]:
    """The things of a set, on pages and on the cover."""
    return [thing for thing in every_thing_of(publication) if thing.set == name]


def out_of_sight(publication: Publication) -> frozenset[str]:
    """The ids of all that lies in hidden sets, and of what is in groups of them."""
    hidden = {each.name for each in publication.sets if each.hidden}
    if not hidden:
        return frozenset()
    found = (thing for thing in every_thing_of(publication) if thing.set in hidden)
    return frozenset(each.id for thing in found for each in every_thing((thing,)))


def with_new_in_set(before: Publication, after: Publication, name: str) -> Publication:
    """What an edit made, its new things in a set, unless they are in one already or in a group that is new."""
    if all(each.name != name for each in after.sets):
        return after
    there = {thing.id for thing in every_thing_of(before)}
    new = [thing for thing in every_thing_of(after) if thing.id not in there]
    inner = {each.id for thing in new if isinstance(thing, Group) for each in every_thing(thing.members)}
    return put_in_set(after, [thing.id for thing in new if not thing.set and thing.id not in inner], name)


def leave_out_sets(publication: Publication, names: Container[str]) -> Publication:
    """The job without the things of those sets, as it is made into an output."""
    gone = {thing.id for thing in every_thing_of(publication) if thing.set and thing.set in names}
    return with_every_layer(publication, partial(_without, names=gone)) if gone else publication


def _without(things: Things, names: set[str]) -> Things:
    return without(things, names)
