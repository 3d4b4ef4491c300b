"""Inks, fades and looks."""

from typing import Literal

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Record
from half_fold.core.publication.records.treatments import PicturePoint, Treatment


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
    from its middle. One that was drawn lies along its ``line``: from a place to a place, as shares of the box it fills;
    outward it begins at the first of them and ends as far round that as the second. One without a name is of one thing.
    """

    name: str
    stops: tuple[FadeStop, ...]
    way: Literal["straight", "outward"] = "straight"
    angle: float = 0.0
    line: tuple[PicturePoint, PicturePoint] | None = None


class Shadow(Record, frozen=True, kw_only=True):
    """What a thing takes of the light: so far from it, so soft at its edge; ``angle`` is where it falls, if not as all.

    An angle of 0 falls to the right, of 90 down. One that is told ``across`` and ``down`` falls there, whatever its
    distance and its angle. It lies ``behind`` the thing; as a ``long`` one it reaches all the way from it; on a
    ``floor`` it begins at the thing's foot, and what is highest falls farthest. No ``ink`` is black alone.
    """

    kind: Literal["behind", "long", "floor"] = "behind"
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


class Raised(Record, frozen=True, kw_only=True):
    """An edge that stands out as if it caught the job's light: so wide, lit and shaded by its ``opacity``."""

    width: Length = length("1mm")
    opacity: float = 60.0


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

    A ``fade`` runs over areas and words in place of their ink; of pictures it lets through as much as it is opaque. The
    ``inner`` glow lies on a thing along its edge; the edge itself goes soft as far in as its ``feather``; ``grain`` is
    per cent.
    """

    name: str
    fill: str = ""
    picture: str = ""
    contours: tuple[Contour, ...] = ()
    shadow: Shadow | None = None
    glow: Glow | None = None
    fade: Fade | None = None
    inner: Glow | None = None
    feather: Length | None = None
    raised: Raised | None = None
    grain: float | None = None
    treatment: Treatment | None = None
