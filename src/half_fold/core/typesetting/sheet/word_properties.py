"""What can be set of words within a paragraph, typed as of the paragraph's role: beside what that says."""

from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.length import Length, of_points
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.property import Choices, Kind, Property
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import Publication, Role, Run
from half_fold.core.typesetting.faces.faces import families, style_in
from half_fold.core.typesetting.sheet.role_properties import AS_THE_ROLE

_RISES: Choices = (("superior", "superior"), ("inferior", "inferior"))


class Spoken(Struct, frozen=True):
    """Words of one style, by a run of it, under a role that is complete."""

    run: Run
    role: Role

    @property
    def family(self) -> str:
        """The family they are set in."""
        return self.run.face.partition("/")[0] or self.role.family

    @property
    def style(self) -> str:
        """Its style."""
        return self.run.face.partition("/")[2] or self.role.style


def _with(words: Spoken, **values: Any) -> Spoken:
    return replace(words, run=replace(words.run, **values))


def _faced(words: Spoken, family: str, style: str) -> Spoken:
    """In a face, its style one that the family has; the role's own face is said by none."""
    style = style_in(family, style)
    face = "" if (family, style) == (words.role.family, words.role.style) else f"{family}/{style}"
    return _with(words, face=face)


def _size(words: Spoken) -> Length | None:
    """In points; words keep it in per cent of their role's, and grow with that."""
    return None if words.run.size == 100 else of_points(words.role.size.pt * words.run.size / 100)


def _sized(words: Spoken, size: Length | None) -> Spoken:
    share = 100.0 if size is None else round(100 * size.pt / words.role.size.pt, 3)
    least, most = RANGES[Run]["size"]
    if not least <= share <= most:
        raise Problem(f"Words may be {least:g} to {most:g} per cent of their role's size, which is {words.role.size}.")
    return _with(words, size=share)


def _field(name: str, label: str, kind: Kind, **more: Any) -> Property[Spoken]:
    return Property(
        name,
        label,
        kind,
        lambda words: getattr(words.run, name),
        lambda words, value: _with(words, **{name: value}),
        **more,
    )


def _families(_: Publication, __: Spoken) -> Choices:
    return [(name, name) for name in families()]


def _styles(_: Publication, words: Spoken) -> Choices:
    return [(name, name) for name in families().get(words.family, {})]


_LEAST, _MOST = RANGES[Run]["tracking"]
WORDS: tuple[Property[Spoken], ...] = (
    Property(
        "family", "Family", "choice", lambda words: words.family,
        lambda words, family: _faced(words, family or words.role.family, words.style),
        choices=_families, also=("font", "typeface"),
    ),
    Property(
        "style", "Style", "choice", lambda words: words.style, lambda words, style: _faced(words, words.family, style),
        choices=_styles, also=("weight",),
    ),
    Property("size", "Size", "length", _size, _sized, 1.0, 2000.0, "pt", none=AS_THE_ROLE, also=("bigger", "smaller")),
    _field("tracking", "Tracking", "number", least=_LEAST, most=_MOST, unit="/1000 em", note="beside the role's"),
    _field("ink", "Ink", "ink", none="the role's", also=("colour",)),
    _field("bold", "Bold", "flag", note="the heavier style of their family"),
    _field("italic", "Italic", "flag"),
    _field("small_caps", "Small caps", "flag"),
    _field("rise", "Raised", "choice", choices=_RISES, none="no", also=("superscript", "subscript")),
)  # fmt: skip


def at_rest_in(words: Spoken) -> Spoken:
    """The words as their role says."""
    return replace(words, run=Run(text=words.run.text))
