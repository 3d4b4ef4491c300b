"""The sides of the cover as surfaces to be read, and every surface of a job."""

from collections.abc import Iterator
from pathlib import Path

from half_fold.core.apart.cards import card_of
from half_fold.core.apart.sides import Side, is_blank, side_of, sides_of, spread_of_side, with_all_of
from half_fold.core.cover.flat import CoverSetter, cover_paper
from half_fold.core.drawing.marks import DisplayList
from half_fold.core.legibility.reading import Read, Surface, read_surface
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import profile_for
from half_fold.core.plan.spreads import spread_of, spreads_of
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter


class SideSurface(Surface, frozen=True, kw_only=True):
    """A side of the cover, or a face of a card bound in, to be read: its ``publication`` is the side's own."""

    side: Side

    @property
    def publication(self) -> Publication:
        return side_of(self.job, self.side)

    @property
    def profile(self) -> bytes:
        card = card_of(self.job, self.side)
        return profile_for(self.job, cover_paper(self.job) if card is None else card.paper)

    def changed(self, publication: Publication) -> "SideSurface":
        job = with_all_of(self.job, self.side, publication)
        return SideSurface(job, self.folder, self.spread, self.setter, side=self.side)

    def marks(self) -> DisplayList:
        return CoverSetter(self.setter).marks(self.job, self.side)


def surface_of_side(job: Publication, folder: Path, side: Side, setter: Setter) -> Surface:
    """A side of the cover to be read."""
    return SideSurface(job, folder, spread_of_side(job, side), setter, side=side)


def surfaces_of(job: Publication, folder: Path, page: int, setter: Setter) -> Iterator[tuple[str, Read]]:
    """Every spread and side of the cover that is not blank, read; only the spread of a ``page``, where one is named.

    Problem where there is no such page.
    """
    if page and not 1 <= page <= len(job.pages):
        raise Problem(f"There is no page {page}; this job has {len(job.pages)}.")
    for spread in (spread_of(job, page),) if page else spreads_of(job):
        yield f"page {spread.label}", read_surface(Surface(job, folder, spread, setter))
    for side in sides_of(job) if not page else ():
        if not is_blank(job, side):
            card = card_of(job, side)
            where = f"cover, {side}" if card is None else card.name
            yield where, read_surface(surface_of_side(job, folder, side, setter))


def surface_with(job: Publication, folder: Path, block: str, setter: Setter) -> Surface:
    """The spread or the side of the cover that a block lies on. Problem where it lies on none."""
    for number, page in enumerate(job.pages, 1):
        if any(each.id == block for each in page.blocks):
            return Surface(job, folder, spread_of(job, number), setter)
    for side in sides_of(job):
        if any(each.id == block for page in side_of(job, side).pages for each in page.blocks):
            return surface_of_side(job, folder, side, setter)
    raise Problem(f"There is no block “{block}” on a page or on the cover; half-fold get JOB lists those there are.")
