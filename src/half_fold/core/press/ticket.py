"""The job ticket: what a printer has to know of a job, in plain words beside its files."""

from collections.abc import Iterable, Iterator

from half_fold.core.brief.allowances import overprint
from half_fold.core.brief.binding import Binding
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.papers import find_paper, format_paper
from half_fold.core.brief.spine import spine
from half_fold.core.brief.weight import weight
from half_fold.core.brief.wrap import has_cover, wrap_height, wrap_width
from half_fold.core.checks.finding import Finding
from half_fold.core.cover.flat import cover_paper
from half_fold.core.measure.length import counted
from half_fold.core.measure.worked import Worked
from half_fold.core.pictures.colour.colour import profile_for, profile_name
from half_fold.core.plan.order import pages_told
from half_fold.core.plan.sections import spans
from half_fold.core.publication.records import Publication

WIDE = 14  # letters of the column of names
DEFAULTS = "Press figures are defaults where no printer's sheet is named below; the printer's own sheet wins."


def ticket(publication: Publication, files: Iterable[tuple[str, str]], findings: Iterable[Finding]) -> str:
    """The ticket: the job's facts, its ``files`` each with what was proved of it, and the findings that stand."""
    lines = [" ".join(filter(None, (publication.title, publication.issue, publication.season))), ""]
    lines += [f"{name:{WIDE}}{value}" for name, value in _facts(publication) if value]
    lines += ["", DEFAULTS, "", "Files", *(f"{name}: {proved}" for name, proved in files)]
    told = [f"{each.where}: {each.message}. {each.why}" for each in findings]
    return "\n".join([*lines, "", "What the checks found", *(told or ["Nothing."]), ""])


def _facts(publication: Publication) -> Iterator[tuple[str, str]]:
    brief, unit = publication.brief, publication.brief.unit
    binding = binding_named(brief.binding)
    yield "Kind", publication.kind.replace("-", " ")
    yield "Trim", f"{brief.width.typed} × {brief.height.typed}"
    yield "Extent", "" if binding.elsewhere else _extent(publication, binding)
    yield "Binding", f"{binding.label}{', bound at the right' if brief.right_bound else ''}"
    yield "Text paper", "" if binding.elsewhere else _paper(publication, brief.text_paper)
    for span in spans(publication):
        if span.section.paper and span.section.paper != brief.text_paper:
            pages = pages_told(range(span.first, span.last + 1))
            yield span.section.name, f"{pages}: {_paper(publication, span.section.paper)}"
    if has_cover(publication):
        yield "Cover paper", _paper(publication, cover_paper(publication))
        yield "Spine", _figure(spine(publication), unit)
        wide, high = wrap_width(publication), wrap_height(publication)
        if wide is not None and high is not None:
            yield "Cover flat", f"{wide.to(unit).text} × {high.to(unit).text}, bleed included"
    for insert in publication.inserts:
        size = f"{insert.width.typed} × {insert.height.typed}"
        yield "Insert", f"{insert.name}, {size}, {_paper(publication, insert.paper)}"
    yield "Bleed", brief.bleed.typed
    papers = [brief.text_paper, *([cover_paper(publication)] if has_cover(publication) else [])]
    yield "Profile", "; ".join(dict.fromkeys(profile_name(profile_for(publication, paper)) for paper in papers))
    rule, says = overprint(publication)
    yield "Black", f"{rule.words} ({says})"
    yield "Quantity", f"{brief.quantity:,}" if brief.quantity else ""
    yield "Press date", brief.press_date
    yield "A copy weighs", _figure(weight(publication), unit)
    yield "Printer", publication.printer.name if publication.printer is not None else ""


def _extent(publication: Publication, binding: Binding) -> str:
    cover = " and a cover of its own" if has_cover(publication) and not binding.elsewhere else ""
    return f"{counted(len(publication.pages), 'page')}{cover}"


def _paper(publication: Publication, name: str) -> str:
    return f"{name} ({format_paper(find_paper(publication, name))})" if name else ""


def _figure(worked: Worked | None, unit: str) -> str:
    if worked is None:
        return ""
    shown = worked if worked.unit in ("g", "kg") else worked.to(unit)
    return f"{shown.text} ({worked.how})" if worked.how else shown.text
