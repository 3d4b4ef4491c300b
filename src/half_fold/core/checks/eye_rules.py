"""What a second pair of eyes would see: nearly the same, left over, likely to show bands, used but once."""

import re
from collections import Counter, defaultdict
from collections.abc import Iterator
from functools import partial
from itertools import combinations, pairwise
from typing import NamedTuple

from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, REFUSED, UNREAD, Finding, Fix
from half_fold.core.drawing.marks import Origin, Path, leaves
from half_fold.core.drawing.tone import Gradient
from half_fold.core.grid.stops import AXES, EDGES, OUTWARD, Edge
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import counted
from half_fold.core.measure.rect import Axis, Rect
from half_fold.core.pictures.library.fit import placed
from half_fold.core.plan.page_ranges import format_range
from half_fold.core.plan.sections import folio_of
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.kinds import asked_of, kind_of, own_words
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    HoldsPicture,
    Publication,
)
from half_fold.core.publication.surgery import master_of, picture_of, role_in, role_named
from half_fold.core.spread.edits.aligning import spread_evenly
from half_fold.core.spread.edits.carrying import reached
from half_fold.core.spread.setting.captions import picture_block
from half_fold.core.spread.setting.forms import is_plain
from half_fold.core.spread.setting.gathered import gathered
from half_fold.core.spread.setting.goods import from_row
from half_fold.core.spread.setting.over_pictures import cover_of, set_over
from half_fold.core.spread.where.filled import PICKED_UP
from half_fold.core.spread.where.frames import angle_of, page_frame_of
from half_fold.core.spread.where.reaching import put_in, set_stop

LEAST_OFF, MOST_OFF = 0.1 * MM, 1.2 * MM  # between which two edges look as if they should be one
LEAST_GAP_OFF = 0.2 * MM
BAND_MM = 0.8  # how wide a step of a fade may be before it shows, common practice at arm's length
LEVELS = 255  # steps of a plate's tone
LONG_JOB = 8  # pages from which a face that is used once is one too many
LEAST_CUT = 0.06  # of a side: less of it is the tip of a leaf
END = 0.004
NEAR_CUT = 0.5 * MM
FOLIO = "{folio}"
CAPTIONED = ("caption", "credit", "credits", "captions")
_ASKED = re.compile(r"\{(\w+)\}")
_SIDE_NAMES: dict[Edge, str] = {"left": "left", "right": "right", "top": "upper", "bottom": "lower"}


class _Lying(NamedTuple):
    block: Block
    box: Rect


def _upright(context: Context) -> dict[int, list[_Lying]]:
    """The blocks of each page that stand upright and have edges of their own."""
    found: dict[int, list[_Lying]] = defaultdict(list)
    for number, block, box in context.blocks:
        if not kind_of(block.holds).is_line and not angle_of(context.publication, number, block):
            found[number].append(_Lying(block, box))
    return found


def nearly_in_line(context: Context) -> Iterator[Finding]:
    """Two edges of a page that are off each other by so little that it looks like a slip; told once a block."""
    for number, lying in _upright(context).items():
        told: set[str] = set()
        for one, other in combinations(lying, 2):
            edge = next((edge for edge in EDGES if _slip(one.box, other.box, edge)), None)
            if edge is None or other.block.id in told or one.block.locked or other.block.locked:
                continue
            told.add(other.block.id)
            at = one.box[EDGES.index(edge)]
            off = context.said(abs(other.box[EDGES.index(edge)] - at))
            message = f"Its {_SIDE_NAMES[edge]} edge is {off} off that of another block"
            why = "So small a step looks like a slip: make them the same, or clearly different."
            fix = Fix("Make them the same", partial(_edge_at, block=other.block.id, edge=edge, at=at))
            yield Finding("nearly in line", ACCIDENT, message, why, False, number, other.block.id, other.box, fix)


def _slip(one: Rect, other: Rect, edge: Edge) -> bool:
    at = EDGES.index(edge)
    return LEAST_OFF <= abs(one[at] - other[at]) <= MOST_OFF


def _edge_at(publication: Publication, block: str, edge: Edge, at: float) -> Publication:
    return put_in(publication, block, reached(publication, [block])._replace(**{edge: at}))


def nearly_even(context: Context) -> Iterator[Finding]:
    """Three blocks or more in a row whose gaps are nearly, but not quite, the same."""
    for number, lying in _upright(context).items():
        axes: tuple[Axis, ...] = ("across", "down")
        for axis in axes:
            for row in _rows(lying, axis):
                gaps = [b.box.along(axis)[0] - a.box.along(axis)[1] for a, b in pairwise(row)]
                if min(gaps) <= 0 or not LEAST_GAP_OFF <= max(gaps) - min(gaps) <= MOST_OFF:
                    continue
                names = tuple(each.block.id for each in row)
                said = ", ".join(context.said(gap) for gap in gaps)
                fix = Fix("Make the gaps even", partial(spread_evenly, names=names, axis=axis))
                why = "An eye takes them for the same and stumbles; make them even, or clearly different."
                last = row[-1]
                yield Finding("nearly even", ACCIDENT, f"The gaps of {len(row)} blocks are {said}", why, False,
                              number, last.block.id, last.box, fix)  # fmt: skip


def _rows(lying: list[_Lying], axis: Axis) -> Iterator[list[_Lying]]:
    """Blocks that begin and end alike the other way, in the order in which they lie; three or more."""
    other: Axis = "down" if axis == "across" else "across"
    alike: dict[tuple[float, ...], list[_Lying]] = defaultdict(list)
    for each in lying:
        alike[tuple(round(side, 1) for side in each.box.along(other))].append(each)
    return (sorted(row, key=lambda each: each.box.along(axis)) for row in alike.values() if len(row) > 2)


# Words that were to be filled in --------------------------------------------------------------------


def left_to_fill_in(context: Context) -> Iterator[Finding]:
    """Words that ask for something the program does not know, or that this job has not said."""
    publication = context.publication
    for number, block, box in context.blocks:
        for name in _asked_for(from_row(publication, block)):
            if name in CAPTIONED:
                yield from _uncaptioned(context, number, block, box, name)
            elif name not in PICKED_UP:
                message = f"Its words still ask for {{{name}}}"
                columns = publication.goods.columns if block.row and publication.goods is not None else ()
                known = ", ".join(f"{{{each}}}" for each in (*columns, *PICKED_UP))
                why = f"It would print as it stands; there are {known}."
                yield Finding("left to fill in", REFUSED, message, why, True, number, block.id, box)
            elif not getattr(publication, name):
                message = f"Its words ask for the {name}, which this job has not said"
                why = "Nothing stands there until the brief says it; say it, or take it out of the words."
                yield Finding("left to fill in", ACCIDENT, message, why, False, number, block.id, box)


def _uncaptioned(context: Context, number: int, block: Block, box: Rect, name: str) -> Iterator[Finding]:
    """Words that ask for the caption or the credit of a picture that has none, or is not there."""
    of = picture_block(context.publication, block)
    picture = picture_of(context.publication, of.holds.picture) if of is not None else None  # type: ignore[union-attr]
    if name == "captions":
        if not gathered(context.publication, block):
            message, why = (
                "Its words ask for the captions of the spread, and there are none",
                "Say them in the pictures.",
            )
            yield Finding("left to fill in", ACCIDENT, message, why, False, number, block.id, box)
    elif name != "credits" and (picture is None or not getattr(picture, name)):
        whose = f"“{picture.file}” has none" if picture is not None else "there is no picture that it is of"
        message = f"Its words ask for a {name}, and {whose}"
        why = "Nothing stands there until the picture's working says it; say it, or take it out of the words."
        yield Finding("left to fill in", ACCIDENT, message, why, False, number, block.id, box)


def _asked_for(block: Block) -> list[str]:
    """What the words of a block, and its code, are to be filled in with."""
    words = (each.text for each in own_words(block.holds))
    return list(dict.fromkeys(_ASKED.findall(" ".join((*asked_of(block.holds), *words)))))


def kept_free(context: Context) -> Iterator[Finding]:
    """A place that is still kept free when the job could go to press."""
    if not any(page.state == "passed" for page in context.publication.pages):
        return  # while pages are being laid, places are kept free on purpose
    for number, block, box in context.blocks:
        if kind_of(block.holds).is_free:
            why = "Pages of this job have been passed; put something there, or take the place away."
            yield Finding("kept free", ACCIDENT, "A place is still kept free", why, False, number, block.id, box)


def folios_lost(context: Context) -> Iterator[Finding]:
    """Pages whose folio a picture hides, and of which it is not said that it may; told once, with all of them."""
    publication = context.publication
    lost = [number for number in range(1, len(publication.pages) + 1) if _folio_is_lost(publication, number)]
    if not lost:
        return
    message = f"A picture hides the folio of {counted(len(lost), 'page')}: {format_range(tuple(lost))}"
    why = "Readers find their way by it: set it over the picture in an ink that reads there, or say it is left off."
    fix = Fix("Set it over the pictures", partial(_all_over, numbers=tuple(lost)))
    yield Finding("folio lost", ACCIDENT, message, why, False, lost[0], "", None, fix)


def _folio_is_lost(publication: Publication, number: int) -> bool:
    page = publication.pages[number - 1]
    if page.furniture or not page.blocks or not folio_of(publication, number):
        return False
    frame = page_frame_of(publication, number)
    side = "right" if frame.on_right else "left"
    told = (
        piece
        for piece in master_of(publication, page).furniture
        if FOLIO in piece.words and piece.id not in page.without and piece.pages in ("both", side)
    )
    return any(told) and cover_of(publication, spread_of(publication, number), frame.trim) is not None


def _all_over(publication: Publication, numbers: tuple[int, ...]) -> Publication:
    for number in numbers:
        publication = set_over(publication, number, "over")
    return publication


def floating_cut(context: Context) -> Iterator[Finding]:
    """A cut-out figure that the edge of its photograph cut straight, where nothing lies along that edge."""
    for number, lying in _upright(context).items():
        trim = page_frame_of(context.publication, number).trim
        for block, box in lying:
            cut = _cut_edges(context.publication, block, box)
            for edge, at in cut.items():
                out = OUTWARD[edge] * (at - trim[EDGES.index(edge)])
                others = [other.box for other in lying if other.block is not block]
                if out >= -NEAR_CUT or any(_lies_along(other, edge, at, box) for other in others):
                    continue
                message = (
                    f"The figure is cut straight at its {_SIDE_NAMES[edge]} edge, {context.said(-out)} off the trim"
                )
                why = "Where the photograph ended, the figure floats; let that edge run off the page or along another."
                yield Finding(
                    "floating cut", ACCIDENT, message, why, False, number, block.id, box, _off_the_page(block, edge)
                )
                break


def _cut_edges(publication: Publication, block: Block, box: Rect) -> dict[Edge, float]:
    """The edges at which the subject of a cut-out reaches the end of its photograph, and where they lie."""
    holds = block.holds
    if not isinstance(holds, HoldsPicture) or holds.turn or not is_plain(holds.form):
        return {}
    picture = picture_of(publication, holds.picture)
    bands = [band for band in picture.outline if band[1] > band[0]]
    if not picture.has_alpha or picture.art or not bands:
        return {}
    wide, count = LEAST_CUT, len(picture.outline)
    first, last = picture.outline[0], picture.outline[-1]
    ends: dict[Edge, float] = {
        "left": sum(band[0] < END for band in bands) / count,
        "right": sum(band[1] > 1 - END for band in bands) / count,
        "top": first[1] - first[0],
        "bottom": last[1] - last[0],
    }
    if holds.flipped:
        ends["left"], ends["right"] = ends["right"], ends["left"]
    seen = box.clipped(placed(picture, holds, box))
    return {edge: seen[EDGES.index(edge)] for edge, share in ends.items() if share >= wide}


def _lies_along(other: Rect, edge: Edge, at: float, box: Rect) -> bool:
    """Whether an edge of another block runs along there, or that block lies over it."""
    axis, beside = ("across", "down") if edge in AXES["across"] else ("down", "across")
    low, high = other.along(axis)
    ends, mine = other.along(beside), box.along(beside)
    meets = min(ends[1], mine[1]) - max(ends[0], mine[0]) > 0
    return (
        meets
        and low - NEAR_CUT <= at <= high + NEAR_CUT
        and not (low < box.along(axis)[0] and high > box.along(axis)[1])
    )


def _off_the_page(block: Block, edge: Edge) -> Fix | None:
    """That edge run out to the bleed; a picture that is fitted into its block would not follow it."""
    if not isinstance(block.place, Held) or not isinstance(block.holds, HoldsPicture) or block.holds.scale == "fit":
        return None
    change = partial(set_stop, block=block.id, edge=edge, stop=Stop(kind="bleed"))
    return Fix("Let it run off the page", change)


# What shows only in print ---------------------------------------------------------------------------


def banding(context: Context) -> Iterator[Finding]:
    """A fade so long for the little that it changes that its steps will show as bands."""
    told: set[Origin] = set()
    for spread, marks in context.lists:
        for mark in leaves(marks):
            paint = mark.fill if isinstance(mark, Path) else None
            if not isinstance(paint, Gradient) or mark.origin in told:
                continue
            widest = max((_band(paint, at) for at in range(len(paint.stops) - 1)), default=0.0) / MM
            if widest > BAND_MM:
                told.add(mark.origin)
                page = context.page_of.get(mark.origin.block, spread.numbers[0])
                message = f"Its fade changes by a step every {context.said(widest * MM)}"
                seen = context.said(BAND_MM * MM)
                why = f"Steps wider than about {seen} show as bands; let it change more, or over a shorter way."
                name = mark.origin.block
                yield Finding("bands", UNREAD, message, why, False, page, name, context.box_of.get(name))


def _band(paint: Gradient, at: int) -> float:
    """How wide a step of a stretch of a gradient is, in points; 0 where it does not change."""
    one, other = paint.stops[at], paint.stops[at + 1]
    change = max(abs(a - b) for a, b in zip(one.tone.process, other.tone.process, strict=True))
    steps = change * LEVELS
    a, b = paint.affine.a, paint.affine.b
    length = (a * a + b * b) ** 0.5 * (other.at - one.at)
    return length / steps if steps >= 1 else 0.0


def face_used_once(context: Context) -> Iterator[Finding]:
    """A family in which one paragraph alone of a long job is set."""
    publication = context.publication
    if len(publication.pages) < LONG_JOB:
        return
    roles: Counter[str] = Counter(p.role for story in publication.stories for p in story.paragraphs)
    used: Counter[str] = Counter()
    for role, count in roles.items():
        used[role_named(publication, role).family] += count
    where: dict[str, tuple[int, Block, Rect]] = {}
    for number, block, box in context.blocks:
        for paragraph in own_words(block.holds):
            family = role_in(publication, block.holds, paragraph.role).family
            used[family] += 1
            where.setdefault(family, (number, block, box))
    if len(used) < 3:
        return  # two families are none too many, however little one is used
    for family, (number, block, box) in where.items():
        if used[family] == 1:
            message = f"“{family}” sets one paragraph of the whole job"
            why = "A face that comes once looks like a slip; set it in one of the others, or use it again."
            yield Finding("face used once", ACCIDENT, message, why, False, number, block.id, box)
