"""Rows made from properties: what can be set of a thing is shown and edited without a row by hand."""

from functools import partial
from typing import Any

from msgspec.structs import replace

from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import in_unit
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Block, Publication, Role
from half_fold.core.spread.settable.headings import rests_at
from half_fold.core.spread.settable.light_properties import AS_ITS_LOOK, SPANS, lit_in
from half_fold.core.spread.settable.together import with_property
from half_fold.core.spread.settable.type_properties import first_role, shown_in
from half_fold.core.typesetting.faces.faces import face_key, style_in
from half_fold.core.typesetting.sheet.word_properties import Spoken
from half_fold.desk.kit.rows import Edit, Row
from half_fold.desk.workpiece import Workpiece


def property_row(
    publication: Publication, thing: Any, of: Property[Any], take: Edit, working: str = "", note: str = ""
) -> Row:
    """The row of one property of a thing; ``working`` stands under it instead of the property's own note."""
    choices = of.choices_in(publication, thing)
    inks = publication if of.kind in ("ink", "paint") else None
    shown, typed = of.shown(publication, thing), of.typed(thing)
    faces = partial(_face_shown, publication, thing, of) if of.key in ("family", "style") else None
    return Row(of.label, shown, working or of.note, note, typed, take, choices, inks=inks, also=of.also, faces=faces)


def _face_shown(publication: Publication, thing: Block | Role | Spoken, of: Property[Any], value: str) -> str:
    """The key of the face that a family or a style is shown in; "" where nothing is chosen."""
    if not value:
        return ""
    if of.key == "style":
        within = first_role(publication, thing) if isinstance(thing, Block) else thing
        return face_key(within.family, value)
    return face_key(value, style_in(value))


def block_row(session: Workpiece, block: Block, of: Property[Block], working: str = "", note: str = "") -> Row:
    """The row of one property of a block; what is not at rest can be put back, and type shows what its role says."""
    row = property_row(session.publication, block, of, _edit(session, block.id, of), working, note)
    rests = rests_at(of, block)
    shown, said = shown_in(session.publication, block, of.key)
    if shown:
        row = replace(row, value=shown)
    lit, at = lit_in(session.publication, block, of.key)
    if lit:
        row = replace(row, value=lit)
    elif of.none == AS_ITS_LOOK and row.value == of.none:
        row = replace(row, value="none")
    if of.key in SPANS and at is not None:
        row = _lit_row(session, block, of, row, at)
    if said:
        row = replace(row, working=f"the role says {said}")
    return put_back(row, row.typed if rests is None else rests, of.note)


def put_back(row: Row, rests: str, note: str) -> Row:
    """A row that can be put back to what it rests at, where it is not there; its note is said under the pointer."""
    row = replace(row, hint=note, working="" if row.working == note else row.working)
    edit = row.edit
    return row if row.typed == rests or edit is None else replace(row, back=lambda: edit(rests))


def _lit_row(session: Workpiece, block: Block, of: Property[Block], row: Row, at: float) -> Row:
    """A row of light that is dragged over, in points or in the job's own unit."""
    least, most = SPANS[of.key]
    if of.kind != "length" or of.unit:
        return dragged(session, block, of, row, (least, most), at)
    span = round(in_unit(least * MM, session.unit), 4), round(in_unit(most * MM, session.unit), 4)
    return dragged(session, block, of, row, span, in_unit(at, session.unit))


def dragged(
    session: Workpiece, block: Block, of: Property[Block], row: Row, span: tuple[float, float], at: float | None = None
) -> Row:
    """The row of a number that is sought by trying: the block follows while it is dragged, and a drag is one edit."""

    def passing(text: str) -> bool:
        return session.edit(lambda p: with_property(p, block.id, of, text), of.label.lower(), f"{of.key} of {block.id}")

    def done(text: str) -> bool:
        taken = passing(text)
        session.history.pause()
        return taken

    return replace(row, edit=done, span=span, passing=passing, stands=at)


def _edit(session: Workpiece, name: str, of: Property[Block]) -> Edit:
    return lambda text: session.edit(lambda p: with_property(p, name, of, text), of.label.lower())
