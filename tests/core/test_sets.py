"""Sets: names for things wherever they lie, that are hidden, locked and left out of outputs together."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_path, set_paths
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.press.outputs import format_output, make_output, output_named
from half_fold.core.publication.records import HoldsDisplay, HoldsPanel, Paragraph, Publication, Run
from half_fold.core.publication.surgery import block_named, with_page
from half_fold.core.spread.edits.grouping import group
from half_fold.core.spread.edits.sets import leave_out_sets, out_of_sight, things_of, with_new_in_set
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import decode, encode
from tests.blocks import block_over
from tests.conftest import judge


def _words(text: str) -> HoldsDisplay:
    return HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text=text),)),))


def _job() -> Publication:
    """Words in two languages on two pages, and a panel of neither."""
    job = start("magazine", "Plums")
    for at, (english, german) in enumerate((("Frost", "Reif"), ("Pear", "Birne"))):
        things = (
            block_over(f"e{at}", _words(english), (0, 5), (0, 1)),
            block_over(f"g{at}", _words(german), (0, 5), (2, 3)),
            block_over(f"p{at}", HoldsPanel(), (0, 5), (4, 5)),
        )
        job = with_page(job, replace(job.pages[at], things=things))
    return set_paths(job, ["set.English=e0 e1", "set.German=g0, g1"])


def _said(job: Publication) -> set[str]:
    spreads = (Setter().spread(job, spread) for spread in spreads_of(job)[:2])
    return {"".join(m.texts) for each in spreads for m in leaves(each.marks) if isinstance(m, Glyphs)}


def test_things_are_put_into_sets_and_out_of_them_by_path() -> None:
    job = _job()
    assert [thing.id for thing in things_of(job, "German")] == ["g0", "g1"]
    assert found(job, "block.g0.set")[0].value == "German"
    moved = set_paths(job, ["block.g1.set=English", "block.e1.set="])
    assert [thing.id for thing in things_of(moved, "English")] == ["e0", "g1"]
    assert decode(encode(moved), "job") == moved
    with pytest.raises(Problem, match="French"):
        set_path(job, "block.g1.set", "French")


def test_what_is_hidden_is_out_of_sight_with_all_in_its_groups_and_prints() -> None:
    job, own = group(_job(), ["p0", "e0"])
    job = set_paths(job, [f"group.{own}.set=German", "set.German.hidden=yes"])
    assert out_of_sight(job) == {own, "p0", "e0", "g0", "g1"}
    assert {"Reif", "Frost"} <= _said(job)
    assert out_of_sight(set_path(job, "set.German.hidden", "no")) == frozenset()


def test_what_is_in_a_locked_set_keeps_what_it_is() -> None:
    job = set_path(_job(), "set.German.locked", "yes")
    for path, typed in (("scaled", "120 %"), ("order", "front"), ("across", "12mm")):
        with pytest.raises(Problem, match="set “German”, which is locked"):
            set_path(job, f"block.g0.{path}", typed)
    assert set_path(set_path(job, "set.German.locked", "no"), "block.g0.scaled", "120 %") != job


def test_a_set_is_renamed_wherever_it_is_named_and_taken_away_leaves_its_things() -> None:
    job = set_paths(_job(), ["output.Sent=pages, without German", "set.German.name=Deutsch"])
    assert output_named(job, "Sent").without == ("Deutsch",) and block_named(job, "g0").set == "Deutsch"
    gone = set_path(job, "set.Deutsch", "")
    assert output_named(gone, "Sent").without == () and block_named(gone, "g0").set == ""
    assert len(gone.pages[0].blocks) == 3 and [each.name for each in gone.sets] == ["English"]
    assert decode(encode(gone), "job") == gone


@pytest.mark.parametrize(
    "given", ["set.=x", "set.A.b=empty", "output.Sent=pages, without French", "set.German.name=English"]
)
def test_what_cannot_be_of_a_set_is_said(given: str) -> None:
    with pytest.raises(Problem):
        set_paths(_job(), [given])


def test_two_languages_are_two_sets_and_two_outputs(tmp_path: Path) -> None:
    """The outside judge reads each language in its own file alone."""
    job = set_paths(_job(), ["output.In English=1-2, without German", "output.Auf Deutsch=1-2, without English"])
    assert format_output(output_named(job, "In English")) == "1-2, without German"
    for name, there, not_there in (("In English", "Frost", "Reif"), ("Auf Deutsch", "Birne", "Pear")):
        out = tmp_path / f"{name}.pdf"
        make_output(job, tmp_path, out, output_named(job, name))
        read = judge("pdftotext", str(out), "-")
        assert there in read and not_there not in read
    assert leave_out_sets(job, ()) is job
    assert _said(leave_out_sets(job, ("German",))) & {"Reif", "Birne"} == set()


def test_what_is_new_falls_into_the_open_set_and_what_is_in_one_stays() -> None:
    before = _job()
    made = set_paths(before, ["block.e0.copied=10mm 10mm", "page.3.claim=panel over 1-2 x 3-4"])
    after = with_new_in_set(before, made, "German")
    copy = next(block for block in after.pages[0].blocks if block.id not in {b.id for b in before.pages[0].blocks})
    assert copy.set == "English", "a copy is in the set of what it was made of"
    assert after.pages[2].blocks[0].set == "German"
    grouped, own = group(before, ["p0", "e0"])
    after = with_new_in_set(before, grouped, "German")
    assert [thing.set for thing in after.pages[0].things if thing.id == own] == ["German"]
    assert block_named(after, "p0").set == ""
    assert with_new_in_set(before, made, "gone") is made
