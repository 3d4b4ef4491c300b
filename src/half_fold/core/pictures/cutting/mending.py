"""A stray thing painted away: with what lies elsewhere in the picture and joins best, or drawn in from its edge."""

from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.regions import Box
from half_fold.core.pictures.rasters.mask_files import keep_in_masks, read_from_masks
from half_fold.core.publication.records import Patch

Octets = npt.NDArray[np.uint8]
RING = 0.35  # of a stray thing's size: so much around it has to agree with what is put there
LEAST_RING = 5  # pixels
SOUGHT = 3.0  # times its size, each way: how far around it is looked for a likeness
THIN = 9  # pixels: what is no wider is drawn in from its edge
MATCHED = 64  # pixels of a stray thing and its ring, the long way, in which its likeness is looked for first
EDGE = 3  # pixels: so far around what is marked its colour may still run
SOFT = 0.08  # of its size: the edge of what is put there


def patched(image: Image.Image, patches: tuple[Patch, ...], folder: Path, part: Box) -> Image.Image:
    """The part of a picture, in sRGB, with its patches laid on. Problem where one has lost its file."""
    for patch in patches:
        image = _laid(image, patch, folder, part)
    return image


def _laid(image: Image.Image, patch: Patch, folder: Path, part: Box) -> Image.Image:
    across, down = image.width / (part[2] - part[0]), image.height / (part[3] - part[1])
    left, right = ((edge - part[0]) * across for edge in (patch.left, patch.right))
    top, bottom = ((edge - part[1]) * down for edge in (patch.top, patch.bottom))
    seen = max(0, int(left)), max(0, int(top)), min(image.width, int(right) + 1), min(image.height, int(bottom) + 1)
    if seen[2] <= seen[0] or seen[3] <= seen[1]:
        return image
    laid = read_from_masks(folder, patch.file, "a mended part", "RGBA")
    to = laid.width / (right - left), laid.height / (bottom - top)
    box = tuple(
        min(max(0.0, (edge - start) * by), most)
        for edge, start, by, most in zip(seen, (left, top) * 2, to * 2, laid.size * 2, strict=True)
    )
    size = seen[2] - seen[0], seen[3] - seen[1]
    piece = laid.resize(size, Image.Resampling.BICUBIC, (box[0], box[1], box[2], box[3]))
    made = image.copy()
    made.paste(piece.convert("RGB"), seen[:2], piece.getchannel("A"))
    return made


def mended(image: Image.Image, stray: npt.NDArray[np.bool_], folder: Path) -> Patch:
    """A patch, kept among the job's masks, for the ``stray`` pixels of a whole picture in sRGB.

    What is put there is taken from where its surroundings are most alike, and as much lighter and of another cast as
    they are; what is thin is drawn in from its edge (Telea, 2004). Problem where nothing is marked, or too much.
    """
    from half_fold.core.measure.opencv import cv2

    rows, columns = np.flatnonzero(stray.any(1)), np.flatnonzero(stray.any(0))
    if not len(rows):
        raise Problem("Nothing is marked there; drag over what is to go.")
    if stray.mean() > 0.25:
        raise Problem("More than a quarter of the picture would go; mark less, or crop it.")
    pixels = np.ascontiguousarray(np.asarray(image.convert("RGB")))
    size = max(len(range(rows[0], rows[-1] + 1)), len(range(columns[0], columns[-1] + 1)))
    ring = max(LEAST_RING, round(RING * size))
    top, bottom = max(0, rows[0] - ring), min(stray.shape[0], rows[-1] + 1 + ring)
    left, right = max(0, columns[0] - ring), min(stray.shape[1], columns[-1] + 1 + ring)
    hole = cv2.dilate(stray[top:bottom, left:right].astype(np.uint8), np.ones((3, 3), np.uint8), iterations=EDGE) > 0
    made = None
    if cv2.distanceTransform(hole.astype(np.uint8), cv2.DIST_L2, 3).max() * 2 > THIN:
        made = _from_elsewhere(pixels, stray, hole, (left, top, right, bottom))
    if made is None:
        near = np.ascontiguousarray(pixels[top:bottom, left:right])
        made = np.asarray(cv2.inpaint(near, hole.astype(np.uint8), 5, cv2.INPAINT_TELEA), np.uint8)
    soft = max(1.0, SOFT * size / 2)
    alpha = np.maximum(cv2.GaussianBlur(hole.astype(np.float32), (0, 0), soft), hole)
    octets = np.concatenate([made, np.rint(255 * alpha).astype(np.uint8)[..., None]], 2)
    file = keep_in_masks(folder, Image.fromarray(octets, "RGBA"))
    wide, high = image.size
    box = float(left / wide), float(top / high), float(right / wide), float(bottom / high)
    return Patch(file=file, left=box[0], top=box[1], right=box[2], bottom=box[3])


def _from_elsewhere(
    pixels: Octets, stray: npt.NDArray[np.bool_], hole: npt.NDArray[np.bool_], box: tuple[int, int, int, int]
) -> Octets | None:
    """What would lie in the hole of the box, taken from nearby; None where there is no room for as much beside it."""
    left, top, right, bottom = box
    wide, high = right - left, bottom - top
    by_x, by_y = round(SOUGHT * wide), round(SOUGHT * high)
    x0, y0 = max(0, left - by_x), max(0, top - by_y)
    x1, y1 = min(stray.shape[1], right + by_x), min(stray.shape[0], bottom + by_y)
    sought, asked = pixels[y0:y1, x0:x1], pixels[top:bottom, left:right]
    found = _likeness(sought, asked, stray[y0:y1, x0:x1], hole)
    if found is None:
        return None
    at_x, at_y = found
    taken = sought[at_y : at_y + high, at_x : at_x + wide]
    off = asked.astype(np.float32) - taken
    met = np.clip(taken + _drawn_in(off, ~hole), 0, 255).round().astype(np.uint8)
    return np.where(hole[..., None], met, asked)


def _likeness(
    sought: Octets, asked: Octets, stray: npt.NDArray[np.bool_], hole: npt.NDArray[np.bool_]
) -> tuple[int, int] | None:
    """The place (x, y) in what is searched whose pixels are most like those asked for outside of the hole.

    Looked for on a reduced copy, and then to the pixel. None where there is no room that is free of what is stray.
    """
    by = max(1, round(max(hole.shape) / MATCHED))
    coarse = _best(*(_reduced(each, by) for each in (sought, asked, stray, hole)))
    if coarse is None or by == 1:
        return coarse
    high, wide = hole.shape
    left, top = (max(0, by * at - 2 * by) for at in coarse)
    right, bottom = min(sought.shape[1], left + wide + 4 * by), min(sought.shape[0], top + high + 4 * by)
    near = sought[top:bottom, left:right], asked, stray[top:bottom, left:right], hole
    fine = _best(*near)
    return None if fine is None else (left + fine[0], top + fine[1])


def _reduced(array: npt.NDArray[np.generic], by: int) -> npt.NDArray[np.generic]:
    return array if by == 1 else np.ascontiguousarray(array[::by, ::by])


def _best(
    sought: npt.NDArray[np.generic],
    asked: npt.NDArray[np.generic],
    stray: npt.NDArray[np.generic],
    hole: npt.NDArray[np.generic],
) -> tuple[int, int] | None:
    from half_fold.core.measure.opencv import cv2

    high, wide = hole.shape
    ring = np.where(hole, 0, 255).astype(np.uint8)
    if sought.shape[0] < high or sought.shape[1] < wide or not ring.any():
        return None
    mask = np.repeat(ring[..., None], 3, 2)
    pixels = np.ascontiguousarray(sought, np.uint8), np.ascontiguousarray(asked, np.uint8)
    unlike = cv2.matchTemplate(*pixels, cv2.TM_SQDIFF, mask=mask)
    # How much of what would be put into the hole is itself stray.
    lost = cv2.matchTemplate(stray.astype(np.float32), hole.astype(np.float32), cv2.TM_CCORR)
    unlike = np.where(np.isfinite(unlike) & (lost < 0.5), unlike, np.inf)
    if not np.isfinite(unlike).any():
        return None
    at_y, at_x = np.unravel_index(int(np.argmin(unlike)), unlike.shape)
    return int(at_x), int(at_y)


def _drawn_in(values: npt.NDArray[np.float32], is_known: npt.NDArray[np.bool_]) -> npt.NDArray[np.float32]:
    """Values of shape (high, wide, 3) drawn smoothly into where they are not known, coarse to fine (pull and push)."""
    from half_fold.core.measure.opencv import cv2

    known = is_known.astype(np.float32)[..., None]
    if is_known.all() or min(values.shape[:2]) < 2:
        return values
    blurred = cv2.pyrDown(np.concatenate([values * known, known], 2))
    weight = blurred[..., 3:]
    coarse = np.where(weight > 1e-6, blurred[..., :3] / np.maximum(weight, 1e-6), 0).astype(np.float32)
    filled = _drawn_in(coarse, weight[..., 0] > 1e-6)
    high, wide = values.shape[:2]
    return np.where(is_known[..., None], values, cv2.pyrUp(filled, dstsize=(wide, high)).astype(np.float32))
