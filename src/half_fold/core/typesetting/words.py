"""Words as pieces of one style each, and what breaking does to them."""

import re
from typing import NamedTuple

HYPHEN = "-"
SPACES = re.compile(r"[ \t\r\n]+")  # spaces that do not break stay in their words
SOFT_HYPHEN = "\u00ad"
AT_SPACE, AT_HYPHEN, AT_DASH = 0, 1, 2


class Piece(NamedTuple):
    """Part of a token in one style."""

    text: str
    bold: bool = False
    italic: bool = False
    small_caps: bool = False
    rise: str = ""
    ink: str = ""


Word = tuple[Piece, ...]


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
