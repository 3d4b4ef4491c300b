"""The running order: nothing is dropped, page 1 is a recto, moves are permutations."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import (
    add_pages,
    move_pages,
    pages_told,
    place_again,
    remove_pages,
    set_extent,
    set_page_master,
    set_runs,
)
from half_fold.core.plan.signatures import printed_sheets
from half_fold.core.plan.spreads import spreads
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsNothing, Publication
from half_fold.core.spread.edits import edits

MAGAZINE = set_extent(start("magazine", "Order"), 32)


def _ids(job: Publication) -> list[str]:
    return [page.id for page in job.pages]


def _with_block(job: Publication, page: int) -> Publication:
    pages = (page,)
    return edits.claim(
        job,
        (30, 60) if page % 2 else (-300, 60),
        (60, 90) if page % 2 else (-280, 90),
        pages,
        HoldsNothing(),
    )[0]


@pytest.mark.parametrize(
    ("count", "labels"), [(1, ["1"]), (2, ["1", "2"]), (4, ["1", "2–3", "4"]), (5, ["1", "2–3", "4–5"])]
)
def test_spreads_are_pairs(count: int, labels: list[str]) -> None:
    assert [spread.label for spread in spreads(count)] == labels


@pytest.mark.parametrize(
    ("binding", "pages", "spans"),
    [
        ("perfect", 48, [[(1, 16)], [(17, 32)], [(33, 48)]]),
        ("perfect", 44, [[(1, 16)], [(17, 24)], [(25, 28)], [(29, 44)]]),
        ("saddle", 32, [[(1, 8), (25, 32)], [(9, 24)]]),
        ("saddle", 28, [[(1, 8), (21, 28)], [(9, 12), (17, 20)], [(13, 16)]]),
        ("perfect", 18, [[(1, 16)], [(17, 18)]]),
    ],
)
def test_pages_that_share_a_sheet(binding: str, pages: int, spans: list[list[tuple[int, int]]]) -> None:
    """By hand: gathered sections follow one another, small ones before the last; stitched sheets lie inside."""
    job = set_extent(replace(MAGAZINE, brief=replace(MAGAZINE.brief, binding=binding)), pages)
    assert [list(sheet.spans) for sheet in printed_sheets(job)] == spans


@given(st.integers(1, 100), st.sampled_from(["perfect", "saddle"]))
def test_every_page_is_on_one_sheet(quarters: int, binding: str) -> None:
    job = set_extent(replace(MAGAZINE, brief=replace(MAGAZINE.brief, binding=binding)), 4 * quarters)
    on = [page for sheet in printed_sheets(job) for first, last in sheet.spans for page in range(first, last + 1)]
    assert sorted(on) == list(range(1, 4 * quarters + 1))
    letters = [sheet.letter for sheet in printed_sheets(job)]
    assert len(set(letters)) == len(letters)


@given(st.integers(1, 400))
def test_every_page_lies_on_one_spread(count: int) -> None:
    every = spreads(count)
    numbers = [n for spread in every for n in spread.numbers]
    assert numbers == list(range(1, count + 1))
    assert all(number in every[number // 2].numbers for number in numbers)
    assert all(spread.right is None or spread.right % 2 for spread in every)


@given(st.sets(st.integers(0, 31), min_size=1, max_size=6), st.integers(0, 32))
def test_moving_is_a_permutation_that_keeps_both_orders(indices: set[int], to: int) -> None:
    moved = _ids(move_pages(MAGAZINE, list(indices), to))
    before = _ids(MAGAZINE)
    picked = [before[i] for i in sorted(indices)]
    assert sorted(moved) == sorted(before)
    assert [p for p in moved if p in picked] == picked
    assert [p for p in moved if p not in picked] == [p for p in before if p not in picked]
    at = moved.index(picked[0])
    assert moved[at : at + len(picked)] == picked


def test_reducing_never_drops_content() -> None:
    job = _with_block(MAGAZINE, 31)
    fewer = set_extent(job, 20)
    assert len(fewer.pages) == 20 and [len(p.blocks) for p in fewer.unplaced] == [1]
    back = place_again(fewer, fewer.unplaced[0].id, 20)
    assert back.pages[20].blocks == job.pages[30].blocks and not back.unplaced


def test_new_pages_have_new_ids_and_the_master_before_them() -> None:
    job = add_pages(remove_pages(_with_block(MAGAZINE, 3), [2]), 4, 6)
    ids = [p.id for p in (*job.pages, *job.unplaced)]
    assert len(ids) == len(set(ids)) == 38
    assert job.pages[5].master == job.pages[3].master


def test_what_cannot_be_is_said() -> None:
    for act in (
        lambda: remove_pages(MAGAZINE, range(32)),
        lambda: move_pages(MAGAZINE, [40], 0),
        lambda: move_pages(MAGAZINE, [0], 99),
        lambda: add_pages(MAGAZINE, 50, 1),
        lambda: add_pages(MAGAZINE, 0, 5000),
        lambda: set_extent(MAGAZINE, 0),
        lambda: set_page_master(MAGAZINE, [0], "none such"),
        lambda: place_again(MAGAZINE, "p1", 0),
    ):
        with pytest.raises(Problem):
            act()


def test_what_runs_is_said_in_the_users_words() -> None:
    job = set_runs(MAGAZINE, 3, "  Letters   to the editor ")
    assert job.pages[3].runs == "Letters to the editor"
    assert replace(job.pages[3], runs="") == MAGAZINE.pages[3]


@pytest.mark.parametrize(
    ("numbers", "said"),
    [([5], "page 5"), ([5, 6], "pages 5 to 6"), ([4, 6, 7, 8, 9], "pages 4, 6 to 9"), ([1, 3, 5], "pages 1, 3, 5")],
)
def test_pages_are_told_in_runs(numbers: list[int], said: str) -> None:
    assert pages_told(numbers) == said
