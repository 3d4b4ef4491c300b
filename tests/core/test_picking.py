"""An ink picked from what is seen: named where the list has it, printable where it has not."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.core.brief.allowances import ink_limit
from half_fold.core.inks.edits import add_ink
from half_fold.core.inks.palette import plain_name
from half_fold.core.legibility.picking import Picked, in_words, pick, use_picked
from half_fold.core.legibility.reading import Surface
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.colour.colour import lab_of_inks, profile_for
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.surgery import block_named, page_of_block, with_page
from half_fold.core.spread.where.frames import block_box
from tests.blocks import block_over


def _job() -> Publication:
    """A magazine with a panel in ``moss`` on its first page, a tint of it, a spot, and words."""
    job = add_ink(add_ink(start("magazine", "Plums"), "moss", "60 20 80 10"), "gold", "spot 10 30 80 0")
    words = HoldsDisplay(paragraphs=(Paragraph(role="headline", runs=(Run(text="Plums"),)),))
    things = (
        block_over("whole", HoldsPanel(ink="moss"), (0, 1), (0, 1)),
        block_over("tint", HoldsPanel(ink="moss", tint=40), (2, 3), (0, 1)),
        block_over("spot", HoldsPanel(ink="gold"), (4, 5), (0, 1)),
        block_over("words", words, (0, 5), (5, 6)),
    )
    return with_page(job, replace(job.pages[0], things=things))


def _picked(job: Publication, block: str, folder: Path, radius: float = 2.0) -> Picked:
    index, _, found = page_of_block(job, block)
    return pick(Surface(job, folder, spread_of(job, index + 1)), block_box(job, index + 1, found).centre, radius)


@pytest.mark.parametrize(
    ("block", "name", "tint"), [("whole", "moss", 100.0), ("tint", "moss", 40.0), ("spot", "gold", 100.0)]
)
def test_what_the_list_has_is_called_by_its_name(tmp_path: Path, block: str, name: str, tint: float) -> None:
    found = _picked(_job(), block, tmp_path)
    assert (found.name, found.tint) == (name, pytest.approx(tint, abs=0.5))
    assert in_words(found).startswith(name)
    used = use_picked(_job(), found, ["words"])
    holds = block_named(used, "words").holds
    assert isinstance(holds, HoldsDisplay) and holds.ink == name and used.inks == _job().inks


def test_a_mixture_is_a_new_ink_in_shares_that_the_paper_takes(tmp_path: Path) -> None:
    job = _job()
    job = set_paths(job, ["block.tint.ink=black", "block.tint.opacity=50", "ink.moss=80 70 80 60"])
    found = _picked(replace(job, pages=job.pages), "whole", tmp_path)
    total = found.ink.cyan + found.ink.magenta + found.ink.yellow + found.ink.black
    assert total <= ink_limit(job)[0] + 2
    mixed = _picked(job, "tint", tmp_path)
    assert mixed.name == "" or mixed.name == "black"
    used = use_picked(job, mixed, ["words"], anew=True)
    assert len(used.inks) == len(job.inks) + 1 and used.inks[-1].name not in {ink.name for ink in job.inks}


def test_the_mean_of_a_picture_is_what_its_circle_holds(tmp_path: Path) -> None:
    """A picture of one colour but for a dark stripe: a small circle beside it sees the one, a large one both."""
    pixels = np.full((400, 400, 3), (190, 120, 60), np.uint8)
    pixels[:, 230:] = (20, 30, 20)
    file = tmp_path / "half.png"
    Image.fromarray(pixels).save(file)
    pictures = tmp_path / "pictures"
    pictures.mkdir()
    job, picture = bring_picture(_job(), pictures, file)
    held = block_over("picture", HoldsPicture(picture=picture.id, scale="fit"), (0, 5), (2, 4))
    job = with_page(job, replace(job.pages[0], things=(*job.pages[0].things, held)))
    small, large = _picked(job, "picture", pictures, 1.0), _picked(job, "picture", pictures, 60.0)
    assert small.name == "" and not small.is_bare
    assert small.ink.yellow > small.ink.cyan
    assert large.ink.black + large.ink.cyan > small.ink.black + small.ink.cyan + 10
    used = use_picked(job, small, ["words", "whole"])
    assert {getattr(block_named(used, each).holds, "ink", "") for each in ("words", "whole")} == {small.ink.name}


def test_bare_paper_and_what_has_no_ink_are_said(tmp_path: Path) -> None:
    job = _job()
    bare = pick(Surface(job, tmp_path, spread_of(job, 1)), (20.0, 500.0), 2.0)
    assert bare.is_bare and in_words(bare) == "bare paper"
    with pytest.raises(Problem, match="bare paper"):
        use_picked(job, bare, ["words"])
    found = _picked(job, "whole", tmp_path)
    assert use_picked(job, found, []) is job
    empty = with_page(job, replace(job.pages[0], things=(*job.pages[0].things, block_over("none", HoldsNothing()))))
    with pytest.raises(Problem, match="no ink of its own"):
        use_picked(empty, found, ["none"])


@pytest.mark.parametrize(
    ("lab", "name"),
    [
        ((52, -3, 11), "olive grey"), ((60, 2, 30), "olive"), ((60, 6, 60), "ochre"), ((85, 0, 70), "yellow"),
        ((85, 2, 30), "straw"), ((50, 0, 0), "grey"), ((55, -4, -10), "blue grey"), ((20, 5, -30), "dark blue"),
        ((40, 30, 40), "brown"), ((45, 60, 30), "red"),
    ],
)  # fmt: skip
def test_a_colour_is_called_what_is_seen(lab: tuple[float, float, float], name: str) -> None:
    assert plain_name(lab) == name


@pytest.mark.parametrize(
    ("typed", "light", "yellower"),
    [("hue 90 strength 50 light 80", 80, True), ("hue 270, strength 30, light 40", 40, False)],
)
def test_an_ink_is_typed_by_what_is_seen(typed: str, light: float, yellower: bool) -> None:
    job = set_paths(start("magazine", "Plums"), [f"ink.sky={typed}"])
    ink = next(each for each in job.inks if each.name == "sky")
    profile = profile_for(job, job.brief.text_paper)
    lab = lab_of_inks((ink.cyan, ink.magenta, ink.yellow, ink.black), profile)
    assert lab[0] == pytest.approx(light, abs=4) and (lab[2] > 0) == yellower
    with pytest.raises(Problem, match="light is from 0"):
        set_paths(job, ["ink.sky=hue 90 strength 50 light 180"])
