"""Rules about the cover alone: its spine and its masthead."""

from collections.abc import Iterator
from functools import partial

from msgspec import structs
from msgspec.structs import replace

from half_fold.core.apart.covers import front_page, left_over
from half_fold.core.apart.pair import LEFT, RIGHT, SPREAD
from half_fold.core.apart.sides import edit_side, page_name, side_of
from half_fold.core.brief.properties import job_kind
from half_fold.core.brief.wrap import has_cover
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, FOLD, REFUSED, UNREAD, Finding, Fix
from half_fold.core.checks.letter_rules import lacking, missing_letters
from half_fold.core.cover.flat import IN_VIEW, cover_flat
from half_fold.core.cover.masthead import is_masthead, masthead_of
from half_fold.core.cover.properties import set_spine
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.cover.template import barcode_area
from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsPicture,
    Publication,
    blocks_of,
)
from half_fold.core.publication.surgery import role_in
from half_fold.core.spread.edits.edits import set_holds
from half_fold.core.spread.setting.cards import card_parts
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.where.frames import block_box, hull_of
from half_fold.core.typesetting.faces.directions import as_read

NEAR = 0.02 * MM
CAPITALS = 0.7  # ems: how high capitals are
NARROW, MIDDLE = 0.5, 0.12  # of the width of a front: a column, and what stands in its middle
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
    how = f"{context.said(text.wide)} wide where {context.said(text.clear)} stay clear"
    if wide <= NEAR:
        how = f"{context.said(long)} longer than the spine between its margins"
    why = "The folds wander by that much; letters would turn over onto the front or the back."
    solved = f" ({figure(text.solved, 1)} pt)" if text.solved > 0 else ""
    fix = Fix(f"Size it to its clearance{solved}", partial(set_spine, key="size", typed=""))
    yield Finding("spine text", FOLD, f"The spine text is {how}", why, True, fix=fix, side="outside", place="spine")


def spine_letters(context: Context) -> Iterator[Finding]:
    """Letters of the spine's words that the face has not got."""
    if not has_cover(context.publication):
        return
    marks = leaves(spine_text(context.setter.composer, context.publication).marks)
    runs = [mark for mark in marks if isinstance(mark, Glyphs)]
    letters = list(dict.fromkeys(letter for run in runs for letter in lacking(run)))
    if letters:
        found = missing_letters(context.publication, runs[0].face, letters, 0, "")
        yield replace(found, side="outside", place="spine")


def card_letters(context: Context) -> Iterator[Finding]:
    """Letters of an insert's words that the face has not got."""
    for insert in context.publication.inserts:
        told = context.setter.composer, context.publication, insert
        marks = (mark for verso in (False, True) for mark in card_parts(*told, verso=verso))
        runs = [mark for mark in marks if isinstance(mark, Glyphs)]
        letters = list(dict.fromkeys(letter for run in runs for letter in lacking(run)))
        if letters:
            yield replace(missing_letters(context.publication, runs[0].face, letters, 0, ""), place=insert.name)


def masthead_in_view(context: Context) -> Iterator[Finding]:
    """A masthead below the top quarter of the front of what stands in racks, which show no more than that."""
    publication = context.publication
    if not has_cover(publication) or job_kind(publication) not in RACKED:
        return
    shown = cover_flat(publication).front.height * IN_VIEW
    heads = {b.id for b in blocks_of(publication.cover.front) if is_masthead(b)}
    marks = context.setter.spread(side_of(publication, "outside"), SPREAD).marks if heads else ()
    drawn = {b.id: b for b in blocks_of(publication.cover.front) if isinstance(b.holds, HoldsPicture)}
    for head in sorted(heads):
        ink = ink_of([mark for mark in marks if isinstance(mark, Glyphs) and mark.origin.block == head])
        if head in drawn:
            ink = hull_of(side_of(publication, "outside"), front_page(publication), drawn[head])
        if ink.bottom > shown + NEAR:
            below = f"{context.said(ink.bottom - shown)} below the top quarter"
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


def masthead_is_largest(context: Context) -> Iterator[Finding]:
    """A line on the front of what stands in racks that is set larger than the masthead."""
    publication = context.publication
    if not has_cover(publication) or job_kind(publication) not in RACKED:
        return
    heads = {b.id: b for b in blocks_of(publication.cover.front) if is_masthead(b)}
    front = {b.id for b in blocks_of(publication.cover.front)}
    runs = [m for m in leaves(context.setter.spread(side_of(publication, "outside"), SPREAD).marks)
            if isinstance(m, Glyphs) and m.origin.block in front] if heads else []  # fmt: skip
    drawn = [_as_type(publication, b) for b in heads.values() if isinstance(b.holds, HoldsPicture)]
    name = max((*drawn, *(run.size for run in runs if run.origin.block in heads)), default=0.0)
    larger = max((run for run in runs if run.origin.block not in heads), key=lambda run: run.size, default=None)
    if larger is not None and name and larger.size > name + 0.01:
        message = f"“{as_read(larger.texts).strip()}” is set larger than the masthead"
        why = f"{figure(larger.size, 1)} pt beside {figure(name, 1)} pt: the name is what a copy is looked for by."
        number = front_page(publication)
        where = page_name(publication, "outside", number)
        yield Finding(
            "masthead",
            ACCIDENT,
            message,
            why,
            False,
            number,
            larger.origin.block,
            ink_of([larger]),
            side="outside",
            place=where,
        )


def _as_type(publication: Publication, block: Block) -> float:
    """The size of type whose capitals are as high as a drawn name, in points."""
    return hull_of(side_of(publication, "outside"), front_page(publication), block).height / CAPITALS


def masthead_hidden(context: Context) -> Iterator[Finding]:
    """A name that cannot be read any more for what is in front of it."""
    publication = context.publication
    if context.pictures is None or not has_cover(publication):
        return
    name = masthead_of(surface_of_side(publication, context.pictures, "outside", context.setter))
    if name is None or name.verdict != "not to be read":
        return
    worst, number = name.worst, front_page(publication)
    whole, most = figure(100 * name.hidden, 0), figure(100 * worst.hidden, 0)
    message = f"{whole} % of the masthead is hidden, of “{worst.text}” {most} %"
    why = (
        "The name can no longer be read. At the cover, Z shows it letter by letter, with the least move that mends it."
    )
    yield Finding(
        "masthead hidden", UNREAD, message, why, False, number, name.block, worst.area, side="outside",
        place=page_name(publication, "outside", number),
    )  # fmt: skip


def barcode_kept_clear(context: Context) -> Iterator[Finding]:
    """Words or a code of our own where the printer lays a barcode itself."""
    publication = context.publication
    sheet = publication.printer
    if sheet is None or not sheet.barcode or not has_cover(publication):
        return
    side = side_of(publication, "outside")
    place = barcode_area(publication, cover_flat(publication))
    page = LEFT + RIGHT - front_page(publication)
    for block in blocks_of(publication.cover.back):
        if not isinstance(block.holds, HoldsDisplay | HoldsBarcode | HoldsCode):
            continue
        box = hull_of(side, page, block)
        if box.meets(place):
            why = f"{sheet.name} lays a barcode there itself and would cover it; move it, or draw it in."
            message = "It stands where the printer lays a barcode"
            where = page_name(publication, "outside", page)
            yield Finding(
                "barcode place", REFUSED, message, why, False, page, block.id, box, side="outside", place=where
            )


def left_over_things(context: Context) -> Iterator[Finding]:
    """Things on a part that the cover has not got, as it is bound now."""
    for name, count in left_over(context.publication):
        message = f"{'A thing lies' if count == 1 else f'{count} things lie'} on the {name}, which this job has not got"
        why = "Nothing of that is made; bind it so that there is one, or leave it on purpose."
        yield Finding("on no part", ACCIDENT, message, why)


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
        if box.width > front.width * NARROW or not other or _flush(publication, holds) != other:
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


def _flush(publication: Publication, holds: HoldsDisplay) -> str:
    """The side that all its words are flush to, whether they say so or their roles do; '' where it is not one."""
    told = {holds.side or role_in(publication, holds, paragraph.role).align for paragraph in holds.paragraphs}
    sides = {"left" if each == "justified" else each for each in told}
    return sides.pop() if len(sides) == 1 and sides <= {"left", "right"} else ""


def _other_side(box: Rect, front: Rect) -> str:
    """The side that a box does not stand at; nothing where it stands in the middle."""
    off = (box.centre[0] - front.centre[0]) / front.width
    return "" if abs(off) < MIDDLE else "left" if off > 0 else "right"
