"""Where pages lie on printed sheets: hand-worked booklets, room between pages, folds, and the step on the spine."""

import pytest

from half_fold.core.measure.entry import MM
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.sheet_layout import SheetSide, is_folded, sheet_spine, sides
from half_fold.core.plan.signatures import printed_sheets
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Publication


def _job(*values: str, kind: str = "magazine") -> Publication:
    return set_values(start(kind, "Sheets"), ["trim=200x280mm", "bleed=3mm", *values])


def _sides(job: Publication) -> list[tuple[SheetSide, SheetSide]]:
    return [made for sheet in printed_sheets(job) if (made := sides(job, sheet)) is not None]


def _rows(side: SheetSide) -> list[list[int]]:
    tops = sorted({cell.trim.top for cell in side.cells})
    return [[c.page for c in sorted(side.cells, key=lambda c: c.trim.left) if c.trim.top == top] for top in tops]


def test_a_half_fold_booklet_lies_as_worked_by_hand() -> None:
    """Outer sheet front [n | 1], back [2 | n - 1], and so on inwards."""
    found = _sides(_job("binding=saddle", "pages=8", "signature=4"))
    assert [(_rows(front), _rows(back)) for front, back in found] == [([[8, 1]], [[2, 7]]), ([[6, 3]], [[4, 5]])]


def test_one_bound_at_the_right_is_its_mirror() -> None:
    ((front, back),) = _sides(_job("binding=saddle", "pages=4", "signature=4", "bound=right"))
    assert (_rows(front), _rows(back)) == ([[1, 4]], [[3, 2]])


def test_pages_of_a_stitched_sheet_meet_at_the_fold_and_nothing_is_milled() -> None:
    ((front, _),) = _sides(_job("binding=saddle", "pages=4", "signature=4"))
    left, right = sorted(front.cells, key=lambda cell: cell.trim.left)
    assert left.trim.right == pytest.approx(right.trim.left) == pytest.approx(front.upright[0])
    assert (front.trim.width / MM, front.trim.height / MM) == pytest.approx((400, 280))


def test_sixteen_pages_keep_bleed_at_cuts_a_head_trim_and_what_is_milled() -> None:
    """Perfect bound, four across and two down: 4 x 200 + 2 x 6 milled + 6 between fore edges; 2 x 280 + 6 at heads."""
    front, back = _sides(_job("binding=perfect", "pages=16", "signature=16"))[0]
    for side in (front, back):
        assert (side.trim.width / MM, side.trim.height / MM) == pytest.approx((818, 566))
        assert len(side.upright) == 3 and len(side.lying) == 1
        assert sorted(cell.turned for cell in side.cells) == [0] * 4 + [180] * 4
    assert sorted(cell.page for side in (front, back) for cell in side.cells) == list(range(1, 17))


def test_heads_are_trimmed_where_there_is_no_bleed() -> None:
    front, _ = _sides(_job("binding=sewn", "pages=16", "signature=16", "bleed=0"))[0]
    assert (front.trim.width / MM, front.trim.height / MM) == pytest.approx((800, 566))


@pytest.mark.parametrize("binding", ["perfect", "sewn", "burst", "case"])
@pytest.mark.parametrize("size", [4, 8, 16, 32])
def test_first_and_last_page_meet_at_the_spine_of_every_gathered_sheet(binding: str, size: int) -> None:
    job = _job(f"binding={binding}", f"pages={2 * size}", f"signature={size}")
    for front, _ in _sides(job):
        spine = sheet_spine(front)
        ends = [cell for cell in front.cells if cell.page in (front.sheet.pages[0], front.sheet.pages[-1])]
        if ends[0].turned in (90, 270):  # folded sideways: the spine lies across
            assert spine is None
            continue
        assert spine is not None and spine[0] in front.upright
        near = [min(abs(cell.trim.left - spine[0]), abs(cell.trim.right - spine[0])) for cell in ends]
        assert near == pytest.approx([3 * MM if binding == "perfect" else 0] * 2)


def test_what_is_loose_mounted_or_not_bound_is_not_folded() -> None:
    assert not is_folded(_job("binding=coil", "pages=24"))
    assert not is_folded(set_values(start("photo-book", "Boards"), ["binding=boards"]))
    assert not is_folded(start("one-sheet", "Poster"))
    assert is_folded(_job("binding=saddle", "pages=8"))


def test_what_no_usual_folding_makes_has_no_sides() -> None:
    job = _job("binding=perfect", "pages=18", "signature=16")
    assert [len(sheet.pages) for sheet in printed_sheets(job)] == [16, 2]
    assert len(_sides(job)) == 1


def test_a_stitched_copy_chooses_how_many_pages_a_sheet_has() -> None:
    """The row was there for gathered copies alone: a booklet of four-page sheets was to be had by the file alone."""
    from half_fold.core.brief.properties import BY_KEY

    applies = BY_KEY["signature"].applies
    assert applies(_job("binding=saddle", "pages=8")) and applies(_job("binding=perfect"))
    assert not applies(set_values(start("magazine", "Leaflet"), ["binding=single", "pages=4"]))
    assert not applies(_job("binding=coil", "pages=24"))
