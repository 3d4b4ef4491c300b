"""Text into paragraphs with roles: Markdown and plain text. What is not understood is reported."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Paragraph, Run

HEADING_ROLES = {
    "h1": "headline",
    "h2": "crosshead",
    "h3": "crosshead",
    "h4": "crosshead",
    "h5": "crosshead",
    "h6": "crosshead",
}
ENTRY, TAB, LINE = "entry", "\t", "\n"
LARGEST_TEXT = 64 * 1024 * 1024


@dataclass
class Reading:
    """The paragraphs read, and a sentence for each thing that was left out or made plain."""

    paragraphs: list[Paragraph] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    @property
    def title(self) -> str:
        """The first headline, or the first words."""
        for paragraph in self.paragraphs:
            if paragraph.role == "headline":
                return paragraph.text
        return " ".join(self.paragraphs[0].text.split()[:6]) if self.paragraphs else ""


def read_text_file(path: Path) -> Reading:
    """A Markdown (.md, .markdown) or plain text file. Problem where it cannot be read or says nothing."""
    try:
        if path.stat().st_size > LARGEST_TEXT:
            raise Problem(f"“{path.name}” is too long to be one story; split it.")
        content = path.read_bytes()
    except OSError as error:
        raise Problem(f"“{path}” cannot be read ({(error.strerror or 'refused').lower()}); check the name.") from error
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Problem(f"“{path.name}” is not text in UTF-8; save it as UTF-8 plain text or Markdown.") from error
    if "\0" in text:
        raise Problem(f"“{path.name}” is not text; give a Markdown or plain text file.")
    reading = read_markdown(text) if path.suffix.lower() in (".md", ".markdown") else read_plain(text)
    if not reading.paragraphs:
        raise Problem(f"“{path.name}” has no words in it; write the story first.")
    return reading


def read_plain(text: str) -> Reading:
    """Paragraphs are parted by empty lines; a line with a tab in it is an entry by itself."""
    reading = Reading()
    for part in text.replace("\r\n", "\n").split("\n\n"):
        role, lines = (ENTRY, part.split("\n")) if TAB in part.strip() else ("body", [part])
        for line in lines:
            _add(reading, role, [Run(text=_plain(line))], "")
    return reading


def _plain(line: str) -> str:
    """Single spaces, and the tabs kept."""
    return TAB.join(" ".join(cell.split()) for cell in line.strip(" \n").split(TAB))


def read_markdown(text: str) -> Reading:
    """Headings, emphasis, lists and quotations to roles; a line with a tab in it is an entry by itself."""
    from markdown_it import MarkdownIt

    reading, role, counters = Reading(), "body", list[int]()
    bullet = ""
    for token in MarkdownIt("commonmark").parse(text):
        if token.type == "heading_open":
            role = HEADING_ROLES[token.tag]
        elif token.type == "heading_close":
            role = "body"
        elif token.type == "blockquote_open":
            role = "quote"
        elif token.type in ("blockquote_close", "bullet_list_close", "ordered_list_close"):
            role = "body"
            if "list" in token.type:
                counters.pop()
                role = "list" if counters else "body"
        elif token.type in ("bullet_list_open", "ordered_list_open"):
            counters.append(int(token.attrs.get("start", 1)) if token.type.startswith("ordered") else 0)
            role = "list"
        elif token.type == "list_item_open":
            bullet = f"{counters[-1]}.\u2002" if counters[-1] else "•\u2002"
            counters[-1] += 1 if counters[-1] else 0
        elif token.type == "inline":
            runs = _runs(token.children or [], reading)
            if role == "body" and TAB in token.content:
                _add_entries(reading, runs)
            else:
                _add(reading, role, runs, bullet)
            bullet = ""
        elif token.type in ("fence", "code_block", "html_block"):
            reading.notes.append("A block of code or markup was taken as plain words.")
            _add(reading, "body", [Run(text=" ".join(token.content.split()))], "")
        elif token.type == "hr":
            reading.notes.append("A drawn line between paragraphs was left out.")
    return reading


def _add_entries(reading: Reading, runs: list[Run]) -> None:
    """Each source line of a paragraph with tabs as a paragraph of its own."""
    line: list[Run] = []
    for run in runs:
        head, *rest = run.text.split(LINE)
        line.append(replace(run, text=head))
        for text in rest:
            _add(reading, ENTRY, line, "")
            line = [replace(run, text=text)]
    _add(reading, ENTRY, line, "")


def _add(reading: Reading, role: str, runs: list[Run], bullet: str) -> None:
    if bullet:
        runs = [Run(text=bullet), *runs]
    runs = [replace(run, text=run.text.replace(LINE, " ")) for run in runs if run.text]
    if "".join(run.text for run in runs).strip():
        reading.paragraphs.append(Paragraph(role=role, runs=tuple(runs)))


def _runs(tokens: Sequence[object], reading: Reading) -> list[Run]:
    runs: list[Run] = []
    bold = italic = 0

    def say(text: str) -> None:
        if runs and (runs[-1].bold, runs[-1].italic) == (bold > 0, italic > 0):
            runs[-1] = Run(text=runs[-1].text + text, bold=bold > 0, italic=italic > 0)
        elif text:
            runs.append(Run(text=text, bold=bold > 0, italic=italic > 0))

    for token in tokens:
        kind, content = str(getattr(token, "type", "")), str(getattr(token, "content", ""))
        if kind == "strong_open":
            bold += 1
        elif kind == "strong_close":
            bold -= 1
        elif kind == "em_open":
            italic += 1
        elif kind == "em_close":
            italic -= 1
        elif kind in ("softbreak", "hardbreak"):
            say(LINE)
        elif kind == "image":
            reading.notes.append(f"A picture in the text (“{content}”) was left out; bring it in on the light table.")
        elif kind == "link_open":
            reading.notes.append("A link was made plain words.")
        elif kind != "link_close":
            say(content)
    return runs
