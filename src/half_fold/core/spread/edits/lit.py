"""The light that a block states: kept as a look that others may be given too, and left off to compare."""

from collections.abc import Sequence
from functools import partial

from msgspec.structs import replace

from half_fold.core.inks.naming import new_name
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication, blocks_of
from half_fold.core.publication.surgery import block_named, thing_named, with_every_layer, with_thing_anywhere
from half_fold.core.publication.things import swapped
from half_fold.core.spread.setting.looks import worn_by


def keep_light(publication: Publication, block: str, called: str) -> Publication:
    """A look that is as the block is lit now, which the block then wears. Problem where it states nothing itself."""
    found = block_named(publication, block)
    lit = worn_by(publication, found)
    if found.light is None or lit is None:
        raise Problem("This has no light of its own; give it a shadow, a glow or an outline first.")
    name = new_name(called, {look.name for look in publication.looks}, "a look")
    made = replace(publication, looks=(*publication.looks, replace(lit, name=name)))
    return with_thing_anywhere(made, replace(found, look=name, light=None))


def unlit(publication: Publication, names: Sequence[str]) -> Publication:
    """The job with those things without their light, to be looked at: without their own, or else without their look.

    The same where none of them has any; locked ones too, for nothing is changed by it.
    """
    for name in names:
        for block in blocks_of((thing_named(publication, name),)):
            if block.light is not None or block.look:
                bare = replace(block, light=None, look=block.look if block.light is not None else "")
                publication = with_every_layer(publication, partial(swapped, new=bare))
    return publication
