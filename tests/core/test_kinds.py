"""Small jobs: sheets and spreads that are not bound, covers by themselves; and kinds of one's own."""

from pathlib import Path

import pikepdf
import pytest
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.brief.properties import set_brief
from half_fold.core.brief.spine import spine
from half_fold.core.brief.wrap import wrap_width
from half_fold.core.checks.run import check
from half_fold.core.cover.flat import cover_flat, piece_flat
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.numbers.all import all_numbers
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.order import set_extent
from half_fold.core.plan.own_kinds import begin, drop_kind, keep_kind, own_kinds
from half_fold.core.plan.spreads import facing, on_right, spread_index, spreads_of
from half_fold.core.plan.starters import KINDS, start
from half_fold.core.press.parts import parts_of
from half_fold.core.publication.records import HoldsPanel, Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import block_box, spread_area
from half_fold.core.store.job import read
from tests.blocks import block_over

SMALL = ("one-sheet", "one-spread", "cover", "screen-cover")


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_starts_without_a_finding_and_can_be_bound(kind: str, tmp_path: Path) -> None:
    job = start(kind, "Hedge")
    assert not binding_report(job).stops_press
    assert not check(job, Setter(), tmp_path)


@pytest.mark.parametrize("kind", SMALL)
def test_small_jobs_ask_for_no_copy(kind: str) -> None:
    keys = {number.key for number in all_numbers(start(kind, "Hedge"))}
    assert not {key for key in keys if key.startswith(("weight", "bulk", "copy", "carton", "creep", "extent"))}
    assert {"trim.width", "trim.height", "bleed", "safe"} <= keys


def test_pages_that_lie_flat_are_paired_from_the_first() -> None:
    job = set_extent(start("one-spread", "Map"), 4)
    assert [(s.left, s.right) for s in spreads_of(job)] == [(1, 2), (3, 4)]
    assert [spread_index(job, number) for number in range(1, 5)] == [0, 0, 1, 1]
    assert [facing(job, number) for number in range(1, 5)] == [2, 1, 4, 3]
    assert [on_right(job, number) for number in range(1, 5)] == [False, True, False, True]
    mirrored = replace(job, brief=replace(job.brief, right_bound=True))
    assert [(s.left, s.right) for s in spreads_of(mirrored)] == [(2, 1), (4, 3)]


def test_a_block_reaches_over_both_pages_that_lie_flat() -> None:
    job = start("one-spread", "Map")
    wide = block_over("b1", HoldsPanel(ink="straw"), (0, 5), (0, 1))
    wide = replace(wide, place=replace(wide.place, right=replace(wide.place.right, facing=True)))
    job = replace(job, pages=(replace(job.pages[0], things=(wide,)), job.pages[1]))
    box = block_box(job, 1, wide)
    area = spread_area(job, spreads_of(job)[0])
    assert box.left < 0 < box.right
    assert area.width == pytest.approx(420 * MM)
    assert box.right == pytest.approx(area.right - 14 * MM)


@pytest.mark.parametrize(("pages", "fits"), [(1, True), (2, True), (3, False)])
def test_a_sheet_has_two_sides(pages: int, fits: bool) -> None:
    job = set_extent(start("one-sheet", "Poster"), pages)
    assert binding_report(job).stops_press is not fits
    assert all(len(spread.numbers) == 1 for spread in spreads_of(job)) or not fits


def test_a_spine_that_the_printer_gave_wins_and_the_worked_one_is_told() -> None:
    book = start("book", "Hedge")
    worked = spine(book)
    given = spine(set_brief(book, "spine", "21mm"))
    assert worked is not None and given is not None
    assert given.value == 21 and worked.text in given.note
    wider = wrap_width(set_brief(book, "spine", "21mm"))
    assert wider is not None and wider.value == 2 * 138 + 21 + 2 * 3
    assert spine(set_brief(set_brief(book, "spine", "21mm"), "spine", "none")) == worked
    with pytest.raises(Problem, match="0 mm to 150 mm"):
        set_brief(book, "spine", "2000mm")


def test_a_cover_alone_is_back_spine_and_front() -> None:
    job = start("cover", "Hedge")
    flat = cover_flat(job)
    assert flat.spine is not None and flat.spine.width == pytest.approx(14 * MM)
    assert [part.key for part in parts_of(job)] == ["cover", "front"]
    assert cover_flat(set_brief(job, "spine", "none")).spine is None


def test_a_cover_for_the_screen_is_the_front_alone_in_pixels(tmp_path: Path) -> None:
    assert main(["new", "screen-cover", str(tmp_path / "hedge")]) == 0
    assert main(["proof", str(tmp_path / "hedge"), str(tmp_path / "front.png"), "--front"]) == 0
    from PIL import Image

    assert Image.open(tmp_path / "front.png").size == (1600, 2560)
    job = read(tmp_path / "hedge" / "hedge.halffold")
    assert cover_flat(job).back is None and not cover_flat(job).folds
    assert [part.key for part in parts_of(job)] == ["front"]


@pytest.mark.parametrize(("kind", "size"), [("one-sheet", 1), ("one-spread", 2), ("cover", 1), ("screen-cover", 1)])
def test_the_press_makes_what_there_is(kind: str, size: int, tmp_path: Path) -> None:
    assert main(["new", kind, str(tmp_path / "job")]) == 0
    assert main(["press", str(tmp_path / "job"), str(tmp_path / "out.pdf")]) == 0
    assert len(pikepdf.open(tmp_path / "out.pdf").pages) == size


@pytest.mark.parametrize(("kind", "what"), [("one-sheet", "sheet"), ("one-spread", "spread"), ("cover", "wrap")])
def test_what_is_laid_flat_on_the_working_drawing(kind: str, what: str) -> None:
    flat = piece_flat(start(kind, "Hedge"))
    assert flat.what == what
    assert flat.trim.width == pytest.approx(sum(panel.width for _, panel in flat.panels) + 14 * MM * (what == "wrap"))


# Kinds of one's own ---------------------------------------------------------------------------------


def test_a_job_is_kept_as_a_kind_and_another_started_from_it(demo: Path, tmp_path: Path) -> None:
    job = read(demo / "graftwood.halffold")
    kept = keep_kind(job, demo, "Quarterly Number")
    assert [kind.name for kind in own_kinds()] == ["Quarterly number"]
    made = read(begin("quarterly-number", "Hedge Layer", tmp_path / "hedge", ["issue=No. 1"]))
    assert (made.title, made.issue, made.season) == ("Hedge Layer", "No. 1", "")
    assert (made.masters, made.roles, made.inks) == (job.masters, job.roles, job.inks)
    assert not any(page.blocks for page in made.pages if not page.standing)
    assert all((tmp_path / "hedge" / "pictures" / picture.file).is_file() for picture in made.pictures)
    keep_kind(start("book", "Other"), tmp_path, "quarterly number")
    assert read(kept.folder / "quarterly-number.halffold").kind == "book", "one of the same name gives way"
    drop_kind("Quarterly number")
    assert own_kinds() == []


def test_a_kind_may_not_hide_one_of_the_program(demo: Path, tmp_path: Path) -> None:
    job: Publication = start("book", "Hedge")
    for name, why in (("Photo book", "one of the kinds"), (" - ", "Give the kind a name")):
        with pytest.raises(Problem, match=why):
            keep_kind(job, tmp_path, name)
    with pytest.raises(Problem, match="There is no kind “hedge”"):
        begin("hedge", "Hedge", tmp_path / "hedge")
    assert not (tmp_path / "hedge").exists()


def test_keeping_from_the_command_line(demo: Path, tmp_path: Path) -> None:
    assert main(["keep", str(demo), "Quarterly"]) == 0
    assert own_kinds()[0].picture.is_file()
    assert main(["new", "quarterly", str(tmp_path / "next")]) == 0
    assert main(["keep", str(demo), "Quarterly", "--drop"]) == 0
    assert main(["new", "quarterly", str(tmp_path / "more")]) == 2
