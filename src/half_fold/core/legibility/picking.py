"""The ink of a place on a surface: the mean of a small circle, by its name in the list or as a new ink."""

from collections.abc import Iterator, Sequence

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.brief.allowances import ink_limit
from half_fold.core.drawing.changes import within
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.drawing.planes import Layer, Plane, on_paper
from half_fold.core.inks.edits import SHARES, with_new_inks
from half_fold.core.inks.palette import new_ink_name
from half_fold.core.inks.screen import JUST_SEEN
from half_fold.core.legibility.grounds import sources_of
from half_fold.core.legibility.reading import Surface
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import lab_of_inks
from half_fold.core.pictures.colour.ink_total import held_to
from half_fold.core.plan.sections import paper_of_page
from half_fold.core.publication.records import Ink, Publication
from half_fold.core.publication.surgery import block_named
from half_fold.core.spread.edits.grouping import blocks_in
from half_fold.core.spread.settable.together import property_of, set_of_all
from half_fold.core.spread.settable.type_properties import shown_in

ACROSS = 24  # pixels of the circle that is looked at
LEAST = 0.5  # points across, of the smallest circle
EVEN = 0.004  # of an ink: what varies less is one tone
SAME = 0.006  # of an ink: what differs less from an ink of the list is that ink
BARE = 0.5  # per cent of ink under which a place is bare paper
NEAREST = 3  # inks of the list that are shown beside
Shares = tuple[float, ...]


class NearInk(Struct, frozen=True):
    """An ink of the list, and how far its colour lies from what was picked (CIE 1976 colour difference)."""

    name: str
    difference: float


class Picked(Struct, frozen=True):
    """What lies at a place: as an ``ink`` by a new plain name, in shares that print.

    ``name`` is an ink of the list that it is, at ``tint`` per cent; ``""`` where it is none of them. ``near`` are the
    nearest of the list, the nearest first. ``is_bare`` is paper.
    """

    ink: Ink
    name: str
    tint: float
    near: tuple[NearInk, ...]
    is_bare: bool = False


def pick(sheet: Surface, place: tuple[float, float], radius: float, marks: DisplayList | None = None) -> Picked:
    """The ink within ``radius`` of a place (points of the surface), where ``marks`` are drawn or all that is."""
    spots = tuple(ink.name for ink in sheet.job.inks if ink.spot)
    planes, is_in = _circle(sheet, marks or sheet.marks(), place, max(radius, LEAST / 2), spots)
    seen = planes[is_in]
    mean = seen.mean(axis=0)
    is_even = bool(np.all(np.abs(seen - mean).max(axis=0) <= EVEN))
    name, tint = next(_named(sheet.job.inks, mean, spots), ("", 100.0)) if is_even else ("", 100.0)
    shares = _printable(sheet, mean[:4], [(each, float(mean[4 + at])) for at, each in enumerate(spots)])
    lab = lab_of_inks(shares, sheet.profile)
    c, m, y, k = shares
    ink = Ink(name=new_ink_name(sheet.job, lab), cyan=c, magenta=m, yellow=y, black=k)
    near = tuple(_nearest(sheet, lab))
    if not name and near and near[0].difference < JUST_SEEN:
        name = near[0].name
    return Picked(ink, name, tint, near, sum(shares) < BARE)


def _circle(
    sheet: Surface, marks: DisplayList, place: tuple[float, float], radius: float, spots: Sequence[str]
) -> tuple[Plane, npt.NDArray[np.bool_]]:
    """The inks round a place, an array of shape (high, wide, 4 and the spots), and what of it is in the circle."""
    x, y = place
    area = Rect(x - radius, y - radius, x + radius, y + radius)
    sources = sources_of(sheet.folder, sheet.job.pictures, sheet.profile)
    layer = Layer(area, ACROSS / (2 * radius), sources, spots=spots, black=marks.black)
    planes = on_paper(layer.lay(within(marks, area).marks))
    high, wide, _ = planes.shape
    down, across = np.mgrid[:high, :wide]
    return planes, np.hypot(across - (wide - 1) / 2, down - (high - 1) / 2) <= max(high, wide) / 2


def _named(inks: Sequence[Ink], mean: npt.NDArray[np.float32], spots: Sequence[str]) -> Iterator[tuple[str, float]]:
    """The inks of the list that a tone is, whole ones before tints."""
    found = []
    for ink in inks:
        whole = np.zeros(len(mean))
        if ink.spot:
            whole[4 + spots.index(ink.name)] = 1.0
        else:
            whole[:4] = [getattr(ink, share) / 100 for share in SHARES]
        most = int(np.argmax(whole))
        tint = float(mean[most] / whole[most]) if whole[most] > 0 else 0.0
        if 0.01 < tint <= 1 + SAME and np.all(np.abs(whole * tint - mean) <= SAME):
            found.append((ink.name, 100.0 if tint > 1 - SAME else round(100 * tint, 1)))
    yield from sorted(found, key=lambda each: -each[1])


def _printable(sheet: Surface, process: npt.NDArray[np.float32], spots: Sequence[tuple[str, float]]) -> Shares:
    """Whole per cent of the four process inks, spots stood in for, that together the paper takes."""
    total = np.asarray(process, np.float64)
    for name, share in spots:
        stands_in = next(ink for ink in sheet.job.inks if ink.name == name)
        total = np.minimum(1.0, total + share * np.array([getattr(stands_in, each) / 100 for each in SHARES]))
    octets = np.rint(total * 255).astype(np.uint8)[None, :]
    limit, _ = ink_limit(sheet.job, paper_of_page(sheet.job, sheet.spread.numbers[0]))
    held = held_to(octets, limit, sheet.profile)[0]
    return tuple(float(round(100 * float(each) / 255)) for each in held)


def _nearest(sheet: Surface, lab: Sequence[float]) -> list[NearInk]:
    def away(ink: Ink) -> float:
        own = lab_of_inks([getattr(ink, share) for share in SHARES], sheet.profile)
        return float(np.linalg.norm(np.subtract(own, lab)))

    near = sorted((NearInk(ink.name, round(away(ink), 1)) for ink in sheet.job.inks), key=lambda each: each.difference)
    return near[:NEAREST]


def in_words(picked: Picked) -> str:
    """What was picked in a line: its name and tint, or its shares; and what of the list is near."""
    if picked.is_bare:
        return "bare paper"
    if picked.name:
        return picked.name if picked.tint >= 100 else f"{picked.name} at {picked.tint:g} %"
    shares = " ".join(f"{getattr(picked.ink, share):g}" for share in SHARES)
    return f"{picked.ink.name}, {shares}"


def add_picked(publication: Publication, picked: Picked, *, anew: bool = False) -> tuple[Publication, str, float]:
    """The job with what was picked in its ink list, and that ink with its tint: a new one where it is none or ``anew``.

    Problem where it is bare paper.
    """
    if picked.is_bare:
        raise Problem("There is bare paper, which has no ink; pick something that is printed.")
    if picked.name and not anew:
        return publication, picked.name, picked.tint
    return with_new_inks(publication, [picked.ink]), picked.ink.name, 100.0


def use_picked(publication: Publication, picked: Picked, names: Sequence[str], *, anew: bool = False) -> Publication:
    """What was picked as the ink of all of those things that have one. Problem where none of them has."""
    publication, ink, tint = add_picked(publication, picked, anew=anew)
    inked = [
        name for name in blocks_in(publication, names) if property_of(block_named(publication, name), "ink") is not None
    ]
    if names and not inked:
        raise Problem("What is chosen is printed in no ink of its own; choose words, a panel or a rule first.")
    publication = set_of_all(publication, inked, "ink", ink)
    for name in inked:
        block, typed = block_named(publication, name), f"{tint:g} %"
        of = property_of(block, "tint")
        if of is not None and (shown_in(publication, block, "tint")[0] or of.shown(publication, block)) != typed:
            publication = set_of_all(publication, [name], "tint", typed)
    return publication
