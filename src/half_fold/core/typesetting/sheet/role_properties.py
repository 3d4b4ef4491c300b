"""What can be set of a role, in the groups in which it is shown."""

from typing import Any

from msgspec.structs import replace
from msgspec.structs import replace as with_

from half_fold.core.publication.fields import field_of
from half_fold.core.publication.property import Choices, Property
from half_fold.core.publication.records import Publication, Role
from half_fold.core.publication.surgery import may_be_base
from half_fold.core.typesetting.faces.faces import families
from half_fold.core.typesetting.faces.scripts import decode_fallbacks, format_fallbacks

_ALIGNED: Choices = tuple((way, way) for way in ("justified", "left", "right", "centre"))
_BEGINS: Choices = (
    ("anywhere", "where it falls"),
    ("column", "in a new column"),
    ("page", "on a new page"),
    ("recto", "on a new recto"),
)
_OPENINGS: Choices = tuple((way, way) for way in ("small caps", "bold", "italic"))


def _families(_: Publication, __: Role) -> Choices:
    return [(name, name) for name in families()]


def _styles(_: Publication, role: Role) -> Choices:
    return [(name, name) for name in families().get(role.family, {})]


def _in_its_family(_: Publication, role: Role) -> Role:
    """A style that the family has: its own, or the plainest."""
    styles = families().get(role.family, {role.style: ""})
    if role.style in styles:
        return role
    return replace(role, style="Regular" if "Regular" in styles else next(iter(styles)))


def _fallbacks() -> Property[Role]:
    made = field_of(Role, "fallback", "Other scripts", "text", note="script: family, for letters it has not got")
    write = made.write
    return with_(made, write=lambda role, text: write(role, format_fallbacks(decode_fallbacks(text))))


def _role(name: str, label: str, kind: Any, **more: Any) -> Property[Role]:
    return field_of(Role, name, label, kind, **more)


def _bases(publication: Publication, role: Role) -> Choices:
    return [("", "no other role"), *((each.name, each.label) for each in may_be_base(publication.roles, role))]


NAME = _role("label", "Name", "text")
BASED_ON = _role("based_on", "Based on", "choice", choices=_bases, note="what it does not state is that role's")
GROUPS: tuple[tuple[str, tuple[Property[Role], ...]], ...] = (
    (
        "Face",
        (
            _role("family", "Family", "choice", choices=_families, settle=_in_its_family, also=("font", "typeface")),
            _role("style", "Style", "choice", choices=_styles, also=("weight", "bold", "italic")),
            _fallbacks(),
            _role("size", "Size", "length", also=("points", "bigger", "smaller")),
            _role("leading", "Leading", "length", also=("line spacing", "line height")),
            _role("tracking", "Tracking", "number", unit="/1000 em", note="to every letter", also=("letter space",)),
            _role("capitals", "All capitals", "flag", also=("upper case",)),
            _role("ink", "Ink", "ink", also=("colour",)),
            _role("tint", "Tint", "share"),
            _role("look", "Look", "look", none="none", note="its outline, shadow and glow, from the ink list"),
        ),
    ),
    (
        "Features",
        (
            _role("small_caps", "Small caps", "flag"),
            _role("old_figures", "Old-style figures", "flag", also=("numerals",)),
            _role("tabular", "Tabular figures", "flag", also=("numerals in columns",)),
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
