"""Words counted: a paragraph's once, however often its story is asked."""

from collections.abc import Iterable

from half_fold.core.measure.kept import kept
from half_fold.core.publication.records import Paragraph


@kept(60_000)
def words_in(paragraph: Paragraph) -> int:
    """The words of a paragraph."""
    return len(paragraph.text.split())


def words_of(paragraphs: Iterable[Paragraph]) -> int:
    """The words of all of them."""
    return sum(map(words_in, paragraphs))
