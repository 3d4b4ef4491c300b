"""Words and codes filled in from a row of the job's goods: {name}, {price}, and whatever its columns are called."""

import re
from collections.abc import Mapping

from msgspec.structs import replace

from half_fold.core.measure.kept import Keeper, kept
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.kinds import NO_NUMBER, asked_of, own_words
from half_fold.core.publication.records import (
    Block,
    Goods,
    Holds,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    Paragraph,
    Publication,
)
from half_fold.core.spread.codes.ean import ean13

NAMED = re.compile(r"\{([^{}]+)\}")
_kept: Keeper[Block] = Keeper(2000)


@kept(8)
def rows_of(goods: Goods) -> dict[str, dict[str, str]]:
    """Of each row, by the words it goes by, what stands under every column (in small letters)."""
    names = [name_as_asked(name) for name in goods.columns]
    return {row[0]: dict(zip(names, row, strict=False)) for row in goods.rows}


def name_as_asked(words: str) -> str:
    """Words that are told apart neither by capitals nor by spaces: names of columns, titles."""
    return " ".join(words.casefold().split())


def from_row(publication: Publication, block: Block) -> Block:
    """A block with its words and codes filled in from its row; itself where it has none, or that is not in the table.

    A paragraph of which nothing is left falls away; what no column is called stays as it is.
    """
    if not block.row or publication.goods is None or not asks_for_goods(block.holds):
        return block
    row = rows_of(publication.goods).get(block.row)
    return block if row is None else _kept.of((block, publication.goods), lambda: _filled(block, row))


def typed_number(typed: str) -> str:
    """A number as a code has it, or the column of goods that it stands in ({ean}). Problem where it is neither."""
    return typed.strip() if NAMED.fullmatch(typed.strip()) else ean13(typed)


def asks_for_goods(holds: Holds) -> bool:
    """Whether something in what a block holds is to be filled in."""
    return any("{" in words for words in (*asked_of(holds), *(each.text for each in own_words(holds))))


def _filled(block: Block, row: Mapping[str, str]) -> Block:
    holds = block.holds
    if isinstance(holds, HoldsCode):
        return replace(block, holds=replace(holds, says=_values(holds.says, row).strip()))
    assert isinstance(holds, HoldsDisplay | HoldsBarcode)
    made = []
    for paragraph in holds.paragraphs:
        new = _with_values(paragraph, row)
        if new.text.strip() or not paragraph.text.strip():
            made.append(new)
    if isinstance(holds, HoldsBarcode):
        number, more = _as_issued(_values(holds.number, row)), _values(holds.addon, row).strip()
        return replace(block, holds=replace(holds, paragraphs=tuple(made), number=number, addon=more))
    return replace(block, holds=replace(holds, paragraphs=tuple(made) or (replace(holds.paragraphs[0], runs=()),)))


def _as_issued(number: str) -> str:
    """A number as a code has it, or none; as it stands where it cannot be one, which a check says."""
    if not number.strip():
        return NO_NUMBER
    try:
        return ean13(number)
    except Problem:
        return number.strip()


def _with_values(paragraph: Paragraph, row: Mapping[str, str]) -> Paragraph:
    runs = [replace(run, text=_values(run.text, row)) for run in paragraph.runs]
    return replace(paragraph, runs=tuple(run for run in runs if run.text))


def _values(text: str, row: Mapping[str, str]) -> str:
    return NAMED.sub(lambda match: row.get(name_as_asked(match[1]), match[0]), text)
