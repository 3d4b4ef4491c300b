"""Numbers under their keys, and the working of what is selected."""

import pytest
from msgspec.structs import replace

from half_fold.core.measure.entry import MM
from half_fold.core.numbers.all import all_numbers
from half_fold.core.numbers.blocks import block_numbers, story_numbers
from half_fold.core.numbers.grid import grid_numbers
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    HoldsPicture,
    HoldsStory,
    Paragraph,
    Picture,
    Publication,
    Run,
)
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.setting.compose import Setter

KEYS = {
    "trim.width",
    "trim.height",
    "bleed",
    "safe",
    "fold.loss",
    "extent.pages",
    "extent.leaves",
    "paper.text.caliper",
    "paper.cover.caliper",
    "bulk.text",
    "copy.thickness",
    "spine.width",
    "spine.tolerance",
    "spine.text.clear",
    "wrap.width",
    "wrap.height",
    "weight.copy",
    "carton.copies",
    "grid.inside",
    "grid.outside",
    "grid.head",
    "grid.foot",
    "grid.columns",
    "grid.gutter",
    "grid.column.width",
    "grid.rows",
    "grid.row_gap",
    "grid.leading",
    "grid.lines",
    "grid.field.lines",
    "grid.text.height",
    "type.columns",
    "type.body.measure",
    "type.body.characters_per_line",
}


@pytest.mark.parametrize("kind", ["magazine", "book", "photo-book"])
def test_keys_are_stable_and_single(kind: str) -> None:
    keys = [number.key for number in all_numbers(start(kind, "K"))]
    assert set(keys) == KEYS and len(keys) == len(set(keys))


def test_every_number_has_a_name_a_unit_that_reads_and_a_working(magazine: Publication) -> None:
    for number in all_numbers(magazine):
        assert number.name and number.text and number.how, number.key


def test_margins_columns_and_text_make_the_page(magazine: Publication) -> None:
    n = {number.key: number.value for number in all_numbers(set_values(magazine, ["trim=210x297mm"]))}
    columns = n["grid.columns"]
    across = n["grid.inside"] + n["grid.outside"] + columns * n["grid.column.width"] + (columns - 1) * n["grid.gutter"]
    assert across == pytest.approx(210)
    assert n["grid.head"] + n["grid.text.height"] + n["grid.foot"] == pytest.approx(297)


def test_the_fold_loss_is_added_to_the_inside_and_follows_the_binding(magazine: Publication) -> None:
    def inside(job: Publication) -> float:
        return next(n.value for n in grid_numbers(job, job.masters[0]) if n.key == "grid.inside")

    assert inside(magazine) == pytest.approx(18)
    assert inside(set_values(magazine, ["binding=saddle"])) == pytest.approx(13)
    assert inside(set_values(magazine, ["fold-loss=7mm"])) == pytest.approx(20)


def test_fields_that_do_not_end_on_a_baseline_are_said(magazine: Publication) -> None:
    def note(job: Publication) -> str:
        return next(n.note for n in grid_numbers(job, job.masters[0]) if n.key == "grid.field.lines")

    assert note(magazine) == ""
    assert "baseline" in note(set_values(magazine, ["trim.height=280mm"]))


def _pictured(job: Publication, width: int, height: int, right: Stop | None = None) -> Publication:
    job = replace(job, pictures=(Picture(id="p", file="p.jpg", width=width, height=height, digest="d"),))
    block = Block(
        id="b",
        place=Held(
            left=Stop(kind="bleed"), top=Stop(kind="bleed"), right=right or Stop(kind="fold"), bottom=Stop(kind="bleed")
        ),
        holds=HoldsPicture(picture="p"),
    )
    return with_page(job, replace(job.pages[5], things=(block,)))


@pytest.mark.parametrize(("pixels", "note"), [(4000, ""), (2000, "soft"), (1000, "refuse")])
def test_resolution_is_judged(magazine: Publication, pixels: int, note: str) -> None:
    """223 mm is 8.78 in and 291 mm 11.46 in; a square picture fills the height."""
    numbers = {n.name: n for n in block_numbers(_pictured(magazine, pixels, pixels), "b")}
    assert numbers["Resolution"].value == pytest.approx(pixels / (291 / 25.4))
    assert note in numbers["Resolution"].note and bool(note) == bool(numbers["Resolution"].note)
    assert numbers["Cropped away"].value == pytest.approx(100 * (1 - 223 / 291), abs=0.01)


def test_distance_from_the_fold_in_words(magazine: Publication) -> None:
    def fold(right: Stop) -> tuple[float, str]:
        number = next(n for n in block_numbers(_pictured(magazine, 900, 900, right), "b") if n.name == "From the fold")
        return round(number.value, 2), number.how

    assert fold(Stop(kind="fold")) == (0.0, "reaches 5 mm into the 5 mm lost in the fold")
    assert fold(Stop(kind="field", index=5, count=6)) == (18.0, "13 mm clear of the 5 mm lost in the fold")
    assert fold(Stop(kind="bleed", facing=True))[1].startswith("crosses it")


def test_width_and_height_name_their_stops(magazine: Publication) -> None:
    numbers = {n.name: n for n in block_numbers(_pictured(magazine, 900, 900), "b")}
    assert (numbers["Width"].how, numbers["Height"].how) == ("bleed to fold", "bleed to bleed")
    assert numbers["Width"].value == pytest.approx(223) and numbers["Height"].value == pytest.approx(291)


def test_a_story_says_what_is_over_and_what_is_free(magazine: Publication) -> None:
    job, story = add_story(
        magazine, "S", tuple(Paragraph(role="body", runs=(Run(text="word " * 200),)) for _ in range(4))
    )
    setter = Setter()
    numbers = {n.name: n for n in story_numbers(job, setter.threads, story)}
    assert numbers["Words"].value == 800 and numbers["Blocks"].how == "not on a page yet" and numbers["Over"].value > 0
    block = Block(
        id="b",
        place=Held(
            left=Stop(kind="margin"), top=Stop(kind="margin"), right=Stop(kind="margin"), bottom=Stop(kind="margin")
        ),
        holds=HoldsStory(story=story, columns=3),
    )
    job = with_page(job, replace(job.pages[5], things=(block,)))
    numbers = {n.name: n for n in story_numbers(job, setter.threads, story)}
    assert "Over" not in numbers and numbers["Room left"].value > 0
    assert sum(c.rect.width for c in setter.threads.flow(job, story).columns) / MM == pytest.approx(188 - 2 * 4.2)
