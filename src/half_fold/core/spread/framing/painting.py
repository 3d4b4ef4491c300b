"""Masks that are painted: strokes that add and strokes that take away, each on what the ones before it left."""

from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace
from PIL import Image

from half_fold.core.pictures.colour.regions import belongs
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.pyramid import STEPS, reduced
from half_fold.core.pictures.rasters.mask_files import keep_in_masks, read_from_masks
from half_fold.core.publication.records import (
    Area,
    Block,
    Brushed,
    HoldsPicture,
    Picture,
    Publication,
    Region,
    Treatment,
)
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.framing.retouching import BRUSH, BRUSH_PX, free_photograph, with_part
from half_fold.core.spread.setting.developed import stated_treatment, treat_anew

COARSE = 5.0  # pixels of a blur that leaves nothing finer to be seen
Plane = npt.NDArray[np.float32]


class Dab(NamedTuple):
    """A place of a stroke as shares of the picture, and how hard it was pressed there, from 0 to 1."""

    across: float
    down: float
    pressure: float = 1.0


class Brush(NamedTuple):
    """How wide a stroke is, as a share of the picture's longer side; how soft and how strong, from 0 to 1."""

    wide: float = BRUSH
    soft: float = 0.5
    strength: float = 1.0


def paint_part(
    publication: Publication, folder: Path, name: str, index: int, stroke: Sequence[Dab], brush: Brush, *, away: bool
) -> Publication:
    """A stroke on the part of that number (from 0) that is treated by itself; one more part where there is none."""
    block, _, picture = free_photograph(publication, name)
    before = stated_treatment(publication, block) or Treatment()
    old = before.areas[index] if index < len(before.areas) else None
    where = painted_over(folder, picture, None if old is None else old.where, stroke, brush, away=away)
    if old is None:
        return with_part(publication, name, where)
    areas = (*before.areas[:index], Area(where=where, treatment=old.treatment), *before.areas[index + 1 :])
    return treat_anew(publication, block, replace(before, areas=areas))


def paint_seen(
    publication: Publication, folder: Path, name: str, stroke: Sequence[Dab], brush: Brush, *, away: bool
) -> Publication:
    """A stroke on what is seen of a picture."""
    block, _, picture = free_photograph(publication, name)
    before = stated_treatment(publication, block) or Treatment()
    where = painted_over(folder, picture, before.seen, stroke, brush, away=away)
    return treat_anew(publication, block, replace(before, seen=where))


def painted_over(
    folder: Path, picture: Picture, before: Region | None, stroke: Sequence[Dab], brush: Brush, *, away: bool
) -> Brushed:
    """A region after a stroke more, kept among the job's masks.

    Without one before, what is added is all there is of it, and what is taken away is all that it has not.
    """
    size = _size(picture)
    laid = _laid(stroke, brush, size)
    was = _mask_of(before, folder, picture, size, full=away)
    made = was * (1 - laid) if away else was + laid * (1 - was)
    file = keep_in_masks(folder, Image.fromarray(np.rint(255 * made).astype(np.uint8), "L"))
    if isinstance(before, Brushed) and not before.outside:
        return replace(before, file=file)
    return Brushed(file=file)


def painted_mask(
    publication: Publication, folder: Path, block: Block, index: int | None
) -> npt.NDArray[np.uint8] | None:
    """The mask of a part of a picture, by its number, or of what is seen of it: 0 to 255, shape (high, wide).

    None where there is no such part.
    """
    assert isinstance(block.holds, HoldsPicture)
    picture, treatment = (
        picture_of(publication, block.holds.picture),
        stated_treatment(publication, block) or Treatment(),
    )
    areas = [area.where for area in treatment.areas]
    region = treatment.seen if index is None else next(iter(areas[index : index + 1]), None)
    if region is None:
        return None
    wide, high = _size(picture)
    small = Image.new("RGB", (max(1, wide // 2), max(1, high // 2)))
    return np.rint(255 * belongs(region, small, folder)).astype(np.uint8)


def _size(picture: Picture) -> tuple[int, int]:
    by = min(1.0, BRUSH_PX / max(picture.width, picture.height))
    return max(1, round(picture.width * by)), max(1, round(picture.height * by))


def _mask_of(region: Region | None, folder: Path, picture: Picture, size: tuple[int, int], *, full: bool) -> Plane:
    """What a region was, from 0 to 1, shape (high, wide): of a painted one as it was painted, whatever its rim."""
    if region is None:
        return np.full((size[1], size[0]), float(full), np.float32)
    if isinstance(region, Brushed) and not region.outside:
        mask = read_from_masks(folder, region.file, "a brushed part").resize(size, Image.Resampling.BILINEAR)
        return np.asarray(np.asarray(mask, np.float32) / np.float32(255), np.float32)
    image = reduced(picture_file(folder, picture), picture.digest, STEPS[1]).convert("RGB").resize(size)
    return np.asarray(belongs(region, image, folder), np.float32)


def _laid(stroke: Sequence[Dab], brush: Brush, size: tuple[int, int]) -> Plane:
    """How thickly a stroke covers, from 0 to its strength; it is as wide as it was pressed."""
    from half_fold.core.measure.opencv import cv2

    made = np.zeros((size[1], size[0]), np.uint8)
    wide = max(1.0, brush.wide * max(size))
    at = [(round(dab.across * size[0]), round(dab.down * size[1])) for dab in stroke]
    thick = [max(1, round(wide * max(dab.pressure, 0.05))) for dab in stroke]
    for place, across in zip(at, thick, strict=True):
        cv2.circle(made, place, max(1, across // 2), 255, -1, cv2.LINE_AA)
    for start, end, across in zip(at, at[1:], thick[1:], strict=False):
        cv2.line(made, start, end, 255, across, cv2.LINE_AA)
    blur = brush.soft * wide / 3
    coarser = max(1, int(blur / COARSE))  # what is so soft needs no finer pixels, and takes a tenth of the time
    if coarser > 1:
        small = cv2.resize(made, (-(-size[0] // coarser), -(-size[1] // coarser)), interpolation=cv2.INTER_AREA)
        soft = cv2.resize(cv2.GaussianBlur(small, (0, 0), blur / coarser), size, interpolation=cv2.INTER_LINEAR)
    else:
        soft = cv2.GaussianBlur(made, (0, 0), blur) if blur > 0.5 else made
    thickly: Plane = np.asarray(soft).astype(np.float32) * np.float32(brush.strength / 255)
    return thickly
