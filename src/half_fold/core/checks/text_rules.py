"""Rules about text: what has no place, what the fold takes, what the face lacks, what the screen breaks up."""

import re
from collections.abc import Iterator
from functools import partial

from msgspec.structs import replace

from half_fold.core.brief.allowances import fold_loss
from half_fold.core.checks.context import Context, place_of_run
from half_fold.core.checks.finding import ACCIDENT, FOLD, REFUSED, TRIMMED, UNREAD, Finding, Fix
from half_fold.core.drawing.marks import Origin
from half_fold.core.drawing.tone import Tone, tones
from half_fold.core.grid.frame import PageFrame
from half_fold.core.grid.stops import Edge
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted, figure, format_length, length
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.sections import folio_of
from half_fold.core.plan.spreads import on_right, spread_of
from half_fold.core.publication.kinds import text_of
from half_fold.core.publication.places import Stop
from half_fold.core.publication.records import (
    HoldsDisplay,
    Paragraph,
    Publication,
)
from half_fold.core.publication.surgery import master_of, page_of_block, role_named
from half_fold.core.spread.edits import edits
from half_fold.core.spread.edits.placing import continue_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.contents import entries_of, follow_contents, headings, is_stale
from half_fold.core.spread.setting.display_text import display_marks, fitting_size
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.setting.furniture import PlacedPiece
from half_fold.core.spread.setting.threads import thread
from half_fold.core.spread.where.frames import block_box, page_frame_of, spread_area, turn_of
from half_fold.core.spread.where.reaching import set_stop
from half_fold.core.typesetting.faces.directions import as_read
from half_fold.core.typesetting.flow.filler import is_filler
from half_fold.core.typesetting.marks.line_marks import is_overfull
from half_fold.core.typesetting.sheet.sheet import set_role
from half_fold.core.typesetting.texts.spelling import misspelled

SMALL_TEXT = 9.0
SMALL_IN_INKS, SCREENED = 8.0, 0.04  # points; the share of an ink that shows as dots
MOST_WORDS = 6  # that are named
_FILLED = re.compile(r"\{[^{}]*\}")


def overset_story(context: Context) -> Iterator[Finding]:
    """A story longer than its blocks: what is over is not printed at all."""
    publication = context.publication
    for story, flow in context.flows:
        if not flow.columns or not flow.over_lines:
            continue
        number, block = thread(publication, story.id)[-1]
        yield Finding(
            "overset",
            UNREAD,
            f"“{story.title}” runs {counted(flow.over_lines, 'line')} over",
            f"{counted(flow.over_words, 'word')} without a block to stand in would not be printed.",
            True,
            number,
            block.id,
            block_box(publication, number, block),
            None if context.is_side else Fix("Go on over the next free pages", partial(_continue, story=story.id)),
        )


def stale_contents(context: Context) -> Iterator[Finding]:
    """Contents that say another page than that on which a story or a chapter begins."""
    publication, threads = context.publication, context.setter.threads
    lists = [(story, flow) for story, flow in context.flows if story.lists]
    found = headings(publication, threads) if lists else []
    for story, flow in lists:
        for line in entries_of(publication, story, found):
            if not is_stale(publication, line):
                continue
            chunk = next((c for c in flow.chunks if c.lines.paragraph is story.paragraphs[line.paragraph]), None)
            folio = folio_of(publication, line.heading.page)
            yield Finding(
                "contents",
                ACCIDENT,
                f"The contents say {line.said} for “{line.heading.words}”, which begins on page {folio}",
                "A reader turns to the wrong page.",
                False,
                flow.columns[chunk.column].page if chunk is not None else thread(publication, story.id)[0][0],
                flow.columns[chunk.column].block if chunk is not None else "",
                None,
                Fix("Bring the contents up to date", _contents_followed),
            )


def _contents_followed(publication: Publication) -> Publication:
    return follow_contents(publication, Setter().threads)


def _continue(publication: Publication, story: str) -> Publication:
    return continue_story(publication, Setter(), story)


def misspelled_words(context: Context) -> Iterator[Finding]:
    """Words that no dictionary knows, of a job whose spelling is to be looked at; told once a story or block."""
    publication = context.publication
    if not publication.spelled:
        return
    for story, flow in context.flows:
        context.go_on()
        words = _unknown(story.paragraphs, story.language)
        if words:
            column = flow.columns[0]
            yield _misspelled(f"of “{story.title}”", words, column.page, column.block, column.rect)
    for number, block, box in context.blocks:
        if isinstance(block.holds, HoldsDisplay):
            words = _unknown(block.holds.paragraphs, publication.language)
            if words:
                yield _misspelled("here", words, number, block.id, box)


def _unknown(paragraphs: tuple[Paragraph, ...], language: str) -> list[str]:
    """Words that no dictionary knows, each once; what is filled in later is none."""
    found: dict[str, None] = {}
    for paragraph in paragraphs:
        text, asked = paragraph.text, [each.span() for each in _FILLED.finditer(paragraph.text)]
        for start, end in misspelled(paragraph, language):
            if not any(a <= start < b for a, b in asked):
                found[text[start:end]] = None
    return list(found)


def _misspelled(where: str, words: list[str], page: int, block: str, box: Rect) -> Finding:
    said = ", ".join(f"“{word}”" for word in words[:MOST_WORDS])
    more = f" and {len(words) - MOST_WORDS} more" if len(words) > MOST_WORDS else ""
    message = f"No dictionary knows {counted(len(words), 'word')} {where}: {said}{more}"
    why = "A slip of the keys, or a name: the story drawer marks each, and says what may have been meant."
    return Finding("spelling", ACCIDENT, message, why, False, page, block, box)


def too_wide(context: Context) -> Iterator[Finding]:
    """A word wider than its column, which runs out of its block."""
    for story, flow in context.flows:
        for chunk in flow.chunks:
            wide = next((n for n in range(chunk.start, chunk.end) if is_overfull(chunk.lines, n)), None)
            if wide is not None:
                column = flow.columns[chunk.column]
                why = "No place was found to break it; a wider column or a smaller size would help."
                message = f"A word in “{story.title}” is wider than its column"
                yield Finding("too wide", UNREAD, message, why, True, column.page, column.block, column.rect)
                break


def too_wide_words(context: Context) -> Iterator[Finding]:
    """A word of words that stand by themselves that is wider than its block: it runs out of it, or off the sheet."""
    for number, block, box in context.blocks:
        if not isinstance(block.holds, HoldsDisplay):
            continue
        upright, composer = block_box(context.publication, number, block), context.setter.composer
        wide = display_marks(composer, context.publication, block, upright).wide
        if wide is None:
            continue
        ink, turn = ink_of(list(wide.marks)), turn_of(context.publication, number, block)
        trim = spread_area(context.publication, spread_of(context.publication, number))
        is_off = not trim.grown(0.1).takes_in(ink if turn is None else turn.around(ink))
        said = as_read(tuple(text for mark in wide.marks for text in mark.texts)).strip()
        message = f"“{said[:60]}” is wider than its block{', and runs off the page' if is_off else ''}"
        why = "No place was found to break it; a smaller size or a wider block would hold it."
        size = fitting_size(composer, context.publication, block, upright)
        fix = Fix(f"Set it at {figure(size)} pt", partial(_at_size, block=block.id, size=size)) if size else None
        kind = TRIMMED if is_off else ACCIDENT
        yield Finding("too wide", kind, message, why, is_off, number, block.id, box, fix)


def overset_display(context: Context) -> Iterator[Finding]:
    """Display text that does not fit its block."""
    for number, block, box in context.blocks:
        if not isinstance(block.holds, HoldsDisplay):
            continue
        upright = block_box(context.publication, number, block)
        over = display_marks(context.setter.composer, context.publication, block, upright).over_lines
        if over:
            size = fitting_size(context.setter.composer, context.publication, block, upright)
            fix = Fix(f"Set it at {figure(size)} pt", partial(_at_size, block=block.id, size=size)) if size else None
            straight = block.holds.lies == "straight"
            why = (
                "Lines beyond the block's foot are left out." if straight else "They run on past the ends of their way."
            )
            yield Finding(
                "overset words",
                UNREAD,
                f"Words run {counted(over, 'line')} over their block",
                why,
                True,
                number,
                block.id,
                box,
                fix,
            )


def _at_size(publication: Publication, block: str, size: float) -> Publication:
    _, _, found = page_of_block(publication, block)
    assert isinstance(found.holds, HoldsDisplay)
    return edits.set_holds(publication, block, replace(found.holds, size=length(f"{size:g}pt")))


def text_at_fold(context: Context) -> Iterator[Finding]:
    """Letters across the fold, or within the width the binding swallows."""
    loss = fold_loss(context.publication).value * MM
    told: set[str] = set()
    for spread, run in context.runs:
        if run.origin.block in told or run.origin.block not in context.page_of or len(spread.numbers) < 2:
            continue
        left, right = float(run.xs[0]), float(run.xs[-1]) + run.size
        if left < loss and right > -loss:  # near it: look at the letters themselves
            ink = ink_of([run])
            left, right = ink.left, ink.right
        if left >= loss or right <= -loss or not (right > -loss and left < loss):
            continue
        told.add(run.origin.block)
        index, _, block = page_of_block(context.publication, run.origin.block)
        crosses = left < 0 < right
        message = "Text runs across the fold" if crosses else "Text stands in what the fold takes"
        lost = f"{context.said(loss)} of each page are lost in the fold; " if loss else ""
        why = f"{lost}letters there cannot be read."
        why = why[0].upper() + why[1:]
        box = block_box(context.publication, index + 1, block)
        fix = Fix("Draw it in to the nearest field", partial(_clear_of_fold, block=block.id))
        yield Finding("text at the fold", FOLD, message, why, True, index + 1, block.id, box, fix)


def _clear_of_fold(publication: Publication, block: str) -> Publication:
    """The block's edge at the fold back onto its own page's nearest field."""
    index, _, _ = page_of_block(publication, block)
    number = index + 1
    count = len(page_frame_of(publication, number).columns)
    edge: Edge = "left" if on_right(publication, number) else "right"
    stop = Stop(kind="field", index=0 if edge == "left" else count - 1, count=count)
    return set_stop(publication, block, edge, stop)


def tinted_small_text(context: Context) -> Iterator[Finding]:
    """Small text in a tint is broken into dots."""
    publication = context.publication
    used = {p.role for _, block, _ in context.blocks for p in text_of(publication, block.holds)} | {
        "folio",
        "running foot",
    }
    for role in (role_named(publication, own.name) for own in publication.roles):
        if role.name in used and role.size.pt < SMALL_TEXT and role.tint < 100:
            type_words = f"Type of {figure(role.size.pt)} pt at {role.tint:g} %"
            why = f"{type_words} is screened into dots; print it solid, or in a lighter weight."
            fix = Fix("Set it solid", partial(_solid, role=role.name))
            yield Finding(
                "tinted small text", UNREAD, f"{role.label} is a tint at {figure(role.size.pt)} pt", why, fix=fix
            )


def _solid(publication: Publication, role: str) -> Publication:
    return set_role(publication, role, "tint", "100")


def furniture_in_text(context: Context) -> Iterator[Finding]:
    """Furniture that stands inside the text area, or words of it beyond the safe zone; told once a master."""
    publication = context.publication
    told: set[str] = set()
    for number, page in enumerate(publication.pages, 1):
        if page.master in told or not page.blocks:
            continue
        frame = page_frame_of(publication, number)
        pieces = context.setter.furniture.pieces(publication, master_of(publication, page), frame, number)
        found = next(filter(None, (_misplaced(publication, frame, placed) for placed in pieces)), None)
        if found is not None:
            told.add(page.master)
            words, why = found
            yield Finding("furniture", UNREAD, f"{words} of “{page.master}”", why, False, number)


def _misplaced(publication: Publication, frame: PageFrame, placed: PlacedPiece) -> tuple[str, str] | None:
    """What is wrong with where a piece stands, and what to do about it."""
    piece, box = placed.piece, placed.box
    room = frame.trim.bottom - frame.area.bottom if piece.at == "foot" else frame.area.top - frame.trim.top
    what = "The folio" if "{folio}" in piece.words else f"A {piece.kind if piece.kind != 'words' else 'line'}"
    has = format_length(room, publication.brief.unit)
    why = f"The {piece.at} margin of {has} has no room for it between text and safe zone; make it larger, or move it."
    if piece.kind == "frame":
        return None
    if box.meets(frame.area):
        return f"{what} stands in the text area", why
    safe = frame.trim.grown(-publication.brief.safe.pt)
    if piece.kind == "words" and (box.top < safe.top or box.bottom > safe.bottom):
        return f"{what} strays beyond the safe zone", why
    return None


def _plates(tone: Tone) -> int:
    """How many plates a tone is printed from."""
    return sum(share >= SCREENED for share in (tone.c, tone.m, tone.y, tone.k, tone.s))


def small_type_in_inks(context: Context) -> Iterator[Finding]:
    """Small type in more than one ink: the plates never meet so exactly that its edges stay sharp."""
    told: set[Origin] = set()
    for spread, run in context.runs:
        inks = max(_plates(tone) for tone in tones(run.colour))
        if run.size < SMALL_IN_INKS and inks > 1 and run.origin not in told and "".join(run.texts).strip():
            told.add(run.origin)
            message = f"Type of {figure(run.size, 1)} pt is printed in {inks} inks"
            why = (
                f"Under {figure(SMALL_IN_INKS, 0)} pt inks that miss one another by a hair blur it; set it in one ink."
            )
            yield Finding("small type in inks", UNREAD, message, why, False, *place_of_run(context, spread, run))


def filler_copy(context: Context) -> Iterator[Finding]:
    """Words that only hold a place: told once for each story, they stop the press."""
    for story in context.publication.stories:
        words = sum(len(paragraph.text.split()) for paragraph in story.paragraphs if is_filler(paragraph))
        if words:
            message = f"{counted(words, 'word')} of “{story.title or 'Untitled'}” are filler copy"
            yield Finding("filler copy", REFUSED, message, "They mean nothing; put the text in their place.", True)
