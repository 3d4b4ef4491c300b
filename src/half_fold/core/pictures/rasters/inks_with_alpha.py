"""TIFF files of four inks and an alpha, which Pillow does not open: read from their strips or tiles.

TIFF keeps them packed by filters that PDF knows too (TIFF 6.0, sections 9, 13 and 14), so that qpdf unpacks them.
"""

import struct
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

ALPHA = "alpha beside inks"  # where a picture of four inks keeps how opaque it is
ORIENTATION = 0x0112
_FILTERS = {1: "", 5: "/LZWDecode", 8: "/FlateDecode", 32946: "/FlateDecode", 32773: "/RunLengthDecode"}
_WIDTH, _HEIGHT, _BITS, _COMPRESSION, _KIND, _SAMPLES, _PLANES = 256, 257, 258, 259, 262, 277, 284
_PREDICTOR, _EXTRA, _PROFILE, _SEPARATED = 317, 338, 34675, 5
_STRIPS, _STRIP_SIZES, _STRIP_ROWS = 273, 279, 278
_TILES, _TILE_SIZES, _TILE_WIDTH, _TILE_HEIGHT = 324, 325, 322, 323
_INKS = 4
MOST_SAMPLES = 2_000_000_000


def inks_with_alpha(path: Path) -> Image.Image | None:
    """The picture, its alpha kept beside it under ALPHA; None where the file is no such TIFF, or cannot be read."""
    from PIL import TiffImagePlugin

    try:
        with path.open("rb") as file:
            head = file.read(8)
            tags: Any = TiffImagePlugin.ImageFileDirectory_v2(head)
            file.seek(tags.next)
            tags.load(file)
        return _read(path, tags, head.startswith(b"II")) if _is_such(tags) else None
    except (OSError, ValueError, KeyError, TypeError, IndexError, SyntaxError, RuntimeError, struct.error):
        return None


def _is_such(tags: Any) -> bool:
    bits, extra = tags.get(_BITS, ()), tags.get(_EXTRA, ())
    is_plain = tags.get(_COMPRESSION, 1) in _FILTERS and tags.get(_PLANES, 1) == 1
    is_even = len(bits) > _INKS and len(set(bits)) == 1 and bits[0] in (8, 16)
    return tags.get(_KIND) == _SEPARATED and is_plain and is_even and extra[:1] in ((1,), (2,))


def _read(path: Path, tags: Any, is_little: bool) -> Image.Image:
    samples = _samples(path, tags, is_little)
    made = Image.fromarray(np.ascontiguousarray(samples[..., :_INKS]), "CMYK")
    alpha = Image.fromarray(np.ascontiguousarray(samples[..., _INKS]), "L")
    made.info[ALPHA] = alpha
    if _PROFILE in tags:
        made.info["icc_profile"] = tags[_PROFILE]
    for image in (made, alpha):
        image.getexif()[ORIENTATION] = tags.get(ORIENTATION, 1)
    return made


def _samples(path: Path, tags: Any, is_little: bool) -> np.ndarray[Any, Any]:
    """All samples in 8 bits: an array of shape (height, width, samples)."""
    width, height, count, octets = tags[_WIDTH], tags[_HEIGHT], tags[_SAMPLES], tags[_BITS][0] // 8
    is_tiled = _TILES in tags
    wide = tags[_TILE_WIDTH] if is_tiled else width
    tall = tags[_TILE_HEIGHT] if is_tiled else min(tags.get(_STRIP_ROWS, height), height)
    begins, sizes = (tags[_TILES], tags[_TILE_SIZES]) if is_tiled else (tags[_STRIPS], tags[_STRIP_SIZES])
    across = -(-width // wide)
    if (height + tall) * across * wide * count > MOST_SAMPLES:
        raise ValueError("more samples than can be held")
    out = np.zeros((height + tall, across * wide, count), np.uint8)
    with path.open("rb") as file:
        for index, (begin, size) in enumerate(zip(begins, sizes, strict=True)):
            file.seek(begin)
            row, column = index // across * tall, index % across * wide
            plain = np.frombuffer(_unpacked(file.read(size), tags, wide), np.uint8)
            line = wide * count * octets
            part = plain[: len(plain) // line * line].reshape(-1, wide, count, octets)
            part = part[: min(tall, height - row), :, :, octets - 1 if is_little else 0]
            out[row : row + len(part), column : column + wide] = part
    return out[:height, :width]


def _unpacked(packed: bytes, tags: Any, wide: int) -> bytes:
    import pikepdf

    name = _FILTERS[tags.get(_COMPRESSION, 1)]
    if not name:
        return packed
    with pikepdf.new() as pdf:
        stream = pikepdf.Stream(pdf, packed)
        stream["/Filter"] = pikepdf.Name(name)
        if tags.get(_PREDICTOR, 1) == 2:
            told = {"/Predictor": 2, "/Colors": tags[_SAMPLES], "/Columns": wide, "/BitsPerComponent": tags[_BITS][0]}
            stream["/DecodeParms"] = pikepdf.Dictionary(told)
        return bytes(stream.read_bytes())
