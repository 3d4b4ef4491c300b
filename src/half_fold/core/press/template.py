"""The cover template as a file at true size: PDF with its boxes, or SVG. A PNG is the desk painter's."""

from html import escape
from pathlib import Path

import pikepdf

from half_fold.core.cover.flat import cover_paper
from half_fold.core.cover.template import WorkingDrawing
from half_fold.core.drawing.marks import Glyphs, Line, Mark, Shape
from half_fold.core.drawing.tone import Paint, tones
from half_fold.core.measure.rect import Rect
from half_fold.core.press.make import PDF_BEGINS, Writer
from half_fold.core.press.pdf.leaves import draw_page
from half_fold.core.press.sheets import Sheet
from half_fold.core.publication.records import Publication
from half_fold.core.store.atomic import whole_file, write_whole
from half_fold.core.store.files import require_output

SUFFIXES = (".pdf", ".svg", ".png")


def write_template_pdf(publication: Publication, drawn: WorkingDrawing, out: Path) -> None:
    """One page at true size; its trim box is the flat's trim, its bleed box the bleed."""
    area = drawn.drawing.area
    whole = drawn.flat.trim.grown(drawn.flat.bleed)
    sheet = Sheet("template", drawn.flat.trim, whole, drawn.drawing.marks, lambda _mark: area, drawn.flat.marked)
    require_output(out, PDF_BEGINS)
    with whole_file(out) as temporary, pikepdf.new() as pdf:
        writer = Writer(pdf, publication, Path(), cover_paper(publication), marks=False)
        writer.add(draw_page(sheet, writer.resources, False, media=area))
        writer.save(temporary, "template")


def write_template_svg(drawn: WorkingDrawing, out: Path) -> None:
    """An SVG whose user unit is a point; words are letters in a sans of the reader's."""
    area = drawn.drawing.area
    body = "\n".join(filter(None, (_svg(mark) for mark in drawn.drawing.marks)))
    box = f"{area.left:.3f} {area.top:.3f} {area.width:.3f} {area.height:.3f}"
    size = f'width="{area.width / 72 * 25.4:.3f}mm" height="{area.height / 72 * 25.4:.3f}mm"'
    text = (
        f'<svg xmlns="http://www.w3.org/2000/svg" {size} viewBox="{box}" '
        f'font-family="IBM Plex Sans, sans-serif">\n{body}\n</svg>\n'
    )
    require_output(out, (b"<svg", b"<?xml"))
    write_whole(out, text.encode())


def _svg(mark: Mark) -> str:
    if isinstance(mark, Shape):
        fill = _css(mark.fill) if mark.fill is not None else "none"
        stroke = f' stroke="{_css(mark.stroke)}" stroke-width="{mark.weight:g}"' if mark.stroke is not None else ""
        return f'<rect {_box(mark.rect)} fill="{fill}"{stroke}/>'
    if isinstance(mark, Line):
        (x1, y1), (x2, y2) = mark.start, mark.end
        place = f'x1="{x1:.3f}" y1="{y1:.3f}" x2="{x2:.3f}" y2="{y2:.3f}"'
        return f'<line {place} stroke="{_css(mark.colour)}" stroke-width="{mark.weight:g}"/>'
    if isinstance(mark, Glyphs):
        words = escape("".join(mark.texts))
        turn = mark.turn
        turned = f' transform="matrix({" ".join(f"{figure:.5f}" for figure in turn)})"' if turn else ""
        at = f'x="{float(mark.xs[0]):.3f}" y="{mark.baseline:.3f}" font-size="{mark.size:.3f}"'
        return f'<text {at} fill="{_css(mark.colour)}"{turned}>{words}</text>'
    return ""


def _box(rect: Rect) -> str:
    return f'x="{rect.left:.3f}" y="{rect.top:.3f}" width="{rect.width:.3f}" height="{rect.height:.3f}"'


def _css(paint: Paint) -> str:
    """A plain screen colour; a template's inks only tell lines apart."""
    c, m, y, k = tones(paint)[0].process
    parts = (round(255 * (1 - min(1.0, ink)) * (1 - k)) for ink in (c, m, y))
    return "#" + "".join(f"{part:02x}" for part in parts)
