"""Repeating things: across and down at an even gap, as often as there is room, or on other pages; linked if wanted."""

import re
from collections.abc import Iterable

from msgspec import Struct

from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.page_ranges import page_range
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import page_of_thing
from half_fold.core.spread.edits.carrying import reached
from half_fold.core.spread.edits.grouping import double_things, outermost, shift_things
from half_fold.core.spread.edits.linked import link
from half_fold.core.spread.edits.taking import copy_things, paste_things
from half_fold.core.spread.where.frames import page_frame_of

MOST = 400
LEAST_GAP_MM = -500.0
_ASKED = re.compile(
    r"(?P<across>\d+|fill)\s*(?:[x×]\s*(?P<down>\d+|fill))?\s*(?:,\s*(?P<gap>[^,]+?))?\s*(?:,\s*(?P<linked>linked))?"
)
HOW = "such as 3 x 2, 5mm; “fill” for as many as there is room for; “, linked” to change all with one"


class Repeat(Struct, frozen=True):
    """How often across and down in all (0: as often as the text area has room), the gap in points, whether linked."""

    across: int
    down: int
    gap: float
    linked: bool


def parse_repeat(text: str, unit: str) -> Repeat:
    """What was typed of a repeat. Problem where it cannot be understood."""
    found = _ASKED.fullmatch(text.strip().lower())
    if found is None:
        raise Problem(f"“{text}” is no way to repeat; give it {HOW}.")
    across, down = (0 if part == "fill" else int(part or 1) for part in (found["across"], found["down"]))
    if max(across, down) > MOST:
        raise Problem(f"More than {MOST} cannot be made at once; give a smaller count.")
    gap = length(found["gap"] or "0mm", unit)
    if gap.mm < LEAST_GAP_MM:
        raise Problem(f"A gap of {gap.typed} cannot be; give one above {LEAST_GAP_MM:g} mm.")
    return Repeat(across, down, gap.pt, bool(found["linked"]))


def repeat_things(publication: Publication, names: Iterable[str], how: Repeat) -> tuple[Publication, tuple[str, ...]]:
    """The things again and again, all copies side by side and row under row; gives the ids of all of them.

    Problem where there is no room for a second, or too many would be made.
    """
    chosen = outermost(publication, names)
    places = places_of(publication, chosen, how)
    if len(places) < 2:
        raise Problem("There is no room for a second one; make it smaller, or give a count.")
    if (count := len(places) * len(chosen)) > MOST:
        raise Problem(f"That would make {count:,} things; {MOST} are the most at once.")
    every = list(chosen)
    for place in places[1:]:
        publication, made = double_things(publication, chosen, (0.0, 0.0))
        publication = shift_things(publication, made, *place)
        every += made
        if how.linked:
            publication = _all_linked(publication, chosen, made)
    return publication, tuple(every)


def places_of(publication: Publication, names: Iterable[str], how: Repeat) -> list[tuple[float, float]]:
    """How far from where things lie each repeat of them does (points across and down), row by row, their own first."""
    chosen = outermost(publication, names)
    box = reached(publication, chosen)
    wide, high = box.width + how.gap, box.height + how.gap
    area = page_frame_of(publication, page_of_thing(publication, chosen[0])[0] + 1).area
    across = how.across or _room(box.left, box.width, how.gap, area[2])
    down = how.down or _room(box.top, box.height, how.gap, area[3])
    return [(at % across * wide, at // across * high) for at in range(across * down)]


def _room(start: float, size: float, gap: float, end: float) -> int:
    """How many things of a size have room from a start to an end."""
    if size + gap <= 0:
        raise Problem("With such a gap they would all lie on each other; give a larger one.")
    return max(1, int((end - start + gap + 0.01) // (size + gap)))


def repeat_on_pages(publication: Publication, names: Iterable[str], text: str) -> tuple[Publication, tuple[str, ...]]:
    """The things on other pages too, where they lie on theirs: ``12, 14-16`` or ``12, 14-16, linked``.

    Gives the ids of the copies. Problem for no such page.
    """
    chosen, every = outermost(publication, names), list[str]()
    pages, linked = text.lower().replace("linked", "").strip(" ,"), "linked" in text.lower()
    content = copy_things(publication, chosen)
    own = page_of_thing(publication, chosen[0])[0] + 1
    for number in page_range(pages, len(publication.pages)):
        if number == own:
            continue
        publication, made, _ = paste_things(publication, number, content)
        every += made
        if linked:
            publication = _all_linked(publication, chosen, made)
    if not every:
        raise Problem("Those are the pages it lies on already; give others.")
    return publication, tuple(every)


def _all_linked(publication: Publication, chosen: Iterable[str], made: Iterable[str]) -> Publication:
    """Each copy linked with what it was made of."""
    for first, copy in zip(chosen, made, strict=True):
        publication = link(publication, (copy, first))
    return publication
