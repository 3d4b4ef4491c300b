"""Lines laid together: as they would be word by word, alone or several at once, interpreted or compiled."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.drawing.marks import (
    UNSAID,
    Glyphs,
    from_block,
)
from half_fold.core.drawing.said import Said, figure_of, figures_of, glyph_text
from half_fold.core.drawing.tone import BLACK, Tone
from half_fold.core.measure.columns import Columns, grown
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.lines.composer import UNBROKEN, Composer, LineRequest, Lines
from half_fold.core.typesetting.lines.roles import Style, style_of
from half_fold.core.typesetting.marks import laying
from half_fold.core.typesetting.marks.laying import LinePart, lay_lines
from half_fold.core.typesetting.marks.line_marks import PlacedLine, _by_words, line_marks, parts_marks
from half_fold.core.typesetting.marks.unbroken import unbroken

BODY = role_named(start("magazine", "Laying"), "body")
COMPOSER = Composer()
RED = Tone(m=1.0, y=1.0)
TEXT = "the difficulty of whip-and-tongue grafting in February is that baffled apprentices find it inefficient"
WORDS = TEXT.split()
LEFTWARD = ["הגן", "נגזם", "בחורף,", "(האגס)", "שָׁלוֹם", "تفاح", "البستاني،", "لا", "כ״ט"]
BOTH_WAYS = ["1948", "14/3/2027,", "12%", "Graftwood", "pear)", "(b", "١٩٤٨", "x-3", "a.", "ב־1948", "5–7"]
RUNS = st.lists(
    st.tuples(
        st.lists(st.sampled_from(WORDS), min_size=1, max_size=14),
        st.sampled_from([{}, {"italic": True}, {"ink": "red"}, {"small_caps": True}, {"rise": "superior"}]),
        st.sampled_from([" ", ""]),
    ),
    min_size=1,
    max_size=5,
)
MANNERS = st.sampled_from(
    [{}, {"align": "left"}, {"align": "centre"}, {"align": "right"}, {"letter_give": 2.0}, {"hanging": True}]
)


def _set(
    runs: tuple[Run, ...], measure: float, manner: dict[str, Any], indented: bool = True, language: str = "en_GB"
) -> Lines:
    style = style_of(replace(BODY, **manner), language)
    return COMPOSER.lines(LineRequest(Paragraph(role="body", runs=runs), style, (measure,), indented))


def _stands_as_word_by_word(lines: Lines) -> None:
    for line in range(lines.count):
        marks = line_marks(lines, line, 20.0, 50.0, BLACK, from_block("b"), lambda _: RED)
        spaced = lay_lines([LinePart(lines, line, line + 1, [20.0])]).spacing(0)
        again = _by_words(lines, line, spaced, 20.0, 50.0, BLACK, from_block("b"), lambda _: RED)
        assert _told(marks) == _told(again)
        assert np.allclose(_xs(marks), _xs(again), atol=1e-6)


def _told(marks: list[Glyphs]) -> list[tuple[Any, ...]]:
    return [(m.face, m.size, m.baseline, m.colour, m.origin, m.gids.tolist(), list(m.texts)) for m in marks]


def _xs(marks: list[Glyphs]) -> list[float]:
    return [x for mark in marks for x in mark.xs.tolist()]


@settings(max_examples=60, deadline=None)
@given(RUNS, MANNERS, st.sampled_from([60.0, 130.0, 240.0]))
def test_lines_laid_together_stand_as_word_by_word(
    told: list[tuple[list[str], dict[str, Any], str]], manner: dict[str, Any], measure: float
) -> None:
    lines = _set(tuple(Run(text=" ".join(words) + end, **style) for words, style, end in told), measure, manner)
    _stands_as_word_by_word(lines)


@settings(max_examples=150, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.lists(st.sampled_from(LEFTWARD * 3 + BOTH_WAYS), min_size=1, max_size=14),
            st.sampled_from([{}, {}, {"italic": True}, {"ink": "red"}, {"rise": "superior"}]),
            st.sampled_from([" ", ""]),
        ),
        min_size=1,
        max_size=4,
    ),
    MANNERS,
    st.sampled_from([90.0, 130.0, 240.0]),
    st.sampled_from(["he_IL", "ar", "en_GB"]),
)
def test_words_that_go_leftwards_stand_as_word_by_word(
    told: list[tuple[list[str], dict[str, Any], str]], manner: dict[str, Any], measure: float, language: str
) -> None:
    runs = tuple(Run(text=" ".join(words) + end, **style) for words, style, end in told)
    _stands_as_word_by_word(_set(runs, measure, manner, language=language))


@pytest.mark.parametrize(
    "text", ["גן הפרי נגזם בחורף 1948 (לא קודם) ושוב ב־14/3/2027.", "يقلم البستاني ١٩٤٨ شجرة في الشتاء."]
)
def test_whole_lines_that_go_leftwards_are_laid_together(form: str, text: str) -> None:
    """Not word by word, with the figures in them: a book of Hebrew took four times as long as one of English."""
    lines = _set((Run(text=" ".join([text] * 6)),), 200.0, {}, language="en_GB")  # where no face stands in
    part = LinePart(lines, 0, lines.count, [20.0] * lines.count)
    laid = lay_lines([part])
    assert {line for line, *_ in laid.runs} == set(range(lines.count))
    _stands_as_word_by_word(lines)


def test_parts_laid_together_stand_as_each_alone(form: str) -> None:
    """Of three paragraphs set together, some lines each, at places of their own; the last ends its paragraph."""
    style = style_of(BODY, "en_GB")
    paragraphs = [Paragraph(role="body", runs=(Run(text=" ".join(WORDS * n)),)) for n in (2, 3, 4)]
    every = [LineRequest(paragraph, style, (150.0,), False) for paragraph in paragraphs]
    composer = Composer()
    composer.prepare(every)
    lines = [composer.lines(wanted) for wanted in every]
    assert len({id(each.strip) for each in lines}) == 1
    parts = [
        PlacedLine(each, begin, [(10.0 * n, 100.0 * n + 13 * i) for i in range(each.count - begin)])
        for n, (each, begin) in enumerate(zip(lines, (0, 2, 1), strict=True))
    ]
    together = parts_marks(parts, BLACK, from_block("b"))
    for part, by_line in zip(parts, together, strict=True):
        assert len(by_line) == len(part.places)
        for offset, marks in enumerate(by_line):
            alone = line_marks(part.lines, part.start + offset, *part.places[offset], BLACK, from_block("b"))
            assert _told(marks) == _told(alone) and np.allclose(_xs(marks), _xs(alone))


def test_a_line_longer_than_the_room_is_laid_whole(form: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(laying, "LEAST_ROOM", 4)
    monkeypatch.setattr(laying, "_room", laying._Room())
    lines = Composer().lines(
        LineRequest(
            Paragraph(role="body", runs=(Run(text=" ".join(WORDS * 9)),)), style_of(BODY, "en_GB"), (900.0,), False
        )
    )
    text = "".join(
        text for line in range(lines.count) for m in line_marks(lines, line, 0, 0, BLACK, UNSAID) for text in m.texts
    )
    assert text.replace("\u00ad", "").replace(" ", "") == "".join(WORDS * 9)


@pytest.mark.parametrize(
    ("language", "text"), [("en_GB", "Graftwood, autumn 12"), ("he", "גן הפרי 12 של Ellerby"), ("en_GB", "")]
)
@pytest.mark.parametrize("manner", [{}, {"hanging": True}, {"tracking": 40.0}])
def test_words_on_one_line_are_as_wide_as_the_same_set_unbroken(
    language: str, text: str, manner: dict[str, Any]
) -> None:
    style: Style = style_of(replace(BODY, align="left", **manner), language)
    paragraph = Paragraph(role="body", runs=(Run(text=text),))
    line = unbroken(COMPOSER, paragraph, style)
    lines = COMPOSER.lines(LineRequest(paragraph, style, (UNBROKEN,), False))
    assert line.width == pytest.approx(lines.natural_width if text else 0.0)
    assert sorted("".join("".join(m.texts) for m in line.marks(0, 0, BLACK, UNSAID))) == sorted(text)
    if language == "en_GB" and text:
        assert np.allclose(_xs(line.marks(5, 0, BLACK, UNSAID)), _xs(line_marks(lines, 0, 5, 0, BLACK, UNSAID)))


def test_texts_are_figures_that_say_the_same_everywhere() -> None:
    figures = figures_of(["f", "fi", "", " ", "f"])
    assert figures.tolist()[2:4] == [0, 1] and figures[0] == figures[4] == figure_of("f")
    said = Said(figures)
    assert list(said) == ["f", "fi", "", " ", "f"] and said[1:3] == ["fi", ""] and "".join(said) == "ffi f"
    assert figures_of(said) is figures and glyph_text(int(figures[1])) == "fi" and said != ["f"]


def test_columns_follow_a_list_that_grows() -> None:
    rows: list[tuple[int, float]] = []
    columns = Columns(rows, 2)
    assert columns.now().shape == (2, 0)
    for n in range(1000):
        rows.append((n, n / 2))
        if n % 97 == 0:
            now = columns.now()
            assert now[0].tolist() == list(range(n + 1)) and now[0].flags.c_contiguous
    first = columns.now()
    assert first[1, 999] == 499.5 and grown(first, 10, 0.0) is first
    more = grown(np.array([1, 2]), 3, 7)
    assert more.tolist() == [1, 2, 7, 7]
