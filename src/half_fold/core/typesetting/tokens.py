"""The token table: every distinct word is shaped once.

A token is what stands between two spaces, punctuation included, in one or more styles. For each place it
may break the table keeps the shaped width of what would stay (with its hyphen) and of what would go to
the next line: splitting the word's own width is wrong wherever a ligature or a kern pair is cut.
"""

import re
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from half_fold.core.typesetting.faces import Face, Shaped, face, face_key
from half_fold.core.typesetting.language import hyphen_points

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]

HYPHEN = "-"
AT_SPACE, AT_HYPHEN, AT_DASH = 0, 1, 2
_LETTERS = re.compile(r"[^\W\d_]+")
_AFTER_DASH = re.compile(r"(?<=\w)(?:-|–|—|/)(?=\w\w)")


class Piece(NamedTuple):
    """Part of a token in one style."""

    text: str
    bold: bool = False
    italic: bool = False


Word = tuple[Piece, ...]


@dataclass(frozen=True, slots=True)
class Setting:
    """What shaping depends on, and nothing else; a size is only a factor."""

    family: str
    style: str
    features: tuple[str, ...] = ()
    language: str = "en_GB"
    hyphenate: bool = True


class TokenTable:
    """Tokens of one setting, appended as they are met. Widths in ems. Belongs to one thread."""

    def __init__(self, setting: Setting) -> None:
        self.setting = setting
        self._ids: dict[str | Word, int] = {}
        self._words: list[Word] = []
        self._width: list[float] = []
        self._space: list[float] = []
        self._first: list[int] = [0]
        self._before: list[float] = []
        self._after: list[float] = []
        self._kind: list[int] = []
        self._at: list[int] = []
        self._shaped: dict[tuple[str, bool, bool], Shaped] = {}
        self._arrays: tuple[Floats, Floats, Ints, Floats, Floats, Ints] | None = None

    def face_of(self, piece: Piece) -> Face:
        return face(face_key(self.setting.family, self.setting.style, piece.bold, piece.italic))

    def shape(self, piece: Piece) -> Shaped:
        """The piece as glyphs, kept for the next time."""
        found = self._shaped.get(piece)
        if found is None:
            found = self._shaped[piece] = self.face_of(piece).shape(piece.text, self.setting.features)
        return found

    def id_of(self, word: str) -> int:
        """The token of a plain word, made on first sight."""
        found = self._ids.get(word)
        if found is None:
            found = self._ids[word] = self._add((Piece(word),))
        return found

    def id_of_styled(self, word: Word) -> int:
        if len(word) == 1 and not (word[0].bold or word[0].italic):
            return self.id_of(word[0].text)
        found = self._ids.get(word)
        if found is None:
            found = self._ids[word] = self._add(word)
        return found

    def word(self, token: int) -> Word:
        return self._words[token]

    def space(self, token: int) -> float:
        return self._space[token]

    def _measure(self, word: Word) -> float:
        return sum(self.shape(piece).width for piece in word)

    def _add(self, word: Word) -> int:
        width = self._measure(word)
        lead = self.face_of(word[0]).shape(" " + word[0].text, self.setting.features)
        self._space.append(float(lead.advances[0]) if len(lead.advances) else 0.25)
        self._width.append(width)
        self._words.append(word)
        for at, kind in self._breaks("".join(piece.text for piece in word)):
            stays, goes = split_word(word, at)
            self._before.append(self._measure(with_hyphen(stays) if kind == AT_HYPHEN else stays))
            self._after.append(self._measure(goes))
            self._kind.append(kind)
            self._at.append(at)
        self._before.append(width)
        self._after.append(0.0)
        self._kind.append(AT_SPACE)
        self._at.append(-1)
        self._first.append(len(self._kind))
        self._arrays = None
        return len(self._words) - 1

    def _breaks(self, text: str) -> list[tuple[int, int]]:
        found = {match.end(): AT_DASH for match in _AFTER_DASH.finditer(text)}
        if self.setting.hyphenate and not found:
            for match in _LETTERS.finditer(text):
                for point in hyphen_points(match.group(), self.setting.language):
                    found.setdefault(match.start() + point, AT_HYPHEN)
        return sorted(found.items())

    def arrays(self) -> tuple[Floats, Floats, Ints, Floats, Floats, Ints]:
        """(width, space before, first break, width kept, width carried on, kind) over all tokens so far.

        The last break of a token is its own end.
        """
        if self._arrays is None:
            self._arrays = (
                np.array(self._width),
                np.array(self._space),
                np.array(self._first, np.int64),
                np.array(self._before),
                np.array(self._after),
                np.array(self._kind, np.int64),
            )
        return self._arrays

    def breaks_of(self, token: int) -> list[tuple[float, float, int, int]]:
        """(width kept, width carried on, kind, character) of each break of a token, its end last."""
        span = range(self._first[token], self._first[token + 1])
        return [(self._before[i], self._after[i], self._kind[i], self._at[i]) for i in span]


def split_word(word: Word, at: int) -> tuple[Word, Word]:
    """The word cut before its character ``at``."""
    stays: list[Piece] = []
    goes: list[Piece] = []
    for piece in word:
        cut = min(max(at, 0), len(piece.text))
        if piece.text[:cut]:
            stays.append(piece._replace(text=piece.text[:cut]))
        if piece.text[cut:]:
            goes.append(piece._replace(text=piece.text[cut:]))
        at -= len(piece.text)
    return tuple(stays), tuple(goes)


def with_hyphen(word: Word) -> Word:
    return (*word[:-1], word[-1]._replace(text=word[-1].text + HYPHEN))
