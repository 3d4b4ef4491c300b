"""Setting a value of the brief by its key, from the window or the command line."""

import re
from collections.abc import Callable
from functools import cache
from importlib.resources import files

import msgspec
from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.papers import find_paper
from half_fold.core.brief.thickness import ROUNDINGS, SCHOOLS
from half_fold.core.measure.entry import UNITS
from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Paper, Publication
from half_fold.core.publication.validity import trim_fault

UNCOATED_FROM_VOLUME = 1.1
_LIST = re.compile(r",(?=\s*\w+\s*=)")


@cache
def trims() -> dict[str, str]:
    """Named trims that ship with the program: name in small letters to WIDTHxHEIGHT."""
    return msgspec.json.decode(files("half_fold.data").joinpath("papers/trims.json").read_bytes(), type=dict[str, str])


def read_trim(text: str, unit: str) -> tuple[Length, Length]:
    """Width and height from a named trim or ``220x285mm``; one unit may serve both numbers."""
    text = trims().get(text.strip().lower(), text)
    sides = re.split(r"\s*[x×]\s*", text.strip())
    if len(sides) != 2 or not all(sides):
        raise Problem(f"“{text}” is not a trim; give width x height such as 220x285mm, or a name such as A5.")
    own = re.search(r"[a-zµμ\"]+$", sides[1].lower())
    shared = own.group() if own and own.group() in UNITS else unit
    width, height = (length(side, shared) for side in sides)
    if fault := trim_fault(width.mm, height.mm):
        raise Problem(f"{fault[0].upper()}{fault[1:]}.")
    return width, height


def read_paper(publication: Publication, text: str) -> Paper:
    """A paper by name, or stated as ``grammage=130,volume=1.1`` (g/m2 and cm3/g)."""
    if "=" not in text:
        return find_paper(publication, text)
    given = dict(part.split("=", 1) for part in _LIST.split(text) if "=" in part)
    given = {name.strip(): value.strip() for name, value in given.items()}
    if set(given) - {"name"} != {"grammage", "volume"}:
        raise Problem(f"“{text}” does not state a paper; give grammage=...,volume=... such as grammage=130,volume=1.1.")
    grammage, volume = (_positive(given[name], name) for name in ("grammage", "volume"))
    if not (10 <= grammage <= 2000 and 0.3 <= volume <= 4):
        raise Problem(f"A paper of {grammage:g} g/m² and {volume:g} cm³/g does not exist; check the two figures.")
    return Paper(
        name=given.get("name", f"{grammage:g} g/m² at {volume:g} cm³/g"),
        grammage=grammage,
        volume=volume,
        coated=volume < UNCOATED_FROM_VOLUME,
    )


def _positive(text: str, what: str) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        value = -1.0
    if not 0 < value < 1e6:
        raise Problem(f"“{text}” is no {what}; give a number above nothing.")
    return value


def _with_brief(publication: Publication, **changes: object) -> Publication:
    return replace(publication, brief=replace(publication.brief, **changes))


def _trim(publication: Publication, value: str) -> Publication:
    width, height = read_trim(value, publication.brief.unit)
    return _with_brief(publication, width=width, height=height)


def _side(field: str) -> Callable[[Publication, str], Publication]:
    def change(publication: Publication, value: str) -> Publication:
        changed = _with_brief(publication, **{field: length(value, publication.brief.unit)})
        if fault := trim_fault(changed.brief.width.mm, changed.brief.height.mm):
            raise Problem(f"{fault[0].upper()}{fault[1:]}.")
        return changed

    return change


def _allowance(field: str, name: str, most_mm: float) -> Callable[[Publication, str], Publication]:
    def change(publication: Publication, value: str) -> Publication:
        size = length(value, publication.brief.unit)
        if not 0 <= size.mm <= most_mm:
            raise Problem(f"A {name} of {size.mm:.4g} mm cannot be; give one from 0 to {most_mm:g} mm.")
        return _with_brief(publication, **{field: size})

    return change


def _paper(field: str) -> Callable[[Publication, str], Publication]:
    def change(publication: Publication, value: str) -> Publication:
        if field == "cover_paper" and value.strip().lower() == "none":
            return _with_brief(publication, cover_paper="none")
        paper = read_paper(publication, value)
        papers = tuple(p for p in publication.papers if p.name != paper.name)
        return _with_brief(replace(publication, papers=(*papers, paper)), **{field: paper.name})

    return change


def _choice(field: str, choices: tuple[str, ...], name: str) -> Callable[[Publication, str], Publication]:
    def change(publication: Publication, value: str) -> Publication:
        if value not in choices:
            raise Problem(f"There is no {name} “{value}”; there are {', '.join(choices)}.")
        return _with_brief(publication, **{field: value})

    return change


def _binding(publication: Publication, value: str) -> Publication:
    return _with_brief(publication, binding=binding_named(value).name)


def _words(field: str) -> Callable[[Publication, str], Publication]:
    def change(publication: Publication, value: str) -> Publication:
        if field == "title" and not value.strip():
            raise Problem("A job needs a title; type one.")
        return replace(publication, **{field: value.strip()})

    return change


KEYS: dict[str, Callable[[Publication, str], Publication]] = {
    "title": _words("title"),
    "issue": _words("issue"),
    "season": _words("season"),
    "trim": _trim,
    "trim.width": _side("width"),
    "trim.height": _side("height"),
    "binding": _binding,
    "bleed": _allowance("bleed", "bleed", 25),
    "safe": _allowance("safe", "safe zone", 50),
    "fold-loss": _allowance("fold_loss", "fold loss", 30),
    "paper.text": _paper("text_paper"),
    "paper.cover": _paper("cover_paper"),
    "spine.school": _choice("spine_school", tuple(SCHOOLS), "spine school"),
    "spine.rounding": _choice("spine_rounding", tuple(ROUNDINGS), "spine rounding"),
    "unit": _choice("unit", ("mm", "in", "pt"), "unit"),
}


def set_brief(publication: Publication, key: str, value: str) -> Publication:
    """The publication with one value of its brief set. Problem where the key or the value cannot be."""
    if key not in KEYS:
        raise Problem(f"There is no brief value “{key}”; there are {', '.join((*KEYS, 'pages'))}.")
    return KEYS[key](publication, value)
