"""A copy bound at the right is the mirror of one bound at the left, in its pages, its cover and its sheets."""

from pathlib import Path

import pikepdf
import pytest
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.apart.sides import edit_side, side_of
from half_fold.core.checks.run import check
from half_fold.core.cover.flat import CoverSetter, cover_flat
from half_fold.core.cover.template import barcode_area
from half_fold.core.drawing.marks import Shape
from half_fold.core.measure.entry import MM
from half_fold.core.plan.folding import is_proved
from half_fold.core.plan.settings import set_value
from half_fold.core.plan.signatures import imposed, printed_sheets
from half_fold.core.plan.spreads import on_right, spread_of, spreads_of
from half_fold.core.plan.starters import KINDS, start
from half_fold.core.publication.records import HoldsPanel, Publication
from half_fold.core.publication.surgery import every_block
from half_fold.core.spread.edits.edits import claim
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import block_box, page_frame_of, spread_area
from half_fold.core.store.job import read
from tests.conftest import judge


@pytest.fixture
def mirrored(magazine: Publication) -> Publication:
    return set_value(magazine, "bound", "right")


def test_rectos_lie_at_the_left(magazine: Publication, mirrored: Publication) -> None:
    assert [(s.left, s.right) for s in spreads_of(mirrored)[:3]] == [(1, None), (3, 2), (5, 4)]
    assert [s.label for s in spreads_of(mirrored)] == [s.label for s in spreads_of(magazine)]
    assert not on_right(mirrored, 1) and on_right(mirrored, 2)
    for number in (1, 2, 17, 32):
        here, there = page_frame_of(mirrored, number), page_frame_of(magazine, number)
        assert here.trim.left == -there.trim.right and here.trim.right == -there.trim.left
        assert [(-b, -a) for a, b in reversed(here.columns)] == [pytest.approx(span) for span in there.columns]
    assert spread_area(mirrored, spread_of(mirrored, 1)).right == 0


def test_a_block_belongs_to_the_page_under_it_and_keeps_its_place_in_a_mirror(mirrored: Publication) -> None:
    made, block = claim(mirrored, (-200.0, 100.0), (-100.0, 200.0), (2, 3), HoldsPanel())
    assert [b.id for b in made.pages[2].blocks] == [block] and not made.pages[1].blocks
    made, block = claim(mirrored, (100.0, 100.0), (700.0, 200.0), (2, 3), HoldsPanel())
    (right,) = made.pages[1].blocks
    assert right.place.right.kind == "bleed" and not right.place.right.facing
    found = check(set_value(made, "language", "he"), Setter(), None)
    assert [f.rule for f in found] == ["copy thickness"]  # 32 pages are thin; nothing else


def test_the_front_lies_at_the_left_of_the_flat(magazine: Publication, mirrored: Publication) -> None:
    flat, usual = cover_flat(mirrored), cover_flat(magazine)
    assert flat.front == usual.back and flat.back == usual.front and flat.folds == usual.folds
    place = barcode_area(mirrored, flat)
    assert place.left == pytest.approx(flat.back.left + 5 * MM) and place.right < flat.back.right
    panelled = edit_side(
        mirrored, "outside", lambda p: claim(p, (-300.0, 300.0), (-200.0, 400.0), (2, 3), HoldsPanel())[0]
    )
    assert len(panelled.cover.front) == len(mirrored.cover.front) + 1 and not panelled.cover.back
    assert side_of(panelled, "outside").pages[1].blocks == panelled.cover.front
    shapes = [
        m
        for m in CoverSetter(Setter()).marks(panelled).marks
        if isinstance(m, Shape) and m.origin.block.startswith("b")
    ]
    assert shapes and shapes[0].rect.right <= 0


def test_sheets_count_from_the_other_end(mirrored: Publication) -> None:
    sheet = printed_sheets(mirrored)[0]
    made, usual = imposed(sheet, right_bound=True), imposed(sheet)
    assert made is not None and usual is not None and is_proved(made.imposition)
    assert {p.page for row in made.front for p in row} | {p.page for row in made.back for p in row} == set(range(1, 17))
    first = sheet.pages[0] + sheet.pages[-1]
    assert [[first - p.page for p in row] for row in made.front] == [[p.page for p in row] for row in usual.front]


def test_a_folder_bound_at_the_right() -> None:
    from half_fold.core.plan.signatures import PrintedSheet

    made = imposed(PrintedSheet("A", ((1, 4),)), right_bound=True)
    assert made is not None and [[p.page for p in row] for row in made.front] == [[1, 4]]
    assert [[p.page for p in row] for row in made.back] == [[3, 2]]


@pytest.mark.parametrize("kind", KINDS)
def test_a_language_asks_for_a_side_only_where_a_copy_has_one(kind: str) -> None:
    found = [f.rule for f in check(set_value(start(kind, "Frost"), "language", "ar"), Setter(), None)]
    assert ("bound against reading" in found) == (kind not in ("one-sheet", "screen-cover"))


def test_it_is_pressed_and_says_its_direction(job: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["set", str(job), "bound=right", "pages=8"]) == 0
    assert read(job / "leaf.halffold").brief.right_bound
    assert main(["press", str(job), str(tmp_path / "p.pdf")]) == 0
    assert main(["press", str(job), str(tmp_path / "c.pdf"), "--part", "cover"]) == 0
    assert main(["proof", str(job), str(tmp_path / "s.png"), "--spread", "2"]) == 0
    for name in ("p.pdf", "c.pdf"):
        judge("qpdf", "--check", tmp_path / name)
    with pikepdf.open(tmp_path / "p.pdf") as pdf:
        assert pdf.Root.ViewerPreferences.Direction == "/R2L"
    assert main(["set", str(job), "bound=up"]) == 2


def test_the_demo_in_a_mirror(demo: Path) -> None:
    """Every block's rectangle is mirrored, none is lost, the checks find nothing, and turning back restores it."""
    job = read(demo / "graftwood.halffold")
    turned = set_value(job, "bound", "right")
    before = {b.id: block_box(job, index + 1, b) for index, _, b in every_block(job)}
    after = {b.id: block_box(turned, index + 1, b) for index, _, b in every_block(turned)}
    assert before.keys() == after.keys()
    for name, box in before.items():
        assert (after[name].left, after[name].right) == pytest.approx((-box.right, -box.left), abs=1e-6), name
    for number, page in enumerate(turned.pages, 1):
        assert all(on_right(turned, number) == (after[b.id].left >= -12) for b in page.blocks)
    assert check(set_value(turned, "language", "he"), Setter(), demo / "pictures") == []
    assert [f.rule for f in check(turned, Setter(), None)] == ["bound against reading"]
    back = set_value(turned, "bound", "left")
    assert {b.id: block_box(back, i + 1, b) for i, _, b in every_block(back)} == before
    assert {b.id for b in back.cover.front} == {b.id for b in job.cover.front}


def test_turning_back_changes_nothing(mirrored: Publication, magazine: Publication) -> None:
    assert replace(set_value(mirrored, "bound", "left"), papers=magazine.papers) == magazine
