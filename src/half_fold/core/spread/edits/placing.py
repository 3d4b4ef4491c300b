"""Bringing a story in: threaded through the text areas of the next free pages, pages added where needed."""

from collections.abc import Iterator
from functools import partial

from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.measure.length import length
from half_fold.core.plan.order import add_pages
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    HoldsDisplay,
    HoldsStory,
    Paragraph,
    Publication,
    Story,
)
from half_fold.core.publication.surgery import fresh_id, fresh_ids, master_of, role_named, thing_ids, with_things
from half_fold.core.publication.things import without
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.display_text import display_marks, fitting_size
from half_fold.core.spread.where.chapters import BEGINS_ONE
from half_fold.core.spread.where.filled import fill_symbols
from half_fold.core.spread.where.frames import block_box, page_frame_of
from half_fold.core.typesetting.faces.directions import language_of
from half_fold.core.typesetting.texts.titles import cut_title

HEADLINE = "headline"
MOST_IN_VAIN = 3  # rounds of more pages that bring no more words in: one of them had a recto


def add_story(publication: Publication, title: str, paragraphs: tuple[Paragraph, ...]) -> tuple[Publication, str]:
    """A story among the job's stories, not yet on a page; gives its id.

    It is in the job's language, unless its letters read from the other side. Symbols that it names are put in.
    """
    paragraphs = tuple(_with_symbols(publication, paragraph) for paragraph in paragraphs)
    story = Story(
        id=fresh_id("story", (s.id for s in publication.stories)),
        title=cut_title(title),
        paragraphs=paragraphs,
        language=language_of(" ".join(paragraph.text for paragraph in paragraphs), publication.language),
    )
    return replace(publication, stories=(*publication.stories, story)), story.id


def _with_symbols(publication: Publication, paragraph: Paragraph) -> Paragraph:
    if "{" not in paragraph.text or not publication.symbols:
        return paragraph
    runs = tuple(replace(run, text=fill_symbols(publication, run.text)) for run in paragraph.runs)
    return replace(paragraph, runs=runs)


def place_story(
    publication: Publication, setter: Setter, title: str, paragraphs: tuple[Paragraph, ...]
) -> tuple[Publication, str]:
    """Add a story and thread it through the next free pages.

    A headline that opens it is set over it, but where headlines begin pages, as those of chapters do. Where there are
    not pages enough, and none may be added, it stays whole and unlaid.
    """
    if not has_pages_for_text(publication):
        return add_story(publication, title, paragraphs)
    opening = paragraphs[0] if len(paragraphs) > 1 and _stands_over(publication, paragraphs[0].role) else None
    publication, story = add_story(publication, title, paragraphs[1:] if opening else paragraphs)
    return lay_through(publication, setter, story, 0, opening), story


def has_pages_for_text(publication: Publication) -> bool:
    """Whether a text that comes in finds free pages: a sheet, a spread or a cover alone takes no further ones."""
    return binding_named(publication.brief.binding).grows


UNLAID = "in the story drawer, for this job takes no further pages: claim fields for it, or set {claim}"


def format_unlaid(publication: Publication, title: str) -> str:
    """What is said of a text that came in and was not laid, with how to lay it."""
    if binding_named(publication.brief.binding).elsewhere:
        return UNLAID.format(claim=f"cover.front.claim='story \"{title}\" over 1-6 x 7-12'")
    frame = page_frame_of(publication, 1)
    return UNLAID.format(claim=f"page.1.claim='story \"{title}\" over 1-{len(frame.columns)} x 1-{len(frame.rows)}'")


def continue_story(publication: Publication, setter: Setter, story: str) -> Publication:
    """What a story has over goes on over the next free pages behind its last block."""
    flow = setter.threads.flow(publication, story)
    if not flow.over_lines:
        return publication
    last = max((column.page for column in flow.columns), default=0)
    return lay_through(publication, setter, story, last, over=flow.over_words)


def lay_through(
    publication: Publication, setter: Setter, story: str, after: int, opening: Paragraph | None = None, over: int = -1
) -> Publication:
    """The story threaded through as many free pages behind page ``after`` as it takes, or as help it.

    Its ``opening`` is set over the first of them; so many words of it are ``over`` now, where that is known.
    """
    wanted, rounds, best, laid = 1, 0, publication, publication
    while rounds < MOST_IN_VAIN:
        publication, free = with_free_pages(publication, after, wanted)
        if not free:
            return best
        laid = _threaded(publication, setter, story, free, opening, laid)
        flow = setter.threads.flow(laid, story)
        rounds += 1
        if flow.over_words != over:
            rounds, best, over = 0, laid, flow.over_words
        if not flow.over_lines:
            break
        per_page = max(1, sum(c.lines for c in flow.columns if c.page == free[-1]))
        wanted += max(1, -(-flow.over_lines // per_page))
    return _without_empty_blocks(best, setter, story)


def _stands_over(publication: Publication, role: str) -> bool:
    return role == HEADLINE and role_named(publication, role).begins not in BEGINS_ONE


def _free_pages(publication: Publication) -> list[int]:
    """Numbers of pages with nothing on them."""
    return [i + 1 for i, page in enumerate(publication.pages) if not page.blocks and not page.runs]


def with_free_pages(publication: Publication, after: int, wanted: int) -> tuple[Publication, list[int]]:
    """The job with that many free pages behind page ``after``, as many added as it takes; and their numbers."""
    free = [number for number in _free_pages(publication) if number > after]
    lacking = wanted - len(free)
    if lacking <= 0 or not has_pages_for_text(publication):
        return publication, free[:wanted]
    multiple = binding_named(publication.brief.binding).multiple
    count = len(publication.pages)
    target = -(-(count + lacking) // multiple) * multiple
    return add_pages(publication, count, target - count), [*free, *range(count + 1, count + 1 + lacking)]


def _threaded(
    publication: Publication,
    setter: Setter,
    story: str,
    numbers: list[int],
    opening: Paragraph | None,
    laid: Publication,
) -> Publication:
    """The story on those pages; on the ones that it lies on in ``laid`` as it does there."""
    pages, names = list(publication.pages), fresh_ids("b", thing_ids(laid))
    for number in numbers:
        if number <= len(laid.pages) and laid.pages[number - 1].things:
            pages[number - 1] = laid.pages[number - 1]
            continue
        opens = opening if number == numbers[0] else None
        blocks = _page_blocks(publication, setter, number, story, opens, names)
        pages[number - 1] = replace(pages[number - 1], things=blocks)
    return replace(publication, pages=tuple(pages))


def _page_blocks(
    publication: Publication,
    setter: Setter,
    number: int,
    story: str,
    opening: Paragraph | None,
    names: Iterator[str],
) -> tuple[Block, ...]:
    page = publication.pages[number - 1]
    frame = page_frame_of(publication, number)
    columns, rows = len(frame.columns), len(frame.rows)
    name = next(names)
    holds = HoldsStory(story=story, columns=master_of(publication, page).text_columns)
    if opening is None or rows == 1:
        return (_over_fields(name, columns, rows, 0, rows - 1, holds),)
    over = next(names)
    tries = [_over_fields(over, columns, rows, 0, row, _display(opening)) for row in range(max(1, rows // 2))]
    head, deep = _headline(publication, setter, number, tries)
    return head, _over_fields(name, columns, rows, deep, rows - 1, holds)


def _display(opening: Paragraph) -> HoldsDisplay:
    return HoldsDisplay(paragraphs=(opening,))


def _headline(publication: Publication, setter: Setter, number: int, tries: list[Block]) -> tuple[Block, int]:
    """The first block that holds the headline, or the last at the size that fits; and how many rows that takes."""
    for rows, block in enumerate(tries, 1):
        if not display_marks(setter.composer, publication, block, block_box(publication, number, block)).over_lines:
            return block, rows
    size = fitting_size(setter.composer, publication, block, block_box(publication, number, block))
    assert isinstance(block.holds, HoldsDisplay)
    return (replace(block, holds=replace(block.holds, size=length(f"{size:g}pt"))) if size else block), rows


def _over_fields(name: str, columns: int, rows: int, top: int, bottom: int, holds: HoldsStory | HoldsDisplay) -> Block:
    return Block(
        id=name,
        place=Held(
            left=Stop(kind="field", index=0, count=columns),
            top=Stop(kind="field", index=top, count=rows),
            right=Stop(kind="field", index=columns - 1, count=columns),
            bottom=Stop(kind="field", index=bottom, count=rows),
        ),
        holds=holds,
    )


def _without_empty_blocks(publication: Publication, setter: Setter, story: str) -> Publication:
    """Pages behind the last that the story reached are left free."""
    flow = setter.threads.flow(publication, story)
    end = flow.chunks[-1].column + 1 if flow.chunks else 0
    reached = {column.block for column in flow.columns[:end]}
    for page in publication.pages:
        empty = {
            b.id
            for b in page.blocks
            if isinstance(b.holds, HoldsStory) and b.holds.story == story and b.id not in reached
        }
        publication = with_things(publication, page.id, partial(without, names=empty))
    return publication
