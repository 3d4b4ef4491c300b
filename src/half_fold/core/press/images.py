"""Pictures in the PDF: converted once through the press profile, with their alpha as a soft mask."""

import io
import zlib
from pathlib import Path

import pikepdf
from pikepdf import Array, Dictionary, Name, Stream
from PIL import Image

from half_fold.core.pictures.bring import load_pixels, picture_file
from half_fold.core.pictures.colour import to_press
from half_fold.core.publication.records import Picture

JPEG_QUALITY = 93
LONGEST_JPEG = 65_500  # pixels a side: what the form can hold
PACKED = 6  # zlib's level


def embed_picture(pdf: pikepdf.Pdf, folder: Path, picture: Picture, profile: bytes) -> pikepdf.Object:
    """An image object in press inks. Problem where the picture is missing or damaged."""
    made, alpha = to_press(load_pixels(picture_file(folder, picture)), profile, picture.inks)
    image = Stream(pdf, *_packed(made))
    if alpha is not None:
        stated = _stated(alpha, ColorSpace=Name.DeviceGray, BitsPerComponent=8, Filter=Name.FlateDecode)
        image["/SMask"] = pdf.make_indirect(Stream(pdf, zlib.compress(alpha.tobytes(), PACKED), stated))
    return pdf.make_indirect(image)


def _stated(image: Image.Image, **more: object) -> Dictionary:
    return Dictionary(Type=Name.XObject, Subtype=Name.Image, Width=image.width, Height=image.height, **more)


def _packed(image: Image.Image) -> tuple[bytes, Dictionary]:
    """A picture's octets as they go into the file, and what is said of them; grey there prints in black alone."""
    if image.mode == "1":
        stated = _stated(image, ColorSpace=Name.DeviceGray, BitsPerComponent=1, Filter=Name.FlateDecode)
        return zlib.compress(image.tobytes(), PACKED), stated
    if max(image.size) > LONGEST_JPEG:
        stated = _stated(image, BitsPerComponent=8, Filter=Name.FlateDecode)
        stated.ColorSpace = Name.DeviceGray if image.mode == "L" else Name.DeviceCMYK
        return zlib.compress(image.tobytes(), PACKED), stated
    packed = io.BytesIO()
    image.save(packed, "JPEG", quality=JPEG_QUALITY, subsampling=0)
    stated = _stated(image, BitsPerComponent=8, Filter=Name.DCTDecode)
    stated.ColorSpace = Name.DeviceGray if image.mode == "L" else Name.DeviceCMYK
    if image.mode == "CMYK":
        stated.Decode = Array([1, 0, 1, 0, 1, 0, 1, 0])  # JPEG files with four inks are kept inverted
    return packed.getvalue(), stated
