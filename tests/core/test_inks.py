"""Inks, fades and looks: stated, renamed, replaced, removed; lists that go out and come back; palettes."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from half_fold.core.checks.run import check
from half_fold.core.cover.flat import cover_marks
from half_fold.core.cover.template import working_drawing
from half_fold.core.drawing.marks import leaves, paints
from half_fold.core.drawing.tone import Gradient, Spot, Tone
from half_fold.core.inks.edits import (
    add_ink,
    remove_ink,
    rename_ink,
    replace_ink,
    said,
    set_ink,
    state_ink,
    uses_of_ink,
)
from half_fold.core.inks.exchange import give_inks, read_inks, take_inks
from half_fold.core.inks.fades import format_stops, parse_stops, remove_fade, rename_fade, state_fade
from half_fold.core.inks.looks import add_look, remove_look, rename_look
from half_fold.core.inks.numbers import format_total, ink_total, scheme_of
from half_fold.core.inks.palette import palette_of, plain_name, readable_pairs
from half_fold.core.inks.screen import loss_of, screen_colour
from half_fold.core.inks.tones import fill_of, tone_of
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_paths
from half_fold.core.plan.inserts import add_insert
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.press.wall_plan import write_wall_plan
from half_fold.core.publication.records import Fade, FadeStop, Furniture, HoldsPanel, Ink, Publication
from half_fold.core.publication.references import INK, LOOK, PAINT, dangling, references
from half_fold.core.publication.surgery import with_page
from half_fold.core.publication.validity import require_valid, require_whole
from half_fold.core.spread.edits.masters import add_furniture
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import read
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.sheet.sheet import add_role
from tests.blocks import block_over
from tests.core.test_paths import HELD

BOX = Rect(0, 0, 100, 50)


@pytest.fixture
def job() -> Publication:
    return start("magazine", "Inks")


def ink_of(job: Publication, name: str) -> Ink:
    return next(ink for ink in job.inks if ink.name == name)


# Stating --------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("typed", "shares", "spot", "kept"),
    [
        ("0 62 80 10", (0, 62, 80, 10), False, "0 62 80 10"),
        ("spot 40 90 20 20", (40, 90, 20, 20), True, "spot 40 90 20 20"),
        ("Spot 0/0/0/12.5", (0, 0, 0, 12.5), True, "spot 0 0 0 12.5"),
        ("C 5 M 6 Y 7 K 8", (5, 6, 7, 8), False, "5 6 7 8"),
        ("5 %, 6 %, 7 %, 8 %", (5, 6, 7, 8), False, "5 6 7 8"),
    ],
)
def test_an_ink_is_stated_in_shares_or_as_a_spot(
    job: Publication, typed: str, shares: tuple[float, ...], spot: bool, kept: str
) -> None:
    made = ink_of(add_ink(job, "damson", typed), "damson")
    assert (made.cyan, made.magenta, made.yellow, made.black, made.spot) == (*shares, spot)
    assert said(made) == kept
    assert ink_of(state_ink(job, "damson", said(made)), "damson") == made


@pytest.mark.parametrize("typed", ["", "red", "1 2 3", "1 2 3 4 5", "0 0 0 101", "spot", "#12345", "rgb(1, 2, 300)"])
def test_what_states_no_ink_is_said(job: Publication, typed: str) -> None:
    with pytest.raises(Problem, match=r"no ink|share of"):
        add_ink(job, "damson", typed)


@pytest.mark.parametrize("name", ["Cyan", "all", "NONE", "black"])
def test_a_spot_is_not_called_as_a_plate_that_is_there_already(job: Publication, name: str) -> None:
    with pytest.raises(Problem, match=r"plate of its own already|already; give"):
        add_ink(job, name, "spot 0 0 0 50")
    with pytest.raises(Problem, match="called as a plate"):
        require_valid(
            replace(job, inks=(*job.inks, Ink(name="All", cyan=0, magenta=0, yellow=0, black=1, spot=True))), "x"
        )


def test_screen_colours_are_read_as_hex_and_as_rgb() -> None:
    assert screen_colour("#A04F2C") == screen_colour("a04f2c") == screen_colour("rgb(160, 79, 44)") == "#a04f2c"
    assert screen_colour("#fa3") == "#ffaa33"
    assert screen_colour("fa3") is None and screen_colour("0 62 80 10") is None


def test_a_screen_colour_says_what_paper_loses_of_it(job: Publication) -> None:
    bright = ink_of(add_ink(job, "neon", "#00ff30"), "neon")
    lost = loss_of(job, bright)
    assert lost is not None and lost.difference > 30 and "duller" in lost.words
    earth = ink_of(add_ink(job, "earth", "#8a6a50"), "earth")
    kept = loss_of(job, earth)
    assert kept is not None and kept.difference < 4
    assert said(bright) == "#00ff30" and loss_of(job, job.inks[0]) is None
    # Its shares set by hand make it an ink like any other.
    assert said(ink_of(set_ink(add_ink(job, "neon", "#00ff30"), "neon", "cyan", 50.0), "neon")).startswith("50 ")


def test_a_spot_is_one_ink_on_the_paper_and_a_plate_of_its_own(job: Publication) -> None:
    damson = ink_of(add_ink(job, "damson", "spot 90 90 90 90"), "damson")
    assert ink_total(damson) == 100 and "100 %" in format_total(job, damson)
    tone = tone_of(damson, 40)
    assert (tone.c, tone.m, tone.y, tone.k, tone.s) == pytest.approx((0, 0, 0, 0, 0.4))
    assert tone.spot == Spot("damson", 0.9, 0.9, 0.9, 0.9)
    assert tone.process == pytest.approx((0.36, 0.36, 0.36, 0.36))


# Used everywhere ------------------------------------------------------------------------------------------


def dressed_job() -> Publication:
    """A job in which every kind of thing names an ink, a fade or a look."""
    from tests.core.test_paths import _job

    return set_paths(
        _job(),
        [
            "ink.damson=spot 40 90 20 20",
            "fade.evening=damson at 0; straw at 100",
            "look.lifted=shadow",
            "look.lifted.shadow.ink=damson",
            "look.lifted.glow=yes",
            "look.lifted.glow.ink=damson",
            "look.lifted.outline=2pt",
            "look.lifted.outline.ink=damson",
            "look.lifted.fill=damson",
            "look.faded=outline",
            "look.faded.fill=evening",
            "role.headline.ink=damson",
            "role.headline.look=lifted",
            "block.panel.ink=evening",
            "block.panel.edge.ink=damson",
            "block.panel.look=faded",
            "block.rule.ink=damson",
            "block.puff.ground.ink=damson",
            "block.puff.ground.edge.ink=evening",
            "block.words.ink=damson",
            "cover.ink=evening",
            "spine.ink=damson",
        ],
    )


def test_every_reference_to_an_ink_follows_a_new_name() -> None:
    job = dressed_job()
    before = list(uses_of_ink(job, "damson"))
    assert len(before) == 11
    made = rename_ink(job, "damson", "plum")
    assert not list(dangling(made)) and not list(uses_of_ink(made, "damson"))
    assert list(uses_of_ink(made, "plum")) == before
    assert rename_ink(made, "plum", "damson") == job
    assert made.stories is job.stories and made.pictures is job.pictures  # what names no ink is not made anew


@pytest.mark.parametrize(
    ("kind", "kinds", "old", "rename"),
    [("fade", (PAINT,), "evening", rename_fade), ("look", (LOOK,), "lifted", rename_look)],
)
def test_fades_and_looks_are_renamed_wherever_they_are_named(kind, kinds, old, rename) -> None:  # type: ignore[no-untyped-def] # of a table
    job = dressed_job()
    made = rename(job, old, "another name")
    count = sum(each.kind in kinds and each.name == old for each in references(job))
    assert count and sum(each.kind in kinds and each.name == "another name" for each in references(made)) == count
    assert not list(dangling(made))
    with pytest.raises(Problem, match="already"):
        rename(dressed_job(), old, "faded" if kind == "look" else "straw")


def test_an_ink_is_removed_only_where_nothing_uses_it() -> None:
    job = dressed_job()
    with pytest.raises(Problem, match=r"is used by .* and .* other place"):
        remove_ink(job, "damson")
    with pytest.raises(Problem, match="used by"):
        remove_fade(job, "evening")
    with pytest.raises(Problem, match="used by"):
        remove_look(job, "lifted")
    made = replace_ink(job, "damson", "loden")
    assert not list(uses_of_ink(made, "damson"))
    gone = remove_ink(made, "damson")
    require_valid(gone, "x")
    assert len(gone.inks) == len(job.inks) - 1
    with pytest.raises(Problem, match="no ink “damson”"):
        remove_ink(gone, "damson")


def test_the_last_ink_stays(job: Publication) -> None:
    bare = replace(
        job,
        inks=(Ink(name="only", cyan=0, magenta=0, yellow=0, black=100),),
        roles=(),
        masters=(),
        cover=replace(job.cover, ink="", spine_ink=""),
    )
    with pytest.raises(Problem, match="only ink"):
        remove_ink(bare, "only")


def test_changing_an_ink_recolours_all_that_uses_it(demo_source: Path) -> None:
    job = read(demo_source / "graftwood.halffold")
    made = set_paths(job, ["ink.russet=spot 10 20 30 40"])
    spread = next(s for s in spreads_of(job) if s.label.startswith("10") or "10" in s.label.split("–"))
    tones = [tone for mark in leaves(Setter().spread(made, spread).marks) for tone in paints(mark)]
    was = tone_of(ink_of(job, "russet"))
    assert any(tone.spot is not None and tone.spot.name == "russet" for tone in tones) and was not in tones


def test_names_are_taken_once_by_inks_and_fades_together(job: Publication) -> None:
    with pytest.raises(Problem, match="already"):
        state_fade(job, "straw", "black; paper")
    faded = state_fade(job, "dawn", "black; paper")
    with pytest.raises(Problem, match="already"):
        add_ink(faded, "dawn", "0 0 0 1")
    with pytest.raises(Problem, match="needs a name"):
        add_ink(job, "  ", "0 0 0 1")


# Fades ----------------------------------------------------------------------------------------------------


def test_a_fade_is_typed_with_tints_places_and_opacities(job: Publication) -> None:
    stops = parse_stops(job, "straw at 0; loden 40 % at 25, 60 % opaque ; black at 100, 0% opaque")
    assert [(s.ink, s.at, s.tint, s.opacity) for s in stops] == [
        ("straw", 0, 100, 100),
        ("loden", 25, 40, 60),
        ("black", 100, 100, 0),
    ]
    assert [s.at for s in parse_stops(job, "straw; loden; black")] == [0, 50, 100]


@given(
    st.lists(
        st.tuples(st.sampled_from(["black", "straw", "loden"]), *[st.integers(0, 1000).map(lambda n: n / 10)] * 3),
        min_size=2,
        max_size=6,
    )
)
def test_a_fade_reads_as_it_is_said(told: list[tuple[str, float, float, float]]) -> None:
    stops = sorted((FadeStop(ink=i, at=a, tint=t, opacity=o) for i, a, t, o in told), key=lambda stop: stop.at)
    fade = Fade(name="f", stops=tuple(stops))
    assert parse_stops(start("magazine", "Inks"), format_stops(fade)) == fade.stops


@pytest.mark.parametrize(
    "typed", ["straw", "a; b", "straw; black; straw; black; straw; black; straw", "straw at 200; black"]
)
def test_what_is_no_fade_is_said(job: Publication, typed: str) -> None:
    with pytest.raises(Problem):
        parse_stops(job, typed)


def test_a_fade_runs_from_edge_to_edge_of_what_it_fills(job: Publication) -> None:
    made = set_paths(job, ["fade.dawn=paper at 0; black at 100"])
    paint = fill_of(made, "dawn", 100, BOX).paint
    assert isinstance(paint, Gradient)
    assert paint.affine.of(0, 0) == pytest.approx((0, 25)) and paint.affine.of(1, 0) == pytest.approx((100, 25))
    down = fill_of(set_paths(made, ["fade.dawn.angle=90"]), "dawn", 100, BOX).paint
    assert isinstance(down, Gradient)
    assert down.affine.of(0, 0) == pytest.approx((50, 0)) and down.affine.of(1, 0) == pytest.approx((50, 50))
    # At a slant the corners have its ends: (100 cos 30 + 50 sin 30) from end to end.
    slanted = fill_of(set_paths(made, ["fade.dawn.angle=30"]), "dawn", 100, BOX).paint
    assert isinstance(slanted, Gradient)
    (x0, y0), (x1, y1) = slanted.affine.of(0, 0), slanted.affine.of(1, 0)
    assert np.hypot(x1 - x0, y1 - y0) == pytest.approx(86.6025 + 25, abs=1e-3)
    outward = fill_of(set_paths(made, ["fade.dawn.way=outward"]), "dawn", 100, BOX).paint
    assert isinstance(outward, Gradient) and outward.affine.of(0, 1) == pytest.approx((50, 50))


def test_a_fade_that_is_see_through_has_a_mask_of_its_opacities(job: Publication) -> None:
    made = set_paths(job, ["fade.wash=paper at 0, 20 % opaque; black at 100, 90 % opaque"])
    paint, mask = fill_of(made, "wash", 50, BOX)
    assert mask is not None and [stop.tone for stop in mask.stops] == [Tone(k=0.2), Tone(k=0.9)]
    assert isinstance(paint, Gradient) and paint.stops[1].tone == Tone(k=0.5)


def test_a_fade_of_one_ink_is_refused_in_a_file(job: Publication) -> None:
    bare = replace(job, fades=(Fade(name="dawn", stops=(FadeStop(ink="black", at=0),)),))
    with pytest.raises(Problem, match="needs two inks"):
        require_valid(bare, "x")


# Looks ----------------------------------------------------------------------------------------------------


def test_a_look_begins_with_no_ink_of_the_list(job: Publication) -> None:
    made = add_look(add_look(job, "lifted", "shadow"), "halo", "glow")
    assert [look.name for look in made.looks] == ["lifted", "halo"] and not list(dangling(made))
    with pytest.raises(Problem, match="cannot begin"):
        add_look(job, "odd", "bevel")


# Lists ----------------------------------------------------------------------------------------------------


def test_a_table_of_inks_goes_out_and_comes_back_as_it_was(job: Publication, tmp_path: Path) -> None:
    made = set_paths(job, ["ink.damson, dark=spot 40 90 20 20", "ink.hot=#ff3311"])
    give_inks(made, tmp_path / "inks.csv")
    assert tuple(read_inks(job, tmp_path / "inks.csv")) == made.inks
    assert take_inks(job, read_inks(job, tmp_path / "inks.csv")).inks == made.inks


def test_a_plain_palette_comes_back_in_the_same_colours_and_black_stays_black_alone(
    job: Publication, tmp_path: Path
) -> None:
    give_inks(job, tmp_path / "inks.gpl")
    text = (tmp_path / "inks.gpl").read_text()
    assert text.startswith("GIMP Palette\n") and "\tstraw" in text
    assert take_inks(job, read_inks(job, tmp_path / "inks.gpl")).inks == job.inks
    (tmp_path / "own.gpl").write_text(
        "GIMP Palette\nName: x\n# a remark\n160  79  44\tEarth red\n10 20 30\n255 255 255 straw\n"
    )
    own = read_inks(job, tmp_path / "own.gpl")
    assert [ink.name for ink in own] == ["Earth red", "colour 4", "straw"]
    assert own[0].screen == "#a04f2c" and take_inks(job, own).inks[-1].name == "colour 4"


def test_another_jobs_list_is_taken(job: Publication, demo_source: Path) -> None:
    made = take_inks(start("book", "Other"), read_inks(job, demo_source))
    assert {"dusk", "russet"} <= {ink.name for ink in made.inks}


@pytest.mark.parametrize("content", [b"", b"name,cyan\nx,1\n", b"\xff\xfe\x00", b"GIMP Palette\nName: x\n", b"\n" * 99])
def test_what_is_no_list_of_inks_is_said(job: Publication, tmp_path: Path, content: bytes) -> None:
    (tmp_path / "x.csv").write_bytes(content)
    with pytest.raises(Problem, match="no ink list"):
        read_inks(job, tmp_path / "x.csv")
    with pytest.raises(Problem, match="written as"):
        give_inks(job, tmp_path / "x.txt")


# Palettes -------------------------------------------------------------------------------------------------


def test_a_small_bright_scarf_counts_in_a_grey_picture(job: Publication) -> None:
    pixels = np.full((300, 400, 3), 128, np.uint8)
    pixels[:, :200] = (60, 60, 64)
    pixels[40:70, 350:380] = (210, 30, 40)  # less than 1 in 100 of it
    pixels[100:300, 200:400] = (215, 215, 210)
    found = palette_of(job, [Image.fromarray(pixels)])
    names = [proposal.ink.name for proposal in found]
    assert any("red" in name for name in names), names
    scarf = next(proposal for proposal in found if "red" in proposal.ink.name)
    assert scarf.area == pytest.approx(900 / 120_000, abs=0.002) and scarf.ink.magenta > 60 > scarf.ink.cyan
    assert sum(proposal.area for proposal in found) == pytest.approx(1, abs=0.01)
    assert len(set(names)) == len(names) and not set(names) & {ink.name for ink in job.inks}


def test_a_palette_has_at_most_eight_colours_and_no_two_that_look_alike(job: Publication) -> None:
    rng = np.random.default_rng(4)
    found = palette_of(job, [Image.fromarray(rng.integers(0, 255, (200, 200, 3), np.uint8))])
    assert 5 <= len(found) <= 8
    apart = [np.linalg.norm(np.subtract(a.lab, b.lab)) for i, a in enumerate(found) for b in found[i + 1 :]]
    assert min(apart) > 5
    assert all(ratio >= 4.5 for _, _, ratio in readable_pairs(found))


def test_a_palette_of_one_colour_or_of_nothing(job: Publication) -> None:
    (only,) = palette_of(job, [Image.new("RGB", (1, 1), (20, 90, 40))])
    assert "green" in only.ink.name and only.area == 1
    assert palette_of(job, []) == []
    assert palette_of(job, [Image.new("RGBA", (4, 4), (20, 90, 40, 0))]) == []


@pytest.mark.parametrize(
    ("lab", "name"),
    [((50, 60, 40), "red"), ((90, -2, 25), "pale straw"), ((40, -40, 30), "green"), ((30, 15, -50), "blue"),
     ((5, 0, 0), "black"), ((98, 0, 0), "white"), ((45, 25, 35), "brown"), ((20, -15, 5), "dark green")],
)  # fmt: skip
def test_colours_have_plain_names(lab: tuple[float, float, float], name: str) -> None:
    assert plain_name(lab) == name


def test_a_scheme_counts_inks_families_and_sizes(demo_source: Path) -> None:
    job = read(demo_source / "graftwood.halffold")
    spread = next(s for s in spreads_of(job) if 11 in s.numbers)
    scheme = scheme_of([Setter().spread(job, spread).marks])
    assert scheme.inks == 2 and scheme.families >= 2 and scheme.sizes > 3 and scheme.words.startswith("2 inks")
    assert INK == "ink"


# What the program makes by itself ---------------------------------------------------------------------------


def test_whatever_is_made_anew_is_made_in_inks_that_are_there(tmp_path: Path) -> None:
    """A job whose inks all have other names: nothing that the program sets may count on the usual ones."""
    job = start("magazine", "Renamed")
    for at, ink in enumerate(job.inks):
        job = rename_ink(job, ink.name, f"ink {at}")
    require_valid(job, "x")
    job, role = add_role(job, "A new role", "body")
    job = with_page(job, replace(job.pages[0], things=tuple(block_over(name, holds) for name, holds in HELD.items())))
    job = set_paths(
        job,
        [
            "block.panel.ink=ink 1", "block.panel.edge.weight=2pt",
            "block.words.ground=yes", "block.words.ground.edge.weight=1pt",
            "look.a=shadow", "look.a.glow=yes", "look.a.outline=1pt", "page.5.frame=5mm", "cover.frame=5mm",
        ],
    )  # fmt: skip
    for kind in ("rule", "frame"):
        piece = Furniture(id="", kind=kind)  # type: ignore[arg-type] # of a table
        job = add_furniture(job, job.masters[0].name, piece)[0]
    job = add_insert(job, 16, "card")
    require_valid(job, "x")
    require_whole(job)
    for number in (0, 2):
        assert Setter().spread(job, spreads_of(job)[number]).marks
    assert cover_marks(job).marks and working_drawing(Composer(), job).drawing.marks
    write_wall_plan(job, tmp_path / "wall.pdf")
    check(job, Setter(), None)
    press(job, tmp_path, tmp_path / "x.pdf", part="insert.insert1")
    assert role == "a new role"


@pytest.mark.parametrize(("blend", "is_found"), [("overlay", True), ("screen", True), ("multiply", False)])
def test_a_spot_that_is_mixed_away_is_found_and_its_fix_prints_it(blend: str, is_found: bool) -> None:
    job = add_ink(start("magazine", "Spots"), "damson", "spot 40 90 20 20")
    panel = block_over("panel", HoldsPanel())
    job = with_page(job, replace(job.pages[1], things=(panel,)))
    job = set_paths(job, ["block.panel.ink=damson", f"block.panel.blend={blend}"])
    found = [each for each in check(job, Setter(), None) if each.rule == "spot mixed away"]
    assert bool(found) == is_found
    if found:
        assert "damson" in found[0].message and found[0].block == "panel" and found[0].fix is not None
        mended = found[0].fix.edit(job)
        assert not [each for each in check(mended, Setter(), None) if each.rule == "spot mixed away"]
