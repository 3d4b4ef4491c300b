"""The barcode as it is printed: bars, figures, quiet zones, on a white ground that holds them all.

Source: ISO/IEC 15420, with X = 0.330 mm at 100 %: 11 X of quiet zone at the left and 7 X at the right, bars
22.85 mm high, guard bars 24.50 mm, 25.93 mm with the figures. Widths are never rounded to a raster. The number
itself is regulated: it comes from its issuing body.
"""

from itertools import groupby

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, Mark, Origin, Shape, from_block
from half_fold.core.drawing.tone import BLACK, WHITE
from half_fold.core.inks.tones import ink, ink_of_role
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Block, HoldsBarcode, Publication
from half_fold.core.publication.surgery import role_named
from half_fold.core.spread.codes.ean import addon_modules, drawable, modules
from half_fold.core.spread.where.filled import filled
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.lines.composer import Composer, LineRequest, Lines
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.marks.line_marks import line_marks

X_MM = 0.330
SMALLEST, LARGEST = 80.0, 200.0
QUIET_LEFT, QUIET_RIGHT, MODULES = 11, 7, 95
BAR_MM, GUARD_MM, HEIGHT_MM = 22.85, 24.50, 25.93
GAP_TO_ADDON, ADDON_QUIET, ADDON_TOP_MM = 9, 5, 2.60
_GUARDS = (range(3), range(45, 50), range(92, 95))
_FIGURES = "IBM Plex Sans/Regular"
_FIGURE_MM = 2.6
_WORDS_GAP_MM = 1.0


class BarSymbol(Struct, frozen=True):
    """A symbol with its upper left corner at the origin, in points: its size, its bars, and what its figures say.

    ``figures`` are (text, left, right, baseline): each is spread over its own width.
    """

    width: float
    height: float
    bars: tuple[Rect, ...]
    figures: tuple[tuple[str, float, float, float], ...]


def symbol(number: str, addon: str = "", size: float = 100.0, tall: float = 100.0, narrowed: float = 0.0) -> BarSymbol:
    """The EAN-13 of 13 digits, with its add-on, at ``size`` per cent, its bars ``tall`` per cent of their height.

    Every bar is ``narrowed`` about its middle by thousandths of a millimetre, whatever the size.
    """
    number, addon = drawable(number, addon)
    scale = size / 100 * MM
    x = X_MM * scale
    start = QUIET_LEFT * x
    less = (1 - tall / 100) * BAR_MM * scale
    bars = _bars(modules(number), start, x, 0.0, BAR_MM * scale - less, GUARD_MM * scale - less)
    line = HEIGHT_MM * scale - less
    figures = [
        (number[0], 2 * x, 9 * x, line),
        (number[1:7], start + 4 * x, start + 45 * x, line),
        (number[7:], start + 50 * x, start + 91 * x, line),
    ]
    width = start + (MODULES + QUIET_RIGHT) * x
    if addon:
        more = start + (MODULES + GAP_TO_ADDON) * x
        pattern = addon_modules(addon)
        foot = GUARD_MM * scale - less
        bars += _bars(pattern, more, x, ADDON_TOP_MM * scale, foot, foot)
        end = more + len(pattern) * x
        figures.append((addon, more + 2 * x, end - 2 * x, ADDON_TOP_MM * scale - x))
        width = end + ADDON_QUIET * x
    by = narrowed / 1000 * MM / 2
    thin = (Rect(bar.left + by, bar.top, bar.right - by, bar.bottom) for bar in bars)
    return BarSymbol(width, line, tuple(thin), tuple(figures))


def symbol_of(holds: HoldsBarcode) -> BarSymbol:
    """The symbol that a block holds."""
    return symbol(holds.number, holds.addon, holds.size, holds.tall, holds.narrowed)


def _bars(pattern: str, left: float, x: float, top: float, bottom: float, guard: float) -> list[Rect]:
    out, at = [], 0
    for kind, run in groupby(pattern):
        count = len(list(run))
        if kind == "1":
            reaches = guard if any(at in span for span in _GUARDS) else bottom
            out.append(Rect(left + at * x, top, left + (at + count) * x, reaches))
        at += count
    return out


def ground(composer: Composer, publication: Publication, holds: HoldsBarcode, box: Rect) -> Rect:
    """The white ground of symbol and words, at the foot of ``box`` on its side; it may be larger than the box."""
    drawn = symbol_of(holds)
    height = drawn.height + _words_height(_words(composer, publication, holds, drawn.width)) + 2 * _WORDS_GAP_MM * MM
    left = box.left if holds.side == "left" else box.right - drawn.width
    return Rect(left, box.bottom - height, left + drawn.width, box.bottom)


def barcode_marks(composer: Composer, publication: Publication, block: Block, box: Rect) -> list[Mark]:
    """Ground, words above, bars and figures."""
    holds = block.holds
    assert isinstance(holds, HoldsBarcode)
    area = ground(composer, publication, holds, box)
    drawn = symbol_of(holds)
    top = area.bottom - drawn.height - _WORDS_GAP_MM * MM
    tone = ink(publication, holds.ink)
    marks: list[Mark] = [Shape(area, WHITE, origin=from_block(block.id))] if holds.white else []
    marks += [Shape(bar.moved(area.left, top), tone, origin=from_block(block.id)) for bar in drawn.bars]
    for text, left, right, baseline in drawn.figures:
        spread = _figures(text, area.left + left, area.left + right, top + baseline, holds.size, from_block(block.id))
        marks.append(replace(spread, colour=tone))
    y = area.top + _WORDS_GAP_MM * MM
    inset = QUIET_LEFT * X_MM * holds.size / 100 * MM
    for lines in _words(composer, publication, holds, drawn.width):
        colour = ink_of_role(publication, role_named(publication, lines.paragraph.role))
        for line in range(lines.count):
            y += lines.style.leading
            marks += line_marks(lines, line, area.left + inset, y, colour, from_block(block.id))
    return marks


def _words(composer: Composer, publication: Publication, holds: HoldsBarcode, width: float) -> list[Lines]:
    measure = width - (QUIET_LEFT + QUIET_RIGHT) * X_MM * holds.size / 100 * MM
    out = []
    for paragraph in holds.paragraphs:
        style = style_of(role_named(publication, paragraph.role), publication.language)
        out.append(composer.lines(LineRequest(filled(publication, paragraph), style, (measure,), False)))
    return out


def _words_height(words: list[Lines]) -> float:
    return sum(lines.count * lines.style.leading for lines in words) + (_WORDS_GAP_MM * 2 * MM if words else 0.0)


def _figures(text: str, left: float, right: float, baseline: float, size: float, origin: Origin) -> Glyphs:
    """Figures spread evenly over their width."""
    drawn = face(_FIGURES)
    points = _FIGURE_MM * size / 100 * MM / drawn.cap_height
    shaped = drawn.shape(text, ("tnum",))
    step = (right - left) / len(text)
    lead = (step - shaped.advances[0] * points) / 2
    xs = left + lead + step * np.arange(len(text), dtype=np.float64)
    return Glyphs(_FIGURES, points, shaped.gids, xs, baseline, BLACK, shaped.texts, origin)
