"""Which way a language reads, and the order in which the words of a line that reads leftwards are seen."""

import unicodedata
from collections.abc import Sequence
from functools import lru_cache
from itertools import groupby

from half_fold.core.typesetting.words import Word

LEFTWARDS = frozenset({"ar", "arc", "ckb", "dv", "fa", "he", "ps", "sd", "syr", "ug", "ur", "yi"})


def reads_leftwards(language: str) -> bool:
    """Whether lines of that language run from right to left."""
    return language[:3].split("_")[0].split("-")[0] in LEFTWARDS


@lru_cache(4096)
def _runs_rightwards(text: str) -> bool:
    """Whether a word by itself runs from left to right: by its first strong letter, else where it is a number."""
    kinds = [unicodedata.bidirectional(letter) for letter in text]
    strong = next((kind for kind in kinds if kind in ("L", "R", "AL")), "")
    return strong == "L" if strong else any(kind in ("EN", "AN") for kind in kinds)


def in_sight_order(words: Sequence[tuple[Word, bool]]) -> list[tuple[Word, bool]]:
    """The words of a line that reads leftwards, as they stand from left to right.

    Unicode's rule L2 for words: the line is turned round, and within it every run of words that themselves read
    rightwards is turned back.
    """
    out: list[tuple[Word, bool]] = []
    for rightwards, run in groupby(
        reversed(words), key=lambda each: _runs_rightwards("".join(piece.text for piece in each[0]))
    ):
        words_of_run = list(run)
        out += reversed(words_of_run) if rightwards else words_of_run
    return out
