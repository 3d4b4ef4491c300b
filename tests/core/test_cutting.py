"""Cutting out: subjects whose true shape is known, masks kept in the job and laid wherever a picture is read."""

from pathlib import Path

import numpy as np
import numpy.typing as npt
import pikepdf
import pytest
from msgspec.structs import replace
from PIL import Image, ImageDraw, ImageFilter

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.pictures.cutting import soft_edge
from half_fold.core.pictures.cutting.cutting import Box, Cutting
from half_fold.core.pictures.cutting.masks import cut_out, keep_mask, masked, read_mask
from half_fold.core.pictures.cutting.spill import without_spill
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.pictures.rasters.mask_files import masks_folder
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsPicture, Publication
from half_fold.core.publication.used import format_picture
from half_fold.core.spread.edits.taking import copy_things, paste_things
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import create_job, read
from half_fold.core.store.next_job import create_next

WIDE, HIGH = 900, 700
Truth = npt.NDArray[np.float32]


def _ground(rng: np.random.Generator) -> Truth:
    y, x = np.mgrid[0:HIGH, 0:WIDE].astype(np.float32)
    plain = np.stack([120 + 30 * np.sin(x / 60), 110 + 25 * np.sin(y / 50 + x / 140), 95 + 20 * np.cos(x / 40)], -1)
    return plain + rng.normal(0, 6, (HIGH, WIDE, 3)).astype(np.float32)


def _shape(kind: str) -> Truth:
    y, x = np.mgrid[0:HIGH, 0:WIDE].astype(np.float32)
    x, y = x - WIDE / 2, y - HIGH / 2
    if kind == "fruit":
        inside = (x / 180) ** 2 + (y / 170) ** 2 < 1
    elif kind == "ring":
        inside = (np.hypot(x, y) < 200) & (np.hypot(x, y) > 115)
    elif kind in ("hair", "fur"):
        return _hairy(*((600, 25, 70, 2.2) if kind == "hair" else (2500, 8, 25, 1.0)))
    elif "out of focus" in kind:
        sharp = Image.fromarray(((x / 180) ** 2 + (y / 170) ** 2 < 1).astype(np.uint8) * 255)
        blur = {"a little": 5, "much": 18}.get(kind.split(" out")[0], 14)
        blurred = np.asarray(sharp.filter(ImageFilter.GaussianBlur(blur)), np.float32) / 255
        part = ((x + 60) / 120).clip(0, 1) if kind.startswith("half") else 1.0
        return part * blurred + (1 - part) * np.asarray(sharp, np.float32) / 255
    else:
        leaf = np.abs(y / 90) + (x / 250) ** 2 < 1
        inside = leaf | ((np.abs(y - 0.2 * x) < 5) & (x > 0) & (x < 330))
    hard = Image.fromarray(inside.astype(np.uint8) * 255).filter(ImageFilter.GaussianBlur(1.0))
    return np.asarray(hard, np.float32) / 255


def _hairy(count: int, shortest: float, longest: float, thickest: float) -> Truth:
    """A round subject with so many hairs, a little bent, of so many pixels."""
    rng, finer = np.random.default_rng(5), 3
    drawn = Image.new("L", (WIDE * finer, HIGH * finer))
    draw, middle = ImageDraw.Draw(drawn), np.array([WIDE, HIGH]) * finer / 2
    draw.ellipse((*(middle - 150 * finer), *(middle + 150 * finer)), fill=255)
    for _ in range(count):
        turn, length, bend = rng.uniform(0, 2 * np.pi), rng.uniform(shortest, longest), rng.uniform(-0.2, 0.2)
        thick = max(1, round(rng.uniform(0.8, thickest) * finer))
        ways = np.linspace(0, 1, 12)
        turns, away = turn + bend * ways**2, (145 + length * ways) * finer
        places = middle + away[:, None] * np.stack([np.cos(turns), np.sin(turns)], -1)
        draw.line([(float(across), float(down)) for across, down in places], fill=255, width=thick)
    return np.asarray(drawn.resize((WIDE, HIGH), Image.Resampling.LANCZOS), np.float32) / 255


def scene(kind: str) -> tuple[Image.Image, Truth]:
    """A made-up subject before a made-up ground, and how much of each pixel is subject."""
    rng = np.random.default_rng(3)
    y, x = np.mgrid[0:HIGH, 0:WIDE].astype(np.float32)
    subject = np.stack([200 + 20 * np.sin(y / 60), 60 + 30 * np.sin(x / 80), 40 + 0 * x], -1)
    share = _shape(kind)[..., None]
    mixed = (subject + rng.normal(0, 6, subject.shape)) * share + _ground(rng) * (1 - share)
    return Image.fromarray(mixed.clip(0, 255).astype(np.uint8)), share[..., 0]


def rough_box(share: Truth) -> Box:
    """A rough box round a subject, a little off on each side."""
    rows, columns = np.nonzero(share > 0.02)
    return Box(
        columns.min() / WIDE - 0.02, rows.min() / HIGH - 0.03, columns.max() / WIDE + 0.03, rows.max() / HIGH + 0.02
    )


def agreement(mask: Image.Image, share: Truth) -> float:
    """What both hold of what either holds, by shares of pixels."""
    found = np.asarray(mask, np.float32) / 255
    return float(np.minimum(found, share).sum() / np.maximum(found, share).sum())


@pytest.mark.parametrize(("kind", "least"), [("fruit", 0.98), ("leaf", 0.975), ("ring", 0.975)])
def test_a_subject_is_cut_out_as_it_is(kind: str, least: float) -> None:
    """From a box alone; of the ring its hole is said to be ground by one stroke."""
    picture, share = scene(kind)
    cutting = Cutting(picture, rough_box(share))
    if kind == "ring":
        cutting.stroke([(0.47, 0.5), (0.53, 0.52)], keeps=False, width=0.02)
    mask = cutting.mask()
    assert mask.size == picture.size
    assert agreement(mask, share) >= least
    wholly = (np.asarray(mask, np.float32) / 255 > 0.5) == (share > 0.5)
    assert wholly.mean() > 0.995


@pytest.mark.parametrize("kind", ["a little out of focus", "much out of focus", "half out of focus"])
def test_what_is_out_of_focus_is_cut_out_as_softly_as_it_ends(kind: str) -> None:
    """From a box alone, and without being told."""
    picture, share = scene(kind)
    assert agreement(Cutting(picture, rough_box(share)).mask(), share) >= 0.98


def test_a_side_in_shadow_is_no_edge_out_of_focus() -> None:
    """A ball lit from the side before a dark ground: it grows as dark as that, and yet ends sharply."""
    y, x = np.mgrid[0:HIGH, 0:WIDE].astype(np.float32)
    across, down = (x - WIDE / 2) / 180, (y - HIGH / 2) / 180
    away = np.hypot(across, down)
    facing = np.stack([across, down, np.sqrt((1 - away**2).clip(0, 1))], -1) @ np.array([-0.83, -0.25, 0.5])
    ball = np.array([230.0, 180.0, 60.0]) * (0.12 + 0.88 * facing.clip(0, 1))[..., None]
    edge = Image.fromarray(((away < 1) * 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(1))
    share = np.asarray(edge, np.float32) / 255
    ground = np.array([30.0, 32.0, 35.0]) + 4 * np.sin(x / 50)[..., None]
    mixed = ball * share[..., None] + ground * (1 - share[..., None])
    mixed += np.random.default_rng(2).normal(0, 4, mixed.shape)
    picture = Image.fromarray(mixed.clip(0, 255).astype(np.uint8))
    assert agreement(Cutting(picture, rough_box(share)).mask(), share) >= 0.99


@pytest.mark.parametrize("kind", ["hair", "fur"])
def test_hair_and_fur_are_cut_out_hair_by_hair(kind: str) -> None:
    """From a box, and told that there is some."""
    picture, share = scene(kind)
    cutting = Cutting(picture, rough_box(share))
    assert agreement(cutting.mask(soft=True), share) >= max(0.98, agreement(cutting.mask(), share))


@pytest.mark.parametrize("kind", ["fruit", "leaf"])
def test_a_sharp_edge_stays_sharp_where_hair_is_looked_for(kind: str) -> None:
    picture, share = scene(kind)
    assert agreement(Cutting(picture, rough_box(share)).mask(soft=True), share) >= 0.99


def test_a_subject_of_two_colours_is_no_soft_one() -> None:
    """Stripes, one of them as near to the ground as to the other: what is inside stays inside."""
    picture, share = scene("fruit")
    pixels = np.asarray(picture, np.float32).copy()
    stripes = (np.sin(np.arange(WIDE) / 12) > 0)[None, :, None] & (share > 0.98)[..., None]
    pixels = np.where(stripes, np.array([235.0, 215.0, 60.0]), pixels)
    striped = Image.fromarray(pixels.astype(np.uint8))
    for soft in (False, True):
        mask = np.asarray(Cutting(striped, rough_box(share)).mask(soft), np.float32) / 255
        assert agreement(Image.fromarray(np.rint(mask * 255).astype(np.uint8)), share) >= 0.975
        deep = np.hypot(*(np.mgrid[0:HIGH, 0:WIDE] - np.array([[[HIGH]], [[WIDE]]]) / 2)) < 100
        assert mask[deep].min() == 1


def test_a_picture_of_many_pixels_is_cut_in_strips_as_one_of_few(monkeypatch: pytest.MonkeyPatch) -> None:
    picture, share = scene("fur")
    cutting = Cutting(picture, rough_box(share))
    whole = cutting.mask(soft=True).tobytes()
    monkeypatch.setattr(soft_edge, "STRIP", 37)
    off = np.abs(
        np.frombuffer(cutting.mask(soft=True).tobytes(), np.uint8).astype(int) - np.frombuffer(whole, np.uint8)
    )
    assert off.max() <= 1


def test_strokes_say_what_belongs_to_it_and_what_does_not() -> None:
    picture, share = scene("fruit")
    cutting = Cutting(picture, rough_box(share))
    before = cutting.subject.sum()
    cutting.stroke([(0.4, 0.5), (0.6, 0.5)], keeps=False, width=0.1)
    assert cutting.subject.sum() < before
    cutting.stroke([(0.4, 0.5), (0.6, 0.5)], keeps=True, width=0.1)
    assert cutting.subject.sum() == pytest.approx(before, rel=0.03)
    for _ in range(3):
        cutting.stroke([(0.0, 0.0), (1.0, 1.0)], keeps=False, width=3.0)
    assert not cutting.subject.any() and cutting.mask().getextrema() == (0, 0), "nothing left is no fault"


def glass() -> tuple[Image.Image, Truth]:
    """A round glass: its rim is dark, and the ground shines through it a little lighter."""
    share = _shape("fruit")
    blurred = np.asarray(
        Image.fromarray((share * 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(6)), np.float32
    )
    rim = np.abs(blurred / 255 - 0.5) < 0.3
    seen = _ground(np.random.default_rng(4)) * np.where(rim, 0.6, 1.0)[..., None]
    return Image.fromarray((seen + np.where(share > 0.5, 12, 0)[..., None]).clip(0, 255).astype(np.uint8)), share


def test_a_subject_like_its_ground_is_said_to_be_one_and_tried_again() -> None:
    for kind in ("fruit", "leaf", "hair", "much out of focus"):
        picture, share = scene(kind)
        assert not Cutting(picture, rough_box(share)).is_alike, kind
    picture, share = glass()
    cutting = Cutting(picture, rough_box(share))
    assert cutting.is_alike
    cutting.stroke([(0.45, 0.5), (0.55, 0.5)], keeps=True, width=0.05)
    stays = np.asarray(cutting.preview())[int(0.5 * cutting.preview().height), cutting.preview().width // 2]
    cutting.again()
    preview = np.asarray(cutting.preview())
    assert stays == preview[preview.shape[0] // 2, preview.shape[1] // 2] == 255, "what was said is not forgotten"
    first = Cutting(picture, rough_box(share))
    other = Cutting(picture, rough_box(share))
    other.again()
    assert (first.subject != other.subject).any(), "another try is another answer"


def test_it_answers_alike_each_time() -> None:
    picture, share = scene("leaf")
    one, other = (Cutting(picture, rough_box(share)).mask().tobytes() for _ in range(2))
    assert one == other


@pytest.mark.parametrize("box", [Box(0.5, 0.5, 0.501, 0.9), Box(1.2, 0.2, 1.6, 0.8), Box(0.9, 0.9, 0.1, 0.1)])
def test_a_box_that_is_none_is_refused(box: Box) -> None:
    with pytest.raises(Problem, match="box round the whole subject"):
        Cutting(Image.new("RGB", (80, 60)), box)


@pytest.mark.parametrize("size", [(3, 900), (900, 3), (12, 12)])
def test_odd_pictures_are_cut_without_a_fault(size: tuple[int, int]) -> None:
    picture = Image.fromarray(np.random.default_rng(1).integers(0, 256, (size[1], size[0], 3), np.uint8))
    assert Cutting(picture, Box(0.1, 0.1, 0.9, 0.9)).mask().size == size


# In a job -------------------------------------------------------------------------------------------


def _job(tmp_path: Path) -> tuple[Publication, Path, Image.Image]:
    """A cut-out on page 3 before its own whole picture, and the job's pictures."""
    picture, share = scene("fruit")
    picture.save(tmp_path / "fruit.png")
    pictures = tmp_path / "job" / "pictures"
    create_job(tmp_path / "job", start("magazine", "Cut"))
    job, whole = bring_picture(start("magazine", "Cut"), pictures, tmp_path / "fruit.png")
    mask = Image.fromarray(np.rint(share * 255).astype(np.uint8))
    job, cut = cut_out(job, whole, keep_mask(pictures, mask), mask)
    held = Held(**{edge: Stop(kind="margin") for edge in ("left", "top", "right", "bottom")})
    blocks = tuple(Block(id=f"b{i}", place=held, holds=HoldsPicture(picture=p.id)) for i, p in enumerate((whole, cut)))
    job = replace(job, pages=(*job.pages[:2], replace(job.pages[2], things=blocks), *job.pages[3:]))
    return job, pictures, mask


def test_a_cut_out_is_another_picture_of_the_same_file(tmp_path: Path) -> None:
    job, pictures, mask = _job(tmp_path)
    whole, cut = job.pictures
    assert (cut.file, cut.digest, cut.has_alpha) == (whole.file, whole.digest, True)
    assert format_picture(cut) == "fruit.png, cut out" and not whole.has_alpha
    assert len(list(pictures.iterdir())) == 1, "its file is there once"
    bands = [right - left for left, right in cut.outline]
    assert max(bands) == pytest.approx(360 / WIDE, abs=0.02), "text runs round what was cut out"
    again, same = cut_out(job, whole, cut.mask, mask)
    assert same is cut and again is job
    assert bring_picture(job, pictures, tmp_path / "fruit.png")[1] is whole
    assert decode(encode(job), "cut.halffold") == job


def test_it_is_see_through_wherever_it_is_read(tmp_path: Path) -> None:
    job, pictures, mask = _job(tmp_path)
    image = Image.open(pictures / "fruit.png")
    shown = masked(image, pictures, job.pictures[1])
    assert shown.mode == "RGBA" and shown.getchannel("A").tobytes() == mask.tobytes()
    part = masked(image.crop((450, 350, 900, 700)), pictures, job.pictures[1], (0.5, 0.5, 1.0, 1.0))
    quarter = np.asarray(mask.crop((450, 350, 900, 700)), int)
    assert np.abs(np.asarray(part.getchannel("A"), int) - quarter).max() <= 1
    assert masked(image, pictures, job.pictures[0]) is image
    for mode in ("L", "CMYK", "P", "1"):
        masked(image.convert(mode), pictures, job.pictures[1])


def test_the_press_prints_it_through_its_mask(tmp_path: Path) -> None:
    job, pictures, _ = _job(tmp_path)
    press(job, pictures, tmp_path / "out.pdf", "3")
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        images = [each for each in pdf.objects if isinstance(each, pikepdf.Stream) and each.get("/Subtype") == "/Image"]
        see_through = [each for each in images if "/SMask" in each]
        assert len(see_through) == 1
        soft = np.frombuffer(see_through[0].SMask.read_bytes(), np.uint8)
        soft = soft.reshape(int(see_through[0].SMask.Height), int(see_through[0].SMask.Width))
    assert soft[0, 0] == 0 and soft[soft.shape[0] // 2, soft.shape[1] // 2] == 255


def test_a_mask_that_has_gone_is_found(tmp_path: Path) -> None:
    job, pictures, _ = _job(tmp_path)
    assert not [f for f in check(job, Setter(), pictures) if f.rule == "missing picture"]
    (masks_folder(pictures) / job.pictures[1].mask).write_bytes(b"no mask")
    with pytest.raises(Problem, match="make it anew"):
        read_mask(pictures, job.pictures[1])
    assert "missing picture" in [f.rule for f in check(job, Setter(), pictures) if f.stops_press]
    (masks_folder(pictures) / job.pictures[1].mask).unlink()
    assert "missing picture" in [f.rule for f in check(job, Setter(), pictures) if f.stops_press]


def test_masks_go_with_the_next_number_and_are_told_apart_when_things_are_carried(tmp_path: Path) -> None:
    job, pictures, _ = _job(tmp_path)
    create_next(tmp_path / "next", job, pictures.parent)
    assert (tmp_path / "next" / "masks" / job.pictures[1].mask).is_file()
    made, names, words = paste_things(job, 5, copy_things(job, ("b0", "b1")))
    holds = [block.holds.picture for block in made.pages[4].blocks]  # type: ignore[union-attr]  # pictures
    assert holds == [picture.id for picture in job.pictures] and not words and len(names) == 2
    other, _ = bring_picture(start("book", "Other"), tmp_path / "other", tmp_path / "fruit.png")
    _, _, lacking = paste_things(other, 3, copy_things(job, ("b0", "b1")))
    assert lacking.startswith("Kept free"), "the other job has the picture, not what was cut out of it"


def test_a_subject_is_cut_out_from_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    picture, share = scene("fruit")
    picture.save(tmp_path / "fruit.png")
    job = create_job(tmp_path / "job", start("magazine", "Cut"))
    assert main(["place", str(job), "--picture", str(tmp_path / "fruit.png")]) == 0
    box = " ".join(f"{100 * side:.1f}" for side in rough_box(share))
    assert main(["cut", str(job), "--picture", "fruit.png", "--box", box]) == 0
    cut = read(job).pictures[1]
    assert cut.mask and agreement(read_mask(tmp_path / "job" / "pictures", cut), share) > 0.98
    told = capsys.readouterr()
    assert cut.id in told.out and "alike" not in told.err
    clear, share = glass()
    clear.save(tmp_path / "glass.png")
    box_of_glass = " ".join(f"{100 * side:.1f}" for side in rough_box(share))
    assert main(["place", str(job), "--picture", str(tmp_path / "glass.png")]) == 0
    assert main(["cut", str(job), "--picture", "glass.png", "--box", box_of_glass]) == 0
    assert "much alike here" in capsys.readouterr().err
    for wrong in (["--box", "1 2 3"], ["--box", "0 0 100 100", "--this", "4"], ["--box", "2 2 2 2"]):
        assert main(["cut", str(job), "--picture", "fruit.png", *wrong]) == 2
    assert main(["cut", str(job), "--picture", "gone.png", "--box", box]) == 2
    assert set_path(read(job), "picture.fruit.png.inks", "black").pictures[1].inks == "black"


# Spill ----------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("soft", [2, 6])
@pytest.mark.parametrize("scale", [1, 2])
def test_the_old_ground_is_taken_out_of_a_soft_edge(soft: int, scale: int) -> None:
    """A green leaf in front of magenta, mixed at its edge as a lens mixes: there it is green again."""
    size = 240 * scale
    disc = Image.new("L", (size, size))
    ImageDraw.Draw(disc).ellipse([60 * scale, 60 * scale, 180 * scale, 180 * scale], fill=255)
    cover = np.asarray(disc.filter(ImageFilter.GaussianBlur(soft * scale / 2)), np.float32) / 255
    leaf, ground = np.array((60, 150, 40), np.float32), np.array((210, 40, 190), np.float32)
    mixed = cover[..., None] * leaf + (1 - cover[..., None]) * ground
    made = without_spill(mixed.round().astype(np.uint8), (255 * cover).round().astype(np.uint8)).astype(float)
    edge = (cover > 0.1) & (cover < 0.9)
    assert np.abs(mixed[edge] - leaf).mean() > 40
    assert np.abs(made[edge] - leaf).mean() < 6
    assert np.array_equal(made[cover > 0.98], mixed.round()[cover > 0.98])


def test_a_sharp_mask_and_a_subject_like_its_ground_change_nothing() -> None:
    pixels = np.full((60, 60, 3), (90, 120, 60), np.uint8)
    sharp = np.zeros((60, 60), np.uint8)
    sharp[20:40, 20:40] = 255
    assert without_spill(pixels, sharp) is pixels
    sharp[19] = 128
    assert np.abs(without_spill(pixels, sharp).astype(int) - pixels).max() <= 1


@pytest.mark.parametrize(("blur", "least"), [(5, 0.965), (18, 0.94), (28, 0.9)])
def test_a_wide_soft_edge_is_as_soft_as_it_is(blur: int, least: float) -> None:
    """From a box alone, out of focus: not the halo as a whole, nor the middle with a hard edge."""
    rng = np.random.default_rng(3)
    y, x = np.mgrid[0:HIGH, 0:WIDE].astype(np.float32)
    inside = ((x - WIDE / 2) / 180) ** 2 + ((y - HIGH / 2) / 170) ** 2 < 1
    disc = Image.fromarray(inside.astype(np.uint8) * 255).filter(ImageFilter.GaussianBlur(blur))
    share = np.asarray(disc, np.float32) / 255
    subject = np.stack([200 + 20 * np.sin(y / 60), 60 + 30 * np.sin(x / 80), 40 + 0 * x], -1)
    mixed = (subject + rng.normal(0, 6, subject.shape)) * share[..., None] + _ground(rng) * (1 - share[..., None])
    picture = Image.fromarray(mixed.clip(0, 255).astype(np.uint8))
    assert agreement(Cutting(picture, rough_box(share)).mask(), share) >= least
