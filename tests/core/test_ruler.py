"""Rulers and what is drawn from them: marks that can be told apart, in any unit, and pencil lines."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.grid.pencil import format_pencil, pencilled, pull_line
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.measure.ruler import LEAST_NUMBERED, LEAST_PIXELS, drawn_length, ruler_marks
from half_fold.core.plan.starters import start
from half_fold.core.publication.surgery import master_of, with_page
from half_fold.core.spread.edits.pencilling import draw_pencil, format_drawn
from half_fold.core.spread.where.frames import page_frame_of


def test_a_ruler_in_millimetres_numbers_every_twentieth_and_marks_every_fifth() -> None:
    marks = ruler_marks(220 * MM, "mm", 1.0)  # a millimetre is 2.83 pixels
    assert [mark.says for mark in marks if mark.says][:4] == ["0", "20", "40", "60"]
    assert marks[1].at == pytest.approx(2 * MM) and marks[-1].at <= 220 * MM + 1e-6


def test_a_ruler_in_inches_divides_them_by_halves() -> None:
    marks = ruler_marks(8.5 * 72, "in", 2.0)
    assert marks[1].at == pytest.approx(72 / 16) and [mark.says for mark in marks if mark.says][:3] == ["0", "0.5", "1"]


@given(
    unit=st.sampled_from(["mm", "cm", "in", "pt", "pica", "px@300"]),
    pixels=st.floats(0.1, 24.0),
    reach=st.floats(20.0, 2000.0),
)
def test_marks_can_be_told_apart_and_say_where_they_are(unit: str, pixels: float, reach: float) -> None:
    marks = ruler_marks(reach, unit, pixels)
    steps = {round(after.at - mark.at, 6) for mark, after in pairwise(marks)}
    assert marks[0].at == 0 and marks[0].says == "0" and len(steps) <= 1 and marks[-1].at <= reach + 1e-3
    assert not steps or min(steps) * pixels >= LEAST_PIXELS - 1e-6
    numbered = [mark.at for mark in marks if mark.says]
    apart = [(after - before) * pixels for before, after in pairwise(numbered)]
    assert not apart or min(apart) >= min(LEAST_NUMBERED, max(apart)) - 1e-6
    assert len({mark.says for mark in marks if mark.says}) == len(numbered)


@pytest.mark.parametrize(
    ("unit", "points", "typed"), [("mm", 41.9 * MM, "42mm"), ("in", 72.9, "1in"), ("mm", -3.0, "0mm")]
)
def test_what_is_drawn_by_hand_is_in_whole_steps(unit: str, points: float, typed: str) -> None:
    assert drawn_length(points, unit).typed == typed


@pytest.mark.parametrize(("on_right", "trim"), [(True, Rect(0, 0, 600, 800)), (False, Rect(-600, 0, 0, 800))])
def test_a_line_lies_where_it_was_let_go_of_and_those_there_keep_their_numbers(on_right: bool, trim: Rect) -> None:
    x = trim.left + 50 * MM
    lines = pull_line(pull_line((), "down", 40 * MM, trim, on_right, "mm"), "across", x, trim, on_right, "mm")
    assert [line.number for line in lines] == [1, 2] and format_pencil(lines).startswith("head 40mm, fold ")
    level, upright = pencilled(lines, trim, on_right)
    assert level.at == pytest.approx((40 * MM,)) and upright.at == pytest.approx((x,), abs=0.26 * MM)


def test_it_is_the_masters_or_the_pages_own_where_that_has_a_grid() -> None:
    job = start("magazine", "Plums")
    made = draw_pencil(job, 3, "down", 40 * MM, "mm")
    assert page_frame_of(made, 5).pencil and "all pages of the master" in format_drawn(made, 3)
    page = job.pages[2]
    own = with_page(job, replace(page, grid=master_of(job, page).grid))
    made = draw_pencil(own, 3, "down", 40 * MM, "mm")
    assert page_frame_of(made, 3).pencil and not page_frame_of(made, 5).pencil
    assert format_drawn(made, 3).startswith("A pencil line, head 40mm, on page 3 alone")
