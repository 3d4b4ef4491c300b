"""Lines of a picture made upright: how its points go where it is seen square on."""

import math

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.pictures.colour.regions import Box
from half_fold.core.publication.records import PicturePoint, Upright

Matrix = npt.NDArray[np.float64]
Size = tuple[float, float]
LEAST = 0.02  # of the picture's height: a shorter line says nothing of what is upright
MOST_LEAN = 1.0  # how far a line may lean, as its run over its rise
ROUNDS = 8  # of turning and taking the rest for perspective; each leaves a hundredth of the lean
MOST_CLOSER = 4.0


def homography(upright: Upright, size: Size) -> Matrix:
    """Where points of a picture of ``size`` go, a projective map (3 x 3) after which both lines stand upright.

    The picture is turned about its middle by what both lean alike; what they lean against each other is taken for
    perspective. A line x = a + b y about the middle goes upright by x' = x / (1 + p y), y' = y / (1 + p y) where
    b = a p. It is then drawn closer until it covers its frame. Lines that say nothing leave it as it is.
    """
    lines = [_about_middle(line, size) for line in (upright.first, upright.second)]
    if any(_is_idle(line, size) for line in lines):
        return np.eye(3)
    turn, pole = 0.0, 0.0
    for _ in range(ROUNDS):
        (a1, b1), (a2, b2) = (_slope(_turned(line, turn)) for line in lines)
        pole = (b1 - b2) / (a1 - a2) if abs(a1 - a2) > LEAST * size[0] else 0.0
        lean = b1 - a1 * pole if pole else (b1 + b2) / 2
        turn += math.atan(lean)
    if abs(math.tan(turn)) > MOST_LEAN or abs(pole) * size[1] / 2 > MOST_LEAN / 2:
        return np.eye(3)
    made = np.array([[1.0, 0, 0], [0, 1, 0], [0, pole, 1]]) @ _rotation(turn)
    closer = np.diag([_closer(made, size), 0, 1.0])
    closer[1, 1] = closer[0, 0]
    about = np.array([[1.0, 0, size[0] / 2], [0, 1, size[1] / 2], [0, 0, 1]])
    return np.asarray(about @ closer @ made @ np.linalg.inv(about))


def _about_middle(line: tuple[PicturePoint, PicturePoint], size: Size) -> Matrix:
    """Its two points from the picture's middle, in pixels: an array of shape (2, 2)."""
    return (np.array(line) - 0.5) * size


def _is_idle(line: Matrix, size: Size) -> bool:
    across, down = np.abs(line[1] - line[0])
    return bool(down < LEAST * size[1] or across > MOST_LEAN * down)


def _rotation(turn: float) -> Matrix:
    """By so many radians, from right to down where they are negative: x' = x cos - y sin."""
    cosine, sine = math.cos(turn), math.sin(turn)
    return np.array([[cosine, -sine, 0], [sine, cosine, 0], [0, 0, 1]])


def _turned(line: Matrix, turn: float) -> Matrix:
    return np.asarray(line @ _rotation(turn)[:2, :2].T)


def _slope(line: Matrix) -> tuple[float, float]:
    """(a, b) of x = a + b y."""
    (x1, y1), (x2, y2) = line
    b = (x2 - x1) / (y2 - y1)
    return float(x1 - b * y1), float(b)


def _closer(made: Matrix, size: Size) -> float:
    """How many times closer the picture covers its frame: each corner comes from inside of it."""
    back = np.linalg.inv(made)
    half = np.array([size[0] / 2, size[1] / 2])
    corners = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * half

    def covers(times: float) -> bool:
        from_ = np.concatenate([corners / times, np.ones((4, 1))], 1) @ back.T
        return bool((from_[:, 2] > 0).all() and (np.abs(from_[:, :2] / from_[:, 2:]) <= half + 1e-6).all())

    low, high = 1.0, MOST_CLOSER
    if covers(low):
        return low
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (low, middle) if covers(middle) else (middle, high)
    return high


def put_upright(image: Image.Image, upright: Upright, size: tuple[int, int], part: Box) -> Image.Image:
    """A whole picture (with alpha where it has one) put upright: the ``part`` of it, made ``size`` pixels."""
    from half_fold.core.measure.opencv import cv2

    mode = "RGBA" if "A" in image.getbands() else "RGB"
    pixels = np.asarray(image.convert(mode))
    across, down = size[0] / (part[2] - part[0]), size[1] / (part[3] - part[1])
    shares = np.diag([across, down, 1.0]) @ np.array([[1, 0, -part[0]], [0, 1, -part[1]], [0, 0, 1.0]])
    middles = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])  # pixels are counted by their middles
    whole = shares @ np.diag([1 / image.width, 1 / image.height, 1.0]) @ homography(upright, image.size)
    through = np.linalg.inv(middles) @ whole @ middles
    made = cv2.warpPerspective(pixels, through, size, flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    return Image.fromarray(made, mode)
