"""Make it fit: every remedy is set for real, does what it says, and leaves the words alone."""

import pytest
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsStory, Publication
from half_fold.core.publication.surgery import role_named, story_of, with_page
from half_fold.core.spread.edits.fitting import FitRemedy, fit_remedies, format_fit_state, limit_at
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.texts.markdown_in import read_plain
from tests.blocks import block_over

SENTENCE = (
    "The orchard keeps its own calendar, and nobody who has pruned in February forgets the frozen fingers of it. "
)


def _job(paragraphs: int, rows: int, columns: int = 2) -> tuple[Publication, str]:
    job = start("magazine", "Fit")
    words = SENTENCE.split()
    several = [" ".join((words * 4)[i % 5 :][: 30 + 7 * i % 19]) + "." for i in range(paragraphs)]
    text = "\n\n".join(several)
    job, story = add_story(job, "Words", tuple(read_plain(text).paragraphs))
    block = block_over("t", HoldsStory(story=story, columns=columns), rows=(0, rows - 1))
    return with_page(job, replace(job.pages[4], things=(block,))), story


def _found(job: Publication, story: str) -> dict[str, FitRemedy]:
    return {remedy.words.split()[0]: remedy for remedy in fit_remedies(job, Setter(), story)}


LONG, STORY = _job(11, 3)


def test_the_story_of_these_tests_is_a_little_too_long() -> None:
    flow = Setter().threads.flow(LONG, STORY)
    assert 0 < flow.over_lines < 8, flow.over_lines
    assert format_fit_state(flow) == f"{flow.over_lines:,} lines over, {flow.over_words:,} words"


def test_every_remedy_makes_it_fit_and_keeps_every_word() -> None:
    found = fit_remedies(LONG, Setter(), STORY)
    assert len(found) >= 5
    assert [r.rank for r in found] == sorted(r.rank for r in found)
    words = [p.text for p in story_of(LONG, STORY).paragraphs]
    for remedy in found:
        if remedy.words.startswith("Cut"):
            assert remedy.publication is LONG
            continue
        assert not Setter().threads.flow(remedy.publication, STORY).over_lines, remedy.words
        assert [p.text for p in story_of(remedy.publication, STORY).paragraphs] == words
        assert remedy.cost


def test_the_size_is_the_largest_that_fits() -> None:
    remedy = _found(LONG, STORY)["Body"]
    size = role_named(remedy.publication, "body").size.pt
    assert size < 10
    from half_fold.core.typesetting.sheet.sheet import set_role

    bigger = set_role(LONG, "body", "size", f"{size + 0.1:.1f}pt")
    assert Setter().threads.flow(bigger, STORY).over_lines


def test_drawing_paragraphs_in_changes_only_those_it_needs() -> None:
    remedy = _found(LONG, STORY).get("1") or next(
        r for r in fit_remedies(LONG, Setter(), STORY) if "drawn in" in r.words
    )
    before, after = story_of(LONG, STORY).paragraphs, story_of(remedy.publication, STORY).paragraphs
    changed = [b for a, b in zip(before, after, strict=True) if a is not b]
    assert 0 < len(changed) <= len(before) and all(-20 <= p.tracking < 0 for p in changed)
    assert remedy.publication.roles is LONG.roles


def test_a_further_block_says_where() -> None:
    remedy = _found(LONG, STORY)["A"]
    pages = {i for i, page in enumerate(remedy.publication.pages, 1) if page.blocks}
    assert pages == {5, 6} and "page 6" in remedy.cost


def test_the_words_to_cut_are_those_without_a_place() -> None:
    remedy = _found(LONG, STORY)["Cut"]
    assert remedy.words == f"Cut {Setter().threads.flow(LONG, STORY).over_words} words"
    paragraph, standing = limit_at(LONG, Setter(), STORY) or (0, 0)
    rest = story_of(LONG, STORY).paragraphs[paragraph:]
    left = sum(len(p.text.split()) for p in rest) - standing
    assert abs(left - Setter().threads.flow(LONG, STORY).over_words) <= 1


def test_a_short_story_is_led_out_or_set_larger_and_says_how_many_words_it_lacks() -> None:
    job, story = _job(9, 3)
    found = _found(job, story)
    assert {"Leading", "Add"} <= set(found) and limit_at(job, Setter(), story) is None
    free = Setter().threads.flow(job, story).room
    for name in ("Leading", "Body"):
        if name in found:
            flow = Setter().threads.flow(found[name].publication, story)
            assert not flow.over_lines and flow.room < free


def test_one_that_fits_needs_nothing_and_one_on_no_page_is_said() -> None:
    job, story = add_story(start("magazine", "Fit"), "Words", tuple(read_plain(SENTENCE).paragraphs))
    with pytest.raises(Problem, match="no block"):
        fit_remedies(job, Setter(), story)
    assert limit_at(job, Setter(), story) is None


def test_the_search_ends_when_it_is_told_to() -> None:
    assert fit_remedies(LONG, Setter(), STORY, lambda: False) == []
