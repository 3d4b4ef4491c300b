"""Spreads are pairs of pages: page 1 alone, then two and two, an even last page alone.

A copy bound at the left has its rectos, the odd pages, at the right of the fold; one bound at the right mirrors that.
What lies flat is not bound: its pages lie two and two from the first on, the odd ones at the left.
"""

from functools import lru_cache

from msgspec import Struct

from half_fold.core.brief.bindings import binding_named
from half_fold.core.publication.records import Publication


class Spread(Struct, frozen=True):
    """Page numbers (from 1) of the page at the left of the fold and the page at its right; None where there is none."""

    left: int | None
    right: int | None

    @property
    def numbers(self) -> tuple[int, ...]:
        """In reading order."""
        return tuple(sorted(n for n in (self.left, self.right) if n is not None))

    @property
    def label(self) -> str:
        return "–".join(str(n) for n in self.numbers)


@lru_cache(maxsize=64)
def spreads(count: int, right_bound: bool = False, flat: bool = False) -> tuple[Spread, ...]:
    """All spreads of ``count`` pages in order."""
    pairs: list[tuple[int | None, int | None]] = [] if flat else [(None, 1)]
    pairs += [(one, one + 1 if one < count else None) for one in range(1 if flat else 2, count + 1, 2)]
    return tuple(Spread(other, one) if right_bound else Spread(one, other) for one, other in pairs)


def lies_flat(publication: Publication) -> bool:
    """Whether its pages lie in pairs from the first on."""
    return binding_named(publication.brief.binding).pairs


def spreads_of(publication: Publication) -> tuple[Spread, ...]:
    """All spreads of a job."""
    return spreads(len(publication.pages), publication.brief.right_bound, lies_flat(publication))


def spread_of(publication: Publication, page: int) -> Spread:
    """The spread a page lies on."""
    return spreads_of(publication)[spread_index(publication, page)]


def spread_index(publication: Publication, page: int) -> int:
    """The index of the spread that page number ``page`` (from 1) lies on."""
    return (page - 1) // 2 if lies_flat(publication) else page // 2


def is_recto(publication: Publication, page: int) -> bool:
    """Rectos are the odd pages, whichever way the copy is bound; the even ones where it lies flat."""
    return page % 2 == (0 if lies_flat(publication) else 1)


def facing(publication: Publication, page: int) -> int:
    """The page across the fold; it may be one that is not there."""
    return page - 1 if is_recto(publication, page) else page + 1


def on_right(publication: Publication, page: int) -> bool:
    """Whether a page lies at the right of its fold."""
    return is_recto(publication, page) != publication.brief.right_bound
