"""Open documents (.odt) to paragraphs with roles."""

import re
from collections.abc import Iterator
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.publication.records import Run
from half_fold.core.typesetting.texts.equations import format_equation
from half_fold.core.typesetting.texts.odt_styles import PLAIN, OdtStyles, Words
from half_fold.core.typesetting.texts.office import Element, Package, attribute, child, children, element_name, whole
from half_fold.core.typesetting.texts.reading import BREAK, LEVEL, QUOTES, TAB, Reading, note_mark, on_one_line, trimmed

_NAMED = {"title": "title", "subtitle": "subtitle", "standard": "body"} | dict.fromkeys(QUOTES, "quote")
_BODY = re.compile(
    r"(default.*|body text.*|text body.*|normal.*|preformatted text|first line indent|first paragraph|compact)$",
    re.IGNORECASE,
)
_THROUGH = ("section", "table-of-content", "index-body", "list-header", "alphabetical-index", "illustration-index")
_PASSED = ("soft-page-break", "annotation-end", "bookmark", "bookmark-start", "bookmark-end", "forms", "sequence-decls")
_SPACE = "\u2002"
MOST_SPACES, MOST_REPEATED = 400, 60


def read_odt(path: Path, reading: Reading) -> Reading:
    """The paragraphs of a document in order; tables become entries, notes stand at the end.

    Problem where it cannot be read.
    """
    with Package(path) as package:
        root = package.xml("content.xml")
        text = child(child(root, "body"), "text")
        if text is None:
            raise package.broken()
        try:
            _Walk(OdtStyles(root, package.optional("styles.xml")), reading, package).blocks(text)
        except RecursionError as error:
            raise package.broken() from error
    return reading.finish()


class _Walk:
    """Goes through a document's text in reading order."""

    def __init__(self, styles: OdtStyles, reading: Reading, package: Package) -> None:
        self.styles, self.reading, self.package = styles, reading, package
        self._boxes: list[Element] = []
        self._counts: dict[str, list[int]] = {}  # how far lists of a style have come, for those that go on

    def blocks(self, node: Element, inside: str = "") -> None:
        """Paragraphs, lists and tables, wherever they are wrapped."""
        for each in node:
            name = element_name(each)
            if name in ("p", "h"):
                self._paragraph(each, inside)
            elif name == "list":
                self._list(each, "", [])
            elif name == "table":
                self._table(each)
            elif name == "tracked-changes":
                gone = sum(element_name(change) == "deletion" for change in each.iter())
                self.reading.met("deleted passage", "was left out", gone)
            elif name in ("frame", "custom-shape", "rect", "g"):
                list(self._drawn(each))
                self._set_boxes()
            elif name == "section" and attribute(each, "display") == "none":
                self.reading.met("hidden section", "was left out")
            elif name in _THROUGH:
                self.blocks(each, inside)

    def _paragraph(self, node: Element, inside: str = "", bullet: str = "") -> None:
        style = attribute(node, "style-name")
        found = inside or self._found(node, style)
        if element_name(node) == "h" and not bullet:
            bullet = self._heading_number(node)
        look = self.styles.words(style, PLAIN, "paragraph")
        runs = list(self._runs(node, look if found == "body" else plainly(look)))
        if found == "body" and TAB in "".join(run.text for run in runs).strip():
            found = "entry"
        self.reading.add(found, _collapsed(runs), bullet)
        self._set_boxes()

    def _heading_number(self, node: Element) -> str:
        """The number of a heading, where the document numbers its headings."""
        level = min(10, max(1, whole(attribute(node, "outline-level"), 1)))
        if self.styles.level("outline", level) is None or attribute(node, "is-list-header") == "true":
            return ""
        counts = self._counts.setdefault("outline", [])
        counts[:] = [*counts[:level], *[0] * (level - len(counts))]
        counts[level - 1] += 1
        label = self.styles.label("outline", counts)
        return f"{label}{_SPACE}" if label else ""

    def _set_boxes(self) -> None:
        """What stands in text boxes, after the paragraph that holds them."""
        boxes, self._boxes = self._boxes, []
        for box in boxes:
            self.reading.met("text box", "was set after its paragraph")
            self.blocks(box)

    def _found(self, node: Element, style: str) -> str:
        if element_name(node) == "h":
            return f"heading {min(6, max(1, whole(attribute(node, 'outline-level'), 1)))}"
        name = self.styles.paragraph(style)
        if name.lower() in _NAMED or not name:
            return _NAMED.get(name.lower(), "body")
        heading = re.fullmatch(r"heading (\d+)", name.lower())
        if heading:
            return f"heading {min(6, int(heading[1]))}"
        if name.lower().startswith("list") or name.lower().startswith("numbering"):
            return "list"
        return "body" if _BODY.match(name) else name

    def _list(self, node: Element, style: str, above: list[int]) -> None:
        style = attribute(node, "style-name") or style
        key = f"{style} {len(above)}"
        goes_on = attribute(node, "continue-numbering") == "true" or attribute(node, "continue-list")
        count = self._counts.get(key, [0])[-1] if goes_on else self._start(style, len(above) + 1) - 1
        for item in node:
            if element_name(item) == "list-header":
                self.blocks(item, self._kind(above))
                continue
            if element_name(item) != "list-item":
                continue
            count = whole(attribute(item, "start-value"), count + 1)
            self._item(item, style, [*above, count])
        self._counts[key] = [count]

    def _item(self, item: Element, style: str, counts: list[int]) -> None:
        """The first paragraph of an item has its label, and those that follow have none."""
        label = self.styles.label(style, counts)
        bullet = f"{LEVEL * (len(counts) - 1)}{label}{_SPACE}" if label else ""
        for each in item:
            if element_name(each) == "list":
                self._list(each, style, counts)
            elif element_name(each) in ("p", "h"):
                is_heading = element_name(each) == "h"
                self._paragraph(
                    each, "" if is_heading else self._kind(counts[1:]), bullet.lstrip(LEVEL) if is_heading else bullet
                )
                bullet = ""
            elif element_name(each) == "table":
                self._table(each)

    def _kind(self, above: list[int]) -> str:
        return f"list {len(above) + 1}" if above else "list"

    def _start(self, style: str, depth: int) -> int:
        level = self.styles.level(style, depth)
        return whole(attribute(level, "start-value"), 1) if level is not None else 1

    def _table(self, node: Element) -> None:
        self.reading.met("table", "was set as entries, its cells parted by tabs")
        self._rows(node)

    def _rows(self, node: Element) -> None:
        for row in _within(node, "table-row"):
            runs: list[Run] = []
            inner: list[Element] = []
            for at, cell in enumerate(
                each for each in row if element_name(each) in ("table-cell", "covered-table-cell")
            ):
                again = min(MOST_REPEATED, max(1, whole(attribute(cell, "number-columns-repeated"), 1)))
                runs += [Run(text=TAB)] * bool(at)
                if element_name(cell) == "table-cell":
                    runs += self._cell(cell)
                    inner += list(_within(cell, "table"))
                runs += [Run(text=TAB)] * (again - 1)
            self.reading.add("entry", runs)
            self._set_boxes()
            for table in inner:
                self.reading.met("table within a table", "was set after its row")
                self._rows(table)

    def _cell(self, cell: Element) -> list[Run]:
        """The words of a cell on one line."""
        out: list[Run] = []
        for label, paragraph in self._labelled(cell, "", []):
            look = plainly(self.styles.words(attribute(paragraph, "style-name"), PLAIN, "paragraph"))
            runs = _collapsed(self._runs(paragraph, look))
            out += [Run(text=" ")] * bool(out and runs) + [Run(text=f"{label}{_SPACE}")] * bool(label and runs)
            out += on_one_line(runs)
        return out

    def _labelled(self, node: Element, style: str, above: list[int]) -> Iterator[tuple[str, Element]]:
        """The paragraphs in a cell, those of lists each with what stands before it."""
        for each in node:
            if element_name(each) in ("p", "h"):
                yield "", each
            elif element_name(each) == "list":
                style = attribute(each, "style-name") or style
                for count, item in enumerate(children(each, "list-item"), self._start(style, len(above) + 1)):
                    label = self.styles.label(style, [*above, count])
                    for _, paragraph in self._labelled(item, style, [*above, count]):
                        yield label, paragraph
                        label = ""
            elif element_name(each) in _THROUGH:
                yield from self._labelled(each, style, above)

    def _runs(self, node: Element, look: Words) -> Iterator[Run]:
        yield from self._said(node.text, look)
        for each in node:
            name = element_name(each)
            if name == "span":
                yield from self._runs(each, self.styles.words(attribute(each, "style-name"), look))
            elif name == "tab":
                yield replace(look.run, text=TAB)
            elif name == "s":
                count = min(MOST_SPACES, max(1, whole(attribute(each, "c"), 1)))
                yield replace(look.run, text=" " * count)
            elif name == "line-break":
                yield replace(look.run, text=BREAK)
            elif name == "note":
                yield self._note(each)
            elif name == "annotation":
                self.reading.met("comment", "was left out")
            elif name in ("frame", "custom-shape", "rect", "g", "line"):
                yield from self._drawn(each)
            elif name == "ruby":
                self.reading.met("reading beside its letters", "was left out")
                for base in children(each, "ruby-base"):
                    yield from self._runs(base, look)
            elif name in ("hidden-text", "hidden-paragraph"):
                self.reading.met("hidden passage", "was left out")
            elif name and name not in _PASSED:
                if name == "a":
                    self.reading.met("link", "became plain words")
                yield from self._runs(each, look)
            yield from self._said(each.tail, look)

    def _said(self, text: str | None, look: Words) -> Iterator[Run]:
        if not text:
            return
        if look.is_hidden and text.strip():
            self.reading.met("hidden passage", "was left out")
            return
        if look.is_struck and text.strip():
            self.reading.met("struck passage", "was kept as plain words")
        words = re.sub(r"[ \t\r\n]+", " ", text)
        yield replace(look.run, text=words.upper() if look.capitals else words)

    def _note(self, node: Element) -> Run:
        citation, body = child(node, "note-citation"), child(node, "note-body")
        mark = "".join(citation.itertext()).strip() if citation is not None else "*"
        self.reading.met(attribute(node, "note-class") or "footnote", "was set at the end")
        runs = [Run(text=f"{mark}{_SPACE}")]
        for at, paragraph in enumerate(_paragraphs(body) if body is not None else ()):
            runs += [Run(text=" ")] * bool(at)
            runs += trimmed(_collapsed(self._runs(paragraph, PLAIN)))
        self.reading.later("note", runs)
        return note_mark(mark)

    def _drawn(self, node: Element) -> Iterator[Run]:
        """Words in a box or a shape go after the paragraph; a picture is left out and said."""
        box = child(node, "text-box")
        if box is None and element_name(node) != "frame" and any(element_name(each) == "p" for each in node.iter()):
            box = node
        formula = child(node, "object")
        if box is not None:
            self._boxes.append(box)
        elif formula is not None:
            yield from self._object(formula)
        else:
            self.reading.met("picture", "was left out; bring it in in the picture drawer")

    def _object(self, node: Element) -> Iterator[Run]:
        """An embedded object, of which only equations say anything."""
        math = next((each for each in node.iter() if element_name(each) == "math"), None)
        part = attribute(node, "href").removeprefix("./").strip("/") + "/content.xml"
        if math is None and part in self.package.names:
            root = self.package.xml(part)
            math = root if element_name(root) == "math" else None
        if math is None:
            self.reading.met("embedded object", "was left out")
            return
        self.reading.met("equation", "became plain words")
        yield Run(text=format_equation(math))


def plainly(look: Words) -> Words:
    """What a paragraph's own style says of its words, as far as a role does not: nothing of weight, slope or size."""
    return Words(PLAIN.run, look.is_hidden, look.is_struck, look.capitals)


def _collapsed(runs: Iterator[Run] | list[Run]) -> list[Run]:
    """Runs without the white space that readers of the file pass over: at either end, and after other white space."""
    out: list[Run] = []
    before = " "
    for run in runs:
        text = run.text.lstrip(" ") if before in (" ", BREAK) and not run.text.startswith("  ") else run.text
        if text:
            out.append(replace(run, text=text))
            before = text[-1]
    if out and out[-1].text.endswith(" "):
        out[-1] = replace(out[-1], text=out[-1].text.rstrip(" "))
    return [run for run in out if run.text]


def _within(node: Element, name: str) -> Iterator[Element]:
    """The outermost elements of that name, but not those inside another table."""
    for each in node:
        if element_name(each) == name:
            yield each
        elif element_name(each) not in ("table", "note"):
            yield from _within(each, name)


def _paragraphs(node: Element) -> Iterator[Element]:
    """The paragraphs in a cell or note, those of lists included, but not those inside another table."""
    for each in node:
        if element_name(each) in ("p", "h"):
            yield each
        elif element_name(each) not in ("table", "note", "frame", "annotation"):
            yield from _paragraphs(each)
