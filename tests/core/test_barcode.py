"""Barcodes: check digits, modules, and the standard's measures to the hundredth of a millimetre."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.spread.codes.barcode import symbol
from half_fold.core.spread.codes.ean import addon, addon_modules, ean13, modules

IN_STORE = "2901234567896"


@pytest.mark.parametrize(
    ("typed", "number"),
    [
        ("290123456789", IN_STORE),
        (" 2 901234-567896 ", IN_STORE),
        ("0000-0019", "9770000001000"),  # an ISSN: 977, its first seven digits, variant 00; 9 + 21 + 7 + 3 = 40
        ("0-00-000000-0", "9780000000002"),
    ],
)
def test_numbers_as_they_are_issued(typed: str, number: str) -> None:
    assert ean13(typed) == number


@pytest.mark.parametrize(
    ("typed", "why"), [("2901234567890", "check digit"), ("0000-0018", "check digit"), ("12", "no EAN"), ("", "no EAN")]
)
def test_a_wrong_number_is_told(typed: str, why: str) -> None:
    with pytest.raises(Problem, match=why):
        ean13(typed)


def test_addons() -> None:
    assert addon(" 14 ") == "14" and addon("") == ""
    with pytest.raises(Problem, match="2 digits"):
        addon("123")
    assert (len(addon_modules("14")), len(addon_modules("90000"))) == (20, 47)


@given(st.from_regex(r"\A\d{12}\Z"))
def test_modules_are_a_symbol_whatever_the_digits(digits: str) -> None:
    """95 modules, guards in their places, each digit two bars and two spaces of seven modules."""
    pattern = modules(ean13(digits))
    assert len(pattern) == 95
    assert (pattern[:3], pattern[45:50], pattern[92:]) == ("101", "01010", "101")
    for start in [*range(3, 45, 7), *range(50, 92, 7)]:
        digit = pattern[start : start + 7]
        assert sum(a != b for a, b in pairwise(digit)) == 3


@pytest.mark.parametrize("size", [80, 100, 150])
def test_measures_of_the_standard(size: int) -> None:
    drawn, scale = symbol(IN_STORE, "", size), size / 100 * MM
    assert drawn.width / scale == pytest.approx(37.29, abs=0.01 / (size / 100))
    assert drawn.height / scale == pytest.approx(25.93, abs=0.01)
    assert drawn.bars[0].left / scale == pytest.approx(11 * 0.33, abs=0.01)
    assert (drawn.width - drawn.bars[-1].right) / scale == pytest.approx(7 * 0.33, abs=0.01)
    assert len(drawn.bars) == 30
    assert {round(bar.bottom / scale, 2) for bar in drawn.bars} == {22.85, 24.5}
    for bar in drawn.bars:
        wide = bar.width / scale / 0.33
        assert wide == pytest.approx(round(wide), abs=0.03) and 1 <= round(wide) <= 4
    guards = [bar for bar in drawn.bars if round(bar.bottom / scale, 2) == 24.5]
    assert [round((bar.left / scale - 3.63) / 0.33) for bar in guards] == [0, 2, 46, 48, 92, 94]


@pytest.mark.parametrize(("digits", "least", "most"), [("14", 45.5, 47.2), ("90000", 54.5, 56.1)])
def test_width_with_an_addon(digits: str, least: float, most: float) -> None:
    assert least <= symbol(IN_STORE, digits).width / MM <= most
