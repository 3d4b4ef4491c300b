"""Which words that keep calm may no longer lie on what they lay on, since other pictures have come to lie there."""

from collections.abc import Iterator

from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPicture, Publication
from half_fold.core.publication.surgery import COVER_SIDES
from half_fold.core.publication.things import Things, every_thing

Held = tuple[str, str, str]


def disturbed(before: Publication, after: Publication) -> list[str]:
    """The ids of words that keep calm, on pages and panels on which other pictures lie after an edit than before."""
    if after.pages is before.pages and after.cover is before.cover and _cards_alike(before, after):
        return []
    was, found = dict(_parts(before)), []
    for name, things in _parts(after):
        old = was.get(name, ())
        if things is old and after.pictures is before.pictures:
            continue
        calm = [block.id for block in _blocks(things) if isinstance(block.holds, HoldsDisplay) and block.holds.calm]
        if calm and _pictures(after, things) != _pictures(before, old):
            found += calm
    return found


def _cards_alike(before: Publication, after: Publication) -> bool:
    return after.inserts is before.inserts and after.pictures is before.pictures


def _parts(publication: Publication) -> Iterator[tuple[str, Things]]:
    """The things of each page, of each panel of the cover, and of each face of a card."""
    yield from ((page.id, page.things) for page in publication.pages)
    yield from ((side, getattr(publication.cover, side)) for side in COVER_SIDES)
    for insert in publication.inserts:
        yield from ((f"{insert.id} front", insert.front), (f"{insert.id} back", insert.back))


def _blocks(things: Things) -> Iterator[Block]:
    return (thing for thing in every_thing(things) if isinstance(thing, Block))


def _pictures(publication: Publication, things: Things) -> set[Held]:
    """Which picture each block holds, as it looks."""
    known = {picture.id: picture for picture in publication.pictures}
    return {
        (block.id, known[block.holds.picture].digest, known[block.holds.picture].mask)
        for block in _blocks(things)
        if isinstance(block.holds, HoldsPicture) and block.holds.picture in known
    }
