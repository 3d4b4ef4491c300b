"""The card that says what cannot be bound, and offers the counts that can."""

from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.order import set_extent
from half_fold.desk.kit.rows import Card
from half_fold.desk.session import Session


def bound_card(session: Session) -> Card | None:
    """None where all is well."""
    report = binding_report(session.publication)
    if not report.sentence:
        return None
    fixes = [
        (f"Make it {n} pages", lambda n=n: session.edit(lambda p: set_extent(p, n), f"{n} pages"))
        for n in report.counts
    ]
    title = "Cannot be bound" if report.stops_press else "Ask the printer"
    return Card(title, report.sentence, fixes, report.stops_press)
