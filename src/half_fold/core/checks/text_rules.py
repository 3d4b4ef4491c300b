"""Rules about text: what has no place, what the fold takes, what the face lacks, what the screen breaks up."""

from collections.abc import Iterator
from functools import partial

from msgspec.structs import replace

from half_fold.core.brief.allowances import fold_loss
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import FOLD, UNREAD, Finding, Fix
from half_fold.core.drawing.marks import Glyphs
from half_fold.core.grid.stops import Edge
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted, figure, length
from half_fold.core.plan.spreads import Spread, on_right
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsStory, Paragraph, Publication, Stop
from half_fold.core.publication.surgery import page_of_block, story_of
from half_fold.core.spread import edits
from half_fold.core.spread.compose import Setter
from half_fold.core.spread.display_text import display_marks, fitting_size
from half_fold.core.spread.evened import ink_of
from half_fold.core.spread.frames import block_box, page_frame_of
from half_fold.core.spread.placing import continue_story
from half_fold.core.spread.threads import thread
from half_fold.core.typesetting.line_marks import is_overfull

SMALL_TEXT = 9.0
MISSING_GLYPH = 0


def overset_story(context: Context) -> Iterator[Finding]:
    """A story longer than its blocks: what is over is not printed at all."""
    publication = context.publication
    for story in publication.stories:
        flow = context.setter.threads.flow(publication, story.id)
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
            Fix("Go on over the next free pages", partial(_continue, story=story.id)),
        )


def _continue(publication: Publication, story: str) -> Publication:
    return continue_story(publication, Setter(), story)


def too_wide(context: Context) -> Iterator[Finding]:
    """A word wider than its column, which runs out of its block."""
    publication = context.publication
    for story in publication.stories:
        flow = context.setter.threads.flow(publication, story.id)
        for chunk in flow.chunks:
            wide = next((n for n in range(chunk.start, chunk.end) if is_overfull(chunk.lines, n)), None)
            if wide is not None:
                column = flow.columns[chunk.column]
                why = "No place was found to break it; a wider column or a smaller size would help."
                message = f"A word in “{story.title}” is wider than its column"
                yield Finding("too wide", UNREAD, message, why, True, column.page, column.block, column.rect)
                break


def overset_display(context: Context) -> Iterator[Finding]:
    """Display text that does not fit its block."""
    for number, block, box in context.blocks:
        if not isinstance(block.holds, HoldsDisplay):
            continue
        over = display_marks(context.setter.composer, context.publication, block, box).over_lines
        if over:
            size = fitting_size(context.setter.composer, context.publication, block, box)
            fix = Fix(f"Set it at {figure(size)} pt", partial(_at_size, block=block.id, size=size)) if size else None
            why = "Lines beyond the block's foot are left out."
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
        if run.block in told or not run.block.startswith("b") or len(spread.numbers) < 2:
            continue
        left, right = float(run.xs[0]), float(run.xs[-1]) + run.size
        if left < loss and right > -loss:  # near it: look at the letters themselves
            ink = ink_of([run])
            left, right = ink.left, ink.right
        if left >= loss or right <= -loss or not (right > -loss and left < loss):
            continue
        told.add(run.block)
        index, _, block = page_of_block(context.publication, run.block)
        crosses = left < 0 < right
        message = "Text runs across the fold" if crosses else "Text stands in what the fold takes"
        lost = f"{figure(loss / MM)} mm of each page are lost in the fold; " if loss else ""
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
    return edits.set_stop(publication, block, edge, stop)


def missing_glyph(context: Context) -> Iterator[Finding]:
    """Letters that the face has not got."""
    told: set[tuple[str, str]] = set()
    for spread, run in context.runs:
        lacking = sorted(
            {text for gid, text in zip(run.gids.tolist(), run.texts, strict=True) if gid == MISSING_GLYPH and text}
        )
        if not lacking or (run.block, run.face) in told:
            continue
        told.add((run.block, run.face))
        page = _page_of(context, spread, run)
        shown = " ".join(f"“{text}”" for text in lacking[:6])
        why = f"An empty box would be printed for {shown}; use another face, or other letters."
        yield Finding(
            "missing glyph", UNREAD, f"{run.face.replace('/', ' ')} has no {shown}", why, True, page, _block_id(run)
        )


def _page_of(context: Context, spread: Spread, run: Glyphs) -> int:
    if run.block.startswith("b"):
        return page_of_block(context.publication, run.block)[0] + 1
    here = spread.left if float(run.xs[0]) < 0 else spread.right
    return here or spread.numbers[0]


def _block_id(run: Glyphs) -> str:
    return run.block if run.block.startswith("b") else ""


def tinted_small_text(context: Context) -> Iterator[Finding]:
    """Small text in a tint is broken into dots."""
    publication = context.publication
    used = {p.role for _, block, _ in context.blocks for p in _paragraphs(publication, block)} | {
        "folio",
        "running foot",
    }
    for role in publication.roles:
        if role.name in used and role.size.pt < SMALL_TEXT and role.tint < 100:
            type_words = f"Type of {figure(role.size.pt)} pt at {role.tint:g} %"
            why = f"{type_words} is screened into dots; print it solid, or in a lighter weight."
            fix = Fix("Set it solid", partial(_solid, role=role.name))
            yield Finding(
                "tinted small text", UNREAD, f"{role.label} is a tint at {figure(role.size.pt)} pt", why, fix=fix
            )


def _paragraphs(publication: Publication, block: Block) -> tuple[Paragraph, ...]:
    if isinstance(block.holds, HoldsStory):
        return story_of(publication, block.holds.story).paragraphs
    return block.holds.paragraphs if isinstance(block.holds, HoldsDisplay) else ()


def _solid(publication: Publication, role: str) -> Publication:
    roles = tuple(replace(r, tint=100.0) if r.name == role else r for r in publication.roles)
    return replace(publication, roles=roles)


def furniture_in_text(context: Context) -> Iterator[Finding]:
    """Folios or feet that stand inside the text area, or beyond the safe zone."""
    publication = context.publication
    safe = publication.brief.safe.pt
    told: set[str] = set()
    for spread, run in context.runs:
        if run.block != "furniture":
            continue
        number = _page_of(context, spread, run)
        master = publication.pages[number - 1].master
        frame = page_frame_of(publication, number)
        enters = run.baseline - run.size * 0.7 < frame.area.bottom
        leaves = run.baseline > frame.trim.bottom - safe
        if master in told or not (enters or leaves):
            continue
        told.add(master)
        room = frame.trim.bottom - frame.area.bottom
        why = (
            f"The foot margin of {figure(room / MM)} mm has no room for a folio between text and safe zone; "
            "make it larger."
        )
        message = f"The folio of “{master}” {'stands in the text area' if enters else 'strays beyond the safe zone'}"
        yield Finding("furniture", UNREAD, message, why, False, number)
