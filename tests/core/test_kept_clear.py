"""What of a picture is kept clear, named points on stops, mirror images, and pictures parted by the fold."""

from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.brief.allowances import fold_loss
from half_fold.core.checks.run import check
from half_fold.core.drawing.marks import PictureMark as Mark
from half_fold.core.drawing.marks import leaves
from half_fold.core.grid.stops import position
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.paths.all import found, set_path
from half_fold.core.pictures.library.fit import placed, share_rect
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import (
    Aim,
    Block,
    HoldsDisplay,
    HoldsPicture,
    Paragraph,
    Picture,
    Point,
    Publication,
    Run,
)
from half_fold.core.publication.surgery import block_named, with_page
from half_fold.core.spread.edits.keeping import settle
from half_fold.core.spread.framing.aim_words import (
    format_aims,
    format_areas,
    format_points,
    parse_aims,
    parse_areas,
    parse_points,
)
from half_fold.core.spread.framing.aiming import missed
from half_fold.core.spread.framing.kept_clear import areas_on_page, fold_band, is_seen_whole, move_clear, overlap
from half_fold.core.spread.framing.reframing import move_inside
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import block_box, frames_of
from half_fold.core.spread.where.reaching import put_in
from tests.blocks import block_over

FACE = (0.42, 0.2, 0.6, 0.55)
WIDE = Picture(
    id="picture1", file="wide.jpg", width=4000, height=1000, digest="d",
    points=(Point(name="eyes", across=0.3, down=0.3), Point(name="chin", across=0.3, down=0.5)),
)  # fmt: skip


def _job(picture: Picture = WIDE, holds: HoldsPicture | None = None, over: tuple[int, int] = (0, 3)) -> Publication:
    job = set_values(start("magazine", "x"), ["pages=8"])
    job = replace(job, pictures=(picture,))
    block = block_over("b1", holds or HoldsPicture(picture="picture1"), over, (0, 4))
    return with_page(job, replace(job.pages[2], things=(block,)))


def _across_the_fold(holds: HoldsPicture, picture: Picture = WIDE) -> Publication:
    """On a left page, over most of its spread."""
    job = _job(picture, holds)
    job = with_page(job, replace(job.pages[2], things=()))
    job = with_page(job, replace(job.pages[3], things=(block_over("b1", holds, (0, 3), (0, 4)),)))
    return put_in(job, "b1", Rect(-400, 60, 400, 360))


def _seen(job: Publication, name: str = "b1") -> tuple[Rect, Rect]:
    """The block's box, and the hull of what is kept clear in it."""
    number = next(i for i, page in enumerate(job.pages, 1) if any(b.id == name for b in page.blocks))
    block = block_named(job, name)
    return block_box(job, number, block), hull(areas_on_page(job, number, block))


share = st.floats(0, 1)


@given(share, share, st.floats(1, 3), st.booleans(), st.floats(-20, 20), share, share, st.floats(0.02, 0.4))
def test_whatever_the_focus_what_is_kept_clear_is_seen(
    fx: float, fy: float, closer: float, flipped: bool, turn: float, left: float, top: float, size: float
) -> None:
    """And the picture fills its block all the same; unless the area is larger than that."""
    area = (left * (1 - size), top * (1 - size), left * (1 - size) + size, top * (1 - size) + size)
    picture = replace(WIDE, height=2600, keep_clear=(area,))
    holds = HoldsPicture(picture="picture1", focus_x=fx, focus_y=fy, closer=closer, flipped=flipped, turn=turn)
    job = _job(picture, holds)
    box, clear = _seen(job)
    where = placed(picture, holds, box)
    if not turn:
        assert where.left <= box.left + 1e-6 and where.right >= box.right - 1e-6
        assert where.top <= box.top + 1e-6 and where.bottom >= box.bottom - 1e-6
        assert clear == pytest.approx(share_rect(area, flipped, where))
        if clear.width <= box.width and clear.height <= box.height:
            assert is_seen_whole(job, 3, block_named(job, "b1"))
            assert clear.left >= box.left - 1e-6 and clear.bottom <= box.bottom + 1e-6


def test_what_already_is_in_view_moves_nothing() -> None:
    box = Rect(0, 0, 100, 100)
    free = replace(WIDE, keep_clear=())
    for focus in (0.0, 0.3, 0.5, 1.0):
        holds, area = (
            HoldsPicture(picture="p", focus_x=focus),
            placed(free, HoldsPicture(picture="p", focus_x=focus), box),
        )
        seen = (box.left - area.left) / area.width
        kept = replace(WIDE, keep_clear=((seen + 0.01, 0.1, seen + 0.2, 0.9),))
        assert placed(kept, holds, box) == pytest.approx(area)


def test_dragging_stops_at_what_is_kept_clear() -> None:
    job = _job(replace(WIDE, keep_clear=(FACE,)))
    for by in (-2000, 2000):
        box, clear = _seen(move_inside(job, "b1", by, 0))
        assert clear.left >= box.left - 0.05 and clear.right <= box.right + 0.05


def test_any_change_of_the_block_keeps_it_in_view() -> None:
    job = _job(replace(WIDE, keep_clear=(FACE,)))
    for box in (Rect(60, 60, 120, 300), Rect(60, 60, 400, 90), Rect(20, 20, 100, 90)):
        made = put_in(job, "b1", box)
        now, clear = _seen(made)
        if clear.width <= now.width and clear.height <= now.height:
            assert clear.left >= now.left - 0.01 and clear.right <= now.right + 0.01


def _found(job: Publication, rule: str) -> list:
    return [finding for finding in check(job, Setter(), None) if finding.rule == rule]


def test_a_face_in_the_fold_is_found_and_moved_out_of_it() -> None:
    middle = replace(WIDE, width=2600, keep_clear=((0.46, 0.3, 0.56, 0.6),))
    job = _across_the_fold(HoldsPicture(picture="picture1", closer=1.4), middle)
    (finding,) = _found(job, "kept clear, in the fold")
    assert finding.block == "b1" and finding.fix is not None
    after = finding.fix.edit(job)
    assert not _found(after, "kept clear, in the fold")
    box, clear = _seen(after)
    assert clear.right <= box.right and clear.left >= box.left and not clear.left < 0 < clear.right


def test_one_that_has_no_way_to_go_may_be_parted() -> None:
    whole = replace(WIDE, width=8000, height=3000, keep_clear=((0.1, 0.1, 0.9, 0.9),))
    job = set_values(_across_the_fold(HoldsPicture(picture="picture1"), whole), ["fold-loss=4mm"])
    (finding,) = _found(job, "kept clear, in the fold")
    assert finding.fix is not None and "Part it" in finding.fix.words
    assert block_named(finding.fix.edit(job), "b1").holds.parted  # type: ignore[union-attr]


def test_what_is_trimmed_off_and_what_is_larger_than_its_block_are_found() -> None:
    job = _job(replace(WIDE, width=1400, keep_clear=((0.0, 0.3, 0.3, 0.6),)))
    out = put_in(job, "b1", Rect(-8.5, 60, 300, 300)) if not job.brief.right_bound else job
    number = 3
    box = block_box(out, number, block_named(out, "b1"))
    trim = frames_of(out, number).own.trim
    reaches = put_in(out, "b1", Rect(trim.right - 200, 60, trim.right + 8.5, 300))
    reaches = with_page(reaches, replace(reaches.pages[2], things=tuple(reaches.pages[2].things)))
    at_edge = replace(reaches, pictures=(replace(WIDE, width=1400, keep_clear=((0.7, 0.3, 1.0, 0.6),)),))
    (found,) = _found(at_edge, "kept clear, cut")
    assert "trimmed" in found.message and box.width
    large = _job(replace(WIDE, keep_clear=((0.0, 0.0, 1.0, 1.0),)))
    (found,) = _found(large, "kept clear, cut")
    assert "larger" in found.message


def test_words_on_a_face_are_found_and_those_behind_the_picture_are_not() -> None:
    words = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text="Orchards"),)),))
    for in_front in (True, False):
        job = _job(replace(WIDE, keep_clear=((0.3, 0.05, 0.7, 0.95),)))
        things = (job.pages[2].things[0], block_over("b2", words, (0, 3), (1, 3)))
        job = with_page(job, replace(job.pages[2], things=things if in_front else things[::-1]))
        assert bool(_found(job, "kept clear, covered")) is in_front


def test_a_move_frees_as_much_as_it_can_with_the_least_way() -> None:
    job = _across_the_fold(
        HoldsPicture(picture="picture1", closer=1.5), replace(WIDE, keep_clear=((0.48, 0.4, 0.53, 0.6),))
    )
    spread = next(s for s in spreads_of(job) if 4 in s.numbers)
    band = fold_band(job, spread)
    assert band is not None
    before = block_named(job, "b1")
    made = move_clear(job, 4, before, [band])
    assert made is not None
    (was,), (now,) = areas_on_page(job, 4, before), areas_on_page(made, 4, block_named(made, "b1"))
    assert overlap([was], [band]) > 0 == overlap([now], [band])
    to_left, to_right = was.right - band.left, band.right - was.left
    assert abs(now.left - was.left) == pytest.approx(min(to_left, to_right), abs=1.0)


# Aims -------------------------------------------------------------------------------------------------------------


def _eyes(job: Publication) -> tuple[float, float]:
    block = block_named(job, "b1")
    picture = job.pictures[0]
    where = placed(picture, block.holds, block_box(job, 3, block))  # type: ignore[arg-type]
    return where.left + 0.3 * where.width, where.top + 0.3 * where.height


AIM = Aim(point="eyes", edge="top", stop=Stop(kind="field", index=2))


def test_eyes_lie_on_their_row_whatever_becomes_of_the_block() -> None:
    tall = replace(WIDE, width=1200, height=2400)
    job = _job(tall, HoldsPicture(picture="picture1", closer=1.3, aims=(AIM,)), over=(0, 5))
    job = settle(replace(job, pages=()), job)
    line = position(AIM.stop, "top", frames_of(job, 3))
    assert _eyes(job)[1] == pytest.approx(line, abs=0.02)
    for box in (Rect(50, 40, 300, 420), Rect(90, 30, 400, 500)):
        moved = settle(job, put_in(job, "b1", box))
        off = missed(moved, 3, block_named(moved, "b1"))
        assert off or _eyes(moved)[1] == pytest.approx(line, abs=0.02)
        where = placed(tall, block_named(moved, "b1").holds, block_box(moved, 3, block_named(moved, "b1")))  # type: ignore[arg-type]
        now = block_box(moved, 3, block_named(moved, "b1"))
        assert where.top <= now.top + 0.01 and where.bottom >= now.bottom - 0.01
    wider = settle(job, set_values(job, ["trim.height=240mm"]))
    assert _eyes(wider)[1] == pytest.approx(position(AIM.stop, "top", frames_of(wider, 3)), abs=0.02)


def test_two_points_on_two_rows_settle_how_close_it_is_drawn() -> None:
    tall = replace(WIDE, width=1200, height=2400)
    chin = Aim(point="chin", edge="top", stop=Stop(kind="field", index=5))
    job = _job(tall, HoldsPicture(picture="picture1", closer=1.3, aims=(AIM, chin)), over=(0, 5))
    job = settle(replace(job, pages=()), job)
    block = block_named(job, "b1")
    where = placed(tall, block.holds, block_box(job, 3, block))  # type: ignore[arg-type]
    lines = [position(aim.stop, "top", frames_of(job, 3)) for aim in (AIM, chin)]
    assert 0.2 * where.height == pytest.approx(lines[1] - lines[0], abs=0.2)
    assert not missed(job, 3, block) or "picture ends" in missed(job, 3, block)[0]


def test_a_point_that_is_not_there_and_one_out_of_reach_are_said() -> None:
    job = _job(holds=HoldsPicture(picture="picture1", aims=(replace(AIM, point="nose"),)))
    assert "nose" in missed(job, 3, block_named(job, "b1"))[0]
    far = replace(AIM, edge="bottom", stop=Stop(kind="trim"))
    job = settle(replace(_job(), pages=()), _job(holds=HoldsPicture(picture="picture1", aims=(far,))))
    assert "mm off" in missed(job, 3, block_named(job, "b1"))[0]


def test_a_locked_block_keeps_its_crop() -> None:
    job = _job(replace(WIDE, width=1200, height=2400), HoldsPicture(picture="picture1", aims=(AIM,)), over=(0, 5))
    locked = with_page(job, replace(job.pages[2], things=(replace(job.pages[2].things[0], locked=True),)))
    assert block_named(settle(replace(job, pages=()), locked), "b1") == block_named(locked, "b1")


@pytest.mark.parametrize(
    "words",
    ["eyes on row 3", "eyes on foot of row 2; spire on column 1", "a hand on third 1 down", "eyes on half across",
     "roof on margin head", "edge on trim left", "eyes on right of column 4", "eyes on quarter 3 across"],
)  # fmt: skip
def test_aims_are_read_as_they_are_said(words: str) -> None:
    assert format_aims(parse_aims(words)) == words


@pytest.mark.parametrize(
    "words", ["eyes", "eyes on", "on row 3", "eyes on row", "eyes on third 3 down", "eyes on margin"]
)
def test_aims_that_are_none_are_said(words: str) -> None:
    with pytest.raises(Problem, match="such as"):
        parse_aims(words)


point = st.tuples(
    st.text("abcdefg hij", min_size=1).map(str.strip).filter(bool), st.integers(0, 100), st.integers(0, 100)
)


@settings(max_examples=40)
@given(st.lists(point, max_size=4, unique_by=lambda each: " ".join(each[0].split())))
def test_points_are_read_as_they_are_said(points: list[tuple[str, int, int]]) -> None:
    made = tuple(Point(name=" ".join(n.split()), across=x / 100, down=y / 100) for n, x, y in points)
    assert parse_points(format_points(made)) == made


@pytest.mark.parametrize("words", ["eyes", "eyes 40", "eyes 400 20", "eyes 1 2; eyes 3 4"])
def test_points_that_are_none_are_said(words: str) -> None:
    with pytest.raises(Problem):
        parse_points(words)


def test_areas_are_read_as_they_are_said_and_others_refused() -> None:
    assert format_areas(parse_areas("20 10 60 55; 0 0 12.5 100")) == "20 10 60 55; 0 0 12.5 100"
    for words in ("20 10 60", "60 10 20 55", "0 0 101 20", "face"):
        with pytest.raises(Problem, match="per cent"):
            parse_areas(words)


def test_all_of_it_is_set_and_read_by_path() -> None:
    job = _job()
    paths = ["picture.wide.jpg.keep_clear=20 10 60 55", "picture.wide.jpg.points=eyes 42 31",
             "block.b1.aims=eyes on row 3", "block.b1.parted=yes", "block.b1.repeated=yes"]  # fmt: skip
    made = job
    for path, _, typed in (each.partition("=") for each in paths):
        made = set_path(made, path, typed)
    told = {setting.path: setting.value for path in paths for setting in found(made, path.partition("=")[0])}
    assert told == dict(path.split("=") for path in paths)


# Parted, and repeated ---------------------------------------------------------------------------------------------


def _pictures(job: Publication, number: int = 4) -> list[Mark]:
    spread = next(s for s in spreads_of(job) if number in s.numbers)
    return [mark for mark in leaves(Setter().spread(job, spread).marks) if isinstance(mark, Mark)]


def test_parted_each_half_lies_as_far_from_the_fold_as_is_lost() -> None:
    """What lies at the edge of what the fold takes is, on both pages, what lies at the fold of the whole."""
    job = set_values(_across_the_fold(HoldsPicture(picture="picture1")), ["fold-loss=4mm"])
    (whole,) = _pictures(job)
    parted = set_path(job, "block.b1.parted", "yes")
    left, right = _pictures(parted)
    loss = fold_loss(parted).value * MM
    assert loss == pytest.approx(4 * MM)
    assert left.placed == pytest.approx(whole.placed.moved(-loss, 0)) and left.clip.right == 0
    assert right.placed == pytest.approx(whole.placed.moved(loss, 0)) and right.clip.left == 0
    seen_at = (-loss - left.placed.left) / left.placed.width, (loss - right.placed.left) / right.placed.width
    assert seen_at[0] == pytest.approx(seen_at[1]) == pytest.approx((0 - whole.placed.left) / whole.placed.width)


def test_a_picture_on_one_page_is_not_parted() -> None:
    job = set_values(_job(holds=HoldsPicture(picture="picture1", parted=True)), ["fold-loss=4mm"])
    assert len(_pictures(job, 3)) == 1


@pytest.mark.parametrize("focus", [0.0, 0.5, 1.0])
def test_mirror_images_fill_the_block_edge_to_edge(focus: float) -> None:
    job = _across_the_fold(HoldsPicture(picture="picture1", repeated=True, focus_x=focus), replace(WIDE, width=900))
    marks = _pictures(job)
    box = block_box(job, 4, block_named(job, "b1"))
    spans = sorted((mark.placed.left, mark.placed.right, mark.affine is not None) for mark in marks)
    assert spans[0][0] <= box.left + 0.01 and spans[-1][1] >= box.right - 0.01 and len(spans) >= 3
    for (_, end, one), (begin, _, other) in pairwise(spans):
        assert 0 < end - begin < 0.1 and one != other  # they meet, and the next is a mirror image
    assert all(mark.placed.height == pytest.approx(box.height) for mark in marks)


def test_what_is_wide_enough_is_not_repeated() -> None:
    assert len(_pictures(_job(holds=HoldsPicture(picture="picture1", repeated=True)), 3)) == 1
    assert isinstance(block_named(_job(), "b1"), Block)
