"""What is drawn on a laid picture: level and upright lines, areas, points, parts and mends; and scenes of several."""

from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image, ImageDraw, ImageEnhance

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.region_words import (
    HOW,
    format_region,
    format_treated_areas,
    format_upright,
    parse_region,
    parse_upright,
    parser_of_treated_areas,
)
from half_fold.core.pictures.colour.treatment_properties import IN_AREAS
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    Area,
    Block,
    Brushed,
    Coloured,
    Drawn,
    Group,
    HoldsPanel,
    HoldsPicture,
    Look,
    Oval,
    Publication,
    Region,
    Slope,
    Treatment,
)
from half_fold.core.publication.surgery import block_named, with_page
from half_fold.core.publication.validity import require_whole
from half_fold.core.spread.edits.scenes import make_scene, scene_of
from half_fold.core.spread.framing.matching import develop_pictures, keep_as_look, solved
from half_fold.core.spread.framing.painting import Brush, Dab, painted_over
from half_fold.core.spread.framing.retouching import (
    colour_there,
    keep_area_clear,
    let_area_go,
    level_picture,
    make_upright,
    mend_over,
    oval_in,
    place_of,
    share_at,
    show_in,
    slope_along,
    with_part,
    with_point,
    without_part,
)
from half_fold.core.spread.framing.steps import steps_set, with_step_of_last, without_step
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import block_box, spread_area
from half_fold.core.store.job import read
from tests.blocks import block_over


def _image(colour: tuple[int, int, int] = (150, 160, 170), size: tuple[int, int] = (600, 400)) -> Image.Image:
    made = Image.new("RGB", size, colour)
    draw = ImageDraw.Draw(made)
    draw.rectangle([0, size[1] * 0.6, size[0], size[1]], fill=tuple(c // 2 for c in colour))
    draw.ellipse([size[0] * 0.4, size[1] * 0.2, size[0] * 0.5, size[1] * 0.35], fill=(220, 40, 30))
    return made


def _job(tmp_path: Path, *images: Image.Image) -> tuple[Publication, Path]:
    """A job with a picture on page 3 from the first image."""
    job = set_values(start("magazine", "x"), ["pages=8"])
    for index, image in enumerate(images or (_image(),)):
        image.save(tmp_path / f"{index}.png")
        job, _ = bring_picture(job, tmp_path / "pictures", tmp_path / f"{index}.png")
    block = block_over("b1", HoldsPicture(picture=job.pictures[0].id))
    return with_page(job, replace(job.pages[2], things=(block,))), tmp_path / "pictures"


def _holds(job: Publication) -> HoldsPicture:
    holds = block_named(job, "b1").holds
    assert isinstance(holds, HoldsPicture)
    return holds


share = st.floats(0.05, 0.95)


@given(share, share, st.floats(-30, 30), st.booleans(), st.floats(1, 3), share)
def test_a_place_and_its_share_are_one(
    x: float, y: float, turn: float, flipped: bool, closer: float, fx: float
) -> None:
    job = set_values(start("magazine", "x"), ["pages=8"])
    picture = replace(read_picture(), width=3000, height=2000)
    holds = HoldsPicture(picture="p", turn=turn, flipped=flipped, closer=closer, focus_x=fx)
    box = Rect(20, 30, 220, 330)
    assert job.pages and share_at(picture, holds, box, place_of(picture, holds, box, (x, y))) == pytest.approx((x, y))


def read_picture():
    from half_fold.core.publication.records import Picture

    return Picture(id="p", file="p.jpg", width=10, height=10, digest="d")


@pytest.mark.parametrize("flipped", [False, True])
@pytest.mark.parametrize(("rise", "upright"), [(0.04, False), (-0.03, False), (0.02, True)])
def test_a_line_drawn_along_the_horizon_lies_level(tmp_path: Path, rise: float, upright: bool, flipped: bool) -> None:
    job, _ = _job(tmp_path)
    block = block_named(job, "b1")
    job = with_page(job, replace(job.pages[2], things=(replace(block, holds=replace(_holds(job), flipped=flipped)),)))
    line = ((0.5 - rise, 0.1), (0.5 + rise, 0.9)) if upright else ((0.1, 0.5 - rise), (0.9, 0.5 + rise))
    job = level_picture(job, "b1", line)
    box = block_box(job, 3, block_named(job, "b1"))
    one, other = (place_of(job.pictures[0], _holds(job), box, point) for point in line)
    assert abs(one[0 if upright else 1] - other[0 if upright else 1]) < 0.02
    with pytest.raises(Problem, match="too short"):
        level_picture(job, "b1", ((0.5, 0.5), (0.505, 0.5)))


def test_upright_lines_drawn_once_more_go_on_from_what_is_seen(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    job = make_upright(job, "b1", ((0.2, 0.9), (0.28, 0.1)), ((0.8, 0.9), (0.72, 0.1)))
    first = _holds(job).treatment
    assert first is not None and first.upright is not None
    assert first.upright.first[0] == pytest.approx((0.2, 0.9), abs=1e-4)
    with pytest.raises(Problem, match="say nothing"):
        make_upright(job, "b1", ((0.2, 0.5), (0.21, 0.5)), ((0.8, 0.9), (0.7, 0.1)))


def test_areas_are_kept_clear_and_let_go(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    job = keep_area_clear(job, "b1", (0.6, 0.5), (0.2, 0.1))
    job = keep_area_clear(job, "b1", (0.3, 0.2), (0.4, 0.3))
    assert job.pictures[0].keep_clear == ((0.2, 0.1, 0.6, 0.5), (0.3, 0.2, 0.4, 0.3))
    job = let_area_go(job, "b1", (0.35, 0.25))
    assert job.pictures[0].keep_clear == ((0.2, 0.1, 0.6, 0.5),)
    assert let_area_go(job, "b1", (0.9, 0.9)) is job
    with pytest.raises(Problem, match="too small"):
        keep_area_clear(job, "b1", (0.2, 0.2), (0.2, 0.4))


def test_points_are_named_one_after_the_other(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    job = with_point(with_point(job, "b1", (0.3, 0.2)), "b1", (0.5, 0.6))
    assert [(p.name, p.across) for p in job.pictures[0].points] == [("eyes", 0.3), ("point 2", 0.5)]
    job = with_point(job, "b1", (0.4, 0.2), "eyes")
    assert sorted((p.name, p.across) for p in job.pictures[0].points) == [("eyes", 0.4), ("point 2", 0.5)]


def test_parts_are_added_and_taken_away(tmp_path: Path) -> None:
    job, folder = _job(tmp_path)
    brush = painted_over(folder, job.pictures[0], None, [Dab(0.2, 0.2), Dab(0.4, 0.2)], Brush(), away=False)
    for region in (slope_along((0.5, 0), (0.5, 0.4)), oval_in((0.2, 0.2), (0.6, 0.5)), brush):
        job = with_part(job, "b1", region)
    treatment = _holds(job).treatment
    assert treatment is not None and [area.where for area in treatment.areas][2] == brush
    job = without_part(without_part(without_part(job, "b1", 0), "b1", 0), "b1", 0)
    assert _holds(job).treatment is None
    job = show_in(job, "b1", slope_along((0, 0.5), (0.3, 0.5)))
    assert _holds(show_in(job, "b1", None)).treatment is None


def test_the_colour_at_a_place_is_the_colour_there(tmp_path: Path) -> None:
    job, folder = _job(tmp_path)
    region = colour_there(job, folder, "b1", (0.45, 0.27))
    red, green, blue = (int(region.colour[i : i + 2], 16) for i in (1, 3, 5))
    assert red > 200 and green < 70 and blue < 60


def test_what_is_painted_over_goes_and_what_is_painted_next_goes_too(tmp_path: Path) -> None:
    job, folder = _job(tmp_path)
    before = job
    job = mend_over(job, folder, "b1", [[(0.42, 0.27), (0.48, 0.27)]], 0.12)
    from half_fold.core.pictures.library.developing import shown_whole

    plain = Image.open(folder / job.pictures[0].file).convert("RGB")
    shown = np.asarray(shown_whole(plain, folder, job.pictures[0], _holds(job).treatment)).astype(int)
    assert np.abs(shown[108, 270] - (150, 160, 170)).max() < 6
    assert np.array_equal(shown[350], np.asarray(plain).astype(int)[350])
    job = mend_over(job, folder, "b1", [[(0.9, 0.1), (0.92, 0.1)]], 0.03)
    treatment = _holds(job).treatment
    assert treatment is not None and len(treatment.patches) == 2 and _holds(before).treatment is None


def test_a_look_takes_no_patch_and_no_part_along(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    own = Treatment(exposure=0.4, areas=(Area(where=oval_in((0.1, 0.1), (0.5, 0.5)), treatment=Treatment(blur=3)),))
    block = replace(block_named(job, "b1"), holds=replace(_holds(job), treatment=own))
    job = keep_as_look(with_page(job, replace(job.pages[2], things=(block,))), "b1", "Dusk")
    assert job.looks[-1].treatment == Treatment(exposure=0.4) and _holds(job).treatment == own


# In words ---------------------------------------------------------------------------------------------------------


def _hundredths(pair: tuple[int, int]) -> tuple[float, float]:
    return pair[0] / 100, pair[1] / 100


percent = st.integers(0, 100).map(lambda n: n / 100)
place = st.tuples(percent, percent)
regions: st.SearchStrategy[Region] = st.one_of(
    st.builds(Slope, start=place, end=place),
    st.builds(Oval, middle=place, half=st.tuples(st.integers(1, 90), st.integers(1, 90)).map(_hundredths),
              soft=st.integers(0, 100).map(float), outside=st.booleans()),
    st.builds(Drawn, points=st.lists(place, min_size=3, max_size=6).map(tuple), soft=st.integers(0, 200).map(float),
              outside=st.booleans()),
    st.builds(Coloured, colour=st.from_regex(r"\A#[0-9a-f]{6}\Z"), reach=st.integers(1, 150).map(float),
              outside=st.booleans()),
    st.builds(Brushed, file=st.from_regex(r"\A[0-9a-f]{4}\.png\Z"), outside=st.booleans()),
)  # fmt: skip


@given(regions)
def test_a_region_is_read_as_it_is_said(region: Region) -> None:
    assert parse_region(format_region(region)) == region


@given(st.lists(st.tuples(regions, st.floats(-4, 4).map(lambda n: round(n, 2)), st.integers(-100, 100)), max_size=3))
def test_parts_are_read_as_they_are_said(parts: list[tuple[Region, float, int]]) -> None:
    areas = tuple(
        Area(where=where, treatment=Treatment(exposure=light, warmth=float(warm))) for where, light, warm in parts
    )
    assert parser_of_treated_areas(IN_AREAS)(format_treated_areas(IN_AREAS)(areas)) == areas


@pytest.mark.parametrize(
    "words", ["", "oval", "oval 1 2 by 0 0", "from 1 2", "colour red", "outline 1 2, 3 4", "brush ../x.png", "a b c"]
)
def test_what_is_no_region_is_said(words: str) -> None:
    with pytest.raises(Problem) as said:
        parse_region(words)
    assert HOW in str(said.value)


@pytest.mark.parametrize("words", ["oval 1 2 by 3 4", "oval 10 20 by 30 40: glow=3", "oval 10 20 by 30 40: exposure=9"])
def test_what_is_no_part_is_said(words: str) -> None:
    with pytest.raises(Problem):
        parser_of_treated_areas(IN_AREAS)(words)


def test_two_lines_are_read_as_they_are_said() -> None:
    words = "20 90 to 30 10; 80 90 to 70 10"
    assert format_upright(parse_upright(words)) == words and parse_upright("none") is None
    with pytest.raises(Problem, match="two lines"):
        parse_upright("20 90 to 30 10")


# Scenes -----------------------------------------------------------------------------------------------------------


def _scene(tmp_path: Path, *colours: tuple[int, int, int], wash: str = "") -> tuple[Publication, Path, str]:
    job, folder = _job(tmp_path, *(_image(colour) for colour in colours))
    job = with_page(job, replace(job.pages[2], things=()))
    job, name = scene_of(job, 4, [picture.id for picture in job.pictures], wash)
    return job, folder, name


def test_a_scene_covers_the_spread_to_its_bleed_and_is_locked(tmp_path: Path) -> None:
    job, _, name = _scene(tmp_path, (150, 160, 170), (140, 165, 160), (120, 150, 180), wash="black")
    (group,) = job.pages[3].things
    assert isinstance(group, Group) and group.id == name and group.locked
    *pictures, wash = group.members
    assert len(pictures) == 3 and isinstance(wash.holds, HoldsPanel)  # type: ignore[union-attr]
    boxes = [block_box(job, 4, block) for block in pictures]  # type: ignore[arg-type]
    from half_fold.core.plan.spreads import spreads_of

    trim = spread_area(job, next(s for s in spreads_of(job) if 4 in s.numbers))
    bleed = job.brief.bleed.pt
    assert boxes[0].left == pytest.approx(trim.left - bleed, abs=0.01)
    assert boxes[-1].right == pytest.approx(trim.right + bleed, abs=0.01)
    for one, other in pairwise(boxes):
        assert one.right - other.left > 0.3 * (trim.width / 3)
        assert one.top == pytest.approx(trim.top - bleed, abs=0.01)


def test_no_seam_shows_where_pictures_melt_and_one_shows_where_they_do_not(tmp_path: Path) -> None:
    job, folder, _ = _scene(tmp_path, (190, 160, 120), (90, 120, 180))

    def seams(of: Publication) -> list[str]:
        return [f.message for f in check(of, Setter(), folder) if f.rule == "seam"]

    assert not seams(job)
    (group,) = job.pages[3].things
    assert isinstance(group, Group)
    hard = tuple(replace(b, holds=replace(b.holds, treatment=None)) for b in group.members)  # type: ignore[union-attr,type-var]
    cut = with_page(job, replace(job.pages[3], things=(replace(group, members=hard),)))
    (message,) = seams(cut)
    assert "seam" in message


def test_the_same_ground_on_both_sides_shows_no_seam(tmp_path: Path) -> None:
    job, folder, _ = _scene(tmp_path, (150, 160, 170), (151, 161, 170))
    assert not [f for f in check(job, Setter(), folder) if f.rule == "seam"]


def test_a_scene_of_nothing_or_too_much_is_said(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    for pictures, words in (([], "at least"), ([job.pictures[0].id] * 13, "most")):
        with pytest.raises(Problem, match=words):
            scene_of(job, 4, pictures)
    with pytest.raises(Problem, match="no ink"):
        scene_of(job, 4, [job.pictures[0].id], "mauve")


def test_by_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str], demo: Path) -> None:
    job = demo / "graftwood.halffold"
    named = [picture.file for picture in read(job).pictures if not picture.art][:2]
    assert main(["scene", str(job), "26", *named, "--wash", "black"]) == 0
    scene = capsys.readouterr().out.strip()
    group = next(thing for thing in read(job).pages[25].things if thing.id == scene)
    assert isinstance(group, Group) and len(group.members) == 3
    block = group.members[0].id
    assert main(["mend", str(job), block, "50 50 52 51", "--wide", "3"]) == 2
    assert "locked" in capsys.readouterr().err
    laid = next(b.id for b in read(job).pages[21].blocks if isinstance(b.holds, HoldsPicture))
    assert main(["mend", str(job), laid, "50 50 52 51", "--wide", "3"]) == 0
    assert block_named(read(job), laid).holds.treatment.patches  # type: ignore[union-attr]
    for wrong in (["mend", str(job), laid, "50"], ["scene", str(job), "26", "nothing.jpg"],
                  ["scene", str(job), "9999", named[0]], ["mend", str(job), laid, "1 2", "--wide", "99"]):  # fmt: skip
        assert main(wrong) == 2


def test_a_scene_of_laid_pictures_takes_them_as_they_lay_from_left_to_right(tmp_path: Path) -> None:
    job, _ = _job(tmp_path, _image(), _image((90, 100, 120)))
    one, other = (picture.id for picture in job.pictures)
    blocks = (
        block_over("b1", HoldsPicture(picture=one), (3, 5), (0, 3)),
        block_over("b2", HoldsPicture(picture=other), (0, 2), (0, 3)),
    )
    job = with_page(job, replace(job.pages[2], things=blocks))
    job, name = make_scene(job, 3, ["b1", "b2"])
    (group,) = job.pages[1].things
    assert isinstance(group, Group) and group.id == name and not job.pages[2].things
    assert [member.holds.picture for member in group.members] == [other, one]  # type: ignore[union-attr]


# Single steps -----------------------------------------------------------------------------------------------------


def test_a_step_is_let_go_and_one_is_given_to_others(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    picture = job.pictures[0].id
    treatments = (Treatment(contrast=10), Treatment(exposure=1), Treatment(exposure=0.5, warmth=20))
    blocks = tuple(
        replace(block_over(f"b{n}", HoldsPicture(picture=picture, treatment=each)), locked=n == 1)
        for n, each in enumerate(treatments)
    )
    job = with_page(job, replace(job.pages[2], things=blocks))
    assert steps_set(blocks[2]) == [("exposure", "Exposure"), ("warmth", "Warmth")] and not steps_set(_bare(picture))
    made = with_step_of_last(job, ["b0", "b1", "b2"], "exposure")
    assert [b.holds.treatment for b in made.pages[2].blocks] == [  # type: ignore[union-attr]
        Treatment(contrast=10, exposure=0.5), treatments[1], treatments[2],
    ]  # fmt: skip
    one = without_step(job, "b0", "contrast")
    assert block_named(one, "b0").holds.treatment is None  # type: ignore[union-attr]
    with pytest.raises(Problem, match="locked"):
        without_step(job, "b1", "exposure")
    with pytest.raises(Problem, match="as it came"):
        with_step_of_last(one, ["b2", "b0"], "exposure")


def _bare(picture: str) -> Block:
    return block_over("b9", HoldsPicture(picture=picture))


def test_a_picture_toned_in_inks_is_brought_to_another_and_keeps_them(tmp_path: Path) -> None:
    job, _ = _job(tmp_path)
    toned = replace(_holds(job), treatment=Treatment(grey=True, toned_dark="black"))
    job = with_page(job, replace(job.pages[2], things=(replace(block_named(job, "b1"), holds=toned),)))
    found = _holds(matched(job, {"b1": _image(), "b2": _image()})).treatment
    assert found is not None and found.toned_dark == "black" and found.grey


def test_what_a_look_is_toned_in_stays_an_ink_when_a_picture_in_it_is_drawn_on(tmp_path: Path) -> None:
    """What is drawn goes by the look's own steps: its inks by their names, not by the colours that they have."""
    job, folder = _job(tmp_path)
    job = replace(job, looks=(Look(name="Dusk", treatment=Treatment(grey=True, toned_dark="black")),))
    block = replace(block_named(job, "b1"), look="Dusk")
    job = with_page(job, replace(job.pages[2], things=(block,)))
    made = [
        with_part(job, "b1", oval_in((0.1, 0.1), (0.5, 0.5))),
        show_in(job, "b1", slope_along((0, 0.5), (0.3, 0.5))),
        make_upright(job, "b1", ((0.2, 0.9), (0.28, 0.1)), ((0.8, 0.9), (0.72, 0.1))),
        mend_over(job, folder, "b1", [[(0.42, 0.27), (0.48, 0.27)]], 0.12),
        matched(job, {"b1": _image(), "b2": _image()}),
    ]
    for each in made:
        require_whole(each)
        assert _holds(each).treatment.toned_dark == "black"  # type: ignore[union-attr]


def matched(job: Publication, images: dict[str, Image.Image]) -> Publication:
    """The job with its picture brought to another that is darker."""
    other = replace(block_over("b2", _holds(job)), look="")
    job = with_page(job, replace(job.pages[2], things=(*job.pages[2].things, other)))
    darker = {**images, "b2": ImageEnhance.Brightness(images["b2"]).enhance(0.6)}
    return develop_pictures(job, solved(job, darker, ["b1", "b2"], "the last chosen", 1.0))
