"""Sections: runs of pages under a name, with a start rule, a style of folio, and a paper if it is their own."""

from collections.abc import Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.brief.papers import find_paper, paper_of, with_paper
from half_fold.core.measure.kept import kept
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import add_pages
from half_fold.core.plan.spreads import facing, is_recto
from half_fold.core.publication.fields import count_of, field_of
from half_fold.core.publication.property import Property, named
from half_fold.core.publication.records import Insert, Page, Publication, Section
from half_fold.core.publication.surgery import numbers_of

PART = "section"  # what the part of a section begins with, before its name, where it is made by itself
_ROMAN = ((1000, "m"), (900, "cm"), (500, "d"), (400, "cd"), (100, "c"), (90, "xc"), (50, "l"), (40, "xl"))
_ROMAN_LOW = ((10, "x"), (9, "ix"), (5, "v"), (4, "iv"), (1, "i"))


class Span(Struct, frozen=True):
    """A section with its first and last page number."""

    section: Section
    first: int
    last: int


def spans(publication: Publication) -> list[Span]:
    """The sections in page order; one whose first page has left the order is passed over."""
    return _spans(publication.pages, publication.sections)


@kept(8)  # asked for every page of a job, again and again
def _spans(pages: tuple[Page, ...], sections: tuple[Section, ...]) -> list[Span]:
    places = numbers_of(pages)
    found = sorted(((places[s.first], s) for s in sections if s.first in places), key=lambda pair: pair[0])
    ends = [*(number - 1 for number, _ in found[1:]), len(pages)][: len(found)]
    return [Span(section, first, last) for (first, section), last in zip(found, ends, strict=True)]


def bands(publication: Publication) -> dict[int, tuple[int, Section]]:
    """For each page that lies in a section: which one of them, counted from 0, and the section."""
    return {
        number: (index, span.section)
        for index, span in enumerate(spans(publication))
        for number in range(span.first, span.last + 1)
    }


def section_of(publication: Publication, number: int) -> Section | None:
    """The section a page lies in; None before the first."""
    return next((s.section for s in spans(publication) if s.first <= number <= s.last), None)


def roman(number: int) -> str:
    """In small roman figures."""
    out = ""
    for value, letters in (*_ROMAN, *_ROMAN_LOW):
        out += letters * (number // value)
        number %= value
    return out


def folios(publication: Publication) -> list[str]:
    """What each page's folio says; '' where its section hides it.

    A section counts from its offset, else on from the page before; pages of inserts that count are counted.
    """
    return _folios(publication.pages, publication.sections, publication.inserts)


@kept(8)
def _folios(pages: tuple[Page, ...], sections: tuple[Section, ...], inserts: tuple[Insert, ...]) -> list[str]:
    inserted = {insert.after: insert for insert in inserts if insert.counts}
    starts = {span.first: span.section for span in _spans(pages, sections)}
    style, count, out = "arabic", 0, []
    for number, page in enumerate(pages, 1):
        count += 1
        if number in starts:
            style = starts[number].folios
            count = starts[number].offset or count
        out.append({"arabic": str(count), "roman": roman(count), "hidden": ""}[style])
        if page.id in inserted:
            count += 2
    return out


def folio_of(publication: Publication, number: int) -> str:
    """What the folio of page ``number`` says."""
    return folios(publication)[number - 1]


# Edits ------------------------------------------------------------------------------------------------


def start_section(publication: Publication, number: int, name: str) -> Publication:
    """A section that begins on that page. Problem where one begins there already, or there is no such page."""
    if not 1 <= number <= len(publication.pages):
        raise Problem(f"There is no page {number}; this job has {len(publication.pages)}.")
    first = publication.pages[number - 1].id
    if any(section.first == first for section in publication.sections):
        raise Problem(f"A section begins on page {number} already; rename that one.")
    words = " ".join(name.split())
    if not words:
        raise Problem("A section needs a name; type one.")
    return replace(publication, sections=(*publication.sections, Section(name=words, first=first)))


def end_section(publication: Publication, section: Section) -> Publication:
    """Without that section; its pages go with what stands before."""
    return replace(publication, sections=tuple(s for s in publication.sections if s is not section))


def _named(_: Publication, __: Section, text: str) -> str:
    if not text:
        raise Problem("A section needs a name; type one.")
    return text


SECTION: tuple[Property[Section], ...] = (
    field_of(Section, "name", "Name", "text", parse=_named),
    field_of(
        Section, "starts", "Starts", "choice", choices=(("next", "on the next page"), ("recto", "on a recto")),
    ),
    field_of(
        Section, "folios", "Folios", "choice", choices=(("arabic", "arabic"), ("roman", "roman"), ("hidden", "hidden")),
    ),
    count_of(Section, "offset", "Counts from", "goes on", note="its first folio"),
    paper_of(Section, none="the text paper"),
)  # fmt: skip


def change_section(publication: Publication, section: Section, field: str, text: str) -> Publication:
    """One value of a section as typed. Problem where it cannot be."""
    if all(s is not section for s in publication.sections):
        raise Problem("That section is no longer there; it may have been changed meanwhile.")
    changed = named(SECTION, field).set(publication, section, text)
    if changed == section:
        return publication
    if changed.paper:
        publication = with_paper(publication, find_paper(publication, changed.paper))
    publication = _named_in_outputs(publication, section.name, changed.name)
    return replace(publication, sections=tuple(changed if s is section else s for s in publication.sections))


def _named_in_outputs(publication: Publication, old: str, new: str) -> Publication:
    """Outputs of a section go on being of it under its new name, where no other section has the old one."""
    if old == new or sum(section.name == old for section in publication.sections) > 1:
        return publication
    was, now = f"{PART}.{old}", f"{PART}.{new}"
    outputs = tuple(replace(each, part=now) if each.part == was else each for each in publication.outputs)
    return replace(publication, outputs=outputs)


def misplaced(publication: Publication) -> list[Span]:
    """Sections that should start on a recto and do not."""
    return [s for s in spans(publication) if s.section.starts == "recto" and not is_recto(publication, s.first)]


def start_on_recto(publication: Publication, section: Section) -> Publication:
    """An empty page before that section, so that it starts on a recto."""
    span = next(s for s in spans(publication) if s.section.first == section.first)
    return add_pages(publication, span.first - 1, 1)


Marking = Literal["state", "advert"]
STATES = ("", "copy in", "proofed", "passed")
ADVERTS = {"": 0.0, "spread": 1.0, "page": 1.0, "half": 1 / 2, "third": 1 / 3, "quarter": 1 / 4}


def mark_pages(publication: Publication, indices: Sequence[int], field: Marking, value: str) -> Publication:
    """Those pages in that state, or sold to that size. An advert of a spread marks its other page too."""
    known = STATES if field == "state" else tuple(ADVERTS)
    if value not in known:
        raise Problem(f"“{value}” is not one of {', '.join(k for k in known if k)}.")
    chosen = set(indices)
    if value == "spread":
        chosen |= {facing(publication, i + 1) - 1 for i in chosen}
    pages = tuple(replace(p, **{field: value}) if i in chosen else p for i, p in enumerate(publication.pages))
    return replace(publication, pages=pages)


def advert_share(publication: Publication) -> float:
    """The share of all pages that is sold, 0 to 1."""
    return sum(ADVERTS[page.advert] for page in publication.pages) / len(publication.pages)


def paper_of_page(publication: Publication, number: int) -> str:
    """The name of the paper a page is printed on: its section's own, or the text paper."""
    section = section_of(publication, number)
    return section.paper if section is not None and section.paper else publication.brief.text_paper
