"""Inks, fades and looks."""

from typing import Literal

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Record
from half_fold.core.publication.records.treatments import Treatment


class Ink(Record, frozen=True, kw_only=True):
    """An ink of the job's ink list: percentages of cyan, magenta, yellow and black.

    A ``spot`` is printed from a plate of its own, and its shares stand in for it elsewhere. ``screen`` (#rrggbb) is
    what it was asked for as, where that was a colour of a screen: its shares are as near to it as print comes.
    """

    name: str
    cyan: float
    magenta: float
    yellow: float
    black: float
    spot: bool = False
    screen: str = ""


class FadeStop(Record, frozen=True, kw_only=True):
    """An ink with its tint at a place of a fade (per cent of the way), and how opaque it is there."""

    ink: str
    at: float
    tint: float = 100.0
    opacity: float = 100.0


class Fade(Record, frozen=True, kw_only=True):
    """A run from ink to ink, named as an ink is wherever an area is filled.

    It runs ``straight`` across what it fills, turned clockwise by ``angle`` degrees from left to right, or ``outward``
    from its middle.
    """

    name: str
    stops: tuple[FadeStop, ...]
    way: Literal["straight", "outward"] = "straight"
    angle: float = 0.0


class Shadow(Record, frozen=True, kw_only=True):
    """What a thing takes of the light: so far from it, so soft at its edge; ``angle`` is where it falls, if not as all.

    An angle of 0 falls to the right, of 90 down. One that is told ``across`` and ``down`` falls there, whatever its
    distance and its angle. No ``ink`` is black alone.
    """

    distance: Length = length("1mm")
    blur: Length = length("1mm")
    ink: str = ""
    opacity: float = 40.0
    angle: float | None = None
    across: Length | None = None
    down: Length | None = None


class Glow(Record, frozen=True, kw_only=True):
    """Light round a thing, so far out. No ``ink`` is bare paper."""

    reach: Length = length("2mm")
    ink: str = ""
    opacity: float = 75.0


class Contour(Record, frozen=True, kw_only=True):
    """A line along letters and shapes, of ``ink`` or a fade (no name is black alone).

    Of several that lie outside each follows the one before it.
    """

    weight: Length = length("1pt")
    ink: str = ""
    side: Literal["outside", "centred", "inside"] = "outside"


class Look(Record, frozen=True, kw_only=True):
    """A treatment that is kept: of words by their role, or of all that a block prints.

    ``fill`` is an ink or a fade in place of their own, ``picture`` one that is seen through letters as through windows.
    In words all lengths are those at the role's own size, and grow with it. Pictures are treated by its ``treatment``
    where they have none of their own. One without a name is what a block states of its light over its look.
    """

    name: str
    fill: str = ""
    picture: str = ""
    contours: tuple[Contour, ...] = ()
    shadow: Shadow | None = None
    glow: Glow | None = None
    treatment: Treatment | None = None
