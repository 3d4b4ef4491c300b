"""Spelling by open dictionaries in Hunspell's form: the one that ships, and those the system has."""

import re
from collections.abc import Iterable, Iterator
from functools import cache, lru_cache
from importlib.resources import files
from pathlib import Path
from typing import Any

from half_fold.core.measure.kept import kept
from half_fold.core.publication.records import Paragraph

SYSTEM = (Path("/usr/share/hunspell"), Path("/usr/share/myspell/dicts"))
_WORD = re.compile(r"[^\W\d_]+(?:[’'][^\W\d_]+)*")


def dictionary_file(language: str) -> Path | None:
    """Where the dictionary of a language lies, without its suffix; None where there is none."""
    for name in (language, language.split("_")[0]):
        shipped = Path(str(files("half_fold.data").joinpath(f"dictionaries/{name}/{name}")))
        for base in (shipped, *(folder / name for folder in SYSTEM)):
            if base.with_name(f"{base.name}.dic").exists():
                return base
    return None


@cache
def _dictionary(language: str) -> Any:
    base = dictionary_file(language)
    if base is None:
        return None
    from spylls.hunspell import Dictionary

    return Dictionary.from_files(str(base))


@lru_cache(100_000)
def is_spelled(word: str, language: str) -> bool:
    """Whether a dictionary knows the word; True where there is no dictionary of the language."""
    known = _dictionary(language)
    return known is None or bool(known.lookup(word.replace("’", "'")))


def words_with_places(text: str) -> Iterator[tuple[int, int, str]]:
    """(start, end, word) of every word of a text that can be looked up."""
    for match in _WORD.finditer(text):
        yield match.start(), match.end(), match.group()


@kept(60_000)
def misspelled(paragraph: Paragraph, language: str) -> tuple[tuple[int, int], ...]:
    """Characters [start, end) of the words of a paragraph that no dictionary knows."""
    own = paragraph.language or language
    return tuple((start, end) for start, end, word in words_with_places(paragraph.text) if not is_spelled(word, own))


def suggestions(word: str, language: str, most: int = 5) -> list[str]:
    """Words of the dictionary that may have been meant, the likeliest first."""
    known = _dictionary(language)
    if known is None:
        return []
    out = []
    for found in known.suggest(word.replace("’", "'")):
        out.append(found.replace("'", "’"))
        if len(out) == most:
            break
    return out


def all_misspelled(paragraphs: Iterable[Paragraph], language: str) -> Iterator[tuple[int, int, int]]:
    """(paragraph, start, end) of every word that no dictionary knows."""
    for index, paragraph in enumerate(paragraphs):
        for start, end in misspelled(paragraph, language):
            yield index, start, end
