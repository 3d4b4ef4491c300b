"""What can be set of the brief and of a job's own facts, in one table: window, command line and documents follow it."""

import re
from collections.abc import Iterable
from datetime import date
from functools import cache
from typing import Any, Literal

from msgspec.structs import replace

from half_fold.core.brief.allowances import pixels
from half_fold.core.brief.binding import Binding
from half_fold.core.brief.bindings import binding_named, bindings
from half_fold.core.brief.papers import format_paper, known_papers, with_paper
from half_fold.core.brief.printers import ON_PAPER, choose_printer, find_sheet, known_sheets
from half_fold.core.brief.soft_spine import SCHOOLS
from half_fold.core.brief.spine import ROUNDINGS
from half_fold.core.brief.stating import parse_paper, parse_trim, trims
from half_fold.core.brief.wrap import is_cased
from half_fold.core.measure.entry import PIXEL, is_pixels, unit_name
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.languages import LANGUAGES
from half_fold.core.publication.property import MORE, Choices, Property
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import Brief, Publication
from half_fold.core.publication.validity import trim_fault

Of = Property[Publication]
NOT_SAID = "not said"
NO_PAPER = "none"  # what stands for a paper where there is none
SIGNATURES = tuple((size, f"{size} pages") for size in ("4", "8", "12", "16", "24", "32"))
_BACKS = (("flat", "flat"), *((f"round {turn}", f"round {turn}°") for turn in (60, 90, 120)))
_LANGUAGE = re.compile(r"[a-z]{2,3}(_[A-Z]{2})?")
MOST_COPIES = 100_000_000
_BOOKS, _PERIODICALS = ("book", "photo-book"), ("magazine", "catalogue")


def _binding(publication: Publication) -> Binding:
    return binding_named(publication.brief.binding)


def _bound(publication: Publication) -> bool:
    return _binding(publication).bound


def _is_stitched(publication: Publication) -> bool:
    """Whether sheets lie one inside the other, more of them than the one that a binding of so many pages is."""
    binding = _binding(publication)
    return binding.nests and not binding.exactly


def _wrapped(publication: Publication) -> bool:
    return _binding(publication).cover == "wrap"


def _with(publication: Publication, **changes: object) -> Publication:
    return replace(publication, brief=replace(publication.brief, **changes))


def _of_brief(key: str, label: str, kind: Any, field: str = "", **more: Any) -> Of:
    """A field of the brief, of the name of its key if no other is given."""
    name = field or key
    least, most = RANGES[Brief].get(name, (0.0, 0.0))
    told: dict[str, Any] = {"least": least, "most": most, **more}
    write = told.pop("write", lambda publication, value: _with(publication, **{name: value}))
    return Property(key, label, kind, lambda publication: getattr(publication.brief, name), write, **told)


def job_kind(publication: Publication) -> str:
    """What kind of job it is, or its cover is of, where that stands by itself."""
    return publication.cover_of or publication.kind


def _fact(name: str, kinds: tuple[str, ...] = (), **more: Any) -> Of:
    """Words that are told of the job itself; asked for in jobs of those ``kinds``, and wherever they are said."""

    def applies(publication: Publication) -> bool:
        return not kinds or job_kind(publication) in kinds or bool(getattr(publication, name))

    def write(publication: Publication, value: str) -> Publication:
        return replace(publication, **{name: value})

    told: dict[str, Any] = {"none": NOT_SAID, "applies": applies, **more}
    return Property(name, name.capitalize(), "text", lambda publication: getattr(publication, name), write, **told)


def _either(key: str, label: str, field: str, yes: tuple[str, str], no: tuple[str, str], **more: Any) -> Of:
    """One of two, which the brief keeps as a flag."""
    return Property(
        key,
        label,
        "choice",
        lambda publication: yes[0] if getattr(publication.brief, field) else no[0],
        lambda publication, value: _with(publication, **{field: value == yes[0]}),
        choices=(no, yes),
        **more,
    )


def _titled(publication: Publication, value: str) -> Publication:
    if not value:
        raise Problem("A job needs a title; type one.")
    return replace(publication, title=value)


def _in_language(publication: Publication, code: str) -> Publication:
    """The job's language, and that of the stories that were in the job's."""
    if not _LANGUAGE.fullmatch(code):
        raise Problem(f"“{code}” is no language; give its code, such as en_GB, de_DE or he.")
    old = publication.language
    stories = tuple(replace(s, language=code) if s.language == old else s for s in publication.stories)
    return replace(publication, language=code, stories=stories)


def _said_trim(publication: Publication) -> str:
    return f"{publication.brief.width.typed} x {publication.brief.height.typed}"


@cache
def _named_trims() -> Choices:
    """A size as the brief says it, and its name."""
    read = ((name, size, parse_trim(size, "mm")) for name, size in trims().items())
    return [(f"{wide.typed} x {high.typed}", f"{name}{MORE}{size}") for name, size, (wide, high) in read]


def _trimmed(publication: Publication, value: str) -> Publication:
    width, height = parse_trim(value, publication.brief.unit)
    made = _with(publication, width=width, height=height)
    return _in_units(made, PIXEL) if is_pixels(made.brief.unit) else made


def _side(name: Literal["width", "height"]) -> Of:
    """A side of the trim, whose range is told with the way it is made."""

    def write(publication: Publication, value: str) -> Publication:
        changed = _with(publication, **{name: length(value, publication.brief.unit)})
        if fault := trim_fault(changed.brief.width.mm, changed.brief.height.mm):
            raise Problem(f"{fault[0].upper()}{fault[1:]}.")
        return changed

    return Property(f"trim.{name}", f"Trim {name}", "text", lambda publication: getattr(publication.brief, name), write)


def _papers(publication: Publication) -> Choices:
    return [(paper.name, f"{paper.name}{MORE}{format_paper(paper)}") for paper in known_papers(publication)]


def _paper(key: str, label: str, field: str, without: str = "", **more: Any) -> Of:
    """A paper by its name or as it is stated; ``without`` says what it means to have none, where that may be."""

    def write(publication: Publication, value: str) -> Publication:
        if without and value.lower() == NO_PAPER:
            return _with(publication, **{field: NO_PAPER})
        paper = parse_paper(publication, value)
        return _with(with_paper(publication, paper), **{field: paper.name})

    def choices(publication: Publication, _: Publication) -> Choices:
        return [*([(NO_PAPER, without)] if without else ()), *_papers(publication)]

    return Property(key, label, "text", lambda p: getattr(p.brief, field), write, choices=choices, **more)


def _copies(publication: Publication, value: str) -> Publication:
    figures = value.replace(" ", "").replace(",", "") or "0"
    if not figures.isdigit() or int(figures) > MOST_COPIES:
        raise Problem(f"“{value}” is no quantity; give how many copies are printed, such as 2500.")
    return _with(publication, quantity=int(figures))


def _on_day(publication: Publication, value: str) -> Publication:
    try:
        date.fromisoformat(value) if value else None
    except ValueError as error:
        raise Problem(f"“{value}” is no date; give year, month and day such as 2027-03-14.") from error
    return _with(publication, press_date=value)


def _by_printer(publication: Publication, value: str) -> Publication:
    return choose_printer(publication, None if value.lower() in ("none", "") else find_sheet(value))


def _sheets(*_: Publication) -> Choices:
    return [("none", "none: the usual figures"), *((sheet.name, sheet.name) for sheet in known_sheets())]


def _units(publication: Publication, _: Publication) -> Choices:
    return [(unit, unit) for unit in (*ON_PAPER, *((PIXEL,) if _binding(publication).on_screen else ()))]


def _in_units(publication: Publication, unit: str) -> Publication:
    """The job counting in a unit; in pixels, in those of its trim."""
    return _with(publication, unit=f"{PIXEL}@{pixels(publication)[2]:g}" if unit == PIXEL else unit)


BRIEF: tuple[Of, ...] = (
    Property("title", "Title", "text", lambda publication: publication.title, _titled),
    _fact("issue"),
    _fact("season"),
    _fact("author", _BOOKS),
    _fact("publisher", _BOOKS),
    _fact("price", _PERIODICALS),
    _fact("slogan", _PERIODICALS),
    _fact("date"),
    Property(
        "cover-of", "Cover of", "choice", lambda publication: publication.cover_of,
        lambda publication, value: replace(publication, cover_of=value), none=NOT_SAID,
        choices=tuple((kind, f"a {kind.replace('-', ' ')}") for kind in (*_PERIODICALS, *_BOOKS)),
        applies=lambda publication: _binding(publication).elsewhere, note="says which parts it needs",
    ),
    Property(
        "language", "Language", "text", lambda publication: publication.language, _in_language, choices=LANGUAGES
    ),
    Property(
        "spelling", "Spelling", "flag", lambda publication: publication.spelled,
        lambda publication, value: replace(publication, spelled=value), also=("misspelled", "dictionary"),
        note="marked in the story drawer, and found by the checks",
    ),
    Property(
        "trim", "Named trim", "text", _said_trim, _trimmed, also=("size", "format"),
        choices=lambda *_: _named_trims(),
    ),
    _side("width"),
    _side("height"),
    _of_brief("binding", "Binding", "choice", choices=[(each.name, each.label) for each in bindings()]),
    _of_brief("bleed", "Bleed", "length", most=25.0),
    _of_brief("safe", "Safe zone", "length", most=50.0),
    _of_brief("spine", "Spine from the printer", "length", none="none"),
    _of_brief("fold-loss", "Lost in the fold", "length", "fold_loss", most=30.0, none="as is usual for the binding"),
    _paper("paper.text", "Text paper", "text_paper"),
    _paper("paper.cover", "Cover paper", "cover_paper", "none: the text is its own cover"),
    _paper("endpapers", "Endpapers", "endpapers", NO_PAPER, applies=is_cased),
    _paper("jacket", "Jacket", "jacket", NO_PAPER, applies=is_cased),
    _of_brief(
        "flap", "Flaps", "length", most=200.0, none="none", note="90 mm is usual",
        applies=lambda publication: _wrapped(publication) or publication.brief.jacket != NO_PAPER,
    ),
    _either(
        "gatefold", "Gatefold front", "gatefold", ("yes", "yes: a leaf folds in behind the front"), ("no", "no"),
        applies=_wrapped,
    ),
    _of_brief("boards", "Boards", "length", most=6.0, applies=is_cased),
    _of_brief("back", "Back", "choice", choices=_BACKS, applies=is_cased),
    Property(
        "signature", "Signature", "choice", lambda publication: publication.brief.signature,
        lambda publication, value: _with(publication, signature=int(value)), choices=SIGNATURES,
        applies=lambda publication: _binding(publication).signatures or _is_stitched(publication),
    ),
    _of_brief(
        "swell", "Swell", "number", least=1.0, most=1.2, note="thread: 1 to 1.05",
        applies=lambda publication: _binding(publication).sewn,
    ),
    _of_brief(
        "core", "Core", "length", most=5.0, note="between mounted sheets",
        applies=lambda publication: _binding(publication).mounted,
    ),
    _either(
        "cored-ends", "End leaves cored", "cored_ends", ("yes", "yes"), ("no", "no"),
        applies=lambda publication: _binding(publication).mounted,
    ),
    _either("folds", "Folds", "folds_round", ("round", "round folds, × π/2"), ("sharp", "sharp folds")),
    _either("caliper", "Caliper by", "measured", ("measured", "measured dummies"), ("mill", "the mill's figure"),
            note="measured ones speak from two on"),
    Property(
        "quantity", "Quantity", "text", lambda publication: publication.brief.quantity or "", _copies, none=NOT_SAID,
        note="copies",
    ),
    _of_brief("press-date", "Press date", "text", "press_date", write=_on_day, none=NOT_SAID),
    Property(
        "printer", "Printer", "text", lambda p: p.printer.name if p.printer is not None else "none", _by_printer,
        choices=_sheets,
    ),
    _of_brief("spine.school", "Spine counts", "choice", "spine_school", choices=tuple(SCHOOLS.items()), applies=_bound),
    _of_brief(
        "spine.rounding", "Rounding", "choice", "spine_rounding", applies=_bound,
        choices=tuple((name, words or "none") for name, words in ROUNDINGS.items()),
    ),
    Property(
        "unit", "Unit", "choice", lambda publication: unit_name(publication.brief.unit), _in_units, choices=_units
    ),
)  # fmt: skip
BY_KEY = {each.key: each for each in BRIEF}


def set_brief(publication: Publication, key: str, value: str, others: Iterable[str] = ()) -> Publication:
    """The publication with one value of its brief set. Problem where the key or the value cannot be.

    ``others`` are keys that are set elsewhere, to be named with the brief's own.
    """
    if key not in BY_KEY:
        raise Problem(f"There is no brief value “{key}”; there are {', '.join((*BY_KEY, *others))}.")
    return BY_KEY[key].set(publication, publication, value)
