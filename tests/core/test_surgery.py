"""Surgery on records: found by name, replaced by id, never colliding."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start, title_of_folder
from half_fold.core.publication.records import Picture
from half_fold.core.publication.surgery import by_id, by_name, fresh_id, role_named, with_things
from half_fold.core.publication.validity import require_valid

JOB = start("magazine", "Surgery")


def test_what_is_missing_is_named_with_what_there_is() -> None:
    with pytest.raises(Problem, match="no role “shout” in this job; it has body, headline"):
        role_named(JOB, "shout")
    with pytest.raises(Problem, match="nothing called “p999”"):
        by_id(JOB.pages, "p999")
    assert by_name(JOB.masters, "three columns", "master") is JOB.masters[0]


@given(st.sets(st.integers(1, 30)))
def test_a_fresh_id_is_new(taken: set[int]) -> None:
    ids = {f"b{n}" for n in taken}
    assert fresh_id("b", ids) not in ids


def test_changing_one_page_leaves_the_others_the_same_records() -> None:
    changed = with_things(JOB, "p5", lambda blocks: blocks)
    assert all(a is b for a, b in zip(changed.pages, JOB.pages, strict=True) if a.id != "p5")
    assert changed.roles is JOB.roles and changed.brief is JOB.brief


def test_a_picture_never_lies_outside_its_folder() -> None:
    job = replace(JOB, pictures=(Picture(id="p", file="../../secret.jpg", width=1, height=1, digest="d"),))
    with pytest.raises(Problem, match="outside its folder"):
        require_valid(job, "x")


@pytest.mark.parametrize(
    ("folder", "title"), [("bare-root-list", "Bare root list"), ("Oak_and_ash", "Oak and ash"), ("--", "Untitled")]
)
def test_a_title_from_a_folders_name(folder: str, title: str) -> None:
    assert title_of_folder(folder) == title
