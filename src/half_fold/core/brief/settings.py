"""Setting a value of the brief by its key, from the window or the command line."""

import re
from collections.abc import Callable, Iterable
from datetime import date
from functools import cache
from importlib.resources import files

import msgspec
from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.papers import find_paper, with_paper
from half_fold.core.brief.printers import choose_printer, find_sheet
from half_fold.core.brief.soft_spine import SCHOOLS
from half_fold.core.brief.spine import ROUNDINGS
from half_fold.core.brief.stock import BASIC_SHEETS, caliper, grammage, micrometres, mils, volume
from half_fold.core.measure.entry import UNITS
from half_fold.core.measure.length import Length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Paper, Publication
from half_fold.core.publication.validity import trim_fault

UNCOATED_FROM_VOLUME = 1.1
SIGNATURES = ("4", "8", "12", "16", "24", "32")
BACKS = ("flat", "round 60", "round 90", "round 120")
_LANGUAGE = re.compile(r"[a-z]{2,3}(_[A-Z]{2})?")
_LIST = re.compile(r",(?=\s*\w+\s*=)")


@cache
def trims() -> dict[str, str]:
    """Named trims that ship with the program: name in small letters to WIDTHxHEIGHT."""
    return msgspec.json.decode(files("half_fold.data").joinpath("papers/trims.json").read_bytes(), type=dict[str, str])


def read_trim(text: str, unit: str) -> tuple[Length, Length]:
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


def read_paper(publication: Publication, text: str) -> Paper:
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
    paper = replace(Paper(name=name, category=category), **figures)
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
        paper = read_paper(publication, value)
        return _with_brief(with_paper(publication, paper), **{field: paper.name})

    return change


def _choice(field: str, choices: tuple[str, ...], name: str) -> Callable[[Publication, str], Publication]:
    def change(publication: Publication, value: str) -> Publication:
        if value not in choices:
            raise Problem(f"There is no {name} “{value}”; there are {', '.join(choices)}.")
        return _with_brief(publication, **{field: value})

    return change


def _or_none(field: str, name: str, most_mm: float) -> Callable[[Publication, str], Publication]:
    sized = _allowance(field, name, most_mm)

    def change(publication: Publication, value: str) -> Publication:
        if value.strip().lower() in ("none", ""):
            return _with_brief(publication, **{field: None})
        return sized(publication, value)

    return change


def _paper_or_none(field: str) -> Callable[[Publication, str], Publication]:
    chosen = _paper(field)

    def change(publication: Publication, value: str) -> Publication:
        if value.strip().lower() == "none":
            return _with_brief(publication, **{field: "none"})
        return chosen(publication, value)

    return change


def _yes_no(field: str, yes: str, no: str) -> Callable[[Publication, str], Publication]:
    def change(publication: Publication, value: str) -> Publication:
        if value not in (yes, no):
            raise Problem(f"“{value}” is neither {yes} nor {no}; give one of the two.")
        return _with_brief(publication, **{field: value == yes})

    return change


def _quantity(publication: Publication, value: str) -> Publication:
    figures = value.replace(" ", "").replace(",", "")
    if not figures.isdigit() or int(figures) > 100_000_000:
        raise Problem(f"“{value}” is no quantity; give how many copies are printed, such as 2500.")
    return _with_brief(publication, quantity=int(figures))


def _signature(publication: Publication, value: str) -> Publication:
    if value not in SIGNATURES:
        raise Problem(f"There is no signature of “{value}” pages; there are {', '.join(SIGNATURES)}.")
    return _with_brief(publication, signature=int(value))


def _swell(publication: Publication, value: str) -> Publication:
    factor = _positive(value, "swell")
    if not 1.0 <= factor <= 1.2:
        raise Problem(f"A swell of {factor:g} cannot be; thread makes a block 1 to 1.05 times as thick.")
    return _with_brief(publication, swell=factor)


def _press_date(publication: Publication, value: str) -> Publication:
    if value.strip():
        try:
            date.fromisoformat(value.strip())
        except ValueError as error:
            raise Problem(f"“{value}” is no date; give year, month and day such as 2027-03-14.") from error
    return _with_brief(publication, press_date=value.strip())


def _printer(publication: Publication, value: str) -> Publication:
    return choose_printer(publication, None if value.strip().lower() in ("none", "") else find_sheet(value))


def _binding(publication: Publication, value: str) -> Publication:
    return _with_brief(publication, binding=binding_named(value).name)


def _words(field: str) -> Callable[[Publication, str], Publication]:
    def change(publication: Publication, value: str) -> Publication:
        if field == "title" and not value.strip():
            raise Problem("A job needs a title; type one.")
        return replace(publication, **{field: value.strip()})

    return change


def _language(publication: Publication, value: str) -> Publication:
    """The job's language, and that of the stories that were in the job's."""
    code = value.strip()
    if not _LANGUAGE.fullmatch(code):
        raise Problem(f"“{value}” is no language; give its code, such as en_GB, de_DE or he.")
    old = publication.language
    stories = tuple(replace(s, language=code) if s.language == old else s for s in publication.stories)
    return replace(publication, language=code, stories=stories)


KEYS: dict[str, Callable[[Publication, str], Publication]] = {
    "title": _words("title"),
    "issue": _words("issue"),
    "season": _words("season"),
    **{name: _words(name) for name in ("author", "publisher", "price", "slogan")},
    "date": _words("date"),
    "language": _language,
    "trim": _trim,
    "trim.width": _side("width"),
    "trim.height": _side("height"),
    "binding": _binding,
    "bleed": _allowance("bleed", "bleed", 25),
    "safe": _allowance("safe", "safe zone", 50),
    "spine": _or_none("spine", "spine", 150),
    "fold-loss": _allowance("fold_loss", "fold loss", 30),
    "paper.text": _paper("text_paper"),
    "paper.cover": _paper_or_none("cover_paper"),
    "endpapers": _paper_or_none("endpapers"),
    "jacket": _paper_or_none("jacket"),
    "flap": _or_none("flap", "flap", 200),
    "gatefold": _yes_no("gatefold", "yes", "no"),
    "boards": _allowance("boards", "board", 6),
    "back": _choice("back", BACKS, "back"),
    "signature": _signature,
    "swell": _swell,
    "core": _allowance("core", "core", 5),
    "cored-ends": _yes_no("cored_ends", "yes", "no"),
    "folds": _yes_no("folds_round", "round", "sharp"),
    "caliper": _yes_no("measured", "measured", "mill"),
    "quantity": _quantity,
    "press-date": _press_date,
    "printer": _printer,
    "spine.school": _choice("spine_school", tuple(SCHOOLS), "spine school"),
    "spine.rounding": _choice("spine_rounding", tuple(ROUNDINGS), "spine rounding"),
    "unit": _choice("unit", ("mm", "in", "pt"), "unit"),
}


def set_brief(publication: Publication, key: str, value: str, others: Iterable[str] = ()) -> Publication:
    """The publication with one value of its brief set. Problem where the key or the value cannot be.

    ``others`` are keys that are set elsewhere, to be named with the brief's own.
    """
    if key not in KEYS:
        raise Problem(f"There is no brief value “{key}”; there are {', '.join((*KEYS, *others))}.")
    return KEYS[key](publication, value)
