"""Edits of masters and of what repeats on their pages."""

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace

from half_fold.core.measure.length import counted, length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Choices, Property, named
from half_fold.core.publication.records import Furniture, Grid, Master, Publication
from half_fold.core.publication.references import MASTER as OF_MASTER
from half_fold.core.publication.renaming import name_anew
from half_fold.core.publication.surgery import (
    by_id,
    by_name,
    fresh_id,
    master_named,
    master_of,
    may_be_base,
    picture_of,
    role_named,
    with_master,
    with_page,
)
from half_fold.core.spread.settable.furniture_properties import furniture_properties
from half_fold.core.spread.setting.furniture import room_fault
from half_fold.core.spread.where.frames import frame_for
from half_fold.core.typesetting.sheet.sheet import require_figures


def add_master(publication: Publication, name: str, based_on: str = "") -> Publication:
    """A further master: on the grid of the one it is based on, or as plain as can be."""
    name = _new_name(publication, name)
    if based_on:
        base = master_named(publication, based_on)
        made = Master(name=name, grid=base.grid, based_on=based_on, takes_grid=True, text_columns=base.text_columns)
    else:
        first = publication.masters[0]
        made = Master(name=name, grid=first.grid, text_columns=first.text_columns)
    return replace(publication, masters=(*publication.masters, made))


def _new_name(publication: Publication, name: str) -> str:
    name = " ".join(name.split())
    if not name:
        raise Problem("A master needs a name; type one.")
    if any(master.name == name for master in publication.masters):
        raise Problem(f"There is a master “{name}” already; give another name.")
    return name


def rename_master(publication: Publication, old: str, name: str) -> Publication:
    """The master under another name, wherever it is asked for."""
    if name == old:
        return publication
    name = _new_name(publication, name)
    masters = tuple(replace(m, name=name) if m.name == old else m for m in publication.masters)
    return name_anew(replace(publication, masters=masters), (OF_MASTER,), old, name)


def remove_master(publication: Publication, name: str) -> Publication:
    """Without that master. Problem where it has to stay."""
    if why := why_master_stays(publication, name):
        raise Problem(why)
    return replace(publication, masters=tuple(m for m in publication.masters if m.name != name))


def why_master_stays(publication: Publication, name: str) -> str:
    """Why a master cannot be taken out, and what to do about it; "" where nothing stands on it."""
    by_name(publication.masters, name, "master")
    used = sum(page.master == name for page in (*publication.pages, *publication.unplaced))
    if used:
        return f"“{name}” is the master of {counted(used, 'page')}; give them another first."
    if any(master.based_on == name for master in publication.masters):
        return f"Another master is based on “{name}”; base that on something else first."
    return "A job keeps at least one master." if len(publication.masters) == 1 else ""


def base_on(publication: Publication, name: str, base: str) -> Publication:
    """The master based on another, or on none. Problem where that would go round in a circle."""
    master, at = by_name(publication.masters, name, "master"), base
    while at:
        if at == name:
            raise Problem(f"“{base}” is itself based on “{name}”; base it on another master.")
        at = by_name(publication.masters, at, "master").based_on
    return with_master(publication, replace(master, based_on=base, takes_grid=bool(base) and master.takes_grid))


def take_grid(publication: Publication, name: str, takes: bool) -> Publication:
    """On the grid of the master it is based on, or on its own, which it kept."""
    master = by_name(publication.masters, name, "master")
    if takes and not master.based_on:
        raise Problem(f"“{name}” is based on no other master, so it has only its own grid.")
    return with_master(publication, replace(master, takes_grid=takes))


def _others(publication: Publication, master: Master) -> Choices:
    return [("", "no other"), *((each.name, each.name) for each in may_be_base(publication.masters, master))]


MASTER: tuple[Property[Master], ...] = (
    field_of(Master, "name", "Name", "text"),
    field_of(Master, "based_on", "Based on", "choice", choices=_others, note="carries its furniture"),
    field_of(Master, "takes_grid", "Takes its grid", "flag", applies=lambda master: bool(master.based_on)),
)
_SETS: dict[str, Callable[[Publication, str, Any], Publication]] = {
    "name": rename_master,
    "based_on": base_on,
    "takes_grid": take_grid,
}


def set_master(publication: Publication, name: str, key: str, text: str) -> Publication:
    """One value of a master itself, as typed. Problem where it cannot be."""
    master = by_name(publication.masters, name, "master")
    return _SETS[key](publication, name, named(MASTER, key).value(publication, master, text))


# A piece of each kind, as it begins.
NEW_PIECES = {
    "words": Furniture(id="", words="{story}", at="head", lines=2.0),
    "rule": Furniture(id="", kind="rule", at="head", lines=1.0),
    "frame": Furniture(id="", kind="frame", width=length("6mm")),
}


def add_furniture(publication: Publication, master: str, piece: Furniture, own: str = "") -> tuple[Publication, str]:
    """A piece more on a master; gives its id, which is a new one or that of its ``own``."""
    taken = [each.id for each in master_named(publication, master).furniture]
    made = replace(piece, id=own or fresh_id("f", taken))
    return with_furniture(publication, master, made), made.id


def with_furniture(publication: Publication, master: str, piece: Furniture) -> Publication:
    """The piece as it now is. One that came from the master below stands on this one from now on, in its own way.

    Problem where it would stand in the text, or where its face cannot set its figures.
    """
    own = by_name(publication.masters, master, "master")
    if piece.kind == "words":
        if "{folio}" in piece.words:
            require_figures(role_named(publication, piece.role))
    elif piece.kind == "picture":
        picture_of(publication, piece.picture)
    frame = frame_for(publication, master_named(publication, master), True)
    if fault := room_fault(publication, piece, frame):
        raise Problem(fault)
    if any(each.id == piece.id for each in own.furniture):
        furniture = tuple(piece if each.id == piece.id else each for each in own.furniture)
    else:
        furniture = (*own.furniture, piece)
    return with_master(publication, replace(own, furniture=furniture))


def set_furniture(publication: Publication, master: str, piece: str, field: str, value: str) -> Publication:
    """One value of a piece, as typed. Problem where it has no such value, or it cannot be."""
    found = by_id(master_named(publication, master).furniture, piece)
    of = named(furniture_properties(found), field)
    return with_furniture(publication, master, of.set(publication, found, value))


def remove_furniture(publication: Publication, master: str, piece: str) -> Publication:
    """Without that piece. One that came from the master below can only be hidden page by page, or removed there."""
    own = by_name(publication.masters, master, "master")
    kept = tuple(each for each in own.furniture if each.id != piece)
    if len(kept) == len(own.furniture):
        raise Problem(f"That piece comes from “{own.based_on}”; remove it there.")
    return with_master(publication, replace(own, furniture=kept))


def hide_furniture(publication: Publication, number: int, piece: str, hidden: bool) -> Publication:
    """On page ``number`` alone, with or without a piece of its master."""
    page = publication.pages[number - 1]
    without = tuple(each for each in page.without if each != piece)
    return with_page(publication, replace(page, without=(*without, piece) if hidden else without))


def give_own_grid(publication: Publication, numbers: tuple[int, ...], own: bool) -> Publication:
    """The pages of a spread on a grid of their own, which begins as their master's; or on the master's again."""
    for number in numbers:
        page = publication.pages[number - 1]
        grid: Grid | None = master_of(publication, page).grid if own else None
        publication = with_page(publication, replace(page, grid=grid))
    return publication
