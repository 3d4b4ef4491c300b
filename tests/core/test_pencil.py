"""Pencil lines: read, told, repeated, mirrored from page to page; and stops like any other."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.apart.pair import RIGHT
from half_fold.core.apart.sides import side_of
from half_fold.core.brief.properties import set_brief
from half_fold.core.cover.properties import set_cover
from half_fold.core.grid.edits import set_grid
from half_fold.core.grid.pencil import format_pencil, parse_pencil, pencilled
from half_fold.core.grid.stops import EDGES, stops_for
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import HoldsPanel, Pencil, Publication
from half_fold.core.spread.where.frames import block_box, frames_of
from half_fold.core.spread.where.reaching import reach, set_stop
from half_fold.core.store.codec import decode, encode
from tests.blocks import block_over

PAGE = Rect(0, 0, 200 * MM, 280 * MM)
JOB = start("magazine", "Lines")
MASTER = JOB.masters[0].name


def _lines(text: str, job: Publication = JOB) -> Publication:
    return set_grid(job, MASTER, "pencil", text)


def _on(job: Publication, page: int = 3) -> Publication:
    block = block_over("b1", HoldsPanel(ink="straw"), (0, 1), (0, 1))
    pages = tuple(replace(p, things=(block,)) if n == page else p for n, p in enumerate(job.pages, 1))
    return replace(job, pages=pages)


@pytest.mark.parametrize(
    ("text", "right", "left"),
    [
        ("head 40mm", [40], [40]),
        ("foot 40mm", [240], [240]),
        ("fold 25mm", [25], [175]),
        ("outside 25mm", [175], [25]),
        ("fold 50mm every 50mm", [50, 100, 150, 200], [150, 100, 50, 0]),
        ("head 100mm every 2in", [100, 150.8, 201.6, 252.4], [100, 150.8, 201.6, 252.4]),
    ],
)
def test_lines_lie_where_they_are_told(text: str, right: list[float], left: list[float]) -> None:
    """By hand, on a page of 200 by 280 mm."""
    read = parse_pencil(text, (), "mm")
    for on_right, places in ((True, right), (False, left)):
        drawn = pencilled(read, PAGE, on_right)
        assert [at / MM for at in drawn[0].at] == pytest.approx(places)


_ONE = st.builds(
    lambda edge, at, every: f"{edge} {at}mm" + (f" every {every}mm" if every else ""),
    st.sampled_from(["head", "foot", "fold", "outside"]),
    st.integers(0, 300),
    st.none() | st.integers(1, 50),
)


@given(st.lists(_ONE, max_size=12))
def test_what_is_said_is_read_again(entries: list[str]) -> None:
    read = parse_pencil(", ".join(entries), (), "mm")
    assert format_pencil(read) == (", ".join(entries) or "none")
    again = parse_pencil(format_pencil(read), read, "mm")
    assert again == read
    assert len({line.number for line in read}) == len(read)


def test_a_line_that_is_moved_keeps_its_number_and_one_taken_away_leaves_the_others_theirs() -> None:
    first = parse_pencil("head 40mm, fold 25mm, head 60mm", (), "mm")
    moved = parse_pencil("head 40mm, fold 30mm, head 60mm", first, "mm")
    assert [line.number for line in moved] == [1, 2, 3]
    fewer = parse_pencil("fold 30mm, head 60mm", moved, "mm")
    assert [(line.number, line.edge) for line in fewer] == [(2, "fold"), (3, "head")]
    more = parse_pencil("outside 5mm, fold 30mm, head 60mm", fewer, "mm")
    assert [line.number for line in more] == [1, 2, 3], "a number that is free is used again"


@pytest.mark.parametrize("text", ["spine 4mm", "head", "head -4mm", "head 4mm every 0.5mm", "head 4mm every", "40mm"])
def test_a_line_that_cannot_be_is_said(text: str) -> None:
    with pytest.raises(Problem):
        parse_pencil(text, (), "mm")
    with pytest.raises(Problem, match="too many"):
        parse_pencil(", ".join(["head 4mm"] * 41), (), "mm")


def test_a_line_is_a_stop_and_what_lies_on_it_follows_it() -> None:
    job = _on(_lines("fold 61mm, head 33mm every 40mm"))
    job = set_stop(job, "b1", "left", Stop(kind="pencil", index=1))
    job = set_stop(job, "b1", "bottom", Stop(kind="pencil", index=2, count=1))
    box = block_box(job, 3, job.pages[2].blocks[0])
    assert (box.left / MM, box.bottom / MM) == pytest.approx((61, 73))
    moved = block_box(_lines("fold 70mm, head 33mm every 20mm", job), 3, job.pages[2].blocks[0])
    assert (moved.left / MM, moved.bottom / MM) == pytest.approx((70, 53))
    gone = block_box(_lines("none", job), 3, job.pages[2].blocks[0])
    frame = frames_of(job, 3).own
    assert (gone.left, gone.bottom) == pytest.approx((frame.area.left, frame.area.bottom)), "the margin is left"


def test_an_edge_reaches_to_the_next_line() -> None:
    job = _on(_lines("outside 3mm"))
    ways = [stop for _, stop in stops_for("right", frames_of(job, 3))]
    assert Stop(kind="pencil", index=1) in ways
    seen = set()
    for _ in range(12):
        job = reach(job, "b1", "right", outward=True)
        seen.add(job.pages[2].blocks[0].place.right.kind)  # type: ignore[union-attr]  # the block is held
    assert {"pencil", "trim", "bleed"} <= seen


@pytest.mark.parametrize("edge", EDGES)
def test_lines_of_the_cover_are_stops_of_both_panels(edge: str) -> None:
    job = set_cover(JOB, "pencil", "fold 20mm, head 50mm")
    side = side_of(job, "outside")
    kinds = {stop.kind for _, stop in stops_for(edge, frames_of(side, RIGHT))}  # type: ignore[arg-type]  # an edge
    assert "pencil" in kinds
    over = side_of(set_cover(job, "columns_over", "5"), "outside")
    assert len(frames_of(over, RIGHT).own.over) == 5


def test_a_page_has_lines_of_its_own_and_the_file_keeps_them() -> None:
    job = set_path(_lines("head 40mm"), "cover.pencil", "foot 9mm")
    kept = decode(encode(job), "lines.halffold")
    assert kept.masters[0].grid.pencil == (Pencil(number=1, edge="head", at=job.masters[0].grid.pencil[0].at),)
    assert format_pencil(kept.cover.grid.pencil) == "foot 9mm"
    inches = set_brief(job, "unit", "in")
    assert format_pencil(_lines("head 1.5", inches).masters[0].grid.pencil).startswith("head 1.5")
