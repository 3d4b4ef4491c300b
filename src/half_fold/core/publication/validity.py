"""What must hold in every document, whoever wrote its file."""

import re
from collections.abc import Iterable, Iterator
from itertools import chain

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.ranges import LARGEST_TRIM_MM, SMALLEST_TRIM_MM, figures_out_of_range, is_writable
from half_fold.core.publication.records import Publication, Role
from half_fold.core.publication.references import dangling
from half_fold.core.publication.surgery import thing_ids

STATED = frozenset(Role.__struct_fields__) - {"name", "label", "based_on", "own"}  # what a role may say of its own
# Names of plates that every press has, or that mean something else in a press file.
RESERVED = frozenset({"cyan", "magenta", "yellow", "black", "all", "none"})
_SCREEN = re.compile(r"#[0-9a-f]{6}")
_LANGUAGE = re.compile(r"[A-Za-z]{0,3}([_-][A-Za-z0-9]{1,8}){0,3}")


def trim_fault(width_mm: float, height_mm: float) -> str:
    """Why a trim cannot be, or ''."""
    for name, size in (("width", width_mm), ("height", height_mm)):
        if not SMALLEST_TRIM_MM <= size <= LARGEST_TRIM_MM:
            return (
                f"a trim {name} of {size:.6g} mm is outside what can be made; "
                f"give one from {SMALLEST_TRIM_MM:.0f} to {LARGEST_TRIM_MM:.0f} mm"
            )
    return ""


def _faults(publication: Publication, before: Publication | None = None) -> Iterator[str]:
    """What cannot be, but for what is not there; figures that stand in ``before`` are known to be well."""
    if fault := trim_fault(publication.brief.width.mm, publication.brief.height.mm):
        yield fault
    if not publication.pages:
        yield "it has no pages"
    yield from figures_out_of_range(publication, (), before)
    yield from _doubled(publication)
    yield from _inks(publication)
    yield from _papers(publication)
    yield from _in_circles("role", {role.name: role.based_on for role in publication.roles})
    yield from _in_circles("master", {master.name: master.based_on for master in publication.masters})
    yield from _names(publication)
    if before is None or publication.goods is not before.goods:
        yield from _goods(publication)
    for role in publication.roles:
        for field in set(role.own) - STATED:
            yield f"the role “{role.name}” says something of its own for “{field[:40]}”, which no role has"


def _doubled(publication: Publication) -> Iterator[str]:
    """Things that are called alike and may not be."""
    pages = (*publication.pages, *publication.unplaced)
    kinds: tuple[tuple[str, Iterable[str]], ...] = (
        ("blocks or groups", thing_ids(publication)),
        ("pages", (page.id for page in pages)),
        ("stories", (story.id for story in publication.stories)),
        ("pictures", (picture.id for picture in publication.pictures)),
        ("inserts", (insert.id for insert in publication.inserts)),
        ("roles", (role.name for role in publication.roles)),
        ("masters", (master.name for master in publication.masters)),
        ("inks", chain((ink.name for ink in publication.inks), (fade.name for fade in publication.fades))),
        ("looks", (look.name for look in publication.looks)),
        ("outputs", (output.name for output in publication.outputs)),
        ("sets", (each.name for each in publication.sets)),
        ("symbols", (symbol.name for symbol in publication.symbols)),
        ("symbols", (symbol.letter for symbol in publication.symbols)),
        ("rows of goods", (row[0] for row in publication.goods.rows if row) if publication.goods is not None else ()),
    )
    for what, names in kinds:
        every = list(names)
        if len(every) != len(set(every)):
            name = next(name for name in every if every.count(name) > 1)
            called = "name" if what in ("roles", "masters", "inks", "looks", "symbols", "outputs", "sets") else "id"
            yield f"two {what} have the same {called} “{name[:40]}”"


def _inks(publication: Publication) -> Iterator[str]:
    """Inks that could not be printed."""
    for ink in publication.inks:
        if ink.spot and ink.name.lower() in RESERVED:
            yield f"the spot “{ink.name}” is called as a plate that there is already"
        if ink.screen and not _SCREEN.fullmatch(ink.screen):
            yield f"the ink “{ink.name}” was asked for as “{ink.screen[:20]}”, which is no colour of a screen"


def _papers(publication: Publication) -> Iterator[str]:
    """Papers of which nothing says how thick a leaf of them is."""
    for paper in publication.papers:
        weighs = paper.grammage or (paper.pounds and paper.category)
        if not (paper.caliper or paper.ppi or (weighs and (paper.volume or paper.category))):
            yield f"of the paper “{paper.name[:40]}” nothing says how thick it is"
        elif paper.pounds and not paper.category:
            yield f"the paper “{paper.name[:40]}” is stated in pounds of no category"


def _in_circles(what: str, based_on: dict[str, str]) -> Iterator[str]:
    for name in based_on:
        at, steps = based_on[name], 0
        while at and at in based_on and steps <= len(based_on):
            if at == name:
                yield f"the {what} “{name}” is based on itself"
                break
            at, steps = based_on[at], steps + 1


def _goods(publication: Publication) -> Iterator[str]:
    """Rows of goods that go by nothing, or have more to say than there are columns for."""
    goods = publication.goods
    if goods is None:
        return
    if not goods.columns:
        yield "its goods have no columns"
    if any(not row or not row[0] or len(row) > len(goods.columns) for row in goods.rows):
        yield "a row of its goods goes by nothing, or has more cells than there are columns"
    if not all(is_writable(cell) for cell in chain(goods.columns, *goods.rows)):
        yield "its goods hold half a letter, which no file can"


def _names(publication: Publication) -> Iterator[str]:
    """Names of languages: they say nothing of other places."""
    languages = {publication.language} | {story.language for story in publication.stories}
    languages |= {p.language for story in publication.stories for p in story.paragraphs}
    for language in sorted(languages):
        if not _LANGUAGE.fullmatch(language):
            yield f"“{language[:40]}” is no language"


def require_whole(publication: Publication, before: Publication | None = None) -> None:
    """Raise Problem where the document would not open again; what it shares with ``before``, which would, is well."""
    for where, kind, name in dangling(publication, before):
        raise Problem(f"That cannot be: {where} would name the {kind} “{name}”, which would not be there.")
    for fault in _faults(publication, before):
        raise Problem(f"That cannot be: {fault}.")


def require_valid(publication: Publication, name: str) -> None:
    """Raise Problem with the first thing in ``publication`` that cannot be."""
    missing = (f"{where} names the {kind} “{name}”, which is not there" for where, kind, name in dangling(publication))
    for fault in chain(_faults(publication), missing):
        raise Problem(f"“{name}” cannot be opened: {fault}.")
