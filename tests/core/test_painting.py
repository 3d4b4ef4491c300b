"""Masks painted stroke by stroke: what is added, what is taken away, how soft, how strong, how hard it is pressed."""

from pathlib import Path

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.region_words import format_region, parse_region
from half_fold.core.pictures.colour.regions import belongs
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Brushed, HoldsPicture, Oval, Publication, Treatment
from half_fold.core.publication.surgery import block_named, with_page
from half_fold.core.spread.framing.painting import Brush, Dab, paint_part, paint_seen, painted_mask, painted_over
from tests.blocks import block_over

Octets = npt.NDArray[np.uint8]
HARD = Brush(wide=0.1, soft=0.0)
ACROSS = [Dab(0.2, 0.5), Dab(0.8, 0.5)]


@pytest.fixture(scope="module")
def laid(tmp_path_factory: pytest.TempPathFactory) -> tuple[Publication, Path]:
    folder = tmp_path_factory.mktemp("job")
    (folder / "pictures").mkdir()
    Image.fromarray(np.full((300, 400, 3), 120, np.uint8)).save(folder / "grey.png")
    job, picture = bring_picture(start("magazine", "Plums"), folder / "pictures", folder / "grey.png")
    held = block_over("picture", HoldsPicture(picture=picture.id))
    return with_page(job, replace(job.pages[0], things=(held,))), folder / "pictures"


def _treatment(job: Publication) -> Treatment:
    holds = block_named(job, "picture").holds
    assert isinstance(holds, HoldsPicture) and holds.treatment is not None
    return holds.treatment


def _mask(job: Publication, folder: Path, index: int | None = None) -> Octets:
    mask = painted_mask(job, folder, block_named(job, "picture"), index)
    assert mask is not None
    return mask


def _at(mask: Octets, across: float, down: float) -> int:
    return int(mask[round(down * (mask.shape[0] - 1)), round(across * (mask.shape[1] - 1))])


def test_what_is_added_is_seen_and_what_is_taken_away_is_not(laid: tuple[Publication, Path]) -> None:
    job, folder = laid
    added = paint_seen(job, folder, "picture", ACROSS, HARD, away=False)
    assert _at(_mask(added, folder), 0.5, 0.5) == 255 and _at(_mask(added, folder), 0.5, 0.8) == 0
    cut = paint_seen(added, folder, "picture", [Dab(0.5, 0.3), Dab(0.5, 0.7)], HARD, away=True)
    mask = _mask(cut, folder)
    assert _at(mask, 0.5, 0.5) == 0 and _at(mask, 0.25, 0.5) == 255
    back = paint_seen(cut, folder, "picture", ACROSS, HARD, away=False)
    assert np.mean((_mask(back, folder) > 127) != (_mask(added, folder) > 127)) < 0.01, "but for its rim"


def test_to_take_away_first_begins_with_all_of_it(laid: tuple[Publication, Path]) -> None:
    job, folder = laid
    mask = _mask(paint_seen(job, folder, "picture", ACROSS, HARD, away=True), folder)
    assert _at(mask, 0.5, 0.5) == 0 and _at(mask, 0.5, 0.9) == 255


@settings(max_examples=20, deadline=None)
@given(strength=st.floats(0.1, 1.0))
def test_a_brush_of_some_strength_leaves_the_rest(laid: tuple[Publication, Path], strength: float) -> None:
    """Twice over a place: what is left of what was left."""
    job, folder = laid
    brush = HARD._replace(strength=strength)
    once = paint_seen(job, folder, "picture", ACROSS, brush, away=False)
    twice = paint_seen(once, folder, "picture", ACROSS, brush, away=False)
    assert _at(_mask(once, folder), 0.5, 0.5) == pytest.approx(255 * strength, abs=2)
    assert _at(_mask(twice, folder), 0.5, 0.5) == pytest.approx(255 * (1 - (1 - strength) ** 2), abs=3)


def test_a_soft_brush_fades_and_a_light_hand_is_narrow(laid: tuple[Publication, Path]) -> None:
    job, folder = laid
    soft = _mask(paint_seen(job, folder, "picture", ACROSS, Brush(wide=0.2, soft=1.0), away=False), folder)
    column = soft[:, soft.shape[1] // 2].astype(int)
    assert len({value for value in column if 10 < value < 245}) > 8 and np.all(np.diff(column[: len(column) // 2]) >= 0)
    light = [Dab(0.2, 0.5, 0.25), Dab(0.8, 0.5, 0.25)]
    narrow, wide = (
        _mask(paint_seen(job, folder, "picture", each, HARD, away=False), folder) for each in (light, ACROSS)
    )
    assert (narrow > 127).sum() == pytest.approx((wide > 127).sum() / 4, rel=0.3)


def test_a_part_that_is_treated_is_painted_on_and_keeps_its_treatment(laid: tuple[Publication, Path]) -> None:
    job, folder = laid
    once = paint_part(job, folder, "picture", 0, ACROSS, HARD, away=False)
    (area,) = _treatment(once).areas
    changed = replace(area, treatment=Treatment(exposure=-1.0))
    holds = block_named(once, "picture").holds
    assert isinstance(holds, HoldsPicture)
    held = block_over("picture", replace(holds, treatment=replace(_treatment(once), areas=(changed,))))
    twice = paint_part(
        with_page(job, replace(job.pages[0], things=(held,))), folder, "picture", 0, [Dab(0.5, 0.1)], HARD, away=False
    )
    (area,) = _treatment(twice).areas
    assert area.treatment.exposure == -1.0 and _at(_mask(twice, folder, 0), 0.5, 0.1) == 255
    assert len(_treatment(paint_part(twice, folder, "picture", 1, ACROSS, HARD, away=False)).areas) == 2


def test_any_other_region_is_painted_on_as_it_was(laid: tuple[Publication, Path]) -> None:
    job, folder = laid
    oval = Oval(middle=(0.5, 0.5), half=(0.3, 0.3), soft=0.0)
    made = painted_over(folder, job.pictures[0], oval, [Dab(0.05, 0.05)], HARD, away=False)
    image = Image.new("RGB", (400, 300))
    both, was = belongs(made, image, folder), belongs(oval, image, folder)
    assert both[15, 20] > 0.9 and was[15, 20] == 0
    assert np.abs(both[60:, 80:] - was[60:, 80:]).mean() < 0.02


def test_a_rim_is_moved_and_softened_in_words_and_stays_where_it_is_painted_on(laid: tuple[Publication, Path]) -> None:
    job, folder = laid
    plain = painted_over(folder, job.pictures[0], None, ACROSS, HARD, away=False)
    said = f"brush {plain.file} rim 20 soft 10"
    moved = parse_region(said)
    assert isinstance(moved, Brushed) and format_region(moved) == said
    image = Image.new("RGB", (400, 300))
    areas = [float(belongs(each, image, folder).sum()) for each in (plain, moved, replace(plain, rim=-20.0))]
    assert areas[2] < areas[0] < areas[1]
    again = painted_over(folder, job.pictures[0], moved, [Dab(0.5, 0.1)], HARD, away=False)
    assert (again.rim, again.soft) == (20.0, 10.0)
    with pytest.raises(Problem, match="no region"):
        parse_region(f"brush {plain.file} rim 900")


def test_what_is_locked_is_not_painted_on(laid: tuple[Publication, Path]) -> None:
    job, folder = laid
    locked = with_page(job, replace(job.pages[0], things=(replace(block_named(job, "picture"), locked=True),)))
    with pytest.raises(Problem, match="locked"):
        paint_seen(locked, folder, "picture", ACROSS, HARD, away=False)
    with pytest.raises(Problem, match="locked"):
        paint_part(locked, folder, "picture", 0, ACROSS, HARD, away=False)
