"""Undo holds what there is room for, the oldest steps going first."""

from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.plan.starters import start
from half_fold.core.publication.history import History, octets_beside
from half_fold.core.publication.records import Paragraph, Publication, Run, Story


def _titled(job: Publication, title: str) -> Publication:
    return replace(job, title=title)


def test_what_two_documents_share_is_not_counted() -> None:
    job = start("magazine", "x")
    assert octets_beside(job, job) == 0
    title = octets_beside(_titled(job, "y" * 1000), job)
    assert 1000 < title < 5000
    story = Story(id="s", title="t", paragraphs=(Paragraph(role="body", runs=(Run(text="a" * 50_000),)),))
    with_story = replace(job, stories=(story,))
    assert 50_000 < octets_beside(with_story, job) < 60_000
    more = replace(story, paragraphs=(*story.paragraphs, Paragraph(role="body", runs=(Run(text="b"),))))
    assert octets_beside(replace(with_story, stories=(more,)), with_story) < 5000


def test_the_oldest_steps_go_first_and_the_last_stays() -> None:
    job = start("magazine", "x")
    history = History(job, most=100_000)
    for number in range(200):
        history.edit(_titled(job, f"{number} " + "y" * 5000), f"edit {number}")
    assert 10 < len(history._steps) < 25
    for number in range(198, 190, -1):
        assert history.undo().title.startswith(f"{number} ")
    for number in range(192, 200):
        assert history.redo().title.startswith(f"{number} ")
    assert history.redo().title.startswith("199 ")
    for _ in range(300):
        history.undo()
    assert history.undoes == "" and history.now.title


def test_one_step_larger_than_all_can_still_be_taken_back() -> None:
    job = start("magazine", "x")
    history = History(job, most=1000)
    history.edit(_titled(job, "y" * 100_000), "large")
    assert history.undo() is job


@settings(max_examples=80, deadline=None)
@given(st.lists(st.sampled_from(["edit", "join", "undo", "redo", "pause"]), max_size=60), st.integers(2000, 40_000))
def test_any_order_of_acts_leaves_what_is_held_true(acts: list[str], most: int) -> None:
    job = start("magazine", "x")
    history = History(job, most=most)
    for number, act in enumerate(acts):
        if act in ("edit", "join"):
            history.edit(_titled(job, f"{number}" * 300), act, "word" if act == "join" else "")
            assert history.now.title == f"{number}" * 300
        else:
            getattr(history, act)()
        held = sum(step.octets for step in history._steps[1:])
        assert history._held == held or history._held - history._steps[0].octets == held
        assert held <= most or len(history._steps) <= 2
        assert 0 <= history._at < len(history._steps)
