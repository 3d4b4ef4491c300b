"""Trims and papers as they are stated: by name, or by their figures."""

import re
from functools import cache
from importlib.resources import files

import msgspec
from msgspec.structs import replace

from half_fold.core.brief.papers import find_paper
from half_fold.core.brief.stock import BASIC_SHEETS, caliper, grammage, micrometres, mils, volume
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


def parse_trim(text: str, unit: str) -> tuple[Length, Length]:
    """Width and height from a named trim or ``220x285mm``; one unit may serve both numbers."""
    text = trims().get(text.strip().lower(), text)
    sides = re.split(r"\s*(?<!p)[x×]\s*", text.strip())  # the x of px parts nothing
    if len(sides) != 2 or not all(sides):
        raise Problem(f"“{text}” is not a trim; give width x height such as 220x285mm, or a name such as A5.")
    own = re.search(r"[a-zµμ\"]+$", sides[1].lower())
    shared = own.group() if own and own.group() in UNITS else unit
    pixels = re.search(r"\s*px\s*@.*", sides[1].lower())
    if pixels and not re.search(r"[a-z\"]", sides[0].lower()):
        sides[0] += pixels.group()
    width, height = (length(side, shared) for side in sides)
    if fault := trim_fault(width.mm, height.mm):
        raise Problem(f"{fault[0].upper()}{fault[1:]}.")
    return width, height


_FIGURES = {"grammage": "grammage", "volume": "volume", "caliper": "caliper", "ppi": "ppi", "lb": "pounds"}
_STATED = (
    {"grammage", "volume"},
    {"grammage", "caliper"},
    {"grammage", "ppi"},
    {"caliper"},
    {"caliper", "volume"},
    {"ppi"},
    {"ppi", "volume"},
    {"lb", "category"},
    {"lb", "category", "volume"},
    {"lb", "category", "caliper"},
    {"lb", "category", "ppi"},
)
HOW_TO_STATE = (
    "give grammage=...,volume=..., or caliper=..., or ppi=..., or lb=...,category=book (or cover, bond, index, tag, "
    "newsprint, bristol)"
)


def parse_paper(publication: Publication, text: str) -> Paper:
    """A paper by name, or stated by grammage and volume, caliper, pages to the inch, or US basis weight."""
    if "=" not in text:
        return find_paper(publication, text)
    stated = dict(part.split("=", 1) for part in _LIST.split(text) if "=" in part)
    stated = {name.strip().lower(): value.strip() for name, value in stated.items()}
    if set(stated) - {"name", "coated"} not in _STATED:
        raise Problem(f"“{text}” does not state a paper; {HOW_TO_STATE}.")
    category = stated.get("category", "").lower()
    if "category" in stated and category not in BASIC_SHEETS:
        raise Problem(f"There is no category “{stated['category']}”; there are {', '.join(BASIC_SHEETS)}.")
    figures = {field: _figure(name, stated[name]) for name, field in _FIGURES.items() if name in stated}
    named = text.partition("name=")[0].rstrip(",") or text
    name = stated.get("name", named.replace("=", " ").replace(",", ", "))
    paper = replace(Paper(name=name), category=category, **figures)
    return replace(_sound(paper), coated=_coated(paper, stated.get("coated", "")))


def _figure(name: str, text: str) -> float:
    """A figure of a paper; a caliper may have a unit, in which pt are thousandths of an inch."""
    if name != "caliper":
        return _positive(text, name)
    thousandths = mils(text)
    return thousandths if thousandths is not None else micrometres(length(text, "um").pt)


def _sound(paper: Paper) -> Paper:
    thick, weight = caliper(paper), grammage(paper)
    bulk = volume(paper)
    if not 10 <= thick.value <= 3000 or (weight is not None and not 10 <= weight.value <= 2000):
        raise Problem(f"A paper of {thick.text}{f' and {weight.text}' if weight else ''} does not exist; check it.")
    if bulk is not None and not 0.3 <= bulk.value <= 4:
        raise Problem(f"A paper of {bulk.text} does not exist; check the figures against one another.")
    return paper


def _coated(paper: Paper, said: str) -> bool:
    if said:
        return said.lower() in ("yes", "true", "1", "coated")
    bulk = volume(paper)
    return bulk is not None and bulk.value < UNCOATED_FROM_VOLUME


def _positive(text: str, what: str) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        value = -1.0
    if not 0 < value < 1e6:
        raise Problem(f"“{text}” is no {what}; give a number above nothing.")
    return value
