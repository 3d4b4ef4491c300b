"""The cover template: true size, lettered, its dimensions never touching, in three kinds of file."""

import itertools
from pathlib import Path

import pytest
from PIL import Image

from half_fold.cli import main
from half_fold.core.cover.template import working_drawing
from half_fold.core.measure.entry import MM
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.typesetting.lines.composer import Composer
from tests.conftest import judge

JOBS = [
    ["binding=perfect", "pages=48"],
    ["binding=perfect", "pages=400", "flap=90mm"],
    ["binding=saddle", "pages=32"],
    ["binding=saddle", "pages=32", "gatefold=yes"],
    ["binding=perfect", "pages=96", "gatefold=yes", "flap=80mm", "bound=right"],
    ["binding=case", "pages=200"],
    ["binding=case", "pages=200", "jacket=Marrow Silk 150"],
    ["unit=in", "trim=5x8in", "bleed=1/8in", "binding=perfect", "pages=120"],
]


@pytest.mark.parametrize("settings", JOBS)
@pytest.mark.parametrize("letters", [6.0, 8.0, 24.0])
def test_dimensions_never_collide(settings: list[str], letters: float) -> None:
    drawn = working_drawing(Composer(), set_values(start("book", "Drawn"), settings), letters)
    areas = [placed.words_at for placed in drawn.lettered]
    assert len(areas) >= 6
    for one, other in itertools.combinations(areas, 2):
        apart = one.right <= other.left or other.right <= one.left or one.bottom <= other.top or other.bottom <= one.top
        assert apart, (one, other)
    sheet = drawn.flat.trim.grown(drawn.flat.bleed)
    assert all(a.bottom <= sheet.top or a.top >= sheet.bottom or a.right <= sheet.left for a in areas)


def _boxes(pdf: Path) -> dict[str, list[float]]:
    lines = judge("pdfinfo", "-box", pdf).splitlines()
    return {line.split(":")[0]: [float(x) for x in line.split(":")[1].split()] for line in lines if "Box:" in line}


def test_the_pdf_is_true_to_size_and_lettered(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = tmp_path / "t"
    settings = [
        "pages=200",
        "paper.text=grammage=80,volume=1.25",
        "paper.cover=grammage=250,volume=1",
        "trim=150x230mm",
    ]
    assert main(["new", "book", str(job), "--set", *settings]) == 0
    pdf = tmp_path / "t.pdf"
    assert main(["template", str(job), str(pdf)]) == 0
    judge("qpdf", "--check", pdf)
    boxes = _boxes(pdf)
    assert boxes["TrimBox"][2] - boxes["TrimBox"][0] == pytest.approx(310.5 * MM, abs=0.02)
    assert boxes["BleedBox"][3] - boxes["BleedBox"][1] == pytest.approx(236 * MM, abs=0.02)
    words = judge("pdftotext", "-layout", pdf, "-")
    for said in (
        "spine 10.5",
        "back 150",
        "front 150",
        "316.5",
        "236",
        "230",
        "bleed 3",
        "barcode",
        "safe zone 5",
        "wins",
    ):
        assert said in words, said


def test_svg_and_png(job: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["template", str(job), str(tmp_path / "t.svg")]) == 0
    assert main(["template", str(job), str(tmp_path / "t.png")]) == 0
    svg = (tmp_path / "t.svg").read_text()
    assert svg.startswith("<svg") and "front 220" in svg and "mm" in svg[:200]
    assert Image.open(tmp_path / "t.png").width > 5000


def test_what_is_no_template(job: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["template", str(job), str(tmp_path / "t.doc")]) == 2
    assert main(["set", str(job), "paper.cover=none", "binding=saddle"]) == 0
    assert main(["template", str(job), str(tmp_path / "t.pdf")]) == 2
    assert "its own cover" in capsys.readouterr().err and not (tmp_path / "t.pdf").exists()
