"""Paragraphs laid end to end as one strip of break places, ready to be broken into lines.

Every break has ``ends`` (where a line that ends here ends, its hyphen included) and ``starts`` (where a
line that begins here begins), so the width of a line is one difference; the same for its word spaces.
"""

from collections.abc import Sequence
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import fields

from half_fold.core.compiled.compiling import Reals, Wholes, hold_array, known
from half_fold.core.typesetting.lines.tokens import TokenTable

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]

PARAGRAPH_GAP = 1000.0


class ToBreak(NamedTuple):
    """What breaking and laying ask of a strip: of each break the spaces and letters at both sides, and its kind."""

    starts: Reals
    ends: Reals
    spaces_s: Reals
    spaces_e: Reals
    letters_s: Reals
    letters_e: Reals
    kind: Wholes


class ToLay(NamedTuple):
    """What laying asks of a strip beside: which words its lines have."""

    lead_in: Reals
    token: Wholes
    part: Wholes
    laid: Wholes


class Strip(Struct, frozen=True, dict=True):
    """Breaks of some paragraphs; all arrays have one entry a break, lengths in ems.

    ``first`` and ``last`` give each paragraph's first break (its start) and last (its end);
    ``lead_in`` is how far from the edge the first letter of a line that begins here stands.
    ``laid`` has the id of every token; ``token`` counts them through the strip and ``part`` a token's breaks,
    its end last (-1 at a start).
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
    laid: Ints

    @cached_property
    def to_break(self) -> "ToBreak":
        """What breaking asks of it."""
        spaces, letters = (self.spaces_at_start, self.spaces_at_end), (self.letters_at_start, self.letters_at_end)
        return ToBreak(*hold_array(self.starts, self.ends, *spaces, *letters, self.kind))

    @cached_property
    def to_lay(self) -> "ToLay":
        """What laying asks of it beside."""
        return ToLay(*hold_array(self.lead_in, self.token, self.part, self.laid))

    def at(self, breaks: Sequence[int], firsts: Sequence[int]) -> "Strip":
        """A strip of only those breaks, in arrays of its own; ``firsts`` are where its paragraphs now begin."""
        places = np.array(breaks, np.int64)
        kept: list[Any] = [getattr(self, column)[places] for column in _BY_BREAK]
        begins = np.array(firsts, np.int64)
        kept += [begins, np.append(begins[1:], len(breaks)) - 1, self.laid]
        return Strip(*kept)

    def width(self, start: int, end: int) -> float:
        return float(self.ends[end] - self.starts[start])

    def spaces(self, start: int, end: int) -> float:
        """The width of the word spaces of a line at their natural width."""
        return float(self.spaces_at_end[end] - self.spaces_at_start[start])

    def letters(self, start: int, end: int) -> float:
        """How many letters and spaces a line has that may be spaced."""
        return float(self.letters_at_end[end] - self.letters_at_start[start])


_BY_BREAK = tuple(field.name for field in fields(Strip))[:10]


class StripRoom:
    """Columns that strips are laid out in one after the other, so that a processor keeps them at hand."""

    def __init__(self) -> None:
        self._columns: list[Any] = []
        self._have = 0

    def columns(self, breaks: int) -> list[Any]:
        """The columns by break of a strip of so many; those of the strip before are written over."""
        if breaks > self._have:
            self._have = 2 * breaks
            self._columns = [np.empty(self._have) for _ in range(7)] + [
                np.empty(self._have, np.int64) for _ in range(3)
            ]
        return [column[:breaks] for column in self._columns]


def _needs(tokens: Ints, counts: Ints, paragraphs: int, first_break: Ints, **_: object) -> dict[str, int]:
    """How long the arrays have to be that a strip is laid out of and into."""
    laid = int(counts[:paragraphs].sum())
    told = tokens[:laid]
    last = int(told.max(initial=-1))
    breaks = int((first_break[told + 1] - first_break[told]).sum()) + paragraphs if last + 2 <= len(first_break) else 0
    by_break = int(first_break[last + 1]) if last + 2 <= len(first_break) else 0
    return {
        "tokens": laid,
        "counts": paragraphs,
        "indents": paragraphs,
        "first_break": last + 2,
        **dict.fromkeys(("width", "space", "letters", "leads"), last + 1),
        **dict.fromkeys(("kept", "carried", "letters_kept", "letters_carried", "trails"), by_break),
        **dict.fromkeys(("carried_leads", "kinds"), by_break),
        **dict.fromkeys(("ends", "starts", "spaces_at_end", "spaces_at_start", "letters_at_end"), breaks),
        **dict.fromkeys(("letters_at_start", "lead_in", "kind", "token", "part"), breaks),
        "first": paragraphs,
        "last": paragraphs,
    }


@known(_needs)
def _lay(
    tokens: Wholes,
    counts: Wholes,
    paragraphs: int,
    indents: Reals,
    width: Reals,
    space: Reals,
    letters: Reals,
    leads: Reals,
    first_break: Wholes,
    kept: Reals,
    carried: Reals,
    letters_kept: Reals,
    letters_carried: Reals,
    trails: Reals,
    carried_leads: Reals,
    kinds: Reals,
    gap: float,
    ends: Reals,
    starts: Reals,
    spaces_at_end: Reals,
    spaces_at_start: Reals,
    letters_at_end: Reals,
    letters_at_start: Reals,
    lead_in: Reals,
    kind: Wholes,
    token: Wholes,
    part: Wholes,
    first: Wholes,
    last: Wholes,
) -> int:
    """Fill the columns of a strip; gives how many breaks there are."""
    at = 0
    x = 0.0
    spaces = 0.0
    count = 0.0
    index = 0
    for p in range(paragraphs):
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
                kind[at] = int(kinds[entry])
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


def lay_out(
    table: TokenTable,
    paragraphs: Sequence[Sequence[int] | Ints],
    indents: Sequence[float],
    room: StripRoom | None = None,
) -> Strip:
    """The strip of paragraphs given as token ids (none of them empty), first lines indented by ``indents`` ems.

    In a ``room`` it lasts until the next one is laid out there.
    """
    measured = table.measured()
    laid = np.concatenate([np.asarray(tokens, np.int64) for tokens in paragraphs])
    breaks = int((measured.first[laid + 1] - measured.first[laid]).sum()) + len(paragraphs)
    filled = (room or StripRoom()).columns(breaks)
    filled += [np.empty(len(paragraphs), np.int64) for _ in range(2)]
    counts = np.array([len(p) for p in paragraphs], np.int64)
    given = laid, counts, len(paragraphs), np.array(indents, np.float64)
    _lay(*given, *measured.columns, PARAGRAPH_GAP, *filled)
    filled.append(laid)
    return Strip(*filled)
