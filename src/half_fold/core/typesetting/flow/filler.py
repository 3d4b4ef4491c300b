"""Filler copy: words that are none, by the letters of a language, so that nobody takes them for text."""

import random
from zlib import crc32

from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.lines.frequencies import characters_a_word, letter_shares

VOWELS = frozenset("aeiouyäöüéèêëàâîïôûùáíóúåæøœ")
LEAST_SENTENCE, MOST_SENTENCE = 5, 16  # words
LEAST_PARAGRAPH, MOST_PARAGRAPH = 40, 90
MOST_IN_ROW = 2  # of vowels, or of consonants
SHORTEST, LONGEST = 2, 12  # letters of a word


def _digest(text: str) -> str:
    return f"{crc32(text.encode('utf-8', 'surrogatepass')):08x}"


def is_filler(paragraph: Paragraph) -> bool:
    """Whether a paragraph is still the filler copy that it was made as."""
    return bool(paragraph.filler) and paragraph.filler == _digest(paragraph.text)


def filler_paragraphs(language: str, words: int, role: str, seed: int = 1) -> tuple[Paragraph, ...]:
    """So many words of filler copy in paragraphs of a role; the same for the same seed."""
    chance = random.Random(f"{language} {seed}")
    out = []
    while words > 0:
        count = min(words, chance.randint(LEAST_PARAGRAPH, MOST_PARAGRAPH))
        text = _sentences(language, count, chance)
        out.append(Paragraph(role=role, runs=(Run(text=text),), filler=_digest(text)))
        words -= count
    return tuple(out)


def _sentences(language: str, words: int, chance: random.Random) -> str:
    told = []
    while words > 0:
        count = min(words, chance.randint(LEAST_SENTENCE, MOST_SENTENCE))
        if words - count < LEAST_SENTENCE:
            count = words
        sentence = " ".join(_word(language, chance) for _ in range(count))
        told.append(sentence[:1].upper() + sentence[1:] + ".")
        words -= count
    return " ".join(told)


def _word(language: str, chance: random.Random) -> str:
    """Letters as often as they stand in the language, vowels and consonants in turn as a tongue can bear."""
    shares = {letter: share for letter, share in letter_shares(language).items() if letter.isalpha()}
    usual = characters_a_word(language) - 1
    length = min(max(SHORTEST, round(chance.gauss(usual, usual / 2.5))), LONGEST)
    word = ""
    while len(word) < length:
        tail = word[-MOST_IN_ROW:]
        kinds = {letter in VOWELS for letter in tail}
        barred = next(iter(kinds)) if len(tail) == MOST_IN_ROW and len(kinds) == 1 else None
        may = [letter for letter in shares if (letter in VOWELS) is not barred or barred is None]
        if not may:
            may = list(shares)
        word += chance.choices(may, [shares[letter] for letter in may])[0]
    return word
