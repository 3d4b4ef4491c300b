"""Words set otherwise than their role says: their face, size, tracking and ink; counted, and made a role."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsDisplay, HoldsStory, Paragraph, Publication, Run, Story
from half_fold.core.publication.surgery import role_named, with_page
from half_fold.core.publication.validity import require_valid
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import decode, encode
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.sheet.exceptions import exceptions_of, format_exceptions, makes_a_role, with_role_of
from tests.blocks import block_over

BODY = "EB Garamond/Regular"


def _job(*runs: Run, holds: str = "story") -> Publication:
    job = start("magazine", "Apart")
    paragraphs = (Paragraph(role="body", runs=runs),)
    job = replace(job, stories=(Story(id="s1", title="S", paragraphs=paragraphs),))
    held = HoldsStory(story="s1") if holds == "story" else HoldsDisplay(paragraphs=paragraphs, size=None)
    return with_page(job, replace(job.pages[0], things=(block_over("b1", held, (0, 6), (0, 8)),), master=""))


def _glyphs(job: Publication) -> list[Glyphs]:
    return [mark for mark in Setter().spread(job, spreads_of(job)[0]).marks if isinstance(mark, Glyphs)]


@pytest.mark.parametrize("holds", ["story", "display"])
def test_a_word_takes_a_size_a_face_and_tracking_of_its_own(holds: str) -> None:
    job = _job(
        Run(text="Pears "), Run(text="keep", size=150.0), Run(text=" "), Run(text="best", face="Young Serif/Regular"),
        Run(text=" "), Run(text="dark", tracking=200.0), Run(text=" here.", ink="russet"), holds=holds,
    )  # fmt: skip
    said: dict[str, Glyphs] = {}
    for mark in _glyphs(job):
        for word in ("keep", "best", "dark"):
            if word in "".join(mark.texts):
                said[word] = mark
    size = role_named(job, "body").size.pt
    assert said["keep"].size == pytest.approx(size * 1.5) and said["keep"].face == BODY
    assert said["best"].face == "Young Serif/Regular" and said["best"].size == pytest.approx(size)
    at = "".join(said["dark"].texts).index("dark")
    steps = np.diff(said["dark"].xs[at : at + 4]) / size
    assert steps == pytest.approx(np.array(face(BODY).shape("dark").advances[:3]) + 0.2, abs=0.002)
    read = "".join("".join(mark.texts) for mark in _glyphs(job))
    assert read.replace(" ", "") == "Pearskeepbestdarkhere."


def test_lines_are_broken_by_the_sizes_that_words_have() -> None:
    text = "Pears keep best where it is dark and cool and a little damp. " * 4
    small, large = (_glyphs(_job(Run(text=text, size=size))) for size in (100.0, 160.0))
    lines = [len({mark.baseline for mark in marks}) for marks in (small, large)]
    assert lines[1] > lines[0] * 1.4
    widest = [max(mark.xs.max() for mark in marks) for marks in (small, large)]
    assert abs(widest[0] - widest[1]) < 12


@settings(max_examples=30, deadline=None)
@given(
    st.lists(
        st.builds(
            Run,
            text=st.text("abcd ef,", min_size=1, max_size=20),
            size=st.floats(20, 500).map(lambda n: round(n, 1)),
            tracking=st.integers(-200, 500).map(float),
            face=st.sampled_from(["", "Young Serif/Regular", "No such/Face"]),
        ),
        min_size=1,
        max_size=6,
    )
)
def test_whatever_words_are_told_they_are_all_set(runs: list[Run]) -> None:
    job = _job(*runs)
    require_valid(job, "x")
    assert decode(encode(job), "x") == job
    read = "".join("".join(mark.texts) for mark in _glyphs(job))
    wanted = "".join(run.text for run in runs)
    assert read.replace(" ", "").replace("-", "").replace("\u00ad", "") == wanted.replace(" ", "")


@pytest.mark.parametrize("run", [Run(text="a", size=5.0), Run(text="a", size=900.0), Run(text="a", tracking=9000.0)])
def test_sizes_that_cannot_be_are_refused_in_a_file(run: Run) -> None:
    with pytest.raises(Problem, match="of words"):
        require_valid(_job(run), "x")


def test_exceptions_are_counted_by_how_they_differ() -> None:
    job = _job(
        Run(text="As it is. "),
        Run(text="three words larger", size=120.0),
        Run(text=" and "),
        Run(text="red", ink="russet"),
    )
    assert exceptions_of(job, "body") == {("", 120.0, 0.0, ""): 3, ("", 100.0, 0.0, "russet"): 1}
    assert format_exceptions(job, "body") == "4 words in 2 ways: 120 %; russet"
    assert format_exceptions(job, "headline") == ""


def test_a_paragraph_of_exceptions_becomes_a_role_and_looks_as_it_did() -> None:
    job = _job(Run(text="Pears keep best.", size=120.0, face="Young Serif/Regular", ink="russet", tracking=20.0))
    made = with_role_of(job, "s1", 0)
    (paragraph,) = made.stories[0].paragraphs
    role = role_named(made, paragraph.role)
    assert (role.label, role.family, role.ink, role.tracking) == ("Body 2", "Young Serif", "russet", 20.0)
    assert role.size.pt == pytest.approx(role_named(job, "body").size.pt * 1.2)
    assert not format_exceptions(made, paragraph.role)
    require_valid(made, "x")
    # All but the spaces between words, which are the role's own.
    looks = [
        [
            (mark.face, round(mark.size, 6), mark.colour, gid)
            for mark in _glyphs(each)
            for gid, text in zip(mark.gids.tolist(), mark.texts, strict=True)
            if text.strip()
        ]
        for each in (job, made)
    ]
    assert looks[0] == looks[1]
    again = with_role_of(replace(made, stories=job.stories), "s1", 0)
    assert again.stories[0].paragraphs[0].role == "body 3"


def test_a_mixed_paragraph_makes_no_role() -> None:
    mixed = _job(Run(text="Pears "), Run(text="keep", size=120.0))
    assert not makes_a_role(mixed.stories[0].paragraphs[0])
    with pytest.raises(Problem, match="not all set one way"):
        with_role_of(mixed, "s1", 0)
