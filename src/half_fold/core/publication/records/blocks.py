"""Blocks and groups, and the pages they lie on."""

from typing import Literal

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Place, Record
from half_fold.core.publication.records.contents import Holds
from half_fold.core.publication.records.grids import Grid
from half_fold.core.publication.records.inks import Look


class Wrap(Record, frozen=True, kw_only=True):
    """How text of stories keeps off a block: round its box, an ellipse in it, or the outline of its cut-out.

    ``side`` is where text may run beside it; ``offset`` is kept clear all round.
    """

    shape: Literal["box", "ellipse", "outline"] = "box"
    side: Literal["both", "left", "right", "larger"] = "larger"
    offset: Length = length("3mm")


Blend = Literal["normal", "multiply", "screen", "darken", "lighten", "overlay", "soft-light"]
Side = Literal["", "under", "over", "left", "right"]


class Block(Record, tag="block", frozen=True, kw_only=True):
    """What sits on a page, in its ``place``; ``name`` is what the user calls it, if anything.

    All of it is seen through to what lies behind where its ``opacity`` is below 100 (per cent), and mixes with that
    by its ``blend``. One that is ``locked`` keeps what it is and where.
    It is turned about its middle by ``angle`` degrees clockwise, with all it holds. Things of one ``link`` are alike,
    but for where they lie and the properties that a block ``differs`` in. Words may be the caption ``of`` a picture's
    block, and keep to a side ``beside`` it. They are filled in from a ``row`` of the job's goods.
    What it states of its ``light`` stands over its look. It is in one ``set`` of the job at most.
    """

    id: str
    place: Place
    holds: Holds
    name: str = ""
    inset: Length | None = None
    wrap: Wrap | None = None
    opacity: float = 100.0
    blend: Blend = "normal"
    locked: bool = False
    angle: float = 0.0
    look: str = ""
    light: Look | None = None
    link: str = ""
    differs: tuple[str, ...] = ()
    of: str = ""
    beside: Side = ""
    row: str = ""
    set: str = ""


Keeps = Literal["", "even across", "even down", "centred", "centred across", "centred down"]


class Group(Record, tag="group", frozen=True, kw_only=True):
    """Things that are moved, hidden and turned as one; each still lies where its own place says.

    Opacity and blend are those of all its ``members`` together. It is turned about the middle of what they reach. It
    ``keeps`` the gaps between its members even, or the others centred in the one at the back.
    """

    id: str
    members: tuple["Thing", ...]
    name: str = ""
    opacity: float = 100.0
    blend: Blend = "normal"
    locked: bool = False
    angle: float = 0.0
    link: str = ""
    keeps: Keeps = ""
    set: str = ""


Thing = Block | Group


def blocks_of(things: tuple[Thing, ...]) -> tuple[Block, ...]:
    """The blocks among things and in their groups, from back to front; the same tuple where there is no group."""
    if all(isinstance(thing, Block) for thing in things):
        return things  # type: ignore[return-value]  # which mypy does not see from all()
    return tuple(
        block for thing in things for block in ((thing,) if isinstance(thing, Block) else blocks_of(thing.members))
    )


class Page(Record, frozen=True, kw_only=True):
    """A page of the running order: its master and its things from back to front.

    A block that crosses the fold belongs to the page it starts on. Spreads are pairs of pages in order. ``state``
    is what was said of it; ``advert`` is how much of it is sold. A page whose ``master`` is "" has none; ``grid`` is
    its own instead of the master's, and furniture whose id is in ``without`` does not stand on it; where a picture
    covers it all, ``furniture`` is left off, unless it is set ``over``. One that is ``standing`` is the same in every
    number.
    """

    id: str
    master: str
    things: tuple[Thing, ...] = ()
    runs: str = ""
    grid: Grid | None = None
    without: tuple[str, ...] = ()
    furniture: Literal["", "over", "off"] = ""
    state: Literal["", "copy in", "proofed", "passed"] = ""
    advert: Literal["", "spread", "page", "half", "third", "quarter"] = ""
    standing: bool = False

    @property
    def blocks(self) -> tuple[Block, ...]:
        """Its blocks from back to front, those of groups among them."""
        return blocks_of(self.things)
