"""A picture inside its block: moved, drawn closer about a place, turned; it never leaves a part of its block bare."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.drawing.affine import turned
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.pictures.library.fit import placed, turned_in
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPanel, HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import block_named
from half_fold.core.spread.framing.reframing import bring_to_middle, draw_closer, move_inside, turn_inside
from half_fold.core.spread.where.frames import block_box
from tests.blocks import block_over

PICTURE = Picture(id="p", file="p.jpg", width=600, height=400, digest="d")


def _job(**holds: object) -> Publication:
    block = block_over("b", HoldsPicture(picture="p", **holds), (0, 2), (0, 3))  # type: ignore[arg-type]  # its own fields
    other = block_over("w", HoldsPanel(ink="straw"), (3, 5), (0, 3))
    job = replace(start("magazine", "Framed"), pictures=(PICTURE,))
    return replace(job, pages=(*job.pages[:2], replace(job.pages[2], things=(block, other)), *job.pages[3:]))


def _lies(job: Publication) -> tuple[tuple[float, float, float, float], tuple[float, float, float, float]]:
    """The whole picture, and its block's box."""
    block = block_named(job, "b")
    box = block_box(job, 3, block)
    return placed(PICTURE, block.holds, box), box  # type: ignore[arg-type]  # a picture


def test_it_moves_by_as_much_as_it_is_dragged_and_stops_where_it_ends() -> None:
    job = draw_closer(_job(), "b", 2.0)
    before, box = _lies(job)
    after, _ = _lies(move_inside(job, "b", 12, -9))
    assert (after[0] - before[0], after[1] - before[1]) == pytest.approx((12, -9), abs=0.02)
    far, _ = _lies(move_inside(job, "b", 5000, 5000))
    assert (far[0], far[1]) == pytest.approx((box[0], box[1]), abs=0.02)
    back = move_inside(move_inside(job, "b", 5000, 0), "b", -10, 0)
    assert _lies(back)[0][0] == pytest.approx(box[0] - 10, abs=0.05), "it turns back at once"


def test_what_lies_under_the_pointer_stays_there() -> None:
    job = draw_closer(_job(), "b", 1.6)
    (left, top, right, bottom), _ = _lies(job)
    at = (left + 0.45 * (right - left), top + 0.55 * (bottom - top))
    (left, top, right, bottom), _ = _lies(draw_closer(job, "b", 1.5, at))
    assert (left + 0.45 * (right - left), top + 0.55 * (bottom - top)) == pytest.approx(at, abs=0.05)


def test_closer_is_never_less_than_filling_nor_beyond_its_range() -> None:
    job = _job()
    assert draw_closer(job, "b", 0.5) is job
    assert block_named(draw_closer(job, "b", 1000), "b").holds.closer == 20  # type: ignore[union-attr]
    with pytest.raises(Problem, match="from 1 to 20"):
        set_path(job, "block.b.closer", "0.4")


@pytest.mark.parametrize(("turn", "flipped"), [(90.0, False), (180.0, False), (0.0, True), (30.0, True)])
def test_a_turned_or_flipped_picture_goes_with_the_pointer(turn: float, flipped: bool) -> None:
    job = draw_closer(_job(turn=turn, flipped=flipped), "b", 2.5)
    spot = (0.5, 0.5)

    def on_page(of: Publication) -> tuple[float, float]:
        where, box = _lies(of)
        x, y = where[0] + spot[0] * (where[2] - where[0]), where[1] + spot[1] * (where[3] - where[1])
        way = turned_in(block_named(of, "b").holds, box, where)  # type: ignore[arg-type]
        return way.of(x, y) if way is not None else (x, y)

    before, after = on_page(job), on_page(move_inside(job, "b", 8, 5))
    assert (after[0] - before[0], after[1] - before[1]) == pytest.approx((8, 5), abs=0.05)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(st.floats(-80, 80), st.floats(-80, 80), st.floats(0.6, 1.6), st.floats(-30, 30)), max_size=6))
def test_its_block_is_covered_whatever_is_done(acts: list[tuple[float, float, float, float]]) -> None:
    job = _job()
    for across, down, factor, by in acts:
        job = turn_inside(draw_closer(move_inside(job, "b", across, down), "b", factor), "b", by)
    where, box = _lies(job)
    held = block_named(job, "b").holds
    need = turned(((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), -held.turn).around(
        block_box(job, 3, block_named(job, "b"))
    )  # type: ignore[union-attr]
    assert where[0] <= need.left + 0.05 and where[1] <= need.top + 0.05
    assert where[2] >= need.right - 0.05 and where[3] >= need.bottom - 0.05


def test_only_a_picture_that_is_free_is_moved() -> None:
    with pytest.raises(Problem, match="no picture"):
        move_inside(_job(), "w", 1, 1)
    with pytest.raises(Problem, match="locked"):
        move_inside(set_path(_job(), "block.b.locked", "yes"), "b", 1, 1)


@given(st.floats(0.1, 0.9), st.floats(0.1, 0.9), st.booleans(), st.sampled_from([0, 8, -30]))
@settings(max_examples=40, deadline=None)
def test_a_place_comes_to_the_middle_as_far_as_the_block_stays_filled(
    across: float, down: float, flipped: bool, turn: float
) -> None:
    job = _job(flipped=flipped, turn=turn, closer=6.0)
    _, box = _lies(job)
    at = box[0] + across * (box[2] - box[0]), box[1] + down * (box[3] - box[1])
    made = bring_to_middle(job, "b", at)
    again = bring_to_middle(made, "b", ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2))
    assert _lies(again)[0] == pytest.approx(_lies(made)[0], abs=0.05), "what is in the middle stays there"
    assert set_path(job, "block.b.focus.across", "30") != job
