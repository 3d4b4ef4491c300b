"""What is made and taken away by its path: sections, roles, masters, furniture, inserts, groups; and how things lie.

These paths act: they have no value to be read. ``WAYS`` tells what each does. What is stated as a whole (``whole.py``)
is made by its path as well.
"""

import re
from collections.abc import Callable
from functools import partial
from typing import get_args

from half_fold.core.apart.sides import edit_side, side_of, sides_of
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.whole import NEW, state_new
from half_fold.core.plan.inserts import add_insert, drop_insert
from half_fold.core.plan.sections import end_section, start_section
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import by_id, by_name, every_thing_of, master_named
from half_fold.core.publication.things import every_thing
from half_fold.core.spread.edits.fading import keep_fade
from half_fold.core.spread.edits.grouping import Order, delete_things, double_things, group, put_at, restack, ungroup
from half_fold.core.spread.edits.masters import NEW_PIECES, add_furniture, add_master, remove_furniture, remove_master
from half_fold.core.spread.edits.scaling import scale_as_typed
from half_fold.core.spread.edits.worded import set_words
from half_fold.core.typesetting.sheet.sheet import add_role, remove_role

_Edit = Callable[[Publication], Publication]
THING = re.compile(r"(section|role|master|insert|group|block)\.([^.]+)")
FURNITURE = re.compile(r"master\.([^.]+)\.furniture\.([^.]+)")
ORDERED = re.compile(r"(?:block|group)\.([^.]+)\.order")
HANDLED = re.compile(r"(?:block|group)\.([^.]+)\.(scaled|copied|fade\.kept)")
WORDS = re.compile(r"block\.([^.]+)\.words\.(\d+)(?:-(\d+))?\.(.+)")
APART = re.compile(r"group\.([^.]+)\.apart")
PLAIN = "plain"
# As they are told in docs/paths.md.
WAYS = (
    ("section.NAME=PAGE", "Begins a section on that page; with nothing after the =, ends it"),
    ("role.NAME=BASE", "A new role, based on another and called so in small letters; with nothing, takes it away"),
    ("master.NAME=BASE", "A new master, based on another or `plain`; with nothing, takes it away"),
    ("master.NAME.furniture.ID=KIND", "A piece more: `words`, `rule` or `frame`; with nothing, takes it away"),
    ("insert.ID=KIND after PAGE", "A `card`, `tip-in` or `gatefold`; with nothing, takes it out"),
    ("group.ID=ID ID", "Those things as one group; with nothing, takes it away with all in it"),
    ("group.ID.apart=yes", "Takes a group apart"),
    ("block.ID=", "Takes a block away"),
    ("block.ID.scaled=SHARE", "So many per cent as large, with its type, strokes and corners; `alone` leaves these"),
    ("block.ID.fade.kept=NAME", "The fade that was drawn over it by a name, for others to be filled with"),
    ("block.ID.copied=ACROSS DOWN", "A copy of it, so far to the right and down of it; of groups too"),
    (
        "block.ID.words.N-M.KEY=VALUE",
        "Some of its words, counted from 1: their `size`, `ink`, `outline.weight` ...",
    ),
    ("block.ID.order=WAY", "`front`, `forward`, `backward`, `back`, or `over` and the name of another; of groups too"),
)
_ID = re.compile(r"[\w-]+")
_INSERT = re.compile(r"(.+?) after (\d+)")


def makes(path: str) -> bool:
    """Whether a path is of the form of those that make something, take it away or move it."""
    return any(form.fullmatch(path) for form in (NEW, THING, FURNITURE, ORDERED, HANDLED, WORDS, APART))


def make_by_path(publication: Publication, path: str, typed: str) -> Publication:
    """The job with what a path ``makes``, takes away or moves. Problem where it cannot be."""
    if NEW.fullmatch(path):
        return state_new(publication, path, typed)
    if (found := THING.fullmatch(path)) is not None:
        make, take_away = _WAYS[found[1]]
        return make(publication, found[2], typed.strip()) if typed.strip() else take_away(publication, found[2])
    if (found := FURNITURE.fullmatch(path)) is not None:
        return _furniture(publication, found[1], found[2], typed.strip())
    if (found := ORDERED.fullmatch(path)) is not None:
        return _ordered(publication, found[1], typed.strip())
    if (found := HANDLED.fullmatch(path)) is not None:
        return _where_it_lies(publication, found[1], partial(_HANDLED[found[2]], name=found[1], typed=typed))
    if (found := WORDS.fullmatch(path)) is not None:
        block, first, last, key = found.groups()
        span = int(first), int(last or first)
        return _where_it_lies(publication, block, lambda on: set_words(on, block, *span, key, typed))
    apart = APART.fullmatch(path)
    assert apart is not None
    return _where_it_lies(publication, apart[1], lambda on: ungroup(on, apart[1])[0])


def _there_already(kind: str, name: str, last: str) -> Problem:
    return Problem(f"There is a {kind} “{name}” already; set what it has, such as {kind}.{name}.{last}.")


def _section(publication: Publication, name: str, typed: str) -> Publication:
    if any(section.name == name for section in publication.sections):
        raise _there_already("section", name, "folios")
    if not typed.isdigit():
        raise Problem(f"“{typed}” is no page; give the number of the one on which the section “{name}” begins.")
    return start_section(publication, int(typed), name)


def _no_section(publication: Publication, name: str) -> Publication:
    return end_section(publication, by_name(publication.sections, name, "section"))


def _role(publication: Publication, name: str, typed: str) -> Publication:
    if any(role.name == name.lower() for role in publication.roles):
        raise _there_already("role", name.lower(), "size")
    return add_role(publication, name, typed)[0]


def _master(publication: Publication, name: str, typed: str) -> Publication:
    if any(master.name == name for master in publication.masters):
        raise _there_already("master", name, "columns")
    return add_master(publication, name, "" if typed == PLAIN else typed)


def _insert(publication: Publication, name: str, typed: str) -> Publication:
    if any(insert.id == name for insert in publication.inserts):
        raise _there_already("insert", name, "after")
    found = _INSERT.fullmatch(typed)
    if found is None:
        raise Problem(f"“{typed}” is no insert; say which kind and after which page, such as card after 8.")
    return add_insert(publication, int(found[2]), found[1], _own_id(name))


def _no_insert(publication: Publication, name: str) -> Publication:
    by_id(publication.inserts, name)
    return drop_insert(publication, name)


def _group(publication: Publication, name: str, typed: str) -> Publication:
    if any(thing.id == name for thing in every_thing_of(publication)):
        raise _there_already("group", name, "name")
    members = typed.replace(",", " ").split()
    return _where_it_lies(publication, members[0], lambda on: group(on, members, own=_own_id(name))[0])


def _block(publication: Publication, name: str, typed: str) -> Publication:
    raise Problem(
        f"A block is laid by a claim, such as page.3.claim={typed} over 1-2 x 3-4; block.{name}= takes it away."
    )


def _no_thing(publication: Publication, name: str) -> Publication:
    return _where_it_lies(publication, name, lambda on: delete_things(on, [name]))


def _own_id(name: str) -> str:
    """A name that can be an id. Problem where it cannot."""
    if not _ID.fullmatch(name):
        raise Problem(f"“{name}” cannot be the name of one; use letters, figures and hyphens.")
    return name


_WAYS: dict[str, tuple[Callable[[Publication, str, str], Publication], Callable[[Publication, str], Publication]]] = {
    "section": (_section, _no_section),
    "role": (_role, remove_role),
    "master": (_master, remove_master),
    "insert": (_insert, _no_insert),
    "group": (_group, _no_thing),
    "block": (_block, _no_thing),
}


def _furniture(publication: Publication, master: str, name: str, typed: str) -> Publication:
    """A piece that repeats on a master's pages, made or taken away."""
    if not typed:
        return remove_furniture(publication, master, name)
    if any(piece.id == name for piece in master_named(publication, master).furniture):
        raise Problem(f"There is a piece “{name}” on “{master}” already; set what it has, such as its .at.")
    if typed not in NEW_PIECES:
        raise Problem(f"There is no furniture “{typed}”; there are {', '.join(NEW_PIECES)}.")
    return add_furniture(publication, master, NEW_PIECES[typed], _own_id(name))[0]


def _ordered(publication: Publication, name: str, typed: str) -> Publication:
    """A thing to the front, the back, a step that way, or right in front of another (``over b3``)."""
    orders: tuple[Order, ...] = get_args(Order)
    order = next((each for each in orders if each == typed), None)
    if order is not None:
        return _where_it_lies(publication, name, lambda on: restack(on, [name], order))
    way, _, other = typed.partition(" ")
    if way != "over" or not other:
        raise Problem(f"“{typed}” is no order; say {', '.join(orders)}, or over and the name of another thing.")
    _require_thing(publication, other)
    return _where_it_lies(publication, name, lambda on: put_at(on, name, other))


def _copied(publication: Publication, *, name: str, typed: str) -> Publication:
    """A copy of a thing, as far off it as is typed."""
    far = typed.split()
    if len(far) != 2:
        raise Problem(f"“{typed}” says not where the copy lies; give how far to the right and down, such as 10mm 0mm.")
    across, down = (length(each, publication.brief.unit).pt for each in far)
    return double_things(publication, [name], (across, down))[0]


def _kept_fade(publication: Publication, *, name: str, typed: str) -> Publication:
    """The fade of a block by a name of its own among the job's."""
    return keep_fade(publication, name, typed)


_HANDLED = {"scaled": scale_as_typed, "copied": _copied, "fade.kept": _kept_fade}


def _where_it_lies(publication: Publication, name: str, edit: _Edit) -> Publication:
    """The job after an edit of the pages, or of the side of the cover on which a thing lies. Problem without it."""
    _require_thing(publication, name)
    for side in sides_of(publication):
        pages = side_of(publication, side).pages
        if any(thing.id == name for page in pages for thing in every_thing(page.things)):
            return edit_side(publication, side, edit)
    return edit(publication)


def _require_thing(publication: Publication, name: str) -> None:
    if all(thing.id != name for thing in every_thing_of(publication)):
        raise Problem(f"There is no block or group “{name}” in this job; half-fold get JOB lists those there are.")
