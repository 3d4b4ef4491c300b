"""The press PDF before outside judges: qpdf, poppler and Ghostscript."""

import subprocess
from collections.abc import Callable
from functools import cache
from pathlib import Path

import numpy as np
import pikepdf
import pytest
from PIL import Image, ImageFilter

from half_fold.cli import main
from half_fold.core.measure.entry import MM
from half_fold.core.press.pdf.fonts import unicode_map
from tests.conftest import judge

DPI = 254  # ten pixels to the millimetre, so that a cut at the trim falls between pixels


Pressed = Callable[[str], Path]
ASKED = {
    "pages": ("--part", "5-8, 14-16, 22"),
    "marked": ("--marks", "--as", "spreads", "--part", "20-25"),
    "cover": ("--part", "cover", "--marks"),
}  # some of the demo's pages, some of its spreads, and its cover
AT = {6: 2, 7: 3, 15: 6, 22: 8}  # where pages come in that file


@pytest.fixture(scope="module")
def pressed(demo_source: Path, tmp_path_factory: pytest.TempPathFactory) -> Pressed:
    """Files of the demo, each made when it is first asked for."""
    folder = tmp_path_factory.mktemp("pressed")

    @cache
    def made(name: str) -> Path:
        assert main(["press", str(demo_source), str(folder / f"{name}.pdf"), *ASKED[name]]) == 0
        return folder / f"{name}.pdf"

    return made


def _boxes(page: pikepdf.Page) -> dict[str, list[float]]:
    return {name: [float(v) for v in page.obj[f"/{name}"]] for name in ("MediaBox", "BleedBox", "TrimBox")}


def _grey(path: Path) -> np.ndarray:
    return np.asarray(Image.open(path).convert("L"), float)


def _poppler(pdf: Path, page: int, folder: Path, dpi: int = DPI) -> Path:
    judge(
        "pdftoppm",
        "-r",
        str(dpi),
        "-f",
        str(page),
        "-l",
        str(page),
        "-png",
        "-singlefile",
        pdf,
        folder / f"poppler{page}",
    )
    return folder / f"poppler{page}.png"


def _ghostscript(pdf: Path, page: int, folder: Path, dpi: int = DPI) -> Path:
    out = folder / f"gs{page}.png"
    judge(
        "gs",
        "-q",
        "-dBATCH",
        "-dNOPAUSE",
        "-dSAFER",
        "-sDEVICE=png16m",
        "-dTextAlphaBits=4",
        "-dGraphicsAlphaBits=4",
        f"-r{dpi}",
        f"-dFirstPage={page}",
        f"-dLastPage={page}",
        f"-sOutputFile={out}",
        pdf,
    )
    return out


@pytest.mark.parametrize("name", ASKED)
def test_the_standard_is_kept(pressed: Pressed, name: str) -> None:
    path = pressed(name)
    raw = path.read_bytes()
    assert raw.startswith(b"%PDF-1.6") and b"GTS_PDFXVersion>PDF/X-4<" in raw
    with pikepdf.open(path) as pdf:
        intent = pdf.Root.OutputIntents[0]
        assert intent.S == "/GTS_PDFX" and int(intent.DestOutputProfile.N) == 4
        assert pdf.trailer.Info["/Trapped"] == "/False" and "/ID" in pdf.trailer and not pdf.is_encrypted
        with pdf.open_metadata() as meta:
            assert meta["pdf:Trapped"] == "False" and str(meta["xmpMM:DocumentID"]).startswith("uuid:")
        for page in pdf.pages:
            assert b" rg" not in page.Contents.read_bytes() and b" RG" not in page.Contents.read_bytes()
            for image in page.images.values():
                assert image.ColorSpace == "/DeviceCMYK"


@pytest.mark.parametrize("name", ASKED)
def test_qpdf_accepts_every_file(pressed: Pressed, name: str) -> None:
    assert "No syntax or stream encoding errors" in judge("qpdf", "--check", pressed(name))


def test_all_fonts_are_embedded_subset_and_mapped(pressed: Pressed) -> None:
    rows = judge("pdffonts", pressed("pages")).splitlines()[2:]
    assert len(rows) >= 5
    for row in rows:
        assert row.split()[-5:-2] == ["yes", "yes", "yes"] and row[6] == "+"


def test_page_boxes_are_true_to_the_brief(pressed: Pressed) -> None:
    tolerance = 0.01 * MM
    with pikepdf.open(pressed("pages")) as pdf:
        assert len(pdf.pages) == 8
        for page in pdf.pages:
            boxes = _boxes(page)
            trim, bleed = boxes["TrimBox"], boxes["BleedBox"]
            assert trim[2] - trim[0] == pytest.approx(220 * MM, abs=tolerance)
            assert trim[3] - trim[1] == pytest.approx(285 * MM, abs=tolerance)
            assert [t - b for t, b in zip(trim, bleed, strict=True)] == pytest.approx(
                [3 * MM, 3 * MM, -3 * MM, -3 * MM], abs=tolerance
            )
            assert "/ArtBox" not in page.obj and "/CropBox" not in page.obj


def test_the_cover_is_one_page_of_the_worked_width(pressed: Pressed) -> None:
    with pikepdf.open(pressed("cover")) as pdf:
        assert len(pdf.pages) == 1
        trim, media = _boxes(pdf.pages[0])["TrimBox"], _boxes(pdf.pages[0])["MediaBox"]
    assert trim[2] - trim[0] == pytest.approx((2 * 220 + 5) * MM, abs=0.01 * MM)
    assert media[0] <= trim[0] - 9.9 * MM and media[2] >= trim[2] + 9.9 * MM


def _plates(pdf: Path, folder: Path, page: int, dpi: int) -> dict[str, np.ndarray]:
    """What each printing plate of a page carries: 0 where it is solid, 255 where it is empty."""
    out = folder / f"plates{page}.tif"
    pages = [f"-dFirstPage={page}", f"-dLastPage={page}", f"-sOutputFile={out}"]
    judge("gs", "-q", "-dBATCH", "-dNOPAUSE", "-dSAFER", "-sDEVICE=tiffsep", f"-r{dpi}", *pages, pdf)
    names = ("Cyan", "Magenta", "Yellow", "Black")
    return {name: _grey(next(folder.glob(f"plates{page}*({name})*"))) for name in names}


def test_text_black_is_on_the_black_plate_alone(job: Path, story_file: Path, tmp_path: Path) -> None:
    assert main(["place", str(job), "--text", str(story_file)]) == 0
    assert main(["press", str(job), str(tmp_path / "t.pdf")]) == 0
    plates = _plates(tmp_path / "t.pdf", tmp_path, 1, 72)
    assert plates["Black"].min() < 40
    assert all(plates[name].min() == 255 for name in ("Cyan", "Magenta", "Yellow"))


def test_coloured_text_and_pictures_use_their_own_plates(pressed: Pressed, tmp_path: Path) -> None:
    magenta = _plates(pressed("pages"), tmp_path, AT[7], 36)["Magenta"]
    assert magenta.min() < 150 and (magenta < 250).mean() < 0.05
    assert (_plates(pressed("pages"), tmp_path, AT[6], 36)["Cyan"] < 250).mean() > 0.9


def test_crop_marks_print_on_every_plate(pressed: Pressed, tmp_path: Path) -> None:
    for name, plate in _plates(pressed("cover"), tmp_path, 1, 144).items():
        assert (plate[:56, :56] < 200).sum() > 10, name


def _text_area(image: np.ndarray, bleed: bool) -> np.ndarray:
    """The article's columns of page 7, cut from a page with or without its bleed."""
    shift = 3 if bleed else 0
    top, bottom, left, right = (round((mm + shift) / 25.4 * DPI) for mm in (105, 265, 15, 145))
    return np.asarray(
        Image.fromarray(image[top:bottom, left:right].astype(np.uint8)).filter(ImageFilter.GaussianBlur(2)), float
    )


def test_two_renderers_and_the_proof_show_the_same_glyphs(pressed: Pressed, demo_source: Path, tmp_path: Path) -> None:
    """A wrong glyph map passes qpdf, pdffonts and pdftotext; only the renderings tell."""
    proof = tmp_path / "proof.png"
    assert main(["proof", str(demo_source), str(proof), "--page", "7", "--dpi", str(DPI)]) == 0
    seen = {
        "poppler": _text_area(_grey(_poppler(pressed("pages"), AT[7], tmp_path)), True),
        "ghostscript": _text_area(_grey(_ghostscript(pressed("pages"), AT[7], tmp_path)), True),
        "proof": _text_area(_grey(proof), False),
    }
    shape = tuple(min(image.shape[axis] for image in seen.values()) for axis in (0, 1))
    flat = {name: image[: shape[0], : shape[1]].ravel() for name, image in seen.items()}
    for one, other in (("poppler", "ghostscript"), ("poppler", "proof"), ("ghostscript", "proof")):
        assert np.corrcoef(flat[one], flat[other])[0, 1] > 0.97, (one, other)
    shifted = np.roll(seen["poppler"][: shape[0], : shape[1]], 8, axis=1).ravel()
    assert np.corrcoef(flat["poppler"], shifted)[0, 1] < 0.7


def test_single_pages_are_cut_at_the_fold_unless_a_block_crosses_it(pressed: Pressed, tmp_path: Path) -> None:
    edge = round(2 / 25.4 * 72)
    ends_at_fold = _grey(_poppler(pressed("pages"), AT[7], tmp_path, 72))
    crosses = _grey(_poppler(pressed("pages"), AT[15], tmp_path, 72))
    assert ends_at_fold[50:-50, :edge].min() > 250
    assert crosses[50:300, :edge].max() < 200


def test_a_cut_out_shows_the_ground_through(pressed: Pressed, tmp_path: Path) -> None:
    """The apple's corner is the panel's straw, not white and not black."""
    image = np.asarray(Image.open(_poppler(pressed("pages"), AT[22], tmp_path, 72)).convert("RGB"), float)
    px = lambda mm: round((mm + 3) / 25.4 * 72)  # noqa: E731
    corner, beside = image[px(20), px(113)], image[px(20), px(60)]
    assert corner == pytest.approx(beside, abs=3) and 150 < beside[2] < 250


def _words(text: str) -> list[str]:
    return text.replace("\u00ad\n", "").replace("\u00ad", "").split()


def test_a_story_reads_back_word_for_word(job: Path, story_file: Path, tmp_path: Path) -> None:
    assert main(["place", str(job), "--text", str(story_file)]) == 0
    pdf = tmp_path / "t.pdf"
    assert main(["press", str(job), str(pdf)]) == 0
    wanted = (
        story_file.read_text(encoding="utf-8")
        .replace("*", "")
        .replace("#", "")
        .replace("> ", "")
        .replace("- A", "• A")
        .split()
    )
    read = judge("pdftotext", "-raw", "-l", "1", pdf, "-").replace("\f", "")
    lines = [line for line in read.split("\n") if line.strip()]
    read_words = _words("\n".join(lines))
    at = read_words.index(wanted[0])
    got = " ".join(read_words[at : at + len(wanted)]).replace("- ", "-")
    assert got == " ".join(wanted).replace("- ", "-")


def test_a_long_story_reads_back_through_hyphens_and_pages(job: Path, tmp_path: Path) -> None:
    source = Path(__file__).parents[2] / "src/half_fold/data/demo/texts"
    text = "\n\n".join(path.read_text(encoding="utf-8") for path in sorted(source.glob("*.md"))) * 4
    (tmp_path / "long.md").write_text(text, encoding="utf-8")
    assert main(["place", str(job), "--text", str(tmp_path / "long.md")]) == 0
    assert main(["press", str(job), str(tmp_path / "t.pdf")]) == 0
    read = judge("pdftotext", "-raw", tmp_path / "t.pdf", "-")
    furniture = {"Long", *map(str, range(1, 40))}
    wanted = "".join(text.replace("*", "").replace("#", "").replace("'", "’").split())
    pages = [
        "\n".join(line for line in page.split("\n") if line.strip() not in furniture and line.strip() != "Leaf")
        for page in read.split("\f")
    ]
    got = "".join("".join(_words(page)) for page in pages)
    for folio in range(40, 0, -1):
        got = got.replace(f"{folio}Leaf", "")
    assert got == wanted


def test_one_glyph_for_two_texts_keeps_both(job: Path, tmp_path: Path) -> None:
    """Small-cap and other alternates share glyphs: the second text must come through as actual text."""
    from half_fold.core.drawing.marks import Glyphs
    from half_fold.core.drawing.tone import BLACK
    from half_fold.core.measure.rect import Rect
    from half_fold.core.press.pdf.content import Content, Resources

    resources = Resources()
    content = Content(Rect(0, 0, 100, 100), resources)
    gid = np.array([20], np.uint16)
    for text in ("A", "Α"):
        content.draw(
            [Glyphs("EB Garamond/Regular", 10, gid, np.array([10.0]), 50, BLACK, (text,))],
            lambda _: Rect(0, 0, 100, 100),
        )
    assert content.bytes().count(b"ActualText <FEFF0391>") == 1
    assert resources.fonts["EB Garamond/Regular"].texts[20] == "A"


def test_unicode_maps_hold_ligatures_and_far_planes() -> None:
    rows = unicode_map({5: "ffi", 6: "\U0001f34e", 7: ""}).decode()
    assert "<0005> <006600660069>" in rows and "<0006> <D83CDF4E>" in rows and "<0007>" not in rows


@pytest.mark.parametrize("words", [["--part", "pages"], ["--part", "cover"], ["--as", "spreads"]])
def test_a_missing_picture_leaves_nothing_half_made(
    demo: Path, tmp_path: Path, words: list[str], capsys: pytest.CaptureFixture[str]
) -> None:
    for picture in (demo / "pictures").iterdir():
        picture.unlink()
    assert main(["press", str(demo), str(tmp_path / "x.pdf"), *words]) == 2
    assert "missing" in capsys.readouterr().err
    assert not [p for p in tmp_path.iterdir() if p.name != "graftwood"]


def test_ending_the_press_leaves_nothing_half_made(demo: Path, tmp_path: Path) -> None:
    import sys
    import time

    out = tmp_path / "out"
    out.mkdir()
    running = subprocess.Popen(
        [sys.executable, "-m", "half_fold.cli", "press", str(demo), str(out / "x.pdf"), "--progress"],
        stdout=subprocess.PIPE,
        text=True,
    )
    assert running.stdout is not None and running.stdout.readline()
    time.sleep(0.05)
    running.terminate()
    running.wait(10)
    assert not list(out.iterdir())


def test_what_was_made_is_recorded(demo: Path, tmp_path: Path) -> None:
    assert main(["press", str(demo), str(tmp_path / "x.pdf"), "--part", "cover"]) == 0
    record = (demo / "press" / "record.jsonl").read_text(encoding="utf-8")
    assert '"part":"cover"' in record and "x.pdf" in record
