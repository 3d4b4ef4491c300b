"""Every name that a document gives of something else in it, walked once: nothing it names may be missing."""

from collections.abc import Iterator
from typing import NamedTuple

from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsDisplay,
    HoldsPanel,
    HoldsPicture,
    HoldsStory,
    Paragraph,
    Publication,
)

ROLE, INK, PICTURE, STORY, MASTER, PAPER = "role", "ink", "picture", "story", "master", "paper"


class Reference(NamedTuple):
    """Where a name is given, in words, of what kind, and which."""

    where: str
    kind: str
    name: str


def references(publication: Publication) -> Iterator[Reference]:
    """Every reference in the document, those of pages that wait and of the cover included."""
    yield from _of_sheet(publication)
    for number, page in enumerate(publication.pages, 1):
        yield from _of_page(f"page {number}", page.master, page.blocks)
    for page in publication.unplaced:
        yield from _of_page("a page that waits", page.master, page.blocks)
    cover = publication.cover
    yield from _of_page("the cover", "", (*cover.back, *cover.front, *cover.inside_front, *cover.inside_back))
    yield Reference("the cover", INK, cover.ink)
    yield Reference("the spine", INK, cover.spine_ink)
    for story in publication.stories:
        yield from _of_paragraphs(f"the story “{story.title}”", story.paragraphs)
    brief = publication.brief
    papers = [brief.text_paper, brief.cover_paper, brief.endpapers, brief.jacket]
    papers += [section.paper for section in publication.sections] + [insert.paper for insert in publication.inserts]
    yield from (Reference("the job", PAPER, paper) for paper in papers if paper not in ("", "none"))
    yield from (Reference("the table of text roles", ROLE, each.role) for each in publication.text_roles)


def _of_sheet(publication: Publication) -> Iterator[Reference]:
    """Of roles and masters."""
    for role in publication.roles:
        where = f"the role “{role.name}”"
        yield Reference(where, INK, role.ink)
        if role.based_on:
            yield Reference(where, ROLE, role.based_on)
    for master in publication.masters:
        where = f"the master “{master.name}”"
        if master.based_on:
            yield Reference(where, MASTER, master.based_on)
        for piece in master.furniture:
            if piece.kind == "words":
                yield Reference(where, ROLE, piece.role)
            elif piece.kind == "picture":
                yield from [Reference(where, PICTURE, piece.picture)] if piece.picture else []
            else:
                yield Reference(where, INK, piece.ink)


def _of_page(where: str, master: str, blocks: tuple[Block, ...]) -> Iterator[Reference]:
    if master:
        yield Reference(where, MASTER, master)
    for block in blocks:
        holds = block.holds
        if isinstance(holds, HoldsStory):
            yield Reference(where, STORY, holds.story)
        elif isinstance(holds, HoldsPicture):
            yield Reference(where, PICTURE, holds.picture)
        elif isinstance(holds, HoldsPanel):
            inked = (holds, *((holds.edge,) if holds.edge is not None else ()))
            yield from (Reference(where, INK, each.ink) for each in inked if each.ink)
        elif isinstance(holds, HoldsDisplay | HoldsBarcode):
            yield from _of_paragraphs(where, holds.paragraphs)
            if isinstance(holds, HoldsDisplay) and holds.ink:
                yield Reference(where, INK, holds.ink)


def _of_paragraphs(where: str, paragraphs: tuple[Paragraph, ...]) -> Iterator[Reference]:
    roles = dict.fromkeys(paragraph.role for paragraph in paragraphs)
    inks = dict.fromkeys(run.ink for paragraph in paragraphs for run in paragraph.runs if run.ink)
    yield from (Reference(where, ROLE, role) for role in roles)
    yield from (Reference(where, INK, ink) for ink in inks)


def dangling(publication: Publication) -> Iterator[Reference]:
    """The references to what is not there."""
    there = {
        ROLE: {role.name for role in publication.roles},
        INK: {ink.name for ink in publication.inks},
        PICTURE: {picture.id for picture in publication.pictures},
        STORY: {story.id for story in publication.stories},
        MASTER: {master.name for master in publication.masters},
        PAPER: {paper.name for paper in publication.papers},
    }
    return (each for each in references(publication) if each.name not in there[each.kind])
