"""The type of words by themselves: what a block states over its roles, and what it makes of that."""

import json

import numpy as np
import pytest
from msgspec.structs import replace

from half_fold.core.drawing.marks import Glyphs, Mark, leaves
from half_fold.core.drawing.marks import Path as Outlined
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.paths.all import found, set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsDisplay, Paragraph, Publication, Run
from half_fold.core.publication.surgery import block_named, role_named
from half_fold.core.spread.edits import edits
from half_fold.core.spread.edits.fitted import fit_to_words
from half_fold.core.spread.edits.typed import make_a_role, make_the_role, stated_of
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.display_text import display_marks
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.where.frames import block_box
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.upgrade import upgraded
from half_fold.core.typesetting.faces.faces import face, face_key

BOX = Rect(0, 0, 400, 300)
WORDS = "Pears in 1914"


def _job(*words: str, role: str = "headline") -> tuple[Publication, str]:
    paragraphs = tuple(Paragraph(role=role, runs=(Run(text=each),)) for each in words or (WORDS,))
    return edits.claim(
        start("magazine", "Hedges"), (60.0, 60.0), (200.0, 300.0), (2, 3), HoldsDisplay(paragraphs=paragraphs)
    )


def _set(job: Publication, block: str, *typed: tuple[str, str]) -> Publication:
    for key, value in typed:
        job = set_path(job, f"block.{block}.{key}", value)
    return job


def _lines(job: Publication, block: str) -> list[Glyphs]:
    setting = display_marks(Setter().composer, job, block_named(job, block), BOX)
    return [mark for line in setting.lines for mark in line.marks]


def _drawn(job: Publication, block: str) -> list[Mark]:
    number = next(n for n, page in enumerate(job.pages, 1) if any(b.id == block for b in page.blocks))
    return list(leaves(Setter().thing_marks(job, number, block_named(job, block))))


def test_another_face_is_one_value_and_its_style_is_one_it_has() -> None:
    job, block = _job()
    job = _set(job, block, ("family", "EB Garamond"))
    assert {mark.face for mark in _lines(job, block)} == {face_key("EB Garamond", "Regular")}
    assert found(job, f"block.{block}.style")[0].value == "Regular"
    assert role_named(job, "headline").family != "EB Garamond", "the role is as it was"
    job = _set(job, block, ("family", ""))
    assert block_named(job, block).holds == block_named(_job()[0], block).holds, "nothing is left of it"


def test_a_style_alone_keeps_the_family_it_was_chosen_in() -> None:
    job, block = _job(role="caption")
    family = role_named(job, "caption").family
    job = _set(job, block, ("style", "Italic"))
    job = set_path(job, "role.caption.family", "Young Serif")
    assert {mark.face for mark in _lines(job, block)} == {face_key(family, "Italic")}


@pytest.mark.parametrize(
    ("size", "leading", "points"),
    [("40pt", "42pt", 42.0), ("40pt", "0.95", 38.0), ("", "50", 50.0), ("20", "1,5", 30.0)],
)
def test_leading_is_a_figure_or_in_a_ratio_of_the_size(size: str, leading: str, points: float) -> None:
    job, block = _job("One", "Two")
    job = _set(job, block, ("size", size), ("leading", leading))
    one, two = (mark.baseline for mark in _lines(job, block))
    assert two - one == pytest.approx(points)


def test_case_figures_tracking_and_features_reach_the_letters() -> None:
    job, block = _job()
    plain = _lines(job, block)[0]
    for key, value, said in (
        ("case", "capitals", "PEARS IN 1914"),
        ("case", "titles", "Pears In 1914"),
        ("case", "small capitals", None),
        ("figures", "old style", WORDS),
        ("tracking", "40", WORDS),
    ):
        (*_, made) = _lines(_set(job, block, ("family", "EB Garamond"), (key, value)), block)
        before = _lines(_set(job, block, ("family", "EB Garamond")), block)[0]
        changed = not np.array_equal(made.gids, before.gids) or not np.allclose(made.xs, before.xs)
        assert changed, (key, value)
        if said is not None:
            assert "".join(made.texts) == said
    assert "".join(plain.texts) == WORDS


def test_letters_are_raised_and_rules_lie_under_them_and_through_them() -> None:
    job, block = _job("Pears")
    size = role_named(job, "headline").size.pt
    plain = _drawn(job, block)
    raised = _drawn(_set(job, block, ("shift", "6pt")), block)
    (before,), (after,) = ([m for m in each if isinstance(m, Glyphs)] for each in (plain, raised))
    assert before.baseline - after.baseline == pytest.approx(6.0)
    ruled = _drawn(_set(job, block, ("underline", "2pt"), ("underline.distance", "5pt"), ("strike", "1pt")), block)
    under, letters, through = ruled
    assert isinstance(under, Outlined) and isinstance(letters, Glyphs) and isinstance(through, Outlined)
    assert under.outline.bounds.top - letters.baseline == pytest.approx(4.0)
    assert under.outline.bounds.height == pytest.approx(2.0) and under.fill == letters.colour
    middle = letters.baseline - face(letters.face).x_height * size / 2
    assert through.outline.bounds.centre[1] == pytest.approx(middle)
    last = letters.xs[-1] + face(letters.face).advance(int(letters.gids[-1])) * size
    assert through.outline.bounds.right == pytest.approx(last) and through.outline.bounds.left == pytest.approx(
        letters.xs[0]
    )
    none = _drawn(_set(job, block, ("underline", "0")), block)
    assert len(none) == len(plain) == 1


@pytest.mark.parametrize("lies", ["arched up", "wave", "letter under letter"])
def test_rules_follow_words_that_do_not_lie_straight(lies: str) -> None:
    job, block = _job()
    ruled = _drawn(_set(job, block, ("lies", lies), ("underline", "1pt")), block)
    rules, letters = [m for m in ruled if isinstance(m, Outlined)], [m for m in ruled if isinstance(m, Glyphs)]
    assert len(rules) == len(letters) > 5


def test_evened_lines_take_the_face_and_its_case() -> None:
    job, block = _job("One", "Twenty")
    job = _set(job, block, ("even", "yes"), ("family", "EB Garamond"), ("case", "capitals"))
    lines = _lines(job, block)
    assert ["".join(mark.texts) for mark in lines] == ["ONE", "TWENTY"]
    assert {mark.face for mark in lines} == {face_key("EB Garamond", "Regular")}


def test_what_is_stated_is_written_and_read_again() -> None:
    job, block = _job()
    job = _set(job, block, ("leading", "0.9"), ("case", "titles"), ("underline", "1pt"))
    assert block_named(decode(encode(job), "hedges"), block) == block_named(job, block)
    for key in ("leading", "case", "underline"):
        typed = found(job, f"block.{block}.{key}")[0].value
        assert _set(job, block, (key, typed)) == job, key


@pytest.mark.parametrize(
    ("key", "value", "said"),
    [
        ("family", "No Such Face", "There is no family"),
        ("style", "Ultra", "There is no style"),
        ("tracking", "9000", "from -200 to 500"),
        ("leading", "0", "cannot be"),
        ("case", "upside down", "There is no case"),
    ],
)
def test_what_cannot_be_is_said(key: str, value: str, said: str) -> None:
    job, block = _job()
    with pytest.raises(Problem, match=said):
        _set(job, block, (key, value))


def test_it_is_made_the_role_and_nothing_moves() -> None:
    job, block = _job()
    job = _set(job, block, ("family", "EB Garamond"), ("size", "31pt"), ("tracking", "-10"), ("ink", "black"))
    made = make_the_role(job, block)
    assert stated_of(block_named(made, block)) == {}
    role = role_named(made, "headline")
    assert (role.family, role.size.typed, role.tracking) == ("EB Garamond", "31pt", -10.0)
    for before, after in zip(_lines(job, block), _lines(made, block), strict=True):
        assert np.allclose(before.xs, after.xs) and before.baseline == pytest.approx(after.baseline, abs=0.01)


def test_it_is_made_a_role_of_its_own() -> None:
    job, block = _job("One", "Two")
    job = _set(job, block, ("leading", "0.9"), ("case", "capitals"))
    made = make_a_role(job, block, "Shout")
    held = block_named(made, block).holds
    assert isinstance(held, HoldsDisplay) and {each.role for each in held.paragraphs} == {"shout"}
    assert stated_of(block_named(made, block)) == {}
    own = next(role for role in made.roles if role.name == "shout")
    assert own.based_on == "headline" and own.ratio == 0.9 and own.case == "capitals"
    assert role_named(made, "headline") == role_named(job, "headline")
    assert [m.baseline for m in _lines(made, block)] == [m.baseline for m in _lines(job, block)]


def test_there_has_to_be_something_to_make_a_role_of() -> None:
    job, block = _job()
    for edit in (lambda: make_the_role(job, block), lambda: make_a_role(job, block, "Shout")):
        with pytest.raises(Problem, match="nothing here that its role does not say"):
            edit()
    job = _set(job, block, ("case", "capitals"))
    with pytest.raises(Problem, match="There is a role"):
        make_a_role(job, block, "Headline")


def test_an_unstated_ink_of_what_is_stated_names_no_ink() -> None:
    """A role without a name says only what it names; its other fields hang on nothing."""
    job, block = _job()
    job = _set(job, block, ("case", "capitals"))
    job = replace(job, inks=tuple(replace(each, name="soot") if each.name == "black" else each for each in job.inks))
    from half_fold.core.publication.references import references

    where = [each for each in references(job) if each.name == "black" and "page" in each.where]
    assert not where


@pytest.mark.parametrize("how", ["", "even=yes", "lies=arched up", "inset=4mm", "stands=foot"])
def test_a_block_is_made_as_deep_as_its_words_and_no_deeper(how: str) -> None:
    job, block = _job("Pears", "keep")
    if "lies" in how:
        job = _set(job, block, ("size", "12pt"))  # which the arc has room for
    if how:
        job = _set(job, block, tuple(how.split("=")))  # type: ignore[arg-type]  # a pair
    composer = Setter().composer
    made = fit_to_words(job, composer, [block])
    found, number = block_named(made, block), 2
    box = block_box(made, number, found)
    assert (box.left, box.top, box.right) == pytest.approx(block_box(job, number, block_named(job, block))[:3])
    assert not display_marks(composer, made, found, box).over_lines
    shallower = box._replace(bottom=box.bottom - 24)
    setting = display_marks(composer, made, found, shallower)
    less = ink_of(list(setting.marks)).bottom > shallower.bottom or setting.over_lines
    assert less or "even" in how, "it could not be less deep"  # evened lines draw in to what there is
    assert fit_to_words(made, composer, [block]) == made


def test_what_has_no_words_by_itself_has_no_depth_to_fit() -> None:
    job, block = _job()
    for typed, said in ((("lies", "letter under letter"), "fill the block"), (("ground", "yes"), "")):
        changed = _set(job, block, typed)
        if said:
            with pytest.raises(Problem, match=said):
                fit_to_words(changed, Setter().composer, [block])
    with pytest.raises(Problem, match="choose some"):
        fit_to_words(job, Setter().composer, [])


def test_words_stand_in_the_middle_of_a_ground_that_is_no_rectangle() -> None:
    job, block = _job()
    round_one = _set(job, block, ("ground", "yes"), ("ground.shape", "circle"))
    holds = block_named(round_one, block).holds
    assert isinstance(holds, HoldsDisplay) and (holds.side, holds.stands) == ("centre", "middle")
    own = _set(job, block, ("side", "right"), ("stands", "foot"), ("ground", "yes"), ("ground.shape", "circle"))
    holds = block_named(own, block).holds
    assert isinstance(holds, HoldsDisplay) and (holds.side, holds.stands) == ("right", "foot"), "what was said stays"
    square = _set(job, block, ("ground", "yes"), ("ground.shape", "rectangle"))
    holds = block_named(square, block).holds
    assert isinstance(holds, HoldsDisplay) and (holds.side, holds.stands) == ("", "head")


def test_small_capitals_of_a_face_without_them_are_smaller_capitals() -> None:
    """As they are in a run; in a role they were plain letters."""
    job, block = _job("so")
    (mark,) = _lines(_set(job, block, ("family", "Young Serif"), ("size", "20pt"), ("case", "small capitals")), block)
    assert mark.size == pytest.approx(16.0) and "".join(mark.texts) == "SO"


def test_an_older_job_is_brought_up_with_its_capitals_figures_and_outlines() -> None:
    body = {
        "roles": [
            {"name": "a", "label": "A", "own": ["capitals", "old_figures", "size"], "capitals": True},
            {"name": "b", "label": "B", "small_caps": True, "old_figures": True, "tabular": True},
            {"name": "c", "label": "C"},
        ],
        "looks": [{"name": "rim", "outline": "2pt", "outline_ink": "loden"}, {"name": "plain", "outline": None}],
    }
    now = json.loads(upgraded(json.dumps(body).encode(), 17, 18))
    a, b, c = now["roles"]
    assert (a["case"], a["figures"], a["own"]) == ("capitals", "", ["case", "figures", "size"])
    assert (b["case"], b["figures"]) == ("small capitals", "tabular old style") and "case" not in c
    assert now["looks"] == [{"name": "rim", "contours": [{"weight": "2pt", "ink": "loden"}]}, {"name": "plain"}]
