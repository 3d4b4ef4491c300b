"""Words of a block written anew, line by line."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsDisplay, HoldsPanel, Paragraph, Publication, Run
from half_fold.core.publication.surgery import block_named, with_page
from half_fold.core.publication.validity import require_valid
from half_fold.core.spread.edits.written import lines_of, write_anew
from tests.blocks import block_over

LINES = (
    Paragraph(role="headline", runs=(Run(text="Winter "), Run(text="pears", ink="russet"))),
    Paragraph(role="standfirst", runs=(Run(text="Kept in the dark", italic=True),)),
)


def _job(locked: bool = False) -> Publication:
    job = start("magazine", "Written")
    block = replace(block_over("w", HoldsDisplay(paragraphs=LINES)), locked=locked)
    return with_page(job, replace(job.pages[0], things=(block, block_over("p", HoldsPanel()))))


def _words(job: Publication) -> tuple[Paragraph, ...]:
    holds = block_named(job, "w").holds
    assert isinstance(holds, HoldsDisplay)
    return holds.paragraphs


def test_lines_that_stay_keep_their_styles_and_new_ones_take_those_before() -> None:
    job = _job()
    assert write_anew(job, "w", ["Winter pears", "Kept in the dark"]) is job
    made = _words(write_anew(job, "w", ["Winter pears", "Eaten by the fire", "And gone"]))
    assert made[0] is LINES[0]
    assert [(p.role, p.text, p.runs[0].italic) for p in made[1:]] == [
        ("standfirst", "Eaten by the fire", True),
        ("standfirst", "And gone", True),
    ]
    pushed = _words(write_anew(job, "w", ["A new line", "Winter pears", "Kept in the dark"]))
    assert pushed[1] is LINES[0] and pushed[2] is LINES[1] and pushed[0].role == "headline"
    assert _words(write_anew(job, "w", [""]))[0].text == ""


@given(st.lists(st.text("abc é\t", max_size=12), max_size=5))
def test_what_is_written_is_what_stands_there(lines: list[str]) -> None:
    made = write_anew(_job(), "w", lines)
    require_valid(made, "x")
    assert lines_of(block_named(made, "w")) == lines


def test_what_holds_no_words_stays_and_what_is_locked_says_so() -> None:
    job = _job()
    assert write_anew(job, "p", ["x"]) is job and lines_of(block_named(job, "p")) == []
    with pytest.raises(Problem, match="locked"):
        write_anew(_job(locked=True), "w", ["x"])
