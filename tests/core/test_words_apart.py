"""Words within a paragraph, typed as of their role: sizes, faces, inks."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start
from half_fold.core.publication.property import named
from half_fold.core.publication.records import Run
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.sheet.word_properties import WORDS, Spoken, at_rest_in

JOB = start("magazine", "Words")
WORD = Spoken(Run(text="pears"), role_named(JOB, "headline"))


def _set(words: Spoken, key: str, typed: str) -> Spoken:
    return named(WORDS, key).set(JOB, words, typed)


@given(st.floats(20, 500))
def test_a_size_is_typed_in_points_and_kept_in_parts_of_the_roles(share: float) -> None:
    points = round(WORD.role.size.pt * share / 100, 2)
    try:
        made = _set(WORD, "size", f"{points:g}pt")
    except Problem:
        assert not 20 <= 100 * points / WORD.role.size.pt <= 500
        return
    assert made.run.size == pytest.approx(100 * points / WORD.role.size.pt, abs=1e-3)
    again = named(WORDS, "size").typed(made)
    assert again == "" if made.run.size == 100 else abs(float(again.removesuffix("pt")) - points) <= 0.011


def test_what_is_the_roles_is_said_by_nothing() -> None:
    other = _set(WORD, "family", "Archivo")
    assert other.run.face == "Archivo/Regular" and _set(other, "style", "Black").run.face == "Archivo/Black"
    assert _set(_set(other, "style", "Black"), "family", WORD.role.family).run.face == ""
    for key, typed in (("tracking", "30"), ("ink", "loden"), ("bold", "yes"), ("italic", "yes"), ("rise", "superior")):
        changed = _set(WORD, key, typed)
        assert changed.run != WORD.run and at_rest_in(changed) == WORD
        assert _set(changed, key, named(WORDS, key).typed(WORD)) == WORD, key


@pytest.mark.parametrize(
    ("key", "typed", "said"),
    [("size", "2000pt", "per cent of their role"), ("tracking", "9999", "from -200"),
     ("family", "None Such", "no family"), ("ink", "no ink", "There is no ink")],
)  # fmt: skip
def test_what_cannot_be_is_said(key: str, typed: str, said: str) -> None:
    with pytest.raises(Problem, match=said):
        _set(WORD, key, typed)
