"""The marks of a display list.

Coordinates are points in spread space: the fold at the trimmed head is the origin, x runs to the right
(the left page lies at negative x), y downwards. Every mark says what it came from. Colours stay
inks until a renderer converts them.
"""

from collections.abc import Iterable, Iterator, Sequence
from functools import cached_property
from typing import Literal, NamedTuple, get_args

import numpy as np
import numpy.typing as npt
from msgspec import Struct, field
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.outline import Outline, rectangle
from half_fold.core.drawing.overprint import USUAL, Overprint
from half_fold.core.drawing.tone import Gradient, Paint, Tone, through, tones
from half_fold.core.measure.rect import Rect

Floats = npt.NDArray[np.float64]
Source = Literal["block", "furniture", "cover", "spine", "insert", "press", "unsaid"]


class Origin(NamedTuple):
    """What a mark came from: its kind, and its id where there are several of the kind.

    A block and a group of them are of one kind, since their ids are of one row; ``cover`` is the ground of a cover,
    ``spine`` the words on it, ``press`` the marks that the printer cuts and registers by.
    """

    kind: Source
    id: str = ""

    @property
    def block(self) -> str:
        """The id of the block, or of the group, that it came from; '' where it came from none."""
        return self.id if self.kind == "block" else ""


UNSAID = Origin("unsaid")


def from_block(name: str) -> Origin:
    """That of what is drawn for a block or a group."""
    return Origin("block", name)


class Glyphs(Struct, frozen=True, dict=True, eq=False):
    """A run of glyphs of one face on one baseline, all of it turned where ``turn`` is set; a gradient is not turned.

    ``gids`` are glyph ids of the whole face, ``xs`` the pen position of each (points, same shape),
    ``texts`` what each glyph stands for ('' where an earlier glyph already said it). ``light`` is what words are lit
    by while they are composed, and nothing to what draws them.
    """

    face: str
    size: float
    gids: npt.NDArray[np.uint16]
    xs: Floats
    baseline: float
    colour: Paint
    texts: Sequence[str]
    origin: Origin = UNSAID
    turn: Affine | None = None
    light: str = ""

    @cached_property
    def reach(self) -> tuple[float, float]:
        """The leftmost and the rightmost pen."""
        return float(self.xs.min()), float(self.xs.max())


class Shape(Struct, frozen=True):
    """A rectangle filled and, where ``stroke`` is set, outlined inside its edge by ``weight`` points."""

    rect: Rect
    fill: Tone | None
    stroke: Tone | None = None
    weight: float = 0.0
    origin: Origin = UNSAID

    @property
    def as_path(self) -> "Path":
        """The same as an outline, which can be turned."""
        if self.stroke is None or not self.weight:
            return Path(rectangle(self.rect), self.fill, None, self.origin)
        inside = self.rect.grown(-self.weight / 2)
        return Path(rectangle(inside), self.fill, Stroke(self.stroke, self.weight), self.origin)


class Line(Struct, frozen=True):
    """A straight rule of ``weight`` points."""

    start: tuple[float, float]
    end: tuple[float, float]
    colour: Tone
    weight: float
    origin: Origin = UNSAID


class Stroke(NamedTuple):
    """A line along an outline, half of its ``weight`` (points) to either side.

    ``dashes`` are lengths of ink and of gaps in turn, in points; ``is_round`` rounds their ends.
    """

    tone: Paint
    weight: float
    dashes: tuple[float, ...] = ()
    is_round: bool = False


class Path(Struct, frozen=True, eq=False):
    """An outline filled, and then stroked; corners of strokes are sharp."""

    outline: Outline
    fill: Paint | None
    stroke: Stroke | None = None
    origin: Origin = UNSAID


class PictureMark(Struct, frozen=True):
    """A whole picture laid on ``placed``, turned and flipped by ``affine``, and seen only inside ``clip``.

    Where it has an ``outline``, it is seen only inside of that, which lies in the clip.
    """

    picture: str
    placed: Rect
    clip: Rect
    origin: Origin = UNSAID
    affine: Affine | None = None
    outline: Outline | None = None

    @property
    def corners(self) -> tuple[tuple[float, float], ...]:
        """Where its upper left, upper right and lower left corner come to lie."""
        return _corners(self.placed, self.affine)

    @property
    def seen(self) -> Rect:
        """A rectangle that what is seen of it lies in."""
        return self.clip.clipped(self.placed if self.affine is None else self.affine.around(self.placed))


class Veil(Struct, frozen=True, eq=False):
    """One tone laid on ``placed`` as thickly as a raster says: ``cover`` is 0 to 255, an array of shape (high, wide).

    It is what is soft at its edges: a shadow, a glow.
    """

    cover: npt.NDArray[np.uint8]
    placed: Rect
    tone: Tone
    origin: Origin = UNSAID
    affine: Affine | None = None

    @property
    def corners(self) -> tuple[tuple[float, float], ...]:
        """Where its upper left, upper right and lower left corner come to lie."""
        return _corners(self.placed, self.affine)


def _corners(where: Rect, affine: Affine | None) -> tuple[tuple[float, float], ...]:
    places = ((where.left, where.top), (where.right, where.top), (where.left, where.bottom))
    return places if affine is None else tuple(affine.of(*place) for place in places)


Blend = Literal["normal", "multiply", "screen", "darken", "lighten", "overlay", "soft-light"]
BLENDS: tuple[Blend, ...] = get_args(Blend)


class MarkGroup(Struct, frozen=True, eq=False):
    """Marks laid out by themselves, turned by ``affine``, then laid on what is behind as one through ``opacity``.

    A ``mask`` lets them be seen as far as it is black, turned with them: not at all where it has nothing.
    """

    marks: "tuple[Mark, ...]"
    opacity: float = 1.0
    blend: Blend = "normal"
    origin: Origin = UNSAID
    affine: Affine | None = None
    mask: "MarkGroup | None" = None

    @property
    def mixes(self) -> bool:
        """Whether it mixes with what lies behind, or something in it does."""
        inner = any(mixes(mark) for mark in self.marks)
        return inner or self.opacity < 1 or self.blend != "normal" or self.mask is not None


Leaf = Glyphs | Shape | Line | Path | PictureMark | Veil
Mark = Leaf | MarkGroup


def mixes(mark: Mark) -> bool:
    """Whether a mark mixes with what lies behind it."""
    return isinstance(mark, Veil) or (isinstance(mark, MarkGroup) and mark.mixes)


def paints(mark: Leaf) -> tuple[Tone, ...]:
    """Every tone that a mark lays; none for a picture."""
    if isinstance(mark, PictureMark):
        return ()
    if isinstance(mark, Veil):
        return (mark.tone,)
    if isinstance(mark, Path):
        return (*tones(mark.fill), *(tones(mark.stroke.tone) if mark.stroke is not None else ()))
    if isinstance(mark, Shape):
        return (*tones(mark.fill), *tones(mark.stroke))
    return tones(mark.colour)


def leaves(marks: "Iterable[Mark]") -> Iterator[Leaf]:
    """The marks without their groups, in the same order."""
    for mark in marks:
        if isinstance(mark, MarkGroup):
            yield from (each if mark.affine is None else brought(each, mark.affine) for each in leaves(mark.marks))
        else:
            yield mark


def brought(mark: Leaf, affine: Affine) -> Leaf:
    """A mark where ``affine`` brings it."""
    if isinstance(mark, Glyphs):
        turn = affine if mark.turn is None else affine.after(mark.turn)
        colour = mark.colour.through(affine) if isinstance(mark.colour, Gradient) else mark.colour
        return replace(mark, turn=turn, colour=colour)
    if isinstance(mark, Line):
        return replace(mark, start=affine.of(*mark.start), end=affine.of(*mark.end))
    if isinstance(mark, Shape):
        mark = mark.as_path
    if isinstance(mark, Path):
        stroke, fill = mark.stroke, mark.fill
        if stroke is not None:
            stroke = stroke._replace(tone=through(stroke.tone, affine))
        fill = fill if fill is None else through(fill, affine)
        return Path(mark.outline.through(affine), fill, stroke, mark.origin)
    if isinstance(mark, Veil):
        return replace(mark, affine=affine if mark.affine is None else affine.after(mark.affine))
    own = affine if mark.affine is None else affine.after(mark.affine)
    outline = rectangle(mark.clip) if mark.outline is None else mark.outline
    return PictureMark(mark.picture, mark.placed, affine.around(mark.clip), mark.origin, own, outline.through(affine))


def passes(mark: Leaf, black: Overprint) -> tuple[tuple[Leaf, bool], ...]:
    """A mark as it is laid, with whether it overprints: in two, where only its fill or only its stroke does."""
    if isinstance(mark, PictureMark | Veil):
        return ((mark, False),)
    if isinstance(mark, Glyphs):
        return ((mark, black.letters(mark.colour, mark.size)),)
    if isinstance(mark, Line):
        return ((mark, black.shapes(mark.colour)),)
    line = mark.stroke.tone if isinstance(mark.stroke, Stroke) else mark.stroke
    filled, stroked = black.shapes(mark.fill), black.shapes(line)
    if filled == stroked or mark.fill is None or mark.stroke is None:
        return ((mark, filled or stroked),)
    return (replace(mark, stroke=None), filled), (replace(mark, fill=None), stroked)


class DisplayList(Struct, frozen=True):
    """Marks from back to front, the sheet area they were drawn for, and which ``black`` overprints."""

    area: Rect
    marks: tuple[Mark, ...] = field(default=())
    black: Overprint = USUAL
