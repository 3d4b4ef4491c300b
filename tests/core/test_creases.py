"""Words on creases, cuts and perforations of covers and bound-in leaves are found, and only those."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.core.apart.pair import LEFT, RIGHT
from half_fold.core.apart.sides import edit_side, sides_of
from half_fold.core.checks.crease_rules import creases
from half_fold.core.checks.finding import Finding
from half_fold.core.checks.run import check
from half_fold.core.cover.flat import side_flat
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.inserts import add_insert
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Publication
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.reaching import put_in
from tests.blocks import block_over

NAME = "creased"


def _found(job: Publication) -> list[Finding]:
    return [f for f in check(job, Setter(), Path("nowhere")) if f.rule == "words on a crease"]


def _with_words(job: Publication, side: str, page: int, columns: tuple[int, int], text: str) -> Publication:
    words = block_over(NAME, display_words("headline", text), columns, (2, 3))

    def put(own: Publication) -> Publication:
        old = own.pages[page - 1]
        pages = list(own.pages)
        pages[page - 1] = replace(old, things=(*old.things, words))
        return replace(own, pages=tuple(pages))

    return edit_side(job, side, put)  # type: ignore[arg-type]  # a side there is


@pytest.mark.parametrize(("page", "at"), [(LEFT, 220.0), (RIGHT, 217.0)])
def test_a_gatefold_is_folded_where_its_page_ends_on_either_face(page: int, at: float) -> None:
    """A page of 220 mm and 217 that fold in: from the left of the front 220, of the back 217."""
    job = add_insert(set_values(start("magazine", "Folded"), ["pages=48"]), 16, "gatefold")
    side = sides_of(job)[-1]
    lines = creases(job, side)
    assert [what for _, what in lines] == ["the fold of the leaf"] * 2
    flat = side_flat(job, side)
    trim = flat.front if page == LEFT else flat.back
    assert trim is not None and (lines[page - LEFT][0] - trim.left) / MM == pytest.approx(at, abs=0.02)
    assert not _found(_with_words(job, side, page, (0, 1), "Pears"))
    assert not _found(_with_words(job, side, page, (4, 5), "Pears"))
    (found,) = _found(_with_words(job, side, page, (0, 5), "Over the crease and far away, and unfolded"))
    assert found.message == "Words lie on the fold of the leaf" and found.place.startswith("Gatefold")
    assert not found.stops_press and found.page == page and found.side == side


def test_a_card_is_torn_along_its_lines() -> None:
    job = add_insert(set_values(start("magazine", "Torn"), ["pages=48"]), 16, "card")
    side = sides_of(job)[-1]
    told = creases(job, side)
    assert told and {what for _, what in told} <= {"the cut", "a perforation"}
    (found,) = _found(_with_words(job, side, LEFT, (0, 5), "Words over all of the card and its lines, torn in two"))
    assert found.message in ("Words lie on the cut", "Words lie on a perforation")


def test_a_flap_and_a_spine_have_folds_and_words_beside_them_are_well() -> None:
    job = set_values(start("book", "Flapped"), ["pages=200", "flap=90mm"])
    assert {what for _, what in creases(job, "outside")} == {"the fold of the spine", "the fold of a flap"}
    assert not _found(_with_words(job, "outside", RIGHT, (0, 3), "Pears"))


def test_words_moved_over_the_fold_of_a_flap_are_found_and_beside_it_are_not() -> None:
    job = set_values(start("book", "Flapped"), ["pages=200", "flap=90mm"])
    job = _with_words(job, "outside", RIGHT, (0, 3), "Pears")
    fold = max(x for x, what in creases(job, "outside") if "flap" in what)
    for left, lies in ((fold - 30, True), (fold - 250, False), (fold + 20, False)):
        moved = edit_side(job, "outside", lambda own, left=left: put_in(own, NAME, Rect(left, 200, left + 150, 300)))
        assert bool(_found(moved)) == lies, left


def test_a_cover_of_two_pages_has_no_crease_but_its_fold() -> None:
    job = set_values(start("magazine", "Bare"), ["pages=16", "binding=saddle"])
    assert all(not creases(job, side) for side in sides_of(job))
