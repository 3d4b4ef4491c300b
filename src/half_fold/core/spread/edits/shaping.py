"""Shapes drawn by hand: a polygon corner by corner, a slice along a line, from places on the spread."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.kinds import form_of, kind_of
from half_fold.core.publication.records import Block, Form, Publication
from half_fold.core.publication.surgery import page_of_block, with_thing_anywhere
from half_fold.core.spread.where.frames import block_box, turn_of

Place = tuple[float, float]
LEAST_SLICE = 2.0  # points: a shorter line is a slip of the hand


def has_form(block: Block) -> bool:
    """Whether a block has a form to be drawn: a panel, a picture, or words on a ground."""
    return form_of(block.holds) is not None


def _form(block: Block) -> Form:
    form = form_of(block.holds)
    if form is None:
        raise Problem("Only a panel, a picture or words on a ground have a shape; choose one of them.")
    return form


def _with_form(block: Block, form: Form) -> Block:
    with_form = kind_of(block.holds).with_form
    assert with_form is not None  # it has one
    return replace(block, holds=with_form(block.holds, form))


def _shares(publication: Publication, block: str, places: Sequence[Place]) -> tuple[Place, ...]:
    """Places on the spread as shares of a block's width and height, as it lies before it is turned."""
    index, _, found = page_of_block(publication, block)
    box = block_box(publication, index + 1, found)
    turn = turn_of(publication, index + 1, found)
    back = None if turn is None else turn.inverse()
    upright = [place if back is None else back.of(*place) for place in places]
    return tuple((round((x - box.left) / box.width, 4), round((y - box.top) / box.height, 4)) for x, y in upright)


def draw_form(publication: Publication, block: str, places: Sequence[Place]) -> Publication:
    """The block's form as a polygon through those places (points of spread space). Problem for fewer than three."""
    _, _, found = page_of_block(publication, block)
    form = _form(found)
    if len(places) < 3:
        raise Problem("A shape needs three corners at least; click one more.")
    shares = tuple((min(max(x, 0.0), 1.0), min(max(y, 0.0), 1.0)) for x, y in _shares(publication, block, places))
    return with_thing_anywhere(publication, _with_form(found, replace(form, kind="polygon", places=shares, slice=())))


def slice_along(publication: Publication, block: str, start: Place, end: Place) -> Publication:
    """The block's form cut off along a line: what lies to the left of the way from start to end stays.

    Problem where the line is too short to say which way it runs.
    """
    _, _, found = page_of_block(publication, block)
    form = _form(found)
    if abs(end[0] - start[0]) + abs(end[1] - start[1]) < LEAST_SLICE:
        raise Problem("That line is too short to cut along; draw it right across the shape.")
    return with_thing_anywhere(
        publication, _with_form(found, replace(form, slice=_shares(publication, block, (start, end))))
    )
