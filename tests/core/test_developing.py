"""Regions of pictures, lines made upright, stray things painted away: the same from a small copy to the press."""

import io
import math
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image, ImageDraw, ImageFilter

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import COATED, shipped_profile
from half_fold.core.pictures.colour.regions import WHOLE, belongs, region_middle
from half_fold.core.pictures.colour.treat import drawn_key, treated
from half_fold.core.pictures.cutting.mending import mended, patched
from half_fold.core.pictures.cutting.upright import homography
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.pictures.library.developing import shown_whole
from half_fold.core.pictures.rasters.mask_files import keep_in_masks
from half_fold.core.plan.starters import start
from half_fold.core.press.pdf.images import made_image
from half_fold.core.press.pdf.kept_images import find_image, image_key
from half_fold.core.press.pdf.seen import PicturePart
from half_fold.core.publication.records import (
    Area,
    Brushed,
    Coloured,
    Drawn,
    Oval,
    Picture,
    Region,
    Slope,
    Treatment,
    Upright,
)

DARKER = Treatment(exposure=-2)
REGIONS: dict[str, Region] = {
    "slope": Slope(start=(0.2, 0.1), end=(0.7, 0.9)),
    "oval": Oval(middle=(0.4, 0.6), half=(0.3, 0.2), soft=40),
    "outline": Drawn(points=((0.1, 0.2), (0.8, 0.3), (0.5, 0.9)), soft=12),
    "colour": Coloured(colour="#c83c28", reach=30),
}


def _scene(wide: int = 360, high: int = 240) -> Image.Image:
    across, down = np.meshgrid(np.linspace(0, 1, wide), np.linspace(0, 1, high))
    made = np.stack([80 + 120 * across, 90 + 100 * down, 200 - 90 * across * down], -1).round().astype(np.uint8)
    image = Image.fromarray(made)
    ImageDraw.Draw(image).ellipse([wide * 0.6, high * 0.2, wide * 0.9, high * 0.7], fill=(200, 60, 40))
    return image


# Regions ----------------------------------------------------------------------------------------------------------


def test_a_slope_by_hand() -> None:
    """Nothing at its start, half of it half way, all at its end and beyond."""
    share = belongs(Slope(start=(0.25, 0), end=(0.75, 0)), Image.new("RGB", (400, 10)), Path())
    assert share[:, :100].max() < 1e-3 and share[:, 300:].min() > 1 - 1e-3
    assert share[5, 200] == pytest.approx(0.5, abs=0.01) and np.ptp(share, axis=0).max() < 1e-6


def test_an_oval_and_what_lies_outside_of_it() -> None:
    oval = Oval(middle=(0.5, 0.5), half=(0.25, 0.5), soft=0)
    inside = belongs(oval, Image.new("RGB", (400, 200)), Path())
    assert inside.mean() == pytest.approx(math.pi * 0.25 * 0.5, abs=0.01)
    assert np.allclose(belongs(replace(oval, outside=True), Image.new("RGB", (400, 200)), Path()), 1 - inside)


def test_a_drawn_outline_holds_its_own_area() -> None:
    made = belongs(Drawn(points=((0.1, 0.1), (0.6, 0.1), (0.6, 0.9), (0.1, 0.9)), soft=0), _scene(), Path())
    assert made.mean() == pytest.approx(0.4, abs=0.01) and set(np.unique(made.round())) == {0, 1}


def test_a_colour_is_found_where_it_is() -> None:
    made = belongs(REGIONS["colour"], _scene(), Path())
    assert made[110, 270] > 0.98 and made[200, 40] < 0.02
    assert made.mean() == pytest.approx(math.pi * 0.15 * 0.25, abs=0.02)


@pytest.mark.parametrize("kind", REGIONS)
@settings(max_examples=15, deadline=None)
@given(st.integers(0, 200), st.integers(0, 120), st.integers(30, 150), st.integers(30, 110))
def test_a_part_belongs_as_it_does_in_the_whole(kind: str, left: int, top: int, wide: int, high: int) -> None:
    image, region = _scene(), REGIONS[kind]
    right, bottom = min(360, left + wide), min(240, top + high)
    whole = belongs(region, image, Path())[top:bottom, left:right]
    part = belongs(
        region, image.crop((left, top, right, bottom)), Path(), (left / 360, top / 240, right / 360, bottom / 240)
    )
    assert np.abs(whole - part).max() < 0.02


@pytest.mark.parametrize("kind", REGIONS)
def test_only_the_region_is_treated(kind: str) -> None:
    image, region = _scene(), REGIONS[kind]
    plain = np.asarray(image).astype(int)
    made = np.asarray(treated(image, Treatment(areas=(Area(where=region, treatment=DARKER),)), folder=Path())).astype(
        int
    )
    share, dark = belongs(region, image, Path()), np.asarray(treated(image, DARKER)).astype(int)
    assert np.abs(made - plain)[share < 0.001].max() == 0
    assert np.abs(made - dark)[share > 0.999].max() <= 1
    assert (share > 0.999).any() and (share < 0.001).any()
    middle = region_middle(region)
    assert 0 <= middle[0] <= 1 and 0 <= middle[1] <= 1


def test_what_is_not_seen_is_see_through(tmp_path: Path) -> None:
    oval = Oval(middle=(0.5, 0.5), half=(0.3, 0.3), soft=20)
    made = treated(_scene(), Treatment(seen=oval), folder=tmp_path)
    assert made.mode == "RGBA"
    alpha = np.asarray(made.getchannel("A"))
    assert alpha[120, 180] == 255 and alpha[3, 3] == 0
    assert np.abs(alpha / 255 - belongs(oval, _scene(), tmp_path)).max() < 0.01


def test_a_brushed_region_comes_from_its_file_and_one_that_has_gone_is_said(tmp_path: Path) -> None:
    (tmp_path / "pictures").mkdir()
    mask = Image.new("L", (90, 60))
    mask.paste(255, (0, 0, 45, 60))
    region = Brushed(file=keep_in_masks(tmp_path / "pictures", mask))
    share = belongs(region, _scene(), tmp_path / "pictures")
    assert share[:, :170].min() == 1 and share[:, 190:].max() == 0
    (tmp_path / "masks" / region.file).unlink()
    with pytest.raises(Problem, match=r"anew|masks"):
        belongs(region, _scene(), tmp_path / "pictures")


# Upright ----------------------------------------------------------------------------------------------------------

share = st.floats(-0.05, 0.05)


def _seen_at(matrix: np.ndarray, x: float, y: float, size: tuple[int, int]) -> tuple[float, float]:
    u, v, w = matrix @ (x * size[0], y * size[1], 1)
    return u / w, v / w


@given(share, share, share, st.sampled_from([(600, 400), (400, 600), (500, 500)]))
def test_both_lines_stand_upright_and_the_frame_is_covered(
    left: float, right: float, roll: float, size: tuple[int, int]
) -> None:
    upright = Upright(
        first=((0.2 + left + roll, 0.1), (0.2 - left - roll, 0.9)), second=((0.8 + right, 0.15), (0.8 - right, 0.85))
    )
    matrix = homography(upright, size)
    for start_, end in (upright.first, upright.second):
        assert _seen_at(matrix, *start_, size)[0] == pytest.approx(_seen_at(matrix, *end, size)[0], abs=0.3)
    back = np.linalg.inv(matrix)
    for x, y in ((0, 0), (1, 0), (0, 1), (1, 1)):  # what is seen at each corner lies in the picture
        u, v = _seen_at(back, x, y, size)
        assert -0.5 <= u <= size[0] + 0.5 and -0.5 <= v <= size[1] + 0.5


def test_lines_that_are_upright_or_say_nothing_change_nothing() -> None:
    still = Upright(first=((0.2, 0.1), (0.2, 0.9)), second=((0.7, 0.2), (0.7, 0.8)))
    assert np.allclose(homography(still, (300, 200)), np.eye(3), atol=1e-6)
    short = replace(still, first=((0.2, 0.5), (0.25, 0.505)))
    assert np.array_equal(homography(short, (300, 200)), np.eye(3))


def test_a_house_that_leans_stands_upright(tmp_path: Path) -> None:
    """Two posts painted leaning inwards are upright once the lines along them are drawn."""
    image = Image.new("RGB", (600, 400), (220, 220, 220))
    draw = ImageDraw.Draw(image)
    posts = ((0.2, 0.95), (0.3, 0.05)), ((0.8, 0.95), (0.7, 0.05))
    for (x1, y1), (x2, y2) in posts:
        draw.line([x1 * 600, y1 * 400, x2 * 600, y2 * 400], fill=(20, 20, 20), width=4)
    picture = Picture(id="p", file="p", width=600, height=400, digest="d")
    made = shown_whole(image, tmp_path, picture, Treatment(upright=Upright(first=posts[0], second=posts[1])))
    dark = np.asarray(made.convert("L")) < 90
    for half in (dark[:, :300], dark[:, 300:]):
        middles = [float(np.flatnonzero(half[row]).mean()) for row in range(40, 360, 40)]
        assert np.ptp(middles) < 1.5


# Mending ----------------------------------------------------------------------------------------------------------


def _texture(seed: int) -> Image.Image:
    """Grain of a kind, with light that falls off: as a wall, grass or water has it."""
    noise = np.random.default_rng(seed).normal(0, 40, (260, 340))
    grain = np.asarray(
        Image.fromarray((noise + 128).clip(0, 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(1.2))
    )
    light = np.linspace(0.7, 1.2, 340)[None, :]
    return Image.fromarray(np.stack([(grain * light * by).clip(0, 255) for by in (0.8, 1.0, 0.7)], -1).astype(np.uint8))


@pytest.mark.parametrize("seed", range(4))
def test_a_stray_thing_is_painted_away(tmp_path: Path, seed: int) -> None:
    """What was there before is not known; what comes is as light, and as grainy, as what lies around."""
    (tmp_path / "pictures").mkdir()
    truth = _texture(seed)
    image, stray = truth.copy(), Image.new("1", truth.size)
    for draw, fill in ((ImageDraw.Draw(image), (250, 20, 20)), (ImageDraw.Draw(stray), 1)):
        draw.ellipse([150, 100, 190, 135], fill=fill)
    patch = mended(image, np.asarray(stray), tmp_path / "pictures")
    made = np.asarray(patched(image, (patch,), tmp_path / "pictures", WHOLE)).astype(float)
    hole, wanted = np.asarray(stray), np.asarray(truth).astype(float)
    assert np.abs(made[hole].mean(0) - wanted[hole].mean(0)).max() < 12
    assert made[hole][:, 1].std() == pytest.approx(wanted[hole][:, 1].std(), rel=0.35)
    far = np.ones(hole.shape, bool)
    far[70:165, 120:220] = False
    assert np.array_equal(made[far], np.asarray(image).astype(float)[far])


def test_a_thin_thing_is_drawn_in_from_its_edge(tmp_path: Path) -> None:
    (tmp_path / "pictures").mkdir()
    image = _scene()
    wire, stray = image.copy(), Image.new("1", image.size)
    ImageDraw.Draw(wire).line([0, 30, 359, 60], fill=(10, 10, 10), width=3)
    ImageDraw.Draw(stray).line([0, 30, 359, 60], fill=1, width=6)
    patch = mended(wire, np.asarray(stray), tmp_path / "pictures")
    made = patched(wire, (patch,), tmp_path / "pictures", WHOLE)
    away = np.abs(np.asarray(made).astype(int) - np.asarray(image).astype(int))
    assert away[:, :200].max() < 12


def test_a_patch_lies_where_it_lies_in_every_part_and_at_every_scale(tmp_path: Path) -> None:
    (tmp_path / "pictures").mkdir()
    image, stray = _scene(), np.zeros((240, 360), bool)
    stray[100:130, 60:100] = True
    patch = mended(image, stray, tmp_path / "pictures")
    whole = patched(image, (patch,), tmp_path / "pictures", WHOLE)
    box = (70, 90, 200, 200)
    part = patched(image.crop(box), (patch,), tmp_path / "pictures", (70 / 360, 90 / 240, 200 / 360, 200 / 240))
    assert np.abs(np.asarray(whole.crop(box)).astype(int) - np.asarray(part).astype(int)).max() <= 5
    small = patched(image.resize((180, 120)), (patch,), tmp_path / "pictures", WHOLE)
    assert np.abs(np.asarray(whole.resize((180, 120))).astype(int) - np.asarray(small).astype(int)).max() < 40


@pytest.mark.parametrize("marked", [0.0, 0.5])
def test_nothing_marked_and_too_much_are_said(tmp_path: Path, marked: float) -> None:
    stray = np.zeros((240, 360), bool)
    stray[: round(240 * marked)] = True
    with pytest.raises(Problem, match=r"marked|quarter"):
        mended(_scene(), stray, tmp_path)


# The same at the press -------------------------------------------------------------------------------------------


def _brought(tmp_path: Path, image: Image.Image) -> tuple[Picture, Path]:
    image.save(tmp_path / "p.png")
    _, picture = bring_picture(start("magazine", "x"), tmp_path / "pictures", tmp_path / "p.png")
    return picture, tmp_path / "pictures"


@pytest.mark.parametrize("kind", [*REGIONS, "seen", "upright", "patch", "plain"])
def test_a_part_is_pressed_as_the_whole_is_shown(tmp_path: Path, kind: str) -> None:
    from half_fold.core.pictures.colour.press_inks import to_press

    picture, folder = _brought(tmp_path, _scene(720, 480))
    stray = np.zeros((480, 720), bool)
    stray[200:240, 150:220] = True
    treatment = {
        "seen": Treatment(seen=REGIONS["oval"], contrast=20),
        "upright": Treatment(
            upright=Upright(first=((0.2, 0.9), (0.3, 0.1)), second=((0.8, 0.9), (0.7, 0.1))), saturation=20
        ),
        "patch": Treatment(patches=(mended(_scene(720, 480), stray, folder),)),
        "plain": Treatment(exposure=0.3, warmth=20),
    }.get(kind) or Treatment(areas=(Area(where=REGIONS[kind], treatment=DARKER),))
    profile = shipped_profile(COATED)
    part = PicturePart(drawn_key(picture.id, treatment), 100, 60, 580, 420, 240, 180)
    made = made_image(folder, picture, part, profile, 300.0)
    shown = shown_whole(_scene(720, 480), folder, picture, treatment).crop((100, 60, 580, 420)).resize((240, 180))
    wanted, alpha = to_press(shown, profile, "", 300.0)
    octets = np.asarray(Image.open(io.BytesIO(made.octets)))
    seen = np.ones((180, 240), bool) if alpha is None else np.asarray(alpha) > 128
    away = np.abs(octets.astype(int) - np.asarray(wanted).astype(int))[seen]
    assert away.mean() < 3 and np.quantile(away, 0.99) < 25
    assert (made.alpha is None) == (alpha is None)


def test_a_grey_that_is_treated_prints_in_black_alone(tmp_path: Path) -> None:
    picture, folder = _brought(tmp_path, _scene().convert("L"))
    for treatment, inks in ((Treatment(exposure=0.5), 1), (Treatment(warmth=40), 4)):
        part = PicturePart(drawn_key(picture.id, treatment), 0, 0, 360, 240, 360, 240)
        assert made_image(folder, picture, part, shipped_profile(COATED)).inks == inks


def test_what_is_treated_and_prints_in_black_alone_is_treated(tmp_path: Path) -> None:
    picture, folder = _brought(tmp_path, _scene())
    picture = replace(picture, inks="black")
    means = []
    for light in (0.0, -1.5):
        part = PicturePart(drawn_key(picture.id, Treatment(exposure=light, sharpen=10)), 0, 0, 360, 240, 360, 240, 300)
        made = made_image(folder, picture, part, shipped_profile(COATED), 300.0)
        means.append(np.asarray(Image.open(io.BytesIO(made.octets))).mean())
        assert made.inks == 1
    assert means[1] < means[0] - 40


def test_what_was_pressed_is_taken_again_until_something_of_it_changes(tmp_path: Path) -> None:
    from half_fold.core.press.pdf.images import made_images

    picture, folder = _brought(tmp_path, _scene())
    mask = keep_in_masks(folder, Image.new("L", (36, 24), 255))
    treatment = Treatment(areas=(Area(where=Brushed(file=mask), treatment=DARKER),))
    part, profile = PicturePart(drawn_key(picture.id, treatment), 0, 0, 360, 240, 180, 120), shipped_profile(COATED)
    key = image_key(folder, picture, part, profile, 300.0)
    assert find_image(key) is None
    (made,) = made_images(folder, [(picture, part, profile, 300.0)])
    kept = find_image(key)
    assert kept is not None and kept == made
    others = [
        image_key(folder, picture, part._replace(across=181), profile, 300.0),
        image_key(folder, picture, part, profile, 280.0),
        image_key(folder, replace(picture, inks="black"), part, profile, 300.0),
        image_key(folder, picture, part, profile + b" ", 300.0),
    ]
    Image.new("L", (36, 24), 0).save(folder.parent / "masks" / mask)
    others.append(image_key(folder, picture, part, profile, 300.0))
    _scene().rotate(180).save(folder / picture.file)
    others.append(image_key(folder, picture, part, profile, 300.0))
    assert len({key, *others}) == 7


def test_one_that_was_damaged_where_it_is_kept_is_made_anew(tmp_path: Path) -> None:
    from half_fold.core.press.pdf.kept_images import _file, keep

    picture, folder = _brought(tmp_path, _scene())
    part = PicturePart(picture.id, 0, 0, 360, 240, 90, 60)
    key = image_key(folder, picture, part, shipped_profile(COATED), 0.0)
    keep(key, made_image(folder, picture, part, shipped_profile(COATED)))
    content = bytearray(_file(key).read_bytes())
    content[len(content) // 2] ^= 1
    _file(key).write_bytes(bytes(content))
    assert find_image(key) is None
