"""Line breaking: equal to brute force, the bulk breaker equal to the single one, and sound by itself."""

import random
from functools import cache

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from half_fold.core.typesetting.breaking_bulk import break_bulk
from half_fold.core.typesetting.breaking_one import break_greedily, break_one
from half_fold.core.typesetting.demerits import (
    EMERGENCIES,
    JUSTIFIED,
    LEAST_RATIO,
    RAGGED,
    UNLIKE_NEIGHBOURS,
    Manner,
    demerits,
    fitness,
    ratio,
)
from half_fold.core.typesetting.strip import Strip, lay_out
from half_fold.core.typesetting.tokens import AT_HYPHEN, Setting, TokenTable

WORDS = [
    "the",
    "orchard",
    "keeps",
    "its",
    "own",
    "calendar",
    "and",
    "nobody",
    "who",
    "has",
    "pruned",
    "in",
    "February",
    "forgets",
    "the",
    "particular",
    "difficulty",
    "of",
    "frozen",
    "fingers",
    "affection",
    "efficient",
    "waffling",
    "apprenticeship",
    "grafting",
    "rootstock",
    "whip-and-tongue",
    "a",
    "to",
    "in",
    "it",
    "was",
    "for",
    "on",
    "are",
    "as",
]
TABLE = TokenTable(Setting("EB Garamond", "Regular"))


def _strip(paragraphs: list[list[str]], indent: float = 1.0) -> Strip:
    return lay_out(TABLE, [[TABLE.id_of(word) for word in words] for words in paragraphs], [indent] * len(paragraphs))


def _line_cost(strip: Strip, p: int, start: int, end: int, measure: float, manner: Manner) -> tuple[float, int] | None:
    """Cost and class of a line, or None where it does not fit."""
    last = end == strip.last[p]
    r = ratio(manner, measure, strip.width(start, end), strip.spaces(start, end), last)
    if not LEAST_RATIO <= r <= manner.tolerance:
        return None
    own = demerits(
        r, int(strip.kind[start]), int(strip.kind[end]), last, strip.width(start, end), start != strip.first[p]
    )
    return own, fitness(r)


def _cost(strip: Strip, p: int, ends: list[int], measures: list[float], manner: Manner) -> float:
    total, klass, start = 0.0, 1, int(strip.first[p])
    for line, end in enumerate(ends):
        found = _line_cost(strip, p, start, end, measures[min(line, len(measures) - 1)], manner)
        if found is None:
            return float("inf")
        total += found[0] + (UNLIKE_NEIGHBOURS if abs(found[1] - klass) > 1 else 0)
        start, klass = end, found[1]
    return total


def _brute_force(strip: Strip, p: int, measures: list[float], manner: Manner) -> float:
    """The least cost over every way to break the paragraph."""
    first, last = int(strip.first[p]), int(strip.last[p])

    @cache
    def best(start: int, klass: int, line: int) -> float:
        if start == last:
            return 0.0
        least = float("inf")
        for end in range(start + 1, last + 1):
            found = _line_cost(strip, p, start, end, measures[min(line, len(measures) - 1)], manner)
            if found is not None:
                apart = UNLIKE_NEIGHBOURS if abs(found[1] - klass) > 1 else 0
                least = min(least, found[0] + apart + best(end, found[1], line + 1))
        return least

    return best(first, 1, 0)


paragraphs = st.lists(st.sampled_from(WORDS), min_size=1, max_size=22)


@settings(max_examples=120, deadline=None)
@given(paragraphs, st.floats(7, 26), st.sampled_from([JUSTIFIED, RAGGED]))
def test_both_breakers_equal_brute_force(words: list[str], measure: float, manner: Manner) -> None:
    strip = _strip([words])
    wanted = float("inf")
    for share in (0.0, *EMERGENCIES):
        manner_now = manner.eased(share)
        wanted = _brute_force(strip, 0, [measure], manner_now)
        if wanted < float("inf"):
            break
    one = break_one(strip, 0, [measure], manner).tolist()
    bulk = break_bulk(strip, np.array([measure]), manner)[0].tolist()
    if wanted == float("inf"):
        assert one == bulk == break_greedily(strip, 0, [measure]).tolist()
    else:
        assert _cost(strip, 0, one, [measure], manner_now) == pytest.approx(wanted)
        assert _cost(strip, 0, bulk, [measure], manner_now) == pytest.approx(wanted)


@settings(max_examples=60, deadline=None)
@given(paragraphs, st.lists(st.floats(9, 26), min_size=1, max_size=5))
def test_lines_of_varying_measure_equal_brute_force(words: list[str], measures: list[float]) -> None:
    strip = _strip([words])
    wanted = _brute_force(strip, 0, measures, JUSTIFIED)
    if wanted < float("inf"):
        assert _cost(strip, 0, break_one(strip, 0, measures, JUSTIFIED).tolist(), measures, JUSTIFIED) == pytest.approx(
            wanted
        )


def test_many_paragraphs_do_not_leak_into_each_other() -> None:
    rng = random.Random(5)
    many = [[rng.choice(WORDS) for _ in range(rng.randint(1, 90))] for _ in range(150)]
    measures = [rng.choice([12.0, 20.0, 30.0]) for _ in many]
    strip = _strip(many)
    together = break_bulk(strip, np.array(measures), JUSTIFIED)
    for p, words in enumerate(many):
        alone = _strip([words])
        lines = (together[p] - strip.first[p]).tolist()
        assert lines == break_bulk(alone, np.array([measures[p]]), JUSTIFIED)[0].tolist()
        assert lines[-1] == alone.last[0] and lines == sorted(set(lines))


def test_a_word_wider_than_the_measure_stands_alone() -> None:
    strip = _strip([["a", "honorificabilitudinitatibus/" * 3, "b"]])
    for lines in (break_one(strip, 0, [5.0], JUSTIFIED), break_bulk(strip, np.array([5.0]), JUSTIFIED)[0]):
        assert lines[-1] == strip.last[0]


def test_hyphen_widths_are_shaped_not_split() -> None:
    """A prefix cut before an ``fi`` ligature or a kern is not the word's own width up to there."""
    table = TokenTable(Setting("EB Garamond", "Regular"))
    off = []
    for word in ("efficient", "afflicted", "sufficient", "difficulty", "Avenues", "waffling"):
        token = table.id_of(word)
        whole = table.breaks_of(token)[-1][0]
        for kept, carried, kind, at in table.breaks_of(token)[:-1]:
            assert kind == AT_HYPHEN
            face = table.face_of(table.word(token)[0])
            assert kept == pytest.approx(face.shape(word[:at] + "-").width)
            assert carried == pytest.approx(face.shape(word[at:]).width)
            off.append(abs(kept - face.shape("-").width + carried - whole))
    assert max(off) > 0.005


def test_dashes_inside_words_may_break_without_a_hyphen() -> None:
    token = TABLE.id_of("whip-and-tongue")
    assert [at for *_, at in TABLE.breaks_of(token)] == [5, 9, -1]
