"""The token table: every distinct word is shaped once.

A token is what stands between two spaces, punctuation included, in one or more styles. For each place it
may break the table keeps the shaped width of what would stay (with its hyphen) and of what would go to
the next line: splitting the word's own width is wrong wherever a ligature or a kern pair is cut.
"""

import re
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.compiled.compiling import HeldArray, hold_array, is_loaded
from half_fold.core.measure.columns import Columns
from half_fold.core.typesetting.faces.faces import Face, Shaped, face, face_key
from half_fold.core.typesetting.faces.scripts import SIGNS, Fallbacks, clusters_of, fallback_key, scripts_of
from half_fold.core.typesetting.faces.words import (
    AT_DASH,
    AT_HYPHEN,
    AT_SPACE,
    SPACES,
    Piece,
    Word,
    split_word,
    way_of,
    with_capital,
    with_hyphen,
)
from half_fold.core.typesetting.lines.drawn import GOES, STAYS, WHOLE, DrawnWords, ToDraw
from half_fold.core.typesetting.lines.language import hyphen_points
from half_fold.core.typesetting.lines.word_index import WordIndex

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]

_LETTERS = re.compile(r"[^\W\d_]+")
_AFTER_DASH = re.compile(r"(?<=\w)(?:–|—|(?:-|/)(?!\d))(?=\w\w)")  # a date is not parted
LONGEST_PARTED, MOST_BREAKS = 1000, 60  # letters of a word that is parted at all, and places it may be parted at
SMALL_CAPS_SCALE = 0.8
RISEN_SCALE, SUPERIOR_EMS, INFERIOR_EMS = 0.6, 0.34, -0.14
# How much of a sign hangs beyond the edge, as a share of its width: faint ones more than strong ones.
HANGS = dict.fromkeys("-.,'\"‘’“”«»‹›", 0.6) | dict.fromkeys(":;!?", 0.3) | dict.fromkeys("–—", 0.3)


class TokenSetting(Struct, frozen=True):
    """What shaping depends on, and nothing else; a size is only a factor. ``tracking`` is in ems.

    ``fallbacks`` are families that stand in, by script, for letters the face has not got.
    """

    family: str
    style: str
    features: tuple[str, ...] = ()
    language: str = "en_GB"
    hyphenate: bool = True
    tracking: float = 0.0
    case: str = "as typed"
    hanging: bool = False
    fallbacks: Fallbacks = ()


class TokenMeasures(NamedTuple):
    """What is known of all tokens and of all their breaks, of which a token's last is its own end; lengths in ems.

    ``first`` is each token's first break. ``columns`` are, by token, its width, the space before it, its letters, how
    far it leads into the margin at the start of a line, and its first break; by break, the width kept before it and
    carried on after it, the letters of both, how far what is kept trails into the margin and what is carried leads
    into it, and its kind.
    """

    first: Ints
    columns: tuple[HeldArray, ...]


class _Ids(dict[str, int]):
    """Tokens of plain words, made as they are first asked for."""

    def __init__(self, table: "TokenTable") -> None:
        super().__init__()
        self._table = table

    def __missing__(self, word: str) -> int:
        made = self[word] = self._table.add((Piece(word),))
        return made


class TokenTable:
    """Tokens of one setting, appended as they are met. Widths in ems. Belongs to one thread."""

    def __init__(self, setting: TokenSetting) -> None:
        self.setting = setting
        self.plain = _Ids(self)
        self._index = WordIndex(self.plain.__getitem__)
        self._styled: dict[Word, int] = {}
        self._words: list[Word] = []
        self._tokens: list[tuple[float, float, int, float]] = []
        self._breaks: list[tuple[float, float, int, int, float, float, int]] = []
        self._at: list[int] = []
        self._first: list[int] = [0]
        self._columns = (
            Columns(self._tokens, 4),
            Columns(self._breaks, 7),
            Columns(self._first, kind=np.int64),
            Columns(self._at, kind=np.int64),
        )
        self._shaped: dict[Piece, Shaped] = {}
        self._extents: dict[Piece, tuple[float, int]] = {}
        self._measured, self._measured_of = TokenMeasures(np.empty(0, np.int64), ()), 0
        self._to_draw: ToDraw
        self._to_draw_of = -1, -1
        self.drawn = DrawnWords(self.shape, self.shape_space)
        self._gap: dict[str, float] = {}

    def face_of(self, piece: Piece) -> Face:
        if piece.face:
            return face(piece.face)
        return face(face_key(self.setting.family, self.setting.style, piece.bold, piece.italic))

    def shape(self, piece: Piece) -> Shaped:
        """The piece as glyphs, kept for the next time."""
        found = self._shaped.get(piece)
        if found is None:
            found = self._shaped[piece] = self._shape(piece)
        return found

    def shape_space(self, piece: Piece) -> Shaped:
        """The space before a word that begins with that piece, of its own face where that has one: to look like it."""
        space = self.shape(Piece(" ", piece.bold, piece.italic, face=piece.face))
        return space if 0 not in space.glyphs else self.shape(Piece(" ", piece.bold, piece.italic))

    def _shape(self, piece: Piece) -> Shaped:
        drawn, text, features, scale = self._asked(piece)
        shaped = drawn.shape(text, features, way_of(piece))
        tracking = self.setting.tracking + piece.tracked
        if tracking:
            shaped = shaped.spaced(tracking)
        if scale == 1.0:
            return shaped
        rise = {"superior": SUPERIOR_EMS, "inferior": INFERIOR_EMS}.get(piece.rise, 0.0)
        return shaped.scaled(scale, rise)

    def _asked(self, piece: Piece) -> tuple[Face, str, tuple[str, ...], float]:
        """Face, text, features and scale a piece is shaped with."""
        drawn, features, text, scale = self.face_of(piece), self.setting.features, piece.text, 1.0
        if self.setting.case == "capitals":
            text = text.upper()
        is_small = piece.small_caps or self.setting.case == "small capitals"
        if is_small and drawn.has("smcp"):
            features = (*features, "smcp")
        elif is_small:
            text, scale = text.upper(), SMALL_CAPS_SCALE
        scale *= 1.0 + piece.grown
        return drawn, text, features, scale * RISEN_SCALE if piece.rise else scale

    def _extent(self, word: Word) -> tuple[float, int]:
        """Width of a word in ems, and its glyphs."""
        width, glyphs = 0.0, 0
        for piece in word:
            known = self._extents.get(piece)
            if known is None:
                drawn, text, features, scale = self._asked(piece)
                wide, count = drawn.extent(text, features, way_of(piece))
                tracking = self.setting.tracking + piece.tracked
                known = self._extents[piece] = (wide + tracking * count) * scale, count
            width += known[0]
            glyphs += known[1]
        return width, glyphs

    def width(self, word: Word) -> float:
        """The width of a word in ems."""
        return sum(self.shape(piece).width for piece in word)

    def tokens_of(self, texts: Sequence[str]) -> list[Ints]:
        """The tokens of the words of plain texts."""
        if is_loaded():
            return self._index.tokens_of(texts)
        found = ([self.plain[word] for word in SPACES.split(text) if word] for text in texts)
        return [np.array(tokens, np.int64) for tokens in found]

    def id_of_styled(self, word: Word) -> int:
        if len(word) == 1 and not any(word[0][1:]):
            return self.plain[word[0].text]
        found = self._styled.get(word)
        if found is None:
            found = self._styled[word] = self.add(word)
        return found

    def word(self, token: int) -> Word:
        return self._words[token]

    def space(self, token: int) -> float:
        return self._tokens[token][1]

    def add(self, word: Word) -> int:
        """A new token. Only the table and its own words by name call this: others ask for an id."""
        word = self.faced(with_capital(word) if self.setting.case == "titles" else word)
        width, letters = self._extent(word)
        self._tokens.append((width, self.space_before(word[0]), letters, self.hang(word[0], 0)))
        self._words.append(word)
        for at, kind in self._break_places("".join(piece.text for piece in word)):
            stays, goes = split_word(word, at)
            stays = with_hyphen(stays) if kind == AT_HYPHEN else stays
            kept, carried = self._extent(stays), self._extent(goes)
            hangs = self.hang(stays[-1], -1), self.hang(goes[0], 0)
            self._breaks.append((kept[0], carried[0], kept[1], carried[1], *hangs, kind))
            self._at.append(at)
        self._breaks.append((width, 0.0, letters, 0, self.hang(word[-1], -1), 0.0, AT_SPACE))
        self._at.append(-1)
        self._first.append(len(self._breaks))
        return len(self._words) - 1

    def faced(self, word: Word) -> Word:
        """The word with letters that its face has not got in pieces of the face that stands in for them."""
        if not self.setting.fallbacks:
            return word
        return tuple(part for piece in word for part in self._faced(piece))

    def _faced(self, piece: Piece) -> list[Piece]:
        drawn, text, features, _ = self._asked(piece)
        if len(text) != len(piece.text) or not drawn.lacks(text):
            return [piece]
        out, clusters = list[Piece](), list(clusters_of(drawn, piece.text, features, way_of(piece)))
        # All of a word that is of the script goes: a face that has a few of its letters would stand among the others.
        scripts = {script for each in clusters if each.is_lacking for script in scripts_of(each.text)} - {SIGNS}
        for cluster in clusters:
            goes = cluster.is_lacking or not scripts.isdisjoint(scripts_of(cluster.text))
            key = fallback_key(self.setting.fallbacks, cluster, piece) if goes else ""
            if out and out[-1].face == key:
                out[-1] = out[-1]._replace(text=out[-1].text + cluster.text)
            else:
                out.append(piece._replace(text=cluster.text, face=key))
        return out

    def space_before(self, piece: Piece) -> float:
        """The space before a word, which kerns with its first letter."""
        known = self._gap.get(piece.text[:1]) if not any(piece[1:]) else None
        if known is None:
            lead = self.face_of(piece).shape(" " + piece.text[:1], self.setting.features, way_of(piece))
            # What reads leftwards is shaped with its space at the right end.
            at = lead.texts.index(" ") if " " in lead.texts else 0
            known = (lead.advances[at] if lead.advances else 0.25) + self.setting.tracking
            if not any(piece[1:]):
                self._gap[piece.text[:1]] = known
        return known

    def hang(self, piece: Piece, at: int) -> float:
        """How far the first (0) or last (-1) sign of a piece stands in the margin."""
        if not self.setting.hanging:
            return 0.0
        share = HANGS.get(piece.text[at], 0.0)
        return share * self._extent((piece._replace(text=piece.text[at]),))[0] if share else 0.0

    def _break_places(self, text: str) -> list[tuple[int, int]]:
        found = {match.end(): AT_DASH for match in _AFTER_DASH.finditer(text)}
        if self.setting.hyphenate and not found:
            for match in _LETTERS.finditer(text):
                for point in hyphen_points(match.group(), self.setting.language):
                    found.setdefault(match.start() + point, AT_HYPHEN)
        places = sorted(found.items()) if len(text) <= LONGEST_PARTED else []
        return places[:: len(places) // MOST_BREAKS + 1]

    def measured(self) -> TokenMeasures:
        """Everything that is known of the tokens so far."""
        count = len(self._words)
        if self._measured_of != count:
            tokens, breaks, first, _ = (columns.now() for columns in self._columns)
            width, space, letters, leads = tokens
            self._measured = TokenMeasures(first[0], hold_array(width, space, letters, leads, first[0], *breaks))
            self._measured_of = count
        return self._measured

    def to_draw(self) -> ToDraw:
        """What drawing asks of tokens."""
        counts = len(self._words), self.drawn.count
        if self._to_draw_of != counts:
            tokens, _, first, cuts = (columns.now() for columns in self._columns)
            places = self.drawn.by_token(len(self._words), len(self._at))
            self._to_draw = ToDraw(*hold_array(tokens[1], first[0], cuts[0], *places, *self.drawn.by_place()))
            self._to_draw_of = counts
        return self._to_draw

    def draw(self, token: int, at: int, part: int) -> None:
        """Draw the WHOLE of a token, or what STAYS before its break ``at`` or GOES on after it."""
        word = self._words[token]
        if part == WHOLE:
            self.drawn.put(part, token, word)
            return
        stays, goes = split_word(word, self._at[at])
        if part == GOES:
            self.drawn.put(part, at, goes)
        else:
            hyphenated = self._breaks[at][6] == AT_HYPHEN
            self.drawn.put(STAYS, at, with_hyphen(stays) if hyphenated else stays, hyphenated)

    def breaks_of(self, token: int) -> list[tuple[float, float, int, int]]:
        """(width kept, width carried on, kind, character) of each break of a token, its end last."""
        span = range(self._first[token], self._first[token + 1])
        return [(self._breaks[i][0], self._breaks[i][1], self._breaks[i][6], self._at[i]) for i in span]
