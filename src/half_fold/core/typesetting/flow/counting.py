"""Words counted: a paragraph's once, however often its story is asked, and of a story only what changed."""

from collections.abc import Sequence
from itertools import compress, count
from operator import is_not

from half_fold.core.measure.kept import kept
from half_fold.core.publication.records import Paragraph

_last: list[tuple[tuple[Paragraph, ...], int]] = [((), 0)]


@kept(60_000)
def words_in(paragraph: Paragraph) -> int:
    """The words of a paragraph."""
    return len(paragraph.text.split())


def count_words(paragraphs: Sequence[Paragraph]) -> int:
    """The words of all of them; counted on from the story that was asked about last, where most is the same."""
    now, (before, known) = tuple(paragraphs), _last[0]
    if now is before:
        return known
    first = alike(now, before)
    tail = min(alike(now[::-1], before[::-1]), min(len(now), len(before)) - first)
    gone = before[first : len(before) - tail]
    come = now[first : len(now) - tail]
    if len(gone) > len(now):  # another story altogether
        total = sum(map(words_in, now))
    else:
        total = known - sum(map(words_in, gone)) + sum(map(words_in, come))
    _last[0] = now, total
    return total


def alike(one: Sequence[object], other: Sequence[object]) -> int:
    """How many from the start are the very same records."""
    return next(compress(count(), map(is_not, one, other)), min(len(one), len(other)))
