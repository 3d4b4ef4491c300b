"""Edits of a master's grid."""

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Grid, Publication
from half_fold.core.publication.surgery import by_name
from half_fold.core.publication.validity import MOST_FIELDS

MARGINS = ("head", "foot", "inside", "outside", "gutter")
LEAST_TEXT_MM = 10.0
FURNITURE = ("foot_left", "foot_right")


def set_grid(publication: Publication, master: str, field: str, value: str) -> Publication:
    """One value of a master's grid or furniture, as typed. Problem where it cannot be."""
    found = by_name(publication.masters, master, "master")
    if field in MARGINS:
        grid = replace(found.grid, **{field: length(value, publication.brief.unit)})
    elif field in ("columns", "rows"):
        grid = replace(found.grid, **{field: _count(value, field, 1, MOST_FIELDS)})
    elif field == "row_gap":
        grid = replace(found.grid, row_gap=_count(value, "empty lines", 0, 12))
    elif field == "text_columns":
        changed = replace(found, text_columns=_count(value, "text columns", 1, MOST_FIELDS))
        return _with_master(publication, master, changed)
    elif field in FURNITURE:
        return _with_master(publication, master, replace(found, **{field: value}))
    else:
        raise Problem(f"A grid has no “{field}”.")
    _require_room(publication, grid)
    return _with_master(publication, master, replace(found, grid=grid))


def _with_master(publication: Publication, name: str, changed: object) -> Publication:
    return replace(publication, masters=tuple(changed if m.name == name else m for m in publication.masters))


def _count(value: str, what: str, least: int, most: int) -> int:
    try:
        count = int(value.strip())
    except ValueError:
        count = least - 1
    if not least <= count <= most:
        raise Problem(f"“{value}” is no number of {what}; give a whole number from {least} to {most}.")
    return count


def _require_room(publication: Publication, grid: Grid) -> None:
    brief = publication.brief
    width = brief.width.mm - grid.inside.mm - grid.outside.mm - (grid.columns - 1) * grid.gutter.mm
    height = brief.height.mm - grid.head.mm - grid.foot.mm
    if min(width, height) < LEAST_TEXT_MM:
        raise Problem("Those margins and gutters would leave the page no room for text; make one of them smaller.")
    if any(size.mm < 0 for size in (grid.head, grid.foot, grid.inside, grid.outside, grid.gutter)):
        raise Problem("A margin cannot be less than nothing; type a measure of 0 or more.")
