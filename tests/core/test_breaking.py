"""Line breaking: equal to brute force, the bulk breaker equal to the single one, and sound by itself."""

import random
from functools import cache

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.typesetting.faces.words import AT_HYPHEN
from half_fold.core.typesetting.lines.demerits import (
    CLASS_EDGES,
    EMERGENCIES,
    JUSTIFIED,
    LEAST_RATIO,
    RAGGED,
    UNLIKE_NEIGHBOURS,
    Justification,
    demerits,
    ratio,
)
from half_fold.core.typesetting.lines.strip import Strip, lay_out
from half_fold.core.typesetting.lines.tokens import TokenSetting, TokenTable
from half_fold.core.typesetting.lines.total_fit import Task, break_lines

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
TABLE = TokenTable(TokenSetting("EB Garamond", "Regular"))


def _strip(paragraphs: list[list[str]], indent: float = 1.0) -> Strip:
    return lay_out(TABLE, [[TABLE.plain[word] for word in words] for words in paragraphs], [indent] * len(paragraphs))


def _line_cost(
    strip: Strip, p: int, start: int, end: int, measure: float, manner: Justification
) -> tuple[float, int] | None:
    """Cost and class of a line, or None where it does not fit."""
    last = end == strip.last[p]
    r = ratio(manner, measure, strip.width(start, end), strip.spaces(start, end), last, strip.letters(start, end))
    if not LEAST_RATIO <= r <= manner.tolerance:
        return None
    own = demerits(
        r, int(strip.kind[start]), int(strip.kind[end]), last, strip.width(start, end), start != strip.first[p]
    )
    return own, sum(r > edge for edge in CLASS_EDGES)  # and its class, tight to loose


def _hyphens_after(strip: Strip, p: int, end: int, so_far: int) -> int:
    return so_far + 1 if strip.kind[end] == AT_HYPHEN and end != strip.last[p] else 0


def _cost(
    strip: Strip, p: int, ends: list[int], measures: tuple[float, ...], manner: Justification, whole: int = -1
) -> float:
    total, klass, start, hyphens = 0.0, 1, int(strip.first[p]), 0
    for line, end in enumerate(ends):
        found = _line_cost(strip, p, start, end, measures[min(line, len(measures) - 1)], manner)
        hyphens = _hyphens_after(strip, p, end, hyphens)
        if found is None or hyphens > manner.hyphens_in_row or (hyphens and line == whole):
            return float("inf")
        total += found[0] + (UNLIKE_NEIGHBOURS if abs(found[1] - klass) > 1 else 0)
        start, klass = end, found[1]
    return total


def _brute_force(
    strip: Strip, p: int, measures: tuple[float, ...], manner: Justification, whole: int = -1, lines: int = 0
) -> float:
    """The least cost over every way to break the paragraph (into ``lines`` lines, where that is not 0)."""
    first, last = int(strip.first[p]), int(strip.last[p])

    @cache
    def best(start: int, klass: int, line: int, hyphens: int) -> float:
        if start == last:
            return 0.0 if lines in (0, line) else float("inf")
        least = float("inf")
        for end in range(start + 1, last + 1):
            found = _line_cost(strip, p, start, end, measures[min(line, len(measures) - 1)], manner)
            now = _hyphens_after(strip, p, end, hyphens)
            if found is None or now > manner.hyphens_in_row or (now and line == whole):
                continue
            apart = UNLIKE_NEIGHBOURS if abs(found[1] - klass) > 1 else 0
            least = min(least, found[0] + apart + best(end, found[1], line + 1, now))
        return least

    return best(first, 1, 0, 0)


paragraphs = st.lists(st.sampled_from(WORDS), min_size=1, max_size=22)
manners = st.sampled_from(
    [JUSTIFIED, RAGGED, replace(JUSTIFIED, hyphens_in_row=0), replace(JUSTIFIED, letters=0.02, hyphens_in_row=1)]
)


pytestmark = pytest.mark.usefixtures("form")  # both forms of the procedure are held to all that follows


def _lines(
    strip: Strip, measures: tuple[float, ...], manner: Justification, looseness: int = 0, whole: int = -1
) -> list[int]:
    return break_lines(strip, [Task(0, measures, looseness, (whole,) if whole >= 0 else ())], manner)[0]


@settings(max_examples=120, deadline=None)
@given(paragraphs, st.floats(7, 26), manners)
def test_lines_cost_what_brute_force_finds_least(words: list[str], measure: float, manner: Justification) -> None:
    strip, wanted = _strip([words]), float("inf")
    for emergency in ((0.0, 0.0), *EMERGENCIES):
        tolerance, slack = max(manner.tolerance, emergency[0]), manner.slack + emergency[1]
        manner_now = replace(manner, tolerance=tolerance, slack=slack)
        wanted = _brute_force(strip, 0, (measure,), manner_now)
        if wanted < float("inf"):
            break
    lines = _lines(strip, (measure,), manner)
    assert lines[-1] == strip.last[0] and lines == sorted(set(lines))
    if wanted < float("inf"):
        assert _cost(strip, 0, lines, (measure,), manner_now) == pytest.approx(wanted)


@settings(max_examples=60, deadline=None)
@given(paragraphs, st.lists(st.floats(9, 26), min_size=1, max_size=5), st.integers(-1, 2))
def test_lines_of_varying_measure_equal_brute_force(words: list[str], measures: list[float], whole: int) -> None:
    strip = _strip([words])
    wanted = _brute_force(strip, 0, tuple(measures), JUSTIFIED, whole)
    if wanted < float("inf"):
        lines = _lines(strip, tuple(measures), JUSTIFIED, whole=whole)
        assert _cost(strip, 0, lines, tuple(measures), JUSTIFIED, whole) == pytest.approx(wanted)


@settings(max_examples=60, deadline=None)
@given(paragraphs, st.floats(9, 22), st.sampled_from([-1, 1, 2]))
def test_a_looser_paragraph_is_the_cheapest_of_its_number_of_lines(
    words: list[str], measure: float, looseness: int
) -> None:
    strip = _strip([words])
    best = _brute_force(strip, 0, (measure,), JUSTIFIED)
    if best == float("inf"):
        return
    usual = len(_lines(strip, (measure,), JUSTIFIED))
    wanted = _brute_force(strip, 0, (measure,), JUSTIFIED, lines=usual + looseness)
    lines = _lines(strip, (measure,), JUSTIFIED, looseness)
    if wanted < float("inf") and usual + looseness > 0:
        assert len(lines) == usual + looseness
        assert _cost(strip, 0, lines, (measure,), JUSTIFIED) == pytest.approx(wanted)
    else:
        assert abs(len(lines) - usual) <= abs(looseness)


def test_many_paragraphs_do_not_leak_into_each_other() -> None:
    rng = random.Random(5)
    many = [[rng.choice(WORDS) for _ in range(rng.randint(1, 90))] for _ in range(150)]
    measures = [rng.choice([12.0, 20.0, 30.0]) for _ in many]
    strip = _strip(many)
    together = break_lines(strip, [Task(p, (measure,)) for p, measure in enumerate(measures)], JUSTIFIED)
    for p, words in enumerate(many):
        lines = [end - int(strip.first[p]) for end in together[p]]
        assert lines == _lines(_strip([words]), (measures[p],), JUSTIFIED)


def test_never_more_hyphens_in_a_row_than_the_manner_allows() -> None:
    rng = random.Random(11)
    words = [rng.choice(["apprenticeship", "particular", "difficulty", "affection", "efficient"]) for _ in range(120)]
    strip = _strip([words])
    for most in (0, 1, 2, 3):
        lines = _lines(strip, (9.0,), replace(JUSTIFIED, hyphens_in_row=most))
        row = longest = 0
        for end in lines:
            row = _hyphens_after(strip, 0, end, row)
            longest = max(longest, row)
        assert longest <= most


def test_a_word_wider_than_the_measure_stands_alone() -> None:
    strip = _strip([["a", "honorificabilitudinitatibus/" * 3, "b"]])
    assert _lines(strip, (5.0,), JUSTIFIED)[-1] == strip.last[0]


def test_letters_are_counted_so_that_spacing_them_fills_the_line() -> None:
    strip = _strip([["grafting", "difficulty", "of", "apprenticeship"]])
    glyphs = [len(TABLE.shape(TABLE.word(TABLE.plain[w])[0]).gids) for w in ("grafting", "difficulty")]
    words = [i for i in range(len(strip.kind)) if strip.kind[i] == 0 and strip.part[i] >= 0]
    assert strip.letters(int(strip.first[0]), words[1]) == sum(glyphs) + 1 - 1
    assert strip.letters(words[0], words[1]) == glyphs[1] - 1


def test_hyphen_widths_are_shaped_not_split() -> None:
    """A prefix cut before an ``fi`` ligature or a kern is not the word's own width up to there."""
    table = TokenTable(TokenSetting("EB Garamond", "Regular"))
    off = []
    for word in ("efficient", "afflicted", "sufficient", "difficulty", "Avenues", "waffling"):
        token = table.plain[word]
        whole = table.breaks_of(token)[-1][0]
        for kept, carried, kind, at in table.breaks_of(token)[:-1]:
            assert kind == AT_HYPHEN
            face = table.face_of(table.word(token)[0])
            assert kept == pytest.approx(face.shape(word[:at] + "-").width)
            assert carried == pytest.approx(face.shape(word[at:]).width)
            off.append(abs(kept - face.shape("-").width + carried - whole))
    assert max(off) > 0.005


def test_dashes_inside_words_may_break_without_a_hyphen() -> None:
    token = TABLE.plain["whip-and-tongue"]
    assert [at for *_, at in TABLE.breaks_of(token)] == [5, 9, -1]
