"""Rules about the cover alone: its spine and its masthead."""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from msgspec import structs

from half_fold.core.brief.wrap import has_cover
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, FOLD, REFUSED, Finding, Fix
from half_fold.core.checks.text_rules import lacking, missing_letters
from half_fold.core.cover.edits import set_cover
from half_fold.core.cover.flat import cover_flat
from half_fold.core.cover.sides import LEFT, RIGHT, SPREAD, edit_side, front_page, page_name, side_of
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.cover.template import barcode_place
from half_fold.core.drawing.marks import Glyphs
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import HoldsBarcode, HoldsDisplay, blocks_of
from half_fold.core.spread.cards import card_marks
from half_fold.core.spread.edits import set_holds
from half_fold.core.spread.evened import ink_of
from half_fold.core.spread.frames import block_box, hull_of

NEAR = 0.02 * MM
MASTHEAD = "masthead"
NARROW, MIDDLE = 0.5, 0.12  # of the width of a front: a column, and what stands in its middle
IN_VIEW = 0.25
RACKED = ("magazine", "catalogue")


def spine_text_fits(context: Context) -> Iterator[Finding]:
    """Spine text wider than what the folds leave clear, or longer than the spine."""
    publication = context.publication
    if not has_cover(publication):
        return
    text = spine_text(context.setter.composer, publication)
    wide, long = text.wide - text.clear, text.long - text.room
    if text.absent or max(wide, long) <= NEAR:
        return
    how = f"{figure(text.wide / MM)} mm wide where {figure(text.clear / MM)} mm stay clear"
    if wide <= NEAR:
        how = f"{figure(long / MM)} mm longer than the spine between its margins"
    why = "The folds wander by that much; letters would turn over onto the front or the back."
    solved = f" ({figure(text.solved, 1)} pt)" if text.solved > 0 else ""
    fix = Fix(f"Size it to its clearance{solved}", lambda p: set_cover(p, "spine_size", ""))
    yield Finding("spine text", FOLD, f"The spine text is {how}", why, True, fix=fix, side="outside", place="spine")


def spine_letters(context: Context) -> Iterator[Finding]:
    """Letters of the spine's words that the face has not got."""
    if not has_cover(context.publication):
        return
    runs = spine_text(context.setter.composer, context.publication).marks
    letters = list(dict.fromkeys(letter for run in runs for letter in lacking(run)))
    if letters:
        found = missing_letters(context.publication, runs[0].face, letters, 0, "")
        yield replace(found, side="outside", place="spine")


def card_letters(context: Context) -> Iterator[Finding]:
    """Letters of an insert's words that the face has not got."""
    for insert in context.publication.inserts:
        told = context.setter.composer, context.publication, insert
        marks = (mark for verso in (False, True) for mark in card_marks(*told, verso=verso))
        runs = [mark for mark in marks if isinstance(mark, Glyphs)]
        letters = list(dict.fromkeys(letter for run in runs for letter in lacking(run)))
        if letters:
            yield replace(missing_letters(context.publication, runs[0].face, letters, 0, ""), place=insert.name)


def masthead_in_view(context: Context) -> Iterator[Finding]:
    """A masthead below the top quarter of the front of what stands in racks, which show no more than that."""
    publication = context.publication
    if not has_cover(publication) or publication.kind not in RACKED:
        return
    shown = cover_flat(publication).front.height * IN_VIEW
    heads = {b.id for b in blocks_of(publication.cover.front) if _is_masthead(b.holds)}
    marks = context.setter.spread(side_of(publication, "outside"), SPREAD).marks if heads else ()
    for head in sorted(heads):
        ink = ink_of([mark for mark in marks if isinstance(mark, Glyphs) and mark.block == head])
        if ink.bottom > shown + NEAR:
            below = f"{figure((ink.bottom - shown) / MM)} mm below the top quarter"
            why = "A rack shows the top quarter and no more; draw its block up, or give it less height."
            yield Finding(
                "masthead",
                ACCIDENT,
                f"The masthead reaches {below}",
                why,
                False,
                front_page(publication),
                head,
                ink,
                side="outside",
                place=page_name(publication, "outside", front_page(publication)),
            )


def _is_masthead(holds: object) -> bool:
    return isinstance(holds, HoldsDisplay) and any(p.role == MASTHEAD for p in holds.paragraphs)


def barcode_kept_clear(context: Context) -> Iterator[Finding]:
    """Words or a code of our own where the printer lays a barcode itself."""
    publication = context.publication
    sheet = publication.printer
    if sheet is None or not sheet.barcode or not has_cover(publication):
        return
    side = side_of(publication, "outside")
    place = barcode_place(publication, cover_flat(publication))
    page = LEFT + RIGHT - front_page(publication)
    for block in blocks_of(publication.cover.back):
        if not isinstance(block.holds, HoldsDisplay | HoldsBarcode):
            continue
        box = hull_of(side, page, block)
        if box.meets(place):
            why = f"{sheet.name} lays a barcode there itself and would cover it; move it, or draw it in."
            message = "It stands where the printer lays a barcode"
            where = page_name(publication, "outside", page)
            yield Finding(
                "barcode place", REFUSED, message, why, False, page, block.id, box, side="outside", place=where
            )


def set_against_its_side(context: Context) -> Iterator[Finding]:
    """Cover lines flush to the side that they do not stand at: left-set in the right column, or the reverse."""
    publication = context.publication
    if not has_cover(publication):
        return
    side, number = side_of(publication, "outside"), front_page(publication)
    front = cover_flat(publication).front
    for block in side.pages[number - 1].blocks:
        holds = block.holds
        if not isinstance(holds, HoldsDisplay) or holds.lies != "straight" or holds.even or block.angle:
            continue
        box = block_box(side, number, block)
        other = _other_side(box, front)
        if box.width > front.width * NARROW or other not in ("left", "right") or holds.side != other:
            continue
        at = "left" if other == "right" else "right"
        message = f"Lines at the {at} of the front are set flush {other}"
        why = f"A column of cover lines has its common edge at the {at}, where the trim is; the other edge is ragged."
        flush = partial(set_holds, block=block.id, holds=structs.replace(holds, side=at))
        fix = Fix(f"Set them flush {at}", partial(edit_side, side="outside", edit=flush))
        place = page_name(publication, "outside", number)
        yield Finding(
            "set against its side", ACCIDENT, message, why, False, number, block.id, box, fix, "outside", place
        )


def _other_side(box: Rect, front: Rect) -> str:
    """The side that a box does not stand at; nothing where it stands in the middle."""
    off = (box.centre[0] - front.centre[0]) / front.width
    return "" if abs(off) < MIDDLE else "left" if off > 0 else "right"
