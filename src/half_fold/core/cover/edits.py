"""Edits of the cover as a whole: its ink, its margin and fields, and what the spine says."""

from collections.abc import Callable

from msgspec.structs import replace

from half_fold.core.grid.pencil import read_pencil
from half_fold.core.measure.length import length
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Cover, Publication
from half_fold.core.publication.surgery import by_name

LEAST_MARGIN_MM, MOST_MARGIN_MM = 0.0, 60.0
LEAST_TYPE_PT, MOST_TYPE_PT = 2.0, 72.0
MOST_FIELDS = 24
_Edit = Callable[[Publication, str], Cover]


def _ink(field: str) -> _Edit:
    return lambda p, value: replace(p.cover, **{field: by_name(p.inks, value, "ink").name})


def _paint(publication: Publication, value: str) -> Cover:
    is_fade = any(fade.name == value for fade in publication.fades)
    return replace(publication.cover, ink=value if is_fade else by_name(publication.inks, value, "ink").name)


def _margin(publication: Publication, value: str) -> Cover:
    size = length(value, publication.brief.unit)
    if not LEAST_MARGIN_MM <= size.mm <= MOST_MARGIN_MM:
        raise Problem(f"A cover margin of {size.mm:.4g} mm cannot be; give one from 0 to {MOST_MARGIN_MM:g} mm.")
    grid = replace(publication.cover.grid, head=size, foot=size, inside=size, outside=size)
    return replace(publication.cover, grid=grid)


def _fields(field: str) -> _Edit:
    def change(publication: Publication, value: str) -> Cover:
        count = int(number_between(value, 1, MOST_FIELDS, f"number of {field}"))
        return replace(publication.cover, grid=replace(publication.cover.grid, **{field: count}))

    return change


def _over(publication: Publication, value: str) -> Cover:
    grid = publication.cover.grid
    count = 0 if value.strip().lower() in ("", "none") else int(number_between(value, 0, MOST_FIELDS, "columns"))
    return replace(publication.cover, grid=replace(grid, columns_over=0 if count == grid.columns else count))


def _pencil(publication: Publication, value: str) -> Cover:
    grid = publication.cover.grid
    lines = read_pencil(value, grid.pencil, publication.brief.unit)
    return replace(publication.cover, grid=replace(grid, pencil=lines))


def _spine_size(publication: Publication, value: str) -> Cover:
    if not value.strip():
        return replace(publication.cover, spine_size=None)
    size = length(value, "pt")
    if not LEAST_TYPE_PT <= size.pt <= MOST_TYPE_PT:
        raise Problem(f"Spine text of {size.pt:.4g} pt cannot be; give from 2 to 72 pt, or nothing to have it solved.")
    return replace(publication.cover, spine_size=size)


def _direction(publication: Publication, value: str) -> Cover:
    if value not in ("down", "up"):
        raise Problem(f"Spine text reads down or up, not “{value}”.")
    return replace(publication.cover, reads_up=value == "up")


_EDITS: dict[str, _Edit] = {
    "ink": _paint,
    "tint": lambda p, value: replace(p.cover, tint=number_between(value, 0, 100, "share")),
    "margin": _margin,
    "columns": _fields("columns"),
    "rows": _fields("rows"),
    "columns_over": _over,
    "pencil": _pencil,
    "spine": lambda p, value: replace(p.cover, spine=value.strip()),
    "spine_ink": _ink("spine_ink"),
    "spine_size": _spine_size,
    "spine_reads": _direction,
}


def set_cover(publication: Publication, field: str, value: str) -> Publication:
    """One value of the cover as typed: ink, tint (per cent), margin, columns, rows, columns_over,
    pencil, spine (its words), spine_ink,
    spine_size ('' to have it solved), spine_reads (down or up).

    Raises Problem where it cannot be.
    """
    if field not in _EDITS:
        raise Problem(f"A cover has no {field}.")
    return replace(publication, cover=_EDITS[field](publication, value))
