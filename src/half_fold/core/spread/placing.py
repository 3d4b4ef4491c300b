"""Bringing a story in: threaded through the text areas of the next free pages, pages added where needed."""

from collections.abc import Iterator

from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.measure.length import length
from half_fold.core.plan.order import add_pages
from half_fold.core.publication.records import (
    Block,
    HoldsDisplay,
    HoldsStory,
    Paragraph,
    Publication,
    Stop,
    Story,
)
from half_fold.core.publication.surgery import block_ids, fresh_id, fresh_ids, master_of, with_page
from half_fold.core.spread.compose import Setter
from half_fold.core.spread.display_text import display_marks, fitting_size
from half_fold.core.spread.frames import block_box, page_frame_of
from half_fold.core.typesetting.directions import language_of

HEADLINE = "headline"
MOST_CONTINUED = 200


def add_story(publication: Publication, title: str, paragraphs: tuple[Paragraph, ...]) -> tuple[Publication, str]:
    """A story among the job's stories, not yet on a page; gives its id.

    It is in the job's language, unless its letters read from the other side.
    """
    story = Story(
        id=fresh_id("story", (s.id for s in publication.stories)),
        title=title,
        paragraphs=paragraphs,
        language=language_of(" ".join(paragraph.text for paragraph in paragraphs), publication.language),
    )
    return replace(publication, stories=(*publication.stories, story)), story.id


def place_story(
    publication: Publication, setter: Setter, title: str, paragraphs: tuple[Paragraph, ...]
) -> tuple[Publication, str]:
    """Add a story and thread it through the next free pages; a headline that opens it is set over it."""
    opening = paragraphs[0] if len(paragraphs) > 1 and paragraphs[0].role == HEADLINE else None
    publication, story = add_story(publication, title, paragraphs[1:] if opening else paragraphs)
    wanted = 1
    while True:
        publication = _with_free_pages(publication, wanted)
        free = _free_pages(publication)[:wanted]
        laid = _threaded(publication, setter, story, free, opening)
        flow = setter.threads.flow(laid, story)
        if not flow.over_lines:
            return _without_empty_blocks(laid, setter, story), story
        per_page = max(1, sum(c.lines for c in flow.columns if c.page == free[-1]))
        wanted += max(1, -(-flow.over_lines // per_page))


def continue_story(publication: Publication, setter: Setter, story: str) -> Publication:
    """What a story has over goes on over the next free pages behind its last block."""
    flow = setter.threads.flow(publication, story)
    last = max((column.page for column in flow.columns), default=0)
    wanted = 1
    while flow.over_lines:
        free = [n for n in _free_pages(publication) if n > last][:wanted]
        if len(free) < wanted:
            publication = _with_free_pages(publication, len(_free_pages(publication)) + wanted - len(free))
            continue
        laid = _threaded(publication, setter, story, free, None)
        after = setter.threads.flow(laid, story)
        if not after.over_lines or wanted > MOST_CONTINUED:
            return _without_empty_blocks(laid, setter, story)
        wanted += 1
    return publication


def _free_pages(publication: Publication) -> list[int]:
    """Numbers of pages with nothing on them."""
    return [i + 1 for i, page in enumerate(publication.pages) if not page.blocks and not page.runs]


def _with_free_pages(publication: Publication, wanted: int) -> Publication:
    lacking = wanted - len(_free_pages(publication))
    if lacking <= 0:
        return publication
    multiple = binding_named(publication.brief.binding).multiple
    count = len(publication.pages)
    target = -(-(count + lacking) // multiple) * multiple
    return add_pages(publication, count, target - count)


def _threaded(
    publication: Publication, setter: Setter, story: str, numbers: list[int], opening: Paragraph | None
) -> Publication:
    pages, names = list(publication.pages), fresh_ids("b", block_ids(publication))
    for number in numbers:
        opens = opening if number == numbers[0] else None
        blocks = _page_blocks(publication, setter, number, story, opens, names)
        pages[number - 1] = replace(pages[number - 1], blocks=blocks)
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
    over = _over_fields(next(names), columns, rows, 0, 0, _display(opening))
    head = _headline(publication, setter, number, over)
    return head, _over_fields(name, columns, rows, head.bottom.index + 1, rows - 1, holds)


def _display(opening: Paragraph) -> HoldsDisplay:
    return HoldsDisplay(paragraphs=(opening,))


def _headline(publication: Publication, setter: Setter, number: int, block: Block) -> Block:
    """The headline over as few rows as hold it, up to half the page; beyond that at the size that fits."""
    most = max(1, block.top.count // 2)
    for row in range(most):
        taller = replace(block, bottom=replace(block.bottom, index=row))
        if not display_marks(setter.composer, publication, taller, block_box(publication, number, taller)).over_lines:
            return taller
    size = fitting_size(setter.composer, publication, taller, block_box(publication, number, taller))
    assert isinstance(taller.holds, HoldsDisplay)
    return replace(taller, holds=replace(taller.holds, size=length(f"{size:g}pt"))) if size else taller


def _over_fields(name: str, columns: int, rows: int, top: int, bottom: int, holds: HoldsStory | HoldsDisplay) -> Block:
    return Block(
        id=name,
        left=Stop(kind="field", index=0, count=columns),
        right=Stop(kind="field", index=columns - 1, count=columns),
        top=Stop(kind="field", index=top, count=rows),
        bottom=Stop(kind="field", index=bottom, count=rows),
        holds=holds,
    )


def _without_empty_blocks(publication: Publication, setter: Setter, story: str) -> Publication:
    """Pages that the story did not reach are left free."""
    flow = setter.threads.flow(publication, story)
    reached = {flow.columns[chunk.column].block for chunk in flow.chunks}
    for page in publication.pages:
        kept = tuple(
            b
            for b in page.blocks
            if not (isinstance(b.holds, HoldsStory) and b.holds.story == story) or b.id in reached
        )
        if len(kept) != len(page.blocks):
            publication = with_page(publication, replace(page, blocks=kept))
    return publication
