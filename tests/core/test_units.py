"""The job's own unit everywhere: what is typed in it comes back in it, and what is worked is told in it."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.measure.entry import evaluate
from half_fold.core.measure.length import format_length, length
from half_fold.core.measure.problem import Problem
from half_fold.core.numbers.blocks import block_numbers
from half_fold.core.paths.all import found, set_paths
from half_fold.core.plan.inserts import INSERT, add_insert
from half_fold.core.plan.own_kinds import begin
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Publication
from half_fold.core.store.codec import FORMAT, decode, encode
from half_fold.core.store.job import open_job
from half_fold.core.store.upgrade import upgraded

UNITS = ("mm", "in", "pt")
SHOWN = {"mm": "mm", "in": "in", "pt": "pt", "cm": "cm", "q": "q", "pica": "pica", "um": "µm"}


def _laid(unit: str) -> tuple[Publication, str]:
    job = set_paths(start("magazine", "Leaf"), ["page.1.claim=panel over 1-2 x 1-2"])
    job = replace(job, brief=replace(job.brief, unit=unit))
    return job, job.pages[0].blocks[0].id


@pytest.mark.parametrize("unit", [*SHOWN, "px@300"])
def test_rows_of_a_block_are_in_the_unit_of_the_job(unit: str) -> None:
    job, name = _laid(unit)
    lengths = [n for n in block_numbers(job, name) if n.unit in {*SHOWN.values(), "px"}]
    assert {n.unit for n in lengths} == {SHOWN.get(unit, "px")}
    wide = next(n for n in lengths if n.name == "Width")
    assert length(wide.typed, unit).mm == pytest.approx(length(f"{wide.value!r}", unit).mm, abs=0.003)


@pytest.mark.parametrize(("unit", "typed", "back"), [
    ("in", "8", "8in"), ("in", "8in", "8in"), ("in", "7.3333", "7.3333in"), ("mm", "8in", "203.2mm"),
    ("pt", "100", "100pt"), ("cm", "4", "4cm"), ("px@300", "900", "900px@300"), ("px@300", "900px", "900px@300"),
])  # fmt: skip
@pytest.mark.parametrize("key", ["width", "height", "across"])
def test_a_size_comes_back_as_it_was_typed(unit: str, typed: str, back: str, key: str) -> None:
    job, name = _laid(unit)
    job = set_paths(job, [f"block.{name}.{key}={typed}"])
    (told,) = found(job, f"block.{name}.{key}")
    assert told.value == back
    assert set_paths(job, [f"block.{name}.{key}={told.value}"]) is job


@pytest.mark.parametrize("unit", UNITS)
@pytest.mark.parametrize("kind", ["card", "tip-in", "gatefold"])
def test_a_new_insert_is_told_in_the_unit_of_the_job(unit: str, kind: str) -> None:
    job, _ = _laid(unit)
    made = add_insert(job, 2, kind)
    for each in INSERT:
        if each.kind == "length" and each.applies(made.inserts[0]):
            for words in filter(None, each.shown(made, made.inserts[0]).split(", ")):
                assert words.endswith(unit) or words == each.none, (each.key, words)


def test_what_was_typed_in_another_unit_is_shown_in_the_job_s() -> None:
    job = set_paths(start("magazine", "Leaf"), ["unit=in", "bleed=3mm", "safe=1/4in"])
    shown = {each.key: each.shown(job, job) for each in __import__(
        "half_fold.core.brief.properties", fromlist=["BRIEF"]).BRIEF if each.key in ("bleed", "safe")}  # fmt: skip
    assert shown == {"bleed": "0.1181 in", "safe": "1/4in"}


# Pixels ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("typed", ["4px", "4 px", "4", "4px@300ppi", "2px + 2px", "8px/2", "(4)px"])
def test_pixels_are_understood_where_the_job_counts_in_them(typed: str) -> None:
    assert evaluate(typed, "px@300").value * (1 if evaluate(typed, "px@300").is_length else 72 / 300) == pytest.approx(
        0.96
    )
    kept = length(typed, "px@300")
    assert length(kept.typed).pt == pytest.approx(0.96)  # what is kept says itself what it is


def test_pixels_elsewhere_are_asked_how_many_go_to_the_inch() -> None:
    with pytest.raises(Problem, match="4px@300ppi"):
        length("4px", "mm")
    assert format_length(7.2, "px@100") == "10 px"


def test_a_screen_cover_counts_in_pixels(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = begin("screen-cover", "Leaf", tmp_path / "leaf", ["trim=1600x2560px@300ppi"])
    assert main(["set", str(file), "unit=px", "cover.front.claim=panel over 1-2 x 1-2"]) == 0
    name = open_job(file, to_write=False).publication.cover.front[-1].id
    assert main(["set", str(file), f"block.{name}.width=400px", f"block.{name}.height=200"]) == 0
    capsys.readouterr()
    assert main(["get", str(file), f"block.{name}.width"]) == 0
    assert capsys.readouterr().out.strip().endswith("=400px@300")
    assert main(["get", str(file), "unit"]) == 0
    assert capsys.readouterr().out.strip() == "brief.unit=px"
    assert main(["set", str(file), "trim=800x1280px@150ppi"]) == 0
    assert open_job(file, to_write=False).publication.brief.unit == "px@150"
    assert main(["numbers", str(file)]) == 0 and main(["check", str(file)]) == 0


def test_an_older_job_in_pixels_is_brought_up() -> None:
    job = set_paths(start("screen-cover", "Leaf"), ["trim=800x1280px@150ppi", "unit=px"])
    now = encode(job)
    older = now.replace(b'"px@150"', b'"px"').replace(b'"format": %d' % FORMAT, b'"format": 15')
    assert b'"px"' in older and decode(older, "leaf") == job
    assert upgraded(b"{}", 16, 16) == b"{}"
