"""Finding and replacing words in a story."""

import re
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.texts.reading import join_paragraphs


class FoundPlace(NamedTuple):
    """Characters [start, end) of a paragraph."""

    paragraph: int
    start: int
    end: int


def pattern_of(words: str, whole: bool = False, exact: bool = False) -> re.Pattern[str]:
    """What is looked for: as typed, as ``whole`` words, with ``exact`` capitals. Problem where nothing was typed."""
    if not words:
        raise Problem("Type the words to look for.")
    text = re.escape(words)
    if whole:
        text = rf"(?<!\w){text}(?!\w)"
    return re.compile(text, 0 if exact else re.IGNORECASE)


def find(paragraphs: Sequence[Paragraph], pattern: re.Pattern[str]) -> Iterator[FoundPlace]:
    """Every place the pattern stands at, in reading order."""
    for index, paragraph in enumerate(paragraphs):
        for match in pattern.finditer(paragraph.text):
            yield FoundPlace(index, match.start(), match.end())


def replaced(paragraph: Paragraph, start: int, end: int, words: str) -> Paragraph:
    """The paragraph with other words in place of characters [start, end), in the style of the first of them."""
    runs: list[Run] = []
    at, put = 0, False
    for run in paragraph.runs:
        low, high = max(0, start - at), max(0, end - at)
        at += len(run.text)
        inside = low < len(run.text) and high > 0
        if inside and not put:
            runs.append(replace(run, text=run.text[:low] + words + run.text[high:]))
            put = True
        else:
            runs.append(replace(run, text=run.text[:low] + run.text[high:]) if inside else run)
    return replace(paragraph, runs=join_paragraphs(run for run in runs if run.text))


def replace_all(
    paragraphs: Sequence[Paragraph], pattern: re.Pattern[str], words: str
) -> tuple[tuple[Paragraph, ...], int]:
    """All paragraphs with every place replaced, and how many there were; those without any stay the same records."""
    out, count = [], 0
    for paragraph in paragraphs:
        places = list(find([paragraph], pattern))
        for place in reversed(places):
            paragraph = replaced(paragraph, place.start, place.end, words)
        out.append(paragraph)
        count += len(places)
    return tuple(out), count
