"""Binding at the other side: every block keeps its place in a mirror, so that what bled at the fore edge still does."""

from typing import Literal

from msgspec.structs import replace

from half_fold.core.measure.length import of_mm
from half_fold.core.plan.spreads import facing
from half_fold.core.publication.places import Anchor, Held, Place, Stop, told_from_facing
from half_fold.core.publication.records import (
    Block,
    Cover,
    Drawn,
    Group,
    Holds,
    HoldsBarcode,
    HoldsDisplay,
    HoldsPicture,
    Oval,
    Page,
    PicturePoint,
    Publication,
    Slope,
    Thing,
)
from half_fold.core.publication.things import Things, mapped

_OTHER = {"left": "right", "right": "left"}


def bind_at(publication: Publication, right: bool) -> Publication:
    """The job bound at that side; its pages and its cover mirrored where it was bound at the other."""
    if publication.brief.right_bound == right:
        return publication
    return replace(
        publication,
        brief=replace(publication.brief, right_bound=right),
        pages=_mirrored_pages(publication),
        unplaced=tuple(replace(p, things=tuple(map(mirrored, p.things))) for p in publication.unplaced),
        cover=_mirrored_cover(publication.cover),
        covers=tuple(map(_mirrored_cover, publication.covers)),
    )


def mirrored(thing: Thing) -> Thing:
    """A block or a group in the mirror of its page: its left edge sits where its right one sat."""
    if isinstance(thing, Group):
        return replace(thing, members=tuple(map(mirrored, thing.members)), angle=-thing.angle)
    return replace(thing, place=_in_mirror(thing.place), holds=_melting_in_mirror(thing.holds))


def _melting_in_mirror(holds: Holds) -> Holds:
    """A picture melts away at its other side: what it met there lies there now. It is itself no mirror image."""
    treatment = holds.treatment if isinstance(holds, HoldsPicture) else None
    if treatment is None or not isinstance(treatment.seen, Slope | Oval | Drawn):
        return holds
    seen = treatment.seen
    if isinstance(seen, Slope):
        made: Slope | Oval | Drawn = replace(seen, start=_across(seen.start), end=_across(seen.end))
    elif isinstance(seen, Oval):
        made = replace(seen, middle=_across(seen.middle))
    else:
        made = replace(seen, points=tuple(map(_across, seen.points)))
    return replace(holds, treatment=replace(treatment, seen=made))


def _across(point: PicturePoint) -> PicturePoint:
    return 1 - point[0], point[1]


def _in_mirror(place: Place) -> Place:
    if isinstance(place, Held):
        return replace(place, left=_stop(place.right), right=_stop(place.left))
    across = place.across
    by: dict[str, Literal["first", "middle", "last"]] = {"first": "last", "middle": "middle", "last": "first"}
    stop = _stop(across.stop)
    if across.by == "middle" and stop.off is not None:  # which alone does not turn with its edge
        stop = replace(stop, off=of_mm(-stop.off.mm))
    return replace(place, across=Anchor(stop=stop, by=by[across.by]))


def _stop(stop: Stop) -> Stop:
    return replace(stop, index=stop.count - 1 - stop.index) if stop.kind == "field" else stop


def _pages_of(thing: Thing) -> set[bool]:
    """Whether on its own page (False) or the facing one (True) its edges lie: the far fold is no other page's."""
    if isinstance(thing, Group):
        return {page for member in thing.members for page in _pages_of(member)}
    place = thing.place
    stops = (place.left, place.right) if isinstance(place, Held) else (place.across.stop,)
    return {stop.facing and stop.kind != "fold" for stop in stops}


def _crosses(thing: Thing) -> bool:
    """Whether its edges lie on both pages."""
    return len(_pages_of(thing)) > 1


def _turned(thing: Thing) -> Thing:
    """The same thing told from the other page of its spread."""
    if isinstance(thing, Group):
        return replace(thing, members=tuple(map(_turned, thing.members)))
    return replace(thing, place=told_from_facing(thing.place))


def _mirrored_pages(publication: Publication) -> tuple[Page, ...]:
    """Things that cross the fold go to the other page of their spread: the one they now start on.

    What lay behind all else on its page, such as a scene, lies behind all else on the other.
    """
    pages = publication.pages
    stay: list[list[Thing]] = [[] for _ in pages]
    behind: list[list[Thing]] = [[] for _ in pages]
    come: list[list[Thing]] = [[] for _ in pages]
    for index, page in enumerate(pages):
        other = facing(publication, index + 1) - 1
        for at, thing in enumerate(page.things):
            moves = _crosses(thing) and 0 <= other < len(pages)
            made = mirrored(thing)
            if not moves:
                stay[index].append(made)
            else:
                (come if at else behind)[other].append(_turned(made))
    every = zip(pages, behind, stay, come, strict=True)
    return tuple(replace(p, things=(*back, *here, *there)) for p, back, here, there in every)


def _mirrored_cover(cover: Cover) -> Cover:
    changed: dict[str, Things] = {}
    for one, other in (("back", "front"), ("inside_front", "inside_back"), ("back_flap", "front_flap")):
        every = {
            field: [mirrored(thing) for thing in mapped(getattr(cover, field), _on_side)] for field in (one, other)
        }
        for field, partner in ((one, other), (other, one)):
            own = [thing for thing in every[field] if not _crosses(thing)]
            changed[field] = (*own, *(_turned(thing) for thing in every[partner] if _crosses(thing)))
    return replace(cover, **changed)


def _on_side(block: Block) -> Block:
    """Cover lines and barcodes stand at the other side."""
    holds = block.holds
    if isinstance(holds, HoldsDisplay | HoldsBarcode) and holds.side in _OTHER:
        return replace(block, holds=replace(holds, side=_OTHER[holds.side]))
    return block
