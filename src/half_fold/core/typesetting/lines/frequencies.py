"""How often letters stand in running text, by language: for widths that are worked out and not guessed.

The figures ship in data/languages/letters.json: shares of letters in per cent, as counted in running texts and given in
the usual tables, rounded; the length of a word is that of running words, not of a dictionary's.
"""

from functools import cache
from importlib.resources import files

import msgspec
from msgspec import Struct

ENGLISH = "en"


class _Counted(Struct, frozen=True):
    name: str
    letters_per_word: float
    shares: dict[str, float]


@cache
def _counted() -> dict[str, _Counted]:
    content = files("half_fold.data").joinpath("languages/letters.json").read_bytes()
    return msgspec.json.decode(content, type=dict[str, _Counted])


def _known(language: str) -> _Counted:
    """The counts of ``language``, or those of English where it has none here."""
    known = _counted()
    return known.get(language.split("_")[0].split("-")[0], known[ENGLISH])


def language_name(language: str) -> str:
    """The language whose letters are counted for ``language``, in words."""
    return _known(language).name


def letter_shares(language: str = ENGLISH) -> dict[str, float]:
    """Share of each letter, and of the space, in running text of a language; they add up to 1."""
    counted = _known(language)
    letters = counted.letters_per_word / (counted.letters_per_word + 1)
    total = sum(counted.shares.values())
    return {**{letter: letters * share / total for letter, share in counted.shares.items()}, " ": 1 - letters}


def characters_a_word(language: str = ENGLISH) -> float:
    """Letters of a running word of a language, and the space after it."""
    return _known(language).letters_per_word + 1.0
