"""Printed sheets as files, read back by poppler: where each page's word stands, which way up, and what creep moves."""

import re
from pathlib import Path

import numpy as np
import pikepdf
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.brief.creep import creep_of
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.press.parts import part_named, sheet_at
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPanel, Paragraph, Publication, Run
from half_fold.core.publication.surgery import with_page
from half_fold.core.store.job import create_job
from tests.blocks import block_over
from tests.conftest import judge

WIDE, HIGH = 120.0, 180.0  # mm


def _word(number: int) -> str:
    return f"page{number}x"


def _job(*values: str, pages: int = 16) -> Publication:
    """A word of its own in the same field of every page."""
    job = set_values(start("magazine", "Sheets"), [f"trim={WIDE:g}x{HIGH:g}mm", f"pages={pages}", *values])
    for index in range(pages):
        words = Paragraph(role="headline", runs=(Run(text=_word(index + 1)),))
        block = block_over(f"w{index}", HoldsDisplay(paragraphs=(words,), size=length("12pt")), (1, 4), (2, 3))
        job = with_page(job, replace(job.pages[index], things=(block,)))
    return job


def _pressed(job: Publication, folder: Path, form: str, marks: bool = False) -> Path:
    pdf = folder / f"{form}.pdf"
    press(job, folder, pdf, form=form, marks=marks)
    judge("qpdf", "--check", pdf)
    return pdf


def _words(pdf: Path) -> dict[str, tuple[int, float, float]]:
    """Which page of the file a word stands on, and the middle of its box from the upper left of the trim (mm)."""
    found, number = {}, 0
    with pikepdf.open(pdf) as opened:
        trims = [[float(v) for v in page.TrimBox] for page in opened.pages]
        highs = [float(page.MediaBox[3]) for page in opened.pages]
    for line in judge("pdftotext", "-bbox", pdf, "-").splitlines():
        number += "<page " in line
        box = re.search(r'xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)">(page\d+x)<', line)
        if box is not None:
            x0, y0, x1, y1 = map(float, box.groups()[:4])
            trim = trims[number - 1]
            top = highs[number - 1] - trim[3]
            found[box[5]] = (number, ((x0 + x1) / 2 - trim[0]) / MM, ((y0 + y1) / 2 - top) / MM)
    return found


@pytest.mark.parametrize(
    ("values", "pages"),
    [
        (("binding=saddle", "signature=4"), 8),
        (("binding=saddle", "signature=8"), 16),
        (("binding=perfect", "signature=16"), 16),
        (("binding=sewn", "signature=8", "bound=right"), 16),
        (("binding=sewn", "signature=12"), 12),
    ],
)
def test_folded_and_turned_back_every_word_stands_as_on_its_page(
    tmp_path: Path, values: tuple[str, ...], pages: int
) -> None:
    """Of each sheet the cells are counted off with a ruler, and every word turned back into the frame of its page."""
    from half_fold.core.plan.sheet_layout import sides
    from half_fold.core.plan.signatures import printed_sheets

    job = _job(*values, pages=pages)
    alone, found = _words(_pressed(job, tmp_path, "pages")), _words(_pressed(job, tmp_path, "sheets", marks=True))
    assert set(found) == {_word(n + 1) for n in range(pages)} == set(alone)
    faces = [side for sheet in printed_sheets(job) for side in sides(job, sheet) or ()]
    for at, side in enumerate(faces, 1):
        for cell in side.cells:
            number, x, y = found[_word(cell.page)]
            assert number == at, f"page {cell.page} is on side {number}"
            across, down = x - cell.trim.left / MM, y - cell.trim.top / MM
            across, down = (across, down) if cell.turned == 0 else (WIDE - across, HIGH - down)
            _, own_x, own_y = alone[_word(cell.page)]
            is_right = (cell.page % 2 == 1) != job.brief.right_bound
            moved = 0.0
            if "perfect" not in values[0]:
                first, count = (1, pages) if "saddle" in values[0] else (side.sheet.pages[0], len(side.sheet.pages))
                leaf = min(cell.page - first + 1, count - (cell.page - first))
                moved = creep_of(job, (leaf + 1) // 2).value * (-1 if is_right else 1)
            assert (across, down) == pytest.approx((own_x + moved, own_y), abs=0.02)


def test_turned_words_stand_on_their_heads(tmp_path: Path) -> None:
    """Poppler tells no turn: the ink itself is asked, by a panel at the head of every page."""
    job = _job("binding=perfect", "signature=16")
    trim = Stop(kind="trim")
    head = Held(left=trim, top=trim, right=trim, bottom=Stop(kind="field", index=0, count=8))
    for index in range(16):
        band = Block(id=f"h{index}", place=head, holds=HoldsPanel(ink="black"))
        job = with_page(job, replace(job.pages[index], things=(band,)))
    pdf = _pressed(job, tmp_path, "sheets")
    judge("pdftoppm", "-r", "127", "-f", "1", "-l", "1", "-singlefile", "-png", pdf, tmp_path / "side")
    seen = np.asarray(Image.open(tmp_path / "side.png").convert("L"), float)
    bleed = job.brief.bleed.mm
    rows = seen[::5, int(5 * (bleed + WIDE / 2))] < 128  # down through the first page of each row
    inked = np.flatnonzero(rows)
    middle = bleed + HIGH + max(bleed, 3)
    assert inked.min() > bleed + HIGH - 60 and inked.max() < middle + 60, "heads meet in the middle of the sheet"


def test_what_crosses_the_fold_stays_registered_though_the_rest_creeps(tmp_path: Path) -> None:
    job = _job("binding=saddle", "signature=4", "paper.text=grammage=300,volume=2", pages=48)
    bleed = Stop(kind="bleed")
    across = Held(left=bleed, top=bleed, right=Stop(kind="bleed", facing=True), bottom=Stop(kind="trim"))
    middle = job.pages[23]
    wide = Block(id="wide", place=across, holds=HoldsPanel(ink="black"))
    job = with_page(job, replace(middle, things=(*middle.things, wide)))
    creep = creep_of(job, 12).value
    assert creep > 5
    pdf = _pressed(job, tmp_path, "sheets")
    number = sheet_at(job, part_named(job, "pages"), "sheets", 24) + 1
    found = _words(pdf)
    alone = _words(_pressed(job, tmp_path, "pages"))
    assert found[_word(22)][0] == number - 2, "the same side of the sheet outside it"
    assert found[_word(22)][1] == pytest.approx(alone[_word(22)][1] + creep_of(job, 11).value, abs=0.02)
    judge(
        "pdftoppm",
        "-r",
        "50.8",
        "-f",
        str(number),
        "-l",
        str(number),
        "-singlefile",
        "-gray",
        "-png",
        pdf,
        tmp_path / "s",
    )
    seen = np.asarray(Image.open(tmp_path / "s.png").convert("L"), float)
    row = seen[seen.shape[0] // 2]
    assert (row < 128).all(), "ink from bleed to bleed: the panel was neither parted at the fold nor drawn off the edge"


def test_only_sheets_of_the_pages_that_are_asked_for_are_made(tmp_path: Path) -> None:
    job = _job("binding=sewn", "signature=8", pages=24)
    press(job, tmp_path, tmp_path / "some.pdf", part="10-11", form="sheets")
    words = set(_words(tmp_path / "some.pdf"))
    assert words == {_word(n) for n in range(9, 17)}
    part = part_named(job, "10-11")
    assert [sheet_at(job, part, "sheets", page) for page in (9, 10, 11, 12)] == [1, 1, 1, 1], "12 | 9 are its front"


@pytest.mark.parametrize(
    ("values", "pages", "sides"),
    [(("binding=coil",), 6, 6), (("binding=perfect", "signature=16"), 18, 4), (("binding=saddle",), 48, 6)],
)
def test_loose_leaves_and_what_is_left_over_come_one_to_a_side(
    tmp_path: Path, values: tuple[str, ...], pages: int, sides: int
) -> None:
    pdf = _pressed(_job(*values, pages=pages), tmp_path, "sheets")
    assert f"Pages:           {sides}\n" in judge("pdfinfo", pdf)
    assert len(_words(pdf)) == pages


def test_marks_say_cut_fold_and_which_sheet_it_is(tmp_path: Path) -> None:
    """Outside the trim stand lines at every cut, dashes at every fold, and the name; a step on the spine inside."""
    job = _job("binding=perfect", "signature=8", pages=24)
    pdf = _pressed(job, tmp_path, "sheets", marks=True)
    text = judge("pdftotext", "-layout", pdf, "-")
    assert [word in text for word in ("sheet A, front", "sheet B, back", "sheet C, front")] == [True] * 3
    assert "pages 1, 4-5, 8" in text
    with pikepdf.open(pdf) as opened:
        media, trim = ([float(v) for v in opened.pages[0][name]] for name in ("/MediaBox", "/TrimBox"))
    assert (trim[1] - media[1]) / MM == pytest.approx(12, abs=0.01), "room for the gripper at the foot"
    tops = []
    for page in (1, 3, 5):
        judge(
            "pdftoppm",
            "-r",
            "127",
            "-f",
            str(page),
            "-l",
            str(page),
            "-singlefile",
            "-gray",
            "-png",
            pdf,
            tmp_path / "m",
        )
        seen = np.asarray(Image.open(tmp_path / "m.png").convert("L"), float)
        x = round(((trim[0] - media[0]) / MM + WIDE + 3) * 5)  # in what is milled
        inside = seen[round((media[3] - trim[3]) / MM * 5) + 20 : -round(trim[1] / MM * 5) - 20, x]
        tops.append(int(np.flatnonzero(inside < 128).min()))
    assert tops[0] < tops[1] < tops[2], "each sheet a step lower"


def test_sheets_by_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    create_job(tmp_path / "job", _job("binding=saddle", "signature=4", pages=8))
    out = tmp_path / "zine.pdf"
    assert main(["press", str(tmp_path / "job"), str(out), "--as", "sheets", "--marks"]) == 0
    assert "proved: 4 pages" in capsys.readouterr().out
    found = _words(out)
    assert [found[_word(n)][0] for n in (8, 1, 2, 7, 6, 3, 4, 5)] == [1, 1, 2, 2, 3, 3, 4, 4]
    assert found[_word(8)][1] < WIDE < found[_word(1)][1]
