"""Every rule has a job that trips it, finds nothing in the demo, and its fix mends what it found."""

import ast
import importlib
import inspect
import json
import pkgutil
import shutil
from pathlib import Path

import pytest

from half_fold.cli import main
from half_fold.core import checks
from half_fold.core.checks.context import GivenUp
from half_fold.core.checks.finding import CONSEQUENCES, summary, would_stop
from half_fold.core.checks.run import RULES, check
from half_fold.core.paths.all import set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsBarcode, HoldsStory, Publication
from half_fold.core.publication.surgery import cover_blocks
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import encode
from half_fold.core.store.job import open_job, read
from tests.trips import ARTICLE, TRIPS, Trip

SETTER = Setter()


def test_the_demo_has_no_finding(demo: Path) -> None:
    assert check(read(demo / "graftwood.halffold"), SETTER, demo / "pictures") == []


@pytest.mark.parametrize("kind", ["magazine", "book", "catalogue", "photo-book"])
def test_a_new_job_has_no_finding(kind: str) -> None:
    assert check(start(kind, "New"), SETTER, None) == []


@pytest.fixture(scope="module")
def shared(demo_source: Path) -> Publication:
    """The demo read once, so that what one check has found out of it serves the next."""
    return read(demo_source / "graftwood.halffold")


def _leaves_the_folder_alone(trip: Trip) -> bool:
    return "_pictures" in inspect.signature(trip).parameters


@pytest.mark.parametrize("rule", TRIPS)
def test_each_rule_is_tripped_and_its_fix_mends_it(
    rule: str, shared: Publication, demo_source: Path, tmp_path: Path
) -> None:
    trip, stops, fixed = TRIPS[rule]
    folder = demo_source
    if not _leaves_the_folder_alone(trip):
        folder = Path(shutil.copytree(demo_source, tmp_path / "demo"))
    job = trip(shared, folder / "pictures")
    found = [f for f in check(job, SETTER, folder / "pictures") if f.rule == rule]
    assert found, rule
    finding = found[0]
    assert finding.stops_press == stops and (finding.fix is not None) == fixed
    assert finding.consequence in CONSEQUENCES and finding.message and finding.why.endswith(".")
    assert (finding.page == 0 and not finding.side) == (finding.where == "whole job")
    if finding.fix is not None:
        before = encode(job)
        mended = finding.fix.edit(job)
        assert encode(job) == before and mended is not job
        left = [f for f in check(mended, SETTER, folder / "pictures") if (f.rule, f.block) == (rule, finding.block)]
        assert len(left) < len(found)
        assert not would_stop(left)


def test_every_rule_of_the_modules_is_registered() -> None:
    names = set()
    for each in pkgutil.iter_modules(checks.__path__):
        module = importlib.import_module(f"{checks.__name__}.{each.name}")
        if not each.name.endswith("_rules"):
            continue
        tree = ast.parse(inspect.getsource(module))
        names |= {
            node.name
            for node in tree.body
            if isinstance(node, ast.FunctionDef)
            and node.args.args
            and node.args.args[0].arg == "context"
            and not node.name.startswith("_")
        }
    assert names == {rule.__name__ for rule in RULES}


@pytest.mark.parametrize(
    ("angle", "larger", "bare"),
    [("-6", 0, ["left", "upper", "lower"]), ("180", 0, []), ("90", 0, ["upper", "lower"]), ("-6", 40, [])],
)
def test_a_turned_picture_bleeds_where_it_covers_the_bleed(
    demo: Path, angle: str, larger: int, bare: list[str]
) -> None:
    job = read(demo / "graftwood.halffold")
    block = job.pages[5].blocks[0].id
    sizes = {"width": 223 + 2 * larger, "height": 291 + 2 * larger, "across": -3 - larger, "down": -3 - larger}
    for key, size in sizes.items():
        job = set_path(job, f"block.{block}.{key}", f"{size}mm")
    job = set_path(job, f"block.{block}.angle", angle)
    found = [f for f in check(job, SETTER, None) if f.rule == "short of the bleed" and f.block == block]
    assert [f.message for f in found] == [f"Turned, it leaves paper bare at its {edge} edge" for edge in bare]


@pytest.mark.parametrize(("angles", "lies"), [((0, 0), False), ((7, 0), True), ((2, 2), False), ((0, -7), True)])
def test_turned_words_are_found_on_others(demo: Path, angles: tuple[float, float], lies: bool) -> None:
    """Two columns side by side: one turned far runs into the other, both turned a little do not."""
    job = read(demo / "graftwood.halffold")
    first, second = (block.id for block in job.pages[ARTICLE - 1].blocks if isinstance(block.holds, HoldsStory))
    for block, angle in zip((first, second), angles, strict=True):
        job = set_path(job, f"block.{block}.angle", str(angle))
    found = [f for f in check(job, SETTER, None) if f.rule == "words on words" and f.block in (first, second)]
    assert bool(found) == lies


def test_a_barcode_on_its_end_is_judged_by_where_it_lies(demo: Path) -> None:
    """Turned about its middle by a quarter, its long side comes within 5 mm of an edge that its block keeps off."""
    job = read(demo / "graftwood.halffold")
    code = next(block for block in cover_blocks(job) if isinstance(block.holds, HoldsBarcode))
    job = set_path(job, f"block.{code.id}.angle", "90")
    job = set_path(job, f"block.{code.id}.down", "270mm")
    found = [f for f in check(job, SETTER, None) if f.rule == "barcode" and f.block == code.id]
    assert any("from the edge" in f.message for f in found)


def test_overset_goes_on_over_free_pages_and_leaves_the_rest(demo: Path) -> None:
    job = TRIPS["overset"][0](read(demo / "graftwood.halffold"), demo / "pictures")
    finding = next(f for f in check(job, SETTER, None) if f.rule == "overset")
    assert finding.fix is not None
    mended = finding.fix.edit(job)
    changed = [i + 1 for i, (a, b) in enumerate(zip(job.pages, mended.pages, strict=False)) if a != b]
    assert len(mended.pages) > len(job.pages) or changed, "the demo has no free page but those added"
    flow = SETTER.threads.flow(mended, job.stories[0].id)
    assert not flow.over_lines and flow.columns[-1].page > 7


def test_a_size_is_solved_by_setting(demo: Path) -> None:
    job = TRIPS["overset words"][0](read(demo / "graftwood.halffold"), demo / "pictures")
    finding = next(f for f in check(job, SETTER, None) if f.rule == "overset words")
    assert finding.fix is not None
    size = float(finding.fix.words.removeprefix("Set it at ").removesuffix(" pt"))
    mended = finding.fix.edit(job)
    assert not [f for f in check(mended, SETTER, None) if f.rule == "overset words"]
    from half_fold.core.checks.text_rules import _at_size

    larger = _at_size(job, finding.block, size + 0.5)
    assert [f for f in check(larger, SETTER, None) if f.rule == "overset words"]


def test_on_the_command_line(demo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["check", str(demo)]) == 0
    assert capsys.readouterr().out == "Nothing found.\n"
    job = open_job(demo)
    job.save(TRIPS["short of the bleed"][0](job.publication, job.pictures))
    job.close()
    assert main(["check", str(demo)]) == 1
    said = capsys.readouterr().out
    assert said.startswith("Looks like an accident\n") and "page 6" in said and "would stop the press" in said
    assert main(["check", str(demo), "--json"]) == 1
    rows = json.loads(capsys.readouterr().out)
    assert rows == [
        {
            "rule": "short of the bleed",
            "severity": "stops the press",
            "where": "page 6",
            "fix": "Reach the bleed",
            "message": "Its upper edge is 3 mm short of the bleed",
            "why": "Where the cut wanders by a hair, white paper shows along the edge.",
        }
    ]


def test_fixes_are_taken_by_their_words_or_all_of_them(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Arabic in an English job, in a type sheet of Latin faces: what stands in is offered, taken, and all is whole."""
    words = tmp_path / "ar.md"
    words.write_text("# البستان في الشتاء\n\nيقلم البستاني ٣٢٠ شجرة.\n")
    job = str(tmp_path / "garden")
    assert main(["new", "magazine", job]) == 0
    assert main(["place", job, "--text", str(words)]) == 0
    assert main(["check", job]) == 1 and "[Set Arabic in Amiri]" in capsys.readouterr().out
    before = read(tmp_path / "garden" / "garden.halffold")
    assert main(["check", job, "--fix", "Set it in stone"]) == 2
    told = capsys.readouterr().err
    assert told.startswith("half-fold: Nothing found offers “Set it in stone”; there are “Set Arabic in Amiri”")
    assert read(tmp_path / "garden" / "garden.halffold") == before, "nothing is changed by a fix that is not offered"
    assert main(["check", job, "--fix", "set arabic in amiri"]) == 0
    assert "[Set Arabic in Amiri]" not in capsys.readouterr().out
    assert main(["check", job, "--fix", "all"]) == 2 and "there is no fix to take" in capsys.readouterr().err


def test_summaries() -> None:
    assert summary([]) == "nothing found"


@pytest.mark.parametrize("asked", [0, 1, 20, 60])
def test_a_check_that_nobody_waits_for_is_given_up(demo_source: Path, asked: int) -> None:
    """However far it has come; the same setter then finds what a fresh one does."""
    job, left, setter = read(demo_source / "graftwood.halffold"), [asked], Setter()

    def still_wanted() -> bool:
        left[0] -= 1
        return left[0] >= 0

    with pytest.raises(GivenUp):
        check(job, setter, demo_source / "pictures", still_wanted)
    said = [(f.rule, f.message, f.page) for f in check(job, setter, demo_source / "pictures")]
    assert said == [(f.rule, f.message, f.page) for f in check(job, Setter(), demo_source / "pictures")]
