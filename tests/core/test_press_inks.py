"""Pictures in the inks of the press: the table against LittleCMS itself, and totals held to what a paper takes."""

import io
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image, ImageCms

from half_fold.core.compiled import compiling
from half_fold.core.pictures.colour import press_table
from half_fold.core.pictures.colour.colour import COATED, UNCOATED, as_printed, shipped_profile
from half_fold.core.pictures.colour.ink_total import change_by, held_to
from half_fold.core.pictures.colour.press_inks import to_press
from half_fold.core.pictures.colour.treat import is_of_colours, keeps_greys, treated
from half_fold.core.pictures.library.on_screen import octets_shown
from half_fold.core.publication.records import Hue, Picture, Slope, Treatment
from tests.pictures import RGB_PROFILE

PROFILES = {name: shipped_profile(name) for name in (COATED, UNCOATED)}
LOOKS = {
    "as it is": None,
    "light": Treatment(exposure=0.7, contrast=35, black=4, white=95, faded=10),
    "cast": Treatment(warmth=40, tint=-20, curve=((0, 0), (30, 22), (100, 100)), curve_blue=((0, 5), (100, 90))),
    "colours": Treatment(saturation=-30, vibrance=50, hues=(Hue(range="greens", by=25),)),
    "toned": Treatment(grey=True, toned_dark="#202a44", toned_light="#f4ead2"),
}


@pytest.fixture(autouse=True)
def _compiled(monkeypatch: pytest.MonkeyPatch) -> None:
    compiling.load()
    assert compiling.is_loaded()
    monkeypatch.setattr(press_table, "WORTHWHILE", 0)


def _every_colour() -> Image.Image:
    """Each fifteenth step of each colour, steps beside them, and all greys."""
    steps = np.array([0, 1, 7, 15, 33, 51, 64, 77, 98, 119, 128, 143, 165, 187, 200, 221, 240, 254, 255], np.uint8)
    blue, green, red = np.meshgrid(steps, steps, steps, indexing="ij")
    colours = np.stack([red, green, blue], -1).reshape(-1, 3)
    greys = np.repeat(np.arange(256, dtype=np.uint8)[:, None], 3, 1)
    every = np.concatenate([colours, greys])
    return Image.fromarray(every[None])


def _lab(inks: Image.Image, profile: bytes) -> np.ndarray:
    """By LittleCMS, from 8 bits."""
    shown = ImageCms.profileToProfile(
        inks, ImageCms.getOpenProfile(io.BytesIO(profile)), ImageCms.createProfile("LAB"), outputMode="LAB"
    )
    octets = np.asarray(shown)[0]
    return np.stack([octets[:, 0] / 2.55, octets[:, 1].view(np.int8), octets[:, 2].view(np.int8)], 1).astype(float)


@pytest.mark.parametrize("look", LOOKS)
@pytest.mark.parametrize("source", ["sRGB", "wide"])
@pytest.mark.parametrize("name", PROFILES)
def test_the_table_says_what_littlecms_says(name: str, source: str, look: str) -> None:
    """Of every kind of colour, treated and not: within what 8 bits can tell, and no grey gets a cast."""
    if source == "wide" and look != "as it is":
        return  # what is treated is in sRGB
    image, profile = _every_colour(), PROFILES[name]
    if source == "wide":
        image.info["icc_profile"] = RGB_PROFILE
    before = ImageCms.getOpenProfile(io.BytesIO(RGB_PROFILE)) if source == "wide" else ImageCms.createProfile("sRGB")
    by_hand = ImageCms.buildTransform(
        before, ImageCms.getOpenProfile(io.BytesIO(profile)), "RGB", "CMYK",
        ImageCms.Intent.RELATIVE_COLORIMETRIC, flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
    )  # fmt: skip
    wanted = ImageCms.applyTransform(treated(image, LOOKS[look]).convert("RGB"), by_hand)
    assert wanted is not None
    made, _ = to_press(image, profile, treatment=LOOKS[look])
    away = np.linalg.norm(_lab(made, profile) - _lab(wanted, profile), axis=1)
    assert away.max() < 3.2 and away.mean() < 0.5
    off = np.abs(np.asarray(made).astype(int) - np.asarray(wanted).astype(int))[0]
    assert off[-256:].max() <= (3 if look == "as it is" else 6)


def test_without_a_compiler_the_same_colours_come_of_it() -> None:
    image, profile = _every_colour(), PROFILES[COATED]
    fast, _ = to_press(image, profile, "", 250.0, LOOKS["cast"])
    compiling.forget()
    slow, _ = to_press(image, profile, "", 250.0, LOOKS["cast"])
    assert np.linalg.norm(_lab(fast, profile) - _lab(slow, profile), axis=1).max() < 3.2


def test_the_procedure_by_itself_and_compiled_are_one() -> None:
    image = np.random.default_rng(5).integers(0, 256, (1, 400, 3)).astype(np.uint8)
    both = []
    for forget in (False, True):
        if forget:
            compiling.forget()
        made = np.zeros(1600, np.uint8)
        table = press_table._table(RGB_PROFILE, PROFILES[COATED], 0.0, Treatment())
        press_table.look_up(image.reshape(-1).copy(), press_table.table_places(Treatment()), table, made, 400)
        both.append(made)
    assert np.array_equal(*both) and len(np.unique(both[0])) > 100


inks = st.lists(st.tuples(*[st.integers(0, 255)] * 4), min_size=1, max_size=40)


@settings(max_examples=60, deadline=None)
@given(inks, st.integers(150, 400), st.sampled_from(sorted(PROFILES)))
def test_no_pixel_lays_more_than_the_limit_and_none_below_is_touched(
    pixels: list[tuple[int, int, int, int]], limit: int, name: str
) -> None:
    given_ = np.array(pixels, np.uint8)
    made = held_to(given_, limit, PROFILES[name])
    assert (made.sum(1) <= limit * 2.55 + 1e-6).all()
    below = given_.sum(1) <= limit * 2.55
    assert np.array_equal(made[below], given_[below])
    assert (made[:, 3] >= np.minimum(given_[:, 3], np.floor(limit * 2.55))).all()


def test_held_dark_parts_stay_nearly_the_colour_they_were() -> None:
    """Less colour and more black beats each ink made less alike."""
    profile, rng = PROFILES[COATED], np.random.default_rng(2)
    heavy = np.stack([rng.integers(190, 256, 500) for _ in range(3)] + [rng.integers(120, 200, 500)], 1).astype(
        np.uint8
    )
    change = change_by(heavy, 260, profile)
    scale = np.minimum(1, 260 * 2.55 / heavy.sum(1))[:, None]
    plain = Image.fromarray((heavy * scale).astype(np.uint8)[None], "CMYK")
    alike = np.linalg.norm(_lab(plain, profile) - _lab(Image.fromarray(heavy[None], "CMYK"), profile), axis=1)
    assert change.mean() < 0.6 * alike.mean()


def test_what_is_converted_keeps_to_the_limit_and_inks_of_its_own_do_when_asked() -> None:
    heavy = Image.new("CMYK", (40, 30), (250, 250, 240, 255))
    for inks_, most in (("", 390.2), ("held", 260.0)):
        made, _ = to_press(heavy, PROFILES[COATED], inks_, 260.0)
        assert np.asarray(made).sum(2).max() / 2.55 == pytest.approx(most, abs=1.2)
    made, _ = to_press(_every_colour(), PROFILES[COATED], "", 220.0)
    assert np.asarray(made).sum(2).max() / 2.55 <= 220.0 + 1.5


@pytest.mark.parametrize(
    ("treatment", "colours", "grey"),
    [
        (Treatment(exposure=1), True, True),
        (Treatment(warmth=5), True, False),
        (Treatment(grey=True), False, True),
        (Treatment(grey=True, toned_dark="#203040"), True, False),
        (Treatment(blur=2), False, True),
        (Treatment(curve_red=((0, 0), (100, 90))), True, False),
    ],
)
def test_what_follows_from_colour_alone_and_what_leaves_greys_grey(
    treatment: Treatment, colours: bool, grey: bool
) -> None:
    assert (is_of_colours(treatment), keeps_greys(treatment)) == (colours, grey)
    ramp = Image.fromarray(np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, 2))
    made = np.asarray(treated(ramp, replace(treatment, blur=0.0)).convert("RGB")).astype(int)
    assert bool(np.ptp(made, axis=2).max() == 0) == grey


@pytest.mark.parametrize("look", LOOKS)
def test_the_bench_shows_what_two_conversions_show(look: str) -> None:
    """Treated, in the inks of coated paper, and back to the screen: in one pass and in three."""
    image, picture = _every_colour(), Picture(id="p", file="p", width=1, height=1, digest="d")
    made = octets_shown(image, Path(), picture, LOOKS[look])
    assert made is not None and (made[..., 3] == 255).all()
    wanted = np.asarray(as_printed(treated(image, LOOKS[look])).convert("RGB")).astype(int)
    off = np.abs(made[..., 2::-1].astype(int) - wanted)
    assert off.mean() < 1.2 and np.quantile(off, 0.999) <= 10


def test_what_takes_more_than_one_pass_is_left_to_the_other_way() -> None:
    image, picture = _every_colour(), Picture(id="p", file="p", width=1, height=1, digest="d")
    assert octets_shown(image, Path(), replace(picture, inks="black"), None) is None
    see_through = Treatment(seen=Slope(start=(0, 0), end=(1, 0)))
    assert octets_shown(image, Path(), picture, see_through) is None
    compiling.forget()
    assert octets_shown(image, Path(), picture, None) is None
