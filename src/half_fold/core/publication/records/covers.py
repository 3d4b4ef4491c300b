"""The cover with its spine, and the inserts bound in."""

from typing import Literal

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Record
from half_fold.core.publication.records.blocks import Thing
from half_fold.core.publication.records.grids import Grid

COVER_MARGIN = length("10mm")
COVER_GRID = Grid(
    head=COVER_MARGIN,
    foot=COVER_MARGIN,
    inside=COVER_MARGIN,
    outside=COVER_MARGIN,
    columns=6,
    rows=12,
    gutter=length("4mm"),
    row_gap=0,
)


class SpinePiece(Record, frozen=True, kw_only=True):
    """Words, or a picture such as a publisher's mark, on the spine; no ``ink`` is that of the spine's words.

    It ``stands`` where the spine begins to be read, in its middle, or at its end, at ``size`` per cent of the spine's.
    """

    words: str = ""
    picture: str = ""
    ink: str = ""
    stands: Literal["start", "middle", "end"] = "start"
    size: float = 100.0


class Cover(Record, frozen=True, kw_only=True):
    """The cover as a flat: an ink over all of it, and blocks on its four pages from back to front.

    ``front`` and ``back`` are seen from outside; the inside covers may be blank. ``spine`` is what the spine
    says, sized to its clearance unless ``spine_size`` is set, from head to foot unless it ``reads_up``; its ``pieces``
    stand in place of that where there are any. A panel may have an ink or a fade of its own. A ``row_picture`` runs
    over the spines of ``row_of`` copies that stand side by side, of which this is number ``row_at``. A job may have
    several covers, each with a ``name``.
    """

    name: str = ""
    back_ink: str = ""
    front_ink: str = ""
    spine_ground: str = ""
    flap_ink: str = ""
    joint_ink: str = ""
    turn_in_ink: str = ""
    pieces: tuple[SpinePiece, ...] = ()
    row_picture: str = ""
    row_of: int = 3
    row_at: int = 1
    back_flap: tuple[Thing, ...] = ()
    front_flap: tuple[Thing, ...] = ()

    ink: str = "straw"
    tint: float = 100.0
    grid: Grid = COVER_GRID
    back: tuple[Thing, ...] = ()
    front: tuple[Thing, ...] = ()
    inside_front: tuple[Thing, ...] = ()
    inside_back: tuple[Thing, ...] = ()
    spine: str = "{title}\u2003{issue}\u2003{season}"
    spine_ink: str = "black"
    spine_size: Length | None = None
    reads_up: bool = False


class CardPart(Record, frozen=True, kw_only=True):
    """A part of a reply card, from its head down: lines to write on, boxes to tick, words, or a reserved panel."""

    kind: Literal["words", "lines", "ticks", "reply-paid"]
    text: str = ""
    count: int = 1


class Insert(Record, frozen=True, kw_only=True):
    """What is bound or tipped in after page ``after`` (an id), between two leaves of the text.

    ``width`` and ``height`` are the card's own, ``up`` how many stand to the page's height. ``cut`` (where the card is
    cut from its stub) and ``perforations`` are measured on the recto from its left edge. ``parts`` are those of the
    recto, ``verso`` those of the other face; under them lie blocks, ``front`` on the recto and ``back`` on the verso.
    """

    id: str
    name: str
    kind: Literal["card", "tip-in", "gatefold"]
    after: str
    paper: str
    width: Length
    height: Length
    up: int = 1
    stub: Length = length("75mm")
    cut: Length = length("10mm")
    perforations: tuple[Length, ...] = ()
    counts: bool = False
    parts: tuple[CardPart, ...] = ()
    verso: tuple[CardPart, ...] = ()
    front: tuple[Thing, ...] = ()
    back: tuple[Thing, ...] = ()
