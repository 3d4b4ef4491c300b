"""Ordinary work that was once refused, or answered with a traceback."""

import errno
import os
from collections.abc import Callable
from pathlib import Path

import msgspec
import pytest
from msgspec.structs import replace
from openpyxl import Workbook
from PIL import Image

from half_fold.cli import main
from half_fold.core.brief.bindings import bindings
from half_fold.core.brief.stock import BASIC_SHEETS, TYPICAL_VOLUMES
from half_fold.core.inks.fades import parse_stops
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_paths
from half_fold.core.plan.next_number import begin_next_number
from half_fold.core.plan.own_kinds import begin, keep_kind
from half_fold.core.plan.starters import start
from half_fold.core.press.outputs import files_named
from half_fold.core.publication import records
from half_fold.core.publication.records import Paper, Publication
from half_fold.core.publication.references import PICTURE, references
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import open_job


@pytest.fixture
def job(tmp_path: Path) -> Path:
    return begin("magazine", "Leaf", tmp_path / "leaf", ["pages=8"])


# The next number -----------------------------------------------------------------------------------------------


def _in_a_look(job: Publication, name: str) -> Publication:
    return replace(job, looks=(*job.looks, records.Look(name="seen through", picture=name)))


def _on_the_spine(job: Publication, name: str) -> Publication:
    return replace(job, cover=replace(job.cover, pieces=(records.SpinePiece(picture=name),)))


def _over_the_spines(job: Publication, name: str) -> Publication:
    return replace(job, cover=replace(job.cover, row_picture=name))


def _in_the_furniture(job: Publication, name: str) -> Publication:
    piece = records.Furniture(id="mark", kind="picture", picture=name)
    master = replace(job.masters[0], furniture=(*job.masters[0].furniture, piece))
    return replace(job, masters=(master, *job.masters[1:]))


def _on_a_standing_page(job: Publication, name: str) -> Publication:
    job = set_paths(job, [f"page.1.claim=picture {name} over 1-2 x 1-2"])
    return replace(job, pages=(replace(job.pages[0], standing=True), *job.pages[1:]))


@pytest.mark.parametrize("use", [_in_a_look, _on_the_spine, _over_the_spines, _in_the_furniture, _on_a_standing_page])
def test_a_picture_that_stays_goes_on_wherever_it_is_named(
    job: Path, tmp_path: Path, use: Callable[[Publication, str], Publication]
) -> None:
    Image.new("RGB", (90, 90), "green").save(tmp_path / "leaf.png")
    assert main(["place", str(job), "--picture", str(tmp_path / "leaf.png")]) == 0
    opened = open_job(job)
    opened.save(use(opened.publication, opened.publication.pictures[0].id))
    opened.close()
    after = begin_next_number(opened.publication)
    assert len(after.pictures) == 1 and [each for each in references(after) if each.kind == PICTURE]
    assert main(["new", "--from", str(job), str(tmp_path / "next")]) == 0
    assert (tmp_path / "next" / "pictures" / "leaf.png").exists()
    assert keep_kind(opened.publication, job.parent, "Quarterly " * 30).folder.is_dir()
    assert begin("Quarterly " * 30, "Again", tmp_path / "again").exists()


# Files that come in ----------------------------------------------------------------------------------------------


def _workbook(path: Path, rows: list[list[object]]) -> Path:
    book = Workbook()
    for row in rows:
        book.active.append(row)  # type: ignore[union-attr]
    book.save(path)
    return path


HEAD, MOSS = ["name", "cyan", "magenta", "yellow", "black"], ["moss", 60, 20, 80, 10]


def test_inks_come_from_a_workbook_and_with_old_ends_of_lines(job: Path, tmp_path: Path) -> None:
    lists = {"book.xlsx": _workbook(tmp_path / "book.xlsx", [HEAD, MOSS])}
    for end in ("\r", "\r\n", "\n"):
        for between in (",", ";", "\t"):
            path = tmp_path / f"list{ord(end[0])}{len(end)}{ord(between)}.csv"
            path.write_bytes((between.join(HEAD) + end + between.join(map(str, MOSS)) + end).encode())
            lists[path.name] = path
    for name, path in lists.items():
        assert main(["set", str(job), "ink.moss=1 2 3 4"]) == 0
        assert main(["inks", str(job), "--take", str(path)]) == 0, name
        ink = next(ink for ink in open_job(job, to_write=False).publication.inks if ink.name == "moss")
        assert (ink.cyan, ink.magenta, ink.yellow, ink.black) == (60, 20, 80, 10), name


@pytest.mark.parametrize("rows", [[["a"]], [["name"]], [[None, None], ["x", 1]], [HEAD], [HEAD, ["x", "no", 1, 1, 1]]])
def test_other_workbooks_are_one_sentence(
    job: Path, tmp_path: Path, rows: list[list[object]], capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["inks", str(job), "--take", str(_workbook(tmp_path / "x.xlsx", rows))]) == 2
    assert capsys.readouterr().err.count("\n") == 1


def test_a_table_s_name_may_be_no_text(job: Path, tmp_path: Path) -> None:
    (tmp_path / "goods.csv").write_text("name,price\nPear,3\n")
    os.rename(tmp_path / "goods.csv", os.fsencode(tmp_path) + b"/birnen-\xe4.csv")
    (odd,) = tmp_path.glob("birnen*")
    assert main(["goods", str(job), str(odd)]) == 0
    goods = open_job(job, to_write=False).publication.goods
    assert goods is not None and goods.file == "birnen-ä.csv"


# What is typed -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("binding", [each.label for each in bindings()])
@pytest.mark.parametrize("said", [str, str.lower, str.upper])
def test_a_choice_may_be_typed_as_the_error_offers_it(binding: str, said: Callable[[str], str]) -> None:
    job = set_paths(start("magazine", "Leaf"), [f"binding={said(binding)}"])
    (told,) = found(job, "binding")
    assert dict(told.choices)[told.value] == binding


@pytest.mark.parametrize("text", ["black at 0, 50 %", "black, 50 %; straw", "straw; black at 20 % , 5%"])
def test_a_share_that_may_mean_two_things_is_answered_with_both(text: str) -> None:
    with pytest.raises(Problem, match=r"is a tint of it, black.*opaque"):
        parse_stops(start("magazine", "Leaf"), text)


@pytest.mark.parametrize("text", ["black 50 % at 0; straw at 100", "black at 0, 50 % opaque; straw"])
def test_both_can_be_typed(text: str) -> None:
    assert len(parse_stops(start("magazine", "Leaf"), text)) == 2


def test_long_titles_give_names_that_systems_take_and_tell_apart(job: Path, tmp_path: Path) -> None:
    long = "Über Hecken 葉 " * 34
    assert main(["set", str(job), f"title={long[:400]}", "output.a=cover"]) == 0
    opened = open_job(job)
    outputs = [replace(opened.publication.outputs[0], name=f"{'Über ' * 40}{n}") for n in range(3)]
    opened.save(replace(opened.publication, outputs=tuple(outputs)))
    path = opened.keep_version(opened.publication, "葉" * 90)
    assert path in opened.versions()
    opened.close()
    names = files_named(opened.publication, [each.name for each in outputs], "output")
    assert len(set(names)) == 3 and all(len(os.fsencode(name)) < 250 for name in names)
    assert main(["outputs", str(job), str(tmp_path / "made")]) == 0
    assert sorted(os.listdir(tmp_path / "made")) == sorted(names)


# Files written by hand ---------------------------------------------------------------------------------------------


def test_the_categories_of_papers_are_those_there_are() -> None:
    (told,) = [field.type for field in msgspec.structs.fields(Paper) if field.name == "category"]
    assert set(told.__args__) - {""} == set(BASIC_SHEETS) == set(TYPICAL_VOLUMES)


@pytest.mark.parametrize("stated", [
    {"pounds": 60.0}, {"pounds": 60.0, "volume": 1.2}, {"grammage": 90.0}, {"volume": 1.2}, {},
    {"pounds": 60.0, "caliper": 90.0},
])  # fmt: skip
def test_a_paper_that_says_too_little_is_a_sentence(tmp_path: Path, stated: dict[str, float]) -> None:
    job = start("magazine", "Leaf")
    odd = replace(job, papers=(Paper(name=job.papers[0].name, **stated), *job.papers[1:]))
    with pytest.raises(Problem, match=r"cannot be opened: .*paper"):
        decode(encode(odd), "leaf")


def test_a_gradient_without_stops_is_a_sentence() -> None:
    gradient = records.ArtGradient(way="linear", matrix=(1, 0, 0, 1, 0, 0), stops=())
    art = records.Art(data="M 0 0 L 1 0 L 1 1 Z", gradient=gradient)
    picture = records.Picture(id="p", file="x.svg", width=10, height=10, digest="ab", art=(art,))
    with pytest.raises(Problem, match="does not belong in a job"):
        decode(encode(replace(start("magazine", "Leaf"), pictures=(picture,))), "leaf")


def test_a_full_disk_leaves_one_sentence_of_a_workbook(
    job: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capfd: pytest.CaptureFixture[str]
) -> None:
    def full(*_: object, **__: object) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(Path, "write_bytes", full)
    assert main(["order", str(job), str(tmp_path / "order.xlsx")]) == 2
    import gc

    gc.collect()
    told = capfd.readouterr().err
    assert told.count("\n") == 1 and "no space left" in told and not (tmp_path / "order.xlsx").exists()
