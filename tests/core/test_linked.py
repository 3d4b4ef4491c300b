"""Things repeated and linked: change one and all change, but for where they lie and what they differ in."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import found, set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Group, HoldsDisplay, HoldsPanel, Paragraph, Publication, Run
from half_fold.core.publication.surgery import (
    block_named,
    page_of_block,
    page_of_thing,
    thing_ids,
    thing_named,
    with_page,
)
from half_fold.core.publication.validity import require_valid
from half_fold.core.spread.edits.grouping import double_things, group
from half_fold.core.spread.edits.linked import follow, link, linked_with, set_differences, unlink
from half_fold.core.spread.edits.repeating import Repeat, parse_repeat, repeat_on_pages, repeat_things
from half_fold.core.spread.edits.written import write_anew
from half_fold.core.spread.where.frames import block_box, page_frame_of, thing_box
from half_fold.core.spread.where.reaching import let_float, put_in
from half_fold.core.store.codec import decode, encode
from tests.blocks import block_over

CALL = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text="New"),)),))


def _job() -> Publication:
    """A call-out on page 3: a floating panel and words on it, as one group."""
    job = start("magazine", "Linked")
    things = (block_over("p", HoldsPanel(ink="straw"), (0, 1), (0, 1)), block_over("w", CALL, (0, 1), (0, 0)))
    job = with_page(job, replace(job.pages[2], things=things))
    for name in ("p", "w"):
        job = let_float(job, name, True)
    job = put_in(put_in(job, "p", Rect(40, 60, 140, 120)), "w", Rect(50, 70, 130, 100))
    return group(job, ("p", "w"))[0]


def _box(job: Publication, name: str) -> Rect:
    index, _, block = page_of_block(job, name)
    return block_box(job, index + 1, block)


def _spread_over(job: Publication) -> tuple[Publication, list[str]]:
    made, names = repeat_on_pages(job, ["g1"], "5, 8-9, linked")
    return made, ["g1", *names]


def test_a_group_on_four_pages_is_changed_at_one_and_changes_at_all() -> None:
    job, names = _spread_over(_job())
    assert [page_of_thing(job, name)[0] + 1 for name in names] == [3, 5, 8, 9]
    assert set(linked_with(job, "g1")) == set(names[1:]) and len(set(thing_ids(job))) == len(thing_ids(job))
    third = thing_named(job, names[2])
    assert isinstance(third, Group)
    panel, words = (member.id for member in third.members)
    job = set_path(job, f"block.{panel}.ink", "loden")
    job = set_path(job, f"block.{panel}.width", "50mm")
    job = follow(job, write_anew(job, words, ["Newer"]))
    job = set_path(job, f"group.{names[3]}.angle", "12")
    for name in names:
        whole = thing_named(job, name)
        assert isinstance(whole, Group) and whole.angle == 12.0
        its_panel, its_words = whole.members
        assert its_panel.holds == HoldsPanel(ink="loden") and its_words.holds.paragraphs[0].text == "Newer"  # type: ignore[union-attr]  # blocks
        assert _box(job, its_panel.id).width == pytest.approx(50 * MM, abs=0.01)
    require_valid(decode(encode(job), "job"), "job")


def test_each_keeps_its_place_and_what_lies_in_it_moves_with_the_others() -> None:
    job, names = _spread_over(_job())
    last = thing_named(job, names[-1])
    assert isinstance(last, Group)
    away = put_in(
        put_in(job, last.members[0].id, Rect(240, 360, 340, 420)), last.members[1].id, Rect(250, 370, 330, 400)
    )
    job = follow(job, away)
    assert _box(job, "p").left == pytest.approx(40, abs=0.01)
    moved = follow(job, put_in(job, "w", Rect(55, 85, 135, 115)))
    for name in names:
        whole = thing_named(moved, name)
        assert isinstance(whole, Group)
        panel, words = (_box(moved, member.id) for member in whole.members)
        assert (words.left - panel.left, words.top - panel.top) == pytest.approx((15, 25), abs=0.02)
    assert _box(moved, last.members[0].id).left == pytest.approx(240, abs=0.02)


def test_what_one_differs_in_stays_its_own_until_it_no_longer_does() -> None:
    job, names = _spread_over(_job())
    second = thing_named(job, names[1])
    assert isinstance(second, Group)
    panel, words = (member.id for member in second.members)
    job = set_differences(job, words, "words")
    job = set_path(job, f"block.{panel}.differs", "Ink")
    assert found(job, f"block.{panel}.differs")[0].value == "ink"
    job = follow(job, write_anew(job, words, ["Page 5 alone"]))
    job = set_path(job, f"block.{panel}.ink", "dusk")
    assert block_named(job, "p").holds.ink == "straw" and block_named(job, "w").holds == CALL  # type: ignore[union-attr]  # a panel
    job = set_path(job, "block.p.ink", "loden")
    job = set_path(job, "block.p.opacity", "60")
    other = block_named(job, panel)
    assert (other.holds, other.opacity) == (HoldsPanel(ink="dusk"), 60.0)
    job = set_differences(job, panel, "")
    assert block_named(job, panel).holds == HoldsPanel(ink="loden")
    with pytest.raises(Problem, match="no “points” to differ in"):
        set_differences(job, words, "points")


def test_things_are_linked_and_unlinked_and_copies_are_by_themselves() -> None:
    job, (copy,) = double_things(_job(), ["g1"])
    assert linked_with(job, copy) == ()
    job = link(job, ["g1", copy])
    assert linked_with(job, "g1") == (copy,)
    job = unlink(job, copy)
    changed = set_path(job, "block.p.opacity", "20")
    assert {block.opacity for block in changed.pages[2].blocks} == {20.0, 100.0}
    with pytest.raises(Problem, match="alone"):
        link(job, ["g1"])
    single = with_page(job, replace(job.pages[4], things=(block_over("r", HoldsPanel()),)))
    with pytest.raises(Problem, match="one make"):
        link(single, ["g1", "r"])
    assert follow(job, job) is job


@given(st.integers(1, 6), st.integers(1, 6), st.floats(0, 30))
@settings(max_examples=25, deadline=None)
def test_a_repeat_lies_at_even_gaps(across: int, down: int, gap: float) -> None:
    job = _job()
    if across * down < 2:
        with pytest.raises(Problem, match="no room"):
            repeat_things(job, ["g1"], Repeat(1, 1, gap, False))
        return
    made, names = repeat_things(job, ["g1"], Repeat(across, down, gap, False))
    box = thing_box(job, 3, thing_named(job, "g1"))
    assert len(names) == across * down
    for at, name in enumerate(names):
        number = page_of_thing(made, name)[0] + 1
        there = thing_box(made, number, thing_named(made, name))
        wanted = (box.left + at % across * (box.width + gap), box.top + at // across * (box.height + gap))
        assert (there.left, there.top) == pytest.approx(wanted, abs=0.05)


def test_a_repeat_fills_the_text_area_and_is_read_as_typed() -> None:
    job = _job()
    made, names = repeat_things(job, ["g1"], parse_repeat("fill x fill, 5mm, linked", "mm"))
    area = page_frame_of(job, 3).area
    boxes = [thing_box(made, 3, thing_named(made, name)) for name in names]
    assert max(box.right for box in boxes) <= area[2] + 0.02 < max(box.right for box in boxes) + 100 + 5 * MM
    assert max(box.bottom for box in boxes) <= area[3] + 0.02 < max(box.bottom for box in boxes) + 60 + 5 * MM
    assert len(linked_with(made, "g1")) == len(names) - 1
    assert parse_repeat("3", "mm") == Repeat(3, 1, 0.0, False)
    assert parse_repeat("3 × 2, 1/4in, linked", "mm") == Repeat(3, 2, 18.0, True)
    for text in ("many", "3 x", "3, 2, 1", "500 x 1", ""):
        with pytest.raises(Problem):
            parse_repeat(text, "mm")
    with pytest.raises(Problem, match="400 are the most"):
        repeat_things(job, ["g1"], Repeat(300, 2, 0.0, False))
    with pytest.raises(Problem, match="already"):
        repeat_on_pages(job, ["g1"], "3")
