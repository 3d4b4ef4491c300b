"""What stands on a spine: words and marks at its start, in its middle and at its end, sized together to what is clear.

One line of words is one piece at its start.
"""

from functools import lru_cache

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.apart.pair import RIGHT
from half_fold.core.apart.sides import side_of
from half_fold.core.drawing.affine import turned
from half_fold.core.drawing.marks import Glyphs, Mark, Origin
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    HoldsPicture,
    Paragraph,
    Publication,
    Run,
    SpinePiece,
)
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.setting.evened import ink_of, one_line
from half_fold.core.spread.setting.picture_marks import picture_marks
from half_fold.core.spread.where.filled import fill_words
from half_fold.core.typesetting.lines.composer import Composer

SPINE_TEXT = "spine"  # the role of its words
SPINE = Origin("spine")
GAP_EMS = 1.5  # between two pieces, of the spine's size
_TRIED = 10.0
_NOWHERE = Held(**{edge: Stop(kind="trim") for edge in ("left", "top", "right", "bottom")})


class SpineRoom(Struct, frozen=True):
    """What a spine has for its pieces, in points: its ``width``, how much of that is ``clear``, from where to where."""

    width: float
    clear: float
    head: float
    foot: float
    reads_up: bool

    @property
    def long(self) -> float:
        return self.foot - self.head


class _Set(Struct, frozen=True, eq=False):
    """A piece as tried: how long it is along the spine and how wide across it, at a size of _TRIED points."""

    piece: SpinePiece
    marks: tuple[Glyphs, ...]
    ink: Rect
    long: float
    wide: float


def solved_size(composer: Composer, publication: Publication, room: SpineRoom) -> float:
    """The largest size in points at which every piece keeps clear of the folds and all of them find room in a row."""
    tried = _tried(composer, publication)
    across = min((room.clear / each.wide for each in tried if each.wide > 0 and each.marks), default=0.0)
    if not across:
        across = room.clear / _TRIED
    gaps = GAP_EMS * _TRIED * (len(tried) - 1)
    words = sum(each.long for each in tried if each.marks) + gaps
    marks = sum(room.clear * each.long / each.wide for each in tried if not each.marks and each.wide)
    along = (room.long - marks) / words if words > 0 else across
    return _TRIED * max(0.0, min(across, along))


def piece_marks(composer: Composer, publication: Publication, room: SpineRoom, size: float) -> tuple[list[Mark], Rect]:
    """What the pieces print at a size, and what they reach as they lie: how long in all, and how wide at most."""
    tried = _tried(composer, publication)
    grown = size / _TRIED
    longs = [_long(each, room, grown) for each in tried]
    gap = GAP_EMS * size
    marks: list[Mark] = []
    for each, start in zip(tried, _starts(tried, longs, gap, room), strict=True):
        marks += _words_at(each, composer, publication, room, size, start) if each.marks else ()
        marks += _mark_at(each, publication, room, start) if not each.marks else ()
    whole = sum(longs) + gap * (len(tried) - 1)
    wide = max((each.wide * grown if each.marks else room.clear for each in tried), default=0.0)
    return marks, Rect(0, 0, whole, wide)


def _tried(composer: Composer, publication: Publication) -> list[_Set]:
    """The pieces that have something to show, in the order in which they are read."""
    order = ("start", "middle", "end")
    pieces = publication.cover.pieces or (SpinePiece(words=publication.cover.spine),)
    made = []
    for piece in sorted(pieces, key=lambda piece: order.index(piece.stands)):
        if piece.picture:
            picture = picture_of(publication, piece.picture)
            made.append(_Set(piece, (), Rect(0, 0, 0, 0), picture.height * piece.size / 100, float(picture.width)))
        elif fill_words(publication, piece.words).strip():
            marks = tuple(_line(composer, publication, piece, _TRIED))
            ink = ink_of(list(marks))
            if ink.width > 0:
                made.append(_Set(piece, marks, ink, ink.width, ink.height))
    return made


def _line(composer: Composer, publication: Publication, piece: SpinePiece, size: float) -> list[Glyphs]:
    ink = piece.ink or publication.cover.spine_ink
    return one_line(composer, publication, _paragraph(piece.words), size * piece.size / 100, ink)


@lru_cache(64)
def _paragraph(words: str) -> Paragraph:
    """The same paragraph each time for the same words, so that its setting is kept."""
    return Paragraph(role=SPINE_TEXT, runs=(Run(text=words),))


def _long(each: _Set, room: SpineRoom, grown: float) -> float:
    """How much of the spine's length a piece takes: a mark is as wide as what is clear."""
    return each.long * grown if each.marks else room.clear * each.long / each.wide


def _starts(tried: list[_Set], longs: list[float], gap: float, room: SpineRoom) -> list[float]:
    """From where each is read, measured from where the spine begins to be read."""
    starts = [0.0] * len(tried)
    at = 0.0
    for n, each in enumerate(tried):
        if each.piece.stands == "start":
            starts[n], at = at, at + longs[n] + gap
    first, at = at, room.long
    for n in reversed(range(len(tried))):
        if tried[n].piece.stands == "end":
            at -= longs[n]
            starts[n], at = at, at - gap
    middle = [n for n, each in enumerate(tried) if each.piece.stands == "middle"]
    whole = sum(longs[n] for n in middle) + gap * max(0, len(middle) - 1)
    at = min(max((room.long - whole) / 2, first), max(first, at - whole))
    for n in middle:
        starts[n], at = at, at + longs[n] + gap
    return starts


def _words_at(
    each: _Set, composer: Composer, publication: Publication, room: SpineRoom, size: float, start: float
) -> list[Glyphs]:
    """Words turned onto the middle of the spine."""
    marks = _line(composer, publication, each.piece, size)
    ink = ink_of(marks)
    at = room.foot - start if room.reads_up else room.head + start
    about = (room.width / 2, at)
    turn = turned(about, -90.0 if room.reads_up else 90.0)
    middle = (ink.top + ink.bottom) / 2
    return [
        replace(m, xs=m.xs - ink.left + about[0], baseline=m.baseline - middle + about[1], origin=SPINE, turn=turn)
        for m in marks
    ]


def _mark_at(each: _Set, publication: Publication, room: SpineRoom, start: float) -> list[Mark]:
    """A picture upright, as wide as what is clear at most."""
    share = each.piece.size / 100
    wide, high = room.clear * share, room.clear * each.long / each.wide
    top = room.foot - start - high if room.reads_up else room.head + start
    box = Rect((room.width - wide) / 2, top, (room.width + wide) / 2, top + high)
    ink = each.piece.ink
    holds = HoldsPicture(picture=each.piece.picture, scale="fit", ink=ink)
    block = Block(id="", place=_NOWHERE, holds=holds)
    marks = picture_marks(side_of(publication, "outside"), RIGHT, block, box)
    return [replace(mark, origin=SPINE) for mark in marks]
