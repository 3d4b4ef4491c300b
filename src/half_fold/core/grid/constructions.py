"""Margin constructions: classical ways to place the text area on a page, fitted to the margins a designer asked for.

Sources: the diagonal construction of the canonical page divides the page in n parts and gives one to the inside and the
head, two to the outside and the foot; 2:3:4:6 and 1:1.618 are the bookmaker's ratios; a frame-true margin has a rule as
far inside the trim as it is from the text.
"""

from collections.abc import Iterator
from typing import NamedTuple

from half_fold.core.measure.entry import MM

GOLDEN = 1.618
FRAME_RULE_PT = 0.5
CANONICAL = (6, 9, 12)
OVER_N = (7, 8, 10, 11, 14, 16)
LEAST_MARGIN_MM, LEAST_TEXT_MM = 3.0, 20.0


class Margins(NamedTuple):
    """Inside, head, outside and foot in mm, as typed: the loss in the fold comes on top of the inside."""

    inside: float
    head: float
    outside: float
    foot: float


class Construction(NamedTuple):
    """Margins, the name of how they came about, and the arithmetic in words."""

    name: str
    margins: Margins
    how: str


def constructions(width: float, height: float, asked: Margins) -> Iterator[Construction]:
    """Every construction on a page of ``width`` by ``height`` mm that leaves room for text, as near to ``asked`` as its
    own freedom lets it come."""
    for each in _all(width, height, asked):
        m = each.margins
        room = min(width - m.inside - m.outside, height - m.head - m.foot)
        if min(m) >= LEAST_MARGIN_MM and room >= LEAST_TEXT_MM:
            yield each


def _all(width: float, height: float, asked: Margins) -> Iterator[Construction]:
    yield Construction("your margins", asked, "as typed, the foot drawn to a whole line")
    even = round(sum(asked) / 4 * 2) / 2
    yield Construction("even", Margins(even, even, even, even), f"{even:g} mm all round")
    unit = sum(asked) / 15
    yield Construction(
        "2 : 3 : 4 : 6",
        Margins(2 * unit, 3 * unit, 4 * unit, 6 * unit),
        f"inside, head, outside, foot in units of {unit:.2f} mm",
    )
    for parts in (*CANONICAL, *OVER_N):
        x, y = width / parts, height / parts
        name = f"diagonal in {_PARTS[parts]}" if parts in CANONICAL else f"page over {parts}"
        how = f"1 and 2 of {parts} parts: {x:.2f} and {y:.2f} mm"
        yield Construction(name, Margins(x, y, 2 * x, 2 * y), how)
    yield from _golden(width, height, asked)
    yield _frame_true(asked)


_PARTS = {6: "sixths", 9: "ninths", 12: "twelfths"}


def _golden(width: float, height: float, asked: Margins) -> Iterator[Construction]:
    inside = (asked.inside + asked.outside) / (1 + GOLDEN)
    text = width - inside * (1 + GOLDEN)
    spare = height - GOLDEN * text
    if spare < (asked.head + asked.foot) / 2:  # on a squat page the height is given and the width follows
        head = (asked.head + asked.foot) / (1 + GOLDEN)
        spare = head * (1 + GOLDEN)
        text = (height - spare) / GOLDEN
        inside = (width - text) / (1 + GOLDEN)
    head = spare / (1 + GOLDEN)
    how = f"text {text:.1f} × {height - spare:.1f} mm, margins 1 to {GOLDEN}"
    yield Construction("golden", Margins(inside, head, inside * GOLDEN, head * GOLDEN), how)


def _frame_true(asked: Margins) -> Construction:
    """Margin = 2 d + the rule's weight, on all sides, d to half a millimetre."""
    rule = FRAME_RULE_PT / MM
    away = max(2.0, round(sum(asked) / 4)) / 2
    margin = 2 * away + rule
    return Construction(
        "frame-true",
        Margins(margin, margin, margin, margin),
        f"a {FRAME_RULE_PT:g} pt rule {away:g} mm inside the trim",
    )
