"""The same job on other papers or of another extent: what the spine would be."""

from collections.abc import Sequence

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.papers import find_paper, with_paper
from half_fold.core.brief.spine import copy_thickness, spine, spine_text_clear
from half_fold.core.brief.weight import weight
from half_fold.core.measure.length import length
from half_fold.core.publication.records import Publication

THINNEST_SPINE_TEXT_MM = 5.0
MOST_PAGES = 2000


class OnPaper(Struct, frozen=True):
    """Millimetres and grams of the job on one paper; None for what does not exist."""

    paper: str
    spine: float | None
    thickness: float
    weight: float | None
    text_fits: bool


def on_papers(publication: Publication, papers: Sequence[str]) -> list[OnPaper]:
    """The job on each of those text papers."""
    return [_on(publication, name) for name in papers]


def _on(publication: Publication, name: str) -> OnPaper:
    paper = find_paper(publication, name)
    brief = replace(publication.brief, text_paper=paper.name)
    job = replace(with_paper(publication, paper), brief=brief, sections=())
    panel, copy = spine(job), weight(job)
    return OnPaper(
        paper.name,
        panel.value if panel is not None else None,
        copy_thickness(job).value,
        copy.value if copy is not None else None,
        text_fits_spine(job),
    )


def spine_text_from(publication: Publication) -> float:
    """Millimetres of spine from which the printer prints words on it."""
    sheet = publication.printer
    if sheet is None or not sheet.spine_text_from:
        return THINNEST_SPINE_TEXT_MM
    return length(sheet.spine_text_from, sheet.unit).mm


def text_fits_spine(publication: Publication) -> bool:
    """Whether spine text may stand: thick enough, pages enough for the printer, and room between the folds."""
    panel, clear = spine(publication), spine_text_clear(publication)
    if panel is None or clear is None:
        return False
    sheet = publication.printer
    enough = sheet is None or len(publication.pages) >= sheet.spine_text_pages
    return panel.value >= spine_text_from(publication) - 1e-9 and clear.value > 0 and enough


def of_extent(publication: Publication, pages: int) -> Publication:
    """The job as it would be measured with so many pages; only for measuring."""
    have = publication.pages
    return replace(publication, pages=(have * -(-pages // len(have)))[:pages])


def spine_of_extent(publication: Publication, pages: int) -> float | None:
    """Millimetres of spine with so many pages; None where there is none."""
    panel = spine(of_extent(publication, pages))
    return panel.value if panel is not None else None


def step(publication: Publication) -> int:
    """The pages of one section more: a signature where the binding gathers them, else the least it takes."""
    binding = binding_named(publication.brief.binding)
    return publication.brief.signature if binding.signatures else binding.multiple


def extent_for_spine(publication: Publication, wanted_mm: float) -> tuple[int, float] | None:
    """The extent that can be bound whose spine comes nearest to ``wanted_mm``, and that spine; None without one."""
    binding = binding_named(publication.brief.binding)
    if not binding.has_spine:
        return None
    low, high = 1, MOST_PAGES // binding.multiple
    while low < high:  # the spine grows with the extent
        middle = (low + high) // 2
        found = spine_of_extent(publication, middle * binding.multiple)
        low, high = (middle + 1, high) if found is not None and found < wanted_mm else (low, middle)
    counts = [n * binding.multiple for n in (low - 1, low) if n > 0]
    spines = [(count, spine_of_extent(publication, count) or 0.0) for count in counts]
    return min(spines, key=lambda pair: abs(pair[1] - wanted_mm))
