"""Words within a paragraph lit by themselves, in blocks and in stories, and set by their numbers."""

import pytest
from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, Path, leaves, mixes
from half_fold.core.drawing.tone import Gradient
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path, set_paths
from half_fold.core.plan.spreads import spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    Contour,
    HoldsDisplay,
    HoldsStory,
    Look,
    Paragraph,
    Publication,
    Run,
    Shadow,
    Story,
)
from half_fold.core.publication.references import references
from half_fold.core.publication.surgery import block_named, with_page
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import block_box
from half_fold.core.store.codec import decode, encode
from tests.blocks import block_over

LIT = Look(name="", contours=(Contour(ink="russet"),), shadow=Shadow())


def _job(*texts: str) -> Publication:
    job = set_path(start("magazine", "Plums"), "ink.russet", "0 62 80 10")
    words = HoldsDisplay(paragraphs=tuple(Paragraph(role="headline", runs=(Run(text=text),)) for text in texts))
    return with_page(job, replace(job.pages[0], things=(block_over("words", words),)))


def _runs(job: Publication) -> list[tuple[str, bool]]:
    holds = block_named(job, "words").holds
    assert isinstance(holds, HoldsDisplay)
    return [(run.text, run.light is not None) for each in holds.paragraphs for run in each.runs]


def test_words_are_lit_by_their_numbers_through_all_paragraphs() -> None:
    job = set_path(_job("The frost and", "the plum tree"), "block.words.words.3-4.outline.weight", "2pt")
    assert _runs(job) == [("The frost ", False), ("and", True), ("the", True), (" plum tree", False)]
    job = set_path(job, "block.words.words.4.outline.weight", "")
    assert _runs(job) == [("The frost ", False), ("and", True), ("the plum tree", False)]
    sized = set_paths(job, ["block.words.words.1.size=50pt", "block.words.words.6.ink=russet"])
    holds = block_named(sized, "words").holds
    assert isinstance(holds, HoldsDisplay)
    assert holds.paragraphs[0].runs[0].text == "The" and holds.paragraphs[0].runs[0].size != 100
    assert holds.paragraphs[1].runs[-1] == Run(text="tree", ink="russet")


@pytest.mark.parametrize(
    ("path", "typed", "said"),
    [
        ("words.9.size", "12pt", "There are no words 9"), ("words.0.size", "12pt", "There are no words 0"),
        ("words.2-1.size", "12pt", "There are no words 2"), ("words.1.wings", "2", "Words have no “wings”"),
        ("words.1.outline.weight", "thick", "thick"),
    ],
)  # fmt: skip
def test_what_cannot_be_of_words_is_said(path: str, typed: str, said: str) -> None:
    with pytest.raises(Problem, match=said):
        set_path(_job("The frost and"), f"block.words.{path}", typed)


def test_only_the_lit_word_has_what_lies_round_it() -> None:
    job = set_paths(_job("The frost and"), ["block.words.words.2.outline.weight=0.4pt"])
    bare = Setter().spread(_job("The frost and"), spreads_of(job)[0]).marks
    marks = Setter().spread(job, spreads_of(job)[0]).marks
    (line,) = [mark for mark in leaves(marks) if isinstance(mark, Path)]
    words = {"".join(mark.texts).strip(): mark for mark in leaves(marks) if isinstance(mark, Glyphs)}
    assert set(words) == {"The", "frost", "and", "1"}, "and the folio"
    left, right = words["frost"].reach
    assert words["The"].reach[1] < line.outline.bounds.left and line.outline.bounds.right < words["and"].reach[1]
    assert left < line.outline.bounds.left < right < line.outline.bounds.right, "and the space before it is bare"
    assert not any(isinstance(mark, Path) for mark in leaves(bare))


def test_words_of_a_story_are_lit_too_and_bent_and_stacked_ones() -> None:
    job = _job("The frost and")
    runs = (Run(text="The plum "), Run(text="tree", light=LIT), Run(text=" in the frost."))
    story = Story(id="s", title="Plums", paragraphs=(Paragraph(role="body", runs=runs),))
    held = block_over("story", HoldsStory(story="s"), (0, 5), (4, 7))
    job = replace(job, stories=(story,))
    job = with_page(job, replace(job.pages[0], things=(*job.pages[0].things, held)))
    marks = [mark for mark in Setter().spread(job, spreads_of(job)[0]).marks if mark.origin.block == "story"]
    assert any(map(mixes, marks)), "its shadow"
    assert "tree" in {"".join(mark.texts).strip() for mark in leaves(marks) if isinstance(mark, Glyphs)}
    for path, typed in (("even", "yes"), ("lies", "arched up"), ("lies", "letter under letter")):
        made = set_paths(_job("The frost and"), [f"block.words.{path}={typed}", "block.words.words.2.shadow=yes"])
        assert any(map(mixes, Setter().spread(made, spreads_of(made)[0]).marks)), path


def test_light_of_words_is_kept_in_the_file_and_names_its_inks() -> None:
    job = set_paths(
        _job("The frost"), ["block.words.words.2.outline.weight=2pt", "block.words.words.2.outline.ink=russet"]
    )
    assert decode(encode(job), "job") == job
    assert any(each.name == "russet" and each.kind.startswith("ink") for each in references(job))
    with pytest.raises(Problem, match="used by"):
        set_path(job, "ink.russet", "")


@pytest.mark.parametrize("way", ["across", "down"])
def test_words_are_mirrored_in_their_block_and_twice_is_as_they_were(way: str) -> None:
    job = _job("The frost and")
    made = set_path(job, "block.words.mirrored", way)
    bare, over = (list(leaves(Setter().spread(each, spreads_of(each)[0]).marks)) for each in (job, made))
    box = block_box(made, 1, block_named(made, "words"))
    letters, turned = (
        next(mark for mark in each if isinstance(mark, Glyphs) and mark.origin.block == "words")
        for each in (bare, over)
    )
    assert turned.turn is not None
    x, y = turned.turn.of(float(letters.xs[0]), letters.baseline)
    if way == "across":
        assert (x, y) == pytest.approx((box.left + box.right - float(letters.xs[0]), letters.baseline))
    else:
        assert (x, y) == pytest.approx((float(letters.xs[0]), box.top + box.bottom - letters.baseline))
    assert turned.turn.after(turned.turn) == pytest.approx((1, 0, 0, 1, 0, 0))
    assert decode(encode(made), "job") == made


def test_a_fade_lies_over_mirrored_words_as_it_is_seen() -> None:
    job = set_path(_job("The frost"), "block.words.fade", "russet at 0; black at 100")
    job = set_path(job, "block.words.fade.line", "0 0, 100 0")
    plain, over = job, set_path(job, "block.words.mirrored", "across")
    box = block_box(job, 1, block_named(job, "words"))
    for each in (plain, over):
        marks = leaves(Setter().spread(each, spreads_of(each)[0]).marks)
        glyphs = next(mark for mark in marks if isinstance(mark, Glyphs) and mark.origin.block == "words")
        assert isinstance(glyphs.colour, Gradient)
        assert glyphs.colour.affine.of(0, 0)[0] == pytest.approx(box.left), "it begins at the left, mirrored or not"
