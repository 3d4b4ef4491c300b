"""The job's own small set of symbols: drawings that are set as letters, in words and in running text alike.

Each is a letter of the private use area (U+E000 on) of a font that the program makes of them and keeps among the job's
fonts; the roles' faces take it from there, as they take letters of other scripts. In words it may be typed by its name,
``{end mark}``.
"""

import io
import tempfile
from collections.abc import Iterator
from functools import reduce
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.outline import CLOSE, CURVE, LINE, MOVE, Outline
from half_fold.core.drawing.regions import region_of, region_outline
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.vector.vector import data_of, outline_of_art, read_vector
from half_fold.core.publication.kinds import own_words
from half_fold.core.publication.records import Art, Publication, Symbol
from half_fold.core.publication.surgery import cover_blocks, every_block
from half_fold.core.store.files import readable
from half_fold.core.typesetting.faces.fonts import SYMBOLS, bring_font
from half_fold.core.typesetting.faces.scripts import SIGNS
from half_fold.core.typesetting.sheet.sheet import with_fallback

FIRST, MOST = 0xE000, 200
UPEM, HIGH, WIDEST, BESIDE = 1000, 700, 1600, 60  # thousandths of the em: as high as capitals, and white at both sides
FLAT = 0.5  # thousandths: so near do pieces that lie on one another keep to their outlines
TAKEN = ("title", "issue", "season", "date", "author", "publisher", "price", "slogan", "folio", "section", "story",
         "caption", "captions", "credit", "credits")  # fmt: skip


def add_symbol(publication: Publication, folder: Path, file: Path, name: str = "") -> tuple[Publication, Symbol]:
    """The job with a drawing (SVG) as a symbol, called as its file is where no ``name`` is given.

    Problem where it is no drawing, or the name is taken.
    """
    name = " ".join((name or readable(file.stem).replace("-", " ").replace("_", " ")).lower().split())
    if not name or set(name) & set("{}") or name in TAKEN:
        raise Problem(f"A symbol cannot be called “{name}”; give it a name such as “end mark”.")
    if any(symbol.name == name for symbol in publication.symbols):
        raise Problem(f"There is a symbol “{name}” already; give this one another name.")
    if len(publication.symbols) >= MOST:
        raise Problem(f"A job takes {MOST} symbols and no more; remove one first.")
    outline = _as_letter(file)
    taken = {symbol.letter for symbol in publication.symbols}
    letter = next(chr(code) for code in range(FIRST, FIRST + MOST) if chr(code) not in taken)
    symbol = Symbol(name=name, letter=letter, data=data_of(outline))
    return _set_from(replace(publication, symbols=(*publication.symbols, symbol)), folder), symbol


def remove_symbol(publication: Publication, folder: Path, name: str) -> Publication:
    """The job without a symbol. Problem where there is none of that name, or it is used."""
    symbol = next((each for each in publication.symbols if each.name == name), None)
    if symbol is None:
        there = ", ".join(each.name for each in publication.symbols) or "none"
        raise Problem(f"There is no symbol “{name}”; there are {there}.")
    used = next((where for where, words in _every_text(publication) if _has(words, symbol)), "")
    if used:
        raise Problem(f"“{name}” is used in {used}; take it out there first.")
    others = tuple(each for each in publication.symbols if each is not symbol)
    return _set_from(replace(publication, symbols=others), folder)


def _has(words: str, symbol: Symbol) -> bool:
    return symbol.letter in words or f"{{{symbol.name}}}" in words


def _every_text(publication: Publication) -> Iterator[tuple[str, str]]:
    """Where there are words, and which."""
    for story in publication.stories:
        yield from ((f"the story “{story.title}”", paragraph.text) for paragraph in story.paragraphs)
    for where, block in (
        *((f"a block on page {index + 1}", block) for index, _, block in every_block(publication)),
        *(("a block on the cover", block) for block in cover_blocks(publication)),
    ):
        yield from ((where, paragraph.text) for paragraph in own_words(block.holds))
    for master in publication.masters:
        yield from ((f"the master “{master.name}”", piece.words) for piece in master.furniture)
    yield "the spine", publication.cover.spine
    yield from (("the spine", piece.words) for piece in publication.cover.pieces)


def _as_letter(file: Path) -> Outline:
    """A drawing in thousandths of the em, y upwards from the baseline, as high as capitals or as wide as may be."""
    pieces = [outline_of_art(art) for art in read_vector(file).art]
    if len(pieces) > 1:  # what lies on one another is one shape in a letter
        whole = region_outline(
            reduce(lambda one, other: one.union(other), (region_of([each], FLAT) for each in pieces))
        )
    else:
        whole = pieces[0] if pieces else None
    if whole is None or whole.bounds.height <= 0 or whole.bounds.width <= 0:
        raise Problem(f"“{file.name}” has nothing to print; give a drawing of a filled shape.")
    box = whole.bounds
    by = min(HIGH / box.height, WIDEST / box.width)
    return whole.through(Affine(by, 0, 0, -by, BESIDE - by * box.left, by * box.bottom))


def _set_from(publication: Publication, folder: Path) -> Publication:
    """The job with the font of its symbols made anew, and its roles taking from it what their faces have not got."""
    fonts = tuple(font for font in publication.fonts if font.family != SYMBOLS)
    publication = replace(publication, fonts=fonts)
    if not publication.symbols:
        return publication
    with tempfile.TemporaryDirectory() as made:
        file = Path(made) / "symbols.otf"
        file.write_bytes(font_of(publication.symbols))
        publication, _ = bring_font(publication, folder, file)
    return with_fallback(publication, SIGNS, SYMBOLS, beside=True)


def font_of(symbols: tuple[Symbol, ...]) -> bytes:
    """An OpenType font of symbols, the same from the same symbols; glyphs stand in the order of their letters."""
    from fontTools.fontBuilder import FontBuilder
    from fontTools.pens.t2CharStringPen import T2CharStringPen

    ordered = sorted(symbols, key=lambda symbol: symbol.letter)
    names = [".notdef", *(f"uni{ord(symbol.letter):04X}" for symbol in ordered)]
    glyphs, widths = {}, {}
    for name, symbol in zip(names, (None, *ordered), strict=True):
        outline = outline_of_art(Art(data=symbol.data)) if symbol is not None else None
        width = UPEM // 2 if outline is None else round(outline.bounds.right + BESIDE)
        pen = T2CharStringPen(width, None)
        if outline is not None:
            _draw(outline, pen)
        glyphs[name], widths[name] = pen.getCharString(), (width, 0)
    builder = FontBuilder(UPEM, isTTF=False)
    builder.setupGlyphOrder(names)
    builder.setupCharacterMap({ord(symbol.letter): name for name, symbol in zip(names[1:], ordered, strict=True)})
    builder.setupCFF(SYMBOLS, {"FullName": SYMBOLS}, glyphs, {})
    builder.setupHorizontalMetrics(widths)
    builder.setupHorizontalHeader(ascent=HIGH + 100, descent=-200)
    builder.setupNameTable({"familyName": SYMBOLS, "styleName": "Regular", "psName": SYMBOLS})
    builder.setupOS2(sTypoAscender=HIGH + 100, sTypoDescender=-200, fsType=0)
    builder.setupPost()
    builder.font["head"].created = builder.font["head"].modified = 0
    builder.font.recalcTimestamp = False
    out = io.BytesIO()
    builder.save(out)
    return out.getvalue()


def _draw(outline: Outline, pen: Any) -> None:
    """Draw an outline with a pen of fontTools: each of its parts closed."""
    points = iter([tuple(point) for point in outline.points.tolist()])
    is_open = False
    for op in outline.ops:
        if is_open and op in (MOVE, CLOSE):
            pen.closePath()
            is_open = False
        if op == MOVE:
            pen.moveTo(next(points))
            is_open = True
        elif op == LINE:
            pen.lineTo(next(points))
        elif op == CURVE:
            pen.curveTo(next(points), next(points), next(points))
    if is_open:
        pen.closePath()
