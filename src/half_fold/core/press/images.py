"""Pictures in the PDF: converted once through the press profile, with their alpha as a soft mask."""

import io
from pathlib import Path

import pikepdf
from pikepdf import Array, Dictionary, Name, Stream

from half_fold.core.pictures.bring import load_pixels, picture_file
from half_fold.core.pictures.colour import to_press
from half_fold.core.publication.records import Picture

JPEG_QUALITY = 93


def embed_picture(pdf: pikepdf.Pdf, folder: Path, picture: Picture, profile: bytes) -> pikepdf.Object:
    """An image object in press inks. Problem where the picture is missing or damaged."""
    cmyk, alpha = to_press(load_pixels(picture_file(folder, picture)), profile)
    packed = io.BytesIO()
    cmyk.save(packed, "JPEG", quality=JPEG_QUALITY, subsampling=0)
    image = Stream(
        pdf,
        packed.getvalue(),
        Dictionary(
            Type=Name.XObject,
            Subtype=Name.Image,
            Width=cmyk.width,
            Height=cmyk.height,
            ColorSpace=Name.DeviceCMYK,
            BitsPerComponent=8,
            Filter=Name.DCTDecode,
            # JPEG files with four inks are kept inverted.
            Decode=Array([1, 0, 1, 0, 1, 0, 1, 0]),
        ),
    )
    if alpha is not None:
        mask = Dictionary(
            Type=Name.XObject,
            Subtype=Name.Image,
            Width=alpha.width,
            Height=alpha.height,
            ColorSpace=Name.DeviceGray,
            BitsPerComponent=8,
        )
        image["/SMask"] = pdf.make_indirect(Stream(pdf, alpha.tobytes(), mask))
    return pdf.make_indirect(image)
