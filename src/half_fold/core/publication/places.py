"""Where a thing lies: held by its four edges, each on a stop, or floating off two of them at a size of its own."""

from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.length import Length, length


class Record(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The base of every record in the file."""


class Stop(Record, frozen=True, kw_only=True):
    """Where an edge sits: an address, not a coordinate.

    ``field`` lines are counted from 0 at the left or the head, and remember the ``count`` they were set
    against; a ``pencil`` line is known by its number, the ``index``, and counted where it is repeated; ``facing`` means
    the other page of the spread; ``off`` moves the edge outwards from its stop.
    """

    kind: Literal["bleed", "trim", "margin", "field", "fold", "guide", "pencil"]
    index: int = 0
    count: int = 0
    facing: bool = False
    off: Length | None = None


class Held(Record, tag="held", frozen=True, kw_only=True):
    """A block held by its four edges: it grows and shrinks with what they sit on."""

    left: Stop
    top: Stop
    right: Stop
    bottom: Stop


class Anchor(Record, frozen=True, kw_only=True):
    """A stop, and what of a thing lies on it: its ``first`` edge (left or upper), its middle, or its ``last``.

    The middle of a trim, a margin or a field lies on the middle of that.
    """

    stop: Stop
    by: Literal["first", "middle", "last"] = "first"


class Floating(Record, tag="floating", frozen=True, kw_only=True):
    """A block that keeps its ``width`` and ``height`` whatever becomes of the page, and moves with its two anchors."""

    across: Anchor
    down: Anchor
    width: Length
    height: Length


Place = Held | Floating

_TRIM = Anchor(stop=Stop(kind="trim"))
# A place to be moved to where it is wanted, or that stands for any other.
ANYWHERE = Floating(across=_TRIM, down=_TRIM, width=length("1mm"), height=length("1mm"))


def told_from_facing(place: Place) -> Place:
    """The same place told from the other page of its spread."""
    if isinstance(place, Held):
        left, right = (replace(stop, facing=not stop.facing) for stop in (place.left, place.right))
        return replace(place, left=left, right=right)
    stop = replace(place.across.stop, facing=not place.across.stop.facing)
    return replace(place, across=replace(place.across, stop=stop))
