"""Leaves, block, spine and wrap against hand-worked tables; settings by key."""

import pytest
from msgspec.structs import replace

from half_fold.core.brief import bulk, spine, wrap
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.stating import parse_trim, trims
from half_fold.core.measure.problem import Problem
from half_fold.core.numbers.all import all_numbers
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.settings import set_value, set_values
from half_fold.core.plan.starters import KINDS, start
from half_fold.core.publication.records import Publication, Story

# 48 pages = 24 leaves of 130 g/m2 at 1.42 cm3/g = 0.1846 mm: block 4.4304; covers of 250 at 1.15 = 0.2875 each.
SPINES = [
    ("block", "none", 4.4304),
    ("covers", "none", 5.0054),
    ("covers+glue", "none", 5.4054),
    ("block", "0.1mm", 4.4),
    ("covers", "0.1mm", 5.0),
    ("covers+glue", "0.5mm", 5.5),
    ("covers", "1/64in", 13 / 64 * 25.4),
]


@pytest.fixture
def bulky(magazine: Publication) -> Publication:
    return set_values(magazine, ["pages=48", "paper.text=grammage=130,volume=1.42"])


@pytest.mark.parametrize(("school", "rounding", "mm"), SPINES)
def test_three_schools_and_four_roundings(bulky: Publication, school: str, rounding: str, mm: float) -> None:
    job = set_values(bulky, [f"spine.school={school}", f"spine.rounding={rounding}"])
    panel = spine.spine(job)
    assert panel is not None and panel.value == pytest.approx(mm, abs=1e-9)
    flat = wrap.wrap_width(job)
    assert flat is not None and flat.value == pytest.approx(2 * 220 + mm + 6, abs=1e-9)


def test_the_working_unfolds_to_what_was_typed(bulky: Publication) -> None:
    panel = spine.spine(bulky)
    assert panel is not None
    assert "block 4.43 + 2 × cover paper 0.29" in panel.how
    block = panel.parts[0]
    assert (block.name, [p.name for p in block.parts]) == ("Block", ["Text paper", "Leaves"])
    assert block.parts[1].parts[0].edits == "pages"


def test_a_stitched_copy_has_no_spine(bulky: Publication) -> None:
    job = set_value(bulky, "binding", "saddle")
    keys = {n.key: n for n in all_numbers(job)}
    assert "spine.width" not in keys
    assert keys["wrap.width"].value == pytest.approx(446)
    assert keys["fold.loss"].value == 0


def test_a_self_cover_job_has_no_wrap(bulky: Publication) -> None:
    keys = {n.key for n in all_numbers(set_value(bulky, "paper.cover", "none"))}
    assert not {"wrap.width", "wrap.height", "paper.cover.caliper"} & keys
    assert "spine.width" in keys


def test_an_inch_job(magazine: Publication) -> None:
    job = set_values(
        magazine,
        [
            "trim=8.5x11in",
            "bleed=1/8in",
            "pages=100",
            "paper.text=grammage=80,volume=1.25",
            "spine.rounding=none",
            "spine.school=block",
        ],
    )
    keys = {n.key: n.value for n in all_numbers(job)}
    assert keys["bulk.text"] == pytest.approx(50 * 0.1)
    assert keys["wrap.width"] == pytest.approx(17 * 25.4 + 5 + 6.35)
    assert keys["wrap.height"] == pytest.approx(11.25 * 25.4)


@pytest.mark.parametrize(("pages", "leaves"), [(48, 24), (49, 25), (1, 1)])
def test_an_odd_page_takes_a_whole_leaf(magazine: Publication, pages: int, leaves: int) -> None:
    assert bulk.leaf_count(set_value(magazine, "pages", str(pages))).value == leaves


def test_every_kind_starts_complete() -> None:
    for kind in KINDS:
        job = start(kind, "A title")
        numbers = {n.key: n.value for n in all_numbers(job)}
        assert not binding_report(job).stops_press
        if binding_named(job.brief.binding).elsewhere:
            continue  # it has no pages to set
        assert numbers["grid.field.lines"] == pytest.approx(round(numbers["grid.field.lines"])), kind
        assert 30 < numbers["type.body.characters_per_line"] < 76, kind
    assert bulk.text_caliper(start("magazine", "M")).how.endswith("90 g/m² × 0.88 cm³/g")
    assert bulk.text_caliper(start("book", "B")).how.startswith("Sallow Wove 80")


def test_named_trims_and_shared_units() -> None:
    for name, size in trims().items():
        assert [round(side.mm, 6) for side in parse_trim(name, "mm")] == [
            round(side.mm, 6) for side in parse_trim(size, "mm")
        ]
    width, height = parse_trim("8.5x11in", "mm")
    assert (width.mm, height.mm) == (pytest.approx(215.9), pytest.approx(279.4))
    assert parse_trim("A5", "mm")[1].mm == 210
    assert parse_trim("8in x 210mm", "mm")[0].mm == pytest.approx(203.2)


@pytest.mark.parametrize(
    "setting",
    [
        "trim=0x0mm",
        "trim=-5x10mm",
        "trim=banner",
        "trim=220",
        "trim=3000x10mm",
        "pages=0",
        "pages=-4",
        "pages=many",
        "pages=99999",
        "bleed=-1mm",
        "bleed=80mm",
        "binding=glue",
        "paper.text=Vellum",
        "paper.text=grammage=0,volume=1",
        "paper.text=grammage=90",
        "paper.text=grammage=x,volume=1",
        "spine.school=mine",
        "spine.rounding=1mm",
        "unit=ell",
        "colour=red",
        "nonsense",
        "title=",
    ],
)
def test_settings_that_cannot_be(magazine: Publication, setting: str) -> None:
    with pytest.raises(Problem) as caught:
        set_values(magazine, [setting])
    assert str(caught.value).endswith(".")


def test_a_count_that_cannot_be_bound_is_kept_and_reported(magazine: Publication) -> None:
    job = set_values(magazine, ["binding=saddle", "pages=30"])
    report = binding_report(job)
    assert len(job.pages) == 30 and report.stops_press
    assert report.counts == (28, 32) and "28 or 32" in report.sentence
    assert binding_named("saddle").nearest(30) == (28, 32) and binding_named("saddle").nearest(1) == (4,)


def test_thin_and_thick_copies_are_only_cautioned(magazine: Publication) -> None:
    thin = binding_report(set_value(magazine, "pages", "8"))
    thick = binding_report(set_values(magazine, ["binding=saddle", "pages=120"]))
    assert "thin" in thin.sentence and "thick" in thick.sentence
    assert not thin.stops_press and not thick.stops_press


def test_the_language_of_the_job_takes_its_stories_along() -> None:
    job = start("book", "Sprache")
    own = Story(id="s1", title="A", paragraphs=(), language="en_GB")
    other = Story(id="s2", title="B", paragraphs=(), language="fr_FR")
    made = set_values(replace(job, stories=(own, other)), ["language=de_DE", "date=1 March"])
    assert made.language == "de_DE" and [s.language for s in made.stories] == ["de_DE", "fr_FR"]
    assert made.date == "1 March"
    with pytest.raises(Problem, match="no language"):
        set_values(job, ["language=German"])
