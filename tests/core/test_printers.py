"""Printers' sheets: chosen, held up by the checks, written and read."""

from pathlib import Path

import msgspec
import pytest
from msgspec.structs import replace

from half_fold.core.brief.printers import (
    barcode_reserve,
    find_sheet,
    keep_sheet,
    known_sheets,
    read_sheet,
    sheet_changes,
    shipped,
)
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.numbers.blocks import printed_well
from half_fold.core.paths.all import set_path
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.settings import set_value, set_values
from half_fold.core.press.make import press
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import read
from tests.conftest import judge


def test_three_stand_ins_ship_in_two_units() -> None:
    assert [sheet.unit for sheet in shipped()] == ["mm", "mm", "in"]
    assert all("stand-in" in sheet.note for sheet in shipped())


def test_choosing_one_fills_the_brief_and_says_what_changed(magazine: Publication) -> None:
    job = set_value(magazine, "printer", "pedlar print on demand")
    assert (job.brief.bleed.typed, job.brief.safe.typed, job.brief.unit) == ("1/8in", "1/4in", "in")
    assert job.brief.spine_school == "block" and job.brief.spine_rounding == "none"
    found = {change.name: (change.before, change.now) for change in sheet_changes(magazine, job)}
    assert found["Bleed"] == ("3mm", "1/8in") and found["Unit"] == ("mm", "in")
    assert set_value(job, "printer", "none").printer is None
    assert barcode_reserve(find_sheet("Pedlar Print on Demand")) == (pytest.approx(50.8), pytest.approx(30.48))


def test_a_sheet_from_a_file(magazine: Publication, tmp_path: Path) -> None:
    path = tmp_path / "mine.json"
    path.write_text('{"name": "Fold Lane Press", "bleed": "5mm", "multiple": 8}')
    job = set_values(magazine, [f"printer={path}", "pages=52"])
    assert job.brief.bleed.typed == "5mm" and job.printer is not None and job.printer.name == "Fold Lane Press"
    report = binding_report(job)
    assert report.stops_press and report.counts == (48, 56) and "Fold Lane Press" in report.sentence


@pytest.mark.parametrize(
    ("content", "says"),
    [
        ("{", "not a printer's sheet"),
        ('{"bleed": "3mm"}', "name"),
        ('{"name": "X", "colour": 3}', "colour"),
        ('{"name": "X", "bleed": "three"}', "three"),
        ('{"name": "X", "spine_school": "guess"}', "guess"),
        ('{"name": "X", "barcode": "large"}', "large"),
        ('{"name": "X", "picture_ppi": 9000}', "2400"),
        ('{"name": "X", "overprint": "most"}', "there are text, all, none"),
        ('{"name": "X", "overprint_to": "9000pt"}', "from 0 to 1000 pt"),
        ('{"name": "X", "overprint_to": "large"}', "large"),
        ('{"name": "X", "barcode": "50x-4"}', "sides in mm"),
        ('{"name": "X", "barcode": "50x30ells"}', "sides in mm"),
        ('{"name": "X", "barcode": "50x30", "unit": "ells"}', "unit"),
    ],
)
def test_a_sheet_that_is_none(magazine: Publication, tmp_path: Path, content: str, says: str) -> None:
    path = tmp_path / "odd.json"
    path.write_text(content)
    with pytest.raises(Problem, match=says):
        set_value(magazine, "printer", str(path))


def test_pictures_are_judged_and_pressed_by_what_the_sheet_asks(demo: Path, tmp_path: Path) -> None:
    """The same picture is good for one printer and soft for another; none goes in much finer than asked for."""
    job = read(demo / "graftwood.halffold")
    asked = {}
    for ppi in (120, 600):
        (tmp_path / f"{ppi}.json").write_text(f'{{"name": "Fold Lane Press", "picture_ppi": {ppi}}}')
        asked[ppi] = set_value(job, "printer", str(tmp_path / f"{ppi}.json"))
        assert printed_well(asked[ppi], job.pictures[0]) == pytest.approx(job.pictures[0].width * 25.4 / ppi)
    soft = {ppi: [f for f in check(each, Setter(), None) if f.rule == "low resolution"] for ppi, each in asked.items()}
    assert not soft[120] and "600 ppi is asked for by Fold Lane Press" in soft[600][0].why
    pixels = {}
    for ppi, each in asked.items():
        press(each, demo / "pictures", tmp_path / f"{ppi}.pdf", "1-9")
        told = judge("pdfimages", "-list", str(tmp_path / f"{ppi}.pdf")).splitlines()[2:]
        pixels[ppi] = [int(row.split()[12]) for row in told if row.split()[2] == "image"]
    assert max(pixels[120]) <= 1.3 * 120 < 200 < max(pixels[600])


def test_own_sheets_are_kept(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    path = keep_sheet(replace(shipped()[0], name="My printer", bleed="4mm"))
    assert read_sheet(path).bleed == "4mm" and known_sheets()[0].name == "My printer"
    (path.parent / "broken.printer.json").write_bytes(b"\xff")
    assert known_sheets()[0].name == "My printer"
    assert msgspec.json.decode(path.read_bytes())["multiple"] == 4


@pytest.mark.parametrize(("asked", "said"), [("PDF/X-1a:2003", True), ("pdf/x-4", False), ("", False)])
def test_a_file_of_another_standard_than_is_made_is_said(magazine: Publication, asked: str, said: bool) -> None:
    job = set_path(set_value(magazine, "printer", shipped()[0].name), "printer.standard", asked)
    found = [f.message for f in check(job, Setter(), None) if f.rule == "printer's sheet"]
    assert found == ([f"Files are asked for as {asked}; these are PDF/X-4"] if said else [])
