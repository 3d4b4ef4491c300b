"""Both sides of a printed sheet: its pages in their places, moved for creep, and the printer's marks."""

from collections.abc import Callable, Iterable, Iterator
from functools import partial

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.creep import creep_of, has_creep
from half_fold.core.drawing.affine import Affine, turned
from half_fold.core.drawing.changes import move_marks, moved
from half_fold.core.drawing.marks import Line, Mark, Shape
from half_fold.core.drawing.tone import BLACK
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.page_ranges import format_range
from half_fold.core.plan.sections import paper_of_page
from half_fold.core.plan.sheet_layout import (
    COLLATION_STEPS,
    GRIPPER_MM,
    Cell,
    SheetSide,
    is_folded,
    milled,
    sheet_spine,
    sides,
)
from half_fold.core.plan.signatures import PrintedSheet, printed_sheets
from half_fold.core.plan.spreads import on_right, spread_of, spreads_of
from half_fold.core.press.crop_marks import LENGTH, PRESS, marked, marks_reach, slug
from half_fold.core.press.lettering import lettered
from half_fold.core.press.sheets import Sheet, crossing_names, page_sheet, spread_sheet
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import page_frame_of

COLLATION_WIDE, COLLATION_HIGH = 2 * MM, 6 * MM
FOLD_DASH = 1.5 * MM
NAME_SIZE = 6.0


class PrintedSide(Struct, frozen=True):
    """What makes one side, what that is called, the pages on it, and those of which any asks for the whole sheet."""

    label: str
    pages: frozenset[int]
    sheet: frozenset[int]
    make: Callable[[Setter], Sheet]


def printed_sides(publication: Publication) -> list[PrintedSide]:
    """Front and back of every printed sheet in turn.

    Pages that are not folded, because they are loose or too few, come one to a side; a spread of boards is a sheet.
    """
    out: list[PrintedSide] = []
    if binding_named(publication.brief.binding).mounted:  # each spread is a sheet, folded once
        for spread in spreads_of(publication):
            pages, make = frozenset(spread.numbers), partial(spread_sheet, publication, spread=spread)
            out.append(PrintedSide(f"spread {spread.label}", pages, pages, make))
        return out
    for index, sheet in enumerate(printed_sheets(publication)):
        whole, both = frozenset(sheet.pages), sides(publication, sheet)
        for side in both or ():
            pages = frozenset(cell.page for cell in side.cells)
            out.append(PrintedSide(_label(side), pages, whole, partial(imposed_side, publication, side, index)))
        for page in sheet.pages if both is None else ():
            one = frozenset({page})
            asks = whole if is_folded(publication) else one
            out.append(PrintedSide(_leaf_name(page), one, asks, partial(_leaf, publication, page)))
    return out


def _leaf_name(page: int) -> str:
    return f"leaf, page {page}"


def _leaf(publication: Publication, page: int, setter: Setter) -> Sheet:
    return replace(page_sheet(publication, setter, page), label=_leaf_name(page))


def imposed_side(publication: Publication, side: SheetSide, index: int, setter: Setter) -> Sheet:
    """One side of the printed sheet of that index, from 0."""
    marks: list[Mark] = []
    clips: dict[int, Rect] = {}
    for cell in side.cells:
        for mark, clip in _page_marks(publication, setter, cell, creep(publication, side.sheet, cell.page)):
            marks.append(mark)
            clips[id(mark)] = clip
    whole = side.trim.grown(publication.brief.bleed.pt)
    paper = paper_of_page(publication, side.sheet.pages[0])
    signs = tuple(_signs(publication, setter, side, index))
    room = paper_of_side(publication, side)
    return Sheet(
        _label(side), side.trim, whole, tuple(marks), lambda mark: clips[id(mark)],
        paper=paper, signs=signs, whole=room,
    )  # fmt: skip


def _label(side: SheetSide) -> str:
    return f"{side.sheet.label}, {side.name}"


def creep(publication: Publication, sheet: PrintedSheet, page: int) -> float:
    """How far what stands on a page moves to its fold, in points: as far as its leaf is pushed out.

    Nothing is where no leaf lies inside another when the copy is cut: milled backs are single leaves by then.
    """
    if not has_creep(publication):
        return 0.0
    nests = binding_named(publication.brief.binding).nests
    first, count = (1, len(publication.pages)) if nests else (sheet.pages[0], len(sheet.pages))
    at = page - first + 1
    return creep_of(publication, (min(at, count + 1 - at) + 1) // 2).value * MM


def _page_marks(publication: Publication, setter: Setter, cell: Cell, creep: float) -> Iterator[tuple[Mark, Rect]]:
    """The marks of a page where they come to lie on the sheet, each with its clip there.

    What crosses the fold stays by its other half, whatever the creep; beyond the fold it is seen where that is milled.
    """
    spread = spread_of(publication, cell.page)
    across = crossing_names(publication, spread)
    right, frame = on_right(publication, cell.page), page_frame_of(publication, cell.page)
    toward = -creep if right else creep
    place = _placing(frame.trim, cell)
    cut, wide = (place.around(_seen(frame.bleed_box, right, room)) for room in (0.0, milled(publication)))
    for mark in setter.spread(publication, spread).marks:
        crosses = mark.origin.block in across
        (there,) = _placed(mark, place, 0.0 if crosses else toward, cell.turned)
        yield there, wide if crosses else cut


def _seen(bleed_box: Rect, right: bool, beyond: float) -> Rect:
    """What is printed of a page: to its bleed, and so far beyond its fold."""
    if right:
        return Rect(-beyond, bleed_box.top, bleed_box.right, bleed_box.bottom)
    return Rect(bleed_box.left, bleed_box.top, beyond, bleed_box.bottom)


def _placing(trim: Rect, cell: Cell) -> Affine:
    """What brings a page from its spread to its cell."""
    (from_x, from_y), (to_x, to_y) = trim.centre, cell.trim.centre
    shift = Affine(1, 0, 0, 1, to_x - from_x, to_y - from_y)
    return shift.after(turned(trim.centre, cell.turned)) if cell.turned else shift


def _placed(mark: Mark, place: Affine, toward: float, is_turned: int) -> Iterator[Mark]:
    """A mark on the sheet, moved ``toward`` its fold before; what is upright stays so, which is written shorter."""
    if is_turned:
        return move_marks((mark,), place.after(Affine(1, 0, 0, 1, toward, 0)))
    return moved((mark,), place.e + toward, place.f)


# Printer's marks ----------------------------------------------------------------------------------------


def paper_of_side(publication: Publication, side: SheetSide) -> Rect:
    """The paper that a side needs with its marks, and the gripper at its foot."""
    room = slug(publication.brief.bleed.pt)
    whole = side.trim.grown(room)
    return Rect(whole.left, whole.top, whole.right, side.trim.bottom + max(room, GRIPPER_MM * MM))


def _signs(publication: Publication, setter: Setter, side: SheetSide, index: int) -> Iterator[Mark]:
    """Where the sheet is cut and folded, the step on its spine, and its name in the margin."""
    trim = side.trim
    near, far = marks_reach(publication.brief.bleed.pt)
    ends_x = ((trim.left - near, trim.left - far), (trim.right + near, trim.right + far))
    ends_y = ((trim.top - near, trim.top - far), (trim.bottom + near, trim.bottom + far))
    for x in _cuts((cell.trim.left, cell.trim.right) for cell in side.cells):
        if x not in side.upright:
            yield from (marked((x, start), (x, end)) for start, end in ends_y)
    for y in _cuts((cell.trim.top, cell.trim.bottom) for cell in side.cells):
        if y not in side.lying:
            yield from (marked((start, y), (end, y)) for start, end in ends_x)
    for x in side.upright:
        yield from (dash for start, end in ends_y for dash in _dashed((x, start), (x, end)))
    for y in side.lying:
        yield from (dash for start, end in ends_x for dash in _dashed((start, y), (end, y)))
    yield from _collation(publication, side, index)
    yield from _name(publication, setter, side, far)


def _cuts(ends: Iterable[tuple[float, float]]) -> list[float]:
    """Every place once, in order; what is the same but for rounding is one."""
    return sorted({round(each, 4) for both in ends for each in both})


def _dashed(start: tuple[float, float], end: tuple[float, float]) -> Iterator[Line]:
    """A line in dashes, as folds are marked."""
    (x, y), (to_x, to_y) = start, end
    steps = round((abs(to_x - x) + abs(to_y - y)) / FOLD_DASH)
    across, down = (to_x - x) / steps, (to_y - y) / steps
    for at in range(0, steps, 2):
        yield marked((x + at * across, y + at * down), (x + (at + 1) * across, y + (at + 1) * down))


def _collation(publication: Publication, side: SheetSide, index: int) -> Iterator[Shape]:
    """A mark on the back of each gathered sheet, a step lower than the one before: a missing sheet shows."""
    if binding_named(publication.brief.binding).nests or side.name != "front":
        return
    spine = sheet_spine(side)
    if spine is not None:
        x, top, bottom = spine
        y = top + (index % COLLATION_STEPS + 0.5) * (bottom - top) / COLLATION_STEPS
        half = COLLATION_WIDE / 2
        box = Rect(x - half, y - COLLATION_HIGH / 2, x + half, y + COLLATION_HIGH / 2)
        yield Shape(box, BLACK, origin=PRESS)


def _name(publication: Publication, setter: Setter, side: SheetSide, far: float) -> Iterator[Mark]:
    """What the sheet is, in its margin at the foot, clear of the marks."""
    pages = format_range(tuple(sorted(cell.page for cell in side.cells)))
    job = " ".join(filter(None, (publication.title, publication.issue)))
    words = f"{job}   {_label(side)}   pages {pages}"
    place = side.trim.left + LENGTH, side.trim.bottom + far
    yield from lettered(setter.composer, publication, words, NAME_SIZE, place, PRESS)
