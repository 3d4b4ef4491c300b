"""Rules about reading: words that do not stand off what they stand on."""

from collections.abc import Iterator

from half_fold.core.apart.sides import Side, is_blank, page_name, sides_of
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import UNREAD, Finding
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import Glyphs, Mark, leaves
from half_fold.core.legibility.reading import Surface, worst_of
from half_fold.core.legibility.verdicts import UNREADABLE, Word
from half_fold.core.measure.length import figure
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.surgery import page_of_block

RULE = "words that cannot be read"
WHY = (
    "How far an ink stands off its ground, against the unrest of that, says whether words are read. At the spread, "
    "Z shows it word by word, with what would make them readable."
)
MOST_WORDS = 4  # that are named


def words_unread(context: Context) -> Iterator[Finding]:
    """Words on pages and on the cover that do not stand off their ground, block by block."""
    if context.pictures is None:
        return
    for spread, marks in context.lists:
        context.go_on()
        if _stand_on_something(marks):
            yield from _of(context, Surface(context.publication, context.pictures, spread, context.setter))
    for side in sides_of(context.publication):
        if not is_blank(context.publication, side):
            sheet = surface_of_side(context.publication, context.pictures, side, context.setter)
            yield from _of(context, sheet, side)


def _stand_on_something(marks: tuple[Mark, ...]) -> bool:
    """Whether letters may lie on anything but bare paper."""
    every = list(leaves(marks))
    letters = [bounds(mark) for mark in every if isinstance(mark, Glyphs)]
    others = [bounds(mark) for mark in every if not isinstance(mark, Glyphs)]
    return any(box.meets(other) for other in others for box in letters)


def _of(context: Context, sheet: Surface, side: Side | None = None) -> Iterator[Finding]:
    unread: dict[str, list[Word]] = {}
    for word in worst_of(sheet):
        if word.score < UNREADABLE:
            unread.setdefault(word.block, []).append(word)
    for block, words in unread.items():
        number = _page(sheet, block)
        said = ", ".join(f"“{word.text}”" for word in words[:MOST_WORDS])
        more = f" and {len(words) - MOST_WORDS} more" if len(words) > MOST_WORDS else ""
        message = f"{said}{more} cannot be read: {figure(words[0].score, 1)} where {UNREADABLE:g} is the least"
        area = words[0].area
        if side is None:
            yield Finding(RULE, UNREAD, message, WHY, False, number, block, area)
        else:
            place = page_name(context.publication, side, number)
            yield Finding(RULE, UNREAD, message, WHY, False, number, block, area, None, side, place)


def _page(sheet: Surface, block: str) -> int:
    """The page a block lies on; the first of the sheet where it is none's, such as furniture."""
    try:
        return page_of_block(sheet.publication, block)[0] + 1
    except Problem:
        return sheet.spread.numbers[0]
