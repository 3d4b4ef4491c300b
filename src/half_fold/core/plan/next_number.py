"""The next number: a job begun from the one before, with all that stays and nothing that was that issue's own."""

import re

from msgspec.structs import replace

from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsNothing,
    HoldsPicture,
    HoldsStory,
    Page,
    Publication,
    blocks_of,
)
from half_fold.core.publication.references import PICTURE, STORY, references
from half_fold.core.publication.surgery import COVER_SIDES
from half_fold.core.publication.things import Things, mapped, without

SEASONS = ("spring", "summer", "autumn", "winter")
MONTHS = (
    "january", "february", "march", "april", "may", "june",
    "july", "august", "september", "october", "november", "december",
)  # fmt: skip
_LAST_FIGURE = re.compile(r"(\d+)(\D*)$")
MOST_ADDON = 99


def begin_next_number(publication: Publication) -> Publication:
    """The next issue of a job: brief, printer, masters, type sheet, inks and what stands stay.

    Pages that *stand* keep all they hold; the others are empty, with their masters. Of the cover the places stay, words
    and barcode with them, and its pictures are kept free. Issue, season and the barcode's add-on go on; dates, what was
    said of pages and what waited unplaced are gone.
    """
    pages = tuple(_emptied(page) for page in publication.pages)
    cover = replace(publication.cover, **{side: _of_next(getattr(publication.cover, side)) for side in COVER_SIDES})
    made = replace(
        publication,
        issue=next_figure(publication.issue),
        season=next_season(publication.season),
        date="",
        brief=replace(publication.brief, press_date=""),
        pages=pages,
        unplaced=(),
        cover=cover,
        covers=(),
    )
    return _without_unused(made)


def _emptied(page: Page) -> Page:
    if page.standing:
        return replace(page, state="")
    return Page(id=page.id, master=page.master, without=page.without, grid=page.grid)


def _of_next(things: Things) -> Things:
    """What lies on a cover, for the next issue: its story blocks go, its pictures leave their places."""
    stories = {block.id for block in blocks_of(things) if isinstance(block.holds, HoldsStory)}
    return mapped(without(things, stories), _next_block)


def _next_block(block: Block) -> Block:
    if isinstance(block.holds, HoldsPicture) and not block.holds.form.slice:
        return replace(block, holds=HoldsNothing())
    if isinstance(block.holds, HoldsBarcode):
        return replace(block, holds=replace(block.holds, addon=next_addon(block.holds.addon)))
    return block


def _without_unused(publication: Publication) -> Publication:
    """Without the stories and pictures that nothing names any more."""
    named = {(each.kind, each.name) for each in references(publication)}
    return replace(
        publication,
        stories=tuple(story for story in publication.stories if (STORY, story.id) in named),
        pictures=tuple(picture for picture in publication.pictures if (PICTURE, picture.id) in named),
    )


# What goes on by a rule of its own ----------------------------------------------------------------


def next_figure(text: str) -> str:
    """``No. 14`` becomes ``No. 15``: the last figure one more, with as many digits."""
    found = _LAST_FIGURE.search(text)
    if found is None:
        return text
    figure = str(int(found[1]) + 1).zfill(len(found[1]))
    return f"{text[: found.start()]}{figure}{found[2]}"


def next_addon(text: str) -> str:
    """A barcode's add-on of two digits one on, 99 followed by 01; a price of five digits stays."""
    if len(text) != 2 or not text.isdigit():
        return text
    return f"{int(text) % MOST_ADDON + 1:02d}"


def next_season(text: str) -> str:
    """``Winter 2026`` becomes ``Spring 2027``, ``November`` ``December``: the year goes on where the round ends."""
    for names in (SEASONS, MONTHS):
        for at, name in enumerate(names):
            found = re.search(rf"\b{name}\b", text, re.IGNORECASE)
            if found is not None:
                after = names[(at + 1) % len(names)]
                made = text[: found.start()] + _as_written(after, found[0]) + text[found.end() :]
                return _next_year(made) if at == len(names) - 1 else made
    return text


def _as_written(word: str, like: str) -> str:
    return word.upper() if like.isupper() and len(like) > 1 else word.capitalize() if like[0].isupper() else word


def _next_year(text: str) -> str:
    return re.sub(r"\b(19|20)\d\d\b", lambda year: str(int(year[0]) + 1), text)
