"""The marks of a picture in its block: once, repeated to both sides by its mirror images, or parted by the fold."""

import math
from collections.abc import Iterator

from half_fold.core.brief.allowances import fold_loss
from half_fold.core.drawing.affine import Affine, flipped
from half_fold.core.drawing.marks import Mark, PictureMark, from_block
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.library.fit import placed, turned_in
from half_fold.core.publication.records import Block, HoldsPicture, Publication
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.setting.developed import key_of_block
from half_fold.core.spread.setting.forms import is_plain, outline_in
from half_fold.core.spread.setting.panels import edge_marks
from half_fold.core.spread.where.frames import page_frame_of, turn_of

OVER = 0.03  # points by which mirror images lie under each other, so that no renderer leaves a gap between them
MOST_IMAGES = 60


def picture_marks(publication: Publication, number: int, block: Block, box: Rect) -> list[Mark]:
    """What a picture block on page ``number`` prints; vector art as outlines."""
    holds = block.holds
    assert isinstance(holds, HoldsPicture)
    picture = picture_of(publication, holds.picture)
    edges = edge_marks(publication, from_block(block.id), holds, box)
    where = placed(picture, holds, box)
    if picture.art:
        from half_fold.core.spread.setting.vectors import vector_marks

        turn = turned_in(holds, box, where)
        return [*vector_marks(publication, block, picture, where, turn, outline_in(holds.form, box)), *edges]
    outline = None if is_plain(holds.form) else outline_in(holds.form, box)
    marks: list[Mark] = []
    for image, affine in _images(holds, box, where):
        mark = PictureMark(key_of_block(publication, block), image, box, from_block(block.id), affine, outline)
        marks += _parted(publication, number, block, mark)
    return [*marks, *edges]


def _images(holds: HoldsPicture, box: Rect, where: Rect) -> Iterator[tuple[Rect, Affine | None]]:
    """Where the picture lies, and how it is turned; its mirror images first, the farthest behind."""
    if holds.repeated and not holds.turn:
        before = min(MOST_IMAGES, math.ceil(max(0.0, where.left - box.left) / where.width - 1e-6))
        after = min(MOST_IMAGES, math.ceil(max(0.0, box.right - where.right) / where.width - 1e-6))
        for step in sorted([*range(-before, 0), *range(1, after + 1)], key=abs, reverse=True):
            image = where.moved(step * where.width, 0)
            image = Rect(image.left - OVER, image.top, image.right + OVER, image.bottom)
            yield image, flipped(image) if (step % 2 == 1) != holds.flipped else None
    yield where, turned_in(holds, box, where)


def _parted(publication: Publication, number: int, block: Block, mark: PictureMark) -> list[Mark]:
    """In two where the block lies over the fold: each half as far from it as the binding takes of a page."""
    assert isinstance(block.holds, HoldsPicture)
    if not block.holds.parted or mark.outline is not None or turn_of(publication, number, block) is not None:
        return [mark]
    fold, loss = page_frame_of(publication, number).fold, fold_loss(publication).value * MM
    box = mark.clip
    if not loss or not box.left < fold < box.right:
        return [mark]
    halves = (-loss, Rect(box.left, box.top, fold, box.bottom)), (loss, Rect(fold, box.top, box.right, box.bottom))
    return [_moved(mark, by, clip) for by, clip in halves]


def _moved(mark: PictureMark, by: float, clip: Rect) -> PictureMark:
    shift = Affine(1, 0, 0, 1, by, 0)
    affine = None if mark.affine is None else shift.after(mark.affine).after(Affine(1, 0, 0, 1, -by, 0))
    return PictureMark(mark.picture, mark.placed.moved(by, 0), clip, mark.origin, affine)
