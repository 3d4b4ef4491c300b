"""Pictures: bringing in, fitting, resolution, and the press profiles that ship."""

import io
import struct
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageCms

from half_fold.core.checks.run import check
from half_fold.core.drawing.tone import Tone
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import (
    COATED,
    UNCOATED,
    embedded_profile,
    ink_on_screen,
    read_profile,
    shipped_profile,
)
from half_fold.core.pictures.colour.press_inks import to_press
from half_fold.core.pictures.library.bring import (
    bring_picture,
    keep_copy,
    load_pixels,
    named_for,
    picture_file,
    read_record,
    record_of,
)
from half_fold.core.pictures.library.fit import cropped_away, effective_ppi, placed
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPicture, Picture, Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import read


def _picture(width: int, height: int) -> Picture:
    return Picture(id="p", file="p.jpg", width=width, height=height, digest="d")


@given(
    st.integers(1, 9000), st.integers(1, 9000), st.floats(5, 900), st.floats(5, 900), st.floats(0, 1), st.floats(0, 1)
)
def test_fill_covers_and_fit_stays_inside(w: int, h: int, bw: float, bh: float, fx: float, fy: float) -> None:
    box = Rect(10, 20, 10 + bw, 20 + bh)
    for scale, sign in (("fill", 1), ("fit", -1)):
        where = placed(_picture(w, h), HoldsPicture(picture="p", scale=scale, focus_x=fx, focus_y=fy), box)  # type: ignore[arg-type]
        edges = (box.left - where.left, box.top - where.top, where.right - box.right, where.bottom - box.bottom)
        assert all(sign * edge >= -1e-6 for edge in edges)
        assert where.width / where.height == pytest.approx(w / h)


def test_the_focus_stays_in_the_middle_as_far_as_it_can() -> None:
    box = Rect(0, 0, 100, 100)
    where = placed(_picture(400, 100), HoldsPicture(picture="p", focus_x=0.5), box)
    assert where.left + 0.5 * where.width == pytest.approx(50)
    assert placed(_picture(400, 100), HoldsPicture(picture="p", focus_x=0.0), box).left == 0
    assert cropped_away(where, box) == pytest.approx(0.75)


def test_effective_resolution_by_hand() -> None:
    """3528 px over 200.5 mm (7.894 in) is 447 ppi."""
    where = Rect(0, 0, 200.5 / 25.4 * 72, 100)
    assert effective_ppi(_picture(3528, 10_000), where) == pytest.approx(446.9, abs=0.1)


def _jpeg(path: Path, colour: tuple[int, int, int] = (200, 40, 30), size: tuple[int, int] = (60, 40)) -> Path:
    Image.new("RGB", size, colour).save(path)
    return path


def test_the_same_content_is_brought_in_once_and_names_never_collide(tmp_path: Path, magazine: Publication) -> None:
    folder = tmp_path / "pictures"
    one, two = tmp_path / "a", tmp_path / "b"
    one.mkdir(), two.mkdir()
    first, second = _jpeg(one / "Pear.JPG"), _jpeg(two / "Pear.JPG", (1, 2, 3))
    job, a = bring_picture(magazine, folder, first)
    job, b = bring_picture(job, folder, second)
    again, c = bring_picture(job, folder, first)
    assert (a.file, b.file) == ("Pear.jpg", "Pear-2.jpg") and c == a and again is job
    assert (a.width, a.height) == (60, 40)


def test_two_that_come_at_once_take_two_names_though_neither_is_copied_yet(tmp_path: Path) -> None:
    folder, known = tmp_path / "pictures", ()
    for index in range(6):
        (tmp_path / str(index)).mkdir()
        source = _jpeg(tmp_path / str(index) / "pear.jpg", (index // 2 * 90, 2, 3))
        known = (*known, named_for(known, folder, source, read_record(source)[0]))
    assert [each.file for each in known] == [f"pear{n}.jpg" for n in ("", "", "-2", "-2", "-3", "-3")]
    for index, picture in reversed(list(enumerate(known))):
        keep_copy(folder, tmp_path / str(index) / "pear.jpg", picture)
    assert all(record_of(folder / each.file).digest == each.digest for each in known)


def test_a_picture_whose_copy_has_gone_lies_under_its_name_again_when_it_is_brought_in(
    tmp_path: Path, magazine: Publication
) -> None:
    folder, source = tmp_path / "pictures", _jpeg(tmp_path / "pear.jpg")
    job, picture = bring_picture(magazine, folder, source)
    (folder / picture.file).unlink()
    again, same = bring_picture(job, folder, source)
    assert again is job and same == picture and (folder / "pear.jpg").read_bytes() == source.read_bytes()


def test_a_picture_held_sideways_is_turned_upright(tmp_path: Path, magazine: Publication) -> None:
    path = tmp_path / "side.jpg"
    exif = Image.Exif()
    exif[0x0112] = 6
    Image.new("RGB", (60, 40)).save(path, exif=exif)
    _, picture = bring_picture(magazine, tmp_path / "pictures", path)
    assert (picture.width, picture.height) == (40, 60)


@pytest.mark.parametrize("content", [b"", b"not a picture", b"\x89PNG\r\n\x1a\n0000", b"\xff\xd8\xff\xe0half"])
def test_what_is_no_picture_is_refused_and_nothing_is_copied(
    tmp_path: Path, magazine: Publication, content: bytes
) -> None:
    path = tmp_path / "x.jpg"
    path.write_bytes(content)
    with pytest.raises(Problem):
        bring_picture(magazine, tmp_path / "pictures", path)
    assert not (tmp_path / "pictures").exists()


def test_half_a_picture_and_a_missing_one_are_said(tmp_path: Path, magazine: Publication) -> None:
    whole = _jpeg(tmp_path / "w.jpg", size=(600, 400)).read_bytes()
    (tmp_path / "half.jpg").write_bytes(whole[: len(whole) // 2])
    with pytest.raises(Problem, match="damaged"):
        bring_picture(magazine, tmp_path / "pictures", tmp_path / "half.jpg")
    with pytest.raises(Problem, match="missing"):
        picture_file(tmp_path, _picture(1, 1))


def _through(name: str, rgb: np.ndarray) -> np.ndarray:
    cmyk, _ = to_press(Image.fromarray(rgb.astype(np.uint8)), shipped_profile(name))
    return np.asarray(cmyk, float) / 2.55


@pytest.mark.parametrize(("name", "limit"), [(COATED, 300), (UNCOATED, 280)])
def test_the_shipped_profiles(name: str, limit: float) -> None:
    """White stays paper, the ink limit holds over the whole gamut, black rises steadily, greys come back grey."""
    levels = np.arange(0, 256, 17)
    cube = np.stack(np.meshgrid(levels, levels, levels), -1).reshape(1, -1, 3)
    inks = _through(name, cube)[0]
    assert _through(name, np.full((1, 1, 3), 255)).sum() <= 2
    assert inks.sum(1).max() <= limit + 1
    ramp = np.repeat(np.arange(255, -1, -1)[None, :, None], 3, 2)
    grey = _through(name, ramp)[0]
    assert np.diff(grey[:, 3]).min() >= -1.0
    profile = ImageCms.getOpenProfile(io.BytesIO(shipped_profile(name)))
    back = ImageCms.buildTransform(
        profile, ImageCms.createProfile("LAB"), "CMYK", "LAB", ImageCms.Intent.ABSOLUTE_COLORIMETRIC
    )
    pixels = Image.fromarray((grey[None] * 2.55).round().astype(np.uint8), "CMYK")
    shown = ImageCms.applyTransform(pixels, back)
    assert shown is not None
    lab = np.asarray(shown, float)[0]
    chroma = np.hypot(lab[:, 1] - lab[0, 1], lab[:, 2] - lab[0, 2])
    assert np.minimum(chroma, 256 - chroma).max() < 9


def test_a_profile_that_is_none_is_refused(tmp_path: Path) -> None:
    wrong = tmp_path / "x.icc"
    wrong.write_bytes(b"nonsense")
    rgb = tmp_path / "rgb.icc"
    rgb.write_bytes(shipped_profile("srgb"))
    for path in (wrong, rgb, tmp_path / "absent.icc"):
        with pytest.raises(Problem):
            read_profile(path)


def test_inks_on_the_screen() -> None:
    assert ink_on_screen(Tone()) == (255, 255, 255)
    black, cyan = ink_on_screen(Tone(k=1)), ink_on_screen(Tone(c=1))
    assert max(black) < 60 and cyan[2] > cyan[0] + 80


def test_a_picture_taken_as_it_is_now_takes_its_size_and_outline_too(demo: Path) -> None:
    job = read(demo / "graftwood.halffold")
    file = demo / "pictures" / "bowl-of-apples.jpg"
    Image.new("RGB", (300, 900), "red").save(file)
    finding = next(f for f in check(job, Setter(), demo / "pictures") if f.rule == "changed picture")
    assert finding.fix is not None
    taken = next(p for p in finding.fix.edit(job).pictures if p.file == file.name)
    before = next(p for p in job.pictures if p.file == file.name)
    assert (taken.width, taken.height, taken.id) == (300, 900, before.id) and taken.digest != before.digest


def test_a_trim_in_pixels_takes_its_resolution_for_both_sides(magazine: Publication) -> None:
    for text in ("1600x2560px@300ppi", "1600px@300ppi x 2560px@300ppi", "1600 × 2560 px@300ppi"):
        brief = set_values(magazine, [f"trim={text}"]).brief
        assert (brief.width.mm, brief.height.mm) == pytest.approx((1600 * 25.4 / 300, 2560 * 25.4 / 300))


@pytest.mark.parametrize("at", [12, 16, 20])
def test_a_profile_whose_signatures_are_no_letters_is_taken_for_none(tmp_path: Path, at: int) -> None:
    """Kind of device, space of pixels and space between: four octets each (ICC.1, 7.2), whatever they are."""
    content = bytearray(shipped_profile("half-fold-coated"))
    content[at : at + 4] = b"\xd2GB!"
    image = Image.new("RGB", (4, 4), "red")
    image.info["icc_profile"] = bytes(content)
    assert embedded_profile(image) is None
    made, _ = to_press(image, shipped_profile("half-fold-coated"))
    assert made.mode == "CMYK"
    (tmp_path / "x.icc").write_bytes(bytes(content))
    if at != 20:
        with pytest.raises(Problem):
            read_profile(tmp_path / "x.icc")


@pytest.mark.parametrize("see_through", [False, True])
def test_a_palette_that_holds_greys_alone_prints_in_black_alone(tmp_path: Path, see_through: bool) -> None:
    """As any grey does; one with a single colour in it prints in all inks."""
    ramp = np.tile(np.arange(0, 240, 4, dtype=np.uint8), (20, 1))
    told = {"transparency": 3} if see_through else {}
    for colour, mode in (((0, 0, 0), "L"), ((200, 30, 30), "CMYK")):
        image = Image.fromarray(np.stack([ramp] * 3, -1))
        image.paste(colour, (0, 0, 4, 4))
        image.quantize(256, dither=Image.Dither.NONE).save(tmp_path / "p.png", **told)
        made, alpha = to_press(load_pixels(tmp_path / "p.png"), shipped_profile(COATED))
        assert made.mode == mode
        assert (alpha is not None) is see_through


def _layered(planes: np.ndarray, mode: int) -> bytes:
    """A layered file with no layer and its merged picture, whose planes lie one after another."""
    channels, high, wide = planes.shape
    head = b"8BPS" + struct.pack(">H6xHIIHH", 1, channels, high, wide, 8, mode)
    return head + struct.pack(">IIIH", 0, 0, 0, 0) + planes.tobytes()


@pytest.mark.parametrize(
    ("channels", "mode", "kind", "pixel"),
    [
        (3, 3, "RGB", (40, 80, 120)),
        (4, 3, "RGBA", (40, 80, 120, 160)),
        (4, 4, "CMYK", (215, 175, 135, 95)),
        (1, 1, "L", 40),
    ],
)
def test_a_layered_file_comes_in_by_its_merged_picture(
    tmp_path: Path, channels: int, mode: int, kind: str, pixel: object
) -> None:
    planes = np.stack([np.full((30, 40), 40 * (at + 1), np.uint8) for at in range(channels)])
    (tmp_path / "layers.psd").write_bytes(_layered(planes, mode))
    job, picture = bring_picture(start("magazine", "x"), tmp_path / "pictures", tmp_path / "layers.psd")
    assert (picture.width, picture.height, picture.has_alpha) == (40, 30, kind == "RGBA") and job.pictures
    read_ = load_pixels(tmp_path / "pictures" / picture.file)
    assert read_.mode == kind and read_.getpixel((5, 5)) == pixel
    (tmp_path / "cut.psd").write_bytes(_layered(planes, mode)[:200])
    with pytest.raises(Problem):
        bring_picture(job, tmp_path / "pictures", tmp_path / "cut.psd")
