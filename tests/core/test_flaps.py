"""Flaps: worked on as pages of their own, drawn where they lie on the flat, pressed with it."""

from pathlib import Path

import pytest
from PIL import Image

from half_fold.core.apart.pair import LEFT, RIGHT
from half_fold.core.apart.sides import edit_side, page_name, side_of, sides_of, spread_of_side
from half_fold.core.checks.run import check
from half_fold.core.cover.flat import cover_flat, cover_marks
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.drawing.affine import turned
from half_fold.core.drawing.changes import bounds, moved
from half_fold.core.drawing.marks import Glyphs, MarkGroup, Shape, leaves
from half_fold.core.drawing.planes import Layer
from half_fold.core.drawing.tone import Tone
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import found, set_paths
from half_fold.core.plan.bound_side import bind_at
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.records import HoldsDisplay, HoldsPanel, Paragraph, Publication, Run
from half_fold.core.spread.edits.edits import claim
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import page_frame_of
from tests.conftest import judge


@pytest.fixture
def jacketed() -> Publication:
    job = set_paths(start("book", "The Pruning Year"), ["plan.pages=160"])
    return set_paths(job, ["brief.flap=90mm"])


def _blurb(text: str) -> HoldsDisplay:
    return HoldsDisplay(paragraphs=(Paragraph(role="body", runs=(Run(text=text),)),))


def _on_flap(job: Publication, number: int, holds: object) -> tuple[Publication, str]:
    """Something over the whole of a flap's fields."""
    made = ""

    def edit(side: Publication) -> Publication:
        nonlocal made
        area = page_frame_of(side, number).area
        first, last = (area.left + 1, area.top + 1), (area.right - 1, area.bottom - 1)
        side, made = claim(side, first, last, (LEFT, RIGHT), holds)  # type: ignore[arg-type]
        return side

    return edit_side(job, "flaps", edit), made


def test_a_job_has_flaps_where_its_cover_folds_in(jacketed: Publication) -> None:
    assert sides_of(jacketed) == ("outside", "inside", "flaps")
    assert sides_of(set_paths(jacketed, ["brief.flap=none"])) == ("outside", "inside")
    assert page_name(jacketed, "flaps", LEFT) == "back flap"
    side = side_of(jacketed, "flaps")
    assert page_frame_of(side, LEFT).trim.width == pytest.approx(90 * MM)
    flat = cover_flat(jacketed).moved(cover_flat(jacketed).front.width)
    for number, flap in zip((LEFT, RIGHT), flat.flaps, strict=True):
        trim = page_frame_of(side, number).trim
        assert tuple(trim) == pytest.approx(tuple(flap), abs=0.01)


def test_what_lies_on_a_flap_is_drawn_there_and_pressed_there(jacketed: Publication, tmp_path: Path) -> None:
    job, panel = _on_flap(jacketed, RIGHT, HoldsPanel(ink="black"))
    flat = cover_flat(job)
    box = next(bounds(m) for m in cover_marks(job).marks if m.origin.block == panel)
    flap = flat.flaps[1]
    assert flap.left < box.left < box.right < flap.right and job.cover.front_flap[0].id == panel
    shown = next(bounds(m) for m in cover_marks(job, "flaps").marks if m.origin.block == panel)
    assert shown.left - box.left == pytest.approx(flat.front.width)
    pdf = tmp_path / "cover.pdf"
    press(job, tmp_path, pdf, part="cover")
    judge("pdftoppm", "-r", "72", "-gray", "-png", "-singlefile", pdf, tmp_path / "cover")
    image = Image.open(tmp_path / "cover.png").convert("L")
    x, y = box.centre
    at = round(x - flat.trim.left + flat.bleed), round(y + flat.bleed)
    assert image.getpixel(at) < 80  # type: ignore[operator]
    assert image.getpixel((at[0] - round(flap.width), at[1])) > 120  # type: ignore[operator]


def test_words_on_a_flap_keep_their_overprint_and_are_read_and_checked(jacketed: Publication, tmp_path: Path) -> None:
    job, words = _on_flap(jacketed, LEFT, _blurb("Twelve months of ladders, saws and cold hands. " * 3))
    runs = [m for m in cover_marks(job).marks if isinstance(m, Glyphs) and m.origin.block == words]
    assert runs and all(m.turn is None for m in runs)  # as they would lie on a page: nothing is grouped
    sheet = surface_of_side(job, tmp_path, "flaps", Setter())
    assert any(m.origin.block == words for m in leaves(sheet.marks().marks))
    assert found(job, f"block.{words}.name")
    long, block = _on_flap(jacketed, LEFT, _blurb("Too much for a flap. " * 900))
    assert [f for f in check(long, Setter(), tmp_path) if f.block == block and f.side == "flaps"]


def test_flaps_follow_the_spine_and_the_side_that_is_bound(jacketed: Publication) -> None:
    job, panel = _on_flap(jacketed, RIGHT, HoldsPanel(ink="black"))
    before = next(bounds(m) for m in cover_marks(job).marks if m.origin.block == panel)
    thick = set_paths(job, ["brief.spine=30mm"])
    after = next(bounds(m) for m in cover_marks(thick).marks if m.origin.block == panel)
    by = cover_flat(thick).front.left - cover_flat(job).front.left
    assert after.left - before.left == pytest.approx(by) and after.width == pytest.approx(before.width)
    turned_round = bind_at(job, True)
    box = next(bounds(m) for m in cover_marks(turned_round).marks if m.origin.block == panel)
    flat = cover_flat(turned_round)
    assert flat.flaps[0].left < box.left < box.right < flat.flaps[0].right  # the front's flap is at the left now


def test_a_leaf_alone_is_one_page() -> None:
    job = set_paths(start("magazine", "Graftwood"), ["plan.pages=96", "brief.gatefold=yes"])
    assert "flaps" in sides_of(job)
    spread = spread_of_side(job, "flaps")
    assert (spread.left, spread.right) == (None, RIGHT)
    made, panel = _on_flap(job, RIGHT, HoldsPanel(ink="black"))
    leaf = cover_flat(made).leaf
    box = next(bounds(m) for m in cover_marks(made).marks if m.origin.block == panel)
    assert leaf is not None and leaf.left < box.left < box.right < leaf.right


def test_flaps_have_an_ink_of_their_own(jacketed: Publication) -> None:
    made = set_paths(jacketed, ["cover.flap_ink=black"])
    grounds = [m for m in cover_marks(made).marks if isinstance(m, Shape) and m.origin.kind == "cover"]
    flat = cover_flat(made)
    assert len(grounds) == 3
    assert grounds[1].rect.left == flat.trim.left - flat.bleed and grounds[2].rect.right == flat.trim.right + flat.bleed
    assert grounds[1].rect.right == pytest.approx(flat.flaps[0].right)


def test_marks_that_are_moved_are_the_same_ink_elsewhere(demo: Path) -> None:
    """Every kind of mark of the demo's cover, turned ones and groups too, in planes: shifted by whole pixels."""
    from half_fold.core.legibility.grounds import sources_of
    from half_fold.core.pictures.colour.colour import COATED, shipped_profile
    from half_fold.core.store.job import open_job

    job = open_job(demo)
    marks = cover_marks(job.publication)
    mask = MarkGroup((Shape(Rect(25, 25, 55, 55), Tone(0, 0, 0, 1)),))
    inner = (Shape(Rect(20, 20, 60, 60), Tone(0, 1, 0, 0)),)
    group = MarkGroup(inner, opacity=0.5, affine=turned((40, 40), 20), mask=mask)
    every = (*marks.marks, group)
    sources = sources_of(job.pictures, job.publication.pictures, shipped_profile(COATED))
    area, by = Rect(-100, 0, 300, 300), 72.0
    before = Layer(area, 0.5, sources).lay(every).inks
    after = Layer(area.moved(by, 0), 0.5, sources).lay(tuple(moved(every, by))).inks
    assert abs(before - after).max() < 0.02


def test_ids_are_new_on_flaps_too(jacketed: Publication) -> None:
    job, first = _on_flap(jacketed, RIGHT, HoldsPanel(ink="black"))
    job, second = _on_flap(job, LEFT, HoldsPanel(ink="black"))
    assert first != second
