"""Edits of the cover flat: its panel of ink, and its picture."""

from msgspec.structs import replace

from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import by_name, picture_of

SHARES = ("tint", "focus_x", "focus_y")


def set_cover(publication: Publication, field: str, value: str) -> Publication:
    """One value of the cover as typed: ink, tint (per cent), picture ('' for none), over, focus_x, focus_y (per cent).

    Raises Problem where it cannot be.
    """
    changed: dict[str, str | float]
    if field == "ink":
        changed = {"ink": by_name(publication.inks, value, "ink").name}
    elif field == "picture":
        changed = {"picture": picture_of(publication, value).id if value else ""}
    elif field == "over" and value in ("front", "wrap"):
        changed = {"over": value}
    elif field in SHARES:
        share = number_between(value, 0, 100, "share")
        changed = {field: share if field == "tint" else share / 100}
    else:
        raise Problem(f"A cover has no {field} “{value}”.")
    return replace(publication, cover=replace(publication.cover, **changed))
