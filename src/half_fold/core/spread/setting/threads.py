"""Threads: which columns a story runs through, and the story set through them."""

from collections.abc import Callable, Sequence

from msgspec.structs import replace

from half_fold.core.grid.frame import baselines_of
from half_fold.core.measure.kept import Keeper, kept
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.spreads import facing
from half_fold.core.publication.records import Block, HoldsStory, Page, Publication, Role
from half_fold.core.publication.surgery import master_of, role_named, story_of
from half_fold.core.publication.used import laid_pictures
from half_fold.core.spread.setting.wraps import obstacles, slots
from half_fold.core.spread.where.frames import block_box, page_frame_of
from half_fold.core.typesetting.faces.directions import reads_leftwards
from half_fold.core.typesetting.flow.columns import Column
from half_fold.core.typesetting.flow.flow import Flow, flow
from half_fold.core.typesetting.lines.composer import Composer

_KEPT_FLOWS = 400
_columns: Keeper[list[Column]] = Keeper(4000)


def thread(publication: Publication, story: str) -> list[tuple[int, Block]]:
    """(page number, block) of each block that holds the story, in reading order."""
    return _on_pages(publication.pages).get(story, [])


@kept(64)
def _on_pages(pages: tuple[Page, ...]) -> dict[str, list[tuple[int, Block]]]:
    """Of every story the pages and blocks that hold it."""
    found: dict[str, list[tuple[int, int, Block]]] = {}
    for number, page in enumerate(pages, 1):
        for block in page.blocks:
            if isinstance(block.holds, HoldsStory):
                found.setdefault(block.holds.story, []).append((number, block.holds.turn, block))
    for places in found.values():
        places.sort(key=lambda place: place[:2])
    return {story: [(number, block) for number, _, block in places] for story, places in found.items()}


def columns_of(publication: Publication, number: int, block: Block) -> list[Column]:
    """The columns of a story block, each hung on the page's baseline grid; kept while its spread stays as it is."""
    assert isinstance(block.holds, HoldsStory)
    pages, other = publication.pages, facing(publication, number)
    across = pages[other - 1] if 1 <= other <= len(pages) else None
    language = story_of(publication, block.holds.story).language
    follows = number, block, pages[number - 1], across, *_rests_on(publication), language
    return _columns.of(follows, lambda: _columns_of(publication, number, block))


def _rests_on(publication: Publication) -> tuple[object, ...]:
    """What of the job, beside its pages, the columns of its stories follow from."""
    return publication.brief, publication.masters, publication.roles, laid_pictures(publication)


def _columns_of(publication: Publication, number: int, block: Block) -> list[Column]:
    assert isinstance(block.holds, HoldsStory)
    frame = page_frame_of(publication, number)
    box = block_box(publication, number, block)
    if block.inset is not None:
        box = box.grown(-block.inset.pt)
    count, gutter = max(1, block.holds.columns), _gutter(publication, number)
    width = max(1.0, (box.width - (count - 1) * gutter) / count)
    step, cap = frame.baselines.step, frame.baselines.cap
    first = frame.baseline(0)
    first += max(0, -int(-(box.top + cap - first - 0.01) // step)) * step
    lines = max(0, int((box.bottom - first + 0.01) // step) + 1)
    ways = obstacles(publication, number, block)
    out = []
    leftwards = reads_leftwards(story_of(publication, block.holds.story).language)
    for i in reversed(range(count)) if leftwards else range(count):
        left = box.left + i * (width + gutter)
        rect = Rect(left, box.top, left + width, box.bottom)
        free = slots(rect, first, lines, frame.baselines, ways) if ways else None
        if free is None:
            out.append(Column(block.id, rect, first, lines, number))
        else:
            out.append(Column(block.id, rect, first, len(free), number, tuple(free), True))
    return out


def _gutter(publication: Publication, number: int) -> float:
    return master_of(publication, publication.pages[number - 1]).grid.gutter.pt


class Threads:
    """Stories set through their blocks, kept as long as story, columns and type sheet stay the same."""

    def __init__(self, composer: Composer) -> None:
        self.composer = composer
        self._kept: Keeper[tuple[Flow, Flow]] = Keeper(_KEPT_FLOWS)
        self._now: tuple[Publication | None, dict[str, Flow]] = (None, {})
        self._columns: dict[str, tuple[tuple[object, ...], tuple[Column, ...]]] = {}
        self._last: dict[str, tuple[object, Flow]] = {}

    def flow(self, publication: Publication, story: str) -> Flow:
        """The story set through its blocks."""
        if self._now[0] is not publication:
            self._now = (publication, {})
        known = self._now[1]
        if story not in known:
            known[story] = self._flow(publication, story)
        return known[story]

    def _flow(self, publication: Publication, story: str) -> Flow:
        record, columns, roles = story_of(publication, story), self._through(publication, story), publication.roles
        even = _made_even(publication.pages, story)

        def make() -> tuple[Flow, Flow]:
            known, last = self._last.get(story, (None, None))
            step, roles_of = baselines_of(publication).step, _roles(publication)
            plain = flow(self.composer, record, roles_of, columns, step, last if known is roles else None)
            return plain, self._balanced(plain, even, lambda cut: flow(self.composer, record, roles_of, cut, step))

        plain, shown = self._kept.of((record, roles, columns, *even), make)
        self._last[story] = (roles, plain)  # an edit goes on from the flow as it is without even columns
        return shown

    def _balanced(self, found: Flow, even: tuple[str, ...], again: Callable[[Sequence[Column]], Flow]) -> Flow:
        """The flow with the columns of its last block made even, where that is among those asked for."""
        if found.over_lines or not found.chunks:
            return found
        name = found.columns[found.chunks[-1].column].block
        inside = [index for index, column in enumerate(found.columns) if column.block == name]
        if name not in even or len(inside) < 2:
            return found

        def cut(depth: int) -> tuple[Column, ...]:
            return tuple(column.cut(depth) if index in inside else column for index, column in enumerate(found.columns))

        low, high = 1, max(found.columns[index].depth for index in inside)
        while low < high:
            middle = (low + high) // 2
            if again(cut(middle)).over_lines:
                low = middle + 1
            else:
                high = middle
        return replace(again(cut(low)), columns=found.columns, room=found.room)

    def _through(self, publication: Publication, story: str) -> tuple[Column, ...]:
        """The columns of a story; the same tuple as long as they are the same, whatever else was edited."""
        held = publication.pages, *_rests_on(publication), story_of(publication, story).language
        known = self._columns.get(story)
        if known is not None and all(a is b for a, b in zip(known[0], held, strict=True)):
            return known[1]
        columns = tuple(
            column for number, block in thread(publication, story) for column in columns_of(publication, number, block)
        )
        if known is not None and known[1] == columns:
            columns = known[1]
        self._columns[story] = (held, columns)
        return columns


@kept(400)
def _made_even(pages: tuple[Page, ...], story: str) -> tuple[str, ...]:
    """The blocks of a story whose columns are to be made even."""
    return tuple(block.id for _, block in _on_pages(pages).get(story, ()) if _is_balanced(block))


def _is_balanced(block: Block) -> bool:
    return isinstance(block.holds, HoldsStory) and block.holds.balanced


class _roles:
    """Roles by name, looked up once each."""

    def __init__(self, publication: Publication) -> None:
        self._publication = publication
        self._known: dict[str, Role] = {}

    def __call__(self, name: str) -> Role:
        if name not in self._known:
            self._known[name] = role_named(self._publication, name)
        return self._known[name]
