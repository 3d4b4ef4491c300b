"""Pictures in the PDF: what is seen of each, reduced, and converted once through the press profile."""

import io
import os
import zlib
from collections import deque
from collections.abc import Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import pikepdf
from pikepdf import Array, Dictionary, Name, Stream
from PIL import Image

from half_fold.core.pictures.bring import load_pixels, picture_file
from half_fold.core.pictures.colour import to_press, to_screen
from half_fold.core.pictures.inks_with_alpha import ALPHA
from half_fold.core.pictures.masks import masked
from half_fold.core.pictures.resize import Box, resized
from half_fold.core.pictures.treat import parts_of, treated
from half_fold.core.press.seen import Part
from half_fold.core.publication.records import Picture

JPEG_QUALITY = 93
LONGEST_JPEG = 65_500  # pixels a side: what the form can hold
PACKED = 6  # zlib's level
AT_ONCE = 2  # pictures in hand at once, however many processors there are: each takes up to 1 GB


@dataclass(frozen=True, slots=True)
class Made:
    """A picture as it goes into the file: its octets, what they are, and those of its alpha (packed), if it has one."""

    octets: bytes
    size: tuple[int, int]
    bits: int
    inks: int
    is_jpeg: bool
    alpha: bytes | None = None


def made_images(folder: Path, asked: Sequence[tuple[Picture, Part, bytes]]) -> Iterator[Made]:
    """Parts of pictures in press inks, in the order asked for. Problem where a picture is missing or damaged.

    The next ones are made while one is taken; what takes time lets go of the interpreter.
    """
    if len(asked) < 2 or len(os.sched_getaffinity(0)) < 2:
        yield from (made_image(folder, *each) for each in asked)
        return
    coming: deque[Future[Made]] = deque()
    rest = iter(asked)
    with ThreadPoolExecutor(AT_ONCE) as workers:
        try:
            for each in rest:
                coming.append(workers.submit(made_image, folder, *each))
                if len(coming) > AT_ONCE:
                    yield coming.popleft().result()
            while coming:
                yield coming.popleft().result()
        finally:
            workers.shutdown(cancel_futures=True)


def made_image(folder: Path, picture: Picture, part: Part, profile: bytes) -> Made:
    """A part of a picture in press inks."""
    size = picture.width, picture.height
    shrink = max(part.across / (part.right - part.left), part.down / (part.bottom - part.top))
    image = load_pixels(picture_file(folder, picture), round(max(size) * shrink) if shrink < 1 else 0)
    shares = part.left / size[0], part.top / size[1], part.right / size[0], part.bottom / size[1]
    small = masked(_reduced(image, size, part), folder, picture, shares)
    treatment = parts_of(part.picture)[1]
    if treatment is not None:
        across = part.across / (part.right - part.left)
        small = treated(to_screen(small), treatment, longer=max(size) * across, final_ppi=part.ppi)
    made, alpha = to_press(small, profile, picture.inks)
    octets, bits, is_jpeg = _packed(made)
    inks = 4 if made.mode == "CMYK" else 1
    see_through = zlib.compress(alpha.tobytes(), PACKED) if alpha is not None else None
    return Made(octets, made.size, bits, inks, is_jpeg, see_through)


def _reduced(image: Image.Image, size: tuple[int, int], part: Part) -> Image.Image:
    """The part of an image, which may have been read reduced, with as many pixels as are wanted; line art with all."""
    across, down = image.width / size[0], image.height / size[1]
    box = part.left * across, part.top * down, part.right * across, part.bottom * down
    wanted = part.across, part.down
    if image.mode == "1" or wanted == (part.right - part.left, part.bottom - part.top):
        is_whole = box == (0.0, 0.0, float(image.width), float(image.height))
        return image if is_whole else _cut(image, box)
    return resized(image, wanted, box)


def _cut(image: Image.Image, box: Box) -> Image.Image:
    whole = tuple(round(edge) for edge in box)
    made = image.crop((whole[0], whole[1], whole[2], whole[3]))
    beside = image.info.get(ALPHA)
    if beside is not None:
        made.info = made.info | {ALPHA: beside.crop((whole[0], whole[1], whole[2], whole[3]))}
    return made


def _packed(image: Image.Image) -> tuple[bytes, int, bool]:
    """A picture's octets as they go into the file, the bits of an ink, and whether they are a JPEG."""
    if image.mode == "1":
        return zlib.compress(image.tobytes(), PACKED), 1, False
    if max(image.size) > LONGEST_JPEG:
        return zlib.compress(image.tobytes(), PACKED), 8, False
    packed = io.BytesIO()
    image.save(packed, "JPEG", quality=JPEG_QUALITY, subsampling=0)
    return packed.getvalue(), 8, True


def embedded(pdf: pikepdf.Pdf, made: Made) -> pikepdf.Object:
    """An image object of the file; grey there prints in black alone."""
    stated = _stated(made.size, BitsPerComponent=made.bits)
    stated.Filter = Name.DCTDecode if made.is_jpeg else Name.FlateDecode
    stated.ColorSpace = Name.DeviceCMYK if made.inks == 4 else Name.DeviceGray
    if made.is_jpeg and made.inks == 4:
        stated.Decode = Array([1, 0, 1, 0, 1, 0, 1, 0])  # JPEG files with four inks are kept inverted
    image = Stream(pdf, made.octets, stated)
    if made.alpha is not None:
        mask = _stated(made.size, ColorSpace=Name.DeviceGray, BitsPerComponent=8, Filter=Name.FlateDecode)
        image["/SMask"] = pdf.make_indirect(Stream(pdf, made.alpha, mask))
    return pdf.make_indirect(image)


def _stated(size: tuple[int, int], **more: object) -> Dictionary:
    return Dictionary(Type=Name.XObject, Subtype=Name.Image, Width=size[0], Height=size[1], **more)


def embed_picture(pdf: pikepdf.Pdf, folder: Path, picture: Picture, profile: bytes) -> pikepdf.Object:
    """A whole picture as an image object in press inks."""
    whole = Part(picture.id, 0, 0, picture.width, picture.height, picture.width, picture.height)
    return embedded(pdf, made_image(folder, picture, whole, profile))
