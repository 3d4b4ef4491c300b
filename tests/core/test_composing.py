"""Composed spreads: what is drawn where, and what is kept when something else changes."""

import numpy as np
import pytest
from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, Mark, Origin, PictureMark, Shape, from_block
from half_fold.core.inks.tones import ink
from half_fold.core.measure.entry import MM
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import Spread, spreads
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Holds,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    HoldsStory,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.records import Picture as PictureRecord
from half_fold.core.publication.surgery import with_page, with_story
from half_fold.core.spread.edits.placing import add_story, place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.display_text import display_marks
from half_fold.core.spread.setting.threads import thread
from half_fold.core.spread.where.frames import block_box, page_frame_of
from half_fold.core.typesetting.faces.faces import face
from tests.blocks import block_over

TEXT = "The hedge is cut twice and the ditch is cleared once, in the office of winter and by the efficient few. " * 6
FULL = (Stop(kind="bleed"), Stop(kind="bleed"), Stop(kind="bleed"), Stop(kind="bleed"))


def _paragraphs(count: int, role: str = "body") -> tuple[Paragraph, ...]:
    return tuple(Paragraph(role=role, runs=(Run(text=f"{i} {TEXT}"),)) for i in range(count))


def _put(
    job: Publication, number: int, holds: Holds, columns: tuple[int, int] = (0, 5), rows: tuple[int, int] = (0, 7)
) -> Publication:
    page = job.pages[number - 1]
    block = block_over(f"b{number}-{len(page.blocks)}", holds, columns, rows)
    return with_page(job, replace(page, things=(*page.blocks, block)))


def _runs(marks: tuple[Mark, ...], block: str = "") -> list[Glyphs]:
    return [m for m in marks if isinstance(m, Glyphs) and (not block or m.origin.block == block)]


def _furniture(marks: tuple[Mark, ...]) -> list[Glyphs]:
    return [m for m in marks if isinstance(m, Glyphs) and m.origin.kind == "furniture"]


def _said(runs: list[Glyphs]) -> str:
    return "".join("".join(run.texts) for run in runs)


@pytest.fixture
def job() -> Publication:
    """A story over pages 6 and 7 and one over page 20."""
    made = replace(start("magazine", "Hedge"), season="Winter")
    made, first = add_story(made, "First", _paragraphs(12))
    made, second = add_story(made, "Second", _paragraphs(3))
    made = _put(made, 6, HoldsStory(story=first, columns=3))
    made = _put(made, 7, HoldsStory(story=first, columns=2), rows=(4, 7))
    return _put(made, 20, HoldsStory(story=second, columns=3))


SIX, TWENTY = Spread(6, 7), Spread(20, 21)


def test_every_line_of_a_story_stands_on_the_baseline_grid(job: Publication) -> None:
    marks = Setter().spread(job, SIX).marks
    frame = page_frame_of(job, 6)
    first = frame.area.top + frame.baselines.cap
    steps = [(run.baseline - first) / frame.baselines.step for run in _runs(marks) if run.origin.block.startswith("b")]
    assert len(steps) > 150
    assert np.allclose(steps, np.round(steps), atol=1e-6)
    assert max(steps) <= frame.lines - 1 + 1e-6


def test_columns_start_at_their_own_left_edges(job: Publication) -> None:
    setter = Setter()
    runs = _runs(setter.spread(job, SIX).marks, "b6-0")
    columns = [c for c in setter.threads.flow(job, "story1").columns if c.block == "b6-0"]
    lefts = {round(float(run.xs[0]), 2) for run in runs}
    for column in columns:
        assert round(column.rect.left, 2) in lefts or round(column.rect.left + 10, 2) in lefts
    assert max(float(run.xs[-1]) for run in runs) < columns[-1].rect.right


def test_a_thread_reads_on_from_page_to_page(job: Publication) -> None:
    assert [number for number, _ in thread(job, "story1")] == [6, 7]
    marks = Setter().spread(job, SIX).marks
    said = (_said(_runs(marks, "b6-0")) + _said(_runs(marks, "b7-0"))).replace("\u00ad", "").replace(" ", "")
    whole = "".join(p.text for p in job.stories[0].paragraphs).replace(" ", "")
    assert whole.startswith(said) and len(said) > 3000


def test_furniture_stands_at_the_outer_edge_under_the_text(job: Publication) -> None:
    runs = _furniture(Setter().spread(job, SIX).marks)
    said = {_said([run]): run for run in runs}
    assert set(said) == {"6", "Hedge", "7", "Winter"}
    left, right = page_frame_of(job, 6), page_frame_of(job, 7)
    assert said["6"].xs[0] == pytest.approx(left.area.left)
    assert said["Hedge"].xs[0] > said["6"].xs[0]
    folio = said["7"]
    end = folio.xs[-1] + face(folio.face).shape("7").advances[-1] * folio.size
    assert end == pytest.approx(right.area.right)
    assert all(left.area.bottom < run.baseline < left.trim.bottom - 5 * MM for run in runs)


def test_an_empty_page_has_no_furniture_and_a_full_picture_hides_it(job: Publication) -> None:
    setter = Setter()
    assert not setter.spread(job, Spread(2, 3)).marks
    pictured = replace(job, pictures=(PictureRecord(id="p", file="p.jpg", width=900, height=900, digest="d"),))
    page = pictured.pages[1]
    block = Block(
        id="x", place=Held(left=FULL[0], top=FULL[1], right=FULL[2], bottom=FULL[3]), holds=HoldsPicture(picture="p")
    )
    pictured = with_page(pictured, replace(page, things=(block,)))
    (mark,) = setter.spread(pictured, Spread(2, 3)).marks
    assert isinstance(mark, PictureMark) and mark.clip.left == pytest.approx(-223 * MM) and mark.clip.right == 0
    panelled = with_page(job, replace(page, things=(replace(block, holds=HoldsPanel(ink="straw", tint=50)),)))
    marks = setter.spread(panelled, Spread(2, 3)).marks
    assert isinstance(marks[0], Shape) and "2" in _said(_runs(marks))


@pytest.mark.parametrize(("more", "hides"), [({}, True), ({"scale": "fit"}, False), ({"alpha": True}, False)])
def test_only_a_picture_that_is_seen_all_over_hides_furniture(
    job: Publication, more: dict[str, object], hides: bool
) -> None:
    picture = PictureRecord(id="p", file="p.jpg", width=900, height=90, digest="d", has_alpha=bool(more.get("alpha")))
    holds = HoldsPicture(picture="p", scale=more.get("scale", "fill"))  # type: ignore[arg-type]
    page = job.pages[1]
    block = Block(id="x", place=Held(left=FULL[0], top=FULL[1], right=FULL[2], bottom=FULL[3]), holds=holds)
    made = with_page(replace(job, pictures=(picture,)), replace(page, things=(block,)))
    assert bool(_furniture(Setter().spread(made, Spread(2, 3)).marks)) != hides


@pytest.mark.parametrize("even", [False, True])
def test_single_words_keep_their_own_ink_in_display_text(job: Publication, even: bool) -> None:
    runs = (Run(text="Hedges "), Run(text="laid", ink="loden"))
    holds = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=runs),), even=even)
    made = _put(job, 21, holds, rows=(0, 3))
    said = {run.colour: "" for run in _runs(Setter().spread(made, TWENTY).marks, "b21-0")}
    for run in _runs(Setter().spread(made, TWENTY).marks, "b21-0"):
        said[run.colour] += "".join(run.texts)
    assert said[ink(made, "loden")].strip() == "laid" and len(said) == 2


def test_marks_name_the_block_they_came_from(job: Publication) -> None:
    made = _put(
        job, 21, HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text="Hedges"),)),)), rows=(0, 1)
    )
    made = _put(made, 21, HoldsPanel(ink="loden"), rows=(2, 3))
    made = _put(made, 21, HoldsNothing(), rows=(4, 5))
    origins = [mark.origin for mark in Setter().spread(made, TWENTY).marks]
    named = [from_block(name) for name in ("b20-0", "b21-0", "b21-1")]
    assert {*named, Origin("furniture")} == set(origins)
    assert origins.index(named[1]) < origins.index(named[2])


def test_an_edit_elsewhere_keeps_the_very_same_display_list(job: Publication) -> None:
    setter = Setter()
    six, twenty = setter.spread(job, SIX), setter.spread(job, TWENTY)
    story = job.stories[1]
    edited = with_story(job, replace(story, paragraphs=(*story.paragraphs, *_paragraphs(1))))
    assert setter.spread(edited, SIX) is six
    assert setter.spread(edited, TWENTY) is not twenty
    assert setter.spread(job, TWENTY) is twenty


def test_an_edited_paragraph_alone_is_set_again(job: Publication) -> None:
    setter = Setter()
    before = setter.threads.flow(job, "story1")
    story = job.stories[0]
    changed = replace(story.paragraphs[4], runs=(Run(text="4 Shorter now."),))
    edited = with_story(job, replace(story, paragraphs=(*story.paragraphs[:4], changed, *story.paragraphs[5:])))
    after = setter.threads.flow(edited, "story1")
    old, new = ({id(chunk.lines.paragraph): chunk.lines for chunk in made.chunks} for made in (before, after))
    same = [index for index, p in enumerate(story.paragraphs) if id(p) in new and old[id(p)] is new[id(p)]]
    assert 4 not in same and {0, 1, 2, 3, 5} <= set(same) and id(changed) in new


def test_changing_a_role_re_sets_every_use(job: Publication) -> None:
    setter = Setter()
    before = setter.threads.flow(job, "story2")
    from half_fold.core.measure.length import length

    roles = tuple(replace(r, size=length("9pt")) if r.name == "body" else r for r in job.roles)
    after = setter.threads.flow(replace(job, roles=roles), "story2")
    assert after.used < before.used
    assert all(run.size == 9 for run in _runs(setter.spread(replace(job, roles=roles), TWENTY).marks, "b20-0"))


def test_display_text_stands_at_head_middle_or_foot() -> None:
    setter = Setter()
    baselines = {}
    for stands in ("head", "middle", "foot"):
        holds = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text="Hedges"),)),), stands=stands)  # type: ignore[arg-type]
        job = _put(start("magazine", "D"), 9, holds, rows=(1, 4))
        baselines[stands] = _runs(setter.spread(job, Spread(8, 9)).marks, "b9-0")[0].baseline
    frame = page_frame_of(start("magazine", "D"), 9)
    cap = face("Young Serif/Regular").cap_height * 38
    assert baselines["head"] == pytest.approx(frame.rows[1][0] + cap)
    assert baselines["foot"] == pytest.approx(frame.rows[4][1])
    assert baselines["middle"] == pytest.approx((baselines["head"] + baselines["foot"]) / 2)


def test_a_story_is_placed_on_the_next_free_pages() -> None:
    setter = Setter()
    job = start("magazine", "Placed")
    job = replace(job, pages=tuple(replace(p, runs="Advert") if i in (0, 2) else p for i, p in enumerate(job.pages)))
    head = Paragraph(role="headline", runs=(Run(text="A headline"),))
    placed, story = place_story(job, setter, "A headline", (head, *_paragraphs(40)))
    flow = setter.threads.flow(placed, story)
    pages = sorted({column.page for column in flow.columns})
    assert pages[:2] == [2, 4] and not flow.over_lines
    first = placed.pages[1].blocks
    assert [type(b.holds) for b in first] == [HoldsDisplay, HoldsStory]
    assert _said(_runs(setter.spread(placed, Spread(2, 3)).marks, first[0].id)) == "A headline"
    assert all(
        any(flow.columns[c.column].block == b.id for c in flow.chunks)
        for n in pages
        for b in placed.pages[n - 1].blocks[-1:]
    )


def test_placing_twice_goes_on_behind_the_first() -> None:
    setter = Setter()
    job, one = place_story(start("book", "B"), setter, "One", _paragraphs(3))
    job, two = place_story(job, setter, "Two", _paragraphs(3))
    first = {c.page for c in setter.threads.flow(job, one).columns}
    second = {c.page for c in setter.threads.flow(job, two).columns}
    assert max(first) < min(second)
    ids = [b.id for p in job.pages for b in p.blocks]
    assert len(ids) == len(set(ids))


def test_every_spread_of_every_kind_composes() -> None:
    for kind in ("magazine", "book", "catalogue", "photo-book"):
        setter = Setter()
        job, _ = place_story(start(kind, kind), setter, "S", _paragraphs(8))
        for spread in spreads(len(job.pages)):
            area = setter.spread(job, spread).area
            for run in _runs(setter.spread(job, spread).marks):
                assert area.left < run.xs[0] and run.xs[-1] < area.right and 0 < run.baseline < area.bottom


@pytest.mark.parametrize("trim", ["A6", "A5", "220x285mm", "400x120mm"])
def test_a_placed_headline_fits_its_rows_on_any_trim(trim: str) -> None:
    setter = Setter()
    job = set_values(start("magazine", "Trim"), [f"trim={trim}"])
    head = Paragraph(role="headline", runs=(Run(text="A headline that is of some length, and then goes on a little"),))
    job, _ = place_story(job, setter, "A headline", (head, *_paragraphs(2)))
    block = job.pages[0].blocks[0]
    assert isinstance(block.holds, HoldsDisplay)
    assert not display_marks(setter.composer, job, block, block_box(job, 1, block)).over_lines
    assert block.place.bottom.index + 1 == job.pages[0].blocks[1].place.top.index
