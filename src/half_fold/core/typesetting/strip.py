"""Paragraphs laid end to end as one strip of break places, ready to be broken into lines.

Every break has ``ends`` (where a line that ends here ends, its hyphen included) and ``starts`` (where a
line that begins here begins), so the width of a line is one difference; the same for its word spaces.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from half_fold.core.typesetting.tokens import AT_SPACE, TokenTable

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]

PARAGRAPH_GAP = 1000.0


@dataclass(frozen=True, slots=True)
class Strip:
    """Breaks of some paragraphs; all arrays have one entry a break, lengths in ems.

    ``first`` and ``last`` give each paragraph's first break (its start) and last (its end);
    ``token`` counts tokens through the strip and ``part`` a token's breaks, its end last (-1 at a start).
    """

    ends: Floats
    starts: Floats
    spaces_at_end: Floats
    spaces_at_start: Floats
    kind: Ints
    token: Ints
    part: Ints
    first: Ints
    last: Ints

    def width(self, start: int, end: int) -> float:
        return float(self.ends[end] - self.starts[start])

    def spaces(self, start: int, end: int) -> float:
        """The width of the word spaces of a line at their natural width."""
        return float(self.spaces_at_end[end] - self.spaces_at_start[start])


def lay_out(table: TokenTable, paragraphs: Sequence[Sequence[int]], indents: Sequence[float]) -> Strip:
    """The strip of paragraphs given as token ids (none of them empty), first lines indented by ``indents`` ems."""
    width, space, first_break, before, after, kind = table.arrays()
    counts = np.array([len(paragraph) for paragraph in paragraphs], np.int64)
    tokens = np.concatenate([np.asarray(paragraph, np.int64) for paragraph in paragraphs])
    opens = np.concatenate([[0], np.cumsum(counts)[:-1]])
    gap = space[tokens].copy()
    gap[opens] = 0.0
    shift = np.zeros(len(tokens))
    shift[opens[1:]] = PARAGRAPH_GAP
    w = width[tokens]
    run = np.cumsum(shift + gap + w)
    x = run - w
    spaces = np.cumsum(gap)

    parts = first_break[tokens + 1] - first_break[tokens]
    parts[opens] += 1
    token = np.repeat(np.arange(len(tokens)), parts)
    base = np.cumsum(parts) - parts
    part = np.arange(len(token)) - base[token]
    is_open = np.zeros(len(tokens), bool)
    is_open[opens] = True
    part = np.where(is_open[token], part - 1, part)
    at_start = part < 0
    entry = first_break[tokens[token]] + np.maximum(part, 0)

    ends = x[token] + before[entry]
    starts = x[token] + w[token] - after[entry]
    kinds = kind[entry]
    word_end = (kinds == AT_SPACE) & ~at_start
    following = np.minimum(token + 1, len(tokens) - 1)
    starts = np.where(word_end, x[following], starts)
    first = base[opens]
    last = np.concatenate([first[1:] - 1, [len(token) - 1]])
    starts[first] = x[opens] - np.asarray(indents, np.float64)
    ends[first] = x[opens]
    at_end = spaces[token]
    at_begin = np.where(word_end, spaces[following], spaces[token])
    return Strip(ends, starts, at_end, at_begin, np.where(at_start, AT_SPACE, kinds), token, part, first, last)
