"""Composing: a spread's blocks and furniture as one display list, kept until something it follows from changes."""

from collections.abc import Callable, Iterable, Iterator
from itertools import groupby
from typing import Any

from half_fold.core.brief.allowances import overprint
from half_fold.core.drawing.marks import DisplayList, Mark, MarkGroup, from_block
from half_fold.core.grid.frame import baselines_of
from half_fold.core.measure.kept import Keeper, key_of
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.sections import folio_of
from half_fold.core.plan.spreads import Spread, on_right
from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    HoldsStory,
    Page,
    Publication,
    Thing,
    blocks_of,
)
from half_fold.core.publication.surgery import master_of, role_named
from half_fold.core.publication.things import way_to
from half_fold.core.publication.used import laid_pictures
from half_fold.core.spread.codes.barcode import barcode_marks
from half_fold.core.spread.codes.code import code_marks
from half_fold.core.spread.setting.captions import asks_for_captions
from half_fold.core.spread.setting.furniture import Furnisher, story_title
from half_fold.core.spread.setting.goods import from_row
from half_fold.core.spread.setting.looks import dressed, worn_by
from half_fold.core.spread.setting.over_pictures import cover_of, over
from half_fold.core.spread.setting.panels import panel_marks, rule_marks
from half_fold.core.spread.setting.picture_marks import picture_marks
from half_fold.core.spread.setting.story_marks import chunks_marks
from half_fold.core.spread.setting.threads import Threads
from half_fold.core.spread.setting.words import words_marks
from half_fold.core.spread.where.chapters import chapter_on, is_passed_over
from half_fold.core.spread.where.filled import words_of_job
from half_fold.core.spread.where.frames import block_box, frame_for, frames_of, own_turn, spread_area, things_on
from half_fold.core.typesetting.flow.flow import Flow
from half_fold.core.typesetting.lines.composer import Composer

_KEPT_SPREADS = 120
_KEPT_CHUNKS = 4000
_KEPT_THINGS = 3000
_KEPT_PARTS = 4  # of spreads of the present document


def _stories_on(page: Page) -> Iterator[HoldsStory]:
    return (block.holds for block in page.blocks if isinstance(block.holds, HoldsStory))


def _shared(publication: Publication) -> tuple[object, ...]:
    """Every record and word that the marks of all things follow from."""
    shared = publication.brief, publication.roles, publication.inks, laid_pictures(publication)
    seen = publication.fades, publication.looks, publication.light, publication.goods, publication.language
    return (*shared, *seen, *words_of_job(publication))


class Setter:
    """Everything needed to compose spreads, with what it keeps. Belongs to one thread."""

    def __init__(self) -> None:
        self.composer = Composer()
        self.threads = Threads(self.composer)
        self.furniture = Furnisher(self.composer, self._chapter)
        self._kept_chunks: Keeper[tuple[Mark, ...]] = Keeper(_KEPT_CHUNKS)
        self._kept: Keeper[DisplayList] = Keeper(_KEPT_SPREADS)
        self._kept_parts: Keeper[list[tuple[Mark, ...]]] = Keeper(_KEPT_PARTS)
        self._kept_things: Keeper[tuple[Mark, ...]] = Keeper(_KEPT_THINGS)

    def take_over(self, other: "Setter") -> None:
        """Go on with what another setter has set; that one must not be used after."""
        self.composer, self.threads, self.furniture = other.composer, other.threads, other.furniture

    def spread(self, publication: Publication, spread: Spread) -> DisplayList:
        """The display list of a spread, bleed included."""
        follows = *spread.numbers, *self.follows_from(publication, spread)
        return self._kept.of(follows, lambda: self._compose(publication, spread))

    def follows_from(self, publication: Publication, spread: Spread) -> tuple[object, ...]:
        """Every record and word the spread is drawn from."""
        pages = [publication.pages[number - 1] for number in spread.numbers]
        flows = [
            chunk
            for page in pages
            for block in page.blocks
            if isinstance(block.holds, HoldsStory)
            for chunk in self.threads.flow(publication, block.holds.story).chunks_of(block.id)
        ]
        folios = tuple(folio_of(publication, number) for number in spread.numbers)
        names = (
            *words_of_job(publication),
            publication.language,
            *folios,
            *(story_title(publication, number) for number in spread.numbers),
            *(self._chapter(publication, number) for number in spread.numbers),
            *(self._is_blank(publication, page) for page in pages),
        )
        shared = (
            publication.brief,
            publication.printer,
            publication.roles,
            publication.inks,
            publication.masters,
            laid_pictures(publication),
        )
        seen = publication.fades, publication.looks, publication.light, publication.goods
        return (*pages, *flows, *shared, *seen, publication.sections, *names)

    def parts(self, publication: Publication, spread: Spread) -> list[tuple[Mark, ...]]:
        """What is drawn of a spread, thing by thing and then its furniture: the same tuples while they are the same."""
        return self._kept_parts.of((publication, *spread.numbers), lambda: self._parts(publication, spread))

    def _parts(self, publication: Publication, spread: Spread) -> list[tuple[Mark, ...]]:
        shared, every = _shared(publication), things_on(publication, spread)
        things = [self._kept_marks(publication, number, thing, shared) for number, thing in every]
        return [*things, *(tuple(self._furniture_marks(publication, spread, number)) for number in spread.numbers)]

    def _compose(self, publication: Publication, spread: Spread) -> DisplayList:
        marks = [mark for part in self.parts(publication, spread) for mark in part]
        area = spread_area(publication, spread).grown(publication.brief.bleed.pt)
        return DisplayList(area, tuple(marks), overprint(publication)[0])

    def _furniture_marks(self, publication: Publication, spread: Spread, number: int) -> Iterable[Mark]:
        """The furniture of a page with something on it; a picture all over it leaves it off, unless it is set over."""
        page = publication.pages[number - 1]
        if not page.blocks or page.furniture == "off" or self._is_blank(publication, page):
            return ()
        master = master_of(publication, page)
        frame = frame_for(publication, master, on_right(publication, number))
        cover = cover_of(publication, spread, frame.trim)
        if cover is not None and page.furniture != "over":
            return ()
        pieces = self.furniture.pieces(publication, master, frame, number)
        return [mark for piece in pieces for mark in piece.marks] if cover is None else over(cover, pieces)

    def _chapter(self, publication: Publication, number: int) -> str:
        """What goes on over a page of the story that runs there first."""
        story = next(_stories_on(publication.pages[number - 1]), None)
        return chapter_on(self.threads.flow(publication, story.story), number) if story is not None else ""

    def _is_blank(self, publication: Publication, page: Page) -> bool:
        """Whether a page has only text that passes over it, to begin on a later one."""
        return len(page.things) == 1 and any(
            is_passed_over(self.threads.flow(publication, holds.story), page.things[0].id)
            for holds in _stories_on(page)
        )

    def thing_marks(self, publication: Publication, number: int, thing: Thing) -> tuple[Mark, ...]:
        """The marks of a block or a group on page ``number``: as one where they mix with what lies behind.

        They are kept by the thing and all that it stands on, so that an edit composes again what it changes.
        """
        return self._kept_marks(publication, number, thing, _shared(publication))

    def _kept_marks(
        self, publication: Publication, number: int, thing: Thing, shared: tuple[object, ...]
    ) -> tuple[Mark, ...]:
        follows = *self._stands_on(publication, number, thing), *shared
        return self._kept_things.of(follows, lambda: tuple(self._thing_marks(publication, number, thing)))

    def _stands_on(self, publication: Publication, number: int, thing: Thing) -> tuple[object, ...]:
        """What the marks of a thing follow from beside what those of all things do."""
        frames, things = frames_of(publication, number), publication.pages[number - 1].things
        is_within = all(each is not thing for each in things)
        around = way_to(things, thing.id)[:1] if is_within else ()  # with which it may be turned
        own: list[object] = [thing, number, frames.own, frames.facing, *around]
        for block in blocks_of((thing,)):
            if isinstance(block.holds, HoldsStory):
                flow = self.threads.flow(publication, block.holds.story)
                own += [each for chunk in flow.chunks_of(block.id) for each in (chunk, flow.columns[chunk.column])]
            elif isinstance(block.holds, HoldsDisplay) and asks_for_captions(block):
                own += [publication.pages, publication.masters]
        return tuple(own)

    def _thing_marks(self, publication: Publication, number: int, thing: Thing) -> list[Mark]:
        if isinstance(thing, Block):
            marks = self._dressed_marks(publication, number, thing)
        else:
            marks = [mark for member in thing.members for mark in self._thing_marks(publication, number, member)]
        if not marks or (thing.opacity >= 100 and thing.blend == "normal" and not thing.angle):
            return marks
        turn = own_turn(publication, number, thing)
        return [MarkGroup(tuple(marks), thing.opacity / 100, thing.blend, from_block(thing.id), turn)]

    def _dressed_marks(self, publication: Publication, number: int, block: Block) -> list[Mark]:
        """What a block prints, in its look."""
        marks = self._held_marks(publication, number, block)
        look = worn_by(publication, block)
        if look is None:
            return marks
        box = block_box(publication, number, block)
        return dressed(publication, marks, look, from_block(block.id), box=box)

    def _held_marks(self, publication: Publication, number: int, block: Block) -> list[Mark]:
        box = block_box(publication, number, block)
        block = from_row(publication, block)
        return _MARKS[type(block.holds)](self, publication, number, block, box)

    def story_marks(self, publication: Publication, block: Block, flow: Flow) -> list[Mark]:
        """The marks of the chunks in a block; kept, for an edit leaves most of them where they were."""
        step = baselines_of(publication).step
        held = publication.inks, publication.roles, publication.fades, publication.looks, publication.light
        keys = {}
        for chunk in flow.chunks_of(block.id):
            follows = chunk.lines, flow.columns[chunk.column], *held, chunk.start, chunk.end, chunk.at, step
            keys[key_of(follows)] = follows, chunk
        made = {key: self._kept_chunks.find(key) for key in keys}
        new = [(key, *told) for key, told in keys.items() if made[key] is None]
        for _, group in groupby(new, key=lambda each: (id(each[2].lines.style), each[2].lines.paragraph.role)):
            alike = list(group)
            role = role_named(publication, alike[0][2].lines.paragraph.role)
            marks_of = chunks_marks(publication, flow, [chunk for _, _, chunk in alike], role, step)
            for (key, follows, _), marks in zip(alike, marks_of, strict=True):
                made[key] = self._kept_chunks.keep(key, follows, marks)
        return [mark for key in keys for mark in made[key] or ()]


# How each kind of content is drawn, in its box on the page of that number.
_Drawn = Callable[[Setter, Publication, int, Any, Rect], list[Mark]]
_MARKS: dict[type, _Drawn] = {
    HoldsPicture: lambda _, publication, number, block, box: picture_marks(publication, number, block, box),
    HoldsPanel: lambda _, publication, __, block, box: panel_marks(publication, from_block(block.id), block.holds, box),
    HoldsRule: lambda _, publication, __, block, box: rule_marks(publication, from_block(block.id), block.holds, box),
    HoldsDisplay: lambda setter, publication, _, block, box: words_marks(setter.composer, publication, block, box),
    HoldsStory: lambda setter, publication, _, block, __: setter.story_marks(
        publication, block, setter.threads.flow(publication, block.holds.story)
    ),
    HoldsBarcode: lambda setter, publication, _, block, box: barcode_marks(setter.composer, publication, block, box),
    HoldsCode: lambda _, publication, __, block, box: code_marks(publication, block, box),
    HoldsNothing: lambda *_: [],
}
