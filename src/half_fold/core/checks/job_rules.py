"""Rules about the whole job."""

from collections.abc import Iterator
from functools import partial

from msgspec.structs import replace

from half_fold.core.brief.allowances import ink_limit
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.printers import STANDARD
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, REFUSED, Finding, Fix
from half_fold.core.inks.numbers import ink_total
from half_fold.core.measure.length import figure, length
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.inserts import faults
from half_fold.core.plan.order import set_extent
from half_fold.core.plan.sections import misplaced, start_on_recto
from half_fold.core.plan.settings import set_value
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import by_name, page_numbers, swap_named
from half_fold.core.typesetting.faces.directions import reads_leftwards

EITHER_SIDE = ("ja", "zh", "ko")  # languages whose books are bound at the one side or the other


def unbindable_count(context: Context) -> Iterator[Finding]:
    """A page count that the binding cannot take, or a copy too thin or too thick for it."""
    report = binding_report(context.publication)
    if not report.sentence:
        return
    fix = None
    if report.counts:
        up = report.counts[-1]
        fix = Fix(f"Make it {up} pages", partial(set_extent, count=up))
    message, _, why = report.sentence.partition(": ")
    if not why:
        message, _, why = report.sentence.partition("; ")
    rule = "page count" if report.stops_press else "copy thickness"
    yield Finding(rule, REFUSED, message, why[:1].upper() + why[1:], report.stops_press, fix=fix)


def unplaced_pages(context: Context) -> Iterator[Finding]:
    """Pages taken out of the running order with something on them."""
    count = len(context.publication.unplaced)
    if count:
        pages = "A page waits" if count == 1 else f"{count} pages wait"
        why = "What lies on them would not be printed; place them in Order, or leave them out on purpose."
        yield Finding("unplaced pages", ACCIDENT, f"{pages} outside the running order", why)


def sections_on_recto(context: Context) -> Iterator[Finding]:
    """Sections that should start on a recto and start on a verso."""
    for span in misplaced(context.publication):
        fix = Fix("Add a page before it", partial(start_on_recto, section=span.section))
        why = "It was said to start on a right-hand page."
        message = f"“{span.section.name}” starts on page {span.first}, a verso"
        yield Finding("section on a verso", ACCIDENT, message, why, False, span.first, fix=fix)


def inserts_that_fit(context: Context) -> Iterator[Finding]:
    """Inserts that would not back up, fold in, go through the post, or be held."""
    places = page_numbers(context.publication)
    for insert in context.publication.inserts:
        for sentence in faults(context.publication, insert):
            message, _, why = sentence.partition("; ")
            why = f"{why[:1].upper()}{why[1:]}" if why else "See the insert in Order."
            page = places.get(insert.after, 0)
            yield Finding("insert", REFUSED, f"{insert.name}: {message.rstrip('.')}", why, False, page)


def printer_demands(context: Context) -> Iterator[Finding]:
    """Less bleed or a narrower safe zone than the printer's sheet asks for, or a file of another standard."""
    sheet, brief = context.publication.printer, context.publication.brief
    if sheet is None:
        return
    for name, key, asked, have in (
        ("bleed", "bleed", sheet.bleed, brief.bleed),
        ("safe zone", "safe", sheet.safe, brief.safe),
    ):
        if asked and have.mm < length(asked, sheet.unit).mm - 1e-6:
            fix = Fix(f"Make it {asked}", partial(set_value, key=key, value=asked))
            why = f"The sheet of {sheet.name} asks for {asked}."
            yield Finding(
                "printer's sheet", REFUSED, f"The {name} is {have.typed}, less than asked", why, True, fix=fix
            )
    other = sheet.standard.strip()
    if other and other.replace(" ", "").upper() != STANDARD:
        why = f"{sheet.name} may take {STANDARD} as well, in which transparency stays live; ask, and note it there."
        yield Finding("printer's sheet", REFUSED, f"Files are asked for as {other}; these are {STANDARD}", why, False)


def too_much_ink(context: Context) -> Iterator[Finding]:
    """Inks of the job's list that lay more on the paper than the printer, or the kind of paper, takes."""
    publication = context.publication
    limit, says = ink_limit(publication)
    for ink in publication.inks:
        if ink_total(ink) > limit:
            message = f"The ink “{ink.name}” lays {figure(ink_total(ink), 0)} % on the paper"
            why = f"The limit of {says} is {limit} %; more will not dry, and sets off on the next sheet."
            fix = Fix(f"Draw it down to {limit} %", partial(_drawn_down, name=ink.name, limit=limit))
            yield Finding("too much ink", REFUSED, message, why, True, fix=fix)


def _drawn_down(publication: Publication, name: str, limit: int) -> Publication:
    """The ink with its colours, not its black, less by what is too much."""
    ink = by_name(publication.inks, name, "ink")
    colours = ink.cyan + ink.magenta + ink.yellow
    share = max(0.0, limit - ink.black) / colours if colours else 1.0
    less = replace(ink, cyan=ink.cyan * share, magenta=ink.magenta * share, yellow=ink.yellow * share)
    return replace(publication, inks=swap_named(publication.inks, less))


def bound_against_reading(context: Context) -> Iterator[Finding]:
    """A copy bound at the side at which its language ends its lines."""
    publication = context.publication
    if not binding_named(publication.brief.binding).has_sides:
        return
    leftwards = reads_leftwards(publication.language)
    if leftwards == publication.brief.right_bound or publication.language[:2] in EITHER_SIDE:
        return
    side, way = ("right", "left") if leftwards else ("left", "right")
    why = f"Its language reads from the {side}, so that its first page lies there; bind it at the {side}."
    fix = Fix(f"Bind it at the {side}", partial(set_value, key="bound", value=side))
    yield Finding("bound against reading", ACCIDENT, f"The copy is bound at the {way}", why, fix=fix)
