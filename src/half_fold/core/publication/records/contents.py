"""What blocks hold: a record for each kind of content."""

from typing import Literal

from half_fold.core.measure.length import Length, length
from half_fold.core.publication.places import Record, Stop
from half_fold.core.publication.records.texts import Paragraph, Role
from half_fold.core.publication.records.treatments import Treatment

Corner = Literal["head left", "head right", "foot right", "foot left"]


class Form(Record, frozen=True, kw_only=True):
    """The outline of a panel or a picture in its block.

    ``corner`` is how large the corners of a rectangle are, each ``corners`` way, at the places ``only`` names or all.
    A ring leaves ``hole`` per cent of its width open; a burst has so many ``points``, ``depth`` per cent of its radius
    deep; a banner's ends are cut ``depth`` per cent of its height deep; a flash lies across one corner, ``depth`` per
    cent of its shorter side wide. A polygon has its ``places`` as shares of the block's width and height. All are
    sliced along a line from ``slice`` (two such places), of which what lies to its left is kept.
    """

    kind: Literal["rectangle", "ellipse", "circle", "ring", "burst", "banner", "flash", "polygon"] = "rectangle"
    corner: Length | None = None
    corners: Literal["round", "slanted", "cut", "hollow"] = "round"
    only: tuple[Corner, ...] = ()
    hole: float = 60.0
    points: int = 16
    depth: float = 20.0
    places: tuple[tuple[float, float], ...] = ()
    slice: tuple[tuple[float, float], ...] = ()


RECTANGLE = Form()


class Edge(Record, frozen=True, kw_only=True):
    """A stroke along an outline, all of it inside, outside, or half to either side; whole, in dashes or in dots.

    No ``ink`` is black alone. About so much paper as ``gap`` lies between dashes or dots, shared out along the outline.
    """

    weight: Length = length("1pt")
    ink: str = ""
    tint: float = 100.0
    dashes: Literal["none", "dashed", "dotted"] = "none"
    gap: Length | None = None
    side: Literal["inside", "centred", "outside"] = "inside"


class Aim(Record, frozen=True, kw_only=True):
    """A point of a picture, by its name, that is to lie on a stop of its page, where an ``edge`` of a block would."""

    point: str
    edge: Literal["left", "top", "right", "bottom"]
    stop: Stop


class HoldsPicture(Record, tag="picture", frozen=True, kw_only=True):
    """A picture that fills its block, or fits inside it; the focus (0 to 1) stays in view.

    It is drawn so many times ``closer`` than that, turned by ``turn`` degrees clockwise, and ``flipped`` as in a mirror
    before that. It may be ``repeated`` to both sides by its own mirror images. Vector art is all in ``ink``, if one is
    named. Across the fold it may be ``parted``, so that the binding swallows nothing of it. ``aims`` bring points of it
    to stops. On the front of a cover it may be the publication's drawn name, its ``masthead``.
    """

    picture: str
    scale: Literal["fill", "fit"] = "fill"
    focus_x: float = 0.5
    focus_y: float = 0.5
    closer: float = 1.0
    turn: float = 0.0
    flipped: bool = False
    repeated: bool = False
    parted: bool = False
    aims: tuple[Aim, ...] = ()
    treatment: Treatment | None = None
    ink: str = ""
    form: Form = RECTANGLE
    edge: Edge | None = None
    masthead: bool = False


class Ground(Record, frozen=True, kw_only=True):
    """What words stand on: an area of ``ink`` ("" for none), in its form, with its edge.

    It fills their block, or ``hugs`` what they print, so far off as the block's inset.
    """

    ink: str = ""
    tint: float = 100.0
    form: Form = RECTANGLE
    edge: Edge | None = None
    hugs: bool = False


class HoldsStory(Record, tag="story", frozen=True, kw_only=True):
    """A length of a story's thread; blocks of one thread are read in the order of pages and ``turn``.

    Where the story ends in a ``balanced`` block, its columns are made as even as lines allow.
    """

    story: str
    columns: int = 1
    turn: int = 0
    balanced: bool = False


class HoldsDisplay(Record, tag="display", frozen=True, kw_only=True):
    """A few words set for this block alone, flush to ``side`` ("" leaves that to the role).

    ``even`` makes a stack of them: each paragraph one line that fills the measure by its size, by letters made wider or
    narrower, or by its tracking. They lie
    ``straight``, along an arc of ``bend`` degrees or a wave, or letter under letter; on their ``ground``, if any.
    Lines in another role than the first are ``second`` per cent of its size, where that is not 0. Words that keep
    ``calm`` move to a calmer place when another picture comes to lie under them. What they state over their roles is
    in ``own``, a role without a name. ``mirrored`` they are seen as in a mirror beside their block, or under it.
    """

    paragraphs: tuple[Paragraph, ...]
    second: float = 0.0
    calm: bool = False
    stands: Literal["head", "middle", "foot"] = "head"
    size: Length | None = None
    side: Literal["", "left", "centre", "right"] = ""
    even: bool = False
    even_by: Literal["size", "width", "tracking", "both"] = "size"
    ink: str = ""
    own: Role | None = None
    ground: Ground | None = None
    mirrored: Literal["", "across", "down"] = ""
    lies: Literal["straight", "arched up", "arched down", "wave", "letter under letter"] = "straight"
    bend: float = 90.0


class HoldsBarcode(Record, tag="barcode", frozen=True, kw_only=True):
    """An EAN-13 with its add-on of 2 or 5 digits, at ``size`` per cent, at the foot of its block on ``side``.

    ``paragraphs`` (price, issue, date) stand above it. Its bars are ``tall`` per cent of the standard's own and each is
    ``narrowed`` by thousandths of a millimetre, for a press that thickens them. They are in ``ink`` (no name is black
    alone), on a white panel of their own where it is ``white``.
    """

    number: str
    addon: str = ""
    size: float = 100.0
    side: Literal["left", "right"] = "left"
    paragraphs: tuple[Paragraph, ...] = ()
    tall: float = 100.0
    narrowed: float = 0.0
    ink: str = ""
    white: bool = True


class HoldsCode(Record, tag="code", frozen=True, kw_only=True):
    """A QR code that ``says`` an address or words, as large as its block allows, with its quiet zone.

    ``proof`` is how much of it may be lost and it is still read: 7, 15, 25 or 30 per cent. It is in ``ink`` (no name is
    black alone), on a white panel of its own where it is ``white``.
    """

    says: str = ""
    proof: Literal["low", "medium", "high", "highest"] = "medium"
    ink: str = ""
    white: bool = True


class HoldsPanel(Record, tag="panel", frozen=True, kw_only=True):
    """An area of ``ink`` or a fade ("" for none) in its form, and its edge."""

    ink: str = "black"
    tint: float = 100.0
    form: Form = RECTANGLE
    edge: Edge | None = None


class HoldsRule(Record, tag="rule", frozen=True, kw_only=True):
    """A straight line in its block, from side to side or from corner to corner; no ``ink`` is black alone.

    One that runs ``across`` stands at the head, in the middle or at the foot of its block; one that runs ``down`` at
    the left, in the middle or at the right.
    """

    weight: Length = length("1pt")
    ink: str = ""
    tint: float = 100.0
    runs: Literal["across", "down", "falling", "rising"] = "across"
    stands: Literal["first", "middle", "last"] = "middle"
    dashes: Literal["none", "dashed", "dotted"] = "none"
    gap: Length | None = None
    is_round: bool = False


class HoldsNothing(Record, tag="placeholder", frozen=True, kw_only=True):
    """A place kept free until it is decided what goes there."""


Holds = HoldsPicture | HoldsStory | HoldsDisplay | HoldsPanel | HoldsRule | HoldsBarcode | HoldsCode | HoldsNothing
