"""Several covers of one job: kept beside the one in use, judged by the same figures, and one of them chosen.

What is in use is ``Publication.cover``, the others are its ``covers``. All share pictures, inks and roles.
"""

from collections.abc import Iterator
from pathlib import Path

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.apart.covers import require_cover
from half_fold.core.cover.masthead import masthead_of
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.cover.trials.eye import SHOP_MM, least_letter
from half_fold.core.cover.trials.lines import seen_lines
from half_fold.core.cover.trials.seen import Pixels, Seen, seen_cover
from half_fold.core.inks.numbers import scheme_of
from half_fold.core.legibility.reading import read_surface
from half_fold.core.legibility.verdicts import GOOD, UNREADABLE
from half_fold.core.measure.length import figure
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Block, Cover, Group, Publication, Thing
from half_fold.core.publication.surgery import COVER_SIDES, fresh_id
from half_fold.core.publication.things import every_thing
from half_fold.core.spread.setting.compose import Setter

MOST = 6
Figures = tuple[tuple[str, str], ...]


class Version(Struct, frozen=True, eq=False):
    """A cover as it looks, its name, its figures in the same order for all, and whether it is the one in use."""

    name: str
    front: Pixels
    figures: Figures
    in_use: bool


def version_name(publication: Publication, cover: Cover) -> str:
    """A cover's name; its place among all where it has none."""
    every = (publication.cover, *publication.covers)
    return cover.name or f"cover {next(n for n, each in enumerate(every, 1) if each is cover)}"


def version_names(publication: Publication) -> list[str]:
    """The names of all covers, the one in use first."""
    return [version_name(publication, cover) for cover in (publication.cover, *publication.covers)]


def add_version(publication: Publication, name: str) -> Publication:
    """The job with a copy of its cover in use under that name; what was in use is kept.

    Problem where the name is taken, or there are too many.
    """
    require_cover(publication)
    name = " ".join(name.split())
    if not name:
        raise Problem("A version of the cover needs a name, such as “with the knife”.")
    if name in version_names(publication):
        raise Problem(f"There is a cover “{name}” already; give this one another name.")
    if len(publication.covers) + 1 >= MOST:
        raise Problem(f"{MOST} covers can be compared, and no more; remove one first.")
    before = replace(publication.cover, name=version_name(publication, publication.cover))
    return replace(publication, cover=replace(publication.cover, name=name), covers=(*publication.covers, before))


def choose_version(publication: Publication, name: str) -> Publication:
    """The job with the cover of that name in use; what was in use takes its place among the others.

    Problem where there is none.
    """
    if name == version_name(publication, publication.cover):
        return publication
    at = _index(publication, name)
    before = replace(publication.cover, name=version_name(publication, publication.cover))
    covers = (*publication.covers[:at], before, *publication.covers[at + 1 :])
    return replace(publication, cover=_told_apart(publication, publication.covers[at]), covers=covers)


def remove_version(publication: Publication, name: str) -> Publication:
    """The job without a cover that is not in use. Problem where there is none of that name, or it is the one in use."""
    if name == version_name(publication, publication.cover):
        raise Problem(f"The cover “{name}” is the one in use; choose another first.")
    at = _index(publication, name)
    return replace(publication, covers=(*publication.covers[:at], *publication.covers[at + 1 :]))


def _index(publication: Publication, name: str) -> int:
    for at, cover in enumerate(publication.covers):
        if version_name(publication, cover) == name:
            return at
    raise Problem(f"There is no cover “{name}”; there are {', '.join(version_names(publication))}.")


def _told_apart(publication: Publication, cover: Cover) -> Cover:
    """The cover with new ids where something on a page has come to be called the same since."""
    on_pages = {thing.id for page in (*publication.pages, *publication.unplaced) for thing in every_thing(page.things)}
    own = [thing.id for side in COVER_SIDES for thing in every_thing(getattr(cover, side))]
    taken, new = [*on_pages, *own], {}
    for name in own:
        if name in on_pages:
            new[name] = fresh_id(name[0], taken)
            taken.append(new[name])
    if not new:
        return cover
    sides = {side: tuple(_called(thing, new) for thing in getattr(cover, side)) for side in COVER_SIDES}
    return replace(cover, **sides)


def _called(thing: Thing, new: dict[str, str]) -> Thing:
    if isinstance(thing, Group):
        members = tuple(_called(each, new) for each in thing.members)
        return replace(thing, id=new.get(thing.id, thing.id), members=members)
    assert isinstance(thing, Block)
    return replace(thing, id=new.get(thing.id, thing.id), of=new.get(thing.of, thing.of))


def versions(publication: Publication, folder: Path, setter: Setter) -> Iterator[Version]:
    """Every cover as it looks, with its figures; the one in use first. Problem for a self-cover job."""
    for name in version_names(publication):
        job = choose_version(publication, name)
        seen = seen_cover(job, folder, setter)
        yield Version(name, seen.front, tuple(_figures(job, seen, folder, setter)), job is publication)


def _figures(job: Publication, seen: Seen, folder: Path, setter: Setter) -> Iterator[tuple[str, str]]:
    sheet = surface_of_side(job, folder, "outside", setter)
    told, name = read_surface(sheet), masthead_of(sheet)
    front = {block.id for block in _front(job)}
    words = [word for word in told.words if word.block in front]
    good, bad = sum(w.score >= GOOD for w in words), sum(w.score < UNREADABLE for w in words)
    yield "Words that read well", f"{good} of {len(words)}"
    yield "Not to be read", str(bad)
    yield "Worst word", figure(min((word.score for word in words), default=0.0), 1)
    yield "Masthead hidden", f"{figure(100 * name.hidden, 0)} %, {name.verdict}" if name is not None else "none"
    lines = seen_lines(seen)
    known = sum(line.height >= least_letter(SHOP_MM) for line in lines)
    yield "Lines made out at 3 m", f"{known} of {len(lines)}"
    yield "Scheme", scheme_of([seen.marks.marks]).words
    light = seen.front.astype(float).mean(axis=2)
    yield "Lightest to darkest", f"{figure(float(np.percentile(light, 95) - np.percentile(light, 5)) / 2.55, 0)} %"


def _front(job: Publication) -> list[Block]:
    return [thing for thing in every_thing(job.cover.front) if isinstance(thing, Block)]
