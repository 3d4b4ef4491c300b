"""Words as they are drawn: the glyphs of every word of a token table one after another, in arrays."""

from collections.abc import Callable
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt

from half_fold.core.drawing.said import figure_of
from half_fold.core.measure.columns import Columns, grown
from half_fold.core.typesetting.faces import Shaped
from half_fold.core.typesetting.words import HYPHEN, SOFT_HYPHEN, Piece, Word

Ints = npt.NDArray[np.int64]

UNDRAWN, MIXED = -2, -1
WHOLE, STAYS, GOES = 0, 1, 2


class Look(NamedTuple):
    """What glyphs of one run have in common: face, share of the size, ems above the baseline, and ink."""

    face: str
    scale: float = 1.0
    rise: float = 0.0
    ink: str = ""


class DrawnWords:
    """The words of a token table that have been drawn, each once.

    ``of_token`` and, by break, ``stays`` and ``goes`` give the place of a drawn word: the whole of a token, what stays
    before a break and what goes on after it; UNDRAWN, or MIXED where its glyphs are not all of one look, or where its
    place in the line follows from what stands beside it. A place has its first glyph and where they end, its look and
    that of the space before it, that space's glyph, and its width in ems.
    """

    def __init__(self, shape: Callable[[Piece], Shaped]) -> None:
        self._shape = shape
        self.looks: list[Look] = []
        self._look_of: dict[Look, int] = {}
        self._place_of: dict[tuple[Word, bool], int] = {}
        self._places: list[tuple[int, int, int, int, int]] = []
        self._widths: list[float] = []
        self._gids: list[int] = []
        self._pens: list[float] = []
        self._said: list[int] = []
        self._columns = (
            Columns(self._places, 5, np.int64),
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
        """By place: first glyph, end, look, look and glyph of the space, width; by glyph: its id, pen and figure."""
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
        if len(word) != 1 or word[0].level or word[0].gap:
            return MIXED
        shaped = self._shape(word[0])
        rises = set(shaped.rises or ())
        if len(rises) > 1:
            return MIXED
        space = self._shape(Piece(" ", word[0].bold, word[0].italic))
        look = self._look(Look(shaped.face, shaped.scale, rises.pop() if rises else 0.0, word[0].ink))
        glyphs = len(self._gids), len(self._gids) + len(shaped.glyphs)
        self._places.append((*glyphs, look, self._look(Look(space.face)), space.glyphs[0]))
        self._widths.append(shaped.width)
        self._gids += shaped.glyphs
        self._pens += shaped.pens
        texts = shaped.texts
        if hyphenated and texts[-1:] == (HYPHEN,):
            texts = (*texts[:-1], SOFT_HYPHEN)
        self._said += [figure_of(text) for text in texts]
        return len(self._places) - 1

    def _look(self, look: Look) -> int:
        if look not in self._look_of:
            self._look_of[look] = len(self.looks)
            self.looks.append(look)
        return self._look_of[look]
