"""The schedule backwards from the press date; the running order as a table."""

import csv
import io
from datetime import date, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.plan.sections import mark_pages, section_of
from half_fold.core.plan.settings import set_value
from half_fold.core.publication.records import Publication
from half_fold.core.spread.running.order_table import COLUMNS, rows, take_table, write_table
from half_fold.core.spread.running.schedule import as_csv, as_icalendar, schedule, set_lead, working_back
from half_fold.core.store.job import read
from half_fold.core.store.tables import read_table
from tests.conftest import judge

TODAY = date(2026, 11, 25)


def test_by_hand_over_weekends_and_a_holiday(magazine: Publication) -> None:
    """On press Monday 2027-01-04; 1 January is a holiday: files Tuesday 29 December, and so on back."""
    job = set_lead(set_value(magazine, "press-date", "2027-01-04"), "holidays", "2027-01-01, 2026-12-25 2026-12-28")
    days = {step.name: step.day for step in schedule(job, TODAY)}
    assert days["On press"] == date(2027, 1, 4)
    assert days["Files to the printer"] == date(2026, 12, 29)
    assert days["Pages passed"] == date(2026, 12, 23) and days["Cover passed"] == date(2026, 12, 23)
    assert days["Proofs back"] == date(2026, 12, 18) and days["Copy in"] == date(2026, 11, 27)
    assert not any(step.late for step in schedule(job, TODAY))


def test_what_is_late_today(magazine: Publication) -> None:
    job = set_value(magazine, "press-date", "2026-12-11")
    late = [step.name for step in schedule(job, TODAY) if step.late]
    assert late == ["Copy in"]
    done = mark_pages(job, range(32), "state", "copy in")
    assert not any(step.late for step in schedule(done, TODAY))
    assert schedule(magazine, TODAY) == []


def test_copy_is_in_where_a_picture_lies_from_the_page_beside(demo_source: Path) -> None:
    """Pages 14 and 15 of the demo have one picture between them."""
    job = set_value(read(demo_source / "graftwood.halffold"), "press-date", "2026-12-11")
    bare = replace(job.pages[14], things=(), state="")
    pages = tuple(bare if n == 15 else replace(p, state="copy in") for n, p in enumerate(job.pages, 1))
    under = replace(job, pages=pages)
    assert "Copy in" not in [step.name for step in schedule(under, TODAY) if step.late]
    empty = replace(under, pages=tuple(replace(p, things=()) if n == 14 else p for n, p in enumerate(pages, 1)))
    assert "Copy in" in [step.name for step in schedule(empty, TODAY) if step.late]


def test_lead_times_have_paths(magazine: Publication) -> None:
    job = set_path(set_path(magazine, "schedule.copy", "7"), "schedule.holidays", "2026-12-25, 2026-12-26")
    assert (job.schedule.copy, job.schedule.holidays) == (7, ("2026-12-25", "2026-12-26"))
    assert set_path(job, "schedule.holidays", "").schedule.holidays == ()


@given(st.dates(date(2020, 1, 1), date(2030, 1, 1)), st.integers(0, 60), st.sets(st.integers(1, 90), max_size=20))
def test_working_days_are_counted_one_by_one(day: date, count: int, off: set[int]) -> None:
    holidays = frozenset(day - timedelta(days=n) for n in off)
    found = working_back(day, count, holidays)
    between = [found + timedelta(days=n) for n in range((day - found).days)]
    assert sum(d.weekday() < 5 and d not in holidays for d in between) == count


@pytest.mark.parametrize(("field", "text"), [("copy", "-3"), ("files", "soon"), ("holidays", "Christmas")])
def test_leads_that_cannot_be(magazine: Publication, field: str, text: str) -> None:
    with pytest.raises(Problem):
        set_lead(magazine, field, text)


def test_csv_and_icalendar(magazine: Publication) -> None:
    job = set_value(set_value(magazine, "press-date", "2027-01-04"), "title", "Leaf; and, " + "long " * 30)
    lines = list(csv.reader(io.StringIO(as_csv(job, TODAY))))
    assert lines[0][0] == "day" and len(lines) == 7 and lines[-1][1] == "On press"
    calendar = as_icalendar(job, TODAY)
    assert calendar.startswith("BEGIN:VCALENDAR\r\n") and calendar.endswith("END:VCALENDAR\r\n")
    assert calendar.count("BEGIN:VEVENT") == 6 and "DTSTART;VALUE=DATE:20270104" in calendar
    assert all(len(line.encode()) <= 75 for line in calendar.split("\r\n"))
    unfolded = calendar.replace("\r\n ", "")
    assert "SUMMARY:Leaf\\; and\\, long" in unfolded


@pytest.mark.parametrize("suffix", [".csv", ".xlsx"])
def test_the_running_order_goes_out_and_comes_back(magazine: Publication, tmp_path: Path, suffix: str) -> None:
    path = tmp_path / f"order{suffix}"
    write_table(magazine, path)
    table = read_table(path)
    assert tuple(table[0]) == COLUMNS and len(table) == 33
    changed = [list(row) for row in table]
    changed[5][2:6] = ["Features", "Bees; in the cold", magazine.masters[0].name, "half"]
    changed[9][6] = "passed"
    job, notes = take_table(magazine, changed)
    assert notes == [] and section_of(job, 5).name == "Features"  # type: ignore[union-attr]
    assert (job.pages[4].runs, job.pages[4].advert, job.pages[8].state) == ("Bees; in the cold", "half", "passed")
    write_table(job, path)
    again, notes = take_table(job, read_table(path))
    assert again == job and notes == [] and rows(again) == rows(job)


def test_a_table_of_another_hand(magazine: Publication, tmp_path: Path) -> None:
    """Semicolons, other columns, a longer order, and things that cannot be: taken or said, never dropped silently."""
    path = tmp_path / "theirs.csv"
    path.write_text("Page;What runs;Colour;State\n3;Bees;red;copy in\nx;?;;\n36;Last;;burnt\n", encoding="utf-8")
    job, notes = take_table(magazine, read_table(path))
    assert len(job.pages) == 36 and job.pages[2].runs == "Bees" and job.pages[2].state == "copy in"
    assert any("colour" in note for note in notes) and any("Line 3" in note for note in notes)
    with pytest.raises(Problem, match="no column"):
        take_table(magazine, [["a", "b"]])
    (tmp_path / "bad.xlsx").write_bytes(b"nonsense")
    with pytest.raises(Problem):
        read_table(tmp_path / "bad.xlsx")


def test_on_the_command_line(job: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["set", str(job), "press-date=2027-01-04", "pages=48"]) == 0
    assert main(["order", str(job), str(tmp_path / "o.csv")]) == 0
    text = (tmp_path / "o.csv").read_text(encoding="utf-8-sig").replace("2,2,,,", "2,2,,Contents,")
    (tmp_path / "o.csv").write_text(text, encoding="utf-8")
    assert main(["order", str(job), "--read", str(tmp_path / "o.csv")]) == 0
    assert read(job / "leaf.halffold").pages[1].runs == "Contents"
    assert main(["order", str(job), str(tmp_path / "wall.pdf")]) == 0
    judge("qpdf", "--check", tmp_path / "wall.pdf")
    assert "Pages:           1" in judge("pdfinfo", tmp_path / "wall.pdf")
    words = judge("pdftotext", "-raw", tmp_path / "wall.pdf", "-")
    assert "Contents" in words and "48" in words.split()
    assert main(["schedule", str(job), str(tmp_path / "s.ics")]) == 0
    assert main(["schedule", str(job), str(tmp_path / "s.csv")]) == 0
    assert main(["order", str(job), str(tmp_path / "o.doc")]) == 2
    assert main(["schedule", str(job), str(tmp_path / "s.txt")]) == 2
