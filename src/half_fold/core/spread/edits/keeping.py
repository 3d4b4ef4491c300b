"""What a group keeps: even gaps between its members, or all of them centred in the one at the back.

It is solved again after each edit that touches the group, or what its places are measured from.
"""

from collections.abc import Iterator

from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.publication.records import Group, Keeps, Publication
from half_fold.core.publication.things import Things, every_thing
from half_fold.core.spread.edits.aligning import even_gap, even_moves
from half_fold.core.spread.edits.grouping import reach_of, shift_along
from half_fold.core.spread.edits.linked import follow
from half_fold.core.spread.framing.aiming import aim_picture
from half_fold.core.spread.setting.captions import keep_captions

NEAR = 0.01  # points within which a thing already lies where it should
_AXES: dict[Keeps, tuple[Axis, ...]] = {
    "even across": ("across",),
    "even down": ("down",),
    "centred": ("across", "down"),
    "centred across": ("across",),
    "centred down": ("down",),
}


def settle(before: Publication, after: Publication) -> Publication:
    """A document after an edit: what is linked has followed, and what groups keep is kept.

    A group with a locked member stays as it is, and so does one whose members overlap so far that no gap is left.
    """
    after = follow(before, after)
    for name in list(_touched(before, after)):
        try:
            after = _solved(after, name)
        except Problem:  # a member is locked, or would lie beyond the page: the hand wins
            continue
    return keep_captions(before, aim_picture(before, after))


def _touched(before: Publication, after: Publication) -> Iterator[str]:
    """The ids of the groups that keep something and may no longer do so, the innermost first."""
    if after.pages is before.pages and _measures(after) == _measures(before):
        return
    same = _measures(after) == _measures(before)
    was = {page.id: page for page in before.pages}
    for page in after.pages:
        old = was.get(page.id)
        if old is not None and same and (old is page or old.things is page.things):
            continue
        yield from (group.id for group in _keeping(page.things))


def _measures(publication: Publication) -> tuple[int, ...]:
    """What places are measured from, by identity."""
    return tuple(map(id, (publication.brief, publication.masters, publication.roles)))


def _keeping(things: Things) -> list[Group]:
    groups = [thing for thing in every_thing(things) if isinstance(thing, Group) and thing.keeps]
    return groups[::-1]


def _solved(publication: Publication, name: str) -> Publication:
    group = next(thing for page in publication.pages for thing in every_thing(page.things) if thing.id == name)
    assert isinstance(group, Group)
    for axis in _AXES.get(group.keeps, ()):
        solve = _evened if group.keeps.startswith("even") else _centred
        publication = solve(publication, [member.id for member in group.members], axis)
    return publication


def _evened(publication: Publication, names: list[str], axis: Axis) -> Publication:
    """With equal gaps between the outermost two, which stay; of two there is one gap alone."""
    if len(names) < 3:
        return publication
    spans = {name: reach_of(publication, name)[1].along(axis) for name in names}
    gap = even_gap(list(spans.values()))
    if gap < -NEAR:
        return publication  # they overlap: there is no gap to be even
    for name, by in even_moves(spans, gap):
        publication = _moved(publication, name, axis, by)
    return publication


def _centred(publication: Publication, names: list[str], axis: Axis) -> Publication:
    """With the middles of all on the middle of the first, which stays."""
    middle = _middle(reach_of(publication, names[0])[1], axis)
    for name in names[1:]:
        publication = _moved(publication, name, axis, middle - _middle(reach_of(publication, name)[1], axis))
    return publication


def _middle(box: Rect, axis: Axis) -> float:
    return sum(box.along(axis)) / 2


def _moved(publication: Publication, name: str, axis: Axis, by: float) -> Publication:
    if abs(by) < NEAR:
        return publication
    return shift_along(publication, [name], axis, by)
