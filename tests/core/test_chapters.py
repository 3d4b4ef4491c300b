"""Roles that begin columns, pages and rectos; the chapter a page belongs to; what parts scenes."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Publication, Role, Run, Story
from half_fold.core.publication.surgery import with_things
from half_fold.core.spread.edits.placing import continue_story, place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.flow.columns import Column
from half_fold.core.typesetting.flow.flow import Flow, flow
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.marks.laying import spacing
from half_fold.core.typesetting.texts.markdown_out import to_markdown
from half_fold.core.typesetting.texts.text_in import read_markdown, read_plain, read_text_file
from tests.conftest import judge

COMPOSER = Composer()
TEXT = "The marsh path ran east past sluice and reed bed toward a low house where lamps were lit before dusk. "
BODY = Role(name="body", label="Body")
ROLES = {
    "body": BODY,
    **{name: replace(BODY, name=name, begins=name, before=3, after=1) for name in ("column", "page", "recto")},
}


def _story(*told: tuple[str, int]) -> Story:
    paragraphs = (Paragraph(role=role, runs=(Run(text=TEXT * long),)) for role, long in told)
    return Story(id="s", title="S", paragraphs=tuple(paragraphs))


def _columns(count: int = 24, lines: int = 12, a_page: int = 2) -> list[Column]:
    return [Column(f"b{i}", Rect(0, 0, 200, 900), 10.0, lines, 1 + i // a_page) for i in range(count)]


def _set(story: Story, columns: list[Column] | tuple[Column, ...], before: Flow | None = None) -> Flow:
    return flow(COMPOSER, story, ROLES.__getitem__, columns, 13.0, before)


def _begun(found: Flow) -> list[tuple[int, int, int]]:
    """(column, page, empty lines over it) of the first line of every paragraph."""
    return [(c.column, found.columns[c.column].page, c.at) for c in found.chunks if c.start == 0]


def test_where_paragraphs_begin_that_ask_for_a_column_a_page_or_a_recto() -> None:
    found = _set(_story(("body", 1), ("column", 1), ("page", 1), ("recto", 1), ("recto", 1), ("body", 1)), _columns())
    columns, pages, over = zip(*_begun(found), strict=True)
    assert columns == (0, 1, 2, 4, 8, 8)
    assert pages == (1, 1, 2, 3, 5, 5)
    assert over[:5] == (0, 3, 3, 3, 3)  # the lines before are kept at the head of what they begin


def test_a_story_that_begins_with_one_leaves_nothing_blank_but_before_a_recto() -> None:
    assert [_begun(_set(_story((role, 1)), _columns()))[0][1] for role in ("column", "page", "recto")] == [1, 1, 1]
    from_a_verso = _columns()[2:]
    assert [_begun(_set(_story((role, 1)), from_a_verso))[0][1] for role in ("column", "page", "recto")] == [2, 2, 3]


def test_more_lines_before_than_a_column_has_leave_room_for_one() -> None:
    roles = {"tall": replace(BODY, name="tall", begins="page", before=60)}
    found = flow(COMPOSER, _story(("tall", 2)), roles.__getitem__, _columns(), 13.0)
    assert not found.over_lines and found.chunks[0].at == 11


def test_what_finds_no_place_to_begin_is_over_with_all_its_words() -> None:
    story = _story(("body", 1), ("recto", 2))
    found = _set(story, _columns(4)[:3])
    assert found.over_words == len((TEXT * 2).split()) and len(found.chunks) == 1


_TOLD = st.lists(st.tuples(st.sampled_from(sorted(ROLES)), st.integers(1, 5)), min_size=1, max_size=9)


@settings(max_examples=60, deadline=None)
@given(_TOLD, st.integers(1, 3), st.integers(4, 16), st.data())
def test_nothing_is_lost_wherever_paragraphs_begin_and_an_edit_sets_as_anew(
    told: list[tuple[str, int]], a_page: int, lines: int, data: st.DataObject
) -> None:
    columns = tuple(_columns(30, lines, a_page))
    found = _set(_story(*told), columns)
    for (role, _), (column, page, over) in zip(told, _begun(found), strict=False):
        assert role == "body" or over == min(3, lines - 1)
        earlier = [columns[c.column].page for c in found.chunks if c.column < column]
        assert role not in ("page", "recto") or page not in earlier
        assert role != "recto" or page % 2
    placed = sum(chunk.lines.words_from(chunk.start) - chunk.lines.words_from(chunk.end) for chunk in found.chunks)
    assert placed + found.over_words == sum(len((TEXT * long).split()) for _, long in told)
    at = data.draw(st.integers(0, len(told) - 1))
    edited = [*told[:at], data.draw(st.tuples(st.sampled_from(sorted(ROLES)), st.integers(1, 5))), *told[at + 1 :]]
    paragraphs = list(found.story.paragraphs)
    paragraphs[at] = _story(edited[at]).paragraphs[0]
    again = _set(replace(found.story, paragraphs=tuple(paragraphs)), found.columns, found)
    anew = _set(_story(*edited), columns)
    assert [(c.column, c.at, c.start, c.end) for c in again.chunks] == [
        (c.column, c.at, c.start, c.end) for c in anew.chunks
    ]
    assert (again.over_lines, again.over_words, again.used) == (anew.over_lines, anew.over_words, anew.used)


NOVEL = "\n\n".join(f"# Chapter {n}\n\n" + "\n\n".join([TEXT * 5] * (4 * n)) for n in range(1, 6))


def _novel(begins: str = "page") -> tuple[Publication, Setter]:
    setter, job = Setter(), start("book", "The Saltings")
    job = replace(
        job, roles=tuple(replace(r, begins=begins) if r.name == "headline" else r for r in job.roles)  # type: ignore[arg-type]
    )  # fmt: skip
    master = job.masters[0]
    head = replace(master.furniture[0], id="f9", words="{chapter}", at="head", role="running foot")
    job = replace(job, masters=(replace(master, furniture=(*master.furniture, head)),))
    return place_story(job, setter, "The Saltings", tuple(read_markdown(NOVEL).paragraphs))[0], setter


@pytest.mark.parametrize("begins", ["page", "recto"])
def test_chapters_of_a_manuscript_begin_pages_and_the_heads_name_them(begins: str, tmp_path: Path) -> None:
    from half_fold.core.press.make import press

    job, setter = _novel(begins)
    press(job, tmp_path, tmp_path / "book.pdf", setter=setter)
    pages = judge("pdftotext", "-layout", tmp_path / "book.pdf", "-").split("\f")
    now, opened = "", []
    for number, text in enumerate(pages, 1):
        lines = [line.strip() for line in text.splitlines() if line.strip()]
        if "The marsh path" not in text:
            assert not lines  # a page left blank before a recto has no folio and no head
            continue
        heads = [line for line in lines if line.startswith("Chapter")]
        assert len(heads) == 1
        if heads[0] != now:
            opened.append(number)
            now = heads[0]
            assert lines.index(now) == 0 and (begins == "page" or number % 2)
        assert lines[0] == now
    assert len(opened) == 5 and now == "Chapter 5"
    assert sum(text.count("The marsh path") for text in pages) == NOVEL.count("The marsh path")


def test_a_page_left_blank_is_filled_again_when_the_chapter_before_grows() -> None:
    job, setter = _novel("recto")
    story = job.stories[0]
    found = setter.threads.flow(job, story.id)
    reached = {found.columns[chunk.column].page for chunk in found.chunks}
    blank = next(n for n in range(1, max(reached)) if n not in reached)
    assert setter.spread(job, spread_of(job, blank)).marks
    last = [c.lines.paragraph for c in found.chunks if found.columns[c.column].page < blank][-1]
    grown = [p for p in story.paragraphs for _ in range(1 + 5 * (p is last))]
    job = replace(job, stories=(replace(story, paragraphs=tuple(grown)),))
    after = setter.threads.flow(job, story.id)
    assert blank in {after.columns[chunk.column].page for chunk in after.chunks}


def test_what_is_alone_on_a_page_keeps_its_furniture_unless_text_passes_over_it() -> None:
    job, setter = _novel("recto")
    found = setter.threads.flow(job, job.stories[0].id)
    reached = {found.columns[chunk.column].page for chunk in found.chunks}
    blank = next(n for n in range(1, max(reached)) if n not in reached)
    spread = spread_of(job, blank)
    before = [mark for mark in setter.spread(job, spread).marks if mark.origin.kind == "furniture"]
    page = job.pages[blank - 1]
    noted = with_things(job, page.id, lambda things: (*things, replace(job.pages[reached.pop() - 1].things[0], id="n")))
    after = [mark for mark in setter.spread(noted, spread).marks if mark.origin.kind == "furniture"]
    assert len(after) > len(before)


def test_a_story_goes_on_over_as_many_pages_as_its_chapters_ask_for() -> None:
    job, setter = _novel("anywhere")
    roles = tuple(replace(r, begins="recto") if r.name in ("headline", "body") else r for r in job.roles)
    job = replace(job, roles=roles)  # every paragraph on a recto of its own: far more pages than the lines ask for
    story = job.stories[0].id
    assert setter.threads.flow(job, story).over_lines
    after = continue_story(job, setter, story)
    found = setter.threads.flow(after, story)
    assert not found.over_lines and len({c.column for c in found.chunks if not c.start}) == len(found.story.paragraphs)


@pytest.mark.parametrize("begins", ["anywhere", "page", "recto"])
def test_a_line_too_deep_for_any_page_ends_the_placing_and_all_stays_in_the_story(begins: str) -> None:
    job, setter = start("book", "B"), Setter()
    deep = tuple(replace(r, leading=length("700pt"), begins=begins) if r.name == "crosshead" else r for r in job.roles)  # type: ignore[arg-type]
    pages = len(job.pages)
    job, story = place_story(
        replace(job, roles=deep), setter, "S", tuple(read_markdown("One.\n\n## Two\n\nThree.").paragraphs)
    )
    found = setter.threads.flow(job, story)
    assert found.over_words == 2 and len(job.pages) == pages
    full = replace(job, pages=tuple(replace(page, runs="Adverts") for page in job.pages))  # none is free
    assert continue_story(full, setter, story) is full


@pytest.mark.parametrize("stars", ["***", "* * *", "---", "___"])
def test_a_line_drawn_between_paragraphs_parts_scenes_and_goes_out_as_one(stars: str) -> None:
    reading = read_markdown(f"One scene.\n\n{stars}\n\nAnother.\n")
    assert [(p.role, p.text) for p in reading.paragraphs] == [
        ("body", "One scene."), ("break", "* * *"), ("body", "Another."),
    ]  # fmt: skip
    assert not reading.notes
    written, notes = to_markdown(reading.paragraphs)
    assert written == "One scene.\n\n***\n\nAnother.\n" and not notes


@pytest.mark.parametrize("stars", ["***", "* * *", "#", "⁂", "• • •", "———"])
def test_stars_that_stand_alone_in_plain_text_part_scenes(stars: str) -> None:
    roles = [p.role for p in read_plain(f"One scene.\n\n{stars}\n\nAnother # of them.\n\n- no -").paragraphs]
    assert roles == ["body", "break", "body", "body"]


def test_after_what_parts_scenes_no_line_is_indented() -> None:
    job = start("book", "B")
    roles = {role.name: role for role in job.roles}
    paragraphs = tuple(read_markdown(f"{TEXT}\n\n{TEXT}\n\n***\n\n{TEXT}\n\n{TEXT}").paragraphs)
    found = flow(COMPOSER, Story(id="s", title="S", paragraphs=paragraphs), roles.__getitem__, _columns(2, 60), 14.0)
    indented = [spacing(chunk.lines, 0).lead > 0.5 for chunk in found.chunks if chunk.lines.paragraph.role == "body"]
    assert indented == [False, True, False, True]


def test_page_breaks_of_a_document_are_said(tmp_path: Path) -> None:
    import docx

    document = docx.Document()
    document.add_heading("The first", 1)
    document.add_paragraph("Words.").add_run().add_break(docx.enum.text.WD_BREAK.PAGE)
    document.add_heading("The second", 1).paragraph_format.page_break_before = True
    document.add_paragraph("More words.").paragraph_format.page_break_before = False
    document.save(str(tmp_path / "two.docx"))
    reading = read_text_file(tmp_path / "two.docx")
    assert [note for note in reading.notes if note.startswith("2 page breaks, the first in “The first”, were left out")]
    assert [p.text for p in reading.paragraphs] == ["The first", "Words.", "The second", "More words."]


def test_a_role_begins_as_it_was_told_and_is_kept_in_the_file(tmp_path: Path) -> None:
    from half_fold.core.paths.all import set_path
    from half_fold.core.store.codec import decode, encode

    job = start("magazine", "M")
    assert style_of(job.roles[0], "en_GB").begins == "anywhere"
    job = set_path(job, "role.crosshead.begins", "recto")
    kept = decode(encode(job), "m")
    assert next(role for role in kept.roles if role.name == "crosshead").begins == "recto"
    assert np.all([role.begins == "anywhere" for role in kept.roles if role.name != "crosshead"])
