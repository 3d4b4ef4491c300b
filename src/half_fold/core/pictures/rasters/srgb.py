"""Between what sRGB writes down and the light that it stands for, both from 0 to 1 (IEC 61966-2-1)."""

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float64]


def to_light(encoded: Floats) -> Floats:
    """The light of what is written."""
    return np.where(encoded <= 0.04045, encoded / 12.92, ((encoded + 0.055) / 1.055) ** 2.4)


def from_light(light: Floats) -> Floats:
    """What is written of a light."""
    return np.where(light <= 0.0031308, light * 12.92, 1.055 * light ** (1 / 2.4) - 0.055)
