"""The working of a block: all that can be said and set of it, under headings that fold, in the order of work."""

from collections.abc import Callable, Sequence

from half_fold.core.numbers.blocks import block_numbers
from half_fold.core.publication.kinds import kind_of
from half_fold.core.publication.records import Block
from half_fold.core.publication.surgery import page_of_block
from half_fold.core.spread.settable import headings
from half_fold.desk.kit.rows import Card, Curve, Edit, Row, RowSection, row_of
from half_fold.desk.stations.spreads.rows.edge_rows import place_rows
from half_fold.desk.stations.spreads.rows.holds_rows import HoldsRows
from half_fold.desk.stations.spreads.rows.says import says
from half_fold.desk.workpiece import Workpiece

# What is wanted most of each kind, and stands open until it is folded.
OPEN: dict[str, tuple[str, ...]] = {
    "picture": (headings.INSIDE, headings.CAPTION),
    "story": (headings.STORY, headings.PLACE),
    "words": (headings.TYPE, headings.INK),
    "panel": (headings.INK, headings.SHAPE),
    "rule": (headings.LINE, headings.INK),
    "barcode": (headings.CODE, headings.INK),
    "code": (headings.CODE, headings.INK),
    "kept free": (headings.PLACE,),
}
# Worked numbers that are not of the place, by their names.
_NUMBERS = {
    "Resolution": headings.INSIDE,
    "Cropped away": headings.INSIDE,
    "Printed width of the whole picture": headings.INSIDE,
    "From the fold": headings.FOLD,
}
PART = "Part "  # begins the heading of a part that is treated by itself, which is there to be set
Items = list[Row | Card | Curve]


def block_sections(
    session: Workpiece, block: Block, measure: Callable[[str], Edit], more: dict[str, Items]
) -> list[RowSection]:
    """A section of what the block is, and one for each heading that has anything under it.

    ``measure`` gives what sets a size or a place by its name; ``more`` is what else stands under headings.
    """
    rows = HoldsRows(session)
    kind, (title, about) = kind_of(block.holds).name, rows.titled(block)
    under: dict[str, Items] = {heading: [] for heading in headings.ORDER}
    for number in block_numbers(session.publication, block.id):
        under[_NUMBERS.get(number.name, headings.PLACE)].append(row_of(number, measure))
    under[headings.PLACE] += place_rows(session, page_of_block(session.publication, block.id)[0] + 1, block)
    for heading, items in rows.under(block):
        under[heading] += items
    for heading, added in more.items():
        under.setdefault(heading, []).extend(added)
    head = RowSection(title, about, kind=kind)
    return [head, *folding(under, OPEN.get(kind, ()))]


def folding(under: dict[str, Items], opened: Sequence[str]) -> list[RowSection]:
    """A section that folds for each heading that has anything under it; some are open to begin with."""
    return [
        RowSection(heading, "", items, says(heading, items), heading in opened or heading.startswith(PART))
        for heading, items in under.items()
        if items
    ]
