"""Trials of the cover: pixels held against published and hand-worked figures, and against the cover itself."""

import math
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.cover.trials import eye
from half_fold.core.cover.trials.bound import bound_copy
from half_fold.core.cover.trials.neighbours import NEIGHBOURS, front_of, neighbour_spine
from half_fold.core.cover.trials.places import SMALL, list_on_screen, rack, resample
from half_fold.core.cover.trials.seen import Seen, seen_cover
from half_fold.core.cover.trials.trial import TRIALS, tried
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import open_job

WIDE, HIGH = 640, 420


@pytest.fixture(scope="module")
def seen(demo_source: Path) -> Seen:
    job = open_job(demo_source)
    return seen_cover(job.publication, job.pictures, Setter())


def test_a_cover_in_the_light_is_as_large_as_it_is_and_in_its_own_ink(seen: Seen) -> None:
    assert seen.size == pytest.approx((220, 285)) and seen.thick == pytest.approx(5.0)
    high, wide = seen.front.shape[:2]
    assert (wide, high) == pytest.approx((220 * seen.scale, 285 * seen.scale), abs=1)
    assert (
        seen.back is not None and seen.spine is not None and seen.spine.shape[1] == pytest.approx(5 * seen.scale, abs=1)
    )
    ground = seen.back[300, 20].astype(int)  # loden: green, and darker on its paper than on the screen
    assert ground[1] > ground[0] + 20 and ground[1] > ground[2]


def test_published_matrices_leave_greys_and_turn_red_and_green_alike() -> None:
    greys = np.repeat(np.arange(0, 256, 15, dtype=np.uint8)[:, None, None], 3, axis=2)
    for name in eye.WITHOUT:
        assert np.abs(eye.without_cones(greys, name).astype(int) - greys).max() <= 2
        assert eye.WITHOUT[name].sum(axis=1) == pytest.approx([1, 1, 1], abs=1e-5)
    red, green = (np.array([[each]], np.uint8) for each in ((190, 60, 40), (90, 120, 40)))
    before = np.abs(red.astype(int) - green).sum()
    after = np.abs(
        eye.without_cones(red, "no green cones").astype(int) - eye.without_cones(green, "no green cones")
    ).sum()
    assert after < before / 2


def test_grey_has_the_lightness_of_the_colour() -> None:
    from half_fold.core.pictures.colour.colour import lab_of_picture

    colours = np.array([[(200, 40, 40), (40, 140, 60), (20, 30, 160), (250, 220, 60)]], np.uint8)
    grey = eye.in_grey(colours)
    assert (grey[..., 0] == grey[..., 1]).all()
    lights = [lab_of_picture(Image.fromarray(each))[..., 0] for each in (colours, grey)]
    assert np.abs(lights[0] - lights[1]).max() < 1.2


def test_letters_are_known_from_where_five_minutes_say() -> None:
    assert eye.least_letter(6000) == pytest.approx(6000 * math.tan(math.radians(5 / 60)))
    assert eye.least_letter(6000) == pytest.approx(8.73, abs=0.01)  # the letter of the chart that is read at six metres
    assert eye.farthest(eye.least_letter(1234.0)) == pytest.approx(1234)


def test_from_afar_stripes_finer_than_a_minute_are_gone_and_broad_ones_stay() -> None:
    scale, away = 10.0, 3000.0
    minute = away * math.tan(eye.MINUTE) * scale  # in pixels
    for width, is_left in ((0.5 * minute, False), (4 * minute, True)):
        stripes = ((np.arange(400) // max(1, round(width))) % 2 * 255).astype(np.uint8)
        pixels = np.repeat(np.repeat(stripes[None, :, None], 40, axis=0), 3, axis=2)
        left = eye.from_afar(pixels, scale, away)[20, 100:300, 0].astype(float)
        assert (np.ptp(left) > 200) == is_left
        assert is_left or np.ptp(left) < 60
    assert eye.from_afar(pixels, 1.0, 300.0) is pixels  # nothing to lose


def test_light_is_coded_and_read_back() -> None:
    every = np.arange(256, dtype=np.uint8)[None, :, None].repeat(3, axis=2)
    assert (eye.coded(eye.linear(every)) == every).all()


def _shift_of(canvas: np.ndarray, part: np.ndarray) -> float:
    """The least mean difference of a part laid anywhere on a canvas, by its own rows: brute force in strides."""
    high, wide = part.shape[:2]
    windows = np.lib.stride_tricks.sliding_window_view(canvas[..., 1].astype(np.int16), (high, wide))
    strip = windows[:, ::1]
    return float(np.abs(strip[:, :, ::4, ::4] - part[::4, ::4, 1].astype(np.int16)).mean(axis=(2, 3)).min())


def test_a_rack_shows_the_top_quarter_of_ours_and_no_more(seen: Seen) -> None:
    canvas = rack(seen, WIDE, HIGH)
    for count in range(3, 9):
        across = WIDE // count - 16
        tall = round(across * 285 / 220)
        shown = round(tall * 0.25)
        ours = resample(seen.front, across, tall)
        if _shift_of(canvas, ours[:shown]) < 0.5:
            assert _shift_of(canvas, ours[shown : 2 * shown]) > 5
            return
    raise AssertionError("ours is nowhere on the rack")


def test_a_list_shows_it_pixel_for_pixel_at_both_sizes(seen: Seen) -> None:
    canvas = list_on_screen(seen, 900, 520)
    for across in SMALL:
        small = resample(seen.on_screen, across, round(across * 285 / 220))
        assert _shift_of(canvas, small) == 0


def test_neighbours_are_made_up_all_differ_and_are_as_large_as_asked() -> None:
    fronts = [front_of(n, 120, 160) for n in range(len(NEIGHBOURS))]
    assert {front.shape for front in fronts} == {(160, 120, 3)}
    means = {tuple(front.reshape(-1, 3).mean(axis=0).round().astype(int)) for front in fronts}
    assert len(means) == len(NEIGHBOURS)
    assert neighbour_spine(2, 14, 300).shape == (300, 14, 3)


@pytest.mark.parametrize("how", ["standing", "lying", "open"])
def test_a_copy_in_perspective_is_thicker_with_a_thicker_spine(seen: Seen, how: str) -> None:
    thick = bound_copy(seen, how, WIDE, HIGH, (None, None))
    assert thick.shape == (HIGH, WIDE, 3) and thick.std() > 10
    corner = thick[:5, :5].reshape(-1, 3).mean(axis=0)
    assert np.ptp(corner) < 6  # nothing of the copy, and no tint
    assert np.array_equal(thick, bound_copy(seen, how, WIDE, HIGH, (None, None)))


def test_every_trial_shows_something_or_says_why_not(demo_source: Path) -> None:
    job, setter = open_job(demo_source), Setter()
    for trial in TRIALS:
        if trial.name == "jacket":
            with pytest.raises(Problem, match="no jacket"):
                tried(job.publication, job.pictures, setter, trial.name, WIDE, HIGH)
            continue
        made = tried(job.publication, job.pictures, setter, trial.name, WIDE, HIGH)
        assert made.pixels.shape == (HIGH, WIDE, 3) and made.pixels.std() > 5 and made.figures
    with pytest.raises(Problem, match="rack, list"):
        tried(job.publication, job.pictures, setter, "moon", WIDE, HIGH)


def test_figures_count_the_lines_that_hold(demo_source: Path) -> None:
    job = open_job(demo_source)
    made = tried(job.publication, job.pictures, Setter(), "shop", WIDE, HIGH)
    shop = {name: (value, how) for name, value, how in made.figures}
    assert shop["Smallest letter"][0] == "4.36 mm" and "“Graftwood”" in shop["Made out"][1]
    assert "immortal" in shop["Lost"][1]


@pytest.mark.parametrize(
    ("kind", "settings"),
    [
        ("book", ["binding=case", "jacket=silk 130"]),
        ("magazine", ["binding=saddle"]),
        ("photo-book", []),
        ("catalogue", []),
    ],
)
def test_other_jobs_are_tried_too(kind: str, settings: list[str], tmp_path: Path) -> None:
    try:
        job = set_values(start(kind, "Long Acre"), settings)
    except Problem:
        job = set_values(start(kind, "Long Acre"), settings[:1])
    for trial in TRIALS:
        try:
            made = tried(job, tmp_path, Setter(), trial.name, WIDE, HIGH)
        except Problem as problem:
            assert trial.name in ("jacket", "shelf") and str(problem).endswith(".")
            continue
        assert made.pixels.shape == (HIGH, WIDE, 3)


def test_a_copy_bound_at_the_right_shows_its_spine_at_the_right(demo_source: Path) -> None:
    job = open_job(demo_source)
    turned = replace(job.publication, brief=replace(job.publication.brief, right_bound=True))
    seen = seen_cover(turned, job.pictures, Setter())
    made = bound_copy(seen, "standing", WIDE, HIGH, (None, None))
    usual = bound_copy(seen_cover(job.publication, job.pictures, Setter()), "standing", WIDE, HIGH, (None, None))
    assert not np.array_equal(made, usual) and made.std() > 10


def test_a_self_cover_job_has_nothing_to_try(magazine: object) -> None:
    job = replace(magazine, brief=replace(magazine.brief, cover_paper="none", binding="saddle"))  # type: ignore[type-var, attr-defined]
    with pytest.raises(Problem, match="its own cover"):
        tried(job, Path("."), Setter(), "rack", WIDE, HIGH)


def test_the_command_line_keeps_a_png_and_says_the_figures(
    demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out = tmp_path / "rack.png"
    assert main(["trial", str(demo), str(out), "--as", "rack", "--wide", "800"]) == 0
    assert Image.open(out).size == (800, 500) and "In view: 71.3 mm" in capsys.readouterr().out
    assert main(["trial", str(demo), str(out), "--as", "moon"]) == 2
    assert main(["trial", str(demo), str(out), "--wide", "9"]) == 2
    assert "half-fold: " in capsys.readouterr().err
