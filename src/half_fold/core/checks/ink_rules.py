"""Rules about inks that are asked for and would not be printed."""

from collections.abc import Iterator, Sequence
from functools import partial

from msgspec.structs import replace

from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, Finding, Fix
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import Blend, Mark, MarkGroup, leaves, paints
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import thing_named, with_thing_anywhere

# Where the plate behind is bare each of these leaves it bare, whatever is laid (ISO 32000, 11.3.5.2 and 11.7.4.2).
LEAVE_BARE: frozenset[Blend] = frozenset({"screen", "lighten", "overlay", "soft-light"})


def spots_mixed_away(context: Context) -> Iterator[Finding]:
    """A spot that is mixed in a way that prints nothing of it, for nothing of it lies behind."""
    for _, marks in context.lists if any(ink.spot for ink in context.publication.inks) else ():
        for group, spots in _lost(marks):
            block = group.origin.block
            if block not in context.page_of:
                continue
            names = " and ".join(f"“{name}”" for name in sorted(spots))
            why = (
                f"Mixing by {group.blend.replace('-', ' ')} prints a spot ink only where that ink lies behind already; "
                "multiply prints it on whatever lies there."
            )
            fix = Fix("Mix it by multiply", partial(let_multiply, thing=block))
            where = context.page_of[block], block, context.box_of[block]
            yield Finding("spot mixed away", ACCIDENT, f"Nothing of {names} is printed", why, False, *where, fix)


def let_multiply(publication: Publication, thing: str) -> Publication:
    """The thing laid by multiply."""
    return with_thing_anywhere(publication, replace(thing_named(publication, thing), blend="multiply"))


def _lost(marks: Sequence[Mark]) -> Iterator[tuple[MarkGroup, set[str]]]:
    """Groups of which a spot is mixed away, and which."""
    behind: list[tuple[Rect, set[str]]] = []
    for mark in marks:
        box, spots = bounds(mark), _spots(mark)
        if isinstance(mark, MarkGroup):
            yield from _lost(mark.marks)
            there = set().union(*(named for other, named in behind if other.meets(box)))
            if mark.blend in LEAVE_BARE and spots - there:
                yield mark, spots - there
        if spots:
            behind.append((box, spots))


def _spots(mark: Mark) -> set[str]:
    return {tone.spot.name for leaf in leaves((mark,)) for tone in paints(leaf) if tone.spot is not None}
