"""The plan for the wall of any job: every page on it, none on another, all within the sheet."""

from itertools import pairwise
from pathlib import Path

import pytest

from half_fold.cli import main
from half_fold.core.drawing.marks import Line, Shape
from half_fold.core.plan.order import set_extent
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import KINDS, start
from half_fold.core.press.wall_plan import HEAD, WALL, wall_plan
from half_fold.core.publication.records import Publication

TRIMS = ("trim=220x285mm", "trim=8.5inx8.5in", "trim=18inx24in", "trim=400x60mm", "trim=60x400mm")


def _holds_every_page(job: Publication) -> None:
    pages = [mark.rect for mark in wall_plan(job) if isinstance(mark, Shape) and mark.stroke is not None]
    assert len(pages) == len(job.pages)
    for one in pages:
        assert one.width > 1 and WALL.left <= one.left and one.right <= WALL.right + 1e-6
        assert WALL.top + HEAD <= one.top and one.bottom <= WALL.bottom
    rows = sorted({round(one.top, 3) for one in pages})
    for above, below in pairwise(rows):
        assert above + pages[0].height < below
    for top in rows:
        row = sorted((one for one in pages if round(one.top, 3) == top), key=lambda one: one.left)
        assert all(one.right <= other.left + 1e-6 for one, other in pairwise(row))
    assert all(line.end[1] <= WALL.bottom for line in wall_plan(job) if isinstance(line, Line))


@pytest.mark.parametrize("kind", KINDS)
def test_a_job_of_any_kind_has_a_plan(kind: str, tmp_path: Path) -> None:
    """One sheet had none: the command ended in a fault."""
    _holds_every_page(start(kind, "Plan"))
    assert main(["new", kind, str(tmp_path / "job")]) == 0
    assert main(["order", str(tmp_path / "job"), str(tmp_path / "plan.pdf")]) == 0


@pytest.mark.parametrize("trim", TRIMS)
@pytest.mark.parametrize("pages", [1, 4, 48, 400, 2000])
def test_a_job_of_any_size_has_a_plan(trim: str, pages: int) -> None:
    _holds_every_page(set_extent(set_values(start("magazine", "Plan"), [trim]), pages))
