"""Masters: based on one another, their furniture, what pages leave out, and pages without any."""

import pytest
from msgspec.structs import replace

from half_fold.core.checks.run import check
from half_fold.core.drawing.marks import Glyphs, Line, Shape
from half_fold.core.grid.edits import set_grid, use_grid
from half_fold.core.grid.solver import solve
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_path
from half_fold.core.plan.sections import start_section
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Furniture, Publication
from half_fold.core.publication.surgery import by_id, by_name, master_named, master_of
from half_fold.core.spread.edits.masters import (
    add_furniture,
    add_master,
    base_on,
    hide_furniture,
    remove_furniture,
    remove_master,
    rename_master,
    set_furniture,
    take_grid,
)
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.spread.settable.furniture_properties import furniture_properties
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.furniture import PlacedPiece, fill_furniture, moved_to
from half_fold.core.spread.where.frames import frame_for, page_frame_of
from half_fold.core.store.codec import decode, encode
from half_fold.core.typesetting.sheet.sheet import set_role
from half_fold.core.typesetting.texts.markdown_in import read_plain

JOB = start("magazine", "Graft")
NAME = JOB.masters[0].name
SETTER = Setter()


def _pieces(job: Publication, name: str, number: int) -> list[PlacedPiece]:
    master = master_named(job, name)
    frame = frame_for(job, master, number % 2 == 1)
    return SETTER.furniture.pieces(job, master, frame, number)


def _words(job: Publication, name: str, number: int) -> list[str]:
    return [
        "".join(text for mark in placed.marks if isinstance(mark, Glyphs) for text in mark.texts)
        for placed in _pieces(job, name, number)
    ]


def test_one_based_on_another_carries_its_furniture_and_may_stand_on_its_grid() -> None:
    job = add_master(JOB, "opening", NAME)
    assert master_named(job, "opening").grid is master_named(job, NAME).grid
    wider = replace(JOB.masters[0].grid, inside=length("20mm"))
    job = replace(job, masters=(replace(job.masters[0], grid=wider), job.masters[1]))
    assert master_named(job, "opening").grid.inside.typed == "20mm"
    own = take_grid(job, "opening", False)
    assert master_named(own, "opening").grid.inside.typed == "13mm"
    assert [p.id for p in master_named(job, "opening").furniture] == [p.id for p in JOB.masters[0].furniture]
    job = set_furniture(job, "opening", "f1", "side", "centre")
    assert job.masters[0].furniture[0].side == "outside"
    assert {p.id: p.side for p in master_named(job, "opening").furniture}["f1"] == "centre"
    with pytest.raises(Problem, match="comes from"):
        remove_furniture(job, "opening", "f2")


def test_a_value_of_a_grid_that_was_taken_makes_it_its_own() -> None:
    job = set_grid(add_master(JOB, "opening", NAME), "opening", "columns", "4")
    assert master_named(job, "opening").grid.columns == 4 and master_named(job, NAME).grid.columns == 6
    assert master_named(job, "opening").grid.inside == JOB.masters[0].grid.inside


def test_basing_never_goes_round_in_a_circle() -> None:
    job = add_master(add_master(JOB, "a", NAME), "b", "a")
    with pytest.raises(Problem, match="itself based on"):
        base_on(job, NAME, "b")
    assert master_named(base_on(job, "a", ""), "a").furniture == ()


def test_removing_and_renaming() -> None:
    job = add_master(JOB, " two  words ")
    assert job.masters[1].name == "two words" and job.masters[1].furniture == ()
    with pytest.raises(Problem, match="already"):
        add_master(job, "two words")
    with pytest.raises(Problem, match="is the master of 96 pages"):
        remove_master(job, NAME)
    assert len(remove_master(job, "two words").masters) == 1
    renamed = rename_master(job, NAME, "main")
    assert {page.master for page in renamed.pages} == {"main"}
    with pytest.raises(Problem):
        rename_master(job, NAME, "  ")


def test_pieces_of_a_row_follow_one_another_from_the_outside() -> None:
    (folio, foot) = _pieces(JOB, NAME, 4)
    frame = frame_for(JOB, JOB.masters[0], False)
    assert folio.box.left == pytest.approx(frame.area.left) and foot.box.left > folio.box.right
    (folio, foot) = _pieces(replace(JOB, season="Winter"), NAME, 5)
    assert folio.box.right == pytest.approx(frame_for(JOB, JOB.masters[0], True).area.right)
    assert foot.box.right < folio.box.left
    assert all(placed.box.top > frame.area.bottom for placed in (folio, foot))


def test_heads_pick_up_section_story_issue_and_date() -> None:
    job = start_section(replace(JOB, issue="No. 3", date="1 March"), 3, "Orchard")
    job, _ = place_story(job, SETTER, "The long ladders", tuple(read_plain("Some words. " * 40).paragraphs))
    page = next(i for i, p in enumerate(job.pages, 1) if p.blocks)
    job = start_section(job, page, "Orchard")
    words = fill_furniture(job, "{section}, {story}, {title} {issue}, {date}, {folio}", page)
    assert words == f"Orchard, The long ladders, Graft No. 3, 1 March, {page}"
    assert fill_furniture(job, "{story}", len(job.pages)) == ""


def test_a_rule_and_a_centred_head() -> None:
    job, rule = add_furniture(JOB, NAME, Furniture(id="", kind="rule", at="head", lines=1.0, over="page"))
    job, head = add_furniture(job, NAME, Furniture(id="", words="Head", at="head", side="centre", lines=2.0))
    placed = {each.piece.id: each for each in _pieces(job, NAME, 5)}
    frame = frame_for(job, job.masters[0], True)
    (line,) = placed[rule].marks
    assert isinstance(line, Line) and line.start[0] == 0 and line.end[0] == frame.trim.right + frame.bleed
    assert line.start[1] == pytest.approx(frame.area.top - frame.baselines.step)
    assert sum(placed[head].box[::2]) / 2 == pytest.approx(frame.area.centre[0])
    outside = set_furniture(job, NAME, rule, "over", "outside")
    (line,) = {each.piece.id: each for each in _pieces(outside, NAME, 4)}[rule].marks
    assert isinstance(line, Line)
    left = frame_for(job, job.masters[0], False)
    assert (line.start[0], line.end[0]) == (left.trim.left - left.bleed, left.area.right)


def test_a_frame_stands_midway_between_trim_and_text_on_frame_true_margins() -> None:
    candidate = next(c for c in solve(JOB, JOB.masters[0]) if c.name == "frame-true")
    job = use_grid(JOB, NAME, candidate.grid)
    away = (candidate.grid.outside.pt - 0.5) / 2
    frame_piece = Furniture(id="", kind="frame", width=length(f"{away:.4f}pt"))
    job, made = add_furniture(job, NAME, frame_piece)
    placed = {each.piece.id: each for each in _pieces(job, NAME, 5)}[made]
    frame = frame_for(job, job.masters[0], True)
    assert frame.trim.right - placed.box.right == pytest.approx(away, abs=0.001)
    assert placed.box.right - 0.5 - frame.area.right == pytest.approx(away, abs=0.02)
    (shape,) = placed.marks
    assert isinstance(shape, Shape) and shape.weight == 0.5 and shape.fill is None
    with pytest.raises(Problem, match="run through the text"):
        set_furniture(job, NAME, made, "width", "25mm")


@pytest.mark.parametrize(
    ("field", "value", "said"),
    [
        ("lines", "0.1", "stand in the text"),
        ("lines", "many", "no number for “from the text”"),
        ("side", "above", "no side"),
        ("role", "nobody", "no role"),
        ("weight", "-1pt", "Weight of −1 pt cannot be"),
        ("colour", "red", "nothing called “colour”"),
    ],
)
def test_what_furniture_cannot_be_is_said(field: str, value: str, said: str) -> None:
    job, rule = add_furniture(JOB, NAME, Furniture(id="", kind="rule", at="head", lines=1.0))
    with pytest.raises(Problem, match=said):
        set_furniture(job, NAME, rule if field == "weight" else "f1", field, value)


def test_a_face_without_figures_is_refused_for_folios_at_once(monkeypatch: pytest.MonkeyPatch) -> None:
    from half_fold.core.typesetting.faces.faces import Face

    monkeypatch.setattr(Face, "lacks", lambda self, text: "789" if "Young" in self.key else "")
    with pytest.raises(Problem, match="no figures 789"):
        set_furniture(set_role(JOB, "headline", "family", "Young Serif"), NAME, "f1", "role", "headline")
    with pytest.raises(Problem, match="no figures"):
        set_role(JOB, "folio", "family", "Young Serif")
    assert set_role(JOB, "headline", "family", "Young Serif")


def test_a_page_leaves_out_what_it_hides() -> None:
    job = hide_furniture(JOB, 5, "f1", True)
    assert "5" not in _words(job, NAME, 5) and "5" in _words(JOB, NAME, 5)
    assert "7" in _words(job, NAME, 7)
    assert hide_furniture(job, 5, "f1", False).pages[4].without == ()


def test_a_page_may_have_no_master() -> None:
    job = replace(JOB, pages=(*JOB.pages[:4], replace(JOB.pages[4], master=""), *JOB.pages[5:]))
    master = master_of(job, job.pages[4])
    frame = frame_for(job, master, True)
    assert master.furniture == () and frame.trim.width - frame.area.width < 20
    assert decode(encode(job), "x").pages[4].master == ""


def test_the_same_record_each_time() -> None:
    assert master_of(JOB, JOB.pages[2]) is master_of(JOB, JOB.pages[2])
    based = add_master(JOB, "b", NAME)
    assert master_named(based, "b") is master_named(based, "b")


def test_a_head_in_its_margin_is_no_finding_and_one_without_room_is() -> None:
    job, _ = place_story(JOB, SETTER, "Words", tuple(read_plain("Some words. " * 40).paragraphs))
    job, _ = add_furniture(job, NAME, Furniture(id="", words="{story}", at="head", lines=2.0))
    assert not [f for f in check(job, Setter(), None) if f.rule == "furniture"]
    tight = set_grid(job, NAME, "head", "4mm")
    (found,) = [f for f in check(tight, Setter(), None) if f.rule == "furniture"]
    assert "head margin of 4 mm" in found.why


@pytest.mark.parametrize("number", [4, 5])
def test_a_piece_moves_to_the_half_line_and_the_third_it_is_dragged_to(number: int) -> None:
    """By hand: 2.3 lines under the area is the line at 2.5; above it 0.9 is 1; inside it none. Thirds from the fold."""
    job = start("magazine", "Drag")
    frame, piece = page_frame_of(job, number), Furniture(id="f", kind="words", words="x", role="folio")
    area, step = frame.area, frame.baselines.step
    near_fold, far = (area.left + 1, area.right - 1) if frame.on_right else (area.right - 1, area.left + 1)
    told = [
        (moved.at, moved.lines, moved.side)
        for moved in (
            moved_to(piece, frame, near_fold, area.bottom + 2.3 * step),
            moved_to(piece, frame, area.centre[0], area.top - 0.9 * step),
            moved_to(piece, frame, far, area.bottom - 5.0 * step),
        )
    ]
    assert told == [("foot", 2.5, "inside"), ("head", 1.0, "centre"), ("foot", 0.0, "outside")]


def test_furniture_goes_back_to_black_alone_and_every_choice_of_it_can_be_typed() -> None:
    job, rule = add_furniture(JOB, NAME, Furniture(id="", kind="rule", at="head", lines=1.0))
    ink = job.inks[-1].name
    assert by_id(set_furniture(job, NAME, rule, "ink", ink).masters[0].furniture, rule).ink == ink
    for typed in ("", "none", "black alone"):
        inked = set_furniture(job, NAME, rule, "ink", ink)
        assert by_id(set_furniture(inked, NAME, rule, "ink", typed).masters[0].furniture, rule).ink == ""
    piece = by_id(job.masters[0].furniture, rule)
    for each in furniture_properties(piece):
        assert each.shown(job, piece), each.key
        for value, words in each.choices_in(job, piece):
            assert each.read(each.set(job, piece, words)) == each.read(each.set(job, piece, value)) == value, each.key


def test_a_masters_name_and_base_are_set_by_path() -> None:
    job = set_path(add_master(JOB, "opener"), "master.opener.based_on", "three columns")
    assert by_name(job.masters, "opener", "master").based_on == "three columns"
    job = set_path(job, "master.opener.takes_grid", "no")
    assert not by_name(job.masters, "opener", "master").takes_grid
    job = set_path(job, "master.three columns.name", "text page")
    assert by_name(job.masters, "opener", "master").based_on == "text page" and job.pages[0].master == "text page"
    base = found(job, "master.text page.based_on")[0]
    assert "opener" not in dict(base.choices)  # which is based on it
    with pytest.raises(Problem):
        set_path(job, "master.text page.based_on", "opener")
    with pytest.raises(Problem, match="already"):
        set_path(job, "master.opener.name", "text page")
