"""Spreads are pairs of pages: page 1 alone, then two and two, an even last page alone.

A copy bound at the left has its rectos, the odd pages, at the right of the fold; one bound at the right mirrors that.
"""

from dataclasses import dataclass
from functools import lru_cache

from half_fold.core.publication.records import Publication


@dataclass(frozen=True, slots=True)
class Spread:
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
def spreads(count: int, right_bound: bool = False) -> tuple[Spread, ...]:
    """All spreads of ``count`` pages in order."""
    pairs: list[tuple[int | None, int | None]] = [(None, 1)]
    pairs += [(even, even + 1 if even < count else None) for even in range(2, count + 1, 2)]
    return tuple(Spread(odd, even) if right_bound else Spread(even, odd) for even, odd in pairs)


def spreads_of(publication: Publication) -> tuple[Spread, ...]:
    """All spreads of a job."""
    return spreads(len(publication.pages), publication.brief.right_bound)


def spread_of(publication: Publication, page: int) -> Spread:
    """The spread a page lies on."""
    return spreads_of(publication)[spread_index(page)]


def spread_index(page: int) -> int:
    """The index of the spread that page number ``page`` (from 1) lies on."""
    return page // 2


def is_recto(page: int) -> bool:
    """Rectos are the odd pages, whichever way the copy is bound."""
    return page % 2 == 1


def facing(page: int) -> int:
    """The page across the fold; it may be one that is not there."""
    return page - 1 if is_recto(page) else page + 1


def on_right(publication: Publication, page: int) -> bool:
    """Whether a page lies at the right of its fold."""
    return is_recto(page) != publication.brief.right_bound
