"""Words as pieces of one style each, and what breaking does to them."""

import re
from typing import NamedTuple

HYPHEN = "-"
SPACES = re.compile(r"[ \t\r\n]+")  # spaces that do not break stay in their words
SOFT_HYPHEN = "\u00ad"
AT_SPACE, AT_HYPHEN, AT_DASH = 0, 1, 2


class Piece(NamedTuple):
    """Part of a token in one style, that runs one way.

    ``level`` says which way it runs and ``gap`` which way the space before its word does (see directions); ``face`` is
    the key of a face of its own, or of one that stands in for the style's, which has not got its letters. It is
    ``grown`` by so much of the style's size, and ``tracked`` by so many ems beside its tracking. Its ``light`` is a
    look of its own as it is kept in a file; "" is none.
    """

    text: str
    bold: bool = False
    italic: bool = False
    small_caps: bool = False
    rise: str = ""
    ink: str = ""
    level: int = 0
    gap: int = 0
    face: str = ""
    grown: float = 0.0
    tracked: float = 0.0
    light: str = ""


Word = tuple[Piece, ...]


def way_of(piece: Piece) -> str:
    """Which way a piece is shaped."""
    return "rtl" if piece.level % 2 else "ltr"


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


def with_capital(word: Word) -> Word:
    """The word with its first letter a capital, where that is one letter too."""
    for index, piece in enumerate(word):
        at = next((at for at, letter in enumerate(piece.text) if letter.isalpha()), None)
        if at is not None:
            large = piece.text[at].upper()
            text = piece.text if len(large) > 1 else piece.text[:at] + large + piece.text[at + 1 :]
            return (*word[:index], piece._replace(text=text), *word[index + 1 :])
    return word


def with_hyphen(word: Word) -> Word:
    return (*word[:-1], word[-1]._replace(text=word[-1].text + HYPHEN))
