"""Markdown and plain text to paragraphs with roles."""

import re
from collections.abc import Sequence
from typing import Any

from msgspec.structs import replace

from half_fold.core.publication.records import Run
from half_fold.core.typesetting.texts.reading import LINE, TAB, Reading, joined

_SEVERAL = re.compile(r" *[\n\r\f\v]+ *| {2,}")
SMALL_TAGS = {"<sup>": "superior", "<sub>": "inferior"}


def read_plain(text: str, reading: Reading | None = None) -> Reading:
    """Paragraphs are parted by empty lines; a line with a tab in it is an entry by itself."""
    reading = reading or Reading()
    for part in text.replace("\r\n", "\n").split("\n\n"):
        found, lines = ("entry", part.split("\n")) if TAB in part.strip() else ("body", [part])
        for line in lines:
            reading.add(found, [Run(text=_plain(line))])
    return reading


def _plain(line: str) -> str:
    """Single spaces, and the tabs and all spaces that are not plain ones kept."""
    return TAB.join(_single(cell).strip(" ") for cell in line.strip(" \n").split(TAB))


def _single(cell: str) -> str:
    is_single = "  " not in cell and cell.isprintable()  # neither line ends nor spaces of another kind: most are so
    return cell if is_single else _SEVERAL.sub(" ", cell)


def read_markdown(text: str, reading: Reading | None = None) -> Reading:
    """Headings, emphasis, lists and quotations to roles; a line with a tab in it is an entry by itself."""
    from markdown_it import MarkdownIt

    reading = reading or Reading()
    found, counters, bullet = "body", list[int](), ""
    for token in MarkdownIt("commonmark").parse(text):
        kind = token.type
        if kind == "heading_open":
            found = f"heading {token.tag[1:]}"
        elif kind in ("heading_close", "blockquote_close"):
            found = "body"
        elif kind == "blockquote_open":
            found = "quote"
        elif kind in ("bullet_list_open", "ordered_list_open"):
            counters.append(int(token.attrs.get("start", 1)) if kind.startswith("ordered") else 0)
            found = "list"
        elif kind in ("bullet_list_close", "ordered_list_close"):
            counters.pop()
            found = "list" if counters else "body"
        elif kind == "list_item_open":
            bullet = f"{counters[-1]}.\u2002" if counters[-1] else "•\u2002"
            counters[-1] += 1 if counters[-1] else 0
        elif kind == "inline":
            _add_inline(reading, found, token, bullet)
            bullet = ""
        elif kind in ("fence", "code_block", "html_block"):
            reading.note("A block of code or markup was taken as plain words.")
            reading.add("body", [Run(text=" ".join(token.content.split()))])
        elif kind == "hr":
            reading.note("A drawn line between paragraphs was left out.")
    return reading


def _add_inline(reading: Reading, found: str, token: Any, bullet: str) -> None:
    runs = _runs(token.children or [], reading)
    if found == "body" and TAB in token.content:
        _add_entries(reading, runs)
    else:
        reading.add(found, runs, bullet)


def _add_entries(reading: Reading, runs: list[Run]) -> None:
    """Each source line of a paragraph with tabs as a paragraph of its own."""
    line: list[Run] = []
    for run in runs:
        head, *rest = run.text.split(LINE)
        line.append(replace(run, text=head))
        for text in rest:
            reading.add("entry", line)
            line = [replace(run, text=text)]
    reading.add("entry", line)


def _runs(tokens: Sequence[Any], reading: Reading) -> list[Run]:
    runs: list[Run] = []
    style = Run(text="")
    for token in tokens:
        kind, content = token.type, token.content
        if kind in ("strong_open", "strong_close"):
            style = replace(style, bold=kind == "strong_open")
        elif kind in ("em_open", "em_close"):
            style = replace(style, italic=kind == "em_open")
        elif kind == "html_inline" and content.lower() in ("<sup>", "<sub>", "</sup>", "</sub>"):
            style = replace(style, rise=SMALL_TAGS.get(content.lower(), ""))
        elif kind in ("softbreak", "hardbreak"):
            runs.append(replace(style, text=LINE))
        elif kind == "image":
            reading.note(f"A picture in the text (“{content}”) was left out; bring it in on the light table.")
        elif kind == "link_open":
            reading.note("A link was made plain words.")
        elif kind == "html_inline":
            reading.note("Markup inside a paragraph was left out.")
        elif kind != "link_close":
            runs.append(replace(style, text=content))
    return list(joined(runs))
