"""How far each pixel of a picture, or of a part of it, belongs to a region of it."""

from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.pictures.colour.colour import lab_of_picture
from half_fold.core.pictures.rasters.mask_files import read_from_masks
from half_fold.core.publication.records import Brushed, Coloured, Drawn, Oval, PicturePoint, Region, Slope

Floats = npt.NDArray[np.floating]
Box = tuple[float, float, float, float]  # in shares of the picture
WHOLE: Box = (0.0, 0.0, 1.0, 1.0)
_FINE = 4  # pixels of a drawn outline are cut into so many, each way
_OUTSIDE_OF_REACH = 1.5  # a colour so many times its reach away does not belong at all


def belongs(region: Region, image: Image.Image, folder: Path, part: Box = WHOLE) -> Floats:
    """From 0 (not at all) to 1, an array of shape (high, wide): of the pixels of ``image``, in sRGB.

    They are the ``part`` of a whole picture, whose job keeps its pictures in ``folder``. Problem where a brushed region
    has lost its file.
    """
    match region:
        case Slope():
            return _along(region, image.size, part)
        case Oval():
            made = _in_oval(region, image.size, part)
        case Drawn():
            made = _in_outline(region, image.size, part)
        case Brushed():
            made = _under_brush(region, folder, image.size, part)
        case Coloured():
            made = _of_colour(region, image)
    return 1 - made if region.outside else made


def _smooth(value: npt.NDArray[np.floating]) -> Floats:
    """From nothing to all without a corner at either end."""
    held = np.clip(value, 0, 1).astype(np.float32)
    smooth: Floats = held * held * (3 - 2 * held)
    return smooth


def _places(size: tuple[int, int], part: Box) -> tuple[Floats, Floats]:
    """The middles of the pixels' columns and rows, as shares of the whole picture."""
    across = part[0] + (np.arange(size[0], dtype=np.float32) + 0.5) / size[0] * (part[2] - part[0])
    down = part[1] + (np.arange(size[1], dtype=np.float32) + 0.5) / size[1] * (part[3] - part[1])
    return across, down


def _along(slope: Slope, size: tuple[int, int], part: Box) -> Floats:
    """Square to the line from start to end as the picture is, so that what lies level in it is treated alike."""
    across, down = _places(size, part)
    shape = size[0] / (part[2] - part[0]), size[1] / (part[3] - part[1])  # of the whole, in pixels of this scale
    by_x, by_y = ((end - start) * side for start, end, side in zip(slope.start, slope.end, shape, strict=True))
    long = max(by_x**2 + by_y**2, 1e-9)
    from_x = (across - slope.start[0]) * shape[0] * by_x
    from_y = (down - slope.start[1]) * shape[1] * by_y
    return _smooth((from_x[None, :] + from_y[:, None]) / long)


def _in_oval(oval: Oval, size: tuple[int, int], part: Box) -> Floats:
    across, down = _places(size, part)
    off_x, off_y = (across - oval.middle[0]) / oval.half[0], (down - oval.middle[1]) / oval.half[1]
    away = np.sqrt(off_x[None, :] ** 2 + off_y[:, None] ** 2)
    pixel = 2 / (min(oval.half[0] * size[0] / (part[2] - part[0]), oval.half[1] * size[1] / (part[3] - part[1])) + 1)
    return _smooth((1 - away) / max(oval.soft / 100, pixel))


def _in_outline(drawn: Drawn, size: tuple[int, int], part: Box) -> Floats:
    """The outline filled and, where it is soft, blurred; what lies beside the part goes into that."""
    from half_fold.core.measure.opencv import cv2

    across, down = size[0] / (part[2] - part[0]), size[1] / (part[3] - part[1])
    blur = drawn.soft / 1000 * max(across, down)
    around = int(np.ceil(3 * blur)) + 1
    points = np.array(drawn.points, np.float64)
    at = np.stack([(points[:, 0] - part[0]) * across, (points[:, 1] - part[1]) * down], 1) + around
    fine = np.rint(at * 2**_FINE).astype(np.int32)
    made = np.zeros((size[1] + 2 * around, size[0] + 2 * around), np.uint8)
    cv2.fillPoly(made, [fine], 255, lineType=cv2.LINE_AA, shift=_FINE)
    soft = cv2.GaussianBlur(made, (0, 0), blur) if blur > 0.3 else made
    return soft[around:-around, around:-around].astype(np.float32) / 255


def _under_brush(region: Brushed, folder: Path, size: tuple[int, int], part: Box) -> Floats:
    mask = _rimmed(read_from_masks(folder, region.file, "a brushed part"), region.rim, region.soft)
    box = part[0] * mask.width, part[1] * mask.height, part[2] * mask.width, part[3] * mask.height
    return np.asarray(mask.resize(size, Image.Resampling.BILINEAR, box=box), np.float32) / 255


def _rimmed(mask: Image.Image, rim: float, soft: float) -> Image.Image:
    """A mask with its rim moved out (or in, below 0) and made soft, by thousandths of its longer side."""
    if not rim and not soft:
        return mask
    from half_fold.core.measure.opencv import cv2

    made, longer = np.asarray(mask, np.uint8), max(mask.size)
    by = round(abs(rim) / 1000 * longer)
    if by:
        dot = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * by + 1, 2 * by + 1))
        made = np.asarray(cv2.dilate(made, dot) if rim > 0 else cv2.erode(made, dot), np.uint8)
    blur = soft / 1000 * longer
    return Image.fromarray(np.asarray(cv2.GaussianBlur(made, (0, 0), blur) if blur > 0.3 else made, np.uint8), "L")


def _of_colour(region: Coloured, image: Image.Image) -> Floats:
    """All where it is within its reach, none a half farther off, in CIE L*a*b* (lightness counts half)."""
    octets = [int(region.colour[at : at + 2], 16) for at in (1, 3, 5)]
    wanted = lab_of_picture(Image.new("RGB", (1, 1), (octets[0], octets[1], octets[2])))[0, 0]
    off = (lab_of_picture(image.convert("RGB")) - wanted) * (0.5, 1.0, 1.0)
    away = np.sqrt((off**2).sum(2))
    return _smooth((region.reach * _OUTSIDE_OF_REACH - away) / (region.reach * (_OUTSIDE_OF_REACH - 1)))


def region_middle(region: Region) -> PicturePoint:
    """A point of the region to point at it by; that of the picture where it lies anywhere."""
    match region:
        case Slope():
            return region.end
        case Oval():
            return region.middle
        case Drawn():
            across, down = zip(*region.points, strict=True)
            return sum(across) / len(across), sum(down) / len(down)
        case _:
            return 0.5, 0.5


def around(region: Region) -> list[PicturePoint]:
    """Points round a region to draw it by: the two ends of a slope, none of one that lies anywhere."""
    match region:
        case Slope():
            return [region.start, region.end]
        case Oval():
            turns = np.linspace(0, 2 * np.pi, 48, endpoint=False)
            x, y = region.middle[0] + region.half[0] * np.cos(turns), region.middle[1] + region.half[1] * np.sin(turns)
            return list(zip(x.tolist(), y.tolist(), strict=True))
        case Drawn():
            return list(region.points)
        case _:
            return []
