"""Words that are filled in from the job: {title}, {author}, {issue}, {price} and their like."""

import re

from msgspec.structs import replace

from half_fold.core.measure.kept import Keeper
from half_fold.core.publication.records import Paragraph, Publication

PICKED_UP = ("title", "issue", "season", "date", "author", "publisher", "price", "slogan")


def words_of_job(publication: Publication) -> tuple[object, ...]:
    """All that words may be filled in with."""
    return (publication.symbols, *(getattr(publication, name) for name in PICKED_UP))


def fill_words(publication: Publication, words: str) -> str:
    """``words`` with the job's own in place of their names; what the job has not got takes its comma with it."""
    for name in PICKED_UP:
        asked, value = f"{{{name}}}", getattr(publication, name)
        if value:
            words = words.replace(asked, value)
        elif asked in words:
            place = re.escape(asked)
            words = re.sub(rf",\s*{place}|^\s*{place}\s*,\s*|{place}", "", words)
    return fill_symbols(publication, words)


def fill_symbols(publication: Publication, words: str) -> str:
    """Words with the letters of the job's symbols where these are named: ``{end mark}``."""
    for symbol in publication.symbols if "{" in words else ():
        words = words.replace(f"{{{symbol.name}}}", symbol.letter)
    return words


def filled(publication: Publication, paragraph: Paragraph) -> Paragraph:
    """The paragraph filled in: the same record each time, and itself where there is nothing to fill."""
    if "{" not in paragraph.text:
        return paragraph
    follows = paragraph, *words_of_job(publication)
    return _filled.of(follows, lambda: _filled_in(publication, paragraph))


_filled: Keeper[Paragraph] = Keeper(400)


def _filled_in(publication: Publication, paragraph: Paragraph) -> Paragraph:
    runs = tuple(replace(run, text=fill_words(publication, run.text)) for run in paragraph.runs)
    return replace(paragraph, runs=runs)
