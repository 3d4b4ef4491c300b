"""Edits of the type sheet: one value of a role, roles based on others, new roles."""

from msgspec.structs import fields, replace

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.kinds import blocks_of_words
from half_fold.core.publication.property import named
from half_fold.core.publication.records import (
    Furniture,
    Publication,
    Role,
)
from half_fold.core.publication.references import ROLE, references
from half_fold.core.publication.surgery import by_name, role_named, with_role
from half_fold.core.typesetting.faces.faces import face, face_key, require_face
from half_fold.core.typesetting.faces.scripts import format_fallbacks, parse_fallbacks
from half_fold.core.typesetting.sheet.role_properties import BASED_ON, stated_with
from half_fold.core.typesetting.sheet.role_properties import ROLE as ROLE_VALUES

FIGURES = "0123456789"
_FIXED = ("name", "based_on", "own")


def set_role(publication: Publication, name: str, field: str, value: str) -> Publication:
    """One value of a role, as typed; every paragraph of it is set anew. Problem where it cannot be.

    In a role based on another the value is its own from now on.
    """
    role, whole = by_name(publication.roles, name, "role"), role_named(publication, name)
    made = named(ROLE_VALUES, field).set(publication, whole, value)
    values = {each: getattr(made, each) for each in _goes_with(field, bool(role.based_on))}
    set_in = with_role(publication, replace(role, **values) if field == "label" else stating(role, **values))
    require_face_of(set_in, name)
    return set_in


def _goes_with(field: str, is_based: bool) -> tuple[str, ...]:
    """What is stated with a field: a family with its style, and where the role is based on another the reverse."""
    return stated_with("family" if field == "style" and is_based else field)


def with_fallback(publication: Publication, script: str, family: str, beside: bool = False) -> Publication:
    """Every role's letters of that script, where its own face has not got them, set in that family.

    It stands in place of others of that script; ``beside`` them, and asked before them, where that is wanted.
    """
    for role in publication.roles:
        if role.based_on and "fallback" not in role.own:
            continue
        stated = [pair for pair in parse_fallbacks(role.fallback) if pair != (script, family)]
        others = tuple(pair for pair in stated if beside or pair[0] != script)
        publication = with_role(publication, stating(role, fallback=format_fallbacks(((script, family), *others))))
    return publication


def stating(role: Role, **values: object) -> Role:
    """A role with those values; in one that is based on another they are its own from now on."""
    own = tuple(dict.fromkeys((*role.own, *values))) if role.based_on else role.own
    return replace(role, own=own, **values)


def require_face_of(publication: Publication, name: str) -> None:
    """Problem where the role's face is not there, or is to set folios and has no figures."""
    role = role_named(publication, name)
    require_face(role.family, role.style)
    if name in folio_roles(publication):
        require_figures(role)


def require_figures(role: Role) -> None:
    """Problem where a role that is to set folios, complete, has a face without figures."""
    if lacking := face(face_key(role.family, role.style)).lacks(FIGURES):
        raise Problem(
            f"“{role.family} {role.style}” has no figures {lacking} for the folio; give the role another face."
        )


def folio_roles(publication: Publication) -> set[str]:
    """The roles in which a master sets folios."""
    pieces: list[Furniture] = [piece for master in publication.masters for piece in master.furniture]
    return {piece.role for piece in pieces if "{folio}" in piece.words}


def add_role(publication: Publication, label: str, based_on: str) -> tuple[Publication, str]:
    """A new role that is as the one it is based on until it states something itself; gives its name."""
    label = " ".join(label.split())
    name = label.lower()
    if not label:
        raise Problem("A role needs a name; type one.")
    if any(role.name == name for role in publication.roles):
        raise Problem(f"There is a role “{label}” already; give another name.")
    by_name(publication.roles, based_on, "role")
    made = Role(name=name, label=label, based_on=based_on)
    return replace(publication, roles=(*publication.roles, made)), name


def next_label(publication: Publication, based_on: str) -> str:
    """What a new role is called after the one it is based on, where it is given no name."""
    base, taken = by_name(publication.roles, based_on, "role"), {role.label for role in publication.roles}
    return next(label for n in range(2, 10_000) if (label := f"{base.label} {n}") not in taken)


def remove_role(publication: Publication, name: str) -> Publication:
    """Without that role. Problem where it has to stay."""
    if why := why_it_stays(publication, name):
        raise Problem(why)
    return replace(publication, roles=tuple(each for each in publication.roles if each.name != name))


def why_it_stays(publication: Publication, name: str) -> str:
    """Why a role cannot be taken out, and what to do about it; "" where nothing needs it."""
    role = by_name(publication.roles, name, "role")
    if used := uses_of(publication, name):
        return f"“{role.label}” is the role of {counted(used, 'paragraph')}; give them another first."
    if based := [each.label for each in publication.roles if each.based_on == name]:
        return f"“{based[0]}” is based on “{role.label}”; base it on another role first."
    if name in SET_BY_PROGRAM or any(p.role == name for m in publication.masters for p in m.furniture):
        return f"“{role.label}” is set by furniture, text or cover; it can be changed, not removed."
    named = (each for each in references(publication) if each.kind == ROLE and each.name == name)
    by = next(named, None)
    return (
        f"“{role.label}” is used by {by.where}; give what it sets there another role first." if by is not None else ""
    )


SET_BY_PROGRAM = frozenset(
    {
        "body",
        "headline",
        "caption",
        "crosshead",
        "list",
        "quote",
        "entry",
        "folio",
        "running foot",
        "spine",
        "cover note",
    }
)


def uses_of(publication: Publication, name: str) -> int:
    """How many paragraphs of stories, blocks and the cover are set in a role."""
    count = sum(p.role == name for story in publication.stories for p in story.paragraphs)
    return count + sum(p.role == name for _, words in blocks_of_words(publication) for p in words)


def set_base(publication: Publication, name: str, text: str) -> Publication:
    """The role based on what was typed. Problem where there is no such role, or that would go round in a circle."""
    role = by_name(publication.roles, name, "role")
    return base_role(publication, name, BASED_ON.value(publication, role, text))


def base_role(publication: Publication, name: str, base: str) -> Publication:
    """The role based on another ("" for none). Its look does not change: what differs becomes its own.

    Problem where that would go round in a circle.
    """
    role, at = by_name(publication.roles, name, "role"), base
    while at:
        if at == name:
            raise Problem(f"“{base}” is itself based on “{role.label}”; choose another.")
        at = by_name(publication.roles, at, "role").based_on
    now = role_named(publication, name)
    if not base:
        return with_role(publication, replace(now, based_on="", own=()))
    other = role_named(publication, base)
    own = tuple(
        each.name
        for each in fields(Role)
        if each.name not in (*_FIXED, "label") and getattr(now, each.name) != getattr(other, each.name)
    )
    return with_role(publication, replace(now, based_on=base, own=own))


def give_back(publication: Publication, name: str, field: str) -> Publication:
    """What a role stated itself is the base's again."""
    role = by_name(publication.roles, name, "role")
    gone = stated_with(field)
    return with_role(publication, replace(role, own=tuple(each for each in role.own if each not in gone)))
