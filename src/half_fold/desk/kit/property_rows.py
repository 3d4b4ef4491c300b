"""Rows made from properties: what can be set of a thing is shown and edited without a row by hand."""

from typing import Any

from msgspec.structs import replace

from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import block_named, with_thing_anywhere
from half_fold.core.spread.settable.headings import rests_at
from half_fold.core.spread.settable.type_properties import shown_in
from half_fold.desk.kit.rows import Edit, Row
from half_fold.desk.workpiece import Workpiece


def property_row(
    publication: Publication, thing: Any, of: Property[Any], take: Edit, working: str = "", note: str = ""
) -> Row:
    """The row of one property of a thing; ``working`` stands under it instead of the property's own note."""
    choices = of.choices_in(publication, thing)
    inks = publication if of.kind in ("ink", "paint") else None
    shown, typed = of.shown(publication, thing), of.typed(thing)
    return Row(of.label, shown, working or of.note, note, typed, take, choices, inks=inks, also=of.also)


def block_row(session: Workpiece, block: Block, of: Property[Block], working: str = "", note: str = "") -> Row:
    """The row of one property of a block; what is not at rest can be put back, and type shows what its role says."""
    row = property_row(session.publication, block, of, _edit(session, block.id, of), working, note)
    rests = rests_at(of, block)
    shown, said = shown_in(session.publication, block, of.key)
    if shown:
        row = replace(row, value=shown)
    if said:
        row = replace(row, working=f"the role says {said}")
    row = replace(row, hint=of.note, working="" if row.working == of.note else row.working)
    if rests is None:
        return row
    return replace(row, back=lambda: _edit(session, block.id, of)(rests))


def with_property(publication: Publication, name: str, of: Property[Block], text: str) -> Publication:
    """The job with a property of a block as typed; the same where it is so already. Problem where it cannot be."""
    block = block_named(publication, name)
    if text.strip() == of.typed(block):
        return publication
    return with_thing_anywhere(publication, of.set(publication, block, text))


def _edit(session: Workpiece, name: str, of: Property[Block]) -> Edit:
    return lambda text: session.edit(lambda p: with_property(p, name, of, text), of.label.lower())
