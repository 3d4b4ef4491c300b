"""Developing pictures: points, contrast, curves, hues, greys, tones of inks; looks; sets matched in L*a*b*."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path, set_paths
from half_fold.core.pictures.colour.colours import RANGES, format_hues, format_weights, parse_hues, parse_weights
from half_fold.core.pictures.colour.curves import curve_at, format_curve, parse_curve
from half_fold.core.pictures.colour.tonal import away, brought_to, middle_tone, tonal_figures
from half_fold.core.pictures.colour.treat import drawn_key, is_grey, parse_drawn_key, treated
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Art, Block, HoldsPicture, Hue, Picture, Publication, Treatment
from half_fold.core.publication.surgery import block_named
from half_fold.core.publication.validity import require_valid
from half_fold.core.spread.framing.matching import (
    develop_as_it_came,
    develop_pictures,
    farthest_off,
    keep_as_look,
    pictures_among,
    solved,
)
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.developed import treatment_of
from half_fold.core.store.codec import decode, encode

BLEED = Held(**{edge: Stop(kind="bleed") for edge in ("left", "top", "right", "bottom")})
_BY = st.floats(-100, 100)
EVERY = st.builds(
    Treatment,
    exposure=st.floats(-4, 4), contrast=_BY, black=st.floats(0, 60), white=st.floats(40, 100), warmth=_BY, tint=_BY,
    saturation=_BY, vibrance=_BY, grey=st.booleans(), faded=st.floats(0, 100), blur=st.floats(0, 50),
    kept=st.sampled_from(("", *RANGES)), toned_dark=st.sampled_from(("", "#102030")),
    hues=st.sampled_from(((), (Hue(range="greens", by=20.0),))),
    curve=st.sampled_from(((), ((25.0, 10.0), (75.0, 90.0)))),
)  # fmt: skip


def _one(red: int, green: int, blue: int) -> Image.Image:
    return Image.new("RGB", (4, 4), (red, green, blue))


def _after(colour: tuple[int, int, int], **how: object) -> tuple[int, ...]:
    made = treated(_one(*colour), Treatment(**how))  # type: ignore[arg-type]  # its own fields
    return made.convert("RGB").getpixel((0, 0))  # type: ignore[return-value]  # of three


def test_points_draw_tones_apart_by_hand() -> None:
    """Black from 20 per cent is 51 of 255, white from 80 is 204: 128 lies half way, 90 a quarter."""
    how = {"black": 20.0, "white": 80.0}
    assert _after((51, 51, 51), **how) == (0, 0, 0)
    assert _after((204, 204, 204), **how) == (255, 255, 255)
    assert _after((128, 128, 128), **how) == pytest.approx((128, 128, 128), abs=1)
    assert _after((89, 89, 89), **how) == pytest.approx((63, 63, 63), abs=1)


def test_contrast_leaves_both_ends_and_the_middle() -> None:
    for by in (100.0, -100.0):
        assert [_after((grey,) * 3, contrast=by)[0] for grey in (0, 255)] == [0, 255]
        assert _after((128, 128, 128), contrast=by)[0] == pytest.approx(128, abs=1)
    assert _after((64, 64, 64), contrast=100.0)[0] < 64 < _after((64, 64, 64), contrast=-100.0)[0]


@given(st.lists(st.tuples(st.integers(1, 99), st.integers(0, 100)), max_size=8, unique_by=lambda place: place[0]))
def test_a_curve_goes_through_its_places_and_rises_with_them(places: list[tuple[int, int]]) -> None:
    froms, tos = (sorted(float(place[i]) for place in places) for i in (0, 1))
    rising = tuple(zip(froms, tos, strict=True))
    for a, b in rising:
        assert curve_at(rising, np.array([a / 100]))[0] == pytest.approx(b / 100, abs=1e-9)
    made = curve_at(rising, np.linspace(0, 1, 401))
    assert (np.diff(made) >= -1e-9).all() and made[0] == 0 and made[-1] == 1
    assert parse_curve(format_curve(rising)) == rising


def test_a_curve_of_one_colour_leaves_the_others() -> None:
    assert _after((128, 128, 128), curve_red=((50.0, 70.0),)) == pytest.approx((178, 128, 128), abs=2)


def test_saturation_is_about_the_grey_that_the_eye_sees() -> None:
    grey = round(0.30 * 200 + 0.59 * 100 + 0.11 * 50)
    assert _after((200, 100, 50), saturation=-100.0) == pytest.approx((grey,) * 3, abs=2)
    assert _after((150, 100, 80), saturation=50.0)[0] > 150
    assert _after((90, 90, 90), saturation=100.0) == pytest.approx((90, 90, 90), abs=1)


def test_vibrance_moves_the_dull_more_than_the_full() -> None:
    dull, full = (120, 110, 100), (250, 60, 10)
    moved = [
        max(abs(a - b) for a, b in zip(_after(colour, vibrance=100.0), colour, strict=True))
        / (max(colour) - min(colour))
        for colour in (dull, full)
    ]
    assert moved[0] > 3 * moved[1]


def test_hues_turn_in_their_range_and_nowhere_else() -> None:
    green, red, grey = (60, 180, 60), (180, 50, 50), (120, 120, 120)
    turned = _after(green, hues=(Hue(range="greens", by=30.0),))
    assert turned[2] > green[2] + 20, "towards blue"
    for other in (red, grey):
        assert _after(other, hues=(Hue(range="greens", by=30.0),)) == pytest.approx(other, abs=2)
    luma = [0.30 * c[0] + 0.59 * c[1] + 0.11 * c[2] for c in (green, turned)]
    assert luma[1] == pytest.approx(luma[0], abs=4), "as light as it was"


def test_a_grey_weighs_colours_and_keeps_one() -> None:
    assert _after((200, 100, 0), grey=True, weights=(100.0, 0.0, 0.0)) == pytest.approx((200, 200, 200), abs=1)
    red = _after((200, 40, 30), grey=True, kept="reds")
    assert red[0] - red[2] > 120, "the scarf stays red"
    assert len(set(_after((40, 60, 190), grey=True, kept="reds"))) == 1


def test_tones_of_inks_run_from_the_dark_one_to_paper() -> None:
    how = {"grey": True, "toned_dark": "#102030", "toned_middle": "#a06040"}
    assert _after((0, 0, 0), **how) == pytest.approx((16, 32, 48), abs=1)
    assert _after((255, 255, 255), **how) == (255, 255, 255)
    assert _after((128, 128, 128), **how) == pytest.approx((160, 96, 64), abs=3)
    assert not is_grey(Treatment(grey=True, toned_dark="#102030")) and is_grey(Treatment(grey=True))


def test_fading_goes_to_paper_and_blur_is_told_by_the_whole_picture() -> None:
    assert _after((0, 100, 200), faded=50.0) == pytest.approx((128, 178, 228), abs=1)
    edge = Image.fromarray(np.repeat(np.array([[0] * 40 + [255] * 40], np.uint8), 40, 0)).convert("RGB")
    soft = np.asarray(treated(edge, Treatment(blur=20.0), longer=400))[20, :, 0]
    sharp = np.asarray(treated(edge, Treatment(blur=20.0), longer=80))[20, :, 0]
    assert (soft > 5).sum() - (sharp > 5).sum() > 5, "eight pixels of 400, and not of the 80 that are here"


def test_sharpening_is_done_at_the_final_size_alone() -> None:
    edge = Image.fromarray(np.repeat(np.array([[100] * 20 + [150] * 20], np.uint8), 20, 0)).convert("RGB")
    how = Treatment(sharpen=150.0)
    assert treated(edge, how).tobytes() == edge.tobytes()
    made = np.asarray(treated(edge, how, final_ppi=300))[10, :, 0]
    assert made.min() < 95 and made.max() > 155


@settings(deadline=None, max_examples=40)
@given(EVERY)
def test_a_part_is_treated_as_it_is_in_the_whole(treatment: Treatment) -> None:
    """But near its edges, where blur looks beyond them."""
    rng = np.random.default_rng(4)
    whole = Image.fromarray(rng.integers(0, 256, (90, 120, 3), np.uint8))
    large = np.asarray(treated(whole, treatment).convert("RGB"), np.int16)
    part = np.asarray(treated(whole.crop((20, 10, 100, 80)), treatment, longer=120).convert("RGB"), np.int16)
    inner = slice(25, -25)
    assert np.abs(part[inner, inner] - large[10:80, 20:100][inner, inner]).max(initial=0) <= 1


@given(EVERY)
def test_what_is_drawn_is_told_by_all_of_a_treatment(treatment: Treatment) -> None:
    assert parse_drawn_key(drawn_key("p", treatment)) == ("p", treatment if treatment != Treatment() else None)


@pytest.mark.parametrize(
    ("read", "text", "said"),
    [
        (parse_curve, "25 20, 20", "no place"),
        (parse_curve, "25 120", "0 to 100"),
        (parse_curve, "25 20, 25 30", "once"),
        (parse_hues, "teals 4", "no hue"),
        (parse_hues, "greens 90", "60 degrees"),
        (parse_hues, "greens 9, greens 4", "once"),
        (parse_weights, "1 2", "no weights"),
        (parse_weights, "-100 20 30", "cannot be"),
    ],
)
def test_what_cannot_be_is_said(read: object, text: str, said: str) -> None:
    with pytest.raises(Problem, match=said):
        read(text)  # type: ignore[operator]  # a reader


def test_hues_and_weights_are_read_as_they_are_said() -> None:
    hues = parse_hues("greens 12, blues -8.5")
    assert parse_hues(format_hues(hues)) == hues and format_hues(()) == ""
    assert parse_weights(format_weights((40.0, 50.0, 10.0))) == (40.0, 50.0, 10.0)
    assert parse_weights("") == (30.0, 59.0, 11.0)


# In a job -------------------------------------------------------------------------------------------


def _job(count: int = 3) -> Publication:
    job = start("magazine", "Developed")
    pictures = tuple(Picture(id=f"p{i}", file=f"p{i}.jpg", width=300, height=200, digest=f"d{i}") for i in range(count))
    blocks = tuple(Block(id=f"b{i}", place=BLEED, holds=HoldsPicture(picture=f"p{i}")) for i in range(count))
    job = replace(job, pictures=pictures)
    return replace(job, pages=(replace(job.pages[0], things=blocks), *job.pages[1:]))


def test_a_treatment_is_kept_as_a_look_and_changed_once_for_all() -> None:
    job = set_paths(_job(), ["block.b0.treatment.exposure=0.5", "block.b0.treatment.curve=25 20"])
    job = keep_as_look(job, "b0", "Frost")
    assert block_named(job, "b0").holds.treatment is None and block_named(job, "b0").look == "Frost"  # type: ignore[union-attr]
    job = set_path(job, "block.b1.look", "Frost")
    assert treatment_of(job, block_named(job, "b1")) == Treatment(exposure=0.5, curve=((25.0, 20.0),))
    job = set_path(job, "look.Frost.treatment.exposure", "1")
    assert [treatment_of(job, block_named(job, name)).exposure for name in ("b0", "b1")] == [1.0, 1.0]  # type: ignore[union-attr]
    own = set_path(job, "block.b1.treatment.contrast", "20")
    assert treatment_of(own, block_named(own, "b1")) == Treatment(contrast=20.0), "its own stands in its place"
    assert decode(encode(own), "own.halffold") == own
    with pytest.raises(Problem, match="as it came"):
        keep_as_look(job, "b2", "None")
    with pytest.raises(Problem, match="no other has"):
        keep_as_look(set_path(job, "block.b2.treatment.contrast", "9"), "b2", "Frost")


def test_an_ink_that_a_picture_is_toned_in_is_a_reference() -> None:
    job = set_paths(_job(), ["block.b0.treatment.grey=yes", "block.b0.treatment.toned_dark=dusk"])
    shown = treatment_of(job, block_named(job, "b0"))
    assert shown is not None and shown.toned_dark.startswith("#")
    renamed = set_path(job, "ink.dusk.name", "evening")
    assert block_named(renamed, "b0").holds.treatment.toned_dark == "evening"  # type: ignore[union-attr]
    require_valid(renamed, "renamed")
    lighter = set_path(job, "ink.dusk.black", "0")
    marks = [Setter().spread(each, spreads_of(each)[0]).marks for each in (job, lighter)]
    assert marks[0] != marks[1], "another colour of the ink is another picture"


# A set ----------------------------------------------------------------------------------------------


def _cast(image: Image.Image, rng: np.random.Generator) -> Image.Image:
    """The same picture taken in another light."""
    how = Treatment(
        exposure=float(rng.uniform(-0.8, 0.8)), warmth=float(rng.uniform(-70, 70)), tint=float(rng.uniform(-50, 50))
    )
    return treated(image, how)


def test_a_set_in_many_lights_comes_to_a_fifth_of_its_spread(demo_source: Path) -> None:
    rng = np.random.default_rng(9)
    names = ("pears-on-the-sill.jpg", "bowl-of-apples.jpg", "jars-on-the-shelf.jpg")
    base = [Image.open(demo_source / "pictures" / name).convert("RGB") for name in names]
    for image in base:
        image.thumbnail((160, 160))
    light = middle_tone([tonal_figures(image) for image in base])
    alike = [treated(image, brought_to(image, light, None)) for image in base]
    images = {f"b{i}": _cast(alike[i % 3], rng) for i in range(24)}
    job, every = _job(24), list(images)
    found = solved(job, images, every, "their middle", 1.0)
    after = develop_pictures(job, found)

    def spread(of: Publication) -> np.ndarray:
        told_now = [tonal_figures(treated(images[n], treatment_of(of, block_named(of, n)))) for n in every]
        return np.array([[t.mean, t.a, t.b] for t in told_now]).std(0)

    assert (spread(after) < spread(job) / 5).all(), (spread(job), spread(after))
    half = develop_pictures(job, solved(job, images, every, "their middle", 0.5))
    assert (spread(after) < spread(half)).all() and (spread(half) < spread(job)).all()


def test_the_farthest_of_a_set_is_told_first() -> None:
    images = {"b0": _one(120, 120, 120), "b1": _one(125, 118, 120), "b2": _one(200, 150, 90)}
    off = farthest_off(_job(), images, ["b0", "b1", "b2"])
    assert off[0][0] == "b2" and off[0][1] > 3 * off[1][1]
    assert away(tonal_figures(images["b0"]), tonal_figures(images["b0"])) == 0


def test_others_are_brought_to_the_last_chosen_which_stays() -> None:
    images = {"b0": _one(112, 116, 122), "b1": _one(138, 130, 122)}
    found = solved(_job(2), images, ["b0", "b1"], "the last chosen", 1.0)
    assert list(found) == ["b0"]
    assert away(tonal_figures(treated(images["b0"], found["b0"])), tonal_figures(images["b1"])) < 2
    with pytest.raises(Problem, match="One picture alone"):
        solved(_job(1), images, ["b0"], "their middle", 1.0)


def test_drawings_and_words_are_no_photographs() -> None:
    job = _job(2)
    job = replace(
        job, pictures=(replace(job.pictures[0], art=(Art(data="M0 0L1 1Z", colour="#000000"),)), job.pictures[1])
    )
    assert [block.id for block in pictures_among(job, ["b0", "b1", "gone"])] == ["b1"]
    treated_one = set_path(job, "block.b1.treatment.contrast", "20")
    assert develop_as_it_came(treated_one, "b1") == job
