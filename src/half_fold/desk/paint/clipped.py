"""The clipped parts of a picture marked: where it is white, or black, without detail."""

import numpy as np
from PyQt6.QtGui import QImage

from half_fold.core.measure.kept import Keeper
from half_fold.desk.theme import tokens

WHITE, BLACK = 252, 4  # of 255: on the screen's side of the profile, what is beyond has no detail left
_kept: Keeper[QImage] = Keeper(64, 120_000_000, QImage.sizeInBytes)


def clipped(image: QImage) -> QImage:
    """The image with its whites without detail in madder and its blacks in loden; made once for each."""
    return _kept.of((image.cacheKey(),), lambda: _marked(image))


def _marked(image: QImage) -> QImage:
    made = image.convertToFormat(QImage.Format.Format_ARGB32)
    bits = made.constBits()
    assert bits is not None
    octets = np.frombuffer(bits.asstring(made.sizeInBytes()), np.uint8).reshape(made.height(), made.width(), 4).copy()
    colours, is_there = octets[..., :3], octets[..., 3] > 127
    for where, name in (((colours >= WHITE).all(2), tokens.MADDER), ((colours <= BLACK).all(2), tokens.LODEN)):
        colour = tokens.colour(name)
        octets[..., :3][where & is_there] = colour.blue(), colour.green(), colour.red()
    wide, high = made.width(), made.height()
    return QImage(octets.tobytes(), wide, high, 4 * wide, QImage.Format.Format_ARGB32).copy()
