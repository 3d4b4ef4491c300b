"""Every name that a document gives of something else in it, walked once: nothing it names may be missing."""

from collections.abc import Iterator
from typing import Any, NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.publication import records as r
from half_fold.core.publication.records import Block, HoldsBarcode, HoldsDisplay, Paragraph, Publication
from half_fold.core.publication.surgery import blocks_of_cover

ROLE, INK, PICTURE, STORY, MASTER, PAPER = "role", "ink", "picture", "story", "master", "paper"
PAINT, LOOK = "ink or fade", "look"

# The fields in which a record names something else; "" in one names nothing.
NAMES: dict[type, dict[str, str]] = {
    r.Role: {"ink": INK, "based_on": ROLE, "look": LOOK},
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
    r.Block: {"look": LOOK},
    r.Cover: {
        **dict.fromkeys(
            ("ink", "back_ink", "front_ink", "spine_ground", "flap_ink", "joint_ink", "turn_in_ink"), PAINT
        ),
        "spine_ink": INK,
        "row_picture": PICTURE,
    },
    r.SpinePiece: {"ink": INK, "picture": PICTURE},
    r.Furniture: {"ink": INK},
    r.FadeStop: {"ink": INK},
    r.Look: {"fill": PAINT, "outline_ink": INK, "picture": PICTURE},
    r.Shadow: {"ink": INK},
    r.Treatment: dict.fromkeys(("toned_dark", "toned_middle", "toned_light"), INK),
    r.Glow: {"ink": INK},
}


class Reference(NamedTuple):
    """Where a name is given, in words, of what kind, and which."""

    where: str
    kind: str
    name: str


def references(publication: Publication, but: Publication | None = None) -> Iterator[Reference]:
    """Every reference in the document, those of pages that wait and of the cover included.

    What stands in the document ``but`` just so is left out.
    """
    yield from _of_sheet(publication, but)
    for number, page in _new(publication, but, "pages"):
        yield from _of_page(f"page {number}", page.master, page.blocks)
    for _, page in _new(publication, but, "unplaced"):
        yield from _of_page("a page that waits", page.master, page.blocks)
    if but is None or publication.cover is not but.cover:
        yield from _of_cover("the cover", publication.cover)
    for _, cover in _new(publication, but, "covers"):
        yield from _of_cover(f"the cover “{cover.name}”", cover)
    for _, insert in _new(publication, but, "inserts"):
        yield from of_blocks(f"the insert “{insert.name}”", r.blocks_of((*insert.front, *insert.back)))
    for _, fade in _new(publication, but, "fades"):
        for stop in fade.stops:
            yield from named_by(f"the fade “{fade.name}”", stop)
    for _, look in _new(publication, but, "looks"):
        for part in (look, look.shadow, look.glow, look.treatment):
            yield from named_by(f"the look “{look.name}”", part) if part is not None else ()
    known = {story.id: story.paragraphs for story in but.stories} if but is not None else {}
    for _, story in _new(publication, but, "stories"):
        had = set(map(id, known.get(story.id, ())))
        paragraphs = tuple(each for each in story.paragraphs if id(each) not in had)
        yield from _of_paragraphs(f"the story “{story.title}”", paragraphs)
    brief = publication.brief
    papers = [brief.text_paper, brief.cover_paper, brief.endpapers, brief.jacket]
    papers += [section.paper for section in publication.sections] + [insert.paper for insert in publication.inserts]
    yield from (Reference("the job", PAPER, paper) for paper in papers if paper not in ("", "none"))
    yield from (Reference("the table of text roles", ROLE, each.role) for each in publication.text_roles)


def _new(publication: Publication, but: Publication | None, table: str) -> Iterator[tuple[int, Any]]:
    """The records of a table, counted from 1, that are not among those of another document."""
    every = enumerate(getattr(publication, table), 1)
    if but is None:
        return every
    there = set(map(id, getattr(but, table)))
    return ((number, each) for number, each in every if id(each) not in there)


def _of_sheet(publication: Publication, but: Publication | None) -> Iterator[Reference]:
    """Of roles and masters."""
    for _, role in _new(publication, but, "roles"):
        stated = role if not role.based_on else _as_stated(role)
        yield from named_by(f"the role “{role.name}”", stated)
    for _, master in _new(publication, but, "masters"):
        where = f"the master “{master.name}”"
        if master.based_on:
            yield Reference(where, MASTER, master.based_on)
        for piece in master.furniture:
            if piece.kind == "words":
                yield Reference(where, ROLE, piece.role)
            elif piece.kind == "picture":
                yield from [Reference(where, PICTURE, piece.picture)] if piece.picture else []
            elif piece.ink:
                yield Reference(where, INK, piece.ink)


def _as_stated(role: r.Role) -> r.Role:
    """A role that is based on another, without the names that it takes from that one."""
    unsaid = {field: "" for field in NAMES[r.Role] if field != "based_on" and field not in role.own}
    return replace(role, **unsaid)


def _of_cover(where: str, cover: r.Cover) -> Iterator[Reference]:
    yield from of_blocks(where, blocks_of_cover(cover))
    for part in (cover, *cover.pieces):
        yield from named_by(where, part)


def _of_page(where: str, master: str, blocks: tuple[Block, ...]) -> Iterator[Reference]:
    if master:
        yield Reference(where, MASTER, master)
    yield from of_blocks(where, blocks)


def of_blocks(where: str, blocks: tuple[Block, ...]) -> Iterator[Reference]:
    """What blocks name, ``where`` in words."""
    for block in blocks:
        holds = block.holds
        parts = (getattr(holds, name, None) for name in ("edge", "ground", "treatment"))
        edge = getattr(getattr(holds, "ground", None), "edge", None)
        for part in (block, holds, *parts, edge):
            if part is not None:
                yield from named_by(where, part)
        if isinstance(holds, HoldsDisplay | HoldsBarcode):
            yield from _of_paragraphs(where, holds.paragraphs)


def named_by(where: str, record: Struct) -> Iterator[Reference]:
    """What a record names itself, ``where`` in words."""
    for field, kind in NAMES.get(type(record), {}).items():
        if name := getattr(record, field):
            yield Reference(where, kind, name)


def _of_paragraphs(where: str, paragraphs: tuple[Paragraph, ...]) -> Iterator[Reference]:
    roles = dict.fromkeys(paragraph.role for paragraph in paragraphs)
    inks = dict.fromkeys(run.ink for paragraph in paragraphs for run in paragraph.runs if run.ink)
    yield from (Reference(where, ROLE, role) for role in roles)
    yield from (Reference(where, INK, ink) for ink in inks)


def dangling(publication: Publication, before: Publication | None = None) -> Iterator[Reference]:
    """The references to what is not there.

    Where nothing has gone that ``before`` had, which had none, only what is new since is looked at.
    """
    but = before if before is not None and not _has_lost(before, publication) else None
    found = list(references(publication, but))
    there = {kind: _there(publication, kind) for kind in {each.kind for each in found}}
    return (each for each in found if each.name not in there[each.kind])


_TABLES: dict[str, tuple[tuple[str, str], ...]] = {
    ROLE: (("roles", "name"),),
    INK: (("inks", "name"),),
    PAINT: (("inks", "name"), ("fades", "name")),
    LOOK: (("looks", "name"),),
    PICTURE: (("pictures", "id"),),
    STORY: (("stories", "id"),),
    MASTER: (("masters", "name"),),
    PAPER: (("papers", "name"),),
}  # what a reference of a kind may name, and by which field


def _there(publication: Publication, kind: str) -> set[str]:
    """The names there are of a kind."""
    return {getattr(each, field) for table, field in _TABLES[kind] for each in getattr(publication, table)}


def _has_lost(before: Publication, after: Publication) -> bool:
    """Whether something that may be named has gone."""
    return any(
        getattr(before, table) is not getattr(after, table) and not _there(before, kind) <= _there(after, kind)
        for kind, tables in _TABLES.items()
        for table, _ in tables
    )
