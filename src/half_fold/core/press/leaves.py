"""Sheets drawn as pages of the file: packed contents, boxes, and the names of what they use."""

import zlib

import msgspec

from half_fold.core.measure.rect import Rect
from half_fold.core.press.content import Content, Resources
from half_fold.core.press.crop_marks import crop_marks, slug
from half_fold.core.press.sheets import Sheet

PACKED = 4  # zlib's level: beyond it a stream of text gets 3 in 100 smaller in twice the time


class DrawnPage(msgspec.Struct, frozen=True, array_like=True):
    """A page before it is in a file: its boxes in the sheet's coordinates, its packed content, and what that names."""

    media: Rect
    bleed: Rect
    trim: Rect
    packed: bytes
    fonts: list[str]
    pictures: list[str]


def draw_page(sheet: Sheet, resources: Resources, marks: bool, media: Rect | None = None) -> DrawnPage:
    """The page of a sheet, as large as its bleed, or as the printer's ``marks`` need, unless ``media`` is given."""
    bleed = sheet.trim.left - sheet.bleed.left
    media = media or (sheet.trim.grown(slug(bleed)) if marks else sheet.bleed)
    content = Content(media, resources)
    content.draw(sheet.marks, sheet.clip_of)
    if marks:
        content.draw(crop_marks(sheet.trim, bleed, sheet.folds), lambda _: media)
    packed = zlib.compress(content.bytes(), PACKED)
    return DrawnPage(media, sheet.bleed, sheet.trim, packed, sorted(content.fonts), sorted(content.pictures))
