"""Worked numbers build their own working."""

import pytest
from hypothesis import given as cases
from hypothesis import strategies as st

from half_fold.core.measure.worked import Worked, given, total


def test_arithmetic_builds_the_working() -> None:
    block = given(4.04, "mm", "Block")
    cover = given(288, "µm", "Cover").to("mm")
    spine = (block + 2 * cover).rounded_to(0.1, "rounded to 0.1").named("Spine", "spine.width")
    assert spine.value == pytest.approx(4.6)
    assert spine.how == "block 4.04 + 2 × cover 0.29 = 4.616, rounded to 0.1"
    assert [part.name for part in spine.parts] == ["Block", "Cover"]


def test_brackets_stand_where_they_must() -> None:
    a, b, c = (given(v, "mm", n) for v, n in ((9, "A"), (2, "B"), (1, "C")))
    assert (a - (b - c)).how == "a 9 − (b 2 − c 1)"
    assert ((a - b) - c).how == "a 9 − b 2 − c 1"
    assert ((a + b) / given(2, "", "")).how == "(a 9 + b 2) ÷ 2"
    assert (a / given(2, "", "")).unit == "mm"


def test_units_of_products() -> None:
    assert (given(2, "mm", "A") * given(3, "leaves", "B")).unit == "mm"
    assert (given(3, "leaves", "B") * given(2, "mm", "A")).unit == "mm"
    assert (given(6, "mm", "A") / given(3, "mm", "B")).unit == ""
    assert (given(1, "in", "A") + given(25.4, "mm", "B")).value == pytest.approx(2)


@cases(st.floats(0, 500), st.sampled_from([0.1, 0.5, 25.4 / 64]))
def test_rounding_goes_to_the_nearest_step_once(value: float, step: float) -> None:
    rounded = Worked(value, "mm").rounded_to(step, "so").value
    assert abs(rounded - value) <= step / 2 + 1e-6
    assert rounded / step == pytest.approx(round(rounded / step), abs=1e-6)


def test_half_a_step_goes_up() -> None:
    assert Worked(4.65, "mm").rounded_to(0.1, "so").value == pytest.approx(4.7)


@cases(st.lists(st.floats(-100, 100), min_size=1, max_size=6))
def test_totals(values: list[float]) -> None:
    assert total(given(v, "mm", f"N{i}") for i, v in enumerate(values)).value == pytest.approx(sum(values))


@pytest.mark.parametrize(
    ("value", "unit", "read"),
    [
        (1, "lines", "1 line"),
        (2, "lines", "2 lines"),
        (1.2, "pages", "1 page"),
        (1, "mm", "1 mm"),
        (0, "leaves", "0 leaves"),
    ],
)
def test_one_of_a_thing_is_read_as_one(value: float, unit: str, read: str) -> None:
    assert Worked(value, unit).text == read
