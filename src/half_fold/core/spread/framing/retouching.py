"""What is drawn on a laid picture with the hand: lines made level or upright, areas, points, parts and mends.

Places are shares of the picture as it is shown: once it is put upright, before it is flipped, cropped or turned.
"""

import math
from collections.abc import Sequence
from pathlib import Path

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace
from PIL import Image

from half_fold.core.drawing.affine import turned
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import to_screen
from half_fold.core.pictures.colour.regions import WHOLE
from half_fold.core.pictures.cutting.mending import mended, patched
from half_fold.core.pictures.cutting.upright import homography
from half_fold.core.pictures.library.bring import load_pixels, picture_file
from half_fold.core.pictures.library.developing import shown_whole
from half_fold.core.pictures.library.fit import placed
from half_fold.core.pictures.library.pyramid import STEPS, reduced
from half_fold.core.publication.records import (
    Area,
    Block,
    Coloured,
    HoldsPicture,
    Oval,
    Patch,
    Picture,
    PicturePoint,
    Point,
    Publication,
    Region,
    Slope,
    Treatment,
    Upright,
)
from half_fold.core.publication.surgery import (
    block_named,
    picture_of,
    require_free,
    swap,
    with_thing_anywhere,
)
from half_fold.core.spread.setting.developed import own_treatment, stated_treatment, treat_anew

Line = tuple[PicturePoint, PicturePoint]
Stroke = Sequence[PicturePoint]
LIFT = Treatment(exposure=-0.5)  # what is done in a part at first, to be seen and then set
BRUSH = 0.04  # how wide a brush is, as a share of the longer side
BRUSH_PX = 1200  # pixels of a brushed mask the long way: its edge is soft
MOST_PARTS = 40


def free_photograph(publication: Publication, name: str) -> tuple[Block, HoldsPicture, Picture]:
    """A free block, what it holds, and that picture. Problem where it holds no photograph, or is locked."""
    block = block_named(publication, name)
    if not isinstance(block.holds, HoldsPicture) or picture_of(publication, block.holds.picture).art:
        raise Problem("That block holds no photograph; choose one that does.")
    require_free(publication, name)
    return block, block.holds, picture_of(publication, block.holds.picture)


def share_at(picture: Picture, holds: HoldsPicture, box: Rect, at: PicturePoint) -> PicturePoint:
    """The share of a picture that is seen at a place of the spread, its block itself being unturned."""
    where = placed(picture, holds, box)
    x, y = turned(box.centre, -holds.turn).of(*at)
    across, down = (x - where.left) / where.width, (y - where.top) / where.height
    return (1 - across if holds.flipped else across), down


def place_of(picture: Picture, holds: HoldsPicture, box: Rect, share: PicturePoint) -> PicturePoint:
    """Where on the spread a share of a picture is seen."""
    where = placed(picture, holds, box)
    across = 1 - share[0] if holds.flipped else share[0]
    return turned(box.centre, holds.turn).of(where.left + across * where.width, where.top + share[1] * where.height)


# Level and upright ------------------------------------------------------------------------------------------------


def level_picture(publication: Publication, name: str, line: Line) -> Publication:
    """The picture turned so that a line drawn along its horizon, or along what stands, lies level or upright."""
    block, holds, picture = free_photograph(publication, name)
    (x1, y1), (x2, y2) = line
    across, down = (x2 - x1) * picture.width, (y2 - y1) * picture.height
    if math.hypot(across, down) < 0.02 * max(picture.width, picture.height):
        raise Problem("That line is too short to tell what is level; draw it along more of the horizon.")
    angle = math.degrees(math.atan2(down, across))
    off = (angle + 45) % 90 - 45  # from the nearer of level and upright
    turn = round(off if holds.flipped else -off, 3)
    return with_thing_anywhere(publication, replace(block, holds=replace(holds, turn=turn)))


def make_upright(publication: Publication, name: str, first: Line, second: Line) -> Publication:
    """The picture with both lines upright, and unturned. Problem where they say nothing of it."""
    block, holds, picture = free_photograph(publication, name)
    before = stated_treatment(publication, block) or Treatment()
    back = _back(before, picture)
    lines = [(_through(back, start), _through(back, end)) for start, end in (first, second)]
    upright = Upright(first=lines[0], second=lines[1])
    if np.allclose(homography(upright, (picture.width, picture.height)), np.eye(3), atol=1e-9):
        raise Problem("Those lines say nothing of what is upright; draw two along what stands, far apart.")
    made = replace(block, holds=replace(holds, turn=0.0))
    return treat_anew(publication, made, replace(before, upright=upright))


def _back(treatment: Treatment, picture: Picture) -> npt.NDArray[np.float64]:
    """The way from shares of the upright picture to those of its pixels, a projective map."""
    if treatment.upright is None:
        return np.eye(3)
    size = np.diag([picture.width, picture.height, 1.0])
    there = np.linalg.inv(size) @ homography(treatment.upright, (picture.width, picture.height)) @ size
    return np.asarray(np.linalg.inv(there))


def _through(matrix: npt.NDArray[np.float64], point: PicturePoint) -> PicturePoint:
    x, y, w = matrix @ (*point, 1.0)
    return round(float(x / w), 5), round(float(y / w), 5)


# Areas and points -------------------------------------------------------------------------------------------------


def keep_area_clear(publication: Publication, name: str, corner: PicturePoint, other: PicturePoint) -> Publication:
    """The picture with one more area that is kept clear, wherever it lies."""
    _, _, picture = free_photograph(publication, name)
    (left, right), (top, bottom) = (sorted((_share(corner[i]), _share(other[i]))) for i in (0, 1))
    if right - left < 0.005 or bottom - top < 0.005:
        raise Problem("That area is too small; drag over what is to be kept clear.")
    return _with_picture(publication, replace(picture, keep_clear=(*picture.keep_clear, (left, top, right, bottom))))


def let_area_go(publication: Publication, name: str, at: PicturePoint) -> Publication:
    """The picture without the smallest kept-clear area at a place; itself where there is none."""
    _, _, picture = free_photograph(publication, name)
    there = [a for a in picture.keep_clear if a[0] <= at[0] <= a[2] and a[1] <= at[1] <= a[3]]
    if not there:
        return publication
    smallest = min(there, key=lambda a: (a[2] - a[0]) * (a[3] - a[1]))
    kept = tuple(area for area in picture.keep_clear if area != smallest)
    return _with_picture(publication, replace(picture, keep_clear=kept))


def with_point(publication: Publication, name: str, at: PicturePoint, called: str = "") -> Publication:
    """The picture with a named point; of a name it has already the point moves. By itself it is called eyes."""
    _, _, picture = free_photograph(publication, name)
    known = [point.name for point in picture.points]
    own = called or next(each for each in ("eyes", *(f"point {n}" for n in range(2, 99))) if each not in known)
    made = Point(name=own, across=_share(at[0]), down=_share(at[1]))
    others = tuple(point for point in picture.points if point.name != own)
    return _with_picture(publication, replace(picture, points=(*others, made)))


def _with_picture(publication: Publication, picture: Picture) -> Publication:
    return replace(publication, pictures=swap(publication.pictures, picture))


def _share(value: float) -> float:
    return round(min(max(value, 0.0), 1.0), 4)


# Parts ------------------------------------------------------------------------------------------------------------


def slope_along(start: PicturePoint, end: PicturePoint) -> Slope:
    """A region that grows from one place to another."""
    return Slope(start=_near(start), end=_near(end))


def oval_in(corner: PicturePoint, other: PicturePoint) -> Oval:
    """An ellipse in a box. Problem where that is too small."""
    half = abs(other[0] - corner[0]) / 2, abs(other[1] - corner[1]) / 2
    if min(half) < 0.005:
        raise Problem("That oval is too small; drag over more of the picture.")
    middle = (corner[0] + other[0]) / 2, (corner[1] + other[1]) / 2
    return Oval(middle=_near(middle), half=_near(half))


def _near(point: PicturePoint) -> PicturePoint:
    return round(min(max(point[0], -1.9), 2.9), 4), round(min(max(point[1], -1.9), 2.9), 4)


def _painted(picture: Picture, strokes: Sequence[Stroke], wide: float, longest: int) -> Image.Image:
    """Strokes as a mask of the whole picture."""
    from half_fold.core.measure.opencv import cv2

    by = min(1.0, longest / max(picture.width, picture.height))
    size = max(1, round(picture.width * by)), max(1, round(picture.height * by))
    made = np.zeros((size[1], size[0]), np.uint8)
    thick = max(1, round(wide * max(size)))
    for stroke in strokes:
        points = np.rint(np.array(stroke, np.float64) * size).astype(np.int32)
        cv2.polylines(made, [points], False, 255, thick, cv2.LINE_AA)
        for end in (points[0], points[-1]):
            cv2.circle(made, (int(end[0]), int(end[1])), max(1, thick // 2), 255, -1, cv2.LINE_AA)
    return Image.fromarray(made, "L")


def colour_there(publication: Publication, folder: Path, name: str, at: PicturePoint) -> Coloured:
    """The region of all that has nearly the colour at a place of the picture."""
    block, _, picture = free_photograph(publication, name)
    treatment = stated_treatment(publication, block) or Treatment()
    plain = replace(Treatment(), patches=treatment.patches, upright=treatment.upright)
    image = shown_whole(reduced(picture_file(folder, picture), picture.digest, STEPS[1]), folder, picture, plain)
    x, y = round(_share(at[0]) * (image.width - 1)), round(_share(at[1]) * (image.height - 1))
    around = np.asarray(image.convert("RGB").crop((max(0, x - 2), max(0, y - 2), x + 3, y + 3))).reshape(-1, 3)
    red, green, blue = np.median(around, axis=0).astype(int).tolist()
    return Coloured(colour=f"#{red:02x}{green:02x}{blue:02x}")


def with_part(publication: Publication, name: str, where: Region, done: Treatment = LIFT) -> Publication:
    """The picture with one more part that is treated by itself. Problem where there are too many."""
    block, _, _ = free_photograph(publication, name)
    before = stated_treatment(publication, block) or Treatment()
    if len(before.areas) >= MOST_PARTS:
        raise Problem(f"A picture is treated in {MOST_PARTS} parts at most; take one away first.")
    made = replace(before, areas=(*before.areas, Area(where=where, treatment=done)))
    return treat_anew(publication, block, made)


def without_part(publication: Publication, name: str, index: int) -> Publication:
    """The picture without one of its parts, counted from 0."""
    block, _, _ = free_photograph(publication, name)
    before = own_treatment(block) or Treatment()
    made = replace(before, areas=tuple(area for at, area in enumerate(before.areas) if at != index))
    return treat_anew(publication, block, made)


def show_in(publication: Publication, name: str, where: Region | None) -> Publication:
    """The picture seen only in a region; all of it where that is None."""
    block, _, _ = free_photograph(publication, name)
    before = stated_treatment(publication, block) or Treatment()
    made = replace(before, seen=where)
    return treat_anew(publication, block, made)


# Mending ----------------------------------------------------------------------------------------------------------


def patch_for(
    publication: Publication, folder: Path, name: str, strokes: Sequence[Stroke], wide: float = BRUSH
) -> Patch:
    """A patch for what strokes went over, kept among the job's masks. Problem where nothing is marked, or too much."""
    block, _, picture = free_photograph(publication, name)
    before = stated_treatment(publication, block) or Treatment()
    back = _back(before, picture)
    own = [[_through(back, point) for point in stroke] for stroke in strokes]
    image = to_screen(load_pixels(picture_file(folder, picture)))
    stray = np.asarray(_painted(picture, own, wide, max(image.size)).resize(image.size)) > 127
    return mended(patched(image, before.patches, folder, WHOLE), stray, folder)


def with_patch(publication: Publication, name: str, patch: Patch) -> Publication:
    """The picture of a block with one more patch on it."""
    block, _, _ = free_photograph(publication, name)
    before = stated_treatment(publication, block) or Treatment()
    return treat_anew(publication, block, replace(before, patches=(*before.patches, patch)))


def mend_over(
    publication: Publication, folder: Path, name: str, strokes: Sequence[Stroke], wide: float = BRUSH
) -> Publication:
    """The picture with what strokes went over painted away. Problem where nothing of it is marked, or too much."""
    return with_patch(publication, name, patch_for(publication, folder, name, strokes, wide))
