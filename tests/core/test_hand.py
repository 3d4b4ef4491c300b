"""Placing by hand: held and floating blocks, groups, several things at once, lined up and carried."""

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.drawing.planes import Layer, on_paper
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import found, set_path
from half_fold.core.plan.bound_side import bind_at
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Floating
from half_fold.core.publication.records import Group, HoldsPanel, HoldsRule, Publication
from half_fold.core.publication.references import dangling
from half_fold.core.publication.surgery import block_named, page_of_block, page_of_thing, thing_ids, with_page
from half_fold.core.publication.validity import require_valid
from half_fold.core.spread.edits import grouping
from half_fold.core.spread.edits.aligning import align_things, gaps, make_same_size, spread_evenly
from half_fold.core.spread.edits.alike import in_same_ink, make_look_like, of_same_kind
from half_fold.core.spread.edits.carrying import drawn_in, grabbed, reached
from half_fold.core.spread.edits.edits import move
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.hits import block_at, thing_at, things_within
from half_fold.core.spread.where.frames import block_box, hull_of, page_frame_of
from half_fold.core.spread.where.neighbours import gap_before
from half_fold.core.spread.where.reaching import FROM, draw_edge, let_float, put_in, set_from, set_measure
from half_fold.core.store.codec import decode, encode
from tests.blocks import block_over

LEFT, RIGHT = 2, 3
NAMES = ("a", "b", "c")


def _job() -> Publication:
    """Three panels on page 3: two columns wide and two rows high, one under the other with a row between."""
    job = start("magazine", "Hand")
    blocks = [
        block_over(name, HoldsPanel(ink=job.inks[at].name), (at, at + 1), (3 * at, 3 * at + 1))
        for at, name in enumerate(NAMES)
    ]
    return with_page(job, replace(job.pages[RIGHT - 1], things=tuple(blocks), master=job.pages[2].master))


def _box(job: Publication, name: str) -> Rect:
    index, _, block = page_of_block(job, name)
    return block_box(job, index + 1, block)


def _near(box: Rect, other: Rect) -> bool:
    return max(abs(a - b) for a, b in zip(box, other, strict=True)) < 0.002 * MM


boxes = st.tuples(
    st.floats(-500, 500), st.floats(-20, 700), st.floats(2, 400), st.floats(2, 400)
).map(lambda box: Rect(box[0], box[1], box[0] + box[2], box[1] + box[3]))  # fmt: skip


@given(boxes, st.booleans(), st.sampled_from(list(itertools.product(FROM["across"], FROM["down"]))))
@settings(max_examples=120, deadline=None)
def test_a_block_put_somewhere_lies_there_to_the_micrometre_however_it_is_told(
    box: Rect, floats: bool, told: tuple[tuple[str, ...], tuple[str, ...]]
) -> None:
    job = _job()
    if floats:
        job = set_from(set_from(job, "a", "across", told[0][0]), "a", "down", told[1][0])
    put = put_in(job, "a", box)
    assert _near(_box(put, "a"), box)
    index, _, block = page_of_block(put, "a")
    assert isinstance(block.place, Floating) == floats
    on_left = box.left < page_frame_of(put, RIGHT).fold - 0.01
    assert index + 1 == (LEFT if on_left else RIGHT)
    again = decode(encode(put), "job")
    require_valid(again, "job")
    assert _near(_box(again, "a"), box)


@pytest.mark.parametrize("axis", ["across", "down"])
def test_telling_a_place_from_elsewhere_does_not_move_it(axis: str) -> None:
    job = let_float(_job(), "b", True)
    before = _box(job, "b")
    for name, words, _, _ in FROM[axis]:
        job = set_path(job, f"block.b.{axis}.from", words)
        assert found(job, f"block.b.{axis}.from")[0].value == name
        assert _near(_box(job, "b"), before), name
    held = set_path(job, "block.b.place", "held")
    assert _near(_box(held, "b"), before)
    assert let_float(held, "b", False) is held


def test_what_floats_keeps_its_size_and_its_distance_when_the_trim_changes() -> None:
    """A round call-out 10 mm from the right trim and 20 mm from the foot, on another trim and another grid."""
    job = let_float(_job(), "a", True)
    for path, typed in (
        ("block.a.across.from", "right trim"),
        ("block.a.down.from", "foot"),
        ("block.a.width", "40mm"),
        ("block.a.height", "40mm"),
        ("block.a.across", "10mm"),
        ("block.a.down", "20mm"),
    ):
        job = set_path(job, path, typed)
    for trim in ("220 x 285", "210 x 210", "6in x 9in"):
        now = set_path(job, "brief.trim", trim)
        box, page = _box(now, "a"), page_frame_of(now, RIGHT).trim
        assert box.width == pytest.approx(40 * MM) and box.height == pytest.approx(40 * MM)
        assert page.right - box.right == pytest.approx(10 * MM)
        assert page.bottom - box.bottom == pytest.approx(20 * MM)
    middled = set_path(set_path(job, "block.a.across.from", "middle"), "block.a.across", "0mm")
    assert _box(middled, "a").centre[0] == pytest.approx(page_frame_of(job, RIGHT).trim.centre[0])
    wide = set_path(middled, "block.a.width", "60mm")
    assert _box(wide, "a").centre[0] == pytest.approx(_box(middled, "a").centre[0])


def test_a_held_block_is_typed_to_the_hundredth() -> None:
    job = _job()
    for name, typed in (("width", "41.37mm"), ("height", "1.25in"), ("across", "12.34mm"), ("down", "99.99mm")):
        job = set_measure(job, "a", name, typed)
    box, trim = _box(job, "a"), page_frame_of(job, RIGHT).trim
    wanted = ((box.left - trim.left) / MM, (box.top - trim.top) / MM, box.width / MM, box.height / MM)
    assert wanted == pytest.approx((12.34, 99.99, 41.37, 31.75), abs=0.001)


# By hand ------------------------------------------------------------------------------------------


def test_an_edge_is_taken_by_a_stop_nearby_and_let_go_where_it_is_free() -> None:
    job = _job()
    box, frame = _box(job, "a"), page_frame_of(job, RIGHT)
    near = (frame.columns[3][1] + 2.5, box.centre[1])
    _, _, taken = page_of_block(draw_edge(job, "a", ("right",), near), "a")
    assert (taken.place.right.kind, taken.place.right.index, taken.place.right.off) == ("field", 3, None)
    freed = draw_edge(job, "a", ("right",), near, free=True)
    assert _box(freed, "a").right == pytest.approx(near[0], abs=0.005) and _box(freed, "a").left == box.left
    corner = draw_edge(job, "a", ("right", "bottom"), (frame.trim.right + 8, 300.0), near=6.0)
    _, _, cornered = page_of_block(corner, "a")
    assert cornered.place.right.kind == "bleed" and _box(corner, "a").top == box.top
    assert draw_edge(job, "a", ("right",), (box.left - 5, 0.0), free=True) is job
    with pytest.raises(Problem, match="locked"):
        draw_edge(set_path(job, "block.a.locked", "yes"), "a", ("right",), near)


@given(st.floats(-180, 180), st.floats(30, 200), st.floats(-200, 700))
@settings(max_examples=60, deadline=None)
def test_an_edge_of_a_turned_block_leaves_the_other_where_it_is_seen(angle: float, x: float, y: float) -> None:
    job = set_path(set_path(_job(), "block.a.place", "floating"), "block.a.angle", f"{angle:.2f}")
    index, _, block = page_of_block(job, "a")
    from half_fold.core.spread.where.frames import turn_of

    turn = turn_of(job, index + 1, block)
    box = block_box(job, index + 1, block)
    kept = [(box.left, box.top), (box.left, box.bottom)]
    before = kept if turn is None else [turn.of(*corner) for corner in kept]
    after = draw_edge(job, "a", ("right",), (x, y))
    index, _, block = page_of_block(after, "a")
    turn, box = turn_of(after, index + 1, block), block_box(after, index + 1, block)
    kept = [(box.left, box.top), (box.left, box.bottom)]
    now = kept if turn is None else [turn.of(*corner) for corner in kept]
    assert np.allclose(before, now, atol=0.02)


def test_a_hand_takes_hold_of_one_edge_or_of_two_at_a_corner() -> None:
    box = Rect(100, 100, 200, 300)
    assert grabbed(box, 101, 200, 4) == ("left",)
    assert set(grabbed(box, 198, 302, 4)) == {"right", "bottom"}
    assert grabbed(box, 150, 200, 4) == () and grabbed(box, 90, 200, 4) == ()


def test_what_is_carried_is_drawn_in_by_stops_and_by_the_middle_of_the_page() -> None:
    job = let_float(_job(), "a", True)
    page = page_frame_of(job, RIGHT)
    box = _box(job, "a")
    off = page.trim.centre[0] - box.centre[0] + 2.0
    assert drawn_in(job, "a", box.moved(off, 0), 3.0)[0] == pytest.approx(-2.0)
    assert drawn_in(job, "a", box.moved(off - 1.0, 0), 0.5) == (0.0, 0.0)
    carried = move(job, "a", 1, 1)
    assert _box(carried, "a").left - box.left == pytest.approx(page.columns[1][0] - page.columns[0][0], abs=0.01)


# Groups -------------------------------------------------------------------------------------------


def _grouped(job: Publication, *names: str) -> tuple[Publication, str]:
    return grouping.group(job, names)


def test_a_group_is_moved_locked_hit_and_taken_apart_as_one() -> None:
    job, group = _grouped(_job(), "a", "b")
    page = job.pages[RIGHT - 1]
    assert [thing.id for thing in page.things] == [group, "c"] and [block.id for block in page.blocks] == list(NAMES)
    spread = spread_of(job, RIGHT)
    middle = _box(job, "b").centre
    assert (block_at(job, spread, *middle), thing_at(job, spread, *middle)) == ("b", group)
    assert thing_at(job, spread, *middle, inside=group) == "b"
    assert thing_at(job, spread, *middle, hidden={"b"}) != "b"
    moved = grouping.shift_things(job, [group], 10.0, -5.0)
    for name, by in (("a", (10, -5)), ("b", (10, -5)), ("c", (0, 0))):
        assert _near(_box(moved, name), _box(job, name).moved(*by))
    locked = set_path(job, f"group.{group}.locked", "yes")
    for act in (
        lambda: set_path(locked, "block.a.opacity", "50"),
        lambda: grouping.shift_things(locked, ["b"], 1, 1),
        lambda: grouping.delete_things(locked, [group]),
        lambda: grouping.ungroup(locked, group),
    ):
        with pytest.raises(Problem, match="group is locked"):
            act()
    apart, names = grouping.ungroup(job, group)
    assert names == ("a", "b") and apart.pages == _job().pages
    assert things_within(job, spread, _box(job, "a")) == (group,)


def test_groups_hold_groups_and_an_empty_one_goes() -> None:
    job, inner = _grouped(_job(), "a", "b")
    job, outer = _grouped(job, inner, "c")
    assert [thing.id for thing in job.pages[RIGHT - 1].things] == [outer]
    assert len(set(thing_ids(job))) == len(thing_ids(job))
    again = decode(encode(job), "job")
    assert again.pages[RIGHT - 1] == job.pages[RIGHT - 1]
    with pytest.raises(Problem, match="different groups"):
        _grouped(job, "a", "c")
    with pytest.raises(Problem, match="two things"):
        _grouped(job, inner)
    gone = grouping.delete_things(job, ["a", "b"])
    assert [thing.id for thing in gone.pages[RIGHT - 1].blocks] == ["c"]
    assert not any(isinstance(thing, Group) and thing.id == inner for thing in gone.pages[RIGHT - 1].things)
    doubled, (copy,) = grouping.double_things(job, [outer])
    assert len(set(thing_ids(doubled))) == len(thing_ids(doubled)) and len(doubled.pages[RIGHT - 1].blocks) == 6
    require_valid(doubled, "job")
    assert page_of_thing(doubled, copy)[0] == RIGHT - 1


def test_things_of_both_pages_come_to_one_group_where_they_lay() -> None:
    job = put_in(_job(), "a", Rect(-300, 40, -200, 90))
    assert page_of_block(job, "a")[0] + 1 == LEFT
    before = {name: _box(job, name) for name in NAMES}
    made, group = _grouped(job, "a", "c")
    assert page_of_thing(made, group)[0] + 1 == RIGHT
    assert all(_near(_box(made, name), before[name]) for name in NAMES)
    assert list(dangling(made)) == []


def _inked(job: Publication) -> np.ndarray:
    drawn = Setter().spread(job, spread_of(job, RIGHT))
    return on_paper(Layer(drawn.area, 0.5, None).lay([mark for mark in drawn.marks if mark.origin.kind != "furniture"]))


def test_a_turned_group_taken_apart_looks_the_same() -> None:
    job, group = _grouped(_job(), "a", "b")
    job = set_path(job, f"group.{group}.angle", "23")
    whole = _inked(job)
    assert np.abs(whole - _inked(_job())).max() > 0.1
    apart, _ = grouping.ungroup(job, group)
    assert np.abs(whole - _inked(apart)).mean() < 0.002
    assert _near(hull_of(job, RIGHT, block_named(job, "a")), hull_of(apart, RIGHT, block_named(apart, "a")))


def test_a_group_is_seen_through_as_one_where_its_members_lie_on_each_other() -> None:
    """Two black panels on each other, the group at 50 %: black at a half where each alone and where both lie."""
    job = set_path(set_path(_job(), "block.a.ink", "black"), "block.b.ink", "black")
    job = grouping.delete_things(put_in(job, "b", _box(job, "a").moved(20, 20)), ["c"])
    made, group = _grouped(job, "a", "b")
    made = set_path(made, f"group.{group}.opacity", "50")
    black = _inked(made)[..., 3]
    assert black.max() == pytest.approx(0.5, abs=0.01)
    each = set_path(set_path(job, "block.a.opacity", "50"), "block.b.opacity", "50")
    assert _inked(each)[..., 3].max() == pytest.approx(0.75, abs=0.01)


def test_order_changes_by_a_step_and_to_either_end() -> None:
    def order(job: Publication) -> list[str]:
        return [thing.id for thing in job.pages[RIGHT - 1].things]

    job = _job()
    assert order(grouping.restack(job, ["a"], "front")) == ["b", "c", "a"]
    assert order(grouping.restack(job, ["b", "c"], "back")) == ["b", "c", "a"]
    assert order(grouping.restack(job, ["a", "b"], "forward")) == ["c", "a", "b"]
    assert order(grouping.restack(job, ["b", "c"], "backward")) == ["b", "c", "a"]
    assert grouping.restack(job, ["c"], "forward") is job


# Lined up -----------------------------------------------------------------------------------------


@pytest.mark.parametrize(("way", "of"), [("first", min), ("last", max)])
def test_edges_line_up_with_the_outermost(way: str, of: object) -> None:
    job = _job()
    made = align_things(job, NAMES, "across", way)
    sides = [_box(made, name).left if way == "first" else _box(made, name).right for name in NAMES]
    wanted = of(_box(job, name).left if way == "first" else _box(job, name).right for name in NAMES)  # type: ignore[operator]
    assert sides == pytest.approx([wanted] * 3, abs=0.005)
    assert all(_near(_box(made, n).moved(_box(job, n).left - _box(made, n).left, 0), _box(job, n)) for n in NAMES)


def test_things_line_up_against_page_text_spread_and_the_last_chosen() -> None:
    job = _job()
    page = page_frame_of(job, RIGHT)
    middled = align_things(job, ["a"], "across", "middle", "the page")
    assert _box(middled, "a").centre[0] == pytest.approx(page.trim.centre[0], abs=0.005)
    assert _box(align_things(job, ["a"], "down", "last", "the text area"), "a").bottom == pytest.approx(
        page.area[3], abs=0.005
    )
    spread = align_things(job, ["a"], "across", "first", "the spread")
    assert _box(spread, "a").left == pytest.approx(page_frame_of(job, LEFT).trim.left, abs=0.005)
    last = align_things(job, NAMES, "down", "first", "the last chosen")
    assert [_box(last, name).top for name in NAMES] == pytest.approx([_box(job, "c").top] * 3, abs=0.005)
    with pytest.raises(Problem, match="alone"):
        align_things(job, ["a"], "across", "first")


@given(st.lists(st.floats(0, 600), min_size=3, max_size=3))
@settings(max_examples=30, deadline=None)
def test_gaps_come_out_even_and_the_outermost_stay(tops: list[float]) -> None:
    job = _job()
    for name, top in zip(NAMES, tops, strict=True):
        job = put_in(job, name, Rect(100, top, 150, top + 40))
    whole = reached(job, NAMES)
    even = spread_evenly(job, NAMES, "down")
    assert np.ptp(gaps(even, NAMES, "down")) < 0.02
    assert reached(even, NAMES).along("down") == pytest.approx(whole.along("down"), abs=0.02)
    apart = spread_evenly(job, NAMES, "down", 12.0)
    assert gaps(apart, NAMES, "down") == pytest.approx([12.0, 12.0], abs=0.02)


def test_sizes_are_made_those_of_the_last_chosen() -> None:
    job = set_measure(_job(), "c", "width", "33mm")
    made = make_same_size(job, NAMES, "across")
    assert [_box(made, name).width / MM for name in NAMES] == pytest.approx([33.0] * 3, abs=0.002)
    assert [_box(made, name).left for name in NAMES] == pytest.approx(
        [_box(job, name).left for name in NAMES], abs=0.01
    )
    with pytest.raises(Problem, match="alone"):
        make_same_size(job, ["a"], "across")


# Bound at the other side --------------------------------------------------------------------------


def test_groups_and_what_floats_are_mirrored_and_come_back() -> None:
    job = set_from(put_in(let_float(_job(), "a", True), "a", Rect(30.0, 50.0, 90.0, 80.0)), "a", "across", "right trim")
    job = set_from(let_float(job, "b", True), "b", "across", "middle")
    job, group = _grouped(job, "a", "b")
    job = set_path(job, f"group.{group}.angle", "10")
    trim = page_frame_of(job, RIGHT).trim
    there = bind_at(job, True)
    for name in ("a", "b"):
        index, _, block = page_of_block(there, name)
        box, own = block_box(there, index + 1, block), page_frame_of(there, index + 1).trim
        was = _box(job, name)
        assert own.right - box.right == pytest.approx(was.left - trim.left, abs=0.01)
    assert bind_at(there, False).pages[RIGHT - 1].blocks[0].place == job.pages[RIGHT - 1].blocks[0].place


# What lies beside, and what is alike ---------------------------------------------------------------


def test_the_gap_to_what_lies_beside_is_told_and_typed() -> None:
    job = put_in(_job(), "b", Rect(60.0, 300.0, 160.0, 360.0))
    job = put_in(job, "c", Rect(190.0, 320.0, 260.0, 340.0))
    assert gap_before(job, "c", "across") == pytest.approx(30.0, abs=0.01)
    typed = set_path(job, "block.c.beside", "5mm")
    assert gap_before(typed, "c", "across") == pytest.approx(5 * MM, abs=0.01)
    assert _box(typed, "c").width == pytest.approx(70.0, abs=0.01)
    assert gap_before(job, "b", "across") is None
    above = gap_before(job, "b", "down")
    assert above == pytest.approx(300.0 - _box(job, "a").bottom, abs=0.01)
    assert _box(set_path(job, "block.b.under", "0mm"), "b").top == pytest.approx(_box(job, "a").bottom, abs=0.01)
    with pytest.raises(Problem, match="Nothing lies"):
        set_measure(job, "b", "beside", "5mm")


def test_blocks_of_a_kind_and_of_an_ink_are_found_and_made_to_look_alike() -> None:
    job = _job()
    rule = replace(block_over("r", HoldsRule(ink=job.inks[1].name)), id="r")
    job = with_page(job, replace(job.pages[LEFT - 1], things=(rule,)))
    assert of_same_kind(job, "a", (LEFT, RIGHT)) == ("b", "c", "a")
    assert in_same_ink(job, "b", (LEFT, RIGHT)) == ("r", "b")
    for key, typed in (("shape", "burst"), ("edge.weight", "2pt"), ("opacity", "40")):
        job = set_path(job, f"block.c.{key}", typed)
    like = make_look_like(job, ("a", "c"))
    a, c = block_named(like, "a"), block_named(like, "c")
    assert (a.holds, a.opacity, a.id) == (c.holds, c.opacity, "a") and _near(_box(like, "a"), _box(job, "a"))
    seen = make_look_like(job, ("r", "c"))
    assert block_named(seen, "r").opacity == 40 and isinstance(block_named(seen, "r").holds, HoldsRule)
