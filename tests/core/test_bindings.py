"""Every binding against hand-worked tables, in metric and in inches."""

import math

import pytest
from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named, bindings
from half_fold.core.brief.compare import extent_for_spine, on_papers, spine_of_extent, text_fits_spine
from half_fold.core.brief.spine import spine, spine_text_clear
from half_fold.core.brief.wrap import board_width, joint
from half_fold.core.cover.flat import CoverSetter, cover_flat
from half_fold.core.drawing.marks import Line
from half_fold.core.measure.entry import MM
from half_fold.core.numbers.all import all_numbers
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.order import set_extent
from half_fold.core.plan.settings import set_value, set_values
from half_fold.core.plan.starters import start
from half_fold.core.press.cover_sheets import cover_sheet
from half_fold.core.publication.records import Publication, Section
from half_fold.core.spread.setting.compose import Setter

# Text of 100 µm leaves (200 pages: 10 mm), cover of 250 µm, boards of 2.5 mm, trim 150 x 230 mm, bleed 3 mm.
METRIC = [
    "trim=150x230mm",
    "pages=200",
    "paper.text=grammage=80,volume=1.25",
    "paper.cover=grammage=250,volume=1",
    "spine.rounding=none",
    "bleed=3mm",
]


@pytest.fixture
def job() -> Publication:
    return set_values(start("book", "Bindings"), METRIC)


def _numbers(job: Publication) -> dict[str, float]:
    return {number.key: number.value for number in all_numbers(job)}


# Binding and what is set with it; by hand: fold loss, spine, wrap width.
SOFT = [
    (["binding=perfect"], 5, 10.5, 2 * 150 + 10.5 + 6),
    (["binding=perfect", "spine.school=block"], 5, 10.0, 316.0),
    (["binding=perfect", "spine.school=covers+glue"], 5, 10.9, 316.9),
    (["binding=burst"], 5, 10.5, 316.5),
    (["binding=sewn"], 3, 10.5, 316.5),
    (["binding=sewn", "swell=1.05"], 3, 11.0, 317.0),
    (["binding=perfect", "flap=90mm"], 5, 10.5, 2 * (151.5 + 90) + 10.5 + 6),
    (["binding=saddle"], 0, None, 306.0),
    (["binding=perfect", "gatefold=yes"], 5, 10.5, 316.5 + 147),
    (["binding=perfect", "gatefold=yes", "flap=90mm"], 5, 10.5, 2 * 151.5 + 90 + 147 + 10.5 + 6),
]


@pytest.mark.parametrize(("settings", "loss", "back", "wrap"), SOFT)
def test_soft_covers(job: Publication, settings: list[str], loss: float, back: float | None, wrap: float) -> None:
    found = _numbers(set_values(job, settings))
    assert found["fold.loss"] == loss and found["wrap.width"] == pytest.approx(wrap)
    assert found["wrap.height"] == 236 and found.get("spine.width") == (back and pytest.approx(back))
    assert ("wrap.flap" in found) == any("flap" in s for s in settings)


def test_an_inch_paperback() -> None:
    """6 x 9 in, 300 pages of 400 ppi: block 0.75 in; by the block alone, rounded to 1/64 in, bleed 1/8 in."""
    job = set_values(
        start("book", "Inches"),
        ["unit=in", "trim=6x9in", "pages=300", "paper.text=ppi=400", "bleed=1/8in", "spine.school=block"],
    )
    found = _numbers(set_value(job, "spine.rounding", "1/64in"))
    assert found["bulk.text"] == pytest.approx(0.75 * 25.4) and found["spine.width"] == pytest.approx(0.75 * 25.4)
    assert found["wrap.width"] == pytest.approx((12 + 0.75 + 0.25) * 25.4)


# 6 x 9 in, 300 pages of 400 ppi (0.75 in), a 12 pt cover, bleed 1/8 in, boards 0.1 in; by hand in inches.
INCHES = [
    (["binding=perfect"], {"spine.width": 0.774, "wrap.width": 13.024, "wrap.height": 9.25}),
    (["binding=perfect", "spine.school=block"], {"spine.width": 0.75, "wrap.width": 13.0}),
    (["binding=perfect", "spine.school=covers+glue"], {"spine.width": 0.774 + 0.4 / 25.4}),
    (["binding=perfect", "flap=3.5in"], {"wrap.width": 2 * (6 + 1.5 / 25.4 + 3.5) + 0.774 + 0.25}),
    (["binding=burst"], {"spine.width": 0.774}),
    (["binding=sewn", "swell=1.04"], {"spine.width": 0.804}),
    (["binding=case", "boards=0.1in"], {"spine.width": 0.95, "case.board.width": 6 - 2.5 / 25.4}),
    (["binding=case", "boards=0.1in", "back=round 90"], {"spine.width": 0.95 * 1.1107207}),
    (["binding=saddle"], {"wrap.width": 12.25}),
    (["binding=boards", "boards=0.1in", "core=0.02in", "pages=20"], {"bulk.text": 0.28, "spine.width": 0.48}),
]


@pytest.mark.parametrize(("settings", "inches"), INCHES)
def test_every_binding_in_inches(settings: list[str], inches: dict[str, float]) -> None:
    common = ["unit=in", "trim=6x9in", "pages=300", "paper.text=ppi=400", "paper.cover=caliper=12pt", "bleed=1/8in"]
    found = _numbers(set_values(start("book", "Inches"), [*common, "spine.rounding=none", *settings]))
    for key, value in inches.items():
        assert found[key] / 25.4 == pytest.approx(value, abs=1e-6), key


CASES = [
    ("flat", 15.0),
    ("round 60", 15 * math.radians(30) / math.sin(math.radians(30))),
    ("round 90", 15 * math.radians(45) / math.sin(math.radians(45))),
    ("round 120", 15 * math.radians(60) / math.sin(math.radians(60))),
]


def test_a_gatefold_front_folds_in_at_its_side(job: Publication) -> None:
    """A leaf of 150 - 3 mm beside the front; the flat has one fold more there, also when bound at the right."""
    for bound in ("left", "right"):
        flat = cover_flat(set_values(job, ["gatefold=yes", f"bound={bound}"]))
        (leaf,) = flat.flaps
        assert leaf.width / MM == pytest.approx(147) and len(flat.folds) == 3
        assert leaf.left == flat.front.right if bound == "left" else leaf.right == flat.front.left
        assert flat.trim.width / MM == pytest.approx(310.5 + 147)
    grams = _numbers(set_value(job, "gatefold", "yes"))["weight.copy"] - _numbers(job)["weight.copy"]
    assert grams == pytest.approx(0.147 * 0.23 * 250)


@pytest.mark.parametrize(("back", "width"), CASES)
def test_a_case(job: Publication, back: str, width: float) -> None:
    """Board 150 - 5.5 + 3 by 230 + 6; joint 8; case 2 x (18 + 147.5 + 8) + spine."""
    found = _numbers(set_values(job, ["binding=case", f"back={back}"]))
    assert found["spine.width"] == pytest.approx(width)
    assert (found["case.board.width"], found["case.board.height"]) == (147.5, 236)
    assert found["case.width"] == pytest.approx(2 * 173.5 + width) and found["case.height"] == 272
    assert "wrap.width" not in found and "jacket.width" not in found and found["fold.loss"] == 3


def test_endpapers_thicken_the_block_and_a_jacket_wraps_the_case(job: Publication) -> None:
    """Four leaves of 150 µm add 0.6 mm; jacket front 147.5 + 8 + 2.5, flaps 90."""
    cased = set_values(job, ["binding=case", "endpapers=grammage=120,volume=1.25", "jacket=Marrow Silk 150"])
    found = _numbers(cased)
    assert found["bulk.text"] == pytest.approx(10.6) and found["spine.width"] == pytest.approx(15.6)
    assert found["jacket.width"] == pytest.approx(2 * (158 + 90) + 15.6 + 6) and found["jacket.height"] == 242
    assert found["extent.pages"] == 200


def test_the_round_back_factors_as_published(job: Publication) -> None:
    flat = spine(set_value(job, "binding", "case"))
    assert flat is not None
    factors = [
        spine(set_values(job, ["binding=case", f"back=round {a}"])).value / flat.value  # type: ignore[union-attr]
        for a in (60, 90, 120)
    ]
    assert [round(f, 2) for f in factors] == [1.05, 1.11, 1.21]


def test_lay_flat_boards(job: Publication) -> None:
    """10 spreads are 20 pages: 20 sheets of 0.25 and 9 cores of 0.5 = 9.5; with cored ends 10.5; boards 2 x 2.5."""
    boards = set_values(job, ["binding=boards", "pages=20", "paper.text=grammage=250,volume=1", "core=0.5mm"])
    assert _numbers(boards)["bulk.text"] == pytest.approx(9.5) and _numbers(boards)["spine.width"] == pytest.approx(
        14.5
    )
    assert _numbers(set_value(boards, "cored-ends", "yes"))["bulk.text"] == pytest.approx(10.5)


@pytest.mark.parametrize(
    ("binding", "good", "bad", "counts"),
    [
        ("single", 4, 8, (4,)),
        ("saddle", 48, 30, (28, 32)),
        ("perfect", 46, 47, (46, 48)),
        ("burst", 48, 46, (44, 48)),
        ("sewn", 52, 54, (52, 56)),
        ("case", 96, 98, (96, 100)),
        ("coil", 50, 51, (50, 52)),
        ("boards", 22, 23, (22, 24)),
    ],
)
def test_extents_that_can_and_cannot_be_bound(
    job: Publication, binding: str, good: int, bad: int, counts: tuple[int, ...]
) -> None:
    bound = set_value(job, "binding", binding)
    assert not binding_report(set_extent(bound, good)).stops_press
    report = binding_report(set_extent(bound, bad))
    assert report.stops_press and report.counts == counts and len(set_extent(bound, bad).pages) == bad


def test_bindings_without_a_spine_panel_say_so(job: Publication) -> None:
    without = [binding.name for binding in bindings() if not binding.has_spine]
    assert without == ["single", "saddle", "coil", "sheet", "flat", "alone", "screen"]
    for name in without:
        found = _numbers(set_value(job, "binding", name))
        assert not {"spine.width", "spine.text.clear", "spine.tolerance"} & set(found)
        assert binding_named(name).no_spine


def test_sections_on_papers_of_their_own(job: Publication) -> None:
    """Pages 1-128 on 100 µm, 129-160 on 90 µm silk (79.2 µm), the rest on 100 µm: 64, 16 and 20 leaves."""
    silk = replace(job, papers=(*job.papers, *set_value(job, "paper.text", "Marrow Silk 90").papers[-1:]))
    sections = (
        Section(name="Plates", first=job.pages[128].id, paper="Marrow Silk 90"),
        Section(name="Notes", first=job.pages[160].id),
    )
    found = _numbers(replace(silk, sections=sections))
    assert found["bulk.text"] == pytest.approx(84 * 0.1 + 16 * 0.0792)


def test_weight_by_hand(job: Publication) -> None:
    """100 leaves of 0.0345 m2 at 80 g, and a cover of (300 + 10.5) x 230 at 250 g."""
    found = _numbers(set_value(job, "quantity", "1000"))
    grams = 100 * 0.15 * 0.23 * 80 + 0.3105 * 0.23 * 250
    assert found["weight.copy"] == pytest.approx(grams) and found["weight.run"] == pytest.approx(grams)


def test_weight_of_a_case_has_its_boards(job: Publication) -> None:
    """Boards 2 x 147.5 and a spine of 15 by 236, 2.5 mm at 0.64 kg/m2/mm; covering 362 x 272 at 250 g."""
    found = _numbers(set_value(job, "binding", "case"))
    boards = (2 * 0.1475 + 0.015) * 0.236 * 2.5 * 640
    assert found["weight.copy"] == pytest.approx(276 + boards + 0.362 * 0.272 * 250)


def test_creep_of_a_stitched_copy_by_hand(job: Publication) -> None:
    """32 pages are 8 sheets of 100 µm: the innermost 0.7 mm behind the outermost, 0.25 more by the cover."""
    stitched = set_values(job, ["binding=saddle", "pages=32"])
    found = _numbers(stitched)
    assert found["creep.total"] == pytest.approx(0.7) and found["creep.cover"] == pytest.approx(0.25)
    assert found["creep.1"] == pytest.approx(0.25) and found["creep.8"] == pytest.approx(0.95)
    assert "creep.9" not in found
    round_folds = _numbers(set_value(stitched, "folds", "round"))
    assert round_folds["creep.total"] == pytest.approx(0.7 * math.pi / 2)
    own = _numbers(set_value(stitched, "paper.cover", "none"))
    assert "creep.cover" not in own and own["creep.1"] == 0


def test_the_extent_for_a_wanted_spine(job: Publication) -> None:
    """At 10.5 mm for 200 pages, 12 mm take 230; the answer is always a count that can be bound."""
    assert extent_for_spine(job, 12.0) == (230, pytest.approx(12.0))
    pages, comes_to = extent_for_spine(set_value(job, "binding", "sewn"), 12.0) or (0, 0.0)
    assert pages % 4 == 0 and abs(comes_to - 12) <= 0.1 + 1e-9
    assert extent_for_spine(set_value(job, "binding", "saddle"), 12.0) is None
    assert spine_of_extent(job, 232) == pytest.approx(12.1)


def test_papers_are_compared(job: Publication) -> None:
    rows = {row.paper: row for row in on_papers(job, ["Marrow Silk 90", "Sallow Bulk 70"])}
    assert rows["Marrow Silk 90"].spine == pytest.approx(7.92 + 0.5)
    assert rows["Sallow Bulk 70"].spine == pytest.approx(14.5) and rows["Sallow Bulk 70"].text_fits
    thin = on_papers(set_extent(job, 60), ["Marrow Gloss 90"])[0]
    assert not thin.text_fits and thin.weight is not None


def test_a_printer_has_a_say_in_spine_text(job: Publication) -> None:
    """Pedlar prints words on a spine from 0.25 in (6.35 mm) and 80 pages."""
    thin = set_values(job, ["pages=110", "printer=Pedlar Print on Demand"])
    assert spine(thin).value == pytest.approx(5.5) and not text_fits_spine(thin)  # type: ignore[union-attr]
    thick = set_extent(thin, 140)
    clear = spine_text_clear(thick)
    assert text_fits_spine(thick) and clear is not None and clear.value == pytest.approx(7 - 3)


@pytest.mark.parametrize("binding", [each.name for each in bindings() if each.cover == "case"])
def test_a_case_is_marked_at_the_board_edges_of_its_joints(job: Publication, binding: str) -> None:
    """The covering had marks at its spine alone, and the boards lie a joint beside it."""
    job = set_values(job, [f"binding={binding}"])
    flat, wide = cover_flat(job), joint(job).value * MM
    assert flat.what == "case" and flat.spine is not None and flat.back is not None
    wanted = [flat.spine.left - wide, flat.spine.left, flat.spine.right, flat.spine.right + wide]
    assert wanted[0] - flat.back.left == pytest.approx(board_width(job).value * MM)
    marks = cover_sheet(job, CoverSetter(Setter()), "outside").printers
    xs = {mark.start[0] for mark in marks if isinstance(mark, Line) and mark.start[0] == mark.end[0]}
    assert sorted(xs - {flat.trim.left, flat.trim.right}) == pytest.approx(wanted)
