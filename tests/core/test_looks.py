"""Looks: outlines outside of letters with their counters open, shadows and glows; words on arcs; filler copy."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.checks.finding import would_stop
from half_fold.core.checks.run import check
from half_fold.core.drawing.marks import (
    Glyphs,
    Mark,
    MarkGroup,
    Path,
    Veil,
    from_block,
    leaves,
)
from half_fold.core.drawing.regions import region_of
from half_fold.core.drawing.tone import Gradient
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_path, set_paths
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    Contour,
    Glow,
    HoldsDisplay,
    HoldsPanel,
    HoldsStory,
    Look,
    Paragraph,
    Publication,
    Run,
    Shadow,
    Story,
)
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.filling import fill_to_the_foot, fill_with
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.display_text import display_marks
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.setting.looks import dressed
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.flow.filler import filler_paragraphs, is_filler
from half_fold.core.typesetting.lines.composer import Composer
from tests.blocks import block_over
from tests.press.corpus import SANS, words

MM = 72 / 25.4
BOX = Rect(0, 0, 300, 300)


@pytest.fixture
def job() -> Publication:
    return start("magazine", "Looks")


def _dressed(job: Publication, look: Look, text: str = "Bo", size: float = 60.0, scale: float = 1.0) -> list[Mark]:
    return dressed(job, [words(text, size, 20, 100, key=SANS)], look, from_block("b1"), scale)


def _letters(marks: list[Mark]) -> list[Glyphs]:
    return [mark for mark in leaves(marks) if isinstance(mark, Glyphs)]


# Outlines -------------------------------------------------------------------------------------------------


def test_an_outline_lies_outside_of_letters_and_leaves_counters_as_open_as_they_are(job: Publication) -> None:
    around, letters = _dressed(job, Look(name="l", contours=(Contour(weight=length("3pt")),)), "o")
    assert isinstance(around, Path) and isinstance(letters, Glyphs)
    drawn = face(SANS).outline(int(letters.gids[0]))
    letter = region_of([drawn], 1e-4)
    stroke = region_of([around.outline], 0.002)
    holes = (
        [hole for part in stroke.geoms for hole in part.interiors]
        if hasattr(stroke, "geoms")
        else list(stroke.interiors)
    )
    own = list(letter.interiors)
    assert len(holes) == len(own) == 1
    from shapely import Polygon

    # The counter is the letter's own (ems squared, at 60 pt); the outer edge is 3 pt further out all round.
    assert Polygon(holes[0]).area == pytest.approx(Polygon(own[0]).area * 3600, rel=5e-3)
    outer = Polygon(letter.exterior)
    wanted = outer.area * 3600 + outer.length * 60 * 3 + math.pi * 9
    assert Polygon(stroke.exterior).area == pytest.approx(wanted, rel=0.01)


def test_letters_that_touch_are_outlined_as_one(job: Publication) -> None:
    far = _dressed(job, Look(name="l", contours=(Contour(weight=length("1pt")),)), "oo")[0]
    near = _dressed(job, Look(name="l", contours=(Contour(weight=length("9pt")),)), "oo")[0]
    assert isinstance(far, Path) and isinstance(near, Path)
    pieces = [getattr(region_of([mark.outline]), "geoms", [None]) for mark in (far, near)]
    assert len(pieces[0]) == 2 and len(pieces[1]) == 1


def test_lengths_of_a_look_grow_with_the_words(job: Publication) -> None:
    line, shadow = Contour(weight=length("2pt")), Shadow(blur=length("0mm"), distance=length("1mm"))
    look = Look(name="l", contours=(line,), shadow=shadow)
    small, large = (_dressed(job, look, size=30.0 * by, scale=by) for by in (1.0, 2.0))
    boxes = [[mark.outline.bounds for mark in leaves(marks) if isinstance(mark, Path)] for marks in (small, large)]
    for one, other in zip(*boxes, strict=True):
        assert other.height == pytest.approx(2 * one.height, rel=2e-3)


# Shadows and glows ----------------------------------------------------------------------------------------


@pytest.mark.parametrize(("angle", "way"), [(0, (1, 0)), (90, (0, 1)), (225, (-(0.5**0.5), -(0.5**0.5)))])
def test_a_sharp_shadow_is_the_shape_moved_along_the_light(
    job: Publication, angle: float, way: tuple[float, float]
) -> None:
    lit = replace(job, light=float(angle))
    shadow = Shadow(distance=length("10pt"), blur=length("0pt"))
    for look, publication in (
        (Look(name="l", shadow=shadow), lit),
        (Look(name="l", shadow=replace(shadow, angle=float(angle))), job),
    ):
        group, letters = _dressed(publication, look)
        assert isinstance(group, MarkGroup) and group.blend == "multiply" and group.opacity == 0.4
        (shape,) = group.marks
        assert isinstance(shape, Path) and isinstance(letters, Glyphs)
        ink = ink_of([letters])
        moved = shape.outline.bounds
        assert moved.left - ink.left == pytest.approx(10 * way[0], abs=0.01)
        assert moved.top - ink.top == pytest.approx(10 * way[1], abs=0.01)


def test_a_soft_shadow_covers_as_much_as_its_shape_and_fades_over_its_blur(job: Publication) -> None:
    look = Look(name="l", shadow=Shadow(distance=length("0pt"), blur=length("12pt")))
    panel = Path(region_box(Rect(100, 100, 200, 200)), None)
    group = dressed(job, [panel], look, from_block("b1"))[0]
    assert isinstance(group, MarkGroup)
    (veil,) = group.marks
    assert isinstance(veil, Veil)
    scale = veil.cover.shape[1] / veil.placed.width
    assert veil.cover.sum() / 255 / scale**2 == pytest.approx(100 * 100, rel=0.01)
    middle = veil.cover[veil.cover.shape[0] // 2] / 255
    at = veil.placed.left + (np.arange(len(middle)) + 0.5) / scale
    assert np.interp(100, at, middle) == pytest.approx(0.5, abs=0.02)  # half at the edge itself
    # An edge of 12 pt is two standard deviations wide: a normal distribution's tail one of them out, and in.
    assert np.interp(94, at, middle) == pytest.approx(0.1587, abs=0.02)
    assert np.interp(106, at, middle) == pytest.approx(0.8413, abs=0.02)
    assert middle[0] < 0.01 and middle[-1] < 0.01


def region_box(rect: Rect):  # type: ignore[no-untyped-def] # an outline
    from half_fold.core.drawing.outline import rectangle

    return rectangle(rect)


def test_a_coloured_shadow_covers_and_a_black_one_darkens(job: Publication) -> None:
    made = set_paths(job, ["ink.damson=spot 40 90 20 20"])
    for ink, blend in (("black", "multiply"), ("loden", "normal"), ("damson", "normal")):
        group = _dressed(made, Look(name="l", shadow=Shadow(ink=ink)))[0]
        assert isinstance(group, MarkGroup) and group.blend == blend


def test_a_glow_is_full_near_its_shape_and_gone_at_its_reach(job: Publication) -> None:
    look = Look(name="l", glow=Glow(reach=length("20pt"), ink="paper"))
    panel = Path(region_box(Rect(100, 100, 200, 200)), None)
    group = dressed(job, [panel], look, from_block("b1"))[0]
    assert isinstance(group, MarkGroup) and group.blend == "normal" and group.opacity == 0.75
    (veil,) = group.marks
    assert isinstance(veil, Veil)
    scale = veil.cover.shape[1] / veil.placed.width
    middle = veil.cover[veil.cover.shape[0] // 2] / 255
    at = veil.placed.left + (np.arange(len(middle)) + 0.5) / scale
    assert np.interp(150, at, middle) > 0.99
    assert np.interp(90, at, middle) == pytest.approx(0.5, abs=0.06)
    assert np.interp(100, at, middle) > 0.95 and np.interp(79, at, middle) < 0.03


def test_what_prints_nothing_has_no_look_and_takes_no_harm(job: Publication) -> None:
    look = Look(name="l", contours=(Contour(weight=length("2pt")),), shadow=Shadow(), glow=Glow())
    assert dressed(job, [], look, from_block("b1")) == []
    assert len(_dressed(job, look, " ")) == 1


def test_a_look_fills_words_with_a_fade_over_all_of_them(job: Publication) -> None:
    made = set_paths(job, ["fade.dawn=straw; black", "fade.wash=black; black at 100, 0 % opaque"])
    (letters,) = _dressed(made, Look(name="l", fill="dawn"), "Pears")
    assert isinstance(letters, Glyphs) and isinstance(letters.colour, Gradient)
    ink = ink_of([letters])
    assert letters.colour.affine.of(0, 0)[0] == pytest.approx(ink.left, abs=1)
    assert letters.colour.affine.of(1, 0)[0] == pytest.approx(ink.right, abs=1)
    (group,) = _dressed(made, Look(name="l", fill="wash"), "Pears")
    assert isinstance(group, MarkGroup) and group.mask is not None


def test_roles_carry_their_look_into_display_text_and_stories(job: Publication) -> None:
    made = set_paths(job, ["look.lifted=shadow", "role.headline.look=lifted"])
    line = Paragraph(role="headline", runs=(Run(text="Pears"),))
    story = Story(id="s1", title="S", paragraphs=(line, Paragraph(role="body", runs=(Run(text="Kept."),))))
    made = replace(made, stories=(story,))
    blocks = (
        block_over("b1", HoldsDisplay(paragraphs=(line,)), (0, 6), (0, 2)),
        block_over("b2", HoldsStory(story="s1"), (0, 6), (3, 7)),
        replace(block_over("b3", HoldsPanel(ink="straw"), (0, 2), (2, 3)), look="lifted"),
    )
    made = with_page(made, replace(made.pages[0], things=blocks))
    marks = Setter().spread(made, spreads_of(made)[0]).marks
    lit = [mark.origin.block for mark in marks if isinstance(mark, MarkGroup) and mark.blend == "multiply"]
    assert lit == ["b1", "b2", "b3"]
    read = "".join(text for mark in _letters(list(marks)) for text in mark.texts)
    assert read.count("Pears") == 2 and "Kept." in read


# Words that lie otherwise ---------------------------------------------------------------------------------


def _lying(job: Publication, lies: str, text: str = "Winter pears", **more: object) -> tuple[list[Glyphs], int]:
    size = more.pop("size", length("24pt"))
    paragraphs = tuple(Paragraph(role="headline", runs=(Run(text=each),)) for each in text.split("/"))
    holds = HoldsDisplay(paragraphs=paragraphs, lies=lies, side="centre", size=size, **more)  # type: ignore[arg-type] # of a table
    setting = display_marks(Composer(), job, block_over("b1", holds), BOX)
    return list(setting.marks), setting.over_lines


def _feet(marks: list[Glyphs]) -> np.ndarray:
    """Where the middle of each letter stands, an array of shape (letters, 2)."""
    out = []
    for mark in marks:
        assert mark.turn is not None
        wide = face(mark.face).advance(int(mark.gids[-1])) * mark.size
        out.append(mark.turn.of(float(mark.xs[0]) + wide / 2, mark.baseline))
    return np.array(out)


@pytest.mark.parametrize("bend", [40.0, 120.0, 180.0, 300.0])
@pytest.mark.parametrize("lies", ["arched up", "arched down"])
def test_letters_stand_on_a_circle_as_wide_as_the_block(job: Publication, lies: str, bend: float) -> None:
    marks, over = _lying(job, lies, bend=bend)
    assert not over and len(marks) == len("Winter pears")
    cap = face(marks[0].face).cap_height * 24
    radius = 150 / math.sin(math.radians(min(bend, 180)) / 2)
    if lies == "arched up":
        centre, standing = (150, radius), radius - cap
    else:
        centre, standing = (150, 300 - radius), radius
    feet = _feet(marks)
    assert np.hypot(*(feet - centre).T) == pytest.approx(np.full(len(feet), standing), abs=0.01)
    assert (np.diff(feet[:, 0]) > 0).all() or bend > 180
    assert feet[:, 0].mean() == pytest.approx(150, abs=6)
    assert "".join(text for mark in marks for text in mark.texts) == "Winter pears"


def test_lines_on_an_arc_lie_on_circles_round_one_middle(job: Publication) -> None:
    marks, over = _lying(job, "arched up", "Winter/pears", bend=90.0)
    radius = 150 / math.sin(math.radians(45))
    reach = np.hypot(*(_feet(marks) - (150, radius)).T)
    assert (
        not over and reach[:6] == pytest.approx(reach[0], abs=0.01) and reach[6:] == pytest.approx(reach[-1], abs=0.01)
    )
    assert reach[0] - reach[-1] > 20


@pytest.mark.parametrize("lies", ["arched up", "arched down", "wave", "letter under letter"])
def test_evened_words_run_from_one_end_of_their_way_to_the_other(job: Publication, lies: str) -> None:
    marks, over = _lying(job, lies, "Pears", even=True, bend=100.0)
    box = ink_of(marks)
    assert not over
    if lies == "letter under letter":
        assert box.height == pytest.approx(300, rel=0.08)
    else:
        assert 0.8 * 300 < box.width < 1.25 * 300


@pytest.mark.parametrize("lies", ["arched up", "wave"])
def test_words_longer_than_their_way_are_said(job: Publication, lies: str) -> None:
    long = "The long and the short of winter pears in the vale"
    _, over = _lying(job, lies, long, size=length("40pt"), bend=60.0)
    assert over == 1
    made = with_page(
        job,
        replace(job.pages[0], things=(block_over("b1", HoldsDisplay(
            paragraphs=(Paragraph(role="headline", runs=(Run(text=long * 3),)),), lies=lies), (0, 6), (0, 4)),)),  # type: ignore[arg-type] # of a table
    )  # fmt: skip
    (said,) = [finding for finding in check(made, Setter(), None) if finding.rule == "overset words"]
    assert said.block == "b1" and "ends of their way" in said.why and said.fix is not None
    mended = said.fix.edit(made)
    assert not any(finding.rule == "overset words" for finding in check(mended, Setter(), None))


def test_letters_under_one_another_stand_upright_in_the_middle(job: Publication) -> None:
    marks, _ = _lying(job, "letter under letter", "Pear")
    feet = _feet(marks)
    assert feet[:, 0] == pytest.approx(np.full(4, 150), abs=0.01)
    steps = np.diff(feet[:, 1])
    assert (steps > 0).all() and steps == pytest.approx(np.full(3, steps[0]))


@pytest.mark.parametrize(("by", "sized"), [("width", False), ("tracking", False), ("size", True)])
def test_a_stack_is_evened_by_size_by_width_or_by_tracking(job: Publication, by: str, sized: bool) -> None:
    lines = tuple(Paragraph(role="headline", runs=(Run(text=text),)) for text in ("Winter pears", "keep"))
    holds = HoldsDisplay(paragraphs=lines, even=True, even_by=by, size=length("20pt"))  # type: ignore[arg-type] # of a table
    setting = display_marks(Composer(), job, block_over("b1", holds), BOX)
    widths = [ink_of(list(line.marks)).width for line in setting.lines]
    assert widths == pytest.approx([300, 300], abs=0.5 if by != "tracking" else 1.0)
    sizes = [line.size for line in setting.lines]
    assert (sizes[0] != pytest.approx(sizes[1])) is sized
    if not sized:
        assert sizes == pytest.approx([20, 20])


@pytest.mark.parametrize(("size", "is_resized"), [("20pt", True), ("31.6pt", True)])
def test_evened_by_both_letters_move_as_far_as_is_not_seen_and_size_does_the_rest(
    job: Publication, size: str, is_resized: bool
) -> None:
    lines = tuple(Paragraph(role="headline", runs=(Run(text=text),)) for text in ("Winter pears", "keep until May"))
    told = {}
    for by in ("size", "both", "tracking"):
        holds = HoldsDisplay(paragraphs=lines, even=True, even_by=by, size=length(size))  # type: ignore[arg-type]
        set_ = display_marks(Composer(), job, block_over("b1", holds), BOX).lines
        told[by] = [line.size for line in set_]
        if by == "both":
            assert [ink_of(list(line.marks)).width for line in set_] == pytest.approx([300, 300], abs=0.1)
    own = length(size).pt
    for solved, both in zip(told["size"], told["both"], strict=True):
        assert abs(both - own) < abs(solved - own) + 1e-6  # nearer to the role's than by size alone
    assert (told["both"] != pytest.approx([own, own])) is is_resized and told["tracking"] == pytest.approx([own, own])


@settings(max_examples=20)
@given(
    st.sampled_from(["arched up", "arched down", "wave", "letter under letter"]),
    st.text(max_size=30),
    st.floats(1, 359),
    st.booleans(),
)
def test_whatever_is_written_lies_somewhere(lies: str, text: str, bend: float, even: bool) -> None:
    marks, _ = _lying(start("magazine", "L"), lies, text.replace("/", ""), bend=bend, even=even)
    for mark in marks:
        assert mark.turn is not None and np.isfinite(mark.turn).all() and np.isfinite(mark.size)


# Filler copy ----------------------------------------------------------------------------------------------


@given(st.sampled_from(["en_GB", "de_DE", "fr_FR", "xx"]), st.integers(1, 400), st.integers(1, 50))
def test_filler_copy_has_as_many_words_as_are_asked_for(language: str, count: int, seed: int) -> None:
    made = filler_paragraphs(language, count, "body", seed)
    assert sum(len(paragraph.text.split()) for paragraph in made) == count
    assert made == filler_paragraphs(language, count, "body", seed)
    assert all(is_filler(paragraph) and paragraph.text.endswith(".") for paragraph in made)


def test_filler_copy_has_the_letters_of_its_language(job: Publication) -> None:
    text = "".join(p.text for p in filler_paragraphs("en_GB", 4000, "body")).lower()
    shares = {letter: text.count(letter) / sum(map(str.isalpha, text)) for letter in "etaz"}
    assert 0.09 < shares["e"] < 0.17 and shares["e"] > shares["t"] > shares["z"] and shares["z"] < 0.01
    assert filler_paragraphs("en_GB", 40, "body", 1) != filler_paragraphs("en_GB", 40, "body", 2)


def _with_story(job: Publication) -> Publication:
    story = Story(id="s1", title="Held", paragraphs=(Paragraph(role="body", runs=(Run(text="One line."),)),))
    block = block_over("b1", HoldsStory(story="s1"), (0, 3), (0, 8))
    return with_page(replace(job, stories=(story,)), replace(job.pages[0], things=(block,)))


def test_filler_copy_fills_a_story_to_the_foot_and_stops_the_press_until_it_is_replaced(job: Publication) -> None:
    made = fill_to_the_foot(_with_story(job), Setter(), "s1")
    flow = Setter().threads.flow(made, "s1")
    assert not flow.over_lines and flow.room < 3
    found = [finding for finding in check(made, Setter(), None) if finding.rule == "filler copy"]
    assert len(found) == 1 and would_stop(found) and "“Held”" in found[0].message
    with pytest.raises(Problem, match="no room"):
        fill_to_the_foot(made, Setter(), "s1")
    story = made.stories[0]
    written = tuple(replace(p, runs=(Run(text=p.text + " And more."),)) for p in story.paragraphs)
    replaced = replace(made, stories=(replace(story, paragraphs=written),))
    assert not any(finding.rule == "filler copy" for finding in check(replaced, Setter(), None))


def test_so_many_words_of_filler_copy(job: Publication) -> None:
    made = fill_with(_with_story(job), "s1", 120)
    assert sum(len(p.text.split()) for p in made.stories[0].paragraphs) == 122
    for count in (0, -4, 10_000_000):
        with pytest.raises(Problem, match="Give from 1"):
            fill_with(job, "s1", count)
    alone = replace(_with_story(job), pages=job.pages)
    with pytest.raises(Problem, match="no block"):
        fill_to_the_foot(alone, Setter(), "s1")
    assert set_path(job, "light", "90").light == 90
