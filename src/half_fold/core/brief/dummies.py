"""Measured dummies: a bound dummy measured with a caliper beats any formula.

The caliper of a paper is the least-squares line through the origin over leaves: sum(leaves x block) / sum(leaves^2);
its spread is sqrt(sum(residual^2) / (n - 1)). It is used from two measurements on.
"""

import math

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.length import Length, figure
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.worked import Worked
from half_fold.core.publication.records import Dummy, Publication

FROM = 2
MOST_BLOCK_MM = 300.0


class Measured(Struct, frozen=True):
    """``caliper`` and ``spread`` in micrometres a leaf; each dummy with its residual in millimetres of its block."""

    caliper: float
    spread: float
    residuals: tuple[tuple[Dummy, float], ...]

    def worked(self, paper: str) -> Worked:
        """The caliper of two dummies or more with its working."""
        count, spread = len(self.residuals), figure(self.spread, 2)
        how = f"{paper}: measured on {count} dummies: Σ leaves × block ÷ Σ leaves², spread {spread} µm"
        return Worked(self.caliper, "µm", "Caliper", how)


def dummies_of(publication: Publication, paper: str) -> tuple[Dummy, ...]:
    return tuple(dummy for dummy in publication.dummies if dummy.paper.lower() == paper.lower())


def measured(publication: Publication, paper: str) -> Measured | None:
    """What that paper's dummies say together; None where there are none."""
    every = dummies_of(publication, paper)
    if not every:
        return None
    leaves = [dummy.pages / 2 for dummy in every]
    blocks = [dummy.measured.mm for dummy in every]
    slope = sum(n * mm for n, mm in zip(leaves, blocks, strict=True)) / sum(n * n for n in leaves)
    residuals = [mm - n * slope for n, mm in zip(leaves, blocks, strict=True)]
    per_leaf = [r / n * 1000 for r, n in zip(residuals, leaves, strict=True)]
    spread = math.sqrt(sum(r * r for r in per_leaf) / (len(every) - 1)) if len(every) > 1 else 0.0
    return Measured(slope * 1000, spread, tuple(zip(every, residuals, strict=True)))


def speaks(publication: Publication, paper: str) -> Measured | None:
    """The measured caliper where it is to be used: from two dummies on, unless the brief goes by the mill."""
    if not publication.brief.measured or len(dummies_of(publication, paper)) < FROM:
        return None
    return measured(publication, paper)


def add_dummy(
    publication: Publication, paper: str, pages: int, block: Length, date: str = "", note: str = ""
) -> Publication:
    """The log with one more dummy. Problem where it cannot have been."""
    if not 2 <= pages <= 10_000:
        raise Problem(f"A dummy of {pages} pages cannot be; give the pages that were bound.")
    if not 0 < block.mm <= MOST_BLOCK_MM:
        raise Problem(f"A block of {block.mm:g} mm cannot be; give what the caliper showed, without the cover.")
    dummy = Dummy(paper=paper, pages=pages, measured=block, date=date, note=note)
    return replace(publication, dummies=(*publication.dummies, dummy))


def drop_dummy(publication: Publication, dummy: Dummy) -> Publication:
    """The log without one dummy."""
    return replace(publication, dummies=tuple(d for d in publication.dummies if d is not dummy))
