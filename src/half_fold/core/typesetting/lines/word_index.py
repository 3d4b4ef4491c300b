"""Plain words by their octets: the tokens of whole texts are found in one walk over them."""

from collections.abc import Callable, Sequence

import numpy as np
import numpy.typing as npt

from half_fold.core.compiled.compiling import Octets, Wholes, known
from half_fold.core.measure.columns import grown

Ints = npt.NDArray[np.int64]

LEAST_SLOTS, LEAST_OCTETS = 8192, 32768
EMPTY = -1
_TEXT_ENDS = "\0"
_AS_OCTETS = "utf-8", "surrogatepass"
_START, _FACTOR, _BITS = 2166136261, 16777619, 0x7FFFFFFF
_AT, _WORD, _TEXTS, _BEFORE, _ENTRIES, _USED = range(6)


def _needs(text: Ints, length: int, mask: int, room: int, **_: object) -> dict[str, int]:
    """How long the arrays of the walk have to be."""
    entries = (mask + 1) // 2 + 1
    by_text = int(np.count_nonzero(text[:length] == 0))
    return {
        "text": length,
        "slots": mask + 1,
        "mixes": entries,
        "ends": entries + 1,
        "octets": room,
        "found": length // 2,
        "counts": by_text,
        "state": 6,
    }


@known(_needs)
def _find_words(
    text: Octets,
    length: int,
    slots: Wholes,
    mask: int,
    mixes: Wholes,
    ends: Wholes,
    octets: Octets,
    room: int,
    found: Wholes,
    counts: Wholes,
    state: Wholes,
) -> int:
    """The entry of each word, made where it is new, and how many words each text has; 0 where there is no more room.

    ``state`` is where the walk stands in the text, how many words and texts it has found, how many words the texts
    before this one have, and how many entries with how many octets there are: it goes on from there.
    """
    at, word, texts, before, entries, used = state[0], state[1], state[2], state[3], state[4], state[5]
    is_done = 1
    while at < length:
        octet = text[at]
        if octet in (32, 9, 10, 13):
            at += 1
            continue
        if octet == 0:
            counts[texts] = word - before
            before = word
            texts += 1
            at += 1
            continue
        begin = at
        mix = _START
        while at < length:
            octet = text[at]
            if octet in (32, 9, 10, 13, 0):
                break
            mix = ((mix ^ octet) * _FACTOR) & _BITS
            at += 1
        size = at - begin
        slot = mix & mask
        entry = slots[slot]
        while entry != EMPTY:
            if mixes[entry] == mix and ends[entry + 1] - ends[entry] == size:
                same = 0
                while same < size and octets[ends[entry] + same] == text[begin + same]:
                    same += 1
                if same == size:
                    break
            slot = (slot + 1) & mask
            entry = slots[slot]
        if entry == EMPTY:
            if 2 * entries > mask or used + size > room:
                at = begin
                is_done = 0
                break
            entry = entries
            slots[slot] = entry
            mixes[entry] = mix
            for octet in range(size):
                octets[used + octet] = text[begin + octet]
            used += size
            ends[entry + 1] = used
            entries += 1
        found[word] = entry
        word += 1
    state[0], state[1], state[2], state[3], state[4], state[5] = at, word, texts, before, entries, used
    return is_done


class WordIndex:
    """The plain words of a token table; ``add`` makes the token of a word that is met for the first time."""

    def __init__(self, add: Callable[[str], int]) -> None:
        self._add = add
        self._clear()

    def _clear(self) -> None:
        self._slots = np.full(LEAST_SLOTS, EMPTY, np.int64)
        self._mixes = np.empty(LEAST_SLOTS, np.int64)
        self._ends = np.zeros(LEAST_SLOTS + 1, np.int64)
        self._tokens = np.empty(LEAST_SLOTS, np.int64)
        self._octets = np.empty(LEAST_OCTETS, np.uint8)
        self._entries = 0

    def tokens_of(self, texts: Sequence[str]) -> list[Ints]:
        """The tokens of the words of each text, with spaces and line ends between them."""
        joined = bytearray(_TEXT_ENDS.join((*(text.replace(_TEXT_ENDS, " ") for text in texts), "")), *_AS_OCTETS)
        found, counts = np.empty(len(joined) // 2 + 1, np.int64), np.empty(len(texts), np.int64)
        had = self._entries
        state = np.array([0, 0, 0, 0, had, self._ends[had]], np.int64)
        text = np.frombuffer(joined, np.uint8)
        while not _find_words(text, len(joined), *self._room(), found, counts, state):
            self._make_room(int(state[_ENTRIES]), int(state[_USED]) + len(joined))
        self._entries = int(state[_ENTRIES])
        try:
            for entry in range(had, self._entries):
                self._tokens[entry] = self._add(self._word(entry))
        except BaseException:
            self._clear()  # entries without a token would be found the next time
            raise
        stops = counts.cumsum()
        tokens = self._tokens[found[: int(state[_WORD])]]
        return [tokens[stop - count : stop] for stop, count in zip(stops.tolist(), counts.tolist(), strict=True)]

    def _room(self) -> tuple[Ints, int, Ints, Ints, npt.NDArray[np.uint8], int]:
        return self._slots, len(self._slots) - 1, self._mixes, self._ends, self._octets, len(self._octets)

    def _word(self, entry: int) -> str:
        return bytes(self._octets[self._ends[entry] : self._ends[entry + 1]]).decode(*_AS_OCTETS)

    def _make_room(self, entries: int, octets: int) -> None:
        """Room for as many octets, and for twice the entries."""
        self._octets = grown(self._octets, octets)
        if 2 * entries < len(self._slots):
            return
        size = 2 * len(self._slots)
        self._mixes, self._tokens = grown(self._mixes, size), grown(self._tokens, size)
        self._ends = grown(self._ends, size + 1)
        self._slots = np.full(size, EMPTY, np.int64)
        for entry, mix in enumerate(self._mixes[:entries].tolist()):
            slot = mix & (size - 1)
            while self._slots[slot] != EMPTY:
                slot = (slot + 1) & (size - 1)
            self._slots[slot] = entry
