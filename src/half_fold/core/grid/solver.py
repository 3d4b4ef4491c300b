"""Grids that work out: fields of whole lines on the baseline, gutters tied to the leading, ranked by departure.

With first baseline a cap height under the head, N = floor((height - cap) / leading) + 1 lines; m fields with e empty
lines between them hold (N - (m - 1) e) / m each, which must be whole.
"""

import math
from collections.abc import Iterator

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.brief.allowances import fold_loss
from half_fold.core.grid.constructions import Construction, Margins, constructions
from half_fold.core.grid.frame import Baselines, baselines_of
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import Length, counted, format_length, length
from half_fold.core.publication.records import Grid, Master, Publication

MOST = 16
LEAST_COLUMN_MM = 8.0
LEAST_LINES = 2
ROWS_AWAY = 2
MOST_DRAWN_STEPS = 2.0  # further than that the foot would no longer be its construction's
ROW_COST_MM, COLUMN_COST_MM, GAP_COST_MM = 3.0, 4.0, 2.0
PHOTO_COLUMNS, PHOTO_ROWS = 6, 4


class Candidate(Struct, frozen=True):
    """A grid that works out: how it came about, how far it departs (mm, counts weighted), and what it holds."""

    name: str
    how: str
    grid: Grid
    departure: float
    lines: int
    lines_per_field: int
    column: float


def solve(publication: Publication, master: Master) -> list[Candidate]:
    """Grids for a master, the nearest to what it has now first; the nearest of every construction is among them.

    The body's face, size and leading and the trim are as they are.
    """
    asked = master.grid
    now = Margins(asked.inside.mm, asked.head.mm, asked.outside.mm, asked.foot.mm)
    brief, base = publication.brief, baselines_of(publication)
    loss = fold_loss(publication).value
    best: dict[str, list[Candidate]] = {}
    for construction in constructions(brief.width.mm - loss, brief.height.mm, now):
        found = sorted(_candidates(publication, construction, asked, asked, now, base, loss), key=lambda c: c.departure)
        best[construction.name] = found[:3]
    photo = Construction("photo grid", now, f"{PHOTO_COLUMNS} columns by {PHOTO_ROWS} rows, gaps alike")
    wanted = replace(asked, columns=PHOTO_COLUMNS, rows=PHOTO_ROWS)
    best["photo grid"] = sorted(
        _candidates(publication, photo, wanted, asked, now, base, loss), key=lambda c: c.departure
    )[:1]
    if not format_fit(publication, asked):
        now_it_is = _as_it_is(publication, asked, loss)
        found = best.get("your margins", [])  # there are none where they leave no room for text
        best["as it is"] = [now_it_is]
        best["your margins"] = [c for c in found if (c.lines, c.grid.gutter) != (now_it_is.lines, asked.gutter)]
    if any(c.grid == asked for name, found in best.items() for c in found if name != "as it is"):
        best.pop("as it is", None)  # it has a better name
    firsts = [found[0] for found in best.values() if found]
    others = sorted((c for found in best.values() for c in found[1:]), key=lambda c: c.departure)
    return sorted([*firsts, *others[: max(0, MOST - len(firsts))]], key=lambda c: c.departure)


def _candidates(
    publication: Publication,
    construction: Construction,
    wanted: Grid,
    asked: Grid,
    now: Margins,
    base: Baselines,
    loss: float,
) -> Iterator[Candidate]:
    margins = Margins(*(round(margin, 2) for margin in construction.margins))
    height, step, cap = publication.brief.height.mm, base.step / MM, base.cap / MM
    room = height - margins.head - cap
    most = int((room - margins.foot) / step + 1e-6) + 1
    for rows in range(wanted.rows - ROWS_AWAY, wanted.rows + ROWS_AWAY + 1):
        for gap in sorted({wanted.row_gap, 0, 1, 2}):
            if rows < 1 or (rows == 1 and gap != wanted.row_gap):
                continue
            for lines in _whole(most, rows, gap):
                foot = height - margins.head - cap - (lines - 1) * step
                drawn = abs(foot - margins.foot)
                if foot < min(margins.foot, 3.0) or drawn > MOST_DRAWN_STEPS * step:
                    continue
                for gutter in _gutters(wanted, gap, base):
                    grid = replace(
                        wanted,
                        inside=_mm(margins.inside),
                        head=_mm(margins.head),
                        outside=_mm(margins.outside),
                        foot=_mm_down(foot),
                        rows=rows,
                        row_gap=gap,
                        gutter=gutter,
                    )
                    width = publication.brief.width.mm - loss - margins.inside - margins.outside
                    column = (width - (grid.columns - 1) * gutter.mm) / grid.columns
                    if column < LEAST_COLUMN_MM:
                        continue
                    away = _departure(grid, asked, now) + drawn
                    per_field = (lines - (rows - 1) * gap) // rows
                    yield Candidate(construction.name, construction.how, grid, away, lines, per_field, column)


def _as_it_is(publication: Publication, grid: Grid, loss: float) -> Candidate:
    """The present grid, which works out already."""
    base = baselines_of(publication)
    room = publication.brief.height.mm - grid.head.mm - base.cap / MM - grid.foot.mm
    lines = int(room / (base.step / MM) + 1e-6) + 1
    width = publication.brief.width.mm - loss - grid.inside.mm - grid.outside.mm
    column = (width - (grid.columns - 1) * grid.gutter.mm) / grid.columns
    per_field = (lines - (grid.rows - 1) * grid.row_gap) // grid.rows
    return Candidate("as it is", "it works out already", grid, 0.0, lines, per_field, column)


def _whole(most: int, rows: int, gap: int) -> list[int]:
    """The counts of lines, nearest below and above what the margins leave, that divide into whole fields."""
    between = (rows - 1) * gap
    field = (most - between) // rows
    return [
        lines
        for lines in (field * rows + between, (field + 1) * rows + between)
        if (lines - between) // rows >= LEAST_LINES
    ]


def _gutters(asked: Grid, gap: int, base: Baselines) -> list[Length]:
    """The gutter as it is, one leading, and what is seen between two fields one above the other."""
    seen = ((gap + 1) * base.step - base.cap) / MM
    return [asked.gutter, _mm(base.step / MM), *([_mm(seen)] if seen > 1 else [])]


def _departure(grid: Grid, asked: Grid, now: Margins) -> float:
    margins = Margins(grid.inside.mm, grid.head.mm, grid.outside.mm, grid.foot.mm)
    moved = sum(abs(a - b) for a, b in zip(margins, now, strict=True)) + abs(grid.gutter.mm - asked.gutter.mm)
    counted = ROW_COST_MM * abs(grid.rows - asked.rows) + COLUMN_COST_MM * abs(grid.columns - asked.columns)
    return moved + counted + GAP_COST_MM * abs(grid.row_gap - asked.row_gap)


def _mm(value: float) -> Length:
    return length(f"{round(value, 2):g}mm")


def _mm_down(value: float) -> Length:
    """To the hundredth below: a foot margin is the least that is kept, and its last line must have room."""
    return length(f"{math.floor(value * 100 + 1e-6) / 100:g}mm")


def format_fit(publication: Publication, grid: Grid) -> str:
    """What the margins do to the fields, and how far the foot is from whole lines in each; "" where they work out."""
    base = baselines_of(publication)
    step, cap = base.step / MM, base.cap / MM
    room = publication.brief.height.mm - grid.head.mm - cap
    lines = int((room - grid.foot.mm) / step + 1e-6) + 1
    between = (grid.rows - 1) * grid.row_gap
    if lines - between < grid.rows:
        left = counted(max(0, lines), "line")
        return f"The margins leave {left}, too few for {counted(grid.rows, 'row')}: make the head or the foot smaller."
    if (lines - between) % grid.rows == 0:
        return ""
    fewer, more = ((lines - between) // grid.rows + up for up in (0, 1))
    unit = publication.brief.unit
    feet = [room - (per * grid.rows + between - 1) * step for per in (fewer, more)]
    return (
        "Fields do not end on a baseline. "
        f"A foot of {format_length(feet[0] * MM, unit)} gives {fewer} whole lines each, "
        f"{format_length(feet[1] * MM, unit)} gives {more}."
    )
