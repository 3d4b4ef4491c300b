"""Furniture on a page that one picture covers: left off, or set over it in an ink that reads there."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import Glyphs, Line, Mark
from half_fold.core.drawing.tone import BLACK, WHITE, Tone
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.tones import lightness_in, stands_off
from half_fold.core.pictures.library.fit import placed, turned_in
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.records import HoldsPicture, Picture, Publication, Treatment
from half_fold.core.publication.surgery import picture_of, with_page
from half_fold.core.spread.setting.developed import treatment_of
from half_fold.core.spread.setting.forms import is_plain
from half_fold.core.spread.setting.furniture import PlacedPiece
from half_fold.core.spread.where.frames import block_box, blocks_on

ENOUGH = 35.0  # L* between ink and ground from which words of furniture are read with ease, common practice
WAYS = (("", "as it is"), ("over", "set over the picture"), ("off", "left off"))
_NEAR = 0.1


class Covering(NamedTuple):
    """The picture that covers a page, how it is held, and where all of it lies before it is turned, in points."""

    block: str
    picture: Picture
    holds: HoldsPicture
    lies: Rect
    turn: Affine | None
    treatment: Treatment | None


def cover_of(publication: Publication, spread: Spread, trim: Rect) -> Covering | None:
    """The frontmost picture that is seen all over a page; None where there is none."""
    found = None
    for number, _page, block in blocks_on(publication, spread):
        holds = block.holds
        if not isinstance(holds, HoldsPicture) or not is_plain(holds.form):
            continue
        picture, box = picture_of(publication, holds.picture), block_box(publication, number, block)
        lies = placed(picture, holds, box)
        if not picture.has_alpha and _reaches_over(box.clipped(lies), trim):
            found = Covering(
                block.id, picture, holds, lies, turned_in(holds, box, lies), treatment_of(publication, block)
            )
    return found


def _reaches_over(box: Rect, trim: Rect) -> bool:
    across = box.left <= trim.left + _NEAR and box.right >= trim.right - _NEAR
    return across and box.top <= trim.top and box.bottom >= trim.bottom


def over(cover: Covering, pieces: Iterable[PlacedPiece]) -> Iterator[Mark]:
    """The marks of furniture on a picture, each piece in its own ink where that reads there, else in paper or black."""
    for piece in pieces:
        for mark in piece.marks:
            yield _in_ink(cover, piece.box, mark)


def _in_ink(cover: Covering, box: Rect, mark: Mark) -> Mark:
    if isinstance(mark, Glyphs) and isinstance(mark.colour, Tone):
        return replace(mark, colour=reading_ink(cover, box, mark.colour))
    if isinstance(mark, Line) and isinstance(mark.colour, Tone):
        return replace(mark, colour=reading_ink(cover, box, mark.colour))
    return mark


def reading_ink(cover: Covering, box: Rect, own: Tone) -> Tone:
    """The ink in which something in ``box`` is read on a picture: its own where that does, else paper or black."""
    lies = cover.lies
    if cover.turn is not None:
        box = cover.turn.inverse().around(box)
    shares = (
        (box.left - lies.left) / lies.width,
        (box.top - lies.top) / lies.height,
        (box.right - lies.left) / lies.width,
        (box.bottom - lies.top) / lies.height,
    )
    ground = lightness_in(cover.picture, cover.treatment, *shares)
    if ground is None or stands_off(own, *ground) >= ENOUGH:
        return own
    return max((WHITE, BLACK), key=lambda ink: stands_off(ink, *ground))


def set_over(publication: Publication, number: int, text: str) -> Publication:
    """How the furniture of a page stands: as it is, ``over`` pictures too, or ``off``. Problem for anything else."""
    page = publication.pages[number - 1]
    way = next((way for way, words in WAYS if text.strip().lower() in (way, words)), None)
    if way is None:
        raise Problem(f"“{text}” is no way for furniture to stand; give over, off, or nothing.")
    return with_page(publication, replace(page, furniture=way))
