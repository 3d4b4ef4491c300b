"""Covers settle by themselves: words keep calm, another spine says what it moved, a case has inks of its own."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.cli import main
from half_fold.core.apart.sides import panel_called, side_of, sides_of
from half_fold.core.cover.flat import cover_flat, cover_marks
from half_fold.core.cover.spine_moves import format_spine_moves
from half_fold.core.cover.surfaces import surface_with
from half_fold.core.drawing.marks import Shape
from half_fold.core.editing.door import apply_edit
from half_fold.core.inks.tones import ink
from half_fold.core.legibility.reading import read_surface
from half_fold.core.legibility.verdicts import GOOD
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.numbers.blocks import story_numbers
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPicture, HoldsStory, Publication
from half_fold.core.publication.surgery import block_named, with_things
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.display_text import display_marks
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.setting.threads import Threads
from half_fold.core.store.job import create_job
from half_fold.core.store.job import read as read_job
from tests.blocks import block_over

ALL_OVER = Held(**{edge: Stop(kind="bleed") for edge in ("left", "top", "right", "bottom")})


def _picture(job: Publication, folder: Path, name: str, loud: str) -> tuple[Publication, str]:
    """A dark picture, of loud stripes in its upper or lower half."""
    pixels = np.full((1700, 1300, 3), 40, np.uint8)
    chance = np.random.default_rng(3).integers(0, 2, (42, 65)) * 220 + 20
    half = np.kron(chance, np.ones((20, 20)))[:840, :1300, None].repeat(3, 2)
    at = 0 if loud == "upper" else 850
    pixels[at : at + 840] = half
    Image.fromarray(pixels).save(folder / f"{name}.png")
    made, picture = bring_picture(job, folder / "pictures", folder / f"{name}.png")
    return made, picture.id


def _job(folder: Path, calm: bool) -> tuple[Publication, str]:
    """A page with loud stripes above and calm below, words on the calm; and the other picture's name."""
    job = set_values(start("magazine", "Graftwood"), ["pages=8"])
    job, first = _picture(job, folder, "calm-below", "upper")
    job, other = _picture(job, folder, "calm-above", "lower")
    ground = Block(id="b1", place=ALL_OVER, holds=HoldsPicture(picture=first))
    words = replace(display_words("headline", "The winter of long ladders"), ink="paper", calm=calm)
    job = with_things(job, job.pages[1].id, lambda _: (ground, block_over("b2", words, (0, 5), (6, 7))))
    return replace(job, pages=(job.pages[0], replace(job.pages[1], furniture="off"), *job.pages[2:])), other


@pytest.mark.parametrize("calm", [True, False])
def test_words_that_keep_calm_move_when_another_picture_lies_under_them(tmp_path: Path, calm: bool) -> None:
    job, other = _job(tmp_path, calm)
    folder, setter = tmp_path / "pictures", Setter()

    def score(of: Publication) -> float:
        return read_surface(surface_with(of, folder, "b2", setter)).score("b2")

    assert score(job) >= GOOD
    assert (
        apply_edit(job, lambda p: set_paths(p, ["block.b1.treatment.blur=3"]), folder, setter).pages[1].blocks[1:]
        == job.pages[1].blocks[1:]
    )
    changed = set_paths(job, [f"block.b1.picture={other}"])
    assert score(changed) < GOOD
    settled = apply_edit(job, lambda _: changed, folder, setter)
    assert (settled is not changed) == calm
    if calm:
        assert score(settled) >= GOOD and settled.pages[1].blocks[0] == changed.pages[1].blocks[0]
        ground, words = changed.pages[1].blocks
        locked = with_things(changed, changed.pages[1].id, lambda _: (ground, replace(words, locked=True)))
        assert apply_edit(job, lambda _: locked, folder, setter) is locked


def test_the_command_line_keeps_calm_and_says_what_a_spine_moved(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    job, other = _job(tmp_path, True)
    file = create_job(tmp_path / "job", job, lambda made: None)
    for source in (tmp_path / "pictures").iterdir():
        (file.parent / "pictures").mkdir(exist_ok=True)
        (file.parent / "pictures" / source.name).write_bytes(source.read_bytes())
    before = block_named(read_job(file), "b2").place
    assert main(["set", str(file), f"block.b1.picture={other}"]) == 0
    assert block_named(read_job(file), "b2").place != before
    capsys.readouterr()
    assert main(["set", str(file), "brief.binding=perfect", "brief.spine=4mm"]) == 0
    assert main(["set", str(file), "brief.spine=9mm"]) == 0
    assert "The spine is 9 mm instead of 4" in capsys.readouterr().out


def test_another_spine_says_what_moved_and_that_nothing_lies_over_a_fold_that_did_not(demo: Path) -> None:
    job = set_paths(read_job(demo / "graftwood.halffold"), ["brief.spine=4mm"])
    thick = set_paths(job, ["brief.spine=14mm"])
    words = format_spine_moves(job, thick)
    assert words.startswith("The spine is 14 mm instead of 4")
    assert f"{len(job.cover.front)} things of the cover moved with it by 10 mm" in words
    assert words.endswith("nothing lies over a fold that did not.")
    back = set_paths(thick, ["brief.spine=4mm"])
    assert cover_marks(back).area == cover_marks(job).area
    assert format_spine_moves(job, back) == format_spine_moves(job, job) == ""
    assert format_spine_moves(job, set_paths(job, ["brief.title=Other"])) == ""


def test_a_case_has_inks_for_its_joints_and_for_what_is_turned_in(tmp_path: Path) -> None:
    job = set_values(start("photo-book", "Long Acre"), ["binding=case"])
    made = set_paths(job, ["cover.joint_ink=russet", "cover.turn_in_ink=dusk"])
    flat = cover_flat(made)
    shapes = [mark for mark in cover_marks(made).marks if isinstance(mark, Shape) and mark.origin.kind == "cover"]
    joints = [mark.rect for mark in shapes if mark.fill == ink(made, "russet")]
    turned = [mark.rect for mark in shapes if mark.fill == ink(made, "dusk")]
    assert flat.spine is not None and flat.what == "case"
    assert [joint.width / MM for joint in joints] == pytest.approx([8.0, 8.0])
    assert joints[0].right == pytest.approx(flat.spine.left) and joints[1].left == pytest.approx(flat.spine.right)
    whole, trim = flat.trim.grown(flat.bleed), flat.trim
    area = sum(rect.width * rect.height for rect in turned)
    assert area == pytest.approx(whole.width * whole.height - trim.width * trim.height)
    paperback = set_paths(set_values(made, ["binding=perfect"]), [])
    assert not [m for m in cover_marks(paperback).marks if isinstance(m, Shape) and m.fill == ink(made, "russet")]


def test_second_lines_are_set_in_a_ratio_to_the_first_and_in_another_manner_in_one_step() -> None:
    job = set_values(start("magazine", "Graftwood"), ["pages=8"])
    holds = display_words("strong line", "Eleven")
    more = display_words("strong line", "old knives").paragraphs
    block = block_over("b1", replace(holds, paragraphs=(*holds.paragraphs, *more)), (0, 0), (5, 3))
    job = with_things(job, job.pages[1].id, lambda _: (block,))
    job = set_paths(job, ["block.b1.second.role=cover line"])
    held = block_named(job, "b1").holds
    assert isinstance(held, HoldsDisplay) and [p.role for p in held.paragraphs] == ["strong line", "cover line"]
    job = set_paths(job, ["block.b1.size=40pt", "block.b1.second.size=50"])
    lines = display_marks(Setter().composer, job, block_named(job, "b1"), Rect(0, 0, 400, 400)).lines
    assert [line.size for line in lines] == pytest.approx([40, 20])
    even = set_paths(job, ["block.b1.even=yes", "block.b1.even.by=tracking"])
    lines = display_marks(Setter().composer, even, block_named(even, "b1"), Rect(0, 0, 400, 400)).lines
    assert [line.size for line in lines] == pytest.approx([40, 20])
    assert all(abs(ink_of(list(line.marks)).width - 400) < 0.1 for line in lines)


def test_a_story_on_the_cover_says_on_which_panel_it_lies(tmp_path: Path) -> None:
    job = set_values(start("book", "The Pruning Year"), ["flap=85mm"])
    called = [panel_called(side_of(job, side), number) for side in sides_of(job) for number in (2, 3)]
    assert called == [
        "back cover", "front cover", "inside front cover", "inside back cover", "back flap", "front flap",
    ]  # fmt: skip
    assert panel_called(job, 2) == ""
    from half_fold.core.store.demo import BOOK, make_demo

    book = read_job(make_demo(tmp_path, BOOK))
    story = next(t.holds.story for t in book.cover.back if isinstance(getattr(t, "holds", None), HoldsStory))
    told = story_numbers(side_of(book, "outside"), Threads(Setter().composer), story)
    assert "on the back cover" in told[1].how
    assert any("on page 11" in each.how for each in story_numbers(book, Threads(Setter().composer), book.stories[1].id))
