"""Chapters: which of a story a page belongs to, and the pages that are left blank before one."""

from bisect import bisect_right
from operator import itemgetter

from half_fold.core.measure.kept import kept
from half_fold.core.typesetting.flow.flow import Flow, columns_of_blocks

BEGINS_ONE = ("page", "recto")


@kept(400)
def chapters_of(flow: Flow) -> list[tuple[int, str]]:
    """(page, words) of every paragraph of a story that begins a page, in their order."""
    return [
        (flow.columns[chunk.column].page, chunk.lines.paragraph.text)
        for chunk in flow.chunks
        if not chunk.start and chunk.lines.style.begins in BEGINS_ONE
    ]


def chapter_on(flow: Flow, number: int) -> str:
    """The words of the chapter that goes on over page ``number``; "" where it begins, and before the first."""
    chapters = chapters_of(flow)
    at = bisect_right(chapters, number, key=itemgetter(0))
    return chapters[at - 1][1] if at and chapters[at - 1][0] < number else ""


@kept(400)
def _turns(flow: Flow) -> bool:
    """Whether something of a story asks where it begins, so that blocks before it may be left blank."""
    return any(chunk.lines.style.begins != "anywhere" for chunk in flow.chunks)


def is_passed_over(flow: Flow, block: str) -> bool:
    """Whether a block of a story is left blank, for what follows begins on a later page."""
    if not _turns(flow):
        return False
    inside = columns_of_blocks(flow.columns).get(block)
    goes_on = inside is not None and bool(flow.chunks) and flow.chunks[-1].column > inside[1]
    return goes_on and not flow.chunks_of(block)
