"""Photo books drafted and features laid: what is said before, what comes of it, and that a designer's rules hold."""

from itertools import pairwise
from pathlib import Path

import pytest
from benchmarks.book import made_up, rules
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.arrange.chapters import Chapter, sequence
from half_fold.core.arrange.draft import Plan, Wishes, draft_book, match_draft, planned
from half_fold.core.arrange.feature import fill_feature, pages_from, spreads_for
from half_fold.core.arrange.finding import arranged
from half_fold.core.arrange.fitness import NO_PICTURE, Item
from half_fold.core.arrange.giving_room import every_remedy, giving_room
from half_fold.core.arrange.items import items_of
from half_fold.core.arrange.laying import lay_arrangement
from half_fold.core.arrange.rhythm import MOST, pictures_by_spread, usual_count
from half_fold.core.arrange.room import room_of
from half_fold.core.arrange.texts import columns_in, cost_of, text_asked
from half_fold.core.compiled.compiling import load
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.told import Told, told_of_all
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import spread_of, spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    HoldsDisplay,
    HoldsPicture,
    HoldsStory,
    Paragraph,
    Picture,
    Publication,
    Run,
    Worth,
)
from half_fold.core.publication.surgery import page_of_block, with_things
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.threads import thread
from half_fold.core.spread.where.frames import blocks_on, hull_of
from half_fold.core.store.demo import HARVEST, make_demo
from half_fold.core.store.job import open_job
from tests.blocks import block_over


@pytest.fixture(autouse=True, scope="module")
def _compiled() -> None:
    load()


def _picture(name: int, worth: Worth = "", wide: int = 6000, high: int = 4000, caption: str = "") -> Picture:
    return Picture(
        id=f"picture{name}", file=f"{name}.jpg", width=wide, height=high, digest=str(name), worth=worth, caption=caption
    )


def _told(hours: list[float], place: str = "") -> dict[str, Told]:
    """Pictures so many hours after midnight of the first of May, each unlike the others."""
    return {
        str(n): Told(
            taken=f"2026-05-{1 + int(hour // 24):02d} {int(hour % 24):02d}:{int(hour % 1 * 60):02d}:00",
            parts=tuple(float((n * 37 + k * 11) % 100) for k in range(108)),
            sharp=100 - n,
            place=place,
        )
        for n, hour in enumerate(hours)
    }


# Chapters -------------------------------------------------------------------------------------------------------------


def test_chapters_end_where_a_night_lies_between_and_are_called_by_their_day() -> None:
    hours = [9, 9.5, 10, 10.2, 11, 32, 32.5, 33, 34, 35]
    found = sequence([_picture(n) for n in range(10)], _told(hours))
    assert [len(chapter.pictures) for chapter in found.chapters] == [5, 5]
    assert [chapter.title for chapter in found.chapters] == ["1 May", "2 May"]
    assert not found.left_out
    by_place = sequence([_picture(n) for n in range(5)], _told(hours[:5], "Long Acre"))
    assert [chapter.title for chapter in by_place.chapters] == ["Long Acre"]


def test_pictures_come_in_the_order_of_their_time_and_the_sharpest_of_each_stack_stands_for_it() -> None:
    told = _told([12, 9, 10, 11])
    told["3"] = replace(told["0"], taken="2026-05-01 12:00:02", sharp=50.0)
    found = sequence([_picture(n) for n in range(4)], told)
    assert [picture.id for picture in found.chapters[0].pictures] == ["picture1", "picture2", "picture0"]
    assert [(picture.id, reason) for picture, reason in found.left_out] == [("picture3", "nearly the same as 0.jpg")]
    told["3"] = replace(told["3"])
    worth_more = sequence([*(_picture(n) for n in range(3)), _picture(3, "opens")], told)
    assert worth_more.left_out[0][0].id == "picture0"


def test_of_two_copies_of_a_picture_the_larger_stands_for_both() -> None:
    told = _told([9, 10, 11])
    told["3"] = replace(told["0"], sharp=told["0"].sharp - 2)
    found = sequence([*(_picture(n, wide=3000, high=2000) for n in range(3)), _picture(3)], told)
    assert [picture.id for picture, _ in found.left_out] == ["picture0"]


def test_what_is_left_out_is_said_with_its_reason() -> None:
    pictures = [_picture(0), _picture(1, "left out"), _picture(2, wide=300, high=200), _picture(3), _picture(4)]
    found = sequence(pictures, _told([9, 10, 11, 12, 13]), used={"picture3"}, least_side=400)
    assert {picture.id: reason for picture, reason in found.left_out} == {
        "picture1": "said to be left out",
        "picture2": "too few pixels even for the smallest place",
        "picture3": "laid already",
    }


# Rhythm ---------------------------------------------------------------------------------------------------------------


def _chapter(worths: str, breaks: float = 0.0) -> Chapter:
    kinds: dict[str, Worth] = {".": "", "o": "opens", "f": "fills"}
    pictures = tuple(_picture(n, kinds[letter]) for n, letter in enumerate(worths))
    return Chapter("", pictures, (*(breaks for _ in worths[1:]), 1.0))


@settings(max_examples=40, deadline=None)
@given(st.lists(st.integers(1, 40), min_size=1, max_size=4), st.integers(0, 100), st.integers(0, 60))
def test_every_picture_is_on_one_spread_and_no_spread_is_crowded(sizes: list[int], pace: int, spreads: int) -> None:
    chapters = [_chapter("." * size) for size in sizes]
    groups = pictures_by_spread(chapters, pace, spreads)
    assert [sum(group) for group in groups] == sizes
    assert all(1 <= count <= MOST for group in groups for count in group)
    total = sum(map(len, groups))
    least = sum(-(-size // MOST) for size in sizes)
    if spreads:
        assert total == min(max(spreads, least), sum(sizes))


def test_the_pace_says_how_many_lie_on_a_spread_and_neighbours_differ() -> None:
    slow, quick = (pictures_by_spread([_chapter("." * 60)], pace)[0] for pace in (5, 95))
    assert 60 / len(slow) == pytest.approx(usual_count(5), rel=0.5)
    assert 60 / len(quick) == pytest.approx(usual_count(95), rel=0.35)
    assert sum(a == b for a, b in pairwise(slow)) <= len(slow) // 4


def test_a_picture_that_opens_is_seen_alone_or_nearly_so() -> None:
    groups = pictures_by_spread([_chapter("....o......o....")], 60)[0]
    starts = [sum(groups[:n]) for n in range(len(groups))]
    for at in (4, 11):
        holding = max(n for n, first in enumerate(starts) if first <= at)
        assert groups[holding] <= 2


# The draft ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("count", [40, 120])
@pytest.mark.parametrize("asked", [["binding=boards"], ["binding=perfect"], ["binding=perfect", "trim=210x210mm"]])
def test_the_rules_of_a_designer_hold_in_books_drafted_from_made_up_sets(count: int, asked: list[str]) -> None:
    job, told = made_up(count, count + len(asked))
    job = set_values(job, asked)
    wishes = Wishes(pace=60)
    made = draft_book(job, told, planned(job, told, wishes), wishes)
    failing = {rule: said for rule, said in rules(job, made, told).items() if said}
    assert not failing


def test_what_is_said_before_is_what_comes_and_the_same_each_time() -> None:
    job, told = made_up(40, 7)
    wishes = Wishes(pages=32, pace=40)
    plan = planned(job, told, wishes)
    made = draft_book(job, told, plan, wishes)
    assert len(made.pages) == plan.pages >= 32 and not binding_report(made).stops_press
    assert used_pictures(made) == {picture.id for each in plan.spreads for picture in each.pictures}
    assert str(plan.pages) in plan.words and "left out" in plan.words
    assert draft_book(job, told, planned(job, told, wishes), wishes) == made
    assert made.manner == job.manner


@pytest.mark.parametrize("pages", [20, 36, 64])
def test_so_many_pages_are_made_as_are_asked_for_where_they_can_be_bound(pages: int) -> None:
    job, told = made_up(40, 3)
    plan = planned(set_values(job, ["binding=perfect"]), told, Wishes(pages=pages))
    assert plan.pages == pages and "asked for" not in plan.words
    crowded = planned(set_values(job, ["binding=perfect"]), told, Wishes(pages=8))
    assert crowded.pages > 8 and "(8 were asked for)" in crowded.words


def test_what_lies_there_stays_and_its_pictures_come_no_second_time() -> None:
    job, told = made_up(40, 5)
    held = block_over("b7", HoldsPicture(picture=job.pictures[3].id), (0, 5), (0, 3), (6, 4))
    job = with_things(job, job.pages[3].id, lambda _: (held,))
    wishes = Wishes()
    plan = planned(job, told, wishes)
    made = draft_book(job, told, plan, wishes)
    assert made.pages[3].things == job.pages[3].things
    assert job.pictures[3].id not in {picture.id for each in plan.spreads for picture in each.pictures}
    assert any(reason == "laid already" for _, reason in plan.left_out)


def test_a_draft_that_is_stopped_changes_nothing_and_progress_tells_the_truth() -> None:
    job, told = made_up(40, 2)
    plan, seen = planned(job, told, Wishes()), []
    assert draft_book(job, told, plan, Wishes(), lambda: len(seen) < 3, lambda done, of: seen.append((done, of))) is job
    assert seen == [(n, len(plan.spreads)) for n in range(3)]


def test_a_draft_of_nothing_or_of_no_pages_is_refused() -> None:
    job = start("photo-book", "Nothing")
    with pytest.raises(Problem, match="no picture"):
        planned(job, {}, Wishes())
    with pytest.raises(Problem, match="pages"):
        planned(job, {}, Wishes(pages=3))


def test_a_picture_that_opens_by_itself_is_seen_over_both_pages(tmp_path: Path) -> None:
    job = set_values(start("photo-book", "One"), ["binding=boards"])
    pictures = (_picture(0, "opens", 9000, 3600), *(_picture(n) for n in range(1, 7)))
    job, told = replace(job, pictures=pictures), _told([9, 10, 11, 12, 13, 14, 15])
    told["0"] = replace(told["0"], focus=(0.25, 0.5))
    made = draft_book(job, told, planned(job, told, Wishes()), Wishes())
    name = next(b.id for page in made.pages for b in page.blocks
                if isinstance(b.holds, HoldsPicture) and b.holds.picture == "picture0")  # fmt: skip
    index, _, block = page_of_block(made, name)
    box = hull_of(made, index + 1, block)
    assert box.left < 0 < box.right


def test_a_folio_under_which_a_picture_comes_to_lie_is_left_off() -> None:
    job, told = made_up(40, 11)
    wishes = Wishes(bleed=100, pace=60)
    made = draft_book(job, told, planned(job, told, wishes), wishes)
    assert any(page.furniture == "off" for page in made.pages)
    for spread in spreads_of(made):
        own = {block.id for _, _, block in blocks_on(made, spread)}
        boxes = [hull_of(made, n, b) for n, _, b in blocks_on(made, spread) if isinstance(b.holds, HoldsPicture)]
        for mark in leaves(Setter().spread(made, spread).marks):
            if isinstance(mark, Glyphs) and mark.origin.block not in own:
                assert not any(bounds(mark).meets(box) for box in boxes)


def test_chapters_open_with_a_title_and_captions_stand_in_the_white(tmp_path: Path) -> None:
    job, told = made_up(120, 9)
    plan = planned(job, told, Wishes())
    titles = [each.title for each in plan.spreads if each.title]
    made = draft_book(job, told, plan, Wishes())
    words = {
        paragraph.text
        for page in made.pages
        for block in page.blocks
        if isinstance(block.holds, HoldsDisplay)
        for paragraph in block.holds.paragraphs
    }
    assert len(titles) > 1 and {*titles, job.title, "{captions}"} <= words
    bare = draft_book(job, told, planned(job, told, Wishes(openers=False)), Wishes(openers=False, captions=False))
    assert not any(isinstance(block.holds, HoldsDisplay) for page in bare.pages for block in page.blocks)


def test_the_demos_pictures_make_a_book_and_are_matched_in_it(tmp_path: Path) -> None:
    job = open_job(make_demo(tmp_path, HARVEST), to_write=False)
    try:
        book = replace(
            job.publication,
            pages=tuple(replace(page, things=()) for page in job.publication.pages),
        )
        told = told_of_all(job.pictures, book.pictures)
        plan: Plan = planned(book, told, Wishes())
        made = draft_book(book, told, plan, Wishes())
        after = match_draft(made, plan, job.pictures, 60)
        treated = [
            b for page in after.pages for b in page.blocks if isinstance(b.holds, HoldsPicture) and b.holds.treatment
        ]
        assert len(treated) > 5 and plan.astray > 0
    finally:
        job.close()


# Words among pictures -------------------------------------------------------------------------------------------------

TEXT = "The barn stands at the end of the yard and is older than the house. “Nobody has ever counted its beams twice.” "


def _magazine(paragraphs: int = 12, pictures: int = 4) -> tuple[Publication, str]:
    job = set_values(start("magazine", "Graftwood"), ["pages=24"])
    made = [Paragraph(role="body", runs=(Run(text=TEXT * 5),)) for _ in range(paragraphs)]
    job, story = add_story(job, "The long barn", tuple(made))
    return replace(job, pictures=tuple(_picture(n, wide=3000, high=2200) for n in range(pictures))), story


def test_words_keep_to_the_margins_of_one_page_and_go_in() -> None:
    job, _ = _magazine()
    words = block_over("b1", display_words("headline", "The long barn in winter"), (0, 5), (0, 1))
    job = with_things(job, job.pages[3].id, lambda _: (words,))
    items = items_of(job, ["b1"], ["picture0", "picture1"], {})
    assert items[0].text is not None and items[0].turn < 0
    for each in arranged(job, (4, 5), items):
        at = next(n for n, item in enumerate(each.items) if item.text is not None)
        box = each.room.seen[each.rects[at]]
        assert each.room.rects[each.rects[at]][4] == 0
        assert each.room.fold is not None and (box[2] <= each.room.fold or box[0] >= each.room.fold)
        assert (box[2] - box[0]) * (box[3] - box[1]) >= items[0].text.area
        made, _ = lay_arrangement(job, each)
        assert sum(len(page.things) for page in made.pages) == 3


def test_running_text_stands_in_columns_that_read_well() -> None:
    job, story = _magazine()
    block = block_over("b1", HoldsStory(story=story), (0, 5), (0, 7))
    job = with_things(job, job.pages[3].id, lambda _: (block,))
    text = text_asked(job, block, 90_000)
    assert text is not None and text.runs
    for width in (150, 250, 400, 520):
        measure = (width - (columns_in(text, width) - 1) * text.gutter) / columns_in(text, width)
        assert text.least * 0.7 <= measure <= text.most * 1.3
    room = room_of(job, (4, 5))
    item = Item(NO_PICTURE, 0, "b1", text=text)
    best = int(cost_of(room, text).argmin())
    area = (room.seen[best][2] - room.seen[best][0]) * (room.seen[best][3] - room.seen[best][1])
    assert area == pytest.approx(90_000, rel=0.35) and item.rating < 0


def test_a_feature_fills_its_spreads_to_a_few_lines_and_its_pictures_lie_among_them() -> None:
    job, story = _magazine(paragraphs=16)
    setter = Setter()
    pages = pages_from(job, 4, 3)
    assert pages == (4, 5, 6, 7, 8, 9) and 1 <= spreads_for(job, 4, story) <= 4
    made, words = fill_feature(job, setter, pages, story, [p.id for p in job.pictures], {})
    flow = setter.threads.flow(made, story)
    assert not flow.over_lines and flow.room < 40 and words
    assert {number for number, _ in thread(made, story)} <= set(pages)
    held = [block.holds for n in pages[::2] for _, _, block in blocks_on(made, spread_of(made, n))]
    assert sum(isinstance(each, HoldsPicture) for each in held) == 4
    roles = [each.paragraphs[0].role for each in held if isinstance(each, HoldsDisplay)]
    assert "headline" in roles and "pull quote" in roles
    with pytest.raises(Problem, match="on pages already"):
        fill_feature(made, setter, pages, story, [], {})


def test_a_picture_comes_near_the_words_that_name_it() -> None:
    job, story = _magazine(paragraphs=12, pictures=2)
    record = next(each for each in job.stories if each.id == story)
    last = Paragraph(role="body", runs=(Run(text="Ladders, baskets and windfalls in the evening orchard. " * 4),))
    job = replace(
        job,
        stories=tuple(
            replace(s, paragraphs=(*record.paragraphs[:-1], last)) if s.id == story else s for s in job.stories
        ),
        pictures=(
            replace(job.pictures[0], caption="Ladders and baskets in the evening orchard"),
            job.pictures[1],
        ),
    )
    made, _ = fill_feature(job, Setter(), (4, 5, 6, 7, 8, 9), story, [p.id for p in job.pictures], {})
    on_last = [block.holds for _, _, block in blocks_on(made, spread_of(made, 8))]
    assert any(isinstance(each, HoldsPicture) and each.picture == "picture0" for each in on_last)


def test_a_story_that_is_over_gets_room_from_pictures_that_lie_anew(tmp_path: Path) -> None:
    job, story = _magazine(paragraphs=5)
    picture = block_over("b1", HoldsPicture(picture="picture0"), (0, 5), (0, 6), (6, 8))
    text = block_over("b2", HoldsStory(story=story, columns=2), (0, 3), (7, 7), (6, 8))
    job = with_things(job, job.pages[3].id, lambda _: (picture, text))
    setter = Setter()
    over = setter.threads.flow(job, story).over_lines
    assert over
    found = giving_room(job, setter, story, {})
    assert found and all(not setter.threads.flow(made, story).over_lines for _, made in found)
    offered = every_remedy(job, setter, story, tmp_path)
    assert any(each.words.startswith("Arrange") for each in offered)
    assert [each.rank for each in offered] == sorted(each.rank for each in offered)
