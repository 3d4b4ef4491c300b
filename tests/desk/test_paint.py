"""Painting: the screen's glyphs agree with the proof's outlines, proxies, and proofs of the right size."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtTest import QTest

from half_fold.core.drawing.marks import DisplayList, PictureMark, Shape
from half_fold.core.drawing.tone import BLACK, Tone
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import COATED, as_it_lies, ink_on_screen, profile_for, shipped_profile
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.pictures.library.pyramid import STEPS, reduced
from half_fold.core.plan.own_kinds import begin
from half_fold.core.plan.spreads import Spread
from half_fold.core.press.make import press
from half_fold.core.publication.records import HoldsPicture, Treatment
from half_fold.core.publication.records import Picture as PictureRecord
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import Job, open_job
from half_fold.desk.paint.painter import paint
from half_fold.desk.paint.proof import write_proof
from half_fold.desk.paint.proxies import Proxies, to_qimage
from tests.blocks import block_over
from tests.conftest import judge


@pytest.fixture
def demo_job(demo: Path) -> Job:
    return open_job(demo, to_write=False)


def _painted(marks: DisplayList, scale: float, outlines: bool = False, pictures: object = None) -> np.ndarray:
    area = marks.area
    image = QImage(round(area.width * scale), round(area.height * scale), QImage.Format.Format_RGB32)
    image.fill(QColor("white"))
    painter = QPainter(image)
    painter.scale(scale, scale)
    painter.translate(-area.left, -area.top)
    paint(painter, marks, pictures or (lambda _picture, _width: None), outlines)  # type: ignore[arg-type]
    painter.end()
    bits = image.constBits()
    assert bits is not None
    bits.setsize(image.sizeInBytes())
    return np.frombuffer(bits, np.uint8).reshape(image.height(), image.width(), 4)[..., :3].astype(float).copy()


def test_screen_glyphs_stand_where_the_outlines_do(demo_job: Job, qapp: object) -> None:
    marks = Setter().spread(demo_job.publication, Spread(6, 7))
    text_only = DisplayList(marks.area, tuple(m for m in marks.marks if not isinstance(m, PictureMark)))
    screen, exact = (_painted(text_only, 1.6, outlines).mean(2) for outlines in (False, True))
    assert np.corrcoef(screen.ravel(), exact.ravel())[0, 1] > 0.95
    assert np.corrcoef(screen.ravel(), np.roll(exact, 3, axis=1).ravel())[0, 1] < 0.6


def test_shapes_and_inks_on_the_screen(qapp: object) -> None:
    area = Rect(0, 0, 40, 40)
    loden = Tone(0.72, 0.32, 0.62, 0.42)
    marks = DisplayList(area, (Shape(Rect(0, 0, 20, 40), loden), Shape(Rect(20, 0, 40, 40), None, BLACK, 4)))
    image = _painted(marks, 1)
    assert image[20, 10, ::-1] == pytest.approx(ink_on_screen(loden))
    assert image[20, 22].max() < 60 and image[20, 30].min() == 255 and image[2, 30].max() < 60


def test_a_picture_not_read_yet_has_a_quiet_ground(qapp: object) -> None:
    marks = DisplayList(Rect(0, 0, 40, 40), (PictureMark("p", Rect(-20, 0, 60, 40), Rect(10, 10, 30, 30)),))
    image = _painted(marks, 1)
    assert image[20, 20].tolist() == [0xC8, 0xCD, 0xCF] and image[5, 5].min() == 255


def test_a_picture_is_cropped_to_its_clip(qapp: object) -> None:
    whole = QImage(80, 40, QImage.Format.Format_RGB32)
    whole.fill(QColor("#204060"))
    marks = DisplayList(Rect(0, 0, 40, 40), (PictureMark("p", Rect(-20, 0, 60, 40), Rect(10, 10, 30, 30)),))
    image = _painted(marks, 1, pictures=lambda _p, _w: whole)
    assert (
        image[20, 20, ::-1].tolist() == [0x20, 0x40, 0x60] and image[20, 5].min() == 255 and image[20, 35].min() == 255
    )


def test_proxies_are_read_off_the_thread_in_steps(demo_job: Job, qapp: object) -> None:
    proxies = Proxies(demo_job.pictures)
    proxies.know(demo_job.publication.pictures)
    picture = demo_job.publication.pictures[0].id
    assert proxies.image(picture, 100) is None and proxies.image("none such", 100) is None
    proxies.wait()
    QTest.qWait(20)
    small = proxies.image(picture, 100)
    assert small is not None and small.width() == 160
    proxies.image(picture, 700)
    proxies.wait()
    QTest.qWait(20)
    larger = proxies.image(picture, 700)
    assert larger is not None and larger.width() == STEPS[1]


def test_a_missing_or_damaged_picture_gives_none(tmp_path: Path, qapp: object) -> None:
    (tmp_path / "bad.jpg").write_bytes(b"\xff\xd8\xff\xe0")
    proxies = Proxies(tmp_path)
    proxies.know(tuple(PictureRecord(id=n, file=n, width=9, height=9, digest=n) for n in ("bad.jpg", "gone.jpg")))
    for name in ("bad.jpg", "gone.jpg"):
        proxies.image(name, 100)
        proxies.wait()
        QTest.qWait(20)
        assert proxies.image(name, 100) is None


def test_reduced_pictures_keep_alpha_and_stand_upright(tmp_path: Path) -> None:
    Image.new("RGBA", (600, 300), (200, 30, 20, 0)).save(tmp_path / "clear.png")
    clear = to_qimage(reduced(tmp_path / "clear.png", "clear", 160))
    assert (clear.width(), clear.height()) == (160, 80) and clear.pixelColor(9, 9).alpha() == 0
    exif = Image.Exif()
    exif[0x0112] = 6
    Image.new("RGB", (600, 300)).save(tmp_path / "side.jpg", exif=exif)
    side = to_qimage(reduced(tmp_path / "side.jpg", "side", 160))
    assert side.height() > side.width()


@pytest.mark.parametrize("side", [40, 700, 5000])
def test_sixteen_bit_greys_are_not_burnt_out(tmp_path: Path, side: int) -> None:
    Image.fromarray(np.full((40, side), 32_768, np.uint16)).save(tmp_path / "grey.png")
    for step in STEPS:
        shown = to_qimage(reduced(tmp_path / "grey.png", f"grey{side}", step))
        assert shown.pixelColor(1, 0).red() == pytest.approx(128, abs=1)


def _many(folder: Path, count: int) -> tuple[PictureRecord, ...]:
    for index in range(count):
        Image.new("RGB", (320, 200), (index, 0, 0)).save(folder / f"{index}.png")
    names = [f"{index}.png" for index in range(count)]
    return tuple(PictureRecord(id=n, file=n, width=320, height=200, digest=f"{folder.name}{n}") for n in names)


def _asked_again_and_again(proxies: Proxies, names: list[str]) -> None:
    for _ in range(12):
        for name in names:
            proxies.image(name, 160)
        proxies.wait()
        QTest.qWait(5)


def test_more_pictures_in_view_than_there_is_room_for_are_not_read_without_end(tmp_path: Path, qapp: object) -> None:
    proxies = Proxies(tmp_path, most=10 * 160 * 100 * 4)
    pictures = _many(tmp_path, 30)
    proxies.know(pictures)
    _asked_again_and_again(proxies, [p.id for p in pictures])
    assert proxies.read == 30 and sum(proxies.image(p.id, 160) is not None for p in pictures) == 10
    assert proxies.held_octets <= 11 * 160 * 100 * 4


def test_what_was_not_asked_for_lately_makes_room(
    tmp_path: Path, qapp: object, monkeypatch: pytest.MonkeyPatch
) -> None:
    now = [100.0]
    monkeypatch.setattr("half_fold.desk.paint.proxies.monotonic", lambda: now[0])
    proxies = Proxies(tmp_path, most=10 * 160 * 100 * 4)
    pictures = _many(tmp_path, 20)
    proxies.know(pictures)
    for half in (pictures[:10], pictures[10:], pictures[:10]):
        _asked_again_and_again(proxies, [p.id for p in half])
        assert all(proxies.image(p.id, 160) is not None for p in half)
        now[0] += 60
    assert proxies.read == 30


@pytest.mark.parametrize(
    ("words", "mm"), [({"page": 7}, (220, 285)), ({"spread": 4}, (440, 285)), ({"cover": True}, (445, 285))]
)
def test_proofs_are_cut_to_the_trim(
    demo_job: Job, tmp_path: Path, qapp: object, words: dict[str, object], mm: tuple[float, float]
) -> None:
    write_proof(demo_job, tmp_path / "p.png", dpi=50, **words)  # type: ignore[arg-type]
    image = Image.open(tmp_path / "p.png")
    assert image.size == tuple(round(side / 25.4 * 50) for side in mm)
    assert image.info["dpi"][0] == pytest.approx(50, abs=0.1)


def test_a_proof_too_large_is_refused(demo_job: Job, tmp_path: Path, qapp: object) -> None:
    with pytest.raises(Problem, match="fewer dpi"):
        write_proof(demo_job, tmp_path / "p.png", spread=4, dpi=1200)
    assert not (tmp_path / "p.png").exists()


def test_a_proof_on_paper_shows_pictures_in_the_inks_they_are_pressed_in(tmp_path: Path, qapp: object) -> None:
    """Pure inks of a picture that keeps its own were brought to the screen and back, and came out as others."""
    import shutil

    from half_fold.cli import main

    folder = tmp_path / "job"
    assert main(["new", "one-sheet", str(folder), "--set", "title=Inks"]) == 0
    pure = {"c": (255, 0, 0, 0), "m": (0, 255, 0, 0), "y": (0, 0, 255, 0), "my": (0, 255, 255, 0)}
    for name, inks in pure.items():
        file = tmp_path / f"{name}.tif"
        Image.new("CMYK", (400, 600), inks).save(file)
        there = Path(shutil.copytree(folder, tmp_path / name))
        assert main(["place", str(there), "--picture", str(file)]) == 0
        job = open_job(there)
        laid = block_over("laid", HoldsPicture(picture=job.publication.pictures[0].id))
        job.save(with_page(job.publication, replace(job.publication.pages[0], things=(laid,))))
        job.close()
        write_proof(job, tmp_path / f"{name}.png", page=1, dpi=40, on_paper=True)
        paper = job.publication.brief.text_paper
        wanted = as_it_lies(Image.new("CMYK", (1, 1), inks), profile_for(job.publication, paper)).getpixel((0, 0))
        shown = np.asarray(Image.open(tmp_path / f"{name}.png").convert("RGB")).astype(int)
        off = np.abs(shown - np.array(wanted)).max(2)
        assert (off <= 2).mean() > 0.02, name


def test_a_plain_proof_says_that_it_is_not_of_its_paper(
    demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    from half_fold.cli import main

    said = {}
    for paper in ("Marrow Silk 115", "Tarn Offset 100"):
        assert main(["set", str(demo), f"brief.paper.text={paper}"]) == 0
        assert main(["proof", str(demo), str(tmp_path / "p.png"), "--page", "3", "--dpi", "20"]) == 0
        said[paper] = capsys.readouterr().err
    assert "--on-paper" not in said["Marrow Silk 115"] and "--on-paper" in said["Tarn Offset 100"]


@pytest.mark.parametrize("paper", ["Marrow Silk 115", "Tarn Offset 100"])
@pytest.mark.parametrize("kind", ["treated", "sharpened", "held", "converted", "kept", "grey", "cut out"])
def test_a_proof_on_paper_is_the_press_file_as_an_outside_judge_parts_it(
    tmp_path: Path, qapp: object, kind: str, paper: str
) -> None:
    """Also pictures that are treated on their way, and those that may lay only so much ink on their paper."""
    y, x = np.mgrid[0:600, 0:450]
    light = np.stack([x / 450, y / 600, (x + y) / 1050], 2)
    colour = Image.fromarray(np.round(255 * (0.1 + 0.5 * light)).astype(np.uint8))
    inks = np.dstack([1 - 0.4 * light, np.ones(x.shape)]) * 255
    made = Image.fromarray(np.round(inks).astype(np.uint8), "CMYK") if kind in ("held", "converted", "kept") else colour
    made = made.convert("L") if kind == "grey" else made
    if kind == "cut out":
        made.putalpha(Image.fromarray(np.where((x - 225) ** 2 + (y - 300) ** 2 < 40000, 255, 0).astype(np.uint8)))
    file = tmp_path / "picture.tif"
    made.save(file, icc_profile=shipped_profile(COATED) if made.mode == "CMYK" else None)
    path = begin("one-sheet", "Inks", tmp_path / "job", [f"paper.text={paper}", "trim=60x80mm"])
    job = open_job(path)
    publication, picture = bring_picture(job.publication, job.pictures, file)
    if kind in ("held", "converted"):
        pictures = tuple(replace(each, inks=kind) for each in publication.pictures)
        publication = replace(publication, pictures=pictures)
    treatment = {"treated": Treatment(exposure=0.4, contrast=20.0), "sharpened": Treatment(sharpen=60.0)}.get(kind)
    laid = block_over("laid", HoldsPicture(picture=picture.id, treatment=treatment))
    job.save(with_page(publication, replace(publication.pages[0], things=(laid,))))
    job.close()
    write_proof(job, tmp_path / "p.png", page=1, dpi=144, on_paper=True)
    press(job.publication, job.pictures, tmp_path / "x.pdf")
    options = ("-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-dUseTrimBox", "-sDEVICE=tiff32nc", "-r144")
    judge("gs", *options, f"-sOutputFile={tmp_path / 'x.tif'}", tmp_path / "x.pdf")
    wanted = np.asarray(as_it_lies(Image.open(tmp_path / "x.tif"), profile_for(job.publication, paper)), np.int16)
    found = np.asarray(Image.open(tmp_path / "p.png").convert("RGB"), np.int16)
    high, wide = min(wanted.shape[0], found.shape[0]), min(wanted.shape[1], found.shape[1])
    off = np.abs(wanted[:high, :wide] - found[:high, :wide]).max(2)
    assert np.quantile(off, 0.9) <= 4 and off.mean() < 2, (np.quantile(off, 0.9), off.mean())
