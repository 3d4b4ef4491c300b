"""Texts in and out: .docx and .odt made for the test, Markdown out and in again, quotes, find and replace, spelling."""

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.publication.surgery import story_of
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.typesetting.texts.finding import find, pattern_of, replace_all, replaced
from half_fold.core.typesetting.texts.markdown_in import read_markdown
from half_fold.core.typesetting.texts.markdown_out import to_markdown
from half_fold.core.typesetting.texts.quotes import curled, in_language, quotes_of
from half_fold.core.typesetting.texts.reading import Reading, join_paragraphs, role_table, set_text_role
from half_fold.core.typesetting.texts.spelling import (
    all_misspelled,
    dictionary_file,
    is_spelled,
    misspelled,
    suggestions,
)
from half_fold.core.typesetting.texts.text_in import read_text_file
from half_fold.core.typesetting.texts.titles import UNTITLED, title_from, with_text

JOB = start("book", "Texts")


def _said(paragraph: Paragraph) -> list[tuple[str, bool, bool]]:
    return [(run.text, run.bold, run.italic) for run in paragraph.runs]


@pytest.fixture
def docx(tmp_path: Path) -> Path:
    from docx import Document

    document = Document()
    document.add_heading("The long ladders", 0)
    document.add_heading("Winter work", 1)
    document.add_heading("The gate", 2)
    body = document.add_paragraph("The ladders are ")
    body.add_run("very").bold = True
    body.add_run(" long, and ")
    body.add_run("old").italic = True
    body.add_run(", H")
    body.add_run("2").font.subscript = True
    body.add_run("O and ")
    small = body.add_run("small")
    small.font.small_caps = True
    document.add_paragraph("A saw", style="List Bullet")
    document.add_paragraph("First", style="List Number")
    document.add_paragraph("Second", style="List Number")
    document.add_paragraph("She said so.", style="Quote")
    document.add_paragraph("14 March\tGrafting day")
    table = document.add_table(rows=1, cols=2)
    table.rows[0].cells[0].text, table.rows[0].cells[1].text = "Pears", "forty boxes"
    document.styles.add_style("Side note", 1)
    document.add_paragraph("In a style of its own.", style="Side note")
    path = tmp_path / "ladders.docx"
    document.save(str(path))
    return path


def test_docx_headings_emphasis_lists_and_tables(docx: Path) -> None:
    reading = read_text_file(docx)
    assert [(p.role, p.text) for p in reading.paragraphs] == [
        ("headline", "The long ladders"),
        ("headline", "Winter work"),
        ("crosshead", "The gate"),
        ("body", "The ladders are very long, and old, H2O and small"),
        ("list", "•\u2002A saw"),
        ("list", "1.\u2002First"),
        ("list", "2.\u2002Second"),
        ("quote", "She said so."),
        ("entry", "14 March\tGrafting day"),
        ("entry", "Pears\tforty boxes"),
        ("body", "In a style of its own."),
    ]
    body = reading.paragraphs[3]
    assert ("very", True, False) in _said(body) and ("old", False, True) in _said(body)
    assert [(r.text, r.rise) for r in body.runs if r.rise] == [("2", "inferior")]
    assert [r.text for r in body.runs if r.small_caps] == ["small"]
    assert any("Side note" in note for note in reading.notes) and any("table" in note for note in reading.notes)
    assert reading.title == "The long ladders"


def test_the_table_of_text_roles_can_be_edited(docx: Path) -> None:
    job = set_text_role(set_text_role(JOB, "Side note", "caption"), "Heading 2", "subhead")
    reading = read_text_file(docx, role_table(job))
    assert [p.role for p in reading.paragraphs if p.text in ("The gate", "In a style of its own.")] == [
        "subhead",
        "caption",
    ]
    assert not any("Side note" in note for note in reading.notes)
    assert role_table(set_text_role(job, "side note", "")) == {**role_table(JOB), "heading 2": "subhead"}


def test_the_first_paragraph_of_a_chapter_is_body_until_a_role_is_said_for_it(tmp_path: Path) -> None:
    """Not under a crosshead, after stars, or where a list comes first."""
    text = "# One\n\nFirst.\n\nSecond.\n\n## Part\n\nThird.\n\n***\n\nFourth.\n\n# Two\n\n- An item\n\nFifth.\n"
    (tmp_path / "a.md").write_text(text)
    job = set_path(JOB, "text.first paragraph", "quote")
    assert set_path(job, "text.first paragraph", "body") == JOB
    plain, said = (read_text_file(tmp_path / "a.md", role_table(each)).paragraphs for each in (JOB, job))
    assert {p.text: p.role for p in plain} == {**{p.text: p.role for p in said}, "First.": "body"}
    assert [p.text for p in said if p.role == "quote"] == ["First."]
    again = to_markdown(said, role_table(job))[0]
    (tmp_path / "b.md").write_text(again)
    assert read_text_file(tmp_path / "b.md", role_table(job)).paragraphs == said


def test_what_kinds_of_paragraphs_become_is_told_and_set_by_path() -> None:
    job = set_path(JOB, "text.My style", "caption")
    told = {each.path: each.value for each in found(job, "text.*")}
    assert told["text.my style"] == "caption" and told["text.heading 1"] == "headline"
    assert set_path(job, "text.my style", "") == JOB
    with pytest.raises(Problem, match="no role “nobody”"):
        set_path(job, "text.quote", "nobody")


def test_docx_deleted_words_stay_out_and_are_reported(docx: Path) -> None:
    from docx import Document
    from docx.oxml import parse_xml

    document = Document(str(docx))
    space = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
    deleted = parse_xml(f"<w:del {space}><w:r><w:delText>gone</w:delText></w:r></w:del>")
    inserted = parse_xml(f'<w:ins {space}><w:r><w:t xml:space="preserve"> come</w:t></w:r></w:ins>')
    document.paragraphs[3]._p.append(deleted)
    document.paragraphs[3]._p.append(inserted)
    document.save(str(docx))
    reading = read_text_file(docx)
    assert reading.paragraphs[3].text.endswith("small come")
    assert any("deleted" in note for note in reading.notes) and any("inserted" in note for note in reading.notes)


@pytest.fixture
def odt(tmp_path: Path) -> Path:
    from odf import style, table, text
    from odf.opendocument import OpenDocumentText

    document = OpenDocumentText()
    bold = style.Style(name="T1", family="text")
    bold.addElement(style.TextProperties(fontweight="bold"))
    sup = style.Style(name="T2", family="text")
    sup.addElement(style.TextProperties(textposition="super 58%"))
    quote = style.Style(name="Quotations", family="paragraph")
    automatic = style.Style(name="P1", family="paragraph", parentstylename="Quotations")
    automatic.addElement(style.TextProperties(fontstyle="italic"))
    for made in (bold, sup, automatic):
        document.automaticstyles.addElement(made)
    document.styles.addElement(quote)
    document.text.addElement(text.H(outlinelevel=1, text="The long barn"))
    document.text.addElement(text.H(outlinelevel=3, text="Doors"))
    body = text.P()
    body.addText("It is ")
    body.addElement(text.Span(stylename=bold, text="old"))
    body.addText(" and wide")
    body.addElement(text.S(c=1))
    body.addText("m")
    body.addElement(text.Span(stylename=sup, text="2"))
    document.text.addElement(body)
    document.text.addElement(text.P(stylename=automatic, text="Mind your head."))
    items = text.List()
    item = text.ListItem()
    item.addElement(text.P(text="A hook"))
    items.addElement(item)
    document.text.addElement(items)
    tabbed = text.P(text="Key")
    tabbed.addElement(text.Tab())
    tabbed.addText("under the stone")
    document.text.addElement(tabbed)
    rows = table.Table()
    row = table.TableRow()
    for words in ("Apples", "nine"):
        cell = table.TableCell()
        cell.addElement(text.P(text=words))
        row.addElement(cell)
    rows.addElement(row)
    document.text.addElement(rows)
    note = text.Note(noteclass="footnote", id="n1")
    note.addElement(text.NoteCitation(text="1"))
    inside = text.NoteBody()
    inside.addElement(text.P(text="A note."))
    note.addElement(inside)
    noted = text.P(text="With a note")
    noted.addElement(note)
    document.text.addElement(noted)
    path = tmp_path / "barn.odt"
    document.save(str(path))
    return path


def test_odt_headings_emphasis_lists_and_tables(odt: Path) -> None:
    reading = read_text_file(odt)
    assert [(p.role, p.text) for p in reading.paragraphs] == [
        ("headline", "The long barn"),
        ("crosshead", "Doors"),
        ("body", "It is old and wide m2"),
        ("quote", "Mind your head."),
        ("list", "•\u2002A hook"),
        ("entry", "Key\tunder the stone"),
        ("entry", "Apples\tnine"),
        ("body", "With a note1"),
        ("note", "1\u2002A note."),
    ]
    body = reading.paragraphs[2]
    assert ("old", True, False) in _said(body)
    assert [r.text for r in body.runs if r.rise == "superior"] == ["2"]
    assert "1 footnote in “Doors” was set at the end." in reading.notes


SAID = {
    "de_DE": "Größe und „Höhe“ – 5 €",
    "fr_FR": "L’été, où l’œuvre naît…",
    "pl_PL": "Zażółć gęślą jaźń",
    "ru": "Яблони — зимой",
    "el": "Η μηλιά",
    "tr": "Ağaç ışığı",
    "he_IL": "עץ התפוח",
    "ar": "شجرة التفاح",
    "ja": "林檎の木を剪定する",
    "zh_CN": "苹果树的故事",
    "ko": "사과나무 이야기",
}
OLDER = dict(
    zip(SAID, ("1252", "1252", "1250", "1251", "1253", "1254", "1255", "1256", "932", "936", "949"), strict=True)
)


@pytest.mark.parametrize("language", list(SAID))
def test_texts_of_older_systems_come_in_with_their_letters(tmp_path: Path, language: str) -> None:
    """Certain where the file tells, and said where it does not."""
    for encoding in ("utf-8", "utf-8-sig", "utf-16", f"cp{OLDER[language]}"):
        path = tmp_path / f"{encoding}.txt"
        path.write_bytes(SAID[language].encode(encoding))
        reading = read_text_file(path, language=language)
        assert reading.paragraphs[0].text == SAID[language], encoding
        assert any("look whether" in note for note in reading.notes) == encoding.startswith("cp")


@pytest.mark.parametrize("content", [bytes(range(256)), b"\x89PNG\r\n\x1a\n\0\0", b"\xff\xfeA", b"caf\xe9 \x07"])
def test_what_is_no_text_in_any_encoding_is_said(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "odd.txt"
    path.write_bytes(content)
    with pytest.raises(Problem, match="not text"):
        read_text_file(path, language="en_GB")


@pytest.mark.parametrize("name", ["bad.docx", "bad.odt"])
@pytest.mark.parametrize("content", [b"", b"PK\x03\x04nothing", b"plain words"])
def test_a_broken_document_is_said_in_a_sentence(tmp_path: Path, name: str, content: bytes) -> None:
    path = tmp_path / name
    path.write_bytes(content)
    with pytest.raises(Problem, match=name):
        read_text_file(path)


def test_an_empty_odt_holds_no_words(tmp_path: Path) -> None:
    from odf.opendocument import OpenDocumentText

    path = tmp_path / "empty.odt"
    OpenDocumentText().save(str(path))
    with pytest.raises(Problem, match="no words"):
        read_text_file(path)


words = (
    st.text(st.sampled_from("abc de*_`#-+>1.)[]<\\é’"), min_size=1, max_size=30)
    .map(lambda s: " ".join(s.split()))
    .filter(bool)
)


@settings(max_examples=200, deadline=None)
@given(
    st.lists(
        st.tuples(st.sampled_from(["body", "crosshead", "headline"]), words, st.booleans(), st.booleans()),
        min_size=1,
        max_size=6,
    )
)
def test_markdown_out_and_in_again_gives_the_story_back(parts: list[tuple[str, str, bool, bool]]) -> None:
    story = [
        Paragraph(
            role=role,
            runs=join_paragraphs([Run(text="Say "), Run(text=f"w{text}w", bold=bold, italic=italic), Run(text=" so")]),
        )
        for role, text, bold, italic in parts
    ]
    text, notes = to_markdown(story)
    assert not notes
    assert read_markdown(text).paragraphs == story, text


def test_markdown_out_of_lists_quotes_entries_and_what_it_has_no_word_for() -> None:
    source = "# Head\n\nBody\n\n- one\n- two\n\n3. three\n\n> Quoted\n\nKey\tunder it\nDoor\topen\n\nH<sub>2</sub>O\n"
    story = read_markdown(source).paragraphs
    text, notes = to_markdown(story)
    assert read_markdown(text).paragraphs == story and notes == []
    odd = [Paragraph(role="byline", runs=(Run(text="By her", small_caps=True),))]
    text, notes = to_markdown(odd)
    assert text == "By her\n" and len(notes) == 2 and "byline" in notes[0]


@pytest.mark.parametrize(
    ("typed", "language", "set_as"),
    [
        ('"Well", she said, "it\'s \'done\'."', "en_GB", "“Well”, she said, “it’s ‘done’.”"),
        ('"Gut"', "de_DE", "„Gut“"),
        ('"Bon"', "fr_FR", "«\u202fBon\u202f»"),
        ("the '80s and dogs'", "en", "the ’80s and dogs’"),
        ('("In it")', "nl", "(‘In it’)"),
    ],
)
def test_straight_quotes_become_those_of_the_language(typed: str, language: str, set_as: str) -> None:
    assert "".join(run.text for run in curled([Run(text=typed)], language)) == set_as


def test_another_language_takes_its_own_quotes_and_keeps_apostrophes() -> None:
    said = Paragraph(role="body", runs=(Run(text="“It’s ‘done’,” he said."), Run(text=" “No.”", bold=True)))
    german = in_language(said, "de_DE", "en_GB")
    assert german.text == "„It’s ‚done‘,“ he said. „No.“" and german.runs[1].bold
    assert in_language(german, "", "en_GB") == said
    assert in_language(said, "en_US", "en_GB").runs == said.runs


def test_quotes_are_turned_across_runs_and_reported() -> None:
    reading = Reading(language="en_GB")
    reading.add("body", [Run(text='He said "'), Run(text="no", italic=True), Run(text='".')])
    assert reading.paragraphs[0].text == "He said “no”."
    assert len(reading.notes) == 1 and quotes_of("xx") == quotes_of("en")


def test_find_and_replace() -> None:
    story = [
        Paragraph(role="body", runs=(Run(text="A pear, the "), Run(text="Pear", bold=True), Run(text=" and pearls"))),
        Paragraph(role="body", runs=(Run(text="No fruit"),)),
    ]
    assert len(list(find(story, pattern_of("pear")))) == 3
    assert len(list(find(story, pattern_of("pear", whole=True)))) == 2
    assert len(list(find(story, pattern_of("pear", exact=True)))) == 2
    made, count = replace_all(story, pattern_of("pear", whole=True), "quince")
    assert count == 2 and made[1] is story[1]
    assert _said(made[0]) == [("A quince, the ", False, False), ("quince", True, False), (" and pearls", False, False)]
    assert replace_all(story, pattern_of("fig"), "x") == (tuple(story), 0)
    with pytest.raises(Problem):
        pattern_of("")


@settings(max_examples=100, deadline=None)
@given(st.lists(st.text("ab ", max_size=6), min_size=1, max_size=4), st.data())
def test_replacing_a_stretch_leaves_all_else(texts: list[str], data: st.DataObject) -> None:
    runs = join_paragraphs(Run(text=text, bold=bool(i % 2)) for i, text in enumerate(texts))
    paragraph = Paragraph(role="body", runs=runs)
    whole = paragraph.text
    start = data.draw(st.integers(0, max(0, len(whole) - 1)))
    end = data.draw(st.integers(start, len(whole)))
    made = replaced(paragraph, start, end, "X")
    assert made.text in (whole[:start] + "X" + whole[end:], whole if start == end else "")


def test_spelling_by_the_dictionary_that_ships() -> None:
    assert dictionary_file("en_GB") is not None and dictionary_file("xx_XX") is None
    assert is_spelled("orchard", "en_GB") and not is_spelled("orchrad", "en_GB")
    assert is_spelled("don’t", "en_GB") and is_spelled("anything", "xx_XX")
    paragraph = Paragraph(role="body", runs=(Run(text="The orchrad is"), Run(text=" colourful, 12 tmies.", bold=True)))
    places = misspelled(paragraph, "en_GB")
    assert [paragraph.text[a:b] for a, b in places] == ["orchrad", "tmies"]
    assert list(all_misspelled([paragraph], "en_GB")) == [(0, *place) for place in places]
    assert "orchard" in suggestions("orchrad", "en_GB") and suggestions("x", "xx_XX") == []


def test_a_story_nobody_named_is_called_by_its_first_words() -> None:
    job, story = add_story(start("book", "Titles"), UNTITLED, (Paragraph(role="body", runs=()),))
    words = tuple(Paragraph(role="body", runs=(Run(text=text),)) for text in ("  ", "Two rows of  pears, then a gate"))
    job = with_text(job, story, words)
    assert story_of(job, story).title == title_from(words) == "Two rows of pears, then"
    job = with_text(job, story, words[:1])
    assert story_of(job, story).title == UNTITLED
    named = replace(job, stories=tuple(replace(each, title="Pears") for each in job.stories))
    assert story_of(with_text(named, story, words), story).title == "Pears"
