"""Markdown and plain text to paragraphs with roles."""

import re
from collections.abc import Sequence
from typing import Any

from msgspec.structs import replace

from half_fold.core.publication.records import Run
from half_fold.core.typesetting.texts.reading import (
    BREAK,
    BULLET,
    LEVEL,
    LINE,
    STARS,
    TAB,
    Reading,
    join_paragraphs,
    note_mark,
)

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
    """Headings, emphasis, lists, quotations, tables and notes to roles; a line with a tab is an entry by itself."""
    from markdown_it import MarkdownIt
    from mdit_py_plugins.footnote import footnote_plugin

    parser = MarkdownIt("commonmark").enable(["table", "strikethrough"]).use(footnote_plugin, inline=False)
    return _Markdown(reading or Reading()).read(parser.parse(text))


class _Markdown:
    """Goes through the tokens of a text in order."""

    def __init__(self, reading: Reading) -> None:
        self.reading = reading
        self._found, self._bullet = "body", ""
        self._counters: list[int] = []  # of the lists that are open; 0 for one that is not numbered
        self._row: list[Run] | None = None
        self._cells = 0
        self._note: list[Run] | None = None

    def read(self, tokens: Sequence[Any]) -> Reading:
        for token in tokens:
            act = getattr(self, f"_{token.type}", None)
            if act is not None:
                act(token)
        return self.reading.finish()

    def _heading_open(self, token: Any) -> None:
        self._found = f"heading {token.tag[1:]}"

    def _heading_close(self, _: Any) -> None:
        self._found = "body"

    def _blockquote_open(self, _: Any) -> None:
        self._found = "quote"

    _blockquote_close = _heading_close

    def _ordered_list_open(self, token: Any) -> None:
        self._begin_list(int(token.attrs.get("start", 1)))

    def _bullet_list_open(self, _: Any) -> None:
        self._begin_list(0)

    def _begin_list(self, start: int) -> None:
        self._counters.append(start)
        self._found = self._list_kind()

    def _list_kind(self) -> str:
        depth = min(9, len(self._counters))
        return f"list {depth}" if depth > 1 else "list" if depth else "body"

    def _bullet_list_close(self, _: Any) -> None:
        self._counters.pop()
        self._found = self._list_kind()

    _ordered_list_close = _bullet_list_close

    def _list_item_open(self, _: Any) -> None:
        number = self._counters[-1]
        self._bullet = LEVEL * (len(self._counters) - 1) + (f"{number}." if number else BULLET) + "\u2002"
        self._counters[-1] += 1 if number else 0

    def _inline(self, token: Any) -> None:
        runs = _runs(token.children or [], self.reading)
        if self._note is not None:
            self._note += [Run(text=" ")] * (len(self._note) > 1) + runs
        elif self._row is not None:
            self._row += runs
        elif self._found == "body" and TAB in token.content:
            self._add_entries(runs)
        else:
            self.reading.add(self._found, runs, self._bullet)
            self._bullet = ""

    def _add_entries(self, runs: list[Run]) -> None:
        """Each source line of a paragraph with tabs as a paragraph of its own."""
        line: list[Run] = []
        for run in runs:
            head, *rest = run.text.replace(BREAK, LINE).split(LINE)
            line.append(replace(run, text=head))
            for text in rest:
                self.reading.add("entry", line)
                line = [replace(run, text=text)]
        self.reading.add("entry", line)

    def _table_open(self, _: Any) -> None:
        self.reading.met("table", "was set as entries, its cells parted by tabs")

    def _tr_open(self, _: Any) -> None:
        self._row, self._cells = [], 0

    def _td_open(self, _: Any) -> None:
        assert self._row is not None
        self._row += [Run(text=TAB)] * bool(self._cells)
        self._cells += 1

    _th_open = _td_open

    def _tr_close(self, _: Any) -> None:
        row, self._row = self._row, None
        self.reading.add("entry", row or [])

    def _footnote_open(self, token: Any) -> None:
        self._note = [Run(text=f"{token.meta['id'] + 1}\u2002")]

    def _footnote_close(self, _: Any) -> None:
        note, self._note = self._note, None
        self.reading.later("note", note or [])

    def _fence(self, token: Any) -> None:
        self.reading.met("block of code", "was taken as plain words")
        lines = [" ".join(line.split()) for line in token.content.split("\n")]
        self.reading.add("body", [Run(text=BREAK.join(filter(None, lines)))])

    _code_block = _fence

    def _html_block(self, token: Any) -> None:
        if _is_comment(token.content):
            self.reading.met("comment", "was left out")
            return
        self.reading.met("block of markup", "was taken as plain words")
        self.reading.add("body", [Run(text=" ".join(token.content.split()))])

    def _hr(self, _: Any) -> None:
        self.reading.add("break", [Run(text=STARS)])


def _is_comment(markup: str) -> bool:
    return markup.strip().startswith("<!--")


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
        elif kind == "html_inline" and content.lower().replace(" ", "") in ("<br>", "<br/>"):
            runs.append(replace(style, text=BREAK))
        elif kind == "softbreak":
            runs.append(replace(style, text=LINE))
        elif kind == "hardbreak":
            runs.append(replace(style, text=BREAK))
        elif kind == "footnote_ref":
            if not token.meta["subId"]:  # a note that is called again is one
                reading.met("footnote", "was set at the end")
            runs.append(note_mark(str(token.meta["id"] + 1)))
        elif kind == "image":
            reading.met(f"picture (“{content}”)", "was left out; bring it in in the picture drawer")
        elif kind == "link_open":
            reading.met("link", "became plain words")
        elif kind == "s_open":
            reading.met("struck passage", "was kept as plain words")
        elif kind == "html_inline" and _is_comment(content):
            reading.met("comment", "was left out")
        elif kind == "html_inline":
            reading.met("tag within a paragraph", "was left out")
        elif kind not in ("link_close", "s_close", "footnote_anchor"):
            runs.append(replace(style, text=content))
    return list(join_paragraphs(runs))
