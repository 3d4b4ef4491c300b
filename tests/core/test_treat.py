"""Treatments: pure, in linear light, and the same for a thumbnail, the bench, the proof and the press."""

from io import BytesIO
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from half_fold.core.paths.all import set_path
from half_fold.core.pictures.colour.treat import drawn_key, parse_drawn_key, treated
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.press.pdf.images import made_image
from half_fold.core.press.pdf.seen import PicturePart
from half_fold.core.publication.records import HoldsPicture, Picture, Treatment
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.setting.compose import Setter
from tests.blocks import block_over
from tests.press.test_picture_press import PRESS

treatments = st.builds(Treatment, exposure=st.floats(-4, 4), warmth=st.floats(-100, 100), grey=st.booleans())


def _patch(grey: int) -> Image.Image:
    return Image.new("RGB", (4, 4), (grey, grey, grey))


def test_a_stop_is_twice_the_light_by_hand() -> None:
    """sRGB 100 is 0.1274 of the light; 0.2548 is sRGB 138.5, 0.0637 is 71.3."""
    assert treated(_patch(100), Treatment(exposure=1)).getpixel((0, 0)) == (138, 138, 138)
    assert treated(_patch(100), Treatment(exposure=-1)).getpixel((0, 0)) == pytest.approx((71, 71, 71), abs=1)
    assert treated(_patch(250), Treatment(exposure=2)).getpixel((0, 0)) == (255, 255, 255)


def test_warmer_is_redder_and_less_blue() -> None:
    red, green, blue = treated(_patch(120), Treatment(warmth=60)).getpixel((0, 0))
    assert red > green == 120 > blue
    cold = treated(_patch(120), Treatment(warmth=-60)).getpixel((0, 0))
    assert cold[0] < 120 < cold[2]


def test_nothing_asked_changes_nothing_and_the_picture_stays_as_it_was() -> None:
    image = Image.effect_mandelbrot((40, 30), (-2, -1, 1, 1), 50).convert("RGB")
    before = image.tobytes()
    assert treated(image, None) is image
    assert treated(image, Treatment()).tobytes() == before
    treated(image, Treatment(exposure=1, warmth=40, grey=True))
    assert image.tobytes() == before


@given(treatments, st.integers(0, 255))
def test_what_was_see_through_stays_so(treatment: Treatment, alpha: int) -> None:
    made = treated(Image.new("RGBA", (3, 3), (90, 60, 30, alpha)), treatment)
    assert made.getchannel("A").getextrema() == (alpha, alpha)
    assert made.mode == ("LA" if treatment.grey else "RGBA")


@given(treatments)
def test_more_light_never_makes_darker(treatment: Treatment) -> None:
    ramp = Image.fromarray(np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, 2))
    made = np.asarray(treated(ramp, treatment).convert("RGB"), np.int16)[0]
    assert (np.diff(made, axis=0) >= 0).all()


@given(treatments)
def test_what_is_drawn_is_told_by_picture_and_treatment(treatment: Treatment) -> None:
    key = drawn_key("picture1", treatment)
    assert parse_drawn_key(key) == ("picture1", treatment if treatment != Treatment() else None)
    assert (key == "picture1") == (treatment == Treatment())


def test_the_press_prints_a_picture_as_it_is_treated(tmp_path: Path) -> None:
    Image.new("RGB", (60, 60), (100, 100, 100)).save(tmp_path / "p.png")
    picture = Picture(id="p", file="p.png", width=60, height=60, digest="d")
    sizes = {}
    for name, treatment in (("as it is", None), ("darker", Treatment(exposure=-2)), ("grey", Treatment(grey=True))):
        part = PicturePart(drawn_key("p", treatment), 0, 0, 60, 60, 60, 60)
        made = made_image(tmp_path, picture, part, PRESS)
        shown = Image.open(BytesIO(made.octets))
        sizes[name] = shown.mode, np.asarray(shown.convert("L")).mean()
    assert sizes["as it is"][0] == sizes["darker"][0] == "CMYK" and sizes["grey"][0] == "L"
    assert sizes["darker"][1] != pytest.approx(sizes["as it is"][1], abs=10)


def test_it_is_set_by_its_path_and_drawn_by_its_key() -> None:
    job = start("magazine", "x")
    picture = Picture(id="p1", file="p.png", width=60, height=60, digest="d")
    page = replace(job.pages[0], things=(block_over("b1", HoldsPicture(picture="p1")),))
    job = set_path(with_page(replace(job, pictures=(picture,)), page), "block.b1.treatment.exposure", "0.5")
    (mark,) = [m for m in Setter().spread(job, spread_of(job, 1)).marks if m.origin.block == "b1"]
    assert parse_drawn_key(mark.picture) == ("p1", Treatment(exposure=0.5))
    assert set_path(job, "block.b1.treatment.exposure", "0").pages[0].blocks[0].holds == HoldsPicture(picture="p1")
