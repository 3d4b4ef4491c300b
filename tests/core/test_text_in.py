"""Markdown and plain text to paragraphs with roles."""

from pathlib import Path

import pytest

from half_fold.core.measure.problem import Problem
from half_fold.core.typesetting.texts.text_in import read_markdown, read_plain, read_text_file


def test_roles_and_styles(story_file: Path) -> None:
    reading = read_text_file(story_file)
    assert [p.role for p in reading.paragraphs] == ["headline", "body", "crosshead", "body", "list", "list", "quote"]
    assert reading.title == "The office of fjords"
    body = reading.paragraphs[1]
    assert [(r.text, r.bold, r.italic) for r in body.runs if r.bold or r.italic] == [
        ("waffle", False, True),
        ("office", True, False),
    ]
    assert "the particular difficulty" in reading.paragraphs[3].text
    assert reading.paragraphs[4].text == "•\u2002A saw"


def test_nested_and_numbered_lists() -> None:
    reading = read_markdown("3. three\n4. four\n   - inner\n\nAfter")
    assert [p.text for p in reading.paragraphs] == ["3.\u2002three", "4.\u2002four", "\u2003•\u2002inner", "After"]
    assert reading.paragraphs[-1].role == "body"


def test_what_is_not_understood_is_reported_and_its_words_kept() -> None:
    reading = read_markdown("See [the list](x.html) and ![a pear](p.jpg).\n\n---\n\n    code here\n")
    assert [p.text for p in reading.paragraphs] == ["See the list and .", "* * *", "code here"]
    assert len(reading.notes) == 3 and any("a pear" in note for note in reading.notes)


def test_plain_text() -> None:
    assert [p.text for p in read_plain("One\r\ntwo\r\n\r\n\r\nThree").paragraphs] == ["One two", "Three"]


@pytest.mark.parametrize("content", [b"", b"  \n\n", b"\xff\xfe\x00ba", b"ab\x00cd"])
def test_what_is_no_text_is_refused(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "x.md"
    path.write_bytes(content)
    with pytest.raises(Problem):
        read_text_file(path)
    with pytest.raises(Problem):
        read_text_file(tmp_path / "absent.md")


def test_plain_text_keeps_spaces_that_do_not_break() -> None:
    """Several plain spaces and line ends become one; no-break, thin and narrow no-break spaces stay as they are."""
    reading = read_plain("  30\u00a0cm  of\n soil\r\nand 5\u202fp.m. at\u2009dusk \n\nfolio\t12\u00a0a  b")
    texts = [paragraph.text for paragraph in reading.paragraphs]
    assert texts == ["30\u00a0cm of soil and 5\u202fp.m. at\u2009dusk", "folio\t12\u00a0a b"]
