"""The outlines of panels and pictures: where they lie, how much they fill, and the strokes along them."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.drawing import shapes
from half_fold.core.drawing.affine import turned
from half_fold.core.drawing.marks import (
    Line,
    Mark,
    MarkGroup,
    Path,
    PictureMark,
    Shape,
    from_block,
)
from half_fold.core.drawing.outline import Outline, ellipse, polygon, rectangle
from half_fold.core.drawing.planes import Layer, Sources
from half_fold.core.drawing.regions import grow_region, region_of, region_outline, slice_region
from half_fold.core.drawing.tone import Gradient
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import found, set_path, set_paths
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    Edge,
    Form,
    Ground,
    HoldsDisplay,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.records import Picture as PictureRecord
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.shaping import draw_form, slice_along
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.forms import box_holding, edge_outline, outline_in
from half_fold.core.spread.setting.hits import block_at, is_hit
from half_fold.core.spread.setting.panels import panel_marks, rule_marks
from half_fold.core.spread.where.frames import block_box
from half_fold.core.store.upgrade import upgraded
from half_fold.core.typesetting.faces.faces import face
from tests.blocks import block_over

BOX = Rect(10, 20, 110, 80)  # 100 by 60
NOTHING = Sources(lambda key, gid: face(key).outline(gid), lambda _: (np.zeros((1, 1, 4), np.float32),) * 2)  # type: ignore[return-value, arg-type] # no pictures
KINDS = ("rectangle", "ellipse", "circle", "ring", "burst", "banner", "flash", "polygon")


def area_of(outline: Outline) -> float:
    """What an outline fills by non-zero winding, in square points: its region's."""
    return float(region_of([outline], 0.002).area)


AROUND = BOX.grown(20)


def covered(marks: list[Mark], area: Rect = AROUND, scale: float = 4.0) -> np.ndarray:
    return Layer(area, scale, None).lay(marks).alpha


@pytest.mark.parametrize(
    ("outline", "area"),
    [
        (shapes.cornered(BOX, 12, "slanted"), 6000 - 2 * 144),
        (shapes.cornered(BOX, 12, "cut"), 6000 - 4 * 144),
        (shapes.cornered(BOX, 12, "round"), 6000 - (4 - math.pi) * 144),
        (shapes.cornered(BOX, 12, "hollow"), 6000 - math.pi * 144),
        (shapes.cornered(BOX, 12, "slanted", ("head left",)), 6000 - 72),
        (shapes.cornered(BOX, 12, "cut", ("head right", "foot left")), 6000 - 288),
        (shapes.cornered(BOX, 900, "slanted"), 6000 - 2 * 900),  # no larger than half of the shorter side
        (shapes.cornered(BOX, 0), 6000),
        (ellipse(BOX), math.pi * 50 * 30),
        (shapes.circle(BOX), math.pi * 900),
        (shapes.ring(BOX, 0.5), math.pi * 1500 * 0.75),
        (shapes.burst(BOX, 12, 0.3), 12 * 0.7 * math.sin(math.pi / 12) * 50 * 30),
        (shapes.banner(BOX, 0.25), 6000 - 15 * 60),
        (shapes.flash(BOX, "head right", 0.5), (60**2 - 30**2) / 2),
        (shapes.placed_polygon(BOX, [(0, 0), (1, 0), (0.5, 1)]), 3000),
    ],
)
def test_shapes_fill_what_their_measures_say(outline: Outline, area: float) -> None:
    assert area_of(outline) == pytest.approx(area, rel=4e-4)
    inside = BOX.grown(1e-6)
    assert outline.bounds.clipped(inside) == outline.bounds


@pytest.mark.parametrize("corner", shapes.CORNERS)
def test_a_flash_lies_across_its_own_corner_and_runs_clockwise(corner: str) -> None:
    outline = shapes.flash(BOX, corner, 0.4)
    x, y = outline.points.mean(0)
    assert (x < BOX.centre[0]) == corner.endswith("left") and (y < BOX.centre[1]) == corner.startswith("head")
    part = outline.points
    turn = float(np.sum(part[:, 0] * np.roll(part[:, 1], -1) - np.roll(part[:, 0], -1) * part[:, 1]))
    assert turn > 0


@given(
    st.sampled_from(KINDS),
    st.sampled_from(["round", "slanted", "cut", "hollow"]),
    st.floats(0, 40),
    st.integers(3, 60),
    st.floats(1, 99),
    st.floats(1, 300),
    st.floats(1, 300),
)
def test_every_form_lies_in_its_box_whatever_is_asked(
    kind: str, way: str, corner: float, points: int, depth: float, wide: float, high: float
) -> None:
    form = Form(
        kind=kind, corner=length(f"{corner:.2f}pt"), corners=way, points=points, depth=depth, hole=depth,  # type: ignore[arg-type] # of a table
        places=((0, 0), (1, 0.2), (0.4, 1)),
    )  # fmt: skip
    box = Rect(5, 7, 5 + wide, 7 + high)
    outline = outline_in(form, box)
    around = box.grown(1e-6)
    assert outline.bounds.clipped(around) == outline.bounds
    assert np.isfinite(outline.points).all() and area_of(outline) >= 0


def test_a_shape_is_sliced_along_a_line_and_keeps_what_lies_to_its_left() -> None:
    whole = rectangle(BOX)
    upper = slice_region(whole, (10, 50), (110, 50))  # looking to the right, its left is above
    assert upper is not None and upper.bounds == pytest.approx((10, 20, 110, 50))
    right = slice_region(whole, (60, 20), (60, 80))  # looking down, its left is to the right
    assert right is not None and right.bounds == pytest.approx((60, 20, 110, 80))
    ring = slice_region(shapes.ring(BOX, 0.5), (10, 50), (110, 50))
    assert ring is not None and area_of(ring) == pytest.approx(math.pi * 1500 * 0.75 / 2, rel=1e-3)
    assert slice_region(whole, (0, 10), (200, 10)) is None  # nothing of it lies above
    assert slice_region(whole, (0, 10), (0, 10)) is whole


def test_a_region_grows_and_shrinks_by_what_is_asked() -> None:
    out, back = grow_region(rectangle(BOX), 5.0), grow_region(rectangle(BOX), -5.0)
    assert out is not None and area_of(out) == pytest.approx(110 * 70)
    assert back is not None and area_of(back) == pytest.approx(90 * 50)
    assert grow_region(rectangle(BOX), -31.0) is None
    holed = region_outline(region_of([shapes.ring(BOX, 0.5)]))
    assert holed is not None and area_of(holed) == pytest.approx(math.pi * 1500 * 0.75, rel=1e-3)


FORMS = [
    Form(),
    Form(kind="ellipse"),
    Form(corner=length("10pt")),
    Form(corner=length("10pt"), corners="cut"),
    Form(kind="burst", points=9, depth=30),
    Form(kind="ring", hole=50),
    Form(kind="banner"),
    Form(kind="polygon", places=((0, 0), (1, 0), (0.5, 1))),
    Form(slice=((0, 0.3), (1, 0.7))),
]


@pytest.mark.parametrize("form", FORMS)
@pytest.mark.parametrize("side", ["inside", "outside", "centred"])
def test_a_stroke_lies_inside_outside_or_on_its_outline(form: Form, side: str) -> None:
    job = start("magazine", "Forms")
    edge = Edge(weight=length("4pt"), side=side)  # type: ignore[arg-type] # of a table
    (stroke,) = panel_marks(job, from_block("b"), HoldsPanel(ink="", form=form, edge=edge), BOX)
    assert isinstance(stroke, Path | Shape)
    if isinstance(stroke, Shape):
        stroke = stroke.as_path
    inked = covered([replace_fill(stroke)])
    shape = covered([Path(outline_in(form, BOX), stroke.stroke.tone if stroke.stroke else None)])
    inner, outer = float((inked * shape).sum()), float((inked * (1 - shape)).sum())
    share = inner / (inner + outer)
    if side == "inside":
        assert share > 0.93
    elif side == "outside":
        assert share < 0.07
    else:
        assert 0.35 < share < 0.65


def replace_fill(path: Path) -> Path:
    return Path(path.outline, None, path.stroke, path.origin)


def test_a_shape_too_small_for_its_stroke_has_none() -> None:
    narrow = Rect(0, 0, 100, 3)
    assert edge_outline(Form(kind="burst"), narrow, Edge(weight=length("8pt"))) is None


def test_a_panel_is_filled_with_a_fade_and_one_that_is_see_through_is_masked() -> None:
    job = set_paths(start("magazine", "F"), ["fade.dawn=straw; black", "fade.wash=paper; paper at 100, 0 % opaque"])
    (area,) = panel_marks(job, from_block("b"), HoldsPanel(ink="dawn"), BOX)
    assert isinstance(area, Path) and isinstance(area.fill, Gradient)
    (washed,) = panel_marks(job, from_block("b"), HoldsPanel(ink="wash", form=Form(kind="circle")), BOX)
    assert isinstance(washed, MarkGroup) and washed.mask is not None and washed.mixes
    alpha = covered([washed], BOX, 2.0)
    middle = alpha[alpha.shape[0] // 2]
    # A circle of 60 in the middle of 100: at its left side 1 - 20 / 100 opaque, at its right 1 - 80 / 100.
    assert middle[44] == pytest.approx(0.775, abs=0.02) and middle[-45] == pytest.approx(0.225, abs=0.02)
    assert not middle[:38].any()


def test_a_picture_takes_a_form_and_a_stroke_as_a_panel_does() -> None:
    job = start("magazine", "P")
    job = replace(job, pictures=(PictureRecord(id="p1", file="p.png", width=400, height=400, digest="x"),))
    holds = HoldsPicture(picture="p1", form=Form(kind="ellipse"), edge=Edge())
    block = block_over("b1", holds, (1, 3), (1, 3))
    made = with_page(job, replace(job.pages[0], things=(block,)))
    picture, stroke = Setter().spread(made, spreads_of(made)[0]).marks[:2]
    assert isinstance(picture, PictureMark) and picture.outline is not None and isinstance(stroke, Path)
    assert picture.outline.bounds == pytest.approx(picture.clip)


@pytest.mark.parametrize(
    ("holds", "start_at", "end_at"),
    [
        (HoldsRule(), (10, 50), (110, 50)),
        (HoldsRule(stands="first"), (10, 21), (110, 21)),
        (HoldsRule(stands="last"), (10, 79), (110, 79)),
        (HoldsRule(runs="down", stands="first"), (11, 20), (11, 80)),
        (HoldsRule(runs="falling"), (10, 20), (110, 80)),
        (HoldsRule(runs="rising"), (10, 80), (110, 20)),
    ],
)
def test_a_rule_runs_where_it_is_told(
    holds: HoldsRule, start_at: tuple[float, float], end_at: tuple[float, float]
) -> None:
    (mark,) = rule_marks(start("magazine", "R"), "b", replace(holds, weight=length("2pt")), BOX)
    assert isinstance(mark, Line) and (mark.start, mark.end, mark.weight) == (start_at, end_at, 2.0)
    (dotted,) = rule_marks(start("magazine", "R"), "b", replace(holds, dashes="dotted"), BOX)
    assert isinstance(dotted, Path) and dotted.stroke is not None and dotted.stroke.is_round


@given(
    st.sampled_from(["rectangle", "ellipse", "circle", "burst", "banner"]),
    st.floats(5, 90),
    st.floats(4, 200),
    st.floats(4, 200),
)
def test_a_ground_that_hugs_words_holds_all_of_them(kind: str, depth: float, wide: float, high: float) -> None:
    form = Form(kind=kind, depth=depth, points=40)  # type: ignore[arg-type] # of a table
    inner = Rect(50, 60, 50 + wide, 60 + high)
    whole = region_of([outline_in(form, box_holding(form, inner))])
    from shapely import box

    assert whole.buffer(0.05).contains(box(*inner))


def test_words_stand_on_a_ground_that_hugs_them() -> None:
    job = start("magazine", "W")
    words = (Paragraph(role="headline", runs=(Run(text="Pears"),)),)
    holds = HoldsDisplay(paragraphs=words, ground=Ground(ink="straw", form=Form(kind="circle"), hugs=True))
    block = replace(block_over("b1", holds, (1, 4), (1, 4)), inset=length("4mm"))
    made = with_page(job, replace(job.pages[0], things=(block,)))
    ground, letters = Setter().spread(made, spreads_of(made)[0]).marks[:2]
    assert isinstance(ground, Path)
    box = ground.outline.bounds
    assert box.width == pytest.approx(box.height) and not isinstance(letters, Path)
    left, right = letters.reach  # type: ignore[union-attr]  # glyphs
    assert box.left < left - 4 and right < box.right


def test_places_corners_and_slices_are_typed() -> None:
    job = start("magazine", "T")
    job = with_page(job, replace(job.pages[0], things=(block_over("p", HoldsPanel()),)))
    made = set_paths(job, ["block.p.shape=polygon", "block.p.places=0 0; 100 10; 50 90"])
    (place,) = found(made, "block.p.places")
    assert place.value == "0 0; 100 10; 50 90"
    made = set_paths(
        made, ["block.p.shape=rectangle", "block.p.corner=3mm", "block.p.corner.only=head left, foot right"]
    )
    assert found(made, "block.p.corner.only")[0].value == "head left, foot right"
    assert set_path(made, "block.p.slice", "0 30; 100 60") != made
    for path, typed in (("corner.only", "upper left"), ("slice", "0 30"), ("slice", "a b; c d"), ("shape", "heart")):
        with pytest.raises(Problem):
            set_path(made, f"block.p.{path}", typed)


def test_a_panel_of_format_6_opens_with_its_outline_in_a_form() -> None:
    import msgspec

    panel = {"type": "panel", "ink": "straw", "shape": "ellipse", "corner": "3mm"}
    body = {
        "pages": [{"id": "p", "blocks": [{"id": "b", "holds": panel}]}],
        "cover": {"front": [{"holds": {"type": "panel"}}], "ink": "x"},
    }
    made = msgspec.json.decode(upgraded(msgspec.json.encode(body), 6, 7))
    assert made["pages"][0]["blocks"][0]["holds"] == {
        "type": "panel",
        "ink": "straw",
        "form": {"kind": "ellipse", "corner": "3mm"},
    }
    assert made["cover"] == body["cover"]


# Frames ---------------------------------------------------------------------------------------------------


def test_a_frame_stands_at_a_worked_inset_from_the_trim() -> None:
    job = start("magazine", "F")
    made = set_path(job, "page.5.frame", "6mm")
    assert found(made, "page.5.frame")[0].value == "6mm" and not found(made, "page.4.frame")[0].value
    spread = next(s for s in spreads_of(made) if 5 in s.numbers)
    (frame,) = [m for m in Setter().spread(made, spread).marks if isinstance(m, Shape) and m.stroke is not None]
    mm = 72 / 25.4
    assert frame.rect == pytest.approx((6 * mm, 6 * mm, (220 - 6) * mm, (285 - 6) * mm), abs=0.01)
    assert set_path(made, "page.5.frame", "") == job


def test_a_frame_of_both_pages_is_one_in_front_of_them() -> None:
    job = start("magazine", "F")
    made = set_path(job, "page.4.frame", "6mm both")
    assert found(made, "page.4.frame")[0].value == found(made, "page.5.frame")[0].value == "6mm both"
    spread = next(s for s in spreads_of(made) if 5 in s.numbers)
    (frame,) = [m for m in Setter().spread(made, spread).marks if isinstance(m, Shape) and m.stroke is not None]
    mm = 72 / 25.4
    assert frame.rect == pytest.approx(((6 - 220) * mm, 6 * mm, (220 - 6) * mm, (285 - 6) * mm), abs=0.01)
    again = set_path(made, "page.5.frame", "9mm both")
    assert sum(len(page.blocks) for page in again.pages) == 1
    assert set_path(again, "page.4.frame", "none") == job
    for typed in ("-3mm", "400mm", "wide"):
        with pytest.raises(Problem):
            set_path(job, "page.5.frame", typed)
    with pytest.raises(Problem, match="none facing"):
        set_path(job, "page.1.frame", "5mm both")


def test_the_front_cover_is_framed() -> None:
    job = start("magazine", "F")
    made = set_path(job, "cover.frame", "8mm")
    assert len(made.cover.front) == len(job.cover.front) + 1 and found(made, "cover.frame")[0].value == "8mm"
    assert set_path(made, "cover.frame", "").cover.front == job.cover.front


def _job_with(holds: HoldsPanel) -> Publication:
    job = start("magazine", "F")
    return with_page(job, replace(job.pages[0], things=(block_over("b1", holds),)))


def test_a_polygon_needs_three_corners_and_is_a_rectangle_until_then() -> None:
    assert outline_in(Form(kind="polygon", places=((0, 0), (1, 1))), BOX).is_same(rectangle(BOX))
    assert (
        polygon([(0, 0), (1, 0), (1, 1)]).ops
        == outline_in(Form(kind="polygon", places=((0, 0), (1, 0), (0, 1))), BOX).ops
    )
    assert _job_with(HoldsPanel()).pages[0].blocks


def test_a_shape_is_drawn_over_a_turned_block_where_it_lies() -> None:
    job = _job_with(HoldsPanel())
    block = job.pages[0].blocks[0]
    box = block_box(job, 1, block)
    corners = [(box.left, box.top), (box.right, box.top), (box.right, box.bottom)]
    for angle in (0.0, 90.0, 33.0):
        turned_job = set_paths(job, [f"block.b1.angle={angle}"])
        turn = turned(box.centre, angle)
        made = draw_form(turned_job, "b1", [turn.of(*corner) for corner in corners])
        holds = made.pages[0].blocks[0].holds
        assert isinstance(holds, HoldsPanel)
        assert [c for place in holds.form.places for c in place] == pytest.approx([0, 0, 1, 0, 1, 1], abs=1e-3)
    with pytest.raises(Problem, match="three corners"):
        draw_form(job, "b1", corners[:2])
    with pytest.raises(Problem, match="too short"):
        slice_along(job, "b1", (0.0, 0.0), (0.5, 0.5))


# What lies at a place ---------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("holds", "hit", "missed"),
    [
        (HoldsPanel(ink="", edge=Edge()), [(0, 30), (100, 60), (50, 3)], [(50, 30), (20, 20)]),
        (HoldsPanel(ink="straw", edge=Edge()), [(50, 30), (1, 1)], [(120, 30)]),
        (HoldsPanel(form=Form(kind="ellipse")), [(50, 30), (50, 2)], [(3, 3), (97, 57)]),
        (HoldsPanel(form=Form(kind="ring", hole=60)), [(50, 3), (5, 30)], [(50, 30), (2, 2)]),
        (HoldsPanel(ink="", form=Form(kind="ellipse"), edge=Edge()), [(50, 1), (1, 30)], [(50, 30), (3, 3)]),
        (HoldsRule(runs="falling"), [(50, 30), (10, 6)], [(90, 6), (50, 45)]),
        (HoldsRule(), [(5, 30), (95, 32)], [(50, 10)]),
    ],
)
def test_a_block_is_hit_where_it_is_seen(
    holds: HoldsPanel | HoldsRule, hit: list[tuple[float, float]], missed: list[tuple[float, float]]
) -> None:
    block, box = block_over("b", holds), Rect(0, 0, 100, 60)
    assert all(is_hit(block, box, *place) for place in hit)
    assert not any(is_hit(block, box, *place) for place in missed)


def test_words_in_a_framed_page_are_chosen_through_the_frame() -> None:
    job = start("magazine", "F")
    words = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text="Pears"),)),))
    job = with_page(job, replace(job.pages[4], things=(block_over("w", words, (1, 3), (1, 3)),)))
    job = set_path(job, "page.5.frame", "6mm")
    spread = next(s for s in spreads_of(job) if 5 in s.numbers)
    box = block_box(job, 5, job.pages[4].blocks[0])
    assert block_at(job, spread, *box.centre) == "w"
    frame = job.pages[4].blocks[-1]
    assert block_at(job, spread, 6 * 72 / 25.4, 300.0) == frame.id
