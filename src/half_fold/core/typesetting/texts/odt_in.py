"""Open documents (.odt) to paragraphs with roles, through odfpy."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Run
from half_fold.core.typesetting.texts.reading import TAB, Reading

_NAMED = {"title": "title", "subtitle": "subtitle", "quotations": "quote", "standard": "body", "text body": "body"}
_PLAIN = Run(text="")
_LEFT_OUT = {
    "note": "A footnote was left out.",
    "annotation": "A comment was left out.",
    "frame": "A picture in the text was left out; bring it in on the light table.",
    "bibliography-mark": "A mark of a bibliography was left out.",
}


class _Styles:
    """What automatic and named styles of the document say of words and paragraphs."""

    def __init__(self, document: Any) -> None:
        self._styles: dict[str, Any] = {}
        for place in (document.automaticstyles, document.styles):
            for style in place.childNodes:
                name = _attribute(style, "name")
                if _name(style) == "style" and name:
                    self._styles.setdefault(name, style)

    def run(self, name: str, over: Run) -> Run:
        """The style of words within ``over``."""
        style = self._styles.get(name)
        if style is None:
            return over
        parent = _attribute(style, "parent-style-name")
        made = self.run(parent, over) if parent and parent != name else over
        for properties in style.childNodes:
            if _name(properties) != "text-properties":
                continue
            weight, slope = _attribute(properties, "font-weight"), _attribute(properties, "font-style")
            place = _attribute(properties, "text-position").split(" ")[0]
            rise = "superior" if place.startswith("super") else "inferior" if place.startswith("sub") else made.rise
            made = replace(
                made,
                bold=weight in ("bold", "600", "700", "800", "900") if weight else made.bold,
                italic=slope in ("italic", "oblique") if slope else made.italic,
                small_caps=made.small_caps or _attribute(properties, "font-variant") == "small-caps",
                rise=rise,
            )
        return made

    def paragraph(self, name: str) -> str:
        """The name a user gave a paragraph's style: that of the one it was made from, where it is automatic."""
        style = self._styles.get(name)
        if style is None:
            return name.replace("_20_", " ")
        shown = _attribute(style, "display-name") or name
        automatic = len(shown) > 1 and shown[0] == "P" and shown[1:].isdigit()
        parent = _attribute(style, "parent-style-name")
        return self.paragraph(parent) if automatic and parent else shown.replace("_20_", " ")


def _name(node: Any) -> str:
    return str(node.qname[1]) if getattr(node, "qname", None) else ""


def _attribute(node: Any, name: str) -> str:
    for (_, key), value in (getattr(node, "attributes", None) or {}).items():
        if key == name:
            return str(value)
    return ""


def read_odt(path: Path, reading: Reading) -> Reading:
    """The paragraphs of a document in order; tables become entries. Problem where it cannot be read."""
    import zipfile

    from odf.opendocument import load

    try:
        document = load(str(path))
        body = document.text
    except (OSError, zipfile.BadZipFile, KeyError, ValueError, AttributeError, AssertionError) as error:
        raise Problem(f"“{path.name}” is no document that can be read; save it again as .odt.") from error
    except Exception as error:  # the parser of the library raises what it likes on what is no XML
        raise Problem(f"“{path.name}” is damaged and cannot be read; save it again as .odt.") from error
    _Walk(_Styles(document), reading).children(body)
    return reading


class _Walk:
    """Goes through a document's text in reading order."""

    def __init__(self, styles: _Styles, reading: Reading) -> None:
        self.styles, self.reading = styles, reading

    def children(self, node: Any, inside: str = "", bullet: str = "") -> None:
        for child in node.childNodes:
            name = _name(child)
            if name in ("p", "h"):
                self._paragraph(child, inside, bullet)
                bullet = ""
            elif name == "list":
                self._list(child)
            elif name == "table":
                self._table(child)
            elif name == "tracked-changes":
                self.reading.note("Words that were marked as deleted were left out.")
            elif name in _LEFT_OUT:
                self.reading.note(_LEFT_OUT[name])
            elif name in ("section", "table-of-content", "index-body", "list-header"):
                self.children(child, inside)

    def _paragraph(self, node: Any, inside: str, bullet: str) -> None:
        style = _attribute(node, "style-name")
        found = inside or self._found(node, style)
        runs = list(self._runs(node, self.styles.run(style, _PLAIN) if found == "body" else _PLAIN))
        if found == "body" and TAB in "".join(run.text for run in runs).strip():
            found = "entry"
        self.reading.add(found, runs, bullet)

    def _found(self, node: Any, style: str) -> str:
        if _name(node) == "h":
            level = _attribute(node, "outline-level") or "1"
            return f"heading {min(6, int(level))}"
        name = self.styles.paragraph(style)
        return _NAMED.get(name.lower(), name or "body")

    def _list(self, node: Any) -> None:
        for item in node.childNodes:
            self.children(item, "list", "•\u2002")

    def _table(self, node: Any) -> None:
        self.reading.note("A table was set as entries, its cells parted by tabs.")
        for row in _named(node, "table-row"):
            cells = ["".join(run.text for run in self._runs(cell, _PLAIN)) for cell in _named(row, "table-cell")]
            self.reading.add("entry", [Run(text=TAB.join(" ".join(cell.split()) for cell in cells))])

    def _runs(self, node: Any, style: Run) -> Iterator[Run]:
        for child in node.childNodes:
            name = _name(child)
            if not name:
                yield replace(style, text=" ".join(f"|{child.data}|".split())[1:-1])
            elif name == "span":
                yield from self._runs(child, self.styles.run(_attribute(child, "style-name"), style))
            elif name == "tab":
                yield replace(style, text=TAB)
            elif name in ("s", "line-break"):
                yield replace(style, text=" ")
            elif name in _LEFT_OUT:
                self.reading.note(_LEFT_OUT[name])
            else:
                if name == "a":
                    self.reading.note("A link was made plain words.")
                yield from self._runs(child, style)


def _named(node: Any, name: str) -> Iterator[Any]:
    for child in node.childNodes:
        if _name(child) == name:
            yield child
        elif _name(child):
            yield from _named(child, name)
