"""Words as they are drawn: the glyphs of every word of a token table one after another, in arrays."""

from collections.abc import Callable
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt

from half_fold.core.compiled.compiling import Reals, Shorts, Wholes
from half_fold.core.drawing.said import figure_of
from half_fold.core.measure.columns import Columns, grown
from half_fold.core.typesetting.faces.directions import in_sight_order
from half_fold.core.typesetting.faces.faces import Shaped
from half_fold.core.typesetting.faces.words import HYPHEN, SOFT_HYPHEN, Piece, Word

Ints = npt.NDArray[np.int64]

UNDRAWN, MIXED = -2, -1
WHOLE, STAYS, GOES = 0, 1, 2


class GlyphLook(NamedTuple):
    """What glyphs of one run have in common: face, share of the size, ems above the baseline, ink and light."""

    face: str
    scale: float = 1.0
    rise: float = 0.0
    ink: str = ""
    light: str = ""


def texts_with_soft_hyphen(shaped: Shaped, level: int) -> tuple[str, ...]:
    """What the glyphs of a piece say that ends in a hyphen of ours."""
    texts = list(shaped.texts)
    if HYPHEN in texts:
        texts[texts.index(HYPHEN) if level % 2 else len(texts) - 1 - texts[::-1].index(HYPHEN)] = SOFT_HYPHEN
    return tuple(texts)


def _way_of(word: Word) -> int | None:
    """Whether a word goes leftwards (1) with all beside it; None where its order follows from what stands there.

    What is nested deeper, such as a figure, is turned back within the word as long as the spaces beside it are not.
    """
    levels, gap = {piece.level for piece in word}, word[0].gap
    if not gap and levels == {0}:
        return 0
    return 1 if gap == 1 and min(levels) >= 1 else None


def look_of_space(piece: Piece, shaped: Shaped, space: Shaped) -> GlyphLook:
    """How the ``space`` before a piece is drawn: as what follows it is, so that words of one look stay together.

    Before what is raised it stays on the line.
    """
    return GlyphLook(space.face) if piece.rise else GlyphLook(space.face, shaped.scale, 0.0, piece.ink, piece.light)


def _looks_of(piece: Piece, shaped: Shaped) -> set[GlyphLook]:
    return {GlyphLook(shaped.face, shaped.scale, rise, piece.ink, piece.light) for rise in shaped.rises or (0.0,)}


class ToDraw(NamedTuple):
    """What laying asks of a table's words: by token its space, first break and place; by break its character (-1 at the
    end of the token) and the places of both parts; by place and by glyph what is known of each (see DrawnWords)."""

    space: Reals
    first_break: Wholes
    cut: Wholes
    of_token: Wholes
    stays: Wholes
    goes: Wholes
    first_glyph: Wholes
    end_glyph: Wholes
    look: Wholes
    space_look: Wholes
    space_gid: Wholes
    way: Wholes
    width: Reals
    gids: Shorts
    pens: Reals
    said: Wholes


class DrawnWords:
    """The words of a token table that have been drawn, each once.

    ``of_token`` and, by break, ``stays`` and ``goes`` give the place of a drawn word: the whole of a token, what stays
    before a break and what goes on after it; UNDRAWN, or MIXED where its glyphs are not all of one look, or where its
    place in the line follows from what stands beside it. A place has its first glyph and where they end, its look and
    that of the space before it, that space's glyph, whether it and that space go leftwards (1), and its width in ems.
    """

    def __init__(self, shape: Callable[[Piece], Shaped], shape_space: Callable[[Piece], Shaped]) -> None:
        self._shape, self._shape_space = shape, shape_space
        self.looks: list[GlyphLook] = []
        self._look_of: dict[GlyphLook, int] = {}
        self._place_of: dict[tuple[Word, bool], int] = {}
        self._places: list[tuple[int, int, int, int, int, int]] = []
        self._widths: list[float] = []
        self._gids: list[int] = []
        self._pens: list[float] = []
        self._said: list[int] = []
        self._columns = (
            Columns(self._places, 6, np.int64),
            Columns(self._widths),
            Columns(self._gids, kind=np.uint16),
            Columns(self._pens),
            Columns(self._said, kind=np.int64),
        )
        self._by_token = [np.full(1, UNDRAWN, np.int64) for _ in range(3)]

    @property
    def count(self) -> int:
        """How many words have been drawn."""
        return len(self._places)

    def by_token(self, tokens: int, breaks: int) -> tuple[Ints, Ints, Ints]:
        """``of_token``, ``stays`` and ``goes``, with room for so many tokens and breaks."""
        for index, want in enumerate((tokens, breaks, breaks)):
            self._by_token[index] = grown(self._by_token[index], want, UNDRAWN)
        of_token, stays, goes = self._by_token
        return of_token, stays, goes

    def by_place(self) -> tuple[npt.NDArray[Any], ...]:
        """By place: first glyph, end, look, look and glyph of the space, way, width; by glyph: its id, pen, figure."""
        places, widths, *glyphs = (columns.now() for columns in self._columns)
        return *places, widths[0], *(column[0] for column in glyphs)

    def put(self, part: int, index: int, word: Word, hyphenated: bool = False) -> None:
        """Note how a word is drawn: the WHOLE of token ``index``, or what STAYS before break ``index`` or GOES on.

        ``hyphenated`` says that it ends in a hyphen of ours.
        """
        self._by_token[part][index] = self._placed(word, hyphenated)

    def _placed(self, word: Word, hyphenated: bool) -> int:
        found = self._place_of.get((word, hyphenated))
        if found is None:
            found = self._place_of[word, hyphenated] = self._place(word, hyphenated)
        return found

    def _place(self, word: Word, hyphenated: bool) -> int:
        way = _way_of(word)
        if way is None:
            return MIXED
        pieces = [word[at] for at in in_sight_order([piece.level for piece in word])]
        every = [self._shape(piece) for piece in pieces]
        looks = {look for piece, shaped in zip(pieces, every, strict=True) for look in _looks_of(piece, shaped)}
        if len(looks) != 1:
            return MIXED
        space = self._shape_space(word[0])
        glyphs, width = len(self._gids), 0.0
        for piece, shaped in zip(pieces, every, strict=True):
            self._gids += shaped.glyphs
            self._pens += [width + pen for pen in shaped.pens]
            texts = texts_with_soft_hyphen(shaped, piece.level) if hyphenated and piece is word[-1] else shaped.texts
            self._said += [figure_of(text) for text in texts]
            width += shaped.width
        look = self._look(looks.pop())
        of_space = self._look(look_of_space(word[0], self._shape(word[0]), space))
        self._places.append((glyphs, len(self._gids), look, of_space, space.glyphs[0], way))
        self._widths.append(width)
        return len(self._places) - 1

    def _look(self, look: GlyphLook) -> int:
        if look not in self._look_of:
            self._look_of[look] = len(self.looks)
            self.looks.append(look)
        return self._look_of[look]
