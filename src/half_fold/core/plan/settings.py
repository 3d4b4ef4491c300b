"""KEY=VALUE for the whole plan: the brief's values, the extent, and the side it is bound at."""

from collections.abc import Callable, Sequence

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.properties import set_brief
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.bound_side import bind_at
from half_fold.core.plan.order import set_extent
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Publication
from half_fold.core.publication.used import with_inks


def _counted(publication: Publication, value: str) -> Publication:
    try:
        count = int(value)
    except ValueError as error:
        raise Problem(f"“{value}” is no page count; give a whole number such as 48.") from error
    return set_extent(publication, count)


def _has_sides(publication: Publication) -> bool:
    """Whether it is bound, or has a cover, at one side."""
    binding = binding_named(publication.brief.binding)
    return binding.bound or binding.cover != "none"


# What touches the pages, and so is more than a value of the brief.
PLAN: tuple[Property[Publication], ...] = (
    Property("pages", "Pages", "text", lambda publication: str(len(publication.pages)), _counted, also=("extent",)),
    Property(
        "bound", "Bound at", "choice", lambda publication: "right" if publication.brief.right_bound else "left",
        lambda publication, side: bind_at(publication, side == "right"), choices=(("left", "left"), ("right", "right")),
        applies=_has_sides, note="right where it is read from right to left",
    ),
)  # fmt: skip
_PLANNED = {each.key: each for each in PLAN}


def set_value(publication: Publication, key: str, value: str) -> Publication:
    """The publication with ``key`` set to ``value`` as typed. Problem where that cannot be."""
    if key.startswith("picture.") and key.endswith(".inks"):
        return with_inks(publication, key.removeprefix("picture.").removesuffix(".inks"), value)
    if key in _PLANNED:
        return _PLANNED[key].set(publication, publication, value)
    return set_brief(publication, key, value, _PLANNED)


def set_values(publication: Publication, settings: Sequence[str]) -> Publication:
    """Every ``KEY=VALUE`` in turn, split at the first '='."""
    return set_each(publication, settings, "KEY", set_value)


def set_each(
    publication: Publication, settings: Sequence[str], what: str, one: Callable[[Publication, str, str], Publication]
) -> Publication:
    """Every ``what=VALUE`` set by ``one`` in turn. Problem where there is no '='."""
    for setting in settings:
        key, sign, value = setting.partition("=")
        if not sign:
            raise Problem(f"“{setting}” is no setting; give {what}=VALUE such as pages=48.")
        publication = one(publication, key.strip(), value.strip())
    return publication
