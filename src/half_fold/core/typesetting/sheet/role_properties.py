"""What can be set of a role, in the groups in which it is shown."""

from typing import Any

from msgspec.structs import replace
from msgspec.structs import replace as with_

from half_fold.core.measure.length import Length
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Choices, Property
from half_fold.core.publication.ranges import MOST_RATIO
from half_fold.core.publication.records import Publication, Role
from half_fold.core.publication.surgery import may_be_base
from half_fold.core.typesetting.faces.faces import families, style_in
from half_fold.core.typesetting.faces.scripts import decode_fallbacks, format_fallbacks

AS_THE_ROLE = "as the role says"  # of what words may state over it, and do not
_ALIGNED: Choices = tuple((way, way) for way in ("justified", "left", "right", "centre"))
_BEGINS: Choices = (
    ("anywhere", "where it falls"),
    ("column", "in a new column"),
    ("page", "on a new page"),
    ("recto", "on a new recto"),
)
_OPENINGS: Choices = tuple((way, way) for way in ("small caps", "bold", "italic"))


_CASES: Choices = (
    ("as typed", "as typed"), ("capitals", "capitals"), ("small capitals", "small capitals"),
    ("titles", "each word with a capital"),
)  # fmt: skip
_FIGURES: Choices = (
    ("", "the face's own"), ("lining", "lining"), ("old style", "old style"), ("tabular", "lining, in columns"),
    ("tabular old style", "old style, in columns"),
)  # fmt: skip


def _families(_: Publication, __: Role) -> Choices:
    return [(name, name) for name in families()]


def _styles(_: Publication, role: Role) -> Choices:
    return [(name, name) for name in families().get(role.family, {})]


def in_its_family(_: Publication, role: Role) -> Role:
    """A style that the family has: its own, or the plainest."""
    style = style_in(role.family, role.style)
    return role if style == role.style else replace(role, style=style)


def _fallbacks() -> Property[Role]:
    made = field_of(Role, "fallback", "Other scripts", "text", note="script: family, for letters it has not got")
    write = made.write
    return with_(made, write=lambda role, text: write(role, format_fallbacks(decode_fallbacks(text))))


def _role(name: str, label: str, kind: Any, **more: Any) -> Property[Role]:
    return field_of(Role, name, label, kind, **more)


def _leading() -> Property[Role]:
    """The leading, as a length or, as a small number alone, in parts of the size."""
    made = field_of(Role, "leading", "Leading", "length", note="a length, or in parts of the size: 1.2",
                    also=("line spacing", "line height"))  # fmt: skip

    def parse(publication: Publication, role: Role, text: str) -> Length | float:
        try:
            alone = number_between(text, 0.0, 1e6, "leading")
        except Problem:
            alone = MOST_RATIO + 1
        return alone if 0 < alone <= MOST_RATIO else made.value(publication, role, text)

    def write(role: Role, given: Length | float) -> Role:
        return replace(role, ratio=given) if isinstance(given, float) else replace(role, leading=given, ratio=0.0)

    return with_(made, read=lambda role: role.ratio or role.leading, write=write, parse=parse)


def _bases(publication: Publication, role: Role) -> Choices:
    return [("", "no other role"), *((each.name, each.label) for each in may_be_base(publication.roles, role))]


# What is stated with a value: a style is one of its family, and a leading is given in one of two ways.
_TOGETHER = {"family": ("family", "style"), "leading": ("leading", "ratio")}


def stated_with(key: str) -> tuple[str, ...]:
    """The fields of a role that are stated where the property of that key is set."""
    return _TOGETHER.get(key, (key,))


NAME = _role("label", "Name", "text")
BASED_ON = _role("based_on", "Based on", "choice", choices=_bases, note="what it does not state is that role's")
GROUPS: tuple[tuple[str, tuple[Property[Role], ...]], ...] = (
    (
        "Face",
        (
            _role("family", "Family", "choice", choices=_families, settle=in_its_family, also=("font", "typeface")),
            _role("style", "Style", "choice", choices=_styles, also=("weight", "bold", "italic")),
            _fallbacks(),
            _role("size", "Size", "length", also=("points", "bigger", "smaller")),
            _leading(),
            _role("tracking", "Tracking", "number", unit="/1000 em", note="to every letter", also=("letter space",)),
            _role("case", "Case", "choice", choices=_CASES, also=("upper case", "all capitals", "small caps")),
            _role("shift", "Raised", "length", least=-200.0, note="above the baseline", also=("baseline shift",)),
            _role("underline", "Underline", "length", none="none", note="its weight", also=("rule under words",)),
            _role(
                "underline_off",
                "Underline's distance",
                "length",
                none="as suits the size",
                applies=lambda role: role.underline is not None,
            ),
            _role(
                "strike",
                "Struck through",
                "length",
                none="none",
                note="the weight of the rule",
                also=("strike through", "crossed out"),
            ),
            _role("ink", "Ink", "ink", also=("colour",)),
            _role("tint", "Tint", "share"),
            _role("look", "Look", "look", none="none", note="its outline, shadow and glow, from the ink list"),
        ),
    ),
    (
        "Features",
        (
            _role("figures", "Figures", "choice", choices=_FIGURES, also=("numerals", "old-style figures")),
            _role("ligatures", "Ligatures", "flag"),
            _role("fractions", "Fractions", "flag"),
        ),
    ),
    (
        "Paragraph",
        (
            _role("align", "Aligned", "choice", choices=_ALIGNED, also=("flush", "ragged", "justified")),
            _role("indent", "First line", "length", note="indented by", also=("indent",)),
            _role("left", "In from the left", "length", also=("indent",)),
            _role("right", "In from the right", "length", also=("indent",)),
            _role("before", "Lines before", "count", also=("space above",)),
            _role("after", "Lines after", "count", also=("space below",)),
            _role("rule_above", "Rule above", "length", none="none", also=("line above",)),
            _role("rule_below", "Rule below", "length", none="none", also=("line below", "underline")),
            _role("tab", "Tab", "length", none="none"),
            _role("leader", "Leader", "text", note="fills the way to what stands at the right", also=("dots",)),
        ),
    ),
    (
        "Breaking",
        (
            _role("hyphenate", "Hyphenated", "flag"),
            _role("hyphens_in_row", "Hyphens in a row", "count", note="lines that may end in one"),
            _role("word_least", "Word space, least", "share", note="of the face's own space"),
            _role("word_most", "Word space, most", "share"),
            _role("letter_give", "Letters give", "share", note="of the em; spaced or drawn in by it"),
            _role("hanging", "Hanging punctuation", "flag", note="points, quotes and hyphens in the margin"),
            _role("keep_next", "Kept with the next", "flag"),
            _role("keep_together", "Kept together", "flag"),
            _role("begins", "Begins", "choice", choices=_BEGINS, also=("page break", "new page", "chapter")),
        ),
    ),
    (
        "Opening",
        (
            _role("drop_lines", "Drop cap, lines", "count", also=("initial",)),
            _role("drop_letters", "Drop cap, letters", "count", also=("initial",)),
            _role(
                "asked",
                "Asked of pictures",
                "flag",
                note="every picture that is laid has to have it",
                applies=lambda role: role.name in ("caption", "credit"),
                also=("caption needed",),
            ),
            _role("opening_words", "Opening words", "count", note="in a manner of their own"),
            _role("opening", "Set in", "choice", choices=_OPENINGS),
        ),
    ),
)
ROLE: tuple[Property[Role], ...] = (NAME, *(each for _, group in GROUPS for each in group))
