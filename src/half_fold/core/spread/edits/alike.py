"""What is like a block: others of its kind or in its ink; and others made to look as it does."""

from collections.abc import Callable, Sequence

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.references import INK, PAINT, named_in
from half_fold.core.publication.surgery import block_named, thing_named, with_thing_anywhere
from half_fold.core.spread.settable.properties import BLOCK

# What a block is, rather than how it looks.
ITS_OWN = frozenset({"picture", "name", "number", "addon", "lines", "locked", "angle", "focus.across", "focus.down"})


def make_look_like(publication: Publication, names: Sequence[str]) -> Publication:
    """The things as the last of them looks, as far as each has what that has. Problem where there is one alone."""
    if len(names) < 2:
        raise Problem("One thing alone looks like itself; choose another as well, the one to look like last.")
    like = thing_named(publication, names[-1])
    for name in names[:-1]:
        thing = thing_named(publication, name)
        if not isinstance(thing, Block) or not isinstance(like, Block):
            raise Problem("A group is no block; go into it and choose blocks.")
        publication = with_thing_anywhere(publication, _dressed(block_named(publication, name), like))
    return publication


def _dressed(block: Block, like: Block) -> Block:
    """A block with every property of another that it has too, those that bring others with them first."""
    for of in BLOCK:
        if of.key not in ITS_OWN and of.applies(block) and of.applies(like):
            value = of.read(like)
            if value != of.read(block):
                block = of.write(block, value)
    return block


def of_same_kind(publication: Publication, name: str, numbers: Sequence[int]) -> tuple[str, ...]:
    """The ids of the blocks on some pages that hold the same kind of thing as one, that one last."""
    kind = type(block_named(publication, name).holds)
    return _found(publication, name, numbers, lambda block: isinstance(block.holds, kind))


def in_same_ink(publication: Publication, name: str, numbers: Sequence[int]) -> tuple[str, ...]:
    """The ids of the blocks on some pages that name an ink which one names too, that one last."""
    own = _inks(block_named(publication, name))
    return _found(publication, name, numbers, lambda block: bool(own & _inks(block)))


def _inks(block: Block) -> set[str]:
    return {each.name for each in named_in("", block) if each.kind in (INK, PAINT)}


def _found(
    publication: Publication, name: str, numbers: Sequence[int], fits: Callable[[Block], bool]
) -> tuple[str, ...]:
    every = (block for number in numbers for block in publication.pages[number - 1].blocks)
    return (*(block.id for block in every if block.id != name and fits(block)), name)
