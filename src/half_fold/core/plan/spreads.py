"""Spreads are pairs of pages: page 1 alone on the right, then left and right, an even last page alone on the left."""

from dataclasses import dataclass
from functools import lru_cache


@dataclass(frozen=True, slots=True)
class Spread:
    """Page numbers (from 1) of the left and right page; None where there is none."""

    left: int | None
    right: int | None

    @property
    def numbers(self) -> tuple[int, ...]:
        return tuple(n for n in (self.left, self.right) if n is not None)

    @property
    def label(self) -> str:
        return "–".join(str(n) for n in self.numbers)


@lru_cache(maxsize=64)
def spreads(count: int) -> tuple[Spread, ...]:
    """All spreads of ``count`` pages in order."""
    pairs = [Spread(None, 1)]
    pairs += [Spread(left, left + 1 if left < count else None) for left in range(2, count + 1, 2)]
    return tuple(pairs)


def spread_index(page: int) -> int:
    """The index of the spread that page number ``page`` (from 1) lies on."""
    return page // 2


def is_recto(page: int) -> bool:
    return page % 2 == 1
