"""Hyphenation and letter frequencies by language."""

from functools import cache

import pyphen

# Relative letter frequencies of running English, per cent of letters; a space follows every 4.7 letters.
_ENGLISH = {
    "e": 12.7,
    "t": 9.1,
    "a": 8.2,
    "o": 7.5,
    "i": 7.0,
    "n": 6.7,
    "s": 6.3,
    "h": 6.1,
    "r": 6.0,
    "d": 4.3,
    "l": 4.0,
    "c": 2.8,
    "u": 2.8,
    "m": 2.4,
    "w": 2.4,
    "f": 2.2,
    "g": 2.0,
    "y": 2.0,
    "p": 1.9,
    "b": 1.5,
    "v": 1.0,
    "k": 0.8,
    "j": 0.15,
    "x": 0.15,
    "q": 0.1,
    "z": 0.07,
}
LETTERS_PER_WORD = 4.7
SHORTEST_HYPHENATED = 5


@cache
def _dictionary(language: str) -> pyphen.Pyphen | None:
    known = pyphen.language_fallback(language)
    return pyphen.Pyphen(lang=known, left=2, right=3) if known else None


def hyphen_points(word: str, language: str) -> list[int]:
    """Where ``word`` (letters only) may be broken: indices into it. None for short words or other scripts."""
    dictionary = _dictionary(language)
    if dictionary is None or len(word) < SHORTEST_HYPHENATED:
        return []
    return [int(point) for point in dictionary.positions(word)]


def letter_shares() -> dict[str, float]:
    """Share of each letter, and of the space, in running text; they add up to 1."""
    letters = LETTERS_PER_WORD / (LETTERS_PER_WORD + 1)
    total = sum(_ENGLISH.values())
    return {**{letter: letters * share / total for letter, share in _ENGLISH.items()}, " ": 1 - letters}
