"""A role of the type sheet as the setter needs it: sizes in points, face, features, manner of breaking."""

import math
from dataclasses import dataclass

from half_fold.core.publication.records import Role
from half_fold.core.typesetting.demerits import JUSTIFIED, RAGGED, Manner
from half_fold.core.typesetting.faces import Face, face, face_key
from half_fold.core.typesetting.tokens import Setting


@dataclass(frozen=True, slots=True)
class Style:
    """``indent`` in ems; ``keeps`` is true for roles that must not part from what follows; ``tab`` in points."""

    setting: Setting
    size: float
    leading: float
    indent: float
    align: str
    manner: Manner
    keeps: bool
    tab: float = 0.0

    @property
    def face(self) -> Face:
        return face(face_key(self.setting.family, self.setting.style))


HEADINGS = frozenset({"headline", "standfirst", "crosshead", "byline", "subhead"})


def style_of(role: Role, language: str, size: float | None = None, align: str = "") -> Style:
    """The style of a role in a language; ``size`` (points) overrides its size and scales its leading."""
    features = tuple(tag for tag, on in (("smcp", role.small_caps), ("onum", role.old_figures)) if on)
    setting = Setting(role.family, role.style, features, language, role.hyphenate)
    points = role.size.pt if size is None else size
    align = align or role.align
    manner = JUSTIFIED if align == "justified" else RAGGED
    tab = role.tab.pt if role.tab is not None else 0.0
    leading = role.leading.pt * points / role.size.pt
    return Style(setting, points, leading, role.indent.pt / role.size.pt, align, manner, role.name in HEADINGS, tab)


def grid_lines(leading: float, step: float) -> int:
    """How many lines of a baseline grid of ``step`` points a line with that leading takes."""
    return max(1, math.ceil(leading / step - 0.02))
