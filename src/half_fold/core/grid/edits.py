"""Edits of a master's grid."""

from msgspec.structs import replace

from half_fold.core.grid.frame import GUIDES
from half_fold.core.grid.pencil import read_pencil
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.ranges import MOST_FIELDS
from half_fold.core.publication.records import Grid, Publication
from half_fold.core.publication.surgery import by_name, master_named, master_of, with_master, with_page

MARGINS = ("head", "foot", "inside", "outside", "gutter")
LEAST_TEXT_MM = 10.0
_OWN = "\0"  # no name that could be typed


def set_grid(publication: Publication, master: str, field: str, value: str) -> Publication:
    """One value of a master's grid, as typed. Problem where it cannot be."""
    found = by_name(publication.masters, master, "master")
    if found.takes_grid:  # what is changed here is its own from now on, and begins as it was
        whole = master_named(publication, master)
        found = replace(found, grid=whole.grid, text_columns=whole.text_columns, takes_grid=False)
    if field in MARGINS:
        grid = replace(found.grid, **{field: length(value, publication.brief.unit)})
    elif field in ("columns", "rows"):
        grid = replace(found.grid, **{field: _count(value, field, 1, MOST_FIELDS)})
    elif field == "columns_over":
        grid = replace(found.grid, columns_over=_over(value, found.grid))
    elif field == "guides":
        grid = replace(found.grid, guides=_guides(value))
    elif field == "pencil":
        grid = replace(found.grid, pencil=read_pencil(value, found.grid.pencil, publication.brief.unit))
    elif field == "row_gap":
        grid = replace(found.grid, row_gap=_count(value, "empty lines", 0, 12))
    elif field == "text_columns":
        changed = replace(found, text_columns=_count(value, "text columns", 1, MOST_FIELDS))
        return with_master(publication, changed)
    else:
        raise Problem(f"A grid has no “{field}”.")
    _require_room(publication, grid)
    return with_master(publication, replace(found, grid=grid))


def _over(value: str, grid: Grid) -> int:
    count = 0 if value.strip().lower() in ("", "none", "0") else _count(value, "columns", 1, MOST_FIELDS)
    if count == grid.columns:
        raise Problem(f"The grid has {count} columns already; lay another count over them, or none.")
    return count


def _guides(value: str) -> tuple[str, ...]:
    wanted = value.replace(",", " ").lower().split()
    if unknown := [word for word in wanted if word not in (*GUIDES, "none")]:
        raise Problem(f"“{unknown[0]}” is no guide; there are {', '.join(GUIDES)}.")
    return tuple(name for name in GUIDES if name in wanted)


def set_page_grid(publication: Publication, numbers: tuple[int, ...], field: str, value: str) -> Publication:
    """One value of the grid that the pages of a spread have of their own, as typed."""
    for number in numbers:
        page = publication.pages[number - 1]
        own = replace(master_of(publication, page), name=_OWN, based_on="")
        among = replace(publication, masters=(*publication.masters, own))
        grid = by_name(set_grid(among, _OWN, field, value).masters, _OWN, "master").grid
        publication = with_page(publication, replace(page, grid=grid))
    return publication


def use_grid(publication: Publication, master: str, grid: Grid) -> Publication:
    """A master on that grid, in one edit. Problem where it would leave no room."""
    found = by_name(publication.masters, master, "master")
    _require_room(publication, grid)
    return with_master(publication, replace(found, grid=grid, takes_grid=False))


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
