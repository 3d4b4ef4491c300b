"""Text round what stands in its way, drop caps, openings, balanced columns: where lines come to stand."""

import math
from collections.abc import Callable
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image, ImageDraw

from half_fold.core.drawing.marks import Glyphs, Line
from half_fold.core.grid.frame import Baselines
from half_fold.core.measure.length import length
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import set_path
from half_fold.core.pictures.rasters.outline import BANDS, outline_of
from half_fold.core.plan.order import add_pages
from half_fold.core.plan.spreads import facing, on_right, spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Block, Form, HoldsPanel, HoldsStory, Publication, Wrap
from half_fold.core.publication.surgery import role_named, story_of, with_page, with_story, with_things
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.threads import _columns_of, columns_of
from half_fold.core.spread.setting.wraps import Obstacle, obstacle_of, slots
from half_fold.core.spread.where.frames import block_box, frames_of
from half_fold.core.spread.where.reaching import in_rect
from half_fold.core.store.job import open_job
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.lines.drop_cap import drop_for
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.sheet.sheet import set_role
from half_fold.core.typesetting.texts.markdown_in import read_plain
from tests.blocks import block_over, in_field

STEP, CAP = 13.0, 6.5
COLUMN = Rect(0, 0, 300, 260)
BASE = Baselines(STEP, CAP)
WORDS = "The orchard keeps its own calendar, and nobody who has pruned in February forgets the frozen fingers. " * 12


def _job(story_rows: tuple[int, int] = (0, 7), wrap: Wrap | None = None, columns: int = 1, **roles: str) -> Publication:
    """A spread with one story over a page, and a panel over its middle."""
    job = start("magazine", "Wrap")
    for field, value in roles.items():
        job = set_role(job, "body", field, value)
    job, story = add_story(job, "Words", tuple(read_plain(f"{WORDS}\n\n{WORDS}").paragraphs))
    text = block_over("t", HoldsStory(story=story, columns=columns), rows=story_rows)
    panel = replace(block_over("p", HoldsPanel(), (2, 3), (1, 2)), wrap=wrap)
    return with_page(job, replace(job.pages[4], things=(text, panel)))


def _text(job: Publication) -> list[Glyphs]:
    return [m for m in Setter().spread(job, spread_of(job, 5)).marks if isinstance(m, Glyphs) and m.origin.block == "t"]


def _ends(mark: Glyphs) -> tuple[float, float]:
    drawn = face(mark.face)
    last = drawn.ink_of(int(mark.gids[-1]))
    return float(mark.xs[0]), float(mark.xs[-1]) + mark.size * last[2]


@pytest.mark.parametrize("shape", ["box", "ellipse"])
@pytest.mark.parametrize("side", ["both", "left", "right", "larger"])
def test_no_line_enters_what_it_keeps_off(shape: str, side: str) -> None:
    wrap = Wrap(shape=shape, side=side, offset=length("3mm"))  # type: ignore[arg-type]
    job = _job(wrap=wrap)
    box = block_box(job, 5, job.pages[4].blocks[1])
    beside = 0
    for mark in _text(job):
        if not box.top + 8 < mark.baseline < box.bottom - 2:
            continue
        left, right = _ends(mark)
        if shape == "box":
            assert right <= box.left - 8 or left >= box.right + 8, (mark.baseline, left, right)
        middle = sum(box[::2]) / 2
        assert not left < middle < right
        beside += 1
        if side in ("left", "right"):
            assert (right <= middle) == (side == "left")
    assert beside > 4


def test_without_a_wrap_text_runs_under() -> None:
    job = _job()
    box = block_box(job, 5, job.pages[4].blocks[1])
    through = [m for m in _text(job) if box.top < m.baseline < box.bottom]
    assert any(_ends(m)[0] < box.left and _ends(m)[1] > box.right for m in through)


@settings(max_examples=40, deadline=None)
@given(
    st.floats(-40, 320),
    st.floats(10, 200),
    st.floats(-20, 200),
    st.floats(20, 200),
    st.floats(0, 12),
    st.sampled_from(["box", "ellipse"]),
    st.sampled_from(["both", "left", "right", "larger"]),
)
def test_slots_lie_in_the_column_and_off_the_obstacle(
    left: float, width: float, top: float, height: float, off: float, shape: str, side: str
) -> None:
    wrap = Wrap(shape=shape, side=side, offset=length(f"{off:.3f}pt"))  # type: ignore[arg-type]
    obstacle = Obstacle(Rect(left, top, left + width, top + height), wrap)
    found = slots(COLUMN, CAP, 20, BASE, [obstacle])
    if found is None:
        return
    for slot in found:
        assert slot.left >= COLUMN.left - 1e-6 and slot.left + slot.width <= COLUMN.right + 1e-6
        baseline = CAP + slot.line * STEP
        blocked = obstacle.blocked(baseline - CAP, baseline + STEP / 4)
        if blocked is not None:
            assert slot.left >= blocked[1] - 1e-6 or slot.left + slot.width <= blocked[0] + 1e-6
    assert [s.line for s in found] == sorted(s.line for s in found)
    assert all(a.line < b.line or side == "both" for a, b in pairwise(found))


def test_an_ellipse_lets_lines_nearer_at_its_ends_than_at_its_waist() -> None:
    wrap = Wrap(shape="ellipse", side="left", offset=length("0pt"))
    found = slots(COLUMN, CAP, 20, BASE, [Obstacle(Rect(150, 13, 300, 247), wrap)])
    assert found is not None
    widths = [slot.width for slot in found if 2 <= slot.line <= 17]
    assert min(widths) == pytest.approx(150) and widths[0] > 175 and widths[-1] > 175
    assert widths.index(min(widths)) in range(6, 10)


def test_an_outline_follows_the_picture_and_not_its_box() -> None:
    image = Image.new("RGBA", (200, 200), (0, 0, 0, 0))
    ImageDraw.Draw(image).polygon([(100, 0), (200, 199), (0, 199)], fill=(200, 40, 40, 255))
    outline = outline_of(image)
    assert len(outline) == BANDS
    assert outline[-1] == pytest.approx((0.0, 1.0), abs=0.02)
    assert outline[BANDS // 2][0] == pytest.approx(0.25, abs=0.02)
    bands = tuple((a * 150 + 150, b * 150 + 150) for a, b in outline)
    wrap = Wrap(shape="outline", side="left", offset=length("0pt"))
    found = slots(COLUMN, CAP, 20, BASE, [Obstacle(Rect(150, 0, 300, 260), wrap, bands)])
    assert found is not None
    widths = [slot.width for slot in found]
    assert widths == sorted(widths, reverse=True) and widths[0] > 205 and widths[-1] < 155
    assert outline_of(Image.new("RGBA", (10, 10), (0, 0, 0, 0)))[0] == (0.0, 0.0)


def test_a_drop_cap_stands_on_the_line_it_is_deep_and_its_top_on_the_first() -> None:
    job = _job(drop_lines="3")
    marks = _text(job)
    role = role_named(job, "body")
    style = style_of(role, "en_GB")
    big = [m for m in marks if m.size > 3 * style.size]
    first = min(m.baseline for m in marks)
    step = role.leading.pt
    assert len(big) == 2  # one a paragraph
    drop = big[0]
    assert drop.baseline == pytest.approx(first + 2 * step)
    top = drop.baseline - style.face.cap_height * drop.size
    assert top == pytest.approx(first - style.face.cap_height * style.size, abs=0.01)
    lines = sorted({m.baseline for m in marks})[:4]
    starts = [min(m.xs[0] for m in marks if m.baseline == y and m.size < 20) for y in lines]
    assert starts[0] == pytest.approx(starts[2]) and starts[3] < starts[0] - 10
    stem = drop.xs[0] + drop.size * style.face.ink_of(int(drop.gids[0]))[0]
    assert stem == pytest.approx(starts[3], abs=0.01)  # the stem, not its bearing, stands on the edge


def test_a_drop_cap_is_no_deeper_than_its_paragraph() -> None:
    job = _job(drop_lines="4")
    short, story = add_story(
        job, "Short", tuple(read_plain("Two short lines of text that turn once at this measure. " * 2).paragraphs)
    )
    page = job.pages[4]
    narrow = replace(page.blocks[0].place, right=in_field(2, 6))
    text = replace(page.blocks[0], holds=HoldsStory(story=story), place=narrow)
    marks = _text(with_page(short, replace(page, things=(text,))))
    assert len({m.baseline for m in marks}) == 3 or all(m.size < 30 for m in marks)


def test_the_hand_worked_size_of_a_drop_cap() -> None:
    style = style_of(role_named(start("book", "D"), "body"), "en_GB")
    paragraph = read_plain("Nothing").paragraphs[0]
    drop = drop_for(paragraph, style, 3, 14.0)
    assert drop is not None
    cap = style.face.cap_height
    assert drop.size == pytest.approx((2 * 14 + cap * 11) / cap)
    quoted = drop_for(read_plain("“Nothing”").paragraphs[0], style, 3, 14.0)
    assert quoted is not None and quoted.piece.text == "“N"
    assert drop_for(read_plain("x").paragraphs[0], style, 1, 14.0) is None


def test_opening_words_are_set_in_their_manner() -> None:
    job = _job(opening_words="3", opening="bold")
    bold = [m for m in _text(job) if m.face.endswith("SemiBold")]
    assert len(bold) == 2
    assert all("".join(m.texts).split() == ["The", "orchard", "keeps"] for m in bold)


def test_rules_stand_above_and_below_their_paragraphs() -> None:
    job = _job(rule_above="0.5pt", rule_below="1pt")
    lines = [m for m in Setter().spread(job, spread_of(job, 5)).marks if isinstance(m, Line) and m.origin.block == "t"]
    assert [line.weight for line in lines] == [0.5, 1.0, 0.5, 1.0]
    baselines = sorted({m.baseline for m in _text(job)})
    assert lines[0].start[1] < baselines[0] - 6 and lines[1].start[1] > baselines[0]


def test_columns_made_even_differ_by_a_line_at_most() -> None:
    job = _job(columns=3)
    page = job.pages[4]
    text = page.blocks[0]
    assert isinstance(text.holds, HoldsStory)
    even = with_page(job, replace(page, things=(replace(text, holds=replace(text.holds, balanced=True)),)))
    uneven = with_page(job, replace(page, things=(text,)))

    def counts(publication: Publication) -> list[int]:
        story = text.holds.story  # type: ignore[union-attr]
        found = Setter().threads.flow(publication, story)
        return [sum(c.end - c.start for c in found.chunks if c.column == i) for i in range(3)]

    assert sum(counts(even)) == pytest.approx(sum(counts(uneven)), abs=1)
    assert max(counts(uneven)) - min(counts(uneven)) > 5
    assert max(counts(even)) - min(counts(even)) <= 2


def test_columns_round_something_are_made_even_in_depth() -> None:
    wrap = Wrap(shape="box", side="larger", offset=length("3mm"))
    job = _job(columns=3, wrap=wrap)
    page = job.pages[4]
    text = page.blocks[0]
    assert isinstance(text.holds, HoldsStory)
    even = replace(text, holds=replace(text.holds, balanced=True))
    job = with_page(job, replace(page, things=(even, page.blocks[1])))
    found = Setter().threads.flow(job, text.holds.story)
    assert not found.over_lines
    ends = [
        max(found.columns[i].slot(c.at + c.end - c.start - 1).line for c in found.chunks if c.column == i)
        for i in range(3)
    ]
    assert max(ends) - min(ends) <= 2, ends


def test_one_setter_gives_even_columns_what_a_fresh_one_gives_edit_upon_edit() -> None:
    job, setter = _job(columns=3), Setter()
    text = job.pages[4].blocks[0]
    assert isinstance(text.holds, HoldsStory)
    name = text.holds.story

    def told(publication: Publication, by: Setter) -> list[tuple[int, int, int, int]]:
        return [(c.column, c.at, c.start, c.end) for c in by.threads.flow(publication, name).chunks]

    for words in ("", "A few words more. ", "And a good many more of them, so that a line is gained. " * 4, ""):
        story = story_of(job, name)
        added = (*story.paragraphs[:1], *read_plain(words or WORDS).paragraphs, *story.paragraphs[1:2])
        job = with_story(job, replace(story, paragraphs=added))
        for even in (True, False, True):
            block = replace(text, holds=replace(text.holds, balanced=even))
            job = with_page(job, replace(job.pages[4], things=(block,)))
            assert told(job, setter) == told(job, Setter()), (words[:10], even)


# Outlines of forms, and of what is turned -------------------------------------------------------------------


def _blocked(block: Block, y: float, box: Rect) -> tuple[float, float] | None:
    job = start("magazine", "Wraps")
    wrap = Wrap(shape="outline", offset=length("0mm"))
    placed = replace(block, wrap=wrap, place=in_rect(block.place, box, frames_of(job, 3)))
    page = replace(job.pages[2], things=(placed,))
    return obstacle_of(with_page(job, page), 3, placed, wrap).blocked(y, y + 0.5)


@pytest.mark.parametrize("y", [12.0, 30.0, 50.0, 77.0, 88.0])
def test_text_keeps_off_the_form_of_a_panel(y: float) -> None:
    box = Rect(0, 0, 100, 100)
    circle = _blocked(block_over("p", HoldsPanel(form=Form(kind="circle"))), y, box)
    half = math.sqrt(2500 - (y - 50) ** 2)
    assert circle == pytest.approx((50 - half, 50 + half), abs=2.0)
    banner = _blocked(block_over("p", HoldsPanel(form=Form(kind="banner", depth=40))), y, box)
    notch = 40 * (1 - abs(y - 50) / 50)
    assert banner == pytest.approx((notch, 100 - notch), abs=2.0)
    upper = _blocked(block_over("p", HoldsPanel(form=Form(slice=((0, 0.6), (1, 0.6))))), y, box)
    assert (upper is not None) == (y < 60)


def test_text_keeps_off_a_turned_panel_where_it_really_lies() -> None:
    square = replace(block_over("p", HoldsPanel()), angle=45.0)
    box, reach = Rect(0, 0, 100, 100), 50 * math.sqrt(2)
    for y in (-15.0, 20.0, 50.0, 95.0):
        half = reach - abs(y - 50)
        assert _blocked(square, y, box) == pytest.approx((50 - half, 50 + half), abs=2.5)
    assert _blocked(square, -40.0, box) is None


def test_columns_that_are_kept_are_those_that_would_be_made(demo: Path) -> None:
    """Whatever they follow from is edited in turn: neighbours that text keeps off, masters, roles, sizes, languages."""
    job = open_job(demo, to_write=False).publication
    stories = [(number, block) for number, page in enumerate(job.pages, 1) for block in page.blocks
               if isinstance(block.holds, HoldsStory)]  # fmt: skip
    number, block = stories[0]
    across = facing(job, number)
    over = block_over("off", HoldsPanel(ink="russet"), (0, 5), (2, 4))
    reach = {"left" if on_right(job, across) else "right": in_field(3, 6, facing=True)}
    wrapped = replace(over, place=replace(over.place, **reach), wrap=Wrap(offset=length("4mm")))
    own = replace(block_over("own", HoldsPanel(ink="russet"), (1, 4), (3, 5)), wrap=Wrap())
    edits: list[Callable[[Publication], Publication]] = [
        lambda p: p,
        lambda p: with_things(p, p.pages[across - 1].id, lambda things: (*things, wrapped)),
        lambda p: set_path(p, "block.off.wrap.offset", "9mm"),
        lambda p: with_things(p, p.pages[number - 1].id, lambda things: (*things, own)),
        lambda p: set_path(p, "block.off.angle", "30"),
        lambda p: set_path(p, f"master.{p.pages[number - 1].master}.outside", "31mm"),
        lambda p: set_path(p, "role.body.leading", "15pt"),
        lambda p: set_path(p, "trim", "210x280mm"),
        lambda p: set_path(p, f"block.{block.id}.columns", "3"),
        lambda p: set_path(p, "bound", "right"),
        lambda p: with_story(p, replace(story_of(p, block.holds.story), language="he")),  # type: ignore[union-attr]
        lambda p: add_pages(p, 0, 2),
    ]
    for edit in edits:
        job = edit(job)
        for at, page in enumerate(job.pages, 1):
            for each in page.blocks:
                if isinstance(each.holds, HoldsStory):
                    assert columns_of(job, at, each) == _columns_of(job, at, each)
