"""Text files into paragraphs with roles: Markdown, plain text, .docx and .odt. What is not understood is reported."""

from collections.abc import Mapping
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.store.decoding import decoded
from half_fold.core.store.files import octets_of
from half_fold.core.typesetting.texts.markdown_in import read_markdown, read_plain
from half_fold.core.typesetting.texts.reading import DEFAULT_ROLES, Reading

__all__ = ["Reading", "read_markdown", "read_plain", "read_text_file"]
LARGEST_TEXT = 64 * 1024 * 1024
MARKDOWN = (".md", ".markdown")
SUFFIXES = (*MARKDOWN, ".txt", ".docx", ".odt")


def read_text_file(path: Path, table: Mapping[str, str] = DEFAULT_ROLES, language: str = "") -> Reading:
    """The story in a file, its kinds of paragraph becoming roles by ``table``.

    In a ``language`` straight quotation marks are turned into its own. Problem where the file cannot be read or says
    nothing.
    """
    content = _content(path)
    reading = Reading(table, language)
    if path.suffix.lower() == ".docx":
        from half_fold.core.typesetting.texts.docx_in import read_docx

        read_docx(path, reading)
    elif path.suffix.lower() == ".odt":
        from half_fold.core.typesetting.texts.odt_in import read_odt

        read_odt(path, reading)
    else:
        text = _decoded(path, content, reading)
        read_markdown(text, reading) if path.suffix.lower() in MARKDOWN else read_plain(text, reading)
    if not reading.paragraphs:
        raise Problem(f"“{path.name}” has no words in it; write the story first.")
    return reading


def _content(path: Path) -> bytes:
    return octets_of(path, "text", LARGEST_TEXT)


def _decoded(path: Path, content: bytes, reading: Reading) -> str:
    try:
        text, taken_as = decoded(content, reading.language)
    except UnicodeDecodeError as error:
        raise Problem(f"“{path.name}” is not text in UTF-8; save it as UTF-8 plain text or Markdown.") from error
    if "\0" in text:
        raise Problem(f"“{path.name}” is not text; give a Markdown, plain text, .docx or .odt file.")
    if taken_as:
        reading.note(
            f"“{path.name}” is not in UTF-8; its letters were taken as {taken_as}, so look whether they are right."
        )
    return text
