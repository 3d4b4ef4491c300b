"""The parts of a job that are pressed, each a file of its own, and the paper each is printed on."""

from collections import Counter
from collections.abc import Callable, Sequence
from functools import partial
from typing import TYPE_CHECKING

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.wrap import has_cover, is_cased
from half_fold.core.cover.flat import cover_paper
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.page_ranges import asks_for_pages, format_range, page_range
from half_fold.core.plan.sections import PART, spans
from half_fold.core.plan.spreads import Spread, spreads_of
from half_fold.core.press.sheets import Sheet, page_sheet, spread_sheet
from half_fold.core.publication.records import OUTPUT_FORMS, Publication
from half_fold.core.publication.surgery import page_numbers
from half_fold.core.spread.setting.compose import Setter

if TYPE_CHECKING:
    from half_fold.core.press.imposed import PrintedSide

PAGES, COVER, FRONT, CASE, INSERT = "pages", "cover", "front", "case", "insert"
PAGES_FORM, SPREADS_FORM, SHEETS_FORM = OUTPUT_FORMS
Makers = list[Callable[[], Sheet]]


class PressPart(Struct, frozen=True):
    """What is asked for by ``key``, said as ``label``, printed on ``paper``; its page ``numbers`` where it has some.

    ``makers`` is given a setter and a form, which is one of OUTPUT_FORMS.
    """

    key: str
    label: str
    paper: str
    makers: Callable[[Setter, str], Makers]
    numbers: Sequence[int] = ()

    @property
    def has_pages(self) -> bool:
        """Whether it is made of pages, which may be made as spreads."""
        return len(self.numbers) > 0


def parts_of(publication: Publication) -> list[PressPart]:
    """Every part of the job: its pages, its cover and a case's covering, sections on another paper, inserts."""
    brief = publication.brief
    every = range(1, len(publication.pages) + 1)
    binding = binding_named(brief.binding)
    text = PressPart(PAGES, "Pages", brief.text_paper, partial(_page_makers, publication, every), every)
    out = [] if binding.elsewhere else [text]
    if has_cover(publication):
        jacketed = is_cased(publication) and brief.jacket != "none"
        label = "Jacket" if jacketed else "Covering" if is_cased(publication) else "Cover"
        if binding.cover != "front":
            out.append(PressPart(COVER, label, cover_paper(publication), partial(_cover_makers, publication)))
        out.append(PressPart(FRONT, "Front alone", cover_paper(publication), partial(_front_makers, publication)))
        if jacketed:
            bare = replace(publication, brief=replace(brief, jacket="none"))
            out.append(PressPart(CASE, "Covering", cover_paper(bare), partial(_cover_makers, bare)))
    for span in spans(publication):
        if span.section.paper and span.section.paper != brief.text_paper:
            pages = range(span.first, span.last + 1)
            key, name = f"{PART}.{span.section.name}", span.section.name
            out.append(PressPart(key, name, span.section.paper, partial(_page_makers, publication, pages), pages))
    names, numbers = Counter(insert.name for insert in publication.inserts), page_numbers(publication)
    for insert in publication.inserts:
        where = f", after {numbers[insert.after]}" if names[insert.name] > 1 else ""
        makers = partial(_insert_makers, publication, insert.id)
        out.append(PressPart(f"{INSERT}.{insert.id}", f"{insert.name}{where}", insert.paper, makers))
    return out


def part_named(publication: Publication, key: str) -> PressPart:
    """The part of that key; numbers such as ``1, 6-9`` are those pages.

    Problem names the parts there are, or says why there is no cover.
    """
    if asks_for_pages(key):
        numbers = page_range(key, len(publication.pages))
        makers = partial(_page_makers, publication, numbers)
        return PressPart(
            format_range(numbers), f"Pages {format_range(numbers)}", publication.brief.text_paper, makers, numbers
        )
    found = next((part for part in parts_of(publication) if part.key == key), None)
    if found is None and key in (COVER, FRONT):
        from half_fold.core.apart.covers import require_cover

        require_cover(publication)
    if found is None:
        known = ", ".join(part.key for part in parts_of(publication))
        raise Problem(f"This job has no part “{key}”; there are {known}.")
    return found


def sheet_at(publication: Publication, part: PressPart, form: str, page: int) -> int:
    """Which of a part's sheets, counted from 0, has that page; the nearest where none has."""
    page = min(part.numbers, key=lambda number: abs(number - page))
    if form == PAGES_FORM:
        return part.numbers.index(page)
    if form == SHEETS_FORM:
        return next(i for i, side in enumerate(_sides(publication, part.numbers)) if page in side.pages)
    return next(i for i, spread in enumerate(_spreads(publication, part.numbers)) if page in spread.numbers)


def side_name(publication: Publication, part: PressPart, page: int) -> str:
    """What the side of a printed sheet is called that has that page."""
    return _sides(publication, part.numbers)[sheet_at(publication, part, SHEETS_FORM, page)].label


def _spreads(publication: Publication, numbers: Sequence[int]) -> list[Spread]:
    return [spread for spread in spreads_of(publication) if any(number in numbers for number in spread.numbers)]


def _sides(publication: Publication, numbers: Sequence[int]) -> "list[PrintedSide]":
    """Both sides of every printed sheet that has one of those pages."""
    from half_fold.core.press.imposed import printed_sides

    return [side for side in printed_sides(publication) if not side.sheet.isdisjoint(numbers)]


def _page_makers(publication: Publication, numbers: Sequence[int], setter: Setter, form: str) -> Makers:
    if form == SHEETS_FORM:
        return [partial(side.make, setter) for side in _sides(publication, numbers)]
    if form == SPREADS_FORM:
        return [partial(spread_sheet, publication, setter, spread) for spread in _spreads(publication, numbers)]
    return [partial(page_sheet, publication, setter, number) for number in numbers]


def _cover_makers(publication: Publication, setter: Setter, _form: str) -> Makers:
    from half_fold.core.press.cover_sheets import cover_makers

    return cover_makers(publication, setter)


def _front_makers(publication: Publication, setter: Setter, _form: str) -> Makers:
    from half_fold.core.press.cover_sheets import front_sheet

    return [partial(front_sheet, publication, setter)]


def _insert_makers(publication: Publication, name: str, setter: Setter, _form: str) -> Makers:
    from half_fold.core.press.cover_sheets import insert_makers

    return insert_makers(publication, next(each for each in publication.inserts if each.id == name), setter)
