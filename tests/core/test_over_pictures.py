"""Furniture over pictures: how light a picture is where it stands, and the ink that reads there."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.drawing.tone import BLACK, WHITE
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.pictures.colour.tones import lightness_in, stands_off, tones_of
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsPicture, Picture, Publication, Treatment
from half_fold.core.spread.setting.compose import Setter

BLEED = Held(**{edge: Stop(kind="bleed") for edge in ("left", "top", "right", "bottom")})


def _halves(path: Path, upper: int, lower: int) -> Path:
    """A picture that is of one grey above and of another below."""
    pixels = np.full((900, 700, 3), upper, np.uint8)
    pixels[450:] = lower
    Image.fromarray(pixels).save(path)
    return path


def _job(tmp_path: Path, upper: int, lower: int, holds: dict[str, object] | None = None) -> Publication:
    job = start("magazine", "Over")
    file = _halves(tmp_path / "halves.png", upper, lower)
    job, picture = bring_picture(job, tmp_path / "pictures", file)
    block = Block(id="b1", place=BLEED, holds=HoldsPicture(picture=picture.id, **(holds or {})))  # type: ignore[arg-type]  # its own fields
    return replace(job, pages=(*job.pages[:2], replace(job.pages[2], things=(block,)), *job.pages[3:]))


def _inks(job: Publication) -> dict[str, object]:
    marks = Setter().spread(job, spread_of(job, 3)).marks
    return {"".join(m.texts).strip(): m.colour for m in leaves(marks) if isinstance(m, Glyphs)}


@given(st.integers(0, 255))
def test_the_lightness_of_a_grey_is_that_of_the_formula(grey: int) -> None:
    """L* of a grey in sRGB by CIE 15; 35 steps of it are kept."""
    light = grey / 255
    light = light / 12.92 if light <= 0.04045 else ((light + 0.055) / 1.055) ** 2.4
    expected = 116 * light ** (1 / 3) - 16 if light > 216 / 24389 else light * 24389 / 27
    tones = tones_of(Image.new("RGB", (40, 30), (grey, grey, grey)))
    found = lightness_in(_with(tones), None, 0, 0, 1, 1)
    assert found is not None and found[0] == found[1] == pytest.approx(expected, abs=100 / 35 / 2 + 0.2)


def _with(tones: str) -> Picture:
    return Picture(id="p", file="p.jpg", width=40, height=30, digest="", tones=tones)


def test_a_part_is_told_from_the_whole() -> None:
    pixels = np.zeros((120, 120, 3), np.uint8)
    pixels[60:, 60:] = 255
    picture = _with(tones_of(Image.fromarray(pixels)))
    assert lightness_in(picture, None, 0, 0, 0.5, 0.5) == (0, 0)
    assert lightness_in(picture, None, 0.5, 0.5, 1, 1) == (100, 100)
    assert lightness_in(picture, None, 0.4, 0.4, 0.6, 0.6) == (0, 100)
    assert lightness_in(picture, None, 0.99, 0.99, 1.2, 1.2) == (100, 100), "what lies beyond is its edge"
    assert lightness_in(replace(picture, tones=""), None, 0, 0, 1, 1) is None


def test_a_treatment_counts() -> None:
    picture = _with(tones_of(Image.new("RGB", (40, 40), (90, 90, 90))))
    plain, lighter = (lightness_in(picture, t, 0, 0, 1, 1) for t in (None, Treatment(exposure=1.0)))
    assert plain is not None and lighter is not None and lighter[0] > plain[0] + 10


def test_black_stands_off_white_and_not_off_itself() -> None:
    assert stands_off(BLACK, 95, 100) > 60
    assert stands_off(WHITE, 0, 20) > 60
    assert stands_off(BLACK, 0, 100) < 10


@pytest.mark.parametrize(("upper", "lower", "ink"), [(240, 20, WHITE), (20, 240, BLACK)])
def test_the_folio_at_the_foot_takes_the_ink_that_reads(tmp_path: Path, upper: int, lower: int, ink: object) -> None:
    job = _job(tmp_path, upper, lower)
    assert "3" not in _inks(job), "as it was: a picture all over the page hides it"
    over = _inks(set_path(job, "page.3.furniture", "over"))
    assert over["3"] == ink
    assert _inks(set_path(job, "page.3.furniture", "off")) == {}


def test_a_picture_that_is_turned_is_looked_at_as_it_lies(tmp_path: Path) -> None:
    job = _job(tmp_path, 240, 20, {"turn": 180.0})
    over = _inks(set_path(job, "page.3.furniture", "over"))
    assert over["3"] == BLACK, "its light half lies at the foot now"


def test_a_way_that_there_is_not_is_said(tmp_path: Path) -> None:
    job = _job(tmp_path, 20, 20)
    with pytest.raises(Problem, match="left off"):
        set_path(job, "page.3.furniture", "hidden")
