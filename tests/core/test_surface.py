"""What lies on a thing within its edge, fades over it, edges that go soft, and shadows that reach all the way."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.drawing.marks import UNSAID, Glyphs, Mark, MarkGroup, Path, PictureMark, Shape, leaves
from half_fold.core.drawing.outline import Outline, ellipse, polygon, rectangle
from half_fold.core.drawing.planes import Layer, Plane, Sources, on_paper
from half_fold.core.drawing.tone import Gradient, Tone
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import found, set_path, set_paths
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    Block,
    Fade,
    FadeStop,
    Glow,
    HoldsDisplay,
    HoldsPanel,
    HoldsRule,
    Look,
    Paragraph,
    Publication,
    Raised,
    Run,
)
from half_fold.core.publication.surgery import block_named, with_page
from half_fold.core.spread.edits.fading import add_stop, drop_stop, move_stop, reverse_fade
from half_fold.core.spread.setting.cast import on_floor, swept
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.looks import dressed
from half_fold.core.store.codec import decode, encode
from half_fold.core.typesetting.faces.faces import face
from tests.blocks import block_over

SHEET = Rect(0, 0, 200, 160)
PANEL = Rect(40, 30, 160, 130)
CYAN = Tone(c=1.0)


def _laid(marks: list[Mark]) -> Plane:
    sources = Sources(lambda key, gid: face(key).outline(gid), lambda _: (np.zeros((1, 1, 4)), np.ones((1, 1))))
    return on_paper(Layer(SHEET, 1.0, sources).lay(marks))


def _panel(look: Look, job: Publication | None = None) -> Plane:
    job = job or start("magazine", "Plums")
    return _laid(dressed(job, [Shape(PANEL, CYAN)], look, UNSAID, box=PANEL))


def test_a_soft_edge_is_gone_at_the_edge_half_on_its_way_and_whole_from_its_reach() -> None:
    cyan = _panel(Look(name="", feather=length("20pt")))[80, :, 0]
    assert cyan[39] == 0 and cyan[41] < 0.16
    assert cyan[100] == pytest.approx(1, abs=0.01) and cyan[62] > 0.93
    assert np.all(np.diff(cyan[40:65]) >= -0.01), "it grows all the way in"
    assert np.all(cyan[:39] == 0), "and nothing lies outside"


def test_a_glow_inside_is_whole_at_the_edge_and_gone_at_its_reach_and_never_outside() -> None:
    inks = _panel(Look(name="", inner=Glow(reach=length("20pt"), opacity=100.0)))
    cyan = inks[80, :, 0]
    assert cyan[41] < 0.15 and cyan[62] > 0.93 and cyan[100] == pytest.approx(1, abs=0.01)
    assert np.all(inks[:29] == 0) and np.all(inks[:, :39] == 0)


def test_a_raised_edge_is_light_where_light_comes_from_and_dark_opposite() -> None:
    job = replace(start("magazine", "Plums"), light=90.0)  # it falls from the head
    inks = _panel(Look(name="", raised=Raised(width=length("12pt"), opacity=100.0)), job)
    head, middle, foot = inks[32, 100], inks[80, 100], inks[127, 100]
    assert head[0] < 0.5 and head[3] < 0.05, "lit at its head"
    assert foot[3] > 0.5, "shaded at its foot"
    assert middle[0] == pytest.approx(1, abs=0.01) and middle[3] == pytest.approx(0, abs=0.01)
    side = inks[80, 42]
    assert side[0] > 0.95 and side[3] < 0.05, "along the light neither"


def test_grain_is_the_same_each_time_and_leaves_the_tone_in_the_mean() -> None:
    once, twice = (_panel(Look(name="", grain=50.0)) for _ in range(2))
    assert np.array_equal(once, twice)
    inside = once[40:120, 50:150]
    assert inside[..., 3].std() > 0.02 and inside[..., 0].mean() > 0.75 and inside[..., 3].mean() < 0.2
    assert np.all(once[:29] == 0)


@pytest.mark.parametrize(
    ("line", "low", "high"), [(((0.0, 0.0), (1.0, 0.0)), 45, 155), (((1.0, 0.0), (0.0, 0.0)), 155, 45)]
)
def test_a_fade_runs_along_the_line_that_was_drawn(
    line: tuple[tuple[float, float], tuple[float, float]], low: int, high: int
) -> None:
    stops = FadeStop(ink="black", at=0.0, tint=0.0), FadeStop(ink="black", at=100.0)
    black = _panel(Look(name="", fade=Fade(name="", stops=stops, line=line)))[80, :, 3]
    assert black[low] < 0.1 and black[high] > 0.9 and black[100] == pytest.approx(0.5, abs=0.02)


def test_a_fade_outward_begins_at_its_first_place_and_ends_at_its_second() -> None:
    stops = FadeStop(ink="black", at=0.0), FadeStop(ink="black", at=100.0, tint=0.0)
    fade = Fade(name="", stops=stops, way="outward", line=((0.5, 0.5), (0.75, 0.5)))
    black = _panel(Look(name="", fade=fade))[..., 3]
    assert black[80, 100] > 0.95 and black[80, 132] < 0.02 and black[112, 100] < 0.02
    assert black[80, 115] == pytest.approx(0.5, abs=0.03) == pytest.approx(black[95, 100], abs=0.03)


def _job() -> Publication:
    words = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text="Plums"),)),))
    job = set_path(start("magazine", "Plums"), "ink.russet", "0 62 80 10")
    things = (
        block_over("panel", HoldsPanel(ink="russet"), (0, 5), (0, 1)),
        block_over("words", words, (0, 5), (2, 3)),
        block_over("rule", HoldsRule(), (0, 5), (4, 4)),
    )
    return with_page(job, replace(job.pages[0], things=things))


@pytest.mark.parametrize("name", ["panel", "words"])
def test_a_fade_is_typed_drawn_named_and_given_back(name: str) -> None:
    said = "russet at 0; black at 100, 20 % opaque"
    job = set_paths(_job(), [f"block.{name}.fade={said}", f"block.{name}.fade.line=0 0, 50 100"])
    assert found(job, f"block.{name}.fade")[0].value == said
    assert found(job, f"block.{name}.fade.line")[0].value == "0 0, 50 100"
    painted = [mark for mark in leaves(Setter().spread(job, spreads_of(job)[0]).marks) if mark.origin.block == name]
    colours = [mark.colour if isinstance(mark, Glyphs) else getattr(mark, "fill", None) for mark in painted]
    assert any(isinstance(colour, Gradient) for colour in colours)
    assert decode(encode(job), "job") == job
    kept = set_path(job, f"block.{name}.fade.kept", "evening")
    assert kept.fades[-1].name == "evening" and kept.fades[-1].line == ((0.0, 0.0), (0.5, 1.0))
    light = block_named(kept, name).light
    assert light is None or light.fade is None
    assert block_named(set_path(job, f"block.{name}.fade", ""), name).light is None


@pytest.mark.parametrize(
    ("path", "typed", "said"),
    [
        ("panel.fade", "russet", "A fade runs over"), ("panel.fade", "plum at 0; russet at 100", "plum"),
        ("panel.fade.line", "0 0, 10 10", "There is no"), ("panel.fade.kept", "evening", "no fade there yet"),
        ("panel.fade.way", "outward", "There is no"), ("panel.feather", "far", "far"),
        ("panel.grain", "140 %", "140"), ("rule.fade", "russet; black", "no “block.rule.fade”"),
    ],
)  # fmt: skip
def test_what_cannot_be_of_edges_and_fades_is_said(path: str, typed: str, said: str) -> None:
    with pytest.raises(Problem, match=said):
        set_path(_job(), f"block.{path}", typed)


def test_a_line_that_is_none_is_said() -> None:
    job = set_path(_job(), "block.panel.fade", "russet; black")
    with pytest.raises(Problem, match="is no line"):
        set_path(job, "block.panel.fade.line", "0 0")


def test_a_picture_is_seen_through_as_much_as_its_fade_is_opaque() -> None:
    picture = PictureMark("p", PANEL, PANEL, UNSAID)
    stops = FadeStop(ink="black", at=0.0), FadeStop(ink="black", at=100.0, opacity=0.0)
    look = Look(name="", fade=Fade(name="", stops=stops, line=((0.0, 0.0), (1.0, 0.0))))
    (group,) = dressed(start("magazine", "Plums"), [picture], look, UNSAID, box=PANEL)
    assert isinstance(group, MarkGroup) and group.mask is not None and group.marks == (picture,)
    (mask,) = group.mask.marks
    assert isinstance(mask, Path) and isinstance(mask.fill, Gradient)
    assert [round(stop.tone.k, 3) for stop in mask.fill.stops] == [1.0, 0.0]


def test_each_part_is_set_over_a_look_and_switched_off_over_it() -> None:
    job = set_paths(
        _job(), ["look.worn=shadow", "look.worn.feather=3mm", "look.worn.grain=30 %", "block.panel.look=worn"]
    )
    job = set_paths(job, ["block.panel.grain=0 %", "block.panel.feather=1mm", "block.panel.inner=yes"])
    light = block_named(job, "panel").light
    assert light is not None and (light.grain, light.feather) == (0.0, length("1mm")) and light.inner is not None
    assert block_named(set_path(job, "block.panel.grain", ""), "panel").light == replace(light, grain=None)


# Shadows that reach all the way -----------------------------------------------------------------------------------


@settings(max_examples=30, deadline=None)
@given(across=st.floats(-60, 60), down=st.floats(-60, 60))
def test_a_long_shadow_holds_its_shape_wherever_it_is_on_its_way(across: float, down: float) -> None:
    """By an independent judge: the shape moved by any part of the way lies in what is swept."""
    from shapely import Polygon
    from shapely.affinity import translate

    places = [(0.0, 0.0), (30.0, 5.0), (22.0, 14.0), (35.0, 40.0), (4.0, 30.0)]
    shape = Polygon(places)
    made = _region(swept(polygon(places), across, down)).buffer(0.2)
    for share in (0.0, 0.27, 0.5, 0.8, 1.0):
        assert made.contains(translate(shape, across * share, down * share))
    hull = shape.union(translate(shape, across, down)).convex_hull
    assert hull.buffer(0.3).contains(_region(swept(polygon(places), across, down)))


def _region(shape: Outline):  # type: ignore[no-untyped-def]  # shapely has no types
    from half_fold.core.drawing.regions import region_of

    return region_of([shape], 0.05)


def test_a_shadow_on_the_floor_begins_at_the_foot_and_its_head_falls_as_far_as_is_told() -> None:
    laid = on_floor(rectangle(Rect(10, 20, 30, 60)), 15.0, -8.0)
    corners = {tuple(np.round(place, 6)) for place in laid.points.tolist()}
    assert {(10.0, 60.0), (30.0, 60.0), (25.0, 52.0), (45.0, 52.0)} == corners
    assert on_floor(ellipse(Rect(0, 0, 10, 10)), 0.0, 5.0).bounds.bottom == pytest.approx(15.0)


@pytest.mark.parametrize("kind", ["long", "floor"])
def test_a_shadow_of_another_kind_falls_far_enough_to_be_seen(kind: str) -> None:
    job = set_paths(_job(), ["block.panel.shadow=yes", f"block.panel.shadow.kind={kind}"])
    light = block_named(job, "panel").light
    assert light is not None and light.shadow is not None and light.shadow.distance.mm > 5
    told = set_paths(_job(), ["block.panel.shadow.across=2mm", f"block.panel.shadow.kind={kind}"])
    light = block_named(told, "panel").light
    assert light is not None and light.shadow is not None and light.shadow.across == length("2mm")
    assert any(mark.origin.block == "panel" for mark in Setter().spread(job, spreads_of(job)[0]).marks)


# Stops ------------------------------------------------------------------------------------------------------------


def _fade(*at: float) -> Fade:
    return Fade(name="", stops=tuple(FadeStop(ink="black", at=each) for each in at))


def test_stops_keep_their_order_and_their_number() -> None:
    assert move_stop(_fade(0, 40, 100), 1, 140).stops[1].at == 100
    assert move_stop(_fade(0, 40, 100), 2, 10).stops[2].at == 40
    assert [stop.at for stop in add_stop(_fade(0, 100), 30).stops] == [0, 30, 100]
    assert [stop.at for stop in reverse_fade(_fade(0, 30, 100)).stops] == [0, 70, 100]
    assert reverse_fade(reverse_fade(_fade(0, 30, 100))) == _fade(0, 30, 100)
    with pytest.raises(Problem, match="at least"):
        drop_stop(_fade(0, 100), 0)
    with pytest.raises(Problem, match="at most"):
        add_stop(_fade(0, 10, 20, 30, 40, 100), 50)


def test_what_is_printed_of_a_block_without_light_is_the_same() -> None:
    job = _job()
    block = block_named(job, "panel")
    assert isinstance(block, Block) and isinstance(block.holds, HoldsPanel) and block.light is None
    assert not any(isinstance(mark, MarkGroup) for mark in Setter().spread(job, spreads_of(job)[0]).marks)
