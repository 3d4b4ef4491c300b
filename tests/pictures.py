"""Pictures of every kind, made for tests, and profiles to put into them."""

import struct
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pikepdf
from PIL import Image

from half_fold.core.pictures.colour.colour import COATED, UNCOATED, shipped_profile

SIZE = (96, 64)


def made_profile(space: str, gamma: float, columns: tuple[tuple[float, float, float], ...] = ()) -> bytes:
    """A version 2 display profile: grey of one curve, or RGB of three curves and the XYZ of its primaries."""

    def fixed(value: float) -> bytes:
        return struct.pack(">i", round(value * 65536))

    def xyz(*values: float) -> bytes:
        return b"XYZ \0\0\0\0" + b"".join(map(fixed, values))

    name = f"Made {space} {gamma}".encode()
    said = b"desc\0\0\0\0" + struct.pack(">I", len(name) + 1) + name + b"\0" + bytes(78)
    curve = b"curv\0\0\0\0" + struct.pack(">IH", 1, round(gamma * 256)) + b"\0\0"
    tags = [(b"desc", said), (b"cprt", b"text\0\0\0\0none\0"), (b"wtpt", xyz(0.9642, 1.0, 0.8249))]
    if space == "GRAY":
        tags.append((b"kTRC", curve))
    for letter, column in zip(b"rgb", columns, strict=False):
        tags += [(bytes([letter]) + b"XYZ", xyz(*column)), (bytes([letter]) + b"TRC", curve)]
    table, body, at = struct.pack(">I", len(tags)), b"", 132 + 12 * len(tags)
    for tag, content in tags:
        content += bytes(-len(content) % 4)
        table += tag + struct.pack(">II", at + len(body), len(content))
        body += content
    head = struct.pack(">I4sI4s4s4s", at + len(body), b"lcms", 0x02400000, b"mntr", space.encode().ljust(4), b"XYZ ")
    head += struct.pack(">6H", 2026, 1, 1, 0, 0, 0) + b"acsp" + bytes(28) + fixed(0.9642) + fixed(1.0) + fixed(0.8249)
    return head.ljust(128, b"\0") + table + body


GREY_PROFILE = made_profile("GRAY", 1.4)
WIDE = ((0.6097, 0.3111, 0.0195), (0.2053, 0.6257, 0.0609), (0.1492, 0.0632, 0.7446))
RGB_PROFILE = made_profile("RGB ", 2.2, WIDE)


def _ramp(bands: int) -> np.ndarray:
    wide, high = SIZE
    across, down = np.meshgrid(np.linspace(0, 255, wide), np.linspace(0, 255, high))
    planes = [across, down, 255 - across, 255 - down, (across + down) / 2]
    return np.stack(planes[:bands], -1).round().astype(np.uint8)


def rgb() -> Image.Image:
    return Image.fromarray(_ramp(3), "RGB")


def grey() -> Image.Image:
    return Image.fromarray(_ramp(1)[..., 0], "L")


def cmyk() -> Image.Image:
    return Image.fromarray((_ramp(4) * 0.6).astype(np.uint8), "CMYK")


def alpha() -> Image.Image:
    return Image.fromarray(255 - _ramp(1)[..., 0], "L")


def line_art() -> Image.Image:
    return Image.fromarray(((np.indices(SIZE[::-1]).sum(0) // 7) % 2 * 255).astype(np.uint8), "L").convert("1")


def inks_with_alpha(path: Path, packing: str, order: str = "II", predict: bool = False, turn: int = 1) -> Path:
    """A TIFF of four inks and an alpha, in strips packed as said, which the imaging library cannot write itself."""
    pixels = np.concatenate([np.asarray(cmyk()), np.asarray(alpha())[..., None]], -1)
    wide, high = SIZE
    rows, sign = 20, "<" if order == "II" else ">"
    strips = []
    for at in range(0, high, rows):
        part = pixels[at : at + rows].astype(np.int16)
        if predict:
            part[:, 1:] = (part[:, 1:] - part[:, :-1]) % 256
        plain = part.astype(np.uint8).tobytes()
        strips.append(plain if packing == "none" else _packed(plain, packing))
    code = {"none": 1, "lzw": 5, "deflate": 8}[packing]
    begin, offsets, body = 8, [], b""
    for strip in strips:
        offsets.append(begin + len(body))
        body += strip
    bits_at = begin + len(body)
    body += struct.pack(f"{sign}5H", *[8] * 5)
    offsets_at = begin + len(body)
    body += struct.pack(f"{sign}{len(strips)}I", *offsets)
    sizes_at = begin + len(body)
    body += struct.pack(f"{sign}{len(strips)}I", *map(len, strips))
    entries = [
        (256, 4, 1, wide),
        (257, 4, 1, high),
        (258, 3, 5, bits_at),
        (259, 3, 1, code),
        (262, 3, 1, 5),
        (273, 4, len(strips), offsets_at),
        (274, 3, 1, turn),
        (277, 3, 1, 5),
        (278, 4, 1, rows),
        (279, 4, len(strips), sizes_at),
        (284, 3, 1, 1),
        (317, 3, 1, 2 if predict else 1),
        (338, 3, 1, 2),
    ]
    table = struct.pack(f"{sign}H", len(entries))
    for tag, kind, count, value in entries:
        inline = struct.pack(f"{sign}HH", value, 0) if kind == 3 and count == 1 else struct.pack(f"{sign}I", value)
        table += struct.pack(f"{sign}HHI", tag, kind, count) + inline
    head = order.encode() + struct.pack(f"{sign}HI", 42, begin + len(body))
    path.write_bytes(head + body + table + struct.pack(f"{sign}I", 0))
    return path


def _packed(plain: bytes, packing: str) -> bytes:
    import zlib

    return zlib.compress(plain) if packing == "deflate" else _lzw(plain)


def _lzw(plain: bytes) -> bytes:
    """TIFF's LZW (section 13): codes from the high bit down, one bit longer one code early."""
    bits, count, codes = 0, 0, {bytes([i]): i for i in range(256)}
    out, width, following = bytearray(), 9, 258

    def put(code: int) -> None:
        nonlocal bits, count
        bits, count = (bits << width) | code, count + width
        while count >= 8:
            count -= 8
            out.append((bits >> count) & 255)
            bits &= (1 << count) - 1

    put(256)
    word = b""
    for octet in plain:
        longer = word + bytes([octet])
        if longer in codes:
            word = longer
            continue
        put(codes[word])
        codes[longer] = following
        following += 1
        if following == 4094:
            put(256)
            codes, width, following = {bytes([i]): i for i in range(256)}, 9, 258
        elif following > (1 << width) - 1:
            width += 1
        word = bytes([octet])
    put(codes[word])
    put(257)
    if count:
        out.append((bits << (8 - count)) & 255)
    return bytes(out)


def _saved(image: Image.Image, suffix: str, **more: object) -> Callable[[Path], Path]:
    def save(folder: Path) -> Path:
        path = folder / f"made{suffix}"
        image.save(path, **more)
        return path

    return save


def _sixteen(suffix: str, **more: object) -> Callable[[Path], Path]:
    wide = np.asarray(grey()).astype(np.uint16) * 257
    return _saved(Image.fromarray(wide), suffix, **more)


def _with_alpha(image: Image.Image) -> Image.Image:
    image = image.copy()
    image.putalpha(alpha())
    return image


_INK = shipped_profile(UNCOATED)
_OWN = shipped_profile(COATED)
_SRGB = shipped_profile("srgb")
KINDS: dict[str, Callable[[Path], Path]] = {
    "rgb png": _saved(rgb(), ".png"),
    "rgb png, sRGB": _saved(rgb(), ".png", icc_profile=_SRGB),
    "rgb png, wide": _saved(rgb(), ".png", icc_profile=RGB_PROFILE),
    "rgb jpeg": _saved(rgb(), ".jpg", quality=98, subsampling=0),
    "rgb jpeg, wide": _saved(rgb(), ".jpg", quality=98, subsampling=0, icc_profile=RGB_PROFILE),
    "rgb tiff": _saved(rgb(), ".tif"),
    "rgb tiff, wide": _saved(rgb(), ".tif", icc_profile=RGB_PROFILE, compression="tiff_lzw"),
    "rgb webp": _saved(rgb(), ".webp", lossless=True),
    "rgba png": _saved(_with_alpha(rgb()), ".png"),
    "rgba png, wide": _saved(_with_alpha(rgb()), ".png", icc_profile=RGB_PROFILE),
    "rgba webp": _saved(_with_alpha(rgb()), ".webp", lossless=True),
    "rgba tiff": _saved(_with_alpha(rgb()), ".tif"),
    "palette png": _saved(rgb().quantize(64), ".png"),
    "palette png, wide": _saved(rgb().quantize(64), ".png", icc_profile=RGB_PROFILE),
    "palette png, see-through": _saved(rgb().quantize(64), ".png", transparency=3),
    "grey png": _saved(grey(), ".png"),
    "grey png, own curve": _saved(grey(), ".png", icc_profile=GREY_PROFILE),
    "grey jpeg": _saved(grey(), ".jpg", quality=98),
    "grey jpeg, own curve": _saved(grey(), ".jpg", quality=98, icc_profile=GREY_PROFILE),
    "grey and alpha png": _saved(_with_alpha(grey()), ".png"),
    "grey 16 png": _sixteen(".png"),
    "grey 16 tiff": _sixteen(".tif"),
    "grey tiff, own curve": _saved(grey(), ".tif", icc_profile=GREY_PROFILE),
    "line art png": _saved(line_art(), ".png"),
    "line art tiff": _saved(line_art(), ".tif", compression="group4"),
    "inks tiff": _saved(cmyk(), ".tif"),
    "inks tiff, other profile": _saved(cmyk(), ".tif", icc_profile=_INK),
    "inks jpeg": _saved(cmyk(), ".jpg", quality=98, subsampling=0),
    "inks jpeg, own profile": _saved(cmyk(), ".jpg", quality=98, subsampling=0, icc_profile=_OWN),
    "inks and alpha, plain": lambda folder: inks_with_alpha(folder / "made.tif", "none"),
    "inks and alpha, lzw": lambda folder: inks_with_alpha(folder / "made.tif", "lzw", "MM", predict=True),
    "inks and alpha, deflate": lambda folder: inks_with_alpha(folder / "made.tif", "deflate"),
}


def octets_of(image: pikepdf.Object) -> np.ndarray:
    """The samples of an image in a file, as shares of ink: (height, width, 4) or (height, width) for black alone."""
    import io

    wide, high = int(image.Width), int(image.Height)
    if image.Filter == pikepdf.Name.DCTDecode:
        pixels = np.asarray(Image.open(io.BytesIO(image.read_raw_bytes())), float)
        return pixels / 255 if pixels.ndim == 3 else 1 - pixels / 255
    rows = np.frombuffer(image.read_bytes(), np.uint8).reshape(high, -1)
    return 1 - np.unpackbits(rows, axis=1)[:, :wide].astype(float)
