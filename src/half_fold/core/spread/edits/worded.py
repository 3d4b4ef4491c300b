"""Words within a block set by themselves, counted from 1 through all its paragraphs."""

import re
from collections.abc import Iterator
from itertools import pairwise

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import HoldsDisplay, Paragraph, Publication, Run
from half_fold.core.publication.surgery import block_named, require_free, role_in, with_thing_anywhere
from half_fold.core.spread.settable.word_light import EVERY
from half_fold.core.typesetting.sheet.word_properties import Spoken
from half_fold.core.typesetting.texts.reading import join_paragraphs

_WORD = re.compile(r"\S+")


def set_words(publication: Publication, block: str, first: int, last: int, key: str, typed: str) -> Publication:
    """A property of the words from ``first`` to ``last`` of a block as typed. Problem where that cannot be."""
    require_free(publication, block)
    found = block_named(publication, block)
    holds = found.holds
    if not isinstance(holds, HoldsDisplay):
        raise Problem(f"“{block}” has no words of its own; those of a story are set in the story drawer.")
    of = next((each for each in EVERY if each.key == key), None)
    if of is None:
        raise Problem(f"Words have no “{key}”; there are {', '.join(each.key for each in EVERY)}.")
    count = len(_WORD.findall(" ".join(paragraph.text for paragraph in holds.paragraphs)))
    if not 1 <= first <= last <= count:
        raise Problem(f"There are no words {first} to {last}; that block has {count}.")
    made, begun = [], 1
    for paragraph in holds.paragraphs:
        spans = [each.span() for each in _WORD.finditer(paragraph.text)]
        some = spans[max(0, first - begun) : max(0, last - begun + 1)]
        begun += len(spans)
        if not some:
            made.append(paragraph)
            continue
        role = role_in(publication, holds, paragraph.role)
        runs = [
            of.set(publication, Spoken(run, role), typed).run if is_in else run
            for run, is_in in _cut(paragraph, some[0][0], some[-1][1])
        ]
        made.append(replace(paragraph, runs=join_paragraphs(runs)))
    changed = replace(found, holds=replace(holds, paragraphs=tuple(made)))
    return with_thing_anywhere(publication, changed)


def _cut(paragraph: Paragraph, start: int, end: int) -> Iterator[tuple[Run, bool]]:
    """The runs cut where some letters begin and end, each with whether it is among them."""
    at = 0
    for run in paragraph.runs:
        cuts = sorted({0, len(run.text), *(place - at for place in (start, end) if 0 < place - at < len(run.text))})
        for begin, stop in pairwise(cuts):
            yield replace(run, text=run.text[begin:stop]), start <= at + begin < end
        at += len(run.text)
