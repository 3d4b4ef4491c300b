"""A long text put into paragraphs at a place, worked on the records alone."""

from collections.abc import Sequence
from typing import NamedTuple

from msgspec.structs import replace

from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.texts.reading import join_paragraphs


class PastePlace(NamedTuple):
    """Before a letter of a paragraph, both by number."""

    paragraph: int
    letter: int


def pasted(
    paragraphs: Sequence[Paragraph], start: PastePlace, end: PastePlace, lines: Sequence[str]
) -> tuple[Paragraph, ...]:
    """The paragraphs with lines in place of what stands from ``start`` to ``end``: each line a paragraph.

    They are in the role of the paragraph that they begin in, or, where all of that goes, of the one that they end in;
    and in the style of the letter before them.
    """
    first, last = paragraphs[start.paragraph], paragraphs[end.paragraph]
    before, after = _parted(first, start.letter)[0], _parted(last, end.letter)[1]
    style = next(iter([*before[-1:], *first.runs[:1]]), Run(text=""))
    put = [[replace(style, text=line)] if line else [] for line in lines]
    put[0], put[-1] = [*before, *put[0]], [*put[-1], *after]
    stays = last if start.letter == 0 and end.paragraph > start.paragraph else first
    inner = Paragraph(role=stays.role, language=stays.language, runs=())
    made = [replace(inner, runs=join_paragraphs(runs)) for runs in put]
    made[0] = replace(stays, runs=made[0].runs)
    return (*paragraphs[: start.paragraph], *made, *paragraphs[end.paragraph + 1 :])


def _parted(paragraph: Paragraph, at: int) -> tuple[list[Run], list[Run]]:
    """Its runs up to a letter, and from there on."""
    before, after = list[Run](), list[Run]()
    for run in paragraph.runs:
        head, tail = run.text[: max(0, at)], run.text[max(0, at) :]
        before += [replace(run, text=head)] if head else []
        after += [replace(run, text=tail)] if tail else []
        at -= len(run.text)
    return before, after
