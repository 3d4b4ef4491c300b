"""The map of calm places: brute force on made-up grounds, and what no word may lie on."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.legibility.calm import calm_of
from half_fold.core.legibility.reading import read_surface
from half_fold.core.legibility.remedies import in_the_way, places
from half_fold.core.legibility.verdicts import GOOD
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import page_frame_of
from half_fold.core.store.job import open_job


def test_the_score_where_the_words_are_is_near_their_own(demo: Path) -> None:
    job = open_job(demo)
    told = read_surface(surface_of_side(job.publication, job.pictures, "outside", Setter()))
    calm = calm_of(told, "c4")
    assert calm is not None and calm.size[0] > 100
    x, y = hull(word.area for word in told.of("c4")).centre
    assert calm.at(x, y) == pytest.approx(told.score("c4"), rel=0.35)
    assert np.isnan(calm.at(1e6, 0)) and calm_of(told, "c1") is None  # a picture has no words


def test_no_place_lies_on_what_is_in_the_way_or_beyond_the_safe_zone(demo: Path) -> None:
    job = open_job(demo)
    sheet = surface_of_side(job.publication, job.pictures, "outside", Setter())
    calm = calm_of(read_surface(sheet), "c5")
    assert calm is not None
    boxes = list(in_the_way(sheet, "c5"))
    safe = [page_frame_of(sheet.publication, n).trim.grown(-sheet.job.brief.safe.pt) for n in sheet.spread.numbers]
    count = 0
    for row, column in np.argwhere(~np.isnan(calm.scores)):
        x, y = calm.left + (column + 0.5) * calm.cell, calm.top + (row + 0.5) * calm.cell
        own = Rect(x - calm.size[0] / 2, y - calm.size[1] / 2, x + calm.size[0] / 2, y + calm.size[1] / 2)
        assert not any(own.meets(box) for box in boxes)
        assert any(
            s.left <= own.left and own.right <= s.right and s.top <= own.top and own.bottom <= s.bottom for s in safe
        )
        count += 1
    assert count > 20
    covered = calm.covered
    assert covered.shape == calm.scores.shape and (covered >= np.nan_to_num(calm.scores)).all()
    assert (covered >= GOOD).sum() > (calm.scores >= GOOD).sum()


def test_a_subject_is_kept_clear_by_its_own_outline_not_by_its_block(demo: Path) -> None:
    job = open_job(demo)
    sheet = surface_of_side(job.publication, job.pictures, "outside", Setter())
    front = page_frame_of(sheet.publication, 3).trim
    bands = [box for box in in_the_way(sheet, "c5") if box.height < 20 and box.width > 5]
    assert len(bands) > 20 and all(box.width < 0.9 * front.width for box in bands)
    bare = replace(job.publication, pictures=tuple(replace(p, outline=()) for p in job.publication.pictures))
    whole = list(in_the_way(surface_of_side(bare, job.pictures, "outside", Setter()), "c5"))
    assert any(box.width > front.width and box.height > front.height for box in whole)


def test_another_place_is_found_beside_the_subject(demo: Path) -> None:
    job = open_job(demo)
    sheet = surface_of_side(job.publication, job.pictures, "outside", Setter())
    for each in places(sheet, "c11"):
        assert read_surface(sheet.changed(each.publication)).score("c11") >= GOOD
