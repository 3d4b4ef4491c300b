"""A story as Markdown."""

import re
from collections.abc import Mapping, Sequence

from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.texts.reading import DEFAULT_ROLES, LEVEL, TAB

_SPECIAL = re.compile(r"([\\`*_\[\]<>])")
_OPENS_BLOCK = re.compile(r"^(\s*)([#>+-]|\d+[.)])(?=\s|$)", re.MULTILINE)
_NUMBER = re.compile(r"\d{1,9}[.)]")
_BULLET = re.compile(rf"^({LEVEL}*)(\S+)\u2002")

SUFFIXES = (".md", ".markdown", ".txt")


def to_markdown(paragraphs: Sequence[Paragraph], table: Mapping[str, str] = DEFAULT_ROLES) -> tuple[str, list[str]]:
    """The story's Markdown, and a sentence for every role or style that Markdown has no word for."""
    kinds = {role: found for found, role in reversed(list(table.items()))}
    parts, notes, before = list[str](), dict[str, None](), ""
    for paragraph in paragraphs:
        found = kinds.get(paragraph.role, "")
        if found in ("", "title", "subtitle"):
            found = "heading 1" if table.get("heading 1") == paragraph.role else ""
        if not found:
            notes[f"“{paragraph.role}” paragraphs were written as plain ones."] = None
        if any(run.small_caps or run.ink for run in paragraph.runs):
            notes["Small caps and inks of words were left out."] = None
        text = _one(paragraph, found)
        close = found in ("list", "entry") and found == before
        parts.append(("\n" if close else "\n\n") + text if parts else text)
        before = found
    return "".join(parts) + "\n", list(notes)


def _one(paragraph: Paragraph, found: str) -> str:
    text = "".join(_marked(run) for run in paragraph.runs).strip(" ")
    if found.startswith("heading"):
        return "#" * int(found[-1]) + " " + text
    if found == "break":
        return "***"
    if found == "quote":
        return "> " + text
    if found.startswith("list"):
        bullet = _BULLET.match(text)
        level = len(bullet[1]) if bullet else 0
        mark = bullet[2] if bullet and _NUMBER.fullmatch(bullet[2]) else "-"
        return f"{' ' * 4 * level}{mark} {text[bullet.end() :] if bullet else text}"
    return text if TAB in text else _OPENS_BLOCK.sub(r"\1\\\2", text)


def _marked(run: Run) -> str:
    text = _SPECIAL.sub(r"\\\1", run.text)
    if run.rise:
        tag = "sup" if run.rise == "superior" else "sub"
        text = f"<{tag}>{text}</{tag}>"
    mark = "*" * (run.italic + 2 * run.bold)
    if not mark or not text.strip():
        return text
    lead, tail = text[: len(text) - len(text.lstrip())], text[len(text.rstrip()) :]
    return f"{lead}{mark}{text.strip()}{mark}{tail}"
