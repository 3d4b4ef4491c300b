"""Pictures of every kind at the press, against a conversion made by itself, and what is said of them before."""

import io
from pathlib import Path

import numpy as np
import pikepdf
import pytest
from msgspec.structs import replace
from PIL import Image, ImageCms

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import (
    COATED,
    UNCOATED,
    printing_condition,
    profile_for,
    shipped_profile,
    to_screen,
)
from half_fold.core.pictures.library.bring import bring_picture, load_pixels
from half_fold.core.plan.settings import set_value, set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.press.pdf.images import embedded, made_image
from half_fold.core.press.pdf.seen import PicturePart
from half_fold.core.publication.records import HoldsPicture, Picture, Publication, Section
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import create_job
from tests.blocks import block_over
from tests.conftest import judge
from tests.pictures import (
    GREY_PROFILE,
    KINDS,
    RGB_PROFILE,
    alpha,
    cmyk,
    grey,
    inks_with_alpha,
    line_art,
    made_profile,
    octets_of,
    rgb,
)

PRESS = shipped_profile(COATED)
FLAGS = ImageCms.Flags.BLACKPOINTCOMPENSATION


def embed_picture(pdf: pikepdf.Pdf, folder: Path, picture: Picture, profile: bytes) -> pikepdf.Object:
    """A whole picture as an image object in press inks."""
    whole = PicturePart(picture.id, 0, 0, picture.width, picture.height, picture.width, picture.height)
    return embedded(pdf, made_image(folder, picture, whole, profile))


def _opened(content: bytes) -> ImageCms.ImageCmsProfile:
    return ImageCms.getOpenProfile(io.BytesIO(content))


def _through(image: Image.Image, source: bytes, mode: str = "CMYK") -> np.ndarray:
    """A conversion of one step, by the colour library itself."""
    target = _opened(PRESS) if mode == "CMYK" else ImageCms.createProfile("LAB")
    intent = ImageCms.Intent.RELATIVE_COLORIMETRIC
    made = ImageCms.buildTransform(_opened(source), target, image.mode, mode, intent, flags=FLAGS)
    return np.asarray(ImageCms.applyTransform(image, made), float) / 255


def _wanted(kind: str) -> np.ndarray:
    """Shares of four inks, or of black, that a picture of that kind should lay."""
    srgb = shipped_profile("srgb")
    if kind.startswith("line art"):
        return 1 - np.asarray(line_art(), float)
    if kind.startswith("inks"):
        return np.asarray(cmyk(), float) / 255
    if kind.startswith("grey"):
        own = "own curve" in kind
        return _black(_through(grey() if own else grey().convert("RGB"), GREY_PROFILE if own else srgb, "LAB")[..., 0])
    image = rgb().quantize(64).convert("RGB") if kind.startswith("palette") else rgb()
    return _through(image, RGB_PROFILE if "wide" in kind else srgb)


def _black(lightness: np.ndarray) -> np.ndarray:
    """The share of black that is as light in print, black points met: searched step by step, not looked up."""
    ramp = np.zeros((1, 256, 4), np.uint8)
    ramp[0, :, 3] = range(256)
    to_lab = ImageCms.buildTransform(_opened(PRESS), ImageCms.createProfile("LAB"), "CMYK", "LAB", 1)
    shown = np.asarray(ImageCms.applyTransform(Image.fromarray(ramp, "CMYK"), to_lab), float)[0, :, 0] * 100 / 255
    y = lambda light: np.where(light > 8, ((light + 16) / 116) ** 3, light / 903.3)  # noqa: E731
    printed, asked = y(shown), y(lightness * 100)
    asked = printed[-1] + asked * (printed[0] - printed[-1])
    return np.abs(printed[None, None, :] - asked[..., None]).argmin(-1) / 255


@pytest.mark.parametrize("kind", KINDS)
def test_a_picture_is_converted_as_another_hand_would(kind: str, tmp_path: Path, magazine: Publication) -> None:
    _, picture = bring_picture(magazine, tmp_path / "pictures", KINDS[kind](tmp_path))
    with pikepdf.new() as pdf:
        image = embed_picture(pdf, tmp_path / "pictures", picture, PRESS)
        found, wanted = octets_of(image), _wanted(kind)
        assert found.shape == wanted.shape
        assert np.abs(found - wanted).mean() < 0.01 and np.quantile(np.abs(found - wanted), 0.98) < 0.04
        has_alpha = "alpha" in kind or kind.startswith("rgba")
        assert ("/SMask" in image) == (has_alpha or "see-through" in kind)
        if has_alpha:
            mask = np.frombuffer(image.SMask.read_bytes(), np.uint8).reshape(alpha().height, -1)
            assert np.abs(mask.astype(float) - np.asarray(alpha(), float)).max() <= 1
        if kind.startswith(("grey", "line art")):
            assert image.ColorSpace == "/DeviceGray"
        assert int(image.BitsPerComponent) == (1 if kind.startswith("line art") else 8)


@pytest.mark.parametrize("kind", KINDS)
def test_what_is_seen_is_what_prints(kind: str, tmp_path: Path) -> None:
    """The screen's picture is as light as the picture that is printed, seen through the profile (black points met)."""
    shown = to_screen(load_pixels(KINDS[kind](tmp_path))).convert("RGB")
    assert shown.size == rgb().size
    if kind.startswith("rgb") and "wide" not in kind:
        assert np.abs(np.asarray(shown, float) - np.asarray(rgb(), float)).mean() < 2


@pytest.mark.parametrize(("mode", "suffix"), [("F", ".tif"), ("I", ".tif")])
def test_pixels_of_32_bits_are_refused_in_a_sentence(
    mode: str, suffix: str, tmp_path: Path, magazine: Publication
) -> None:
    path = tmp_path / f"deep{suffix}"
    Image.new(mode, (8, 8), 1).save(path)
    with pytest.raises(Problem, match="32 bits"):
        bring_picture(magazine, tmp_path / "pictures", path)
    assert not (tmp_path / "pictures").exists()


def test_alpha_beside_inks_turns_with_the_picture(tmp_path: Path, magazine: Publication) -> None:
    path = inks_with_alpha(tmp_path / "made.tif", "none", turn=6)
    whole = load_pixels(path)
    assert whole.size == whole.info["alpha beside inks"].size == cmyk().size[::-1]
    upright = np.rot90(np.asarray(alpha()), -1)
    assert np.array_equal(np.asarray(whole.info["alpha beside inks"]), upright)
    _, picture = bring_picture(magazine, tmp_path / "pictures", path)
    assert picture.has_alpha and (picture.width, picture.height) == whole.size


@pytest.mark.parametrize("cut", [4, 8, 60, 200, 4000])
def test_a_part_of_such_a_file_is_said(tmp_path: Path, magazine: Publication, cut: int) -> None:
    path = inks_with_alpha(tmp_path / "made.tif", "lzw")
    path.write_bytes(path.read_bytes()[:cut])
    with pytest.raises(Problem):
        bring_picture(magazine, tmp_path / "pictures", path)


def _job(folder: Path, kind: str, inks: str = "", size: tuple[int, int] | None = None) -> tuple[Publication, Path]:
    """A magazine with one picture over page 3."""
    source = KINDS[kind](folder)
    if size is not None:
        Image.open(source).resize(size).save(source)
    job, picture = bring_picture(start("magazine", "Kinds"), folder / "pictures", source)
    job = with_page(
        job, replace(job.pages[2], things=(block_over("b1", HoldsPicture(picture=picture.id), (0, 3), (0, 2)),))
    )
    return set_value(job, f"picture.{picture.file}.inks", inks), folder / "pictures"


def _plates(pdf: Path, page: int, folder: Path) -> dict[str, float]:
    """How much each plate of a page carries at the most, as shares."""
    out = folder / "plates.tif"
    options = ["-q", "-dBATCH", "-dNOPAUSE", "-dSAFER", "-sDEVICE=tiffsep", "-r36"]
    judge("gs", *options, f"-dFirstPage={page}", f"-dLastPage={page}", f"-sOutputFile={out}", pdf)
    names = ("Cyan", "Magenta", "Yellow", "Black")
    return {
        name: 1 - np.asarray(Image.open(next(folder.glob(f"plates*({name})*"))).convert("L"), float).min() / 255
        for name in names
    }


@pytest.mark.parametrize(
    ("kind", "inks", "alone"),
    [
        ("grey png", "", True),
        ("grey png", "four", False),
        ("rgb png", "black", True),
        ("rgb png", "", False),
        ("line art png", "", True),
        ("inks tiff", "black", True),
        ("line art tiff", "four", False),
    ],
)
def test_black_alone_is_on_its_own_plate(tmp_path: Path, kind: str, inks: str, alone: bool) -> None:
    job, pictures = _job(tmp_path, kind, inks)
    press(job, pictures, tmp_path / "x.pdf")
    judge("qpdf", "--check", tmp_path / "x.pdf")
    found = _plates(tmp_path / "x.pdf", 3, tmp_path)
    assert found["Black"] > 0.9
    assert (max(found["Cyan"], found["Magenta"], found["Yellow"]) < 0.01) == alone


def test_inks_for_another_paper_are_a_finding_until_it_is_said(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, "inks tiff, other profile")
    (found,) = [f for f in check(job, Setter(), pictures) if f.rule == "inks of another profile"]
    assert found.fix is not None and "has inks for" in found.message
    assert not [f for f in check(found.fix.edit(job), Setter(), pictures) if f.rule == found.rule]
    name = job.pictures[0].file
    kept = set_value(job, f"picture.{name}.inks", "kept")
    assert not [f for f in check(kept, Setter(), pictures) if f.rule == found.rule]
    with pikepdf.new() as pdf:
        same = octets_of(embed_picture(pdf, pictures, kept.pictures[0], PRESS))
        other = octets_of(embed_picture(pdf, pictures, found.fix.edit(job).pictures[0], PRESS))
        wanted = _through(cmyk(), shipped_profile(UNCOATED))
    assert np.abs(same - np.asarray(cmyk(), float) / 255).mean() < 0.01
    assert np.abs(other - wanted).mean() < 0.01 < np.abs(other - same).mean()
    own, pictures = _job(tmp_path / "own" if (tmp_path / "own").mkdir() is None else tmp_path, "inks jpeg, own profile")
    assert not [f for f in check(own, Setter(), pictures) if f.rule == found.rule]


def test_wrong_words_for_inks_are_said(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job, _ = _job(tmp_path, "grey png")
    for key, value, said in (
        ("picture.made.png.inks", "blue", "no way to print"),
        ("picture.no.png.inks", "black", "no picture"),
    ):
        with pytest.raises(Problem, match=said):
            set_value(job, key, value)
    file = create_job(tmp_path / "job", job)
    assert main(["set", str(file), "picture.made.png.inks=black"]) == 0
    assert main(["set", str(file), "picture.made.png.inks=x"]) == 2 and "no way" in capsys.readouterr().err


def test_line_art_is_judged_by_its_own_measure(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, "line art png", size=(3000, 2000))
    rules = {f.rule for f in check(job, Setter(), pictures)}
    assert "coarse line art" in rules and "low resolution" not in rules


def test_the_ink_of_a_picture_is_held_against_the_paper(tmp_path: Path) -> None:
    heavy = Image.new("CMYK", (300, 200), (250, 250, 240, 255))
    heavy.save(tmp_path / "heavy.tif", icc_profile=shipped_profile(UNCOATED))
    job, picture = bring_picture(start("magazine", "x"), tmp_path / "pictures", tmp_path / "heavy.tif")
    job = with_page(job, replace(job.pages[2], things=(block_over("b1", HoldsPicture(picture=picture.id)),)))
    (found,) = [f for f in check(job, Setter(), tmp_path / "pictures") if f.rule == "too much ink"]
    assert "390 %" in found.message and found.fix is not None
    after = found.fix.edit(job)
    assert not [f for f in check(after, Setter(), tmp_path / "pictures") if f.rule == "too much ink"]
    usual, pictures = _job(tmp_path, "rgb png")
    assert not [f for f in check(usual, Setter(), pictures) if f.rule == "too much ink"]


# The profile of each part, and what the file says of itself -----------------------------------------------------


def _intent(pdf: Path) -> bytes:
    with pikepdf.open(pdf) as opened:
        return opened.Root.OutputIntents[0].DestOutputProfile.read_bytes()


def test_each_part_is_printed_by_the_profile_of_its_own_paper(tmp_path: Path) -> None:
    job = set_values(
        start("book", "Cased"),
        [
            "binding=case",
            "pages=96",
            "paper.text=Tarn Offset 80",
            "paper.cover=Marrow Silk 130",
            "jacket=Tarn Offset 90",
        ],
    )
    job = replace(job, sections=(Section(name="Plates", first=job.pages[32].id, paper=job.brief.cover_paper),))
    papers = {"pages": job.brief.text_paper, "cover": job.brief.jacket, "case": job.brief.cover_paper}
    papers["section.Plates"] = job.brief.cover_paper
    for part, paper in papers.items():
        press(job, tmp_path, tmp_path / "x.pdf", part)
        assert _intent(tmp_path / "x.pdf") == profile_for(job, paper), part
    with pikepdf.open(tmp_path / "x.pdf") as opened:
        assert len(opened.pages) == 64


def test_pictures_of_a_section_go_by_its_paper_in_one_file_too(tmp_path: Path) -> None:
    job, pictures = _job(tmp_path, "rgb png")
    blocks = job.pages[2].blocks
    job = with_page(job, replace(job.pages[4], things=(replace(blocks[0], id="b2"),)))
    job = set_value(job, "paper.cover", "Tarn Offset 80")
    section = Section(name="Notes", first=job.pages[3].id, paper="Tarn Offset 80")
    press(replace(job, sections=(section,)), pictures, tmp_path / "x.pdf")
    with pikepdf.open(tmp_path / "x.pdf") as opened:
        images = [next(iter(opened.pages[at].images.values())) for at in (2, 4)]
        assert images[0].objgen != images[1].objgen
        assert opened.pages[2].obj.Group.CS == "/DeviceCMYK" and "/Group" not in opened.pages[0].obj


def test_a_registered_printing_condition_is_named(tmp_path: Path) -> None:
    assert printing_condition(PRESS) == "FOGRA39"  # what the shipped one for coated paper is made of
    renamed = made_profile("CMYK", 2.0).replace(b"Made CMYK 2.0", b"Any FOGRA51 x")
    assert printing_condition(renamed) == "FOGRA51"


def test_every_file_is_an_instance_of_its_own(tmp_path: Path) -> None:
    job = start("magazine", "x")
    found = []
    for name in ("a.pdf", "b.pdf"):
        press(job, tmp_path, tmp_path / name)
        with pikepdf.open(tmp_path / name) as pdf, pdf.open_metadata() as meta:
            found.append(str(meta["xmpMM:InstanceID"]))
    assert found[0] != found[1] and all(each.startswith("uuid:") for each in found)


def test_progress_tells_every_step_and_ends_when_the_work_does(demo: Path, tmp_path: Path) -> None:
    from half_fold.core.store.job import open_job

    told: list[tuple[int, int, str]] = []
    job = open_job(demo, to_write=False)
    press(job.publication, job.pictures, tmp_path / "x.pdf", progress=lambda *step: told.append(step))
    done = [step[0] for step in told]
    assert done == sorted(done) and done[-1] == told[-1][1] and done[-2] < told[-2][1]
    assert told[-1][2] == "proved" and told[-2][2] == "reading the file back"
    words = [step[2] for step in told]
    assert "page 48" in words and sum(word.startswith("picture ") for word in words) > 10


def _emptied(profile: bytes) -> bytes:
    """A profile that opens and says what it is, with nothing in its tables."""
    return profile[:132] + bytes(octet if at < 12 * profile[131] else 0 for at, octet in enumerate(profile[132:]))


def test_a_profile_that_opens_but_converts_nothing_is_none(tmp_path: Path, magazine: Publication) -> None:
    from half_fold.core.pictures.colour.colour import embedded_profile, read_profile
    from half_fold.core.pictures.colour.press_inks import to_press

    for image, profile in ((rgb(), RGB_PROFILE), (grey(), GREY_PROFILE), (cmyk(), shipped_profile(UNCOATED))):
        image.info["icc_profile"] = _emptied(profile)
        assert embedded_profile(image) is None
        to_press(image, PRESS, "converted"), to_press(image, PRESS, "black"), to_screen(image)
    (tmp_path / "hurt.icc").write_bytes(_emptied(PRESS))
    with pytest.raises(Problem, match="damaged"):
        read_profile(tmp_path / "hurt.icc")


def test_a_profile_whose_name_is_no_words_has_none() -> None:
    from half_fold.core.pictures.colour.colour import profile_name

    assert profile_name(PRESS).startswith("Half Fold")
    nameless = PRESS.replace(b"Half Fold", b"\xaf" * 9)
    assert nameless != PRESS and profile_name(nameless) == "a profile without a name"
    assert printing_condition(nameless) == ""


# Large ones ---------------------------------------------------------------------------------------------------


def test_a_picture_in_bands_is_the_picture_at_once(monkeypatch: pytest.MonkeyPatch) -> None:
    from half_fold.core.pictures.colour import colour, press_inks

    for kind in (rgb(), cmyk(), grey().convert("RGB")):
        kind.info["icc_profile"] = shipped_profile(UNCOATED) if kind.mode == "CMYK" else RGB_PROFILE
        whole = press_inks.to_press(kind, PRESS, "converted")[0]
        monkeypatch.setattr(colour, "BAND_PIXELS", 700)
        banded = press_inks.to_press(kind, PRESS, "converted")[0]
        monkeypatch.undo()
        assert np.array_equal(np.asarray(whole), np.asarray(banded))


def test_a_side_longer_than_a_jpeg_can_hold_goes_in_whole(tmp_path: Path, magazine: Publication) -> None:
    Image.new("RGB", (65_600, 3), (200, 20, 30)).save(tmp_path / "long.png")
    job, picture = bring_picture(magazine, tmp_path / "pictures", tmp_path / "long.png")
    job = with_page(job, replace(job.pages[2], things=(block_over("b1", HoldsPicture(picture=picture.id)),)))
    proved = press(job, tmp_path / "pictures", tmp_path / "x.pdf")
    judge("qpdf", "--check", tmp_path / "x.pdf")
    assert proved.pictures == 1


def test_more_pixels_than_there_is_memory_for_are_refused_before_they_are_read(
    tmp_path: Path, magazine: Publication
) -> None:
    import struct
    import zlib

    head = struct.pack(">IIBBBBB", 30_000, 30_000, 8, 2, 0, 0, 0)
    chunk = struct.pack(">I", 13) + b"IHDR" + head + struct.pack(">I", zlib.crc32(b"IHDR" + head))
    (tmp_path / "bomb.png").write_bytes(b"\x89PNG\r\n\x1a\n" + chunk + struct.pack(">I", 0) + b"IEND\xaeB`\x82")
    with pytest.raises(Problem, match="more than 150 million pixels"):
        bring_picture(magazine, tmp_path / "pictures", tmp_path / "bomb.png")
