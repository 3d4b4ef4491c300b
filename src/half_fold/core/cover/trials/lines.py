"""The lines of words on a front, for the trials that say which of them hold."""

from half_fold.core.cover.trials.eye import SeenLine, lines_seen
from half_fold.core.cover.trials.seen import Seen
from half_fold.core.publication.kinds import kind_of
from half_fold.core.publication.records import blocks_of


def seen_lines(seen: Seen) -> list[SeenLine]:
    """Of what is set in words: not the figures under a barcode."""
    front = seen.flat.front
    words = {b.id for b in blocks_of(seen.publication.cover.front) if kind_of(b.holds).is_words}
    return [each for each in lines_seen(seen.marks, front.left - 1, front.right + 1) if each.block in words]
