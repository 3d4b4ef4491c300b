"""Type scales: sizes in a ratio or of the traditional row, each on a leading that keeps to the baseline grid."""

import math

from msgspec import Struct

from half_fold.core.measure.length import of_points
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import by_name, role_named, with_role
from half_fold.core.typesetting.lines.roles import leading_of
from half_fold.core.typesetting.sheet.sheet import stating

RATIOS = (1.125, 1.2, 1.25, 1.333, 1.414, 1.5, 1.618)
TRADITIONAL = (6, 7, 8, 9, 10, 11, 12, 14, 16, 18, 21, 24, 30, 36, 42, 48, 60, 72)
LEAST_LEADING = 1.05  # of the size: tighter lines of display type would touch
STEPS_DOWN, STEPS_UP = 4, 16
NOT_SCALED = frozenset({"spine", "masthead"})


class ScaleProposal(Struct, frozen=True):
    """A role's size now and on the scale, and the leading that keeps it on the baseline grid, in points."""

    role: str
    label: str
    now: float
    size: float
    leading: float


def sizes_of(ratio: float, body: float) -> list[float]:
    """The sizes of a scale through the body's size, rounded to a tenth; a ratio of 0 is the traditional row."""
    if ratio == 0:
        return [float(size) for size in TRADITIONAL]
    return [round(body * ratio**step, 1) for step in range(-STEPS_DOWN, STEPS_UP)]


def propose(publication: Publication, ratio: float) -> list[ScaleProposal]:
    """For every role but the body the size of the scale that is nearest to its own (by ratio), and its leading.

    Text smaller than the body, and set in running columns, keeps the body's leading; display type takes the fewest
    whole baseline steps that leave its lines apart.
    """
    if ratio and not 1.0 < ratio <= 2.0:
        raise Problem("A scale's ratio lies between 1 and 2; try 1.25.")
    body = role_named(publication, "body")
    step = leading_of(body, body.size.pt)
    sizes = [size for size in sizes_of(ratio, body.size.pt) if size >= 5]
    out = []
    for own in publication.roles:
        if own.name == "body" or own.name in NOT_SCALED:
            continue
        role = role_named(publication, own.name)
        size = min(sizes, key=lambda each: abs(math.log(each / role.size.pt)))
        leading = math.ceil(size * LEAST_LEADING / step - 1e-9) * step
        if size < body.size.pt and leading_of(role, role.size.pt) < step:
            leading = step * max(0.5, math.ceil(2 * size * 1.15 / step) / 2)
        out.append(ScaleProposal(own.name, own.label, role.size.pt, size, leading))
    return out


def apply_scale(publication: Publication, ratio: float) -> Publication:
    """Every role at its size of the scale, in one edit."""
    for each in propose(publication, ratio):
        role = by_name(publication.roles, each.role, "role")
        sized = stating(role, size=of_points(each.size), leading=of_points(each.leading), ratio=0.0)
        publication = with_role(publication, sized)
    return publication
