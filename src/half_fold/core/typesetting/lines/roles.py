"""A role of the type sheet as the setter needs it: sizes in points, face, features, manner of breaking."""

import math

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.kept import kept
from half_fold.core.publication.records import Role
from half_fold.core.typesetting.faces.alphabets import for_language
from half_fold.core.typesetting.faces.faces import Face, face, face_key
from half_fold.core.typesetting.faces.scripts import known_fallbacks
from half_fold.core.typesetting.lines.demerits import JUSTIFIED, RAGGED, Justification
from half_fold.core.typesetting.lines.tokens import TokenSetting


class Style(Struct, frozen=True):
    """``indent`` in ems; ``tab``, ``left`` and ``right`` in points.

    ``keeps`` is true where a paragraph may not part from what follows it, ``whole`` where its lines stay together;
    ``begins`` says where it may begin: anywhere, or at the head of a column, a page or a recto. Letters are raised by
    ``shift`` points.
    """

    setting: TokenSetting
    size: float
    leading: float
    indent: float
    align: str
    manner: Justification
    keeps: bool
    tab: float = 0.0
    left: float = 0.0
    right: float = 0.0
    whole: bool = False
    leader: str = ""
    drop_lines: int = 0
    drop_letters: int = 1
    opening: str = ""
    opening_words: int = 0
    begins: str = "anywhere"
    shift: float = 0.0

    @property
    def face(self) -> Face:
        return face(face_key(self.setting.family, self.setting.style))


@kept(4000)
def style_of(role: Role, language: str, size: float | None = None, align: str = "", tracking: float = 0.0) -> Style:
    """The style of a role in a language.

    ``size`` (points) overrides its size and scales its leading; ``tracking`` (thousandths of the em) adds to its own.
    """
    points = role.size.pt if size is None else size
    align = align or role.align
    return Style(
        TokenSetting(
            role.family,
            role.style,
            features_of(role),
            language,
            role.hyphenate,
            (role.tracking + tracking) / 1000,
            role.case,
            role.hanging,
            (*known_fallbacks(role.fallback), *for_language(language, face_key(role.family, role.style))),
        ),
        points,
        leading_of(role, points),
        role.indent.pt / role.size.pt,
        align,
        manner_of(role, align),
        role.keep_next,
        tab=role.tab.pt if role.tab is not None else 0.0,
        left=role.left.pt,
        right=role.right.pt,
        whole=role.keep_together,
        leader=role.leader,
        drop_lines=role.drop_lines,
        drop_letters=role.drop_letters,
        opening=role.opening,
        opening_words=role.opening_words,
        begins=role.begins,
        shift=role.shift.pt,
    )


def leading_of(role: Role, size: float) -> float:
    """The leading of a role's lines at a size, both in points: in its ratio, or grown with the size."""
    return role.ratio * size if role.ratio else role.leading.pt * size / role.size.pt


def features_of(role: Role) -> tuple[str, ...]:
    """The OpenType tags a role switches on (or, with a minus, off)."""
    switches = (
        ("lnum", role.figures == "lining"),
        ("onum", "old style" in role.figures),
        ("tnum", "tabular" in role.figures),
        ("frac", role.fractions),
        ("-liga", not role.ligatures),
    )
    return tuple(tag for tag, on in switches if on)


def manner_of(role: Role, align: str) -> Justification:
    """How lines of a role give when they are aligned so."""
    if align != "justified":
        return replace(RAGGED, hyphens_in_row=role.hyphens_in_row)
    return replace(
        JUSTIFIED,
        shrink=max(0.0, 1 - role.word_least / 100),
        stretch=max(0.01, role.word_most / 100 - 1),
        letters=role.letter_give / 100,
        hyphens_in_row=role.hyphens_in_row,
    )


def grid_lines(leading: float, step: float) -> int:
    """How many lines of a baseline grid of ``step`` points a line with that leading takes."""
    return max(1, math.ceil(leading / step - 0.02))
