"""Words that are filled in from a row of the job's goods: {name}, {price}, and whatever its columns are called."""

import re
from collections.abc import Mapping

from msgspec.structs import replace

from half_fold.core.measure.kept import Keeper, kept
from half_fold.core.publication.records import Block, Goods, HoldsDisplay, Paragraph, Publication

NAMED = re.compile(r"\{([^{}]+)\}")
_kept: Keeper[Block] = Keeper(2000)


@kept(8)
def rows_of(goods: Goods) -> dict[str, dict[str, str]]:
    """Of each row, by the words it goes by, what stands under every column (in small letters)."""
    names = [plain(name) for name in goods.columns]
    return {row[0]: dict(zip(names, row, strict=False)) for row in goods.rows}


def plain(words: str) -> str:
    """Words that are told apart neither by capitals nor by spaces: names of columns, titles."""
    return " ".join(words.casefold().split())


def from_row(publication: Publication, block: Block) -> Block:
    """A block with its words filled in from its row; itself where it has none, or that is not in the table.

    A paragraph of which nothing is left falls away; what no column is called stays as it is.
    """
    if not block.row or publication.goods is None or not isinstance(block.holds, HoldsDisplay):
        return block
    row = rows_of(publication.goods).get(block.row)
    if row is None or not any("{" in paragraph.text for paragraph in block.holds.paragraphs):
        return block
    return _kept.of((block, publication.goods), lambda: _filled(block, row))


def _filled(block: Block, row: Mapping[str, str]) -> Block:
    assert isinstance(block.holds, HoldsDisplay)
    made = []
    for paragraph in block.holds.paragraphs:
        new = _with_values(paragraph, row)
        if new.text.strip() or not paragraph.text.strip():
            made.append(new)
    paragraphs = tuple(made) or (replace(block.holds.paragraphs[0], runs=()),)
    return replace(block, holds=replace(block.holds, paragraphs=paragraphs))


def _with_values(paragraph: Paragraph, row: Mapping[str, str]) -> Paragraph:
    def value(match: re.Match[str]) -> str:
        return row.get(plain(match[1]), match[0])

    runs = [replace(run, text=NAMED.sub(value, run.text)) for run in paragraph.runs]
    return replace(paragraph, runs=tuple(run for run in runs if run.text))
