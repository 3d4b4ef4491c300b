"""All rules, in one place; a new rule is one function and one line here."""

from pathlib import Path

from half_fold.core.checks import job_rules, picture_rules, place_rules, text_rules
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import CONSEQUENCES, Finding
from half_fold.core.publication.records import Publication
from half_fold.core.spread.compose import Setter

RULES = (
    job_rules.unbindable_count,
    job_rules.unplaced_pages,
    picture_rules.changed_picture,
    picture_rules.low_resolution,
    place_rules.nearly_bleeds,
    place_rules.text_beyond_safe,
    text_rules.overset_story,
    text_rules.too_wide,
    text_rules.overset_display,
    text_rules.text_at_fold,
    text_rules.missing_glyph,
    text_rules.tinted_small_text,
    text_rules.furniture_in_text,
)


def check(publication: Publication, setter: Setter, pictures: Path | None) -> list[Finding]:
    """Everything the rules find: by consequence, what stops the press first, then by page."""
    context = Context(publication, setter, pictures)
    found = [finding for rule in RULES for finding in rule(context)]
    return sorted(found, key=lambda f: (CONSEQUENCES.index(f.consequence), not f.stops_press, f.page))


def would_stop(findings: list[Finding]) -> list[Finding]:
    return [finding for finding in findings if finding.stops_press]


def summary(findings: list[Finding]) -> str:
    """The findings in a few words."""
    stop = len(would_stop(findings))
    if stop:
        return f"{stop} would stop the press"
    return f"{len(findings)} to look at" if findings else "nothing found"
