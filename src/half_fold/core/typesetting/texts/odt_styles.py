"""What an .odt says of styles, and how its lists are numbered."""

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.publication.records import Run
from half_fold.core.typesetting.texts.docx_styles import numeral
from half_fold.core.typesetting.texts.office import Element, attribute, children, element_name, whole
from half_fold.core.typesetting.texts.reading import BULLET

MOST_BASED = 30  # styles made from one another
_FORMS = {"1": "decimal", "a": "lowerLetter", "A": "upperLetter", "i": "lowerRoman", "I": "upperRoman", "": "none"}


class Words(Struct, frozen=True):
    """How words look: as a run with no text, and whether they are hidden, struck out, or in capitals."""

    run: Run
    is_hidden: bool = False
    is_struck: bool = False
    capitals: bool = False


PLAIN = Words(Run(text=""))


class OdtStyles:
    """Automatic and named styles of a document by their names."""

    def __init__(self, *roots: Element | None) -> None:
        self._styles: dict[tuple[str, str], Element] = {}
        self._lists: dict[str, dict[int, Element]] = {}
        for root in roots:
            for place in root if root is not None else ():
                if element_name(place) in ("automatic-styles", "styles"):
                    self._take(place)

    def _take(self, place: Element) -> None:
        for style in place:
            name = attribute(style, "name")
            if element_name(style) == "style":
                self._styles.setdefault((attribute(style, "family"), name), style)
            elif element_name(style) in ("list-style", "outline-style"):
                levels = {whole(attribute(level, "level"), 1): level for level in style}
                self._lists.setdefault(name if element_name(style) == "list-style" else "outline", levels)

    def words(self, name: str, over: Words, family: str = "text") -> Words:
        """The look of words in a style within ``over``."""
        made = over
        for style in reversed(self._based(family, name)):
            for properties in children(style, "text-properties"):
                made = _with(made, properties)
        return made

    def _based(self, family: str, name: str) -> list[Element]:
        """A style and those it was made from."""
        out: list[Element] = []
        while (family, name) in self._styles and len(out) < MOST_BASED:
            out.append(self._styles[family, name])
            name = attribute(out[-1], "parent-style-name")
        return out

    def paragraph(self, name: str) -> str:
        """The name a user gave a paragraph's style: that of the one it was made from, where it is automatic."""
        for style in self._based("paragraph", name):
            shown = attribute(style, "display-name") or attribute(style, "name")
            if not (len(shown) > 1 and shown[0] == "P" and shown[1:].isdigit()):
                return shown.replace("_20_", " ")
        return name.replace("_20_", " ")

    def level(self, list_style: str, depth: int) -> Element | None:
        """What a list style says of a level, counted from 1."""
        return self._lists.get(list_style, {}).get(depth)

    def label(self, list_style: str, counts: list[int]) -> str:
        """What stands before an item whose numbers, from the outermost list on, are ``counts``."""
        level = self.level(list_style, len(counts))
        if level is None or element_name(level) in ("list-level-style-bullet", "list-level-style-image"):
            sign = attribute(level, "bullet-char") if level is not None else ""
            return sign if sign and not "\ue000" <= sign <= "\uf8ff" else BULLET
        shown = max(1, whole(attribute(level, "display-levels"), 1))
        told = []
        for depth in range(max(1, len(counts) - shown + 1), len(counts) + 1):
            own = self.level(list_style, depth)
            form = attribute(own, "num-format") if own is not None else "1"
            told.append(numeral(counts[depth - 1], _FORMS.get(form, "decimal")))
        numbers = ".".join(filter(None, told))
        return f"{attribute(level, 'num-prefix')}{numbers}{attribute(level, 'num-suffix')}".strip() if numbers else ""


def _with(words: Words, properties: Element) -> Words:
    """Words with what a style's properties say of them."""
    weight, slope = attribute(properties, "font-weight"), attribute(properties, "font-style")
    place = attribute(properties, "text-position").split(" ")[0]
    run, struck = words.run, attribute(properties, "text-line-through-style")
    raised = "inferior" if place.startswith(("sub", "-")) else "superior" if place and place not in ("0%", "0") else ""
    made = replace(
        run,
        bold=weight in ("bold", "600", "700", "800", "900") if weight else run.bold,
        italic=slope in ("italic", "oblique") if slope else run.italic,
        small_caps=run.small_caps or attribute(properties, "font-variant") == "small-caps",
        rise=raised if place else run.rise,
    )
    case, display = attribute(properties, "text-transform"), attribute(properties, "display")
    return Words(
        made,
        display == "none" if display else words.is_hidden,
        struck != "none" if struck else words.is_struck,
        case == "uppercase" if case else words.capitals,
    )
