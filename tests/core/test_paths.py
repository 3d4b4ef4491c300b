"""Everything that can be set has a path: it reads as it is typed, and typing that changes nothing."""

import json
import math
from pathlib import Path

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.brief.bindings import bindings
from half_fold.core.brief.printers import shipped
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import leaves
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_path, set_paths
from half_fold.core.paths.all import settings as every_setting
from half_fold.core.paths.setting import Setting
from half_fold.core.plan.inserts import add_insert
from half_fold.core.plan.sections import start_section
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.kinds import NO_NUMBER
from half_fold.core.publication.records import (
    Edge,
    Form,
    Ground,
    Group,
    HoldsBarcode,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsRule,
    Paragraph,
    Publication,
    Run,
    Wrap,
)
from half_fold.core.publication.surgery import block_named, every_thing_of, with_page
from half_fold.core.spread.edits.grouping import delete_things, restack
from half_fold.core.spread.settable.properties import BLOCK, block_properties
from half_fold.core.spread.settable.samples import SAMPLES, sample
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.hits import block_at
from half_fold.core.spread.setting.wraps import obstacles
from half_fold.core.spread.where.frames import block_box, hull_of
from half_fold.core.spread.where.reaching import reach
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.job import read
from tests.blocks import block_over

WORDS = (Paragraph(role="headline", runs=(Run(text="Hedges"),)),)
HELD = {
    "panel": HoldsPanel(ink="straw", edge=Edge()),
    "rule": HoldsRule(),
    "puff": HoldsDisplay(paragraphs=WORDS, ground=Ground(form=Form(kind="burst"), edge=Edge()), lies="arched up"),
    "words": HoldsDisplay(paragraphs=WORDS),
    "code": HoldsBarcode(number=NO_NUMBER),
    "free": HoldsNothing(),
}


def _job() -> Publication:
    job = add_insert(start("magazine", "Paths"), 16, "card")
    page = job.pages[0]
    return with_page(job, replace(page, things=tuple(block_over(name, holds) for name, holds in HELD.items())))


def _unlocked(job: Publication) -> Publication:
    """What is locked lets nothing be set of it, which is no matter of paths."""
    for thing in list(every_thing_of(job)):
        if thing.locked:
            job = set_path(job, f"{'group' if isinstance(thing, Group) else 'block'}.{thing.id}.locked", "no")
    return job


def _some(every: list[Setting]) -> list[Setting]:
    """Of each thing's values the first thing's own: the thousands of others are set the same way."""
    alike: dict[tuple[str, str], list[Setting]] = {}
    for each in every:
        head, _, rest = each.path.partition(".")
        alike.setdefault((head, rest.partition(".")[2] or rest), []).append(each)
    return [some[0] for some in alike.values()]


@pytest.mark.parametrize("which", ["demo", "made"])
def test_what_is_read_can_be_typed_and_changes_nothing(which: str, demo_source: Path) -> None:
    job = _unlocked(read(demo_source / "graftwood.halffold")) if which == "demo" else _job()
    before = encode(job)
    every = list(every_setting(job))
    assert len({each.path for each in every}) == len(every) > 400
    for each in _some(every):
        again = each.take(each.value) if each.value or not each.path.endswith((".number", ".title", ".name")) else job
        (now,) = found(again, each.path)
        assert now.value == each.value, each.path
        assert encode(decode(encode(again), each.path)) == encode(again)
        assert set_path(job, each.path, each.value) is job, each.path
    assert encode(job) == before


@pytest.mark.parametrize("binding", [each.name for each in bindings()])
def test_whatever_the_binding_all_that_is_read_can_be_typed(binding: str) -> None:
    """The brief, the plan and the printer's sheet of jobs bound in every way, each value and each choice."""
    job = set_values(start("book", "Ways"), [f"binding={binding}", f"printer={shipped()[0].name}"])
    job = start_section(job, 1, "Part one")
    for each in every_setting(job):
        if each.path.partition(".")[0] in ("brief", "plan", "printer", "section", "page", "cover", "spine"):
            assert set_path(job, each.path, each.value) is job, each.path
            assert encode(each.take(each.value)) == encode(job), each.path
            for value, _ in each.choices:
                made = each.take(value)
                assert next(now.value for now in found(made, each.path)) == value, (each.path, value)


def test_words_may_say_none_and_what_may_be_left_out_is_left_out_by_it() -> None:
    job = set_paths(_job(), ["slogan=None", "spine.words=none", "press-date=2027-03-14", "quantity=2 500", "flap=90mm"])
    assert (job.slogan, job.cover.spine, job.brief.quantity) == ("None", "none", 2500)
    job = set_paths(job, ["slogan=", "press-date=not said", "quantity=", "flap=none", "fold-loss=4mm"])
    assert (job.slogan, job.brief.press_date, job.brief.quantity, job.brief.flap) == ("", "", 0, None)
    assert set_path(job, "fold-loss", "none").brief.fold_loss is None
    with pytest.raises(Problem, match="needs a title"):
        set_path(job, "title", " ")


def test_pixels_are_a_unit_of_what_is_looked_at_on_a_screen() -> None:
    job = set_values(start("book", "Seen"), ["binding=screen"])
    assert set_path(job, "unit", "px").brief.unit == "px@300"
    with pytest.raises(Problem, match="no unit"):
        set_path(_job(), "unit", "px")


def test_a_printers_sheet_is_set_by_its_paths_and_so_is_what_it_asks_for() -> None:
    with pytest.raises(Problem, match=r"no “printer\.bleed”"):
        set_path(_job(), "printer.bleed", "5mm")
    job = set_values(_job(), [f"printer={shipped()[0].name}"])
    asked = set_paths(job, ["printer.bleed=5mm", "printer.ink_limit=280", "printer.spine_rounding=none"])
    assert asked.printer is not None and (asked.brief.bleed.mm, asked.printer.ink_limit) == (5.0, 280)
    assert asked.brief.spine_rounding == "none" and set_path(asked, "printer.ink_limit", "").printer.ink_limit == 0
    for path, typed, said in (
        ("bleed", "80mm", "up to 50 mm"),
        ("ink_limit", "900", "from 0 to 400"),
        ("barcode", "x", "barcode"),
    ):
        with pytest.raises(Problem, match=said):
            set_path(job, f"printer.{path}", typed)


def test_how_far_a_page_is_and_what_is_sold_of_it_have_paths() -> None:
    job = set_paths(
        _job(), ["page.4.state=proofed", "page.6.advert=spread", "page.2.master=none", "insert.insert1.after=8"]
    )
    assert (job.pages[3].state, job.pages[5].advert, job.pages[6].advert, job.pages[1].master) == (
        "proofed", "spread", "spread", ""
    )  # fmt: skip
    assert found(job, "insert.insert1.after")[0].value == "8"
    assert [words for value, words in found(job, "page.2.master")[0].choices if value == ""] == ["no master"]


def test_every_choice_can_be_chosen_by_its_value_and_by_its_words() -> None:
    job = _job()
    for each in every_setting(job):
        for value, words in each.choices:
            if each.path.endswith((".bound", ".master")) or ".furniture." in each.path:
                continue
            assert found(set_path(job, each.path, value), each.path)[0].value == value, each.path
            if each.path.startswith("block."):
                assert found(set_path(job, each.path, words), each.path)[0].value == value, (each.path, words)


@pytest.mark.parametrize(
    ("path", "typed", "said"),
    [
        ("block.panel.opacity", "101", "from 0 to 100"),
        ("block.panel.opacity", "dim", "no share of opacity"),
        ("block.panel.corner", "-3mm", "cannot be"),
        ("block.panel.edge.weight", "200pt", "from 0 pt to 100 pt"),
        ("block.panel.edge.ink", "puce", "no stroke's ink"),
        ("block.panel.blend", "dissolve", "multiply"),
        ("block.panel.turn", "3", "block.panel.turn"),
        ("block.code.number", "12", "“12”"),
        ("ink.straw.yellow", "130", "share of yellow"),
        ("role.body.size", "0pt", "cannot be"),
        ("page.9999.runs", "x", "no “page.9999.runs”"),
        ("nonsense", "1", "no “nonsense”"),
    ],
)
def test_what_cannot_be_is_said(path: str, typed: str, said: str) -> None:
    with pytest.raises(Problem, match=said):
        set_path(_job(), path, typed)


def test_every_kind_of_thing_a_block_holds_can_be_set() -> None:
    job = set_paths(
        _job(),
        [
            "block.panel.shape=ellipse",
            "block.panel.opacity=40",
            "block.panel.blend=multiply",
            "block.panel.edge.dashes=dotted",
            "block.panel.edge.weight=2pt",
            "block.panel.ink=none",
            "block.words.ink=loden",
            "block.words.size=24",
            "block.words.inset=2mm",
            "block.free.wrap=ellipse",
            "block.free.wrap.offset=4mm",
            "block.code.lines={issue} / A price",
            "ink.straw.yellow=40",
            "page.3.runs=The orchard book",
            "cover.tint=60",
            "spine.words=A spine",
            "insert.insert1.perforations=40mm; 60mm",
            "master.three columns.columns=5",
        ],
    )
    panel = block_named(job, "panel")
    assert isinstance(panel.holds, HoldsPanel) and panel.holds.edge is not None
    assert (panel.opacity, panel.blend, panel.holds.form.kind, panel.holds.ink) == (40.0, "multiply", "ellipse", "")
    assert (panel.holds.edge.dashes, panel.holds.edge.weight.pt) == ("dotted", 2.0)
    assert found(job, "block.words.size")[0].value == "24pt"
    assert [each.value for each in found(job, "insert.insert1.perforations")] == ["40mm; 60mm"]
    assert decode(encode(job), "x") == job


@settings(max_examples=60, deadline=None)
@given(st.sampled_from([each.path for each in every_setting(_job())]), st.text(max_size=12))
def test_whatever_is_typed_is_taken_or_said(path: str, typed: str) -> None:
    job = _job()
    try:
        made = set_path(job, path, typed)
    except Problem as problem:
        assert str(problem).endswith(".")
        return
    assert encode(decode(encode(made), "x")) == encode(made)


@pytest.mark.parametrize("cover", [False, True])
def test_size_and_place_are_typed_to_the_micrometre(cover: bool) -> None:
    job = _job()
    if cover:
        job = replace(job, cover=replace(job.cover, front=(block_over("panel2", HELD["panel"], of=(6, 12)),)))
    name = "panel2" if cover else "panel"
    wanted = {"width": "81.234mm", "height": "2.5in", "across": "17.5mm", "down": "31.007mm"}
    for key, typed in wanted.items():
        job = set_path(job, f"block.{name}.{key}", typed)
    told = {key: found(job, f"block.{name}.{key}")[0].value for key in wanted}
    assert told == {"width": "81.234mm", "height": "63.5mm", "across": "17.5mm", "down": "31.007mm"}
    with pytest.raises(Problem, match="no room"):
        set_path(job, f"block.{name}.width", "-3mm")


@given(st.floats(-360, 360), st.floats(-100, 600), st.floats(-100, 800))
@settings(max_examples=60, deadline=None)
def test_a_turned_block_is_met_where_its_turned_corners_say(angle: float, x: float, y: float) -> None:
    job = set_path(_job(), "block.free.angle", f"{angle:.3f}")
    job = with_page(job, replace(job.pages[0], things=(block_named(job, "free"),)))
    box, spread = block_box(job, 1, block_named(job, "free")), spread_of(job, 1)
    hull = hull_of(job, 1, block_named(job, "free"))
    by = math.radians(-round(angle, 3))
    middle_x, middle_y = box.centre
    back_x = middle_x + (x - middle_x) * math.cos(by) - (y - middle_y) * math.sin(by)
    back_y = middle_y + (x - middle_x) * math.sin(by) + (y - middle_y) * math.cos(by)
    inside = box.grown(-1e-6).holds(back_x, back_y)
    assume(inside == box.grown(1e-6).holds(back_x, back_y))
    assert (block_at(job, spread, x, y) == "free") == inside
    assert not inside or hull.holds(x, y)


def test_a_turned_block_reaches_as_far_as_its_corners() -> None:
    """A square of 40 mm on its corner is wider by the root of two; and its marks lie there."""
    job = _job()
    for key, typed in {"width": "40mm", "height": "40mm", "across": "60mm", "down": "60mm", "angle": "45"}.items():
        job = set_path(job, f"block.panel.{key}", typed)
    block = block_named(job, "panel")
    hull = hull_of(job, 1, block)
    assert hull.width / 72 * 25.4 == pytest.approx(40 * math.sqrt(2), abs=0.005)
    marks = Setter().thing_marks(job, 1, block)
    assert bounds(marks[0]).grown(1).holds(hull.left, hull.top) and bounds(marks[0]).holds(*hull.centre)
    lying = [bounds(mark) for mark in leaves(marks)]
    assert min(each.left for each in lying) == pytest.approx(hull.left, abs=1.0)
    wrapped = [replace(each, wrap=Wrap(shape="box")) if each.id == "panel" else each for each in job.pages[0].blocks]
    job = with_page(job, replace(job.pages[0], things=tuple(wrapped)))
    (way,) = obstacles(job, 1, block_named(job, "words"))
    assert way.box == hull


def test_a_locked_block_keeps_what_it_is_until_it_is_unlocked() -> None:
    job = set_path(_job(), "block.panel.locked", "yes")
    for path, typed in (("opacity", "50"), ("width", "40mm"), ("across", "3mm"), ("ink", "black")):
        with pytest.raises(Problem, match="locked"):
            set_path(job, f"block.panel.{path}", typed)
    for edit in (
        lambda p, b: delete_things(p, [b]),
        lambda p, b: reach(p, b, "bottom", True),
        lambda p, b: restack(p, [b], "forward"),
    ):
        with pytest.raises(Problem, match="locked"):
            edit(job, "panel")
    free = set_path(job, "block.panel.locked", "no")
    assert set_path(free, "block.panel.opacity", "50") is not free


@pytest.mark.parametrize("kind", list(SAMPLES))
@pytest.mark.parametrize("wraps", [False, True])
def test_no_two_properties_of_a_block_are_called_alike(kind: str, wraps: bool) -> None:
    labels = [of.label for of in block_properties(sample(kind, wraps=wraps))]
    assert len(set(labels)) == len(labels)


def test_properties_have_their_own_keys_and_words() -> None:
    seen: dict[str, list[str]] = {}
    for each in BLOCK:
        assert each.label[0].isupper() and each.key == each.key.lower()
        seen.setdefault(each.key, []).append(each.kind)
    assert len(seen) > 25


def test_the_command_line_gets_and_sets(demo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["get", str(demo), "role.body.*", "--json"]) == 0
    told = {each["path"]: each for each in json.loads(capsys.readouterr().out)}
    assert told["role.body.size"]["label"] == "Size" and set(told["role.body.size"]) == {
        "path",
        "label",
        "value",
        "unit",
        "choices",
    }
    assert main(["set", str(demo), "role.body.size=9pt", "bleed=4mm", "ink.straw.cyan=5"]) == 0
    assert main(["get", str(demo), "brief.bleed"]) == 0 and main(["get", str(demo), "bleed"]) == 0
    assert capsys.readouterr().out.splitlines()[-2:] == ["brief.bleed=4mm"] * 2
    assert main(["get", str(demo), "brief.colour"]) == 2 and "no “brief.colour”" in capsys.readouterr().err
    assert main(["set", str(demo), "block.b1.nothing=1"]) == 2


def test_the_page_of_paths_is_what_the_tables_say() -> None:
    from tools.make_paths import OUT, page

    assert OUT.read_text(encoding="utf-8") == page(), "run python -m tools.make_paths"
