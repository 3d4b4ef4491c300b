"""Rules about the whole job."""

from collections.abc import Iterator

from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, REFUSED, Finding, Fix
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.order import set_extent


def unbindable_count(context: Context) -> Iterator[Finding]:
    """A page count that the binding cannot take, or a copy too thin or too thick for it."""
    report = binding_report(context.publication)
    if not report.sentence:
        return
    fix = None
    if report.counts:
        up = report.counts[-1]
        fix = Fix(f"Make it {up} pages", lambda p: set_extent(p, up))
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
