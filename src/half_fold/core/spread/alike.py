"""One block made to look like another: what can be seen of it, but not what it holds, where it lies or its words."""

from collections.abc import Sequence

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import block_named, thing_named, with_thing_anywhere
from half_fold.core.spread.properties import BLOCK

# What a block is, rather than how it looks.
ITS_OWN = frozenset({"picture", "name", "number", "addon", "lines", "locked", "angle", "focus.across", "focus.down"})


def looking_like(publication: Publication, names: Sequence[str]) -> Publication:
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
