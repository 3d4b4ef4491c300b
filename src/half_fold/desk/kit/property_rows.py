"""Rows made from properties: what can be set of a thing is shown and edited without a row by hand."""

from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import block_named, with_block_anywhere
from half_fold.desk.kit.rows import Edit, Row
from half_fold.desk.workpiece import Workpiece


def block_row(session: Workpiece, block: Block, of: Property[Block], working: str = "", note: str = "") -> Row:
    """The row of one property of a block; ``working`` stands under it instead of the property's own note."""
    publication = session.publication
    shown, typed = of.shown(publication, block), of.typed(block)
    choices = of.choices_in(publication)
    inks = publication if of.kind in ("ink", "paint") else None
    return Row(of.label, shown, working or of.note, note, typed, _edit(session, block.id, of), choices, inks=inks)


def _edit(session: Workpiece, name: str, of: Property[Block]) -> Edit:
    def change(publication: Publication, text: str) -> Publication:
        block = block_named(publication, name)
        if text.strip() == of.typed(block):
            return publication
        return with_block_anywhere(publication, of.set(publication, block, text))

    return lambda text: session.edit(lambda p: change(p, text), of.label.lower())
