"""The next number of a job, and pages asked for by their numbers."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.checks.finding import would_stop
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path, set_paths
from half_fold.core.plan.next_number import begin_next_number, next_addon, next_figure, next_season
from half_fold.core.plan.page_ranges import format_range, page_range
from half_fold.core.publication.records import HoldsBarcode, HoldsDisplay, HoldsNothing, HoldsPicture
from half_fold.core.publication.validity import require_valid
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.demo import make_demo
from half_fold.core.store.job import open_job


@pytest.mark.parametrize(
    ("now", "after"),
    [
        ("No. 14", "No. 15"),
        ("09", "10"),
        ("Vol. 3, No. 099b", "Vol. 3, No. 100b"),
        ("Special", "Special"),
        ("", ""),
    ],
)
def test_the_last_figure_of_an_issue_goes_on(now: str, after: str) -> None:
    assert next_figure(now) == after


@pytest.mark.parametrize(
    ("now", "after"),
    [
        ("Winter", "Spring"),
        ("WINTER 2026", "SPRING 2027"),
        ("spring 2027", "summer 2027"),
        ("December 2026", "January 2027"),
        ("November", "December"),
        ("The hedge number", "The hedge number"),
    ],
)
def test_a_season_or_a_month_goes_on_and_the_year_where_the_round_ends(now: str, after: str) -> None:
    assert next_season(now) == after


def test_an_addon_of_an_issue_goes_on_and_that_of_a_price_stays() -> None:
    assert [next_addon(text) for text in ("01", "99", "", "51299", "x1")] == ["02", "01", "", "51299", "x1"]


def test_what_stands_stays_and_all_else_is_gone(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = make_demo(tmp_path)
    before = open_job(file)
    job = set_paths(before.publication, ["page.4.standing=yes", "page.5.standing=yes", "brief.press-date=2027-01-15"])
    before.save(job)
    before.close()
    assert main(["new", "--from", str(file), str(tmp_path / "next"), "--set", "title=Graftwood"]) == 0
    after = open_job(Path(capsys.readouterr().out.strip()))
    made = after.publication
    require_valid(made, "next")
    for field in ("masters", "roles", "inks", "papers", "fades", "looks", "printer", "text_roles"):
        assert getattr(made, field) == getattr(job, field), field
    assert (made.issue, made.season, made.brief.press_date, made.unplaced) == ("No. 15", "Spring", "", ())
    assert replace(made.brief, press_date="") == replace(job.brief, press_date="")
    for number, (new, old) in enumerate(zip(made.pages, job.pages, strict=True), 1):
        assert (new.id, new.master) == (old.id, old.master)
        assert new.things == (old.things if number in (4, 5) else ()), number
        assert not new.state and (number in (4, 5) or not new.runs)
    blocks, old = made.cover.front, job.cover.front
    assert [block.id for block in blocks] == [block.id for block in old]
    pictured = {block.id for block in old if isinstance(block.holds, HoldsPicture)}
    assert pictured and all(isinstance(b.holds, HoldsNothing) for b in blocks if b.id in pictured)
    words = [(a, b) for a, b in zip(blocks, old, strict=True) if isinstance(b.holds, HoldsDisplay)]
    assert words and all(a == b for a, b in words)
    codes = [b.holds for b in (*blocks, *made.cover.back) if isinstance(b.holds, HoldsBarcode)]
    assert all(code.number for code in codes)
    files = {path.name for path in (after.folder / "pictures").iterdir()}
    assert files == {picture.file for picture in made.pictures} and len(files) < len(job.pictures)
    assert not would_stop(check(made, Setter(), after.pictures))
    assert begin_next_number(made).issue == "No. 16"
    after.close()


def test_where_a_file_has_gone_no_folder_is_left(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = make_demo(tmp_path)
    job = open_job(file)
    picture = next(b.holds.picture for b in job.publication.pages[3].blocks if isinstance(b.holds, HoldsPicture))
    job.save(set_path(job.publication, "page.4.standing", "yes"))
    name = next(each.file for each in job.publication.pictures if each.id == picture)
    job.close()
    (file.parent / "pictures" / name).unlink()
    assert main(["new", "--from", str(file), str(tmp_path / "next")]) == 2
    assert name in capsys.readouterr().err and not (tmp_path / "next").exists()
    assert main(["new", "magazine"]) == 2
    assert "Say what kind" in capsys.readouterr().err


# Pages by their numbers -----------------------------------------------------------------------------


@given(st.sets(st.integers(1, 60), min_size=1))
def test_pages_are_said_as_they_are_asked_for(numbers: set[int]) -> None:
    every = tuple(sorted(numbers))
    assert page_range(format_range(every), 60) == every


def test_pages_are_asked_for_in_any_way_and_refused_in_a_sentence() -> None:
    assert page_range("1, 6-9", 12) == (1, 6, 7, 8, 9) == page_range("9; 6–8;1,7", 12)
    assert format_range((1, 6, 7, 8, 9)) == "1, 6-9"
    for text, words in (
        ("13", "pages 1 to 12"),
        ("9-6", "no page"),
        ("0", "no page"),
        ("1--2", "is no page"),
        (",", "Give"),
    ):
        with pytest.raises(Problem, match=words):
            page_range(text, 12)
