"""Word-processor documents (.docx) to paragraphs with roles."""

import re
from collections.abc import Iterator
from pathlib import Path

from half_fold.core.publication.records import Run
from half_fold.core.typesetting.texts.docx_styles import OFF, DocxStyles, Numbering, StyleLook, numeral
from half_fold.core.typesetting.texts.equations import format_equation
from half_fold.core.typesetting.texts.office import Element, Package, attribute, child, children, element_name
from half_fold.core.typesetting.texts.reading import BREAK, LEVEL, QUOTES, TAB, Reading, note_mark, on_one_line, trimmed
from half_fold.core.typesetting.texts.symbols import symbol_letter

_NAMED = {"title": "title", "subtitle": "subtitle", "normal": "body"} | dict.fromkeys(QUOTES, "quote")
_BODY = re.compile(r"(body text.*|normal.*|no spacing|default.*|text body|compact|first paragraph)$")
_THROUGH = ("sdt", "sdtContent", "customXml", "smartTag", "ins", "moveTo", "dir", "bdo", "fldSimple", "rubyBase")
_GONE = ("del", "moveFrom")
_SPACE = "\u2002"
_UNBROKEN = "was left out; a role that begins pages does the same (Type sheet, Begins)"


def read_docx(path: Path, reading: Reading) -> Reading:
    """The paragraphs of a document in order; tables become entries, notes stand at the end.

    Problem where it cannot be read.
    """
    with Package(path) as package:
        root = package.xml("word/document.xml")
        body = child(root, "body")
        if body is None:
            raise package.broken()
        try:
            _Document(package, reading).blocks(body)
            _note_heads(package, reading)
        except RecursionError as error:
            raise package.broken() from error
    return reading.finish()


def _note_heads(package: Package, reading: Reading) -> None:
    for part in package.names:
        is_head = re.fullmatch(r"word/(header|footer)\d*\.xml", part)
        if is_head and any(
            element_name(each) == "t" and (each.text or "").strip() for each in package.xml(part).iter()
        ):
            reading.note("Heads and feet of its pages were left out; a master carries those.")


class _Document:
    """Goes through a document in reading order."""

    def __init__(self, package: Package, reading: Reading) -> None:
        self.reading = reading
        self.styles = DocxStyles(package.optional("word/styles.xml"))
        self.numbering = Numbering(package.optional("word/numbering.xml"))
        self._notes = {kind: self._told(package, kind) for kind in ("footnote", "endnote")}
        self._counts = {"footnote": 0, "endnote": 0}
        self._told_of: set[tuple[str, str]] = set()  # notes that have been told: within others none is told twice
        self._within = 0  # notes
        self._boxes: list[Element] = []
        self._fields: list[list[bool]] = []  # of each field that is open: whether its result has begun, and has words

    def _told(self, package: Package, kind: str) -> dict[str, Element]:
        root = package.optional(f"word/{kind}s.xml")
        return {attribute(each, "id"): each for each in children(root, kind)} if root is not None else {}

    def blocks(self, element: Element) -> None:
        """Paragraphs and tables, wherever they are wrapped."""
        for each in element:
            name = element_name(each)
            if name == "p":
                self._paragraph(each)
            elif name == "tbl":
                self._table(each)
            elif name in _THROUGH:
                self.blocks(each)
            elif name == "AlternateContent":
                self.blocks(_chosen(each))
            elif name in _GONE:
                self.reading.met("deleted passage", "was left out")
            elif name in ("oMath", "oMathPara"):
                self.reading.add("body", [self._equation(each)])

    def _paragraph(self, element: Element) -> None:
        found, bullet = self._kind(element)
        before = child(child(element, "pPr"), "pageBreakBefore")
        if before is not None and attribute(before, "val") not in OFF:
            self.reading.met("page break", _UNBROKEN)
        runs = list(self._inline(element, StyleLook()))
        if found == "body" and TAB in "".join(run.text for run in runs).strip():
            found = "entry"
        self.reading.add(found, runs, bullet)
        self._set_boxes()

    def _set_boxes(self) -> None:
        """What stands in text boxes, after the paragraph that holds them."""
        boxes, self._boxes = self._boxes, []
        for box in boxes:
            self.reading.met("text box", "was set after its paragraph")
            self.blocks(box)

    def _kind(self, element: Element) -> tuple[str, str]:
        """The kind of a paragraph, and what stands before it in a list."""
        properties = child(element, "pPr")
        style = child(properties, "pStyle")
        style_id = attribute(style, "val") if style is not None else ""
        name = (self.styles.name(style_id) or "Normal").lower()
        numbering = child(properties, "numPr")
        if numbering is None or child(numbering, "numId") is None:
            numbering = self.styles.numbering(style_id)
        label, level = self.numbering.label(numbering) if numbering is not None else ("", 0)
        heading = self.styles.outline(style_id)
        if heading:
            return f"heading {heading}", f"{label}{_SPACE}" if label else ""
        if name in _NAMED or _BODY.match(name) or name.startswith("list"):
            if label:
                return f"list {level + 1}" if level else "list", f"{LEVEL * level}{label}{_SPACE}"
            return _NAMED.get(name) or ("list" if name.startswith("list") else "body"), ""
        found = self.styles.name(style_id)
        return (found, f"{LEVEL * level}{label}{_SPACE}" if label else "") if found else ("body", "")

    def _inline(self, element: Element, look: StyleLook) -> Iterator[Run]:
        for each in element:
            name = element_name(each)
            if name == "r":
                yield from self._run(each)
            elif name in _GONE:
                self.reading.met("deleted passage", "was left out")
            elif name == "hyperlink":
                self.reading.met("link", "became plain words")
                yield from self._inline(each, look)
            elif name in _THROUGH:
                if name == "ins":
                    self.reading.note("Words that were marked as inserted were taken in.")
                yield from self._inline(each, look)
            elif name == "AlternateContent":
                yield from self._inline(_chosen(each), look)
            elif name in ("oMath", "oMathPara"):
                yield self._equation(each)

    def _equation(self, element: Element) -> Run:
        self.reading.met("equation", "became plain words")
        return Run(text=format_equation(element))

    def _run(self, element: Element) -> Iterator[Run]:
        look = self.styles.look(child(element, "rPr"))
        parts = list(self._parts(element))
        text = "".join(part for part in parts if isinstance(part, str))
        if look.hidden and text.strip():
            self.reading.met("hidden passage", "was left out")
            return
        if look.struck and text.strip():
            self.reading.met("struck passage", "was kept as plain words")
        for part in parts:
            if isinstance(part, Run):
                yield part
            elif part:
                yield Run(
                    text=part.upper() if look.capitals else part,
                    bold=bool(look.bold),
                    italic=bool(look.italic),
                    small_caps=bool(look.small_caps),
                    rise=look.rise or "",  # type: ignore[arg-type]
                )

    def _parts(self, element: Element) -> Iterator[str | Run]:
        """What a run holds: words, and marks that look as they look by themselves."""
        for each in element:
            name = element_name(each)
            if name == "t":
                self._fill_field(each.text or "")
                yield each.text or ""
            elif name in ("tab", "ptab"):
                yield TAB
            elif name == "cr" or name == "br":
                if attribute(each, "type") in ("page", "column"):
                    self.reading.met(f"{attribute(each, 'type')} break", _UNBROKEN)
                else:
                    yield BREAK
            elif name == "noBreakHyphen":
                yield "\u2011"
            elif name == "sym":
                yield self._symbol(each)
            elif name in ("footnoteReference", "endnoteReference"):
                yield self._note(name.removesuffix("Reference"), attribute(each, "id"))
            elif name == "commentReference":
                self.reading.met("comment", "was left out")
            elif name == "fldChar":
                self._field(attribute(each, "fldCharType"))
            elif name == "AlternateContent":
                yield from self._parts(_chosen(each))
            elif name in ("drawing", "pict", "object"):
                yield from self._drawn(each)
            elif name == "ruby":
                self.reading.met("reading beside its letters", "was left out")
                yield from self._inline(each, StyleLook())

    def _symbol(self, element: Element) -> str:
        font, code = attribute(element, "font"), attribute(element, "char")
        found = symbol_letter(font, code)
        if not found:
            self.reading.met(f"sign of the font {font}", "was left out, for it is not known")
        return found

    def _note(self, kind: str, name: str) -> Run:
        note = self._notes[kind].get(name)
        self._counts[kind] += 1
        number = numeral(self._counts[kind], "decimal" if kind == "footnote" else "lowerRoman")
        self.reading.met(kind, "was set at the end")
        if note is not None and not (self._within and (kind, name) in self._told_of):
            self._told_of.add((kind, name))
            self._within += 1
            runs = [Run(text=f"{number}{_SPACE}")]
            for at, paragraph in enumerate(children(note, "p")):
                runs += [Run(text=" ")] * bool(at) + trimmed(self._inline(paragraph, StyleLook()))
            self._within -= 1
            self.reading.later("note", runs)
        return note_mark(number)

    def _field(self, kind: str) -> None:
        """Of a field its result is read; one that has none is said."""
        if kind == "begin":
            self._fields.append([False, False])
        elif kind == "separate" and self._fields:
            self._fields[-1][0] = True
        elif kind == "end" and self._fields and not self._fields.pop()[1]:
            self.reading.met("field", "had no words and was left out")

    def _fill_field(self, text: str) -> None:
        if self._fields and self._fields[-1][0] and text.strip():
            self._fields = [[True, True] for _ in self._fields]

    def _drawn(self, element: Element) -> Iterator[str | Run]:
        """Words in a box go after the paragraph; a picture is left out and said."""
        boxes = list(_within(element, "txbxContent"))
        self._boxes += boxes
        if not boxes:
            thing = "embedded object" if element_name(element) == "object" else "picture"
            self.reading.met(thing, "was left out; bring it in in the picture drawer")
        yield ""

    def _table(self, element: Element) -> None:
        self.reading.met("table", "was set as entries, its cells parted by tabs")
        self._rows(element)

    def _rows(self, element: Element) -> None:
        for row in _wrapped(element, "tr"):
            runs: list[Run] = []
            inner: list[Element] = []
            for at, cell in enumerate(_wrapped(row, "tc")):
                runs += [Run(text=TAB)] * bool(at)
                if not _goes_on(cell):
                    runs += self._cell(cell)
                    inner += list(_wrapped(cell, "tbl"))
            self.reading.add("entry", runs)
            self._set_boxes()
            for table in inner:
                self.reading.met("table within a table", "was set after its row")
                self._rows(table)

    def _cell(self, cell: Element) -> Iterator[Run]:
        """The words of a cell on one line."""
        for at, paragraph in enumerate(_wrapped(cell, "p")):
            _, bullet = self._kind(paragraph)
            runs = [Run(text=bullet), *self._inline(paragraph, StyleLook())]
            if at and "".join(run.text for run in runs).strip():
                yield Run(text=" ")
            yield from on_one_line(runs)


def _goes_on(cell: Element) -> bool:
    """Whether a cell is only the rest of one that began in a row above."""
    merge = child(child(cell, "tcPr"), "vMerge")
    return merge is not None and attribute(merge, "val") != "restart"


def _chosen(element: Element) -> Element:
    """Of content that is told in two ways, the first; the other says the same again."""
    for name in ("Choice", "Fallback"):
        found = child(element, name)
        if found is not None:
            return found
    return []


def _wrapped(element: Element, name: str) -> Iterator[Element]:
    """The children of that name, also those in content controls."""
    for each in element:
        if element_name(each) == name:
            yield each
        elif element_name(each) in _THROUGH:
            yield from _wrapped(each, name)


def _within(element: Element, name: str) -> Iterator[Element]:
    """The outermost elements of that name, of content told in two ways only the first."""
    for each in element:
        if element_name(each) == name:
            yield each
        elif element_name(each) == "AlternateContent":
            yield from _within(_chosen(each), name)
        else:
            yield from _within(each, name)
