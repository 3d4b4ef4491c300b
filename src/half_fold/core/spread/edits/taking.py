"""Things taken up to be laid elsewhere, in the same job or in another: with the inks, looks and roles they name."""

from collections.abc import Sequence

import msgspec
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.bound_side import mirrored
from half_fold.core.publication.places import Record
from half_fold.core.publication.ranges import MOST_PAGES
from half_fold.core.publication.records import (
    Block,
    Fade,
    Furniture,
    HoldsNothing,
    HoldsPicture,
    HoldsStory,
    Ink,
    Look,
    Master,
    Page,
    Picture,
    Publication,
    Role,
    Story,
    ThingSet,
)
from half_fold.core.publication.references import INK, LOOK, PAINT, PICTURE, ROLE, SET, STORY, Reference, named_in
from half_fold.core.publication.surgery import (
    block_named,
    fresh_ids,
    master_named,
    page_of_thing,
    role_named,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.publication.things import Things, mapped
from half_fold.core.spread.edits.grouping import freed, namer, outermost, renewed_all
from half_fold.core.store.codec import decode_as, encoded

UNKNOWN = "That cannot be laid here: it is damaged, or from a newer Half Fold."
KIND = "application/x-half-fold-things"


class Taken(Record, frozen=True, kw_only=True):
    """Things, or whole pages with their masters, and all that they name. Of stories there are the titles.

    Roles and masters are complete, whatever they were based on.
    """

    things: Things = ()
    pages: tuple[Page, ...] = ()
    masters: tuple[Master, ...] = ()
    inks: tuple[Ink, ...] = ()
    fades: tuple[Fade, ...] = ()
    looks: tuple[Look, ...] = ()
    roles: tuple[Role, ...] = ()
    pictures: tuple[Picture, ...] = ()
    stories: tuple[tuple[str, str], ...] = ()
    sets: tuple[str, ...] = ()


def copy_things(publication: Publication, names: tuple[str, ...]) -> bytes:
    """The things of those ids as JSON, to be laid elsewhere."""
    things = tuple(page_of_thing(publication, name)[2] for name in outermost(publication, names))
    return encoded(_with_what_they_name(publication, things))


def taken_pages(publication: Publication, numbers: Sequence[int]) -> bytes:
    """Those pages, with all that lies on them, as JSON."""
    pages = [publication.pages[number - 1] for number in numbers]
    named = dict.fromkeys(page.master for page in pages if page.master)
    masters = tuple(replace(master_named(publication, name), based_on="", takes_grid=False) for name in named)
    things = tuple(thing for page in pages for thing in page.things)
    found = _with_what_they_name(publication, things, masters)
    return encoded(replace(found, things=(), pages=tuple(pages), masters=masters))


def _with_what_they_name(publication: Publication, things: Things, masters: Sequence[Master] = ()) -> Taken:
    every = [reference for record in (*things, *masters) for reference in named_in("", record)]
    roles = [replace(role_named(publication, name), based_on="", own=()) for name in _names(every, ROLE)]
    every += [reference for role in roles for reference in named_in("", role)]
    looks = [look for look in publication.looks if look.name in _names(every, LOOK)]
    every += [reference for look in looks for reference in named_in("", look)]
    paints = {*_names(every, INK), *_names(every, PAINT)}
    fades = [fade for fade in publication.fades if fade.name in paints]
    inks = paints | {stop.ink for fade in fades for stop in fade.stops}
    stories = _names(every, STORY)
    return Taken(
        things=things,
        inks=tuple(ink for ink in publication.inks if ink.name in inks),
        fades=tuple(fades),
        looks=tuple(looks),
        roles=tuple(roles),
        pictures=tuple(each for each in publication.pictures if each.id in _names(every, PICTURE)),
        stories=tuple((story.id, story.title) for story in publication.stories if story.id in stories),
        sets=tuple(_names(every, SET)),
    )


def _names(every: list[Reference], kind: str) -> list[str]:
    return list(dict.fromkeys(each.name for each in every if each.kind == kind))


def paste_things(
    publication: Publication, number: int, content: bytes, mirror: bool = False
) -> tuple[Publication, tuple[str, ...], str]:
    """What was taken on page ``number``, in the places it had on its own; in a ``mirror``, as on the other page.

    Inks, fades, looks and roles come with it where there is none of their name. Gives the ids of what was laid, and
    what could not come with it, in words. Problem where the content is nothing of the kind.
    """
    found = _read(content)
    if found.pages:
        raise Problem("Those are pages; paste them into the running order, at the Order station.")
    lacking: list[str] = []
    at_home = _Home(publication, found, lacking)
    things = mapped(found.things, at_home.block)
    new = namer(publication)
    turned = tuple(mirrored(thing) for thing in things) if mirror else things
    made = tuple(map(freed, renewed_all(turned, new)))
    page = publication.pages[number - 1]
    publication = _with_names(publication, found, at_home)
    publication = with_things(publication, page.id, lambda there: (*there, *made))
    return publication, tuple(thing.id for thing in made), _said(lacking)


def _read(content: bytes) -> Taken:
    try:
        found: Taken = decode_as(Taken, content)
    except (msgspec.DecodeError, ValueError, RecursionError) as error:
        raise Problem(UNKNOWN) from error
    if not found.things and not found.pages:
        raise Problem(UNKNOWN)
    return found


def _said(lacking: list[str]) -> str:
    return f"Kept free, since this job has not got it: {', '.join(dict.fromkeys(lacking))}." if lacking else ""


def put_pages(publication: Publication, at: int, content: bytes) -> tuple[Publication, tuple[int, ...], str]:
    """The pages that were taken, before index ``at`` of the order; gives their numbers, and what could not come.

    Masters come with them where there is none of their name. Problem where the content is no pages, or there would be
    too many.
    """
    found = _read(content)
    if not found.pages:
        raise Problem("Those are things of a spread; paste them on one, at the Spreads station.")
    if len(publication.pages) + len(found.pages) > MOST_PAGES:
        raise Problem(f"A job has at most {MOST_PAGES} pages; paste fewer.")
    lacking: list[str] = []
    at_home = _Home(publication, found, lacking)
    new = namer(publication)
    names = fresh_ids("p", [page.id for page in (*publication.pages, *publication.unplaced)])
    pages = tuple(
        replace(
            page,
            id=next(names),
            things=tuple(map(freed, renewed_all(mapped(page.things, at_home.block), new))),
            state="",
        )
        for page in found.pages
    )
    publication = _with_masters(_with_names(publication, found, at_home), found, at_home)
    every = (*publication.pages[:at], *pages, *publication.pages[at:])
    return replace(publication, pages=every), tuple(range(at + 1, at + 1 + len(pages))), _said(lacking)


def double_pages(publication: Publication, numbers: Sequence[int]) -> tuple[Publication, tuple[int, ...]]:
    """A copy of those pages right after the last of them; gives the numbers of the copies."""
    publication, made, _ = put_pages(publication, max(numbers), taken_pages(publication, sorted(numbers)))
    return publication, made


def _with_masters(publication: Publication, found: Taken, at_home: "_Home") -> Publication:
    """The job with the masters that came, where it has none of that name; furniture whose picture is not here goes."""
    known = {master.name for master in publication.masters}
    came = tuple(
        replace(master, furniture=tuple(filter(None, map(at_home.piece, master.furniture))))
        for master in found.masters
        if master.name not in known
    )
    return replace(publication, masters=(*publication.masters, *came))


class _Home:
    """Finds in a job what things that come into it hold."""

    def __init__(self, publication: Publication, found: Taken, lacking: list[str]) -> None:
        self.lacking = lacking
        by_content = {(picture.digest, picture.mask): picture.id for picture in publication.pictures}
        self.pictures = {picture.id: by_content.get((picture.digest, picture.mask)) for picture in found.pictures}
        self.files = {picture.id: picture.file for picture in found.pictures}
        self.stories: dict[str, Story] = {
            name: story for name, title in found.stories for story in publication.stories
            if (story.id, story.title) == (name, title)
        }  # fmt: skip
        self.titles = dict(found.stories)

    def _picture(self, name: str) -> str | None:
        """What a picture that came is called here; None where it is not here, which is noted."""
        known = self.pictures.get(name)
        if known is None:
            self.lacking.append(self.files.get(name, name))
        return known

    def piece(self, piece: Furniture) -> Furniture | None:
        """A piece of furniture with its picture by the name that has here; None where that is not here."""
        if not piece.picture:
            return piece
        known = self._picture(piece.picture)
        return None if known is None else replace(piece, picture=known)

    def look(self, look: Look) -> Look:
        """A look with its picture by the name that has here; without one where that is not here."""
        if not look.picture:
            return look
        return replace(look, picture=self._picture(look.picture) or "")

    def block(self, block: Block) -> Block:
        """A block with its picture or its story by the name that has here; kept free where that is not here."""
        holds = block.holds
        if isinstance(holds, HoldsPicture):
            known = self._picture(holds.picture)
            return replace(block, holds=HoldsNothing() if known is None else replace(holds, picture=known))
        if isinstance(holds, HoldsStory) and holds.story not in self.stories:
            self.lacking.append(f"“{self.titles.get(holds.story, holds.story)}”")
            return replace(block, holds=HoldsNothing())
        return block


def _with_names(publication: Publication, found: Taken, at_home: _Home) -> Publication:
    """The job with the inks, fades, looks and roles that came, where it has none of that name."""
    paints = {ink.name for ink in publication.inks} | {fade.name for fade in publication.fades}
    looks = {look.name for look in publication.looks}
    roles = {role.name for role in publication.roles}
    sets = {each.name for each in publication.sets}
    return replace(
        publication,
        inks=(*publication.inks, *(ink for ink in found.inks if ink.name not in paints)),
        fades=(*publication.fades, *(fade for fade in found.fades if fade.name not in paints)),
        looks=(*publication.looks, *(at_home.look(look) for look in found.looks if look.name not in looks)),
        roles=(*publication.roles, *(role for role in found.roles if role.name not in roles)),
        sets=(*publication.sets, *(ThingSet(name=name) for name in found.sets if name not in sets)),
    )


def swap_holds(publication: Publication, one: str, other: str) -> Publication:
    """Two blocks with what they hold changed about; each stays where it is. Problem where one is a group."""
    first, second = block_named(publication, one), block_named(publication, other)
    publication = with_thing_anywhere(
        publication, replace(first, holds=second.holds, look=second.look, light=second.light)
    )
    return with_thing_anywhere(publication, replace(second, holds=first.holds, look=first.look, light=first.light))
