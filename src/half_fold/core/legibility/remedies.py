"""Words that cannot be read made readable: each remedy is done for real, read again, and as mild as it may be.

Remedies go for more than the mark from which words can be read: what is solved just to it is read worse from afar.
"""

from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import product

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.inks.tones import ink
from half_fold.core.legibility.letter_remedies import Made, heavier, outlined, shaded
from half_fold.core.legibility.reading import Read, Surface, read_surface
from half_fold.core.legibility.verdicts import GOOD, SOLVED, Letters, judge_words, light_of
from half_fold.core.measure.length import figure, length
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.pictures.colour.colour import ink_in_lab
from half_fold.core.pictures.library.fit import placed, share_rect
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Area,
    Block,
    Drawn,
    HoldsDisplay,
    HoldsPanel,
    HoldsPicture,
    Picture,
    Publication,
    Treatment,
)
from half_fold.core.publication.surgery import (
    block_named,
    fresh_id,
    is_free,
    page_of_block,
    picture_of,
    thing_ids,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.publication.things import Things
from half_fold.core.spread.edits.edits import move
from half_fold.core.spread.framing.kept_clear import areas_on_page
from half_fold.core.spread.setting.developed import stated_treatment, treat_anew
from half_fold.core.spread.where.frames import block_box, blocks_on, hull_of, page_frame_of, turn_of

STEPS = 6  # times an interval is halved
DARKEST = 3.0  # stops of exposure
REACH = 0.35  # of their height, round words: so far out a part of a picture goes, and so soft it is
MARGIN = 0.3  # of the type's size: so far a wash goes out beyond its words
RADII = (6.0, 12.0, 25.0, 50.0)  # thousandths of a picture's longer side: blur does not rise evenly
NEARLY = 0.97  # of what is solved for: what comes to less is offered after what does not
INKS = 2  # that are offered
Going = Callable[[], bool]
Way = Callable[[Surface, Read, str], "Iterable[Remedy]"]


class Remedy(Struct, frozen=True):
    """What would be done, how well it then reads (``score``: the worst word's), and the publication it is done in."""

    words: str
    score: float
    publication: Publication

    @property
    def then(self) -> str:
        """What comes of it, in words."""
        return f"The worst word then reads {figure(self.score, 1)}."


def remedies(sheet: Surface, block: str, go_on: Going = lambda: True) -> list[Remedy]:
    """What makes the words of a block readable, the mildest first, and last what only just does.

    None where they are, or it is no block of words.
    """
    now = read_surface(sheet)
    if now.score(block) >= GOOD or block not in {word.block for word in now.words}:
        return []
    if block not in {each.id for _, _, each in blocks_on(sheet.publication, sheet.spread)}:
        return []
    if not is_free(sheet.publication, block):
        return []
    weight, *round_them = map(_in_letters, (heavier, shaded, outlined))
    ways = (_inks, _place, weight, _part_of_picture, _wash, *round_them, _blurred)
    found = list(_good(ways, sheet, now, block, go_on))
    if not found:
        found = list(_with_another_ink(sheet, now, block, (_part_of_picture, _wash, *round_them, _blurred), go_on))
    return sorted(found, key=lambda each: each.score < NEARLY * SOLVED)


def _good(ways: Iterable[Way], sheet: Surface, now: Read, block: str, go_on: Going) -> Iterator[Remedy]:
    """What makes words readable by one of some ways, as long as that is wanted."""
    for way in ways:
        if not go_on():
            return
        yield from (each for each in way(sheet, now, block) if each.score >= GOOD)


def _with_another_ink(sheet: Surface, now: Read, block: str, ways: Sequence[Way], go_on: Going) -> Iterator[Remedy]:
    """Words that nothing alone makes readable: in the lightest or darkest ink, and their ground treated for that."""
    publication = sheet.publication
    if not isinstance(block_named(publication, block).holds, HoldsDisplay):
        return
    by_light = sorted(publication.inks, key=lambda each: light_of(ink(publication, each.name), sheet.profile))
    for name in dict.fromkeys(each.name for each in (*by_light[-1:], *by_light[:1])):
        other = sheet.changed(_in_ink(publication, block, name))
        for each in _good(ways, other, read_surface(other), block, go_on):
            yield Remedy(f"In {name}; {each.words[:1].lower()}{each.words[1:]}", each.score, each.publication)


def _in_letters(
    way: Callable[[Surface, Read, str], Iterator[Made]],
) -> Callable[[Surface, Read, str], Iterator[Remedy]]:
    """What is done to the letters themselves, as remedies."""
    return lambda sheet, now, block: (Remedy(*each) for each in way(sheet, now, block))


def _inks(sheet: Surface, now: Read, block: str) -> Iterator[Remedy]:
    """Another ink of the list, the nearest to the present one of those that read."""
    publication = sheet.publication
    held = block_named(publication, block).holds
    if not isinstance(held, HoldsDisplay):
        return
    letters = [each for each in now.letters if each.block == block]
    present = np.array(ink_in_lab(letters[0].colour[0]))
    ways: list[tuple[bool, float, str]] = []
    for each in publication.inks:
        tone = ink(publication, each.name)
        made = [replace_colour(word, tone) for word in letters]
        score = min(word.score for word in judge_words(made, now.ground, sheet.profile))
        if score >= GOOD:
            off = float(np.linalg.norm(np.array(ink_in_lab(tone)) - present))
            ways.append((score < SOLVED, off, each.name))
    for _, _, name in sorted(ways)[:INKS]:
        made_of = _in_ink(publication, block, name)
        yield Remedy(f"In {name}", _score(sheet, made_of, block), made_of)


def _in_ink(publication: Publication, block: str, name: str) -> Publication:
    """All words of a block in one ink."""
    found = block_named(publication, block)
    assert isinstance(found.holds, HoldsDisplay)
    plain = tuple(replace(p, runs=tuple(replace(run, ink="") for run in p.runs)) for p in found.holds.paragraphs)
    return with_thing_anywhere(publication, replace(found, holds=replace(found.holds, ink=name, paragraphs=plain)))


def replace_colour(letters: Letters, tone: object) -> Letters:
    """The same letters in another ink."""
    return Letters(letters.text, letters.block, letters.boxes, (tone,), letters.size, letters.stem)  # type: ignore[arg-type]


def _score(sheet: Surface, publication: Publication, block: str, area: Rect | None = None) -> float:
    return read_surface(sheet.changed(publication), area).score(block)


def _around(now: Read, block: str) -> Rect:
    """What has to be laid out to read the words of a block where they are."""
    words = now.of(block)
    return hull(word.area for word in words).grown(max(word.size for word in words) / 2)


def places(sheet: Surface, block: str, most: int = 5) -> list[Remedy]:
    """Where else the words of a block read well, by fields of the grid: the nearest first.

    Clear of other words, of barcodes, of what is kept clear in pictures and of their focus, inside the safe zone.
    """
    now, publication = read_surface(sheet), sheet.publication
    letters = [each for each in now.letters if each.block == block]
    index, _, held = page_of_block(publication, block)
    if not letters or not isinstance(held.place, Held):
        return []
    box = block_box(publication, index + 1, held)
    frame = page_frame_of(publication, index + 1)
    inside = frame.trim.grown(-publication.brief.safe.pt)
    taken = list(in_the_way(sheet, block))
    ways = []
    for across, down in product(
        range(-len(frame.columns) + 1, len(frame.columns)), range(-len(frame.rows) + 1, len(frame.rows))
    ):
        if not across and not down:
            continue
        by = _step(frame.columns, across), _step(frame.rows, down)
        there = box.moved(*by)
        if there.left < inside.left - 1 or there.right > inside.right + 1 or there.top < inside.top - 1:
            continue
        if there.bottom > inside.bottom + 1 or any(there.meets(each) for each in taken):
            continue
        moved = [shift_block(each, *by) for each in letters]
        score = min(word.score for word in judge_words(moved, now.ground, sheet.profile))
        if score >= SOLVED:
            ways.append((abs(by[0]) + abs(by[1]), -score, across, down))
    found = []
    for _, _, across, down in sorted(ways)[:most]:
        made = move(publication, block, across, down)
        score = _score(sheet, made, block)
        if made is not publication and score >= GOOD:
            found.append(Remedy(f"Moved {_said(across, down)}", score, made))
    return found


def _said(across: int, down: int) -> str:
    """By how many fields, in words."""
    ways = []
    if across:
        ways.append(f"{abs(across)} to the {'right' if across > 0 else 'left'}")
    if down:
        ways.append(f"{abs(down)} {'down' if down > 0 else 'up'}")
    return f"{' and '.join(ways)}, by fields"


def _step(spans: tuple[tuple[float, float], ...], by: int) -> float:
    """How far so many fields are, in points."""
    pitch = spans[1][0] - spans[0][0] if len(spans) > 1 else 0.0
    return by * pitch


def shift_block(letters: Letters, across: float, down: float) -> Letters:
    """The same letters moved by so many points."""
    boxes = letters.boxes + np.array([across, down, across, down])
    return Letters(letters.text, letters.block, boxes, letters.colour, letters.size, letters.stem)


def in_the_way(sheet: Surface, block: str) -> Iterator[Rect]:
    """What words are not moved onto: all but pictures and panels, and of pictures what is kept clear and the focus."""
    publication = sheet.publication
    for number, _, each in blocks_on(publication, sheet.spread):
        if each.id == block:
            continue
        if isinstance(each.holds, HoldsPicture):
            picture, box = picture_of(publication, each.holds.picture), block_box(publication, number, each)
            if picture.has_alpha:
                yield from _of_subject(picture, each.holds, box)
                continue
            yield from areas_on_page(publication, number, each)
            where = placed(picture, each.holds, box)
            x, y = where.left + each.holds.focus_x * where.width, where.top + each.holds.focus_y * where.height
            reach = 0.08 * min(box.width, box.height)
            yield Rect(x - reach, y - reach, x + reach, y + reach)
        elif not isinstance(each.holds, HoldsPanel):
            yield hull_of(publication, number, each)


def _of_subject(picture: Picture, holds: HoldsPicture, box: Rect) -> Iterator[Rect]:
    """What a cut-out covers of its block, in bands from head to foot; all of the block where that is not told."""
    if not picture.outline or holds.turn or holds.repeated:
        yield box
        return
    where, count = placed(picture, holds, box), len(picture.outline)
    for n, (left, right) in enumerate(picture.outline):
        if right > left:
            band = left, n / count, right, (n + 1) / count
            yield share_rect(band, holds.flipped, where).clipped(box)


def _place(sheet: Surface, _now: Read, block: str) -> Iterator[Remedy]:
    yield from places(sheet, block, 1)


def _under(sheet: Surface, now: Read, block: str) -> tuple[int, Block, Rect, Rect] | None:
    """The picture most of whose block's words lie on: its page, block, where all of it lies, and the words' hull."""
    words = hull(word.area for word in now.of(block))
    best: tuple[float, int, Block, Rect] | None = None
    publication = sheet.publication
    for number, _, each in blocks_on(publication, sheet.spread):
        if not isinstance(each.holds, HoldsPicture) or not is_free(publication, each.id):
            continue
        picture, box = picture_of(publication, each.holds.picture), block_box(publication, number, each)
        seen = words.clipped(box)
        straight = turn_of(publication, number, each) is None and not each.holds.turn and not each.holds.flipped
        if picture.has_alpha or picture.art or seen.is_empty() or not straight:
            continue
        size = seen.width * seen.height
        if best is None or size >= best[0]:
            best = size, number, each, placed(picture, each.holds, box)
    return None if best is None else (best[1], best[2], best[3], words)


def _region(words: Rect, where: Rect) -> Drawn:
    """Round words, as a part of a picture that lies on ``where``: all of it there, and softly out."""
    box = words.grown(REACH * words.height)
    longer = max(where.width, where.height)
    corners = [(box.left, box.top), (box.right, box.top), (box.right, box.bottom), (box.left, box.bottom)]
    points = tuple(((x - where.left) / where.width, (y - where.top) / where.height) for x, y in corners)
    return Drawn(points=points, soft=min(100.0, 1000 * REACH * words.height / longer))


def _part_of_picture(sheet: Surface, now: Read, block: str) -> Iterator[Remedy]:
    """The picture darkened just there under light words, or lightened under dark ones."""
    lying = _under(sheet, now, block)
    if lying is None:
        return
    _, picture, where, words = lying
    worst = min(now.of(block), key=lambda word: word.score)
    area = _around(now, block)
    way = -1.0 if worst.ink >= worst.light else 1.0

    def made(stops: float) -> Publication:
        return _with_area(sheet.publication, picture, _region(words, where), Treatment(exposure=way * stops))

    stops = _least(lambda each: _score(sheet, made(each), block, area), DARKEST)
    if stops is not None:
        what = "darkened" if way < 0 else "lightened"
        words_ = f"The picture {what} there by {figure(stops, 1)} stops"
        yield Remedy(words_, _score(sheet, made(stops), block), made(stops))


def _with_area(publication: Publication, picture: Block, where: Drawn, treatment: Treatment) -> Publication:
    stated = stated_treatment(publication, picture) or Treatment()
    return treat_anew(
        publication, picture, replace(stated, areas=(*stated.areas, Area(where=where, treatment=treatment)))
    )


def _least(score: Callable[[float], float], most: float) -> float | None:
    """The least of what rises evenly with which it is solved; None where even the most does not make it good."""
    if score(most) < SOLVED:
        return most if score(most) >= GOOD else None
    low, high = 0.0, most
    for _ in range(STEPS):
        middle = (low + high) / 2
        if score(middle) >= SOLVED:
            high = middle
        else:
            low = middle
    return high


def _wash(sheet: Surface, now: Read, block: str) -> Iterator[Remedy]:
    """An area of ink behind the words, as thin as it may be."""
    publication = sheet.publication
    _, page, held = page_of_block(publication, block)
    worst = min(now.of(block), key=lambda word: word.score)
    names = [each.name for each in publication.inks]
    dark = worst.ink >= worst.light
    order = sorted(names, key=lambda name: light_of(ink(publication, name), sheet.profile), reverse=not dark)
    if not order or not isinstance(held.place, Held):
        return
    name, area = fresh_id("b", thing_ids(publication)), _around(now, block)
    place = _grown(held.place, MARGIN * max(word.size for word in now.of(block)))

    def made(opacity: float) -> Publication:
        panel = Block(id=name, place=place, holds=HoldsPanel(ink=order[0]), opacity=round(opacity))

        def put(things: Things) -> Things:
            at = next((n for n, thing in enumerate(things) if thing.id == block), len(things))
            return (*things[:at], panel, *things[at:])

        return with_things(publication, page.id, put)

    if all(thing.id != block for thing in page.things):
        return  # in a group, whose parts are not parted
    opacity = _least(lambda each: _score(sheet, made(each), block, area), 100.0)
    if opacity is not None:
        opacity = min(100.0, np.ceil(opacity))
        words = f"On a wash of {order[0]}, {figure(opacity, 0)} % thick"
        yield Remedy(words, _score(sheet, made(opacity), block), made(opacity))


def _grown(place: Held, by: float) -> Held:
    """A place whose edges lie so many points farther out on their stops."""

    def out(stop: Stop) -> Stop:
        now = stop.off.pt if stop.off is not None else 0.0
        return replace(stop, off=length(f"{now + by:.3g}pt"))

    return Held(left=out(place.left), top=out(place.top), right=out(place.right), bottom=out(place.bottom))


def _blurred(sheet: Surface, now: Read, block: str) -> Iterator[Remedy]:
    """The picture out of focus under the words: the least of a row of radii that serves."""
    lying = _under(sheet, now, block)
    if lying is None:
        return
    _, picture, where, words = lying
    area = _around(now, block)
    for radius in RADII:
        made = _with_area(sheet.publication, picture, _region(words, where), Treatment(blur=radius))
        score = _score(sheet, made, block, area)
        if score >= SOLVED:
            yield Remedy("The picture out of focus there", score, made)
            return
