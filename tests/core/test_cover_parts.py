"""The list of a cover's parts: each ticks itself when it is laid, and no sooner."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.brief.spine import spine, spine_tolerance
from half_fold.core.cover.over_folds import over_folds, over_folds_number
from half_fold.core.cover.parts import cover_parts, parts_number
from half_fold.core.measure.entry import MM
from half_fold.core.paths.all import set_paths
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import (
    Block,
    Form,
    Ground,
    HoldsBarcode,
    HoldsDisplay,
    Paragraph,
    Publication,
    Run,
    SpinePiece,
)
from half_fold.core.store.job import open_job
from tests.blocks import block_over


def _there(job: Publication) -> dict[str, str]:
    return {part.name: part.where for part in cover_parts(job)}


def _words(name: str, said: str, ground: Ground | None = None) -> Block:
    return block_over(name, HoldsDisplay(paragraphs=(Paragraph(role="body", runs=(Run(text=said),)),), ground=ground))


def _with(job: Publication, **sides: Block) -> Publication:
    cover = job.cover
    for side, block in sides.items():
        cover = replace(cover, **{side: (*getattr(cover, side), block)})
    return replace(job, cover=cover)


@pytest.fixture
def book() -> Publication:
    job = set_paths(
        start("book", "The Pruning Year"), ["plan.pages=200", "brief.author=Bram Quillon", "brief.flap=80mm"]
    )
    return replace(job, cover=replace(job.cover, front=(), back=(), spine=""))


def test_a_bare_cover_lacks_everything_and_each_part_ticks_itself(book: Publication) -> None:
    assert set(_there(book).values()) == {""} and parts_number(book).value == 0  # type: ignore[union-attr]
    job = _with(book, front=_words("x1", "The  PRUNING year"))
    assert _there(job)["Title"] == "front" and _there(job)["Author"] == ""
    job = replace(job, cover=replace(job.cover, pieces=(SpinePiece(words="{author}"), SpinePiece(picture="p"))))
    assert _there(job)["Author"] == "spine" and _there(job)["Publisher"] == "spine"
    job = _with(
        job, front_flap=_words("x2", "Long evenings and a sharp knife. " * 8), back=_words("x3", "“A fine book.”")
    )
    assert _there(job)["Blurb"] == "front flap" and _there(job)["Quotations"] == "back"
    job = _with(job, back=block_over("x4", HoldsBarcode(number="0000000000000")))
    assert _there(job)["Code"] == ""
    job = _with(job, back=block_over("x5", HoldsBarcode(number="2901234567896")))
    assert _there(job)["Code"] == "back"
    job = _with(job, front=_words("x6", "Winner", Ground(ink="straw", form=Form(kind="burst"))))
    assert _there(job)["Award or puff"] == "front"
    job = _with(set_paths(job, ["brief.price=6d"]), back=_words("x7", "{price}"))
    assert _there(job)["Price"] == "back"
    number = parts_number(job)
    assert number is not None and number.value == len(cover_parts(job)) - 1 and "lacking: picture" in number.how


def test_few_words_are_no_blurb_and_flaps_that_are_gone_count_no_more(book: Publication) -> None:
    job = _with(book, front_flap=_words("x2", "Long evenings. " * 20))
    assert _there(job)["Blurb"] and not _there(set_paths(job, ["brief.flap=none"]))["Blurb"]
    assert not _there(_with(book, back=_words("x2", "Long evenings. " * 5)))["Blurb"]


def test_a_self_cover_job_has_no_parts(magazine: Publication) -> None:
    job = replace(magazine, brief=replace(magazine.brief, cover_paper="none", binding="saddle"))
    assert cover_parts(job) == [] and parts_number(job) is None


def test_the_command_line_lists_them(demo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["parts", str(demo)]) == 0
    said = capsys.readouterr().out
    assert "Title: front" in said and "Code: front" in said


def test_what_runs_over_a_fold_is_told_at_both_ends_of_the_tolerance(demo_source: Path) -> None:
    job = open_job(demo_source).publication
    width, tolerance = spine(job), spine_tolerance(job)
    assert width is not None and tolerance is not None
    assert [each.fold for each in over_folds(job)] == pytest.approx(
        [width.value * MM]
    )  # from the far fold, over the spine
    bare = replace(job, cover=replace(job.cover, front=job.cover.front[3:]))
    assert over_folds(bare) == [] and over_folds_number(bare) is None
    picture = job.cover.front[0]
    over = replace(picture, place=replace(picture.place, left=Stop(kind="bleed", facing=True)))
    job = replace(job, cover=replace(job.cover, front=(over, *job.cover.front[1:])))
    found = over_folds(job)
    assert [each.fold for each in found] == pytest.approx([0.0, width.value * MM])
    for each in found:
        assert (each.most - each.least) / MM == pytest.approx(tolerance.value) and each.what
    number = over_folds_number(job)
    assert number is not None and "to either side" in number.how
    wide = over_folds(set_paths(job, ["brief.spine=30mm"]))
    assert (wide[0].most - wide[0].least) / MM == pytest.approx(1.5)
