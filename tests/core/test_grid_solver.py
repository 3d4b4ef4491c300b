"""Grids that work out: hand-worked constructions, whole fields, ranking, and what a page's own grid does."""

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.grid.constructions import GOLDEN, Margins, constructions
from half_fold.core.grid.edits import set_grid, set_page_grid, use_grid
from half_fold.core.grid.frame import page_frame
from half_fold.core.grid.solver import format_fit, solve
from half_fold.core.grid.stops import Frames, describe, position, stops_for
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.numbers.grid import extent_numbers, grid_numbers, type_numbers
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import KINDS, start
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import (
    Publication,
)
from half_fold.core.publication.surgery import master_of
from half_fold.core.spread.edits.masters import give_own_grid

JOB = start("magazine", "Grid")
MASTER = JOB.masters[0]
ASKED = Margins(13, 16, 14, 18.5)


def _by_name(width: float, height: float) -> dict[str, Margins]:
    return {each.name: each.margins for each in constructions(width, height, ASKED)}


def test_constructions_are_those_of_the_books() -> None:
    found = _by_name(210, 297)
    assert found["diagonal in ninths"] == pytest.approx((210 / 9, 33, 420 / 9, 66))
    assert found["diagonal in sixths"] == pytest.approx((35, 49.5, 70, 99))
    assert found["page over 10"] == pytest.approx((21, 29.7, 42, 59.4))
    unit = sum(ASKED) / 15
    assert found["2 : 3 : 4 : 6"] == pytest.approx((2 * unit, 3 * unit, 4 * unit, 6 * unit))
    golden = found["golden"]
    text = 210 - golden.inside - golden.outside
    assert (297 - golden.head - golden.foot) / text == pytest.approx(GOLDEN)
    assert golden.outside / golden.inside == pytest.approx(GOLDEN) == golden.foot / golden.head
    even = found["even"]
    assert len(set(even)) == 1
    frame = found["frame-true"]
    assert (frame.inside - 0.5 * 25.4 / 72) / 2 % 0.5 == pytest.approx(0, abs=1e-9)  # 2 d and the rule


@pytest.mark.parametrize("kind", KINDS)
def test_every_candidate_works_out_as_the_frame_measures_it(kind: str) -> None:
    job = start(kind, "Job")
    found = solve(job, job.masters[0])
    assert len(found) >= 10
    for candidate in found:
        frame = page_frame(job, candidate.grid, True)
        assert frame.lands and frame.lines == candidate.lines
        assert round(frame.lines_per_field) == candidate.lines_per_field >= 2
        left, right = frame.columns[0]
        assert (right - left) / MM == pytest.approx(candidate.column, abs=0.02)
        for top, bottom in frame.rows:  # feet stand on a baseline, tops hang a cap height above one
            lines = (bottom - frame.baseline(0)) / frame.baselines.step
            assert lines == pytest.approx(round(lines), abs=1e-6)
            hung = (top + frame.baselines.cap - frame.baseline(0)) / frame.baselines.step
            assert hung == pytest.approx(round(hung), abs=1e-6)


def test_the_nearest_stands_first_and_every_construction_is_there() -> None:
    found = solve(JOB, MASTER)
    assert [c.departure for c in found] == sorted(c.departure for c in found)
    assert found[0].name == "as it is" and found[0].grid is MASTER.grid and found[0].departure == 0
    off = solve(JOB, replace(MASTER, grid=replace(MASTER.grid, foot=length("21mm"))))
    assert off[0].name == "your margins" and 0 < off[0].departure < 8
    assert {"even", "2 : 3 : 4 : 6", "golden", "frame-true", "diagonal in ninths", "photo grid"} <= {
        c.name for c in found
    }


@settings(max_examples=25, deadline=None)
@example(93.0, 120.0, 0.0, 1, 1, 0, "148x210mm")  # margins that leave no room for a line
@example(93.0, 110.0, 0.0, 1, 9, 2, "148x210mm")
@given(
    st.floats(0, 120),
    st.floats(0, 120),
    st.floats(0, 60),
    st.integers(1, 12),
    st.integers(1, 12),
    st.integers(0, 2),
    st.sampled_from(["a4", "148x210mm", "280x210mm", "6x9in"]),
)
def test_candidates_work_out_whatever_is_asked(
    head: float, foot: float, inside: float, columns: int, rows: int, gap: int, trim: str
) -> None:
    job = set_values(JOB, [f"trim={trim}"])
    grid = replace(
        MASTER.grid,
        head=length(f"{head:.2f}mm"),
        foot=length(f"{foot:.2f}mm"),
        inside=length(f"{inside:.2f}mm"),
        columns=columns,
        rows=rows,
        row_gap=gap,
    )
    for candidate in solve(job, replace(MASTER, grid=grid)):
        frame = page_frame(job, candidate.grid, True)
        assert frame.lands and frame.lines == candidate.lines


@pytest.mark.parametrize("margin", ["inside", "outside", "head", "foot"])
def test_a_margin_of_nothing_is_answered_with_grids_that_have_one(margin: str) -> None:
    """The monkey typed one: a margin that no construction takes stood in a grid that works out otherwise."""
    for rows in range(1, 13):
        grid = replace(MASTER.grid, rows=rows, **{margin: length("0mm")})
        assert solve(JOB, replace(MASTER, grid=grid))


def test_a_grid_that_is_picked_is_one_edit_and_then_the_nearest() -> None:
    wanted = next(c for c in solve(JOB, MASTER) if c.name == "diagonal in ninths")
    made = use_grid(JOB, MASTER.name, wanted.grid)
    assert made.masters[0].grid == wanted.grid
    again = solve(made, made.masters[0])
    assert [c.name for c in again if c.grid == wanted.grid] == ["diagonal in ninths"]


def test_the_fit_says_how_to_make_fields_whole_and_is_right() -> None:
    off = set_grid(JOB, MASTER.name, "foot", "30mm")
    words = format_fit(off, off.masters[0].grid)
    assert words.startswith("Fields do not end on a baseline")
    foot = words.split("A foot of ")[1].split(" mm")[0]
    made = set_grid(off, MASTER.name, "foot", f"{float(foot) - 0.06}mm")
    assert format_fit(made, made.masters[0].grid) == ""
    note = next(n for n in grid_numbers(off, off.masters[0]) if n.key == "grid.field.lines").note
    assert note == words


def _frames(job: Publication) -> Frames:
    left, right = (page_frame(job, job.masters[0].grid, side) for side in (False, True))
    return Frames(right, left)


def test_a_compound_grid_has_stops_of_both_counts() -> None:
    job = set_grid(JOB, MASTER.name, "columns_over", "5")
    frames = _frames(job)
    own = [stop for _, stop in stops_for("left", frames) if stop.kind == "field" and not stop.facing]
    assert {stop.count for stop in own} == {5, 6}
    fifth = Stop(kind="field", index=1, count=5)
    width = frames.own.area.width
    gutter = job.masters[0].grid.gutter.pt
    assert position(fifth, "left", frames) == pytest.approx(frames.own.area.left + (width - 4 * gutter) / 5 + gutter)
    assert describe(fifth, "left", frames) == "field 2 of 5"
    assert position(Stop(kind="field", index=1, count=6), "left", frames) == pytest.approx(frames.own.columns[1][0])
    with pytest.raises(Problem, match="6 columns already"):
        set_grid(JOB, MASTER.name, "columns_over", "6")
    assert set_grid(job, MASTER.name, "columns_over", "none").masters[0].grid.columns_over == 0


def test_guides_divide_the_trim_and_are_stops() -> None:
    job = set_grid(JOB, MASTER.name, "guides", "thirds, halves")
    assert job.masters[0].grid.guides == ("halves", "thirds")
    frames = _frames(job)
    xs, ys = frames.own.guide_lines()
    assert xs == pytest.approx([220 * MM / 3, 110 * MM, 440 * MM / 3]) and len(ys) == 3
    third = Stop(kind="guide", index=1, count=3)
    assert position(third, "top", frames) == pytest.approx(285 * MM / 3)
    assert any(stop == third for _, stop in stops_for("top", frames))
    assert describe(third, "top", frames) == "1/3 of the height"
    with pytest.raises(Problem, match="fifths"):
        set_grid(JOB, MASTER.name, "guides", "fifths")


def test_a_spread_may_have_a_grid_of_its_own() -> None:
    job = give_own_grid(JOB, (4, 5), True)
    assert job.pages[3].grid == MASTER.grid
    job = set_page_grid(job, (4, 5), "columns", "9")
    assert [master_of(job, job.pages[n]).grid.columns for n in (2, 3, 4, 5)] == [6, 9, 9, 6]
    assert job.masters == JOB.masters
    with pytest.raises(Problem):
        set_page_grid(job, (4, 5), "inside", "300mm")
    back = give_own_grid(job, (4, 5), False)
    assert master_of(back, back.pages[3]) == master_of(JOB, JOB.pages[3])


def test_extent_is_words_over_words_a_page() -> None:
    by_key = {n.key: n.value for n in (*grid_numbers(JOB, MASTER), *type_numbers(JOB, MASTER))}
    found = {n.key: n.value for n in extent_numbers(JOB, MASTER, 60_000) if n.key}
    a_page = by_key["type.body.characters_per_line"] / 5.7 * by_key["grid.lines"] * MASTER.text_columns
    assert found["type.page.words"] == pytest.approx(a_page)
    assert found["type.story.pages"] == pytest.approx(60_000 / a_page)
