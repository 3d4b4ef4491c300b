"""The cover's PDF: a barcode that an outside decoder reads, and a flat that follows its spine."""

import re
from pathlib import Path

import numpy as np
import pikepdf
import pytest
import zxingcpp
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.measure.entry import MM
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Holds,
    HoldsBarcode,
    HoldsPanel,
    Paragraph,
    Run,
)
from half_fold.core.store.job import open_job
from tests.conftest import judge

DPI = 254
NUMBER = "2901234567896"  # of the range that shops give out for themselves


def _put(job: Path, field: str, holds: Holds) -> None:
    edges = {edge: Stop(kind="margin") for edge in ("left", "top", "right", "bottom")}
    opened = open_job(job)
    publication = opened.publication
    cover = replace(publication.cover, **{field: (Block(id="b1", holds=holds, place=Held(**edges)),)})
    opened.save(replace(publication, cover=cover))
    opened.close()


def _press(job: Path, out: Path) -> Path:
    assert main(["press", str(job), str(out), "--part", "cover", "--marks"]) == 0
    return out


def _bars(pdf: Path) -> list[tuple[float, float, float]]:
    """(left, width, height) in points of every upright rectangle filled with black alone."""
    with pikepdf.open(pdf) as opened:
        content = opened.pages[0].Contents.read_bytes().decode()
    found = re.findall(r"0 0 0 1 k ([\d.-]+) ([\d.-]+) ([\d.-]+) ([\d.-]+) re f", content)
    return sorted((float(x), float(w), float(h)) for x, _, w, h in found)


@pytest.mark.parametrize("size", [80, 100, 150])
def test_a_barcode_is_read_back_at_600_dpi_and_measures_what_it_should(size: int, job: Path, tmp_path: Path) -> None:
    words = (Paragraph(role="cover note", runs=(Run(text="{title}, 4.50"),)),)
    _put(job, "front", HoldsBarcode(number=NUMBER, addon="14", size=size, side="right", paragraphs=words))
    pdf = _press(job, tmp_path / "cover.pdf")
    judge("pdftoppm", "-r", "600", "-gray", "-singlefile", pdf, tmp_path / "cover")
    Image.MAX_IMAGE_PIXELS = None
    image = Image.open(tmp_path / "cover.pgm")
    corner = image.crop((image.width * 2 // 3, image.height // 2, image.width, image.height))
    codes = zxingcpp.read_barcodes(corner, ean_add_on_symbol=zxingcpp.EanAddOnSymbol.Require)
    assert [(str(code.format), code.text) for code in codes] == [("EAN-13", NUMBER + "14")]
    bars, module = _bars(pdf), 0.33 * MM * size / 100
    main_symbol = [bar for bar in bars if bar[0] < bars[0][0] + 95 * module - 0.01]
    last = main_symbol[-1]
    assert (last[0] + last[1] - main_symbol[0][0]) / MM == pytest.approx(31.35 * size / 100, abs=0.01)
    assert max(height for _, _, height in bars) / MM == pytest.approx(24.5 * size / 100, abs=0.01)
    for left, width, _ in main_symbol:
        at, wide = (left - main_symbol[0][0]) / module, width / module
        assert abs(at - round(at)) * module / MM < 0.01 and abs(wide - round(wide)) * module / MM < 0.01


def _dark_columns(pdf: Path, folder: Path, left: float, right: float) -> tuple[float, float]:
    """Between two places (points from the left of the sheet), the outermost columns with anything dark on them."""
    judge("pdftoppm", "-r", str(DPI), "-gray", "-png", "-singlefile", pdf, folder / "flat")
    grey = np.asarray(Image.open(folder / "flat.png").convert("L"), float)
    first = round(left / 72 * DPI)
    inked = np.flatnonzero((grey[:, first : round(right / 72 * DPI)] < 100).any(axis=0))
    return (first + inked[0]) * 72 / DPI, (first + inked[-1] + 1) * 72 / DPI


def test_from_5_to_12_mm_of_spine_the_cover_stays_whole(job: Path, tmp_path: Path) -> None:
    """The sheet, its folds and the line on the spine, measured in the PDF by outside judges."""
    wide = {}
    for spine, volume, clear in ((5.0, 1.42, 2.0), (12.0, 3.66, 9.0)):
        assert main(["set", str(job), "pages=48", f"paper.text=grammage=130,volume={volume}", "issue=No. 1"]) == 0
        pdf = tmp_path / f"cover{spine:g}.pdf"
        assert main(["press", str(job), str(pdf), "--part", "cover"]) == 0
        judge("qpdf", "--check", pdf)
        with pikepdf.open(pdf) as opened:
            trim = [float(value) for value in opened.pages[0].TrimBox]
        assert (trim[2] - trim[0]) / MM == pytest.approx(440 + spine, abs=0.01)
        fold = trim[0] + 220 * MM
        left, right = _dark_columns(pdf, tmp_path, fold, fold + spine * MM)
        assert (left + right) / 2 == pytest.approx(fold + spine / 2 * MM, abs=0.1 * MM)
        assert (right - left) / MM <= clear + 0.1
        wide[spine] = (right - left) / MM
        boxes = judge("pdftotext", "-bbox", pdf, "-")
        turned = re.findall(r'xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">Leaf<', boxes)
        along = [1 for x0, y0, x1, y1 in turned if float(y1) - float(y0) > float(x1) - float(x0)]
        assert len(along) == 1, "the title stands once along the spine"
    assert wide[5.0] == pytest.approx(2.0, abs=0.12) and wide[12.0] > 4 * wide[5.0]


def test_the_inside_is_a_second_page_once_something_lies_on_it(job: Path, tmp_path: Path) -> None:
    assert "Pages:           1" in judge("pdfinfo", _press(job, tmp_path / "one.pdf"))
    _put(job, "inside_back", HoldsPanel(ink="loden"))
    two = _press(job, tmp_path / "two.pdf")
    assert "Pages:           2" in judge("pdfinfo", two)
    judge("qpdf", "--check", two)
