"""Word-processor documents (.docx) to paragraphs with roles, through python-docx."""

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Run
from half_fold.core.typesetting.texts.reading import TAB, Reading

_WORD = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
_NAMED = {"title": "title", "subtitle": "subtitle", "quote": "quote", "intense quote": "quote", "normal": "body"}
_BODY = re.compile(r"(body text.*|normal.*|no spacing|default.*|text body)$")
_LEFT_OUT = {
    "drawing": "A picture in the text was left out; bring it in on the light table.",
    "pict": "A picture in the text was left out; bring it in on the light table.",
    "footnoteReference": "A footnote was left out.",
    "endnoteReference": "An endnote was left out.",
    "commentReference": "A comment was left out.",
    "object": "An embedded object was left out.",
}


def read_docx(path: Path, reading: Reading) -> Reading:
    """The paragraphs of a document in order; tables become entries. Problem where it cannot be read."""
    from docx import Document
    from docx.opc.exceptions import PackageNotFoundError

    try:
        document = Document(str(path))
    except (PackageNotFoundError, KeyError, ValueError, OSError) as error:
        raise Problem(f"“{path.name}” is no document that can be read; save it again as .docx.") from error
    counters: dict[str, int] = {}
    for child in document.element.body.iterchildren():
        if child.tag == f"{_WORD}p":
            _paragraph(document, child, reading, counters)
        elif child.tag == f"{_WORD}tbl":
            _table(document, child, reading)
    for part in document.sections:
        if any(p.text.strip() for p in (*part.header.paragraphs, *part.footer.paragraphs)):
            reading.note("Heads and feet of its pages were left out; a master carries those.")
    return reading


def _paragraph(document: Any, element: Any, reading: Reading, counters: dict[str, int]) -> None:
    from docx.text.paragraph import Paragraph

    paragraph = Paragraph(element, document)
    style = paragraph.style.name if paragraph.style is not None else "Normal"
    found = _found(style, element)
    bullet = ""
    if found == "list":
        bullet = _bullet(style, element, counters)
    elif element.find(f".//{_WORD}numPr") is None:
        counters.clear()
    runs = list(_runs(document, element, reading))
    if found == "body" and TAB in "".join(run.text for run in runs).strip():
        found = "entry"
    reading.add(found, runs, bullet)


def _found(style: str, element: Any) -> str:
    """The kind of a paragraph by its style's name, else the name itself."""
    name = style.lower()
    if name.startswith("heading ") and name[8:].isdigit():
        return f"heading {min(6, int(name[8:]))}"
    if name.startswith("list") or element.find(f"{_WORD}pPr/{_WORD}numPr") is not None:
        return "list"
    return _NAMED.get(name) or ("body" if _BODY.match(name) else style)


def _bullet(style: str, element: Any, counters: dict[str, int]) -> str:
    if "number" not in style.lower():
        return "•\u2002"
    counters[style] = counters.get(style, 0) + 1
    return f"{counters[style]}.\u2002"


def _runs(document: Any, element: Any, reading: Reading) -> Iterator[Run]:
    from docx.text.run import Run as Theirs

    for node in element.iter(f"{_WORD}r"):
        parents = {parent.tag for parent in node.iterancestors()}
        if f"{_WORD}del" in parents or f"{_WORD}moveFrom" in parents:
            reading.note("Words that were marked as deleted were left out.")
            continue
        if f"{_WORD}ins" in parents:
            reading.note("Words that were marked as inserted were taken in.")
        text = _text(node, reading)
        if not text:
            continue
        run = Theirs(node, document)
        font, style = run.font, (run.style.name if run.style is not None else "").lower()
        yield Run(
            text=text,
            bold=bool(run.bold) or style == "strong",
            italic=bool(run.italic) or style == "emphasis",
            small_caps=bool(font.small_caps),
            rise="superior" if font.superscript else "inferior" if font.subscript else "",
        )


def _text(node: Any, reading: Reading) -> str:
    out = []
    for child in node:
        name = str(child.tag).removeprefix(_WORD)
        if name == "t":
            out.append(child.text or "")
        elif name == "tab":
            out.append(TAB)
        elif name in ("br", "cr"):
            out.append(" ")
        elif name == "noBreakHyphen":
            out.append("\u2011")
        elif name in _LEFT_OUT:
            reading.note(_LEFT_OUT[name])
    return "".join(out)


def _table(document: Any, element: Any, reading: Reading) -> None:
    from docx.table import Table

    reading.note("A table was set as entries, its cells parted by tabs.")
    for row in Table(element, document).rows:
        cells = [" ".join(cell.text.split()) for cell in row.cells]
        reading.add("entry", [Run(text=TAB.join(cells))])
