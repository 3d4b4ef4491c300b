"""What things are called where they are listed: by the user's own name, or by what they hold."""

from half_fold.core.measure.length import counted
from half_fold.core.publication.kinds import kind_of
from half_fold.core.publication.records import (
    Block,
    Publication,
    Thing,
    blocks_of,
)


def called(publication: Publication, thing: Thing) -> str:
    """``Words “The grafting knife”``, ``Picture knife.jpg``, ``Group of 3``; the user's own name where there is one."""
    if thing.name:
        return thing.name
    if not isinstance(thing, Block):
        return f"Group of {counted(len(blocks_of(thing.members)), 'block')}"
    return kind_of(thing.holds).called(publication, thing.holds)
