"""One block of every kind, by which it is told to which kinds a property belongs."""

from half_fold.core.publication.kinds import KINDS
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import (
    Block,
    Holds,
    Wrap,
)

SAMPLES: dict[str, Holds] = {kind.name: kind.sample for kind in KINDS.values()}
_SAID = {kind.name: kind.said for kind in KINDS.values()}


def sample(kind: str, wraps: bool = False) -> Block:
    """A block of a kind; with text running round it, where it ``wraps``."""
    trim = Stop(kind="trim")
    place = Held(left=trim, top=trim, right=trim, bottom=trim)
    return Block(id="b", place=place, holds=SAMPLES[kind], wrap=Wrap() if wraps else None)


def kinds_of(of: Property[Block]) -> tuple[str, ...]:
    """The kinds of block that have a property."""
    return tuple(kind for kind in SAMPLES if of.applies(sample(kind)) or of.applies(sample(kind, wraps=True)))


def applies_to(of: Property[Block]) -> tuple[str, ...]:
    """The kinds of block that have a property, in words; nothing where all have it."""
    kinds = kinds_of(of)
    return () if len(kinds) == len(SAMPLES) else tuple(_SAID[kind] for kind in kinds)
