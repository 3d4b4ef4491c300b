"""A feature laid over several spreads: its headline and first picture open it, text and pictures run through the rest.

How much of the text lies on each spread is found by setting it: the room asked for it grows or shrinks until it fits.
"""

import re
from collections.abc import Callable, Mapping, Sequence

from msgspec.structs import replace
from msgspec.structs import replace as changed

from half_fold.core.arrange.arrangement import Arrangement
from half_fold.core.arrange.finding import MOST_ITEMS, arranged
from half_fold.core.arrange.fitness import NO_PICTURE, Item
from half_fold.core.arrange.items import items_of
from half_fold.core.arrange.laying import lay_arrangement
from half_fold.core.arrange.rhythm import MOST
from half_fold.core.arrange.texts import area_of_story, text_asked
from half_fold.core.arrange.words import caption_spread
from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.told import Told
from half_fold.core.plan.spreads import Spread, spread_index, spread_of, spreads_of
from half_fold.core.publication.places import ANYWHERE
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsStory, Publication
from half_fold.core.publication.surgery import (
    fresh_ids,
    page_of_block,
    story_of,
    thing_ids,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.edits.fitting import ENOUGH_ROOM
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.display_text import display_marks
from half_fold.core.spread.setting.threads import thread
from half_fold.core.spread.where.frames import block_box, blocks_on, spread_area
from half_fold.core.typesetting.flow.flow import Flow

_QUOTED = re.compile("“[^“”]+”")
TEXT_SHARE = 0.4  # of a spread, where pictures lie beside it
TRIALS = 5
FEW_LINES = 6  # that may stay free at the end
LOOKED_AT = 4  # arrangements of each spread
OPENS, QUOTE = "headline", "pull quote"
SHORTEST, LONGEST = 40, 140  # letters of a pull quote


def fill_feature(
    publication: Publication,
    setter: Setter,
    pages: Sequence[int],
    story: str,
    pictures: Sequence[str],
    told: Mapping[str, Told],
    still_wanted: Callable[[], bool] = lambda: True,
) -> tuple[Publication, str]:
    """A story and pictures over the spreads of those pages, and what came of it in words.

    What lies there stays. Pictures come near the words that name them, where some do, else in their order; more than
    fit are left in the drawer. Problem where there is no room at all, or the story lies somewhere already.
    """
    if thread(publication, story):
        raise Problem("That story is on pages already; take its blocks away first, or arrange its spreads one by one.")
    spreads = list(dict.fromkeys(spread_of(publication, number) for number in pages))
    shares = _shared_out(publication, story, pictures, len(spreads))
    ask, best = 1.0, None
    for _ in range(TRIALS):
        if not still_wanted():
            return publication, ""
        made, short = _tried(publication, setter, spreads, story, shares, told, ask)
        flow = setter.threads.flow(made, story)
        made = _ended(made, flow)
        wrong = flow.over_lines * 3 + flow.room
        if best is None or wrong < best[0]:
            best = wrong, made, flow, short
        if not flow.over_lines and flow.room <= FEW_LINES:
            break
        ask *= _more(flow)
    assert best is not None
    return best[1], _told_of(best[2], best[3])


def spreads_for(publication: Publication, number: int, story: str) -> int:
    """How many spreads a story takes with pictures beside it, from the one of page ``number`` on: a rough guess."""
    spread = spread_area(publication, spread_of(publication, number))
    return max(1, round(area_of_story(publication, story) / (TEXT_SHARE * spread.width * spread.height)))


def pages_from(publication: Publication, number: int, spreads: int) -> tuple[int, ...]:
    """The pages of so many spreads from the one of page ``number`` on, as far as there are."""
    every, first = spreads_of(publication), spread_index(publication, number)
    return tuple(page for spread in every[first : first + spreads] for page in spread.numbers)


def _ended(publication: Publication, flow: Flow) -> Publication:
    """The columns in which the text ends made as even as lines allow."""
    name = flow.columns[flow.chunks[-1].column].block if flow.chunks else ""
    if not name or flow.over_lines:
        return publication
    _, _, block = page_of_block(publication, name)
    assert isinstance(block.holds, HoldsStory)
    return with_thing_anywhere(publication, changed(block, holds=changed(block.holds, balanced=True)))


def _more(flow: Flow) -> float:
    """How much more, or less, room a text is to have."""
    lines = sum(column.lines for column in flow.columns)
    used = max(1, lines - flow.room)
    return min(max((used + flow.over_lines) / max(1, lines), 0.6), 1.8) * (1.01 if flow.over_lines else 0.99)


def _told_of(flow: Flow, left: int) -> str:
    """What came of it."""
    words = "The text fits to the line" if not flow.over_lines and flow.room <= ENOUGH_ROOM else ""
    free_or_over = (
        f"{counted(flow.over_lines, 'line')} over" if flow.over_lines else f"{counted(flow.room, 'line')} free"
    )
    words = words or free_or_over
    return f"{words}; {counted(left, 'picture')} stay in the drawer." if left else f"{words}."


def _shared_out(publication: Publication, story: str, pictures: Sequence[str], spreads: int) -> list[list[str]]:
    """Which pictures come on which spread: by where the text names them, else evenly in their order."""
    named = _named(publication, story, pictures)
    rest = [picture for picture in pictures if picture not in named]
    shares: list[list[str]] = [[] for _ in range(spreads)]
    for picture, place in named.items():
        shares[min(int(place * spreads), spreads - 1)].append(picture)
    for turn, picture in enumerate(rest):
        shares[min(turn * spreads // max(1, len(rest)), spreads - 1)].append(picture)
    return [share[:MOST] for share in shares]


def _named(publication: Publication, story: str, pictures: Sequence[str]) -> dict[str, float]:
    """How far on in the text (0 to 1) a picture's caption shares three long words or more with a paragraph."""
    paragraphs = [_long_words(paragraph.text) for paragraph in story_of(publication, story).paragraphs]
    found = {}
    for picture in publication.pictures:
        words = _long_words(picture.caption)
        if picture.id not in pictures or len(words) < 3:
            continue
        shared = [len(words & each) for each in paragraphs]
        if shared and max(shared) >= 3:
            found[picture.id] = shared.index(max(shared)) / len(shared)
    return found


def _long_words(text: str) -> set[str]:
    return {word.strip(".,;:!?“”\"'()").lower() for word in text.split() if len(word) > 4}


def _tried(
    publication: Publication,
    setter: Setter,
    spreads: Sequence[Spread],
    story: str,
    shares: Sequence[Sequence[str]],
    told: Mapping[str, Told],
    ask: float,
) -> tuple[Publication, int]:
    """The feature laid with so much room asked for its text; and how many pictures found no place."""
    area = area_of_story(publication, story) * ask / len(spreads)
    left = 0
    for turn, (spread, share) in enumerate(zip(spreads, shares, strict=True)):
        publication, items = _items(publication, spread, story, share, told, turn, area)
        while True:
            try:
                found = arranged(publication, spread.numbers, items, most=LOOKED_AT)
                break
            except Problem:
                pictures = [n for n, item in enumerate(items) if item.text is None]
                if not pictures:
                    raise
                del items[pictures[-1]]
                left += 1
        publication = caption_spread(_best_set(publication, setter, found), spread)
    return publication, left


def _items(
    publication: Publication,
    spread: Spread,
    story: str,
    share: Sequence[str],
    told: Mapping[str, Told],
    turn: int,
    area: float,
) -> tuple[Publication, list[Item]]:
    """What comes on a spread: its pictures, the next of the text, and before the first of it what opens it."""
    names = fresh_ids("b", thing_ids(publication))
    blocks = [Block(id=next(names), place=ANYWHERE, holds=HoldsStory(story=story, turn=turn))]
    taken = {block.holds.paragraphs[0].role for _, _, block in blocks_on(publication, spread)
             if isinstance(block.holds, HoldsDisplay) and block.holds.paragraphs}  # fmt: skip
    title, quotes = story_of(publication, story).title, _quotes(publication, story)
    roles = {role.name for role in publication.roles}
    if turn and quotes and QUOTE in roles:
        blocks.append(Block(id=next(names), place=ANYWHERE, holds=display_words(QUOTE, quotes[turn % len(quotes)])))
    if turn == 0 and title and OPENS not in taken and OPENS in roles:
        blocks.append(Block(id=next(names), place=ANYWHERE, holds=display_words(OPENS, title)))
    page = publication.pages[spread.numbers[0] - 1]
    publication = with_things(publication, page.id, lambda things: (*things, *blocks))
    items = list(items_of(publication, [block.id for block in blocks], share, told))[:MOST_ITEMS]
    for at, item in enumerate(items):
        if item.text is not None and item.text.runs:
            text = text_asked(publication, page_of_block(publication, item.block)[2], area)
            items[at] = replace(item, picture=NO_PICTURE, text=text)
    return publication, items


def _quotes(publication: Publication, story: str) -> list[str]:
    """What is said in the story, between quotation marks, that is neither short nor long."""
    text = " ".join(paragraph.text for paragraph in story_of(publication, story).paragraphs)
    return list(dict.fromkeys(each for each in _QUOTED.findall(text) if SHORTEST <= len(each) <= LONGEST))


def _best_set(publication: Publication, setter: Setter, found: Sequence[Arrangement]) -> Publication:
    """The first whose words set large go in."""
    made = [lay_arrangement(publication, each)[0] for each in found]
    return next((each for each in made if _goes_in(each, setter, found[0])), made[0])


def _goes_in(publication: Publication, setter: Setter, arrangement: Arrangement) -> bool:
    for item in arrangement.items:
        if item.text is None or item.text.runs:
            continue
        index, _, block = page_of_block(publication, item.block)
        box = block_box(publication, index + 1, block)
        if display_marks(setter.composer, publication, block, box).over_lines:
            return False
    return True
