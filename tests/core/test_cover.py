"""The cover: panels that follow the spine, its sides as spreads, evened stacks, and the line on the spine."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.apart.pair import LEFT, RIGHT, SPREAD
from half_fold.core.apart.sides import edit_side, is_blank, side_of
from half_fold.core.brief.spine import spine_text_clear, spine_tolerance
from half_fold.core.cover.flat import cover_flat, cover_marks
from half_fold.core.cover.properties import set_cover, set_spine
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.drawing.marks import Glyphs, PictureMark, Shape
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    HoldsDisplay,
    HoldsPanel,
    HoldsPicture,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.records import Picture as PictureRecord
from half_fold.core.publication.surgery import block_ids, role_named
from half_fold.core.publication.used import with_inks
from half_fold.core.spread.edits import edits
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.evened import evened, ink_of
from half_fold.core.spread.where.frames import block_box, page_frame_of
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.sheet.sheet import with_fallback
from tests.blocks import block_over

SPINE_5 = ["pages=48", "paper.text=grammage=130,volume=1.42"]
SPINE_12 = ["pages=124", "paper.text=grammage=130,volume=1.42"]
BLEED = Stop(kind="bleed")


def _stack(*lines: str, **more: object) -> HoldsDisplay:
    paragraphs = tuple(Paragraph(role="cover line", runs=(Run(text=line),)) for line in lines)
    return HoldsDisplay(paragraphs=paragraphs, even=True, **more)  # type: ignore[arg-type]


@pytest.fixture
def covered(magazine: Publication) -> Publication:
    """A magazine with a picture on the front and over the spine, and a stack at the right."""
    picture = PictureRecord(id="p1", file="p.jpg", width=3000, height=3600, digest="d")
    hero = Block(
        id="c1",
        place=Held(left=Stop(kind="fold", facing=True), top=BLEED, right=BLEED, bottom=BLEED),
        holds=HoldsPicture(picture="p1"),
    )
    words = _stack("Hard as a", "mallet", side="right", stands="foot")
    lines = block_over("c2", words, (4, 5), (6, 11), of=(6, 12))
    return replace(magazine, pictures=(picture,), cover=replace(magazine.cover, front=(hero, lines)))


@pytest.mark.parametrize(("settings", "spine"), [(SPINE_5, 5.0), (SPINE_12, 12.0)])
def test_everything_follows_the_spine(covered: Publication, settings: list[str], spine: float) -> None:
    job = set_values(covered, settings)
    flat = cover_flat(job)
    assert flat.spine is not None
    assert flat.spine.width / MM == pytest.approx(spine)
    assert flat.trim.width / MM == pytest.approx(440 + spine)
    assert (flat.back.right, flat.front.left) == (flat.spine.left, flat.spine.right) == flat.folds
    ground, hero, *rest = cover_marks(job).marks
    sheet = flat.trim.grown(3 * MM)
    assert isinstance(ground, Shape) and ground.rect == sheet
    assert isinstance(hero, PictureMark)
    assert hero.clip == pytest.approx(Rect(0, sheet.top, sheet.right, sheet.bottom)), (
        "over spine and front, to the bleed"
    )
    lines = [mark for mark in rest if isinstance(mark, Glyphs) and mark.origin.block == "c2"]
    assert ink_of(lines).right == pytest.approx(flat.front.right - 10 * MM, abs=0.01)


def test_a_stitched_cover_is_two_panels_and_says_why_nothing_is_on_its_spine(magazine: Publication) -> None:
    job = set_values(magazine, ["binding=saddle"])
    flat = cover_flat(job)
    assert flat.spine is None and flat.back.right == flat.front.left
    assert "no spine panel" in spine_text(Composer(), job).absent


def test_a_self_cover_job_has_none(magazine: Publication) -> None:
    job = set_values(magazine, ["paper.cover=none"])
    for asked in (cover_flat, cover_marks, lambda p: side_of(p, "inside")):
        with pytest.raises(Problem, match="its own cover"):
            asked(job)


@pytest.mark.parametrize(
    ("spine", "tolerance", "clear"),
    [("5", 0.5, 2.0), ("12", 0.6, 9.0), ("20", 1.0, 17.0), ("40", 1.5, 36.5)],
)
def test_tolerance_and_clearance_by_hand(magazine: Publication, spine: str, tolerance: float, clear: float) -> None:
    """0.5 mm or 5 % at most 1.5; the text keeps half of it and 1 mm of lay, at least 1.5 mm, from each fold."""
    caliper = 1000 * (float(spine) - 2 * 0.2875) / 32  # 64 pages between covers of 250 g/m2 at 1.15 cm3/g
    job = set_values(magazine, ["pages=64", f"paper.text=grammage={caliper:.9f},volume=1", "spine.rounding=none"])
    found, wide = spine_tolerance(job), spine_text_clear(job)
    assert found is not None and found.value == pytest.approx(tolerance, abs=1e-3)
    assert wide is not None and wide.value == pytest.approx(clear, abs=2e-2)


def test_spine_text_fills_its_clearance_in_the_middle_of_the_spine(magazine: Publication) -> None:
    for settings in (SPINE_5, SPINE_12):
        job = set_values(magazine, settings)
        text, flat = spine_text(Composer(), job), cover_flat(job)
        assert not text.absent and flat.spine is not None
        mark = text.marks[0]
        assert mark.turn is not None
        ink = ink_of(list(text.marks))
        assert ink.top == pytest.approx(10 * MM, abs=0.01)
        assert ink.centre[0] == pytest.approx(flat.spine.centre[0], abs=0.01)
        assert ink.width <= text.clear + 0.01
        assert ink.width == pytest.approx(text.clear, abs=0.01) or ink.height == pytest.approx(text.room, abs=0.01)


def test_spine_text_reads_up_where_that_is_the_practice(magazine: Publication) -> None:
    job = set_spine(set_values(magazine, SPINE_12), "reads", "up")
    text = spine_text(Composer(), job)
    turn = text.marks[0].turn
    assert turn is not None and (turn.a, turn.b) == pytest.approx((0, -1))
    assert ink_of(list(text.marks)).bottom == pytest.approx((285 - 10) * MM, abs=0.01)


def test_a_thin_spine_says_why_it_is_bare(magazine: Publication) -> None:
    text = spine_text(Composer(), set_values(magazine, ["pages=40", "paper.text=grammage=90,volume=0.9"]))
    assert not text.marks and "too thin for words" in text.absent


@given(
    st.lists(st.sampled_from(["41", "lost apples", "found in one lane", "WWW", "i", "Joy."]), min_size=1, max_size=4)
)
def test_a_stack_is_even_to_the_hundredth_of_a_millimetre(lines: list[str]) -> None:
    job = start("magazine", "Even")
    box = Rect(0, 0, 60 * MM, 500 * MM)
    block = Block(id="b", place=Held(left=BLEED, top=BLEED, right=BLEED, bottom=BLEED), holds=_stack(*lines))
    composer = Composer()
    inks = [ink_of(list(line.marks)) for line in evened(composer, job, block, box)]
    for ink in inks:
        if box.height > inks[-1].bottom + 0.01:
            assert (ink.left, ink.right) == pytest.approx((0, box.width), abs=0.01 * MM)
    assert inks[0].top == pytest.approx(0, abs=0.01)
    assert inks[-1].bottom <= box.height + 0.01
    assert all(above.bottom < below.top for above, below in pairwise(inks)), "no line touches the next"


def test_what_a_side_changes_of_the_whole_job_is_the_jobs(covered: Publication) -> None:
    """How a picture prints, or what stands in for letters, is said on the cover and holds on every page."""
    job = edit_side(covered, "outside", lambda p: with_inks(p, "p.jpg", "black"))
    assert job.pictures[0].inks == "black" and job.cover == covered.cover and job.pages == covered.pages
    job = edit_side(job, "inside", lambda p: with_fallback(p, "Hebrew", "Frank Ruhl Libre"))
    assert role_named(job, "body").fallback == "Hebrew: Frank Ruhl Libre" and job.pictures[0].inks == "black"
    assert job.masters == covered.masters and job.brief is covered.brief


@pytest.mark.parametrize("lines", [(), ("",), ("", "41")])
def test_a_stack_of_nothing_is_nothing(lines: tuple[str, ...]) -> None:
    block = Block(id="b", place=Held(left=BLEED, top=BLEED, right=BLEED, bottom=BLEED), holds=_stack(*lines))
    found = evened(Composer(), start("magazine", "Even"), block, Rect(0, 0, 60 * MM, 500 * MM))
    assert len(found) == sum(map(bool, lines))


def test_a_stack_too_tall_for_its_block_shrinks_as_one_and_keeps_its_side() -> None:
    job, box = start("magazine", "Even"), Rect(0, 0, 100 * MM, 40 * MM)
    block = Block(
        id="b",
        place=Held(left=BLEED, top=BLEED, right=BLEED, bottom=BLEED),
        holds=_stack("41", "lost apples", side="right"),
    )
    inks = [ink_of(list(line.marks)) for line in evened(Composer(), job, block, box)]
    assert inks[-1].bottom == pytest.approx(box.height, abs=0.01)
    assert [ink.right for ink in inks] == pytest.approx([box.width] * 2, abs=0.01)
    assert inks[0].width == pytest.approx(inks[1].width, abs=0.01)


def test_a_side_is_edited_as_a_spread_and_new_blocks_have_new_names(covered: Publication) -> None:
    frame = page_frame_of(side_of(covered, "outside"), RIGHT)
    place = frame.columns[2][0] + 1, frame.rows[3][0] + 1
    made = ""

    def claim(side: Publication) -> Publication:
        nonlocal made
        side, made = edits.claim(side, place, place, SPREAD.numbers, HoldsPanel())
        return side

    job = edit_side(covered, "outside", claim)
    assert job.pages is covered.pages and job.brief is covered.brief and job.masters is covered.masters
    assert [block.id for block in job.cover.front] == ["c1", "c2", made]
    assert len(set(block_ids(job))) == len(block_ids(job))
    found = block_box(side_of(job, "outside"), RIGHT, job.cover.front[-1])
    assert found.left == pytest.approx(frame.columns[2][0])
    moved = edit_side(job, "outside", lambda p: edits.move(p, made, -6, 0))
    assert [block.id for block in moved.cover.back] == [made], "over the spine it belongs to the back"


def test_inside_and_outside_are_kept_apart(covered: Publication) -> None:
    assert is_blank(covered, "inside")
    job = edit_side(
        covered, "inside", lambda p: edits.claim(p, (-100, 100), (-100, 100), (LEFT, RIGHT), HoldsPanel(ink="loden"))[0]
    )
    assert not is_blank(job, "inside") and job.cover.front is covered.cover.front
    assert {mark.origin.block for mark in cover_marks(job, "inside").marks} == {job.cover.inside_front[0].id}
    assert edit_side(job, "inside", lambda p: p) is job


def test_edits_of_the_cover(magazine: Publication) -> None:
    job = magazine
    for field, value in (("ink", "loden"), ("tint", "62,5 %"), ("margin", "12mm"), ("rows", "10")):
        job = set_cover(job, field, value)
    job = set_spine(job, "size", "9")
    cover = job.cover
    assert (cover.ink, cover.tint, cover.grid.outside.mm, cover.grid.rows) == ("loden", 62.5, 12, 10)
    assert cover.spine_size is not None and cover.spine_size.pt == 9
    assert set_spine(job, "size", "").cover.spine_size is None
    for field, value in (
        ("ink", "gold"),
        ("tint", "120"),
        ("tint", "much"),
        ("margin", "-1mm"),
        ("rows", "0"),
        ("foil", "1"),
    ):
        with pytest.raises(Problem):
            set_cover(magazine, field, value)
    for field, value in (("size", "900"), ("reads", "sideways"), ("ink", "gold")):
        with pytest.raises(Problem):
            set_spine(magazine, field, value)


@pytest.mark.parametrize("kind", ["magazine", "book", "catalogue", "photo-book"])
def test_every_kind_starts_with_its_title_on_the_front(kind: str) -> None:
    job = start(kind, "Quinces")
    said = "".join(
        t
        for mark in Setter().spread(side_of(job, "outside"), SPREAD).marks
        if isinstance(mark, Glyphs)
        for t in mark.texts
    )
    assert said == "Quinces"
