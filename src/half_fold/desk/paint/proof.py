"""Proofs: a page, a spread or the cover as a PNG, cut to the trim, from the display list that is pressed."""

import os
import sys
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PIL import Image, ImageChops
from PyQt6.QtCore import QBuffer, QIODevice, Qt
from PyQt6.QtGui import QColor, QGuiApplication, QImage, QPainter

from half_fold.core.brief.allowances import ink_limit, picture_ppi
from half_fold.core.brief.wrap import has_cover
from half_fold.core.cover.flat import cover_flat, cover_marks, cover_paper
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.drawing.marks import PictureMark as LaidPicture
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import (
    COATED,
    as_printed,
    inks_to_screen,
    profile_for,
    shipped_profile,
    to_screen,
)
from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.pictures.library.bring import load_pixels, picture_file
from half_fold.core.pictures.library.developing import shown_whole
from half_fold.core.plan.sections import paper_of_page
from half_fold.core.plan.spreads import spread_of, spreads_of
from half_fold.core.press.pdf.images import pressed_part
from half_fold.core.press.pdf.seen import part_of
from half_fold.core.publication.records import Picture, Publication
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import page_frame_of, spread_area
from half_fold.core.store.atomic import write_whole
from half_fold.core.store.files import require_output
from half_fold.core.store.job import Job
from half_fold.desk.paint.false_colour import InkedImage
from half_fold.desk.paint.painter import paint, paint_on_paper
from half_fold.desk.paint.proxies import to_qimage

USUAL_DPI = 144.0
QUALITY = 92  # of a JPEG, in per cent
MOST_PIXELS = 150_000_000
SMALL = 220  # pixels of the longer side of a small picture


def _chosen(publication: Publication, spread: int | None, page: int | None) -> tuple[DisplayList, Rect]:
    if page is not None:
        if not 1 <= page <= len(publication.pages):
            raise Problem(f"There is no page {page}; this job has {len(publication.pages)}.")
        place = spread_of(publication, page)
        return Setter().spread(publication, place), page_frame_of(publication, page).trim
    every = spreads_of(publication)
    if spread is None:
        return cover_marks(publication), cover_flat(publication).trim
    if not 1 <= spread <= len(every):
        raise Problem(f"There is no spread {spread}; this job has {len(every)}.")
    return Setter().spread(publication, every[spread - 1]), spread_area(publication, every[spread - 1])


def render(
    marks: DisplayList, area: Rect, publication: Publication, folder: Path, dpi: float, paper: str = ""
) -> QImage:
    """The part ``area`` of a display list at ``dpi``: as on the screen, or as it is pressed on a ``paper``."""
    width, height = round(area.width * dpi / 72), round(area.height * dpi / 72)
    if width * height > MOST_PIXELS:
        raise Problem(f"A proof of {width} × {height} pixels is too large; ask for fewer dpi.")
    image = QImage(max(1, width), max(1, height), QImage.Format.Format_RGB32)
    image.fill(QColor(Qt.GlobalColor.white))
    held: dict[tuple[str, int], QImage] = {}
    profile = profile_for(publication, paper) if paper else b""

    def shown(picture: str, width: float) -> QImage:
        key = picture, round(width) if paper else 0
        if key not in held:
            name, treatment = parse_drawn_key(picture)
            known = picture_of(publication, name)
            if paper:
                held[key] = _as_pressed(publication, folder, known, picture, width / dpi * 72, paper)
            else:
                whole = shown_whole(to_screen(load_pixels(picture_file(folder, known))), folder, known, treatment)
                held[key] = to_qimage(as_printed(whole, known.inks))
        return held[key]

    painter = QPainter(image)
    painter.scale(dpi / 72, dpi / 72)
    painter.translate(-area.left, -area.top)
    try:
        if paper:
            paint_on_paper(painter, marks, area, shown, profile, outlines=True)
        else:
            paint(painter, marks, shown, outlines=True)
    finally:
        painter.end()
    return image


def _as_pressed(
    publication: Publication, folder: Path, picture: Picture, key: str, wide: float, paper: str
) -> InkedImage:
    """A whole picture in the very inks that it is pressed in, laid ``wide`` points across."""
    size = picture.width, picture.height
    laid = Rect(0, 0, wide, wide * size[1] / size[0])
    part = part_of(LaidPicture(key, laid, laid), laid, size, picture_ppi(publication)[0])
    limit = float(ink_limit(publication, paper)[0])
    made, alpha = pressed_part(folder, picture, part, profile_for(publication, paper), limit)
    if made.mode != "CMYK":
        black = ImageChops.invert(made.convert("L"))
        made = Image.merge("CMYK", [Image.new("L", made.size)] * 3 + [black])
    shown = inks_to_screen(made)
    if alpha is not None:
        shown.putalpha(alpha)
    return InkedImage(to_qimage(shown), np.asarray(made))


def write_proof(
    job: Job,
    out: Path,
    spread: int | None = None,
    page: int | None = None,
    cover: bool = False,
    dpi: float = USUAL_DPI,
    front: bool = False,
    on_paper: bool = False,
) -> str:
    """Write the proof as a PNG, as it looks in print if ``on_paper``; gives what is to be said of its colours.

    Problem where there is no such page or the file cannot be written.
    """
    if out.is_dir():
        raise Problem(f"“{out}” is a folder; name the PNG or JPEG to write in it.")
    _require_picture(out)  # before anything is drawn for nothing
    marks, area = _chosen(job.publication, spread, None if cover or front else page)
    if front:
        area = cover_flat(job.publication).front
    publication = job.publication
    first = page if page is not None else spreads_of(publication)[spread - 1].numbers[0] if spread else None
    paper = cover_paper(publication) if cover or front else paper_of_page(publication, first or 1)
    profile = profile_for(publication, paper)
    write_drawing(job, replace(marks, area=area), out, dpi, paper if on_paper else "")
    if on_paper or profile == shipped_profile(COATED):
        return ""
    return f"Colours are shown as on coated paper; --on-paper shows them as {paper} prints them."


def write_small(job: Job, out: Path) -> None:
    """A small picture of a job: the front of its cover, or its first spread. Problem where it cannot be written."""
    publication = job.publication
    if has_cover(publication):
        marks, area = cover_marks(publication), cover_flat(publication).front
    else:
        marks, area = _chosen(publication, 1, None)
    write_drawing(job, replace(marks, area=area), out, SMALL * 72 / max(area.width, area.height))


def write_drawing(job: Job, drawing: DisplayList, out: Path, dpi: float, paper: str = "") -> None:
    """Write a display list's whole area as a JPEG, where its name ends so, or a PNG.

    Problem where the file cannot be written.
    """
    _require_picture(out)
    if QGuiApplication.instance() is None:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
        _application.append(QGuiApplication(sys.argv[:1]))
    image = render(drawing, drawing.area, job.publication, job.pictures, dpi, paper)
    image.setDotsPerMeterX(round(dpi / 0.0254))
    image.setDotsPerMeterY(round(dpi / 0.0254))
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if _is_jpeg(out):
        image.save(buffer, "JPEG", QUALITY)
    else:
        image.save(buffer, "PNG")
    write_whole(out, buffer.data().data())


def _is_jpeg(out: Path) -> bool:
    return out.suffix.lower() in (".jpg", ".jpeg")


def _require_picture(out: Path) -> None:
    """Problem where a picture written there would replace what is none."""
    require_output(out, (b"\xff\xd8",) if _is_jpeg(out) else (b"\x89PNG",))


_application: list[QGuiApplication] = []
