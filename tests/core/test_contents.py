"""Contents: what they list, that their folios follow the pages, and that a designer's own lines stay."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.plan.order import add_pages, remove_pages
from half_fold.core.plan.sections import folio_of, start_section
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Publication, Run, Story
from half_fold.core.publication.surgery import story_of, with_story
from half_fold.core.spread.edits.placing import lay_through, place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.contents import follow_contents, headings, with_contents
from half_fold.core.store.job import create_job, open_job
from half_fold.core.typesetting.texts.text_in import read_markdown
from tests.conftest import judge

TEXT = "The marsh path ran east past sluice and reed bed toward a low house. "
NOVEL = "\n\n".join(f"# Chapter {n}\n\n" + "\n\n".join([TEXT * 6] * (5 * n)) for n in range(1, 6))


def _novel() -> tuple[Publication, Setter, str]:
    """A book of five chapters from page 5, its contents on page 3."""
    setter, job = Setter(), start("book", "The Saltings")
    job, _ = place_story(job, setter, "Novel", tuple(read_markdown(NOVEL).paragraphs))
    job = add_pages(job, 0, 4)
    job, lists = with_contents(job, setter.threads)
    return lay_through(job, setter, lists, 2), setter, lists


def _lines(job: Publication, lists: str) -> list[str]:
    return [paragraph.text for paragraph in story_of(job, lists).paragraphs]


def test_a_book_lists_its_chapters_with_the_pages_they_begin_on(tmp_path: Path) -> None:
    from half_fold.core.press.make import press

    job, setter, lists = _novel()
    title, *lines = _lines(job, lists)
    assert title == "Contents" and [line.split("\t")[1] for line in lines] == [f"Chapter {n}" for n in range(1, 6)]
    press(job, tmp_path, tmp_path / "book.pdf", setter=setter)
    pages = judge("pdftotext", "-layout", str(tmp_path / "book.pdf"), "-").split("\f")
    for line in lines:
        _, words, folio = line.split("\t")
        assert pages[int(folio) - 1].strip().startswith(words)
    printed = [line.split() for line in pages[2].splitlines() if line.strip()]
    assert printed[0] == ["Contents"]
    assert [(*line[:2], line[-1]) for line in printed[1:6]] == [
        (*line.split("\t")[1].split(), line.split("\t")[2]) for line in lines
    ]


def test_folios_follow_pages_that_come_go_and_count_otherwise() -> None:
    job, setter, lists = _novel()
    was = [page for _, page in headings(job, setter.threads)]
    more = follow_contents(add_pages(job, 4, 2), setter.threads)
    assert [line.split("\t")[2] for line in _lines(more, lists)[1:]] == [str(page + 2) for page in was]
    fewer = follow_contents(remove_pages(job, [0, 1]), setter.threads)
    assert [line.split("\t")[2] for line in _lines(fewer, lists)[1:]] == [str(page - 2) for page in was]
    roman = start_section(job, was[1] - 1, "Front")
    roman = follow_contents(set_path(roman, "section.Front.folios", "roman"), setter.threads)
    told = [line.split("\t")[2] for line in _lines(roman, lists)[1:]]
    assert told == [folio_of(roman, page) for page in was] and any(not each.isdigit() for each in told)


def test_what_is_as_it_should_be_stays_the_same_record() -> None:
    job, setter, _ = _novel()
    assert follow_contents(job, setter.threads) is job
    assert follow_contents(start("book", "B"), setter.threads).stories == ()


def test_a_designers_words_looks_and_order_stay() -> None:
    job, setter, lists = _novel()
    story = story_of(job, lists)
    first, one, *rest = story.paragraphs
    bold = replace(
        one, runs=(Run(text="\t"), Run(text="chapter  1", bold=True), Run(text="\tpage "), Run(text="5", italic=True))
    )
    own = Paragraph(role="body", runs=(Run(text="Drawings by hand, throughout"),))
    job = with_story(job, replace(story, paragraphs=(first, own, *reversed(rest), bold)))
    after = follow_contents(add_pages(job, 4, 2), setter.threads)
    found = story_of(after, lists).paragraphs
    assert found[1] is own and [p.text.split("\t")[1] for p in found[2:6]] == [f"Chapter {n}" for n in (5, 4, 3, 2)]
    assert found[6].text.startswith("\tchapter  1\t") and found[6].runs[1].bold
    assert found[6].text.endswith("\tpage 7") and found[6].runs[-1].italic


def test_lines_that_were_lacking_come_in_at_their_place_and_none_twice() -> None:
    job, setter, lists = _novel()
    story = story_of(job, lists)
    lacking = replace(story, paragraphs=(*story.paragraphs[:2], *story.paragraphs[4:]))
    again, same = with_contents(with_story(job, lacking), setter.threads)
    assert same == lists and _lines(again, lists) == _lines(job, lists)
    assert with_contents(again, setter.threads)[0].stories == again.stories


def test_two_of_one_title_are_each_listed_with_their_own_page() -> None:
    setter, job = Setter(), start("magazine", "M")
    for _ in range(2):
        job, _ = place_story(job, setter, "Notes", (Paragraph(role="body", runs=(Run(text=TEXT * 200),)),))
    job, lists = with_contents(job, setter.threads)
    pages = [page for _, page in headings(job, setter.threads)]
    assert len(set(pages)) == 2
    assert _lines(job, lists)[1:] == [f"{page}\tNotes" for page in pages]
    later = follow_contents(add_pages(job, 0, 2), setter.threads)
    assert _lines(later, lists)[1:] == [f"{page + 2}\tNotes" for page in pages]


def test_titles_with_tabs_breaks_and_other_scripts_are_listed() -> None:
    setter, job = Setter(), start("magazine", "M")
    job = replace(job, language="he_IL")
    for title in ("עלים", "A\tB", "12"):
        job, _ = place_story(job, setter, title, (Paragraph(role="body", runs=(Run(text=TEXT),)),))
    job, lists = with_contents(job, setter.threads)
    assert _lines(job, lists) == ["תוכן העניינים", "1\tעלים", "2\tA B", "3\t12"]
    after = _lines(follow_contents(add_pages(job, 0, 2), setter.threads), lists)
    assert [line.split("\t")[0] for line in after[1:]] == ["3", "4", "5"]


def test_a_job_with_nothing_laid_has_nothing_to_list() -> None:
    with pytest.raises(Problem, match="nothing to list"):
        with_contents(start("book", "B"), Setter().threads)
    waiting = replace(start("book", "B"), stories=(Story(id="s", title="Not laid", paragraphs=()),))
    with pytest.raises(Problem, match="nothing to list"):
        with_contents(waiting, Setter().threads)


def test_the_command_lays_them_on_a_page_and_brings_them_up_to_date(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "novel.md").write_text(NOVEL)
    job = str(tmp_path / "novel")
    assert main(["new", "book", job]) == 0
    assert main(["contents", job]) == 2 and "nothing to list" in capsys.readouterr().err
    assert main(["place", job, "--text", str(tmp_path / "novel.md")]) == 0
    assert main(["contents", job, "--page", "0"]) == 2 and main(["contents", job, "--page", "999"]) == 2
    capsys.readouterr()
    assert main(["contents", job, "--page", "60"]) == 0
    assert capsys.readouterr().out.splitlines()[:2] == ["Contents", "Chapter 1\t1"]
    opened = open_job(tmp_path / "novel", to_write=False)
    on = [number for number, page in enumerate(opened.publication.pages, 1) for b in page.blocks
          if b.holds.story == next(s.id for s in opened.publication.stories if s.lists)]  # fmt: skip
    assert on == [60]
    assert main(["set", job, "role.body.size=17pt"]) == 0
    main(["check", job])
    assert "The contents say" not in capsys.readouterr().out
    opened = open_job(tmp_path / "novel")  # written otherwise, by hand or by an earlier program, they may be stale
    opened.save(set_path(opened.publication, "role.body.size", "11pt"))
    opened.close()
    main(["check", job])
    assert "The contents say" in capsys.readouterr().out
    main(["check", job, "--fix", "Bring the contents up to date"])
    told = capsys.readouterr().out
    assert "contents say" not in told


def test_the_command_line_keeps_folios_as_the_window_does(tmp_path: Path) -> None:
    """A command left them as they were, and a check had to find them stale."""
    job, _, lists = _novel()
    create_job(tmp_path / "job", job)
    assert main(["set", str(tmp_path / "job"), "role.body.size=14pt", "role.body.leading=20pt"]) == 0
    made = open_job(tmp_path / "job", to_write=False).publication
    assert _lines(made, lists) != _lines(job, lists)
    assert follow_contents(made, Setter().threads) is made
