"""Gathering: every part of a job in one archive, each as it would be pressed alone, with a ticket that says so."""

import io
import zipfile
from pathlib import Path

import pikepdf
import pytest
from msgspec.structs import replace

from half_fold.core.brief.printers import shipped
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.inserts import add_insert
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.gather import TICKET, gather
from half_fold.core.press.ticket import ticket
from half_fold.core.publication.records import Publication
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.texts.text_in import read_plain


def _job(*settings: str) -> Publication:
    job = set_values(start("book", "Hedges & Ditches"), ["pages=16", "issue=No. 2", *settings])
    return place_story(job, Setter(), "Hedges", tuple(read_plain("The hedge is laid in winter. " * 40).paragraphs))[0]


def _gathered(job: Publication, out: Path) -> tuple[zipfile.ZipFile, str]:
    steps: list[tuple[int, int, str]] = []
    gather(job, out.parent, out, check(job, Setter(), None), lambda *step: steps.append(step))
    assert steps and all(done <= count for done, count, _ in steps)
    archive = zipfile.ZipFile(out)
    assert archive.testzip() is None
    return archive, archive.read(TICKET).decode()


def test_every_part_is_in_it_and_can_be_opened(tmp_path: Path) -> None:
    archive, told = _gathered(_job("binding=case", "jacket=Tarn Card 240"), tmp_path / "out.zip")
    names = ["hedges-ditches-no-2-pages.pdf", "hedges-ditches-no-2-jacket.pdf", "hedges-ditches-no-2-covering.pdf"]
    assert archive.namelist() == [*names, TICKET]
    pages = [len(pikepdf.open(io.BytesIO(archive.read(name))).pages) for name in names]
    assert pages[0] == 16 and pages[1:] == [1, 1]
    assert all(f"{name}: proved: " in told for name in names)
    for name, value in (("Trim", "138mm × 216mm"), ("Extent", "16 pages and a cover of its own"), ("Bleed", "3mm")):
        assert f"{name:14}{value}" in told
    assert "the printer's own sheet wins" in told and list(tmp_path.iterdir()) == [tmp_path / "out.zip"]


def test_inserts_of_one_name_have_files_of_their_own(tmp_path: Path) -> None:
    job = _job("binding=saddle")
    for after in (4, 8):
        job = add_insert(job, after, "card")
    archive, told = _gathered(job, tmp_path / "out.zip")
    inserts = [name for name in archive.namelist() if "card" in name]
    assert len(set(inserts)) == 2 and told.count("\nInsert ") == 2


def test_what_stands_in_the_way_is_on_the_ticket_in_the_jobs_unit(tmp_path: Path) -> None:
    job = set_values(_job("unit=in"), ["pages=15"])
    _, told = _gathered(job, tmp_path / "out.zip")
    found = check(job, Setter(), None)
    assert found and all(finding.message in told for finding in found) and "Nothing." not in told
    spine = next(line for line in told.splitlines() if line.startswith("Spine"))
    assert " in (" in spine


def test_the_printer_named_on_it_decides_on_marks(tmp_path: Path) -> None:
    sheet = shipped()[0]
    boxes = []
    for marks in (True, False):
        job = replace(_job(), printer=replace(sheet, marks=marks))
        archive, told = _gathered(job, tmp_path / f"{marks}.zip")
        assert f"{'Printer':14}{sheet.name}" in told
        with pikepdf.open(io.BytesIO(archive.read(archive.namelist()[0]))) as pdf:
            boxes.append(float(pdf.pages[0].MediaBox[2]))
    assert boxes[0] > boxes[1]


@pytest.mark.parametrize("name", ["out.pdf", "out"])
def test_another_kind_of_file_is_refused(tmp_path: Path, name: str) -> None:
    with pytest.raises(Problem, match=r"ends in \.zip"):
        gather(_job(), tmp_path, tmp_path / name)
    assert not list(tmp_path.iterdir())


def test_what_is_no_archive_is_not_replaced_and_a_part_that_fails_leaves_nothing(tmp_path: Path) -> None:
    (tmp_path / "own.zip").write_text("words of mine")
    with pytest.raises(Problem, match="another kind"):
        gather(_job(), tmp_path, tmp_path / "own.zip")

    def stop(_done: int, _count: int, words: str) -> None:
        if words.startswith("Cover"):
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        gather(_job(), tmp_path, tmp_path / "out.zip", progress=stop)
    assert [each.name for each in tmp_path.iterdir()] == ["own.zip"]


def test_a_ticket_of_a_sheet_says_nothing_of_covers() -> None:
    told = ticket(start("one-sheet", "Fair"), [], [])
    assert "Cover" not in told and "Spine" not in told and told.endswith("Nothing.\n")
