"""Plain words by their octets: the tokens of whole texts are found in one walk over them."""

from collections.abc import Callable, Sequence

import numpy as np
import numpy.typing as npt

from half_fold.core.measure.columns import Columns
from half_fold.core.typesetting.compiling import Octets, Wholes, known

Ints = npt.NDArray[np.int64]

LEAST_SLOTS = 4096
EMPTY = -1
_TEXT_ENDS = "\0"
_AS_OCTETS = "utf-8", "surrogatepass"
_START, _FACTOR, _BITS = 2166136261, 16777619, 0x7FFFFFFF


@known
def _find_words(
    text: Octets,
    length: int,
    slots: Wholes,
    mask: int,
    begins: Wholes,
    ends: Wholes,
    octets: Octets,
    found: Wholes,
    counts: Wholes,
    unknown: Wholes,
) -> int:
    """The token of each word, EMPTY for unknown ones; how many words each text has; gives how many texts there are.

    Of ``unknown`` words there are, after their number, (place among the words, begin, end in the text) each.
    """
    word = 0
    texts = 0
    before = 0
    lacking = 0
    at = 0
    while at < length:
        octet = text[at]
        if octet == 32 or octet == 9 or octet == 10 or octet == 13:
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
            if octet == 32 or octet == 9 or octet == 10 or octet == 13 or octet == 0:
                break
            mix = ((mix ^ octet) * _FACTOR) & _BITS
            at += 1
        slot = mix & mask
        token = EMPTY
        while slots[slot] != EMPTY:
            entry = slots[slot]
            size = ends[entry] - begins[entry]
            if size == at - begin:
                same = 0
                while same < size and octets[begins[entry] + same] == text[begin + same]:
                    same += 1
                if same == size:
                    token = entry
                    break
            slot = (slot + 1) & mask
        found[word] = token
        if token == EMPTY:
            unknown[3 * lacking + 1] = word
            unknown[3 * lacking + 2] = begin
            unknown[3 * lacking + 3] = at
            lacking += 1
        word += 1
    unknown[0] = lacking
    return texts


class WordIndex:
    """The plain words of a token table; ``add`` makes the token of a word that is met for the first time."""

    def __init__(self, add: Callable[[str], int]) -> None:
        self._add = add
        self._words: list[bytes] = []
        self._tokens: list[int] = []
        self._begins: list[int] = []
        self._ends: list[int] = []
        self._octets: list[int] = []
        self._columns = (
            Columns(self._begins, kind=np.int64),
            Columns(self._ends, kind=np.int64),
            Columns(self._octets, kind=np.uint8),
        )
        self._by_entry = Columns(self._tokens, kind=np.int64)
        self._slots = np.full(LEAST_SLOTS, EMPTY, np.int64)

    def tokens_of(self, texts: Sequence[str]) -> list[Ints]:
        """The tokens of the words of each text, spaces and line ends between them."""
        joined = bytearray(_TEXT_ENDS.join((*(text.replace(_TEXT_ENDS, " ") for text in texts), "")), *_AS_OCTETS)
        most = len(joined) // 2 + 1
        found, unknown = np.empty(most, np.int64), np.empty(3 * most + 1, np.int64)
        counts = np.empty(len(texts), np.int64)
        columns = [column.now()[0] for column in self._columns]
        text = np.frombuffer(joined, np.uint8)
        _find_words(text, len(joined), self._slots, len(self._slots) - 1, *columns, found, counts, unknown)
        stops = counts.cumsum()
        for place, begin, end in unknown[1 : 3 * int(unknown[0]) + 1].reshape(-1, 3).tolist():
            found[place] = self._entry(bytes(joined[begin:end]))
        tokens = self._by_entry.now()[0][found[: int(stops[-1])]]
        return [tokens[stop - count : stop] for stop, count in zip(stops.tolist(), counts.tolist(), strict=True)]

    def _entry(self, word: bytes) -> int:
        """The entry of a word, made on first sight; one met twice in a text was made the first time."""
        slot = self._slot(word)
        if self._slots[slot] == EMPTY:
            self._slots[slot] = len(self._words)
            self._words.append(word)
            self._tokens.append(self._add(word.decode(*_AS_OCTETS)))
            self._begins.append(len(self._octets))
            self._octets += word
            self._ends.append(len(self._octets))
            if 2 * len(self._words) > len(self._slots):
                self._spread()
            return len(self._words) - 1
        return int(self._slots[slot])

    def _slot(self, word: bytes) -> int:
        """Where a word is, or would be."""
        mix = _START
        for octet in word:
            mix = ((mix ^ octet) * _FACTOR) & _BITS
        mask = len(self._slots) - 1
        slot = mix & mask
        while self._slots[slot] != EMPTY and self._words[self._slots[slot]] != word:
            slot = (slot + 1) & mask
        return slot

    def _spread(self) -> None:
        """Twice the slots, so that few words share one."""
        self._slots = np.full(2 * len(self._slots), EMPTY, np.int64)
        for entry, word in enumerate(self._words):
            self._slots[self._slot(word)] = entry
