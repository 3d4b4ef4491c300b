"""Edits of a master's grid."""

from msgspec.structs import replace

from half_fold.core.grid.frame import GUIDES
from half_fold.core.grid.pencil import PENCIL_WORDS, format_pencil, parse_pencil
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import count_of, field_of
from half_fold.core.publication.property import Property, named
from half_fold.core.publication.records import Grid, Master, Publication
from half_fold.core.publication.surgery import by_name, master_named, master_of, with_master, with_page

MARGINS = ("head", "foot", "inside", "outside", "gutter")
LEAST_TEXT_MM = 10.0
_OWN = "\0"  # no name that could be typed


def _laid_over(grid: Grid, count: int | None) -> Grid:
    if count == grid.columns:
        raise Problem(f"The grid has {count} columns already; lay another count over them, or none.")
    return replace(grid, columns_over=count or 0)


def _guides(_: Publication, __: Grid, text: str) -> tuple[str, ...]:
    wanted = text.replace(",", " ").lower().split()
    if unknown := [word for word in wanted if word not in GUIDES]:
        raise Problem(f"“{unknown[0]}” is no guide; there are {', '.join(GUIDES)}.")
    return tuple(name for name in GUIDES if name in wanted)


GRID: tuple[Property[Grid], ...] = (
    *(field_of(Grid, name, name.capitalize(), "length") for name in MARGINS),
    field_of(Grid, "columns", "Columns", "count"),
    field_of(Grid, "rows", "Rows", "count"),
    field_of(Grid, "row_gap", "Row gap", "count", most=12.0, note="empty lines between rows of fields"),
    replace(
        count_of(Grid, "columns_over", "Columns laid over", "none", note="a second count over the first"),
        write=_laid_over,
    ),
    replace(
        field_of(
            Grid, "guides", "Guides", "text", none="none", parse=_guides, note="halves, thirds, quarters of the trim"
        ),
        write=lambda grid, names: replace(grid, guides=names or ()),
    ),
    Property(
        "pencil", "Pencil lines", "text", lambda grid: format_pencil(grid.pencil),
        lambda grid, lines: replace(grid, pencil=lines), note=PENCIL_WORDS,
        parse=lambda publication, grid, text: parse_pencil(text, grid.pencil, publication.brief.unit),
    ),
)  # fmt: skip
TEXT_COLUMNS: Property[Master] = field_of(Master, "text_columns", "Text columns", "count")


def set_grid(publication: Publication, master: str, field: str, value: str) -> Publication:
    """One value of a master's grid, as typed. Problem where it cannot be."""
    found = by_name(publication.masters, master, "master")
    if found.takes_grid:  # what is changed here is its own from now on, and begins as it was
        whole = master_named(publication, master)
        found = replace(found, grid=whole.grid, text_columns=whole.text_columns, takes_grid=False)
    if field == TEXT_COLUMNS.key:
        return with_master(publication, TEXT_COLUMNS.set(publication, found, value))
    grid = named(GRID, field).set(publication, found.grid, value)
    _require_room(publication, grid)
    return with_master(publication, replace(found, grid=grid))


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


def _require_room(publication: Publication, grid: Grid) -> None:
    brief = publication.brief
    width = brief.width.mm - grid.inside.mm - grid.outside.mm - (grid.columns - 1) * grid.gutter.mm
    height = brief.height.mm - grid.head.mm - grid.foot.mm
    if min(width, height) < LEAST_TEXT_MM:
        raise Problem("Those margins and gutters would leave the page no room for text; make one of them smaller.")
    if any(size.mm < 0 for size in (grid.head, grid.foot, grid.inside, grid.outside, grid.gutter)):
        raise Problem("A margin cannot be less than nothing; type a measure of 0 or more.")
