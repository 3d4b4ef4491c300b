"""Words of a block as they are written anew: line by line, the style of what was there kept."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.publication.records import Block, HoldsDisplay, Paragraph, Publication, Run
from half_fold.core.publication.surgery import block_named, with_thing_anywhere

FIRST_ROLE = "headline"


def lines_of(block: Block) -> list[str]:
    """The words of a block of display text, a line for each paragraph."""
    return [paragraph.text for paragraph in block.holds.paragraphs] if isinstance(block.holds, HoldsDisplay) else []


def write_anew(publication: Publication, block: str, lines: Sequence[str]) -> Publication:
    """A block's words as those lines: one that stays keeps its styles, a new one takes those of the line before."""
    found = block_named(publication, block)
    if not isinstance(found.holds, HoldsDisplay) or list(lines) == lines_of(found):
        return publication
    old = list(found.holds.paragraphs) or [Paragraph(role=FIRST_ROLE, runs=(Run(text=""),))]
    kept = {paragraph.text: paragraph for paragraph in old}
    made: list[Paragraph] = []
    for at, line in enumerate(lines):
        model = old[at] if at < len(old) else made[-1]
        here = model if model.text == line else kept.get(line)
        made.append(here if here is not None else replace(model, runs=(_like(model, line),), filler=""))
    return with_thing_anywhere(publication, replace(found, holds=replace(found.holds, paragraphs=tuple(made))))


def _like(model: Paragraph, text: str) -> Run:
    """A run of those words in the style the model begins with."""
    return replace(model.runs[0], text=text) if model.runs else Run(text=text)
