"""Arithmetic entry and lengths, against hand-worked figures and properties."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from half_fold.core.measure.entry import evaluate
from half_fold.core.measure.length import figure, format_length, length, of_mm, of_unit
from half_fold.core.measure.problem import Problem

HAND_WORKED_MM = [
    ("12mm", 12),
    ("1.2cm", 12),
    ("12", 12),
    ("8,5", 8.5),
    ("8,5mm", 8.5),
    (".5mm", 0.5),
    ("2500um", 2.5),
    ("250µm", 0.25),
    ("1in", 25.4),
    ('1"', 25.4),
    ("1/8in", 3.175),
    ("10/1000in", 0.254),
    ("5 1/2in", 139.7),
    ("5 1/2", 5.5),
    ("7/16in*2", 22.225),
    ("2*7/16in", 22.225),
    ("0.4375in*2", 22.225),
    ("72pt", 25.4),
    ("6p3", 75 * 25.4 / 72),
    ("1pica", 12 * 25.4 / 72),
    ("10q", 2.5),
    ("1600px@300ppi", 1600 / 300 * 25.4),
    ("25.4mm/2", 12.7),
    ("(5+3mm)*2", 16),
    ("3mm + 1", 4),
    ("2*(1+2)mm", 6),
    ("-3mm", -3),
    ("1/2 in + 2p", 12.7 + 24 * 25.4 / 72),
    ("10 − 2 × 3", 4),
    ("8 ÷ 2", 4),
    ("220/2", 110),
    ("1in/1in", 1),
]


@pytest.mark.parametrize(("typed", "mm"), HAND_WORKED_MM)
def test_hand_worked_entries(typed: str, mm: float) -> None:
    assert length(typed).mm == pytest.approx(mm, abs=1e-9)


@pytest.mark.parametrize(
    ("typed", "unit", "mm"),
    [("5.5", "in", 139.7), ("1/2", "in", 12.7), ("12", "pt", 12 * 25.4 / 72), ("1 + 1mm", "in", 26.4)],
)
def test_a_bare_number_is_in_the_fields_own_unit(typed: str, unit: str, mm: float) -> None:
    assert length(typed, unit).mm == pytest.approx(mm)


@pytest.mark.parametrize(
    "typed",
    [
        "",
        " ",
        "twelve",
        "12 furlongs",
        "3mm*2mm",
        "3/2mm/0",
        "1/0in",
        "(3mm",
        "3mm)",
        "3mm 4",
        "2/3mm*",
        "1/(2mm)",
        "--",
        "9" * 201,
        "1e9mm",
        "12mmm",
        "px",
        "300px",
        "9999999999mm",
        "1 2",
    ],
)
def test_nonsense_gets_one_plain_sentence(typed: str) -> None:
    with pytest.raises(Problem) as caught:
        length(typed)
    sentence = str(caught.value)
    assert sentence.endswith(".") and "\n" not in sentence


def test_the_sentence_names_what_was_not_understood() -> None:
    with pytest.raises(Problem, match="furlongs"):
        length("12 furlongs")


def test_what_was_typed_is_kept() -> None:
    assert length("  7/16in * 2 ").typed == "7/16in * 2"
    assert length("12").typed == "12mm"


@pytest.mark.parametrize(
    ("typed", "unit"),
    [("5", "in"), ("1 + 2", "in"), ("2*(1+2)", "pt"), ("1 + 3mm", "in"), ("6p3", "in"), ("5 1/2", "in")],
)
def test_the_kept_form_reads_back_the_same_without_the_fields_unit(typed: str, unit: str) -> None:
    first = length(typed, unit)
    assert length(first.typed).pt == pytest.approx(first.pt, rel=1e-12)


@given(st.floats(-5000, 5000), st.sampled_from(["mm", "in", "pt", "cm", "q"]))
def test_any_figure_survives_being_kept(value: float, unit: str) -> None:
    typed = f"{value:.6f}{unit}"
    kept = length(typed)
    assert length(kept.typed) == kept


@given(st.floats(-3000, 3000) | st.floats(-1e-3, 1e-3), st.sampled_from(["mm", "in", "pt", "pica", "px@300"]))
def test_any_size_worked_out_is_written_as_it_can_be_typed(value: float, unit: str) -> None:
    """However small: a length in the powers of ten that a computer writes is one that no reader of ours takes."""
    for made in (of_mm(value), of_unit(value, unit), length(f"{value:.9f}", unit)):
        again = length(made.typed)
        assert again.pt == pytest.approx(made.pt, rel=1e-9, abs=1e-9) and "e" not in made.typed.replace("ppi", "")


@given(st.lists(st.integers(1, 400), min_size=2, max_size=5), st.sampled_from(["mm", "pt", "in"]))
def test_sums_are_sums(parts: list[int], unit: str) -> None:
    typed = " + ".join(f"{part}{unit}" for part in parts)
    assert length(typed).pt == pytest.approx(sum(length(f"{part}{unit}").pt for part in parts))


@given(st.text(max_size=40))
def test_any_text_is_a_length_or_a_problem(text: str) -> None:
    try:
        assert abs(evaluate(text).value) < 1e8
    except Problem as problem:
        assert str(problem)


def test_figures_as_read() -> None:
    assert figure(4.60, 2) == "4.6"
    assert figure(-0.001, 2) == "0"
    assert figure(-3.5) == "−3.5"
    assert format_length(length("5.5in").pt, "in") == "5.5 in"
    assert format_length(length("184.6um").pt, "um") == "185 µm"
