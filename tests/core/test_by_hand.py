"""Files changed by hand, and tables of any words: refused in a sentence or told by a check, and never a traceback."""

import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import set_runs
from half_fold.core.plan.settings import set_value, set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication import records
from half_fold.core.publication.own_files import is_plain_name
from half_fold.core.publication.places import Held, Record, Stop
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import (
    Block,
    Edge,
    HoldsBarcode,
    HoldsPanel,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.references import references
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.spread.running.order_table import take_table, write_table
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import create_job, open_job, read
from half_fold.core.store.tables import read_table
from half_fold.core.typesetting.sheet.sheet import remove_role, set_role
from tests.blocks import block_over

TITLES = [
    'He said "no", twice',
    "a, b; c\td",
    "two\nlines",
    "cr\r\nlf",
    "=SUM(A1:A9)",
    "+1",
    "@x",
    "  leading and trailing ",
    "'quoted'",
    "ünïcödé 葉書 שלום",
    "\\",
    '""',
    ",",
    "007",
]


# Tables ------------------------------------------------------------------------------------------------------


def _read_back(job: Publication, path: Path) -> Publication:
    write_table(job, path)
    blank = replace(job, pages=tuple(replace(page, runs="") for page in job.pages))
    made, notes = take_table(blank, read_table(path))
    assert notes == []
    return made


@pytest.mark.parametrize("suffix", [".csv", ".xlsx"])
def test_a_running_order_comes_back_whatever_its_titles_hold(tmp_path: Path, suffix: str) -> None:
    job = start("magazine", "x")
    for index, title in enumerate(TITLES):
        job = set_runs(job, index, title)
    made = _read_back(job, tmp_path / f"order{suffix}")
    wanted = [page.runs for page in job.pages]
    if suffix == ".xlsx":  # a workbook keeps one kind of line end
        wanted = [words.replace("\r\n", "\n") for words in wanted]
        made = replace(made, pages=tuple(replace(p, runs=p.runs.replace("\r\n", "\n")) for p in made.pages))
    assert [page.runs for page in made.pages] == wanted


@settings(max_examples=60, deadline=None)
@given(words=st.lists(st.text("ab\"',;\t\n =é", max_size=8), min_size=1, max_size=6))
def test_any_words_come_back_from_a_table_of_text(tmp_path_factory: pytest.TempPathFactory, words: list[str]) -> None:
    job = start("magazine", "x")
    for index, title in enumerate(words):
        job = set_runs(job, index, title)
    made = _read_back(job, tmp_path_factory.mktemp("order") / "order.csv")
    assert [page.runs for page in made.pages] == [page.runs for page in job.pages]


def test_cells_of_a_workbook_that_begin_with_a_sign_stay_text(tmp_path: Path) -> None:
    from openpyxl import load_workbook

    write_table(set_runs(start("magazine", "x"), 0, "=1+1"), tmp_path / "o.xlsx")
    cell = load_workbook(tmp_path / "o.xlsx").worksheets[0]["D2"]
    assert cell.value == "=1+1" and cell.data_type == "s"


@pytest.mark.parametrize(
    ("content", "notes"),
    [
        (b"page,what runs\r1,One\r2,Two\r", 0),
        (b"page;what runs\n1;One\n2;Two", 0),
        (b"\xef\xbb\xbfpage\twhat runs\n1\tOne\n2\tTwo\n\n", 0),
        ("page,what runs\n1,One\n2,Two\n²,x\n٣,y\n".encode(), 2),
        (b"page,what runs\n1,One\n2,Two\n\n3\n", 0),
        (b"what runs,page\nOne,1\nTwo,2\nshort\n", 1),
        (b"page,what runs\n1,One\n2,Two\n999999999999,x\n99999,y\n-4,z\n", 3),
    ],
)
def test_tables_of_other_hands(tmp_path: Path, content: bytes, notes: int) -> None:
    (tmp_path / "o.csv").write_bytes(content)
    made, said = take_table(start("magazine", "x"), read_table(tmp_path / "o.csv"))
    assert [made.pages[0].runs, made.pages[1].runs] == ["One", "Two"] and len(said) == notes, said


def test_a_huge_cell_is_read_and_a_workbook_that_is_none_is_said(tmp_path: Path) -> None:
    (tmp_path / "o.csv").write_text("page,what runs\n1," + "a" * 300_000)
    made, _ = take_table(start("magazine", "x"), read_table(tmp_path / "o.csv"))
    assert len(made.pages[0].runs) == 300_000
    (tmp_path / "o.xlsx").write_bytes(b"PK\x03\x04 nothing")
    with pytest.raises(Problem, match="not a whole XLSX"):
        read_table(tmp_path / "o.xlsx")


# Figures -----------------------------------------------------------------------------------------------------


def _figures(kind: Any) -> Iterator[tuple[type[Record], str]]:
    """Every field of every record that holds a figure or a length."""
    for each in vars(records).values():
        if isinstance(each, type) and issubclass(each, Record) and each is not Record:
            for field in msgspec.structs.fields(each):
                if re.search(r"\b(int|float|Length)\b", str(field.type)):
                    yield each, field.name


def test_every_figure_of_every_record_has_a_range() -> None:
    """A new figure without one would open with any value, and raise where it is used."""
    lacking = [
        f"{kind.__name__}.{field}"
        for kind, field in _figures(None)
        if field not in RANGES.get(kind, {}) and (kind, field) != (Publication, "format")
    ]
    assert lacking == []


def _with(content: Any, path: str, value: object) -> bytes:
    """The file with the value at that path, the first of each list on the way."""
    whole = json.loads(content)
    at = whole["publication"]
    *way, last = path.split(".")
    for step in way:
        at = at[int(step)] if step.isdigit() else at[step]
    at[last] = value
    return json.dumps(whole).encode()


CARD = {"id": "i", "name": "n", "kind": "card", "after": "p1", "width": "90mm", "height": "90mm"}
SPOILED = [
    ("brief.bleed", "-3mm"),
    ("brief.safe", "-1mm"),
    ("brief.binding", "glue and hope"),
    ("brief.spine_rounding", "0.3mm"),
    ("brief.unit", "ells"),
    ("brief.swell", 0),
    ("brief.signature", 0),
    ("roles.0.size", "0pt"),
    ("roles.0.leading", "0pt"),
    ("roles.0.leading", "1e9pt"),
    ("roles.0.tint", 140),
    ("roles.0.word_least", 0),
    ("roles.0.drop_lines", 10**9),
    ("roles.0.ink", "unobtainium"),
    ("roles.1.based_on", "headline"),
    ("roles.1.own", ["sizze"]),
    ("roles.1.own", ["label"]),
    ("inks.0.black", 180),
    ("inks.0.cyan", -4),
    ("inks.0.cyan", 1e400),
    ("masters.0.grid.columns", 0),
    ("masters.0.grid.rows", 10**8),
    ("masters.0.grid.gutter", "-4mm"),
    ("masters.0.furniture", [{"id": "f9", "role": "no such role"}]),
    ("masters.0.furniture", [{"id": "f9", "kind": "picture", "picture": "no such picture"}]),
    ("masters.0.furniture", [{"id": "f9", "kind": "rule", "ink": "no such ink"}]),
    ("masters.0.text_columns", 0),
    ("cover.ink", "no such ink"),
    ("cover.spine_ink", "no such ink"),
    ("cover.grid.columns", 0),
    ("cover.tint", 1000),
    ("pages.0.grid", "page grid"),
    ("pictures", [{"id": "p1", "file": "../../etc/passwd", "width": 4, "height": 4, "digest": "d"}]),
    ("pictures", [{"id": "p1", "file": "a.jpg", "width": 0, "height": 4, "digest": "d"}]),
    ("fonts", [{"family": "F", "style": "R", "file": "/usr/share/fonts/x.ttf", "digest": "d"}]),
    ("language", "../../en"),
    ("stories", [{"id": "s", "title": "t", "language": "en/GB", "paragraphs": []}]),
    ("stories", [{"id": "s", "title": "t", "paragraphs": [{"role": "no such", "runs": []}]}]),
    ("title", "t" * 100_000),
    ("pages", []),
    ("schedule", {"copy": 10**9}),
    ("inserts", [{**CARD, "paper": "no such paper"}]),
    ("inserts", [{**CARD, "paper": "Marrow Silk 90", "up": 99}]),
    ("sections", [{"name": "s", "first": "p1", "paper": "no such paper"}]),
]  # fmt: skip


@pytest.mark.parametrize(("path", "value"), SPOILED, ids=[f"{path}={str(value)[:24]}" for path, value in SPOILED])
def test_what_cannot_be_is_refused_in_one_sentence(path: str, value: object) -> None:
    content = encode(start("magazine", "Leaf"))
    if path == "pages.0.grid":
        grid = json.loads(content)["publication"]["masters"][0]["grid"]
        value = {**grid, "columns": 0}
    with pytest.raises(Problem) as caught:
        decode(_with(content, path, value), "leaf")
    assert str(caught.value).endswith(".") and "\n" not in str(caught.value) and "Traceback" not in str(caught.value)


def test_two_of_one_name_are_refused() -> None:
    job = start("magazine", "Leaf")
    for changed in (
        replace(job, roles=(*job.roles, job.roles[0])),
        replace(job, inks=(*job.inks, job.inks[0])),
        replace(job, pages=(*job.pages, job.pages[0])),
    ):
        with pytest.raises(Problem, match="the same"):
            decode(encode(changed), "leaf")


@pytest.mark.parametrize("depth", [300, 100_000])
def test_a_file_as_deep_as_that_is_refused(depth: int) -> None:
    content = b'{"format": 5, "publication": ' + b'{"title": ' * depth + b"1" + b"}" * depth + b"}"
    with pytest.raises(Problem):
        decode(content, "leaf")
    with pytest.raises(Problem):
        decode(b'{"format": 1, "publication": ' + b"[" * depth + b"]" * depth + b"}", "leaf")


@pytest.mark.parametrize("name", ["", ".", "..", "a/b", "a\\b", "/a", "a\0", "x" * 300])
def test_names_that_are_not_plain(name: str) -> None:
    assert not is_plain_name(name)
    assert is_plain_name("Pear tree, 2nd (final).jpg") and is_plain_name("..a") and is_plain_name("葉.png")


def test_every_reference_is_walked() -> None:
    """What names anything in the demo is walked: taking each thing away is noticed."""
    from importlib.resources import files

    job = decode(files("half_fold.data").joinpath("demo/graftwood.halffold").read_bytes(), "demo")
    told = {(each.kind, each.name) for each in references(job)}
    named = [(kind, f"{kind}s", "name") for kind in ("role", "ink", "master", "paper")]
    for kind, field, key in (*named, ("picture", "pictures", "id"), ("story", "stories", "id")):
        used = [thing for thing in getattr(job, field) if (kind, getattr(thing, key)) in told]
        assert used, kind
        for thing in used:
            rest = tuple(each for each in getattr(job, field) if each is not thing)
            with pytest.raises(Problem, match="which is not there"):
                decode(encode(replace(job, **{field: rest})), "x")


def test_a_role_that_only_a_waiting_page_uses_cannot_be_removed() -> None:
    job, _ = place_story(start("magazine", "x"), Setter(), "x", (Paragraph(role="byline", runs=(Run(text="a"),)),))
    job = replace(job, stories=(), pages=job.pages[1:], unplaced=(replace(job.pages[0], things=(_words("byline"),)),))
    with pytest.raises(Problem, match="a page that waits"):
        remove_role(job, "byline")


def test_a_job_that_would_not_open_again_is_not_saved(tmp_path: Path) -> None:
    job = open_job(create_job(tmp_path / "j", start("book", "x")))
    before = job.file.read_bytes()
    with pytest.raises(Problem, match="would name the role"):
        job.save(replace(job.publication, roles=job.publication.roles[:1]))
    assert job.file.read_bytes() == before
    job.close()


def _words(role: str) -> Block:
    from half_fold.core.publication.records import HoldsDisplay

    return block_over("b77", HoldsDisplay(paragraphs=(Paragraph(role=role, runs=(Run(text="x"),)),)))


# Findings ----------------------------------------------------------------------------------------------------


def _rules(job: Publication) -> dict[str, str]:
    return {finding.rule: finding.message for finding in check(job, Setter(), None)}


@pytest.mark.parametrize(
    ("number", "addon"),
    [("9771234567899", ""), ("97712", ""), ("abcdefghijklm", ""), ("9780306406157", "1234"), ("٩٧٨٠٣٠٦٤٠٦١٥٧", "")],
)
def test_a_number_that_was_never_issued_is_drawn_as_none_and_said(number: str, addon: str, tmp_path: Path) -> None:
    block = block_over("b1", HoldsBarcode(number=number, addon=addon))
    job = start("magazine", "x")
    job = decode(encode(with_page(job, replace(job.pages[2], things=(block,)))), "x")
    assert number[:5] in _rules(job)["barcode number"]
    file = create_job(tmp_path / "job", job)
    assert main(["press", str(file), str(tmp_path / "x.pdf")]) == 0 and main(["check", str(file)]) == 1


def _panel(**more: Any) -> Publication:
    job = start("magazine", "x")
    block = block_over("b1", HoldsPanel(ink="straw", **more))
    return with_page(job, replace(job.pages[2], things=(block,)))


def test_lines_thinner_than_a_plate_holds_are_found() -> None:
    from half_fold.core.measure.length import length

    assert "thin line" not in _rules(_panel(edge=Edge(weight=length("0.25pt"))))
    assert "0.2 pt" in _rules(_panel(edge=Edge(weight=length("0.2pt"))))["thin line"]
    white = _panel()
    rule = records.Furniture(id="f9", kind="rule", ink="paper", weight=length("0.4pt"))
    white = replace(white, masters=(replace(white.masters[0], furniture=(rule,)), *white.masters[1:]))
    assert "left white" in _rules(white)["thin line"]


def test_a_job_without_bleed_is_found_where_something_reaches_the_trim() -> None:
    job = _panel()
    assert "no bleed" not in _rules(set_values(job, ["bleed=0mm"]))
    edge = Stop(kind="bleed")
    whole = Block(id="b1", place=Held(left=edge, top=edge, right=edge, bottom=edge), holds=HoldsPanel(ink="straw"))
    job = set_value(with_page(job, replace(job.pages[2], things=(whole,))), "bleed", "0mm")
    (found,) = [f for f in check(job, Setter(), None) if f.rule == "no bleed"]
    assert found.stops_press and found.fix is not None
    assert "no bleed" not in _rules(found.fix.edit(job))
    cover = replace(job, pages=start("magazine", "x").pages, cover=replace(job.cover, front=(replace(whole, id="c1"),)))
    (found,) = [f for f in check(cover, Setter(), None) if f.rule == "no bleed"]
    assert found.place == "cover"


def test_small_type_in_several_inks_is_found() -> None:
    job = set_role(set_role(start("magazine", "x"), "caption", "ink", "russet"), "caption", "size", "7pt")
    words = _words("caption")
    job = with_page(job, replace(job.pages[2], things=(replace(words, id="b1"),)))
    assert "4 inks" in _rules(job)["small type in inks"]
    assert "small type in inks" not in _rules(set_role(job, "caption", "size", "9pt"))
    assert "small type in inks" not in _rules(set_role(job, "caption", "ink", "black"))


def test_on_the_command_line_all_of_it_is_one_sentence(job: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = job / "leaf.halffold"
    content = file.read_bytes()
    for path, value in SPOILED[:12]:
        file.write_bytes(_with(content, path, value))
        for command in (["check"], ["numbers"], ["press", str(job / "x.pdf")]):
            assert main([command[0], str(job), *command[1:]]) == 2
            said = capsys.readouterr()
            assert said.out == "" and said.err.count("\n") == 1 and said.err.startswith("half-fold: ")
    file.write_bytes(content)
    assert read(file).title
