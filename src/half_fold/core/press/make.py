"""Making the press PDF: complete, or not there at all."""

import zlib
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

import pikepdf
from pikepdf import Array, Dictionary, Name, Stream

from half_fold.core.brief.papers import find_paper
from half_fold.core.cover.sides import is_blank, require_cover
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour import COATED, UNCOATED, shipped_profile
from half_fold.core.press.content import KNOCK_OUT, OVERPRINT, REGISTRATION, Content, Resources
from half_fold.core.press.crop_marks import crop_marks, slug
from half_fold.core.press.images import embed_picture
from half_fold.core.press.sheets import Sheet, cover_sheets, page_sheets, spread_sheets
from half_fold.core.press.standard import state_standard
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.compose import Setter
from half_fold.core.store.atomic import whole_file

PARTS = ("pages", "cover")
FORMS = ("pages", "spreads")
Progress = Callable[[int, int], None]


def default_profile(publication: Publication, part: str) -> bytes:
    """The shipped profile that the printer's sheet asks for, else that of the paper: coated or uncoated."""
    brief, asked = publication.brief, publication.printer
    if asked is not None and asked.profile:
        return shipped_profile(COATED if asked.profile == "coated" else UNCOATED)
    name = brief.cover_paper if part == "cover" and brief.cover_paper != "none" else brief.text_paper
    return shipped_profile(COATED if find_paper(publication, name).coated else UNCOATED)


def press(
    publication: Publication,
    pictures: Path,
    out: Path,
    part: str = "pages",
    form: str = "pages",
    marks: bool = False,
    profile: bytes | None = None,
    progress: Progress | None = None,
    setter: Setter | None = None,
) -> int:
    """Write the PDF to ``out`` and give its number of pages.

    ``pictures`` is the job's pictures folder; ``progress`` is told (sheets done, sheets in all) and may raise
    to cancel. A ``setter`` that has set the job already spares setting it again. Raises
    Problem where a picture is missing or the file cannot be written.
    """
    if out.is_dir():
        raise Problem(f"“{out}” is a folder; name the PDF to write in it.")
    profile = profile or default_profile(publication, part)
    sheets, count = _sheets(publication, part, form, setter or Setter())
    title = " ".join(filter(None, (publication.title, publication.issue, "cover" if part == "cover" else "")))
    with whole_file(out) as temporary, pikepdf.new() as pdf:
        writer = Writer(pdf, publication, pictures, profile, marks)
        for done, sheet in enumerate(sheets):
            writer.add(sheet)
            if progress is not None:
                progress(done + 1, count)
        writer.finish()
        if publication.brief.right_bound:
            pdf.Root.ViewerPreferences = Dictionary(Direction=Name.R2L)
        state_standard(pdf, title, profile)
        pdf.save(temporary, force_version="1.6", object_stream_mode=pikepdf.ObjectStreamMode.generate)
    return count


def _sheets(publication: Publication, part: str, form: str, setter: Setter) -> tuple[Iterator[Sheet], int]:
    if part == "cover":
        require_cover(publication)
        return cover_sheets(publication, setter), 1 if is_blank(publication, "inside") else 2
    if form == "spreads":
        return spread_sheets(publication, setter), len(publication.pages) // 2 + 1
    return page_sheets(publication, setter), len(publication.pages)


class Writer:
    """Adds sheets to a file, and at the end the fonts and pictures they used."""

    def __init__(self, pdf: pikepdf.Pdf, publication: Publication, pictures: Path, profile: bytes, marks: bool) -> None:
        self.pdf, self.publication, self.folder, self.profile, self.marks = pdf, publication, pictures, profile, marks
        self.resources = Resources()
        self.pages: list[tuple[pikepdf.Object, Content, Future[bytes]]] = []
        self._packing = ThreadPoolExecutor(1)  # zlib needs no interpreter: it packs one page while the next is written

    def add(self, sheet: Sheet, media: Rect | None = None) -> None:
        """One more page, on a sheet of its own size unless ``media`` is given."""
        bleed = sheet.trim.left - sheet.bleed.left
        media = media or (sheet.trim.grown(slug(bleed)) if self.marks else sheet.bleed)
        content = Content(media, self.resources)
        content.draw(sheet.marks, sheet.clip_of)
        if self.marks:
            content.draw(crop_marks(sheet.trim, bleed, sheet.folds), lambda _: media)
        page = self.pdf.make_indirect(
            Dictionary(
                Type=Name.Page,
                MediaBox=_box(media, media),
                BleedBox=_box(sheet.bleed, media),
                TrimBox=_box(sheet.trim, media),
            )
        )
        self.pdf.pages.append(pikepdf.Page(page))
        self.pages.append((self.pdf.pages[-1].obj, content, self._packing.submit(zlib.compress, content.bytes())))

    def finish(self) -> None:
        fonts = {key: use.embed(self.pdf) for key, use in self.resources.fonts.items()}
        images = {
            key: embed_picture(self.pdf, self.folder, picture_of(self.publication, key), self.profile)
            for key in self.resources.pictures
        }
        states = {
            f"/{OVERPRINT}": self.pdf.make_indirect(Dictionary(Type=Name.ExtGState, OP=True, op=True, OPM=1)),
            f"/{KNOCK_OUT}": self.pdf.make_indirect(Dictionary(Type=Name.ExtGState, OP=False, op=False, OPM=1)),
        }
        registration = self.pdf.make_indirect(_registration())
        for page, content, packed in self.pages:
            page.Contents = self.pdf.make_indirect(Stream(self.pdf, packed.result(), Filter=Name.FlateDecode))
            used = Dictionary(ExtGState=Dictionary(states))
            if content.fonts:
                used.Font = Dictionary(
                    {f"/{self.resources.fonts[k].resource}": fonts[k] for k in sorted(content.fonts)}
                )
            if content.pictures:
                used.XObject = Dictionary(
                    {f"/{self.resources.pictures[k]}": images[k] for k in sorted(content.pictures)}
                )
            if self.marks:
                used.ColorSpace = Dictionary({f"/{REGISTRATION}": registration})
            page.Resources = used


def _box(rect: Rect, media: Rect) -> Array:
    """A rectangle as a page box; at 4 decimals of a point it is true to less than a micrometre."""
    corners = (rect.left - media.left, media.bottom - rect.bottom, rect.right - media.left, media.bottom - rect.top)
    return Array([round(value, 4) for value in corners])


def _registration() -> Array:
    """The colour that prints on every plate."""
    tint = Dictionary(FunctionType=2, Domain=Array([0, 1]), C0=Array([0, 0, 0, 0]), C1=Array([1, 1, 1, 1]), N=1)
    return Array([Name.Separation, Name.All, Name.DeviceCMYK, tint])
