"""Documents in and out of the ordinary: all that a word processor may hold comes in once, or is said with its place."""

# ruff: noqa: E501 (markup reads best on one line)

import zipfile
from pathlib import Path

import pytest

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start
from half_fold.core.typesetting.texts import office
from half_fold.core.typesetting.texts.docx_styles import numeral
from half_fold.core.typesetting.texts.markdown_in import read_markdown
from half_fold.core.typesetting.texts.markdown_out import to_markdown
from half_fold.core.typesetting.texts.reading import Reading, role_table
from half_fold.core.typesetting.texts.symbols import symbol_letter
from half_fold.core.typesetting.texts.text_in import read_text_file

W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
SPACES = (
    f'xmlns:w="{W}" xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006" '
    'xmlns:wps="http://schemas.microsoft.com/office/word/2010/wordprocessingShape" xmlns:v="urn:schemas-microsoft-com:vml" '
    'xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math"'
)


def p(*runs: str, style: str = "", more: str = "") -> str:
    pStyle = f'<w:pStyle w:val="{style}"/>' if style else ""
    return f"<w:p><w:pPr>{pStyle}{more}</w:pPr>{''.join(runs)}</w:p>"


def r(text: str, properties: str = "") -> str:
    return f'<w:r><w:rPr>{properties}</w:rPr><w:t xml:space="preserve">{text}</w:t></w:r>'


def docx(folder: Path, body: str, **parts: str) -> Reading:
    path = folder / "made.docx"
    with zipfile.ZipFile(path, "w") as file:
        file.writestr("word/document.xml", f"<w:document {SPACES}><w:body>{body}</w:body></w:document>")
        for name, content in parts.items():
            file.writestr(f"word/{name}.xml", f"<w:{name} {SPACES}>{content}</w:{name}>")
    return read_text_file(path)


def told(reading: Reading) -> list[tuple[str, str]]:
    return [(paragraph.role, paragraph.text) for paragraph in reading.paragraphs]


def test_content_controls_round_anything(tmp_path: Path) -> None:
    row = f"<w:tr><w:sdt><w:sdtContent><w:tc>{p(r('cell'))}</w:tc></w:sdtContent></w:sdt></w:tr>"
    body = (
        f"<w:sdt><w:sdtContent>{p(r('whole'))}<w:sdt><w:sdtContent>{p(r('inner'))}</w:sdtContent></w:sdt></w:sdtContent></w:sdt>"
        f"{p(r('a '), '<w:sdt><w:sdtContent>' + r('word') + '</w:sdtContent></w:sdt>')}"
        f"<w:tbl><w:sdt><w:sdtContent>{row}</w:sdtContent></w:sdt></w:tbl>"
    )
    assert told(docx(tmp_path, body)) == [("body", "whole"), ("body", "inner"), ("body", "a word"), ("entry", "cell")]


def test_a_text_box_comes_once_and_after_its_paragraph(tmp_path: Path) -> None:
    box = f"<w:txbxContent>{p(r('boxed'))}</w:txbxContent>"
    drawn = (
        f"<w:r><mc:AlternateContent><mc:Choice><w:drawing><wps:wsp><wps:txbx>{box}</wps:txbx></wps:wsp></w:drawing></mc:Choice>"
        f"<mc:Fallback><w:pict><v:textbox>{box}</v:textbox></w:pict></mc:Fallback></mc:AlternateContent></w:r>"
    )
    reading = docx(tmp_path, p(r("before "), drawn, r("after")) + p(r("next")))
    assert told(reading) == [("body", "before after"), ("body", "boxed"), ("body", "next")]
    assert reading.notes == ["1 text box in “before after” was set after its paragraph."]


def test_of_fields_the_result_is_read_and_an_empty_one_said(tmp_path: Path) -> None:
    char = '<w:r><w:fldChar w:fldCharType="{}"/></w:r>'
    begin, separate, end = (char.format(kind) for kind in ("begin", "separate", "end"))
    code = "<w:r><w:instrText>REF x</w:instrText></w:r>"
    full, empty = begin + code + separate + r("page 7") + end, begin + code + end
    simple = f'<w:fldSimple w:instr="DATE">{r("1948")}</w:fldSimple>'
    reading = docx(tmp_path, p(r("see "), full, r(", "), simple, empty))
    assert told(reading) == [("body", "see page 7, 1948")]
    assert reading.notes == ["1 field in “the beginning” had no words and was left out."]


def test_looks_that_have_no_place_are_made_plain_and_said(tmp_path: Path) -> None:
    styles = '<w:style w:styleId="loud"><w:name w:val="Loud"/><w:rPr><w:caps/><w:b/></w:rPr></w:style>'
    body = p(r("Head"), style="h") + p(
        r("loud", '<w:rStyle w:val="loud"/>'),
        r(" quiet", '<w:rStyle w:val="loud"/><w:caps w:val="0"/><w:b w:val="false"/>'),
        r(" gone", "<w:strike/>"),
        r(" hidden", "<w:vanish/>"),
        '<w:r><w:t xml:space="preserve"> see</w:t><w:sym w:font="Symbol" w:char="F061"/>'
        '<w:sym w:font="Wingdings" w:char="F0E0"/><w:sym w:font="Odd" w:char="F0E0"/></w:r>',
        '<w:r><w:noBreakHyphen/><w:softHyphen/><w:t>x</w:t><w:br/><w:t>y</w:t><w:br w:type="page"/></w:r>',
        '<w:r><w:commentReference w:id="1"/></w:r>',
        "<w:r><w:pict/></w:r><w:r><w:object/></w:r>",
    )
    heading = '<w:style w:styleId="h"><w:name w:val="heading 1"/></w:style>'
    reading = docx(tmp_path, body, styles=styles + heading)
    assert told(reading) == [("headline", "Head"), ("body", "LOUD quiet gone seeα→\u2011x"), ("body", "y")]
    assert [run.text for run in reading.paragraphs[1].runs if run.bold] == ["LOUD"]
    said = " ".join(reading.notes)
    for thing in ("struck passage", "hidden passage", "sign of the font Odd", "comment", "picture", "embedded object"):
        assert f"1 {thing} in “Head”" in said, thing
    assert "1 line break in “Head” became a new paragraph" in said


def test_tables_within_tables_and_merged_cells(tmp_path: Path) -> None:
    def cell(content: str, properties: str = "") -> str:
        return f"<w:tc><w:tcPr>{properties}</w:tcPr>{content}</w:tc>"

    inner = f"<w:tbl><w:tr>{cell(p(r('in one')))}{cell(p(r('in two')))}</w:tr></w:tbl>"
    body = (
        f"<w:tbl><w:tr>{cell(p(r('tall')), '<w:vMerge w:val=' + chr(34) + 'restart' + chr(34) + '/>')}{cell(p(r('a', '<w:b/>')))}</w:tr>"
        f"<w:tr>{cell(p(), '<w:vMerge/>')}{cell(p(r('b')) + inner + p(r('c')))}</w:tr>"
        f"<w:tr>{cell(p(r('wide')), '<w:gridSpan w:val=' + chr(34) + '2' + chr(34) + '/>')}</w:tr></w:tbl>"
    )
    reading = docx(tmp_path, body)
    assert told(reading) == [
        ("entry", "tall\ta"),
        ("entry", "\tb c"),
        ("entry", "in one\tin two"),
        ("entry", "wide"),
    ]
    assert reading.paragraphs[0].runs[-1].bold
    assert [note.partition(" in ")[0] for note in reading.notes] == ["1 table", "1 table within a table"]


def test_lists_are_numbered_as_the_document_numbers_them(tmp_path: Path) -> None:
    def level(at: int, form: str, text: str, start: int = 1) -> str:
        return f'<w:lvl w:ilvl="{at}"><w:start w:val="{start}"/><w:numFmt w:val="{form}"/><w:lvlText w:val="{text}"/></w:lvl>'

    numbering = (
        f'<w:abstractNum w:abstractNumId="7">{level(0, "upperRoman", "%1.", 3)}{level(1, "decimal", "%1.%2)")}</w:abstractNum>'
        f'<w:abstractNum w:abstractNumId="8">{level(0, "bullet", "–")}</w:abstractNum>'
        '<w:num w:numId="1"><w:abstractNumId w:val="7"/></w:num>'
        '<w:num w:numId="2"><w:abstractNumId w:val="7"/><w:lvlOverride w:ilvl="0"><w:startOverride w:val="9"/></w:lvlOverride></w:num>'
        '<w:num w:numId="3"><w:abstractNumId w:val="8"/></w:num>'
    )

    def item(text: str, number: int, at: int = 0) -> str:
        return p(r(text), more=f'<w:numPr><w:ilvl w:val="{at}"/><w:numId w:val="{number}"/></w:numPr>')

    items = [item("a", 1), item("b", 1, 1), item("c", 1, 1), p(r("between")), item("d", 1), item("e", 1, 1)]
    items += [item("f", 2), item("g", 3), item("h", 0), item("i", 99)]
    found = [text for _, text in told(docx(tmp_path, "".join(items), numbering=numbering))]
    assert found == [
        "III.\u2002a",
        "\u2003III.1)\u2002b",
        "\u2003III.2)\u2002c",
        "between",
        "IV.\u2002d",
        "\u2003IV.1)\u2002e",
        "IX.\u2002f",
        "–\u2002g",
        "h",
        "•\u2002i",
    ]


@pytest.mark.parametrize(
    ("number", "form", "shown"),
    [(4, "lowerRoman", "iv"), (1949, "upperRoman", "MCMXLIX"), (27, "lowerLetter", "aa"), (3, "decimalZero", "03"),
     (0, "lowerLetter", "0"), (9, "none", ""), (12, "odd", "12")],
)  # fmt: skip
def test_numerals(number: int, form: str, shown: str) -> None:
    assert numeral(number, form) == shown


def test_notes_stand_at_the_end_in_their_role_and_are_marked(tmp_path: Path) -> None:
    notes = f'<w:footnote w:id="2">{p("<w:r><w:footnoteRef/></w:r>", r(" One thing;"))}{p(r("and more."))}</w:footnote>'
    body = p(r("Text"), '<w:r><w:footnoteReference w:id="2"/></w:r>', r(" on")) + p(r("end"))
    reading = docx(tmp_path, body, footnotes=notes)
    assert told(reading) == [("body", "Text1 on"), ("body", "end"), ("note", "1\u2002One thing; and more.")]
    assert [run.rise for run in reading.paragraphs[0].runs] == ["", "superior", ""]
    assert reading.notes == ["1 footnote in “the beginning” was set at the end."]


def test_equations_are_said_on_one_line(tmp_path: Path) -> None:
    t = "<m:r><m:t>{}</m:t></m:r>".format
    fraction = f"<m:f><m:num>{t('a+b')}</m:num><m:den>{t('2')}</m:den></m:f>"
    power = f"<m:sSup><m:e>{t('x')}</m:e><m:sup>{t('n-1')}</m:sup></m:sSup>"
    both = f"<m:sSubSup><m:e>{t('y')}</m:e><m:sub>{t('i')}</m:sub><m:sup>{t('2')}</m:sup></m:sSubSup>"
    root = f"<m:rad><m:radPr/><m:e>{t('z')}</m:e></m:rad>"
    summed = f'<m:nary><m:naryPr><m:chr m:val="∑"/></m:naryPr><m:sub>{t("i=1")}</m:sub><m:sup>{t("n")}</m:sup><m:e>{t("i")}</m:e></m:nary>'
    held = f'<m:d><m:dPr><m:begChr m:val="["/><m:endChr m:val="]"/></m:dPr><m:e>{t("q")}</m:e></m:d>'
    reading = docx(tmp_path, p(r("It is "), f"<m:oMath>{fraction}{power}{both}{root}{summed}{held}</m:oMath>"))
    assert told(reading) == [("body", "It is (a+b)/2x^(n-1)y_i^2√(z)∑_(i=1) ^n i[q]")]
    assert reading.notes == ["1 equation in “the beginning” became plain words."]


def test_signs_of_symbol_fonts() -> None:
    assert (
        symbol_letter("Symbol", "F057") == "Ω"
        and symbol_letter("symbol", "61") == "α"
        and symbol_letter("Wingdings", "F0FC") == "✓"
    )
    assert (
        symbol_letter("Anything", "2022") == "•"
        and symbol_letter("Anything", "F022") == ""
        and symbol_letter("Symbol", "zz") == ""
    )
    assert symbol_letter("Any", "D800") == symbol_letter("Any", "0") == symbol_letter("Any", "-5") == ""


# Markdown ---------------------------------------------------------------------------------------------------


def test_markdown_tables_notes_breaks_and_comments() -> None:
    reading = read_markdown(
        "# Head\n\nOne[^a] line  \nand another\\\nand a third<br>and last\nsoft.\n\n<!-- to do -->\n\n"
        "Words <!-- in --> here, ~~gone~~.\n\n| a | b |\n|---|---|\n|   | **2** |\n\n- x\n    1. y\n\n[^a]: The *note*.\n"
    )
    assert told(reading) == [
        ("headline", "Head"),
        ("body", "One1 line"),
        ("body", "and another"),
        ("body", "and a third"),
        ("body", "and last soft."),
        ("body", "Words  here, gone."),
        ("entry", "a\tb"),
        ("entry", "\t2"),
        ("list", "•\u2002x"),
        ("list", "\u20031.\u2002y"),
        ("note", "1\u2002The note."),
    ]
    said = " ".join(reading.notes)
    for words in ("3 line breaks", "2 comments", "1 struck passage", "1 table", "1 footnote"):
        assert words in said, words


def test_line_breaks_in_a_heading_are_spaces() -> None:
    reading = read_markdown("The long\\\nladders\n===\n")
    assert told(reading) == [("headline", "The long ladders")] and "became a space" in reading.notes[0]


def test_lists_within_lists_go_out_and_come_in_again() -> None:
    story = read_markdown("- one\n    - two\n        3. three\n        4. four\n- five\n").paragraphs
    text, _ = to_markdown(story)
    assert read_markdown(text).paragraphs == story


def test_a_job_without_a_role_for_notes_takes_them_as_body() -> None:
    from msgspec.structs import replace

    job = start("book", "x")
    assert role_table(job)["note"] == "note"
    assert role_table(replace(job, roles=tuple(role for role in job.roles if role.name != "note")))["note"] == "body"


# What is wrong, damaged or meant to harm ---------------------------------------------------------------------


def _odt(folder: Path, text: str, **parts: bytes) -> Path:
    space = 'xmlns:office="o" xmlns:text="t" xmlns:table="b" xmlns:draw="d" xmlns:style="s"'
    path = folder / "made.odt"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as file:
        document = f"<office:document-content {space}><office:body><office:forms/><office:text>{text}</office:text></office:body></office:document-content>"
        file.writestr("content.xml", document)
        for name, content in parts.items():
            file.writestr(name, content)
    return path


def test_the_text_need_not_be_the_first_in_its_body(tmp_path: Path) -> None:
    boxed = "<draw:frame><draw:text-box><text:p>boxed</text:p></draw:text-box></draw:frame>"
    text = f"<text:p>here{boxed}</text:p><text:section style:x='1'><text:p>there<text:line-break/>and on</text:p></text:section>"
    assert told(read_text_file(_odt(tmp_path, text))) == [
        ("body", text) for text in ("here", "boxed", "there", "and on")
    ]


def test_spans_and_spaces_of_any_length_are_bounded(tmp_path: Path) -> None:
    cell = '<table:table-cell table:number-columns-repeated="1000000000"><text:p>x</text:p></table:table-cell>'
    rows = (
        f'<table:table><table:table-row table:number-rows-repeated="1000000000">{cell}</table:table-row></table:table>'
    )
    (entry,) = read_text_file(_odt(tmp_path, rows + '<text:p><text:s text:c="1000000000"/></text:p>')).paragraphs
    assert len(entry.text) < 100


@pytest.mark.parametrize("suffix", [".docx", ".odt"])
def test_entities_are_not_unfolded(tmp_path: Path, suffix: str) -> None:
    nested = "".join(f'<!ENTITY e{n} "{f"&e{n - 1};" * 10}">' for n in range(1, 12))
    doctype = f'<!DOCTYPE x [<!ENTITY e0 "lol">{nested}<!ENTITY file SYSTEM "file:///etc/passwd">]>'
    content = (
        f"{doctype}<w:document {SPACES}><w:body><w:p><w:r><w:t>&e11;&file;safe</w:t></w:r></w:p></w:body></w:document>"
        if suffix == ".docx"
        else f'{doctype}<o:d xmlns:o="o" xmlns:t="t"><o:body><o:text><t:p>&e11;&file;safe</t:p></o:text></o:body></o:d>'
    )
    path = tmp_path / f"bomb{suffix}"
    with zipfile.ZipFile(path, "w") as file:
        file.writestr("word/document.xml" if suffix == ".docx" else "content.xml", content)
    try:
        text = " ".join(p.text for p in read_text_file(path).paragraphs)
    except Problem:
        return
    assert "root:" not in text and len(text) < 100


def test_what_unpacks_without_end_is_refused(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(office, "LARGEST_PART", 100_000)
    with pytest.raises(Problem, match="more than a text can be"):
        read_text_file(_odt(tmp_path, "<text:p>" + "a" * 200_000 + "</text:p>"))


def test_elements_within_one_another_without_end_are_refused(tmp_path: Path) -> None:
    with pytest.raises(Problem, match="damaged"):
        docx(tmp_path, "<w:sdt><w:sdtContent>" * 5000 + "</w:sdtContent></w:sdt>" * 5000)


def test_a_footnote_is_said_where_it_is_called_and_counted_once() -> None:
    text = "# One\n\nA claim[^a] and again[^a].\n\n[^a]: From it.\n\n# Two\n\nNo claim."
    assert read_markdown(text).notes == ["1 footnote in “One” was set at the end."]


@pytest.mark.parametrize("part", ["word/styles.xml", "word/numbering.xml", "word/footnotes.xml", "word/document.xml"])
def test_a_damaged_part_is_said(tmp_path: Path, part: str) -> None:
    source = Path(__file__).parents[1] / "data/texts/almanac-1.docx"
    path = tmp_path / "damaged.docx"
    with zipfile.ZipFile(source) as whole, zipfile.ZipFile(path, "w") as file:
        for name in whole.namelist():
            content = whole.read(name)
            file.writestr(name, content[: len(content) // 2] if name == part else content)
    with pytest.raises(Problem, match="is damaged and cannot be read"):
        read_text_file(path)


def test_words_longer_than_any_word_are_cut_and_said(tmp_path: Path) -> None:
    path = tmp_path / "long.txt"
    path.write_text("Short and " + "x" * 1_000_000 + " end\n\n" + "ab-" * 4000, encoding="utf-8")
    reading = read_text_file(path)
    assert max(len(word) for p in reading.paragraphs for word in p.text.split()) == 1000
    assert "".join("".join(p.text.split()) for p in reading.paragraphs).count("x") == 1_000_000
    assert "2 words" in reading.notes[0]
