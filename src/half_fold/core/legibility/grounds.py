"""What words stand on, as it looks in print: the lightness of everything on a sheet but its letters.

From the ink planes, through the paper's own profile, at 50 pixels to the inch: finer ones give the same verdicts.
"""

import pickle
from collections.abc import Iterable, Iterator, Sequence
from hashlib import sha256
from pathlib import Path

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace
from PIL import Image

from half_fold.core.drawing.marks import DisplayList, Glyphs, Mark, MarkGroup
from half_fold.core.drawing.outline import Outline
from half_fold.core.drawing.planes import Layer, Plane, Sources, on_paper
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import lab_of_ink_picture
from half_fold.core.pictures.colour.press_inks import to_press
from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.developing import shown_whole
from half_fold.core.pictures.library.on_screen import copy_of
from half_fold.core.pictures.library.pyramid import STEPS, at_most, step_for
from half_fold.core.publication.records import Picture
from half_fold.core.typesetting.faces.faces import face

PPI = 50.0
SCALE = PPI / 72  # pixels to the point
COPY = STEPS[1]
FINER = 2  # for a mean, edges need be no finer
Reals = npt.NDArray[np.float64]
Octets = npt.NDArray[np.uint8]
_pixels: Keeper[tuple[Octets, Octets]] = Keeper(200, 120_000_000, lambda made: made[0].nbytes + made[1].nbytes)


class SeenGround(Struct, frozen=True, eq=False):
    """Lightness L* (0 to 100) of a sheet ``area``, shape (high, wide), and its sums and squares from the upper left."""

    area: Rect
    light: Reals
    sums: Reals
    squares: Reals

    def around(self, boxes: Reals) -> tuple[Reals, Reals]:
        """The mean and the deviation of L* inside boxes (left, top, right, bottom in points), shape (n, 4)."""
        high, wide = self.light.shape
        left = np.clip(np.floor((boxes[:, 0] - self.area.left) * SCALE), 0, wide - 1).astype(int)
        top = np.clip(np.floor((boxes[:, 1] - self.area.top) * SCALE), 0, high - 1).astype(int)
        right = np.clip(np.ceil((boxes[:, 2] - self.area.left) * SCALE).astype(int), left + 1, wide)
        bottom = np.clip(np.ceil((boxes[:, 3] - self.area.top) * SCALE).astype(int), top + 1, high)
        count = (right - left) * (bottom - top)

        def inside(table: Reals) -> Reals:
            return np.asarray(table[bottom, right] - table[top, right] - table[bottom, left] + table[top, left])

        mean = inside(self.sums) / count
        return mean, np.sqrt(np.maximum(inside(self.squares) / count - mean**2, 0))


_grounds: Keeper[SeenGround] = Keeper(40, 80_000_000, lambda ground: 3 * ground.light.nbytes)


def ground_kept(marks: DisplayList, folder: Path, pictures: tuple[Picture, ...], profile: bytes) -> SeenGround:
    """The same as ``ground_of``, kept by what is drawn but for letters: words may change, and it stands."""
    seen = drawn_marks(DisplayList(marks.area, tuple(without_letters(marks.marks))))
    return _grounds.of((seen, pictures, profile, str(folder)), lambda: ground_of(marks, folder, pictures, profile))


def drawn_marks(marks: DisplayList) -> bytes:
    """What tells whether another list draws just the same."""
    return sha256(pickle.dumps((marks.area, marks.marks), pickle.HIGHEST_PROTOCOL)).digest()


def ground_of(marks: DisplayList, folder: Path, pictures: Sequence[Picture], profile: bytes) -> SeenGround:
    """The ground of a spread or of a side of the cover; a picture that cannot be read leaves bare paper."""
    from half_fold.core.measure.opencv import cv2  # which takes a tenth of a second

    layer = Layer(marks.area, SCALE, sources_of(folder, pictures, profile), finer=FINER, black=marks.black)
    inks = on_paper(layer.lay(tuple(without_letters(marks.marks))))
    light = np.ascontiguousarray(lab_of_ink_picture(ink_picture(inks), profile)[..., 0])
    sums, squares = cv2.integral2(light)
    return SeenGround(marks.area, light, np.asarray(sums, float), np.asarray(squares, float))


def ink_picture(inks: Plane) -> Image.Image:
    """The process inks of planes (high, wide, 4 and more) as a picture."""
    from half_fold.core.measure.opencv import cv2

    return Image.fromarray(np.asarray(cv2.convertScaleAbs(inks[..., :4], alpha=255), np.uint8), "CMYK")


def sources_of(folder: Path, pictures: Sequence[Picture], profile: bytes, longer: int = COPY) -> Sources:
    """Where letters, and pictures in the inks of a paper, come from; what cannot be read is nothing at all.

    Pictures are so many pixels along their ``longer`` side, where they have as many.
    """
    return Sources(_outline, _Pictures(folder, pictures, profile, longer))


def without_letters(marks: Iterable[Mark]) -> Iterator[Mark]:
    """All but letters."""
    for mark in marks:
        if isinstance(mark, MarkGroup):
            yield replace(mark, marks=tuple(without_letters(mark.marks)))
        elif not isinstance(mark, Glyphs):
            yield mark


def _outline(key: str, gid: int) -> Outline:
    return face(key).outline(gid)


class _Pictures:
    """The inks of pictures by the keys of what is drawn, from reduced copies, kept by content."""

    def __init__(self, folder: Path, pictures: Sequence[Picture], profile: bytes, longer: int) -> None:
        self.folder, self.profile, self.longer = folder, profile, longer
        self.known = {picture.id: picture for picture in pictures}

    def __call__(self, key: str) -> tuple[Octets, Octets]:
        name, treatment = parse_drawn_key(key)
        picture = self.known[name]
        follows = picture.digest, key, picture.mask, picture.inks, self.profile, self.longer

        def make() -> tuple[Octets, Octets]:
            try:
                plain = copy_of(picture_file(self.folder, picture), picture.digest, step_for(self.longer))
                plain = at_most(plain, self.longer)
                return _in_inks(shown_whole(plain, self.folder, picture, treatment), self.profile, picture.inks)
            except (Problem, OSError):
                return np.zeros((1, 1, 4), np.uint8), np.zeros((1, 1), np.uint8)

        return _pixels.of(follows, make)


def _in_inks(image: Image.Image, profile: bytes, inks: str) -> tuple[Octets, Octets]:
    made, alpha = to_press(image, profile, inks)
    if made.mode == "CMYK":
        shares = np.array(made)
    else:
        black = 255 - np.array(made.convert("L"))
        shares = np.dstack([np.zeros_like(black)] * 3 + [black])
    return shares, np.full(shares.shape[:2], 255, np.uint8) if alpha is None else np.array(alpha.resize(made.size))
