"""Rules about where things reach: the bleed, the band between safe zone and trim."""

from collections.abc import Iterator
from functools import partial
from typing import Literal

from msgspec.structs import replace

from half_fold.core.brief.bindings import binding_named
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, REFUSED, TRIMMED, UNREAD, Finding, Fix
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import Line, Mark, Origin, Path, Shape, leaves
from half_fold.core.drawing.tone import Paint, tones
from half_fold.core.grid.stops import EDGES, OUTWARD, Edge
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure, format_size, length
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect, hull
from half_fold.core.plan.spreads import facing, spread_of
from half_fold.core.publication.kinds import NO_NUMBER, form_of, kind_of
from half_fold.core.publication.places import Floating, Held, Stop
from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsDisplay,
    HoldsPicture,
    Publication,
)
from half_fold.core.publication.surgery import cover_blocks, page_of_block
from half_fold.core.spread.codes.barcode import SMALLEST, ground, symbol_of
from half_fold.core.spread.codes.ean import addon, ean13
from half_fold.core.spread.edits import edits
from half_fold.core.spread.setting.goods import from_row
from half_fold.core.spread.where.frames import angle_of, block_box, page_frame_of, spread_area, turn_of
from half_fold.core.spread.where.reaching import set_stop

NEAR = 0.02 * MM
BARCODE_CLEAR_MM = 5.0
THINNEST, THINNEST_REVERSED = 0.25, 0.5  # points, common practice
LEAST_BLEED_MM = 2.0


def _beyond_trim(context: Context, number: int, block: Block, box: Rect, edge: Edge) -> float | None:
    """How far an edge lies outside the trim (negative inside), or None at the fold."""
    axis = ("left", "top", "right", "bottom").index(edge)
    page = number
    if edge in ("left", "right") and _lies_across(block, edge):
        page = facing(context.publication, number)
    if not 1 <= page <= len(context.publication.pages):
        return None
    frame = page_frame_of(context.publication, page)
    if frame.has_fold and edge == ("left" if frame.on_right else "right"):
        return None
    return OUTWARD[edge] * (box[axis] - frame.trim[axis])


def _lies_across(block: Block, edge: Edge) -> bool:
    """Whether an edge is on the facing page."""
    place = block.place
    return place.across.stop.facing if isinstance(place, Floating) else bool(getattr(place, edge).facing)


def _fills_its_box(block: Block) -> bool:
    """Whether it reaches all four edges of its box along their whole length."""
    form = form_of(block.holds)
    return form is None or form.kind == "rectangle"


def on_no_part(context: Context) -> Iterator[Finding]:
    """A block that lies wholly off what is printed: neither proof nor file shows anything of it."""
    elsewhere = not context.is_side and binding_named(context.publication.brief.binding).elsewhere
    for number, block, box in context.blocks:
        sheet = context.sheet or _printed(context.publication, number)
        if not elsewhere and box.meets(sheet):
            continue
        where = "a page that is made elsewhere" if elsewhere else "no part of what is printed"
        why = "Neither proof nor press file shows it; bring it back, or take it away."
        yield Finding("on no part", TRIMMED, f"It lies on {where}", why, True, number, block.id, box)


def _printed(publication: Publication, number: int) -> Rect:
    """What is printed of the spread that a page lies on, bleed included; where all edges are cut, of that page."""
    frame = page_frame_of(publication, number)
    if not frame.has_fold:
        return frame.bleed_box
    return spread_area(publication, spread_of(publication, number)).grown(publication.brief.bleed.pt)


def nearly_bleeds(context: Context) -> Iterator[Finding]:
    """A picture or panel that reaches the trim but not the bleed: a white edge shows where the cut wanders."""
    bleed, safe = context.publication.brief.bleed.pt, context.publication.brief.safe.pt
    for number, block, box in context.blocks:
        kind = kind_of(block.holds)
        if not (kind.is_area or kind.is_line):
            continue
        if angle_of(context.publication, number, block):
            yield from _bare_corners(context, number, block, box)
            continue
        if kind.is_line or not _fills_its_box(block):
            continue
        is_edged = kind.edge(block.holds) is not None
        for edge in EDGES:
            beyond = _beyond_trim(context, number, block, box, edge)
            if is_edged and beyond is not None and beyond > -safe + NEAR:
                yield _cut_stroke(number, block, box, edge)
                continue
            if beyond is None or not -safe + NEAR < beyond < bleed - NEAR:
                continue
            fix = Fix("Reach the bleed", partial(_to, block=block.id, edge=edge, kind="bleed"))
            if beyond >= -NEAR:
                short = context.said(bleed - beyond)
                message = f"Its {_name(edge)} edge is {short} short of the bleed"
                why = "Where the cut wanders by a hair, white paper shows along the edge."
                yield Finding("short of the bleed", ACCIDENT, message, why, True, number, block.id, box, fix)
            else:
                message = f"Its {_name(edge)} edge is {context.said(-beyond)} from the trim"
                zone = f"the {context.said(safe)} safe zone"
                why = f"It neither bleeds nor keeps {zone}; the strip beside it will look uneven."
                yield Finding("near the trim", ACCIDENT, message, why, False, number, block.id, box, fix)


def _bare_corners(context: Context, number: int, block: Block, around: Rect) -> Iterator[Finding]:
    """A block that would reach the trim, but is turned away from it."""
    publication = context.publication
    box = block_box(publication, number, block)
    turn = turn_of(publication, number, block)
    assert turn is not None
    printed = spread_area(publication, spread_of(publication, number)).grown(publication.brief.bleed.pt - NEAR)
    for index, edge in enumerate(EDGES):  # which go round clockwise
        beyond = _beyond_trim(context, number, block, box, edge)
        if beyond is None or beyond < -NEAR:
            continue
        there = EDGES[
            (index - round(angle_of(publication, number, block) / 90)) % 4
        ]  # the edge that the turn has brought there
        start, end = _ends(box, there)
        if _crosses(turn.of(*start), turn.of(*end), printed):
            message = f"Turned, it leaves paper bare at its {_name(edge)} edge"
            why = "Make the block larger"
            why += ", or turn the picture inside it instead." if isinstance(block.holds, HoldsPicture) else "."
            yield Finding("short of the bleed", ACCIDENT, message, why, True, number, block.id, around)


def _crosses(start: tuple[float, float], end: tuple[float, float], area: Rect) -> bool:
    """Whether a straight line passes through an area: what it spans meets it, with corners on both sides of it."""
    (x0, y0), (x1, y1) = start, end
    corners = [(x, y) for x in (area.left, area.right) for y in (area.top, area.bottom)]
    sides = [(x1 - x0) * (y - y0) - (y1 - y0) * (x - x0) for x, y in corners]
    spans = hull((Rect(x0, y0, x0, y0), Rect(x1, y1, x1, y1))).grown(1e-6)  # an upright line spans something too
    return spans.meets(area) and min(sides) < 0 < max(sides)


def _ends(rect: Rect, edge: Edge) -> tuple[tuple[float, float], tuple[float, float]]:
    corners = {
        "left": ((rect.left, rect.top), (rect.left, rect.bottom)),
        "right": ((rect.right, rect.top), (rect.right, rect.bottom)),
        "top": ((rect.left, rect.top), (rect.right, rect.top)),
        "bottom": ((rect.left, rect.bottom), (rect.right, rect.bottom)),
    }
    return corners[edge]


def _cut_stroke(number: int, block: Block, box: Rect, edge: Edge) -> Finding:
    """A stroke along the trim: nearer it than the cut is true, or beyond it."""
    message = f"Its stroke runs where the {_name(edge)} edge is cut"
    why = "Part of it would be cut off, or be heavier at one end than at the other; draw it in to the margin."
    fix = _to_margin(block, edge)
    return Finding("stroke at the trim", ACCIDENT, message, why, False, number, block.id, box, fix)


def text_beyond_safe(context: Context) -> Iterator[Finding]:
    """Text blocks that pass the safe zone: letters may be cut off."""
    safe = context.publication.brief.safe.pt
    for number, block, box in context.blocks:
        if not kind_of(block.holds).is_words:
            continue
        inset = block.inset.pt if block.inset is not None else 0.0
        for edge in EDGES:
            beyond = _beyond_trim(context, number, block, box.grown(-inset), edge)
            if beyond is not None and beyond > -safe + NEAR:
                gone = beyond > 0
                message = f"Text passes the safe zone by {context.said(beyond + safe)} at its {_name(edge)} edge"
                why = "It reaches past the trim and would be cut off." if gone else "The cut may wander into it."
                fix = (
                    None if angle_of(context.publication, number, block) else _to_margin(block, edge)
                )  # which would not draw in its corners
                yield Finding("text beyond the safe zone", TRIMMED, message, why, gone, number, block.id, box, fix)


def barcode_place(context: Context) -> Iterator[Finding]:
    """A code that its block cannot hold, or that stands within 5 mm of trim or fold: it may not scan."""
    for number, block, box in context.blocks:
        holds = from_row(context.publication, block).holds
        if not isinstance(holds, HoldsBarcode):
            continue
        if holds.number == NO_NUMBER:
            why = "Type the number that was issued for this publication; none is made up for you."
            yield Finding("barcode number", REFUSED, "The barcode has no number yet", why, True, number, block.id, box)
        upright = block_box(context.publication, number, block)
        area = ground(context.setter.composer, context.publication, holds, upright)
        trim = page_frame_of(context.publication, number).trim
        size = format_size(area.width, area.height, context.publication.brief.unit)
        if area.width > upright.width + NEAR or area.height > upright.height + NEAR:
            message = f"The barcode needs {size}, more than its block has"
            why = "What stands beside it could enter its quiet zones; give the block more room, or the code less."
            yield Finding("barcode", UNREAD, message, why, False, number, block.id, box, _smaller(block, upright, area))
        turn = turn_of(context.publication, number, block)
        area = area if turn is None else turn.around(area)
        clear = min(a - b for a, b in ((area.left, trim.left), (area.top, trim.top), (trim.right, area.right)))
        clear = min(clear, trim.bottom - area.bottom)
        if clear < BARCODE_CLEAR_MM * MM - NEAR:
            message = f"The barcode stands {context.said(clear)} from the edge of its page"
            why = f"Scanners and trimmers want {context.said(BARCODE_CLEAR_MM * MM)} clear of trim and fold."
            yield Finding("barcode", UNREAD, message, why, clear < 0, number, block.id, area)


def _smaller(block: Block, box: Rect, area: Rect) -> Fix | None:
    """The code at the largest whole per cent that fits, where the standard allows so small a one."""
    assert isinstance(block.holds, HoldsBarcode)
    code = symbol_of(block.holds).height
    words = area.height - code
    size = float(int(block.holds.size * min(box.width / area.width, (box.height - words) / code)))
    if size < SMALLEST:
        return None
    return Fix(f"Print it at {size:g} %", partial(_at_size, block=block.id, size=size))


def _at_size(publication: Publication, block: str, size: float) -> Publication:
    _, _, found = page_of_block(publication, block)
    assert isinstance(found.holds, HoldsBarcode)
    return edits.set_holds(publication, block, replace(found.holds, size=size))


def _to_margin(block: Block, edge: Edge) -> Fix:
    return Fix("Draw it in to the margin", partial(_to, block=block.id, edge=edge, kind="margin"))


def _to(publication: Publication, block: str, edge: Edge, kind: Literal["bleed", "margin"]) -> Publication:
    """One edge onto the bleed or the margin of the page it lies on."""
    _, _, found = page_of_block(publication, block)
    return set_stop(publication, block, edge, Stop(kind=kind, facing=_lies_across(found, edge)))


def _name(edge: Edge) -> str:
    return {"left": "left", "right": "right", "top": "upper", "bottom": "lower"}[edge]


def grounds_at_the_trim(context: Context) -> Iterator[Finding]:
    """The ground or the outline of words that passes the trim, or comes nearer to it than the cut is true."""
    bleed, safe = context.publication.brief.bleed.pt, context.publication.brief.safe.pt
    for number, block, box in context.blocks:
        if not isinstance(block.holds, HoldsDisplay):
            continue
        marks = context.setter.thing_marks(context.publication, number, block)
        shapes = [bounds(mark) for mark in leaves(marks) if isinstance(mark, Path | Shape)]
        if not shapes:
            continue
        for edge in EDGES:
            beyond = _beyond_trim(context, number, block, hull(shapes), edge)
            if beyond is not None and -safe / 2 + NEAR < beyond < bleed - NEAR:
                near = f"{context.said(abs(beyond))} {'beyond' if beyond > 0 else 'from'} the trim"
                message = f"What the words stand on ends {near} at its {_name(edge)} edge"
                why = "The cut would take part of it, or leave a sliver; draw it in, or let it run into the bleed."
                yield Finding("ground at the trim", TRIMMED, message, why, beyond > NEAR, number, block.id, box)
                break


def thin_strokes(context: Context) -> Iterator[Finding]:
    """Strokes and rules thinner than a plate holds: 0.25 pt, or 0.5 pt where they are left white."""
    told: set[Origin] = set()
    for spread, marks in context.lists:
        for mark in leaves(marks):
            weight, colour = _stroke(mark)
            if colour is None or mark.origin in told:
                continue
            least = THINNEST if any(max(tone.process) > 0 for tone in tones(colour)) else THINNEST_REVERSED
            if weight < least - 1e-9:
                told.add(mark.origin)
                kind = "left white" if least == THINNEST_REVERSED else "printed"
                message = f"A line of {figure(weight, 3)} pt is {kind}"
                why = f"Under {least:g} pt it breaks up or vanishes; make it at least as heavy as that."
                name = mark.origin.block
                page = context.page_of.get(name, spread.numbers[0])
                yield Finding("thin line", UNREAD, message, why, False, page, name)


def _stroke(mark: Mark) -> tuple[float, Paint | None]:
    if isinstance(mark, Line):
        return mark.weight, mark.colour
    if isinstance(mark, Path):
        return (mark.stroke.weight, mark.stroke.tone) if mark.stroke is not None else (0.0, None)
    return (mark.weight, mark.stroke) if isinstance(mark, Shape) and mark.weight > 0 else (0.0, None)


def no_bleed(context: Context) -> Iterator[Finding]:
    """Something that reaches the trim of a job that has no bleed, or too little; told once."""
    publication = context.publication
    have = publication.brief.bleed.mm
    if have >= LEAST_BLEED_MM - 1e-9 or binding_named(publication.brief.binding).on_screen:
        return
    reaching = [(number, block, box) for number, block, box in context.blocks if _reaches(context, number, block, box)]
    covered = any(
        getattr(block.place, edge).kind in ("bleed", "trim")
        for block in cover_blocks(publication)
        if kind_of(block.holds).is_area and isinstance(block.place, Held)
        for edge in EDGES
    )
    if reaching or covered:
        number, name, rect = (reaching[0][0], reaching[0][1].id, reaching[0][2]) if reaching else (0, "", None)
        place = "" if reaching else "cover"
        message = f"{'It' if reaching else 'The cover'} reaches the trim, and the bleed is {context.said(have * MM)}"
        least = context.said(LEAST_BLEED_MM * MM)
        why = f"The cut wanders: from {least} on no white edge shows. The printer's sheet may ask for more."
        fix = Fix("Make the bleed 3 mm", partial(_with_bleed, text="3mm"))
        yield Finding("no bleed", REFUSED, message, why, True, number, name, rect, fix, "", place)


def _reaches(context: Context, number: int, block: Block, box: Rect) -> bool:
    if not kind_of(block.holds).is_area:
        return False
    beyond = (_beyond_trim(context, number, block, box, edge) for edge in EDGES)
    return any(by is not None and by > -NEAR for by in beyond)


def _with_bleed(publication: Publication, text: str) -> Publication:
    return replace(publication, brief=replace(publication.brief, bleed=length(text)))


def barcode_digits(context: Context) -> Iterator[Finding]:
    """A number that cannot be one that was issued: its check digit does not fit, or it is not of that length."""
    for number, block, box in context.blocks:
        holds = from_row(context.publication, block).holds
        if isinstance(holds, HoldsBarcode) and holds.number != NO_NUMBER:
            try:
                ean13(holds.number)
                addon(holds.addon)
            except Problem as problem:
                message = f"The barcode says {holds.number[:20]} {holds.addon[:8]}".rstrip()
                yield Finding("barcode number", REFUSED, message, str(problem), True, number, block.id, box)
