"""Paragraphs laid end to end as one strip of break places, ready to be broken into lines.

Every break has ``ends`` (where a line that ends here ends, its hyphen included) and ``starts`` (where a
line that begins here begins), so the width of a line is one difference; the same for its word spaces.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import chain
from typing import Any

import numpy as np
import numpy.typing as npt

from half_fold.core.typesetting.compiling import Procedure, compiled
from half_fold.core.typesetting.compiling import known as known_to_compiler
from half_fold.core.typesetting.tokens import Measured, TokenTable

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]

PARAGRAPH_GAP = 1000.0


@dataclass(frozen=True, slots=True)
class Strip:
    """Breaks of some paragraphs; all arrays have one entry a break, lengths in ems.

    ``first`` and ``last`` give each paragraph's first break (its start) and last (its end);
    ``lead_in`` is how far from the edge the first letter of a line that begins here stands.
    ``token`` counts tokens through the strip and ``part`` a token's breaks, its end last (-1 at a start).
    """

    ends: Floats
    starts: Floats
    spaces_at_end: Floats
    spaces_at_start: Floats
    letters_at_end: Floats
    letters_at_start: Floats
    lead_in: Floats
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

    def letters(self, start: int, end: int) -> float:
        """How many letters and spaces a line has that may be spaced."""
        return float(self.letters_at_end[end] - self.letters_at_start[start])


def _lay(
    tokens: Any,
    counts: Any,
    indents: Any,
    width: Any,
    space: Any,
    letters: Any,
    leads: Any,
    first_break: Any,
    kept: Any,
    carried: Any,
    letters_kept: Any,
    letters_carried: Any,
    trails: Any,
    carried_leads: Any,
    kinds: Any,
    gap: Any,
    ends: Any,
    starts: Any,
    spaces_at_end: Any,
    spaces_at_start: Any,
    letters_at_end: Any,
    letters_at_start: Any,
    lead_in: Any,
    kind: Any,
    token: Any,
    part: Any,
    first: Any,
    last: Any,
) -> int:
    """Fill the columns of a strip; gives how many breaks there are."""
    at = 0
    x = 0.0
    spaces = 0.0
    count = 0.0
    index = 0
    for p in range(len(counts)):
        for i in range(counts[p]):
            t = tokens[index]
            if i == 0:
                first[p] = at
                ends[at] = x
                starts[at] = x - indents[p] + leads[t]
                spaces_at_end[at] = spaces
                spaces_at_start[at] = spaces
                letters_at_end[at] = count - 1.0
                letters_at_start[at] = count
                lead_in[at] = indents[p] - leads[t]
                kind[at] = 0
                token[at] = index
                part[at] = -1
                at += 1
            w = width[t]
            begin = first_break[t]
            close = first_break[t + 1]
            for entry in range(begin, close):
                ends[at] = x + kept[entry] - trails[entry]
                spaces_at_end[at] = spaces
                letters_at_end[at] = count + letters_kept[entry] - 1.0
                kind[at] = kinds[entry]
                token[at] = index
                part[at] = entry - begin
                if entry == close - 1 and i + 1 < counts[p]:
                    following = tokens[index + 1]
                    starts[at] = x + w + space[following] + leads[following]
                    spaces_at_start[at] = spaces + space[following]
                    letters_at_start[at] = count + letters[t] + 1.0
                    lead_in[at] = -leads[following]
                else:
                    starts[at] = x + w - carried[entry] + carried_leads[entry]
                    spaces_at_start[at] = spaces
                    letters_at_start[at] = count + letters[t] - letters_carried[entry]
                    lead_in[at] = -carried_leads[entry]
                at += 1
            x += w
            count += letters[t] + 1.0
            if i + 1 < counts[p]:
                x += space[tokens[index + 1]]
                spaces += space[tokens[index + 1]]
            index += 1
        last[p] = at - 1
        x += gap
    return at


def lay_out(table: TokenTable, paragraphs: Sequence[Sequence[int]], indents: Sequence[float]) -> Strip:
    """The strip of paragraphs given as token ids (none of them empty), first lines indented by ``indents`` ems."""
    known = table.arrays()
    laid = np.fromiter(chain.from_iterable(paragraphs), np.int64, sum(map(len, paragraphs)))
    breaks = int((known.first[laid + 1] - known.first[laid]).sum()) + len(paragraphs)
    floats: list[Any] = [np.empty(breaks) for _ in range(7)]
    whole = [np.empty(breaks, np.int64) for _ in range(3)]
    ends = [np.empty(len(paragraphs), np.int64) for _ in range(2)]
    given = laid, np.array([len(p) for p in paragraphs], np.int64), np.array(indents, np.float64), *columns_of(known)
    made = compiled(_lay)
    if made is not None:
        made(*given, PARAGRAPH_GAP, *floats, *whole, *ends)
        return Strip(*floats, *whole, *ends)
    lists = [column.tolist() for column in (*floats, *whole, *ends)]
    interpreted: Procedure = _lay
    interpreted(*(column.tolist() for column in given), PARAGRAPH_GAP, *lists)
    typed: list[Any] = [np.array(column, np.float64) for column in lists[:7]]
    return Strip(*typed, *(np.array(column, np.int64) for column in lists[7:]))


def columns_of(known: Measured) -> tuple[Floats | Ints, ...]:
    """What is known of tokens and their breaks, in the order that ``_lay`` takes it."""
    return (
        known.width,
        known.space,
        known.letters,
        known.leads,
        known.first,
        known.kept,
        known.carried,
        known.letters_kept,
        known.letters_carried,
        known.trails,
        known.carried_leads,
        known.kind,
    )


def _example(made: Procedure) -> None:
    pair, whole = np.array([0.0, 1.0]), np.array([0, 1], np.int64)
    one, ones = np.zeros(1, np.int64), np.ones(1, np.int64)
    by_break = pair, pair, pair, pair, pair, pair, whole
    filled = [np.empty(4) for _ in range(7)], [np.empty(4, np.int64) for _ in range(5)]
    made(one, ones, pair, pair, pair, pair, pair, whole, *by_break, PARAGRAPH_GAP, *filled[0], *filled[1])


known_to_compiler(_lay, _example)
