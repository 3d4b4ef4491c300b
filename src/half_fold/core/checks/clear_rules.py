"""Rules about what of a picture is kept clear: it is not cut, not in the fold, and nothing stands on it."""

from collections.abc import Iterator
from functools import partial

from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import FOLD, TRIMMED, UNREAD, Finding, Fix
from half_fold.core.checks.layer_rules import words_of
from half_fold.core.drawing.marks import Glyphs, Origin, PictureMark, leaves
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import Block, HoldsPicture, Publication
from half_fold.core.publication.surgery import block_named, picture_of
from half_fold.core.spread.framing.kept_clear import (
    areas_on_page,
    beyond_trim,
    fold_band,
    is_seen_whole,
    move_clear,
    overlap,
)
from half_fold.core.spread.settable.properties import with_parted
from half_fold.core.spread.where.frames import blocks_on

WHOLE = 1.0  # square points that may be lost to rounding


def _clear(context: Context, spread: Spread) -> Iterator[tuple[int, Block, list[Rect]]]:
    for number, _, block in blocks_on(context.publication, spread):
        areas = areas_on_page(context.publication, number, block)
        if areas:
            yield number, block, areas


def _file(context: Context, block: Block) -> str:
    assert isinstance(block.holds, HoldsPicture)
    return picture_of(context.publication, block.holds.picture).file


def _moved(context: Context, number: int, block: Block, others: list[Rect]) -> Fix | None:
    """The picture moved inside its block, where that helps."""
    if move_clear(context.publication, number, block, others) is None:
        return None
    return Fix("Move the picture in its block", partial(_again, number=number, block=block.id, others=others))


def _again(publication: Publication, number: int, block: str, others: list[Rect]) -> Publication:
    return move_clear(publication, number, block_named(publication, block), others) or publication


def clear_of_cuts(context: Context) -> Iterator[Finding]:
    """What is kept clear of a picture and is cut by its block, or by the trim."""
    for spread, _ in context.lists:
        trim = beyond_trim(context.publication, spread)
        for number, block, areas in _clear(context, spread):
            where = number, block.id, context.box_of[block.id]
            if not is_seen_whole(context.publication, number, block):
                message = f"What is kept clear of “{_file(context, block)}” is larger than its block shows"
                why = "Give the block more room, draw the picture less close, or keep less of it clear."
                yield Finding("kept clear, cut", TRIMMED, message, why, False, *where)
            elif overlap(areas, trim) > WHOLE:
                message = f"What is kept clear of “{_file(context, block)}” is trimmed off"
                why = "It reaches over the edge of the page, where the sheet is cut."
                fix = _moved(context, number, block, trim)
                yield Finding("kept clear, cut", TRIMMED, message, why, False, *where, fix)


def clear_of_the_fold(context: Context) -> Iterator[Finding]:
    """What is kept clear of a picture and lies in the fold."""
    for spread, _ in context.lists:
        band = fold_band(context.publication, spread)
        if band is None:
            continue
        for number, block, areas in _clear(context, spread):
            is_parted = isinstance(block.holds, HoldsPicture) and block.holds.parted
            if is_parted or overlap(areas, [band]) <= WHOLE:
                continue
            message = f"What is kept clear of “{_file(context, block)}” lies in the fold"
            why = "It is bent there, and partly lost; parted by the fold nothing of it is lost, but it is bent still."
            fix = _moved(context, number, block, [band])
            if fix is None and band.width:
                fix = Fix("Part it by what the fold takes", partial(with_parted, block=block.id))
            yield Finding(
                "kept clear, in the fold", FOLD, message, why, False, number, block.id, context.box_of[block.id], fix
            )


def clear_of_words(context: Context) -> Iterator[Finding]:
    """What is kept clear of a picture and has words standing on it."""
    for spread, marks in context.lists:
        clear = {block.id: (number, block, areas) for number, block, areas in _clear(context, spread)}
        if not clear:
            continue
        words: list[tuple[Origin, Rect]] = []
        for mark in reversed(list(leaves(marks))):
            if isinstance(mark, Glyphs) and (box := words_of(mark)) is not None:
                words.append((mark.origin, box))
            if not isinstance(mark, PictureMark) or mark.origin.block not in clear:
                continue
            number, block, areas = clear.pop(mark.origin.block)
            on = [box for origin, box in words if origin.block != block.id and overlap(areas, [box]) > WHOLE]
            if on:
                message = f"Words stand on what is kept clear of “{_file(context, block)}”"
                why = "They hide a face or a thing looked at; move them, or the picture in its block."
                fix = _moved(context, number, block, on)
                yield Finding(
                    "kept clear, covered", UNREAD, message, why, False, number, block.id, context.box_of[block.id], fix
                )
