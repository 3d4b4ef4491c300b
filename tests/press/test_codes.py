"""Codes from the press file, read by an outside decoder; and the rules about their ink, their ground and their size."""

from pathlib import Path

import numpy as np
import pytest
import zxingcpp
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from half_fold.core.catalogue.laying import lay_goods
from half_fold.core.checks.code_rules import thrown_back
from half_fold.core.checks.finding import Finding
from half_fold.core.checks.run import check
from half_fold.core.drawing.tone import Tone
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_path, set_paths
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Goods,
    HoldsBarcode,
    HoldsCode,
    HoldsPanel,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.surgery import every_block, with_things
from half_fold.core.spread.codes.barcode import symbol
from half_fold.core.spread.codes.code import QUIET, as_said, code_area, code_modules
from half_fold.core.spread.edits.grouping import group
from half_fold.core.spread.edits.repeating import parse_repeat
from half_fold.core.spread.setting.compose import Setter
from tests.blocks import block_over
from tests.conftest import judge

LINK = "ellerby.example/graftwood/14"
NUMBER = "2901234567896"
DPI = 600


def _job(holds: HoldsCode | HoldsBarcode, under: str = "", columns: tuple[int, int] = (1, 4)) -> Publication:
    """A page with a code on it, over a panel of an ink where one is named."""
    job = start("magazine", "Graftwood")
    job = replace(job, pages=(job.pages[0], replace(job.pages[1], furniture="off"), *job.pages[2:]))
    code = block_over("b2", holds, columns, (2, 5))
    edges = {edge: Stop(kind="bleed") for edge in ("left", "top", "right", "bottom")}
    panel = (Block(id="b1", place=Held(**edges), holds=HoldsPanel(ink=under)),) if under else ()
    return with_things(job, job.pages[1].id, lambda _: (*panel, code))


def _read(job: Publication, folder: Path) -> list[tuple[str, str]]:
    press(job, folder, folder / "codes.pdf", part="pages")
    judge(
        "pdftoppm", "-r", str(DPI), "-f", "2", "-l", "2", "-gray", "-singlefile", folder / "codes.pdf",
        folder / "page",
    )  # fmt: skip
    addon = zxingcpp.EanAddOnSymbol.Read
    found = zxingcpp.read_barcodes(Image.open(folder / "page.pgm"), ean_add_on_symbol=addon)
    return [(str(code.format), code.text) for code in found]


def _findings(job: Publication, folder: Path) -> list[Finding]:
    return [each for each in check(job, Setter(), folder) if each.rule in ("code", "barcode") and each.block == "b2"]


@pytest.mark.parametrize("proof", ["low", "medium", "high", "highest"])
def test_a_code_is_read_from_the_press_file(proof: str, tmp_path: Path) -> None:
    job = _job(HoldsCode(says=LINK, proof=proof))  # type: ignore[arg-type]
    assert _read(job, tmp_path) == [("QR Code", LINK)] and not _findings(job, tmp_path)


def test_a_code_fills_in_what_the_job_says(tmp_path: Path) -> None:
    job = replace(_job(HoldsCode(says="ellerby.example/{title}/{issue}")), issue="14")
    assert _read(job, tmp_path) == [("QR Code", "ellerby.example/Graftwood/14")]


@pytest.mark.parametrize(
    ("size", "tall", "narrowed"), [(80, 100, 0), (100, 100, 40), (150, 60, 0), (200, 100, 80), (100, 50, 0)]
)
def test_barcodes_shorter_and_narrower_are_read_too(size: float, tall: float, narrowed: float, tmp_path: Path) -> None:
    holds = HoldsBarcode(number=NUMBER, addon="14", size=size, tall=tall, narrowed=narrowed)
    assert ("EAN-13", NUMBER + "14") in _read(_job(holds), tmp_path)


def test_bars_are_narrowed_about_their_middles_and_shortened_at_their_feet() -> None:
    plain, changed = symbol(NUMBER), symbol(NUMBER, "", 100.0, 60.0, 50.0)
    for one, other in zip(plain.bars, changed.bars, strict=True):
        assert (one.width - other.width) / MM == pytest.approx(0.05)
        assert one.centre[0] == pytest.approx(other.centre[0]) and one.top == other.top
        assert (one.bottom - other.bottom) / MM == pytest.approx(0.4 * 22.85)
    assert (plain.height - changed.height) / MM == pytest.approx(0.4 * 22.85) and plain.width == changed.width


def test_a_code_stands_in_the_middle_with_four_modules_clear() -> None:
    job, holds = _job(HoldsCode(says=LINK)), HoldsCode(says=LINK)
    area, module = code_area(job, holds, Rect(0, 0, 200, 100))
    count = len(code_modules(LINK, "medium"))
    assert area == Rect(50, 0, 150, 100) and module == pytest.approx(100 / (count + 2 * QUIET))


@settings(max_examples=25, deadline=None)
@given(st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc")), min_size=1, max_size=60))
def test_any_words_are_a_code_that_an_outside_reader_reads(words: str) -> None:
    dark = np.pad(code_modules(words, "medium"), QUIET)
    image = Image.fromarray(np.where(np.kron(dark, np.ones((6, 6))) > 0, 0, 255).astype(np.uint8))
    assert [code.text for code in zxingcpp.read_barcodes(image)] == [words]


def test_too_much_to_say_is_refused_and_nothing_said_is_a_finding(tmp_path: Path) -> None:
    with pytest.raises(Problem, match="1200"):
        as_said("a" * 1300)
    job = _job(HoldsCode())
    found = _findings(job, tmp_path)
    assert [each.message for each in found] == ["The code says nothing yet"] and found[0].stops_press
    job = set_paths(job, [f"block.b2.says={LINK}"])
    assert not _findings(job, tmp_path)


def test_modules_too_fine_for_a_phone_are_a_finding_with_what_would_do(tmp_path: Path) -> None:
    job = _job(HoldsCode(says="ellerby.example/" + "long/" * 50, proof="highest"), columns=(1, 1))
    found = _findings(job, tmp_path)
    assert len(found) == 1 and "modules" in found[0].message and found[0].fix is not None
    assert "Let its proof" in found[0].fix.words
    assert found[0].fix.edit(job) is not job


def test_red_bars_and_coloured_grounds_are_found_and_mended(tmp_path: Path) -> None:
    red = replace(_job(HoldsBarcode(number=NUMBER)).inks[0], name="rust red", cyan=0, magenta=95, yellow=90, black=0)
    for holds, under in (
        (HoldsBarcode(number=NUMBER, ink="rust red"), ""),
        (HoldsBarcode(number=NUMBER, white=False), "loden"),
        (HoldsCode(says=LINK, white=False), "loden"),
        (HoldsCode(says=LINK, ink="straw"), ""),
    ):
        job = _job(holds, under)
        job = replace(job, inks=(*job.inks, red))
        found = [each for each in _findings(job, tmp_path) if "throws back" in each.message]
        assert len(found) == 1 and found[0].fix is not None
        assert not [e for e in _findings(found[0].fix.edit(job), tmp_path) if "throws back" in e.message]


def test_a_red_ground_is_as_white_to_a_scanner() -> None:
    """A ground of magenta and yellow throws red light back; cyan takes it."""
    assert thrown_back(Tone(0, 1, 1, 0), True) == 1.0
    assert thrown_back(Tone(1, 0, 0, 0), True) < 0.1 and thrown_back(Tone(0, 0, 0, 1), True) < 0.05
    assert thrown_back(Tone(0, 1, 1, 0), False) < 0.5  # but not to a phone


# From a table of goods -------------------------------------------------------------------------------

ROWS = (
    ("A1", "29012 3456 7896", "5.00", "https://ellerby.example/a1"),
    ("A2", "978-0-306-40615-7", "", "https://ellerby.example/a2"),
    ("A3", "2901234567890", "7.50", ""),
    ("A4", "", "1.00", "x"),
)


def _laid() -> Publication:
    """A barcode and a code on one page of a catalogue, in a group that every row of goods gets a copy of."""
    goods = Goods(columns=("Key", "EAN", "Price", "Link"), rows=ROWS)
    job = replace(start("catalogue", "The list"), goods=goods)
    price = Paragraph(role="cover note", runs=(Run(text="{price}"),))
    bars = replace(block_over("b1", HoldsBarcode(number="0" * 13, paragraphs=(price,)), (0, 2), (0, 3)), name="bars")
    job = with_things(
        job, job.pages[1].id, lambda _: (bars, block_over("b2", HoldsCode(says="{link}"), (3, 5), (0, 3)))
    )
    job = set_path(job, "block.b1.number", "{EAN}")
    job, cell = group(job, ("b1", "b2"))
    return lay_goods(job, cell, parse_repeat("1 x 2, 4mm", "mm")).publication


def test_every_row_prints_its_own_barcode_and_its_own_code(tmp_path: Path) -> None:
    """A catalogue of things with numbers: the bars, the price over them and the address follow the table."""
    job = _laid()
    press(job, tmp_path, tmp_path / "list.pdf", part="2-3")
    read: list[tuple[str, str]] = []
    for page in ("1", "2"):
        judge("pdftoppm", "-r", "400", "-f", page, "-l", page, "-gray", "-png", "-singlefile", tmp_path / "list.pdf", tmp_path / "p")  # fmt: skip  # noqa: E501
        found = zxingcpp.read_barcodes(Image.open(tmp_path / "p.png"))
        read += sorted((str(code.format), code.text) for code in found)
    bars = {text for kind, text in read if kind == "EAN-13"}
    assert bars == {"2901234567896", "9780306406157", "0000000000000"}, "one has none yet, and one cannot be"
    assert {text for kind, text in read if kind != "EAN-13" and text.strip()} == {row[3] for row in ROWS if row[3]}
    printed = judge("pdftotext", tmp_path / "list.pdf", "-")
    assert "5.00" in printed and "{" not in printed


def test_a_number_of_the_table_that_cannot_be_is_found_and_one_that_is_not_there() -> None:
    job = _laid()
    said = {f.block: f.message for f in check(job, Setter(), None) if f.rule in ("barcode number", "code")}
    of_row = {
        block.row: said.get(block.id, "") for _, _, block in every_block(job) if isinstance(block.holds, HoldsBarcode)
    }
    assert of_row == {"A1": "", "A2": "", "A3": "The barcode says 2901234567890", "A4": "The barcode has no number yet"}
    empty = {
        block.row: said.get(block.id, "") for _, _, block in every_block(job) if isinstance(block.holds, HoldsCode)
    }
    assert empty["A3"] == "The code says nothing yet" and not empty["A1"]
    bare = replace(job, goods=None)
    assert {f.message for f in check(bare, Setter(), None) if f.rule == "left to fill in"} >= {
        "Its words still ask for {EAN}", "Its words still ask for {link}",
    }  # fmt: skip


def test_a_column_is_typed_for_a_number_and_nothing_else_that_is_none() -> None:
    job = _job(HoldsBarcode(number="0" * 13))
    assert set_path(set_path(job, "block.b2.number", "{ean}"), "block.b2.number", NUMBER) == set_path(
        job, "block.b2.number", NUMBER
    )
    for typed in ("{ean", "29{ean}", "{}"):
        with pytest.raises(Problem, match="no EAN"):
            set_path(job, "block.b2.number", typed)


def test_the_remedy_for_a_code_too_fine_is_judged_by_what_its_row_says() -> None:
    """It was judged by the name of the column, which is short, and so none was offered."""
    goods = Goods(columns=("Key", "Link"), rows=(("A1", "https://ellerby.example/" + "x" * 160),))
    code = replace(block_over("b2", HoldsCode(says="{link}", proof="highest"), (0, 0), (0, 0)), row="A1")
    job = replace(start("catalogue", "The list"), goods=goods)
    job = with_things(job, job.pages[1].id, lambda _: (code,))
    (fine,) = [f for f in check(job, Setter(), None) if f.rule == "code"]
    assert fine.fix is not None and fine.fix.words == "Let its proof against loss be high"
    after = next(b for _, _, b in every_block(fine.fix.edit(job)) if b.id == "b2")
    assert after.holds == HoldsCode(says="{link}", proof="high"), "the column stays"
