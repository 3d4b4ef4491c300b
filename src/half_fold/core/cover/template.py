"""The cover flat as a working drawing at true size: trim, bleed, folds, safe zones, barcode place, every dimension.

Dimensions stand in lanes outside the flat; one whose words would run into another's moves a lane outwards, so that
no two ever touch.
"""

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.apart.flat import Flat
from half_fold.core.brief.allowances import PRINTER_WINS
from half_fold.core.brief.printers import barcode_reserve
from half_fold.core.cover.flat import piece_flat
from half_fold.core.drawing.affine import Affine, turned
from half_fold.core.drawing.marks import DisplayList, Glyphs, Line, Mark, Shape
from half_fold.core.drawing.tone import BLACK, Tone
from half_fold.core.measure.entry import MM, unit_name
from half_fold.core.measure.length import figure, in_unit
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.publication.records import Paragraph, Publication, Run
from half_fold.core.spread.setting.evened import ink_of, one_line
from half_fold.core.typesetting.lines.composer import Composer

ROLE = "cover note"
WEIGHT = 0.5
THIN = 14.0  # a dimension line is so many times thinner than its letters are high
HATCHED = Tone(y=0.5, m=0.25, k=0.1)
SAFE = Tone(c=0.6, y=0.3, k=0.2)
FOLD = Tone(m=0.7, y=0.8, k=0.2)
BARCODE_MM = (50.8, 30.5)
_LANE, _GAP, _TICK = 1.9, 0.5, 0.45  # in heights of the letters


class _Measured(NamedTuple):
    """What a kind of flat is called, and the keys of the numbers that its dimensions show."""

    name: str
    panel: str
    height: str
    whole_width: str
    whole_height: str
    beyond: str = "bleed"
    names: tuple[str, str] = ("back", "front")


_MEASURED = {
    "wrap": _Measured("Cover laid flat", "trim.width", "trim.height", "wrap.width", "wrap.height"),
    "front": _Measured("Front", "trim.width", "trim.height", "trim.width", "trim.height"),
    "sheet": _Measured("Sheet", "trim.width", "trim.height", "", "", names=("", "sheet")),
    "spread": _Measured("Pages laid flat", "trim.width", "trim.height", "", "", names=("left page", "right page")),
    "case": _Measured(
        "Case covering laid flat", "case.board.width", "case.board.height", "case.width", "case.height", "turn-in"
    ),
    "jacket": _Measured("Jacket laid flat", "jacket.front", "case.board.height", "jacket.width", "jacket.height"),
}


class Dimension(Struct, frozen=True):
    """A measure between two places; ``key`` names the number it shows, ``edits`` what typing on it sets."""

    start: float
    end: float
    words: str
    key: str = ""
    edits: str = ""
    down: bool = False


class Lettered(Struct, frozen=True):
    """A dimension as drawn: where its words lie, in points of the flat."""

    dimension: Dimension
    words_at: Rect


class WorkingDrawing(Struct, frozen=True):
    """Marks in points of the flat, the sheet they take, and where each dimension's words lie."""

    drawing: DisplayList
    flat: Flat
    lettered: tuple[Lettered, ...]


def working_drawing(
    composer: Composer, publication: Publication, letters: float = 8.0, over: bool = False
) -> WorkingDrawing:
    """The flat drawn with ``letters`` points of type, or only what lies ``over`` its own marks.

    Problem for a bound job without a cover.
    """
    flat = piece_flat(publication)
    pen = _Pen(composer, publication, letters)
    sheet = flat.trim.grown(flat.bleed)
    marks: list[Mark] = [*_areas(publication, flat, sheet, over), *_folds(flat, sheet, letters)]
    marks += [] if over else _named(pen, publication, flat)
    above, lettered_above = _lanes(pen, _across(publication, flat, sheet), sheet.top, -1)
    below, lettered_below = _lanes(pen, _across_whole(publication, flat, sheet), sheet.bottom, 1)
    left, lettered_left = _lanes(pen, _down(publication, flat, sheet), sheet.left, -1, down=True)
    marks += [*above, *below, *left]
    lettered = (*lettered_above, *lettered_below, *lettered_left)
    area = hull((sheet, *(placed.words_at for placed in lettered)))
    if not over:
        area = _noted(pen, publication, flat, area, marks)
    return WorkingDrawing(DisplayList(area.grown(letters), tuple(marks)), flat, lettered)


def _noted(pen: "_Pen", publication: Publication, flat: Flat, area: Rect, marks: list[Mark]) -> Rect:
    """What the drawing is, under it; gives the area with it."""
    note = pen.words(f"{_title(publication, flat)}  {PRINTER_WINS}", pen.size)
    foot = area.bottom + 2.2 * pen.size
    marks += _moved(note, flat.trim.left, foot)
    return Rect(area.left, area.top, max(area.right, flat.trim.left + ink_of(note).width), foot)


def _title(publication: Publication, flat: Flat) -> str:
    name = _MEASURED[flat.what].name
    return f"{publication.title}. {name}, outside, at true size. Dimensions in {unit_name(publication.brief.unit)}."


class _Pen:
    """Sets short words."""

    def __init__(self, composer: Composer, publication: Publication, size: float) -> None:
        self.composer, self.publication, self.size = composer, publication, size

    def words(self, text: str, size: float) -> list[Glyphs]:
        paragraph = Paragraph(role=ROLE, runs=(Run(text=text),))
        return one_line(self.composer, self.publication, paragraph, size, BLACK)


def _moved(marks: Iterable[Glyphs], x: float, y: float, turn: Affine | None = None) -> list[Mark]:
    return [replace(mark, xs=mark.xs + x, baseline=mark.baseline + y, turn=turn) for mark in marks]


def _areas(publication: Publication, flat: Flat, sheet: Rect, over: bool) -> list[Mark]:
    """Bleed, panels, safe zones, and the place kept for a barcode."""
    safe = publication.brief.safe.pt
    marks: list[Mark] = []
    if not over:
        marks += [Shape(sheet, HATCHED.tinted(0.35)), Shape(flat.trim, Tone())]
        marks += [Shape(flap, Tone(k=0.04)) for flap in flat.flaps]
        marks += [Shape(flat.spine, Tone(c=0.12, y=0.05))] if flat.spine is not None else []
    marks += [Shape(panel.grown(-safe), None, SAFE, WEIGHT / 2) for panel in (*dict(flat.panels).values(), *flat.flaps)]
    marks += [Shape(flat.trim, None, BLACK, WEIGHT), Shape(sheet, None, HATCHED, WEIGHT)]
    if over or flat.what in ("sheet", "spread"):
        return marks
    return [*marks, Shape(barcode_area(publication, flat), None, BLACK, WEIGHT / 2)]


def barcode_area(publication: Publication, flat: Flat) -> Rect:
    """The rectangle kept for a barcode: at the foot of the back, towards the spine, clear by the safe zone."""
    sheet = publication.printer
    width, height = barcode_reserve(sheet) if sheet is not None and sheet.barcode else BARCODE_MM
    safe = publication.brief.safe.pt
    panel = flat.back or flat.front
    bottom = panel.bottom - safe
    right = panel.right - safe if panel.left <= flat.front.left else panel.left + safe + width * MM
    return Rect(right - width * MM, bottom - height * MM, right, bottom)


def _folds(flat: Flat, sheet: Rect, letters: float) -> list[Mark]:
    """Chain-dashed lines that run a little past the flat."""
    out: list[Mark] = []
    for x in flat.marked:
        y, end = sheet.top - letters * 0.4, sheet.bottom + letters * 0.4
        while y < end:
            for length in (1.4 * letters, 0.3 * letters):
                out.append(Line((x, y), (x, min(end, y + length)), FOLD, WEIGHT))
                y += length + 0.3 * letters
    return out


def _named(pen: _Pen, publication: Publication, flat: Flat) -> list[Mark]:
    """What each panel is."""
    names = [*flat.panels]
    names += [("leaf" if flap == flat.leaf else "flap", flap) for flap in flat.flaps]
    out: list[Mark] = []
    for name, panel in names:
        words = pen.words(name, pen.size)
        out += _moved(words, panel.centre[0] - ink_of(words).width / 2, panel.centre[1])
    place = barcode_area(publication, flat)
    size = f"{_said(publication, place.width)} × {_said(publication, place.height)}"
    kept = pen.words(f"kept for the barcode, {size}", pen.size * 0.8)
    if ink_of(kept).width < place.width:
        out += _moved(kept, place.centre[0] - ink_of(kept).width / 2, place.centre[1])
    safe = publication.brief.safe.pt
    zone = pen.words(f"safe zone {_said(publication, safe)}", pen.size * 0.8)
    out += _moved(zone, flat.front.left + safe + pen.size * 0.5, flat.front.top + safe + pen.size * 1.2)
    if flat.spine is not None:
        words = pen.words("spine", pen.size)
        if flat.spine.width > 1.3 * pen.size:
            middle = flat.spine.centre
            turn = turned(middle, 90)
            out += _moved(words, middle[0] - ink_of(words).width / 2, middle[1] + pen.size * 0.3, turn)
    return out


def _said(publication: Publication, points: float) -> str:
    unit = publication.brief.unit
    return figure(in_unit(points, unit), 4 if unit == "in" else 2)


def _across(publication: Publication, flat: Flat, sheet: Rect) -> list[Dimension]:
    """Panels from left to right, over the head."""
    cased = flat.what in ("case", "jacket")
    side = "" if cased or publication.brief.flap is not None else "trim.width"
    edge = _MEASURED[flat.what].beyond
    out = [
        Dimension(
            sheet.left, flat.trim.left, f"{edge} {_said(publication, flat.bleed)}", "bleed", "" if cased else "bleed"
        )
    ]
    out += [
        Dimension(flap.left, flap.right, f"leaf {_said(publication, flap.width)}", "wrap.gatefold")
        if flap == flat.leaf
        else Dimension(flap.left, flap.right, f"flap {_said(publication, flap.width)}", "wrap.flap", "flap")
        for flap in flat.flaps
    ]
    for name, panel in flat.panels:
        words = f"{_called(flat, name)} {_said(publication, panel.width)}"
        out.append(Dimension(panel.left, panel.right, words, _MEASURED[flat.what].panel, side))
    if flat.spine is not None:
        words = f"spine {_said(publication, flat.spine.width)}"
        out.append(Dimension(flat.spine.left, flat.spine.right, words, "spine.width"))
    return sorted(out, key=lambda d: d.start)


def _called(flat: Flat, panel: str) -> str:
    """What the back or the front of a flat is called."""
    return dict(zip(("back", "front"), _MEASURED[flat.what].names, strict=True)).get(panel, panel)


def _across_whole(publication: Publication, flat: Flat, sheet: Rect) -> list[Dimension]:
    """Trimmed and with bleed, under the foot."""
    measured = _MEASURED[flat.what]
    return [
        Dimension(flat.trim.left, flat.trim.right, f"trimmed {_said(publication, flat.trim.width)}"),
        Dimension(
            sheet.left, sheet.right, f"with {measured.beyond} {_said(publication, sheet.width)}", measured.whole_width
        ),
    ]


def _down(publication: Publication, flat: Flat, sheet: Rect) -> list[Dimension]:
    own, whole = _MEASURED[flat.what].height, _MEASURED[flat.what].whole_height
    edits = "trim.height" if own == "trim.height" else ""
    return [
        Dimension(flat.trim.top, flat.trim.bottom, _said(publication, flat.trim.height), own, edits, True),
        Dimension(sheet.top, sheet.bottom, _said(publication, sheet.height), whole, "", True),
    ]


def _lanes(
    pen: _Pen, dimensions: Sequence[Dimension], edge: float, outward: int, down: bool = False
) -> tuple[list[Mark], list[Lettered]]:
    """Dimensions set outwards from ``edge``, each in the first lane where neither line nor words meet another's."""
    taken: list[list[tuple[float, float]]] = []
    marks: list[Mark] = []
    placed: list[Lettered] = []
    for dimension in dimensions:
        words = pen.words(dimension.words, pen.size)
        width = ink_of(words).width
        middle = (dimension.start + dimension.end) / 2
        half = width / 2 + _GAP * pen.size
        need = (min(dimension.start, middle - half), max(dimension.end, middle + half))
        lane = next((i for i, spans in enumerate(taken) if all(_apart(need, span) for span in spans)), len(taken))
        if lane == len(taken):
            taken.append([])
        taken[lane].append(need)
        at = edge + outward * pen.size * (1.4 + _LANE * lane)
        marks += _line_of(pen, dimension, at, width, edge)
        marks += _lettering(pen, words, middle, at, width, down)
        placed.append(Lettered(dimension, _words_area(pen, middle, at, width, down)))
    return marks, placed


def _apart(one: tuple[float, float], other: tuple[float, float]) -> bool:
    return one[1] <= other[0] + 1e-6 or other[1] <= one[0] + 1e-6


def _line_of(pen: _Pen, dimension: Dimension, at: float, width: float, edge: float) -> list[Mark]:
    """The line with its ticks, parted for the words where they fit between the ticks."""
    middle, half = (dimension.start + dimension.end) / 2, width / 2 + _GAP * pen.size
    fits = dimension.end - dimension.start > 2 * half + pen.size
    parts = [(dimension.start, middle - half), (middle + half, dimension.end)] if fits else []
    tick = _TICK * pen.size
    out: list[Mark] = [_rule(a, at, b, at, dimension.down, pen.size / THIN) for a, b in parts]
    for x in (dimension.start, dimension.end):
        if fits:
            out.append(_rule(x, at - tick, x, at + tick, dimension.down, pen.size / THIN))
        else:
            out.append(_rule(x, at + (tick if at < edge else -tick) * 1.6, x, edge, dimension.down, pen.size / THIN))
    return out


def _rule(x1: float, y1: float, x2: float, y2: float, down: bool, weight: float) -> Line:
    """A thin line; dimensions that run down have their axes changed."""
    if down:
        return Line((y1, x1), (y2, x2), BLACK, weight)
    return Line((x1, y1), (x2, y2), BLACK, weight)


def _lettering(pen: _Pen, words: list[Glyphs], middle: float, at: float, width: float, down: bool) -> list[Mark]:
    drop = 0.35 * pen.size
    if not down:
        return _moved(words, middle - width / 2, at + drop)
    turn = turned((at, middle), -90)
    return _moved(words, at - width / 2, middle + drop, turn)


def _words_area(pen: _Pen, middle: float, at: float, width: float, down: bool) -> Rect:
    half, tall = width / 2, 0.7 * pen.size
    if down:
        return Rect(at - tall, middle - half, at + tall, middle + half)
    return Rect(middle - half, at - tall, middle + half, at + tall)
