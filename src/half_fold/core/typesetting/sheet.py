"""Edits of the type sheet: one value of a role, roles based on others, new roles."""

from collections.abc import Callable
from typing import Any, get_args, get_type_hints

from msgspec.structs import fields, replace

from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import (
    Furniture,
    HoldsBarcode,
    HoldsDisplay,
    Publication,
    Role,
)
from half_fold.core.publication.references import ROLE, references
from half_fold.core.publication.surgery import by_name, cover_blocks, every_block, role_named, with_role
from half_fold.core.typesetting.faces import face, face_key, families, require_face
from half_fold.core.typesetting.scripts import known_fallbacks, read_fallbacks, told_fallbacks

FIGURES = "0123456789"
_KINDS: dict[str, Any] = get_type_hints(Role)
IN_POINTS = frozenset({"size", "leading", "indent", "rule_above", "rule_below"})
MAY_BE_NEGATIVE = frozenset({"indent", "tracking"})
LIMITS = RANGES[Role]
YES, NO = ("yes", "true", "on"), ("no", "false", "off")
_FIXED = ("name", "based_on", "own")


def set_role(publication: Publication, name: str, field: str, value: str) -> Publication:
    """One value of a role, as typed; every paragraph of it is set anew. Problem where it cannot be.

    In a role based on another the value is its own from now on.
    """
    role = by_name(publication.roles, name, "role")
    if field in _FIXED or field not in _KINDS:
        raise Problem(f"A role has no “{field}”.")
    values = {field: read_value(publication, field, value)}
    if field == "family":
        values["style"] = _style_in(str(values["family"]), role.style)
    elif field == "style" and role.based_on:
        values = {"family": role_named(publication, name).family, **values}
    made = with_role(publication, replace(role, **values) if field == "label" else stating(role, **values))
    _require_face(made, name)
    return made


def with_fallback(publication: Publication, script: str, family: str) -> Publication:
    """Every role's letters of that script, where its own face has not got them, set in that family."""
    for role in publication.roles:
        if role.based_on and "fallback" not in role.own:
            continue
        others = tuple(pair for pair in known_fallbacks(role.fallback) if pair[0] != script)
        publication = with_role(publication, stating(role, fallback=told_fallbacks((*others, (script, family)))))
    return publication


def stating(role: Role, **values: object) -> Role:
    """A role with those values; in one that is based on another they are its own from now on."""
    own = tuple(dict.fromkeys((*role.own, *values))) if role.based_on else role.own
    return replace(role, own=own, **values)


def _style_in(family: str, style: str) -> str:
    styles = families()[family]
    return style if style in styles else "Regular" if "Regular" in styles else next(iter(styles))


def _require_face(publication: Publication, name: str) -> None:
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


def read_value(publication: Publication, field: str, value: str) -> object:
    """A value of a role from what was typed. Problem names what cannot be."""
    kind, text = _KINDS[field], value.strip()
    if field == "family" and text not in families():
        raise Problem(f"There is no family “{text}”; there are {', '.join(families())}.")
    if field == "fallback":
        return told_fallbacks(read_fallbacks(text))
    if field == "ink":
        return by_name(publication.inks, text, "ink").name
    if field == "look":
        return "" if text.lower() in ("", "none") else by_name(publication.looks, text, "look").name
    if kind is bool:
        return _yes_or_no(text)
    if kind in (int, float):
        return _number(field, kind, text)
    if Length in (kind, *get_args(kind)):
        return _length(publication, field, text, optional=kind is not Length)
    choices = get_args(kind)
    if choices and text not in choices:
        raise Problem(f"“{text}” is not one of {', '.join(choices)}.")
    return text


def _yes_or_no(text: str) -> bool:
    if text.lower() not in (*YES, *NO):
        raise Problem(f"“{text}” is neither yes nor no; type one of them.")
    return text.lower() in YES


def _number(field: str, kind: Callable[[str], float], text: str) -> float:
    low, high = LIMITS[field]
    try:
        number = kind(text.replace(",", ".").rstrip(" %"))
    except ValueError:
        number = high + 1
    if not low <= number <= high:
        words = "a whole number" if kind is int else "a number"
        raise Problem(f"“{text}” cannot be; give {words} from {low:g} to {high:g}.")
    return number


def _length(publication: Publication, field: str, text: str, optional: bool) -> Length | None:
    if optional and text.lower() in ("", "none", "0"):
        return None
    found = length(text, "pt" if field in IN_POINTS else publication.brief.unit)
    low, high = LIMITS.get(field, (0, 2000))
    if not low <= found.pt <= high:
        raise Problem(f"“{text}” cannot be; give a measure from {low:g} to {high:g} pt.")
    return found


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


def remove_role(publication: Publication, name: str) -> Publication:
    """Without that role. Problem where something is set in it or another role is based on it."""
    role = by_name(publication.roles, name, "role")
    used = uses_of(publication, name)
    if used:
        raise Problem(f"{used} paragraphs are set in “{role.label}”; give them another role first.")
    if based := [each.label for each in publication.roles if each.based_on == name]:
        raise Problem(f"“{based[0]}” is based on “{role.label}”; base it on another role first.")
    if name in SET_BY_PROGRAM or any(p.role == name for m in publication.masters for p in m.furniture):
        raise Problem(f"“{role.label}” is set by furniture, text or cover; it can be changed, not removed.")
    for reference in references(publication):
        if reference.kind == ROLE and reference.name == name:
            raise Problem(f"“{role.label}” is used by {reference.where}; give what it sets there another role first.")
    return replace(publication, roles=tuple(each for each in publication.roles if each.name != name))


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
    blocks = [*(block for _, _, block in every_block(publication)), *cover_blocks(publication)]
    for block in blocks:
        if isinstance(block.holds, HoldsDisplay | HoldsBarcode):
            count += sum(p.role == name for p in block.holds.paragraphs)
    return count


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
    return with_role(publication, replace(role, own=tuple(each for each in role.own if each != field)))
