"""Things turned by hand: one about its own middle, several together about the middle of what they reach."""

from collections.abc import Iterable

from msgspec.structs import replace

from half_fold.core.drawing.affine import in_half_turns, turned
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import page_of_thing, require_free, with_thing_anywhere
from half_fold.core.spread.edits.carrying import reached
from half_fold.core.spread.edits.grouping import outermost, turn_with

LEVEL = 1.5  # degrees: what is turned so near to lying or standing straight is drawn in to it
STEP = 15.0  # degrees of a turn by steps
FINEST = 0.1  # degrees that the hand turns by


def settled(angle: float, *, steps: bool = False, free: bool = False) -> float:
    """An angle as a hand means it, from -180 to 180: by steps, or drawn in where it is nearly straight."""
    angle = in_half_turns(angle)
    if steps:
        return round(angle / STEP) * STEP
    straight = round(angle / 90) * 90.0
    if not free and abs(angle - straight) <= LEVEL:
        return straight
    return round(round(angle / FINEST) * FINEST, 1)


def turn_things(publication: Publication, names: Iterable[str], by: float) -> Publication:
    """The things turned by so many degrees clockwise. Problem where one is locked."""
    chosen = outermost(publication, names)
    if len(chosen) == 1:
        require_free(publication, chosen[0])
        _, _, thing = page_of_thing(publication, chosen[0])
        angle = round(in_half_turns(thing.angle + by), 6)
        return with_thing_anywhere(publication, replace(thing, angle=angle))
    turn = turned(reached(publication, chosen).centre, by)
    for name in chosen:
        require_free(publication, name)
        publication = turn_with(publication, name, turn, by)
    return publication
