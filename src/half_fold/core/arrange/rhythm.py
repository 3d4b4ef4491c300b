"""How many pictures lie on each spread: the cheapest way to part a sequence, by pace, worth, breaks and change."""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from half_fold.core.arrange.chapters import Chapter
from half_fold.core.arrange.fitness import RATINGS

MOST = 8  # pictures of a spread: four a page
SLOWEST, QUICKEST = 1.6, 6.5  # pictures of a spread, at a pace of 0 and of 100 per cent
OPENS = 2.0  # ratings above it are seen alone, or nearly so
Reals = npt.NDArray[np.float64]


def usual_count(pace: float) -> float:
    """How many pictures a spread has on the whole at a pace, per cent."""
    return float(SLOWEST * (QUICKEST / SLOWEST) ** (pace / 100))


def pictures_by_spread(chapters: Sequence[Chapter], pace: float, spreads: int = 0) -> list[list[int]]:
    """How many pictures lie on each spread, chapter by chapter.

    So many ``spreads`` in all, or as near to it as can be; as many as the pace likes best where that is 0.
    """
    sizes = [len(chapter.pictures) for chapter in chapters]
    total = sum(sizes)
    if not total:
        return [[] for _ in chapters]
    most = total if not spreads else min(total, max(spreads, sum(-(-size // MOST) for size in sizes)))
    usual = total / spreads if spreads else usual_count(pace)
    best, came = _paths(chapters, min(max(usual, 1.0), float(MOST)), most)
    ends = best[total].min(axis=0)  # by how many spreads
    finite = np.flatnonzero(np.isfinite(ends))
    count = int(finite[ends[finite].argmin()]) if not spreads else int(finite[np.abs(finite - spreads).argmin()])
    return _back(best, came, chapters, count)


def _paths(chapters: Sequence[Chapter], usual: float, most: int) -> tuple[Reals, npt.NDArray[np.int8]]:
    """The least cost of parting the first n pictures into s spreads, the last of k: [n, k - 1, s]; and the k before."""
    starts = np.cumsum([0, *(len(chapter.pictures) for chapter in chapters)])
    total = int(starts[-1])
    best = np.full((total + 1, MOST, most + 1), np.inf)
    came = np.zeros((total + 1, MOST, most + 1), np.int8)
    change = _change()
    for chapter, start in zip(chapters, starts[:-1], strict=True):
        for size in range(1, len(chapter.pictures) + 1):
            for last in range(1, min(MOST, size) + 1):
                cost, at = _cost(chapter, size - last, last, usual), int(start) + size - last
                if at == 0:
                    best[last, last - 1, 1] = cost
                    continue
                before = best[at] + change[:, last - 1][:, None]
                chosen = before.argmin(axis=0)
                here = np.take_along_axis(before, chosen[None], 0)[0] + cost
                best[at + last, last - 1, 1:] = here[:-1]
                came[at + last, last - 1, 1:] = chosen[:-1] + 1
    return best, came


def _back(best: Reals, came: npt.NDArray[np.int8], chapters: Sequence[Chapter], count: int) -> list[list[int]]:
    """The way that ends cheapest in so many spreads, from its end."""
    at = len(best) - 1
    last, groups = int(best[at, :, count].argmin()) + 1, []
    while at > 0:
        groups.append(last)
        before = int(came[at, last - 1, count])
        at, count, last = at - last, count - 1, before
    groups.reverse()
    made, turn = [], 0
    for chapter in chapters:
        run: list[int] = []
        while sum(run) < len(chapter.pictures):
            run.append(groups[turn])
            turn += 1
        made.append(run)
    return made


def _change() -> Reals:
    """What it costs that a spread of so many follows one of so many: alike, or two crowded ones."""
    sizes = np.arange(1, MOST + 1)
    one, other = sizes[:, None], sizes[None]
    return np.where(one == other, 0.35, 0) + np.where((one >= 6) & (other >= 6), 0.4, 0)


def _cost(chapter: Chapter, start: int, count: int, usual: float) -> float:
    """What a spread of those pictures costs by itself: off the pace, one that opens in a crowd, no break at its end."""
    ratings = [RATINGS[picture.worth] for picture in chapter.pictures[start : start + count]]
    cost = 0.8 * float(np.log(count / usual)) ** 2
    opens = sum(rating > OPENS for rating in ratings)
    if opens:
        cost += 0.7 * opens * (count - 1) - (0.9 if count == 1 else 0)
    elif count == 1:
        cost += 0.25
    inside = chapter.breaks[start : start + count - 1]
    return cost + 0.5 * sum(inside) / max(1, count - 1) - 0.5 * chapter.breaks[start + count - 1]
