"""Frames, stops, and the edits of a spread."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.grid.edits import set_grid
from half_fold.core.grid.stops import EDGES, describe, place_rect, position, stops_for
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import move_pages
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import Spread
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    HoldsNothing,
    Publication,
)
from half_fold.core.publication.surgery import page_of_block, with_things
from half_fold.core.spread.edits import edits
from half_fold.core.spread.edits.grouping import delete_things, restack
from half_fold.core.spread.setting.hits import block_at
from half_fold.core.spread.where.frames import block_box, frames_of, page_frame_of
from half_fold.core.spread.where.reaching import reach, set_stop

JOB = start("magazine", "Grid")
LEFT, RIGHT = 6, 7


def _claim(job: Publication, start_at: tuple[float, float], end_at: tuple[float, float]) -> tuple[Publication, str]:
    return edits.claim(job, start_at, end_at, (LEFT, RIGHT), HoldsNothing())


def _box(job: Publication, block: str) -> tuple[float, float, float, float]:
    index, _, found = page_of_block(job, block)
    return tuple(round(v / MM, 3) for v in block_box(job, index + 1, found))  # type: ignore[return-value]


def _field(job: Publication, page: int, column: int, row: int) -> tuple[float, float]:
    frame = page_frame_of(job, page)
    return sum(frame.columns[column]) / 2, sum(frame.rows[row]) / 2


def test_hand_worked_frame() -> None:
    """220 wide, inside 13 + 5 lost, outside 14, six columns with 4.2 between: (220 - 18 - 14 - 21) / 6 = 27.8333."""
    frame = page_frame_of(JOB, RIGHT)
    assert (frame.columns[0][1] - frame.columns[0][0]) / MM == pytest.approx((220 - 18 - 14 - 5 * 4.2) / 6)
    assert frame.area.left / MM == pytest.approx(18) and frame.area.right / MM == pytest.approx(206)
    left = page_frame_of(JOB, LEFT)
    assert (left.area.left / MM, left.area.right / MM) == (pytest.approx(-206), pytest.approx(-18))


def test_fields_begin_at_the_cap_height_and_end_on_a_baseline() -> None:
    frame = page_frame_of(JOB, RIGHT)
    base = frame.baselines
    assert frame.lands and frame.lines_per_field == 6
    for top, bottom in frame.rows:
        assert ((top - frame.area.top) / base.step) == pytest.approx(round((top - frame.area.top) / base.step))
        assert (bottom - frame.area.top - base.cap) / base.step == pytest.approx(
            round((bottom - frame.area.top) / base.step - 0.5)
        )


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("columns", "0"),
        ("columns", "61"),
        ("columns", "two"),
        ("inside", "200mm"),
        ("head", "-5mm"),
        ("gutter", "60mm"),
        ("wing", "1"),
    ],
)
def test_grids_that_cannot_be(field: str, value: str) -> None:
    with pytest.raises(Problem):
        set_grid(JOB, "three columns", field, value)


def test_stops_of_a_left_page_from_left_to_right() -> None:
    frames = frames_of(JOB, LEFT)
    words = [describe(stop, "left", frames) for _, stop in stops_for("left", frames)]
    assert words[:3] == ["bleed", "trim", "field 1"] and words[8] == "fold" and words[9] == "field 1"
    places = [place for place, _ in stops_for("left", frames)]
    assert places == sorted(places)
    assert places[0] / MM == pytest.approx(-223)
    assert [describe(s, "top", frames) for _, s in stops_for("top", frames)][:3] == ["bleed", "trim", "row 1"]


def test_claiming_takes_whole_fields_and_reaches_for_the_bleed() -> None:
    job, block = _claim(JOB, _field(JOB, LEFT, 1, 1), _field(JOB, LEFT, 3, 2))
    frame = page_frame_of(JOB, LEFT)
    wanted = (frame.columns[1][0], frame.rows[1][0], frame.columns[3][1], frame.rows[2][1])
    assert _box(job, block) == tuple(round(v / MM, 3) for v in wanted)
    job, block = _claim(JOB, (-215 * MM, 5 * MM), (215 * MM, 280 * MM))
    assert _box(job, block) == (-223, -3, 223, 288)


def test_reaching_goes_stop_by_stop_and_back() -> None:
    job, block = _claim(JOB, _field(JOB, LEFT, 1, 1), _field(JOB, LEFT, 3, 2))
    lefts = []
    for _ in range(4):
        job = reach(job, block, "left", True)
        lefts.append(_box(job, block)[0])
    assert lefts == [-206, -220, -223, -223]
    for _ in range(3):
        job = reach(job, block, "left", False)
    frame = page_frame_of(JOB, LEFT)
    assert _box(job, block)[0] == round(frame.columns[1][0] / MM, 3)


def test_an_edge_never_passes_the_other() -> None:
    job, block = _claim(JOB, _field(JOB, RIGHT, 2, 2), _field(JOB, RIGHT, 2, 2))
    assert reach(job, block, "left", False) is job
    with pytest.raises(Problem):
        set_stop(job, block, "right", Stop(kind="field", index=0, count=6))


def test_moving_over_the_fold_takes_the_block_to_the_other_page() -> None:
    job, block = _claim(JOB, _field(JOB, LEFT, 5, 0), _field(JOB, LEFT, 5, 1))
    moved = edits.move(job, block, 1, 0)
    index, _, found = page_of_block(moved, block)
    assert index + 1 == RIGHT and not found.place.left.facing
    assert _box(moved, block)[0] == 18
    back = edits.move(moved, block, -1, 0)
    assert page_of_block(back, block)[0] + 1 == LEFT and _box(back, block) == _box(job, block)
    assert edits.move(job, block, 0, -1) is job


@given(
    st.lists(
        st.sampled_from(
            [
                ("left", 1),
                ("right", 1),
                ("top", 1),
                ("bottom", 1),
                ("left", 0),
                ("right", 0),
                ("top", 0),
                ("bottom", 0),
                ("move", 1),
                ("move", 0),
            ]
        ),
        max_size=14,
    )
)
def test_blocks_keep_room_whatever_is_done(steps: list[tuple[str, int]]) -> None:
    job, block = _claim(JOB, _field(JOB, LEFT, 4, 3), _field(JOB, RIGHT, 1, 4))
    for what, on in steps:
        job = edits.move(job, block, 1 if on else -1, 0) if what == "move" else reach(job, block, what, bool(on))  # type: ignore[arg-type]
    left, top, right, bottom = _box(job, block)
    assert right > left and bottom > top
    assert left >= -223 and right <= 223 and top >= -3 and bottom <= 288


@given(st.integers(1, 14), st.integers(1, 14), st.integers(0, 5), st.integers(0, 7))
def test_stops_survive_another_grid_and_come_back_exactly(columns: int, rows: int, column: int, row: int) -> None:
    job, block = _claim(JOB, _field(JOB, RIGHT, column, row), _field(JOB, RIGHT, 5, 7))
    before = _box(job, block)
    other = set_grid(set_grid(job, "three columns", "columns", str(columns)), "three columns", "rows", str(rows))
    left, top, right, bottom = _box(other, block)
    assert right > left and bottom > top
    assert (
        _box(set_grid(set_grid(other, "three columns", "columns", "6"), "three columns", "rows", "8"), block) == before
    )


def test_a_page_that_turns_over_keeps_what_reaches_the_edge() -> None:
    block = Block(
        id="b",
        place=Held(left=Stop(kind="bleed"), top=Stop(kind="bleed"), right=Stop(kind="fold"), bottom=Stop(kind="bleed")),
        holds=HoldsNothing(),
    )
    pages = list(JOB.pages)
    pages[LEFT - 1] = replace(pages[LEFT - 1], things=(block,))
    job = replace(JOB, pages=tuple(pages))
    assert _box(job, "b") == (-223, -3, 0, 288)
    turned = move_pages(job, [LEFT - 1], LEFT + 1)
    assert page_of_block(turned, "b")[0] + 1 == RIGHT
    assert _box(turned, "b") == (0, -3, 223, 288)


def test_everything_re_solves_with_the_trim() -> None:
    job, block = _claim(JOB, (-215 * MM, 5 * MM), (215 * MM, 280 * MM))
    assert _box(set_values(job, ["trim=A5", "bleed=5mm"]), block) == (-153, -5, 153, 215)


def test_an_offset_moves_an_edge_outwards_from_its_stop() -> None:
    frames = frames_of(JOB, RIGHT)
    for edge in EDGES:
        stop = Stop(kind="field", index=2, count=6 if edge in ("left", "right") else 8)
        off = replace(stop, off=length("3mm"))
        sign = -1 if edge in ("left", "top") else 1
        assert position(off, edge, frames) - position(stop, edge, frames) == pytest.approx(sign * 3 * MM)
        assert "+3mm" in describe(off, edge, frames)


@given(
    stops=st.tuples(*[st.tuples(st.integers(0, 7), st.integers(-60, 60)) for _ in range(4)]),
    by=st.tuples(st.integers(-4, 4), st.integers(-4, 4)),
    number=st.sampled_from([LEFT, RIGHT]),
)
def test_a_block_however_its_edges_are_drawn_moves_by_fields_or_stays(
    stops: tuple[tuple[int, int], ...], by: tuple[int, int], number: int
) -> None:
    held = {
        edge: Stop(
            kind="field", index=min(index, 5), count=6 if edge in ("left", "right") else 8, off=length(f"{off}mm")
        )
        for edge, (index, off) in zip(("left", "right", "top", "bottom"), stops, strict=True)
    }
    block = Block(id="x", place=Held(**held), holds=HoldsNothing())
    job = with_things(JOB, JOB.pages[number - 1].id, lambda _: (block,))
    box = place_rect(block.place, frames_of(job, number))
    try:
        moved = edits.move(job, "x", *by)
    except Problem:
        return
    there = place_rect(page_of_block(moved, "x")[2].place, frames_of(moved, page_of_block(moved, "x")[0] + 1))
    assert moved is job or (there.width > 0 or box.width <= 0 or not by[0])


def test_the_frontmost_block_is_hit_and_order_can_change() -> None:
    job, low = _claim(JOB, _field(JOB, RIGHT, 0, 0), _field(JOB, RIGHT, 3, 3))
    job, high = _claim(job, _field(JOB, RIGHT, 0, 0), _field(JOB, RIGHT, 3, 3))
    spread, place = Spread(LEFT, RIGHT), _field(JOB, RIGHT, 1, 1)
    assert block_at(job, spread, *place) == high
    assert block_at(restack(job, [low], "forward"), spread, *place) == low
    assert restack(job, [high], "forward") is job
    gone = delete_things(job, [high])
    assert block_at(gone, spread, *place) == low and block_at(gone, spread, 900, 900) is None
    with pytest.raises(Problem):
        delete_things(gone, [high])


def test_a_coarser_grid_leaves_a_block_one_field() -> None:
    frames = frames_of(set_grid(JOB, "three columns", "columns", "1"), RIGHT)
    block = Block(
        id="b",
        place=Held(
            left=Stop(kind="field", index=5, count=6),
            top=Stop(kind="trim"),
            right=Stop(kind="field", index=0, count=6),
            bottom=Stop(kind="trim"),
        ),
        holds=HoldsNothing(),
    )
    assert place_rect(block.place, frames).width > 100
