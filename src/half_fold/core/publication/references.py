"""Every name that a document gives of something else in it: one table of the fields that give one, and one walk.

What is missing, what is renamed, what uses something, and what goes along into another job all follow from these two.
"""

import typing
from collections.abc import Iterator, Sequence
from functools import cache
from typing import Any, NamedTuple

from msgspec import Struct

from half_fold.core.publication import records as r
from half_fold.core.publication.records import Publication

ROLE, INK, PICTURE, STORY, MASTER, PAPER = "role", "ink", "picture", "story", "master", "paper"
PAINT, LOOK, SET = "ink or fade", "look", "set"

# The fields in which a record names something else; "" in one names nothing.
NAMES: dict[type, dict[str, str]] = {
    r.Brief: dict.fromkeys(("text_paper", "cover_paper", "endpapers", "jacket"), PAPER),
    r.Section: {"paper": PAPER},
    r.Insert: {"paper": PAPER},
    r.Page: {"master": MASTER},
    r.Master: {"based_on": MASTER},
    r.TextRole: {"role": ROLE},
    r.Role: {"ink": INK, "based_on": ROLE, "look": LOOK},
    r.Paragraph: {"role": ROLE},
    r.Run: {"ink": INK},
    r.Edge: {"ink": PAINT},
    r.Ground: {"ink": PAINT},
    r.HoldsPicture: {"picture": PICTURE, "ink": INK},
    r.HoldsStory: {"story": STORY},
    r.HoldsDisplay: {"ink": INK},
    r.HoldsPanel: {"ink": PAINT},
    r.HoldsRule: {"ink": INK},
    r.HoldsBarcode: {"ink": INK},
    r.HoldsCode: {"ink": INK},
    r.Block: {"look": LOOK, "set": SET},
    r.Group: {"set": SET},
    r.Output: {"without": SET},
    r.Cover: {
        **dict.fromkeys(
            ("ink", "back_ink", "front_ink", "spine_ground", "flap_ink", "joint_ink", "turn_in_ink"), PAINT
        ),
        "spine_ink": INK,
        "row_picture": PICTURE,
    },
    r.SpinePiece: {"ink": INK, "picture": PICTURE},
    r.Furniture: {"role": ROLE, "ink": INK, "picture": PICTURE},
    r.FadeStop: {"ink": INK},
    r.Look: {"fill": PAINT, "picture": PICTURE},
    r.Contour: {"ink": PAINT},
    r.Shadow: {"ink": INK},
    r.Treatment: dict.fromkeys(("toned_dark", "toned_middle", "toned_light"), INK),
    r.Glow: {"ink": INK},
}
NO_PAPER = "none"

# What a piece of furniture goes by, by its kind; the rest of its fields say nothing.
_OF_FURNITURE = {"words": "role", "picture": "picture"}


class Reference(NamedTuple):
    """Where a name is given, in words, of what kind, and which."""

    where: str
    kind: str
    name: str


def named_in(where: str, record: Struct) -> Iterator[Reference]:
    """Every name that a record gives, and whatever lies in it, ``where`` in words."""
    stated = _stated(record)
    for field, kind in _plan(type(record)):
        if stated is not None and field not in stated:
            continue
        value = getattr(record, field)
        if kind:
            for name in value if isinstance(value, tuple) else (value,):
                if name and not (kind == PAPER and name == NO_PAPER):
                    yield Reference(where, kind, name)
        elif isinstance(value, tuple):
            for each in value:
                yield from named_in(where, each)
        elif value is not None:
            yield from named_in(where, value)


def _stated(record: Struct) -> set[str] | None:
    """The fields of a record that say something, where not all of them do."""
    if isinstance(record, r.Role) and (record.based_on or not record.name):
        return {"based_on", *record.own}  # what it does not state is that one's
    if isinstance(record, r.Furniture):
        return {_OF_FURNITURE.get(record.kind, "ink")}
    return None


@cache
def _plan(kind: type[Struct]) -> tuple[tuple[str, str], ...]:
    """The fields of a record that name something, each with what; and those in which that may lie, with ''."""
    names, hints = NAMES.get(kind, {}), typing.get_type_hints(kind)
    return tuple(
        (field, names.get(field, ""))
        for field in kind.__struct_fields__
        if field in names or any(_may_name(each) for each in _records_of(hints[field]))
    )


@cache
def _may_name(kind: type[Struct]) -> bool:
    """Whether a name may be given in a record of a kind, or somewhere in it."""
    seen, left = set[type[Struct]](), [kind]
    while left:
        found = left.pop()
        if found in NAMES:
            return True
        if found not in seen:
            seen.add(found)
            left += [each for hint in typing.get_type_hints(found).values() for each in _records_of(hint)]
    return False


def _records_of(hint: Any) -> Iterator[type[Struct]]:
    """The kinds of records that a field may hold."""
    if isinstance(hint, type) and issubclass(hint, Struct):
        yield hint
    for each in typing.get_args(hint):
        yield from _records_of(each)


# What is called what in words, by the table of the document that it stands in.
_WHERE: dict[str, typing.Callable[[int, Any], str]] = {
    "roles": lambda _, role: f"the role “{role.name}”",
    "masters": lambda _, master: f"the master “{master.name}”",
    "pages": lambda number, _: f"page {number}",
    "unplaced": lambda _, __: "a page that waits",
    "covers": lambda _, cover: f"the cover “{cover.name}”",
    "inserts": lambda _, insert: f"the insert “{insert.name}”",
    "fades": lambda _, fade: f"the fade “{fade.name}”",
    "looks": lambda _, look: f"the look “{look.name}”",
    "stories": lambda _, story: f"the story “{story.title}”",
    "sections": lambda _, section: f"the section “{section.name}”",
    "outputs": lambda _, output: f"the output “{output.name}”",
    "text_roles": lambda _, __: "the table of text roles",
}


def references(publication: Publication, but: Publication | None = None) -> Iterator[Reference]:
    """Every reference in the document, those of pages that wait and of the cover included; each where it is, once.

    What stands in the document ``but`` just so is left out.
    """
    for field, _ in _plan(Publication):
        value, there = getattr(publication, field), getattr(but, field) if but is not None else None
        if value is there or value is None:
            continue
        if not isinstance(value, tuple):
            yield from named_in("the cover" if field == "cover" else "the job", value)
            continue
        known = set(map(id, there or ()))
        for number, record in enumerate(value, 1):
            if id(record) in known:
                continue
            where = _WHERE[field](number, record)
            if field == "stories":
                yield from _of_story(where, record, there or ())
            else:
                yield from named_in(where, record)


def _of_story(where: str, story: r.Story, before: tuple[r.Story, ...]) -> Iterator[Reference]:
    """Of its paragraphs that are new: of a long one most are not. Each name once."""
    old = next((each.paragraphs for each in before if each.id == story.id), ())
    had = set(map(id, old))
    yield from _named_in_all(where, [each for each in story.paragraphs if id(each) not in had])


def _named_in_all(where: str, records: Sequence[Struct]) -> Iterator[Reference]:
    """What many records of one kind name, each name once; what lies in a field of theirs is of one kind as well."""
    for field, kind in _plan(type(records[0])) if records else ():
        if kind:
            names = dict.fromkeys(getattr(record, field) for record in records)
            yield from (Reference(where, kind, name) for name in names if name)
            continue
        values = [getattr(record, field) for record in records]
        yield from _named_in_all(where, [each for value in values if isinstance(value, tuple) for each in value])
        for alone in {id(value): value for value in values if isinstance(value, Struct)}.values():
            yield from named_in(where, alone)


def dangling(publication: Publication, before: Publication | None = None) -> Iterator[Reference]:
    """The references to what is not there.

    Where nothing has gone that ``before`` had, which had none, only what is new since is looked at.
    """
    but = before if before is not None and not _has_lost(before, publication) else None
    found = list(references(publication, but))
    there = {kind: _there(publication, kind) for kind in {each.kind for each in found}}
    return (each for each in found if each.name not in there[each.kind])


TABLES: dict[str, tuple[tuple[str, str], ...]] = {
    ROLE: (("roles", "name"),),
    INK: (("inks", "name"),),
    PAINT: (("inks", "name"), ("fades", "name")),
    LOOK: (("looks", "name"),),
    SET: (("sets", "name"),),
    PICTURE: (("pictures", "id"),),
    STORY: (("stories", "id"),),
    MASTER: (("masters", "name"),),
    PAPER: (("papers", "name"),),
}  # what a reference of a kind may name, and by which field


def _there(publication: Publication, kind: str) -> set[str]:
    """The names there are of a kind."""
    return {getattr(each, field) for table, field in TABLES[kind] for each in getattr(publication, table)}


def _has_lost(before: Publication, after: Publication) -> bool:
    """Whether something that may be named has gone."""
    return any(
        getattr(before, table) is not getattr(after, table) and not _there(before, kind) <= _there(after, kind)
        for kind, tables in TABLES.items()
        for table, _ in tables
    )
