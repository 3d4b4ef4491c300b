"""Barcodes that came as pictures: what such a picture says, and how wide its narrowest bar is."""

from functools import lru_cache
from pathlib import Path

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from PIL import Image

from half_fold.core.pictures.library.bring import SOON, load_pixels
from half_fold.core.pictures.library.on_screen import copy_of

# Modules and bars of a symbol, guards included, by its digits: EAN-13, UPC-A and EAN-8 (ISO/IEC 15420).
SYMBOLS = {13: (95, 30), 12: (95, 30), 8: (67, 22)}
DARK, LIGHT, HALF = 80, 190, 128  # of 255: between dark and light lies hardly anything of a code
LEAST_PLAIN = 0.85  # of the pixels, that are dark or light
WIDTHS = (260, 340, 480, 700)  # pixels that a code is looked for at: finer ones are not found
Octets = npt.NDArray[np.uint8]


class CodeIn(Struct, frozen=True):
    """The digits of a barcode in a picture, and how many pixels its narrowest bar has; 0 where that is unsure."""

    digits: str
    module: float


def code_in(path: Path, digest: str) -> CodeIn | None:
    """The barcode that a picture is; None for any other picture. Problem where it cannot be read."""
    state = path.stat()
    return _found(path, state.st_mtime_ns, state.st_size, digest)


@lru_cache(512)
def _found(path: Path, _changed: int, _size: int, digest: str) -> CodeIn | None:
    small = np.asarray(copy_of(path, digest, SOON).convert("L"))
    if ((small < DARK) | (small > LIGHT)).mean() < LEAST_PLAIN:
        return None  # photographs, at no cost
    grey = load_pixels(path).convert("L")
    said = sorted(filter(None, (_said(grey, wide) for wide in WIDTHS)), key=len)
    return CodeIn(said[-1], _module(np.asarray(grey), said[-1])) if said else None


def _said(grey: Image.Image, wide: int) -> str:
    """What a code in a picture says, looked for at so many pixels the long way."""
    from half_fold.core.measure.opencv import cv2

    share = wide / max(grey.size)
    looked = grey.resize((max(1, round(grey.width * share)), max(1, round(grey.height * share))))
    framed = np.pad(np.asarray(looked), 24, constant_values=255)  # cut to its bars it is a code still
    _, digits, kinds, _ = cv2.barcode.BarcodeDetector().detectAndDecodeWithType(framed)
    return next((each for each, kind in zip(digits, kinds, strict=False) if kind and len(each) in SYMBOLS), "")


def _module(pixels: Octets, digits: str) -> float:
    """Pixels to the module, along its lines or, where it stands upright, across them."""
    modules, bars = SYMBOLS[len(digits)]
    return next((wide / modules for way in (pixels, pixels.T) if (wide := _across(way, bars))), 0.0)


def _across(pixels: Octets, bars: int) -> float:
    """How far it is over so many bars from the first, along most of some lines; 0 where no line has as many."""
    lines = pixels[(np.linspace(0.2, 0.7, 21) * (len(pixels) - 1)).astype(int)]
    wide = []
    for line in lines:
        edges = np.flatnonzero(np.diff(np.concatenate([[False], line < HALF, [False]]).astype(np.int8)))
        if len(edges) >= 2 * bars:
            wide.append(min(edges[2 * bars - 1] - edges[0], edges[-1] - edges[-2 * bars]))  # an add-on lies at one end
    return float(np.median(wide)) if len(wide) > len(lines) / 3 else 0.0
