"""Rules about goods: rows that are laid and no longer in the table, and rows that were left out."""

from collections.abc import Iterator

from half_fold.core.catalogue.laying import laid_rows, rows_to_lay
from half_fold.core.catalogue.table import format_first_names
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, REFUSED, Finding
from half_fold.core.measure.length import counted
from half_fold.core.spread.setting.goods import rows_of


def goods_gone(context: Context) -> Iterator[Finding]:
    """A thing that is filled in from a row that the table has no longer; told once a row."""
    rows = rows_of(context.publication.goods) if context.publication.goods is not None else {}
    told: set[str] = set()
    for number, block, box in context.blocks:
        if block.row and block.row not in rows and block.row not in told:
            told.add(block.row)
            message = f"“{block.row}” is not in the table of goods any more"
            why = "What it says cannot be filled in; take it off the page, or choose another row."
            yield Finding("goods gone", REFUSED, message, why, True, number, block.id, box)


def goods_left_out(context: Context) -> Iterator[Finding]:
    """Rows of the table that lie on no page, where others do."""
    publication = context.publication
    if context.is_side or publication.goods is None or not laid_rows(publication):
        return
    if left := rows_to_lay(publication):
        message = f"{counted(len(left), 'row')} of the goods on no page: {format_first_names(left)}"
        yield Finding("goods left out", ACCIDENT, message, "Lay them, or take them out of the table.")
