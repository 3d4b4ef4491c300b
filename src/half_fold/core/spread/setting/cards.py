"""The faces of a bound-in card as they print: its words, lines to write on and boxes to tick.

Cuts and perforations are finishing, not ink, and a reply-paid panel is only kept clear: nothing is printed of either.
"""

from collections.abc import Iterator
from functools import partial

from msgspec.structs import replace

from half_fold.core.brief.bulk import leaf_width
from half_fold.core.drawing.marks import Glyphs, Line, Mark, Origin, Shape
from half_fold.core.drawing.tone import BLACK, WHITE
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.inserts import PlacedPart, place_parts
from half_fold.core.publication.records import Insert, Paragraph, Publication, Run
from half_fold.core.spread.setting.evened import ink_of, one_line
from half_fold.core.typesetting.lines.composer import Composer

ROLE = "caption"
WORDS_PT, LABEL_PT, TICK_PT = 11.0, 7.0, 7.5
RULE_PT, TICK_GAP_MM, LABEL_RISE_MM = 0.25, 2.0, 1.0


def from_card(insert: Insert) -> Origin:
    """That of what is printed of a card's parts."""
    return Origin("insert", insert.id)


def card_area(publication: Publication, insert: Insert) -> Rect:
    """The trimmed leaf, opened: as many cards as stand to the height, in points."""
    return Rect(0, 0, leaf_width(publication, insert) * MM, insert.up * insert.height.mm * MM)


def card_parts(composer: Composer, publication: Publication, insert: Insert, verso: bool = False) -> tuple[Mark, ...]:
    """What the parts of a card print on a face; tip-ins and gatefolds have blocks alone."""
    if insert.kind != "card":
        return ()
    return tuple(mark for placed in place_parts(insert, verso) for mark in _part(composer, publication, insert, placed))


def _part(composer: Composer, publication: Publication, insert: Insert, placed: PlacedPart) -> Iterator[Mark]:
    part, rect = placed.part, placed.rect
    say = partial(_words, composer, publication, insert)
    if part.kind == "words":
        yield from say(part.text, WORDS_PT, rect, rect.centre[1] + WORDS_PT / 3)
    entries = part.text.split("; ") if part.text else [""] * part.count
    for words, y in zip(entries, placed.baselines, strict=False):
        if part.kind == "ticks":
            yield Shape(Rect(rect.left, y - TICK_PT, rect.left + TICK_PT, y), WHITE, BLACK, RULE_PT, from_card(insert))
            beside = Rect(rect.left + TICK_PT + TICK_GAP_MM * MM, rect.top, rect.right, rect.bottom)
            yield from say(words, LABEL_PT, beside, y - 1.0)
        elif part.kind == "lines":
            yield Line((rect.left, y), (rect.right, y), BLACK, RULE_PT, from_card(insert))
            yield from say(words, LABEL_PT, rect, y - LABEL_RISE_MM * MM)


def _words(
    composer: Composer, publication: Publication, insert: Insert, text: str, size: float, room: Rect, baseline: float
) -> list[Glyphs]:
    """Words on one line from the left of their room, no wider than that."""
    if not text.strip():
        return []
    role = ROLE if any(role.name == ROLE for role in publication.roles) else publication.roles[0].name
    paragraph = Paragraph(role=role, runs=(Run(text=text),))
    width = ink_of(one_line(composer, publication, paragraph, size, BLACK)).right
    size = min(size, size * room.width / width) if width > room.width > 0 else size
    marks = one_line(composer, publication, paragraph, size, BLACK)
    return [
        replace(mark, xs=mark.xs + room.left, baseline=mark.baseline + baseline, origin=from_card(insert))
        for mark in marks
    ]
