"""What groups keep: even gaps and middles, whatever becomes of their members."""

from collections.abc import Iterator
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.grid.edits import set_grid
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length
from half_fold.core.paths.all import set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Anchor, Floating, Stop
from half_fold.core.publication.records import Block, Group, HoldsPanel, Publication
from half_fold.core.publication.surgery import thing_named, with_thing_anywhere
from half_fold.core.spread.edits.grouping import shift_things
from half_fold.core.spread.edits.keeping import settle
from half_fold.core.spread.where.frames import block_box
from half_fold.core.spread.where.reaching import set_measure

_SIZES = st.integers(4, 30)


def _floating(name: str, x: float, y: float, wide: float, high: float) -> Block:
    def anchor(at: float) -> Anchor:
        return Anchor(stop=Stop(kind="trim", off=length(f"{-at:g}mm")))

    place = Floating(across=anchor(x), down=anchor(y), width=length(f"{wide:g}mm"), height=length(f"{high:g}mm"))
    return Block(id=name, place=place, holds=HoldsPanel(ink="straw"))


def _job(keeps: str, boxes: list[tuple[float, float, float, float]]) -> Publication:
    job = start("magazine", "Kept")
    members = tuple(_floating(f"b{at}", *box) for at, box in enumerate(boxes, 1))
    group = Group(id="g1", members=members, keeps=keeps)  # type: ignore[arg-type]  # one of its words
    after = replace(job, pages=(*job.pages[:2], replace(job.pages[2], things=(group,)), *job.pages[3:]))
    return settle(job, after)


def _boxes(job: Publication) -> Iterator[tuple[float, float, float, float]]:
    for block in job.pages[2].blocks:
        yield tuple(side / MM for side in block_box(job, 3, block))  # type: ignore[misc]  # of four


def _edit(job: Publication, path: str, text: str) -> Publication:
    return set_path(job, path, text)


THREE = [(20.0, 20.0, 10.0, 10.0), (33.0, 40.0, 10.0, 10.0), (80.0, 60.0, 20.0, 10.0)]


def test_gaps_are_made_even_by_hand() -> None:
    """20 to 100 mm, of which 10, 10 and 20 are taken: two gaps of 20."""
    boxes = list(_boxes(_job("even across", THREE)))
    assert [box[0] for box in boxes] == pytest.approx([20, 50, 80])
    assert [box[1] for box in boxes] == pytest.approx([20, 40, 60]), "and nothing moves the other way"


def test_they_stay_even_when_a_member_grows() -> None:
    job = set_path(_job("even across", THREE), "block.b2.width", "24mm")
    boxes = list(_boxes(job))
    gaps = [b[0] - a[2] for a, b in pairwise(boxes)]
    assert gaps == pytest.approx([13, 13])


def test_a_middle_one_pulled_away_comes_back_and_the_last_takes_the_others_along() -> None:
    job = _job("even across", THREE)
    pulled = settle(job, shift_things(job, ["b2"], 15, 40))
    assert [box[0] for box in _boxes(pulled)] == pytest.approx([20, 50, 80])
    drawn = settle(job, shift_things(job, ["b3"], 30 * MM, 0))
    assert [box[0] for box in _boxes(drawn)] == pytest.approx([20, 65, 110])


@pytest.mark.parametrize(("keeps", "middles"), [("centred", (25, 25)), ("centred across", (25, None))])
def test_others_are_centred_in_the_one_at_the_back(keeps: str, middles: tuple[float, float | None]) -> None:
    for box in _boxes(_job(keeps, THREE)):
        assert (box[0] + box[2]) / 2 == pytest.approx(middles[0])
        if middles[1] is not None:
            assert (box[1] + box[3]) / 2 == pytest.approx(middles[1])


def test_a_locked_member_is_left_where_it_is() -> None:
    job = _job("", THREE)
    job = with_thing_anywhere(job, replace(thing_named(job, "b2"), locked=True))
    after = with_thing_anywhere(job, replace(thing_named(job, "g1"), keeps="even across"))
    assert [box[0] for box in _boxes(settle(job, after))] == pytest.approx([20, 33, 80])


def test_what_is_kept_is_solved_again_when_the_grid_changes() -> None:
    job = start("magazine", "Kept")
    from tests.blocks import block_over

    wide = [block_over(f"b{i}", HoldsPanel(ink="straw"), (i, i), (0, 0)) for i in (0, 2, 4)]
    group = Group(id="g1", members=tuple(wide), keeps="even across")
    job = settle(job, replace(job, pages=(*job.pages[:2], replace(job.pages[2], things=(group,)), *job.pages[3:])))
    changed = settle(job, set_grid(job, job.masters[0].name, "outside", "34mm"))
    boxes = list(_boxes(changed))
    gaps = [b[0] - a[2] for a, b in pairwise(boxes)]
    assert gaps[0] == pytest.approx(gaps[1], abs=0.01)


@settings(deadline=None, max_examples=120)
@given(st.lists(st.tuples(st.integers(0, 60), _SIZES), min_size=3, max_size=6), st.integers(0, 5), st.integers(-20, 20))
def test_after_any_move_gaps_are_even(parts: list[tuple[int, int]], which: int, by: int) -> None:
    boxes = [(20.0 + 2 * at, 30.0, float(wide), 10.0) for at, wide in parts]
    job = _job("even across", boxes)
    name = f"b{which % len(parts) + 1}"
    bare = shift_things(job, [name], by, 0)
    found, before = sorted(_boxes(settle(job, bare))), sorted(_boxes(bare))
    room = max(box[2] for box in before) - before[0][0] - sum(box[2] - box[0] for box in before)
    gaps = [b[0] - a[2] for a, b in pairwise(found)]
    if room < -0.1:
        assert found == before, "they overlap, and stay where they are"
    elif room > 0.1:
        assert max(gaps) - min(gaps) < 0.02


def test_a_size_that_is_typed_counts_as_an_edit_of_its_group() -> None:
    job = _job("centred", THREE)
    after = settle(job, set_measure(job, "b1", "width", "60mm"))
    middles = [(box[0] + box[2]) / 2 for box in _boxes(after)]
    assert middles == pytest.approx([middles[0]] * 3)


@pytest.mark.parametrize("count", [1, 2])
@pytest.mark.parametrize("keeps", ["even across", "even down", "centred"])
def test_a_group_of_few_keeps_what_it_can(keeps: str, count: int) -> None:
    """A member may be taken away until one is left."""
    boxes = list(_boxes(_job(keeps, THREE[:count])))
    assert boxes[0][:2] == pytest.approx((20, 20))
