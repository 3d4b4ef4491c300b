"""Words of a draft: titles, and the captions of a spread gathered in the white that it leaves."""

from half_fold.core.arrange.room import Fields, Room, Wholes, room_of, standing
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPicture, Paragraph, Publication, Run
from half_fold.core.publication.surgery import fresh_id, master_of, picture_of, thing_ids, with_things
from half_fold.core.spread.where.frames import blocks_on

LEAST_ACROSS = 2  # fields: a caption is no narrower
TITLE, CAPTION = "headline", "caption"


def lay_title(publication: Publication, number: int, title: str) -> Publication:
    """A title on a page by itself: over the middle of it, where the upper third ends. None where it has no words."""
    page = publication.pages[number - 1]
    role = next((role.name for role in publication.roles if role.name == TITLE), "")
    if not title or not role:
        return publication
    grid = page.grid or master_of(publication, page).grid
    row = max(0, grid.rows // 3)

    def field(index: int, count: int) -> Stop:
        return Stop(kind="field", index=index, count=count)

    block = Block(
        id=fresh_id("b", thing_ids(publication)),
        place=Held(
            left=field(0, grid.columns),
            top=field(row, grid.rows),
            right=field(grid.columns - 1, grid.columns),
            bottom=field(min(row + max(0, grid.rows // 4 - 1), grid.rows - 1), grid.rows),
        ),
        holds=HoldsDisplay(paragraphs=(Paragraph(role=role, runs=(Run(text=title),)),), side="centre"),
    )
    return with_things(publication, page.id, lambda things: (*things, block))


def caption_spread(publication: Publication, spread: Spread) -> Publication:
    """The captions of a spread gathered where there is white; nothing where there are none, or no room."""
    held = (block.holds for _, _, block in blocks_on(publication, spread))
    said = [picture_of(publication, each.picture).caption for each in held if isinstance(each, HoldsPicture)]
    if not any(said) or not any(role.name == CAPTION for role in publication.roles):
        return publication
    room = room_of(publication, spread.numbers)
    free = _largest_free(room, room.cells(standing(publication, spread, room)))
    if free is None:
        return publication
    number, place = room.place(room.number(free))
    block = Block(
        id=fresh_id("b", thing_ids(publication)),
        place=place,
        holds=HoldsDisplay(
            paragraphs=(Paragraph(role=CAPTION, runs=(Run(text="{captions}"),)),), stands="foot", side="left"
        ),
    )
    return with_things(publication, publication.pages[number - 1].id, lambda things: (*things, block))


def _largest_free(room: Room, taken: Wholes) -> Fields | None:
    """The free fields of one page that are the largest rectangle, no wider than three and one high, in the margins."""
    grid = taken.reshape(len(room.rows), len(room.columns)) > 0
    best: tuple[float, Fields] | None = None
    for row in range(len(room.rows)):
        for first in range(len(room.columns)):
            for last in range(first + LEAST_ACROSS - 1, min(first + 3, len(room.columns))):
                if grid[row, first : last + 1].any() or room.columns[first].page != room.columns[last].page:
                    continue
                beside = grid[max(0, row - 1) : row + 2, max(0, first - 1) : last + 2].sum()
                score = (last - first) + 0.2 * float(beside) + 0.1 * row
                if best is None or score > best[0]:
                    best = score, (first, last, row, row, 0)
    return None if best is None else best[1]
