"""Words laid one after another as glyph runs."""

from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct, field

from half_fold.core.drawing.marks import Glyphs, Origin
from half_fold.core.drawing.tone import Tone
from half_fold.core.typesetting.faces.directions import in_sight_order
from half_fold.core.typesetting.faces.faces import Shaped
from half_fold.core.typesetting.faces.words import Piece, Word
from half_fold.core.typesetting.lines.drawn import GlyphLook, look_of_space, texts_with_soft_hyphen
from half_fold.core.typesetting.lines.tokens import TokenTable
from half_fold.core.typesetting.marks.laying import Spacing

InkOf = Callable[[str], Tone]


def word_marks(
    table: TokenTable,
    words: Sequence[tuple[Word, bool]],
    gaps: Sequence[float],
    spaced: Spacing,
    size: float,
    left: float,
    baseline: float,
    colour: Tone,
    origin: Origin,
    ink_of: InkOf | None = None,
) -> list[Glyphs]:
    """Words, each with whether it ends in a hyphen of ours, and the space before each (ems), as glyph runs.

    ``left``, ``baseline`` and ``size`` in points; ``ink_of`` gives the colour of an ink by name.
    """
    parts = list(_parts(words, gaps))
    runs, x = Runs(), spaced.lead
    for at in in_sight_order([part.level for part in parts]):
        piece, _, gap, hyphenated = parts[at]
        if gap is not None:
            space = table.shape_space(piece)
            runs.add_space(space, look_of_space(piece, table.shape(piece), space), x)
            x += gap * spaced.factor + spaced.letters
            continue
        shaped = table.shape(piece)
        texts = texts_with_soft_hyphen(shaped, piece.level) if hyphenated else shaped.texts
        x = runs.add(piece, shaped, x, spaced.letters, texts)
    return runs.marks(size, left, baseline, colour, origin, ink_of)


class _Part(NamedTuple):
    """A piece, or the space before one: that has a ``gap`` in ems. ``hyphenated`` says it ends in a hyphen of ours."""

    piece: Piece
    level: int
    gap: float | None = None
    hyphenated: bool = False


def _parts(words: Sequence[tuple[Word, bool]], gaps: Sequence[float]) -> Iterator[_Part]:
    """The pieces of words, and the spaces between, in the order in which they are read."""
    for index, (word, hyphenated) in enumerate(words):
        if index:
            yield _Part(word[0], word[0].gap, gaps[index])
        for piece in word:
            yield _Part(piece, piece.level, None, hyphenated and piece is word[-1])


class _Run(Struct):
    """Glyphs that look alike."""

    key: GlyphLook
    gids: list[int] = field(default_factory=list)
    xs: list[float] = field(default_factory=list)
    texts: list[str] = field(default_factory=list)


class Runs:
    """Gathers glyphs from left to right, a new run wherever their look changes."""

    def __init__(self) -> None:
        self.runs: list[_Run] = []

    def _to(self, key: GlyphLook) -> _Run:
        if not self.runs or self.runs[-1].key != key:
            self.runs.append(_Run(key))
        return self.runs[-1]

    def add(self, piece: Piece, shaped: Shaped, x: float, between: float, texts: Sequence[str]) -> float:
        """Lay a shaped piece at ``x`` ems; gives where the next begins."""
        if between:
            shaped = shaped.spaced(between)
        if shaped.rises is None:
            run = self._to(GlyphLook(shaped.face, shaped.scale, 0.0, piece.ink, piece.light))
            run.gids += shaped.glyphs
            run.xs += [x + pen for pen in shaped.pens]
            run.texts += texts
        else:
            places = zip(shaped.glyphs, shaped.pens, shaped.rises, texts, strict=True)
            for gid, pen, rise, text in places:
                run = self._to(GlyphLook(shaped.face, shaped.scale, rise, piece.ink, piece.light))
                run.gids.append(gid)
                run.xs.append(x + pen)
                run.texts.append(text)
        return x + shaped.width

    def add_space(self, shaped: Shaped, look: GlyphLook, x: float) -> None:
        """Lay the glyph of a word space, which goes with the words before it where they look as it does."""
        run = self._to(look)
        run.gids.append(shaped.glyphs[0])
        run.xs.append(x)
        run.texts.append(" ")

    def marks(
        self, size: float, left: float, baseline: float, colour: Tone, origin: Origin, ink_of: InkOf | None
    ) -> list[Glyphs]:
        """The runs at ``size``, their pens counted from ``left`` (points)."""
        out = []
        for run in self.runs:
            face, scale, rise, ink, light = run.key
            drawn = ink_of(ink) if ink and ink_of is not None else colour
            xs = left + size * np.array(run.xs)
            gids = np.array(run.gids, np.uint16)
            height, texts = baseline - rise * size, tuple(run.texts)
            out.append(Glyphs(face, size * scale, gids, xs, height, drawn, texts, origin, light=light))
        return out
