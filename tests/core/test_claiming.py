"""Claims in words: what goes over which fields, as a claim by hand would have it."""

from pathlib import Path

import pytest

from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.kinds import NO_NUMBER
from half_fold.core.publication.records import (
    Holds,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsPicture,
    HoldsStory,
    Story,
)
from half_fold.core.spread.edits.edits import claim
from half_fold.core.spread.where.frames import page_frame_of
from half_fold.core.store.job import read

JOB = start("magazine", "Claims")


def test_it_is_the_block_that_a_drag_over_those_fields_makes() -> None:
    frame = page_frame_of(JOB, 3)
    by_words = set_path(JOB, "page.3.claim", "free over 2-3 x 4-6")
    (left, right), (top, bottom) = (frame.columns[1], frame.columns[2]), (frame.rows[3], frame.rows[5])
    holds = by_words.pages[2].blocks[0].holds
    by_hand, _ = claim(JOB, (left[0] + 3, top[0] + 3), (right[1] - 3, bottom[1] - 3), (2, 3), holds)
    assert by_words == by_hand


def test_columns_beyond_a_left_page_are_those_of_the_one_that_faces_it() -> None:
    wide = set_path(JOB, "page.2.claim", "panel over 5-8 x 1").pages[1].blocks[0]
    assert wide.place.right.facing and wide.place.right.index == 1  # type: ignore[union-attr]  # it is held
    with pytest.raises(Problem, match="6 columns"):
        set_path(JOB, "page.3.claim", "panel over 5-8 x 1")


@pytest.mark.parametrize(
    ("text", "holds"),
    [
        ("barcode over 1-2 x 1", HoldsBarcode(number=NO_NUMBER, size=80.0)),
        ("barcode 978-0-306-40615-7 over 1-2 x 1", HoldsBarcode(number="9780306406157", size=80.0)),
        ("barcode {EAN} over 1-2 x 1", HoldsBarcode(number="{EAN}", size=80.0)),
        ("code over 1 x 1", HoldsCode()),
        ("code https://ellerby.example/over 1 over 1 x 1", HoldsCode(says="https://ellerby.example/over 1")),
        ("code {link} over 1 x 1", HoldsCode(says="{link}")),
    ],
)
def test_bars_and_codes_are_claimed_on_any_page(text: str, holds: Holds) -> None:
    """They were to be had on the cover alone, and a catalogue has one for each thing."""
    assert set_path(JOB, "page.3.claim", text).pages[2].blocks[0].holds == holds


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("panel", "no claim"),
        ("barcode 12 over 1 x 1", "no EAN"),
        ("barcode 2901234567890 over 1 x 1", "check digit"),
        ("code " + "x" * 5000 + " over 1 x 1", "too fine"),
        ("box over 1 x 1", "no claim"),
        ("panel over 0 x 1", "goes beyond"),
        ("panel over 3-2 x 1", "goes beyond"),
        ("picture gone.jpg over 1 x 1", "no picture"),
        ("story Gone over 1 x 1", "no story"),
    ],
)
def test_what_cannot_be_is_said(text: str, said: str) -> None:
    with pytest.raises(Problem, match=said):
        set_path(JOB, "page.3.claim", text)
    with pytest.raises(Problem, match="no page 99"):
        set_path(JOB, "page.99.claim", "panel over 1 x 1")


def test_pictures_stories_and_words_are_named(demo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    claims = (
        "picture one-apple.png over 1-3 x 1-3",
        'story "Short notes" over 4-6 x 1-3',
        "words The frost over 1-6 x 8",
    )
    assert main(["set", str(demo), *(f"page.26.claim={each}" for each in claims)]) == 0
    holds = [block.holds for block in read(demo / "graftwood.halffold").pages[25].blocks][-3:]
    assert isinstance(holds[0], HoldsPicture)
    assert isinstance(holds[1], HoldsStory) and holds[1].turn > 0, "the next length of its thread"
    assert isinstance(holds[2], HoldsDisplay) and holds[2].paragraphs[0].text == "The frost"


def test_a_story_is_named_by_its_title_or_its_id() -> None:
    from msgspec.structs import replace

    job = replace(JOB, stories=(Story(id="s1", title="Frost, and after", paragraphs=()),))
    for name in ("s1", "“Frost, and after”"):
        holds = set_path(job, "page.2.claim", f"story {name} over 1-4 x 1-8").pages[1].blocks[0].holds
        assert holds == HoldsStory(story="s1", columns=2)
