"""Things turned and scaled by hand, with all that is in them."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.drawing.affine import turned
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPanel, Publication
from half_fold.core.publication.surgery import block_named, page_of_thing, with_page
from half_fold.core.spread.edits.grouping import group, reach_of
from half_fold.core.spread.edits.scaling import drawn_scale, scale_things
from half_fold.core.spread.edits.turning import settled, turn_things
from half_fold.core.spread.where.frames import thing_box, turn_of
from tests.blocks import block_over


def _with_panels(count: int) -> tuple[Publication, list[str]]:
    """A magazine with panels one under the other on its first page."""
    job, names = start("magazine", "Plums"), [f"p{at}" for at in range(count)]
    things = tuple(block_over(name, HoldsPanel(), (at, at + 1), (2 * at, 2 * at + 1)) for at, name in enumerate(names))
    return with_page(job, replace(job.pages[0], things=things)), names


def _box(publication: Publication, name: str) -> Rect:
    index, _, thing = page_of_thing(publication, name)
    return thing_box(publication, index + 1, thing)


@pytest.fixture
def laid() -> tuple[Publication, list[str]]:
    return _with_panels(3)


@pytest.mark.parametrize(
    ("angle", "steps", "free", "meant"),
    [
        (44.0, True, False, 45.0), (37.4, True, False, 30.0), (-179.0, True, False, -180.0),
        (1.4, False, False, 0.0), (1.4, False, True, 1.4), (91.2, False, False, 90.0), (12.34, False, False, 12.3),
        (190.0, False, False, -170.0),
    ],
)  # fmt: skip
def test_an_angle_is_what_a_hand_means(angle: float, steps: bool, free: bool, meant: float) -> None:
    assert settled(angle, steps=steps, free=free) == pytest.approx(meant)


def test_one_thing_turns_about_its_own_middle_and_several_about_theirs(laid: tuple[Publication, list[str]]) -> None:
    publication, names = laid
    one = turn_things(publication, names[:1], 30)
    assert _box(one, names[0]) == _box(publication, names[0]) and block_named(one, names[0]).angle == 30
    middles = [_box(publication, name).centre for name in names]
    about = Rect(
        min(_box(publication, name).left for name in names), min(_box(publication, name).top for name in names),
        max(_box(publication, name).right for name in names), max(_box(publication, name).bottom for name in names),
    ).centre  # fmt: skip
    every = turn_things(publication, names, 90)
    for name, middle in zip(names, middles, strict=True):
        assert _box(every, name).centre == pytest.approx(turned(about, 90).of(*middle), abs=0.01)
        assert block_named(every, name).angle == 90
    back = turn_things(every, names, -90)
    assert [_box(back, name) for name in names] == [pytest.approx(_box(publication, name), abs=0.02) for name in names]


def test_what_is_locked_is_neither_turned_nor_scaled(laid: tuple[Publication, list[str]]) -> None:
    publication, names = laid
    publication = set_path(publication, f"block.{names[0]}.locked", "yes")
    with pytest.raises(Problem, match="locked"):
        turn_things(publication, names[:1], 5)
    with pytest.raises(Problem, match="locked"):
        scale_things(publication, publication, names[:1], (2, 2), (0, 0))


def test_all_that_is_measured_in_a_thing_grows_with_it(laid: tuple[Publication, list[str]]) -> None:
    publication, (name, *_) = laid
    for path, typed in (
        ("edge.weight", "2pt"), ("corner", "3mm"), ("shadow.across", "1mm"), ("outline.weight", "1.5pt"),
        ("wrap", "box"), ("wrap.offset", "4mm"),
    ):  # fmt: skip
        publication = set_path(publication, f"block.{name}.{path}", typed)
    x, y = _box(publication, name).centre
    made = scale_things(publication, publication, [name], (1.5, 1.5), (x, y))
    block, box, was = block_named(made, name), _box(made, name), _box(publication, name)
    assert (box.width, box.height) == pytest.approx((was.width * 1.5, was.height * 1.5), abs=0.01)
    assert box.centre == pytest.approx((x, y), abs=0.01)
    assert isinstance(block.holds, HoldsPanel) and block.holds.edge is not None and block.light is not None
    assert block.holds.edge.weight == length("3pt") and block.holds.form.corner == length("4.5mm")
    assert block.light.shadow is not None and block.light.shadow.across == length("1.5mm")
    assert block.light.contours[0].weight == length("2.25pt")
    assert block.wrap is not None and block.wrap.offset == length("6mm")
    alone = block_named(scale_things(publication, publication, [name], (1.5, 1.5), (x, y), alone=True), name)
    assert replace(alone, place=block_named(publication, name).place) == block_named(publication, name)


def test_words_grow_by_their_size_and_what_they_state(laid: tuple[Publication, list[str]]) -> None:
    publication, (name, *_) = laid
    publication = set_path(publication, f"block.{name}", "")
    publication = set_path(publication, "page.1.claim", "words Plums over 1-3 x 1-2")
    words = next(block for block in publication.pages[0].blocks if isinstance(block.holds, HoldsDisplay))
    before = words.holds.paragraphs[0].role
    size = next(role.size for role in publication.roles if role.name == before)
    publication = set_path(publication, f"block.{words.id}.shift", "2pt")
    made = block_named(set_path(publication, f"block.{words.id}.scaled", "200 %"), words.id).holds
    assert isinstance(made, HoldsDisplay) and made.size is not None and made.own is not None
    assert made.size.pt == pytest.approx(size.pt * 2) and made.own.shift == length("4pt")
    assert made.own.own == ("shift",)
    again = block_named(set_path(publication, f"block.{words.id}.scaled", "50 % alone"), words.id).holds
    assert isinstance(again, HoldsDisplay) and again.size is None


@pytest.mark.parametrize("typed", ["", "large", "0 %", "-3 %"])
def test_a_scale_that_is_none_is_said(laid: tuple[Publication, list[str]], typed: str) -> None:
    publication, (name, *_) = laid
    with pytest.raises(Problem):
        set_path(publication, f"block.{name}.scaled", typed)


def test_a_copy_lies_so_far_off_by_its_path_and_of_a_group_too(laid: tuple[Publication, list[str]]) -> None:
    publication, names = laid
    made = set_path(publication, f"block.{names[0]}.copied", "10mm 5mm")
    new = next(block for block in made.pages[0].blocks if block.id not in names)
    was, box = _box(publication, names[0]), _box(made, new.id)
    assert box == pytest.approx(was.moved(10 * 72 / 25.4, 5 * 72 / 25.4), abs=0.01)
    grouped, own = group(publication, names[:2])
    made = set_path(grouped, f"group.{own}.copied", "0mm 20mm")
    assert len(made.pages[0].blocks) == 5
    with pytest.raises(Problem, match="where the copy lies"):
        set_path(grouped, f"group.{own}.copied", "20mm")


@settings(max_examples=40, deadline=None)
@given(angle=st.floats(-170, 170), far=st.floats(0.3, 3.0), at_right=st.booleans(), at_foot=st.booleans())
def test_what_lies_opposite_stays_where_it_is_seen(angle: float, far: float, at_right: bool, at_foot: bool) -> None:
    publication, (name, *_) = _with_panels(1)
    publication = turn_things(publication, [name], angle)
    index, _, block = page_of_thing(publication, name)
    assert isinstance(block, Block)
    turn, box = turn_of(publication, index + 1, block) or turned((0, 0), 0), _box(publication, name)
    held = (box.right if at_right else box.left, box.bottom if at_foot else box.top)
    other = (box.left if at_right else box.right, box.top if at_foot else box.bottom)
    to = turn.of(*(a + (b - a) * far for a, b in zip(other, held, strict=True)))
    edges = ("right" if at_right else "left", "bottom" if at_foot else "top")
    by, about = drawn_scale(box, turn, edges, to)  # type: ignore[arg-type]  # two of the four
    made = scale_things(publication, publication, [name], by, about)
    index, _, block = page_of_thing(made, name)
    now, turn_now = _box(made, name), turn_of(made, index + 1, block) or turned((0, 0), 0)
    opposite = (now.left if at_right else now.right, now.top if at_foot else now.bottom)
    drawn = (now.right if at_right else now.left, now.bottom if at_foot else now.top)
    assert turn_now.of(*opposite) == pytest.approx(turn.of(*other), abs=0.05)
    assert turn_now.of(*drawn) == pytest.approx(to, abs=0.05)
    assert reach_of(made, name)[0] in (1, 2)
