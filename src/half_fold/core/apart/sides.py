"""The sides of what lies apart, as spreads of their own: every edit of a spread serves them too.

A side is a publication of three pages, made from the job: nothing, the left page, the right page. Its one
master keeps the pages apart by the width of the spine. It is never stored; only its blocks go back.
"""

from collections.abc import Callable

from msgspec.structs import replace

from half_fold.core.apart.cards import FACES, card_of, card_panels, cards_of, face_name, is_of_card
from half_fold.core.apart.covers import (
    FIELDS,
    called_field,
    cover_fields,
    cover_page_name,
    cover_sides,
    cover_spread,
    require_cover,
)
from half_fold.core.apart.pair import LEFT, RIGHT, SPREAD
from half_fold.core.brief.wrap import Panels, cover_panels
from half_fold.core.measure.kept import Keeper, kept
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import Brief, Cover, Grid, Insert, Master, Page, Publication
from half_fold.core.publication.surgery import swap
from half_fold.core.publication.things import Things

Side = str  # "outside", "inside" or "flaps" of the cover, or what the faces of a card are (see cards.py)
_MASTER = "cover"
_OF = "cover's"  # how the ids of its pages begin
SHARED = (
    "stories",
    "pictures",
    "roles",
    "inks",
    "papers",
    "fonts",
    "symbols",
    "text_roles",
    "goods",
    "fades",
    "looks",
    "sets",
    "manner",
    "spelled",
)  # what a side has of the whole job
_KEPT = 12


def fields_of(publication: Publication, side: Side) -> tuple[str, str]:
    """The fields, of the cover or of a card, that lie left and right on a side."""
    return FACES if is_of_card(side) else cover_fields(publication, side)


def page_name(publication: Publication, side: Side, number: int) -> str:
    """What a page of a side is called: ``front cover``; of a card its name, and which face."""
    card = card_of(publication, side)
    return cover_page_name(publication, side, number) if card is None else face_name(card, number)


def _holder(publication: Publication, side: Side) -> Cover | Insert:
    """What has the things of a side: the cover, or an insert. Problem for an insert that is no longer there."""
    card = card_of(publication, side)
    if card is None and is_of_card(side):
        raise Problem("That insert is no longer in the job; undo what took it away, or turn to another side.")
    return card or publication.cover


def panel_called(side: Publication, number: int) -> str:
    """What a page of the publication of a side is called; "" for one of a job."""
    page = side.pages[number - 1]
    field = page.id.removeprefix(f"{_OF} ")
    if page.master != _MASTER or field == page.id:
        return ""
    return called_field(field)


def sides_of(publication: Publication) -> tuple[Side, ...]:
    """All that lies apart from the pages of a job: the sides of its cover, and the faces of the cards bound in."""
    return (*cover_sides(publication), *cards_of(publication))


def side_called(publication: Publication, name: str) -> Side:
    """The side of that name; the first there is where there is none of that name."""
    every = sides_of(publication)
    return next((side for side in every if side == name), every[0] if every else "outside")


def spread_of_side(publication: Publication, side: Side = "outside") -> Spread:
    """The pages of a side as a spread: both, or the front alone."""
    return SPREAD if is_of_card(side) else cover_spread(publication, side)


def side_of(publication: Publication, side: Side) -> Publication:
    """The publication of one side; the same record as long as the job is the same.

    Problem for a self-cover job, and for an insert that is no longer there.
    """
    if isinstance(_holder(publication, side), Cover):
        require_cover(publication)
    return _side(publication, side)


@kept(_KEPT)
def _side(publication: Publication, side: Side) -> Publication:
    brief, masters = _framed(publication, side)
    every = (*FIELDS, *cards_of(publication))
    other = tuple(page for each in every if each != side for page in _side_pages(publication, each))
    return replace(
        publication,
        brief=brief,
        masters=masters,
        pages=_side_pages(publication, side),
        # Waiting pages, so that the id of a new block is new in all of the job.
        unplaced=(*publication.pages, *publication.unplaced, *other),
        cover=Cover(),
    )


def _framed(publication: Publication, side: Side) -> tuple[Brief, tuple[Master, ...]]:
    """Brief and master of a side; the same records as long as they would say the same, for frames key on them."""
    card = card_of(publication, side)
    panels = cover_panels(publication) if card is None else card_panels(publication, card)
    if side == "flaps":  # as pages that are so wide, and so far apart
        between = 2 * panels.width + (panels.spine or 0.0)
        panels = replace(panels, width=panels.front_flap or panels.flap, spine=between)
    brief, grid = publication.brief, publication.cover.grid
    key = (id(brief), id(grid), panels)
    return _frames.find(key) or _frames.keep(key, (brief, grid), _frame(brief, grid, panels))


_frames: Keeper[tuple[Brief, tuple[Master, ...]]] = Keeper(_KEPT)


def _frame(brief: Brief, grid: Grid, panels: Panels) -> tuple[Brief, tuple[Master, ...]]:
    between = f"{panels.spine!r}mm" if panels.spine is not None else "0mm"
    return _panel_brief(brief, panels), (Master(name=_MASTER, grid=grid, between=length(between)),)


def _panel_brief(brief: Brief, panels: Panels) -> Brief:
    """The brief as if back and front of the cover were pages."""
    own: dict[str, object] = {"fold_loss": length("0mm"), "right_bound": False}
    sizes = (("width", panels.width), ("height", panels.height), ("bleed", panels.beyond))
    own |= {field: length(f"{mm!r}mm") for field, mm in sizes if abs(getattr(brief, field).mm - mm) > 1e-9}
    return replace(brief, **own)


def _side_pages(publication: Publication, side: str) -> tuple[Page, ...]:
    return _pages(_holder(publication, side), *fields_of(publication, side))


@kept(_KEPT)
def _pages(cover: Cover | Insert, left: str, right: str) -> tuple[Page, ...]:
    return (
        Page(id=f"{_OF} none", master=_MASTER),
        Page(id=f"{_OF} {left}", master=_MASTER, things=getattr(cover, left)),
        Page(id=f"{_OF} {right}", master=_MASTER, things=getattr(cover, right)),
    )


def with_side(publication: Publication, side: Side, changed: Publication) -> Publication:
    """The job with the things of a changed side. Problem for an insert that is no longer there."""
    things: dict[str, Things] = {
        field: changed.pages[number - 1].things
        for field, number in zip(fields_of(publication, side), (LEFT, RIGHT), strict=True)
    }
    holder = _holder(publication, side)
    if isinstance(holder, Insert):
        return replace(publication, inserts=swap(publication.inserts, replace(holder, **things)))
    return replace(publication, cover=replace(holder, **things))


def edit_side(publication: Publication, side: Side, edit: Callable[[Publication], Publication]) -> Publication:
    """The job after an edit of one side. Problem as the edit raises it."""
    from half_fold.core.spread.edits.keeping import settle  # with all that can be set of things: at the first edit

    before = side_of(publication, side)
    after = settle(before, edit(before))
    if after is before:
        return publication
    return with_all_of(publication, side, after)


def with_all_of(publication: Publication, side: Side, changed: Publication) -> Publication:
    """The job with the things of a changed side, and with what of the whole job was changed there."""
    shared = {name: made for name in SHARED if (made := getattr(changed, name)) is not getattr(publication, name)}
    return with_side(replace(publication, **shared) if shared else publication, side, changed)


def is_blank(publication: Publication, side: Side) -> bool:
    """Whether nothing lies on that side."""
    holder = _holder(publication, side)
    return not any(getattr(holder, field) for field in fields_of(publication, side))
