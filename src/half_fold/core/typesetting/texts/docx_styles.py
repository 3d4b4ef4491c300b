"""What a .docx says of styles, and how its lists are numbered."""

from typing import NamedTuple

from msgspec import Struct, field

from half_fold.core.plan.sections import roman
from half_fold.core.typesetting.texts.office import Element, attribute, child, children, whole
from half_fold.core.typesetting.texts.reading import BULLET

OFF = ("0", "false", "off", "none")
MOST_BASED = 30  # styles based on one another


class StyleLook(NamedTuple):
    """What is said of words; None where nothing is."""

    bold: bool | None = None
    italic: bool | None = None
    small_caps: bool | None = None
    capitals: bool | None = None
    struck: bool | None = None
    hidden: bool | None = None
    rise: str | None = None

    def over(self, other: "StyleLook") -> "StyleLook":
        """This, and where it says nothing the other."""
        return other._replace(**{name: said for name, said in self._asdict().items() if said is not None})


class DocxStyles:
    """The styles of a document by their ids."""

    def __init__(self, root: Element | None) -> None:
        told = children(root, "style") if root is not None else iter(())
        self._styles = {attribute(style, "styleId"): style for style in told}

    def name(self, style_id: str) -> str:
        """The name that the user sees."""
        shown = child(self._styles.get(style_id), "name")
        return attribute(shown, "val") if shown is not None else style_id

    def look(self, properties: Element | None) -> StyleLook:
        """What the properties of a run say, its character style included."""
        if properties is None:
            return StyleLook()
        style = child(properties, "rStyle")
        based = self._look_of(attribute(style, "val")) if style is not None else StyleLook()
        return _stated(properties).over(based)

    def _look_of(self, style_id: str) -> StyleLook:
        look = StyleLook()
        for style in self._based(style_id):
            named = {"strong": StyleLook(bold=True), "emphasis": StyleLook(italic=True)}.get(
                self.name(style_id).lower(), StyleLook()
            )
            look = look.over(_stated(child(style, "rPr"))).over(named)
        return look

    def numbering(self, style_id: str) -> Element | None:
        """The numbering that a paragraph style has, or one that it is based on."""
        for style in self._based(style_id):
            found = child(child(style, "pPr"), "numPr")
            if found is not None:
                return found
        return None

    def outline(self, style_id: str) -> int:
        """The level of heading that a style is, or is based on; 0 for none."""
        for style in self._based(style_id):
            shown = child(style, "name")
            words = attribute(shown, "val").lower() if shown is not None else ""
            if words.startswith("heading ") and words[8:].isdigit():
                return min(6, int(words[8:]))
        return 0

    def _based(self, style_id: str) -> list[Element]:
        """A style and those it is based on."""
        out: list[Element] = []
        while style_id in self._styles and len(out) < MOST_BASED:
            out.append(self._styles[style_id])
            base = child(out[-1], "basedOn")
            style_id = attribute(base, "val") if base is not None else ""
        return out


def _stated(properties: Element | None) -> StyleLook:
    def said(name: str) -> bool | None:
        found = child(properties, name)
        return None if found is None else attribute(found, "val").lower() not in OFF

    place = child(properties, "vertAlign")
    rise = (
        {"superscript": "superior", "subscript": "inferior"}.get(attribute(place, "val"), "")
        if place is not None
        else None
    )
    struck = said("strike") or said("dstrike")
    return StyleLook(said("b"), said("i"), said("smallCaps"), said("caps"), struck, said("vanish"), rise)


class _Level(Struct):
    form: str = "decimal"
    text: str = "%1."
    start: int = 1


class _List(Struct):
    """The levels of a list's definition, and how far each is counted."""

    levels: dict[int, _Level]
    counts: dict[int, int] = field(default_factory=dict)


class Numbering:
    """How the lists of a document are numbered, counted on as their items are met."""

    def __init__(self, root: Element | None) -> None:
        self._lists: dict[str, _List] = {}
        self._of: dict[str, str] = {}
        self._starts: dict[str, dict[int, int]] = {}
        self._begun: set[str] = set()
        if root is None:
            return
        for each in children(root, "abstractNum"):
            levels = {whole(attribute(level, "ilvl")): _level(level) for level in children(each, "lvl")}
            self._lists[attribute(each, "abstractNumId")] = _List(levels)
        for each in children(root, "num"):
            number, abstract = attribute(each, "numId"), child(each, "abstractNumId")
            self._of[number] = attribute(abstract, "val") if abstract is not None else ""
            starts = ((level, child(level, "startOverride")) for level in children(each, "lvlOverride"))
            self._starts[number] = {
                whole(attribute(level, "ilvl")): whole(attribute(start, "val"), 1)
                for level, start in starts
                if start is not None
            }

    def label(self, properties: Element) -> tuple[str, int]:
        """(what stands before the next item, its level from 0); ("", 0) where it is not numbered."""
        number, level = child(properties, "numId"), child(properties, "ilvl")
        name = attribute(number, "val") if number is not None else ""
        depth = min(8, max(0, whole(attribute(level, "val")))) if level is not None else 0
        if name in ("", "0"):
            return "", 0
        of = self._lists.get(self._of.get(name, ""))
        if of is None:
            return BULLET, depth
        if name not in self._begun:
            self._begun.add(name)
            for at, start in self._starts.get(name, {}).items():
                of.counts[at] = start - 1
        of.counts[depth] = of.counts.get(depth, of.levels.get(depth, _Level()).start - 1) + 1
        for deeper in [at for at in of.counts if at > depth]:
            del of.counts[deeper]
        return _shown(of, depth), depth


def _level(level: Element) -> _Level:
    def said(name: str, otherwise: str) -> str:
        found = child(level, name)
        return attribute(found, "val") if found is not None else otherwise

    return _Level(said("numFmt", "decimal"), said("lvlText", ""), whole(said("start", "1"), 1))


def _shown(of: _List, depth: int) -> str:
    level = of.levels.get(depth, _Level())
    if level.form == "bullet":
        sign = level.text.strip()[:1]
        return sign if sign and not "\ue000" <= sign <= "\uf8ff" and sign != "o" else BULLET
    text = level.text
    for at in range(9):
        other = of.levels.get(at, _Level())
        text = text.replace(f"%{at + 1}", numeral(of.counts.get(at, other.start), other.form))
    return text.strip()


def numeral(number: int, form: str) -> str:
    """A number as a list shows it: in figures, letters or Roman numerals; "" where it shows none."""
    lower = form.lower()
    if lower == "none":
        return ""
    made = str(number)
    if "roman" in lower and 0 < number < 5000:
        made = roman(number)
    elif "letter" in lower and number > 0:
        made = chr(97 + (number - 1) % 26) * min(9, (number - 1) // 26 + 1)
    elif lower == "decimalzero":
        made = f"{number:02d}"
    return made.upper() if form.startswith("upper") else made
