"""Words found by their octets: the same tokens as by the words themselves, whatever the text."""

import re

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from half_fold.core.typesetting.lines import word_index
from half_fold.core.typesetting.lines.word_index import WordIndex

TEXTS = st.lists(st.text(st.sampled_from("abcé漢\u00a0\u2028 \t\n\r-’𝄞\x00"), max_size=40), min_size=1, max_size=6)


def _by_words(texts: list[str], known: dict[str, int]) -> list[list[int]]:
    """The tokens as plain Python finds them, numbered as they are first met."""
    words = [list(filter(None, re.split(r"[ \t\r\n\0]+", text))) for text in texts]
    return [[known.setdefault(word, len(known)) for word in line] for line in words]


@settings(max_examples=80, deadline=None)
@given(st.lists(TEXTS, min_size=1, max_size=3))
def test_each_word_has_its_token_and_each_text_its_words(rounds: list[list[str]]) -> None:
    _agrees(rounds)


def _agrees(rounds: list[list[str]]) -> None:
    known: dict[str, int] = {}
    made: list[str] = []
    index = WordIndex(lambda word: made.append(word) or len(made) - 1)  # type: ignore[func-returns-value]
    for texts in rounds:
        assert [tokens.tolist() for tokens in index.tokens_of(texts)] == _by_words(texts, known)
    assert made == list(known)


def test_more_words_than_there_was_room_for(form: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """The walk stops for room and goes on where it stood, with slots that many words share on the way."""
    monkeypatch.setattr(word_index, "LEAST_SLOTS", 4)
    monkeypatch.setattr(word_index, "LEAST_OCTETS", 8)
    words = [f"w{i * i % 257:x}" for i in range(400)]
    _agrees([[" ".join(words[:3])], [" ".join(words[3:200]), "", "  "], [" ".join(words)]])


def test_no_text_has_no_words(form: str) -> None:
    _agrees([[""], ["", " \n "], ["one"], ["one two one"]])


def test_a_word_that_could_not_be_made_is_asked_for_again(form: str) -> None:
    refuses = True

    def add(word: str) -> int:
        if refuses:
            raise LookupError(word)
        return len(word)

    index = WordIndex(add)
    with pytest.raises(LookupError):
        index.tokens_of(["one three"])
    refuses = False
    assert [tokens.tolist() for tokens in index.tokens_of(["three one"])] == [[5, 3]]
