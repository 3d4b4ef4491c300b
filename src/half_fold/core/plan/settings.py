"""KEY=VALUE for the whole plan: the brief's values, and the extent."""

from half_fold.core.brief.settings import set_brief
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import set_extent
from half_fold.core.publication.records import Publication


def set_value(publication: Publication, key: str, value: str) -> Publication:
    """The publication with ``key`` set to ``value`` as typed. Problem where that cannot be."""
    if key != "pages":
        return set_brief(publication, key, value)
    try:
        count = int(value.strip())
    except ValueError as error:
        raise Problem(f"“{value}” is no page count; give a whole number such as 48.") from error
    return set_extent(publication, count)


def set_values(publication: Publication, settings: list[str]) -> Publication:
    """Every ``KEY=VALUE`` in turn, split at the first '='."""
    for setting in settings:
        key, sign, value = setting.partition("=")
        if not sign:
            raise Problem(f"“{setting}” is no setting; give KEY=VALUE such as pages=48.")
        publication = set_value(publication, key.strip(), value.strip())
    return publication
