"""Goods: tables of every make taken in, words that follow them, and copies of one pattern laid row by row."""

import json
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from openpyxl import Workbook

from half_fold.cli import main
from half_fold.core.catalogue.laying import laid_rows, lay_goods, rows_to_lay
from half_fold.core.catalogue.table import read_goods, take_goods
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Goods, HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import block_named, every_block, thing_named
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.edits.edits import set_holds
from half_fold.core.spread.edits.grouping import group
from half_fold.core.spread.edits.keeping import settle
from half_fold.core.spread.edits.repeating import parse_repeat
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.goods import from_row
from half_fold.core.spread.where.frames import block_box, page_frame_of
from half_fold.core.store.codec import decode, encode
from half_fold.core.typesetting.sheet.sheet import set_role
from tests.blocks import block_over
from tests.conftest import judge

COLUMNS = ("Key", "Name", "Price", "Picture", "Note")
PICTURES = tuple(
    Picture(id=f"picture{n}", file=f"{name}.jpg", width=600, height=400, digest=str(n)) for n, name in enumerate("abc")
)


def _goods(count: int) -> Goods:
    rows = tuple((f"A{n}", f"Pear {n}", f"{n}.50", f"{'abc'[n % 3]}.jpg", "new" if n % 2 else "") for n in range(count))
    return Goods(columns=COLUMNS, rows=rows, file="goods.csv")


def _catalogue(count: int = 20) -> tuple[Publication, str]:
    """A catalogue with goods, and a cell on page 4: a picture over words."""
    job = replace(start("catalogue", "The list"), pictures=PICTURES, goods=_goods(count))
    words = display_words("body", "x")
    lines = tuple(
        replace(words.paragraphs[0], runs=(replace(words.paragraphs[0].runs[0], text=text),))
        for text in ("{name}", "{PRICE} each", "{note}")
    )
    cell = (
        block_over("b1", HoldsPicture(picture="picture0"), (0, 1), (0, 0), (6, 8)),
        block_over("b2", replace(words, paragraphs=lines), (0, 1), (1, 1), (6, 8)),
    )
    page = replace(job.pages[3], things=cell)
    job = replace(job, pages=(*job.pages[:3], page, *job.pages[4:]))
    return group(job, ("b1", "b2"))


def _words_of(job: Publication, row: str) -> list[str]:
    found = [from_row(job, b) for _, _, b in every_block(job) if b.row == row and hasattr(b.holds, "paragraphs")]
    return [paragraph.text for block in found for paragraph in block.holds.paragraphs]  # type: ignore[union-attr]


# Tables -----------------------------------------------------------------------------------------------


def _xlsx(path: Path) -> Path:
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.append(["Key", "Name", "Price", "Share", "Count"])
    sheet.append([1907, "=Pear", 12.5, 0.125, 3.0])
    sheet["B2"].data_type = "s"
    sheet["C2"].number_format, sheet["D2"].number_format = "#,##0.00 [$€-1]", "0.0%"
    book.save(path)
    return path


def test_figures_of_a_workbook_are_read_as_it_shows_them(tmp_path: Path) -> None:
    assert read_goods(_xlsx(tmp_path / "g.xlsx")).rows == (("1907", "=Pear", "12.50", "12.5%", "3"),)


@pytest.mark.parametrize("content", [
    "Key,Name,,\nA1,Pear,,\n,,,\nA2,\"Pear, late\nor early\",,\n",
    "Key;Name\r\nA1;Pear\r\nA2;Pear, late or early\r\n",
    "\ufeffKey\tName\nA1\tPear\nA2\tPear, late   or early\n",
])  # fmt: skip
def test_tables_of_several_manners_are_one(tmp_path: Path, content: str) -> None:
    path = tmp_path / "g.csv"
    path.write_text(content, newline="")
    goods = read_goods(path)
    assert goods.columns == ("Key", "Name") and goods.rows == (("A1", "Pear"), ("A2", "Pear, late or early"))


@pytest.mark.parametrize(("content", "said"), [
    ("", "no rows"), ("Key,Name\n", "no goods"), (",Name\nA,b\n", "first column"),
    ("Key,Name,name\nA,b,c\n", "two columns"),
    ("Key\nA1\nA1\n", "stands twice"), ("Key," + ",".join(f"c{n}" for n in range(90)) + "\nA\n", "60 columns"),
    ("Key\n" + "\n".join(map(str, range(5001))), "5,000 goods"), ("Key\n" + "a\n" * 20_001, "20,000 rows"),
])  # fmt: skip
def test_what_is_no_table_of_goods_is_refused_in_a_sentence(tmp_path: Path, content: str, said: str) -> None:
    path = tmp_path / "g.csv"
    path.write_text(content)
    with pytest.raises(Problem, match=said):
        read_goods(path)


def test_another_table_says_what_is_new() -> None:
    job, _ = _catalogue(12)
    rows = [list(row) for row in _goods(12).rows]
    rows[2][2], rows[5][2] = "99.00", "98.00"
    now = Goods(columns=COLUMNS, rows=(*map(tuple, rows[:9]), ("Z", "Quince", "1.00", "quince.jpg", "")))
    _, news = take_goods(job, now)
    assert news == [
        "New: Z", "No longer in the table: A9, A10, A11", "Price is another for A2, A5",
        "The picture is not in the drawer of Z",
    ]  # fmt: skip
    assert take_goods(job, _goods(12))[1] == []
    assert take_goods(replace(job, goods=None), _goods(12))[1] == ["12 rows of goods"]


# Laying -----------------------------------------------------------------------------------------------


def test_each_row_lies_once_in_order_at_its_place_and_says_its_own() -> None:
    job, cell = _catalogue(20)
    laid = lay_goods(job, cell, parse_repeat("3 x 3, 4mm", "mm"))
    made = laid.publication
    assert laid.words == "20 rows on pages 4 to 6" and laid_rows(made) == {f"A{n}": 4 + n // 9 for n in range(20)}
    assert rows_to_lay(made) == []
    for n in range(20):
        assert _words_of(made, f"A{n}") == [f"Pear {n}", f"{n}.50 each", *(["new"] if n % 2 else [])]
        block = next(b for _, _, b in every_block(made) if b.row == f"A{n}" and isinstance(b.holds, HoldsPicture))
        assert isinstance(block.holds, HoldsPicture) and block.holds.picture == f"picture{n % 3}"
    first = block_box(made, 4, block_named(made, "b1"))
    boxes = {
        b.row: block_box(made, i + 1, b) for i, _, b in every_block(made) if b.row and isinstance(b.holds, HoldsPicture)
    }
    gap = 4 * 72 / 25.4
    assert boxes["A1"].left - boxes["A0"].left == pytest.approx(first.width + gap, abs=0.05)
    assert boxes["A3"].left == pytest.approx(first.left, abs=0.05) and boxes["A3"].top > boxes["A0"].bottom
    own, other = page_frame_of(made, 4).area, page_frame_of(made, 5).area
    assert boxes["A9"].left - other.left == pytest.approx(first.left - own.left, abs=0.05)
    assert boxes["A9"].top == pytest.approx(first.top, abs=0.05)
    assert decode(encode(made), "x") == made


def test_the_pattern_changed_changes_all_and_rows_stay() -> None:
    job, cell = _catalogue(14)
    made = lay_goods(job, cell, parse_repeat("3 x 3, 4mm", "mm")).publication
    holds = block_named(made, "b2").holds
    shorter = replace(holds, paragraphs=holds.paragraphs[:1])  # type: ignore[union-attr,call-arg]
    after = settle(made, set_holds(made, "b2", shorter))
    assert [_words_of(after, f"A{n}") for n in range(14)] == [[f"Pear {n}"] for n in range(14)]
    pictures = {b.row: b.holds.picture for _, _, b in every_block(after) if isinstance(b.holds, HoldsPicture)}
    assert pictures == {f"A{n}": f"picture{n % 3}" for n in range(14)}


def test_a_new_table_is_followed_in_words_and_pictures_and_what_is_new_is_laid_behind() -> None:
    job, cell = _catalogue(5)
    made = lay_goods(job, cell, parse_repeat("2 x 2, 4mm", "mm")).publication
    rows = [list(row) for row in _goods(7).rows]
    rows[1][2], rows[1][3] = "77.00", "c.jpg"
    now, _ = take_goods(made, Goods(columns=COLUMNS, rows=tuple(map(tuple, rows))))
    assert _words_of(now, "A1")[1] == "77.00 each"
    assert {b.holds.picture for _, _, b in every_block(now) if b.row == "A1" and isinstance(b.holds, HoldsPicture)} == {
        "picture2"
    }
    assert rows_to_lay(now) == ["A5", "A6"]


@settings(max_examples=25, deadline=None)
@given(st.integers(1, 40), st.integers(1, 3), st.integers(1, 3))
def test_no_row_is_lost_or_laid_twice(count: int, across: int, down: int) -> None:
    job, cell = _catalogue(count)
    made = lay_goods(job, cell, parse_repeat(f"{across} x {down}, 2mm", "mm")).publication
    rows = [b.row for _, _, b in every_block(made) if isinstance(b.holds, HoldsPicture)]
    assert sorted(rows) == sorted(f"A{n}" for n in range(count))
    assert len({thing_named(made, cell).link}) == 1
    assert list(laid_rows(made).values()) == sorted(4 + n // (across * down) for n in range(count))


def test_what_cannot_be_laid_is_said() -> None:
    job, cell = _catalogue(4)
    for how, said in (("9 x 1, 4mm", "beyond its trim"), ("1 x 30, 4mm", "beyond its trim")):
        with pytest.raises(Problem, match=said):
            lay_goods(job, cell, parse_repeat(how, "mm"))
    with pytest.raises(Problem, match="no goods yet"):
        lay_goods(replace(job, goods=None), cell, parse_repeat("2 x 2", "mm"))
    made = lay_goods(job, cell, parse_repeat("2 x 2", "mm")).publication
    with pytest.raises(Problem, match="laid already"):
        lay_goods(made, cell, parse_repeat("2 x 2", "mm"))


def test_a_column_that_is_not_there_and_a_row_that_has_gone_are_found(tmp_path: Path) -> None:
    job, cell = _catalogue(4)
    made = lay_goods(job, cell, parse_repeat("2 x 2", "mm")).publication
    wrong = settle(made, set_holds(made, "b2", display_words("body", "{prize}")))
    found = [f for f in check(wrong, Setter(), None) if f.message == "Its words still ask for {prize}"]
    assert len(found) == 4 and "{Price}" in found[0].why
    fewer, _ = take_goods(made, _goods(3))
    assert "“A3” is not in the table of goods any more" in [f.message for f in check(fewer, Setter(), None)]
    more, _ = take_goods(made, _goods(6))
    assert "2 rows of the goods on no page: A4, A5" in [f.message for f in check(more, Setter(), None)]


def test_the_command_takes_lays_and_lists_and_the_press_prints_them(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    job, table = str(tmp_path / "list"), tmp_path / "goods.csv"
    table.write_text("Key,Name,Price\n" + "".join(f"A{n},Grusza {n} „Zimowa”,{n}.50 zł\n" for n in range(9)))
    assert main(["new", "catalogue", job, "--set", "trim=8.5inx11in"]) == 0
    assert main(["set", job, "page.4.claim=words {name}: {price} over 1-2 x 1"]) == 0
    assert main(["goods", job]) == 0
    assert main(["goods", job, "--lay", "b1"]) == 2 and "no goods yet" in capsys.readouterr().err
    assert main(["goods", job, str(table), "--lay", "b1", "--as", "2 x 2, 4mm"]) == 0
    assert capsys.readouterr().out.splitlines()[-2:] == ["9 rows of goods", "9 rows on pages 4 to 6"]
    assert main(["goods", job, "--json"]) == 0
    assert json.loads(capsys.readouterr().out)[8] == {"row": "A8", "page": 6}
    table.write_text(table.read_text().replace("3.50", "4.00"))
    assert main(["goods", job, str(table)]) == 0 and capsys.readouterr().out == "Price is another for A3\n"
    assert main(["press", job, str(tmp_path / "out.pdf")]) == 0
    printed = " ".join(judge("pdftotext", str(tmp_path / "out.pdf"), "-").split())
    assert "Grusza 3 „Zimowa”: 4.00 zł" in printed and all(
        f"Grusza {n} „Zimowa”: {n}.50 zł" in printed for n in (0, 4, 8)
    )
    assert main(["goods", job, str(tmp_path / "none.csv")]) == 2 and main(["goods", job, "--lay", "nobody"]) == 2
    capsys.readouterr()
    assert main(["set", job, "block.b1.row=A5"]) == 0 and main(["get", job, "block.b1.row"]) == 0
    assert "A5" in capsys.readouterr().out
    assert main(["set", job, "block.b1.row=A99"]) == 2


def test_roles_and_sizes_hold_for_goods_as_for_any_words() -> None:
    job, cell = _catalogue(4)
    made = lay_goods(job, cell, parse_repeat("2 x 2", "mm")).publication
    assert not [f for f in check(made, Setter(), None) if f.rule == "overset words"]
    huge = set_role(set_role(made, "body", "leading", "40pt"), "body", "size", "40pt")
    assert [f for f in check(huge, Setter(), None) if f.rule == "overset words"]


@pytest.mark.parametrize(("goods", "said"), [
    (Goods(columns=(), rows=()), "no columns"), (Goods(columns=("Key",), rows=(("",),)), "goes by nothing"),
    (Goods(columns=("Key",), rows=((),)), "goes by nothing"),
    (Goods(columns=("Key",), rows=(("a", "b"),)), "more cells"),
    (Goods(columns=("Key",), rows=(("a",), ("a",))), "two rows of goods"),
    (Goods(columns=("Key",), rows=tuple((str(n),) for n in range(5001))), "5,001 rows"),
])  # fmt: skip
def test_a_file_with_goods_that_cannot_be_is_refused_in_a_sentence(goods: Goods, said: str) -> None:
    with pytest.raises(Problem, match=said):
        decode(encode(replace(start("catalogue", "x"), goods=goods)), "x")


def test_rows_that_came_later_are_laid_on_further_pages_and_those_that_lie_keep_their_places() -> None:
    job, cell = _catalogue(5)
    made = lay_goods(job, cell, parse_repeat("2 x 2, 4mm", "mm")).publication
    now, _ = take_goods(made, _goods(8))
    later = lay_goods(now, cell, parse_repeat("2 x 2, 4mm", "mm"))
    assert later.rows == ("A5", "A6", "A7") and later.pages == (6,)
    assert laid_rows(later.publication) == {**{f"A{n}": 4 + n // 4 for n in range(5)}, "A5": 6, "A6": 6, "A7": 6}
    assert later.publication.pages[3] == now.pages[3] and len(later.publication.pages[5].things) == 3
    assert {thing.link for page in later.publication.pages for thing in page.things} == {thing_named(made, cell).link}
