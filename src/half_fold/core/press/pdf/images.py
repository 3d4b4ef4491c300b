"""Pictures in the PDF: what is seen of each, reduced, and converted once through the press profile."""

import os
import zlib
from collections import deque
from collections.abc import Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

import pikepdf
from pikepdf import Array, Dictionary, Name, Stream
from PIL import Image

from half_fold.core.pictures.colour.colour import to_screen
from half_fold.core.pictures.colour.press_inks import to_press
from half_fold.core.pictures.colour.treat import alpha_seen, is_of_colours, keeps_greys, parse_drawn_key, treated
from half_fold.core.pictures.cutting.upright import put_upright
from half_fold.core.pictures.library.bring import load_pixels, picture_file
from half_fold.core.pictures.library.developing import mended_and_cut
from half_fold.core.pictures.rasters.alpha import is_grey_image
from half_fold.core.pictures.rasters.inks_with_alpha import ALPHA
from half_fold.core.pictures.rasters.resize import Box, resized
from half_fold.core.press.pdf.kept_images import MadeImage, find_image, image_key, keep, tidy_images
from half_fold.core.press.pdf.seen import PicturePart
from half_fold.core.publication.records import Picture, Treatment

JPEG_QUALITY = 93
LONGEST_JPEG = 65_500  # pixels a side: what the form can hold
PACKED = 6  # zlib's level
AT_ONCE = 2  # pictures in hand at once, however many processors there are: each takes up to 1 GB


def made_images(folder: Path, asked: Sequence[tuple[Picture, PicturePart, bytes, float]]) -> Iterator[MadeImage]:
    """Parts of pictures in press inks, in the order asked for. Problem where a picture is missing or damaged.

    The next ones are made while one is taken; what takes time lets go of the interpreter. What was made before and has
    not changed is taken as it was.
    """
    tidy_images()
    if len(asked) < 2 or len(os.sched_getaffinity(0)) < 2:
        yield from (_kept_or_made(folder, *each) for each in asked)
        return
    coming: deque[Future[MadeImage]] = deque()
    rest = iter(asked)
    with ThreadPoolExecutor(AT_ONCE) as workers:
        try:
            for each in rest:
                coming.append(workers.submit(_kept_or_made, folder, *each))
                if len(coming) > AT_ONCE:
                    yield coming.popleft().result()
            while coming:
                yield coming.popleft().result()
        finally:
            workers.shutdown(cancel_futures=True)


def _kept_or_made(folder: Path, picture: Picture, part: PicturePart, profile: bytes, limit: float = 0.0) -> MadeImage:
    """As it was made for an earlier file, where nothing of it has changed since."""
    key = image_key(folder, picture, part, profile, limit)
    made = find_image(key)
    if made is None:
        made = made_image(folder, picture, part, profile, limit)
        keep(key, made)
    return made


def made_image(folder: Path, picture: Picture, part: PicturePart, profile: bytes, limit: float = 0.0) -> MadeImage:
    """A part of a picture in press inks, as it goes into the file."""
    made, alpha = pressed_part(folder, picture, part, profile, limit)
    octets, bits, is_jpeg = _packed(made)
    inks = 4 if made.mode == "CMYK" else 1
    see_through = zlib.compress(alpha.tobytes(), PACKED) if alpha is not None else None
    return MadeImage(octets, made.size, bits, inks, is_jpeg, see_through)


def pressed_part(
    folder: Path, picture: Picture, part: PicturePart, profile: bytes, limit: float = 0.0
) -> tuple[Image.Image, Image.Image | None]:
    """A part of a picture in press inks, and how opaque it is where that is not everywhere.

    Inks keep to a ``limit`` (per cent of all together) where they are made. Problem where it cannot be read.
    """
    size = picture.width, picture.height
    shrink = max(part.across / (part.right - part.left), part.down / (part.bottom - part.top))
    image = load_pixels(picture_file(folder, picture), round(max(size) * shrink) if shrink < 1 else 0)
    shares = part.left / size[0], part.top / size[1], part.right / size[0], part.bottom / size[1]
    treatment = parse_drawn_key(part.picture)[1]
    scale = part.across / (part.right - part.left)
    if treatment is not None and treatment.upright is not None:
        fine = resized(image, (max(1, round(size[0] * scale)), max(1, round(size[1] * scale))))
        whole = to_screen(mended_and_cut(fine, folder, picture, treatment))
        small = put_upright(whole, treatment.upright, (part.across, part.down), shares)
    else:
        small = mended_and_cut(_reduced(image, size, part), folder, picture, treatment, shares)
    fused = None
    if treatment is not None:
        stays_grey = is_grey_image(image) and keeps_greys(treatment)
        small = to_screen(small)
        if stays_grey:
            made_grey = treated(small, treatment, max(size) * scale, part.ppi, folder, shares)
            small = made_grey.convert("LA" if "A" in made_grey.getbands() else "L")
        elif is_of_colours(treatment) and picture.inks != "black":
            small, fused = _made_ready(small, treatment, folder, shares), treatment
        else:
            small = treated(small, treatment, max(size) * scale, part.ppi, folder, shares)
    return to_press(small, profile, picture.inks, limit, fused, part.ppi)


def _made_ready(image: Image.Image, treatment: Treatment, folder: Path, shares: Box) -> Image.Image:
    """A picture in sRGB with all of its treatment but what is done to its colours, which the inks are made with."""
    if treatment.seen is None:
        return image
    alpha = image.getchannel("A") if "A" in image.getbands() else None
    plain = image.convert("RGB")
    alpha = alpha_seen(plain, alpha, treatment, folder, shares)
    assert alpha is not None
    made = plain.copy()
    made.putalpha(alpha)
    return made


def _reduced(image: Image.Image, size: tuple[int, int], part: PicturePart) -> Image.Image:
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
    # Into a file of memory, for the library lets go of the interpreter only where there is a file to write to.
    with os.fdopen(os.memfd_create("picture"), "w+b") as packed:
        image.save(packed, "JPEG", quality=JPEG_QUALITY, subsampling=0)
        packed.seek(0)
        return packed.read(), 8, True


def embedded(pdf: pikepdf.Pdf, made: MadeImage) -> pikepdf.Object:
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
