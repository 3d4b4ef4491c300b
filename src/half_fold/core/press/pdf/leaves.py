"""Sheets drawn as pages of the file: packed contents, boxes, and the names of what they use."""

import zlib
from collections.abc import Callable, Sequence

from msgspec import Struct

from half_fold.core.drawing.marks import Mark, MarkGroup, PictureMark, Veil
from half_fold.core.drawing.overprint import Overprint
from half_fold.core.drawing.tone import Spot, Tone
from half_fold.core.measure.rect import Rect
from half_fold.core.press.pdf.composed import Composed, Named, composed
from half_fold.core.press.pdf.content import Content, ContentForm, Resources
from half_fold.core.press.pdf.paints import Shading, resource_name
from half_fold.core.press.pdf.seen import PicturePart
from half_fold.core.press.pdf.text_groups import grouped
from half_fold.core.press.sheets import Sheet

PACKED = 4  # zlib's level: beyond it a stream of text gets 3 in 100 smaller in twice the time


class DrawnForm(Struct, frozen=True, array_like=True):
    """A group on a page: its name there, its packed content, and what it was made of."""

    name: str
    packed: bytes
    composed: Composed


class DrawnVeil(Struct, frozen=True, array_like=True):
    """A veil on a page: its name there, its size in pixels, how it covers (packed), and its tone."""

    name: str
    wide: int
    high: int
    packed: bytes
    tone: Tone


class DrawnPage(Struct, frozen=True, array_like=True):
    """A page before it is in a file: its boxes in the sheet's coordinates, its packed content, and what that names.

    ``label`` is what it is called where it has to be named; ``composed`` what it was made of, for the proof.
    """

    label: str
    media: Rect
    bleed: Rect
    trim: Rect
    packed: bytes
    fonts: list[str]
    pictures: list[PicturePart]
    composed: Composed
    paper: str = ""
    forms: list[DrawnForm] = []
    states: list[str] = []
    spots: list[Spot] = []
    shadings: list[Shading] = []
    veils: list[DrawnVeil] = []


def draw_page(sheet: Sheet, resources: Resources, marks: bool, media: Rect | None = None) -> DrawnPage:
    """The page of a sheet, as large as its bleed, or as the printer's ``marks`` need, unless ``media`` is given."""
    media = media or sheet.area(marks)
    content = Content(media, resources)
    content.draw(sheet.marks, sheet.clip_of)
    drawn, groups, clip_of = sheet.marks, resources.groups(sheet.marks), sheet.clip_of
    if marks:
        printers = sheet.printers
        content.draw(printers, lambda _: media)
        drawn, groups = (*drawn, *printers), [*groups, *resources.groups(printers)]
        clip_of = _clipper(printers, media, clip_of)
    octets = content.bytes()
    names = {id(form.of): form.name for form in content.forms}

    def named(mark: PictureMark | MarkGroup, clip: Rect) -> tuple[str, PictureMark | MarkGroup]:
        if isinstance(mark, MarkGroup):
            return names.get(id(mark), ""), mark
        part, laid = resources.part(mark, clip)
        return resource_name("P", part.key), laid

    made = composed(drawn, groups, clip_of, media, octets, named, sheet.label, resources.black)
    forms = [_form(form, media, named, sheet.label, resources.black) for form in content.forms]
    fonts, pictures, states = sorted(content.fonts), sorted(content.pictures), sorted(content.states)
    packed = zlib.compress(octets, PACKED)
    boxes = media, sheet.bleed, sheet.trim
    paints = sorted(content.spots), list(content.shadings.values()), [_veil(*each) for each in content.veils.items()]
    return DrawnPage(sheet.label, *boxes, packed, fonts, pictures, made, sheet.paper, forms, states, *paints)


def _veil(name: str, veil: Veil) -> DrawnVeil:
    high, wide = veil.cover.shape
    return DrawnVeil(name, wide, high, zlib.compress(veil.cover.tobytes(), PACKED), veil.tone)


def _form(form: ContentForm, media: Rect, named: Named, where: str, black: Overprint) -> DrawnForm:
    marks = form.group.marks
    made = composed(marks, list(grouped(marks)), lambda _: form.clip, media, form.octets, named, where, black)
    return DrawnForm(form.name, zlib.compress(form.octets, PACKED), made)


def _clipper(printers: Sequence[Mark], media: Rect, clip_of: Callable[[Mark], Rect]) -> Callable[[Mark], Rect]:
    """The clips of a sheet's marks, and the whole sheet for the printer's."""
    theirs = set(map(id, printers))
    return lambda mark: media if id(mark) in theirs else clip_of(mark)
